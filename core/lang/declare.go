package lang

import (
	"bytes"
	"strings"

	"juxtagram/core/syntax"
)

// Decl is a declaration as a handler sees it.
type Decl struct {
	Node uint32 // all of it
	Name uint32 // its name; None where Text says it
	Text string // the name, where it is not simply the name node's text
	Kind Kind
	Visibility
	Static   bool
	Body     uint32 // left out of the signature, foldable; 0 and None: none
	Value    uint32 // in the signature if it is short; 0 and None: none
	Type     uint32 // the type as written; 0 and None: none
	TypeText string // the type, where no node has it all
	ToEnd    bool   // holds for the rest of the file, or until the next of its kind
	Owner    string // what it belongs to, where that is not what stands around it
	Around   uint32 // the node that gives range, signature and documentation; 0: Node with its wrappers
	First    uint32 // the first node that counts, where some of Node does not; 0: all
	Inside   Kind   // what the code inside counts as; "": Kind
	Leaf     bool   // nothing is declared inside
	Once     bool   // a later one of the same name, in the same place, only writes it
	Doc      string // a docstring's text; before the comment above
	Forwards string // what it hands its call on to, where its body is no tree
	Skip     bool   // belongs to the declaration around the innermost one
}

// shortValue is how long a signature with its value may be, in bytes.
const shortValue = 100

// maxSignature is how much of a signature is kept, in bytes.
const maxSignature = 300

// Declare enters a symbol into the outline, and what is walked next, up to the
// node's end, is inside it. Inside callables only callables and types are
// entered, and nothing in those that are not in the outline themselves: local
// values are bound names.
func (w *Walk) Declare(d Decl) {
	if d.Text == "" && d.Name != syntax.None {
		d.Text = w.Word(d.Name)
	}
	if d.Text == "" || len(d.Text) > maxWord {
		return
	}
	if d.ToEnd {
		w.endFileScope(d.Node)
	}
	parent, local, qualified := -1, false, d.Text
	k := len(w.scopes)
	if d.Skip {
		k--
	}
	if k > 0 {
		top := &w.scopes[k-1]
		parent, local = top.symbol, top.local
		if top.qualified != "" {
			qualified = top.qualified + w.table.separator + d.Text
		}
	}
	if local && (d.Kind.value() || parent < 0) {
		return
	}
	if d.Once && !w.out.first(parent, d.Text) {
		return
	}
	if local {
		d.Visibility = "" // nobody outside can name it
	}
	if d.Name != syntax.None {
		w.Nodes[d.Name].Field |= defined
	}
	if d.Owner != "" {
		qualified = d.Owner + w.table.separator + d.Text
		if o := w.Qualified(); o != "" && o != d.Owner {
			qualified = o + w.table.separator + qualified
		}
	}
	outer, first := d.Around, d.First
	if outer == 0 {
		outer = w.outermost(d.Node)
	}
	if first == 0 || first == syntax.None {
		first = outer
	}
	s := Symbol{
		Name: d.Text, Qualified: qualified, Kind: d.Kind, Visibility: d.Visibility, Static: d.Static,
		Start: w.Line(first), End: w.lastLine(outer), Parent: parent,
		Signature: w.signature(outer, w.Nodes[first].Start, d), Doc: FirstSentence(d.Doc),
	}
	if s.Doc == "" {
		s.Doc = w.docBefore(outer)
	}
	s.NameLine = s.Start
	if d.Name != syntax.None {
		s.NameLine = w.Line(d.Name)
	}
	s.Forwards = d.Forwards
	if s.Type = d.TypeText; d.Type != 0 && d.Type != syntax.None {
		s.Type = w.OneLine(d.Type)
	}
	if d.Body != 0 && d.Body != syntax.None {
		w.Fold(BodyBlock, d.Body)
		if d.Kind.callable() {
			s.Forwards = w.forwardsTo(d.Body)
		}
	}
	if len(w.table.supers) > 0 && !d.Kind.callable() && !d.Leaf {
		for c := range w.Children(d.Node) {
			if w.table.supers[w.Nodes[c].Symbol] {
				s.Supers = append(s.Supers, supersIn(w.OneLine(c))...)
			}
		}
	}
	if d.ToEnd {
		s.End = w.lastLine(0)
	}
	w.out.Outline = append(w.out.Outline, s)
	if !d.Leaf {
		inside := d.Inside
		if inside == "" {
			inside = d.Kind
		}
		next := scope{symbol: len(w.out.Outline) - 1, kind: inside, qualified: qualified, name: d.Text, local: local || inside.callable()}
		if d.Body != 0 && d.Body != syntax.None {
			next.code = w.Parent(d.Body)
		}
		w.push(d.Node, next)
		if d.ToEnd {
			w.scopes[len(w.scopes)-1].end = w.Nodes[0].Next
		}
	}
}

// endFileScope closes a scope that held "for the rest of the file" where the
// next one begins.
func (w *Walk) endFileScope(n uint32) {
	if len(w.scopes) == 0 || w.scopes[0].end != w.Nodes[0].Next || w.scopes[0].symbol < 0 {
		return
	}
	s := &w.out.Outline[w.scopes[0].symbol]
	s.End = max(s.Start, w.Line(n)-1)
	w.scopes = w.scopes[:0]
}

