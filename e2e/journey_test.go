package e2e

import (
	"path/filepath"
	"syscall"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/demo"
	"juxtagram/localpg/pgtest"
)

// TestOnePersonMakesAPlanAndAnotherFollowsIt is the main job, end to end: take
// in a repository, make a plan of five passages from leads and files, share
// it; another follows it, resumes after a restart, and comes to the end.
func TestOnePersonMakesAPlanAndAnotherFollowsIt(t *testing.T) {
	roots := t.TempDir()
	source := filepath.Join(roots, "marshgauge.git")
	require.NoError(t, demo.Build(t.Context(), source))
	database, data := pgtest.URL(t), t.TempDir()
	s := serve(t, database, data, "127.0.0.1:0", "--roots", roots)
	ona := page(t, s)

	// the first account, and a repository from a folder
	steps(t, ona.Open("/"), ona.See("Make the first account"),
		ona.Fill("name", "Ona Writer"), ona.Fill("email", "ona@example.test"), ona.Fill("password", password), ona.Click("Make the account"),
		ona.See("Nothing stands here yet"), ona.Click("Take in a repository"), ona.Click("A folder of the server"),
		ona.Fill("folder", source), ona.Click("Take it in"),
		// the newest release is suggested
		ona.See("Choose what everyone reads"), ona.See("the newest release"), ona.Click("Pin here and survey"),
		ona.See("Where it starts"), ona.See("What is unfinished"), ona.See("tide gauges along a marsh coast"))

	// five passages: two leads, lines of a file, a whole file, a folder
	steps(t, ona.Click("Leads"), ona.See("What was found"), ona.Click("FIXME"), ona.See("longer below 2 C"))
	add := func(title string) {
		t.Helper()
		steps(t, ona.Press("a"), ona.See("Add to the plan"), ona.Fill("title", title), ona.Fill("purpose", "Look for what "+title+" tells."), ona.Click("Add passage"), ona.See("Added to"), ona.SeeNot("Add to the plan"))
	}
	steps(t, ona.Press("a"), ona.See("Add to the plan"), ona.Fill("new-plan", "Where to begin here"), ona.Fill("title", "first passage"), ona.Click("Add passage"), ona.See("Added to “Where to begin here”"))
	steps(t, ona.Press(kb.ArrowDown))
	add("second passage")
	steps(t, ona.Open("/r/1/read?path=collector/ingest/link.go"), ona.See("type Link struct"), ona.ClickAt(`[aria-label="Line 30"]`), ona.Visible(`.cm-in[data-line="30"]`))
	steps(t, ona.Press(kb.ArrowDown), ona.Visible(`.cm-in[data-line="31"]`)) // from the line that was clicked
	add("third passage")
	steps(t, ona.Open("/r/1/read?path=firmware/frame.c"), ona.See("void frame_pack"))
	add("fourth passage")
	steps(t, ona.Open("/r/1/read?folder=predict/marshtide"), ona.See("harmonics.py"))
	add("fifth passage")

	// in the composer: order by keys, undo, a text
	steps(t, ona.Open("/r/1/plans/1/compose"), ona.See("fifth passage"), ona.Press(kb.ArrowDown), ona.Visible(`[name="passage-title"]`))
	steps(t, ona.PressWith(kb.ArrowDown, chromedp.ModifierAlt), ona.Visible(`.passage:nth-child(2).at`))
	first, err := ona.Text(".passage:first-child b")
	require.NoError(t, err)
	assert.Equal(t, "second passage", first, "moved by keys")
	steps(t, ona.PressWith("z", chromedp.ModifierCtrl), ona.Visible(`.passage:nth-child(1).at`))
	steps(t, ona.Click("Publish …"), ona.See("The first edition"), ona.Fill("edition-note", "for Kip"), ona.Click("Publish edition 1"), ona.See("as in edition 1"))

	// an invitation
	steps(t, ona.Open("/r/1/settings"), ona.See("Invite by link"), ona.Click("Make a link"), ona.Visible(`[aria-label="Invitation link"]`))
	link, err := ona.Value(`[aria-label="Invitation link"]`)
	require.NoError(t, err)

	// somebody else follows it
	kip := page(t, s)
	steps(t, kip.Open(link), kip.See("Join marshgauge"), kip.Fill("name", "Kip Reader"), kip.Fill("email", "kip@example.test"), kip.Fill("password", password),
		kip.Click("Make an account and join"), kip.See("Where it starts"), kip.Open("/r/1/plans/1"), kip.See("passage 1 of 5"), kip.See("first passage"))
	steps(t, kip.Press("n"), kip.See("passage 2 of 5"), kip.Press("n"), kip.See("passage 3 of 5"), kip.Visible(`.cm-in[data-line="31"]`))
	lines, err := kip.Count(".cm-line.cm-in")
	require.NoError(t, err)
	assert.Equal(t, 1, lines, "exactly the pinned line is marked")

	// the server ends and comes back: the reader goes on where it was
	listen := s.base[len("http://"):]
	s.stop(syscall.SIGINT)
	s = serve(t, database, data, listen, "--roots", roots)
	steps(t, kip.Open("/r/1/plans/1"), kip.See("passage 3 of 5"), kip.Press("b"), kip.See("passage 2 of 5"), kip.Press(kb.ArrowRight), kip.See("passage 3 of 5"),
		kip.Press("n"), kip.See("passage 4 of 5"), kip.Press("n"), kip.See("passage 5 of 5"), kip.See("harmonics.py"), kip.Press("n"),
		kip.See("You have reached the end"), kip.See("5 of 5 passages done"))

	// and the writer's own progress is untouched
	steps(t, ona.Open("/r/1/plans"), ona.See("not begun"))
}

func TestAPlanChangesUnderTheEyesOfOthers(t *testing.T) {
	a, s := deskOn(t)
	b := page(t, s)
	steps(t, a.Open("/r/1/plans"), a.Fill("plan-title", "Shared way"), a.Click("Begin"), a.Click("Add a chapter"), a.Visible(`[aria-label="Title of chapter I"]`))
	steps(t, b.SignIn("ona@example.test", password), b.Open("/r/1/plans/1/compose"), b.Visible(`[aria-label="Title of chapter I"]`))
	steps(t, a.Click("Add a chapter"), a.Visible(`[aria-label="Title of chapter II"]`), b.Visible(`[aria-label="Title of chapter II"]`))
}

func TestWhatGoesWrongIsTold(t *testing.T) {
	roots := t.TempDir()
	s := serve(t, pgtest.URL(t), t.TempDir(), "127.0.0.1:0", "--roots", roots)
	p := page(t, s)
	steps(t, p.Open("/"), p.Fill("name", "Ona"), p.Fill("email", "ona@example.test"), p.Fill("password", password), p.Click("Make the account"), p.See("The shelf"))
	steps(t, p.Open("/r/99"), p.See("This repository does not open"), p.Open("/nowhere"), p.See("There is nothing at this address"))
	steps(t, p.Open("/take-in"), p.Fill("address", "ext::sh -c x"), p.Click("Take it in"), p.See("not an address"))
	steps(t, p.Click("A folder of the server"), p.Fill("folder", "/etc"), p.Click("Take it in"), p.See("could not be taken in"), p.See("not below the folders that may be read here"))
	steps(t, p.Click("Remove it"), p.See("Remove this repository"), p.Settle(), p.Click("Remove this repository"), p.See("Type its name"))
}
