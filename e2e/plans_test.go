package e2e

import (
	"fmt"
	"syscall"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
)

// joined is somebody with a part in the first repository.
func joined(t *testing.T, keeper *browser.Page, s *served, name, role string) *browser.Page {
	t.Helper()
	token, err := browser.Ask[string](keeper, fmt.Sprintf(`fetch('/api/repositories/1/invitations', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({role: %q})}).then((a) => a.json()).then((x) => x.token)`, role))
	require.NoError(t, err)
	p := page(t, s)
	steps(t, p.Open("/invitation/"+token), p.See("Join"), p.Fill("name", name), p.Fill("email", name+"@example.test"), p.Fill("password", password), p.Click("Make an account and join"), p.See("In short"))
	return p
}

// Two write one plan at once; it is published, followed by two who see each
// other; a question is answered into it; the next edition is taken with what was
// done, done.
func TestAPlanIsComposedByTwoAndGuidesTwo(t *testing.T) {
	ona, s := deskOn(t)
	tam := joined(t, ona, s, "Tam", "writer")
	kip, liv := joined(t, ona, s, "Kip", "reader"), joined(t, ona, s, "Liv", "reader")

	steps(t, ona.Open("/r/1/plans"), ona.Fill("plan-title", "Where readings go"), ona.Click("Begin"), ona.Click("Add a chapter"), ona.Visible(`[aria-label="Title of chapter I"]`))
	for _, x := range []struct{ path, title string }{{"firmware/sampler.c", "the sampler"}, {"firmware/frame.c", "the frame"}, {"collector/ingest/link.go", "the link"}} {
		steps(t, ona.Open("/r/1/read?path="+x.path), ona.Visible(".head .facts"), ona.Press("a"), ona.See("Add to the plan"), ona.Fill("title", x.title), ona.Fill("purpose", "what "+x.title+" does"), ona.Click("Add passage"), ona.See("Added to"))
	}
	// both write: each sees the other, and what the other does
	steps(t, ona.Open("/r/1/plans/1/compose"), ona.See("the link"), tam.Open("/r/1/plans/1/compose"), tam.See("the link"))
	steps(t, tam.ClickAt(".passage:nth-child(1)"), tam.Visible(`[name="passage-text"]`), ona.Visible(`.passage:nth-child(1) .who b`))
	steps(t, ona.ClickAt(".passage:nth-child(1)"), ona.Visible(`[name="passage-text"]`))
	steps(t, tam.Fill("passage-text", "Follow the frame from here."), tam.PressWith(kb.Enter, chromedp.ModifierCtrl), ona.Holds("passage-text", "Follow the frame from here."))
	// both change one text in different places: both changes are in it, and nobody is asked
	steps(t, tam.Fill("passage-purpose", "what the sampler does at night"), ona.Holds("passage-purpose", "at night"))
	steps(t, tam.PressWith(kb.Enter, chromedp.ModifierCtrl), ona.ClickAt(`[name="passage-purpose"]`), ona.Press(kb.Home))
	for range len("what the ") {
		steps(t, ona.Press(kb.ArrowRight))
	}
	steps(t, ona.Press("old "), tam.ClickAt(`[name="passage-purpose"]`), tam.Press(kb.End), tam.Press(" long"))
	steps(t, ona.Holds("passage-purpose", "what the old sampler does at night long"), tam.Holds("passage-purpose", "what the old sampler does at night long"))
	asked, err := ona.Count(`[role="alert"] q`)
	require.NoError(t, err)
	assert.Zero(t, asked)

	// needs, problems, an idea
	steps(t, ona.Click("Ideas"), ona.Fill("new-idea", "frame"), ona.Press(kb.Enter), ona.Visible(`[name="idea-text"]`), ona.Fill("idea-text", "Twelve bytes."), ona.Press(kb.Tab))
	steps(t, ona.Click("Problems none"), ona.See("Nothing is wrong"))
	steps(t, ona.Fill("plan-budget", "1"), ona.Press(kb.Tab), ona.See("longer than its readers have"), ona.Click("Undo"), ona.See("Nothing is wrong"))
	steps(t, ona.Click("Publish …"), ona.Fill("edition-note", "first"), ona.Click("Publish edition 1"), ona.See("as in edition 1"))

	// two follow it, and see where the other is as far as it is shown
	steps(t, kip.Open("/r/1/plans/1"), kip.See("passage 1 of 3"), kip.See("Follow the"), liv.Open("/r/1/plans/1"), liv.See("passage 1 of 3"))
	steps(t, kip.Settle(), liv.Settle(), liv.Click("show others where I am"), liv.Press("n"), liv.See("passage 2 of 3"), kip.See("here now: Liv in 2"))
	steps(t, liv.Press("s"), liv.Fill("skip-reason", "I wrote it"), liv.Press(kb.Enter), liv.See("passage 3 of 3"), kip.See("here now: Liv in 3"))

	// a question goes to the writers, the answer comes into the plan
	steps(t, kip.Press("q"), kip.Fill("question", "How long is a frame?"), kip.Click("ask"), kip.See("Whoever writes plans here is told"))
	steps(t, tam.Open("/r/1/notes?yours=mentioned"), tam.See("How long is a frame?"), tam.Click("reply"), tam.Fill("reply", "Twelve bytes, always."), tam.Click("send"), kip.See("Twelve bytes, always."))
	steps(t, tam.Click("this answers it"), tam.Click("put it into the passage’s text"), tam.See("readers see it with the next edition"))
	steps(t, kip.Press("n"), kip.See("passage 2 of 3"))
	steps(t, ona.Open("/r/1/plans/1/compose"), ona.See("1 out"), ona.ClickAt(".passage:nth-child(1)"), ona.Holds("passage-text", "Twelve bytes, always."))
	steps(t, ona.ClickAt(".passage:nth-child(3)"), ona.Visible(".passage:nth-child(3).at"), ona.Press(kb.Delete), ona.See("is removed"))
	steps(t, ona.Click("Publish …"), ona.See("2 changes"), ona.Fill("edition-note", "the answer"), ona.Click("Publish edition 2"), ona.See("as in edition 2"))
	steps(t, kip.See("Edition 2 is there"), kip.See("passage 2 of 3"), kip.Click("2 changes"), kip.See("the answer"), kip.Click("take it"), kip.See("passage 2 of 2"), kip.Press("c"), kip.Visible(".box.done"))
	done, err := kip.Count(".box.done")
	require.NoError(t, err)
	assert.Equal(t, 1, done, "what was done stays done")
	steps(t, kip.Press(kb.Escape), kip.Gone(`[aria-label="Contents of the plan"]`), kip.Press("b"), kip.See("Twelve bytes, always."))
	// the old edition stays to be read
	steps(t, liv.Open("/r/1/plans/1?edition=1"), liv.See("of 3"))
}

