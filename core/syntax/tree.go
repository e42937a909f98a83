package syntax

// #include "walk.h"
import "C"

import (
	"bytes"
	"context"
	"errors"
	"time"
	"unsafe"
)

// Limits of one parse.
const (
	MaxTime  = 2 * time.Second // of parsing, by the parser's own clock
	MaxNodes = 12_000_000      // 384 MB
	keepSize = 1 << 20         // nodes a pooled parser may hold on to
)

// Why a text was given up.
var (
	ErrTime  = errors.New("parsing took longer than 2 seconds")
	ErrNodes = errors.New("the syntax tree has more than 12 million nodes")
)

var errMemory = errors.New("the syntax tree does not fit into memory")

// idle holds what texts are read with, ready for the next ones; it is C memory,
// so no pool that forgets.
var idle = make(chan *C.jx_machine, 8)

func init() { C.jx_memory_install() }

// Node is one node of a tree. None stands for "no node" in indices.
type Node struct {
	Symbol, Field uint16
	Start, End    uint32 // bytes, End not included
	Row, EndRow   uint32 // lines, from 0; EndRow is that of the byte after the last
	Parent        uint32
	Next          uint32 // first node after this one's subtree
}

// None is the index of no node.
const None = 0xffffffff

// Tree is a parsed text. Its nodes are good until Close.
type Tree struct {
	Grammar *Grammar
	Text    []byte
	Nodes   []Node
	machine *C.jx_machine
}

// Range is a run of bytes of a text; End is not included.
type Range struct{ Start, End int }

// Parse parses a text, or only the given ranges of it (in order, not
// overlapping; offsets and lines stay those of the whole text). The text must
// not change before Close. Errors: ErrTime, ErrNodes, the context's.
func (g *Grammar) Parse(ctx context.Context, text []byte, ranges ...Range) (*Tree, error) {
	var m *C.jx_machine
	select {
	case m = <-idle:
	default:
		if m = C.jx_new(); m == nil {
			return nil, errMemory
		}
	}
	var start *C.char
	if len(text) > 0 {
		start = (*C.char)(unsafe.Pointer(unsafe.SliceData(text)))
	}
	within := pointRanges(text, ranges)
	var first *C.TSRange
	if len(within) > 0 {
		first = &within[0]
	}
	if len(g.shared) > 0 { // the last text, if it was broken, left its traces there
		g.alone.Lock()
		defer g.alone.Unlock()
		C.jx_set_shared_state(g.language, (*C.char)(unsafe.Pointer(&g.shared[0])), C.size_t(len(g.shared)))
	}
	stopped := make(chan struct{})
	end := context.AfterFunc(ctx, func() {
		C.jx_stop(m)
		close(stopped)
	})
	status := C.jx_parse(m, g.inC, start, C.uint32_t(len(text)), first, C.uint32_t(len(within)), MaxNodes, C.uint64_t(MaxTime.Microseconds()))
	t := &Tree{Grammar: g, Text: text, machine: m}
	if !end() {
		<-stopped // the next text must not be stopped by it
		if status == C.JX_STOPPED {
			t.Close()
			return nil, context.Cause(ctx)
		}
	}
	switch status {
	case C.JX_OK:
		t.Nodes = unsafe.Slice((*Node)(unsafe.Pointer(m.nodes)), int(m.count))
		return t, nil
	case C.JX_STOPPED:
		t.Close()
		return nil, ErrTime
	case C.JX_TOO_MANY:
		t.Close()
		return nil, ErrNodes
	case C.JX_NO_MEMORY:
		t.Close()
		return nil, errMemory
	case C.JX_BAD_GRAMMAR:
		t.Close()
		return nil, errors.New("the grammar does not fit the runtime it is linked with")
	}
	t.Close()
	return nil, errors.New("the parts to be parsed overlap")
}

// Close gives the nodes back.
func (t *Tree) Close() {
	C.jx_rest(t.machine, keepSize)
	t.Nodes = nil
	select {
	case idle <- t.machine:
	default:
		C.jx_free(t.machine)
	}
	t.machine = nil
}

func pointRanges(text []byte, ranges []Range) []C.TSRange {
	out := make([]C.TSRange, 0, len(ranges))
	for _, r := range ranges {
		out = append(out, C.TSRange{
			start_byte: C.uint32_t(r.Start), start_point: pointOf(text, r.Start),
			end_byte: C.uint32_t(r.End), end_point: pointOf(text, r.End),
		})
	}
	return out
}

func pointOf(text []byte, at int) C.TSPoint {
	head := text[:at]
	return C.TSPoint{row: C.uint32_t(bytes.Count(head, []byte{'\n'})), column: C.uint32_t(at - 1 - bytes.LastIndexByte(head, '\n'))}
}

// Type is the name of a node's symbol.
func (t *Tree) Type(i uint32) string { return t.Grammar.Type(t.Nodes[i].Symbol) }

// Source is a node's text; it must not be changed.
func (t *Tree) Source(i uint32) []byte { return t.Text[t.Nodes[i].Start:t.Nodes[i].End] }

// Child is the first child of a node that stands in a field; None: it has none.
func (t *Tree) Child(i uint32, field string) uint32 {
	id := t.Grammar.fields[field]
	if id == 0 || i == None {
		return None
	}
	for c := i + 1; c < t.Nodes[i].Next; c = t.Nodes[c].Next {
		if t.Nodes[c].Field == id {
			return c
		}
	}
	return None
}

// ChildOf is the first child of a node with one of the given types; None: it
// has none.
func (t *Tree) ChildOf(i uint32, types ...string) uint32 {
	if i == None {
		return None
	}
	for c := i + 1; c < t.Nodes[i].Next; c = t.Nodes[c].Next {
		name := t.Type(c)
		for _, want := range types {
			if name == want {
				return c
			}
		}
	}
	return None
}

// Children yields the children of a node, in order.
func (t *Tree) Children(i uint32) func(yield func(uint32) bool) {
	return func(yield func(uint32) bool) {
		if i == None {
			return
		}
		for c := i + 1; c < t.Nodes[i].Next; c = t.Nodes[c].Next {
			if !yield(c) {
				return
			}
		}
	}
}
