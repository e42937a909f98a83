package place

import (
	"errors"
	"math/bits"
	"path"
	"slices"
)

// Reason says why a place was not found.
type Reason string

// The reasons.
const (
	LinesDeleted Reason = "lines-deleted" // a commit took them away
	FileDeleted  Reason = "file-deleted"  // a commit took the file away
	FileAbsent   Reason = "file-absent"   // the file is not there, and no step says why
	NoText       Reason = "no-text"       // the file has no lines: it is binary, too large or no file
	TextNotFound Reason = "text-not-found"
)

// Outcome is where something stands at the end of a way.
type Outcome struct {
	Image
	Reason     Reason      // of What == Gone
	Commit     string      // that took it away; "": not known
	Candidates []Candidate // of What == Gone, the likeliest first
}

// maxOthers is how many other files of a commit are looked through for lines
// that were moved, maxSteps how many steps are followed.
const (
	maxOthers = 40
	maxSteps  = 2000
)

// Placer follows places along one way.
type Placer struct {
	way   Way
	known *Known
	ends  map[string]string // path at the beginning → at the end; "": not there
	paths map[string][]Step
}

// NewPlacer follows along a way. Texts that are the same should be the same
// pointers: what is known of them is then asked for once.
func NewPlacer(way Way, known *Known) *Placer {
	return &Placer{way: way, known: known, ends: map[string]string{}, paths: map[string][]Step{}}
}

func (p *Placer) steps(path string) []Step {
	steps, known := p.paths[path]
	if !known {
		steps = p.way.Steps(path, "")
		p.paths[path] = steps
	}
	return steps
}

// sureEnough is the likeness from which on a comparison of the two ends is
// believed without following every step between.
const sureEnough = 0.6

// Place finds lines at the end of the way: by comparing the two ends where that
// leaves little doubt, else by following them commit by commit, else by looking
// for what they say.
func (p *Placer) Place(sign *Sign) (Outcome, error) {
	steps := p.steps(sign.Path)
	var direct Image
	end, there := p.EndOf(sign.Path)
	if there {
		m, err := p.compare(sign.Commit, sign.Path, p.way.Target(), end)
		if err != nil && !errors.Is(err, ErrNoText) {
			return Outcome{}, err
		}
		if err == nil && m == nil {
			return Outcome{Image: Image{Spot: Spot{sign.Path, sign.Start, sign.End}, What: Same, Like: 1}}, nil
		}
		if m != nil {
			direct = m.Lines(sign.Start, sign.End)
			if direct.What != Gone && direct.Like >= sureEnough {
				return Outcome{Image: direct}, nil
			}
		}
	}
	out, err := p.walk(sign, steps)
	if err != nil {
		return Outcome{}, err
	}
	if out.What == Gone && direct.What == Changed {
		return Outcome{Image: direct}, nil
	}
	if out.What == Gone {
		out.Candidates, err = p.candidates(sign, end, there)
	}
	return out, err
}

// walk follows lines along the steps.
func (p *Placer) walk(sign *Sign, steps []Step) (Outcome, error) {
	here := Image{Spot: Spot{sign.Path, sign.Start, sign.End}, What: Same, Like: 1}
	at := sign.Commit
	for hops := 0; len(steps) > 0 && hops < maxHops; hops++ {
		steps = steps[:min(len(steps), maxSteps)]
		next, n, err := p.between(at, here.Path, steps[0].From, steps[0].Old, here)
		if err == nil && next.What != Gone {
			next, n, err = p.along(steps, next)
		}
		if err != nil {
			return Outcome{}, err
		}
		if next.What == Gone {
			return p.gone(next, steps, n), nil
		}
		here = next
		if n == len(steps) {
			at = steps[n-1].To
			break
		}
		// on with the file that they were moved to
		at = steps[n].To
		steps = p.way.Steps(here.Path, steps[n].Commit)
	}
	return p.arrive(at, sign, here)
}

// maxHops is how often lines may be moved to another file.
const maxHops = 50

