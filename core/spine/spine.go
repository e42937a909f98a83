// Package spine lays the folder tree of a survey out as rows, and reckons what
// stands beside them: what happened to each in a span of the history, and what
// ties a file or folder to the others.
package spine

import (
	"slices"
	"strings"

	"juxtagram/core/history"
)

// Row is a file or folder.
type Row struct {
	Name   string // the last part of the path
	Parent int32  // the row of the folder it lies in; -1: the root
	Below  int32  // rows below a folder, at any depth, which follow it; 0: a file
	File   int32  // number of the file; -1: a folder
}

// Table is the tree in the order in which it is read: every folder before what
// is below it, folders before files, each by name.
type Table struct {
	Rows  []Row
	OfRow []int32 // file → row
}

// New lays out the files of some paths, numbered as they are.
func New(paths []string) *Table {
	order := make([]int32, len(paths))
	for i := range order {
		order[i] = int32(i)
	}
	slices.SortFunc(order, func(a, b int32) int { return compare(paths[a], paths[b]) })
	t := &Table{OfRow: make([]int32, len(paths))}
	var open []int32     // rows of the folders that the last file lies in
	var folders []string // their names
	for _, i := range order {
		parts := strings.Split(paths[i], "/")
		dirs := parts[:len(parts)-1]
		same := 0
		for same < len(dirs) && same < len(folders) && dirs[same] == folders[same] {
			same++
		}
		t.close(open[same:])
		open, folders = open[:same], folders[:same]
		for _, d := range dirs[same:] {
			t.Rows = append(t.Rows, Row{Name: d, Parent: last(open), File: -1})
			open, folders = append(open, int32(len(t.Rows)-1)), append(folders, d)
		}
		t.OfRow[i] = int32(len(t.Rows))
		t.Rows = append(t.Rows, Row{Name: parts[len(parts)-1], Parent: last(open), File: i})
	}
	t.close(open)
	return t
}

func last(open []int32) int32 {
	if len(open) == 0 {
		return -1
	}
	return open[len(open)-1]
}

// close ends folders: all rows since are below them.
func (t *Table) close(open []int32) {
	for _, r := range open {
		t.Rows[r].Below = int32(len(t.Rows)) - r - 1
	}
}

// compare orders paths as the tree is read.
func compare(a, b string) int {
	for {
		x, restA, nestedA := strings.Cut(a, "/")
		y, restB, nestedB := strings.Cut(b, "/")
		if nestedA != nestedB {
			if nestedA {
				return -1
			}
			return 1
		}
		if x != y || !nestedA {
			return strings.Compare(x, y)
		}
		a, b = restA, restB
	}
}

// FilesOf are the files of a row: itself, or all below the folder; with -1 all
// there are.
func (t *Table) FilesOf(row int32) []int32 {
	from, to := row, row+1
	if row < 0 {
		from, to = 0, int32(len(t.Rows))
	} else {
		to += t.Rows[row].Below
	}
	var out []int32
	for _, r := range t.Rows[from:to] {
		if r.File >= 0 {
			out = append(out, r.File)
		}
	}
	return out
}

// Path is the whole path of a row.
func (t *Table) Path(row int32) string {
	var parts []string
	for ; row >= 0; row = t.Rows[row].Parent {
		parts = append(parts, t.Rows[row].Name)
	}
	slices.Reverse(parts)
	return strings.Join(parts, "/")
}

// Wing is what happened to every row in a span, as columns. Of a folder, only
// the people are told: those who changed anything below it, each once. The rest
// can be summed up from its files in more than one way.
type Wing struct {
	Commits int // of the span, merges aside
	Changes []int32
	Churn   []int32 // lines added and deleted; -1: some are not counted
	People  []int32
	Recent  []float64
	First   []int64 // Unix seconds; 0: no change
	Last    []int64
}

// Wing reckons a span.
func (t *Table) Wing(l *history.Ledger, s history.Span) *Wing {
	n := len(t.Rows)
	w := &Wing{Commits: l.Commits(s), Changes: make([]int32, n), Churn: make([]int32, n), People: make([]int32, n), Recent: make([]float64, n), First: make([]int64, n), Last: make([]int64, n)}
	sweep := l.Sweep(s)
	below := make([]int32, 0, 256)
	for i := range t.Rows {
		r := &t.Rows[i]
		if r.File >= 0 {
			h := sweep.Of(r.File)
			w.Changes[i], w.Churn[i], w.People[i], w.Recent[i], w.First[i], w.Last[i] = int32(h.Changes), int32(h.Churn), int32(h.People), h.Recent, h.First, h.Last
			continue
		}
		below = below[:0]
		for _, x := range t.Rows[i+1 : i+1+int(r.Below)] {
			if x.File >= 0 {
				below = append(below, x.File)
			}
		}
		w.People[i] = int32(sweep.Of(below...).People)
	}
	return w
}

// Arcs says which files lean on which; see links.Graph.
type Arcs interface {
	Dependencies(file int) []int32
	Dependents(file int) []int32
}

// Tie is how one file is tied to a selected row.
type Tie struct {
	Row     int32
	LeansOn int // files of the selection that lean on it
	UsedBy  int // files of the selection that it leans on
}

// Ties are the files outside a row that it leans on, or that lean on it, in the
// order of rows.
func (t *Table) Ties(row int32, arcs Arcs) []Tie {
	found := map[int32]*Tie{}
	at := func(file int32) *Tie {
		r := t.OfRow[file]
		if r >= row && r <= row+t.Rows[row].Below {
			return &Tie{} // inside: not told
		}
		if found[r] == nil {
			found[r] = &Tie{Row: r}
		}
		return found[r]
	}
	for _, f := range t.FilesOf(row) {
		for _, to := range arcs.Dependencies(int(f)) {
			at(to).LeansOn++
		}
		for _, from := range arcs.Dependents(int(f)) {
			at(from).UsedBy++
		}
	}
	out := make([]Tie, 0, len(found))
	for _, x := range found {
		out = append(out, *x)
	}
	slices.SortFunc(out, func(a, b Tie) int { return int(a.Row - b.Row) })
	return out
}
