// Command plan judges the plans that are drafted: how much of what matters they
// cover within a budget, how often a reader meets what was not introduced, and
// how often they jump, beside four naive orders of the same files.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"os"
	"slices"
	"text/tabwriter"
	"time"

	"juxtagram/bench/corpus"
	"juxtagram/core/plan/draft"
)

var budgets = []int{30, 60, 120, 480}

func main() {
	tuned := flag.Bool("tuned", false, "show the packages that the weights were chosen on as well")
	rows := flag.Bool("rows", false, "print every draft and order")
	w := draft.Standard
	for name, at := range map[string]*float64{"hot": &w.Hot, "central": &w.Central, "starts": &w.Starts, "folders": &w.Folders, "balance": &w.Balance, "close": &w.Close, "twins": &w.Twins} {
		flag.Float64Var(at, name, *at, "weight instead of the standard one")
	}
	without := flag.Bool("without", false, "leave each part of the choice out in turn, and print the sums and how often a draft falls behind")
	flag.Parse()
	ctx := context.Background()
	if *without {
		ablate(ctx)
		return
	}
	out := tabwriter.NewWriter(os.Stdout, 2, 8, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(out, "package\tbudget\tway\torder\tpassages\tminutes\thotspots\tcentrality\tentries\tsurprises\tjumps\tsum\ttook\t")
	failed := 0
	for _, c := range all {
		if c.tuned && !*tuned || flag.NArg() > 0 && !slices.Contains(flag.Args(), c.name) {
			continue
		}
		g, err := ground(ctx, c)
		if err != nil {
			log.Printf("%s: left out: %v", c.name, err)
			continue
		}
		for _, d := range []draft.Direction{draft.InsideOut, draft.OutsideIn} {
			for _, budget := range budgets {
				began := time.Now()
				ours := g.Readings(draft.Task{Minutes: budget, Direction: d, Weights: w})
				took := time.Since(began)
				got := g.Measure(ours, d)
				show := func(name string, n int, f draft.Figures, took string) {
					fmt.Fprintf(out, "%s\t%d\t%s\t%s\t%d\t%d\t%.3f\t%.3f\t%.3f\t%.3f\t%.3f\t%.2f\t%s\t\n", c.name, budget, d, name, n, f.Minutes, f.Hot, f.Central, f.Starts, f.Surprises, f.Jumps, f.Sum(), took)
				}
				show("drafted", len(ours), got, took.Round(time.Millisecond).String())
				for _, lines := range []int{0, shownNaively} {
					for _, r := range g.Rivals(budget, lines, d) {
						name := r.Name
						if lines > 0 {
							name += ", skims"
						}
						if *rows {
							show(name, r.Files, r.Figures, "")
						}
						for _, fault := range r.Ahead(&got) {
							if lines == 0 {
								failed++
							}
							if lines == 0 || *rows {
								fmt.Fprintf(out, "%s\t%d\t%s\tbehind %s: %s\t\t\t\t\t\t\t\t\t\t\n", c.name, budget, d, name, fault)
							}
						}
					}
				}
			}
		}
	}
	out.Flush()
	if failed > 0 {
		log.Fatalf("behind a naive order %d times", failed)
	}
}

// shownNaively is how many lines of each file a simple order shows that skims.
const shownNaively = 50

// ground surveys a package. It serves to choose and measure readings; what files
// say is not kept.
func ground(ctx context.Context, c source) (g *draft.Ground, err error) {
	dir, err := c.repository(ctx)
	if err != nil {
		return nil, err
	}
	err = corpus.With(ctx, dir, func(s *corpus.Surveyed) error {
		g = s.Result.Ground(s.Whole)
		return nil
	})
	return g, err
}
