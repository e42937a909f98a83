// Package placetest takes real texts through generated edits of which the effect
// on every line is written down, and judges where lines are placed by it.
package placetest

import (
	"fmt"
	"math/rand/v2"
	"regexp"
	"strings"
)

// Fate is what happened to a line.
type Fate uint8

// The fates, as they are told.
const (
	Kept   Fate = iota // it reads the same, space at both ends aside
	Edited             // it reads otherwise
	Lost               // it was taken away
)

// line is a line with what it was at first.
type line struct {
	text string
	of   *origin // nil: it was not there at first
}

// origin is a line of a first text.
type origin struct {
	file, number int // from 0
	text         string
}

// World is some files under edits.
type World struct {
	Before []File
	files  []*file
	random *rand.Rand
	spare  []string // lines of other texts, to insert
	fresh  int
	Edits  map[string]int // made, by kind
}

// File is a path with its lines.
type File struct {
	Path  string
	Lines []string
}

type file struct {
	path  string
	was   int // number of the file it was at first; -1: none
	lines []line
}

// New makes a world of some files; spare are lines to insert.
func New(random *rand.Rand, files []File, spare []string) *World {
	w := &World{Before: files, random: random, spare: spare, Edits: map[string]int{}}
	for n, f := range files {
		x := &file{path: f.Path, was: n}
		for i, l := range f.Lines {
			x.lines = append(x.lines, line{l, &origin{n, i, l}})
		}
		w.files = append(w.files, x)
	}
	return w
}

// Kinds are the sorts of edits, with how often each is made.
var kinds = []struct {
	name   string
	weight int
	do     func(w *World, f *file) bool
}{
	{"insert", 8, (*World).insert},
	{"delete", 6, (*World).remove},
	{"edit", 12, (*World).edit},
	{"move within", 2, (*World).moveWithin},
	{"move between", 1, (*World).moveBetween},
	{"rename", 1, (*World).rename},
	{"split", 1, (*World).split},
	{"reformat", 3, (*World).reformat},
	{"re-indent", 2, (*World).reindent},
	{"rename a symbol", 2, (*World).renameSymbol},
}

// Edit makes one edit of any kind.
func (w *World) Edit() {
	total := 0
	for _, k := range kinds {
		total += k.weight
	}
	for range 20 {
		n := w.random.IntN(total)
		for _, k := range kinds {
			if n -= k.weight; n < 0 {
				f := w.files[w.random.IntN(len(w.files))]
				if len(f.lines) > 12 && k.do(w, f) {
					w.Edits[k.name]++
					return
				}
				break
			}
		}
	}
}

func (w *World) insert(f *file) bool {
	n := 1 + w.random.IntN(8)
	from := w.random.IntN(max(1, len(w.spare)-n))
	at := w.random.IntN(len(f.lines) + 1)
	var fresh []line
	for _, l := range w.spare[from:min(len(w.spare), from+n)] {
		fresh = append(fresh, line{text: l})
	}
	f.lines = append(f.lines[:at:at], append(fresh, f.lines[at:]...)...)
	return true
}

// block picks a run of lines, at best one that begins and ends with a blank.
func (w *World) block(f *file, most int) (from, to int) {
	for range 12 {
		from = w.random.IntN(len(f.lines))
		if strings.TrimSpace(f.lines[from].text) == "" && from+1 < len(f.lines) {
			from++
			break
		}
	}
	to = from + 1
	for to < len(f.lines) && to-from < most && (strings.TrimSpace(f.lines[to].text) != "" || w.random.IntN(3) > 0) {
		to++
	}
	return from, to
}

func (w *World) remove(f *file) bool {
	most := 3
	if w.random.IntN(3) == 0 {
		most = 25
	}
	from, to := w.block(f, 1+w.random.IntN(most))
	f.lines = append(f.lines[:from:from], f.lines[to:]...)
	return true
}

var name = regexp.MustCompile(`[A-Za-z_]\w{2,}|\b\d+\b`)

