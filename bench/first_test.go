package bench

import (
	"fmt"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"juxtagram/core/repo"
	"juxtagram/store"
)

// screens are what each screen asks first, by the screen's name.
func screens(b *testing.B, g *repo.Git) [][2]string {
	b.Helper()
	file := url.QueryEscape(longest(b, g)[0])
	folder, _, _ := strings.Cut(longest(b, g)[0], "/")
	first := strings.Fields(run(b, g, "rev-list", "--max-parents=0", "main"))[0]
	return [][2]string{
		{"repository", ""}, {"overview", "/overview"}, {"summary", "/summary?children=true"}, {"summary-file", "/summary?path=" + file}, {"map", "/map"}, {"span", "/map/span?from=1500000000"},
		{"marks", "/marks"}, {"tree", "/folder?path=" + folder}, {"text", "/text?path=" + file}, {"outline", "/outline?path=" + file}, {"skim", "/skim?path=" + file},
		{"links", "/links?path=" + file}, {"file", "/file?path=" + file}, {"passages", "/passages?path=" + file}, {"find", "/paths?text=account&limit=12"},
		{"log", "/log?limit=200"}, {"story", "/story?path=" + file}, {"hotspots", "/hotspots"}, {"partners", "/partners?least=3"}, {"who", "/knowers"},
		{"compare", "/compare?from=" + first + "&to=main"}, {"leads", "/leads"}, {"leads-kind", "/leads?kind=tagged-comment"}, {"leads-new", "/leads?state=new"}, {"tagged", "/tagged"},
		{"notes", "/notes"}, {"plans", "/plans"},
	}
}

// BenchmarkFirstRequests: what each screen asks first, once after a survey, once after a
// start, and warm. The floor is the sum of the warm answers of the same run.
func BenchmarkFirstRequests(b *testing.B) {
	for _, size := range sizes() {
		b.Run(fmt.Sprintf("files=%d/commits=%d", size[0], size[1]), func(b *testing.B) {
			g := generated(b, size)
			for range b.N {
				h := queued(b, g)
				asked := screens(b, g)
				at := fmt.Sprintf("/api/repositories/%d", h.id)
				measure := func(when string) (sum time.Duration) {
					var slowest time.Duration
					for _, x := range asked {
						took := h.ask("GET", at+x[1], "")
						if sum += took; x[0] == "compare" { // it has a limit of its own
							b.ReportMetric(ms(took), when+"-compare-ms")
						} else {
							slowest = max(slowest, took)
						}
						fmt.Printf("%-14s %-14s %7.1f ms\n", when, x[0], ms(took)) // b.Logf shows ten lines
					}
					b.ReportMetric(ms(slowest), when+"-slowest-ms")
					return sum
				}
				after := measure("after-survey")
				began := time.Now()
				h.restart()
				b.ReportMetric(ms(time.Since(began)), "start-ms")
				start := measure("after-start")
				var all []time.Duration
				var warm time.Duration
				for _, x := range asked {
					var of []time.Duration
					for range 5 {
						of = append(of, h.ask("GET", at+x[1], ""))
					}
					slices.Sort(of)
					all, warm = append(all, of...), warm+of[2]
					fmt.Printf("%-14s %-14s %7.1f ms\n", "warm", x[0], ms(of[2]))
				}
				slices.Sort(all)
				b.ReportMetric(ms(all[len(all)/2]), "warm-median-ms")
				b.ReportMetric(ms(all[len(all)*99/100]), "warm-p99-ms")
				b.ReportMetric(float64(after)/float64(warm), "x-after-survey/warm")
				b.ReportMetric(float64(start)/float64(warm), "x-after-start/warm")
				h.restart()
				b.ReportMetric(ms(h.ask("GET", at+"/draft?minutes=60", "")), "draft-ms")
			}
		})
	}
}

// queued is a house whose repository was surveyed as the product does it: by a job, which
// says that it is complete once the server is ready for it.
func queued(b *testing.B, g *repo.Git) *house {
	b.Helper()
	h := housed(b, g, func(*store.Store, *store.Repository, string) {})
	if err := h.runner.Start(ctx); err != nil {
		b.Fatal(err)
	}
	b.Cleanup(func() { _ = h.runner.Stop(ctx) })
	r, err := h.store.Repository(ctx, h.id)
	if err != nil {
		b.Fatal(err)
	}
	v, err := h.runner.QueueSurvey(ctx, r)
	for err == nil && v.State != store.Complete {
		if v.State == store.Failed {
			b.Fatal(v.Problem)
		}
		time.Sleep(20 * time.Millisecond)
		v, err = h.store.Survey(ctx, v.ID)
	}
	if err != nil {
		b.Fatal(err)
	}
	return h
}
