package server

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/place"
	"juxtagram/core/repo"
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
	s      *Server
	w      *who
	log    *heldLog
	commit string
	known  *place.Known
	ways   map[string]*place.Placer
	texts  map[[2]string]*place.Text
}

func (s *Server) placing(ctx context.Context, w *who, commit string) (*placing, error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	return &placing{s: s, w: w, log: l, commit: commit, known: place.NewKnown(), ways: map[string]*place.Placer{}, texts: map[[2]string]*place.Text{}}, nil
}

// text reads a file at a commit; texts of the same content are the same.
func (p *placing) text(commit, path string) (*place.Text, error) {
	blobs := p.s.readers.blobs(p.w.repository.ID)
	raw, err := repo.UnescapePath(path, false)
	if err != nil {
		return nil, place.ErrNoText
	}
	id, err := blobs.Find(commit, raw)
	if errors.Is(err, repo.ErrNoFile) {
		return nil, place.ErrNoText
	}
	if err != nil {
		return nil, err
	}
	key := [2]string{id, path}
	if t := p.texts[key]; t != nil {
		return t, nil
	}
	content, err := blobs.Read(id, facts.MaxRead)
	if large := (*repo.TooLargeError)(nil); errors.As(err, &large) {
		return nil, place.ErrNoText
	}
	if err != nil {
		return nil, err
	}
	content, _ = facts.Text(content)
	if slices.Contains(content[:min(len(content), 8000)], 0) {
		return nil, place.ErrNoText // binary
	}
	t := place.NewText(path, string(content))
	p.texts[key] = t
	return t, nil
}

// along is the placer from a commit; nil: the log does not hold it.
func (p *placing) along(from string) *place.Placer {
	if placer, ok := p.ways[from]; ok {
		return placer
	}
	var placer *place.Placer
	if a, b := p.log.At(from), p.log.At(p.commit); a >= 0 && b >= 0 {
		placer = place.NewPlacer(p.log.WayOf(a, b, p.text), p.known)
	}
	p.ways[from] = placer
	return placer
}

// place finds a target at the commit.
func (p *placing) place(ctx context.Context, t *store.NoteTarget) (store.Placed, error) {
	whole := store.Placed{What: string(place.Same), Path: t.Path, Like: 1}
	switch t.Kind {
	case store.OnRepository, store.OnCommit:
		return whole, nil
	case store.OnFolder:
		return p.folder(ctx, t)
	}
	if t.Commit == p.commit {
		whole.Start, whole.End = t.Start, t.End
		return whole, nil
	}
	placer := p.along(t.Commit)
	if placer == nil {
		return p.byText(t)
	}
	if t.Kind == store.OnFile {
		return p.file(placer, t)
	}
	if t.Kind == store.OnSymbol {
		if found, err := p.symbol(ctx, placer, t); err != nil || found != nil {
			return *found, err
		}
	}
	out, err := placer.Place(&place.Sign{Commit: t.Commit, Path: t.Path, Start: t.Start, End: t.End, Quote: t.Quote})
	if err != nil {
		return whole, err
	}
	x := outcome(&out)
	if x.What == string(place.Gone) && t.Symbol != "" {
		if end, there := placer.EndOf(t.Path); there {
			if c := p.candidate(ctx, end, t.Symbol); c != nil {
				x.Candidates = append([]place.Candidate{*c}, x.Candidates...)
			}
		}
	}
	return x, nil
}

func outcome(o *place.Outcome) store.Placed {
	x := store.Placed{What: string(o.What), Path: o.Path, Start: o.Start, End: o.End, Like: o.Like, Reason: string(o.Reason), ReasonCommit: o.Commit, Candidates: o.Candidates}
	if o.What == place.Gone {
		x.Path, x.Start, x.End = "", 0, 0
	}
	return x
}

func (p *placing) file(placer *place.Placer, t *store.NoteTarget) (store.Placed, error) {
	end, there := placer.EndOf(t.Path)
	if !there {
		return store.Placed{What: string(place.Gone), Reason: string(place.FileDeleted), ReasonCommit: placer.GoneIn(t.Path)}, nil
	}
	x := store.Placed{What: string(place.Same), Path: end, Like: 1}
	if end != t.Path {
		x.What = string(place.Moved)
	}
	if _, err := p.s.readers.blobs(p.w.repository.ID).Find(p.commit, end); errors.Is(err, repo.ErrNoFile) {
		return store.Placed{What: string(place.Gone), Reason: string(place.FileAbsent)}, nil
	} else if err != nil {
		return x, err
	}
	return x, nil
}

