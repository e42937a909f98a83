// Package compare says how what two versions of a file say differs: which
// symbols came, went or are declared otherwise, and where control comes in that
// did not, or no longer does.
package compare

import (
	"juxtagram/core/lang"
)

// Change is one symbol that differs.
type Change struct {
	Old, New int // index in the outlines; -1: not there
}

// Symbols compares two outlines. Symbols are the same by kind and qualified
// name, and, where several share these, in their order. One that is in both
// differs where its signature, type or visibility does. Those that changed or
// came stand in the order of the new outline, then those that went in that of
// the old one.
func Symbols(old, new []lang.Symbol) []Change {
	type key struct {
		kind lang.Kind
		name string
	}
	left := map[key][]int{}
	for i := range old {
		k := key{old[i].Kind, old[i].Qualified}
		left[k] = append(left[k], i)
	}
	var out []Change
	for i := range new {
		k := key{new[i].Kind, new[i].Qualified}
		same := left[k]
		if len(same) == 0 {
			out = append(out, Change{-1, i})
			continue
		}
		left[k] = same[1:]
		if a, b := &old[same[0]], &new[i]; a.Signature != b.Signature || a.Type != b.Type || a.Visibility != b.Visibility {
			out = append(out, Change{same[0], i})
		}
	}
	for i := range old {
		k := key{old[i].Kind, old[i].Qualified}
		if rest := left[k]; len(rest) > 0 && rest[0] == i {
			left[k] = rest[1:]
			out = append(out, Change{i, -1})
		}
	}
	return out
}

// Starts tells which entry points of a file came and went, by kind and name.
func Starts(old, new []lang.Start) (came, went []lang.Start) {
	has := func(list []lang.Start, s lang.Start) bool {
		for _, x := range list {
			if x.Kind == s.Kind && x.Name == s.Name {
				return true
			}
		}
		return false
	}
	for _, s := range new {
		if !has(old, s) {
			came = append(came, s)
		}
	}
	for _, s := range old {
		if !has(new, s) {
			went = append(went, s)
		}
	}
	return came, went
}
