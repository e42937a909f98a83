package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A reader narrows an outline and jumps, by keys alone once the file is open.
func TestAReaderFindsAFunctionByItsInitials(t *testing.T) {
	p := desk(t)
	steps(t, p.See("What is unfinished"), p.See("parsed"))

	steps(t, p.Open("/r/1/read?path=firmware/sampler.c"), p.See("sampler_self_check"), p.Press("i"), p.See("What it imports"), p.See(`"median.h"`), p.See("known to be wrong"))
	steps(t, p.Press("o"), p.Visible(`.outline input:focus`), p.Press(kb.Backspace+"sSC"), p.Visible(`[aria-label="function sampler_self_check, public, line 64"]`))
	n, err := p.Count(`[role="treeitem"]`)
	require.NoError(t, err)
	assert.Equal(t, 1, n, "nothing else matches")
	steps(t, p.Press(kb.Enter), p.Visible(`.cm-in[data-line="64"]`), p.Visible(`[role="treeitem"].here`))
	steps(t, p.Press("o"), p.Visible(`.outline input:focus`), p.Press(kb.Escape), p.Visible(`[aria-label="function take_median, private, line 10"]`))

	steps(t, p.Click("public"), p.Gone(`[aria-label="function take_median, private, line 10"]`), p.Visible(`[aria-label="function sampler_init, public, line 30"]`))
	// it stays narrowed in the next file, says so, and is cleared by a click
	steps(t, p.Open("/r/1/read?path=firmware/sampler.c"), p.Click("public"), p.Press("/"), p.Visible(`.box input:focus`), p.Press(kb.Backspace+"median.c"), p.See("firmware/median.c"), p.Press(kb.Enter),
		p.Visible(`[aria-label^="function median_of"]`), p.Visible(`.kinds [aria-pressed="true"]`), p.Click("show all"), p.Gone(`.kinds [aria-pressed="true"]`))
	// what has no outline says why, what is lexed has one all the same
	steps(t, p.Open("/r/1/read?path=schema/001_stations.sql"), p.Visible(`[aria-label="class station, , line 2"]`), p.See("read by token rules"))
	steps(t, p.Open("/r/1/read?path=predict/marshtide/__init__.py"), p.See("names nothing in this file"))
	steps(t, p.Open("/r/1/read?path=firmware/sampler.c&at=v1.0.0"), p.See("not at the pin"), p.See("C names nothing in this file"))
}
