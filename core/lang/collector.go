package lang

import (
	"bytes"
	"slices"
	"sort"
)

// Reading is what a language found in one text. Everything is in text order.
type Reading struct {
	Depth    Depth
	Comments []Span // not overlapping
	// Docstrings are the strings that stand for themselves.
	Docstrings []Span
	Starts     []Start
	Outline    []Symbol
	Imports    []Import
	Words      []string // the names that Uses speak of, each once
	Uses       []Use
	Literals   []Literal
	Regions    []Region
	Blocks     []Block    // inside which local names are made, in the order of their starts
	Calls      []CallSite // that the language's tables ask for
	Values     []Value    // what names were given
	Package    string     // that the file puts its names into; "": its language has none, or it says none
	Doc        Doc        // what the file says of itself
	// Intricacy of the whole text; see intricacy.go. 0 where not parsed.
	Intricacy int
}

// collector gathers a Reading from one tree or several of the same text.
type collector struct {
	Reading
	text     string // a copy: what is found are parts of it, and outlives what was read
	words    map[string]int32
	lines    []int // offset of each line's first byte
	exported map[string]bool
	parts    []Part
	once     map[onceKey]bool
	notes    []note // of Comments, one each
	awaited  []awaited
}

func newCollector(text []byte) *collector {
	c := &collector{text: string(text), words: make(map[string]int32, 16+len(text)/100), lines: make([]int, 1, 64+len(text)/32)}
	for at := 0; ; {
		i := bytes.IndexByte(text[at:], '\n')
		if i < 0 {
			return c
		}
		at += i + 1
		c.lines = append(c.lines, at)
	}
}

// makeRoom readies the lists for what most texts of so many nodes have.
func (c *collector) makeRoom(nodes int) {
	c.Uses, c.Words = slices.Grow(c.Uses, nodes*2/5), slices.Grow(c.Words, nodes/16)
	c.Outline, c.Values = slices.Grow(c.Outline, 16), slices.Grow(c.Values, 16)
	c.Regions, c.Blocks = slices.Grow(c.Regions, 16), slices.Grow(c.Blocks, 16)
	c.Comments, c.notes = slices.Grow(c.Comments, 16), slices.Grow(c.notes, 16)
}

// lineOf is the line of a byte, from 1.
func (c *collector) lineOf(offset int) int {
	return sort.Search(len(c.lines), func(i int) bool { return c.lines[i] > offset })
}

// use notes a name at its place; lines count from 1, columns from 0.
func (c *collector) use(word string, line, column int, role Role) {
	id, ok := c.words[word]
	if !ok {
		id = int32(len(c.Words))
		c.Words = append(c.Words, word)
		c.words[word] = id
	}
	c.Uses = append(c.Uses, Use{Word: id, Line: int32(line), Column: int32(column), Role: role})
}

// block notes lines inside which local names are made.
func (c *collector) block(start, end int) {
	if end > start && (len(c.Blocks) == 0 || c.Blocks[len(c.Blocks)-1] != Block{start, end}) {
		c.Blocks = append(c.Blocks, Block{start, end})
	}
}

func (c *collector) region(kind RegionKind, start, end int) {
	if end > start {
		c.Regions = append(c.Regions, Region{Kind: kind, Start: start, End: end})
	}
}

// finish puts everything in order and adds what follows from the rest.
func (c *collector) finish(text []byte) Reading {
	sort.SliceStable(c.Literals, func(i, j int) bool { return c.Literals[i].Line < c.Literals[j].Line })
	c.orderComments(text)
	sort.SliceStable(c.Imports, func(i, j int) bool { return c.Imports[i].Line < c.Imports[j].Line })
	if less := func(i, j int) bool {
		a, b := c.Uses[i], c.Uses[j]
		return a.Line < b.Line || a.Line == b.Line && a.Column < b.Column
	}; !sort.SliceIsSorted(c.Uses, less) {
		sort.SliceStable(c.Uses, less)
	}
	c.trailingDocs(text)
	c.settleValues()
	c.regions(text)
	c.fileDoc(text)
	// room that was made for nothing is none
	c.Outline, c.Values, c.Comments = found(c.Outline), found(c.Values), found(c.Comments)
	c.Uses, c.Words, c.Regions, c.Blocks = found(c.Uses), found(c.Words), found(c.Regions), found(c.Blocks)
	return c.Reading
}

func found[T any](list []T) []T {
	if len(list) == 0 {
		return nil
	}
	return list
}

type onceKey struct {
	parent int
	name   string
}

// first tells whether a name is met for the first time inside a symbol.
func (c *collector) first(parent int, name string) bool {
	if c.once == nil {
		c.once = map[onceKey]bool{}
	}
	key := onceKey{parent, name}
	seen := c.once[key]
	c.once[key] = true
	return !seen
}
