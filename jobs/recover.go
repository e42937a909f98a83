package jobs

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/store"
)

// recoverEvery is how often a runner looks for work that was left behind.
const recoverEvery = 5 * time.Second

// begins is how long a job may take until it holds its lock.
const begins = 2 * time.Second

// guards are the classes of the locks that jobs hold while they work.
var guards = map[string]int64{takeInArgs{}.Kind(): lockTakeIn, fetchArgs{}.Kind(): lockTakeIn, surveyArgs{}.Kind(): lockSurvey, historyArgs{}.Kind(): lockHistory}

// Recover mends what an ended process leaves. The queue itself gives a job back only
// after an hour; here one is given back as soon as nobody holds its lock. A record that
// says it is worked on while no job does, as half a request leaves it, gets a job, or
// fails with the reason why its job was given up.
func (r *Runner) Recover(ctx context.Context) error {
	if err := r.dropWaiting(ctx); err != nil {
		return err
	}
	if err := r.rescue(ctx); err != nil {
		return err
	}
	if err := r.recoverSurveys(ctx); err != nil {
		return err
	}
	if err := r.recoverTakeIns(ctx); err != nil {
		return err
	}
	fetching, err := r.store.IdleFetches(ctx, fetchArgs{}.Kind())
	if err != nil {
		return err
	}
	for _, x := range fetching {
		if _, err := r.client.Insert(ctx, fetchArgs{x.ID}, once); err != nil {
			return err
		}
	}
	if err := r.recoverMirrors(ctx); err != nil {
		return err
	}
	removing, err := r.store.RepositoriesIn(ctx, store.Removing)
	if err != nil {
		return err
	}
	for _, p := range removing {
		if err := r.finishRemoval(ctx, p.ID); err != nil {
			return err
		}
	}
	return r.dropUploads(ctx)
}

// rescue gives back the jobs of processes that have ended.
func (r *Runner) rescue(ctx context.Context) error {
	var kinds []string
	for k := range guards {
		kinds = append(kinds, k)
	}
	running, err := r.store.RunningJobs(ctx, kinds, time.Now().Add(-begins))
	if err != nil {
		return err
	}
	for i := range running {
		if j := &running[i]; r.free(ctx, guards[j.Kind], j.Subject) {
			if err := r.store.RescueJob(ctx, j); err != nil {
				return err
			}
		}
	}
	return nil
}

func (r *Runner) recoverSurveys(ctx context.Context) error {
	surveys, err := r.store.IdleSurveys(ctx)
	if err != nil {
		return err
	}
	for _, x := range surveys {
		if !r.free(ctx, lockSurvey, x.ID) {
			continue
		}
		if x.Failed != "" {
			err = r.failSurvey(ctx, x)
		} else {
			err = r.store.InTx(ctx, func(tx pgx.Tx) error { return r.surveyBy(ctx, tx, x.ID) })
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (r *Runner) failSurvey(ctx context.Context, x store.Idle) error {
	moved, err := r.store.MoveSurvey(ctx, x.ID, []string{store.Waiting, store.Running}, map[string]any{"state": store.Failed, "problem": givenUp(x.Failed), "ended_at": time.Now()})
	if err != nil || !moved {
		return err
	}
	v, err := r.store.Survey(ctx, x.ID)
	if err != nil {
		return err
	}
	return r.publishSurvey(ctx, v)
}

func (r *Runner) recoverTakeIns(ctx context.Context) error {
	taking, err := r.store.IdleTakeIns(ctx)
	if err != nil {
		return err
	}
	for _, x := range taking {
		switch {
		case !r.free(ctx, lockTakeIn, x.ID):
			continue
		case x.Failed != "":
			err = r.store.UpdateRepository(ctx, x.ID, map[string]any{"state": store.TakeFailed, "doing": "", "problem": givenUp(x.Failed)})
			if err == nil {
				err = r.store.Publish(ctx, store.Event{Kind: "repository", Repository: x.ID, State: store.TakeFailed})
			}
		default:
			err = r.TakeInAgain(ctx, x.ID)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// givenUp says why a job was given up.
func givenUp(why string) string {
	if why == store.ProcessEnded {
		return "it was tried three times, and each time the process that worked on it ended"
	}
	if strings.HasPrefix(why, processEnded) {
		return "it was tried three times: " + why
	}
	return "it was tried three times, and went wrong each time; the server's log says why"
}

func (r *Runner) free(ctx context.Context, class, id int64) bool {
	release, ok, err := r.store.Lock(ctx, class, id)
	if err == nil && ok {
		release()
	}
	return err == nil && ok
}

// noMirror is what a repository says whose copy is missing on the disk.
const noMirror = "the copy of this repository on the server is missing; take it in again"

// HasMirror tells whether the copy of a repository is there.
func (r *Runner) HasMirror(repository int64) bool {
	_, err := os.Lstat(filepath.Join(r.Mirror(repository), "HEAD"))
	return err == nil
}

// recoverMirrors finds repositories whose copy is missing. One with an address is taken
// in from there; any other says so, and waits for a keeper.
func (r *Runner) recoverMirrors(ctx context.Context) error {
	list, err := r.store.RepositoriesIn(ctx, store.Pinned, store.NeedsPin)
	if err != nil {
		return err
	}
	for i := range list {
		p := &list[i]
		if r.HasMirror(p.ID) || !r.free(ctx, lockTakeIn, p.ID) {
			continue
		}
		r.config.Logger.Warn("the mirror of a repository is missing", "repository", p.ID)
		state := store.TakeFailed
		if p.SourceKind == "address" {
			state, err = store.TakingIn, r.TakeInAgain(ctx, p.ID)
		} else {
			err = r.store.UpdateRepository(ctx, p.ID, map[string]any{"state": state, "problem": noMirror, "fetching": false})
		}
		if err == nil {
			err = r.store.Publish(ctx, store.Event{Kind: "repository", Repository: p.ID, State: state})
		}
		if err != nil {
			return err
		}
	}
	return nil
}
