package draft

import (
	"cmp"
	"slices"
)

// Simple is an order of files that needs no thought. Drafts are held against all
// of them.
type Simple struct {
	Name string
	by   func(g *Ground, a, b int) int
	good good // that it sorts by; goods: none
}

// SimpleOrders are all of them.
var SimpleOrders = []Simple{
	{"path", func(*Ground, int, int) int { return 0 }, goods},
	{"size", func(g *Ground, a, b int) int { return cmp.Compare(g.Whole.Files[b].Lines, g.Whole.Files[a].Lines) }, goods},
	{"changes", func(g *Ground, a, b int) int {
		return cmp.Compare(g.Whole.Files[b].Commits, g.Whole.Files[a].Commits)
	}, hot},
	{"centrality", func(g *Ground, a, b int) int { return cmp.Compare(g.Whole.Rank[b], g.Whole.Rank[a]) }, central},
}

// Readings reads files of code in this order, so many lines of each (0: whole)
// until the minutes are spent; of the last one as much as they suffice for.
func (o *Simple) Readings(g *Ground, minutes, lines int) []Reading {
	var files []int
	for i := range g.Whole.Files {
		if code(g.Whole.Files[i].Role) && g.readable(i) {
			files = append(files, i)
		}
	}
	slices.SortStableFunc(files, func(a, b int) int { return o.by(g, a, b) })
	var out []Reading
	for _, f := range files {
		n := g.Whole.Files[f].Lines
		if lines > 0 {
			n = min(n, lines)
		}
		r := g.Within(f, n, minutes)
		if minutes <= 0 || r.Lines == 0 {
			break
		}
		out = append(out, r)
		minutes -= r.Minutes
	}
	return out
}

// own is what is asked of a draft beside the order that sorts by a good itself.
const own = 0.9

// floor is how much of each good the simple orders cover within so many minutes,
// the best of them; an order's own good counts for nine tenths.
func (l *ledger) floor(minutes int) (out [goods]float64) {
	for i := range SimpleOrders {
		o := &SimpleOrders[i]
		var got [goods]float64
		for _, r := range o.Readings(l.g, minutes, 0) {
			credit := Credit(r.Lines, l.g.Whole.Files[r.File].Lines)
			for k := range got {
				switch {
				case l.share[k] == nil || good(k) == folders || good(k) == about:
				case good(k) == starts:
					got[k] += l.share[k][r.File]
				default:
					got[k] += l.share[k][r.File] * credit
				}
			}
		}
		for k := range out {
			if good(k) == o.good {
				got[k] *= own
			}
			out[k] = max(out[k], got[k])
		}
	}
	return out
}
