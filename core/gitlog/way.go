package gitlog

import (
	"errors"
	"slices"

	"juxtagram/core/place"
)

// Way is the way from one commit to another as package place follows it: the
// commits of one line of descent, ahead or back. Where neither commit descends
// from the other there are no steps, and only the two ends can be compared.
type Way struct {
	log      *Log
	from, to int32
	set      Set     // of the line of descent, without the older end
	line     []int32 // the older end first
	back     bool
	text     func(commit, path string) (*place.Text, error)
}

// WayOf finds the way between two commits; text reads a file at a commit.
func (l *Log) WayOf(from, to int32, text func(commit, path string) (*place.Text, error)) *Way {
	w := &Way{log: l, from: from, to: to, text: text}
	if w.line = l.descent(from, to); w.line == nil {
		w.line = l.descent(to, from)
		w.back = w.line != nil
	}
	w.set = NewSet(l.Len())
	for _, c := range w.line[min(1, len(w.line)):] {
		w.set.Add(c)
	}
	return w
}

// descent is one line of commits from one to another that descends from it, the
// first parent where several lead there; both are in it. nil: it does not
// descend from it.
func (l *Log) descent(from, to int32) []int32 {
	if to > from {
		return nil // newer commits come first
	}
	below := NewSet(l.Len())
	below.Add(from)
	for i := from - 1; i >= to; i-- {
		for _, p := range l.Parents(i) {
			if p >= 0 && below.Has(p) {
				below.Add(i)
				break
			}
		}
	}
	if !below.Has(to) {
		return nil
	}
	line := []int32{to}
	for at := to; at != from; {
		for _, p := range l.Parents(at) {
			if p >= 0 && below.Has(p) {
				at = p
				break
			}
		}
		line = append(line, at)
	}
	slices.Reverse(line)
	return line
}

// Target implements place.Way.
func (w *Way) Target() string { return w.log.IDs[w.to] }

// Text implements place.Way.
func (w *Way) Text(commit, path string) (*place.Text, error) { return w.text(commit, path) }

// Steps implements place.Way.
func (w *Way) Steps(path, behind string) []place.Step {
	at := int32(-1)
	if behind != "" {
		at = w.log.At(behind)
	}
	var chapters []Chapter
	if w.back {
		chapters = w.before(path, at)
	} else {
		chapters = w.log.Forward(path, w.set, at)
	}
	var out []place.Step
	for _, c := range chapters {
		s := place.Step{Commit: w.log.IDs[c.Commit], Path: c.Path, Old: c.Path, Gone: c.Status == 'D'}
		if c.Old != "" {
			s.Old = c.Old
		}
		if c.Status == 'A' {
			if !w.back {
				continue // it was there already: a merge brought it
			}
			s.Gone = true
		}
		if w.back && c.Status == 'D' {
			continue
		}
		s.From, s.To = w.log.IDs[w.parent(c.Commit)], s.Commit
		if w.back {
			s.From, s.To, s.Path, s.Old = s.To, s.From, s.Old, s.Path
		}
		for _, o := range w.log.ChangesAt(c.Commit) {
			if x := w.other(o); x.New != s.Path && x.Old != s.Old {
				s.Others = append(s.Others, x)
			}
		}
		out = append(out, s)
	}
	return out
}

// before are the commits that changed a file, back from the newer end, or from
// before a commit.
func (w *Way) before(path string, behind int32) []Chapter {
	set := w.set
	if behind >= 0 {
		set = NewSet(w.log.Len())
		for _, c := range w.line[1:] {
			if c > behind {
				set.Add(c)
			}
		}
	}
	return w.log.Story(path, set)
}

// other is a file that changed with another, as the way sees it.
func (w *Way) other(c Chapter) place.OtherFile {
	o := place.OtherFile{Old: c.Path, New: c.Path}
	if c.Old != "" {
		o.Old = c.Old
	}
	switch c.Status {
	case 'A':
		o.Old = ""
	case 'D':
		o.New = ""
	}
	if w.back {
		o.Old, o.New = o.New, o.Old
	}
	return o
}

// parent is the commit before one on the line.
func (w *Way) parent(c int32) int32 {
	i, _ := slices.BinarySearchFunc(w.line, c, func(x, c int32) int { return int(c - x) }) // numbers descend
	return w.line[i-1]
}

// Renamed implements place.Way.
func (w *Way) Renamed(path string) string {
	onlyFrom, onlyTo := w.log.Apart(w.from, w.to)
	end := path
	if w.back {
		for _, c := range w.log.Story(path, onlyFrom) {
			if c.Old != "" {
				end = c.Old
			}
		}
	} else {
		for _, c := range w.log.Forward(path, onlyTo, -1) {
			end = c.Path
		}
	}
	if _, err := w.text(w.Target(), end); errors.Is(err, place.ErrNoFile) {
		return ""
	}
	return end
}
