package e2e

import (
	"bytes"
	"image"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
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
	steps(t, p.Open("/r/1/leads/tagged?by=age"), p.Click("kept lists"), p.Click("Keep this list"), p.Fill("view", "by age"), p.Press(kb.Enter), p.Open("/r/1/leads/tagged"), p.Click("kept lists (1)"), p.Click("by age"))
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
	steps(t, p.Click("later"), p.Open("/r/1/notes"), p.Click("a text of yours is not saved yet"), p.See("lines 20-22 of collector/ingest/link.go"), p.Click("Save"), p.See("1 thread"), p.See("#buffers"))
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

// A picture and a file go with a text, two changes of one text are put together,
// and a commit follows the thread up.
func TestATextWithPicturesIsWorkedOnByTwo(t *testing.T) {
	p, s := deskOn(t)
	dir := t.TempDir()
	var drawn bytes.Buffer
	require.NoError(t, png.Encode(&drawn, image.NewGray(image.Rect(0, 0, 64, 48))))
	tide, liar := filepath.Join(dir, "tide.png"), filepath.Join(dir, "photo.png")
	require.NoError(t, os.WriteFile(tide, drawn.Bytes(), 0o600))
	require.NoError(t, os.WriteFile(liar, []byte("<!DOCTYPE html><script>document.title = 'taken'</script>"), 0o600))
	steps(t, p.Open("/r/1/read?path=collector/ingest/link.go&lines=20-22"), p.Visible(".cm-line"), p.Press("r"), p.Fill("note", "How it looks at Saltern: "))
	steps(t, p.Attach("note-files", tide), p.Visible(`textarea[name="note"]`))
	steps(t, p.Attach("note-files", liar), p.See("its name ends in .png, but by its bytes it is text/html"), p.Click("Save"), p.Visible(".thread img"))
	wide, err := browser.Ask[int](p, `new Promise((done) => { const i = document.querySelector('.thread img'); const tell = () => done(i.naturalWidth); i.complete ? tell() : i.addEventListener('load', tell) })`)
	require.NoError(t, err)
	assert.Equal(t, 64, wide)
	link, err := browser.Ask[string](p, `document.querySelector('.thread a.attached:not(:has(img))').textContent`)
	require.NoError(t, err)
	assert.Equal(t, "photo.png", link)

	other := page(t, s)
	steps(t, other.SignIn("ona@example.test", password), other.Open("/r/1/notes"), other.Click("reply"), other.Fill("reply", "The tide.\n\nIt comes twice a day."), other.Click("send"), p.See("It comes twice a day."))
	const edit = ".thread .note + .note .own button"
	steps(t, other.ClickAt(edit), p.ClickAt(edit))
	steps(t, other.Fill("edit", "The tide.\n\nIt comes twice a day, or once."), other.Click("save"), other.See("or once"))
	steps(t, p.Fill("edit", "The tide at Saltern.\n\nIt comes twice a day."), p.Click("save"), p.See("The tide at Saltern."))
	steps(t, other.See("The tide at Saltern."), other.See("It comes twice a day, or once."))

	steps(t, other.Click("link a commit"), other.Fill("follow-up", "NOISE"), other.Visible(`.ant-select-item-option[title*="Find frames in noise"]`), other.SeeNot("Count repeats"), other.Press(kb.ArrowDown), other.Press(kb.Enter), other.See("followed up by"))
	steps(t, p.See("Find frames in noise"), p.ClickAt(".follow a"), p.See("written by"), p.See("The tide at Saltern."))
}

// A note that stands at the wrong place is put where it belongs by hand: onto what is
// selected, with the earlier place kept.
func TestAWrongPlaceIsMendedByHand(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/read?path=firmware/sampler.c&lines=45-49"), p.Visible(".cm-line"), p.Press("r"), p.Visible(`[name="note"]:focus, [name="note"] :focus`), p.Press("About the wrong lines"), p.PressWith(kb.Enter, chromedp.ModifierCtrl), p.See("About the wrong lines"))
	steps(t, p.Open("/r/1/notes"), p.See("firmware/sampler.c:45-49"), p.Click("mend its place"), p.See("Where does this belong?"))
	// the sheet stays while one looks for the place
	steps(t, p.ClickAt(".find input"), p.Press("frame.c"), p.See("firmware/frame.c"), p.Press(kb.Enter), p.Visible(".cm-line"), p.Holds("place", "line 1 of firmware/frame.c"))
	_, err := browser.Ask[bool](p, `(() => { const s = document.querySelector('[name="place"]'); s.value = 'the file firmware/frame.c'; return s.dispatchEvent(new Event('change')) })()`)
	require.NoError(t, err)
	steps(t, p.Holds("place", "the file firmware/frame.c"))
	steps(t, p.Click("Place it here"), p.Gone(`[aria-label="Mend the place of a note"]`), p.Open("/r/1/notes"), p.SeeNot("sampler.c:45-49"), p.See("firmware/frame.c"), p.Click("mend its place"), p.See("Earlier places: firmware/sampler.c:45-49"))
}
