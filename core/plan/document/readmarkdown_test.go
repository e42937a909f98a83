package document_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/core/plan/document"
)

func read(t *testing.T, text string, in document.Setting) (*plan.State, []document.ItemProblem) {
	t.Helper()
	s, problems, err := document.Read([]byte(text), in)
	require.NoError(t, err)
	return s, problems
}

func TestMarkdownIsTakenIn(t *testing.T) {
	first := some(t)
	s, problems := read(t, markdown(t, first, "docs/reading"), document.Setting{})
	assert.Empty(t, problems)
	assert.Equal(t, string(written(t, first)), string(written(t, s)), "nothing is lost on the way")
}

// What people write is found again, whatever it looks like.
func TestStrangeWordsComeBackFromMarkdown(t *testing.T) {
	for _, strange := range []string{
		"# a heading", "- an item", "12. an item", "```", "a `code", "`a` *b* _c_ [d](e) <f> \\ \\* &amp; ~g~ | !", "=== x", "I. II. III.", "1. 2. 3.", "> quoted", "a\\", "\\", "--> <!-- passage {} -->", "**Before it:** x", "<sub>x</sub>", "· 5 min",
	} {
		t.Run(strange, func(t *testing.T) {
			s := plan.New()
			text := strange + "\n\n<!-- /text -->\n### 7. A heading\n\n```\n# " + strange + "\n"
			for _, op := range []plan.Op{
				{Kind: plan.SetPlan, Field: "title", To: strange}, {Kind: plan.SetPlan, Field: "purpose", To: strange + "\n" + strange},
				{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-1", Order: "1", Title: strange, Intent: strange}},
				{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-1", Chapter: "chapter-1", Order: "1", Title: strange, Purpose: strange, Caution: strange + "\n" + strange, Why: strange, Text: strings.TrimSpace(text), Minutes: 3,
					Questions: []plan.Question{{Ask: strange, Answer: strange}, {Ask: "?"}},
					Target:    plan.Target{Kind: plan.Try, Commit: commit, Try: &plan.Trial{SetUp: strange, Commands: strange, Outcome: strange + "\n" + strange, Pauses: []plan.Stretch{{Path: "a (b)/[c] `d`.go", Start: 2, End: 4, Says: strange}}}}}},
				{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: "idea-1234", Name: strange, Text: strings.TrimSpace(text), By: "passage-1"}},
			} {
				require.NoError(t, s.Apply(op))
			}
			got, problems := read(t, markdown(t, s, ""), document.Setting{})
			assert.Empty(t, problems)
			assert.Equal(t, string(written(t, s)), string(written(t, got)))
		})
	}
}

const byHand = `# How readings travel

Read this first.

*3 passages, 12 minutes.*

## The wire

### The frame

[frame.go, lines 3 to 9](../wire/frame.go#L3-L9) · 5 min · may be left out

**After it:** how long a frame is

Mind the checksum.

- it comes last

### 2. The sender beside the receiver

[a](../a.go) beside [b](../b.go#L4) · 4 min

**Before it:** 1. The frame; the idea *frame*

**Ask yourself:**

- Why two?
  *One for each end.*

### Try it

something to try · 3 min

**Where:** wire

` + "```sh\nmake\n```" + `

**Stop at:**

- [frame.go](../wire/frame.go#L5) here it is made

## Ideas

**frame** (introduced in 1)

Twelve bytes.
`

func TestMarkdownByHand(t *testing.T) {
	s, problems := read(t, byHand, document.Setting{Commit: commit, Folder: "docs"})
	for _, p := range problems {
		assert.Contains(t, p.What, "it is taken at 0123456789")
	}
	assert.Len(t, problems, 3)
	assert.Equal(t, "How readings travel", s.Title)
	assert.Equal(t, "Read this first.", s.Purpose)
	list := s.InOrder()
	require.Len(t, list, 1)
	got := list[0].Passages
	require.Len(t, got, 3)
	assert.Equal(t, plan.Target{Kind: plan.Lines, Path: "wire/frame.go", Start: 3, End: 9, Commit: commit}, got[0].Target)
	assert.True(t, got[0].Optional)
	assert.Equal(t, "Mind the checksum.\n\n- it comes last", got[0].Text)
	assert.Equal(t, plan.Pair, got[1].Target.Kind)
	assert.Equal(t, &plan.Stretch{Path: "b.go", Start: 4, End: 4}, got[1].Target.Beside)
	assert.Equal(t, []plan.Question{{Ask: "Why two?", Answer: "One for each end."}}, got[1].Questions)
	assert.ElementsMatch(t, []string{got[0].ID, s.IdeasInOrder()[0].ID}, got[1].Needs, "passages that bear no number are counted")
	assert.Equal(t, &plan.Trial{Folder: "wire", Commands: "make", Pauses: []plan.Stretch{{Path: "wire/frame.go", Start: 5, End: 5, Says: "here it is made"}}}, got[2].Target.Try)
	assert.Equal(t, "Twelve bytes.", s.IdeasInOrder()[0].Text)
}

