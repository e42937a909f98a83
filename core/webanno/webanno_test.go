package webanno_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/place"
	"juxtagram/core/webanno"
)

var at = time.Date(2026, 3, 1, 9, 30, 0, 123_000_000, time.UTC)

var files = []webanno.File{{UID: "F1", Name: "tide.png", Content: []byte("\x89PNG\x00")}, {UID: "F2", Name: "large.bin"}}

func some() []webanno.Thread {
	commit := strings.Repeat("a1", 20)
	later := at.Add(time.Hour)
	return []webanno.Thread{
		{Note: webanno.Note{UID: "one", Author: "Oona Fell", Text: "Why?\n\n`code` #cold <b>\u202e", Created: at, Edited: &later, Rev: 3}, Kind: "question", State: "resolved", StateBy: "Tam", Answer: "two",
			Tags: []string{"cold"}, Target: webanno.Target{Kind: "lines", Commit: commit, Path: "a b/ü#?.c", Start: 15, End: 17, Symbol: "take", Quote: place.Quote{Exact: "x\ny", Before: "w", After: "z"}, From: 300, To: 340},
			Replies: []webanno.Note{{UID: "two", Author: "Tam", Text: "So.", Created: later, Rev: 1}, {UID: "three", Text: "nobody's", Created: later, Rev: 1}}},
		{Note: webanno.Note{UID: "sym", Author: "K", Text: "s", Created: at, Rev: 1}, Kind: "ask", State: "open", Asked: "Tam", Commits: []string{commit}, Target: webanno.Target{Kind: "symbol", Commit: commit, Path: "x.go", Start: 1, End: 9, Symbol: "T.m"}},
		{Note: webanno.Note{UID: "file", Author: "K", Text: "f", Created: at, Rev: 1}, Kind: "note", State: "open", Private: true, Target: webanno.Target{Kind: "file", Commit: commit, Path: "x.go"}},
		{Note: webanno.Note{UID: "folder", Author: "K", Text: "f", Created: at, Rev: 1}, Kind: "note", State: "open", Target: webanno.Target{Kind: "folder", Commit: commit, Path: "a/b"}},
		{Note: webanno.Note{UID: "commit", Author: "K", Text: "c", Created: at, Rev: 1}, Kind: "note", State: "open", Target: webanno.Target{Kind: "commit", Commit: commit}},
		{Note: webanno.Note{UID: "all", Author: "K", Text: "r", Created: at, Rev: 1}, Kind: "note", State: "open", Target: webanno.Target{Kind: "repository", Commit: commit}},
	}
}

func TestWhatIsWrittenIsReadBack(t *testing.T) {
	var b, again bytes.Buffer
	require.NoError(t, webanno.Write(&b, some(), files))
	written := b.String()
	doc, err := webanno.Read(&b)
	require.NoError(t, err)
	assert.Empty(t, doc.Problems)
	assert.Empty(t, doc.Foreign)
	assert.Equal(t, some(), doc.Threads)
	assert.Equal(t, files, doc.Files)
	require.NoError(t, webanno.Write(&again, doc.Threads, doc.Files))
	assert.Equal(t, written, again.String(), "the same bytes")
	for _, term := range []string{`"line=14,17"`, `"TextQuoteSelector"`, `"TextPositionSelector"`, `"FragmentSelector"`, `"AnnotationPage"`, `"questioning"`, "http://www.w3.org/ns/anno.jsonld"} {
		assert.Contains(t, written, term)
	}
}

// A selector that says no place is told, and never makes a note on the whole file.
func TestSelectorsThatAreNotUnderstood(t *testing.T) {
	for name, selector := range map[string]string{
		"another kind":                `{"type":"XPathSelector","value":"/html"}`,
		"a kind of no name":           `{}`,
		"a fragment of others":        `{"type":"FragmentSelector","value":"L10-L20"}`,
		"a quote of nothing":          `{"type":"TextQuoteSelector","exact":"  "}`,
		"no object":                   `"line 3"`,
		"one it lacks and one turned": `[{"type":"SvgSelector","value":"<svg/>"},{"type":"FragmentSelector","value":"line=9,2"}]`,
		"positions turned":            `{"type":"TextPositionSelector","start":9,"end":3}`,
	} {
		t.Run(name, func(t *testing.T) {
			doc, err := webanno.Read(strings.NewReader(`[{"id":"1","body":"x","target":{"source":"src/a.c","selector":` + selector + `}}]`))
			require.NoError(t, err)
			assert.Empty(t, doc.Threads)
			require.Len(t, doc.Problems, 1)
			assert.Contains(t, doc.Problems[0].Why, "selector")
		})
	}
	doc, err := webanno.Read(strings.NewReader(`[{"id":"1","body":"x","target":{"source":"src/","selector":{"type":"TextQuoteSelector","exact":"y"}}}]`))
	require.NoError(t, err)
	require.Len(t, doc.Problems, 1, "a folder has no text")
}

