package jobs

import (
	"context"
	"encoding/json"
	"errors"
	"runtime"
	"runtime/debug"
	"sync"
	"time"

	"juxtagram/core/reader"
	"juxtagram/store"
	"juxtagram/survey"
)

// survey makes one survey whose record says that it waits, or that a process
// which is gone was at it. Facts and commits that process kept are reused.
func (r *Runner) survey(ctx context.Context, id int64) error {
	release, err := r.guard(ctx, lockSurvey, id)
	if err != nil {
		return err
	}
	defer release()
	moved, err := r.store.MoveSurvey(ctx, id, []string{store.Waiting, store.Running}, map[string]any{"state": store.Running, "problem": ""})
	if err != nil || !moved {
		return err // gone, cancelled or done meanwhile
	}
	out, err := r.carryOut(ctx, surveyArgs{}.Kind(), id)
	if err != nil {
		return err // cancelled: its record says so; anything else: taken up again
	}
	v, err := r.store.Survey(ctx, id)
	if err != nil {
		return err
	}
	set := map[string]any{"state": store.Complete, "ended_at": time.Now()}
	if out.Problem != "" {
		set["state"], set["problem"] = store.Failed, out.Problem
		r.config.Logger.Error("surveying", "survey", id, "error", out.Problem)
	} else if err := r.QueueHistory(ctx, v.RepositoryID); err != nil {
		return err
	} else if ready := r.surveyed.Load(); ready != nil {
		(*ready)(ctx, v)
	}
	if _, err := r.store.MoveSurvey(ctx, id, []string{store.Running}, set); err != nil {
		return err
	}
	return r.store.Publish(ctx, store.Event{Kind: "survey", Repository: v.RepositoryID, Survey: id, State: set["state"].(string), Stages: v.StageList()})
}

// makeSurvey surveys, and keeps what it finds stage by stage.
func (r *Runner) makeSurvey(ctx context.Context, id int64) outcome {
	v, err := r.store.Survey(ctx, id)
	if err != nil {
		return outcome{Failed: err.Error()}
	}
	err = r.surveyInto(ctx, v)
	if err != nil && ctx.Err() == nil {
		r.config.Logger.Error("surveying", "survey", id, "error", err)
	}
	return failed(err)
}

func (r *Runner) surveyInto(ctx context.Context, v *store.Survey) error {
	saver, err := r.store.SaverOf(ctx, v)
	if err != nil {
		return err
	}
	corrections, err := r.store.Corrections(ctx, v.RepositoryID)
	if err != nil {
		return err
	}
	joins, err := r.store.Joins(ctx, v.RepositoryID)
	if err != nil {
		return err
	}
	agreed, err := r.store.Words(ctx, v.RepositoryID)
	if err != nil {
		return err
	}
	sink := newSink(ctx, r.store, v, saver)
	readers := reader.New(runtime.GOMAXPROCS(0))
	defer readers.Close()
	err = r.safely(func() error {
		defer saver.Close()
		_, err := survey.Run(ctx, r.Git(v.RepositoryID), survey.Options{Commit: v.OID, Subfolder: v.Subfolder, HalfLife: v.HalfLife, Reader: readers, Corrections: store.Said(corrections), Joins: store.Joined(joins), Words: agreed},
			r.store.MemoryOf(v.RepositoryID), sink)
		return err
	})
	sink.close()
	return err
}

// OnSurveyed has do called with a survey that is about to be complete. It is announced
// as complete once do returns.
func (r *Runner) OnSurveyed(do func(context.Context, *store.Survey)) { r.surveyed.Store(&do) }

// safely turns a panic into an error, and logs where it was: what a hostile
// repository breaks ends the work on it with a word, instead of being taken up
// again for ever.
func (r *Runner) safely(do func() error) (err error) {
	defer func() {
		if x := recover(); x != nil {
			r.config.Logger.Error("a fault of our own", "panic", x, "stack", string(debug.Stack()))
			err = &fault{x}
		}
	}()
	return do()
}

