package e2e

import (
	"fmt"
	"regexp"
	"strconv"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
)

const sampler = "/r/1/read?path=firmware/sampler.c"

// The number of lines that the page tells is the number of lines that it shows.
func TestASkimShowsAsManyLinesAsItTells(t *testing.T) {
	p := desk(t)
	steps(t, p.Size(1280, 900)) // all of these lines are on the screen
	told := regexp.MustCompile(`(\d+) lines show now`)
	last := 0
	for _, budget := range []int{1, 5, 6, 8, 9, 12, 15, 20, 27, 32} {
		steps(t, p.Open(fmt.Sprintf("%s&skim=%d", sampler, budget)), p.Visible(`.skim [title*="lines show now"]`), p.Settle())
		title, err := browser.Ask[string](p, `document.querySelector('.skim [title*="lines show now"]').title`)
		require.NoError(t, err)
		n, err := strconv.Atoi(told.FindStringSubmatch(title)[1])
		require.NoError(t, err)
		shown, err := p.Count(`.cm-line[data-line]`)
		require.NoError(t, err)
		assert.Equal(t, n, shown, "budget %d", budget)
		assert.GreaterOrEqual(t, shown, last, "a larger budget shows no less")
		last = shown
		folded, err := p.Count(`.cm-line[data-folded]`)
		require.NoError(t, err)
		assert.True(t, shown <= budget || shown == folded || budget < 9, "budget %d, %d lines, %d of them folds", budget, shown, folded)
	}
	// what a fold hides is told on it: take_median has a tagged comment
	steps(t, p.Open(sampler+"&skim=6"), p.Visible(`.cm-line[data-folded] .cm-fold`), p.See("15 lines: The float knocks against its tube in a swell. · ◇"))
}

func TestFoldsMadeByHandSurviveANewBudget(t *testing.T) {
	p := desk(t)
	steps(t, p.Open(sampler+"&skim=6"), p.Visible(`.cm-line[data-line="64"][data-folded]`), p.ClickAt(`.cm-line[data-line="64"] .cm-fold`), p.Visible(`.cm-line[data-line="66"]`))
	steps(t, p.Click("gist"), p.Visible(`.skim .pick[aria-pressed="true"]`), p.Visible(`.cm-line[data-line="66"]`), p.See("by hand"))
	// one key opens all, one goes back
	steps(t, p.Press("."), p.Visible(`.cm-line[data-line="13"]`), p.Press(","), p.Gone(`.cm-line[data-line="13"]`), p.Visible(`.cm-line[data-line="66"]`))
	steps(t, p.Click("by hand"), p.Gone(`.cm-line[data-line="66"]`))
	// the choice is remembered, and an address says otherwise
	steps(t, p.Open("/r/1/read?path=collector/main.go"), p.Visible(`.skim .pick[aria-pressed="true"]`))
	chosen, err := p.Text(`.skim .pick[aria-pressed="true"]`)
	require.NoError(t, err)
	assert.Equal(t, "gist", chosen)
	// lines that are gone to are opened, and nothing is called made by hand
	steps(t, p.Open(sampler+"&lines=66-67"), p.Visible(`.cm-in[data-line="66"]`), p.Visible(`.cm-in[data-line="67"]`), p.SeeNot("by hand"))
}

// Everything by keys: no click, and no focus but what keys give.
func TestTheDeskByKeysAlone(t *testing.T) {
	p := desk(t)
	steps(t, p.Open(sampler+"&skim=whole"), p.Visible(`.cm-line[data-line="20"]`))
	steps(t, p.Press("?"), p.See("Keys that work here"), p.See("open all, and go back"), p.Press(kb.Escape), p.SeeNot("Keys that work here"))
	steps(t, p.Press("o"), p.Visible(`.outline input:focus`), p.Press(kb.Backspace+"sT"), p.Press(kb.Enter), p.Visible(`.cm-in[data-line="41"]`))
	// down from line 41 to 46, to the third name on it
	steps(t, p.Press("l"))
	for range 5 {
		steps(t, p.Press(kb.ArrowDown))
	}
	steps(t, p.Visible(`.cm-in[data-line="46"]`), p.Press(kb.ArrowRight), p.Press(kb.ArrowRight), p.Press(kb.ArrowRight), p.Press(kb.Enter), p.Visible(`.definition .source`),
		p.See("The float knocks against its tube in a swell. One sample says little; the"))
	// there, and back
	steps(t, p.Press("g"), p.Visible(`.cm-in[data-line="10"]`), p.Back())
	steps(t, p.Visible(`.definition .source`), p.Press("u"), p.See("calls"), p.Press(kb.Escape), p.Gone(`.name h2`), p.Press(kb.Escape), p.Gone(`.definition`))
	// quiet, and not
	steps(t, p.Press("q"), p.Gone(`.side`), p.Press("q"), p.Visible(`.side`))
	// the browser's own finding misses lines that are folded away; ours opens them
	steps(t, p.Press("-"), p.Press("-"), p.Press("-"), p.Press("-"), p.Press("-"), p.Press("f"), p.Visible(`.main .find input:focus`), p.Press("s"), p.Visible(`.cm-line[data-line="1"] .cm-hit-here`),
		p.Press("ettle_ms"), p.See("1 of 2"), p.Visible(`.cm-line[data-line="16"] .cm-hit-here`), p.Press(kb.Escape), p.Gone(`.main .find`))
	// the same place at another commit
	steps(t, p.Press("t"), p.See("The same place at another commit"))
}

