// Package e2e uses the product as people do: the built program, a real
// browser, a real database.
package e2e

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
	"juxtagram/localpg/pgtest"
)

var (
	program string
	chrome  *browser.Browser
)

func TestMain(m *testing.M) {
	// a result is kept for one run alone: the program under test is built here
	os.Getenv("E2E_RUN")
	dir, err := os.MkdirTemp("", "juxtagram-e2e-")
	if err == nil {
		program = filepath.Join(dir, "juxtagram")
		var out []byte
		if out, err = exec.Command("go", "build", "-o", program, "../cmd/juxtagram").CombinedOutput(); err != nil {
			err = fmt.Errorf("%w: %s", err, out)
		}
	}
	if err == nil {
		chrome, err = browser.Start(context.Background())
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "e2e:", err)
		os.Exit(1)
	}
	pgtest.Finally(func() {
		chrome.Close()
		_ = os.RemoveAll(dir)
	})
	pgtest.Main(m)
}

// served is the program as it runs.
type served struct {
	t    *testing.T
	cmd  *exec.Cmd
	base string
}

// serve starts the program on a database and a folder and waits for its
// address. listen keeps the address over a restart.
func serve(t *testing.T, database, data, listen string, args ...string) *served {
	t.Helper()
	cmd := exec.Command(program, append([]string{"serve", "--database-url", database, "--data", data, "--listen", listen}, args...)...)
	cmd.Stderr = os.Stderr
	stdout, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	s := &served{t: t, cmd: cmd}
	t.Cleanup(func() { s.stop(syscall.SIGKILL) })
	sc := bufio.NewScanner(stdout)
	for s.base == "" {
		require.True(t, sc.Scan(), "the program gave no address")
		s.base = regexp.MustCompile(`http://\S+`).FindString(sc.Text())
	}
	go func() {
		for sc.Scan() { // keeps the pipe from filling
		}
	}()
	return s
}

func (s *served) stop(signal syscall.Signal) {
	if s.cmd.ProcessState != nil {
		return
	}
	_ = s.cmd.Process.Signal(signal)
	done := make(chan error, 1)
	go func() { done <- s.cmd.Wait() }()
	select {
	case err := <-done:
		var exit *exec.ExitError
		if signal == syscall.SIGINT && errors.As(err, &exit) {
			s.t.Errorf("the program ended with %v", err)
		}
	case <-time.After(30 * time.Second):
		s.t.Error("the program did not stop")
	}
}

// steps does one thing after the other and fails at the first that does not
// work.
func steps(t *testing.T, list ...error) {
	t.Helper()
	for _, err := range list {
		require.NoError(t, err)
	}
}

func page(t *testing.T, s *served) *browser.Page {
	t.Helper()
	p, err := chrome.NewPage(s.base)
	require.NoError(t, err)
	t.Cleanup(p.Close)
	return p
}
