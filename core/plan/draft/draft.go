package draft

// closeness are the weights of what is close by that are tried: what a reader
// gains by it is seen only once there is an order.
var closeness = []float64{1, 3, 8, 20}

// Readings chooses what to read, and puts it in a reading order.
func (g *Ground) Readings(t Task) []Reading {
	var best []Reading
	sum, margin := 0.0, 0.0
	weighed := g.weigh(&t)
	for _, k := range closeness {
		tried := t
		tried.Weights.Close *= k
		chosen, beyond := g.choose(&tried, weighed)
		list := g.arrange(chosen, t.Direction)
		f := g.Measure(list, t.Direction)
		// above all, nothing may fall behind what a simple order covers
		beyond = min(beyond, enough)
		if best == nil || beyond > margin+1e-9 || beyond > margin-1e-9 && f.Sum() > sum {
			best, sum, margin = list, f.Sum(), beyond
		}
		if t.Weights.Close == 0 {
			break
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
