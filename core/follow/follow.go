package follow

import (
	"context"
	"errors"
	"slices"

	"juxtagram/core/facts"
	"juxtagram/core/gitlog"
	"juxtagram/core/lang"
	"juxtagram/core/place"
	"juxtagram/core/repo"
)

// Kinds of points.
const (
	Lines  = "lines"
	Symbol = "symbol"
	File   = "file"
	Folder = "folder"
)

// Point is something that somebody points at, at one commit.
type Point struct {
	Kind       string
	Commit     string // full id
	Path       string // as it is shown
	Start, End int    // lines, from 1, both included; of a file and a folder 0
	Symbol     string // qualified name: what is pointed at, or what it stands in
	Quote      place.Quote
}

// CommitAbsent is the reason where the repository does not have the commit that is
// followed from.
const CommitAbsent place.Reason = "commit-absent"

// Outlines gives the outline of a file at a commit; nil where it has none.
type Outlines func(ctx context.Context, commit, path string) ([]lang.Symbol, error)

// Follower finds points at one commit. It is not safe for use by several goroutines.
type Follower struct {
	git      *repo.Git
	blobs    *repo.Blobs
	log      *gitlog.Log
	commit   string
	outlines Outlines
	known    *place.Known
	ways     map[string]*place.Placer
	texts    map[[2]string]*place.Text
	there    map[string]bool // commits
}

// New follows to a commit along a log.
func New(git *repo.Git, blobs *repo.Blobs, log *gitlog.Log, commit string, outlines Outlines) *Follower {
	return &Follower{git, blobs, log, commit, outlines, place.NewKnown(), map[string]*place.Placer{}, map[[2]string]*place.Text{}, map[string]bool{}}
}

// Commit is the commit that is followed to.
func (f *Follower) Commit() string { return f.commit }

// Has tells whether the repository has a commit, by its full id.
func (f *Follower) Has(ctx context.Context, commit string) (bool, error) {
	if there, known := f.there[commit]; known {
		return there, nil
	}
	there := f.log.At(commit) >= 0
	if !there {
		_, err := f.git.Resolve(ctx, commit)
		if unknown := (*repo.UnknownPinError)(nil); err != nil && !errors.As(err, &unknown) {
			return false, err
		}
		there = err == nil
	}
	f.there[commit] = there
	return there, nil
}

// Find is the id of the file at a path as it is shown; repo.ErrNoFile: there is none.
func (f *Follower) Find(commit, path string) (string, error) {
	return f.blobs.FindShown(commit, path)
}

// Text reads a file at a commit; texts of the same content are the same. ErrNoFile:
// there is no such file; ErrNoText: it has no lines.
func (f *Follower) Text(commit, path string) (*place.Text, error) {
	id, err := f.Find(commit, path)
	if errors.Is(err, repo.ErrNoFile) {
		return nil, place.ErrNoFile
	}
	if err != nil {
		return nil, err
	}
	key := [2]string{id, path}
	if t := f.texts[key]; t != nil {
		return t, nil
	}
	content, err := f.content(id)
	if err != nil {
		return nil, err
	}
	t := place.NewText(path, content)
	f.texts[key] = t
	return t, nil
}

// Content is a file at a commit as UTF-8, line ends as they are; errors as of Text.
func (f *Follower) Content(commit, path string) (string, error) {
	id, err := f.Find(commit, path)
	if errors.Is(err, repo.ErrNoFile) {
		return "", place.ErrNoFile
	}
	if err != nil {
		return "", err
	}
	return f.content(id)
}

func (f *Follower) content(blob string) (string, error) {
	content, err := f.blobs.Read(blob, facts.MaxRead)
	if large := (*repo.TooLargeError)(nil); errors.As(err, &large) {
		return "", place.ErrNoText
	}
	if err != nil {
		return "", err
	}
	content, _ = facts.Text(content)
	if slices.Contains(content[:min(len(content), 8000)], 0) {
		return "", place.ErrNoText // binary
	}
	return string(content), nil
}

// along is the placer from a commit; nil: the log does not hold it.
func (f *Follower) along(from string) *place.Placer {
	if placer, ok := f.ways[from]; ok {
		return placer
	}
	var placer *place.Placer
	if a, b := f.log.At(from), f.log.At(f.commit); a >= 0 && b >= 0 {
		placer = place.NewPlacer(f.log.WayOf(a, b, f.Text), f.known)
	}
	f.ways[from] = placer
	return placer
}

