package server

import (
	"context"
	"fmt"
	"path"
	"slices"
	"time"

	"juxtagram/core/facts"
	"juxtagram/core/follow"
	"juxtagram/core/lang"
	"juxtagram/core/place"
	"juxtagram/store"
)

// placingTime is how long a request looks for places; the rest is done by the
// next.
const placingTime = time.Second

// ensurePlaced finds out where the threads of a repository stand at a commit, as
// far as that is not kept. left is how many are still to be placed.
func (s *Server) ensurePlaced(ctx context.Context, w *who, commit string) (left int, err error) {
	todo, err := s.store.Unplaced(ctx, w.repository.ID, commit)
	if err != nil || len(todo) == 0 {
		return 0, err
	}
	// one request at a time looks for the places at a commit; the others say that
	// they are being looked for
	busy := fmt.Sprint(w.repository.ID, commit)
	if _, taken := s.placingAt.LoadOrStore(busy, true); taken {
		return len(todo), nil
	}
	defer s.placingAt.Delete(busy)
	p, err := s.placing(ctx, w, commit)
	if err != nil {
		return len(todo), err
	}
	if p.log.At(commit) < 0 {
		return len(todo), nil // its history is still to be read: what would be found now would stay
	}
	// files one after the other: what was compared for one helps the next
	slices.SortStableFunc(todo, func(a, b store.Annotation) int {
		if a.Target.Commit != b.Target.Commit {
			return int(p.log.At(a.Target.Commit)) - int(p.log.At(b.Target.Commit))
		}
		return 0
	})
	began := time.Now()
	var found []store.Placed
	for n := range todo {
		if time.Since(began) > placingTime {
			left = len(todo) - n
			break
		}
		x, err := p.place(ctx, todo[n].Target)
		if err != nil {
			return len(todo), err
		}
		x.Annotation = todo[n].ID
		found = append(found, x)
	}
	return left, s.store.KeepPlaces(ctx, commit, found)
}

// placing finds places at one commit.
type placing struct {
	*follow.Follower
	log *heldLog
}

func (s *Server) placing(ctx context.Context, w *who, commit string) (*placing, error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	outlines := func(ctx context.Context, commit, path string) ([]lang.Symbol, error) {
		return s.outlineAt(ctx, w, commit, path)
	}
	return &placing{follow.New(s.jobs.Git(w.repository.ID), s.readers.blobs(w.repository.ID), l.Log, commit, outlines), l}, nil
}

// outlineAt is the outline of a file at a commit; nil where it has none.
func (s *Server) outlineAt(ctx context.Context, w *who, commit, path string) ([]lang.Symbol, error) {
	f, err := s.findIn(ctx, w, commit, path)
	if err != nil || f == nil {
		return nil, err
	}
	got, err := s.factsOf(ctx, w, f)
	if err != nil {
		return nil, err
	}
	d, err := facts.UnpackNames(got.Packed)
	if err != nil || d == nil {
		return nil, err
	}
	return d.Outline, nil
}

// pointKinds are what annotations on files point at.
var pointKinds = map[string]string{store.OnFolder: follow.Folder, store.OnFile: follow.File, store.OnLines: follow.Lines, store.OnSymbol: follow.Symbol}

// place finds the target of an annotation at the commit.
func (p *placing) place(ctx context.Context, t *store.NoteTarget) (store.Placed, error) {
	kind := pointKinds[t.Kind]
	if kind == "" {
		return store.Placed{What: string(place.Same), Path: t.Path, Like: 1}, nil
	}
	point := follow.Point{Kind: kind, Commit: t.Commit, Path: t.Path, Start: t.Start, End: t.End, Symbol: t.Symbol, Quote: t.Quote}
	o, err := p.Point(ctx, &point)
	if err == nil && o.What == place.Gone {
		var wider []place.Candidate
		wider, err = p.wider(ctx, &point)
		o.Candidates = append(o.Candidates, wider...)
	}
	return store.Placed{What: string(o.What), Path: o.Path, Start: o.Start, End: o.End, Like: o.Like, Reason: string(o.Reason), ReasonCommit: o.Commit, Candidates: o.Candidates}, err
}

// wider are the file and the folder around something that is gone, as far as they are
// there: what a person may attach its note to instead. They are alike in nothing.
func (p *placing) wider(ctx context.Context, point *follow.Point) ([]place.Candidate, error) {
	var out []place.Candidate
	at := point.Path
	if point.Kind != follow.Folder {
		file := *point
		file.Kind = follow.File
		o, err := p.Point(ctx, &file)
		if err != nil {
			return nil, err
		}
		if o.What != place.Gone && point.Kind != follow.File {
			out = append(out, place.Candidate{Spot: place.Spot{Path: o.Path}, Why: "file"})
			at = o.Path
		}
	}
	for dir := at; dir != "." && dir != "/" && dir != ""; dir = path.Dir(dir) {
		there, err := p.HasFolder(ctx, dir)
		if err != nil {
			return nil, err
		}
		if there {
			return append(out, place.Candidate{Spot: place.Spot{Path: dir}, Why: "folder"}), nil
		}
	}
	return out, nil
}
