package reader

import (
	"context"
	"fmt"
	"time"

	"github.com/fxamacker/cbor/v2"

	"juxtagram/core/facts"
	"juxtagram/core/sandbox"
)

// Patience is how long one blob may take from question to answer. The parser's
// own limit is far shorter; this one is for what does not keep to it.
const Patience = 10 * time.Second

// Pool is a number of readers. Its methods may be called by several goroutines.
type Pool struct {
	patience time.Duration
	free     chan *sandbox.Process // a nil one is to be started
}

// New makes a pool of n readers, which are started as they are needed.
func New(n int) *Pool { return newPool(n, Patience) }

func newPool(n int, patience time.Duration) *Pool {
	p := &Pool{patience: patience, free: make(chan *sandbox.Process, n)}
	for range n {
		p.free <- nil
	}
	return p
}

// Warm starts up to n readers in the background, for blobs that will come.
func (p *Pool) Warm(n int) {
	if !sandbox.Ready(kindName) {
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
			c.End()
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
	if !sandbox.Ready(kindName) {
		return []*facts.Facts{Read(ctx, blobs[0].Language, blobs[0].Content)}
	}
	if ctx.Err() != nil {
		return []*facts.Facts{givenUp(ctx.Err().Error(), true)} // no reader need be ended for it
	}
	var c *sandbox.Process
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
	got, err := ask(ctx, c, blobs, p.patience)
	if err == nil {
		p.free <- c
		return got
	}
	c.End()
	p.free <- nil
	switch {
	case len(got) > 0:
		return got
	case len(blobs) == 1 || ctx.Err() != nil:
		return []*facts.Facts{givenUp(err.Error(), ctx.Err() != nil)}
	}
	return p.answers(ctx, blobs[:1]) // it may be the first that ended it
}

func start() (*sandbox.Process, error) {
	return sandbox.Start(kindName, sandbox.Options{Memory: maxData})
}

// ask sends blobs and waits for their facts, for each as long as patience. After an
// error the child is of no more use; what it answered before is given nevertheless.
func ask(ctx context.Context, c *sandbox.Process, blobs []Blob, patience time.Duration) ([]*facts.Facts, error) {
	more, stop := c.Within(ctx, patience)
	sent := make(chan error, 1)
	go func() { sent <- send(c, blobs) }()
	got, err := make([]*facts.Facts, 0, len(blobs)), error(nil)
	for len(got) < len(blobs) && err == nil {
		var f *facts.Facts
		if f, err = answer(c); err == nil {
			got = append(got, f)
			more()
		}
	}
	if err != nil {
		c.Kill() // so that nobody waits to send more
	}
	if failed := <-sent; err == nil {
		err = failed
	}
	switch cancelled, late := stop(); {
	case cancelled: // it is killed, even where it had answered all
		return got, ctx.Err()
	case late:
		return got, fmt.Errorf("reading took longer than %s", patience)
	case err == nil:
		return got, nil
	}
	return got, fmt.Errorf("reading it ended the process that did (%s)", c.End())
}

func send(c *sandbox.Process, blobs []Blob) error {
	for i := range blobs {
		if err := sandbox.Send(c.In, []byte(blobs[i].Language), blobs[i].Content); err != nil {
			return err
		}
	}
	return c.In.Flush()
}

func answer(c *sandbox.Process) (*facts.Facts, error) {
	brief, err := sandbox.Receive(c.Out)
	if err != nil {
		return nil, err
	}
	got := new(facts.Facts)
	for _, part := range []*[]byte{&got.Packed, &got.Linked.Head, &got.Linked.Matter, &got.Linked.Terms} {
		if *part, err = sandbox.Receive(c.Out); err != nil {
			return nil, err
		}
	}
	if err := decoder.Unmarshal(brief, got); err != nil {
		return nil, err
	}
	return got, nil
}