func TestWhatMarkdownLacksIsToldLineByLine(t *testing.T) {
	at := document.Setting{Commit: commit}
	whole := markdown(t, some(t), "")
	for name, c := range map[string]struct {
		text     string
		in       document.Setting
		passages int
		want     string
	}{
		"no commit":           {"# T\n## C\n### P\n\n[a](a.go) · 1 min\n", document.Setting{}, 0, "line 3 “P”: it does not say at which commit it is read: it is left out"},
		"no link":             {"# T\n## C\n### P\n\nread it · 1 min\n", at, 0, "line 3 “P”: it leads to no code"},
		"nothing at all":      {"# T\n## C\n### P\n### Q\n\n[a](a.go) · 1 min\n", at, 1, "line 3 “P”: it leads to no code: it is left out"},
		"no minutes":          {"# T\n## C\n### P\n\n[a](a.go)\n", at, 1, "line 3 “P”: it names no minutes"},
		"a path outside":      {"# T\n## C\n### P\n\n[a](../a.go) · 1 min\n", at, 0, "leads out of the repository"},
		"another host":        {"# T\n## C\n### P\n\n[a](https://example.org/a.go) · 1 min\n", at, 0, "leads to no file of the repository"},
		"a script":            {"# T\n## C\n### P\n\n[a](javascript:alert(1)) · 1 min\n", at, 0, "leads to no file of the repository"},
		"several links":       {"# T\n## C\n### P\n\n[a](a.go), [b](b.go) · 1 min\n", at, 0, "it leads to several places"},
		"lines of nowhere":    {"# T\n## C\n### P\n\n[a](a.go#somewhere) · 1 min\n", at, 0, "names no lines as #L3-L9 does"},
		"no chapter":          {"# T\n### P\n\n[a](a.go) · 1 min\n", at, 1, "line 2: it stands in no chapter: it is put into one"},
		"two titles":          {"# T\n# U\n## C\n### P\n\n[a](a.go) · 1 min\n", at, 1, "line 2: a second title"},
		"a comment cut short": {"# T\n## C\n<!-- passage {\"id\":\"passage-1\",\n### P\n\n[a](a.go) · 1 min\n", at, 1, "line 3: this comment does not end on its line"},
		"a comment broken":    {"# T\n## C\n<!-- passage {\"id\":7} -->\n### P\n\n[a](a.go) · 1 min\n", at, 1, "line 3: this comment cannot be read"},
		"a text without end":  {"# T\n## C\n### P\n\n[a](a.go) · 1 min\n\n<!-- text -->\nwords\n", at, 1, "line 7: the end of this text is not marked"},
		"a need of nothing":   {"# T\n## C\n### P\n\n[a](a.go) · 1 min\n\n**Before it:** 9. Elsewhere\n", at, 1, "“9. Elsewhere”, is not in the plan"},
		"another link":        {strings.Replace(whole, "(ein%20Pfad/%C3%BC.go#L3-L9)", "(ein%20Pfad/%C3%BC.go#L4-L9)", 1), at, 12, "its link leads elsewhere than its comment says"},
		"before the title":    {"<!-- x -->\nhello\n# T\n## C\n### P\n\n[a](a.go) · 1 min\n", at, 1, "line 2: this stands before the title"},
	} {
		t.Run(name, func(t *testing.T) {
			s, problems := read(t, c.text, c.in)
			assert.Len(t, s.Passages, c.passages)
			told := ""
			for _, p := range problems {
				told += p.Where + ": " + p.What + "\n"
			}
			assert.Contains(t, told, c.want)
		})
	}
	for text, want := range map[string]string{
		"<!-- juxtagram-plan/9 {} -->\n# T\n": `this version reads "juxtagram-plan/1"`,
		"<p>hello</p>":                        "it has no passage",
		"# Readme\n\n## Use\n\n[a](a.go)\n":   "it has no passage",
	} {
		_, _, err := document.Read([]byte(text), at)
		require.ErrorContains(t, err, want)
	}
}

func FuzzReadMarkdown(f *testing.F) {
	var b bytes.Buffer
	require.NoError(f, document.WriteMarkdown(&b, some(f), "docs"))
	f.Add(b.String())
	f.Add(byHand)
	f.Fuzz(func(t *testing.T, text string) {
		s, _, err := document.Read([]byte(text), document.Setting{Commit: commit})
		if err != nil {
			return
		}
		once := markdown(t, s, "")
		again, problems := read(t, once, document.Setting{})
		assert.Empty(t, problems, "%s", once)
		assert.Equal(t, once, markdown(t, again, ""), "what was taken is written the same again")
	})
}
