package draft

// Readings chooses what to read of the whole within so many minutes, and puts it
// in a reading order.
func (g *Ground) Readings(minutes int, d Direction, w Weights) []Reading {
	return g.arrange(g.choose(minutes, d, w, nil, nil), d)
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
