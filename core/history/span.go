package history

import (
	"math"
	"sort"
)

// Span is a part of the history: commits from From up to, not including, To
// (Unix seconds, committer dates), of one person or, with -1, of everybody.
type Span struct {
	From, To int64
	Person   int
}

// Everything is the span of the whole history.
var Everything = Span{math.MinInt64, math.MaxInt64, -1}

// Ledger is Moves with an index by file. It is not changed once it is made, and
// may be used by several goroutines.
type Ledger struct {
	*Moves
	Now      int64   // the pin's committer date
	HalfLife float64 // days
	weight   []float64
	start    []int32 // of each file: where its rows begin in rows; one more
	rows     []int32 // rows by file, the oldest first
	commit   []int32 // of each row
	people   int
}

// NewLedger indexes the moves of so many files.
func NewLedger(m *Moves, files int, now int64, halfLife float64) *Ledger {
	l := &Ledger{Moves: m, Now: now, HalfLife: halfLife, weight: make([]float64, len(m.Time)), start: make([]int32, files+1),
		rows: make([]int32, len(m.File)), commit: make([]int32, len(m.File))}
	for _, f := range m.File {
		l.start[f+1]++
	}
	for f := range files {
		l.start[f+1] += l.start[f]
	}
	next := append([]int32(nil), l.start...)
	for c := range m.Time {
		l.weight[c] = Recency(m.Time[c], now, halfLife)
		l.people = max(l.people, int(m.Person[c])+1)
		for row := m.From[c]; row < m.From[c+1]; row++ {
			l.commit[row] = int32(c)
			f := m.File[row]
			l.rows[next[f]] = row
			next[f]++
		}
	}
	return l
}

// Files is the number of files.
func (l *Ledger) Files() int { return len(l.start) - 1 }

// within gives the commits of a span by number: from up to, not including, to.
func (l *Ledger) within(s Span) (from, to int32) {
	a := sort.Search(len(l.Time), func(i int) bool { return l.Time[i] >= s.From })
	b := sort.Search(len(l.Time), func(i int) bool { return l.Time[i] >= s.To })
	return int32(a), int32(max(a, b))
}

// Commits counts the commits of a span, merges aside.
func (l *Ledger) Commits(s Span) int {
	from, to := l.within(s)
	if s.Person < 0 {
		return int(to - from)
	}
	n := 0
	for c := from; c < to; c++ {
		if int(l.Person[c]) == s.Person {
			n++
		}
	}
	return n
}

// Happened is what happened to one file, or several together, in a span.
type Happened struct {
	Changes int
	People  int     // that made them
	Churn   int     // lines added and deleted; -1: some are not counted
	Recent  float64 // changes, each halved once a half-life of age
	First   int64   // Unix seconds; 0: no change
	Last    int64
}

// Sweep reckons files in a span, one after the other, without allocating.
type Sweep struct {
	l        *Ledger
	s        Span
	from, to int32
	seen     []int32 // person → the tally they were last seen in
	tally    int32
}

// Sweep begins to reckon a span.
func (l *Ledger) Sweep(s Span) *Sweep {
	from, to := l.within(s)
	return &Sweep{l: l, s: s, from: from, to: to, seen: make([]int32, l.people)}
}

// Of sums up some files; people who changed several of them count once.
func (w *Sweep) Of(files ...int32) Happened {
	var h Happened
	l := w.l
	w.tally++
	for _, f := range files {
		rows := l.rows[l.start[f]:l.start[f+1]]
		at := sort.Search(len(rows), func(i int) bool { return l.commit[rows[i]] >= w.from })
		for _, row := range rows[at:] {
			c := l.commit[row]
			if c >= w.to {
				break
			}
			p := l.Person[c]
			if w.s.Person >= 0 && int(p) != w.s.Person {
				continue
			}
			h.Changes++
			h.Recent += l.weight[c]
			if w.seen[p] != w.tally {
				w.seen[p] = w.tally
				h.People++
			}
			switch {
			case h.Churn < 0:
			case l.Added[row] < 0:
				h.Churn = -1
			default:
				h.Churn += int(l.Added[row]) + int(l.Deleted[row])
			}
			if h.First == 0 || l.Time[c] < h.First {
				h.First = l.Time[c]
			}
			h.Last = max(h.Last, l.Time[c])
		}
	}
	return h
}