// gone tells why lines are gone behind step n; -1: between steps.
func (p *Placer) gone(img Image, steps []Step, n int) Outcome {
	out := Outcome{Image: img, Reason: LinesDeleted}
	if n >= 0 {
		out.Commit = steps[n].Commit
		if steps[n].Gone {
			out.Reason = FileDeleted
		}
	}
	return out
}

// along follows lines of one file over steps in a row, by parts: where the text
// before the first of a part and that behind its last agree on the lines, the
// steps between are passed over. Parts are cut where counting from the end
// gives powers of two, so that whoever comes from elsewhere asks for the same.
// It gives the step behind which they are gone or in another file; their number
// where they came to the end, -1 where they went between steps.
func (p *Placer) along(steps []Step, here Image) (Image, int, error) {
	if len(steps) == 1 {
		return p.single(&steps[0], here)
	}
	last := &steps[len(steps)-1]
	if !last.Gone {
		m, err := p.compare(steps[0].From, steps[0].Old, last.To, last.Path)
		if err != nil && !errors.Is(err, ErrNoText) {
			return here, 0, err
		}
		if err == nil {
			if m == nil {
				return here, len(steps), nil
			}
			if next := m.Lines(here.Start, here.End); next.What == Same || next.What == Moved {
				return then(here, next), len(steps), nil
			}
		}
	}
	half := len(steps) - 1<<(bits.Len(uint(len(steps)-1))-1)
	next, n, err := p.along(steps[:half], here)
	if err != nil || n < half {
		return next, n, err
	}
	a, b := &steps[half-1], &steps[half]
	if next, _, err = p.between(a.To, a.Path, b.From, b.Old, next); err != nil || next.What == Gone {
		return next, -1, err
	}
	next, n, err = p.along(steps[half:], next)
	if n >= 0 {
		n += half
	}
	return next, n, err
}

// then is what became of lines by one change behind another.
func then(a, b Image) Image {
	b.Like *= a.Like
	switch {
	case b.What == Gone:
	case a.What == Changed || b.What == Changed:
		b.What = Changed
	case a.What == Moved || b.What == Moved:
		b.What = Moved
	}
	return b
}

// between follows lines from the text behind one step to that before the next,
// which a merge that the steps pass over may have made another.
func (p *Placer) between(from, old, to, new string, here Image) (Image, int, error) {
	if from == to {
		return here, -1, nil
	}
	m, err := p.compare(from, old, to, new)
	if errors.Is(err, ErrNoText) {
		return here, -1, nil // it is told by the step
	}
	if err != nil || m == nil {
		return here, -1, err
	}
	return then(here, m.Lines(here.Start, here.End)), -1, nil
}

// single follows lines over one step, also into files that changed with theirs.
func (p *Placer) single(s *Step, here Image) (Image, int, error) {
	old, err := p.text(s.From, s.Old)
	if err != nil {
		return here, 0, err
	}
	behind := &Text{Path: s.Path}
	if !s.Gone {
		if behind, err = p.text(s.To, s.Path); err != nil {
			return here, 0, err
		}
		if next := p.known.compare(old, behind).Lines(here.Start, here.End); next.What != Gone || len(s.Others) == 0 {
			return p.took(then(here, next), 0)
		}
	}
	key := [2]string{s.Commit, s.Old}
	m := p.known.stepped[key]
	if m == nil {
		if m, err = p.widened(s, old, behind); err != nil {
			return here, 0, err
		}
		p.known.stepped[key] = m
	}
	next := then(here, m.Lines(here.Start, here.End))
	if next.What != Gone && (next.Path != s.Path || s.Gone) {
		return next, 0, nil
	}
	return p.took(next, 0)
}

// took is the answer of a step: gone behind it, or through.
func (p *Placer) took(img Image, n int) (Image, int, error) {
	if img.What == Gone {
		return img, n, nil
	}
	return img, n + 1, nil
}

