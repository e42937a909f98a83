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

// Warm starts up to n readers in the background, for blobs that will come.
func (p *Pool) Warm(n int) {
	if !ready.Load() {
		return
	}
	for range min(n, cap(p.free)) {
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

// Blob is a text to be read as a language, by its name; "" for what the text itself
// says.
type Blob struct {
	Language string
	Content  []byte
}

// AtOnce is how many bytes of blobs are handed to a reader at once: what a question
// costs besides reading is then a hundredth.
const AtOnce = 256 << 10

// Together tells how many of some blobs, from the first on, are best asked for at once:
// what a question costs besides reading is shared by small ones.
func Together(blobs []Blob) int {
	n, size := 0, 0
	for n < len(blobs) && (n == 0 || size+len(blobs[n].Content) <= AtOnce) {
		size += len(blobs[n].Content)
		n++
	}
	return n
}

// Facts takes the facts of one blob. It never fails: what a reader could not
// read is listed, with the reason. When ctx ends it returns at once, with facts
// that say so.
func (p *Pool) Facts(ctx context.Context, language string, content []byte) *facts.Facts {
	return p.FactsOf(ctx, []Blob{{language, content}})[0]
}

// FactsOf takes the facts of several blobs, each as Facts does of one. Where a reader
// ends over one of them, those that it has not answered are asked for one by one.
func (p *Pool) FactsOf(ctx context.Context, blobs []Blob) []*facts.Facts {
	out := make([]*facts.Facts, 0, len(blobs))
	for len(blobs) > 0 {
		got := p.answers(ctx, blobs[:Together(blobs)])
		out, blobs = append(out, got...), blobs[len(got):]
	}
	return out
}

// answers are those to the first of some blobs, to one at least.
func (p *Pool) answers(ctx context.Context, blobs []Blob) []*facts.Facts {
	if !ready.Load() {
		return []*facts.Facts{Read(ctx, blobs[0].Language, blobs[0].Content)}
	}
	if ctx.Err() != nil {
		return []*facts.Facts{givenUp(ctx.Err().Error(), true)} // no reader need be ended for it
	}
	var c *child
	select {
	case c = <-p.free:
	case <-ctx.Done():
		return []*facts.Facts{givenUp(ctx.Err().Error(), true)}
	}
	if c == nil {
		var err error
		if c, err = start(); err != nil {
			p.free <- nil
			return []*facts.Facts{givenUp("no process to read it could be started: "+err.Error(), true)}
		}
	}
	got, err := c.ask(ctx, blobs, p.patience)
	if err == nil {
		p.free <- c
		return got
	}
	c.end()
	p.free <- nil
	switch {
	case len(got) > 0:
		return got
	case len(blobs) == 1 || ctx.Err() != nil:
		return []*facts.Facts{givenUp(err.Error(), ctx.Err() != nil)}
	}
	return p.answers(ctx, blobs[:1]) // it may be the first that ended it
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

// ask sends blobs and waits for their facts, for each as long as patience. After an
// error the child is of no more use; what it answered before is given nevertheless.
func (c *child) ask(ctx context.Context, blobs []Blob, patience time.Duration) ([]*facts.Facts, error) {
	kill := func() { _ = c.command.Process.Kill() }
	timer := time.AfterFunc(patience, kill)
	stop := context.AfterFunc(ctx, kill)
	sent := make(chan error, 1)
	go func() { sent <- c.send(blobs) }()
	got, err := make([]*facts.Facts, 0, len(blobs)), error(nil)
	for len(got) < len(blobs) && err == nil {
		var f *facts.Facts
		if f, err = c.answer(); err == nil {
			got = append(got, f)
			timer.Reset(patience)
		}
	}
	if err != nil {
		kill() // so that nobody waits to send more
	}
	if failed := <-sent; err == nil {
		err = failed
	}
	cancelled, late := !stop(), !timer.Stop()
	switch {
	case cancelled: // it is killed, even where it had answered all
		return got, ctx.Err()
	case late:
		return got, fmt.Errorf("reading took longer than %s", patience)
	case err == nil:
		return got, nil
	}
	return got, fmt.Errorf("reading it ended the process that did (%s)", c.end())
}

func (c *child) send(blobs []Blob) error {
	for i := range blobs {
		if err := send(c.writer, []byte(blobs[i].Language), blobs[i].Content); err != nil {
			return err
		}
	}
	return c.writer.Flush()
}

func (c *child) answer() (*facts.Facts, error) {
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