// edit changes a piece of a line or two, or puts one in.
func (w *World) edit(f *file) bool {
	for range 10 {
		l := &f.lines[w.random.IntN(len(f.lines))]
		found := name.FindAllStringIndex(l.text, -1)
		if len(found) < 2 {
			continue
		}
		before := l.text
		for range 1 + w.random.IntN(max(1, min(2, len(found)/3))) {
			at := found[w.random.IntN(len(found))]
			if at[1] > len(l.text) {
				continue
			}
			w.fresh++
			switch w.random.IntN(4) {
			case 0: // another name
				l.text = l.text[:at[0]] + fmt.Sprintf("other%d", w.fresh) + l.text[at[1]:]
			case 1: // a longer name
				l.text = l.text[:at[1]] + "Next" + l.text[at[1]:]
			case 2: // one piece more
				l.text = l.text[:at[1]] + fmt.Sprintf(", extra%d", w.fresh) + l.text[at[1]:]
			default: // one piece less
				l.text = l.text[:at[0]] + l.text[at[1]:]
			}
			found = name.FindAllStringIndex(l.text, -1)
			if len(found) == 0 {
				break
			}
		}
		if l.text != before {
			return true
		}
	}
	return false
}

func (w *World) moveWithin(f *file) bool {
	from, to := w.block(f, 4+w.random.IntN(25))
	if to-from < 3 {
		return false
	}
	moved := append([]line(nil), f.lines[from:to]...)
	rest := append(f.lines[:from:from], f.lines[to:]...)
	at := w.random.IntN(len(rest) + 1)
	f.lines = append(rest[:at:at], append(moved, rest[at:]...)...)
	return true
}

func (w *World) moveBetween(f *file) bool {
	from, to := w.block(f, 6+w.random.IntN(40))
	other := w.files[w.random.IntN(len(w.files))]
	if to-from < 5 || other == f {
		return false
	}
	moved := append([]line(nil), f.lines[from:to]...)
	f.lines = append(f.lines[:from:from], f.lines[to:]...)
	at := w.random.IntN(len(other.lines) + 1)
	other.lines = append(other.lines[:at:at], append(moved, other.lines[at:]...)...)
	return true
}

func (w *World) rename(f *file) bool {
	w.fresh++
	f.path = fmt.Sprintf("moved%d/%s", w.fresh, f.path)
	return true
}

func (w *World) split(f *file) bool {
	if len(f.lines) < 60 {
		return false
	}
	at := len(f.lines)/3 + w.random.IntN(len(f.lines)/3)
	w.fresh++
	w.files = append(w.files, &file{path: fmt.Sprintf("part%d/%s", w.fresh, f.path), was: -1, lines: append([]line(nil), f.lines[at:]...)})
	f.lines = f.lines[:at:at]
	return true
}

// reformat breaks a line in two, or joins two.
func (w *World) reformat(f *file) bool {
	for range 10 {
		i := w.random.IntN(len(f.lines) - 1)
		l := f.lines[i]
		indent := l.text[:len(l.text)-len(strings.TrimLeft(l.text, " \t"))]
		if cut := strings.LastIndexAny(l.text, ",("); cut > len(indent)+8 && cut+4 < len(l.text) {
			rest := line{indent + "\t" + strings.TrimLeft(l.text[cut+1:], " "), l.of}
			f.lines[i].text = l.text[:cut+1]
			f.lines = append(f.lines[:i+1:i+1], append([]line{rest}, f.lines[i+1:]...)...)
			return true
		}
	}
	return false
}

// reindent puts a run of lines deeper, or the whole file into spaces.
func (w *World) reindent(f *file) bool {
	if w.random.IntN(6) == 0 {
		for i := range f.lines {
			f.lines[i].text = strings.ReplaceAll(f.lines[i].text, "\t", "    ")
		}
		return true
	}
	from, to := w.block(f, 3+w.random.IntN(30))
	for i := from; i < to; i++ {
		if strings.TrimSpace(f.lines[i].text) != "" {
			f.lines[i].text = "\t" + f.lines[i].text
		}
	}
	return true
}

func (w *World) renameSymbol(f *file) bool {
	for range 10 {
		found := name.FindAllString(f.lines[w.random.IntN(len(f.lines))].text, -1)
		if len(found) == 0 {
			continue
		}
		old := found[w.random.IntN(len(found))]
		if len(old) < 4 || old[0] >= '0' && old[0] <= '9' {
			continue
		}
		w.fresh++
		re := regexp.MustCompile(`\b` + old + `\b`)
		n := 0
		for i := range f.lines {
			if s := re.ReplaceAllLiteralString(f.lines[i].text, fmt.Sprintf("%sRenamed%d", old, w.fresh)); s != f.lines[i].text {
				f.lines[i].text = s
				n++
			}
		}
		if n > 1 && n < len(f.lines)/3 {
			return true
		}
		if n > 0 {
			return true
		}
	}
	return false
}
