package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
)

func textOf(t *testing.T, p *browser.Page, css string) string {
	t.Helper()
	s, err := p.Text(css)
	require.NoError(t, err)
	return strings.Join(strings.Fields(s), " ")
}

// names are what the first rows of the Map are called.
func names(t *testing.T, p *browser.Page, n int) []string {
	t.Helper()
	steps(t, p.Visible("#line-0"))
	var out []string
	for i := range n {
		name, _, _ := strings.Cut(textOf(t, p, "#line-"+string(rune('0'+i))+" .text"), " ")
		out = append(out, name)
	}
	return out
}

// Somebody who has five minutes finds, on Overview and Map alone, what the
// repository is, how its tests are run, where it starts, which files change
// most now, which big file never changes, and who knows the collector.
func TestFiveMinutesWithAnUnfamiliarRepository(t *testing.T) {
	p := desk(t)
	assert.Contains(t, textOf(t, p, ".sentences"), "A small network of tide gauges", "what it is")
	front := textOf(t, p, ".overview")
	assert.Regexp(t, `test make test Makefile:15`, front, "how its tests are run, and the line that says so")
	assert.Regexp(t, `program collector ?collector/main.go:18 cd collector && go run \.`, front, "where it starts, and how")
	assert.Regexp(t, `collector/ Tam Reddick \d+, Oona Fell \d+`, front, "who knows the collector")
	assert.Regexp(t, `levelling/ Edda Sorrel \d+ nobody who is still active`, front)

	steps(t, p.Click("all files by recent changes"), p.See("what happened"))
	assert.Equal(t, []string{"stations.json", "sampler.c", "frame.go"}, names(t, p, 3), "which three change most now")
	steps(t, p.Click("Overview"), p.Click("big files that never change"), p.See("tide_table.h"))
	assert.Equal(t, "tide_table.h", names(t, p, 1)[0], "which big file never changes")
	assert.Regexp(t, `^745 tide_table.h firmware/ 1$`, textOf(t, p, "#line-0"))

	// what restless configuration there is, its story, and what keeps moving with a file that no import ties to it
	steps(t, p.Click("small but restless"), p.See("stations.json"), p.ClickAt("#line-0"), p.Visible(`aside[aria-label="Card of deploy/stations.json"]`), p.See("Bram Oster"))
	steps(t, p.Open("/r/1/map?at=collector/ingest/frame.go"), p.See("no import between them"))
	assert.Regexp(t, `moves with firmware/frame.c ?in 6 of 11 changes`, textOf(t, p, ".card"))

	// one part alone: its own recipes and starts
	steps(t, p.Open("/r/1"), p.Click("marshtide"), p.See("How marshtide is built, run and tested"))
	front = textOf(t, p, ".overview")
	assert.Contains(t, front, "pip install .")
	assert.NotContains(t, front, "cd collector && go run .")
	where, err := browser.Ask[string](p, `location.search`)
	require.NoError(t, err)
	assert.Equal(t, "?part=predict", where, "what is seen can be sent")
}

// The whole of it once more by keys alone.
func TestTheMapByKeysAlone(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/map"), p.Visible("#line-0"))
	steps(t, p.Press(kb.ArrowDown), p.Press(kb.ArrowDown), p.Visible(`#line-1.at`), p.Visible(`aside[aria-label="Card of board"]`))
	steps(t, p.Press(kb.ArrowRight), p.See("package.json"), p.Visible(`#line-1[aria-expanded="true"]`))
	steps(t, p.Press(kb.ArrowRight), p.Visible(`aside[aria-label="Card of board/src"]`), p.Press(kb.ArrowRight), p.See("tide_curve.ts"))
	steps(t, p.Press(kb.ArrowDown), p.Press(kb.ArrowDown), p.Visible(`aside[aria-label="Card of board/src/chart.ts"]`), p.See("in a circle with it (1)"))
	steps(t, p.Press("a"), p.See("The text beside it"), p.Press(kb.Escape), p.Gone("dialog[open]"))
	steps(t, p.Press(kb.ArrowLeft), p.Visible(`aside[aria-label="Card of board/src"]`), p.Visible(`.line.at[aria-expanded="true"]`), p.Press(kb.ArrowLeft), p.Visible(`.line.at[aria-expanded="false"]`))
	steps(t, p.Press(kb.Escape), p.See("How to read this"))
	steps(t, p.Open("/r/1/map?at=collector/main.go"), p.Visible(`aside[aria-label="Card of collector/main.go"]`), p.Press(kb.Enter), p.See("func main()"))

	// what was read is marked, for oneself
	steps(t, p.Open("/r/1/map?mark=read&detail=all"), p.See("1 of "), p.See("main.go"))
}

// Filters, scales and spans stand in the address, and an answer without rows
// says so.
func TestTheMapIsNarrowedAndSent(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/map"), p.Visible("#line-0"), p.Click("half-year"), p.Visible("rect.frame"), p.See(" of "))
	steps(t, p.Click("people"), p.Click("square-root"), p.See("linear"), p.Click("sum"), p.See("maximum"))
	where, err := browser.Ask[string](p, `location.search`)
	require.NoError(t, err)
	for _, want := range []string{"right=people", "scale=linear", "folders=max", "from=2026-03-13"} {
		assert.Contains(t, where, want)
	}
	steps(t, p.Open("/r/1/map?name=zzz"), p.See("No file fits."), p.Click("Show all"), p.See("collector"))
	steps(t, p.Open("/r/1/map?by=Edda%20Sorrel&detail=all"), p.See("level_run.py"), p.SeeNot("sampler.c"), p.Click("hidden"), p.See("config.go"), p.See("dimmed"), p.Visible(".line.dim"))
	// what is taken away is made in the browser: three files of their kinds, none empty
	for what, kind := range map[string]string{"The picture as SVG": "image/svg+xml", "The picture as PNG": "image/png", "All figures as CSV": "text/csv"} {
		steps(t, p.Open("/r/1/map"), p.Visible("#line-0"))
		_, err = browser.Ask[bool](p, `(() => { const make = URL.createObjectURL; URL.createObjectURL = b => { window.taken = b.type.split(';')[0] + (b.size > 200 ? '' : ' empty'); return make.call(URL, b) }; return true })()`)
		require.NoError(t, err)
		steps(t, p.Click("take away"), p.Click(what))
		taken, err := browser.Ask[string](p, `new Promise(done => { const look = () => window.taken ? done(window.taken) : setTimeout(look, 20); look() })`)
		require.NoError(t, err)
		assert.Equal(t, kind, taken)
	}
	// the brush by keys
	steps(t, p.Open("/r/1/map?from=2025-09-01&to=2026-03-01&at=firmware"), p.See("1 Sept 2025 to 28 Feb 2026"))
	at := ""
	for range 60 {
		if at == "End of the span" {
			break
		}
		steps(t, p.Press(kb.Tab))
		at, err = browser.Ask[string](p, `document.activeElement?.getAttribute('aria-label') ?? ''`)
		require.NoError(t, err)
	}
	steps(t, p.Press(kb.ArrowRight), p.SeeNot("1 Sept 2025 to 28 Feb 2026"), p.See("1 Sept 2025 to "))
	// folders' small files are told together, and shown when asked
	steps(t, p.ClickAt(`#line-0`), p.Open("/r/1/map?open=firmware&at=firmware/main.c"), p.Visible(`aside[aria-label="Card of firmware/main.c"]`), p.Visible(".line.at"))
}
