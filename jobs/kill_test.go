package jobs_test

import (
	"context"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/jobs"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
)

// mortal lets a process reach the database a number of times: then it is dead, and
// nothing that it does arrives any more.
type mortal struct {
	left atomic.Int64
	used atomic.Int64
}

func (m *mortal) pass(ctx context.Context) context.Context {
	m.used.Add(1)
	if m.left.Add(-1) >= 0 {
		return ctx
	}
	dead, cancel := context.WithCancel(ctx)
	cancel()
	return dead
}

func (m *mortal) TraceQueryStart(ctx context.Context, _ *pgx.Conn, _ pgx.TraceQueryStartData) context.Context {
	return m.pass(ctx)
}
func (m *mortal) TraceQueryEnd(context.Context, *pgx.Conn, pgx.TraceQueryEndData) {}
func (m *mortal) TraceBatchStart(ctx context.Context, _ *pgx.Conn, _ pgx.TraceBatchStartData) context.Context {
	return m.pass(ctx)
}
func (m *mortal) TraceBatchQuery(context.Context, *pgx.Conn, pgx.TraceBatchQueryData) {}
func (m *mortal) TraceBatchEnd(context.Context, *pgx.Conn, pgx.TraceBatchEndData)     {}
func (m *mortal) TraceCopyFromStart(ctx context.Context, _ *pgx.Conn, _ pgx.TraceCopyFromStartData) context.Context {
	return m.pass(ctx)
}
func (m *mortal) TraceCopyFromEnd(context.Context, *pgx.Conn, pgx.TraceCopyFromEndData) {}

// forEver is more queries than a test makes.
const forEver = 1 << 40

// process is a runner that may die; it has its own connections.
func process(t *testing.T, database, data, roots string) (*mortal, *store.Store, *jobs.Runner) {
	t.Helper()
	m := &mortal{}
	m.left.Store(forEver)
	s, err := store.OpenTraced(ctx, database, m)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	r, err := jobs.New(s, jobs.Config{Data: data, Roots: []string{roots}, Key: make([]byte, 32), InProcess: true, Logger: slog.New(slog.DiscardHandler)}) // it dies with its connections
	require.NoError(t, err)
	return m, s, r
}

// A request that ends between any two steps leaves a record with its job, or neither.
func TestARequestThatDiesLeavesAllOrNothing(t *testing.T) {
	src := repotest.New(t)
	src.Write("a.go", "package a\n").Commit("one")
	bundle := filepath.Join(t.TempDir(), "a.bundle")
	src.Git("bundle", "create", bundle, "--all")
	database, data, roots := pgtest.URL(t), t.TempDir(), filepath.Dir(src.Dir)
	m, s, r := process(t, database, data, roots)
	require.NoError(t, r.Start(ctx))
	p := takenIn(t, s, r, src.Dir)
	failed, err := s.AddRepository(ctx, store.Repository{Name: "failed", SourceKind: "folder", Source: src.Dir, State: store.TakeFailed, HalfLife: 180})
	require.NoError(t, err)
	require.NoError(t, r.Stop(ctx)) // nothing is worked on while requests die

	requests := map[string]func(r *jobs.Runner) error{
		"take in": func(r *jobs.Runner) error {
			_, err := r.TakeIn(ctx, store.Repository{Name: "in", SourceKind: "folder", Source: src.Dir, HalfLife: 180})
			return err
		},
		"upload": func(r *jobs.Runner) error {
			f, err := os.Open(bundle)
			require.NoError(t, err)
			defer f.Close()
			_, err = r.TakeInUpload(ctx, store.Repository{Name: "up", SourceKind: "file", Source: "a.bundle", HalfLife: 180}, f, 1<<20)
			return err
		},
		"try again": func(r *jobs.Runner) error { return r.TakeInAgain(ctx, failed.ID) },
		"survey":    func(r *jobs.Runner) error { _, err := r.QueueSurvey(ctx, p); return err },
		"pin":       func(r *jobs.Runner) error { _, err := r.Pin(ctx, p, p.Pin, "main", false); return err },
		"fetch":     func(r *jobs.Runner) error { return r.QueueFetch(ctx, p) },
	}
	count := func(query string) (n int) {
		require.NoError(t, s.Pool().QueryRow(ctx, query).Scan(&n))
		return n
	}
	unworked := func() []store.Idle {
		var all []store.Idle
		for _, find := range []func() ([]store.Idle, error){
			func() ([]store.Idle, error) { return s.IdleSurveys(ctx) }, func() ([]store.Idle, error) { return s.IdleTakeIns(ctx) },
			func() ([]store.Idle, error) { return s.IdleFetches(ctx, "fetch") },
		} {
			list, err := find()
			require.NoError(t, err)
			all = append(all, list...)
		}
		return all
	}
	for name, request := range requests {
		for step := int64(0); ; step++ {
			dying, _, r := process(t, database, data, roots)
			repositories, files := count("SELECT count(*) FROM repository"), count("SELECT count(*) FROM repository WHERE source_kind = 'file'")
			dying.left.Store(step)
			err := request(r)
			assert.Empty(t, unworked(), "%s, killed at step %d: a record without a job", name, step)
			if err == nil {
				break
			}
			require.Less(t, step, int64(40), name)
			if name == "upload" && files == count("SELECT count(*) FROM repository WHERE source_kind = 'file'") {
				assert.Equal(t, repositories, count("SELECT count(*) FROM repository"))
			}
		}
	}
	// the next start finishes whatever was acknowledged, and whatever else is there
	m.left.Store(forEver)
	next := runner(t, s, data, roots)
	require.NoError(t, next.Start(ctx))
	await(t, "everything is done", func() bool {
		return count("SELECT count(*) FROM survey WHERE state IN ('waiting', 'running')")+count("SELECT count(*) FROM repository WHERE state = 'taking-in' OR fetching") == 0
	})
	assert.Zero(t, count("SELECT count(*) FROM repository WHERE state = 'failed'"))
	assert.Zero(t, count("SELECT count(*) FROM survey WHERE state <> 'complete'"))
	assert.Positive(t, count("SELECT count(*) FROM repository WHERE name = 'up' AND state = 'needs-pin'"))
	require.NoError(t, next.Stop(ctx))
}

