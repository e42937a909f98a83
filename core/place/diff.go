package place

import (
	"slices"
	"strings"
)

// Text is one file's content as placing sees it.
type Text struct {
	Path  string
	Lines []string
	ids   []int32 // of the lines, by the table they were numbered by last
	by    *table
}

// NewText splits a content into lines; line ends are not part of them.
func NewText(path, content string) *Text {
	content = strings.TrimSuffix(content, "\n")
	t := &Text{Path: path}
	if content == "" {
		return t
	}
	t.Lines = strings.Split(content, "\n")
	for i, l := range t.Lines {
		t.Lines[i] = strings.TrimSuffix(l, "\r")
	}
	return t
}

// table numbers the lines of texts that are compared: equal numbers are equal
// lines, space at both ends aside, so that a change of indentation is none.
type table struct {
	numbers map[string]int32
	seen    []seen
}

// blankLine is the number of lines without anything on them.
const blankLine = 0

func (t *table) number(x *Text) []int32 {
	if x.ids != nil && x.by == t {
		return x.ids
	}
	ids := make([]int32, len(x.Lines))
	for i, l := range x.Lines {
		key := strings.TrimSpace(l)
		id, ok := t.numbers[key]
		if !ok {
			id = int32(len(t.numbers))
			t.numbers[key] = id
		}
		ids[i] = id
	}
	x.ids, x.by = ids, t
	return ids
}

func newTable() *table { return &table{numbers: map[string]int32{"": blankLine}} }

// diff matches the lines of two texts: to[i] is the line of b that line i of a
// became, -1 where it was taken away. Lines that are there once in both are
// anchors (Cohen's patience diff); what lies between two anchors without any is
// compared by Myers' greedy algorithm ("An O(ND) Difference Algorithm", 1986),
// up to a number of edits.
type diff struct {
	a, b []int32
	to   []int32
	from []int32 // the other way round
	seen []seen  // by line number; all zero between two uses
}

// seen is how often a line is there in the parts that are compared, and where.
type seen struct{ inA, inB, b int32 }

func (t *table) diff(a, b []int32) *diff {
	if len(t.seen) < len(t.numbers) {
		t.seen = make([]seen, 2*len(t.numbers))
	}
	d := &diff{a: a, b: b, to: make([]int32, len(a)), from: make([]int32, len(b)), seen: t.seen}
	for i := range d.to {
		d.to[i] = -1
	}
	for i := range d.from {
		d.from[i] = -1
	}
	d.between(0, len(a), 0, len(b))
	return d
}

func (d *diff) match(i, j int) { d.to[i], d.from[j] = int32(j), int32(i) }

// between matches a[i:m] with b[j:n].
func (d *diff) between(i, m, j, n int) {
	for i < m && j < n && d.a[i] == d.b[j] {
		d.match(i, j)
		i, j = i+1, j+1
	}
	for i < m && j < n && d.a[m-1] == d.b[n-1] {
		m, n = m-1, n-1
		d.match(m, n)
	}
	if i == m || j == n {
		return
	}
	anchors := d.anchors(i, m, j, n)
	if len(anchors) == 0 {
		d.myers(i, m, j, n)
		return
	}
	for _, x := range anchors {
		d.between(i, x[0], j, x[1])
		d.match(x[0], x[1])
		i, j = x[0]+1, x[1]+1
	}
	d.between(i, m, j, n)
}

// anchors are the longest run, in the order of both texts, of lines that are
// there once in each part.
func (d *diff) anchors(i, m, j, n int) [][2]int {
	for k := i; k < m; k++ {
		d.seen[d.a[k]].inA++
	}
	for k := j; k < n; k++ {
		s := &d.seen[d.b[k]]
		s.inB++
		s.b = int32(k)
	}
	defer func() {
		for k := i; k < m; k++ {
			d.seen[d.a[k]] = seen{}
		}
		for k := j; k < n; k++ {
			d.seen[d.b[k]] = seen{}
		}
	}()
	// patience: piles of the positions in b, in the order of a
	var piles [][2]int // the last of each pile
	var before []int   // for each unique line, the index of the one before it
	var all [][2]int
	var tops []int
	for k := i; k < m; k++ {
		s := &d.seen[d.a[k]]
		if s.inA != 1 || s.inB != 1 || d.a[k] == blankLine {
			continue
		}
		at := int(s.b)
		low, high := 0, len(piles)
		for low < high {
			if mid := (low + high) / 2; piles[mid][1] < at {
				low = mid + 1
			} else {
				high = mid
			}
		}
		prev := -1
		if low > 0 {
			prev = tops[low-1]
		}
		all, before = append(all, [2]int{k, at}), append(before, prev)
		if low == len(piles) {
			piles, tops = append(piles, [2]int{k, at}), append(tops, len(all)-1)
		} else {
			piles[low], tops[low] = [2]int{k, at}, len(all)-1
		}
	}
	out := make([][2]int, len(piles))
	if len(piles) == 0 {
		return nil
	}
	for k, at := len(piles)-1, tops[len(piles)-1]; at >= 0; k, at = k-1, before[at] {
		out[k] = all[at]
	}
	return out
}

// maxEdits is how many lines may differ where no anchor helps: beyond, the part
// counts as written anew.
const maxEdits = 600

// myers matches a part by the shortest edit.
func (d *diff) myers(i, m, j, n int) {
	a, b := d.a[i:m], d.b[j:n]
	most := min(len(a)+len(b), maxEdits)
	v := make([]int32, 2*most+2) // the furthest line of a on each diagonal, from -most on
	var trace [][]int32
	for edits := 0; edits <= most; edits++ {
		trace = append(trace, slices.Clone(v[most-edits:most+edits+1]))
		for k := -edits; k <= edits; k += 2 {
			var x int
			if k == -edits || k != edits && v[most+k-1] < v[most+k+1] {
				x = int(v[most+k+1])
			} else {
				x = int(v[most+k-1]) + 1
			}
			y := x - k
			for x < len(a) && y < len(b) && a[x] == b[y] {
				x, y = x+1, y+1
			}
			v[most+k] = int32(x)
			if x >= len(a) && y >= len(b) {
				d.back(trace, len(a), len(b), i, j)
				return
			}
		}
	}
}

// back follows the edits back from the end, and matches what was kept.
// trace[e] are the furthest points on diagonals -e..e before edit e.
func (d *diff) back(trace [][]int32, x, y, i, j int) {
	keep := func(toX, toY int) {
		for x > toX && y > toY {
			x, y = x-1, y-1
			d.match(i+x, j+y)
		}
	}
	for e := len(trace) - 1; e > 0; e-- {
		k, v := x-y, trace[e]
		from := k - 1
		if k == -e || k != e && v[k-1+e] < v[k+1+e] {
			from = k + 1
		}
		px := int(v[from+e])
		keep(px, px-from)
		x, y = px, px-from
	}
	keep(0, 0)
}
