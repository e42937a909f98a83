package reader

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"os"
	"os/exec"
	"time"

	"github.com/fxamacker/cbor/v2"

	"juxtagram/core/facts"
)

// Patience is how long one blob may take from question to answer. The parser's
// own limit is far shorter; this one is for what does not keep to it.
const Patience = 30 * time.Second

// Pool is a number of readers. Its methods may be called by several goroutines.
type Pool struct {
	patience time.Duration
	free     chan *child // a nil child is to be started
}

// New makes a pool of n readers, which are started as they are needed.
func New(n int) *Pool { return newPool(n, Patience) }

func newPool(n int, patience time.Duration) *Pool {
	p := &Pool{patience: patience, free: make(chan *child, n)}
	for range n {
		p.free <- nil
	}
	return p
}

// Warm starts the readers in the background, for blobs that will come.
func (p *Pool) Warm() {
	if !ready.Load() {
		return
	}
	for range cap(p.free) {
		select {
		case c := <-p.free:
			if c != nil {
				p.free <- c
				continue
			}
			go func() {
				c, _ := start() // one that does not start is tried again when it is needed
				p.free <- c
			}()
		default:
		}
	}
}

// Rest ends the readers, once those at work have done, and gives their memory
// back; the next blob starts one again.
func (p *Pool) Rest() {
	p.Close()
	for range cap(p.free) {
		p.free <- nil
	}
}

// Close ends the readers; it waits for those that are at work.
func (p *Pool) Close() {
	for range cap(p.free) {
		if c := <-p.free; c != nil {
			c.end()
		}
	}
}

// decoder takes texts as they were written, UTF-8 or not.
var decoder = func() cbor.DecMode {
	m, err := cbor.DecOptions{UTF8: cbor.UTF8DecodeInvalid}.DecMode()
	if err != nil {
		panic(err) // the options are constants
	}
	return m
}()

// Facts takes the facts of one blob. It never fails: what a reader could not
// read is listed, with the reason. When ctx ends it returns at once, with facts
// that say so.
func (p *Pool) Facts(ctx context.Context, language string, content []byte) *facts.Facts {
	if !ready.Load() {
		return Read(ctx, language, content)
	}
	var c *child
	select {
	case c = <-p.free:
	case <-ctx.Done():
		return givenUp(ctx.Err().Error(), true)
	}
	if c == nil {
		var err error
		if c, err = start(); err != nil {
			p.free <- nil
			return givenUp("no process to read it could be started: "+err.Error(), true)
		}
	}
	got, err := c.ask(ctx, language, content, p.patience)
	if err != nil {
		c.end()
		p.free <- nil
		return givenUp(err.Error(), ctx.Err() != nil)
	}
	p.free <- c
	return got
}

// child is one reader.
type child struct {
	command *exec.Cmd
	in      io.WriteCloser
	writer  *bufio.Writer
	out     *bufio.Reader
}

func start() (*child, error) {
	exe, err := os.Executable()
	if err != nil {
		return nil, err
	}
	// its own arguments only mark it in lists of processes
	cmd := exec.Command(exe, "reader")
	cmd.Env = append(os.Environ(), asked+"=1", "GOTRACEBACK=none")
	in, err := cmd.StdinPipe()
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
	return &child{command: cmd, in: in, writer: bufio.NewWriterSize(in, 1<<16), out: bufio.NewReaderSize(out, 1<<16)}, nil
}

// ask sends one blob and waits for its facts. After an error the child is of no
// more use.
func (c *child) ask(ctx context.Context, language string, content []byte, patience time.Duration) (*facts.Facts, error) {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	stop := context.AfterFunc(ctx, func() { _ = c.command.Process.Kill() })
	got, err := c.exchange(language, content)
	if !stop() && err != nil {
		if ctx.Err() == context.DeadlineExceeded {
			return nil, fmt.Errorf("reading took longer than %s", patience)
		}
		return nil, ctx.Err()
	}
	if err != nil {
		return nil, fmt.Errorf("reading it ended the process that did (%s)", c.end())
	}
	return got, nil
}

func (c *child) exchange(language string, content []byte) (*facts.Facts, error) {
	if err := send(c.writer, []byte(language), content); err != nil {
		return nil, err
	}
	if err := c.writer.Flush(); err != nil {
		return nil, err
	}
	brief, err := receive(c.out)
	if err != nil {
		return nil, err
	}
	got := new(facts.Facts)
	for _, part := range []*[]byte{&got.Packed, &got.Linked.Head, &got.Linked.Matter, &got.Linked.Terms} {
		if *part, err = receive(c.out); err != nil {
			return nil, err
		}
	}
	if err := decoder.Unmarshal(brief, got); err != nil {
		return nil, err
	}
	return got, nil
}

// end ends the process, waits for it, and tells how it ended.
func (c *child) end() string {
	_ = c.in.Close()
	if c.command.ProcessState == nil {
		timer := time.AfterFunc(time.Second, func() { _ = c.command.Process.Kill() })
		_ = c.command.Wait() // how it ended is in its state
		timer.Stop()
	}
	return c.command.ProcessState.String()
}
