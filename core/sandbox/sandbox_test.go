package sandbox

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var hostile = New("hostile", Budget{Bytes: 1 << 20, Time: 600 * time.Millisecond}, func(in []byte) ([]byte, error) {
	switch string(in) {
	case "hang":
		for {
		}
	case "crash":
		_ = syscall.Kill(os.Getpid(), syscall.SIGSEGV)
		select {}
	case "nest":
		return nil, fmt.Errorf("%d", nest(0))
	case "fail":
		return nil, errors.New("line 3")
	case "silent":
		return nil, errors.New("")
	}
	return []byte(strings.ToUpper(string(in))), nil
})

var greedy = New("greedy", Budget{Bytes: 10, Time: 20 * time.Second}, func([]byte) ([]byte, error) {
	var all [][]byte
	for {
		b := make([]byte, 16<<20)
		for i := range b {
			b[i] = 1
		}
		all = append(all, b)
	}
})

func nest(n int) int { return nest(n+1) + n }

// a child that starts another, says so, and waits
var family = Kind{Name: "family", Serve: func(in io.Reader, out io.Writer) error {
	cmd := exec.Command("sleep", "1000")
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if err := cmd.Start(); err != nil {
		return err
	}
	if os.Getenv("FAMILY") == "busy" {
		go func() {
			for {
			}
		}()
	}
	if os.Getenv("FAMILY") == "large" {
		b := make([]byte, 200<<20)
		for i := range b {
			b[i] = 1
		}
		defer func() { _ = b[0] }()
	}
	if err := Send(out, []byte(fmt.Sprint(cmd.Process.Pid))); err != nil {
		return err
	}
	_, err := io.Copy(io.Discard, in)
	return err
}}

func TestMain(m *testing.M) {
	Main(Tasks, family)
	os.Exit(m.Run())
}

func TestATaskIsBounded(t *testing.T) {
	defer Rest()
	ctx := context.Background()
	for range 3 {
		out, err := hostile.Run(ctx, []byte("a gauge"))
		require.NoError(t, err)
		assert.Equal(t, "A GAUGE", string(out))
		_, err = hostile.Run(ctx, []byte("fail"))
		assert.EqualError(t, err, "line 3")
		_, err = hostile.Run(ctx, []byte("silent"))
		assert.EqualError(t, err, "it failed")
		for in, reason := range map[string]string{"hang": "longer than 600ms", "crash": "ended the process", "nest": ""} {
			_, err = hostile.Run(ctx, []byte(in))
			var given *GivenUp
			require.ErrorAs(t, err, &given, in)
			assert.Contains(t, given.Reason, reason, in)
		}
	}
	_, err := hostile.Run(ctx, make([]byte, 1<<20+1))
	assert.EqualError(t, err, "it has more than 1024 kB")
	_, err = greedy.Run(ctx, nil)
	assert.ErrorContains(t, err, "too much memory")
}

func TestACallerWhoLeavesIsNotWaitedFor(t *testing.T) {
	defer Rest()
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan error)
	go func() { _, err := greedy.Run(ctx, nil); done <- err }()
	cancel()
	assert.ErrorIs(t, <-done, context.Canceled)
	_, err := hostile.Run(ctx, []byte("a"))
	assert.ErrorIs(t, err, context.Canceled)
}

func alive(pid string) bool {
	b, err := os.ReadFile("/proc/" + pid + "/stat")
	return err == nil && !strings.Contains(string(b), ") Z ")
}

// What a child started is ended with it, in whatever group it is.
func TestASessionIsEndedAsAWhole(t *testing.T) {
	p, err := Start(family.Name, Options{Alone: true})
	require.NoError(t, err)
	started, err := Receive(p.Out)
	require.NoError(t, err)
	require.True(t, alive(string(started)))
	EndSession(p.PID())
	assert.Contains(t, p.End(), "killed")
	assert.Eventually(t, func() bool { return !alive(string(started)) }, 5*time.Second, time.Millisecond)
}

func TestLimitsAreWatched(t *testing.T) {
	for _, c := range []struct {
		does   string
		limits Limits
		want   string
	}{
		{"busy", Limits{Processor: 200 * time.Millisecond}, "it takes more than 200ms of processor time"},
		{"large", Limits{Memory: 100 << 20}, "it takes more than 100 MB of memory"},
		{"", Limits{Wall: 200 * time.Millisecond}, "it takes longer than 200ms"},
		{"large", Limits{Memory: 100 << 20, Wall: time.Nanosecond}, "it takes more than 100 MB of memory"}, // of two, the first in this order
		{"large", Limits{}, ""}, // none
	} {
		p, err := Start(family.Name, Options{Alone: true, Env: []string{"FAMILY=" + c.does}})
		require.NoError(t, err)
		_, err = Receive(p.Out)
		require.NoError(t, err)
		ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
		if c.want == "" {
			ctx, cancel = context.WithTimeout(ctx, 300*time.Millisecond)
		}
		assert.Equal(t, c.want, c.limits.Watch(ctx, p.PID()))
		cancel()
		EndSession(p.PID())
		p.End()
	}
	assert.Equal(t, "30m", words(30*time.Minute))
	assert.Equal(t, "1h", words(time.Hour))
	assert.Equal(t, "1m30s", words(90*time.Second))
}

func TestHostileLengthsAreRefused(t *testing.T) {
	_, err := Receive(strings.NewReader("\xff\xff\xff\xff"))
	assert.ErrorContains(t, err, "a part of 4294967295 bytes")
	_, err = Receive(strings.NewReader("\x02\x00\x00\x00G"))
	assert.ErrorIs(t, err, io.ErrUnexpectedEOF)
}
