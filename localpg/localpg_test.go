package localpg

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A server that has ended is started again at the same address; one that cannot be
// started any more is given up with the reason.
func TestAServerIsWatched(t *testing.T) {
	dir, err := os.MkdirTemp("", "juxtagram-pg-")
	require.NoError(t, err)
	defer os.RemoveAll(dir)
	require.NoError(t, os.Chmod(dir, 0o755))
	s, err := Start(context.Background(), dir, Options{Careless: true})
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	var watch sync.WaitGroup
	watch.Go(func() { assert.NoError(t, s.Watch(ctx, func(string) {})) })
	answers := func() bool {
		c, err := pgx.Connect(ctx, s.URL)
		if err == nil {
			err = errors.Join(c.Ping(ctx), c.Close(ctx))
		}
		return err == nil
	}
	require.True(t, answers())
	pid := func() int {
		b, err := os.ReadFile(filepath.Join(s.dir, "data", "postmaster.pid"))
		if err != nil {
			return 0
		}
		n, _ := strconv.Atoi(strings.SplitN(string(b), "\n", 2)[0])
		return n
	}
	first := pid()
	require.NoError(t, syscall.Kill(first, syscall.SIGKILL))
	require.Eventually(t, func() bool { return pid() != first && answers() }, time.Minute, 20*time.Millisecond)
	cancel()
	watch.Wait()
	require.NoError(t, s.Stop())
	assert.False(t, s.alive())
	assert.NoError(t, s.revive(context.Background(), func(string) { t.Error("one that was stopped is left alone") }))
}
