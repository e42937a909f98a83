package jobs

import (
	"context"
	"encoding/json"
	"errors"

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

// fetch brings a mirror up to date as long as that is asked for, and reads the
// history of what is new.
func (r *Runner) fetch(ctx context.Context, id int64) error {
	release, err := r.guard(ctx, lockTakeIn, id)
	if err != nil {
		return err
	}
	defer release()
	for again := true; again; {
		if again, err = r.fetchOnce(ctx, id); err != nil {
			return err
		}
	}
	return nil
}

func (r *Runner) fetchOnce(ctx context.Context, id int64) (again bool, err error) {
	p, err := r.store.Repository(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	if err != nil || p.State != store.Pinned && p.State != store.NeedsPin {
		return false, err
	}
	began, err := r.store.Now(ctx)
	if err != nil {
		return false, err
	}
	out, err := r.carryOut(ctx, fetchArgs{}.Kind(), id)
	if err != nil {
		return false, err // stopped, or an end that nobody expected: taken up again
	}
	var raw json.RawMessage
	if out.Problem == "" {
		if raw, err = json.Marshal(out.News); err != nil {
			return false, err
		}
	}
	if err := r.store.UpdateRepository(ctx, id, map[string]any{"bytes": folderBytes(r.Mirror(id))}); err != nil {
		return false, err
	}
	if len(out.News) > 0 {
		if err := r.store.TurnHistory(ctx, id); err != nil {
			return false, err
		}
		if p.Pin != "" {
			if err := r.readHistory(ctx, id); err != nil {
				return false, err
			}
		}
	}
	if again, err = r.store.EndFetch(ctx, id, began, out.Problem, raw); err != nil {
		return false, err
	}
	return again, errors.Join(r.store.Publish(ctx, store.Event{Kind: "history", Repository: id}), r.store.Publish(ctx, store.Event{Kind: "repository", Repository: id, State: p.State}))
}

// updateMirror fetches what is new.
func (r *Runner) updateMirror(ctx context.Context, id int64) outcome {
	p, err := r.store.Repository(ctx, id)
	if err != nil {
		return outcome{Failed: err.Error()}
	}
	if err := r.Room(); err != nil {
		return failed(err)
	}
	o, err := r.options(ctx, p, func(string) {})
	if err != nil {
		return failed(err)
	}
	news := []intake.News{}
	err = r.safely(func() (err error) {
		news, err = intake.Again(ctx, r.Mirror(id), p.Source, o)
		return err
	})
	if err != nil && ctx.Err() == nil && !intake.IsRefused(err) {
		r.config.Logger.Error("fetching", "repository", id, "error", err)
	}
	out := failed(err)
	out.News = news
	return out
}
