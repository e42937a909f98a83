package skim

import (
	"sort"

	"juxtagram/core/lang"
)

// widest is how many regions stand side by side at most.
const widest = 8

// group gathers regions where very many stand side by side, so that few lines
// can stand for all: those of least worth first. The most telling ones stay by
// themselves.
func (b *builder) group(n *node) {
	for _, k := range n.kids {
		b.group(k)
	}
	n.kids = b.gather(n.kids, widest)
}

// fewest is how many lines show at least of a file that has as many: with more
// regions and lines between them, the file itself is gathered.
const fewest = 12

// whole gathers what stands in the file, with the lines between, into so few
// regions that even a small budget can be kept.
func (b *builder) whole(root *node) {
	lines := root.End - root.Start + 1
	for _, k := range root.kids {
		lines -= k.End - k.Start // a folded region is one line
	}
	if lines <= fewest || len(root.kids) == 0 {
		return
	}
	each := (lines + widest - 1) / widest // lines of one piece, as they show while all is folded
	var pieces []*node
	var run []*node
	from, shown := root.Start, 0
	cut := func(to int) {
		if len(run) == 1 && run[0].Start == from && run[0].End == to {
			pieces = append(pieces, run[0])
			run, from, shown = nil, to+1, 0
			return
		}
		g := &node{Region: Region{Kind: OfGroup, Start: from, End: to, Symbol: -1}, kids: run}
		for _, k := range run {
			g.key, g.Worth = max(g.key, k.key), max(g.Worth, k.Worth)
		}
		b.name(g, run)
		pieces = append(pieces, g)
		run, from, shown = nil, to+1, 0
	}
	last := root.Start - 1
	for i, k := range root.kids {
		shown += k.Start - last
		last = k.End
		run = append(run, k)
		if shown >= each && i+1 < len(root.kids) {
			cut(k.End)
		}
	}
	cut(root.End)
	root.kids = pieces
}

func (b *builder) gather(kids []*node, most int) []*node {
	if len(kids) <= most {
		return kids
	}
	order := make([]int, len(kids))
	for i := range order {
		order[i] = i
	}
	sort.SliceStable(order, func(i, j int) bool { return kids[order[i]].key > kids[order[j]].key })
	// as many of the best stand free as leave at most so many pieces
	for free := most / 2; free > 0; free-- {
		alone := make([]bool, len(kids))
		for _, i := range order[:free] {
			alone[i] = true
		}
		if pieces := b.runs(kids, alone, most); len(pieces) <= most {
			return pieces
		}
	}
	return b.even(kids, most)
}

// even groups kids into pieces of about one length.
func (b *builder) even(kids []*node, most int) []*node {
	if len(kids) <= most {
		return kids
	}
	var out []*node
	for i := range most {
		out = append(out, b.groupOf(kids[i*len(kids)/most:(i+1)*len(kids)/most], most))
	}
	return out
}

// runs groups the kids between those that stay alone.
func (b *builder) runs(kids []*node, alone []bool, most int) []*node {
	var out []*node
	for i := 0; i < len(kids); {
		j := i
		for j < len(kids) && !alone[j] {
			j++
		}
		switch {
		case j-i > 1:
			out = append(out, b.groupOf(kids[i:j], most))
		case j-i == 1:
			out = append(out, kids[i])
		}
		if j < len(kids) {
			out = append(out, kids[j])
			j++
		}
		i = j
	}
	return out
}

// groupOf is one region around several; what stands between them is its own.
func (b *builder) groupOf(kids []*node, most int) *node {
	if len(kids) == 1 {
		return kids[0]
	}
	g := &node{Region: Region{Kind: OfGroup, Start: kids[0].Start, End: kids[len(kids)-1].End, Symbol: -1}}
	for _, k := range kids {
		g.key = max(g.key, k.key)
		g.Worth = max(g.Worth, k.Worth)
	}
	b.name(g, kids)
	g.kids = b.even(kids, most)
	return g
}

// name gives a group its label: what it holds by name. A group of which at most
// one has a name shows the line of that, or its first.
func (b *builder) name(g *node, kids []*node) {
	var names []string
	of, others := "", false
	g.Tell = max(kids[0].Tell, kids[0].Start)
	for _, n := range flat(kids) {
		if n.Symbol < 0 {
			others = true
			continue
		}
		s := &b.in.Details.Outline[n.Symbol]
		if names = append(names, s.Name); len(names) == 1 {
			g.Tell, g.Label = n.Tell, n.Label
		}
		word := plural[s.Kind]
		if word == "" || of != "" && of != word {
			word = "names"
		}
		of = word
	}
	if len(names) < 2 {
		return
	}
	if others {
		of += " and more"
	}
	g.Tell, g.Label = 0, listed(names, of)
}

// flat are the regions in groups.
func flat(kids []*node) []*node {
	var out []*node
	for _, k := range kids {
		if k.Kind == OfGroup {
			out = append(out, flat(k.kids)...)
		} else {
			out = append(out, k)
		}
	}
	return out
}

var plural = map[lang.Kind]string{
	lang.Function: "functions", lang.Method: "methods", lang.Class: "classes", lang.Struct: "structs", lang.Interface: "interfaces", lang.Enum: "enums",
	lang.Property: "properties", lang.Field: "fields", lang.Constant: "constants", lang.Variable: "variables", lang.Macro: "macros", lang.TypeName: "types",
	lang.Section: "sections", lang.Constructor: "constructors", lang.Trait: "traits", lang.Module: "modules", lang.Namespace: "namespaces", lang.EnumMember: "cases",
	lang.Key: "keys",
}
