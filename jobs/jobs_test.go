package jobs_test

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/intake"
	"juxtagram/core/reader"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/core/sandbox"
	"juxtagram/jobs"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
)

func TestMain(m *testing.M) {
	sandbox.Main(reader.Kind, sandbox.Tasks, jobs.Kind)
	pgtest.Main(m)
}

var ctx = context.Background()

func runner(t *testing.T, s *store.Store, data, roots string) *jobs.Runner {
	t.Helper()
	r, err := jobs.New(s, jobs.Config{Data: data, Roots: []string{roots}, Key: make([]byte, 32), Logger: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	return r
}

func await(t *testing.T, what string, ok func() bool) {
	t.Helper()
	require.Eventually(t, ok, 3*time.Minute, 5*time.Millisecond, what) // a busy machine takes its time
}

// long is a repository whose survey takes a while.
func long(t *testing.T) *repotest.Repo {
	r := repotest.New(t)
	for i := range 300 {
		r.Write(fmt.Sprintf("p%d/a.go", i), fmt.Sprintf("package p%d\n", i)+strings.Repeat(fmt.Sprintf("func F%d() int { return 1 } // TODO: x\n", i), 400))
	}
	r.Commit("many")
	return r
}

func takenIn(t *testing.T, s *store.Store, r *jobs.Runner, source string) *store.Repository {
	t.Helper()
	p, err := r.TakeIn(ctx, store.Repository{Name: "x", SourceKind: "folder", Source: source, HalfLife: 180})
	require.NoError(t, err)
	await(t, "take-in", func() bool {
		p, err = s.Repository(ctx, p.ID)
		require.NoError(t, err)
		return p.State == store.NeedsPin
	})
	p.Pin, err = r.Git(p.ID).Resolve(ctx, "main")
	require.NoError(t, err)
	p.State = store.Pinned
	require.NoError(t, s.UpdateRepository(ctx, p.ID, map[string]any{"pin": p.Pin, "state": store.Pinned}))
	return p
}

func state(t *testing.T, s *store.Store, id int64) string {
	t.Helper()
	v, err := s.Survey(ctx, id)
	require.NoError(t, err)
	return v.State
}

func TestASurveyIsCancelledAndMadeAgain(t *testing.T) {
	s, src := pgtest.Store(t), long(t)
	r := runner(t, s, t.TempDir(), filepath.Dir(src.Dir))
	require.NoError(t, r.Start(ctx))
	defer func() { require.NoError(t, r.Stop(ctx)) }()
	p := takenIn(t, s, r, src.Dir)
	v, err := r.QueueSurvey(ctx, p)
	require.NoError(t, err)
	await(t, "running", func() bool { return state(t, s, v.ID) == store.Running })
	v, err = s.Survey(ctx, v.ID)
	require.NoError(t, err)
	require.NoError(t, r.CancelSurvey(ctx, v))
	assert.Equal(t, store.Cancelled, state(t, s, v.ID))
	again, err := r.Retry(ctx, p)
	require.NoError(t, err)
	assert.NotEqual(t, v.ID, again.ID)
	same, err := r.Retry(ctx, p)
	require.NoError(t, err)
	assert.Equal(t, again.ID, same.ID, "one that waits or runs is not doubled")
	await(t, "complete", func() bool { return state(t, s, again.ID) == store.Complete })
	assert.Equal(t, store.Cancelled, state(t, s, v.ID), "the cancelled one stays so")
	for _, st := range func() []store.StageProgress { x, _ := s.Survey(ctx, again.ID); return x.StageList() }() {
		assert.Equal(t, store.Complete, st.State, st.Name)
	}
	counts, err := s.LeadCounts(ctx, again.ID, store.LeadFilter{})
	require.NoError(t, err)
	total := 0
	for _, c := range counts {
		if c.Kind == "tagged-comment" {
			total += c.Count
		}
	}
	assert.Equal(t, 120_000, total)
}

func TestWorkOfADeadProcessIsTakenUp(t *testing.T) {
	s, src := pgtest.Store(t), repotest.New(t)
	src.Write("a.go", "package a\n").Commit("one")
	data, roots := t.TempDir(), filepath.Dir(src.Dir)
	r := runner(t, s, data, roots)
	require.NoError(t, r.Start(ctx))
	p := takenIn(t, s, r, src.Dir)
	require.NoError(t, r.Stop(ctx))

	// what a killed process leaves: records that say it is at it
	v, err := s.AddSurvey(ctx, p)
	require.NoError(t, err)
	_, err = s.MoveSurvey(ctx, v.ID, []string{store.Waiting}, map[string]any{"state": store.Running})
	require.NoError(t, err)
	half, err := s.AddRepository(ctx, store.Repository{Name: "half", SourceKind: "folder", Source: src.Dir, State: store.TakingIn, Doing: "copying", HalfLife: 180})
	require.NoError(t, err)
	require.NoError(t, os.MkdirAll(r.Mirror(half.ID)+"/objects", 0o755))
	gone, err := s.AddRepository(ctx, store.Repository{Name: "gone", SourceKind: "folder", Source: src.Dir, State: store.Removing, HalfLife: 180})
	require.NoError(t, err)

	next := runner(t, s, data, roots)
	require.NoError(t, next.Start(ctx))
	defer func() { require.NoError(t, next.Stop(ctx)) }()
	await(t, "survey", func() bool { return state(t, s, v.ID) == store.Complete })
	await(t, "take-in", func() bool { x, err := s.Repository(ctx, half.ID); return err == nil && x.State == store.NeedsPin })
	await(t, "removal", func() bool { _, err := s.Repository(ctx, gone.ID); return err == store.ErrNotFound })
}

func TestWorkThatSomebodyIsAtIsLeftAlone(t *testing.T) {
	s, src := pgtest.Store(t), repotest.New(t)
	src.Write("a.go", "package a\n").Commit("one")
	data := t.TempDir()
	r := runner(t, s, data, filepath.Dir(src.Dir))
	require.NoError(t, r.Start(ctx))
	p := takenIn(t, s, r, src.Dir)
	v, err := s.AddSurvey(ctx, p)
	require.NoError(t, err)
	release, ok, err := s.Lock(ctx, 2, v.ID) // another worker holds it
	require.NoError(t, err)
	require.True(t, ok)
	_, err = s.MoveSurvey(ctx, v.ID, []string{store.Waiting}, map[string]any{"state": store.Running})
	require.NoError(t, err)
	require.NoError(t, r.Recover(ctx))
	_, second, err := s.Lock(ctx, 2, v.ID)
	require.NoError(t, err)
	assert.False(t, second, "a lock is held by one")
	assert.Equal(t, store.Running, state(t, s, v.ID))
	release()
	await(t, "free", func() bool { require.NoError(t, r.Recover(ctx)); return state(t, s, v.ID) == store.Complete })
	require.NoError(t, r.Stop(ctx))
}

func TestADamagedObjectIsNamedAndTheRestSurveyed(t *testing.T) {
	s, src := pgtest.Store(t), repotest.New(t)
	src.Write("a.go", "package a\n", "b.go", "package b\n", "c.go", "package c\n").Commit("one")
	src.Write("d/d.go", "package d\n", "b.go", "package b // more\n").Commit("two")
	r := runner(t, s, t.TempDir(), filepath.Dir(src.Dir))
	require.NoError(t, r.Start(ctx))
	defer func() { require.NoError(t, r.Stop(ctx)) }()
	p := takenIn(t, s, r, src.Dir)
	object := func(name string) string {
		id := src.Git("rev-parse", name)
		return filepath.Join(r.Mirror(p.ID), "objects", id[:2], id[2:])
	}
	require.NoError(t, os.Remove(object("HEAD:b.go")))       // missing
	require.NoError(t, os.Chmod(object("HEAD:c.go"), 0o644)) // not what its id stands for
	other, err := os.ReadFile(object("HEAD:a.go"))
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(object("HEAD:c.go"), other, 0o644))
	require.NoError(t, os.Remove(object("HEAD:d"))) // a folder
	v, err := r.QueueSurvey(ctx, p)
	require.NoError(t, err)
	await(t, "complete", func() bool { return state(t, s, v.ID) == store.Complete })
	v, err = s.Survey(ctx, v.ID)
	require.NoError(t, err)
	var o store.Overview
	require.NoError(t, json.Unmarshal(v.Overview, &o))
	limits := fmt.Sprint(o.Limits)
	for name, path := range map[string]string{"HEAD:b.go": "b.go: object ", "HEAD:c.go": "c.go: object ", "HEAD:d": "the folder d is not listed: object "} {
		assert.Contains(t, limits, path+src.Git("rev-parse", name)+" is missing or damaged")
	}
	assert.Contains(t, limits, "the changes of 1 commit are not counted")
	assert.Equal(t, 3, o.Counts.Files)
	_, err = r.Git(p.ID).Blobs().Read(src.Git("rev-parse", "HEAD:c.go"), 1<<20)
	var damaged *repo.DamagedError
	assert.ErrorAs(t, err, &damaged, "another content is never shown under an id")
}

func TestSecretsAreSealed(t *testing.T) {
	r := runner(t, pgtest.Store(t), t.TempDir(), "/nowhere")
	one, err := r.Seal(&intake.Credential{Token: "t0k3n"})
	require.NoError(t, err)
	two, err := r.Seal(&intake.Credential{Token: "t0k3n"})
	require.NoError(t, err)
	assert.NotContains(t, string(one), "t0k3n")
	assert.NotEqual(t, one, two, "sealed anew each time")
	dir := t.TempDir()
	key, err := jobs.LoadKey(dir)
	require.NoError(t, err)
	again, err := jobs.LoadKey(dir)
	require.NoError(t, err)
	assert.Equal(t, key, again)
	info, err := os.Stat(filepath.Join(dir, "installation.key"))
	require.NoError(t, err)
	assert.EqualValues(t, 0o600, info.Mode().Perm())
	require.NoError(t, os.WriteFile(filepath.Join(dir, "installation.key"), []byte("short"), 0o600))
	_, err = jobs.LoadKey(dir)
	assert.ErrorContains(t, err, "damaged")
}
