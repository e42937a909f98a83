package jobs

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/riverqueue/river"

	"juxtagram/core/intake"
	"juxtagram/store"
)

type fetchArgs struct {
	Repository int64 `json:"repository"`
}

func (fetchArgs) Kind() string { return "fetch" }

// ErrNowhere tells that a repository was taken in from a file: there is nowhere
// to fetch from.
var ErrNowhere = errors.New("it was taken in from a file: there is nowhere to fetch new commits from")

// QueueFetch queues the fetching of new commits; one at a time is queued for a
// repository. The pin stays where it is.
func (r *Runner) QueueFetch(ctx context.Context, p *store.Repository) error {
	if p.SourceKind == "file" {
		return ErrNowhere
	}
	if err := r.store.UpdateRepository(ctx, p.ID, map[string]any{"fetching": true, "fetch_problem": ""}); err != nil {
		return err
	}
	_, err := r.client.Insert(ctx, fetchArgs{p.ID}, &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByArgs: true, ByState: queued}})
	return errors.Join(err, r.store.Publish(ctx, store.Event{Kind: "repository", Repository: p.ID, State: p.State}))
}

// fetch brings a mirror up to date, and reads the history of what is new.
func (r *Runner) fetch(ctx context.Context, id int64) error {
	release, ok, err := r.store.Lock(ctx, lockTakeIn, id)
	if err != nil || !ok {
		return err
	}
	defer release()
	p, err := r.store.Repository(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil || p.State != store.Pinned && p.State != store.NeedsPin {
		return err
	}
	news, err := r.fetchInto(ctx, p)
	if ctx.Err() != nil {
		return ctx.Err() // stopped: taken up again at the next start
	}
	set := map[string]any{"fetching": false, "fetched_at": time.Now(), "fetch_problem": ""}
	if err != nil {
		set["fetch_problem"] = words(err)
		if !intake.IsRefused(err) {
			r.config.Logger.Error("fetching", "repository", id, "error", err)
		}
	} else {
		raw, err := json.Marshal(news)
		if err != nil {
			return err
		}
		set["news"] = json.RawMessage(raw)
	}
	if err := r.store.UpdateRepository(ctx, id, set); err != nil {
		return err
	}
	if len(news) > 0 {
		if err := r.store.TurnHistory(ctx, id); err != nil {
			return err
		}
	}
	if err := r.store.Publish(ctx, store.Event{Kind: "repository", Repository: id, State: p.State}); err != nil {
		return err
	}
	if p.Pin == "" {
		return nil
	}
	return errors.Join(r.readHistory(ctx, id), r.store.Publish(ctx, store.Event{Kind: "history", Repository: id}))
}

func (r *Runner) fetchInto(ctx context.Context, p *store.Repository) ([]intake.News, error) {
	o, err := r.options(p, func(string) {})
	if err != nil {
		return nil, err
	}
	return intake.Again(ctx, r.Mirror(p.ID), p.Source, o)
}
