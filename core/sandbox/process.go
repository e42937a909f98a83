package sandbox

import (
	"bufio"
	"context"
	"encoding/binary"
	"fmt"
	"io"
	"os"
	"os/exec"
	"runtime/debug"
	"strconv"
	"sync"
	"syscall"
	"time"
)

// Environment variables by which a process knows that it is a child, and of
// what kind, and how much memory it may take.
const (
	kindVariable   = "JUXTAGRAM_CHILD"
	memoryVariable = "JUXTAGRAM_CHILD_MEMORY"
)

// Kind is one kind of child process.
type Kind struct {
	Name string
	// Serve answers what comes in until it ends; the process ends with it.
	Serve func(in io.Reader, out io.Writer) error
}

var (
	mu    sync.Mutex
	ready = map[string]bool{}
)

// Main serves and does not return if this process was started as a child of one
// of the kinds. Otherwise children of these kinds may be started from now on.
func Main(kinds ...Kind) {
	name := os.Getenv(kindVariable)
	mu.Lock()
	for _, k := range kinds {
		ready[k.Name] = true // a child may have children of its own
	}
	mu.Unlock()
	for _, k := range kinds {
		if name == k.Name {
			os.Exit(serve(k))
		}
	}
	if name != "" {
		fmt.Fprintf(os.Stderr, "juxtagram: there is no kind of child process %q\n", name)
		os.Exit(1)
	}
}

func serve(k Kind) int {
	if limit, err := strconv.ParseInt(os.Getenv(memoryVariable), 10, 64); err == nil && limit > 0 {
		if err := limitMemory(uint64(limit)); err != nil {
			fmt.Fprintln(os.Stderr, k.Name+":", err)
		}
		debug.SetMemoryLimit(limit / 10 * 9)
	}
	if err := k.Serve(os.Stdin, os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, k.Name+":", err)
		return 1
	}
	return 0
}

func limitMemory(limit uint64) error {
	return syscall.Setrlimit(syscall.RLIMIT_DATA, &syscall.Rlimit{Cur: limit, Max: limit})
}

// Ready tells whether children of a kind may be started by this program.
func Ready(kind string) bool {
	mu.Lock()
	defer mu.Unlock()
	return ready[kind]
}

// Options steer a child process.
type Options struct {
	Memory int64    // bytes of memory that only it uses; 0: not limited
	Env    []string // besides PATH and TMPDIR
	Alone  bool     // in a session of its own, so that EndSession reaches what it starts
	Log    io.Writer
}

// Process is a running child. Its methods but Kill are for one goroutine at a time.
type Process struct {
	In      *bufio.Writer
	Out     *bufio.Reader
	command *exec.Cmd
	pipe    io.WriteCloser
}

// Start starts a child of a kind.
func Start(kind string, o Options) (*Process, error) {
	exe, err := os.Executable()
	if err != nil {
		return nil, err
	}
	cmd := exec.Command(exe, kind) // its argument only marks it in lists of processes
	cmd.Env = append([]string{"PATH=" + os.Getenv("PATH"), "TMPDIR=" + os.TempDir(), "GOTRACEBACK=none",
		kindVariable + "=" + kind, memoryVariable + "=" + strconv.FormatInt(o.Memory, 10)}, o.Env...)
	cmd.Stderr = o.Log
	cmd.SysProcAttr = &syscall.SysProcAttr{Setsid: o.Alone, Setpgid: !o.Alone}
	cmd.WaitDelay = 2 * time.Second
	pipe, err := cmd.StdinPipe()
	if err != nil {
		return nil, err
	}
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	return &Process{In: bufio.NewWriterSize(pipe, 1<<16), Out: bufio.NewReaderSize(out, 1<<16), command: cmd, pipe: pipe}, nil
}

// PID is the child's process id.
func (p *Process) PID() int { return p.command.Process.Pid }

// Kill ends the child at once. End still has to be called.
func (p *Process) Kill() { _ = p.command.Process.Kill() }

// End ends the child, after a second by force, waits for it, and tells how it ended.
func (p *Process) End() string {
	_ = p.pipe.Close()
	if p.command.ProcessState == nil {
		timer := time.AfterFunc(time.Second, p.Kill)
		_ = p.command.Wait() // how it ended is in its state
		timer.Stop()
	}
	return p.command.ProcessState.String()
}

// Within kills the child when ctx ends or patience runs out. stop takes that back and
// tells which of them came first; both false: neither.
func (p *Process) Within(ctx context.Context, patience time.Duration) (more func(), stop func() (cancelled, late bool)) {
	timer := time.AfterFunc(patience, p.Kill)
	leave := context.AfterFunc(ctx, p.Kill)
	return func() { timer.Reset(patience) }, func() (cancelled, late bool) { return !leave(), !timer.Stop() }
}

// maxPart bounds what one side believes of the other's lengths.
const maxPart = 1 << 30

// Send writes parts, each with its length in four bytes before it.
func Send(w io.Writer, parts ...[]byte) error {
	for _, p := range parts {
		var size [4]byte
		binary.LittleEndian.PutUint32(size[:], uint32(len(p)))
		if _, err := w.Write(size[:]); err != nil {
			return err
		}
		if _, err := w.Write(p); err != nil {
			return err
		}
	}
	return nil
}

// Receive reads one part that Send wrote; nil for an empty one. io.EOF: there is none.
func Receive(r io.Reader) ([]byte, error) {
	var head [4]byte
	if _, err := io.ReadFull(r, head[:]); err != nil {
		return nil, err
	}
	size := binary.LittleEndian.Uint32(head[:])
	if size > maxPart {
		return nil, fmt.Errorf("a part of %d bytes", size)
	}
	if size == 0 {
		return nil, nil
	}
	part := make([]byte, size)
	_, err := io.ReadFull(r, part)
	return part, err
}
