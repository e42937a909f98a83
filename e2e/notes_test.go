package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
)

// Somebody goes through the loose ends: groups them, reads one in place, sets
// one aside and brings it back, hides others by a rule; and keeps the list.
func TestLooseEndsAreCollected(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/leads"), p.Click("Tagged comments"), p.See("28 tagged comments"), p.See("known to be wrong"))
	// what it says, where it stands, and when it was written
	steps(t, p.See("the scale jumps at midnight"), p.See("written 16 Apr 2026 by Wil Harrow"), p.Visible(".card .excerpt .row.on"))
	steps(t, p.Press(kb.ArrowDown), p.See("longer below 2 C"), p.See("12 months old at the pin"))
	steps(t, p.Press("s"), p.See("Say why"), p.Fill("reason", "tracked as #41"), p.Press(kb.Enter), p.See("27 tagged comments"), p.See("1 lead set aside"))
	steps(t, p.Open("/r/1/leads/tagged?state=aside"), p.See("1 tagged comment"), p.See("“tracked as #41”"), p.Press("o"), p.See("brought back"))
	// narrowed and grouped by what people know of them
	steps(t, p.Open("/r/1/leads/tagged?by=person"), p.See("28 tagged comments"), p.ClickAt(`section[aria-label="Word"] a:nth-of-type(4)`), p.See("11 tagged comments"))
	assert.Contains(t, address(t, p), "word=TODO")
	steps(t, p.Fill("narrow", "gauge"), p.See("fit"), p.Open("/r/1/leads/tagged?state=gone"), p.See("2 tagged comments"), p.See("gone"), p.See("as it stood before it went"))
	// a rule shows what it hides before it does
	steps(t, p.Open("/r/1/leads/tagged"), p.Click("rules"), p.Fill("pattern", "firmware"), p.See("It would hide"), p.Click("Hide"), p.See("hides"))
	steps(t, p.Press(kb.Escape), p.See("hidden by rules"), p.Click("hidden by rules"), p.Click("take away"), p.See("No rule hides anything."))
	steps(t, p.Open("/r/1/leads/tagged?by=age"), p.Click("kept lists"), p.Click("Keep this list"), p.Fill("view", "by age"), p.Click("Keep"), p.Open("/r/1/leads/tagged"), p.Click("kept lists (1)"), p.Click("by age"))
	require.NoError(t, p.Visible(`.head[aria-expanded]`))
	assert.Contains(t, address(t, p), "by=age")
}

// One writes beside the code, another answers without reloading; what is half
// written outlives the page, and what has lost its code is told.
func TestTwoPeopleTalkBesideTheCode(t *testing.T) {
	p, s := deskOn(t)
	steps(t, p.Open("/r/1/notes"), p.See("Nobody has written anything here yet"), p.See("0 without a place at the pin"))
	steps(t, p.Open("/r/1/read?path=collector/ingest/link.go&lines=20-22"), p.See("margin"), p.Visible(".cm-line"), p.Press("r"), p.See("lines 20-22 of collector/ingest/link.go"))
	steps(t, p.Fill("note", "Why is the buffer this long? #buffers @Nobody"), p.See("tells nobody: @Nobody"))
	// another page loses nothing
	steps(t, p.Click("later"), p.Open("/r/1/notes"), p.Click("a text of yours is under way"), p.See("lines 20-22 of collector/ingest/link.go"), p.Click("Save"), p.See("1 thread"), p.See("#buffers"))
	other := page(t, s)
	steps(t, other.SignIn("ona@example.test", password), other.Open("/r/1/notes?tag=buffers"), other.See("Why is the buffer this long?"))
	steps(t, p.ClickAt(".where button"), p.See("margin"), p.See("Why is the buffer this long?"))
	steps(t, other.Click("reply"), other.Fill("reply", "One frame and a half."), other.Click("send"), p.See("One frame and a half."))
	// the delete key in the code takes nothing away; the button asks, and there is a way back
	steps(t, p.ClickAt(".cm-content"), p.Press(kb.Delete), p.Press(kb.Backspace), p.See("One frame and a half."))
	steps(t, p.ClickAt(`.thread .own button:last-of-type`), p.See("Take it away with its replies?"), p.Click("yes, take it away"), p.See("Taken away."), p.Click("Undo"), p.See("One frame and a half."))
	steps(t, other.Click("resolve"), p.See("resolved by Ona"))
	// written at an old release, about a file that is gone since
	steps(t, p.Open("/r/1/read?path=predict/moving_average.py&at=v1.0.0"), p.Visible(".cm-line"), p.Press("r"), p.Fill("note", "Half a window is too late."), p.Click("Save"), p.See("Half a window is too late."))
	steps(t, p.Open("/r/1/notes"), p.See("1 without a place at the pin"), p.Click("without a place at the pin"), p.See("its file was taken away"), p.Click("attach to the folder predict/"), p.See("No thread fits all of this."), p.See("0 without a place at the pin"))
	n, err := browser.Ask[int](p, `document.querySelectorAll('.thread').length`)
	require.NoError(t, err)
	assert.Zero(t, n)
}
