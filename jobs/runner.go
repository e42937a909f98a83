package jobs

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"strconv"
	"sync"
	"sync/atomic"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivertype"
	"gocloud.dev/blob"

	"juxtagram/core/repo"
	"juxtagram/core/sandbox"
	"juxtagram/store"
)

// Classes of locks.
const (
	lockTakeIn  = 1
	lockSurvey  = 2
	lockHistory = 3
)

// Config says where and how a runner works.
type Config struct {
	Data         string        // the installation's folder
	Roots        []string      // folders below which folders may be taken in
	Protocols    []string      // that addresses may use; nil: https and ssh
	PrivateHosts []string      // hosts and networks that may be asked although they are not public
	AskPass      string        // this program, as git is to call it for a password
	Key          []byte        // 32 bytes: the installation's key
	AnswerIn     time.Duration // 0: intake's own
	FetchIn      time.Duration
	Workers      int            // side by side; 0: 2
	Limits       sandbox.Limits // of each job
	FreeShare    float64        // of the disk, below which nothing is taken in; 0: not looked at
	InProcess    bool           // jobs are done in this process, without limits
	Logger       *slog.Logger   `json:"-"`
}

// Runner queues work and, once started, does it.
type Runner struct {
	store    *store.Store
	config   Config
	client   *river.Client[pgx.Tx]
	attached *blob.Bucket
	stop     context.CancelFunc
	stopping atomic.Bool
	surveyed atomic.Pointer[func(context.Context, *store.Survey)]
	wait     sync.WaitGroup
}

type takeInArgs struct {
	Repository int64 `json:"repository"`
}

func (takeInArgs) Kind() string { return "take-in" }

type surveyArgs struct {
	Survey int64 `json:"survey"`
}

func (surveyArgs) Kind() string { return "survey" }

// New prepares a runner. It queues at once; it works after Start.
func New(s *store.Store, config Config) (*Runner, error) {
	if config.Workers <= 0 {
		config.Workers = 2
	}
	if config.Logger == nil {
		config.Logger = slog.Default()
	}
	r := &Runner{store: s, config: config}
	for _, dir := range []string{r.mirrors(), r.Uploads(), r.trash()} {
		if err := os.MkdirAll(dir, 0o700); err != nil {
			return nil, err
		}
	}
	var err error
	if r.attached, err = openAttached(config.Data); err != nil {
		return nil, err
	}
	workers := river.NewWorkers()
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, j *river.Job[takeInArgs]) error {
		return r.ended(r.takeIn(ctx, j.Args.Repository))
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, j *river.Job[surveyArgs]) error {
		return r.ended(r.survey(ctx, j.Args.Survey))
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, j *river.Job[historyArgs]) error {
		return r.ended(r.readHistory(ctx, j.Args.Repository))
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, j *river.Job[fetchArgs]) error {
		return r.ended(r.fetch(ctx, j.Args.Repository))
	}))
	client, err := river.NewClient(riverpgxv5.New(s.Pool()), &river.Config{
		Queues:      map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: config.Workers}},
		Workers:     workers,
		JobTimeout:  -1, // a survey takes as long as it takes
		MaxAttempts: attempts,
		Logger:      slog.New(slog.DiscardHandler),
	})
	r.client = client
	return r, err
}

func (r *Runner) mirrors() string { return filepath.Join(r.config.Data, "mirrors") }

// Uploads is the folder for files that are to be taken in.
func (r *Runner) Uploads() string { return filepath.Join(r.config.Data, "uploads") }

func (r *Runner) trash() string { return filepath.Join(r.config.Data, "trash") }

// Mirror is the folder of a repository's mirror.
func (r *Runner) Mirror(repository int64) string {
	return filepath.Join(r.mirrors(), strconv.FormatInt(repository, 10)+".git")
}

// Git reads a repository's mirror.
func (r *Runner) Git(repository int64) *repo.Git { return repo.At(r.Mirror(repository)) }

// Start begins to work, and to look for work that a dead process left.
func (r *Runner) Start(ctx context.Context) error {
	ctx, r.stop = context.WithCancel(context.WithoutCancel(ctx))
	if err := r.client.Start(ctx); err != nil {
		return err
	}
	r.wait.Add(1)
	go func() {
		defer r.wait.Done()
		tick := time.NewTicker(recoverEvery)
		defer tick.Stop()
		for {
			if err := r.Recover(ctx); err != nil && ctx.Err() == nil {
				r.config.Logger.Error("looking for work left behind", "error", err)
			}
			select {
			case <-tick.C:
			case <-ctx.Done():
				return
			}
		}
	}()
	return nil
}

// Stop ends the work; what is under way is taken up again at the next start.
func (r *Runner) Stop(ctx context.Context) error {
	if r.stop == nil {
		return nil
	}
	defer func() { _ = r.attached.Close() }()
	r.stopping.Store(true)
	err := r.client.StopAndCancel(ctx)
	r.stop()
	r.wait.Wait()
	if errors.Is(err, context.Canceled) {
		return nil
	}
	return err
}

// CancelSurvey ends a survey that waits or runs. What it found stays, marked
// as part of a survey that was not completed.
func (r *Runner) CancelSurvey(ctx context.Context, v *store.Survey) error {
	moved, err := r.store.MoveSurvey(ctx, v.ID, []string{store.Waiting, store.Running}, map[string]any{"state": store.Cancelled, "ended_at": time.Now()})
	if err != nil || !moved {
		return err
	}
	r.cancelJob(ctx, v.JobID)
	return r.store.Publish(ctx, store.Event{Kind: "survey", Repository: v.RepositoryID, Survey: v.ID, State: store.Cancelled})
}

func (r *Runner) cancelJob(ctx context.Context, id *int64) {
	if id == nil {
		return
	}
	if _, err := r.client.JobCancel(ctx, *id); err != nil && !errors.Is(err, rivertype.ErrNotFound) {
		r.config.Logger.Warn("cancelling", "job", *id, "error", err)
	}
}

// Remove removes a repository: its records and its mirror.
func (r *Runner) Remove(ctx context.Context, p *store.Repository) error {
	if err := r.store.UpdateRepository(ctx, p.ID, map[string]any{"state": store.Removing}); err != nil {
		return err
	}
	r.cancelJob(ctx, p.JobID)
	surveys, err := r.store.UnfinishedSurveys(ctx)
	if err != nil {
		return err
	}
	for i := range surveys {
		if surveys[i].RepositoryID == p.ID {
			if err := r.CancelSurvey(ctx, &surveys[i]); err != nil {
				return err
			}
		}
	}
	return r.finishRemoval(ctx, p.ID)
}

func (r *Runner) finishRemoval(ctx context.Context, id int64) error {
	mirror := r.Mirror(id)
	if _, err := os.Lstat(mirror); err == nil {
		if err := os.Rename(mirror, filepath.Join(r.trash(), fmt.Sprintf("%d-%d", id, time.Now().UnixNano()))); err != nil {
			return err
		}
	}
	if err := r.store.DeleteRepository(ctx, id); err != nil {
		return err
	}
	if err := r.dropAttached(ctx, id); err != nil {
		return err
	}
	if err := r.store.Publish(ctx, store.Event{Kind: "repository", Repository: id, State: store.Removing}); err != nil {
		return err
	}
	return emptyFolder(r.trash())
}

func emptyFolder(dir string) error {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return err
	}
	for _, e := range entries {
		if err := os.RemoveAll(filepath.Join(dir, e.Name())); err != nil {
			return err
		}
	}
	return nil
}
