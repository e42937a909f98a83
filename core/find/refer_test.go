package find_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/find"
)

func TestRefers(t *testing.T) {
	const to = "board/assets/gauge-on.png"
	for _, c := range []struct {
		line, from string
		want       find.How
	}{
		{`import on from './assets/gauge-on.png'`, "board/main.ts", find.ByPath},
		{`![on](board/assets/gauge-on.png)`, "README.md", find.ByPath},
		{`<img src="/assets/gauge-on.png">`, "board/index.html", find.ByPath},
		{`load("../assets/gauge-on.png")`, "board/src/a.ts", find.ByPath},
		{`load("other/gauge-on.png")`, "board/a.ts", ""},
		{`icons = ["gauge-on.png"]`, "pack.py", find.ByName},
		{`icons = ["old-gauge-on.png"]`, "pack.py", ""},
		{`icons = ["gauge-on.png.bak"]`, "pack.py", ""},
		{`see gauge-on.png.`, "notes.txt", find.ByName},
		{`icon("gauge-on")`, "a.ts", find.ByStem},
		{`R.drawable.gauge-on;`, "A.java", find.ByStem},
		{`gauge-on is a word here`, "a.txt", ""},
		{`icon("icons/gauge-on")`, "a.ts", find.ByStem},
		{`route('/gauge-on')`, "a.ts", ""},
		{`.gauge-on .lit {`, "a.css", ""},
		{`t.Fatal("gauge-on and off")`, "a_test.go", ""},
		{``, "a.txt", ""},
	} {
		assert.Equal(t, c.want, find.Refers(c.line, c.from, to), "%q in %s", c.line, c.from)
	}
	assert.Equal(t, []string{"gauge-on.png", "gauge-on"}, find.Texts(to))
	assert.Equal(t, []string{".env"}, find.Texts("a/.env"))
	assert.Equal(t, []string{"a.b"}, find.Texts("a.b"), "a stem of a letter is no name")
}
