package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A newcomer reads what the repository is in short, opens a citation, asks what
// a name means by keys alone, and follows it to its definition.
func TestANewcomerFollowsANameToItsDefinition(t *testing.T) {
	p := desk(t)
	steps(t, p.See("In short"), p.See("A small network of tide gauges along a marsh coast."))
	steps(t, p.Click("README.md:3"), p.Visible(`.cm-in[data-line="3"]`))

	// what a file leans on and does, each line opened by its citation
	steps(t, p.Open("/r/1/read?path=collector/main.go&lines=27"), p.Visible(`.cm-in[data-line="27"]`), p.Press("i"), p.See("decided at collector/main.go:19"), p.See("collector/store/memory.go"), p.See("standard library"), p.See("What it does to the outside"))

	// three names to the right on the line at hand: readings, store, NewMemory
	steps(t, p.Press("l"), p.Press(kb.ArrowRight), p.Press(kb.ArrowRight), p.Press(kb.ArrowRight), p.Press(kb.Enter), p.Visible(`.definition .source`), p.See("NewMemory is an empty store."))
	steps(t, p.Press("u"), p.See("certain: imported from there"), p.Visible(`.name .site`))
	n, err := p.Count(`.name .site`)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, n, 3, "its uses")
	steps(t, p.Press(kb.Escape), p.Gone(`.name .site`), p.Press(kb.Escape), p.Gone(`.definition`)) // the card, then the definition

	// a click asks the same, and the answer can be sent: it stands in the address
	steps(t, p.Open("/r/1/read?path=collector/main.go&lines=27&name=27.19"), p.Visible(`.definition .source`), p.Click("collector/store/memory.go:22"), p.Visible(`.cm-in[data-line="22"]`))

	steps(t, p.Open("/r/1/read?path=collector/main.go"), p.ClickAt(`[data-line="28"] .c-name`), p.See("NewWatch"), p.See("collector/alarm/alarm.go:"))

	// a name of the standard library, and a place that holds none
	steps(t, p.Open("/r/1/read?path=collector/main.go&lines=37&name=37.16"), p.See("standard library"))
	steps(t, p.Open("/r/1/read?path=collector/main.go&name=2.0"), p.See("no name stands at collector/main.go:2"))
	// twins, and the types of C told as what they are
	steps(t, p.Open("/r/1/read?path=firmware/port/serial_unix.c"), p.See("port_send_frame"), p.Press("i"), p.See("Twins"), p.See("serial_win.c"))
}
