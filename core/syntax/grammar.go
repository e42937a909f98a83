package syntax

/*
#cgo LDFLAGS: -Wl,--warn-unresolved-symbols
#include <stdlib.h>
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

// Grammar is a grammar with its names. It is safe for use by several
// goroutines.
type Grammar struct {
	language unsafe.Pointer
	inC      *C.jx_grammar
	types    []string // by symbol
	named    []bool
	symbols  map[string][]uint16
	fields   map[string]uint16
	shared   []byte              // the first state of what all parsers have in common; none: nothing
	alone    sync.Mutex          // held by a parser that shares it
	bare     chan unsafe.Pointer // idle parsers of Bare
}

// NewGrammar readies a grammar of the grammar library. Of the bare tokens, such
// as "if" and "+", trees hold those alone that tokens names: the others would
// make them half as long again.
func NewGrammar(l *sitter.Language, tokens ...string) *Grammar {
	// The library keeps the C pointer as the only field of its Language.
	g := &Grammar{language: *(*unsafe.Pointer)(unsafe.Pointer(l)), symbols: map[string][]uint16{}, fields: map[string]uint16{}, bare: make(chan unsafe.Pointer, 8)}
	state := make([]byte, C.JX_MAX_STATE)
	g.shared = state[:C.jx_shared_state(g.language, (*C.char)(unsafe.Pointer(&state[0])))]
	wanted := map[string]bool{}
	for _, t := range tokens {
		wanted[t] = true
	}
	var drop []byte
	for s := range uint16(C.jx_symbol_count(g.language)) {
		name := C.GoString(C.jx_symbol_name(g.language, C.uint16_t(s)))
		kind := C.jx_symbol_type(g.language, C.uint16_t(s))
		g.types = append(g.types, name)
		g.named = append(g.named, kind == 0)
		dropped := uint8(0)
		if kind == 1 && !wanted[name] {
			dropped = 1
		}
		drop = append(drop, dropped)
		if kind < 2 {
			g.symbols[name] = append(g.symbols[name], s)
		}
	}
	// C keeps it as long as the program runs, as it keeps the grammars
	g.inC = (*C.jx_grammar)(C.malloc(C.sizeof_jx_grammar))
	*g.inC = C.jx_grammar{language: (*C.ts_language)(g.language), drop: (*C.uint8_t)(C.CBytes(drop)), drop_count: C.uint32_t(len(drop))}
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