// sink saves stages as they end and tells progress as it comes.
type sink struct {
	store  *store.Store
	saver  *store.Saver
	record *store.Survey
	mu     sync.Mutex
	stages []store.StageProgress
	began  time.Time
	dirty  bool
	stop   chan struct{}
	ended  sync.WaitGroup
}

// tellEvery is how often progress is told while a stage runs.
const tellEvery = 300 * time.Millisecond

func newSink(ctx context.Context, s *store.Store, v *store.Survey, saver *store.Saver) *sink {
	k := &sink{store: s, saver: saver, record: v, stages: v.StageList(), stop: make(chan struct{})}
	for i := range k.stages {
		k.stages[i].State, k.stages[i].Done, k.stages[i].Total = store.Waiting, 0, 0
	}
	k.ended.Add(1)
	go func() {
		defer k.ended.Done()
		tick := time.NewTicker(tellEvery)
		defer tick.Stop()
		for {
			select {
			case <-tick.C:
				k.tell(ctx)
			case <-k.stop:
				return
			}
		}
	}()
	return k
}

func (k *sink) close() {
	close(k.stop)
	k.ended.Wait()
}

func (k *sink) snapshot() []store.StageProgress {
	k.mu.Lock()
	defer k.mu.Unlock()
	return append([]store.StageProgress(nil), k.stages...)
}

// tell publishes progress; it is not kept, so a lost message costs nothing.
func (k *sink) tell(ctx context.Context) {
	k.mu.Lock()
	dirty := k.dirty
	k.dirty = false
	k.mu.Unlock()
	if !dirty {
		return
	}
	stages := k.snapshot()
	_ = k.store.SaveStages(ctx, k.record.ID, stages)
	_ = k.store.Publish(ctx, store.Event{Kind: "survey", Repository: k.record.RepositoryID, Survey: k.record.ID, State: store.Running, Stages: stages})
}

func (k *sink) at(stage string) *store.StageProgress {
	for i := range k.stages {
		if k.stages[i].Name == stage {
			return &k.stages[i]
		}
	}
	k.stages = append(k.stages, store.StageProgress{Name: stage})
	return &k.stages[len(k.stages)-1]
}

// Begin implements survey.Sink.
func (k *sink) Begin(_ context.Context, stage string, total int) {
	k.mu.Lock()
	defer k.mu.Unlock()
	p := k.at(stage)
	p.State, p.Total = store.Running, total
	k.began, k.dirty = time.Now(), true
}

// Progress implements survey.Sink.
func (k *sink) Progress(stage string, done, total int) {
	k.mu.Lock()
	defer k.mu.Unlock()
	p := k.at(stage)
	p.Done, p.Total, k.dirty = done, total, true
}

// Done implements survey.Sink.
func (k *sink) Done(ctx context.Context, stage string, r *survey.Result) error {
	k.mu.Lock()
	p := k.at(stage)
	p.State, p.MS = store.Complete, time.Since(k.began).Milliseconds()
	k.mu.Unlock()
	stages := k.snapshot()
	if err := k.saver.Save(ctx, stage, r, stages); err != nil {
		return err
	}
	return k.store.Publish(ctx, store.Event{Kind: "survey", Repository: k.record.RepositoryID, Survey: k.record.ID, State: store.Running, Stages: stages})
}

// Retry surveys again at the pin, after a failure or a cancellation.
func (r *Runner) Retry(ctx context.Context, p *store.Repository) (*store.Survey, error) {
	v, err := r.store.SurveyAt(ctx, p.ID, p.Pin)
	if err == nil && (v.State == store.Waiting || v.State == store.Running) {
		return v, nil
	}
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	return r.QueueSurvey(ctx, p)
}

// decode reads a list of words.
func decode(raw json.RawMessage) []string {
	var out []string
	_ = json.Unmarshal(raw, &out)
	return out
}

// Notes are what the take-in of a repository left out.
func Notes(p *store.Repository) []string { return decode(p.Notes) }
