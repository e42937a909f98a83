package draft

import (
	"slices"
	"sync"
)

// closeness are the weights of what is close by that are tried: what a reader gains by
// it is seen only once there is an order. The closer ones are tried where a draft falls
// short without them.
var (
	closeness = []float64{1, 3, 8, 20}
	closer    = []float64{60, 200}
)

// mostLeftOut is how many files of circles are left out, one after the other, where
// too much comes before it was introduced.
const mostLeftOut = 6

// Readings chooses what to read, and puts it in a reading order.
func (g *Ground) Readings(t Task) []Reading {
	d := &drafts{g: g, weighed: g.weigh(&t)}
	if t.Interest == nil {
		d.rivals = g.Rivals(t.Minutes, 0, t.Direction)
	}
	d.tryAll(t, closeness)
	for _, beside := range []bool{false, true} {
		if t.Weights.Close > 0 && d.best.short > 0 {
			near := t
			near.beside = beside
			d.tryAll(near, closer)
		}
	}
	leave := slices.Clone(t.Leave)
	if leave == nil {
		leave = make([]bool, len(g.Whole.Files))
	}
	from := d.best
	for n := 0; n < mostLeftOut && within(&from.figures, mostLeftOut-n); n++ {
		file := g.offender(from.list, t.Direction)
		if file < 0 || t.Read[file] > 0 {
			break
		}
		leave[file] = true
		tried := t
		tried.Weights, tried.beside, tried.Leave = from.weights, from.beside, slices.Clone(leave)
		from = d.try(tried)
	}
	return d.best.list
}

// within tells whether an order has too many surprises, but few enough that it may have
// none too many once so many files are left out.
func within(f *Figures, leave int) bool {
	over := (f.Surprises - MostSurprises) * float64(f.Links)
	return over > 0 && over <= float64(2*leave)
}

// drafts are drafts of one task, the best of them kept.
type drafts struct {
	g       *Ground
	weighed *ledger
	rivals  []Rival
	best    *attempt
}

// attempt is one draft, and how it stands beside simple orders.
type attempt struct {
	list    []Reading
	figures Figures
	weights Weights
	beside  bool
	margin  float64 // how far it covers more than they do
	short   int     // in how much it falls short of what is asked
}

// tryAll tries several weights of what is close by, side by side.
func (d *drafts) tryAll(t Task, weights []float64) {
	if t.Weights.Close == 0 {
		weights = weights[:1]
	}
	weights = weights[:d.g.effort(t.Minutes, len(weights))]
	made := make([]*attempt, len(weights))
	var all sync.WaitGroup
	for i, k := range weights {
		tried := t
		tried.Weights.Close *= k
		all.Go(func() { made[i] = d.attempt(tried) })
	}
	all.Wait()
	for _, a := range made {
		d.keep(a)
	}
}

// try makes a draft, and keeps it where it is better than the best.
func (d *drafts) try(t Task) *attempt {
	a := d.attempt(t)
	d.keep(a)
	return a
}

func (d *drafts) keep(a *attempt) {
	if d.best == nil || a.better(d.best) {
		d.best = a
	}
}

// attempt makes a draft. It may be called by several goroutines.
func (d *drafts) attempt(t Task) *attempt {
	chosen, margin := d.g.choose(&t, d.weighed)
	a := &attempt{list: d.g.arrange(chosen, t.Direction), weights: t.Weights, beside: t.beside, margin: min(margin, enough)}
	a.figures = d.g.Measure(a.list, t.Direction)
	if a.figures.Surprises > MostSurprises {
		a.short++
	}
	for i := range d.rivals {
		a.short += len(d.rivals[i].Ahead(&a.figures))
	}
	return a
}

// dear is how much of what another draft covers one must cover to be kept for falling
// short of less: to be put in order well is not worth any price.
const dear = 0.8

// better tells which of two drafts to keep: the one that falls short of less, then the
// one that covers more beyond simple orders, then the one that is better in all.
func (a *attempt) better(b *attempt) bool {
	const same = 1e-9
	switch {
	case a.short < b.short && a.covers() >= dear*b.covers():
		return true
	case b.short < a.short && b.covers() >= dear*a.covers():
		return false
	case a.margin > b.margin+same || b.margin > a.margin+same:
		return a.margin > b.margin
	}
	return a.figures.Sum() > b.figures.Sum()
}

func (a *attempt) covers() float64 { return a.figures.Hot + a.figures.Central + a.figures.Starts }

// offender is the file of readings that most has to do with others coming too late;
// -1: none has, or the direction knows none.
func (g *Ground) offender(list []Reading, d Direction) int {
	if d != InsideOut {
		return -1
	}
	at := map[int32]int{}
	for k, r := range list {
		at[int32(r.File)] = k
	}
	late := map[int]int{}
	for k, r := range list {
		for _, on := range g.leans[r.File] {
			if n, ok := at[on]; ok && n > k {
				late[r.File]++
				late[int(on)]++
			}
		}
	}
	best := -1
	for _, r := range list {
		if late[r.File] > 0 && (best < 0 || late[r.File] > late[best]) {
			best = r.File
		}
	}
	return best
}

// arrange puts readings in a reading order.
func (g *Ground) arrange(chosen []Reading, d Direction) []Reading {
	files := make([]int, len(chosen))
	for n, r := range chosen {
		files[n] = r.File
	}
	out := make([]Reading, 0, len(chosen))
	for _, n := range g.links(files, g.areas(files)).arrange(d) {
		out = append(out, chosen[n])
	}
	return out
}
