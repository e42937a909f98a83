package syntax

// #include "walk.h"
import "C"

import "unsafe"

// Bare parses a text as the library does by itself, with a parser and memory of its
// own, and drops the tree: the floor that reading facts is measured against.
func (g *Grammar) Bare(text []byte) error {
	var parser unsafe.Pointer
	select {
	case parser = <-g.bare:
	default:
		parser = C.jx_bare_parser(g.language, C.uint64_t(MaxTime.Microseconds()))
	}
	parsed := C.jx_bare(parser, (*C.char)(unsafe.Pointer(unsafe.SliceData(text))), C.uint32_t(len(text)))
	select {
	case g.bare <- parser:
	default:
		C.jx_bare_end(parser)
	}
	if !parsed {
		return ErrTime
	}
	return nil
}
