package server

import (
	"context"
	"errors"
	"fmt"

	"juxtagram/core/facts"
	"juxtagram/core/gitlog"
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
	own := make(map[int32][]repo.Hunk, len(out.chapters)) // of the file, by commit
	for _, c := range out.chapters {
		for _, x := range changes[l.IDs[c.Commit]] {
			if shown, _ := repo.EscapePath(x.Path); shown == c.Path {
				own[c.Commit] = x.Hunks
				out.counts[c.Commit] = [2]int{int(x.Added), int(x.Deleted)}
				break
			}
		}
	}
	hunks := func(c gitlog.Chapter) []repo.Hunk { return own[c.Commit] }
	out.first = l.Times[out.chapters[len(out.chapters)-1].Commit]
	for _, x := range l.HeatOf(out.chapters, hunks, out.lines, l.Times[l.Pin]) {
		out.heat = append(out.heat, HeatPart(x))
	}
	out.rough = l.SideBySide(out.chapters)
	if symbol != "" {
		out.chapters = gitlog.Touching(out.chapters, hunks, out.start, out.end)
	}
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
