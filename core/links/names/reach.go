package names

import (
	"math/bits"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
)

// Reach tells for each symbol of an outline how many other files name it, among
// those that may mean it: files that lean on this one, and files of the same
// package. Only files that counts says yes to are counted.
func (x *Index) Reach(file int, outline []lang.Symbol, counts func(file int) bool) []int {
	out := make([]int, len(outline))
	at := make(map[uint64][]int, len(outline))
	// most words of other files are none of these: one look at a few bits tells
	filter := make([]uint64, 1<<max(4, bits.Len(uint(len(outline)))))
	mask := uint64(len(filter)*64 - 1)
	for i := range outline {
		h := facts.NameHash(outline[i].Name)
		at[h] = append(at[h], i)
		filter[(h&mask)/64] |= 1 << (h & mask % 64)
	}
	seen := map[int32]bool{int32(file): true}
	look := func(f int32) {
		if seen[f] || !counts(int(f)) {
			return
		}
		seen[f] = true
		facts.EachTerm(x.Files[f].Terms, func(hash uint64, t facts.Term) {
			if filter[(hash&mask)/64]&(1<<(hash&mask%64)) == 0 {
				return
			}
			if t.Roles.Has(lang.Read) || t.Roles.Has(lang.Call) || t.Roles.Has(lang.AsType) || t.Roles.Has(lang.Write) || t.Roles.Has(lang.Imports) {
				for _, i := range at[hash] {
					out[i]++
				}
			}
		})
	}
	for _, f := range x.Graph.Dependents(file) {
		look(f)
	}
	if key := packageKey(&x.Files[file]); key != "" {
		for _, f := range x.packages[key] {
			look(f)
		}
	}
	return out
}
