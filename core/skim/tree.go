package skim

import (
	"sort"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
)

// node is a region while the tree is built. Its lines are those of its kids,
// and lines of its own before, between and after them.
type node struct {
	Region
	kids []*node
	// the lines inside of a header and a footer
	inner, innerEnd int
	key             float64 // the largest worth of it and all inside
}

// least is how many lines a region has at least; fewer are not worth a fold.
const least = 3

// builder makes the tree of one file.
type builder struct {
	in   *Input
	text *text
	leaf int // how many lines a run has at most
}

// build makes the tree: every line is in it once.
func (b *builder) build() *node {
	total := b.text.total()
	root := &node{Region: Region{Kind: Whole, Start: 1, End: total, Symbol: -1}, inner: 1, innerEnd: total}
	stack := []*node{root}
	for _, n := range b.outer() {
		for len(stack) > 1 && stack[len(stack)-1].End < n.Start {
			stack = stack[:len(stack)-1]
		}
		parent := stack[len(stack)-1]
		if n.End > parent.End || n.Start == parent.Start && n.End == parent.End && parent != root {
			continue // it lies across another region, or is the same
		}
		parent.kids = append(parent.kids, n)
		stack = append(stack, n)
	}
	b.fill(root, 0)
	return root
}

// outer are the regions that the facts tell, outer ones before those inside.
func (b *builder) outer() []*node {
	if b.in.Details == nil {
		return nil
	}
	total := b.text.total()
	var out []*node
	comments := map[int]lang.Region{} // by their last line
	bodies := map[int][]lang.Region{} // by their last line, outer ones first
	for _, r := range b.in.Details.Regions {
		if r.Start < 1 || r.End > total {
			continue
		}
		switch r.Kind {
		case lang.BodyBlock:
			bodies[r.End] = append(bodies[r.End], r)
			continue
		case lang.CommentBlock:
			comments[r.End] = r
		}
		if r.End-r.Start+1 < least {
			continue
		}
		n := &node{Region: Region{Kind: kindOf[r.Kind], Start: r.Start, End: r.End, Tell: r.Start, Symbol: -1}, inner: r.Start, innerEnd: r.End}
		switch r.Kind {
		case lang.CommentBlock, lang.LicenceHeader:
			n.Tell = b.text.telling(r.Start, r.End)
		case lang.ImportBlock:
			n.Tell, n.Label = 0, b.imported(r)
		}
		out = append(out, n)
	}
	for i := range b.in.Details.Outline {
		if n := b.symbol(i, comments, bodies); n != nil {
			out = append(out, n)
		}
	}
	sort.SliceStable(out, func(i, j int) bool {
		a, c := out[i], out[j]
		if a.Start != c.Start {
			return a.Start < c.Start
		}
		if a.End != c.End {
			return a.End > c.End
		}
		return a.Kind == OfSymbol && c.Kind != OfSymbol
	})
	return out
}

// symbol is the region of a symbol with the comments above it; nil: too short.
func (b *builder) symbol(i int, comments map[int]lang.Region, bodies map[int][]lang.Region) *node {
	s := &b.in.Details.Outline[i]
	if s.Start < 1 || s.End > b.text.total() || s.NameLine < s.Start || s.NameLine > s.End {
		return nil
	}
	start := b.above(s.Start, comments)
	if s.End-start+1 < least {
		return nil
	}
	n := &node{Region: Region{Kind: OfSymbol, Start: start, End: s.End, Tell: s.NameLine, Symbol: i, Label: s.Doc}, inner: s.NameLine + 1, innerEnd: s.End}
	for _, body := range bodies[s.End] {
		if body.Start < s.NameLine {
			continue
		}
		n.inner = body.Start + 1
		if line := b.text.line(body.Start); body.Start > s.NameLine && (line == "" || line[len(line)-1] != '{') {
			n.inner = body.Start // the body begins below its header, without a bracket
		}
		break
	}
	if n.innerEnd >= n.inner && closes(b.text.line(s.End)) {
		n.innerEnd--
	}
	return n
}

// above is where the comments and marks begin that stand right above a line, in
// its column.
func (b *builder) above(start int, comments map[int]lang.Region) int {
	column := b.text.column(start)
	for start > 1 && column >= 0 {
		if r, ok := comments[start-1]; ok && b.text.column(r.Start) == column {
			start = r.Start
			continue
		}
		if b.text.column(start-1) != column || !noted(b.text.line(start-1)) {
			break
		}
		start--
	}
	return start
}

// Above is where the comments and marks begin that stand right above a line of
// a text; the line itself where there are none.
func Above(content string, d *facts.Details, line int) int {
	b := &builder{text: newText(content)}
	comments := map[int]lang.Region{}
	if d != nil {
		for _, r := range d.Regions {
			if r.Kind == lang.CommentBlock {
				comments[r.End] = r
			}
		}
	}
	if line < 1 || line > b.text.total() {
		return line
	}
	return b.above(line, comments)
}

// maxDepth bounds how deep lines are nested by their indentation.
const maxDepth = 32

// fill completes a region: what lies between the regions in it becomes runs of
// statements, and each region takes the blank lines behind it.
func (b *builder) fill(n *node, depth int) {
	known := n.kids
	n.kids = nil
	for _, k := range known {
		if n.Kind == OfSymbol && k.Kind == OfComment && k.End < n.inner {
			n.kids = append(n.kids, k) // the comment above the symbol
			b.fill(k, depth+1)
		}
	}
	inside := within(known, n.inner, n.innerEnd, nil)
	if n.Kind != Whole && len(inside) == 0 && n.innerEnd-n.inner+1 <= b.leaf {
		return
	}
	if len(inside) > 0 || n.Kind == OfSymbol || n.Kind == Whole || n.Kind == OfFields {
		at := n.inner
		for _, k := range inside {
			b.statements(n, at, k.Start-1, depth)
			b.fill(k, depth+1)
			n.kids = append(n.kids, k)
			at = k.End + 1
		}
		b.statements(n, at, n.innerEnd, depth)
	} else {
		b.cut(n, n.inner, n.innerEnd)
	}
	b.absorb(n)
}

// within lists the regions that lie in lines a..b; of one that does not, those
// inside it.
func within(nodes []*node, a, b int, out []*node) []*node {
	for _, n := range nodes {
		if a <= n.Start && n.End <= b {
			out = append(out, n)
		} else {
			out = within(n.kids, a, b, out)
		}
	}
	return out
}

// absorb gives the blank lines behind each kid to it.
func (b *builder) absorb(n *node) {
	for i, k := range n.kids {
		stop := n.innerEnd
		if i+1 < len(n.kids) {
			stop = n.kids[i+1].Start - 1
		}
		for k.End+1 <= stop && b.text.blank(k.End+1) {
			k.End++
		}
	}
}

// imported lists what an import block brings.
func (b *builder) imported(r lang.Region) string {
	var names []string
	for _, i := range b.in.Details.Imports {
		if r.Start <= i.Line && i.Line <= r.End {
			names = append(names, lang.ValidText([]byte(i.Text)))
		}
	}
	return listed(names, "imports")
}
