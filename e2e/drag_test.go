package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestPassagesAreDraggedIntoOrder(t *testing.T) {
	p := desk(t)
	for i, path := range []string{"README.md", "Makefile", "LICENSE"} {
		steps(t, p.Open("/r/1/read?path="+path), p.Visible(`.head .facts`), p.Press("a"), p.See("Add to the plan"), p.Fill("title", path))
		if i == 0 {
			steps(t, p.Fill("new-plan", "Dragged"))
		}
		steps(t, p.Click("Add passage"), p.See("Added to"))
	}
	order := func() string {
		names := ""
		for _, n := range []string{"1", "2", "3"} {
			text, err := p.Text(`.passage:nth-child(` + n + `) b`)
			require.NoError(t, err)
			names += text + " "
		}
		return names
	}
	steps(t, p.Open("/r/1/plans/1/compose"), p.See("LICENSE"))
	require.Equal(t, "README.md Makefile LICENSE ", order())
	steps(t, p.Drag(`.passage:nth-child(1) .grip`, `.passage:nth-child(3) .grip`), p.See("3 passages"))
	steps(t, p.Settle(), p.Open("/r/1/plans/1/compose"), p.See("LICENSE"))
	// dropped on the middle of the last row, it may come to lie before or behind it
	assert.Contains(t, []string{"Makefile README.md LICENSE ", "Makefile LICENSE README.md "}, order(), "kept after a reload")
}
