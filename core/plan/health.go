package plan

import "slices"

// What became of a passage at another commit than its own, the best first.
const (
	Same    = "same"    // it reads as it did, at the same lines
	Moved   = "moved"   // it reads as it did, at other lines or in another file
	Changed = "changed" // some of it reads otherwise
	Gone    = "gone"    // some of it is not there any more
)

var worse = []string{Same, Moved, Changed, Gone}

// Worst is the worst of what became of several places; none are the same.
func Worst(list ...string) string {
	out := Same
	for _, x := range list {
		if slices.Index(worse, x) > slices.Index(worse, out) {
			out = x
		}
	}
	return out
}

// Follows tells whether a target is brought along to another commit: commits and
// comparisons stay what they are.
func (t *Target) Follows() bool { return t.Kind != Commit && t.Kind != Comparison }

// Places are all that has to be found again for a target to be read at another
// commit, in the order in which At takes them: files, lines and folders.
func (t *Target) Places() []Stretch {
	own := Stretch{Path: t.Path, Start: t.Start, End: t.End, Commit: t.Commit}
	switch t.Kind {
	case Folder:
		return []Stretch{own}
	case Planned:
		if t.Pattern == "" {
			return nil
		}
		return []Stretch{{Path: t.Pattern, Commit: t.Commit}}
	}
	if !t.Follows() {
		return nil
	}
	return t.Stretches()
}

// At is a target at another commit, with its places where they stand there. Places
// that are beside the target's own commit come along.
func (t Target) At(commit string, places []Stretch) Target {
	if !t.Follows() || len(places) != len(t.Places()) {
		return t
	}
	along := func(s Stretch, to Stretch) Stretch {
		s.Path, s.Start, s.End = to.Path, to.Start, to.End
		if s.Commit != "" {
			s.Commit = commit
		}
		return s
	}
	t.Commit = commit
	switch t.Kind {
	case Planned:
		if t.Pattern != "" {
			t.Pattern = places[0].Path
		}
	case Way:
		t.Hops = slices.Clone(t.Hops)
		for i := range t.Hops {
			t.Hops[i] = along(t.Hops[i], places[i])
		}
	case Try:
		trial := *t.Try
		trial.Pauses = slices.Clone(trial.Pauses)
		for i := range trial.Pauses {
			trial.Pauses[i] = along(trial.Pauses[i], places[i])
		}
		t.Try = &trial
	default:
		t.Path, t.Start, t.End = places[0].Path, places[0].Start, places[0].End
		if t.Kind == Pair {
			beside := along(*t.Beside, places[1])
			t.Beside = &beside
		}
	}
	return t
}
