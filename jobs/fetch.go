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
	news, err := r.fetchInto(ctx, p)
	if ctx.Err() != nil {
		return false, ctx.Err() // stopped: taken up again at the next start
	}
	problem := ""
	var raw json.RawMessage
	if err != nil {
		if problem = words(err); !intake.IsRefused(err) {
			r.config.Logger.Error("fetching", "repository", id, "error", err)
		}
	} else if raw, err = json.Marshal(news); err != nil {
		return false, err
	}
	if len(news) > 0 {
		if err := r.store.TurnHistory(ctx, id); err != nil {
			return false, err
		}
		if p.Pin != "" {
			if err := r.readHistory(ctx, id); err != nil {
				return false, err
			}
		}
	}
	if again, err = r.store.EndFetch(ctx, id, began, problem, raw); err != nil {
		return false, err
	}
	return again, errors.Join(r.store.Publish(ctx, store.Event{Kind: "history", Repository: id}), r.store.Publish(ctx, store.Event{Kind: "repository", Repository: id, State: p.State}))
}

func (r *Runner) fetchInto(ctx context.Context, p *store.Repository) ([]intake.News, error) {
	o, err := r.options(p, func(string) {})
	if err != nil {
		return nil, err
	}
	var news []intake.News
	err = r.safely(func() (err error) {
		news, err = intake.Again(ctx, r.Mirror(p.ID), p.Source, o)
		return err
	})
	return news, err
}
