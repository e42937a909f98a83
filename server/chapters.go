package server

import (
	"context"
	"errors"
	"fmt"
	"sort"

	"juxtagram/core/facts"
	"juxtagram/core/gitlog"
	"juxtagram/core/place"
	"juxtagram/core/repo"
)

// chaptered is the story of a file or symbol before it is written down.
type chaptered struct {
	chapters   []gitlog.Chapter
	counts     map[int32][2]int // lines added and deleted in the file
	heat       []HeatPart
	lines      int
	start, end int
	rough      bool
	first      int64 // Unix seconds
}

// storyOf follows a file back from the pin, and the lines that its commits
// changed; with a symbol, it keeps the commits that touched its lines.
func (s *Server) storyOf(ctx context.Context, w *who, l *heldLog, path, symbol string) (*chaptered, error) {
	if l.Pin < 0 {
		return nil, notThere("the pin is not in the log yet")
	}
	out := &chaptered{counts: map[int32][2]int{}, heat: []HeatPart{}}
	at := l.Reach(l.Pin)
	out.chapters = l.Story(path, at)
	f, err := s.find(ctx, w, &AtPath{FilePath: FilePath{RepositoryPath{w.repository.ID}, path}})
	gone := (*Problem)(nil)
	switch {
	case errors.As(err, &gone) && symbol == "":
		f = nil // a file that the pin no longer has keeps its story
	case err != nil:
		return nil, err
	}
	if len(out.chapters) == 0 {
		if f == nil {
			return nil, err
		}
		return out, nil
	}
	if f != nil {
		told, err := s.factsOf(ctx, w, f)
		if err != nil {
			return nil, err
		}
		if told.Lines != nil {
			out.lines = told.Lines.Total
		}
		if symbol != "" {
			if out.start, out.end, err = linesOf(told, symbol); err != nil {
				return nil, fmt.Errorf("%s: %w", path, err)
			}
		}
	}
	ids := make([]string, len(out.chapters))
	for n, c := range out.chapters {
		ids[n] = l.IDs[c.Commit]
	}
	changes, err := s.store.ChangesOf(ctx, w.repository.ID, ids)
	if err != nil {
		return nil, err
	}
	out.follow(l, changes, symbol != "")
	out.rough = l.sideBySide(out.chapters)
	return out, nil
}

// linesOf are the lines of a symbol by its qualified or simple name.
func linesOf(told *facts.Facts, name string) (start, end int, err error) {
	details, err := facts.Unpack(told.Packed)
	if err != nil {
		return 0, 0, err
	}
	for _, qualified := range []bool{true, false} {
		for i := range details.Outline {
			x := &details.Outline[i]
			if (qualified && x.Qualified == name) || (!qualified && x.Name == name) {
				return x.Start, x.End, nil
			}
		}
	}
	return 0, 0, notThere(fmt.Sprintf("it has no symbol called %s at the pin", name))
}

// follow steps back through the hunks of the chapters: it counts their lines,
// says in which part of the file of the pin they lie, and, for a symbol, keeps
// the chapters that touched it.
func (t *chaptered) follow(l *heldLog, changes map[string][]repo.Change, symbol bool) {
	start, end := t.start, t.end
	kept := t.chapters[:0]
	heat := map[[2]int]int{}
	// where each part of the file of the pin begins, as the lines stand now
	bounds := make([]int, heatParts+1)
	for p := range bounds {
		bounds[p] = 1 + p*max(1, t.lines)/heatParts
	}
	first, last := l.Times[t.chapters[len(t.chapters)-1].Commit], l.Times[l.Pin]
	t.first = first
	for _, c := range t.chapters {
		var hunks []repo.Hunk
		for _, x := range changes[l.IDs[c.Commit]] {
			if shown, _ := repo.EscapePath(x.Path); shown == c.Path {
				hunks = x.Hunks
				t.counts[c.Commit] = [2]int{int(x.Added), int(x.Deleted)}
			}
		}
		when := 0
		if last > first {
			when = min(heatTimes-1, max(0, int(float64(l.Times[c.Commit]-first)/float64(last-first)*heatTimes)))
		}
		for _, h := range hunks {
			for n := int(h.NewStart); n < int(h.NewStart)+max(1, int(h.NewCount)); n++ {
				part := sort.SearchInts(bounds, n+1) - 1
				if part >= 0 && part < heatParts {
					heat[[2]int{part, when}]++
				}
			}
		}
		back := place.Back(hunks)
		if symbol {
			if end > 0 {
				s, e, state := place.Follow(back, start, end)
				if state == place.Changed || state == place.Gone {
					kept = append(kept, c)
				}
				start, end = s, e
				if state == place.Gone {
					end = 0
				}
			}
		} else {
			kept = append(kept, c)
		}
		for p := range bounds {
			bounds[p] = place.Line(back, bounds[p])
		}
	}
	t.chapters = kept
	for k, n := range heat {
		t.heat = append(t.heat, HeatPart{k[0], k[1], n})
	}
	sort.Slice(t.heat, func(a, b int) bool {
		if t.heat[a].When != t.heat[b].When {
			return t.heat[a].When < t.heat[b].When
		}
		return t.heat[a].Part < t.heat[b].Part
	})
}

// sideBySide tells whether some chapter does not descend from the next: two
// branches changed the file at the same time.
func (l *heldLog) sideBySide(chapters []gitlog.Chapter) bool {
	for n := 0; n+1 < len(chapters) && n < 200; n++ {
		if !l.Descends(chapters[n].Commit, chapters[n+1].Commit) {
			return true
		}
	}
	return false
}
