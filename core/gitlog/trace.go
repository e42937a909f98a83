package gitlog

import (
	"sort"

	"juxtagram/core/place"
	"juxtagram/core/repo"
)

// Heat counts the changed lines of one part of a file in one part of its time.
type Heat struct{ Part, When, Lines int }

// How finely heat is told: equal parts of the file as it is last, and of the
// time from its first commit.
const (
	HeatParts = 24
	HeatTimes = 12
)

// HeatOf says where in a file of so many lines its chapters changed it, and
// when: the parts of the file are followed back through the hunks of every
// chapter. now ends the time, Unix seconds.
func (l *Log) HeatOf(chapters []Chapter, hunks func(Chapter) []repo.Hunk, lines int, now int64) []Heat {
	if len(chapters) == 0 {
		return nil
	}
	bounds := make([]int, HeatParts+1) // where each part begins, as the lines stand
	for p := range bounds {
		bounds[p] = 1 + p*max(1, lines)/HeatParts
	}
	first := l.Times[chapters[len(chapters)-1].Commit]
	count := map[[2]int]int{}
	for _, c := range chapters {
		when := 0
		if now > first {
			when = min(HeatTimes-1, max(0, int(float64(l.Times[c.Commit]-first)/float64(now-first)*HeatTimes)))
		}
		back := place.Back(hunks(c))
		for _, h := range back {
			for n := int(h.OldStart); n < int(h.OldStart)+max(1, int(h.OldCount)); n++ {
				if part := sort.SearchInts(bounds, n+1) - 1; part >= 0 && part < HeatParts {
					count[[2]int{part, when}]++
				}
			}
		}
		for p := range bounds {
			bounds[p] = place.Line(back, bounds[p])
		}
	}
	out := make([]Heat, 0, len(count))
	for k, n := range count {
		out = append(out, Heat{k[0], k[1], n})
	}
	sort.Slice(out, func(a, b int) bool {
		if out[a].When != out[b].When {
			return out[a].When < out[b].When
		}
		return out[a].Part < out[b].Part
	})
	return out
}

// Touching keeps the chapters that changed any of the lines start..end, both
// included, as the file is last. The lines are followed back until nothing of
// them is left. Where side branches changed a file at the same time, lines may
// be taken for their neighbours.
func Touching(chapters []Chapter, hunks func(Chapter) []repo.Hunk, start, end int) []Chapter {
	var kept []Chapter
	for _, c := range chapters {
		var state place.State
		start, end, state = place.Follow(place.Back(hunks(c)), start, end)
		if state == place.Changed || state == place.Gone {
			kept = append(kept, c)
		}
		if state == place.Gone {
			break
		}
	}
	return kept
}

// SideBySide tells whether some chapter does not descend from the next: two
// branches changed the file at the same time. The newest 200 are looked at.
func (l *Log) SideBySide(chapters []Chapter) bool {
	for n := 0; n+1 < len(chapters) && n < 200; n++ {
		if !l.Descends(chapters[n].Commit, chapters[n+1].Commit) {
			return true
		}
	}
	return false
}
