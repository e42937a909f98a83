package note

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Marks that would be looked at again and again are shown as written and not kept;
// the work of what is laid out is bounded by the pairs that are counted here.
func TestIntricateTextsAreShownAsWritten(t *testing.T) {
	growing := func(mark string) string {
		var b strings.Builder
		for i := 0; b.Len() < MaxText-2000; i++ {
			b.WriteString(strings.Repeat(mark, i) + "a\n")
		}
		return b.String()
	}
	hostile := map[string]string{"quotes that grow": growing(">"), "quotes": strings.Repeat("> ", 2000) + "a", "lists": strings.Repeat("- ", 2000) + "a", "numbers": strings.Repeat("1. ", 2000) + "a"}
	for _, mark := range []string{"*a_", "**a ", "[", "[a](", "![", "![[]()](", "[a][b]", "a~~b~", "`a``b```c", "<a ", "_a "} {
		hostile[mark] = strings.Repeat(mark, (MaxText-1)/len(mark))
	}
	for name, text := range hostile {
		assert.ErrorIs(t, Check(text), errIntricate, name)
		assert.True(t, strings.HasPrefix(HTML(text, Links{}), "<pre>"), name)
		assert.Empty(t, Read(text), name)
	}
}

func TestLongTextsOfPeopleAreLaidOut(t *testing.T) {
	var list, prose, table strings.Builder
	for i := range 1200 {
		fmt.Fprintf(&list, "- [**gauge %d**](https://gauges.example/%d): `level`\n", i, i)
	}
	for prose.Len() < MaxText-500 {
		prose.WriteString(strings.Repeat("A *line* of **prose** with `code`, a [link](https://gauges.example) and snake_case. ", 5) + "\n\n")
	}
	table.WriteString("| a | b |\n|---|---|\n" + strings.Repeat("| *x* | `y` |\n", 600))
	for name, text := range map[string]string{"list": list.String()[:60_000], "prose": prose.String(), "table": table.String(), "rule": strings.Repeat("-", 500), "code": "```\n" + strings.Repeat("x\n", 900) + "```\n"} {
		assert.NoError(t, Check(text), name)
		assert.False(t, strings.HasPrefix(HTML(text, Links{}), "<pre>"+text[:1]), name)
	}
}
