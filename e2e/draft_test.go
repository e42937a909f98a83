package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
)

// minutesOf is what the composer says that a plan takes.
const minutesOf = `document.querySelector('.sum b').textContent`

func TestAPlanIsDraftedChangedByHandAndHalved(t *testing.T) {
	p, _ := deskOn(t)
	steps(t, p.Open("/r/1/plans"), p.Click("two hours"), p.See("A draft of a plan"), p.See("120 min"), p.See("of what holds it together"))
	steps(t, p.Fill("draft-title", "The first two hours"), p.Click("Take all as a new plan"), p.See("Undo takes all of it back"), p.Visible(".passage"), p.Visible(".sum b"))
	sum, err := browser.Ask[string](p, minutesOf)
	require.NoError(t, err)
	assert.Equal(t, "120 min", sum)

	// one is retitled, one taken out: both are decisions
	steps(t, p.ClickAt(".chapter:nth-of-type(2) .passage:nth-child(1)"), p.Visible("[name=passage-title]"), p.Fill("passage-title", "My own words for it"), p.Press(kb.Tab), p.See("My own words for it"))
	const second = `.chapter:nth-of-type(2) .passage:nth-child(2)`
	gone, err := browser.Ask[string](p, `document.querySelector('`+second+`').dataset.passage`)
	require.NoError(t, err)
	steps(t, p.ClickAt(second), p.Visible("[name=passage-title]"), p.Press(kb.Delete), p.Gone(`[data-passage="`+gone+`"]`))

	before, err := browser.Ask[string](p, minutesOf)
	require.NoError(t, err)
	steps(t, p.Click("Draft …"), p.See("A draft for “The first two hours”"), p.Click("1 hour"), p.See("taken out"), p.See("yours: it stays as it is"), p.See("My own words for it"), p.See("that somebody took out: not proposed again"))
	steps(t, p.ClickAt(".take button"), p.See("Undo takes all of it back"), p.See("My own words for it"))
	sum, err = browser.Ask[string](p, minutesOf)
	require.NoError(t, err)
	assert.Equal(t, "60 min", sum)
	// taken back as one
	steps(t, p.PressWith("z", chromedp.ModifierCtrl), p.See(before))
}

func TestWhatAPlanCoversIsDecided(t *testing.T) {
	p, _ := deskOn(t)
	steps(t, p.Open("/r/1/plans/draft?minutes=15"), p.See("15 min"), p.Click("Take all as a new plan"), p.See("Undo takes all of it back"))
	steps(t, p.Click("Coverage"), p.See("read in another plan"), p.Click("Folders"), p.See("not decided yet"), p.Click("set aside …"), p.Fill("aside-reason", "copied from elsewhere"), p.Press(kb.Enter), p.See("set aside: copied from elsewhere"))
	steps(t, p.Click("bring it back"), p.SeeNot("set aside: copied from elsewhere"), p.Click("Undo"), p.See("set aside: copied from elsewhere"))
	steps(t, p.Click("Entry points"), p.Click("add"), p.See("Add to the plan"))
	steps(t, p.Open("/r/1/plans/1"), p.Click("Contents"), p.ClickAt(".covers summary"), p.See("Hotspots"))
	// on the Map: what is not decided yet is marked, and can be narrowed to
	steps(t, p.Open("/r/1/map?covers=open&detail=all"), p.See("undecided"), p.Visible(".line.undecided"), p.See(" of 94 files"), p.ClickAt(".line.file"), p.See("its leads"), p.See("not decided yet"))
}

func TestAPlanIsTakenInFromADocument(t *testing.T) {
	p, _ := deskOn(t)
	steps(t, p.Open("/r/1/plans/draft?minutes=30"), p.See("30 min"), p.Click("Take all as a new plan"), p.See("Undo takes all of it back"))
	text, err := browser.Ask[string](p, `fetch('/api/repositories/1/plans/1/document?edition=draft').then((a) => a.text())`)
	require.NoError(t, err)
	dir := t.TempDir()
	whole, half := filepath.Join(dir, "whole.json"), filepath.Join(dir, "half.json")
	require.NoError(t, os.WriteFile(whole, []byte(strings.Replace(text, `"path": "`, `"path": "../`, 1)), 0o600))
	require.NoError(t, os.WriteFile(half, []byte(text[:len(text)/2]), 0o600))
	steps(t, p.Open("/r/1/plans"), p.Attach("plan-document", half), p.See("It cannot be taken in: it is cut short"))
	steps(t, p.Attach("plan-document", whole), p.See("1 problem"), p.See("leads out of the repository"), p.Click("Take the rest"), p.See("is taken in"), p.Visible(".passage"))
}