func TestAnnotationsOfOthers(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		want webanno.Target
	}{
		"a single one":                {`{"@context":"http://www.w3.org/ns/anno.jsonld","id":"http://a.example/1","type":"Annotation","bodyValue":"x","target":"src/a.c"}`, webanno.Target{Kind: "file", Path: "src/a.c"}},
		"a list":                      {`[{"id":"1","type":"Annotation","body":"x","target":{"source":"src/a.c","selector":{"type":"TextQuoteSelector","exact":"y"}}}]`, webanno.Target{Kind: "file", Path: "src/a.c", Quote: place.Quote{Exact: "y"}}},
		"a collection":                {`{"type":"AnnotationCollection","first":{"type":"AnnotationPage","items":[{"id":"1","body":{"value":"x"},"target":[{"source":{"id":"src/a.c"},"selector":[{"type":"FragmentSelector","value":"line=0,2"}]}]}]}}`, webanno.Target{Kind: "lines", Path: "src/a.c", Start: 1, End: 2}},
		"one it lacks and one it has": {`[{"id":"1","body":"x","target":{"source":"a.c","selector":[{"type":"SvgSelector","value":"<svg/>"},{"type":"FragmentSelector","value":"line=2,9"}]}}]`, webanno.Target{Kind: "lines", Path: "a.c", Start: 3, End: 9}},
		"characters":                  {`[{"id":"1","body":"x","target":{"source":"a.c","selector":{"type":"FragmentSelector","value":"char=4,9;length=20"}}}]`, webanno.Target{Kind: "file", Path: "a.c", From: 4, To: 9}},
	} {
		doc, err := webanno.Read(strings.NewReader(c.text))
		require.NoError(t, err, name)
		require.Len(t, doc.Threads, 1, name)
		assert.Equal(t, c.want, doc.Threads[0].Target, name)
		assert.Equal(t, "x", doc.Threads[0].Text, name)
	}
}

func TestWhatCannotBeRead(t *testing.T) {
	for _, bad := range []string{"", "nonsense", "3", "{}", "[]", `{"items":3}`, `{"items":[{"id":"1"`, `{"first":{"first":{"first":{"first":{"items":[]}}}}}`} {
		_, err := webanno.Read(strings.NewReader(bad))
		assert.Error(t, err, bad)
	}
	doc, err := webanno.Read(strings.NewReader(`{"@context":["http://www.w3.org/ns/anno.jsonld","https://elsewhere.example/context.jsonld"],"items":[
		{"id":"1","body":"x","target":"https://elsewhere.example/page"},
		{"id":"2","body":"x","target":"../../etc/passwd"},
		{"id":"3","target":"a.c"},
		{"body":"x","target":"a.c"},
		{"id":"5","body":"x"},
		{"id":"6","body":"x","target":"urn:x-juxtagram:annotation:nobody"},
		{"id":"7","body":"x","target":"a.c"},{"id":"7","body":"y","target":"a.c"},
		7]}`))
	require.NoError(t, err)
	assert.Equal(t, []any{1, 8, []string{"https://elsewhere.example/context.jsonld"}}, []any{len(doc.Threads), doc.Passed, doc.Foreign})
	for _, p := range doc.Problems {
		assert.NotEmpty(t, p.Why)
	}
}

func TestAHundredThousandAreReadAndNoMore(t *testing.T) {
	page := func(n int) string {
		var b strings.Builder
		b.WriteString(`{"items":[`)
		for i := range n {
			if i > 0 {
				b.WriteByte(',')
			}
			fmt.Fprintf(&b, `{"id":"%d","body":"x","target":"a.c"}`, i)
		}
		b.WriteString("]}")
		return b.String()
	}
	doc, err := webanno.Read(strings.NewReader(page(webanno.MaxItems)))
	require.NoError(t, err)
	assert.Len(t, doc.Threads, webanno.MaxItems)
	_, err = webanno.Read(strings.NewReader(page(webanno.MaxItems + 1)))
	assert.ErrorContains(t, err, "more than 100000")
}

func FuzzRead(f *testing.F) {
	var b bytes.Buffer
	if err := webanno.Write(&b, some(), files); err != nil {
		f.Fatal(err)
	}
	f.Add(b.String())
	f.Add(`[{"id":"1","body":[1,"x",{"value":"y"}],"target":["a"]}]`)
	f.Fuzz(func(t *testing.T, text string) {
		doc, err := webanno.Read(strings.NewReader(text))
		if err != nil {
			return
		}
		for _, x := range doc.Threads {
			if x.UID == "" || strings.TrimSpace(x.Text) == "" || strings.Contains(x.Target.Path, "..") && strings.Contains("/"+x.Target.Path+"/", "/../") {
				t.Fatalf("%q gives %+v", text, x)
			}
		}
	})
}
