package server

import (
	"context"
	"errors"
	"math"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/plan"
	"juxtagram/core/repo"
	"juxtagram/core/skim"
	"juxtagram/core/summary"
)

// SkimInfo is a file cut into regions that can be folded away, column by
// column, with the order in which they open. The first region is the file.
type SkimInfo struct {
	Commit  string      `json:"commit"`
	Path    string      `json:"path"`
	Total   int         `json:"total" doc:"Lines of the file"`
	Kinds   []skim.Kind `json:"kinds"`
	Starts  []int       `json:"starts" doc:"First lines, from 1"`
	Ends    []int       `json:"ends" doc:"Last lines, included"`
	Tells   []int       `json:"tells" doc:"The line that shows while a region is folded; 0: its label alone does"`
	Parents []int       `json:"parents" doc:"The region around it; -1: the file itself"`
	Labels  []string    `json:"labels"`
	Worth   []float64   `json:"worth" doc:"0..1"`
	Whys    [][]string  `json:"whys" doc:"What the worth of a symbol comes from, the weightiest first"`
	Own     []int       `json:"own" doc:"Lines that show while a region is open, besides one for each region right inside"`
	Order   []int       `json:"order" doc:"The regions in the order in which they open"`
	Reason  string      `json:"reason" doc:"Why there are no regions; empty: there are"`
}

// recentDays is how far back a change counts as recent for a skim.
const recentDays = 90

func (s *Server) skim(ctx context.Context, w *who, in *AtPath) (*body[SkimInfo], error) {
	f, err := s.find(ctx, w, in)
	if err != nil {
		return nil, err
	}
	info := SkimInfo{Commit: f.commit, Path: in.Path, Kinds: []skim.Kind{}, Starts: []int{}, Ends: []int{}, Tells: []int{}, Parents: []int{}, Labels: []string{},
		Worth: []float64{}, Whys: [][]string{}, Own: []int{}, Order: []int{}}
	got, err := s.skimOf(ctx, w, f, in.Path)
	var large *repo.TooLargeError
	if errors.As(err, &large) {
		info.Reason = "the file is larger than 4 MB"
		return answer(info), nil
	}
	if err != nil {
		return nil, err
	}
	info.Total, info.Order = got.Total, append(info.Order, got.Order...)
	for _, r := range got.Regions {
		info.Kinds = append(info.Kinds, r.Kind)
		info.Starts, info.Ends, info.Tells = append(info.Starts, r.Start), append(info.Ends, r.End), append(info.Tells, r.Tell)
		info.Parents, info.Labels, info.Own = append(info.Parents, r.Parent), append(info.Labels, valid(r.Label)), append(info.Own, r.Own)
		info.Worth, info.Whys = append(info.Worth, math.Round(r.Worth*1000)/1000), append(info.Whys, append([]string{}, r.Why...))
	}
	return answer(info), nil
}

// skimOf makes the skim of a file as the person who asks sees it.
func (s *Server) skimOf(ctx context.Context, w *who, f *found, path string) (*skim.Skim, error) {
	raw, err := s.readers.read(w.repository.ID, f.blob, facts.MaxRead)
	if err != nil {
		return nil, err
	}
	raw, _ = facts.Text(raw)
	content := lang.ValidText(raw)
	told, err := s.factsOf(ctx, w, f)
	if err != nil {
		return nil, err
	}
	details, err := facts.Unpack(told.Packed)
	if err != nil {
		return nil, err
	}
	var in *skim.Input
	whole, file := s.wholeNow(ctx, w, path)
	if file >= 0 && whole.Files[file].Blob == f.blob {
		in = whole.SkimInput(file, content, details)
	} else {
		in = &skim.Input{Content: content, Details: details}
		if whole != nil {
			in.Rare = whole.Rare
		}
		for _, t := range told.Tagged {
			in.Tagged = append(in.Tagged, t.Line)
		}
	}
	if in.Marked, err = s.passagesIn(ctx, w, path, f.commit); err != nil {
		return nil, err
	}
	in.Recent = s.recentLines(ctx, w, f, path)
	return skim.Of(in), nil
}

// wholeNow is what the survey at the pin knows of all files, and the number of
// one of them; nil and -1 where it is not known yet.
func (s *Server) wholeNow(ctx context.Context, w *who, path string) (*summary.Whole, int) {
	whole, _, err := s.whole(ctx, w)
	if err != nil {
		return nil, -1
	}
	return whole, whole.Find(path)
}

// passagesIn are the lines of a file that plans have one read.
func (s *Server) passagesIn(ctx context.Context, w *who, path, commit string) ([]skim.Lines, error) {
	var out []skim.Lines
	err := s.eachPassage(ctx, w, func(_ *planView, _ int, x *plan.Passage) {
		for _, t := range x.Target.Stretches() {
			if t.Start > 0 && t.Path == path && t.Commit == commit {
				out = append(out, skim.Lines{Start: t.Start, End: t.End})
			}
		}
	})
	return out, err
}

// recentLines tells the lines that changed in the last months before a commit;
// nil: that cannot be told, or the file is as old as that.
func (s *Server) recentLines(ctx context.Context, w *who, f *found, path string) func(line int) float64 {
	key := f.commit + " " + f.blob + " " + path
	changed, ok := s.recents.Get(key)
	if !ok {
		changed = s.changedLately(ctx, w, f, path)
		if ctx.Err() != nil {
			return nil
		}
		s.recents.Add(key, changed)
	}
	if changed == nil {
		return nil
	}
	return func(line int) float64 {
		for _, l := range changed {
			if l.Start <= line && line <= l.End {
				return 1
			}
		}
		return 0
	}
}

// recentFiles is of how many files the lines changed lately are kept.
const recentFiles = 500

// newCache keeps the values asked for last; size is how many, above zero.
func newCache[K comparable, V any](size int) *lru.Cache[K, V] {
	cache, err := lru.New[K, V](size)
	if err != nil {
		panic(err) // all sizes are constants above zero
	}
	return cache
}

// changedLately are the lines of a file that changed in the last months before a
// commit; nil: that cannot be told, or there is nothing to tell.
func (s *Server) changedLately(ctx context.Context, w *who, f *found, path string) []skim.Lines {
	g := s.jobs.Git(w.repository.ID)
	before, known := s.earlier.Get(f.commit)
	if !known {
		at, err := s.store.CommitTime(ctx, w.repository.ID, f.commit)
		if err != nil {
			return nil
		}
		if before, err = g.Before(ctx, f.commit, at.Add(-recentDays*24*time.Hour).Unix()); err != nil {
			return nil
		}
		s.earlier.Add(f.commit, before)
	}
	if before == "" {
		return nil
	}
	old, err := s.readers.blobAt(ctx, w.repository.ID, before, path)
	if err != nil || old == f.blob {
		return nil
	}
	hunks, err := g.Compare(ctx, old, f.blob, false)
	if err != nil {
		return nil
	}
	var out []skim.Lines
	for _, h := range hunks {
		if h.NewCount > 0 {
			out = append(out, skim.Lines{Start: int(h.NewStart), End: int(h.NewStart+h.NewCount) - 1})
		}
	}
	return out
}
