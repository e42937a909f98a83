package placetest

import (
	"fmt"
	"strings"

	"juxtagram/core/place"
)

// Class is a sort of lines that are judged together.
type Class struct {
	Name                        string
	All, Right, Wrong, Unplaced int
}

// Score counts by class.
type Score struct {
	Classes map[string]*Class
	Show    func(string) // told of each wrong placement; nil: nobody
}

// NewScore makes an empty one.
func NewScore() *Score { return &Score{Classes: map[string]*Class{}} }

// Of is a class by name.
func (s *Score) Of(name string) *Class {
	c := s.Classes[name]
	if c == nil {
		c = &Class{Name: name}
		s.Classes[name] = c
	}
	return c
}

// Pair is a file before and after; one of both may be nil.
type Pair struct{ Old, New *place.Text }

// Pairs are the files of a world before and after its edits, as git's renames
// tell them.
func (w *World) Pairs() []Pair {
	var out []Pair
	left := map[int]bool{}
	for n := range w.Before {
		left[n] = true
	}
	for _, f := range w.files {
		p := Pair{New: textOf(f)}
		if f.was >= 0 {
			delete(left, f.was)
			p.Old = &place.Text{Path: w.Before[f.was].Path, Lines: w.Before[f.was].Lines}
		}
		out = append(out, p)
	}
	return out
}

func textOf(f *file) *place.Text {
	t := &place.Text{Path: f.path}
	for _, l := range f.lines {
		t.Lines = append(t.Lines, l.text)
	}
	return t
}

// Truth is where a line of a first text stands now.
type Truth struct {
	Fate  Fate
	Where map[place.Spot]bool // each line it became, as a spot of one line
}

// Truths are those of every line of the first texts, by file and number from 0.
func (w *World) Truths(first []File) [][]Truth {
	out := make([][]Truth, len(first))
	for n := range first {
		out[n] = make([]Truth, len(first[n].Lines))
		for i := range out[n] {
			out[n][i] = Truth{Fate: Lost, Where: map[place.Spot]bool{}}
		}
	}
	for _, f := range w.files {
		for i, l := range f.lines {
			if l.of == nil {
				continue
			}
			t := &out[l.of.file][l.of.number]
			t.Where[place.Spot{Path: f.path, Start: i + 1, End: i + 1}] = true
			t.Fate = Kept
			if len(t.Where) > 1 || strings.TrimSpace(l.text) != strings.TrimSpace(l.of.text) {
				t.Fate = Edited
			}
		}
	}
	return out
}

// Judge compares where each line of the first texts was placed with the truth.
func (s *Score) Judge(language string, first []File, truths [][]Truth, placed func(file, line int) place.Image) {
	names := map[Fate]string{Kept: "unchanged", Edited: "edited", Lost: "deleted"}
	for n := range first {
		for i, text := range first[n].Lines {
			if strings.TrimSpace(text) == "" {
				continue // nobody writes about an empty line
			}
			t := truths[n][i]
			img := placed(n, i+1)
			kind := names[t.Fate]
			if !place.Telling(text) {
				kind += ", says little"
			}
			for _, c := range []*Class{s.Of(kind), s.Of(language)} {
				c.All++
				switch {
				case img.What == place.Gone && t.Fate == Lost:
					c.Right++
				case img.What == place.Gone:
					c.Unplaced++
				case t.Where[img.Spot]:
					c.Right++
				default:
					c.Wrong++
				}
			}
			if s.Show != nil && (img.What != place.Gone) != (t.Fate != Lost) || s.Show != nil && img.What != place.Gone && !t.Where[img.Spot] {
				s.Show(fmt.Sprintf("%s %s:%d %q\n   is %s at %v, truly %v", kind, first[n].Path, i+1, text, img.What, img.Spot, t.Where))
			}
		}
	}
}
