package jobs_test

import (
	"bytes"
	"log/slog"
	"os"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/intake"
	"juxtagram/core/repo/repotest"
	"juxtagram/jobs"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
)

// Below the share that is kept free nothing is taken in, and the reason is said.
func TestNothingIsTakenInWithoutRoom(t *testing.T) {
	s, src := pgtest.Store(t), repotest.New(t)
	src.Write("a.go", "package a\n").Commit("one")
	r, err := jobs.New(s, jobs.Config{Data: t.TempDir(), Roots: []string{filepath.Dir(src.Dir)}, Key: make([]byte, 32), FreeShare: 1, Logger: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	assert.ErrorContains(t, r.Room(), "the disk is almost full: less than 100 % of it is free")
	require.NoError(t, r.Start(ctx))
	defer func() { require.NoError(t, r.Stop(ctx)) }()
	p, err := r.TakeIn(ctx, store.Repository{Name: "x", SourceKind: "folder", Source: src.Dir, HalfLife: 180})
	require.NoError(t, err)
	await(t, "refused", func() bool {
		p, err = s.Repository(ctx, p.ID)
		require.NoError(t, err)
		return p.State == store.TakeFailed
	})
	assert.Contains(t, p.Problem, "the disk is almost full")
	assert.NoDirExists(t, r.Mirror(p.ID))
}

// smallDisk is a folder on a disk of two megabytes.
func smallDisk(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	if err := syscall.Mount("tmpfs", dir, "tmpfs", 0, "size=2m"); err != nil {
		t.Skip("a disk of its own cannot be mounted here: ", err)
	}
	t.Cleanup(func() { require.NoError(t, syscall.Unmount(dir, syscall.MNT_DETACH)) })
	return dir
}

// A full disk is called that, and leaves no pieces behind.
func TestAFullDisk(t *testing.T) {
	s, data := pgtest.Store(t), smallDisk(t)
	r := runner(t, s, data, "/nowhere")
	_, err := r.TakeInUpload(ctx, store.Repository{Name: "up", SourceKind: "file", Source: "a.zip", HalfLife: 180}, bytes.NewReader(make([]byte, 8<<20)), 64<<20)
	require.Error(t, err)
	assert.True(t, intake.IsDiskFull(err), "%v", err)
	left, err := os.ReadDir(r.Uploads())
	require.NoError(t, err)
	assert.Empty(t, left)
	// a folder with more objects than there is room for
	src := repotest.New(t)
	noise := make([]byte, 4<<20)
	for i := range noise {
		noise[i] = byte(i * i >> 3 * (i | 1) >> 5)
	}
	src.Write("noise", string(noise)).Commit("one")
	require.NoError(t, os.WriteFile(filepath.Join(data, "fill"), make([]byte, 1<<20+900<<10), 0o600))
	r = runner(t, s, data, filepath.Dir(src.Dir))
	require.NoError(t, r.Start(ctx))
	defer func() { require.NoError(t, r.Stop(ctx)) }()
	p, err := r.TakeIn(ctx, store.Repository{Name: "x", SourceKind: "folder", Source: src.Dir, HalfLife: 180})
	require.NoError(t, err)
	await(t, "failed", func() bool {
		p, err = s.Repository(ctx, p.ID)
		require.NoError(t, err)
		return p.State == store.TakeFailed
	})
	assert.Equal(t, "the disk is full", p.Problem)
	assert.NoDirExists(t, r.Mirror(p.ID))
}
