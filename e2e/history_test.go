package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
)

// address is the address that the page stands at, without the host.
func address(t *testing.T, p *browser.Page) string {
	t.Helper()
	at, err := browser.Ask[string](p, `location.pathname + location.search`)
	require.NoError(t, err)
	return at
}

// Somebody narrows the log without having learnt how, reads a commit, and comes
// back to where they were; by keys alone.
func TestTheLogIsNarrowedReadAndComeBackTo(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/history"), p.See("commits on all branches and tags"), p.See("the pin"), p.See("Point newcomers at the way of a reading"))
	// the field says what can be asked, and offers what is there
	steps(t, p.Press("f"), p.See("What can be asked"), p.See("words in changed lines"), p.Fill("narrow", "oona"), p.Visible(`#log-offers [role=option]`))
	steps(t, p.See("by Oona Fell"), p.Press(kb.Enter), p.Visible(`.term`), p.SeeNot("1.4.0 Tam"))
	steps(t, p.Fill("narrow", "firmware/"), p.See("that touch firmware/log.c"), p.Press(kb.ArrowDown), p.Press(kb.ArrowUp), p.Press(kb.Enter), p.See("that touch firmware/"))
	steps(t, p.See("no lines are drawn between them"), p.Press(kb.Escape))
	assert.Contains(t, address(t, p), "keep=by:Oona+Fell")
	assert.Contains(t, strings.ReplaceAll(address(t, p), "%2F", "/"), "keep=path:firmware/")
	shown := textOf(t, p, ".state")
	assert.Regexp(t, `^\d+ of 206 commits`, shown)
	// a click turns a term round, another takes it away
	steps(t, p.ClickAt(`.says[aria-label="by Oona Fell"]`), p.Visible(`.term.not .says[aria-label="not by Oona Fell"]`), p.ClickAt(`.term.not .away`), p.Gone(`.term.not`))
	steps(t, p.Open("/r/1/history?keep=path:firmware/&keep=by:Oona+Fell"), p.See("of 206 commits"), p.ClickAt(`.row[data-row="4"]`), p.Visible(`.row.on`), p.Press(kb.ArrowDown), p.Visible(`.row.on[data-row="5"]`))
	at := address(t, p)
	steps(t, p.Press(kb.Enter), p.See("held by"), p.See("back to the log"), p.Visible(".diff table"))
	steps(t, p.Press("n"), p.See("change 1 of"), p.Press("v"), p.Visible("table.beside"), p.Press("b"), p.Visible(`.row.on[data-row="5"]`))
	assert.Equal(t, at, address(t, p), "the same place in the log")
}

func TestAnEmptyLogSaysWhyAndHelpsOut(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/history?keep=by:Edda+Sorrel&keep=path:firmware/sampler.c"), p.See("No commit fits all of this together."), p.Click("without “by Edda Sorrel"), p.See("Take a reading when one is due"))
	steps(t, p.Open("/r/1/history?keep=from:someday&keep=tag:v9"), p.See(`"someday" is no date: write a day as 2026-03-01`), p.See(`there is no tag called "v9" here`), p.Click("show all"), p.See("206 commits on all branches and tags"))
	// words in changed lines come as they are found
	steps(t, p.Open("/r/1/history?keep=lines:settle_ms"), p.See("found in the changes of"), p.See("Settle longer, and say why"))
	steps(t, p.Open("/r/1/history?keep=lines:nowhere+at+all"), p.See("No line that was added or taken away holds it"))
}

// The graph has a line for every branch, and the pin stands out.
func TestLanesAreDrawn(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/history"), p.Visible(".row path.trunk"), p.See("winter"))
	sides, err := p.Count(`.row path.side[d^="M"]`)
	require.NoError(t, err)
	assert.Positive(t, sides, "the branch that is not merged has a line of its own")
	steps(t, p.Press("p"), p.Visible(`.row.on.pin`), p.See("first in v1.4.0"))
	steps(t, p.Open("/r/1/history?keep=is:merge"), p.Visible(`.row circle.ring`))
}

// Why is this line here? The wing tells its age, the margin its commit, and
// what stood there before it.
func TestALineTellsWhereItComesFrom(t *testing.T) {
	p := desk(t)
	steps(t, p.Open(sampler+"&lines=47&skim=whole"), p.Visible(".cm-wing .cm-age"), p.See("line 47 ·"), p.See("A flag for cold readings"), p.Visible(".cm-age-same"))
	steps(t, p.Click("before that"), p.See("behind 1 commit"), p.Click("return"), p.SeeNot("behind 1 commit"))
	steps(t, p.Press("h"), p.Gone(".cm-wing .cm-age"), p.SeeNot("line 47 ·"), p.Press("h"), p.Visible(".cm-wing .cm-age"))
	steps(t, p.Open(sampler+"&lines=47&skim=whole"), p.Visible(".cm-wing .cm-age"), p.Press("H"), p.See("The story of firmware/sampler.c"), p.See("Where it changes"))
	// the versions of a file, one after the other, and two of them
	steps(t, p.Visible(`.row.on[data-n="0"]`), p.Press(kb.ArrowDown), p.Visible(`.row.on[data-n="1"]`), p.Press("m"), p.See("marked"), p.Press(kb.ArrowDown), p.Press(kb.ArrowDown), p.See("Two versions"), p.Visible(".diff table"))
	steps(t, p.Open("/r/1/history/story?path=firmware/sampler.c&symbol=take_median"), p.See("7 commits"), p.See("Settle longer, and say why"))
}

func TestHotspotsAndPartnersByTheirRules(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/history/hotspots"), p.See("sampler.c"), p.See("frame.go and frame.c"), p.See("no import explains it"))
	before := textOf(t, p, ".hot > p")
	steps(t, p.Click("a quarter"), p.See("from 14 Jun 2026"), p.SeeNot(before))
	steps(t, p.Click("all time"), p.ClickAt(`.hot .row`), p.See("What moves with sampler.c"), p.Press(kb.ArrowDown), p.See("What moves with frame.go"), p.Press(kb.Enter), p.Visible(".cm-line"))
	steps(t, p.Open("/r/1/history/hotspots"), p.See("(2 left out)"), p.Click("generated"), p.SeeNot("(2 left out)"))
}

func TestWhoToAskIsToldOrTurnedOff(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/history/who?path=levelling"), p.See("Nobody who changed it is still here"), p.See("Edda Sorrel"), p.See("has left: last seen"))
	steps(t, p.Open("/r/1/history/who?path=firmware"), p.See("knows it best now"), p.See("Hardly known"), p.ClickAt(".folder"), p.See("knows it best now"))
	steps(t, p.Click("Turn people's figures off"), p.See("A keeper has turned people's figures off"), p.Open("/r/1/history"), p.See("commits on all branches"), p.SeeNot("Oona Fell"), p.Open("/r/1"), p.See("In short"), p.SeeNot("Tam Reddick"))
	steps(t, p.Open("/r/1/history/who"), p.Click("Turn them on again"), p.See("Who to ask"))
}

func TestTwoReleasesCompared(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/history/compare?from=v1.2.0&to=v1.4.0"), p.See("116 commits ahead of"), p.See("collector/"), p.Click("What the code says"), p.See("sampler_self_check"), p.See("make test"))
	steps(t, p.Click("Lines"), p.Visible(".diff table"), p.Click("Commits"), p.See("Only in v1.2.0"), p.Click("turn round"), p.See("116 commits behind it"))
	steps(t, p.Open("/r/1/history/compare?from=v1.4.0&to=winter"), p.See("2 commits ahead of"), p.See("sim_gauge.py"), p.See("gone"))
}
