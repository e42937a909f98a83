package bench

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"juxtagram/core/history"
	"juxtagram/core/repo"
	"juxtagram/core/tagged"
	"juxtagram/localpg/pgtest"
	"juxtagram/server"
	"juxtagram/store"
)

// histories are the shapes that the history is measured on.
func histories() []Shape {
	scale := float64(sizes()[1][0]) / 10_000
	return []Shape{
		{Files: int(10_000 * scale), Commits: int(50_000 * scale), Branches: true},
		{Files: int(3_000 * scale), Commits: int(500_000 * scale), Branches: true, Small: true},
	}
}

// BenchmarkHistoryPass: reading and keeping the whole history against one pass
// of `git log --raw --numstat -M`; what needs names alone against `--raw -M`;
// one new commit against all.
func BenchmarkHistoryPass(b *testing.B) {
	shape := histories()[0]
	g := shaped(b, shape)
	head := run(b, g, "rev-parse", "main")
	b.Run(fmt.Sprintf("files=%d/commits=%d", shape.Files, shape.Commits), func(b *testing.B) {
		for b.Loop() {
			s := pgtest.Store(b)
			r, err := s.AddRepository(ctx, store.Repository{Name: "bench", SourceKind: "folder", Source: "x", State: store.Pinned, Pin: head, HalfLife: 180})
			if err != nil {
				b.Fatal(err)
			}
			floorAll := floor(b, g, numstat)
			began := time.Now()
			log, fresh, err := history.Read(ctx, g, head, history.Known{}, nil)
			if err != nil {
				b.Fatal(err)
			}
			names := time.Since(began).Seconds()
			if err := log.CountLines(ctx, g, log.Commits, tagged.Standard, nil); err != nil {
				b.Fatal(err)
			}
			if err := s.MemoryOf(r.ID).KeepHistory(ctx, []string{head}, fresh); err != nil {
				b.Fatal(err)
			}
			all := time.Since(began).Seconds()
			floorNames := floor(b, g, rawLog)
			b.ReportMetric(all, "s-pass")
			b.ReportMetric(all/floorAll, "x-pass/numstat")
			b.ReportMetric(names/floorNames, "x-names/raw")
			began = time.Now()
			if _, err := history.ReadNew(ctx, g, []string{head}, []string{run(b, g, "rev-parse", "main~10")}, tagged.Standard, nil); err != nil {
				b.Fatal(err)
			}
			b.ReportMetric(time.Since(began).Seconds()*1000, "ms-10-new-commits")
		}
	})
}

// BenchmarkLog: pages of the log and every way to narrow it, as the server
// answers; hotspots and partners reckoned anew; the line history of a file
// against git's own.
func BenchmarkLog(b *testing.B) {
	for _, shape := range histories() {
		b.Run(fmt.Sprintf("commits=%d", shape.Commits), func(b *testing.B) {
			g := shaped(b, shape)
			h := logged(b, g)
			at := fmt.Sprintf("/api/repositories/%d", h.id)
			for b.Loop() {
				b.ReportMetric(ms(h.ask("GET", at+"/log?limit=200", "")), "ms-first-page-cold")
				report(b, h, "first-page", func(int) string { return at + "/log?limit=200" })
				report(b, h, "any-page", func(n int) string { return fmt.Sprintf("%s/log?limit=200&offset=%d", at, n*shape.Commits/20) })
				for name, terms := range narrowings(g, b) {
					report(b, h, name, func(n int) string {
						// each answer is made anew: nobody asked this before
						return at + "/log?limit=200&" + terms + fmt.Sprintf("&drop=lines-changed%%3A%d-", 1_000_000+n)
					})
				}
				report(b, h, "commit", func(n int) string {
					return at + "/commits/" + run(b, g, "rev-parse", fmt.Sprintf("main~%d", n*20))
				})
				b.ReportMetric(float64(held(os.Getpid()))/1024, "MB-log")
			}
		})
	}
}

// report asks twenty times and tells the median and the longest.
func report(b *testing.B, h *house, name string, address func(n int) string) {
	b.Helper()
	var all []time.Duration
	for n := range 20 {
		all = append(all, h.ask("GET", address(n), ""))
	}
	slices.Sort(all)
	b.ReportMetric(ms(all[len(all)/2]), "ms-"+name)
	b.ReportMetric(ms(all[len(all)-1]), "ms-"+name+"-longest")
}

func narrowings(g *repo.Git, b *testing.B) map[string]string {
	path := strings.Fields(run(b, g, "ls-tree", "-r", "--name-only", "main"))[0]
	folder := path[:strings.IndexByte(path, '/')]
	keep := func(terms ...string) string {
		var out []string
		for _, t := range terms {
			out = append(out, "keep="+url.QueryEscape(t))
		}
		return strings.Join(out, "&")
	}
	return map[string]string{
		"person": keep("by:Person 3"), "message": keep("message:cache cluster"), "file": keep("path:" + path), "folder": keep("path:" + folder), "branch": keep("branch:side"),
		"span": keep("from:2012", "to:2013-06"), "merges": keep("is:merge"), "size": keep("lines-changed:20-"), "together": keep("path:"+folder, "by:Person 3", "message:cache"),
	}
}

