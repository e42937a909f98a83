package lang

import (
	"bytes"
	"context"
	"strings"

	"juxtagram/core/syntax"
)

// maxWord is the longest name that is kept, in bytes.
const maxWord = 300

// defined is added to the Field of the name node of a declaration.
const defined = 0x8000

// keyed marks, in its Field, the node of a key by which a value is given its
// member of something.
const keyed = 0xfffe

// owned marks, in its Field, the name of a call on something.
const owned = 0xfffd

// Walk is one passage over a syntax tree, from its first node to its last. It
// fills a Reading; rules see it in their handlers.
type Walk struct {
	*syntax.Tree
	rules   *Rules
	table   *table
	out     *collector
	scopes  []scope
	depths  []depth
	chains  []chain
	quiet   uint32 // strings before this node name modules
	lead    uint32 // first of the annotations right before node leadEnd
	leadEnd uint32

	flattened []byte // a buffer of flat
}

// scope is a declaration, or something like one, whose inside is being walked.
type scope struct {
	end       uint32
	symbol    int // index in the outline; -1: none of its own
	kind      Kind
	qualified string
	name      string
	access    Visibility // what holds from here on: "private:" in C++
	local     bool       // inside a callable
	code      uint32     // the function that a declared name holds; 0: none
}

// depth is a decision, or a declaration, that deepens what is inside.
type depth struct {
	end   uint32
	level int
}

// walk runs the rules over a tree.
func (r *Rules) walk(ctx context.Context, tree *syntax.Tree, out *collector) error {
	w := &Walk{Tree: tree, rules: r, table: r.ready(), out: out}
	actions := w.table.actions
	count := uint32(len(tree.Nodes))
	out.makeRoom(len(tree.Nodes))
	for i := uint32(0); i < count; {
		n := &tree.Nodes[i]
		i++
		if int(n.Symbol) >= len(actions) {
			continue
		}
		a := &actions[n.Symbol]
		if !a.any {
			continue
		}
		at := i - 1
		if at&0xffff == 0 && ctx.Err() != nil {
			return context.Cause(ctx)
		}
		w.leave(at)
		if a.comment {
			w.comment(n)
			i = n.Next
			continue
		}
		if a.decision != 0 {
			w.decide(at, a.decision)
			w.out.block(int(n.Row)+1, int(n.EndRow)+1)
		}
		if a.join {
			w.joinHere(at)
		}
		if a.lead {
			if w.leadEnd != at || at == 0 {
				w.lead = at
			}
			w.leadEnd = n.Next
		}
		if a.handler != nil {
			a.handler(w, at)
		}
		if a.call.function != 0 {
			w.call(at, a.call)
		}
		if a.left != 0 {
			w.assign(w.childIn(at, a.left), w.childIn(at, a.right))
		}
		if a.text && at >= w.quiet {
			w.literal(at)
		}
		if a.name != 0 {
			w.use(at, a.name)
		}
	}
	w.leave(count)
	if r.End != nil {
		w.scopes = w.scopes[:0]
		r.End(w)
	}
	return nil
}

// leave closes what ends before node at.
func (w *Walk) leave(at uint32) {
	for k := len(w.scopes); k > 0 && w.scopes[k-1].end <= at; k-- {
		w.scopes = w.scopes[:k-1]
	}
	for k := len(w.depths); k > 0 && w.depths[k-1].end <= at; k-- {
		w.depths = w.depths[:k-1]
	}
	for k := len(w.chains); k > 0 && w.chains[k-1].end <= at; k-- {
		w.chains[k-1].close()
		w.chains = w.chains[:k-1]
	}
}

// Word is a node's text without space at its ends; "" for no node.
func (w *Walk) Word(n uint32) string {
	if n == syntax.None {
		return ""
	}
	return strings.TrimSpace(w.source(n))
}

// source is a node's text.
func (w *Walk) source(n uint32) string {
	node := &w.Nodes[n]
	return w.out.text[node.Start:node.End]
}

// Is tells whether a node is of one of the given types.
func (w *Walk) Is(n uint32, types ...string) bool {
	if n == syntax.None {
		return false
	}
	have := w.Type(n)
	for _, t := range types {
		if have == t {
			return true
		}
	}
	return false
}

// Parent is the node around a node; None for the root.
func (w *Walk) Parent(n uint32) uint32 { return w.Nodes[n].Parent }

// Has tells whether a node has a child of one of the types.
func (w *Walk) Has(n uint32, types ...string) bool { return w.ChildOf(n, types...) != syntax.None }

// HasWord tells whether one of a node's children is written as one of the words.
func (w *Walk) HasWord(n uint32, words ...string) bool {
	for c := range w.Children(n) {
		text := w.Source(c)
		for _, word := range words {
			if string(text) == word {
				return true
			}
		}
	}
	return false
}

// InField lists the children of a node that stand in a field.
func (w *Walk) InField(n uint32, field string) []uint32 {
	id := w.Grammar.Field(field)
	var out []uint32
	for c := range w.Children(n) {
		if id != 0 && w.Nodes[c].Field == id {
			out = append(out, c)
		}
	}
	return out
}

// Within is the kind of the innermost declaration that is being walked; "" at
// the top of the file.
func (w *Walk) Within() Kind {
	if k := len(w.scopes); k > 0 {
		return w.scopes[k-1].kind
	}
	return ""
}

