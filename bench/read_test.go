package bench

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/skim"
)

// What the reading desk is measured by, in a real browser; see the Map's.
const (
	// from the click on a file's name to its text, its outline, its margin and its folds
	openFile = `new Promise((done, fail) => {
		const link = [...document.querySelectorAll('a.file')].find(a => a.textContent.trim() === %q)
		if (!link) return fail('no link to the file')
		const began = performance.now(), seen = {}
		link.click()
		const note = (name, is) => { if (!(name in seen) && is) seen[name] = performance.now() - began }
		const look = () => {
			note('text', document.querySelectorAll('.cm-line').length > 5)
			note('outline', document.querySelectorAll('.outline [role=treeitem]').length > 3)
			note('margin', document.querySelector('.margin .said, .margin .note, .margin .none'))
			note('folds', document.querySelector('.cm-fold'))
			Object.keys(seen).length === 4 || performance.now() - began > 5000 ? requestAnimationFrame(() => done(seen)) : requestAnimationFrame(look)
		}
		look()
	})`
	// the floor: the same text fetched and read, nothing drawn
	fetchFile = `(async () => { const began = performance.now(); await (await fetch('/api/repositories/%d/text?path=%s')).json(); return performance.now() - began })()`
	// from the click on a name to the source of its definition below its line, the median of so many names
	defineNames = `(async () => {
		const all = []
		const frame = () => new Promise(requestAnimationFrame)
		const names = [...document.querySelectorAll('.cm-line .c-name')].slice(0, 15)
		for (const n of names) {
			if (!n.isConnected) continue
			const r = n.getBoundingClientRect()
			const at = { bubbles: true, clientX: r.x + 3, clientY: r.y + r.height / 2, button: 0 }
			const began = performance.now()
			n.dispatchEvent(new MouseEvent('mousedown', at))
			n.dispatchEvent(new MouseEvent('click', at))
			while (!document.querySelector('.definition .row') && performance.now() - began < 3000) await frame()
			await frame()
			all.push(performance.now() - began)
			document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))
			while (document.querySelector('.definition')) await frame()
		}
		return all.sort((a, b) => a - b)
	})()`
)

// BenchmarkRead: what somebody feels who opens a file of 2,000 lines, asks what
// names mean, and scrolls through a very long one.
func BenchmarkRead(b *testing.B) {
	if _, err := os.Stat("/usr/bin/chromium"); err != nil {
		b.Skip("there is no browser on this machine")
	}
	const most = 10_000
	b.Run(fmt.Sprintf("files=%d", most), func(b *testing.B) {
		h := opened(b, realText(b, most))
		for b.Loop() {
			medians(b, func() map[string]float64 { return visit(b, h, measureRead) })
		}
	})
}

// The files that are opened: one of some 2,000 lines, and one of more than 50,000.
const (
	readFolder = "encoding/xml"
	readFile   = "xml.go"
	coldFile   = "read.go"
	longFile   = "cmd/compile/internal/ssa/opGen.go"
)

func measureRead(v visitor) map[string]float64 {
	b, h, p, must := v.b, v.h, v.Page, v.must
	// the survey is in the server's memory, as it is after the first question
	must(p.Open(fmt.Sprintf("/r/%d/read?path=%s/marshal.go", h.id, readFolder)))
	must(p.Visible(".cm-fold"))
	must(p.Open(fmt.Sprintf("/r/%d/read?folder=%s", h.id, readFolder)))
	must(p.See(readFile))
	must(p.Settle())
	// the first file after the page was loaded, and the next one
	cold := asked[map[string]float64](b, p, fmt.Sprintf(openFile, coldFile))
	must(p.Settle())
	must(p.ClickAt(".head .folders a:last-child"))
	must(p.See(readFile))
	must(p.Settle())
	seen := asked[map[string]float64](b, p, fmt.Sprintf(openFile, readFile))
	fetched := asked[float64](b, p, fmt.Sprintf(fetchFile, h.id, readFolder+"/"+readFile))
	must(p.Open(fmt.Sprintf("/r/%d/read?path=%s/%s&skim=whole", h.id, readFolder, readFile)))
	must(p.Visible(".cm-line .c-name"))
	must(p.Settle())
	definitions := asked[[]float64](b, p, defineNames)
	if len(definitions) == 0 {
		b.Fatal("no names to ask for")
	}
	must(p.Open(fmt.Sprintf("/r/%d/read?path=%s&skim=whole", h.id, longFile)))
	must(p.Visible(".cm-line[data-line]"))
	must(p.Settle())
	rest := asked[scrolled](b, p, restMap)
	moved := asked[scrolled](b, p, scrolling(".cm-scroller", ".cm-line", 84))
	return map[string]float64{
		"ms-text-first": cold["text"], "ms-outline-first": cold["outline"],
		"ms-text": seen["text"], "x-text/fetch": seen["text"] / fetched, "ms-outline": seen["outline"], "ms-margin": seen["margin"], "ms-folds": seen["folds"],
		"ms-definition": definitions[len(definitions)/2], "definitions": float64(len(definitions)),
		"ms-frame-median": moved.at(0.5), "ms-frame-p95": moved.at(0.95), "x-frame-p95/rest": moved.at(0.95) / rest.at(0.95), "blank-frames": float64(moved.Blank),
	}
}

// BenchmarkSkim: cutting a file into regions and putting them in order, against
// taking its facts.
func BenchmarkSkim(b *testing.B) {
	for _, lines := range []int{2000, 10_000, 50_000} {
		b.Run(fmt.Sprintf("lines=%d", lines), func(b *testing.B) {
			var source strings.Builder
			source.WriteString("package gauge\n\n")
			for n := 0; n*8 < lines; n++ {
				fmt.Fprintf(&source, "// Level%d tells the water at station %d.\nfunc Level%d(raw int) int {\n\tif raw > %d {\n\t\treturn raw - datum%d\n\t}\n\treturn Level%d(raw) * %d\n}\n", n, n, n, n, n%97, n/2, n)
			}
			content := []byte(source.String())
			l := all.ByName("Go")
			f := facts.Of(ctx, l, content)
			known := skim.NewStatistics()
			f.Pack()
			m, err := facts.UnpackMatter(f.Linked.Matter)
			if err != nil {
				b.Fatal(err)
			}
			known.Add(&m)
			known.Add(&facts.Matter{Vocabulary: m.Vocabulary[:len(m.Vocabulary)/2/4*4]})
			d, err := facts.Unpack(f.Packed)
			if err != nil {
				b.Fatal(err)
			}
			in := &skim.Input{Content: lang.ValidText(content), Details: d, Rare: known.Rare, Reach: make([]int, len(d.Outline))}
			b.ResetTimer()
			for b.Loop() {
				skim.Of(in)
			}
			took := ms(b.Elapsed()) / float64(b.N)
			b.StopTimer()
			floor := timed([]text{{l, content}}, func(t text) { facts.Of(ctx, t.language, t.content) })
			b.ReportMetric(took, "ms-skim")
			b.ReportMetric(took/1000/floor, "x-skim/facts")
		})
	}
}
