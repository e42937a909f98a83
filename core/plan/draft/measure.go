package draft

// Figures tell how good readings in an order are.
type Figures struct {
	Minutes   int     `json:"minutes"`
	Hot       float64 `json:"hotspots" doc:"Share of the weight of all hotspots of the code, tests aside, that is covered, 0 to 1"`
	Central   float64 `json:"centrality" doc:"Share of the centrality of all sources, 0 to 1"`
	Starts    float64 `json:"entry_points" doc:"Share of the weight of all entry points, tests aside, 0 to 1"`
	Surprises float64 `json:"surprises" doc:"Share of what comes before it was introduced, 0 to 1 (inside-out: of all that files here lean on; outside-in: of the files)"`
	Links     int     `json:"links" doc:"How often one of the files leans on another"`
	Jumps     float64 `json:"jumps" doc:"Share of steps, 0 to 1, to a file that is neither in the same folder nor linked"`
}

// Sum is all of it as one number, 0 to 5; more is better.
func (f *Figures) Sum() float64 { return f.Hot + f.Central + f.Starts + 1 - f.Surprises + 1 - f.Jumps }

// Measure tells the figures of readings in the order they are given.
func (g *Ground) Measure(readings []Reading, d Direction) Figures {
	var f Figures
	files := make([]int, len(readings))
	order := make([]int, len(readings))
	for n, r := range readings {
		files[n], order[n] = r.File, n
		share := Credit(r.Lines, g.Whole.Files[r.File].Lines)
		f.Minutes += r.Minutes
		f.Hot += share * g.hot[r.File]
		f.Central += share * g.central[r.File]
		f.Starts += g.starts[r.File]
	}
	w := g.links(files, nil)
	for _, on := range w.leans {
		f.Links += len(on)
	}
	all := len(files)
	if d == InsideOut {
		all = f.Links
	}
	if all > 0 {
		f.Surprises = float64(w.surprised(order, d)) / float64(all)
	}
	jumps := 0
	for n := 1; n < len(order); n++ {
		if w.jump(n-1, n) {
			jumps++
		}
	}
	if len(order) > 1 {
		f.Jumps = float64(jumps) / float64(len(order)-1)
	}
	return f
}
