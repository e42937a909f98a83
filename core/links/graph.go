package links

import (
	"math"
	"slices"
)

// Graph says which file leans on which; files are numbered as in the tree.
type Graph struct {
	out, in []arcs
}

// arcs are the files at the other ends, in order, each once; share is how much
// of the import each is meant by: a package's files share one import.
type arcs struct {
	files  []int32
	shares []float32
}

// NewGraph draws an arc from every file to each file that one of its imports
// leads to.
func NewGraph(l *Links) *Graph {
	n := len(l.Of)
	g := &Graph{out: make([]arcs, n), in: make([]arcs, n)}
	for i, list := range l.Of {
		a := &g.out[i]
		for _, o := range list {
			files := l.Origins[o].Files
			for _, f := range files {
				if int(f) == i || int(f) >= n {
					continue
				}
				at, ok := slices.BinarySearch(a.files, f)
				if ok {
					a.shares[at] = max(a.shares[at], 1/float32(len(files)))
					continue
				}
				a.files = slices.Insert(a.files, at, f)
				a.shares = slices.Insert(a.shares, at, 1/float32(len(files)))
			}
		}
		for k, f := range a.files {
			g.in[f].files = append(g.in[f].files, int32(i))
			g.in[f].shares = append(g.in[f].shares, a.shares[k])
		}
	}
	return g
}

// Figures are what a survey tells of each file's place in the graph.
type Figures struct {
	_                        struct{} `cbor:",toarray"`
	Dependents, Dependencies []int32
	Centrality               []float64 // the files' sum is 1
}

// Figures reckons the figures of all files.
func (g *Graph) Figures() Figures {
	f := Figures{Dependents: make([]int32, len(g.in)), Dependencies: make([]int32, len(g.out)), Centrality: g.Centrality()}
	for i := range g.out {
		f.Dependents[i], f.Dependencies[i] = int32(len(g.in[i].files)), int32(len(g.out[i].files))
	}
	return f
}

// Dependencies are the files that a file leans on, in order.
func (g *Graph) Dependencies(file int) []int32 { return g.out[file].files }

// Dependents are the files that lean on a file, in order.
func (g *Graph) Dependents(file int) []int32 { return g.in[file].files }

// Leans tells whether a file leans on another by an import.
func (g *Graph) Leans(file int, on int32) bool {
	_, found := slices.BinarySearch(g.out[file].files, on)
	return found
}

// The power iteration of Centrality: the usual damping, and a fixed start and
// tolerance, so that the same graph gives the same bytes.
const (
	damping    = 0.85
	tolerance  = 1e-9
	iterations = 200
)

// Centrality is each file's weight in the graph: the chance to be reading it
// for someone who follows imports at random and now and then begins anew
// (PageRank; Brin and Page, 1998). The sum is 1.
func (g *Graph) Centrality() []float64 {
	n := len(g.out)
	if n == 0 {
		return nil
	}
	rank, next := make([]float64, n), make([]float64, n)
	weight := make([]float64, n)
	for i := range rank {
		rank[i] = 1 / float64(n)
		for _, s := range g.out[i].shares {
			weight[i] += float64(s)
		}
	}
	for range iterations {
		loose := 0.0
		for i := range rank {
			if weight[i] == 0 {
				loose += rank[i]
			}
		}
		base := (1-damping)/float64(n) + damping*loose/float64(n)
		change := 0.0
		for i := range next {
			sum := 0.0
			for k, from := range g.in[i].files {
				sum += rank[from] * float64(g.in[i].shares[k]) / weight[from]
			}
			next[i] = base + damping*sum
			change += math.Abs(next[i] - rank[i])
		}
		rank, next = next, rank
		if change < tolerance {
			break
		}
	}
	return rank
}

// Cycles are the groups of files that lean on each other in a circle (strongly
// connected components; Tarjan, 1972), the largest first; group gives for every
// file the number of its component, in an order in which what is leaned on
// comes first.
func (g *Graph) Cycles() (cycles [][]int32, group []int32) {
	n := len(g.out)
	group = make([]int32, n)
	index, low := make([]int32, n), make([]int32, n)
	var stack []int32
	on := make([]bool, n)
	next, count := int32(1), int32(0)
	type frame struct{ file, arc int32 }
	for start := range n {
		if index[start] != 0 {
			continue
		}
		work := []frame{{int32(start), 0}}
		for len(work) > 0 {
			top := &work[len(work)-1]
			v := top.file
			if top.arc == 0 {
				index[v], low[v] = next, next
				next++
				stack, on[v] = append(stack, v), true
			}
			if int(top.arc) < len(g.out[v].files) {
				to := g.out[v].files[top.arc]
				top.arc++
				if index[to] == 0 {
					work = append(work, frame{to, 0})
				} else if on[to] {
					low[v] = min(low[v], index[to])
				}
				continue
			}
			work = work[:len(work)-1]
			if len(work) > 0 {
				up := work[len(work)-1].file
				low[up] = min(low[up], low[v])
			}
			if low[v] != index[v] {
				continue
			}
			var members []int32
			for {
				m := stack[len(stack)-1]
				stack, on[m] = stack[:len(stack)-1], false
				group[m] = count
				members = append(members, m)
				if m == v {
					break
				}
			}
			count++
			if len(members) > 1 {
				slices.Sort(members)
				cycles = append(cycles, members)
			}
		}
	}
	slices.SortFunc(cycles, func(a, b []int32) int {
		if len(a) != len(b) {
			return len(b) - len(a)
		}
		return int(a[0] - b[0])
	})
	return cycles, group
}

// Layers are how far each file stands above those that lean on nothing: 0 for
// them, for all others one more than the highest they lean on. Files of a
// circle share a layer. group is what Cycles gave.
func (g *Graph) Layers(group []int32) []int {
	count := int32(0)
	for _, c := range group {
		count = max(count, c+1)
	}
	members := make([][]int32, count)
	for i, c := range group {
		members[c] = append(members[c], int32(i))
	}
	layer := make([]int, count)
	for c := range members { // what is leaned on has smaller numbers
		for _, f := range members[c] {
			for _, to := range g.out[f].files {
				if group[to] != int32(c) {
					layer[c] = max(layer[c], layer[group[to]]+1)
				}
			}
		}
	}
	out := make([]int, len(group))
	for i, c := range group {
		out[i] = layer[c]
	}
	return out
}