func TestADefinitionOfAForwarderIsItsRealBody(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/read?path=firmware/self_test.c&lines=24&name=24.10"), p.Visible(`.definition .source`), p.See("only hands its call on"), p.Visible(`.definition .chain`), p.See("firmware/crc16.c:"))
	steps(t, p.Click("show the forwarder itself"), p.See("show the real body"))
}

func TestAPairIsComparedAndAligned(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/read?path=firmware/port/serial_unix.c"), p.See("port_send_frame"), p.Press("b"), p.See("its twin"), p.Click("firmware/port/serial_win.c"), p.Visible(`.cm-mergeView`), p.See("difference 1 of"))
	steps(t, p.Press("n"), p.See("difference 2 of"), p.Press("p"), p.See("difference 1 of"))
	steps(t, p.See("Symbols side by side"), p.See("port_send_frame"), p.See("15 : 8"))
	steps(t, p.Click("apart"), p.See("scroll together"), p.Visible(`.apart .cm-line`), p.Click("compared"), p.Visible(`.cm-mergeView`))
	// two states of one file, the older at the left whichever was asked for
	steps(t, p.Open("/r/1/pair?path=firmware/sampler.c&beside_at=v1.0.0"), p.Visible(`.cm-mergeView`), p.See("older"), p.See("newer"))
	left, err := p.Text(`.pair header .of:first-child`)
	require.NoError(t, err)
	assert.Contains(t, left, "12 Dec 2024")
	steps(t, p.Open("/r/1/pair?path=firmware/sampler.c&beside=docs/img/gauge.png"), p.See("It cannot be compared line by line."))
	steps(t, p.Open("/r/1/pair?path=firmware/sampler.c&beside=nowhere.c"), p.See("not in commit"))
}

func TestAnExtractIsReadTakenAndPlanned(t *testing.T) {
	p := desk(t)
	steps(t, p.Open(sampler+"&lines=41&name=41.5"), p.Visible(`.definition`), p.Press("x"), p.See("with everything of this repository that it needs"), p.See("take_median"), p.See("named by"))
	steps(t, p.Open("/r/1/extract?path=firmware/sampler.c&name=41.5&depth=1"), p.See("Left out by the limits"), p.See("median_of"))
	steps(t, p.Open("/r/1/extract?path=firmware/sampler.c&name=1.0"), p.See("stands no name of a symbol"))
	steps(t, p.Open("/r/1/extract?path=firmware/sampler.c&name=41.5"), p.See("take_median"), p.Press("a"), p.See("Add to the plan"), p.Fill("new-plan", "By pieces"), p.Click("Add passage"), p.See("Added to “By pieces”"))
	steps(t, p.Open("/r/1/plans/1"), p.See("passage 1 of 1"), p.See("extract of firmware/sampler.c:41"), p.See("named by"))
	// a file that is shown within a budget, as a passage
	steps(t, p.Open("/r/1/read?path=firmware/main.c&skim=12"), p.Visible(`.skim`), p.Visible(`.cm-fold`), p.Press("a"), p.Click("Add passage"), p.See("Added to"))
	steps(t, p.Open("/r/1/plans/1"), p.See("passage 1 of 2"), p.Press("n"), p.See("passage 2 of 2"), p.See("most telling of"), p.Visible(`.cm-fold`), p.Click("show all"), p.Gone(`.cm-fold`))
}

func TestATextIsFoundInTheRepository(t *testing.T) {
	p := desk(t)
	steps(t, p.Press("/"), p.Visible(`.box input:focus`), p.Press(kb.Backspace+"settle_ms"), p.See("Lines that hold “settle_ms”"), p.Press(kb.Enter), p.See("lines in"), p.See("firmware/clock.c"))
	steps(t, p.Click("settle_ms(1000);"), p.Visible(`.cm-in[data-line="44"]`))
	steps(t, p.Open("/r/1/search?text=nowhere+to+be+found"), p.See("No text file of the pin holds it as it is typed"))
}

func TestAssetsAreShownWithWhoRefersToThem(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/read?path=docs/img/gauge.png"), p.Visible(`.asset img`), p.See("pixels"), p.See("Who refers to it"), p.See("README.md:"))
	steps(t, p.Open("/r/1/read?path=docs/stations.csv"), p.See("A table of 3 rows and 4 columns"), p.See("Outer Perch"), p.Press("v"), p.Visible(`.cm-line[data-line="4"]`))
	steps(t, p.Open("/r/1/read?path=docs/curve.svg"), p.Visible(`.asset img`), p.Press("v"), p.Visible(`.cm-line[data-line="1"]`), p.See("http://www.w3.org/2000/svg"))
	steps(t, p.Open("/r/1/read?path=README.md"), p.Visible(`.markdown h1`), p.Press("v"), p.Visible(`.cm-line[data-line="1"]`))
}

func TestLinesAreFollowedToAnotherCommit(t *testing.T) {
	p := desk(t)
	steps(t, p.Open(sampler+"&lines=46"), p.Visible(`.cm-in[data-line="46"]`), p.Press("t"), p.See("The same place at another commit"), p.ClickAt(`[aria-label="A tag, a branch or a commit id"]`), p.Press("v1.2.0"), p.Press(kb.Enter), p.See("not at the pin"))
	steps(t, p.Press("t"), p.ClickAt(`[aria-label="A tag, a branch or a commit id"]`), p.Press("nowhere"), p.Press(kb.Enter), p.Visible(`dialog .fault`))
	steps(t, p.Open(sampler+"&lines=46"), p.Visible(`.cm-in[data-line="46"]`), p.Press("e"), p.See("Your own editor"), p.ClickAt(`[aria-label="Address pattern of your editor"]`), p.Press("javascript:alert({path})"), p.See("This scheme opens no editor."))
}
