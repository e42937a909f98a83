package document_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/core/plan/document"
)

var commit = strings.Repeat("0123456789", 4)

// some is a plan that uses all there is.
func some(t testing.TB) *plan.State {
	s := plan.New()
	for _, op := range []plan.Op{
		{Kind: plan.SetPlan, Field: "title", To: "Where <readings> go & why"},
		{Kind: plan.SetPlan, Field: "purpose", To: "So."}, {Kind: plan.SetPlan, Field: "budget", From: "0", To: "90"},
		{Kind: plan.SetPlan, Field: "goal", From: "null", To: `{"kind":"folder","path":"x","direction":"inside-out"}`},
		{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-2", Order: "2", Title: "Two", Intent: "after one"}},
		{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-1", Order: "1", Title: "One"}},
		{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-0", Order: "0V", Title: "Gone"}}, {Kind: plan.RemoveChapter, ID: "chapter-0"},
		{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: "idea-frame", Name: "frame", Text: "Twelve bytes.", By: "passage-0"}},
	} {
		require.NoError(t, s.Apply(op))
	}
	beside := &plan.Stretch{Path: "b.go", Start: 1, End: 2, Commit: commit, Says: "the other end"}
	for i, target := range []plan.Target{
		{Kind: plan.File, Path: "a.go", Skim: 40}, {Kind: plan.Lines, Path: "ein Pfad/ü.go", Start: 3, End: 9}, {Kind: plan.Symbol, Path: "a.go", Symbol: "T.m", Start: 3, End: 9}, {Kind: plan.Folder},
		{Kind: plan.Pair, Path: "a.go", Beside: beside}, {Kind: plan.Commit}, {Kind: plan.Comparison, Base: commit}, {Kind: plan.Extract, Path: "a.go", Start: 3, End: 3, Column: 5},
		{Kind: plan.Way, Hops: []plan.Stretch{{Path: "a.go", Start: 1, End: 1, Says: "from here"}, {Path: "b.go"}}}, {Kind: plan.Planned, Path: "new.go", Pattern: "a.go"}, {Kind: plan.Asset, Path: "x.png"},
		{Kind: plan.Try, Try: &plan.Trial{Folder: "x", Commands: "make\nmake test", Outcome: "ok", Pauses: []plan.Stretch{{Path: "a.go", Start: 4, End: 4}}}},
	} {
		target.Commit = commit
		p := &plan.Passage{ID: fmt.Sprintf("passage-%d", i), Chapter: fmt.Sprintf("chapter-%d", 1+i%2), Order: string(rune('z' - i)), Title: fmt.Sprintf("P%d", i), Purpose: "so", Minutes: i, Target: target}
		if i > 0 {
			p.Needs = []string{"passage-0", "idea-frame"}
			p.Text, p.Caution, p.Optional, p.Why, p.Drafted = "Text with `code` and <script>alert(1)</script>", "do not copy", i%2 == 0, "a hotspot", "0011"
			p.Questions = []plan.Question{{Ask: "Why?", Answer: "So."}}
		}
		require.NoError(t, s.Apply(plan.Op{Kind: plan.AddPassage, NewPs: p}))
	}
	require.NoError(t, s.Apply(plan.Op{Kind: plan.SetAside, ID: "folder:x", To: "copied"}))
	return s
}

func written(t testing.TB, s *plan.State) []byte {
	var b bytes.Buffer
	require.NoError(t, document.Write(&b, s))
	return b.Bytes()
}

func TestWhatIsWrittenIsReadAndWrittenTheSame(t *testing.T) {
	first := written(t, some(t))
	s, problems, err := document.Read(first, document.Setting{})
	require.NoError(t, err)
	assert.Empty(t, problems)
	assert.Equal(t, string(first), string(written(t, s)))
	assert.Len(t, s.Passages, 12)
	schema, err := jsonschema.NewCompiler().Compile("../../../docs/formats/plan.schema.json")
	require.NoError(t, err)
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(first))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(value))
	assert.NotContains(t, string(first), "Gone", "what was removed is not written")
	for _, c := range some(t).InOrder() {
		for i, p := range c.Passages {
			got := s.Passage(p.ID)
			require.NotNil(t, got)
			p.Order, p.Chapter = got.Order, got.Chapter
			assert.Equal(t, &p, got)
			if i > 0 {
				assert.Less(t, s.Passages[c.Passages[i-1].ID].Order, got.Order)
			}
		}
	}
}

// one is a document with one chapter and what is given as its passages.
func one(passages string) string {
	return `{"format":"juxtagram-plan/1","title":"T","purpose":"","chapters":[{"id":"chapter-1","title":"C","passages":[` + passages + `]}],"ideas":[],"set_aside":[]}`
}

func reading(id, path, more string) string {
	return fmt.Sprintf(`{"id":%q,"title":"P","purpose":"","minutes":3,"target":{"kind":"file","path":%q,"commit":%q}%s}`, id, path, commit, more)
}

