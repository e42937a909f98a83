package draft

import "fmt"

// MostSurprises is how large a share of surprises a draft is to stay within.
const MostSurprises = 0.05

// Of less there are no jumps, or surprises, of an order to speak of.
const (
	fewestFiles = 8
	fewestLinks = 8
)

// Rival is what a simple order comes to.
type Rival struct {
	Name string
	Figures
	Files int
	good  good
}

// Rivals are what the simple orders come to within so many minutes, files read whole
// (lines 0) or so many lines of each.
func (g *Ground) Rivals(minutes, lines int, d Direction) []Rival {
	var out []Rival
	for i := range SimpleOrders {
		o := &SimpleOrders[i]
		list := o.Readings(g, minutes, lines)
		out = append(out, Rival{o.Name, g.Measure(list, d), len(list), o.good})
	}
	return out
}

// Ahead tells in what a rival is ahead of a draft, where it is asked to be behind: in
// the sum, in surprises and in each measure; in what it sorts by itself, a draft is to
// have nine tenths of it. The order of paths sorts by what lies together.
func (r *Rival) Ahead(f *Figures) []string {
	var out []string
	tell := func(what string, bad bool, a, b float64) {
		if bad {
			out = append(out, fmt.Sprintf("%s %.3f to %.3f", what, a, b))
		}
	}
	share := func(itsOwn bool) float64 {
		if itsOwn {
			return own
		}
		return 1
	}
	tell("sum", f.Sum() <= r.Sum(), f.Sum(), r.Sum())
	tell("surprises", f.Surprises > MostSurprises || r.Links >= fewestLinks && f.Surprises > r.Surprises, f.Surprises, r.Surprises)
	tell("hotspots", f.Hot < share(r.good == hot)*r.Hot, f.Hot, r.Hot)
	tell("centrality", f.Central < share(r.good == central)*r.Central, f.Central, r.Central)
	tell("entries", f.Starts < r.Starts, f.Starts, r.Starts)
	tell("jumps", r.Files >= fewestFiles && 1-f.Jumps < share(r.Name == "path")*(1-r.Jumps), 1-f.Jumps, 1-r.Jumps)
	return out
}
