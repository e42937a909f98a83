package repo

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"strings"
	"syscall"
	"time"
)

// Git runs plumbing commands in one bare repository. It is safe for concurrent
// use: it holds no process between calls.
type Git struct{ dir string }

// At returns a Git for the bare repository in dir. Nothing is opened or checked.
func At(dir string) *Git { return &Git{dir: dir} }

// Dir is the folder of the bare repository.
func (g *Git) Dir() string { return g.dir }

// Error is a git command that ended with a failure. Stderr holds at most the
// last 2,000 bytes of what the command said.
type Error struct {
	Args   []string
	Stderr string
	Err    error
}

func (e *Error) Error() string {
	if s := strings.TrimSpace(e.Stderr); s != "" {
		return fmt.Sprintf("git %s: %s", e.Args[0], s)
	}
	return fmt.Sprintf("git %s: %v", e.Args[0], e.Err)
}

func (e *Error) Unwrap() error { return e.Err }

// Environ is the closed environment every git process of ours gets. PATH is
// the only thing inherited, besides proxy and certificate settings which only
// commands that speak to a network use.
func Environ(extra ...string) []string {
	env := []string{
		"PATH=" + os.Getenv("PATH"),
		"HOME=/nonexistent",
		"LC_ALL=C",
		"GIT_CONFIG_NOSYSTEM=1",
		"GIT_CONFIG_GLOBAL=" + os.DevNull,
		"GIT_ATTR_NOSYSTEM=1",
		"GIT_NO_REPLACE_OBJECTS=1",
		"GIT_OPTIONAL_LOCKS=0",
		"GIT_TERMINAL_PROMPT=0",
		"GIT_PAGER=cat",
	}
	return append(env, extra...)
}

// SafeConfig are the settings put before every git command: whatever the
// repository's own configuration says, these win.
var SafeConfig = []string{
	"-c", "core.hooksPath=/dev/null",
	"-c", "core.fsmonitor=false",
	"-c", "core.attributesFile=/dev/null",
	"-c", "core.quotePath=false",
	"-c", "gc.auto=0",
	"-c", "maintenance.auto=false",
	"-c", "safe.directory=*",
}

// Command prepares a git command in the repository. Its process group is its
// own, and is ended as a whole when ctx is done.
func (g *Git) Command(ctx context.Context, env []string, args ...string) *exec.Cmd {
	all := append([]string{"--git-dir=" + g.dir, "-c", "protocol.allow=never"}, SafeConfig...)
	return prepare(ctx, env, append(all, args...)...)
}

func prepare(ctx context.Context, env []string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, "git", args...)
	cmd.Env = Environ(env...)
	cmd.Dir = os.TempDir()
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	cmd.Cancel = func() error { return syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL) }
	cmd.WaitDelay = 2 * time.Second
	return cmd
}

// Run runs one command to its end and returns what it wrote. The error is an
// *Error, or ctx's when that ended it.
func (g *Git) Run(ctx context.Context, args ...string) ([]byte, error) {
	return g.RunInput(ctx, nil, args...)
}

// RunInput is Run with a standard input.
func (g *Git) RunInput(ctx context.Context, in io.Reader, args ...string) ([]byte, error) {
	cmd := g.Command(ctx, nil, args...)
	cmd.Stdin = in
	var out bytes.Buffer
	var said Tail
	cmd.Stdout, cmd.Stderr = &out, &said
	if err := cmd.Run(); err != nil {
		return out.Bytes(), wrap(ctx, args, &said, err)
	}
	return out.Bytes(), nil
}

// stream starts a command, hands its output to read, and waits for it. When
// read fails the command is ended and read's error returned.
func (g *Git) stream(ctx context.Context, in io.Reader, read func(io.Reader) error, args ...string) error {
	running, cancel := context.WithCancel(ctx)
	defer cancel()
	cmd := g.Command(running, nil, args...)
	cmd.Stdin = in
	var said Tail
	cmd.Stderr = &said
	out, err := cmd.StdoutPipe()
	if err != nil {
		return err
	}
	if err := cmd.Start(); err != nil {
		return wrap(ctx, args, &said, err)
	}
	readErr := read(out)
	if readErr != nil {
		cancel()
	}
	_, _ = io.Copy(io.Discard, out)
	waitErr := cmd.Wait()
	if waitErr != nil && (readErr == nil || errors.Is(readErr, io.ErrUnexpectedEOF)) {
		return wrap(ctx, args, &said, waitErr)
	}
	return readErr
}

func wrap(ctx context.Context, args []string, said *Tail, err error) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	return &Error{Args: args, Stderr: said.String(), Err: err}
}

// Tail is a writer that keeps the last 2,000 bytes written to it.
type Tail struct{ b []byte }

const tailSize = 2000

func (t *Tail) Write(p []byte) (int, error) {
	t.b = append(t.b, p...)
	if len(t.b) > 2*tailSize {
		t.b = append([]byte(nil), t.b[len(t.b)-tailSize:]...)
	}
	return len(p), nil
}

// String is what was kept, trimmed to 2,000 bytes.
func (t *Tail) String() string {
	b := t.b
	if len(b) > tailSize {
		b = b[len(b)-tailSize:]
	}
	return strings.ToValidUTF8(string(b), "?")
}
