package draft

import (
	"slices"
)

// Direction is the way a plan goes through the code.
type Direction string

// The directions.
const (
	OutsideIn Direction = "outside-in" // from the entry points along what they lean on
	InsideOut Direction = "inside-out" // what others lean on first
)

// web is what chosen files have to do with each other; they are numbered anew.
type web struct {
	leans, leaned [][]int
	folder        []int // of each
	area          []int // the larger part of the tree that each is in
	start         []float64
	weight        []float64
	opens         []bool // nothing need lead to it
}

// links is the web of some files.
func (g *Ground) links(files []int, area []int) *web {
	at := map[int32]int{}
	for n, f := range files {
		at[int32(f)] = n
	}
	w := &web{leans: make([][]int, len(files)), leaned: make([][]int, len(files)), area: area}
	for n, f := range files {
		w.folder = append(w.folder, g.folder[f])
		w.start = append(w.start, g.starts[f])
		w.weight = append(w.weight, g.central[f]+g.hot[f])
		w.opens = append(w.opens, g.opens[f])
		for _, on := range g.leans[f] {
			if m, ok := at[on]; ok && m != n {
				w.leans[n] = append(w.leans[n], m)
				w.leaned[m] = append(w.leaned[m], n)
			}
		}
	}
	for _, list := range w.leans {
		slices.Sort(list)
	}
	return w
}

// on tells whether one leans on another.
func (w *web) on(a, b int) bool {
	_, ok := slices.BinarySearch(w.leans[a], b)
	return ok
}

// linked tells whether one of two leans on the other.
func (w *web) linked(a, b int) bool { return w.on(a, b) || w.on(b, a) }

// jump tells whether a reader who goes on from one to the other comes to
// something that is neither in the same folder nor linked with it.
func (w *web) jump(a, b int) bool { return w.folder[a] != w.folder[b] && !w.linked(a, b) }

// arrange puts the files of a web in a reading order.
func (w *web) arrange(d Direction) []int {
	var order []int
	if d == InsideOut {
		order = w.insideOut()
	} else {
		order = w.outsideIn()
	}
	w.smooth(order, d)
	return order
}

// insideOut puts what is leaned on before what leans on it. In circles some arcs
// are given up: see acyclic.
func (w *web) insideOut() []int {
	needs := w.acyclic()
	waits := make([]int, len(needs))
	frees := make([][]int, len(needs))
	for n, list := range needs {
		waits[n] = len(list)
		for _, on := range list {
			frees[on] = append(frees[on], n)
		}
	}
	return w.step(func(n int) bool { return waits[n] == 0 }, func(n int) {
		for _, m := range frees[n] {
			waits[m]--
		}
	}, func([]bool) int { panic("an order without circles always has a next") })
}

// outsideIn begins with entry points, and goes on with what is leaned on by
// something that was there already.
func (w *web) outsideIn() []int {
	led := slices.Clone(w.opens)
	return w.step(func(n int) bool { return led[n] }, func(n int) {
		for _, m := range w.leans[n] {
			led[m] = true
		}
	}, func(placed []bool) int {
		// nothing leads to any of the others: begin anew with what leads to most
		best, most := -1, -1
		for n := range placed {
			if !placed[n] {
				if k := w.reaches(n, placed); k > most {
					best, most = n, k
				}
			}
		}
		return best
	})
}

// reaches counts what one leads to, directly or not, that is not placed.
func (w *web) reaches(from int, placed []bool) int {
	seen := map[int]bool{from: true}
	line := []int{from}
	for len(line) > 0 {
		at := line[0]
		line = line[1:]
		for _, to := range w.leans[at] {
			if !placed[to] && !seen[to] {
				seen[to] = true
				line = append(line, to)
			}
		}
	}
	return len(seen)
}

// step builds an order one by one: of what may come next, what has most to do
// with what came last.
func (w *web) step(ready func(int) bool, place func(int), stuck func(placed []bool) int) []int {
	placed := make([]bool, len(w.leans))
	var order []int
	for len(order) < len(placed) {
		best := -1
		for n := range placed {
			if !placed[n] && ready(n) && (best < 0 || w.before(n, best, order)) {
				best = n
			}
		}
		if best < 0 {
			best = stuck(placed)
		}
		placed[best] = true
		order = append(order, best)
		place(best)
	}
	return order
}

