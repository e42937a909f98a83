package syntax

/*
#cgo LDFLAGS: -Wl,--warn-unresolved-symbols
#include "walk.h"
*/
import "C"

import (
	"sync"
	"unsafe"

	sitter "github.com/smacker/go-tree-sitter"
)

// ErrorNode is the symbol of text that the grammar could not place.
const ErrorNode = 0xffff

// idleParsers is how many parsers of a grammar are kept for the next text.
const idleParsers = 8

// Grammar is a grammar with its names. It is safe for use by several
// goroutines; parsers are pooled.
type Grammar struct {
	language unsafe.Pointer
	types    []string // by symbol
	named    []bool
	drop     []uint8
	symbols  map[string][]uint16
	fields   map[string]uint16
	machines chan *C.jx_machine // ready parsers; C memory, so no pool that forgets
	shared   []byte             // the first state of what all parsers have in common; none: nothing
	alone    sync.Mutex         // held by a parser that shares it
}

// NewGrammar readies a grammar of the grammar library. Of the bare tokens, such
// as "if" and "+", trees hold those alone that tokens names: the others would
// make them half as long again.
func NewGrammar(l *sitter.Language, tokens ...string) *Grammar {
	// The library keeps the C pointer as the only field of its Language.
	g := &Grammar{language: *(*unsafe.Pointer)(unsafe.Pointer(l)), symbols: map[string][]uint16{}, fields: map[string]uint16{},
		machines: make(chan *C.jx_machine, idleParsers)}
	state := make([]byte, C.JX_MAX_STATE)
	g.shared = state[:C.jx_shared_state(g.language, (*C.char)(unsafe.Pointer(&state[0])))]
	wanted := map[string]bool{}
	for _, t := range tokens {
		wanted[t] = true
	}
	for s := range uint16(C.jx_symbol_count(g.language)) {
		name := C.GoString(C.jx_symbol_name(g.language, C.uint16_t(s)))
		kind := C.jx_symbol_type(g.language, C.uint16_t(s))
		g.types = append(g.types, name)
		g.named = append(g.named, kind == 0)
		dropped := uint8(0)
		if kind == 1 && !wanted[name] {
			dropped = 1
		}
		g.drop = append(g.drop, dropped)
		if kind < 2 {
			g.symbols[name] = append(g.symbols[name], s)
		}
	}
	for f := C.uint16_t(1); uint32(f) <= uint32(C.jx_field_count(g.language)); f++ {
		g.fields[C.GoString(C.jx_field_name(g.language, f))] = uint16(f)
	}
	return g
}

// SymbolCount is the number of symbols of the grammar.
func (g *Grammar) SymbolCount() int { return len(g.types) }

// Type is the name of a symbol ("function_declaration", "+"), "ERROR" for
// ErrorNode.
func (g *Grammar) Type(symbol uint16) string {
	if int(symbol) < len(g.types) {
		return g.types[symbol]
	}
	return "ERROR"
}

// Named tells named symbols from bare tokens such as "+".
func (g *Grammar) Named(symbol uint16) bool { return int(symbol) >= len(g.named) || g.named[symbol] }

// Symbols are the symbols that bear a name: none if the grammar has no such
// node, more than one where it makes the same node in several ways.
func (g *Grammar) Symbols(name string) []uint16 { return g.symbols[name] }

// FieldCount is the number of fields; they are numbered from 1.
func (g *Grammar) FieldCount() int { return len(g.fields) }

// Field is the number of a field by its name; 0: the grammar has none such.
func (g *Grammar) Field(name string) uint16 { return g.fields[name] }
