package tagged_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/tagged"
)

func words(hits []tagged.Hit) []string {
	out := []string{}
	for _, h := range hits {
		out = append(out, h.Word)
	}
	return out
}

func compiled(t *testing.T, own ...tagged.Word) *tagged.Words {
	t.Helper()
	w, err := tagged.Compile(own)
	require.NoError(t, err)
	return w
}

func TestIn(t *testing.T) {
	w := compiled(t,
		tagged.Word{Word: "TODO-LATER", Meaning: "after the release", Urgency: tagged.ToKnow},
		tagged.Word{Word: "@tidy", Meaning: "clean up", Urgency: tagged.SomeDay},
		tagged.Word{Word: "spring", Meaning: "before the spring tides", Urgency: tagged.Pressing, Pattern: `SPRING-\d+`},
		tagged.Word{Word: "Prüfen", Meaning: "to be looked at", Urgency: tagged.SomeDay},
	)
	for _, c := range []struct {
		text string
		want []string
	}{
		{"// TODO: mend", []string{"TODO"}},
		{"//TODO: tight", []string{"TODO"}},
		{"// TODOS are no word, nor is myTODO", []string{}},
		{"// TODO-LATER: the longest wins", []string{"TODO-LATER"}},
		{"// see docs/TODO and --HACK, no-HACK", []string{"HACK"}},
		{"// @tidy this", []string{"@tidy"}},
		{"// SPRING-7 and SPRING-x", []string{"spring"}},
		{"// Prüfen, bitte", []string{"Prüfen"}},
		{"// TODO one TODO two", []string{"TODO"}},
		{"/* TODO one\n * TODO two */", []string{"TODO", "TODO"}},
		{"// FIXME, or rather a HACK", []string{"FIXME", "HACK"}},
		{"// [ ] open\n// [x] done\n//   - [X] done too", []string{"[ ]", "[x]", "[x]"}},
		{"// takes a[x] and b[ ] apart", []string{}},
		{"/** @deprecated use the other */", []string{"DEPRECATED"}},
		{"/// \\todo say more", []string{"TODO"}},
		{"// Deprecated: use Open.", []string{"DEPRECATED"}},
		{"// This is Deprecated: not a marker", []string{}},
		{"// mail to a@todo.example", []string{}},
		{"", []string{}},
	} {
		t.Run(c.text, func(t *testing.T) { assert.Equal(t, c.want, words(w.In([]byte(c.text)))) })
	}
}

func TestWhatAHitSays(t *testing.T) {
	for _, c := range []struct{ text, said, who, issue string }{
		{"/* TODO(kip): mend, see #12 */", "TODO(kip): mend, see #12", "kip", "#12"},
		{"// FIXME @oona MG-7 falls over", "FIXME @oona MG-7 falls over", "oona", "MG-7"},
		{"// TODO(#41): later", "TODO(#41): later", "", "#41"},
		{"<!-- BUG here -->", "BUG here", "", ""},
		{"// HACK \xff\x00", "HACK \uFFFD\uFFFD", "", ""},
	} {
		h := tagged.Standard.In([]byte(c.text))
		require.Len(t, h, 1, c.text)
		assert.Equal(t, []string{c.said, c.who, c.issue}, []string{h[0].Said, h[0].Who, h[0].Issue})
	}
	long := tagged.Standard.In([]byte("// TODO " + strings.Repeat("ä", 500)))
	require.Len(t, long, 1)
	assert.LessOrEqual(t, len(long[0].Said), 300)
	assert.True(t, strings.HasSuffix(long[0].Said, "ä…"))
}

func TestOnLine(t *testing.T) {
	for _, c := range []struct {
		language, line string
		want           []string
	}{
		{"Go", `	x := 1 // TODO: mend`, []string{"TODO"}},
		{"Go", `	x := "// TODO: no"`, []string{}},
		{"Go", `	x := "TODO" // FIXME`, []string{"FIXME"}},
		{"C", ` * TODO: in a block`, []string{"TODO"}},
		{"C", `   TODO: in a block without marks`, []string{"TODO"}},
		{"C", `   TODO,`, []string{}},
		{"C", `   TODO = 3;`, []string{}},
		{"Python", `x = "#TODO"`, []string{}},
		{"Python", `x = 1  # HACK`, []string{"HACK"}},
		{"Python", `// TODO`, []string{}},
		{"Markdown", `TODO: prose`, []string{"TODO"}},
		{"Markdown", `a list of TODO things`, []string{}},
		{"Markdown", `<!-- TODO -->`, []string{"TODO"}},
		{"SQL", `select 1; -- BUG: two`, []string{"BUG"}},
		{"Go", `	c := '"' // XXX`, []string{"XXX"}},
	} {
		t.Run(c.language+" "+c.line, func(t *testing.T) {
			assert.Equal(t, c.want, words(tagged.Standard.OnLine(c.language, []byte(c.line))))
		})
	}
}