// TestADraftOutlivesTheServer: what is done while the server is away is kept, and
// sent when it is back.
func TestADraftOutlivesTheServer(t *testing.T) {
	database, data := copied(t)
	s := serve(t, database, data, "127.0.0.1:0", "--roots", begun.roots)
	p := onaOn(t, s)
	steps(t, p.Open("/r/1/plans"), p.Fill("plan-title", "Tough"), p.Click("Begin"), p.Click("Add a chapter"), p.Visible(`[aria-label="Title of chapter I"]`), p.See("only writers see it"))
	listen := s.base[len("http://"):]
	s.stop(syscall.SIGKILL)
	steps(t, p.Click("Add a chapter"), p.Visible(`[aria-label="Title of chapter II"]`), p.See("not saved yet"))
	s = serve(t, database, data, listen, "--roots", begun.roots)
	steps(t, p.See("only writers see it"), p.Open("/r/1/plans/1/compose"), p.Visible(`[aria-label="Title of chapter II"]`))
}

// TestAPlanByKeysAlone composes and follows a plan without a pointer.
func TestAPlanByKeysAlone(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/read?path=firmware/sampler.c"), p.Visible(".cm-line"), p.Press("a"), p.See("Add to the plan"), p.Visible(`[name="title"]:focus`), p.Press(kb.Enter), p.See("Added to “Where to begin”"))
	steps(t, p.Open("/r/1/read?path=firmware/frame.c"), p.Visible(".cm-line"), p.Press("a"), p.Visible(`[name="title"]:focus`), p.Press(kb.Enter), p.SeeNot("Add to the plan"))
	steps(t, p.Open("/r/1/read?path=README.md"), p.See("Marshgauge"), p.Press("a"), p.Visible(`[name="title"]:focus`), p.Press(kb.Enter), p.SeeNot("Add to the plan"))
	order := func() string {
		text, err := browser.Ask[string](p, `[...document.querySelectorAll('.passage .what b')].map((x) => x.textContent).join(' ')`)
		require.NoError(t, err)
		return text
	}
	steps(t, p.Open("/r/1/plans/1/compose"), p.See("README.md"), p.Press(kb.ArrowDown), p.Visible(".passage:nth-child(1).at"))
	steps(t, p.PressWith(kb.ArrowDown, chromedp.ModifierShift), p.Visible(".passage:nth-child(2).chosen"), p.See("2 passages, "))
	steps(t, p.PressWith(kb.ArrowDown, chromedp.ModifierAlt), p.Visible(".passage:nth-child(3).chosen"))
	assert.Equal(t, "README.md sampler.c frame.c", order(), "two are moved together")
	steps(t, p.PressWith("z", chromedp.ModifierCtrl), p.Visible(".passage:nth-child(1).chosen"))
	assert.Equal(t, "sampler.c frame.c README.md", order(), "and taken back together")
	steps(t, p.PressWith("y", chromedp.ModifierCtrl), p.Visible(".passage:nth-child(3).chosen"))
	assert.Equal(t, "README.md sampler.c frame.c", order())
	// a chapter begins with what is at hand; a title is written
	steps(t, p.Press(kb.ArrowUp), p.Visible(".passage:nth-child(2).at"), p.Press("x"), p.Visible(`[aria-label="Title of chapter II"]`))
	steps(t, p.Press(kb.Enter), p.Visible(`[name="passage-title"]:focus`), p.PressWith("a", chromedp.ModifierCtrl), p.Press("by hand"), p.Press(kb.Enter), p.Press(kb.Escape), p.See("by hand"))
	steps(t, p.Open("/r/1/plans/1"), p.See("passage 1 of 3"), p.Press("n"), p.See("passage 2 of 3"), p.See("by hand"), p.Press(kb.ArrowRight), p.See("passage 3 of 3"), p.Press(kb.ArrowLeft), p.See("passage 2 of 3"), p.Press("n"), p.Press("n"), p.See("You have reached the end"))
}