// near is how much one has to do with the last of an order.
func (w *web) near(n int, order []int) int {
	if len(order) == 0 {
		return 0
	}
	last := order[len(order)-1]
	out := 0
	if w.area[n] == w.area[last] {
		out += 4
	}
	if w.folder[n] == w.folder[last] {
		out += 2
	}
	if w.linked(n, last) {
		out++
	}
	return out
}

func (w *web) before(a, b int, order []int) bool {
	if x, y := w.near(a, order), w.near(b, order); x != y {
		return x > y
	}
	if w.start[a] != w.start[b] {
		return w.start[a] > w.start[b]
	}
	if w.weight[a] != w.weight[b] {
		return w.weight[a] > w.weight[b]
	}
	return a < b
}

// passes is how often an order is gone through to smooth it, and widest how many
// files that stand together are moved as one.
const (
	passes = 4
	widest = 6
)

// farOff is from how many surprises more on no better place is looked for further on.
const farOff = 3

// smooth moves single files, and a few that stand together, to where there are fewer
// surprises, and as many where fewer follow one that they have nothing to do with.
func (w *web) smooth(order []int, d Direction) {
	for range passes {
		moved := false
		for n := 1; n <= widest; n++ {
			for k := 0; k+n <= len(order); k++ {
				if to := w.better(order, k, n, d); to >= 0 {
					copy(order, moveTo(order, k, n, to))
					moved = true
				}
			}
		}
		if !moved {
			return
		}
	}
}

// better finds before what the n files from k on had best stand; -1: they stand well.
func (w *web) better(order []int, k, n int, d Direction) int {
	first, last := order[k], order[k+n-1]
	jump := func(a, b int) int { // -1 and len(order) are the ends
		if a < 0 || b >= len(order) || !w.jump(order[a], order[b]) {
			return 0
		}
		return 1
	}
	here := jump(k-1, k) + jump(k+n-1, k+n)
	if k > 0 && k+n < len(order) {
		here -= jump(k-1, k+n)
	}
	best, most := -1, 0
	now := 0
	if d == OutsideIn {
		now = w.surprised(order, d)
	}
	for _, way := range []int{-1, 1} {
		surprises := 0 // more than where they stand
		at := k - 1
		if way > 0 {
			at = k + n
		}
		for to := at; to >= 0 && to < len(order); to += way {
			// they pass by what stands at to
			before := to
			if way > 0 {
				before = to + 1
			}
			if d == InsideOut {
				for _, v := range order[k : k+n] {
					if w.on(v, order[to]) {
						surprises -= way
					}
					if w.on(order[to], v) {
						surprises += way
					}
				}
				if surprises > farOff {
					break
				}
			}
			there := 0
			if before > 0 && before < len(order) {
				there = -jump(before-1, before)
			}
			if before > 0 && w.jump(order[before-1], first) {
				there++
			}
			if before < len(order) && w.jump(last, order[before]) {
				there++
			}
			gain := len(order)*-surprises + here - there
			if gain <= most {
				continue
			}
			if d == OutsideIn && w.surprised(moveTo(order, k, n, before), d) > now {
				continue
			}
			best, most = before, gain
		}
	}
	return best
}

// moveTo is an order with the n that stand from k on put before what stands at to.
func moveTo(order []int, k, n, to int) []int {
	block := slices.Clone(order[k : k+n])
	out := slices.Delete(slices.Clone(order), k, k+n)
	if to > k {
		to -= n
	}
	return slices.Insert(out, to, block...)
}

// surprised counts the surprises of an order: from inside out, how often
// something leans on what comes later; from outside in, what nothing before it
// led to.
func (w *web) surprised(order []int, d Direction) int {
	at := make([]int, len(order))
	for k, v := range order {
		at[v] = k
	}
	n := 0
	for v := range w.leans {
		if d == InsideOut {
			for _, on := range w.leans[v] {
				if at[on] > at[v] {
					n++
				}
			}
			continue
		}
		if !w.opens[v] && !slices.ContainsFunc(w.leaned[v], func(by int) bool { return at[by] < at[v] }) {
			n++
		}
	}
	return n
}
