package place

import (
	"slices"
	"sort"
	"strings"
)

// Mapping says where each line of a text stands in a later one, or in other
// texts of the same change.
type Mapping struct {
	Old, New *Text
	lines    []image
	taken    []bool  // lines of New that some old line became
	idsOld   []int32 // numbers of the lines, shared by all mappings of a Set
	idsNew   []int32
}

// image is what became of one line.
type image struct {
	in   *Mapping // whose New it stands in; nil: it is gone
	line int32    // there, from 0
	like float64  // 1: the same text, space at both ends aside
}

// Limits of recognising. They were set on the generated edits of `make
// bench-place`; see docs/decisions/0012.
const (
	least       = 0.46 // likeness from which a line may be another, put otherwise
	moveSurely  = 16.0 // what a run of lines must tell to be taken as moved before anything else
	moveAtAll   = 9.0  // ... where nothing else fits
	moveFar     = 16.0 // ... into another file
	maxSame     = 60   // lines that read the same are looked at, at most
	maxAligned  = 60_000
	maxGapLines = 600
)

// Set compares the texts of one change with each other. It is not safe for use
// by several goroutines.
type Set struct {
	table *table
}

// NewSet makes an empty one.
func NewSet() *Set { return &Set{newTable()} }

// Compare maps the lines of one text to those of another.
func (s *Set) Compare(old, new *Text) *Mapping {
	m := &Mapping{Old: old, New: new, idsOld: s.table.number(old), idsNew: s.table.number(new)}
	m.lines, m.taken = make([]image, len(m.idsOld)), make([]bool, len(m.idsNew))
	d := s.table.diff(m.idsOld, m.idsNew)
	d.slide(old, new)
	for i, j := range d.to {
		if j >= 0 {
			m.set(i, m, int(j), 1)
		}
	}
	m.orphans()
	m.moves(m, moveSurely)
	m.gaps()
	m.moves(m, moveAtAll)
	return m
}

func (m *Mapping) set(i int, in *Mapping, j int, like float64) {
	m.lines[i] = image{in, int32(j), like}
	in.taken[j] = true
}

func (m *Mapping) unset(i int) {
	x := m.lines[i]
	x.in.taken[x.line] = false
	m.lines[i] = image{}
}

// orphans lets go of lines that say next to nothing and that were kept though
// all around them was not: a lone bracket between two changed runs is another's.
func (m *Mapping) orphans() {
	for i := 0; i < len(m.lines); {
		if m.lines[i].in == nil {
			i++
			continue
		}
		end := i + 1
		for end < len(m.lines) && m.lines[end].in != nil && m.lines[end].line == m.lines[end-1].line+1 {
			end++
		}
		if end-i <= maxOrphans && i > 0 && end < len(m.lines) && m.lines[i-1].in == nil && m.lines[end].in == nil {
			told := 0.0
			for k := i; k < end; k++ {
				told += telling(m.Old.Lines[k])
			}
			for k := i; k < end && told < 5; k++ {
				m.unset(k)
			}
		}
		i = end
	}
}

// maxOrphans is how many lines in a row may be orphans.
const maxOrphans = 8

// moves looks for runs of lines that are gone among the lines that another
// mapping's text has anew. A run must tell so much.
func (m *Mapping) moves(to *Mapping, least float64) {
	where := map[int32][]int32{}
	for j, id := range to.idsNew {
		if !to.taken[j] && id != blankLine {
			where[id] = append(where[id], int32(j))
		}
	}
	if len(where) == 0 {
		return
	}
	type run struct {
		i, j, n int
		told    float64
	}
	var runs []run
	for i, id := range m.idsOld {
		if m.lines[i].in != nil || id == blankLine {
			continue
		}
		at := where[id]
		for _, j32 := range at[:min(len(at), maxSame)] {
			j := int(j32)
			if i > 0 && j > 0 && m.free(i-1) && !to.taken[j-1] && m.idsOld[i-1] == to.idsNew[j-1] && m.idsOld[i-1] != blankLine {
				continue // it is part of a longer run
			}
			r := run{i: i, j: j}
			for i+r.n < len(m.idsOld) && j+r.n < len(to.idsNew) && m.free(i+r.n) && !to.taken[j+r.n] && m.idsOld[i+r.n] == to.idsNew[j+r.n] {
				r.told += telling(m.Old.Lines[i+r.n])
				r.n++
			}
			if r.told >= least {
				runs = append(runs, r)
			}
		}
	}
	sort.SliceStable(runs, func(a, b int) bool { return runs[a].told > runs[b].told })
	for n, r := range runs {
		// two places that read the same are no sign; the run is shorter where part was taken
		rival := n+1 < len(runs) && runs[n+1].i == r.i && runs[n+1].told == r.told && runs[n+1].j != r.j
		if rival && to != m {
			continue
		}
		told := 0.0
		for k := range r.n {
			if m.free(r.i+k) && !to.taken[r.j+k] {
				told += telling(m.Old.Lines[r.i+k])
			}
		}
		if told < least {
			continue
		}
		for k := range r.n {
			if m.free(r.i+k) && !to.taken[r.j+k] {
				m.set(r.i+k, to, r.j+k, 1)
			}
		}
	}
}

