// Package place follows lines of a file from one text to another by the hunks
// of their difference, as git makes them without context.
package place

import "juxtagram/core/repo"

// State is what became of some lines.
type State string

// The states.
const (
	Same    State = "same"    // the same text at the same lines
	Moved   State = "moved"   // the same text at other lines
	Changed State = "changed" // some of it is another text now
	Gone    State = "gone"    // nothing of it is left
)

// Follow tells where the lines start..end (from 1, both included) of the old
// text stand in the new one, and what became of them. Where they are gone, the
// lines told are those around which they stood.
func Follow(hunks []repo.Hunk, start, end int) (from, to int, what State) {
	first, last := 0, 0 // of the lines that are kept, in the new text
	kept := 0
	changed := false
	for line := start; line <= end; line++ {
		at, hit := step(hunks, line)
		if hit {
			changed = true
			continue
		}
		if kept == 0 {
			first = at
		}
		last = at
		kept++
	}
	switch {
	case kept == 0:
		from, to = replaced(hunks, start, end)
		return from, to, Gone
	case !changed && last-first == end-start && first == start:
		return first, last, Same
	case !changed && last-first == end-start:
		return first, last, Moved
	}
	// lines that replaced the first or the last of them belong to them
	before, after := replaced(hunks, start, end)
	return min(first, before), max(last, after), Changed
}

// step is where an old line stands in the new text; hit: a hunk took it away.
func step(hunks []repo.Hunk, line int) (at int, hit bool) {
	shift := int32(0)
	for _, h := range hunks {
		if h.OldCount == 0 {
			if int32(line) <= h.OldStart {
				break
			}
		} else {
			if int32(line) < h.OldStart {
				break
			}
			if int32(line) < h.OldStart+h.OldCount {
				return 0, true
			}
		}
		shift += h.NewCount - h.OldCount
	}
	return line + int(shift), false
}

// replaced are the new lines of all hunks that took old lines start..end away;
// where there are none, the line around which they stood.
func replaced(hunks []repo.Hunk, start, end int) (from, to int) {
	for _, h := range hunks {
		if h.OldCount == 0 || h.OldStart > int32(end) || h.OldStart+h.OldCount <= int32(start) {
			continue
		}
		a, b := int(h.NewStart), int(h.NewStart+h.NewCount)-1
		if h.NewCount == 0 {
			a, b = max(1, a), max(1, a) // nothing took their place: the line above
		}
		if from == 0 {
			from = a
		}
		to = max(b, a)
	}
	if from == 0 {
		at, _ := step(hunks, start)
		return at, at
	}
	return from, to
}

// Back are hunks that lead the other way, from the new text to the old one.
func Back(hunks []repo.Hunk) []repo.Hunk {
	out := make([]repo.Hunk, len(hunks))
	for i, h := range hunks {
		out[i] = repo.Hunk{OldStart: h.NewStart, OldCount: h.NewCount, NewStart: h.OldStart, NewCount: h.OldCount}
	}
	return out
}

// Line is where one line of the old text stands in the new one; where it is
// gone, the line that stands at its place.
func Line(hunks []repo.Hunk, line int) int {
	at, hit := step(hunks, line)
	if hit {
		at, _ = replaced(hunks, line, line)
	}
	return at
}
