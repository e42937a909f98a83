package bench

import (
	"fmt"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"juxtagram/core/repo"
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
// start, and warm. The floor is the warm answer of the same build in the same run.
func BenchmarkFirstRequests(b *testing.B) {
	for _, size := range sizes() {
		b.Run(fmt.Sprintf("files=%d/commits=%d", size[0], size[1]), func(b *testing.B) {
			g := generated(b, size)
			for range b.N {
				h := opened(b, g)
				asked := screens(b, g)
				at := fmt.Sprintf("/api/repositories/%d", h.id)
				measure := func(when string) (slowest time.Duration) {
					for _, x := range asked {
						took := h.ask("GET", at+x[1], "")
						slowest = max(slowest, took)
						b.Logf("%-14s %-12s %7.1f ms", when, x[0], ms(took))
					}
					b.ReportMetric(ms(slowest), when+"-slowest-ms")
					return slowest
				}
				after := measure("after-survey")
				h.restart()
				start := measure("after-start")
				var warm []time.Duration
				for range 10 {
					for _, x := range asked {
						warm = append(warm, h.ask("GET", at+x[1], ""))
					}
				}
				slices.Sort(warm)
				b.ReportMetric(ms(warm[len(warm)/2]), "warm-median-ms")
				b.ReportMetric(ms(warm[len(warm)*99/100]), "warm-p99-ms")
				worst := float64(max(after, start)) / float64(warm[len(warm)-1])
				b.ReportMetric(worst, "first/warm-slowest")
				h.restart()
				b.ReportMetric(ms(h.ask("GET", at+"/draft?minutes=60", "")), "draft-ms")
			}
		})
	}
}