// widened compares a file over one step, and looks for lines that are gone in
// the files that changed with it.
func (p *Placer) widened(s *Step, old, behind *Text) (*Mapping, error) {
	set := p.known.set
	m := set.Compare(old, behind)
	var all []*Mapping
	for _, o := range likeliest(s) {
		before, err := &Text{Path: o.New}, error(nil)
		if o.Old != "" {
			if before, err = p.text(s.From, o.Old); err != nil {
				return nil, err
			}
		}
		after, err := p.text(s.To, o.New)
		if err != nil {
			return nil, err
		}
		all = append(all, set.Compare(before, after))
	}
	m.Elsewhere(all)
	return m, nil
}

// arrive compares the last text of a walk with the one at the way's end, which
// a merge may have made another.
func (p *Placer) arrive(last string, sign *Sign, here Image) (Outcome, error) {
	if last == p.way.Target() {
		return Outcome{Image: here}, nil
	}
	end, there := here.Path, true
	if _, err := p.known.textOf(p.way, p.way.Target(), end); errors.Is(err, ErrNoText) {
		end, there = p.EndOf(sign.Path)
	}
	if !there {
		return Outcome{Image: Image{What: Gone}, Reason: FileAbsent}, nil
	}
	m, err := p.compare(last, here.Path, p.way.Target(), end)
	if errors.Is(err, ErrNoText) {
		return Outcome{Image: Image{What: Gone}, Reason: NoText}, nil
	}
	if err != nil {
		return Outcome{}, err
	}
	if m == nil {
		return Outcome{Image: here}, nil // the same text
	}
	img := then(here, m.Lines(here.Start, here.End))
	if img.What == Gone {
		return Outcome{Image: img, Reason: LinesDeleted}, nil
	}
	if img.What != Changed && img.Spot == (Spot{sign.Path, sign.Start, sign.End}) {
		img.What = Same
	}
	return Outcome{Image: img}, nil
}

// likeliest are the files into which lines of a step may have been moved, at
// most maxOthers: files of the same sort and new ones first, then those nearby.
func likeliest(s *Step) []OtherFile {
	var others []OtherFile
	for _, o := range s.Others {
		if o.New != "" {
			others = append(others, o)
		}
	}
	if len(others) <= maxOthers {
		return others
	}
	rank := func(o OtherFile) int {
		r := 0
		if path.Ext(o.New) != path.Ext(s.Old) {
			r += 4
		}
		if o.Old != "" {
			r += 2
		}
		if path.Dir(o.New) != path.Dir(s.Old) {
			r++
		}
		return r
	}
	slices.SortStableFunc(others, func(a, b OtherFile) int { return rank(a) - rank(b) })
	return others[:maxOthers]
}

// text is a text, an empty one where there is none to be read.
func (p *Placer) text(commit, path string) (*Text, error) {
	t, err := p.known.textOf(p.way, commit, path)
	if errors.Is(err, ErrNoText) {
		return &Text{Path: path}, nil
	}
	return t, err
}

// compare maps a file at one commit to a file at another; nil: it is the same
// text under the same path.
func (p *Placer) compare(from, old, to, new string) (*Mapping, error) {
	a, err := p.known.textOf(p.way, from, old)
	if err != nil {
		return nil, err
	}
	b, err := p.known.textOf(p.way, to, new)
	if err != nil {
		return nil, err
	}
	if a == b {
		return nil, nil
	}
	return p.known.compare(a, b), nil
}

// candidates are places where lines that were not found may stand.
func (p *Placer) candidates(sign *Sign, end string, there bool) ([]Candidate, error) {
	if !there {
		return nil, nil
	}
	t, err := p.known.textOf(p.way, p.way.Target(), end)
	if errors.Is(err, ErrNoText) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	q := sign.Quote
	if q.Exact == "" {
		old, err := p.text(sign.Commit, sign.Path)
		if err != nil {
			return nil, err
		}
		q = QuoteOf(old, sign.Start, sign.End)
	}
	return Search(t, q), nil
}
