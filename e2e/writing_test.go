package e2e

import (
	"strings"
	"syscall"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
)

// planWith has somebody begin a plan with two passages on the demo: plan 1, open in
// the composer at the first.
func planWith(t *testing.T, p *browser.Page) {
	t.Helper()
	steps(t, p.Open("/r/1/plans"), p.Fill("plan-title", "Where readings go"), p.Click("Begin"), p.Click("Add a chapter"), p.Visible(`[aria-label="Title of chapter I"]`))
	for _, path := range []string{"firmware/sampler.c", "firmware/frame.c"} {
		steps(t, p.Open("/r/1/read?path="+path), p.Visible(".cm-line"), p.Press("a"), p.Visible(`[name="title"]:focus`), p.Press(kb.Enter), p.See("Added to"))
	}
	steps(t, p.Open("/r/1/plans/1/compose"), p.See("sampler.c"), p.ClickAt(".passage:nth-child(1)"), p.Visible(`[name="passage-text"]`))
}

// Text of a plan reaches others while it is typed without a pause, and outlives a
// reload in the middle of a word.
func TestTypedTextReachesOthersAndOutlivesAReload(t *testing.T) {
	ona, s := deskOn(t)
	tam := joined(t, ona, s, "Tam", "writer")
	planWith(t, ona)
	steps(t, tam.Open("/r/1/plans/1/compose?"), tam.ClickAt(".passage:nth-child(1)"), tam.Visible(`[name="passage-text"]`))

	steps(t, ona.ClickAt(`[name="passage-text"]`))
	reached := func() bool {
		value, err := tam.Value(`[name="passage-text"]`)
		require.NoError(t, err)
		return strings.Contains(value, "tide ")
	}
	typed := 0
	for ; !reached() && typed < 4000; typed += 5 { // no pause: each round types on
		steps(t, ona.Press("tide "))
	}
	assert.Less(t, typed, 4000, "nothing reaches anybody while one types")

	// in the middle of a word, with nothing saved by hand
	steps(t, ona.Press("and the last wor"), ona.Open("/r/1/plans/1/compose?passage="+passageAt(t, ona)), ona.Holds("passage-text", "and the last wor"), tam.Holds("passage-text", "and the last wor"))

	// a second tab of hers on the same passage: neither writes over the other
	second, err := ona.Beside()
	require.NoError(t, err)
	t.Cleanup(second.Close)
	steps(t, second.Open("/r/1/plans/1/compose"), second.ClickAt(".passage:nth-child(1)"), second.Holds("passage-text", "and the last wor"), second.ClickAt(`[name="passage-text"]`), second.PressWith(kb.Home, chromedp.ModifierCtrl), second.Press("First. "))
	steps(t, ona.ClickAt(`[name="passage-text"]`), ona.PressWith(kb.End, chromedp.ModifierCtrl), ona.Press("d."), ona.Holds("passage-text", "First. tide"), ona.Holds("passage-text", "the last word."), second.Holds("passage-text", "the last word."), tam.Holds("passage-text", "First. tide"))
}

func passageAt(t *testing.T, p *browser.Page) string {
	t.Helper()
	id, err := browser.Ask[string](p, `document.querySelector('.passage.at').dataset.passage`)
	require.NoError(t, err)
	return id
}

// Words that were typed while the server was away and never sent are offered when the
// page is opened again.
func TestWordsTypedWithoutAServerAreOffered(t *testing.T) {
	database, data := copied(t)
	s := serve(t, database, data, "127.0.0.1:0", "--roots", begun.roots)
	p := onaOn(t, s)
	planWith(t, p)
	listen := s.base[len("http://"):]
	// another tab of hers is closed while she types in it
	q, err := p.Beside()
	require.NoError(t, err)
	steps(t, q.Open("/r/1/plans/1/compose"), q.ClickAt(".passage:nth-child(1)"), q.Visible(`[name="passage-text"]`))
	s.stop(syscall.SIGKILL)
	steps(t, q.ClickAt(`[name="passage-text"]`), q.Press("Follow the frame"), q.See("not saved yet"), q.Press(", then the link."))
	q.Close()
	serve(t, database, data, listen, "--roots", begun.roots)
	steps(t, p.Open("/r/1/plans/1/compose"), p.ClickAt(".passage:nth-child(1)"), p.Holds("passage-text", "Follow the frame"))
	steps(t, p.See("it was not saved"), p.Click("Put it back"))
	steps(t, p.Holds("passage-text", "Follow the frame, then the link."), p.See("only writers see it"))
}

