package skim

import (
	"fmt"
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
)

// Kind is what a region holds.
type Kind string

// The kinds.
const (
	Whole     Kind = "whole" // the file
	OfSymbol  Kind = "symbol"
	OfImports Kind = "imports"
	OfLicence Kind = "licence"
	OfComment Kind = "comment"
	OfFields  Kind = "fields"
	OfBlock   Kind = "block" // a statement with what is indented below it
	OfRun     Kind = "run"   // statements that follow each other
	OfGroup   Kind = "group" // several regions that follow each other
)

var kindOf = map[lang.RegionKind]Kind{lang.ImportBlock: OfImports, lang.LicenceHeader: OfLicence, lang.CommentBlock: OfComment, lang.FieldGroup: OfFields}

// Region is a run of lines that can be folded away. Lines count from 1, both
// ends included.
type Region struct {
	Kind       Kind
	Start, End int
	Tell       int // the line of it that shows while it is folded; 0: only the label does
	Parent     int // index of the region around it; -1: it is the whole file
	Symbol     int // index in the outline; -1: none
	Label      string
	Worth      float64  // 0..1
	Why        []string // what its worth comes from, the weightiest first; of symbols only
	// Own is how many lines show of it, besides one for each region right
	// inside, while it is open and those are folded.
	Own  int
	Kids int // regions right inside
}

// Cost is how many more lines show once the region is open.
func (r *Region) Cost() int { return r.Own + r.Kids - 1 }

// Skim is a file cut into regions with an order in which they open.
type Skim struct {
	Total   int      // lines of the file
	Regions []Region // the file first; each before those inside it, in text order
	Order   []int    // of all regions but the file, in the order in which they open
}

// Lines is a run of lines, both ends included.
type Lines struct{ Start, End int }

// Input is what a skim is made from. All but the text may be missing.
type Input struct {
	Content  string         // UTF-8
	Details  *facts.Details // nil: the tree follows indentation alone
	Tagged   []int          // lines with a tagged comment
	Starts   []int          // lines where control comes in
	Marked   []Lines        // what people wrote about: annotations, passages
	Reach    []int          // for each symbol, how many files besides this name it; nil: unknown
	Rare     func(word string) float64
	Recent   func(line int) float64 // 0..1, 1: changed just now; nil: unknown
	Weights  map[string]float64     // instead of those of Features; for measuring
	Language string
}

// Of cuts a file into regions and tells in which order they open. The same
// input gives the same skim.
func Of(in *Input) *Skim {
	if in.Content == "" {
		return &Skim{Regions: []Region{{Kind: Whole, Parent: -1, Symbol: -1}}}
	}
	b := &builder{in: in, text: newText(in.Content)}
	b.leaf = max(5, b.text.total()/100)
	root := b.build()
	newScale(in, b.text).weigh(root)
	b.group(root)
	b.whole(root)
	s := &Skim{Total: b.text.total()}
	var keys []float64
	var flatten func(n *node, parent int)
	flatten = func(n *node, parent int) {
		at := len(s.Regions)
		n.Parent, n.Kids, n.Own = parent, len(n.kids), n.End-n.Start+1
		for _, k := range n.kids {
			n.Own -= k.End - k.Start + 1
		}
		s.Regions = append(s.Regions, n.Region)
		keys = append(keys, n.key)
		for _, k := range n.kids {
			flatten(k, at)
		}
	}
	flatten(root, -1)
	for i := 1; i < len(s.Regions); i++ {
		s.Order = append(s.Order, i)
	}
	// regions stand outer ones first, and none has a larger key than the one around it
	sort.SliceStable(s.Order, func(i, j int) bool { return keys[s.Order[i]] > keys[s.Order[j]] })
	return s
}

// Least is how many lines show while every region is folded.
func (s *Skim) Least() int { return s.Regions[0].Own + s.Regions[0].Kids }

// Within tells how many regions of the order open within a budget of lines, and
// how many lines show then: more than the budget only where one line for each
// region does.
func (s *Skim) Within(budget int) (open, lines int) {
	lines = s.Least()
	for _, r := range s.Order {
		more := s.Regions[r].Cost()
		if lines+more > budget {
			break
		}
		lines += more
		open++
	}
	return open, lines
}

// Row is what one line on the screen shows: a line of the file, or a folded
// region.
type Row struct {
	Line   int // of the file
	Folded int // index of the region; 0: none
}

// Rows are what shows while the first so many regions of the order are open.
func (s *Skim) Rows(open int) []Row {
	opened := make([]bool, len(s.Regions))
	opened[0] = true
	for _, r := range s.Order[:open] {
		opened[r] = true
	}
	var rows []Row
	at := 1 // the next region
	var show func(r int)
	show = func(r int) {
		line := max(1, s.Regions[r].Start)
		for at < len(s.Regions) && s.Regions[at].Parent == r {
			k := at
			for ; line < s.Regions[k].Start; line++ {
				rows = append(rows, Row{Line: line})
			}
			at++
			if opened[k] {
				show(k)
			} else {
				rows = append(rows, Row{Line: max(s.Regions[k].Start, s.Regions[k].Tell), Folded: k})
				for at < len(s.Regions) && s.Regions[at].Start <= s.Regions[k].End {
					at++
				}
			}
			line = s.Regions[k].End + 1
		}
		for ; line <= s.Regions[r].End; line++ {
			rows = append(rows, Row{Line: line})
		}
	}
	show(0)
	return rows
}

// maxListed is how many names a label lists.
const maxListed = 6

// listed is a label that tells how many of what, and the first of them by name.
func listed(names []string, of string) string {
	text := fmt.Sprintf("%d %s: %s", len(names), of, strings.Join(names[:min(len(names), maxListed)], ", "))
	if len(names) > maxListed {
		text += ", …"
	}
	return text
}