// BenchmarkHot: hotspots and partners reckoned anew from what is kept, and line
// history against git's own.
func BenchmarkHot(b *testing.B) {
	shape := histories()[0]
	b.Run(fmt.Sprintf("files=%d/commits=%d", shape.Files, shape.Commits), func(b *testing.B) {
		g := shaped(b, shape)
		h := opened(b, g)
		at := fmt.Sprintf("/api/repositories/%d", h.id)
		for b.Loop() {
			h.ask("GET", at+"/hotspots", "")
			h.ask("GET", at+"/log", "")
			report(b, h, "hotspots", func(n int) string { return fmt.Sprintf("%s/hotspots?half_life=%d", at, 30+n) })
			report(b, h, "partners", func(n int) string { return fmt.Sprintf("%s/partners?days=%d", at, 4000+n) })
			report(b, h, "knowers", func(n int) string { return fmt.Sprintf("%s/knowers?half_life=%d", at, 30+n) })
			report(b, h, "little-known", func(n int) string { return fmt.Sprintf("%s/little-known?half_life=%d", at, 30+n) })
			var ours, gits []float64
			for _, p := range hottest(b, h, at) {
				ours = append(ours, h.ask("GET", at+"/line-history?path="+url.QueryEscape(p), "").Seconds())
				gits = append(gits, floor(b, g, "git blame --porcelain main -- "+p+" >/dev/null"))
			}
			again := h.ask("GET", at+"/line-history?path="+url.QueryEscape(hottest(b, h, at)[0]), "")
			slices.Sort(ours)
			slices.Sort(gits)
			b.ReportMetric(ours[len(ours)/2]/gits[len(gits)/2], "x-line-history/blame")
			b.ReportMetric(ours[len(ours)/2]*1000, "ms-line-history")
			b.ReportMetric(ms(again), "ms-line-history-kept")
		}
	})
}

// hottest are the files that changed most: their line history is the longest.
func hottest(b *testing.B, h *house, at string) []string {
	answer, err := h.http.Get(h.url + at + "/hotspots")
	if err != nil {
		b.Fatal(err)
	}
	defer answer.Body.Close()
	var info server.HotspotsInfo
	if err := json.NewDecoder(answer.Body).Decode(&info); err != nil || answer.StatusCode != http.StatusOK {
		b.Fatal(answer.Status, err)
	}
	var out []string
	for _, r := range info.Rows[:min(7, len(info.Rows))] {
		out = append(out, r.Path)
	}
	return out
}

// logged serves a repository of which the history alone was read.
func logged(b *testing.B, g *repo.Git) *house {
	b.Helper()
	return housed(b, g, func(s *store.Store, r *store.Repository, head string) {
		tips := []string{head}
		refs, err := g.Refs(ctx)
		if err != nil {
			b.Fatal(err)
		}
		for _, x := range refs {
			tips = append(tips, x.Commit)
		}
		commits, err := history.ReadNew(ctx, g, tips, nil, nil, nil)
		if err != nil {
			b.Fatal(err)
		}
		if err := s.MemoryOf(r.ID).KeepHistory(ctx, tips, commits); err != nil {
			b.Fatal(err)
		}
	})
}

// BenchmarkLogOnScreen: the log in a real browser: from the click on History to
// its first rows, and frames while its lanes scroll by.
func BenchmarkLogOnScreen(b *testing.B) {
	if _, err := os.Stat("/usr/bin/chromium"); err != nil {
		b.Skip("there is no browser on this machine")
	}
	for _, shape := range histories() {
		b.Run(fmt.Sprintf("commits=%d", shape.Commits), func(b *testing.B) {
			h := logged(b, shaped(b, shape))
			for b.Loop() {
				medians(b, func() map[string]float64 { return visit(b, h, measureLog) })
			}
		})
	}
}

func measureLog(v visitor) map[string]float64 {
	v.must(v.Open(fmt.Sprintf("/r/%d/leads", v.h.id)))
	v.must(v.See("History"))
	opened := asked[float64](v.b, v.Page, `new Promise(done => {
		const began = performance.now()
		;[...document.querySelectorAll('nav a, header a')].find(a => a.textContent.trim() === 'History').click()
		const look = () => document.querySelectorAll('.row .subject').length > 10 ? requestAnimationFrame(() => done(performance.now() - began)) : requestAnimationFrame(look)
		look()
	})`)
	v.must(v.Settle())
	s := asked[scrolled](v.b, v.Page, scrolling(".rows", ".row", 90))
	return map[string]float64{"ms-open": opened, "ms-frame": s.at(0.5), "ms-frame-p95": s.at(0.95), "blank": float64(s.Blank)}
}
