package survey_test

import (
	"slices"
	"sort"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/names"
	"juxtagram/core/reach"
	"juxtagram/survey"
)

// What each symbol of the demo needs, to closure, is what brute force reaches
// over the definitions of every use that is asked for by its place.
func TestExtractsOfTheDemoAreWhatBruteForceReaches(t *testing.T) {
	g := demoGit(t)
	memory, err := survey.NewScratch(t.TempDir())
	require.NoError(t, err)
	defer func() { assert.NoError(t, memory.Close()) }()
	r := run(t, g, "main", memory)
	w, err := r.Whole(t.Context(), memory, false)
	require.NoError(t, err)

	type symbol struct{ file, at int }
	var all []symbol
	outline := map[symbol]lang.Symbol{}
	details := make([]*facts.Details, len(r.Files))
	for i := range r.Files {
		raw, err := memory.Details(t.Context(), r.Files[i].Key)
		require.NoError(t, err)
		if details[i], err = facts.Unpack(raw); details[i] == nil {
			require.NoError(t, err)
			continue
		}
		for k, s := range details[i].Outline {
			all = append(all, symbol{i, k})
			outline[symbol{i, k}] = s
		}
	}
	number := map[symbol]int{}
	for i, s := range all {
		number[s] = i
	}
	// who needs whom: each use asked for by line and column
	needs := make([][]int, len(all))
	for i, s := range all {
		own := outline[s]
		for _, u := range details[s.file].Uses {
			plain := u.Role.Plain()
			if int(u.Line) < own.Start || int(u.Line) > own.End || plain == lang.Define || plain == lang.Bind || plain == lang.Imports {
				continue
			}
			a, err := w.Names.DefinitionAt(s.file, int(u.Line), int(u.Column))
			require.NoError(t, err)
			if a == nil {
				continue
			}
			for k, d := range a.Definitions {
				if d.Certainty == names.ByName || k > 0 && (k > 3 || !a.Definitions[0].Certainty.Certain() || d.Certainty != a.Definitions[0].Certainty) {
					break
				}
				to := symbol{d.File, d.Symbol}
				there, known := outline[to]
				if inside := d.File == s.file && there.Start >= own.Start && there.End <= own.End; known && !inside {
					needs[i] = append(needs[i], number[to])
				}
			}
		}
	}
	asked, largest := 0, 0
	for i, s := range all {
		if i%3 != 0 {
			continue
		}
		reached := map[int]bool{i: true}
		for queue := []int{i}; len(queue) > 0; queue = queue[1:] {
			for _, n := range needs[queue[0]] {
				if !reached[n] {
					reached[n] = true
					queue = append(queue, n)
				}
			}
		}
		x, err := reach.Of(w.Names, s.file, s.at, reach.Limits{})
		require.NoError(t, err)
		var got, want []int
		for _, p := range x.Pieces {
			got = append(got, number[symbol{p.File, p.Symbol}])
		}
		for n := range reached {
			// what lies inside of another that is reached is told with that
			covered := slices.ContainsFunc(all, func(o symbol) bool {
				m, a, b := number[o], outline[all[n]], outline[o]
				return m != n && reached[m] && o.file == all[n].file && b.Start <= a.Start && a.End <= b.End && (b.End-b.Start > a.End-a.Start || m < n)
			})
			if n == i || !covered {
				want = append(want, n)
			}
		}
		sort.Ints(got)
		sort.Ints(want)
		name := r.Files[s.file].Path + " " + outline[s].Qualified
		assert.Equal(t, want, got, name)
		asked++
		largest = max(largest, len(got))
	}
	t.Logf("%d symbols asked for, the largest extract has %d pieces", asked, largest)
	assert.Greater(t, asked, 100)
	assert.Greater(t, largest, 20)
}
