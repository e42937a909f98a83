package document_test

import (
	"bytes"
	"flag"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/text"

	"juxtagram/core/plan"
	"juxtagram/core/plan/document"
)

var update = flag.Bool("update", false, "write the golden files anew")

func markdown(t *testing.T, s *plan.State, folder string) string {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, document.WriteMarkdown(&b, s, folder))
	return b.String()
}

func TestMarkdownIsReadable(t *testing.T) {
	got := markdown(t, some(t), "docs/reading")
	const golden = "testdata/plan.md"
	if *update {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(golden, []byte(got), 0o644))
	}
	want, err := os.ReadFile(golden)
	require.NoError(t, err)
	assert.Equal(t, string(want), got, "go test ./core/plan/document -update writes it anew")
}

// What people write in titles and purposes is words, whatever Markdown would make
// of it; a Markdown parser is the judge.
func TestWordsStayWords(t *testing.T) {
	s := plan.New()
	strange := "# [x](javascript:alert(1)) <b>*bold*</b> _a_ --> <!-- passage {} --> & `code`"
	for _, op := range []plan.Op{
		{Kind: plan.SetPlan, Field: "title", To: strange}, {Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-1", Order: "1", Title: strange}},
		{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-1", Chapter: "chapter-1", Order: "1", Title: strange, Purpose: strange, Caution: strange, Target: plan.Target{Kind: plan.File, Path: "a b/(c)/[d] & `e`.go", Commit: commit}}},
	} {
		require.NoError(t, s.Apply(op))
	}
	source := []byte(markdown(t, s, ""))
	headings, links, comments := 0, 0, 0
	err := ast.Walk(goldmark.DefaultParser().Parse(text.NewReader(source)), func(n ast.Node, entering bool) (ast.WalkStatus, error) {
		switch n := n.(type) {
		case *ast.Heading:
			if entering {
				headings++
			}
		case *ast.Link:
			if entering {
				links++
				assert.Equal(t, "a%20b/%28c%29/%5Bd%5D%20&%20%60e%60.go", string(n.Destination))
			}
		case *ast.RawHTML:
			t.Errorf("HTML out of words")
		case *ast.HTMLBlock:
			if entering {
				comments++
				line := n.Lines().At(0)
				assert.True(t, strings.HasPrefix(string(line.Value(source)), "<!-- "), "%s", line.Value(source))
			}
		}
		return ast.WalkContinue, nil
	})
	require.NoError(t, err)
	assert.Equal(t, []int{3, 1, 3}, []int{headings, links, comments})
}

// A file may be called like an address.
func TestAFileIsNeverAScheme(t *testing.T) {
	s := plan.New()
	for _, op := range []plan.Op{
		{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-1", Order: "1"}},
		{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-1", Chapter: "chapter-1", Order: "1", Target: plan.Target{Kind: plan.File, Path: "javascript:alert(1)", Commit: commit}}},
	} {
		require.NoError(t, s.Apply(op))
	}
	assert.Contains(t, markdown(t, s, ""), "](./javascript:alert%281%29)")
}

func TestNumerals(t *testing.T) {
	for n, want := range map[int]string{1: "I", 4: "IV", 9: "IX", 14: "XIV", 40: "XL", 49: "XLIX", 999: "CMXCIX"} {
		assert.Equal(t, want, document.Numeral(n))
	}
}
