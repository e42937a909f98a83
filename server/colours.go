package server

import (
	"bytes"
	"context"
	"sync"

	"juxtagram/core/highlight"
	"juxtagram/core/lang"
)

// colours keeps the pieces of the files looked at last. A long file is worked
// out as a whole in the background, one at a time; until then the lines asked
// for are coloured from what stands right before them.
type colours struct {
	memory  *memory
	ctx     context.Context
	stop    context.CancelFunc
	wait    sync.WaitGroup
	turn    chan struct{}
	mu      sync.Mutex
	pending map[string]bool
}

// leadIn is how many lines before the ones asked for are looked at.
const leadIn = 200

func newColours(m *memory) *colours {
	c := &colours{memory: m, turn: make(chan struct{}, 1), pending: map[string]bool{}}
	c.ctx, c.stop = context.WithCancel(context.Background())
	return c
}

// coloursOf names the pieces of a text, which are the same in every repository.
func coloursOf(key string) memoryKey { return memoryKey{"colours", 0, key} }

// coloured is a text's pieces, or why it has none: what is given up is not tried again
// for each who asks.
type coloured struct {
	lines [][]highlight.Piece
	why   error
}

func (c *colours) keep(ctx context.Context, key string, lines [][]highlight.Piece, why error) {
	if ctx.Err() != nil {
		return
	}
	const line, piece = 24, 16 // bytes
	bytes := int64(len(lines) * line)
	for _, l := range lines {
		bytes += int64(len(l) * piece)
	}
	c.memory.keep(coloursOf(key), &coloured{lines, why}, bytes)
}

func (c *colours) close() {
	c.stop()
	c.wait.Wait()
}

// lines returns the pieces of lines from..to (from 1, as far as there are
// any). rough tells that they come from the lines around alone; why, that there
// are none.
func (c *colours) lines(ctx context.Context, blob string, l *lang.Language, content []byte, from, to int) (lines [][]highlight.Piece, rough bool, why error) {
	key := blob + " " + l.Name
	held, known := c.memory.get(coloursOf(key))
	if known && (held.(*coloured).why == nil || len(content) <= highlight.Quick) {
		return window(held.(*coloured).lines, from, to), false, held.(*coloured).why
	}
	if len(content) <= highlight.Quick {
		whole, why := highlight.Lines(ctx, l, content)
		c.keep(ctx, key, whole, why)
		return window(whole, from, to), false, why
	}
	if !known { // else it was given up as a whole, and only the lines around can tell
		c.later(key, l, content)
	}
	first := max(1, from-leadIn)
	part, why := highlight.Lines(ctx, l, bytes.Join(cut(content, first, to), []byte("\n")))
	return window(part, from-first+1, to-first+1), !known, why
}

func window(lines [][]highlight.Piece, from, to int) [][]highlight.Piece {
	from, to = min(from-1, len(lines)), min(to, len(lines))
	return lines[from:max(from, to)]
}

func (c *colours) later(key string, l *lang.Language, content []byte) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.pending[key] || c.ctx.Err() != nil {
		return
	}
	c.pending[key] = true
	c.wait.Go(func() {
		defer func() {
			c.mu.Lock()
			defer c.mu.Unlock()
			delete(c.pending, key)
		}()
		select {
		case c.turn <- struct{}{}:
			defer func() { <-c.turn }()
		case <-c.ctx.Done():
			return
		}
		whole, why := highlight.Lines(c.ctx, l, content)
		c.keep(c.ctx, key, whole, why)
	})
}
