package gitlog

import "container/heap"

// order puts the commits that tips reach in order: children first, and the
// later date first among those whose children all stand.
func (b *Builder) order(tips []int32, parents [][]int32) []int32 {
	children := make([]int32, len(b.commits))
	reached := make([]bool, len(b.commits))
	stack := []int32{}
	for _, t := range tips {
		if !reached[t] {
			reached[t] = true
			stack = append(stack, t)
		}
	}
	count := 0
	for len(stack) > 0 {
		c := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		count++
		for _, p := range parents[c] {
			if p < 0 {
				continue
			}
			children[p]++
			if !reached[p] {
				reached[p] = true
				stack = append(stack, p)
			}
		}
	}
	h := &latest{b: b}
	for c := range reached {
		if reached[c] && children[c] == 0 {
			h.list = append(h.list, int32(c))
		}
	}
	heap.Init(h)
	out := make([]int32, 0, count)
	for len(h.list) > 0 {
		c := heap.Pop(h).(int32)
		out = append(out, c)
		for _, p := range parents[c] {
			if p < 0 {
				continue
			}
			if children[p]--; children[p] == 0 {
				heap.Push(h, p)
			}
		}
	}
	return out
}

// latest is a heap of commits, the latest on top, ids deciding among equals.
type latest struct {
	b    *Builder
	list []int32
}

func (h *latest) Len() int { return len(h.list) }
func (h *latest) Less(i, j int) bool {
	a, b := &h.b.commits[h.list[i]], &h.b.commits[h.list[j]]
	if a.CommitTime != b.CommitTime {
		return a.CommitTime > b.CommitTime
	}
	return a.ID < b.ID
}
func (h *latest) Swap(i, j int) { h.list[i], h.list[j] = h.list[j], h.list[i] }
func (h *latest) Push(x any)    { h.list = append(h.list, x.(int32)) }
func (h *latest) Pop() any {
	x := h.list[len(h.list)-1]
	h.list = h.list[:len(h.list)-1]
	return x
}