func (m *Mapping) free(i int) bool { return m.lines[i].in == nil }

// gaps recognises lines that were put otherwise: between lines that were
// recognised, by their likeness.
func (m *Mapping) gaps() {
	for i := 0; i < len(m.lines); {
		if !m.free(i) {
			i++
			continue
		}
		end := i
		for end < len(m.lines) && m.free(end) {
			end++
		}
		m.gap(i, end)
		i = end
	}
}

// gap aligns the old lines i..end with the new lines that stand behind the
// image of the line above, or before that of the line below.
func (m *Mapping) gap(i, end int) {
	type window struct {
		in       *Mapping
		from, to int
	}
	var windows []window
	if i > 0 {
		x := m.lines[i-1]
		w := window{x.in, int(x.line) + 1, int(x.line) + 1}
		for w.to < len(x.in.taken) && !x.in.taken[w.to] && w.to-w.from < maxGapLines {
			w.to++
		}
		windows = append(windows, w)
	}
	if end < len(m.lines) {
		x := m.lines[end]
		w := window{x.in, int(x.line), int(x.line)}
		for w.from > 0 && !x.in.taken[w.from-1] && w.to-w.from < maxGapLines {
			w.from--
		}
		if len(windows) == 0 || windows[0] != w {
			windows = append(windows, w)
		}
	}
	if i == 0 && end == len(m.lines) {
		windows = append(windows, window{m, 0, min(len(m.taken), maxGapLines)})
	}
	type choice struct {
		in    *Mapping
		pairs []aligned
		sum   float64
	}
	var best choice
	for _, w := range windows {
		if w.from == w.to {
			continue
		}
		pairs := m.align(i, min(end, i+maxGapLines), w.in, w.from, w.to)
		c := choice{in: w.in, pairs: pairs}
		for _, p := range pairs {
			c.sum += p.like * (1 + telling(m.Old.Lines[p.i]))
		}
		if c.sum > best.sum {
			best = c
		}
	}
	for _, p := range best.pairs {
		m.set(p.i, best.in, p.j, p.like)
	}
	for k := i; k < end; k++ {
		m.replaced(k)
	}
}

// replaced recognises a line by nothing but its place: it stood alone between
// two lines that were recognised, and one new line stands between these now.
func (m *Mapping) replaced(i int) {
	if !m.free(i) || i == 0 || i+1 >= len(m.lines) {
		return
	}
	above, below := m.lines[i-1], m.lines[i+1]
	if above.in == nil || below.in != above.in || below.line != above.line+2 || above.in.taken[above.line+1] {
		return
	}
	if strings.TrimSpace(m.Old.Lines[i]) == "" || strings.TrimSpace(above.in.New.Lines[above.line+1]) == "" {
		return
	}
	m.set(i, above.in, int(above.line)+1, replacedLike)
}

// replacedLike is how much of a line counts as left that was recognised by its
// place alone.
const replacedLike = 0.35

type aligned struct {
	i, j int
	like float64
}

// align finds the pairs of lines, in the order of both texts, whose likeness
// sums up to the most.
func (m *Mapping) align(i, end int, to *Mapping, j, last int) []aligned {
	n, k := end-i, last-j
	if n*k > maxAligned {
		return nil // a large part written anew: what was kept of it is found as moved
	}
	olds, news := make([]pieces, n), make([]pieces, k)
	for x := range olds {
		olds[x] = cut(m.Old.Lines[i+x])
	}
	for y := range news {
		news[y] = cut(to.New.Lines[j+y])
	}
	like := make([]float64, n*k)
	sum := make([]float64, (n+1)*(k+1))
	for x := range n {
		for y := range k {
			l := 0.0
			if m.idsOld[i+x] == to.idsNew[j+y] {
				l = 1
				if m.idsOld[i+x] == blankLine {
					l = 0.01
				}
			} else if l = likeness(olds[x], news[y]); l < least {
				l = 0
			}
			like[x*k+y] = l
			best := max(sum[x*(k+1)+y+1], sum[(x+1)*(k+1)+y])
			if l > 0 {
				best = max(best, sum[x*(k+1)+y]+l*(0.2+min(olds[x].weight, 12)))
			}
			sum[(x+1)*(k+1)+y+1] = best
		}
	}
	var out []aligned
	for x, y := n, k; x > 0 && y > 0; {
		switch here := sum[x*(k+1)+y]; {
		case here == sum[(x-1)*(k+1)+y]:
			x--
		case here == sum[x*(k+1)+y-1]:
			y--
		default:
			x, y = x-1, y-1
			out = append(out, aligned{i + x, j + y, like[x*k+y]})
		}
	}
	slices.Reverse(out)
	return out
}

// Elsewhere looks for lines that are gone in texts that changed together with
// this one, among the lines they have anew.
func (m *Mapping) Elsewhere(others []*Mapping) {
	for _, o := range others {
		if o != m {
			m.moves(o, moveFar)
		}
	}
	m.gaps()
}
