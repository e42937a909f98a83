package server_test

import (
	"fmt"
	"log/slog"
	"net/http/httptest"
	"path/filepath"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/jobs"
	"juxtagram/localpg/pgtest"
	"juxtagram/server"
	"juxtagram/store"
)

// One server takes in fifty repositories one after the other, and somebody looks at each:
// what it holds afterwards is bounded.
func TestFiftyRepositoriesFitIntoTheMemory(t *testing.T) {
	src := repotest.New(t)
	for i := range 60 {
		src.Write(fmt.Sprintf("p%d/a.go", i), fmt.Sprintf("package p%d\n\n", i)+strings.Repeat(fmt.Sprintf("// TODO: more\nfunc F%d() int { return %d }\n\n", i, i), 20))
		if i%10 == 0 {
			src.Commit(fmt.Sprint(i))
		}
	}
	src.Commit("last")
	const room = 2 << 20
	s := pgtest.Store(t)
	quiet := slog.New(slog.DiscardHandler)
	r, err := jobs.New(s, jobs.Config{Data: t.TempDir(), Roots: []string{filepath.Dir(src.Dir)}, Key: make([]byte, 32), Logger: quiet})
	require.NoError(t, err)
	srv := server.New(ctx, s, r, server.Config{Logger: quiet, Memory: room})
	r.OnSurveyed(srv.Surveyed)
	require.NoError(t, r.Start(ctx))
	at := httptest.NewServer(srv.Handler())
	t.Cleanup(func() {
		srv.Close()
		at.Close()
		_ = r.Stop(ctx)
	})
	h := &house{t: t, store: s, jobs: r, url: at.URL, roots: filepath.Dir(src.Dir)}
	c := h.person("owner", true)
	heap := func() int64 {
		var m runtime.MemStats
		runtime.GC()
		runtime.ReadMemStats(&m)
		return int64(m.HeapAlloc)
	}
	before := int64(0)
	const repositories = 50
	for i := range repositories {
		p, err := r.TakeIn(ctx, store.Repository{Name: fmt.Sprint("r", i), SourceKind: "folder", Source: src.Dir, HalfLife: 180, CreatedBy: &c.person.ID})
		require.NoError(t, err)
		require.Eventually(t, func() bool { p, err = s.Repository(ctx, p.ID); return err == nil && p.State == store.NeedsPin }, 20*time.Second, 5*time.Millisecond)
		head, err := r.Git(p.ID).Resolve(ctx, "main")
		require.NoError(t, err)
		v, err := r.Pin(ctx, p, head, "main", false)
		require.NoError(t, err)
		require.Eventually(t, func() bool { x, err := s.Survey(ctx, v.ID); return err == nil && x.State == store.Complete }, 30*time.Second, 5*time.Millisecond)
		for _, x := range []string{"/overview", "/map", "/leads", "/tagged", "/log", "/summary?children=true", "/draft?minutes=30", "/notes"} {
			get[any](c, "GET", fmt.Sprintf("/api/repositories/%d%s", p.ID, x), nil)
		}
		if i == 4 {
			before = heap()
		}
	}
	grown := heap() - before
	t.Logf("%d repositories more: the heap grew by %.1f MB", repositories-5, float64(grown)/(1<<20))
	assert.Less(t, grown, int64(2*room), "what is kept is bounded, whatever was taken in")
}
