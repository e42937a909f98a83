package draft

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

// someWeb is a random web of n files; without circles where acyclic.
func someWeb(r *rand.Rand, n int, share float64, acyclic bool) *web {
	w := &web{leans: make([][]int, n), leaned: make([][]int, n), folder: make([]int, n), area: make([]int, n), start: make([]float64, n), weight: make([]float64, n), opens: make([]bool, n)}
	for a := range n {
		w.folder[a], w.area[a], w.weight[a] = r.IntN(3), r.IntN(2), r.Float64()
		for b := range n {
			if a != b && (!acyclic || b < a) && r.Float64() < share {
				w.leans[a] = append(w.leans[a], b)
				w.leaned[b] = append(w.leaned[b], a)
			}
		}
	}
	for a := range n {
		w.opens[a] = len(w.leaned[a]) == 0
	}
	return w
}

// permutations calls each with all orders of n things.
func permutations(n int, each func([]int)) {
	order := make([]int, 0, n)
	var next func()
	next = func() {
		if len(order) == n {
			each(order)
			return
		}
		for v := range n {
			if !slices.Contains(order, v) {
				order = append(order, v)
				next()
				order = order[:len(order)-1]
			}
		}
	}
	next()
}

func fewestSurprises(w *web, d Direction) int {
	best := len(w.leans) * len(w.leans)
	permutations(len(w.leans), func(order []int) { best = min(best, w.surprised(order, d)) })
	return best
}

func TestOrdersHoldEveryFileOnce(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 60 {
		w := someWeb(r, 1+r.IntN(40), 0.1, false)
		for _, d := range []Direction{OutsideIn, InsideOut} {
			order := w.arrange(d)
			all := slices.Sorted(slices.Values(order))
			for n := range all {
				assert.Equal(t, n, all[n])
			}
			assert.Len(t, order, len(w.leans))
			assert.Equal(t, order, w.arrange(d), "the same web, the same order")
		}
	}
}

func TestWithoutCirclesNothingIsASurprise(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for range 100 {
		w := someWeb(r, 2+r.IntN(30), 0.15, true)
		assert.Zero(t, w.surprised(w.arrange(InsideOut), InsideOut))
		assert.Zero(t, w.surprised(w.arrange(OutsideIn), OutsideIn))
	}
}

func TestSurprisesAreAsFewAsTryingAllOrdersFinds(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	got, least := 0, 0
	for range 60 {
		w := someWeb(r, 6, 0.3, false)
		assert.Equal(t, fewestSurprises(w, OutsideIn), w.surprised(w.arrange(OutsideIn), OutsideIn), "%v", w.leans)
		got += w.surprised(w.arrange(InsideOut), InsideOut)
		least += fewestSurprises(w, InsideOut)
	}
	assert.Greater(t, least, 60, "there are circles to speak of")
	assert.LessOrEqual(t, float64(got), 1.05*float64(least), "the order within circles is a heuristic: %d against %d", got, least)
}

func TestSmoothingJumpsLessAndSurprisesNoMore(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 8))
	jumps := func(w *web, order []int) (n int) {
		for k := 1; k < len(order); k++ {
			if w.jump(order[k-1], order[k]) {
				n++
			}
		}
		return n
	}
	before, after := 0, 0
	for range 60 {
		w := someWeb(r, 20, 0.08, false)
		for _, d := range []Direction{OutsideIn, InsideOut} {
			order := w.outsideIn()
			if d == InsideOut {
				order = w.insideOut()
			}
			was, surprises := jumps(w, order), w.surprised(order, d)
			w.smooth(order, d)
			assert.LessOrEqual(t, w.surprised(order, d), surprises)
			before, after = before+was, after+jumps(w, order)
		}
	}
	assert.Less(t, after, before)
}

func TestCreditGrowsLessAndLess(t *testing.T) {
	for _, lines := range []int{1, 10, 40, 90, 1000, 20_000} {
		last, step := 0.0, 1.0
		for n := 1; n <= lines; n++ {
			c := Credit(n, lines)
			assert.Greater(t, c, last)
			assert.LessOrEqual(t, c-last, step+1e-9, "line %d of %d", n, lines)
			last, step = c, c-last
		}
		assert.Equal(t, 1.0, last)
	}
}

func TestLevelsEndWithTheWholeFile(t *testing.T) {
	for lines := 1; lines < 3000; lines++ {
		l := levels(lines)
		assert.Equal(t, lines, l[len(l)-1])
		assert.True(t, slices.IsSorted(l))
		assert.Len(t, slices.Compact(slices.Clone(l)), len(l))
	}
}
