package draft

import (
	"strings"

	"juxtagram/core/plan"
)

// hand is what people decided in a plan.
type hand struct {
	minutes int
	reads   map[int]int     // file → how many of its lines are read
	leave   map[string]bool // ids of passages that are not to be proposed
	out     int             // of those, which somebody took out
}

func (g *Ground) hand(s *plan.State) *hand {
	h := &hand{reads: map[int]int{}, leave: map[string]bool{}}
	if s == nil {
		return h
	}
	var kept []plan.Passage
	for key, x := range s.Passages {
		switch {
		case s.Passage(key) == nil:
			if x.Drafted != plan.OutByDraft && strings.HasPrefix(key, drafted) {
				h.leave[plain(key)] = true
				h.out++
			}
		case x.ByHand():
			h.minutes += x.Minutes
			h.leave[plain(key)] = true
			kept = append(kept, *x)
		}
	}
	for _, r := range g.ReadingsOf(kept) {
		h.reads[r.File] = r.Lines
	}
	return h
}

// ReadingsOf are the files that passages have one read, each once, with the most
// lines of it that one of them shows; in the order of passages.
func (g *Ground) ReadingsOf(list []plan.Passage) []Reading {
	out := []Reading{}
	at := map[int]int{}
	for i := range list {
		t := &list[i].Target
		for _, s := range t.Stretches() {
			file := g.Whole.Find(s.Path)
			if file < 0 || !g.readable(file) {
				continue
			}
			lines := g.Whole.Files[file].Lines
			switch {
			case s.Start > 0:
				lines = min(lines, s.End-s.Start+1)
			case t.Skim > 0:
				lines = min(lines, t.Skim)
			}
			if n, ok := at[file]; ok {
				lines = max(out[n].Lines, lines)
				out[n] = Reading{file, lines, g.minutes(file, lines)}
				continue
			}
			at[file] = len(out)
			out = append(out, Reading{file, lines, g.minutes(file, lines)})
		}
	}
	return out
}