// A passage that a colleague removes while one writes in it stays, says who did it,
// and comes back with the words.
func TestAPassageRemovedWhileOneWrites(t *testing.T) {
	ona, s := deskOn(t)
	tam := joined(t, ona, s, "Tam", "writer")
	planWith(t, ona)
	steps(t, tam.Open("/r/1/plans/1/compose"), tam.ClickAt(".passage:nth-child(1)"), tam.Visible(".passage:nth-child(1).at"))
	steps(t, ona.ClickAt(`[name="passage-text"]`), ona.Press("Read this first"))
	steps(t, tam.Press(kb.Delete), tam.See("is removed"), ona.See("Tam removed this passage"))
	// keys go on into the text, none of them acts as a shortcut
	steps(t, ona.Press(" and a slow x."), ona.Holds("passage-text", "Read this first and a slow x."))
	n, err := ona.Count(".list .chapter")
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	steps(t, ona.Click("Bring it back with your words"), ona.SeeNot("Tam removed this passage"), ona.Visible(".passage:nth-child(2)"))
	steps(t, tam.Visible(".passage:nth-child(2)"), tam.ClickAt(".passage:nth-child(1)"), tam.Holds("passage-text", "Read this first and a slow x."))
}

// The same words changed by two: one is asked, by name, and the rest is saved.
func TestTheSameWordsChangedByTwoAreAskedAbout(t *testing.T) {
	ona, s := deskOn(t)
	tam := joined(t, ona, s, "Tam", "writer")
	planWith(t, ona)
	steps(t, ona.Fill("passage-text", "It wakes at noon and sends."), ona.PressWith(kb.Enter, chromedp.ModifierCtrl))
	steps(t, tam.Open("/r/1/plans/1/compose"), tam.ClickAt(".passage:nth-child(1)"), tam.Holds("passage-text", "at noon"))
	status, err := browser.Ask[int](tam, `(async () => {
		// Tam's change arrives while Ona has typed hers and not saved it
		const plan = await (await fetch('/api/repositories/1/plans/1?edition=draft')).json()
		const p = plan.in_order[0].passages[0]
		window.held = () => fetch('/api/repositories/1/plans/1/ops', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({ops: [{client_id: crypto.randomUUID(), op: {kind: 'set-passage', id: p.id, field: 'text', from: p.text, to: 'It wakes at dusk and reports.'}}]})}).then((r) => r.status)
		return plan.in_order.length
	})()`)
	require.NoError(t, err)
	require.Equal(t, 1, status)
	steps(t, ona.ClickAt(`[name="passage-text"]`), ona.PressWith("a", chromedp.ModifierCtrl), ona.Press("It often wakes at dawn and sends."))
	status, err = browser.Ask[int](tam, `held()`)
	require.NoError(t, err)
	if status == 409 { // hers was saved first: his own page asks him then
		t.Skip("the texts crossed the other way")
	}
	steps(t, ona.See("Tam changed the same words"), tam.Holds("passage-text", "It often wakes at dusk and reports."))
	steps(t, ona.Click("Use yours"), tam.Holds("passage-text", "It often wakes at dawn and reports."))
}

// A session that ends while one types: the words stay, and one signs in on the spot.
func TestASessionThatEndsWhileOneTypes(t *testing.T) {
	p, _ := deskOn(t)
	planWith(t, p)
	steps(t, p.ClickAt(`[name="passage-text"]`))
	_, err := browser.Ask[int](p, `fetch('/api/sign-out', {method: 'POST'}).then((r) => r.status)`)
	require.NoError(t, err)
	steps(t, p.Press("The tide gauge"), p.See("Your session has ended"), p.Visible(`[name="again-password"]:focus`))
	steps(t, p.Press(password), p.Press(kb.Enter), p.SeeNot("Your session has ended"), p.Holds("passage-text", "The tide gauge"), p.See("only writers see it"))
	steps(t, p.Open("/r/1/plans/1/compose"), p.ClickAt(".passage:nth-child(1)"), p.Holds("passage-text", "The tide gauge"))
}

// Keys act on the row that has the focus, and on nothing while the focus is elsewhere.
func TestComposerKeysActOnWhatHasTheFocus(t *testing.T) {
	p := desk(t)
	planWith(t, p)
	steps(t, p.ClickAt(".passage:nth-child(1)"), p.Press(kb.ArrowDown), p.Visible(".passage:nth-child(2):focus"), p.Visible(".passage:nth-child(2).at"))
	steps(t, p.Press(kb.ArrowUp), p.Visible(".passage:nth-child(1):focus"))
	// in a tab of the right side, Delete is nobody's
	steps(t, p.ClickAt(`nav.parts button:nth-child(2)`), p.Press(kb.Delete), p.ClickAt(`nav.parts button:nth-child(1)`))
	n, err := p.Count(".list [data-passage]")
	require.NoError(t, err)
	assert.Equal(t, 2, n)
	steps(t, p.ClickAt(".passage:nth-child(2)"), p.Press(kb.ArrowUp), p.Press(kb.Delete), p.See("“sampler.c” is removed"), p.Visible(".passage:nth-child(1).at:focus"), p.See("frame.c"))
}

