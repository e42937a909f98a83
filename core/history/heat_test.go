package history_test

import (
	"math"
	"math/rand"
	"sort"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/history"
)

// moves makes changes of some files by chance, a few commits very wide.
func moves(seed int64, files, commits int) *history.Moves {
	r := rand.New(rand.NewSource(seed))
	m := &history.Moves{From: []int32{0}}
	at := int64(1_600_000_000)
	for range commits {
		at += r.Int63n(200_000)
		n := 1 + r.Intn(5)
		if r.Intn(15) == 0 {
			n = min(files, 45)
		}
		var changed []int
		for _, f := range r.Perm(files)[:n] {
			changed = append(changed, f)
		}
		sort.Ints(changed)
		for _, f := range changed {
			m.File, m.Added, m.Deleted = append(m.File, int32(f)), append(m.Added, 1), append(m.Deleted, 0)
		}
		m.Time, m.Person, m.From = append(m.Time, at), append(m.Person, int32(r.Intn(3))), append(m.From, int32(len(m.File)))
	}
	return m
}

func TestWhatMovedIsCountedAsBySimplePasses(t *testing.T) {
	const day = 24 * 60 * 60
	for seed := range int64(5) {
		m := moves(seed, 60, 300)
		now := m.Time[len(m.Time)-1] + 10*day
		l := history.NewLedger(m, 60, now, 180)
		for _, r := range []history.Rules{{HalfLife: 30}, {HalfLife: 90, Wide: 40}, {From: now - 100*day, HalfLife: 10, Wide: 3}} {
			files, counted, wide := l.Moved(r)
			middle := max(r.From, m.Time[0]) + (now-max(r.From, m.Time[0]))/2
			in, out := 0, 0
			want := make([]history.Moved, 60)
			for c, at := range m.Time {
				rows := m.File[m.From[c]:m.From[c+1]]
				if at < r.From {
					continue
				}
				if r.Wide > 0 && len(rows) > r.Wide {
					out++
					continue
				}
				in++
				for _, f := range rows {
					w := &want[f]
					w.Changes++
					w.Recent += math.Pow(0.5, float64(now-at)/day/r.HalfLife)
					w.Last = max(w.Last, at)
					if at < middle {
						w.Early++
					} else {
						w.Late++
					}
				}
			}
			assert.Equal(t, in, counted)
			assert.Equal(t, out, wide)
			for f := range want {
				assert.InDelta(t, want[f].Recent, files[f].Recent, 1e-9)
				want[f].Recent = files[f].Recent
			}
			assert.Equal(t, want, files)

			counts := func(f int32) bool { return f%7 != 0 }
			pairs, total := l.Pairs(r, 2, math.MaxInt, counts)
			require.Len(t, pairs, total)
			assert.ElementsMatch(t, simplePairs(m, r, 2, counts), keys(pairs))
			assert.True(t, sort.SliceIsSorted(pairs, func(i, j int) bool { return pairs[i].Least > pairs[j].Least }))
			few, _ := l.Pairs(r, 2, 3, counts)
			assert.Equal(t, pairs[:min(3, len(pairs))], few)
		}
	}
}

type pairKey struct{ a, b, together, ofA, ofB int }

func keys(pairs []history.Pair) (out []pairKey) {
	for _, p := range pairs {
		out = append(out, pairKey{int(p.A), int(p.B), p.Together, p.OfA, p.OfB})
	}
	return out
}

// simplePairs looks at every pair of files and every commit.
func simplePairs(m *history.Moves, r history.Rules, least int, counts func(int32) bool) (out []pairKey) {
	wide := r.Wide
	if wide == 0 || wide > history.WideCommit {
		wide = history.WideCommit
	}
	var commits []map[int32]bool
	for c, at := range m.Time {
		rows := m.File[m.From[c]:m.From[c+1]]
		if at < r.From || len(rows) > wide {
			continue
		}
		set := map[int32]bool{}
		for _, f := range rows {
			set[f] = counts(f)
		}
		commits = append(commits, set)
	}
	for a := range int32(60) {
		for b := a + 1; b < 60; b++ {
			k := pairKey{a: int(a), b: int(b)}
			for _, set := range commits {
				if set[a] {
					k.ofA++
				}
				if set[b] {
					k.ofB++
				}
				if set[a] && set[b] {
					k.together++
				}
			}
			if k.together >= least && float64(k.together)*float64(len(commits)) > float64(k.ofA)*float64(k.ofB) {
				out = append(out, k)
			}
		}
	}
	return out
}

func TestATrendIsMoreThanChance(t *testing.T) {
	for _, c := range []struct {
		early, late int
		want        history.Trend
	}{{0, 0, history.Steady}, {0, 1, history.Steady}, {0, 2, history.More}, {5, 8, history.Steady}, {5, 12, history.More}, {40, 20, history.Less}} {
		m := history.Moved{Early: c.early, Late: c.late}
		assert.Equal(t, c.want, m.Trend(), "%d then %d", c.early, c.late)
	}
}

func TestWhatIsNotParsedCountsByItsLines(t *testing.T) {
	got := history.Substance([]int32{30, 10, -1, -1, 0}, []int32{100, 100, 50, -1, 100})
	assert.Equal(t, []float64{30, 10, 5, 0, 0}, got, "the median of 0, 0.1 and 0.3")
}
