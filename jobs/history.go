package jobs

import (
	"context"
	"errors"

	"github.com/riverqueue/river/rivertype"

	"juxtagram/core/history"
	"juxtagram/core/repo"
	"juxtagram/store"
)

// queued are the states in which a job is still to be done.
var queued = []rivertype.JobState{rivertype.JobStateAvailable, rivertype.JobStatePending, rivertype.JobStateRunning, rivertype.JobStateScheduled, rivertype.JobStateRetryable}

type historyArgs struct {
	Repository int64 `json:"repository"`
}

func (historyArgs) Kind() string { return "history" }

// readHistory reads the commits that are not kept yet.
func (r *Runner) readHistory(ctx context.Context, id int64) error {
	release, err := r.guard(ctx, lockHistory, id)
	if err != nil {
		return err
	}
	defer release()
	out, err := r.carryOut(ctx, historyArgs{}.Kind(), id)
	if err != nil {
		return err
	}
	if out.Problem != "" {
		r.config.Logger.Error("reading history", "repository", id, "error", out.Problem)
	}
	return nil
}

func (r *Runner) makeHistory(ctx context.Context, id int64) outcome {
	return failed(r.safely(func() error { return r.keepHistory(ctx, id) }))
}

func (r *Runner) keepHistory(ctx context.Context, id int64) error {
	p, err := r.store.Repository(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	g := r.Git(id)
	refs, err := g.Refs(ctx)
	if err != nil {
		return err
	}
	known, err := r.store.HistoryPins(ctx, id)
	if err != nil {
		return err
	}
	var tips []string
	seen := map[string]bool{"": true}
	for _, k := range known {
		seen[k] = true
	}
	for _, tip := range append([]string{p.Pin}, commitsOf(refs)...) {
		if !seen[tip] {
			seen[tip] = true
			tips = append(tips, tip)
		}
	}
	if len(tips) == 0 {
		return nil
	}
	words, err := r.store.Words(ctx, id)
	if err != nil {
		return err
	}
	commits, err := history.ReadNew(ctx, g, tips, known, words, nil)
	if err != nil {
		return err
	}
	if err := r.store.MemoryOf(id).KeepHistory(ctx, tips, commits); err != nil {
		return err
	}
	return r.store.Publish(ctx, store.Event{Kind: "history", Repository: id})
}

func commitsOf(refs []repo.Ref) []string {
	out := make([]string, len(refs))
	for i := range refs {
		out[i] = refs[i].Commit
	}
	return out
}