// A process that dies at any step of a take-in, a survey or a fetch leaves work that the
// next one finishes.
func TestWorkThatDiesAtAnyStepIsFinishedByTheNext(t *testing.T) {
	src := repotest.New(t)
	src.Write("a.go", "package a\n\n// TODO: more\nfunc A() {}\n").Commit("one")
	database, data, roots := pgtest.URL(t), t.TempDir(), filepath.Dir(src.Dir)
	m, s, r := process(t, database, data, roots)
	require.NoError(t, r.Start(ctx))
	before := m.used.Load()
	p := takenIn(t, s, r, src.Dir)
	v, err := r.QueueSurvey(ctx, p)
	require.NoError(t, err)
	await(t, "surveyed", func() bool { return state(t, s, v.ID) == store.Complete })
	require.NoError(t, r.QueueFetch(ctx, p))
	await(t, "fetched", func() bool { x, err := s.Repository(ctx, p.ID); require.NoError(t, err); return !x.Fetching })
	steps := m.used.Load() - before
	require.NoError(t, r.Stop(ctx))

	var surveys []int64
	var repositories []int64
	for step := int64(1); step < steps; step += max(1, steps/14) {
		dying, _, r := process(t, database, data, roots)
		x, err := s.AddRepository(ctx, store.Repository{Name: fmt.Sprint("dies at ", step), SourceKind: "folder", Source: src.Dir, State: store.TakeFailed, HalfLife: 180})
		require.NoError(t, err)
		require.NoError(t, r.TakeInAgain(ctx, x.ID))
		repositories = append(repositories, x.ID)
		w, err := r.QueueSurvey(ctx, p)
		require.NoError(t, err)
		surveys = append(surveys, w.ID)
		require.NoError(t, r.QueueFetch(ctx, p))
		dying.left.Store(step)
		_ = r.Start(ctx) // it may die while it starts
		require.Eventually(t, func() bool { return dying.left.Load() < 0 || state(t, s, w.ID) == store.Complete }, 20*time.Second, 2*time.Millisecond)
		dying.left.Store(-1)
		stopped, cancel := context.WithTimeout(ctx, 100*time.Millisecond)
		_ = r.Stop(stopped) // of the dead nothing arrives
		cancel()
	}
	next, err := jobs.New(s, jobs.Config{Data: data, Roots: []string{roots}, Key: make([]byte, 32), Workers: 4, Logger: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	require.NoError(t, next.Start(ctx))
	defer func() { require.NoError(t, next.Stop(ctx)) }()
	complete := 0
	for _, id := range surveys {
		await(t, fmt.Sprint("survey ", id), func() bool {
			v, err := s.Survey(ctx, id)
			require.NoError(t, err)
			if v.State == store.Complete {
				complete++
				return true
			}
			// one that several of the dying took up, each after the other
			return v.State == store.Failed && strings.HasPrefix(v.Problem, "it was tried three times")
		})
	}
	assert.Greater(t, complete, len(surveys)/2)
	for _, id := range repositories {
		await(t, fmt.Sprint("take-in ", id), func() bool {
			x, err := s.Repository(ctx, id)
			require.NoError(t, err)
			return x.State == store.NeedsPin
		})
	}
	await(t, "fetch", func() bool { x, err := s.Repository(ctx, p.ID); require.NoError(t, err); return !x.Fetching })
}

// A job that ends its process each time is given up, and its record says why.
func TestAJobIsTriedThreeTimes(t *testing.T) {
	s, src := pgtest.Store(t), repotest.New(t)
	src.Write("a.go", "package a\n").Commit("one")
	r := runner(t, s, t.TempDir(), filepath.Dir(src.Dir))
	require.NoError(t, r.Start(ctx))
	p := takenIn(t, s, r, src.Dir)
	require.NoError(t, r.Stop(ctx))
	v, err := r.QueueSurvey(ctx, p)
	require.NoError(t, err)
	// as three processes leave it that died over it
	_, err = s.Pool().Exec(ctx, "UPDATE river_job SET state = 'running', attempt = 3, attempted_at = now() - interval '1 minute' WHERE kind = 'survey' AND (args->>'survey')::bigint = $1", v.ID)
	require.NoError(t, err)
	_, err = s.MoveSurvey(ctx, v.ID, []string{store.Waiting}, map[string]any{"state": store.Running})
	require.NoError(t, err)
	next := runner(t, s, t.TempDir(), filepath.Dir(src.Dir))
	require.NoError(t, next.Recover(ctx))
	v, err = s.Survey(ctx, v.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Failed, v.State)
	assert.True(t, strings.HasPrefix(v.Problem, "it was tried three times"), v.Problem)
}
