package page_test

import (
	"context"
	"encoding/base64"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"juxtagram/core/plan"
	"juxtagram/core/plan/page"
	"juxtagram/core/repo/repotest"
	"juxtagram/core/skim"
)

const hostile = `<script>alert(1)</script><img src=x onerror=alert(2)> "' javascript:alert(3)`

// written writes a plan whose passages have the targets read.
func written(t *testing.T, r *repotest.Repo, cut *skim.Skim, words string, targets ...plan.Target) string {
	t.Helper()
	s := plan.New()
	require.NoError(t, s.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", To: "How to gauge " + words}))
	require.NoError(t, s.Apply(plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-1", Order: "1", Title: words, Intent: words}}))
	require.NoError(t, s.Apply(plan.Op{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: "idea-datum", Name: "datum", Text: words}}))
	for i, target := range targets {
		p := &plan.Passage{ID: fmt.Sprintf("passage-%d", i+1), Chapter: "chapter-1", Order: string(rune('A' + i)), Title: words, Purpose: words, Text: "Levels count from the datum. " + words, Minutes: 2,
			Caution: words, Why: words, Questions: []plan.Question{{Ask: words, Answer: words}}, Needs: []string{"idea-datum"}, Target: target}
		if i > 0 {
			p.Needs = append(p.Needs, "passage-1")
		}
		require.NoError(t, s.Apply(plan.Op{Kind: plan.AddPassage, NewPs: p}))
	}
	blobs := r.Read().Blobs()
	defer blobs.Close()
	from := &page.Source{Git: r.Read(), Blobs: blobs, Skim: func(context.Context, string, string) (*skim.Skim, error) { return cut, nil }}
	var b strings.Builder
	require.NoError(t, page.Write(context.Background(), &b, s, from, page.About{Repository: words, Edition: 3}))
	return b.String()
}

var picture = []byte("\x89PNG\r\n\x1a\nnot really")

func sample(t *testing.T) (r *repotest.Repo, first, second string) {
	r = repotest.New(t)
	first = r.Write("gauge.go", "package gauge\n\n// Level "+hostile+"\nfunc Level() int {\n\treturn 4\n}\n", "float.go", "package gauge\n", "logo.png", string(picture), "blob.bin", "\x00\x01",
		"long.txt", strings.Repeat("line\n", 2500)+strings.Repeat("x", 3000)+"\n", "docs/a.md", "# A\n", "empty.txt", "", hostile[:8]+"/x", "odd\n").Commit("one " + hostile)
	second = r.Write("gauge.go", "package gauge\n").Commit("two")
	return r, first, second
}

func TestAPageHoldsTheCode(t *testing.T) {
	r, first, second := sample(t)
	got := written(t, r, nil, "it",
		plan.Target{Kind: plan.Lines, Path: "gauge.go", Start: 4, End: 5, Commit: first},
		plan.Target{Kind: plan.Pair, Path: "gauge.go", Commit: second, Beside: &plan.Stretch{Path: "float.go", Says: "the other"}},
		plan.Target{Kind: plan.Asset, Path: "logo.png", Commit: first},
		plan.Target{Kind: plan.Folder, Commit: first},
		plan.Target{Kind: plan.Commit, Commit: first},
		plan.Target{Kind: plan.Comparison, Base: first, Commit: second, Path: "gauge.go"},
		plan.Target{Kind: plan.File, Path: "long.txt", Commit: first},
		plan.Target{Kind: plan.Lines, Path: "long.txt", Start: 2501, End: 2501, Commit: first},
		plan.Target{Kind: plan.Try, Commit: first, Try: &plan.Trial{Commands: "make <all>", Pauses: []plan.Stretch{{Path: "gauge.go", Start: 5, End: 5, Says: "here"}}}},
		plan.Target{Kind: plan.Planned, Path: "new.go", Pattern: "float.go", Commit: first},
		plan.Target{Kind: plan.Way, Commit: first, Hops: []plan.Stretch{{Path: "gauge.go", Start: 1, End: 1, Says: "from"}, {Path: "float.go", Start: 1, End: 1}}},
	)
	for _, want := range []string{
		`<i data-n="4"></i><code><b class="k">func</b> <b class="d">Level</b>() <b class="t">int</b> {</code>`, "gauge.go, lines 4 to 5", "at " + first[:10],
		`<div class="pair">`, "the other",
		`src="data:image/png;base64,` + base64.StdEncoding.EncodeToString(picture), "<li>docs/</li>",
		`<div class="r a"><code>+package gauge`, `<div class="r d"><code>-func Level() int {`, "501 more lines are not on this page", "… 1000 more characters", "<pre>make &lt;all&gt;</pre>",
		"<code>new.go</code> is not there yet", "edition 3", `<a href="#idea-idea-datum"`, `id="idea-idea-datum"`, `<a href="#p1">1. it</a>`, "11 passages, 22 minutes",
	} {
		assert.True(t, strings.Contains(got, want), want)
	}
}

func TestWhatCannotBeShownIsSaid(t *testing.T) {
	r, first, _ := sample(t)
	lost := strings.Repeat("0123456789", 4)
	for want, target := range map[string]plan.Target{
		"there is no such file at this commit":       {Kind: plan.File, Path: "nowhere.go", Commit: first},
		"the file is binary":                         {Kind: plan.File, Path: "blob.bin", Commit: first},
		"the file has 6 lines":                       {Kind: plan.Lines, Path: "gauge.go", Start: 70, End: 71, Commit: first},
		"the file is empty":                          {Kind: plan.File, Path: "empty.txt", Commit: first},
		"there is no such folder at this commit":     {Kind: plan.Folder, Path: "nowhere", Commit: first},
		"the repository does not have this commit":   {Kind: plan.Commit, Commit: lost},
		"there is no difference":                     {Kind: plan.Comparison, Base: first, Commit: first},
		"there is no such file at this commit</p>\n": {Kind: plan.Asset, Path: "../../etc/passwd.png", Commit: first},
	} {
		assert.True(t, strings.Contains(written(t, r, nil, "it", target), want), want)
	}
}

func TestASkimShowsItsLines(t *testing.T) {
	r, first, _ := sample(t)
	content := "package gauge\n\n// Level " + hostile + "\nfunc Level() int {\n\treturn 4\n}\n"
	cut := skim.Of(&skim.Input{Content: content})
	got := written(t, r, cut, "it", plan.Target{Kind: plan.File, Path: "gauge.go", Skim: 3, Commit: first})
	_, rows := cut.Within(3)
	assert.Equal(t, rows, strings.Count(got, `<i data-n=`))
	if rows < 6 {
		assert.True(t, strings.Contains(got, fmt.Sprintf("%d of 6 lines; the others are folded", rows)))
	}
}

// A page shows, and does nothing: no script, no handler, nothing that is loaded.
func TestAPageRunsAndLoadsNothing(t *testing.T) {
	r, first, second := sample(t)
	got := written(t, r, nil, hostile+" [x](javascript:alert(4)) ![y](http://example.test/y.png)",
		plan.Target{Kind: plan.File, Path: "gauge.go", Commit: first}, plan.Target{Kind: plan.Symbol, Path: "gauge.go", Symbol: hostile, Start: 1, End: 2, Commit: first},
		plan.Target{Kind: plan.Commit, Commit: first}, plan.Target{Kind: plan.Comparison, Base: first, Commit: second}, plan.Target{Kind: plan.Folder, Commit: first},
		plan.Target{Kind: plan.Try, Commit: first, Try: &plan.Trial{Commands: hostile, SetUp: hostile, Folder: hostile, Pauses: []plan.Stretch{{Path: "gauge.go", Start: 1, End: 1, Says: hostile}}}})
	doc, err := html.Parse(strings.NewReader(got))
	require.NoError(t, err)
	address := regexp.MustCompile(`^(?:#[\w-]+|https?://.*|data:image/.*)$`)
	seen := map[string]int{}
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if n.Type == html.ElementNode {
			seen[n.Data]++
			for _, a := range n.Attr {
				assert.False(t, strings.HasPrefix(a.Key, "on"), "%s of %s", a.Key, n.Data)
				if a.Key == "href" {
					assert.Regexp(t, address, a.Val)
				}
				if a.Key == "src" {
					assert.Regexp(t, `^data:image/`, a.Val)
				}
			}
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(doc)
	for _, never := range []string{"script", "link", "iframe", "object", "form", "base"} {
		assert.Zero(t, seen[never], never)
	}
	assert.Equal(t, 1, seen["style"])
	assert.Equal(t, 6, seen["article"]-1)
	assert.True(t, strings.Contains(got, `content="default-src 'none'; style-src 'unsafe-inline'; img-src data:;`))
}
