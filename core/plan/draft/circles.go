package draft

import "slices"

// acyclic is what each leans on, without the arcs that go round: within every
// circle the files are put in an order by the greedy rule of Eades, Lin and Smyth
// ("A fast and effective heuristic for the feedback arc set problem", 1993), and
// arcs against it are given up.
func (w *web) acyclic() [][]int {
	group, size := w.circles()
	out := make([][]int, len(w.leans))
	rank := make([]int, len(w.leans))
	for g, n := range size {
		if n > 1 {
			var members []int
			for v := range group {
				if group[v] == g {
					members = append(members, v)
				}
			}
			for k, v := range w.unwind(members) {
				rank[v] = k
			}
		}
	}
	for n, list := range w.leans {
		for _, on := range list {
			if group[n] != group[on] || rank[on] < rank[n] {
				out[n] = append(out[n], on)
			}
		}
	}
	return out
}

// unwind orders the files of a circle so that few lean on a later one.
func (w *web) unwind(members []int) []int {
	left := map[int]bool{}
	for _, v := range members {
		left[v] = true
	}
	degree := func(v int, of [][]int) int {
		n := 0
		for _, x := range of[v] {
			if left[x] {
				n++
			}
		}
		return n
	}
	var first, last []int
	for len(left) > 0 {
		best, most, where := -1, 0, 0
		for _, v := range members {
			if !left[v] {
				continue
			}
			on, by := degree(v, w.leans), degree(v, w.leaned)
			switch {
			case on == 0:
				best, where = v, -1
			case by == 0:
				best, where = v, 1
			default:
				if best < 0 || where == 0 && by-on > most {
					best, most, where = v, by-on, 0
				}
				continue
			}
			break
		}
		delete(left, best)
		if where == 1 {
			last = append(last, best)
		} else {
			first = append(first, best)
		}
	}
	slices.Reverse(last)
	return append(first, last...)
}

// circles are the strongly connected components of a web (Tarjan, 1972): the
// number of each file's, and their sizes.
func (w *web) circles() (group []int, size []int) {
	n := len(w.leans)
	index, low := make([]int, n), make([]int, n)
	group = make([]int, n)
	for v := range group {
		group[v] = -1
	}
	var stack []int
	next := 0
	var visit func(v int)
	visit = func(v int) {
		next++
		index[v], low[v] = next, next
		stack = append(stack, v)
		for _, to := range w.leans[v] {
			switch {
			case index[to] == 0:
				visit(to)
				low[v] = min(low[v], low[to])
			case group[to] < 0:
				low[v] = min(low[v], index[to])
			}
		}
		if low[v] == index[v] {
			at := slices.Index(stack, v)
			for _, x := range stack[at:] {
				group[x] = len(size)
			}
			size = append(size, len(stack)-at)
			stack = stack[:at]
		}
	}
	for v := range n {
		if index[v] == 0 {
			visit(v)
		}
	}
	return group, size
}