// Pulse counts, for each of n equal parts of the time between the first commit
// and the pin, the commits that changed any of some files; with no files, all
// commits, merges aside. It also gives the first commit's date.
func (l *Ledger) Pulse(n int, files ...int32) (counts []int, first int64) {
	counts = make([]int, n)
	if len(l.Time) == 0 || n == 0 {
		return counts, 0
	}
	first = l.Time[0]
	last := max(l.Now, l.Time[len(l.Time)-1])
	count := func(c int32) {
		counts[min(n-1, int(float64(l.Time[c]-first)/float64(last-first+1)*float64(n)))]++
	}
	if len(files) == 0 {
		for c := range l.Time {
			count(int32(c))
		}
		return counts, first
	}
	for _, c := range l.commitsOf(files) {
		count(c)
	}
	return counts, first
}

// CommitsOf counts the commits of a span that changed any of some files.
func (l *Ledger) CommitsOf(s Span, files ...int32) int {
	from, to := l.within(s)
	n := 0
	for _, c := range l.commitsOf(files) {
		if c >= from && c < to && (s.Person < 0 || int(l.Person[c]) == s.Person) {
			n++
		}
	}
	return n
}

// commitsOf are the commits that changed any of some files, each once, in order.
func (l *Ledger) commitsOf(files []int32) []int32 {
	if len(files) == 1 {
		var out []int32
		for _, row := range l.rows[l.start[files[0]]:l.start[files[0]+1]] {
			out = append(out, l.commit[row])
		}
		return out
	}
	seen := make([]bool, len(l.Time))
	for _, f := range files {
		for _, row := range l.rows[l.start[f]:l.start[f+1]] {
			seen[l.commit[row]] = true
		}
	}
	var out []int32
	for c, yes := range seen {
		if yes {
			out = append(out, int32(c))
		}
	}
	return out
}

// Shares are the people who changed some files, most commits first; a commit
// counts once, however many of the files it changed.
func (l *Ledger) Shares(files ...int32) []Share {
	counts := make([]int, l.people)
	for _, c := range l.commitsOf(files) {
		counts[l.Person[c]]++
	}
	var out []Share
	for p, n := range counts {
		if n > 0 {
			out = append(out, Share{p, n})
		}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Commits > out[b].Commits })
	return out
}

// Partner is a file that changed in the same commits as others.
type Partner struct {
	File     int32
	Together int // commits that changed both
	Changes  int // its own, in commits narrow enough to count
}

// WideCommit is how many files a commit may change and still tell that they
// belong together: sweeping edits say nothing of that.
const WideCommit = 40

// Partners are the files that most often changed in the same commits as some
// files, at most limit of them, and how many commits changed the files in all.
// Commits that changed more than WideCommit files are left out of both. One
// commit is no sign: a partner shares two or more. They are ordered by
//
//	together² / (commits of the files × changes of the partner)
//
// so that a file which changes with everything does not come first.
func (l *Ledger) Partners(limit int, files ...int32) (partners []Partner, of int) {
	own := map[int32]bool{}
	for _, f := range files {
		own[f] = true
	}
	together := map[int32]int{}
	for _, c := range l.commitsOf(files) {
		if l.wide(c) {
			continue
		}
		of++
		for _, f := range l.File[l.From[c]:l.From[c+1]] {
			if !own[f] {
				together[f]++
			}
		}
	}
	for f, n := range together {
		if n < 2 {
			continue
		}
		p := Partner{File: f, Together: n}
		for _, row := range l.rows[l.start[f]:l.start[f+1]] {
			if !l.wide(l.commit[row]) {
				p.Changes++
			}
		}
		partners = append(partners, p)
	}
	score := func(p Partner) float64 { return float64(p.Together*p.Together) / float64(p.Changes) }
	sort.Slice(partners, func(a, b int) bool {
		if x, y := score(partners[a]), score(partners[b]); x != y {
			return x > y
		}
		return partners[a].File < partners[b].File
	})
	return partners[:min(len(partners), limit)], of
}

func (l *Ledger) wide(commit int32) bool { return l.From[commit+1]-l.From[commit] > WideCommit }