// Local tells whether the walk is inside a callable.
func (w *Walk) Local() bool { return len(w.scopes) > 0 && w.scopes[len(w.scopes)-1].local }

// Owner is the name of the innermost declaration; "" at the top.
func (w *Walk) Owner() string {
	if k := len(w.scopes); k > 0 {
		return w.scopes[k-1].name
	}
	return ""
}

// Access is what SetAccess last said inside the innermost declaration.
func (w *Walk) Access() Visibility {
	if k := len(w.scopes); k > 0 {
		return w.scopes[k-1].access
	}
	return ""
}

// SetAccess tells the visibility of the members that follow.
func (w *Walk) SetAccess(v Visibility) {
	if k := len(w.scopes); k > 0 {
		w.scopes[k-1].access = v
	}
}

// use notes a name.
func (w *Walk) use(n uint32, role Role) {
	node := &w.Nodes[n]
	if node.Start == node.End || node.End-node.Start > maxWord {
		return
	}
	if at := w.first(node); at != node.Start {
		node.Row += uint32(bytes.Count(w.Text[node.Start:at], newline))
		node.Start = at
	}
	if w.rules.Mask != nil && bytes.HasSuffix(w.Source(n), []byte(")")) {
		return
	}
	w.note(node, w.roleOf(n, role))
}

// comment notes a comment that is not empty.
func (w *Walk) comment(n *syntax.Node) {
	if start := w.first(n); len(bytes.TrimSpace(w.Text[start:n.End])) > 0 {
		w.out.addComment(w.Text, Span{int(start), int(n.End)})
	}
}

// note notes a name's node with a role.
func (w *Walk) note(n *syntax.Node, role Role) {
	w.out.use(w.out.text[n.Start:n.End], int(n.Row)+1, int(n.Start)-w.out.lines[n.Row], role)
}

// Use notes that a node names something, where Names cannot tell.
func (w *Walk) Use(n uint32, role Role) {
	if node := &w.Nodes[n]; node.End > node.Start && node.End-node.Start <= maxWord {
		w.note(node, role)
	}
}

// Defines notes that a name is made by a node that is no name: a string in a table,
// an operator. It stands where the node's first line holds it, or where the node begins.
func (w *Walk) Defines(n uint32, name string) {
	node := &w.Nodes[n]
	first, _, _ := strings.Cut(w.source(n), "\n")
	at := max(strings.Index(first, name), 0)
	w.out.use(name, int(node.Row)+1, int(node.Start)+at-w.out.lines[node.Row], Define)
}

// maxHops is how far up the place of a name is looked for.
const maxHops = 8

func (w *Walk) roleOf(n uint32, role Role) Role {
	node := &w.Nodes[n]
	switch node.Field {
	case keyed:
		return Write | OnOwner | InLiteral
	case owned:
		return Call | OnOwner
	}
	if node.Field&defined != 0 {
		return Define
	}
	var flags Role
	for range maxHops {
		p := node.Parent
		if p == syntax.None || node.Field&defined != 0 {
			break
		}
		parent := &w.Nodes[p]
		if int(parent.Symbol) >= len(w.table.actions) {
			break
		}
		said := w.table.roles[int(parent.Symbol)*w.table.fields+int(node.Field)]
		flags |= said & (OnOwner | InLiteral)
		if said&Up == 0 {
			if said.Plain() != 0 {
				role = said.Plain()
			}
			break
		}
		node = parent
	}
	return role | flags
}

// Keyed says that a name is a key: "key: value" in a literal of a type.
func (w *Walk) Keyed(n uint32) { w.Nodes[n].Field = keyed }

// Owned says that a name is called on what stands before it.
func (w *Walk) Owned(n uint32) { w.Nodes[n].Field = owned }

// Start notes a place where control comes in.
func (w *Walk) Start(s Start) { w.out.Starts = append(w.out.Starts, s) }

// Import notes an import: its node gives the lines, where they are not set.
func (w *Walk) Import(n uint32, i Import) {
	if i.Text == "" {
		return
	}
	if i.Line == 0 {
		i.Line, i.EndLine = w.Line(n), w.lastLine(n)
	}
	w.out.Imports = append(w.out.Imports, i)
	w.quiet = max(w.quiet, w.Nodes[n].Next)
}

// Fold notes that a node can be folded, if there is one.
func (w *Walk) Fold(kind RegionKind, n uint32) {
	if n == syntax.None {
		return
	}
	w.out.region(kind, w.Line(n), w.lastLine(n))
}

// Embed notes that a node's text is in a language of its own.
func (w *Walk) Embed(l *Language, n uint32) {
	node := &w.Nodes[n]
	if node.End > node.Start {
		w.out.parts = append(w.out.parts, Part{l, Span{int(node.Start), int(node.End)}})
	}
}

// Export says that a name of this file's top level is offered to others.
func (w *Walk) Export(name string) {
	if w.out.exported == nil {
		w.out.exported = map[string]bool{}
	}
	w.out.exported[name] = true
}

// Exported tells whether Export named it.
func (w *Walk) Exported(name string) bool { return w.out.exported[name] }

// AnyExport tells whether Export named anything.
func (w *Walk) AnyExport() bool { return len(w.out.exported) > 0 }

// Outline is what was declared so far; handlers may change its entries.
func (w *Walk) Outline() []Symbol { return w.out.Outline }

// Imported lists the imports so far.
func (w *Walk) Imported() []Import { return w.out.Imports }
