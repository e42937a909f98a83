package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"os"
	"slices"
	"text/tabwriter"

	"juxtagram/core/plan/draft"
)

// part is something of the choice that can be left out.
type part struct {
	name string
	off  func(*draft.Weights)
}

var parts = []part{
	{"nothing", func(*draft.Weights) {}},
	{"hotspots", func(w *draft.Weights) { w.Hot = 0 }},
	{"centrality", func(w *draft.Weights) { w.Central = 0 }},
	{"entry points", func(w *draft.Weights) { w.Starts = 0 }},
	{"folders", func(w *draft.Weights) { w.Folders = 0 }},
	{"balance", func(w *draft.Weights) { w.Balance = 0 }},
	{"what is close", func(w *draft.Weights) { w.Close = 0 }},
	{"twins", func(w *draft.Weights) { w.Twins = 0 }},
	{"being led", func(w *draft.Weights) { w.Led = false }},
}

// ablate prints the means over all drafts of the packages that judge, with each
// part of the choice left out in turn.
func ablate(ctx context.Context) {
	var grounds []*draft.Ground
	for _, c := range all {
		if c.tuned || flag.NArg() > 0 && !slices.Contains(flag.Args(), c.name) {
			continue
		}
		g, err := ground(ctx, c)
		if err != nil {
			log.Printf("%s: left out: %v", c.name, err)
			continue
		}
		grounds = append(grounds, g)
	}
	out := tabwriter.NewWriter(os.Stdout, 2, 8, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(out, "without\thotspots\tcentrality\tentries\tsurprises\tjumps\tsum\tbehind\t")
	for _, p := range parts {
		w := draft.Standard
		p.off(&w)
		var mean draft.Figures
		n, behindOnes := 0.0, 0
		for _, g := range grounds {
			for _, d := range []draft.Direction{draft.InsideOut, draft.OutsideIn} {
				for _, budget := range budgets {
					f := g.Measure(g.Readings(draft.Task{Minutes: budget, Direction: d, Weights: w}), d)
					mean.Hot, mean.Central, mean.Starts, mean.Surprises, mean.Jumps = mean.Hot+f.Hot, mean.Central+f.Central, mean.Starts+f.Starts, mean.Surprises+f.Surprises, mean.Jumps+f.Jumps
					n++
					for _, r := range g.Rivals(budget, 0, d) {
						behindOnes += len(r.Ahead(&f))
					}
				}
			}
		}
		mean.Hot, mean.Central, mean.Starts, mean.Surprises, mean.Jumps = mean.Hot/n, mean.Central/n, mean.Starts/n, mean.Surprises/n, mean.Jumps/n
		fmt.Fprintf(out, "%s\t%.3f\t%.3f\t%.3f\t%.3f\t%.3f\t%.3f\t%d\t\n", p.name, mean.Hot, mean.Central, mean.Starts, mean.Surprises, mean.Jumps, mean.Sum(), behindOnes)
	}
	out.Flush()
}