// Every sheet and dialogue takes the focus, holds it where it is modal, closes by
// Escape, and gives the focus back to where it was.
func TestSheetsTakeHoldAndGiveBackTheFocus(t *testing.T) {
	p := desk(t)
	planWith(t, p)
	const code, named = "/r/1/read?path=firmware/sampler.c&lines=45-49", "/r/1/read?path=collector/main.go&lines=27&name=27.19"
	for _, x := range []struct {
		name, page, ready, first, key, sheet string
		modal                                bool
		typed, lost                          string // what would be lost, and what is asked
	}{
		{"write", code, ".cm-line", "l", "r", `[aria-label="Write beside the code"]`, false, "Why a median of five? a x n", ""},
		{"add", code, ".cm-line", "l", "a", `dialog[aria-label="Add to the plan"]`, true, "?", "What you wrote here"},
		{"beside", code, ".cm-line", "l", "b", `dialog[aria-label="Put beside it"]`, true, "", ""},
		{"at", code, ".cm-line", "l", "t", `dialog[aria-label="The same place at another commit"]`, true, "", ""},
		{"help", code, ".cm-line", "l", "?", `dialog[aria-label="Keys that work here"]`, true, "", ""},
		{"editor", code, ".cm-line", "l", "E", `dialog[aria-label="Your own editor"]`, true, "x", "What you wrote here"},
		{"find", code, ".cm-line", "l", "f", `[role="search"].find`, false, "", ""},
		{"uses", named, ".definition .source", "l", "u", `aside.name`, false, "", ""},
	} {
		t.Run(x.name, func(t *testing.T) {
			steps(t, p.Open(x.page), p.Visible(x.ready), p.Settle())
			steps(t, p.Press(x.first), p.Visible(".cm-content:focus"), p.Press(x.key), p.Visible(x.sheet+":focus-within"))
			if x.modal {
				for range 12 {
					steps(t, p.Press(kb.Tab), p.Visible(x.sheet+":focus-within"))
				}
			}
			if x.typed != "" {
				steps(t, p.Press(kb.Escape), p.Gone(x.sheet), p.Press(x.key), p.Visible(x.sheet+":focus-within"), p.Press(x.typed))
				value, err := browser.Ask[string](p, `document.activeElement.value`)
				require.NoError(t, err)
				assert.Contains(t, value, x.typed, "every key is typed, none acts")
			}
			steps(t, p.Press(kb.Escape))
			if x.lost != "" {
				steps(t, p.See(x.lost), p.Press(kb.Escape), p.SeeNot(x.lost), p.Press(kb.Escape), p.Click("Discard it"))
			}
			steps(t, p.Gone(x.sheet), p.Visible(".cm-content:focus"))
		})
	}
	// the same where a button opens it
	for _, x := range []struct{ name, page, button, sheet string }{
		{"publish", "/r/1/plans/1/compose", `.acts .ant-btn-primary`, `dialog[aria-label="Publish edition 1"]`},
		{"words", "/r/1/leads/tagged", `button[title^="The agreed words"]`, `dialog[aria-label="Words of tagged comments"]`},
		{"rules", "/r/1/leads/tagged", `button[title^="Rules"]`, `dialog[aria-label="Rules that hide tagged comments"]`},
		{"delete", "/r/1/settings", `.ant-btn-dangerous`, `dialog[aria-label^="Remove"]`},
	} {
		t.Run(x.name, func(t *testing.T) {
			steps(t, p.Open(x.page), p.ClickAt(x.button), p.Visible(x.sheet+":focus-within"), p.Press(kb.Tab+kb.Tab+kb.Tab+kb.Tab+kb.Tab+kb.Tab), p.Visible(x.sheet+":focus-within"))
			steps(t, p.Press(kb.Escape), p.Gone(x.sheet), p.Visible(x.button+":focus"))
		})
	}
	steps(t, p.Open("/r/1/leads"), p.Visible(".lead, [role=option], .rows"), p.Settle(), p.Press(kb.ArrowDown), p.Press("s"), p.Visible(`dialog [name="reason"]:focus`), p.Press("seen"), p.Press(kb.Escape), p.See("What you wrote here"), p.Press(kb.Escape), p.PressWith(kb.Enter, chromedp.ModifierCtrl), p.Gone("dialog[open]"))
}