// A plan as one page opens from a folder, without a server: it shows the code, leads
// from passage to passage, and fits a phone.
func TestAPlanIsReadFromAFolder(t *testing.T) {
	p, _ := deskOn(t)
	steps(t, p.Open("/r/1/plans/draft?minutes=60"), p.See("60 min"), p.Click("Take all as a new plan"), p.See("Undo takes all of it back"), p.Open("/r/1/plans/1?edition=draft"), p.Click("Contents"), p.Visible(`a[href*="as=html"]`))
	text, err := browser.Ask[string](p, `fetch(document.querySelector('a[href*="as=html"]').href).then((a) => a.text())`)
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "plan.html")
	require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	steps(t, p.Open("file://"+file), p.See("a reading plan"), p.See("60 minutes"), p.Visible(".code .r"), p.Click("2 →"))
	for what, script := range map[string]string{
		"the second passage is shown": `location.hash === '#p2' && Math.abs(document.querySelector('#p2').getBoundingClientRect().top) < 40`,
		"nothing was loaded":          `performance.getEntriesByType('resource').length === 0`,
	} {
		ok, err := browser.Ask[bool](p, script)
		require.NoError(t, err)
		assert.True(t, ok, what)
	}
	steps(t, p.Size(390, 844))
	fits, err := browser.Ask[bool](p, `document.documentElement.scrollWidth <= 390 && getComputedStyle(document.querySelector('.code')).fontSize === '11.5px'`)
	require.NoError(t, err)
	assert.True(t, fits, "a phone shows it without scrolling sideways")
}

// What was written down as Markdown, by hand or by a machine, is taken in like any
// document; what does not keep the conventions is told by its line.
func TestAPlanIsTakenInFromMarkdown(t *testing.T) {
	p, _ := deskOn(t)
	file := filepath.Join(t.TempDir(), "tides.plan.md")
	text := "# How tides travel\n\n## The wire\n\n### The frame\n\n[frame](firmware/frame.h#L7-L11) · 5 min\n\n**After it:** how long it is\n\n### Nowhere\n\nread it all\n"
	require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	steps(t, p.Open("/r/1/plans"), p.Attach("plan-document", file), p.See("1 passage can be taken"), p.See("line 11 “Nowhere”"), p.See("it leads to no code"), p.Click("Take the rest"), p.See("is taken in"), p.Visible(".passage"), p.See("How tides travel"))
}

// pinnedAt pins the repository, and waits until it is surveyed there.
const pinnedAt = `fetch('/api/repositories/1/pin', {method: 'PUT', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({pin: %q})}).then(async (a) => {
	if (!a.ok) throw new Error(await a.text())
	for (;;) {
		const r = await (await fetch('/api/repositories/1')).json()
		if (r.survey === 'complete') return r.pin
		await new Promise((done) => setTimeout(done, 200))
	}
})`

// A plan that was written at one release is brought to a later one: one passage has
// changed, one went on in a renamed file, one is gone; it is one step, taken back as
// one.
func TestAPlanIsBroughtToALaterRelease(t *testing.T) {
	p, _ := deskOn(t)
	old, err := browser.Ask[string](p, fmt.Sprintf(pinnedAt, "v1.1.0"))
	require.NoError(t, err)
	steps(t, p.Open("/r/1/plans"), p.Fill("plan-title", "As it was"), p.Click("Begin"), p.Click("Add a chapter"), p.Visible(`[aria-label="Title of chapter I"]`))
	for _, x := range []struct{ path, title string }{{"predict/moving_average.py", "the averages"}, {"collector/ingest/link.go", "the link"}, {"board/src/curve.ts", "the curve"}} {
		steps(t, p.Open("/r/1/read?path="+x.path), p.Visible(".head .facts"), p.Press("a"), p.See("Add to the plan"), p.Fill("title", x.title), p.Click("Add passage"), p.See("Added to"))
	}
	pin, err := browser.Ask[string](p, fmt.Sprintf(pinnedAt, "v1.4.0"))
	require.NoError(t, err)
	require.NotEqual(t, old, pin)
	steps(t, p.Open("/r/1/plans/1/compose"), p.See("the averages"), p.Click("At the pin"), p.See("3 passages of 3 are read at an older pin"), p.See("1 gone"), p.See("2 changed"), p.See("its file was taken away"), p.See("board/src/tide_curve.ts"), p.See("the difference"))
	steps(t, p.Click("Bring 2 passages to v1.4.0"), p.See("1 passage of 3 is read at an older pin"))
	steps(t, p.Click("Undo"), p.See("3 passages of 3 are read at an older pin"), p.Click("Redo"), p.See("1 passage of 3 is read at an older pin"))
	steps(t, p.Click("take it out"), p.See("All of this plan is read at the pin"))
}
