package gitlog

import "math/bits"

// Set is some of a log's commits, one bit each.
type Set []uint64

// NewSet makes an empty one for a log of n commits.
func NewSet(n int) Set { return make(Set, (n+63)/64) }

// Has tells whether a commit is in the set.
func (s Set) Has(i int32) bool { return s[i>>6]&(1<<(uint(i)&63)) != 0 }

// Add puts a commit into the set.
func (s Set) Add(i int32) { s[i>>6] |= 1 << (uint(i) & 63) }

// Count is how many commits are in the set.
func (s Set) Count() int {
	n := 0
	for _, w := range s {
		n += bits.OnesCount64(w)
	}
	return n
}

// keep leaves in s what is also in t, or, with not, what is not in it.
func (s Set) keep(t Set, not bool) {
	for i := range s {
		if not {
			s[i] &^= t[i]
		} else {
			s[i] &= t[i]
		}
	}
}

// List gives the commits of a set, newest first.
func (s Set) List() []int32 {
	out := make([]int32, 0, s.Count())
	for k, w := range s {
		for ; w != 0; w &= w - 1 {
			out = append(out, int32(k<<6+bits.TrailingZeros64(w)))
		}
	}
	return out
}

func (l *Log) every() Set {
	s := NewSet(l.Len())
	for i := range s {
		s[i] = ^uint64(0)
	}
	if rest := l.Len() & 63; rest > 0 {
		s[len(s)-1] = 1<<uint(rest) - 1
	}
	return s
}

// Reach are the commits that can be reached from some, themselves among them.
func (l *Log) Reach(from ...int32) Set {
	s := NewSet(l.Len())
	first := int32(l.Len())
	for _, i := range from {
		s.Add(i)
		first = min(first, i)
	}
	// children stand before their parents
	for i := first; i < int32(l.Len()); i++ {
		if !s.Has(i) {
			continue
		}
		for _, p := range l.Parents(i) {
			if p >= 0 {
				s.Add(p)
			}
		}
	}
	return s
}

// Containing are the refs from which a commit can be reached, in the order of
// Refs.
func (l *Log) Containing(commit int32) []Ref {
	above := NewSet(l.Len()) // the commit and its descendants
	above.Add(commit)
	for i := commit - 1; i >= 0; i-- {
		for _, p := range l.Parents(i) {
			if p >= 0 && above.Has(p) {
				above.Add(i)
				break
			}
		}
	}
	var out []Ref
	for _, r := range l.Refs {
		if r.Commit <= commit && above.Has(r.Commit) {
			out = append(out, r)
		}
	}
	return out
}

// Apart are the commits that only one of two commits reaches.
func (l *Log) Apart(a, b int32) (onlyA, onlyB Set) {
	onlyA, onlyB = l.Reach(a), l.Reach(b)
	both := append(Set(nil), onlyA...)
	both.keep(onlyB, false)
	onlyA.keep(both, true)
	onlyB.keep(both, true)
	return onlyA, onlyB
}

// Children are the commits whose parent a commit is, the newest first, at most
// limit.
func (l *Log) Children(commit int32, limit int) []int32 {
	var out []int32
	for i := int32(0); i < commit && len(out) < limit; i++ {
		for _, p := range l.Parents(i) {
			if p == commit {
				out = append(out, i)
				break
			}
		}
	}
	return out
}

// Descends tells whether a commit can be reached from another.
func (l *Log) Descends(from, to int32) bool {
	if from > to {
		return false
	}
	seen := NewSet(l.Len())
	seen.Add(from)
	for i := from; i < to; i++ {
		if !seen.Has(i) {
			continue
		}
		for _, p := range l.Parents(i) {
			if p >= 0 {
				seen.Add(p)
			}
		}
	}
	return seen.Has(to)
}
