package jobs_test

import (
	"log/slog"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/sandbox"
	"juxtagram/jobs"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
)

// children are the processes of this test that are of a kind: "job", "reader".
func children(t *testing.T, kind string) (pids []int) {
	t.Helper()
	exe, err := os.Executable()
	require.NoError(t, err)
	dirs, err := filepath.Glob("/proc/[0-9]*")
	require.NoError(t, err)
	for _, dir := range dirs {
		if b, err := os.ReadFile(dir + "/cmdline"); err == nil && string(b) == exe+"\x00"+kind+"\x00" {
			pid, _ := strconv.Atoi(filepath.Base(dir))
			pids = append(pids, pid)
		}
	}
	return pids
}

func limited(t *testing.T, s *store.Store, data, roots string, limits sandbox.Limits) *jobs.Runner {
	t.Helper()
	r, err := jobs.New(s, jobs.Config{Data: data, Roots: []string{roots}, Key: make([]byte, 32), Limits: limits, Logger: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	return r
}

// A survey that takes more than it may fails with the limit's name, and the processes
// that were at it are gone.
func TestASurveyOverALimitFailsWithItsReason(t *testing.T) {
	s, src, data := pgtest.Store(t), long(t), t.TempDir()
	roots := filepath.Dir(src.Dir)
	r := runner(t, s, data, roots)
	require.NoError(t, r.Start(ctx))
	p := takenIn(t, s, r, src.Dir)
	require.NoError(t, r.Stop(ctx))
	for _, c := range []struct {
		limits sandbox.Limits
		want   string
	}{
		{sandbox.Limits{Memory: 64 << 20}, "it was ended: it takes more than 64 MB of memory"},
		{sandbox.Limits{Processor: 300 * time.Millisecond}, "it was ended: it takes more than 300ms of processor time"},
		{sandbox.Limits{Wall: 300 * time.Millisecond}, "it was ended: it takes longer than 300ms"},
		{sandbox.Limits{Memory: 64 << 20, Processor: time.Nanosecond, Wall: time.Nanosecond}, "it was ended: it takes "},
	} {
		r := limited(t, s, data, roots, c.limits)
		require.NoError(t, r.Start(ctx))
		v, err := r.QueueSurvey(ctx, p)
		require.NoError(t, err)
		await(t, c.want, func() bool { return state(t, s, v.ID) == store.Failed })
		v, err = s.Survey(ctx, v.ID)
		require.NoError(t, err)
		assert.True(t, strings.HasPrefix(v.Problem, c.want), v.Problem)
		await(t, "all of it has ended", func() bool { return len(children(t, "job"))+len(children(t, "reader")) == 0 })
		require.NoError(t, r.Stop(ctx))
	}
}

func TestCancellingEndsTheProcesses(t *testing.T) {
	s, src := pgtest.Store(t), long(t)
	r := runner(t, s, t.TempDir(), filepath.Dir(src.Dir))
	require.NoError(t, r.Start(ctx))
	defer func() { require.NoError(t, r.Stop(ctx)) }()
	p := takenIn(t, s, r, src.Dir)
	v, err := r.QueueSurvey(ctx, p)
	require.NoError(t, err)
	await(t, "at work", func() bool { return len(children(t, "job")) == 1 && len(children(t, "reader")) > 0 })
	require.NoError(t, r.CancelSurvey(ctx, v))
	await(t, "ended", func() bool { return len(children(t, "job"))+len(children(t, "reader")) == 0 })
	assert.Equal(t, store.Cancelled, state(t, s, v.ID))
}

// A process that is killed over a survey costs an attempt, not the survey.
func TestAJobWhoseProcessIsKilledIsTriedAgain(t *testing.T) {
	s, src := pgtest.Store(t), long(t)
	r := runner(t, s, t.TempDir(), filepath.Dir(src.Dir))
	require.NoError(t, r.Start(ctx))
	defer func() { require.NoError(t, r.Stop(ctx)) }()
	p := takenIn(t, s, r, src.Dir)
	v, err := r.QueueSurvey(ctx, p)
	require.NoError(t, err)
	await(t, "at work", func() bool { return len(children(t, "job")) == 1 })
	require.NoError(t, syscall.Kill(children(t, "job")[0], syscall.SIGKILL))
	await(t, "complete", func() bool { return state(t, s, v.ID) == store.Complete })
	attempts := 0
	require.NoError(t, s.Pool().QueryRow(ctx, "SELECT attempt FROM river_job WHERE kind = 'survey'").Scan(&attempts))
	assert.Equal(t, 2, attempts)
}