func TestWordsThatCannotBe(t *testing.T) {
	good := tagged.Word{Word: "LATER", Meaning: "not now", Urgency: tagged.SomeDay}
	for name, change := range map[string]func(*tagged.Word){
		"empty":        func(w *tagged.Word) { w.Word = " " },
		"one letter":   func(w *tagged.Word) { w.Word = "T" },
		"long":         func(w *tagged.Word) { w.Word = strings.Repeat("x", 41) },
		"two lines":    func(w *tagged.Word) { w.Word = "A\nB" },
		"no meaning":   func(w *tagged.Word) { w.Meaning = "" },
		"no urgency":   func(w *tagged.Word) { w.Urgency = 9 },
		"broken":       func(w *tagged.Word) { w.Pattern = "(" },
		"backwards":    func(w *tagged.Word) { w.Pattern = `(a)\1` },
		"fits nothing": func(w *tagged.Word) { w.Pattern = `x*` },
		"too long":     func(w *tagged.Word) { w.Pattern = strings.Repeat("x", 201) },
		"too large":    func(w *tagged.Word) { w.Pattern = `((((a{99}){99}){99}){99})` },
	} {
		t.Run(name, func(t *testing.T) {
			bad := good
			change(&bad)
			_, err := tagged.Compile([]tagged.Word{bad})
			assert.Error(t, err)
		})
	}
	_, err := tagged.Compile([]tagged.Word{good, good})
	assert.ErrorContains(t, err, "twice")
	_, err = tagged.Compile(make([]tagged.Word, tagged.MaxWords+1))
	assert.ErrorContains(t, err, "at most")
}

// A pattern that would make a backtracking matcher try for ever.
func TestPatternsAreMatchedInLinearTime(t *testing.T) {
	w := compiled(t, tagged.Word{Word: "slow", Meaning: "a trap", Urgency: tagged.ToKnow, Pattern: `(a+)+b`})
	assert.Empty(t, w.In([]byte("// "+strings.Repeat("a", 50_000))))
}

func TestATeamsWordTakesThePlaceOfAnAgreedOne(t *testing.T) {
	w := compiled(t, tagged.Word{Word: "NOTE", Meaning: "ask first", Urgency: tagged.Pressing})
	assert.Equal(t, "ask first", w.Meaning("NOTE"))
	assert.Len(t, w.List(), len(tagged.Agreed))
	assert.Equal(t, tagged.Pressing, w.List()[0].Urgency)
	assert.Nil(t, w.Of("nothing"))
}

// What May passes over holds no word.
func FuzzMay(f *testing.F) {
	for _, s := range []string{"// TODO", "[ ] x", "@deprecated", "nothing", "SPRING-7", "\\todo"} {
		f.Add(s)
	}
	w, err := tagged.Compile([]tagged.Word{{Word: "spring", Meaning: "x", Urgency: 1, Pattern: `SPRING-\d+`}, {Word: "ä!", Meaning: "x", Urgency: 1}})
	if err != nil {
		f.Fatal(err)
	}
	f.Fuzz(func(t *testing.T, text string) {
		hits := w.In([]byte(text))
		for i, h := range hits {
			if h.Start < 0 || h.End > len(text) || h.Start >= h.End || i > 0 && h.Start < hits[i-1].End {
				t.Fatalf("%q: %v", text, hits)
			}
		}
		// with a word behind it, May never passes over the text
		if all := w.In([]byte(text + "\n// TODO")); len(all) != len(hits)+1 {
			t.Fatalf("%q: %v alone, %v with a word behind it", text, hits, all)
		}
		w.OnLine("C", []byte(text))
	})
}