// Enter opens a scope that is no symbol of its own: what is declared inside
// belongs to the named owner ("" keeps the one around).
func (w *Walk) Enter(n uint32, kind Kind, owner string) {
	if kind.callable() {
		w.out.block(int(w.Nodes[n].Row)+1, int(w.Nodes[n].EndRow)+1)
	}
	s := scope{symbol: -1, kind: kind, qualified: owner, name: owner, local: kind.callable()}
	if k := len(w.scopes); k > 0 {
		top := w.scopes[k-1]
		if top.code == n && top.kind.callable() {
			return // "name = function": the name's scope is the function's
		}
		s.symbol, s.local = top.symbol, top.local || s.local
		if owner == "" {
			s.qualified, s.name = top.qualified, top.name
		} else if top.qualified != "" {
			s.qualified = top.qualified + w.table.separator + owner
		}
	}
	w.push(n, s)
}

func (w *Walk) push(n uint32, s scope) {
	s.end = w.Nodes[n].Next
	w.scopes = append(w.scopes, s)
	if s.kind.callable() {
		level := 0
		if k := len(w.depths); k > 0 {
			level = w.depths[k-1].level + 1
		}
		w.depths = append(w.depths, depth{s.end, level})
	}
}

// SetVisibility mends the visibility of a member of the innermost declaration.
func (w *Walk) SetVisibility(name string, v Visibility) {
	if len(w.scopes) == 0 || name == "" {
		return
	}
	parent := w.scopes[len(w.scopes)-1].symbol
	for i := len(w.out.Outline) - 1; i >= 0 && i > parent; i-- {
		if s := &w.out.Outline[i]; s.Parent == parent && s.Name == name {
			s.Visibility = v
			return
		}
	}
}

// Qualified is the innermost declaration's name with its owners.
func (w *Walk) Qualified() string {
	if k := len(w.scopes); k > 0 {
		return w.scopes[k-1].qualified
	}
	return ""
}

// outermost is the node with the wrappers that belong to it.
func (w *Walk) outermost(n uint32) uint32 {
	for {
		p := w.Nodes[n].Parent
		if p == syntax.None || !w.table.wrapper[w.Nodes[p].Symbol] {
			return n
		}
		n = p
	}
}

// signature is a declaration on one line: from its first byte to its body,
// without annotations and comments.
func (w *Walk) signature(outer, start uint32, d Decl) string {
	end := w.Nodes[d.Node].End
	if d.Body != 0 && d.Body != syntax.None {
		end = w.Nodes[d.Body].Start
	}
	if d.Value != 0 && d.Value != syntax.None && w.Nodes[d.Value].Start < end {
		v := &w.Nodes[d.Value]
		if v.Row != v.EndRow || end-start > shortValue {
			end = v.Start
		}
	}
	text := w.flat(outer, start, end)
	text = strings.TrimRight(strings.TrimSuffix(text, "; end"), " {;,")
	for _, tail := range []string{"=>", "->", " with"} {
		text = strings.TrimRight(strings.TrimSuffix(text, tail), " ")
	}
	if d.Value != 0 && d.Value != syntax.None || d.Kind.callable() {
		text = strings.TrimSuffix(strings.TrimRight(text, " ="), " end")
	}
	if !strings.HasSuffix(text, "::") {
		text = strings.TrimRight(text, " :")
	}
	return clip(text, maxSignature)
}

// OneLine is a node's text on one line, comments left out; "" for no node.
func (w *Walk) OneLine(n uint32) string {
	if n == syntax.None {
		return ""
	}
	return clip(w.flat(n, w.Nodes[n].Start, w.Nodes[n].End), maxSignature)
}

// Before is a node's text up to one inside it, on one line, comments left out.
func (w *Walk) Before(n, inside uint32) string {
	return clip(w.flat(n, w.Nodes[n].Start, w.Nodes[inside].Start), maxSignature)
}

// flat is the text from one byte to another, runs of space as one blank,
// without the annotations and comments among the nodes from the given one on.
func (w *Walk) flat(n uint32, start, end uint32) string {
	out := w.flattened[:0]
	at := start
	broken := false // the space at the end of out holds a line feed
	keep := func(to uint32) {
		for _, c := range w.Text[at:to] {
			k := len(out)
			if c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '\f' || c == '\v' {
				broken = broken || c == '\n'
				if k > 0 && out[k-1] != ' ' {
					out = append(out, ' ')
				}
				continue
			}
			if k > 1 && broken && out[k-1] == ' ' && (c == ')' || c == ']' || out[k-2] == '(' || out[k-2] == '[') {
				out = out[:k-1]
			}
			broken = false
			out = append(out, c)
		}
	}
	stop := min(w.Nodes[n].Next, n+maxHeader)
	for i := n + 1; i < stop; i++ {
		node := &w.Nodes[i]
		if node.Start >= end || len(out) > 2*maxSignature {
			break
		}
		if node.Start < at || int(node.Symbol) >= len(w.table.actions) {
			continue
		}
		if w.table.annotation[node.Symbol] || w.table.actions[node.Symbol].comment {
			keep(node.Start)
			at = min(node.End, end)
			i = node.Next - 1
		}
	}
	if at < end {
		keep(min(end, at+4*maxSignature))
	}
	w.flattened = out
	return strings.ToValidUTF8(string(bytes.TrimSpace(out)), "\uFFFD")
}

// maxHeader is how many nodes of a declaration are looked through for what its
// signature leaves out.
const maxHeader = 4000

// clip cuts a text that is too long, and shows it.
func clip(text string, most int) string {
	if len(text) <= most {
		return text
	}
	return strings.ToValidUTF8(text[:most], "") + " …"
}
