package bench

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"juxtagram/e2e/browser"
)

// What the Map is measured by, in a real browser. Each script answers with a
// promise; times are in milliseconds.
const (
	// from the click on the section's name to the frame after its rows are there
	openMap = `new Promise(done => {
		const began = performance.now()
		document.querySelector('nav a[href$="/map"]').click()
		const look = () => document.querySelectorAll('[role=treegrid] [role=row]').length > 5
			? requestAnimationFrame(() => done(performance.now() - began)) : requestAnimationFrame(look)
		look()
	})`
	// the floor of opening: the same columns fetched and read, nothing drawn
	fetchMap = `(async () => { const began = performance.now(); await (await fetch('/api/repositories/%d/map')).json(); return performance.now() - began })()`
	// the floor of frames: the same page at rest
	restMap = `new Promise(done => {
		const frames = []
		let last = 0
		const step = now => {
			if (last) frames.push(now - last)
			last = now
			if (frames.length >= 120) return done({ frames: frames.sort((a, b) => a - b), blank: 0, rows: 0 })
			requestAnimationFrame(step)
		}
		requestAnimationFrame(step)
	})`
	// from the click on a span to the frame after the right wing shows it
	spanMap = `new Promise((done, fail) => {
		const began = performance.now()
		const pick = [...document.querySelectorAll('.presets button')].find(b => b.textContent.trim() === 'year')
		if (!pick) return fail('no span to pick')
		pick.click()
		const look = () => [...document.querySelectorAll('.wing.right .n')].some(n => n.textContent.includes(' of '))
			? requestAnimationFrame(() => done(performance.now() - began)) : requestAnimationFrame(look)
		look()
	})`
	fetchSpan = `(async () => { const began = performance.now(); await (await fetch('/api/repositories/%d/map/span?from=1500000000')).json(); return performance.now() - began })()`
)

// scrolling measures 300 frames while a pane scrolls by so many pixels a frame;
// of every eighth it is asked whether its middle shows a row (asking costs a
// layout).
func scrolling(pane, row string, step int) string {
	return fmt.Sprintf(`new Promise(done => {
		const pane = document.querySelector(%q)
		const box = pane.getBoundingClientRect()
		const frames = []
		let blank = 0, last = 0, top = pane.scrollTop
		const step = now => {
			if (last) frames.push(now - last)
			last = now
			if (frames.length %% 8 === 0 && !document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2)?.closest(%q)) blank++
			if (frames.length >= 300) return done({ frames: frames.sort((a, b) => a - b), blank, rows: Number(pane.getAttribute('aria-rowcount')) })
			pane.scrollTop = top += %d
			requestAnimationFrame(step)
		}
		requestAnimationFrame(step)
	})`, pane, row, step)
}

type scrolled struct {
	Frames []float64 `json:"frames"`
	Blank  int       `json:"blank"`
	Rows   int       `json:"rows"`
}

func (s scrolled) at(share float64) float64 { return s.Frames[int(share*float64(len(s.Frames)-1))] }

// BenchmarkMap: what somebody feels who opens the Map, scrolls through all of
// it and asks for another span.
func BenchmarkMap(b *testing.B) {
	if _, err := os.Stat("/usr/bin/chromium"); err != nil {
		b.Skip("there is no browser on this machine")
	}
	scale := float64(sizes()[1][0]) / 10_000
	for _, size := range [][2]int{sizes()[1], {int(100_000 * scale), int(10_000 * scale)}} {
		b.Run(fmt.Sprintf("files=%d/commits=%d", size[0], size[1]), func(b *testing.B) {
			h := opened(b, generated(b, size))
			for b.Loop() {
				medians(b, func() map[string]float64 { return visit(b, h, measureMap) })
			}
		})
	}
}

// visits is how often a screen is measured, each time in a browser of its own;
// the median is told.
const visits = 5

// medians measures some visits and reports the median of each figure.
func medians(b *testing.B, measure func() map[string]float64) {
	figures := map[string][]float64{}
	for range visits {
		for name, v := range measure() {
			figures[name] = append(figures[name], v)
		}
	}
	for name, list := range figures {
		slices.Sort(list)
		b.ReportMetric(list[len(list)/2], name)
	}
}

// visitor is somebody signed in, in a browser; what goes wrong ends the
// benchmark.
type visitor struct {
	*browser.Page
	b *testing.B
	h *house
}

func (v visitor) must(err error) {
	if err != nil {
		v.b.Helper()
		v.b.Fatal(err)
	}
}

// visit opens a browser and measures one visit, by metric.
func visit(b *testing.B, h *house, measure func(visitor) map[string]float64) map[string]float64 {
	chromium, err := browser.Start(ctx)
	if err != nil {
		b.Fatal(err)
	}
	defer chromium.Close()
	p, err := chromium.NewPage(h.url)
	if err != nil {
		b.Fatal(err)
	}
	v := visitor{p, b, h}
	v.must(p.SignIn(email, password))
	return measure(v)
}

func measureMap(v visitor) map[string]float64 {
	b, h, p, must := v.b, v.h, v.Page, v.must
	must(p.Open(fmt.Sprintf("/r/%d", h.id)))
	must(p.See("How it is laid out"))
	must(p.Settle())
	open := asked[float64](b, p, openMap)
	fetched := asked[float64](b, p, fmt.Sprintf(fetchMap, h.id))
	must(p.Open(fmt.Sprintf("/r/%d/map?detail=all", h.id)))
	must(p.Visible("[role=treegrid] [role=row]"))
	must(p.Settle())
	rest := asked[scrolled](b, p, restMap)
	moved := asked[scrolled](b, p, scrolling("[role=treegrid]", "[role=row]", 90))
	span := asked[float64](b, p, spanMap)
	spanFetched := asked[float64](b, p, fmt.Sprintf(fetchSpan, h.id))
	return map[string]float64{
		"ms-open": open, "x-open/fetch": open / fetched,
		"ms-frame-median": moved.at(0.5), "ms-frame-p95": moved.at(0.95), "x-frame-p95/rest": moved.at(0.95) / rest.at(0.95),
		"blank-frames": float64(moved.Blank), "rows": float64(moved.Rows),
		"ms-span": span, "x-span/fetch": span / spanFetched,
		"MB-tab": float64(largestTab(os.Getpid())) / 1024,
	}
}

func asked[T any](b *testing.B, p *browser.Page, script string) T {
	b.Helper()
	v, err := browser.Ask[T](p, script)
	if err != nil {
		b.Fatal(err)
	}
	return v
}

// largestTab is what the largest of the browser's tabs below a process holds,
// in kB, shared pages counted by their share.
func largestTab(pid int) int {
	most := 0
	if line, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", pid)); err == nil && bytes.Contains(line, []byte("--type=renderer")) {
		return held(pid)
	}
	tasks, _ := filepath.Glob(fmt.Sprintf("/proc/%d/task/*/children", pid))
	for _, t := range tasks {
		list, _ := os.ReadFile(t)
		for _, child := range strings.Fields(string(list)) {
			n, _ := strconv.Atoi(child)
			most = max(most, largestTab(n))
		}
	}
	return most
}
