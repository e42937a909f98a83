package lang

import (
	"strings"

	"juxtagram/core/syntax"
)

const noNode uint32 = syntax.None

// Super notes a supertype of the declaration that is being walked, as written.
func (w *Walk) Super(name string) {
	if k := len(w.scopes); k > 0 && w.scopes[k-1].symbol >= 0 && name != "" {
		s := &w.out.Outline[w.scopes[k-1].symbol]
		s.Supers = append(s.Supers, name)
	}
}

// SuperOf notes a supertype of a type of this file, by the type's name.
func (w *Walk) SuperOf(owner, name string) {
	for i := range w.out.Outline {
		if s := &w.out.Outline[i]; s.Name == owner && !s.Kind.callable() {
			s.Supers = append(s.Supers, name)
			return
		}
	}
}

// Package says which package, namespace or module the file puts its names into.
func (w *Walk) Package(name string) {
	if w.out.Package == "" {
		w.out.Package = name
	}
}

// notSupers are words of a heritage clause that name no type.
var notSupers = map[string]bool{
	"extends": true, "implements": true, "with": true, "public": true, "private": true, "protected": true, "virtual": true, "by": true, "permits": true,
}

// maxSupers is how many supertypes of one type are kept.
const maxSupers = 40

// supersIn are the types that a heritage clause names: "extends A<B> implements
// c.D" gives A and c.D.
func supersIn(clause string) []string {
	var out []string
	depth, start := 0, -1
	end := func(at int) {
		if start >= 0 {
			if word := strings.Trim(clause[start:at], ".:"); word != "" && !notSupers[word] {
				out = append(out, word)
			}
			start = -1
		}
	}
	for i := 0; i < len(clause); i++ {
		c := clause[i]
		switch {
		case c == '<' || c == '[' || c == '{' || c == '(' && (start >= 0 || i > 0 && len(out) > 0):
			end(i)
			depth++
		case c == '>' || c == ']' || c == '}' || c == ')':
			end(i)
			if depth > 0 {
				depth--
			}
		case depth > 0:
		case c == '=':
			start = -1 // a keyword argument: "metaclass=ABCMeta"
			for i+1 < len(clause) && clause[i+1] != ',' && clause[i+1] != ')' {
				i++
			}
		case c == '_' || c == '.' || c == '\\' || c == ':' && i+1 < len(clause) && (clause[i+1] == ':' || clause[i-min(i, 1)] == ':') || c == '$' || c == '@' ||
			c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c >= 0x80:
			if start < 0 {
				start = i
			}
		default:
			end(i)
		}
	}
	end(len(clause))
	return out[:min(len(out), maxSupers)]
}

// forwardsTo is the callee of a body that does nothing but hand its call on;
// "" for any other.
func (w *Walk) forwardsTo(body uint32) string {
	node := &w.Nodes[body]
	if node.Next-body > 60 || node.End-node.Start > 600 {
		return ""
	}
	n := w.only(body)
	for range maxHops {
		if n == noNode {
			return ""
		}
		if s := w.table.actions[w.Nodes[n].Symbol].call; s.function != 0 {
			f, args := w.childIn(n, s.function), w.childIn(n, s.arguments)
			if f == noNode || args != noNode && w.calls(args) || w.calls(f) {
				return ""
			}
			callee := w.OneLine(f)
			if o := w.childIn(n, s.object); o != noNode {
				if w.calls(o) {
					return ""
				}
				callee = w.OneLine(o) + "." + callee
			}
			if len(callee) > 160 {
				return ""
			}
			return callee
		}
		n = w.only(n)
	}
	return ""
}

// only is the one named node inside another that is no comment; None where
// there is none, or several.
func (w *Walk) only(n uint32) uint32 {
	found := noNode
	for c := range w.Children(n) {
		symbol := w.Nodes[c].Symbol
		if int(symbol) >= len(w.table.actions) || !w.Grammar.Named(symbol) || w.table.actions[symbol].comment {
			continue
		}
		if found != noNode {
			return noNode
		}
		found = c
	}
	return found
}

// calls tells whether a call, or a function, stands inside a node.
func (w *Walk) calls(n uint32) bool {
	for i := n; i < w.Nodes[n].Next; i++ {
		symbol := w.Nodes[i].Symbol
		if int(symbol) < len(w.table.actions) && w.table.actions[symbol].call.function != 0 {
			return true
		}
	}
	return false
}
