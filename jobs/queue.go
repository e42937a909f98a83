package jobs

import (
	"context"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/riverqueue/river"

	"juxtagram/store"
)

// attempts is how often a job is tried. The pauses between grow, as the queue has them.
const attempts = 3

// busyFor is when a job is looked at again that somebody else is at.
const busyFor = 5 * time.Second

// errBusy tells that another process works on the same record.
var errBusy = errors.New("somebody else is at it")

// ended tells the queue how a job ended. One that was interrupted because this process
// stops, or that another process is at, has not used up an attempt.
func (r *Runner) ended(err error) error {
	switch {
	case errors.Is(err, errBusy):
		return river.JobSnooze(busyFor)
	case errors.Is(err, context.Canceled) && r.stopping.Load():
		return river.JobSnooze(0)
	case err != nil && !errors.Is(err, context.Canceled):
		r.config.Logger.Error("a job failed, and is tried again", "error", err)
	}
	return err
}

// guard holds the lock of a record while a job works on it; errBusy: somebody else has it.
func (r *Runner) guard(ctx context.Context, class, id int64) (release func(), err error) {
	release, ok, err := r.store.Lock(ctx, class, id)
	if err == nil && !ok {
		err = errBusy
	}
	return release, err
}

// once lets a job wait or run once for its arguments.
var once = &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByArgs: true, ByState: queued}}

// TakeIn puts a repository on the shelf and queues its take-in, both or neither.
func (r *Runner) TakeIn(ctx context.Context, p store.Repository) (*store.Repository, error) {
	p.State = store.TakingIn
	return &p, r.store.InTx(ctx, func(tx pgx.Tx) error {
		if err := r.store.AddRepositoryIn(ctx, tx, &p); err != nil {
			return err
		}
		return r.takeInBy(ctx, tx, p.ID)
	})
}

// TakeInAgain queues the take-in of a repository once more.
func (r *Runner) TakeInAgain(ctx context.Context, id int64) error {
	return r.store.InTx(ctx, func(tx pgx.Tx) error { return r.takeInBy(ctx, tx, id) })
}

func (r *Runner) takeInBy(ctx context.Context, tx pgx.Tx, id int64) error {
	job, err := r.client.InsertTx(ctx, tx, takeInArgs{id}, once)
	if err != nil {
		return err
	}
	return r.store.TakeInBy(ctx, tx, id, job.Job.ID)
}

// QueueSurvey records a survey at a repository's pin and queues it, both or neither.
func (r *Runner) QueueSurvey(ctx context.Context, p *store.Repository) (v *store.Survey, err error) {
	err = r.store.InTx(ctx, func(tx pgx.Tx) error {
		v, err = r.surveyIn(ctx, tx, p)
		return err
	})
	if err != nil {
		return nil, err
	}
	return v, r.publishSurvey(ctx, v)
}

// Pin sets the commit at which a repository is read and, unless it has one already,
// queues its survey: all or nothing. p is changed; v is nil where none is queued.
func (r *Runner) Pin(ctx context.Context, p *store.Repository, commit, ref string, surveyed bool) (v *store.Survey, err error) {
	p.Pin, p.PinRef, p.State = commit, ref, store.Pinned
	err = r.store.InTx(ctx, func(tx pgx.Tx) error {
		if err := r.store.PinIn(ctx, tx, p.ID, commit, ref); err != nil || surveyed {
			return err
		}
		v, err = r.surveyIn(ctx, tx, p)
		return err
	})
	if err != nil || v == nil {
		return nil, err
	}
	return v, r.publishSurvey(ctx, v)
}

func (r *Runner) surveyIn(ctx context.Context, tx pgx.Tx, p *store.Repository) (*store.Survey, error) {
	v, err := r.store.AddSurveyIn(ctx, tx, p)
	if err != nil {
		return nil, err
	}
	return v, r.surveyBy(ctx, tx, v.ID)
}

func (r *Runner) surveyBy(ctx context.Context, tx pgx.Tx, id int64) error {
	job, err := r.client.InsertTx(ctx, tx, surveyArgs{id}, once)
	if err != nil {
		return err
	}
	return r.store.SurveyBy(ctx, tx, id, job.Job.ID)
}

func (r *Runner) publishSurvey(ctx context.Context, v *store.Survey) error {
	return r.store.Publish(ctx, store.Event{Kind: "survey", Repository: v.RepositoryID, Survey: v.ID, State: v.State})
}

// QueueFetch queues the fetching of new commits; whoever is at it already does
// it once more. The pin stays where it is.
func (r *Runner) QueueFetch(ctx context.Context, p *store.Repository) error {
	if p.SourceKind == "file" {
		return ErrNowhere
	}
	err := r.store.InTx(ctx, func(tx pgx.Tx) error {
		first, err := r.store.AskFetch(ctx, tx, p.ID)
		if err == nil && first {
			_, err = r.client.InsertTx(ctx, tx, fetchArgs{p.ID}, once)
		}
		return err
	})
	if err != nil {
		return err
	}
	return r.store.Publish(ctx, store.Event{Kind: "repository", Repository: p.ID, State: p.State})
}

// QueueHistory queues the reading of what branches, tags and the pin hold and no
// survey has read. One at a time is queued for a repository.
func (r *Runner) QueueHistory(ctx context.Context, repository int64) error {
	_, err := r.client.Insert(ctx, historyArgs{repository}, once)
	return err
}
