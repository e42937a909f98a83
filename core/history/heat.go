package history

import (
	"math"
	"sort"
)

// Rules say which changes count, and how.
type Rules struct {
	From     int64   // Unix seconds; commits from then on
	HalfLife float64 // days, above 0
	Wide     int     // commits that changed more files of the pin are left out; 0: none are
}

// Moved is what happened to one file under some rules.
type Moved struct {
	Changes     int
	Recent      float64 // changes, each halved once a half-life of age
	Early, Late int     // changes in the earlier and the later half of the time
	Last        int64   // Unix seconds; 0: no change
}

// Trend says whether a file changes more or less often than it did.
type Trend string

// The trends.
const (
	More   Trend = "more"
	Less   Trend = "less"
	Steady Trend = "steady"
)

// Trend compares the later half with the earlier. A difference that chance
// explains is none: it must be larger than the square root of all changes.
func (m *Moved) Trend() Trend {
	d, chance := float64(m.Late-m.Early), math.Sqrt(float64(m.Late+m.Early))
	switch {
	case d > chance:
		return More
	case -d > chance:
		return Less
	}
	return Steady
}

// Moved reckons every file under some rules, and how many commits of the time
// were counted and how many left out as too wide. The halves of the time are
// those between From, or the first commit, and the pin.
func (l *Ledger) Moved(r Rules) (files []Moved, counted, wide int) {
	files = make([]Moved, l.Files())
	from, to := l.within(Span{From: r.From, To: math.MaxInt64})
	start := r.From
	if len(l.Time) > 0 {
		start = max(start, l.Time[0])
	}
	middle := start + (l.Now-start)/2
	for c := from; c < to; c++ {
		if r.Wide > 0 && int(l.From[c+1]-l.From[c]) > r.Wide {
			wide++
			continue
		}
		counted++
		weight := Recency(l.Time[c], l.Now, r.HalfLife)
		for _, f := range l.File[l.From[c]:l.From[c+1]] {
			m := &files[f]
			m.Changes++
			m.Recent += weight
			if l.Time[c] >= middle {
				m.Late++
			} else {
				m.Early++
			}
			m.Last = l.Time[c]
		}
	}
	return files, counted, wide
}

// Pair is two files that change together more often than chance would have it.
type Pair struct {
	A, B     int32   // A before B
	Together int     // commits that changed both
	OfA, OfB int     // commits that changed each
	Lift     float64 // how many times as often as if neither knew of the other
	Least    float64 // the lift that even an unlucky count leaves; pairs are ordered by it
}

// Pairs finds the files that change together under some rules, the most telling
// first, at most limit of them, and how many there are. With n counted commits,
//
//	lift  = together × n / (of a × of b)
//	least = (together - sqrt(together)) × n / (of a × of b)
//
// so that a pair met twice by chance does not come before one met forty times.
// Pairs that were changed together fewer than least times are no sign. A file
// that does not count is left out. Commits over WideCommit files never count.
func (l *Ledger) Pairs(r Rules, least, limit int, counts func(file int32) bool) (pairs []Pair, total int) {
	if r.Wide == 0 || r.Wide > WideCommit {
		r.Wide = WideCommit
	}
	of := make([]int, l.Files())
	together := map[uint64]int{}
	from, to := l.within(Span{From: r.From, To: math.MaxInt64})
	n := 0
	var files []int32
	for c := from; c < to; c++ {
		all := l.File[l.From[c]:l.From[c+1]]
		if len(all) > r.Wide || len(all) == 0 {
			continue
		}
		n++
		files = files[:0]
		for _, f := range all {
			if counts(f) {
				files = append(files, f)
			}
		}
		for i, a := range files {
			of[a]++
			for _, b := range files[i+1:] {
				together[uint64(a)<<32|uint64(b)]++
			}
		}
	}
	for key, t := range together {
		if t < least {
			continue
		}
		p := Pair{A: int32(key >> 32), B: int32(key & math.MaxUint32), Together: t}
		p.OfA, p.OfB = of[p.A], of[p.B]
		usual := float64(p.OfA) * float64(p.OfB) / float64(n)
		p.Lift = float64(t) / usual
		p.Least = (float64(t) - math.Sqrt(float64(t))) / usual
		if p.Lift > 1 {
			pairs = append(pairs, p)
		}
	}
	sort.Slice(pairs, func(i, j int) bool {
		a, b := &pairs[i], &pairs[j]
		switch {
		case a.Least != b.Least:
			return a.Least > b.Least
		case a.A != b.A:
			return a.A < b.A
		}
		return a.B < b.B
	})
	return pairs[:min(len(pairs), limit)], len(pairs)
}