// found is a point that is as it was, at some path.
func found(path string, start, end int) place.Outcome {
	return place.Outcome{Image: place.Image{What: place.Same, Spot: place.Spot{Path: path, Start: start, End: end}, Like: 1}}
}

func gone(why place.Reason) place.Outcome {
	return place.Outcome{Image: place.Image{What: place.Gone}, Reason: why}
}

// Point finds a point at the commit. Of one that is gone the spot is empty.
func (f *Follower) Point(ctx context.Context, p *Point) (place.Outcome, error) {
	if p.Kind == Folder {
		return f.folder(ctx, p)
	}
	if p.Commit == f.commit {
		return found(p.Path, p.Start, p.End), nil
	}
	placer := f.along(p.Commit)
	switch {
	case placer == nil:
		return f.byText(p)
	case p.Kind == File:
		return f.file(placer, p.Path)
	case p.Kind == Symbol:
		out, err := f.symbol(ctx, placer, p)
		if err != nil {
			return place.Outcome{}, err
		}
		if out != nil {
			return *out, nil
		}
	}
	out, err := placer.Place(p.sign())
	if err != nil {
		return out, err
	}
	if out.What == place.Same && out.Path != p.Path {
		out.What = place.Moved
	}
	if out.What == place.Gone {
		out.Spot = place.Spot{}
		if end, there := placer.EndOf(p.Path); there && p.Symbol != "" {
			if c := f.candidate(ctx, end, p.Symbol); c != nil {
				out.Candidates = append([]place.Candidate{*c}, out.Candidates...)
			}
		}
	}
	return out, nil
}

func (p *Point) sign() *place.Sign {
	return &place.Sign{Commit: p.Commit, Path: p.Path, Start: p.Start, End: p.End, Quote: p.Quote}
}

func (f *Follower) file(placer *place.Placer, path string) (place.Outcome, error) {
	end, there := placer.EndOf(path)
	if !there {
		out := gone(place.FileDeleted)
		out.Commit = placer.GoneIn(path)
		return out, nil
	}
	if _, err := f.Find(f.commit, end); errors.Is(err, repo.ErrNoFile) {
		return gone(place.FileAbsent), nil
	} else if err != nil {
		return place.Outcome{}, err
	}
	out := found(end, 0, 0)
	if end != path {
		out.What = place.Moved
	}
	return out, nil
}

// Surely is the likeness from which on a quote found once is taken as found.
const Surely = 0.75

// byText looks for what was quoted, where no history leads from the point's commit to
// this one.
func (f *Follower) byText(p *Point) (place.Outcome, error) {
	text, err := f.Text(f.commit, p.Path)
	if errors.Is(err, place.ErrNoText) {
		return gone(place.FileAbsent), nil
	}
	if err != nil {
		return place.Outcome{}, err
	}
	if p.Kind == File {
		return found(p.Path, 0, 0), nil
	}
	list := place.Search(text, p.Quote)
	if len(list) == 0 || list[0].Like <= Surely || len(list) > 1 && list[1].Like >= list[0].Like-0.1 {
		out := gone(place.TextNotFound)
		out.Candidates = list
		return out, nil
	}
	best := list[0]
	out := found(best.Path, best.Start, best.End)
	out.What, out.Like = place.Changed, best.Like
	if place.QuoteOf(text, best.Start, best.End).Exact == p.Quote.Exact {
		out.What = place.Moved
		if best.Start == p.Start && best.End == p.End {
			out.What = place.Same
		}
	}
	return out, nil
}

// Whole finds a file, and how much of it reads as it did.
func (f *Follower) Whole(ctx context.Context, commit, path string) (place.Outcome, error) {
	x, err := f.Point(ctx, &Point{Kind: File, Commit: commit, Path: path})
	if err != nil || x.What == place.Gone {
		return x, err
	}
	old, err := f.Find(commit, path)
	if errors.Is(err, repo.ErrNoFile) {
		return x, nil // it was never there: nothing of it changed
	}
	if err != nil {
		return x, err
	}
	now, err := f.Find(f.commit, x.Path)
	if err != nil || old == now {
		return x, err
	}
	x.What, x.Like = place.Changed, 0
	a, err := f.Text(commit, path)
	if err == nil {
		var b *place.Text
		if b, err = f.Text(f.commit, x.Path); err == nil && len(a.Lines) > 0 {
			x.Like = place.NewSet().Compare(a, b).Lines(1, len(a.Lines)).Like
		}
	}
	if err != nil && !errors.Is(err, place.ErrNoText) {
		return x, err
	}
	return x, nil
}