func TestProblemsAreToldItemByItem(t *testing.T) {
	for name, c := range map[string]struct {
		text     string
		passages int
		problems []string
	}{
		"a path outside":           {one(reading("passage-1", "../../etc/passwd", "") + "," + reading("passage-2", "a.go", "")), 1, []string{"chapters[0].passages[0] “P”: the path \"../../etc/passwd\" leads out"}},
		"an absolute path":         {one(reading("passage-1", "/etc/passwd", "")), 0, []string{"leads out of the repository"}},
		"ids of another kind":      {one(reading("7", "a.go", "") + "," + reading("passage-2", "b.go", `,"needs":["7"]`)), 2, []string{`the id "7" cannot be used`}},
		"the same id twice":        {one(reading("passage-1", "a.go", "") + "," + reading("passage-1", "b.go", "")), 1, []string{"there is a passage with this id already"}},
		"a need of nothing":        {one(reading("passage-1", "a.go", `,"needs":["passage-9"]`)), 1, []string{`it needs "passage-9", which is not in the document`}},
		"a kind that is not known": {one(strings.Replace(reading("passage-1", "a.go", ""), `"file"`, `"dance"`, 1)), 0, []string{`cannot be of the kind "dance"`}},
		"a pair of one":            {one(strings.Replace(reading("passage-1", "a.go", ""), `"file"`, `"pair"`, 1)), 0, []string{"needs another side"}},
		"nothing to try":           {one(strings.Replace(reading("passage-1", "a.go", ""), `"file"`, `"try"`, 1)), 0, []string{"needs something to do"}},
		"no id":                    {one(reading("", "a.go", "")), 0, []string{"needs an id"}},
		"a field of tomorrow":      {strings.Replace(one(reading("passage-1", "a.go", "")), `"ideas"`, `"music":[],"ideas"`, 1), 1, []string{`field "music" is not known`}},
		"a script in a text":       {one(reading("passage-1", "a.go", `,"text":"<script>alert(1)</script>"`)), 1, nil},
		"too many minutes":         {one(reading("passage-1", "a.go", "") + "," + strings.Replace(reading("passage-2", "a.go", ""), `"minutes":3`, `"minutes":100000`, 1)), 1, []string{"minutes go from 0 to 600"}},
		"a title of 5,000":         {one(strings.Replace(reading("passage-1", "a.go", ""), `"title":"P"`, `"title":"`+strings.Repeat("x", 5000)+`"`, 1)), 0, []string{"the text has 5000 characters"}},
	} {
		t.Run(name, func(t *testing.T) {
			s, problems, err := document.Read([]byte(c.text), document.Setting{})
			require.NoError(t, err)
			assert.Len(t, s.Passages, c.passages)
			require.Len(t, problems, len(c.problems), "%v", problems)
			for i, want := range c.problems {
				assert.Contains(t, problems[i].Where+": "+problems[i].What, want)
			}
		})
	}
}

func TestWhatIsNoPlanIsRefused(t *testing.T) {
	whole := string(written(t, some(t)))
	for text, want := range map[string]string{
		"":                   "it is empty",
		whole[:len(whole)/2]: "it is cut short",
		"A plan":             "neither JSON nor Markdown",
		"{}":                 "does not say that it is a plan",
		strings.Replace(whole, "juxtagram-plan/1", "juxtagram-plan/9", 1): `this version reads "juxtagram-plan/1"`,
		strings.Replace(whole, "juxtagram-plan/1", "minutes", 1):          "which is no plan",
		strings.Replace(whole, `"budget": 90`, `"budget": "soon"`, 1):     "it cannot be read",
	} {
		_, _, err := document.Read([]byte(text), document.Setting{})
		var refused *document.Unreadable
		require.ErrorAs(t, err, &refused)
		assert.Contains(t, refused.Reason, want)
	}
}

func TestAHundredThousandPassages(t *testing.T) {
	list := make([]string, 100_000)
	for i := range list {
		list[i] = reading(fmt.Sprintf("passage-%d", i), "a.go", "")
	}
	s, problems, err := document.Read([]byte(one(strings.Join(list, ","))), document.Setting{})
	require.NoError(t, err)
	assert.Len(t, s.Passages, plan.MaxPassages)
	last := problems[len(problems)-1]
	assert.Contains(t, last.What, "94500 more problems")
	assert.Contains(t, problems[0].What, "make another plan")
}

func TestAHundredThousandPassagesInMarkdown(t *testing.T) {
	var b strings.Builder
	b.WriteString("# T\n\n## C\n")
	for i := range 100_000 {
		fmt.Fprintf(&b, "\n### %d. P\n\n[a](a.go) · 1 min\n", i+1)
	}
	s, problems, err := document.Read([]byte(b.String()), document.Setting{Commit: commit})
	require.NoError(t, err)
	assert.Len(t, s.Passages, plan.MaxPassages)
	assert.Contains(t, problems[len(problems)-1].What, "more problems of the same kinds")
}

func FuzzRead(f *testing.F) {
	f.Add(written(f, some(f)))
	f.Add([]byte(one(reading("passage-1", "a.go", `,"needs":["passage-1","7"]`) + "," + reading("7", "../x", ""))))
	f.Fuzz(func(t *testing.T, content []byte) {
		s, _, err := document.Read(content, document.Setting{})
		if err != nil {
			return
		}
		first := written(t, s)
		again, problems, err := document.Read(first, document.Setting{})
		require.NoError(t, err)
		assert.Empty(t, problems, "what was taken is a plan")
		assert.Equal(t, string(first), string(written(t, again)))
	})
}