func (p *placing) folder(ctx context.Context, t *store.NoteTarget) (store.Placed, error) {
	x := store.Placed{What: string(place.Same), Path: t.Path, Like: 1}
	if t.Path == "" {
		return x, nil
	}
	entries, err := p.s.jobs.Git(p.w.repository.ID).Folder(ctx, p.commit, t.Path)
	if ctx.Err() != nil {
		return x, ctx.Err()
	}
	if err != nil || len(entries) == 0 {
		return store.Placed{What: string(place.Gone), Reason: string(place.FileAbsent)}, nil
	}
	return x, nil
}

// outlineAt is the outline of a file at the commit; nil where it has none.
func (p *placing) outlineAt(ctx context.Context, path string) ([]lang.Symbol, error) {
	f, err := p.s.findIn(ctx, p.w, p.commit, path)
	if err != nil || f == nil {
		return nil, err
	}
	got, err := p.s.factsOf(ctx, p.w, f)
	if err != nil {
		return nil, err
	}
	d, err := facts.UnpackNames(got.Packed)
	if err != nil || d == nil {
		return nil, err
	}
	return d.Outline, nil
}

// symbol finds a symbol by its name in its file; nil: it is not there, and is
// looked for by its lines.
func (p *placing) symbol(ctx context.Context, placer *place.Placer, t *store.NoteTarget) (*store.Placed, error) {
	end, there := placer.EndOf(t.Path)
	if !there {
		return nil, nil
	}
	outline, err := p.outlineAt(ctx, end)
	if err != nil {
		return &store.Placed{}, err
	}
	i := slices.IndexFunc(outline, func(x lang.Symbol) bool { return x.Qualified == t.Symbol })
	if i < 0 {
		return nil, nil
	}
	x := &store.Placed{What: string(place.Changed), Path: end, Start: outline[i].Start, End: outline[i].End, Like: 1}
	out, err := placer.Place(&place.Sign{Commit: t.Commit, Path: t.Path, Start: t.Start, End: t.End, Quote: t.Quote})
	if err != nil {
		return x, err
	}
	if (out.What == place.Same || out.What == place.Moved) && out.Spot == (place.Spot{Path: end, Start: x.Start, End: x.End}) {
		x.What = string(out.What)
	}
	return x, nil
}

// candidate is the symbol in which something stood, where it is still there.
func (p *placing) candidate(ctx context.Context, path, symbol string) *place.Candidate {
	outline, err := p.outlineAt(ctx, path)
	if err != nil {
		return nil // a candidate less
	}
	for _, x := range outline {
		if x.Qualified == symbol {
			return &place.Candidate{Spot: place.Spot{Path: path, Start: x.Start, End: x.End}, Like: 0.5, Why: "symbol"}
		}
	}
	return nil
}

// byText looks for what was quoted, where no history leads from the target's
// commit to this one.
func (p *placing) byText(t *store.NoteTarget) (store.Placed, error) {
	x := store.Placed{What: string(place.Gone), Reason: string(place.TextNotFound)}
	text, err := p.text(p.commit, t.Path)
	if errors.Is(err, place.ErrNoText) {
		x.Reason = string(place.FileAbsent)
		return x, nil
	}
	if err != nil {
		return x, err
	}
	if t.Kind == store.OnFile {
		return store.Placed{What: string(place.Same), Path: t.Path, Like: 1}, nil
	}
	x.Candidates = place.Search(text, t.Quote)
	if best := x.Candidates; len(best) > 0 && best[0].Like > surely && (len(best) == 1 || best[1].Like < best[0].Like-0.1) {
		x.What, x.Path, x.Start, x.End, x.Like, x.Reason, x.Candidates = string(place.Changed), best[0].Path, best[0].Start, best[0].End, best[0].Like, "", nil
		if best[0].Like > 0.99 {
			x.What = string(place.Moved)
			if x.Start == t.Start && x.End == t.End {
				x.What = string(place.Same)
			}
		}
	}
	return x, nil
}

// surely is the likeness from which on a quote found once is taken as found.
const surely = 0.75
