package survey_test

import (
	"bytes"
	"context"
	"fmt"
	"math/rand"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/links"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/core/summary"
	"juxtagram/survey"
)

// rememberer keeps from survey to survey all that a memory may.
type rememberer struct {
	*survey.Scratch
	facts  map[survey.FactKey]*facts.Facts
	links  *links.Snapshot
	listed *survey.Listed
	known  history.Known
}

func remembering(t *testing.T) *rememberer {
	t.Helper()
	scratch, err := survey.NewScratch(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { _ = scratch.Close() })
	return &rememberer{Scratch: scratch, facts: map[survey.FactKey]*facts.Facts{}, known: history.Known{Commits: map[string]*history.Commit{}}}
}

func (m *rememberer) Facts(context.Context, []survey.FactKey) (map[survey.FactKey]*facts.Facts, error) {
	return m.facts, nil
}

func (m *rememberer) KeepFacts(ctx context.Context, found map[survey.FactKey]*facts.Facts) error {
	for k, f := range found {
		m.facts[k] = f
	}
	return m.Scratch.KeepFacts(ctx, found)
}

func (m *rememberer) Links(context.Context, string) (*links.Snapshot, error) { return m.links, nil }

func (m *rememberer) Listed(context.Context, string) (*survey.Listed, error) { return m.listed, nil }

func (m *rememberer) Pins(context.Context) ([]string, error) { return m.known.Pins, nil }

func (m *rememberer) History(context.Context) (history.Known, error) { return m.known, nil }

func (m *rememberer) KeepHistory(_ context.Context, pins []string, commits []*history.Commit) error {
	for _, c := range commits {
		m.known.Commits[c.ID] = c
	}
	m.known.Pins = append(m.known.Pins, pins...)
	return nil
}

// again surveys once more, and keeps links and listing.
func (m *rememberer) again(t *testing.T, g *repo.Git) *survey.Result {
	t.Helper()
	r := run(t, g, "main", m)
	var err error
	m.links, err = links.UnpackSnapshot(r.Snapshot.Pack())
	require.NoError(t, err)
	m.listed = &survey.Listed{Commit: r.Commit}
	for i := range r.Files {
		m.listed.Files = append(m.listed.Files, survey.ListedFile{Entry: r.Files[i].Entry, Size: r.Files[i].Size})
	}
	return r
}

// whole is everything that is told of a repository, as one text.
func whole(t *testing.T, r *survey.Result, m survey.Memory) string {
	t.Helper()
	w, err := r.Whole(ctx, m, true)
	require.NoError(t, err)
	about := survey.About{Source: "x", People: true, Whole: w, Details: func(key survey.FactKey) ([]byte, error) { return m.Details(ctx, key) }}
	return string(document(t, r, about))
}

// TestAllIsTheSameWhetherRememberedOrNot changes a repository at random, and
// compares what a survey tells that remembers with what one tells that does not.
func TestAllIsTheSameWhetherRememberedOrNot(t *testing.T) {
	names := []string{"units", "unit", "gauge", "read_level", "tide", "store"}
	folders := []string{"", "a/", "a/b/", "src/", "c/"}
	random := rand.New(rand.NewSource(3))
	pick := func(list []string) string { return list[random.Intn(len(list))] }
	text := func(ext string) string {
		switch ext {
		case ".py":
			return fmt.Sprintf("from .%s import %s\nimport %s\nfrom a.%s import x\n\n\ndef %s():\n    pass\n", pick(names), pick(names), pick(names), pick(names), pick(names))
		case ".ts":
			return fmt.Sprintf("import { %s } from './%s'\nimport x from '%s'\nexport function %s() {}\n", pick(names), pick(names), pick(names), pick(names))
		case ".go":
			return fmt.Sprintf("package %s\n\nimport \"m.test/a\"\nimport \"m.test/a/b\"\nimport \"other.test/x\"\n\nfunc %s() {}\n", pick([]string{"p", "q"}), pick(names))
		}
		return fmt.Sprintf("#include \"%s.h\"\n#include <%s.h>\nint %s(void);\n", pick(names), pick(names), pick(names))
	}
	exts := []string{".py", ".ts", ".go", ".h"}
	r := repotest.New(t)
	r.Write("go.mod", "module m.test\n", "package.json", "{\"name\": \"m\", \"dependencies\": {\"tide\": \"1\"}}", "README.md", "# M\n\nMeasures.\n").Commit("begin")
	m := remembering(t)
	reused := 0
	for step := range 25 {
		for range 1 + random.Intn(3) {
			ext := pick(exts)
			p := pick(folders) + pick(names) + ext
			if _, err := os.Stat(filepath.Join(r.Dir, p)); err == nil && random.Intn(3) == 0 {
				require.NoError(t, os.Remove(filepath.Join(r.Dir, p)))
				continue
			}
			r.Write(p, text(ext))
		}
		if step%8 == 7 {
			r.Write("go.mod", fmt.Sprintf("module m.test\n\nrequire other.test v1.%d.0\n", step))
		}
		r.Git("add", "-A")
		r.Git("commit", "-q", "--allow-empty", "-m", fmt.Sprint("step ", step))
		got := m.again(t, r.Read())
		reused += len(got.Files) - got.LinksResolved
		fresh := remembering(t)
		require.Equal(t, whole(t, run(t, r.Read(), "main", fresh), fresh), whole(t, got, m), "step %d", step)
	}
	assert.Greater(t, reused, 50, "much is taken over")
	m.listed.Commit = strings.Repeat("1", 40)
	fresh := remembering(t)
	assert.Equal(t, whole(t, run(t, r.Read(), "main", fresh), fresh), whole(t, m.again(t, r.Read()), m), "the listing is of a commit that is there no more")
}

func TestOneChangedFileResolvesOneFile(t *testing.T) {
	r := repotest.New(t)
	r.Write("go.mod", "module m.test\n", "a.go", "package m\n\nimport \"m.test/u\"\n\nvar x = u.ReadLevel()\n", "u/u.go", "package u\n\nfunc ReadLevel() int { return 1 }\n", "b.go", "package m\n\nimport \"fmt\"\n\nvar _ = fmt.Sprint()\n").Commit("one")
	m := remembering(t)
	m.again(t, r.Read())
	before := len(m.facts)
	r.Write("u/u.go", "package u\n\nfunc ReadLevels() int { return 1 }\n").Commit("rename an exported function")
	got := m.again(t, r.Read())
	assert.Equal(t, before+1, len(m.facts), "one blob is parsed")
	assert.Equal(t, 1, got.LinksResolved)
	w, err := got.Whole(ctx, m, true)
	require.NoError(t, err)
	a, err := w.Names.DefinitionAt(w.Find("a.go"), 5, 10)
	require.NoError(t, err)
	require.NotNil(t, a)
	assert.Empty(t, a.Definitions, "the unchanged caller")
	require.NotNil(t, a.Origin)
	assert.Equal(t, []string{"ReadLevels"}, a.Origin.Near)
}

// lineCounts are the lines of every file at a commit.
func lineCounts(t *testing.T, g *repo.Git, r *survey.Result) map[string]int {
	t.Helper()
	out := map[string]int{}
	for i := range r.Files {
		f := &r.Files[i]
		if f.Mode == "submodule" || f.Size <= 0 || f.Size > 1<<20 {
			continue
		}
		content, err := g.Run(ctx, "cat-file", "blob", f.Blob)
		require.NoError(t, err)
		out[f.Path] = facts.CountLines(content)
	}
	return out
}

// checkSentences proves the form of every sentence: it says something, it is
// not said twice, and each line that it names is there.
func checkSentences(t *testing.T, what string, sentences []summary.Sentence, lines map[string]int, folders map[string]bool) {
	t.Helper()
	assert.LessOrEqual(t, len(sentences), 6, what)
	seen := map[string]bool{}
	for _, s := range sentences {
		assert.False(t, seen[s.Text], "%s: said twice: %s", what, s.Text)
		seen[s.Text] = true
		assert.NotEmpty(t, strings.TrimSpace(s.Text), what)
		assert.NotContains(t, s.Text, "%!", what)
		assert.NotEmpty(t, s.Cites, "%s: %s", what, s.Text)
		assert.Contains(t, []summary.Depth{summary.Names, summary.Read, summary.History}, s.Depth)
		for _, c := range s.Cites {
			n, ok := lines[c.Path]
			assert.True(t, ok || folders[c.Path] || c.Line == 0, "%s: %s cites %s", what, s.Text, c.Path)
			assert.LessOrEqual(t, c.Line, max(n, 0), "%s: %s cites %s:%d", what, s.Text, c.Path, c.Line)
		}
	}
}

func TestEverySentenceCitesLinesThatAreThere(t *testing.T) {
	for name, g := range map[string]*repo.Git{"demo": demoGit(t), "hostile": hostile(t).Read()} {
		m := remembering(t)
		r := run(t, g, "main", m)
		w, err := r.Whole(ctx, m, true)
		require.NoError(t, err)
		lines, folders := lineCounts(t, g, r), map[string]bool{".": true}
		told := 0
		for i := range w.Files {
			for dir := filepath.Dir(w.Files[i].Path); dir != "."; dir = filepath.Dir(dir) {
				folders[dir] = true
			}
		}
		for i := range w.Files {
			s, err := w.OfFile(i)
			require.NoError(t, err)
			checkSentences(t, w.Files[i].Path, s, lines, folders)
			told += len(s)
		}
		for d := range folders {
			if d == "." {
				d = ""
			}
			s, err := w.OfFolder(d)
			require.NoError(t, err)
			checkSentences(t, d+"/", s, lines, folders)
			assert.NotEmpty(t, s, d)
		}
		assert.Greater(t, told, 10, name)
	}
}

func TestTheSummariesOfTheDemo(t *testing.T) {
	m := remembering(t)
	r := run(t, demoGit(t), "v1.4.0", m)
	w, err := r.Whole(ctx, m, true)
	require.NoError(t, err)
	var b bytes.Buffer
	require.NoError(t, w.WriteMarkdown(&b, "marshgauge", r.Commit))
	golden := "testdata/summaries.md"
	if *update {
		require.NoError(t, os.WriteFile(golden, b.Bytes(), 0o644))
	}
	want, err := os.ReadFile(golden)
	require.NoError(t, err)
	assert.Equal(t, string(want), b.String())
	none, err := r.Whole(ctx, m, false)
	require.NoError(t, err)
	b.Reset()
	require.NoError(t, none.WriteMarkdown(&b, "marshgauge", r.Commit))
	for _, p := range r.People.List {
		assert.NotContains(t, b.String(), p.Name, "nobody is named")
	}
}

func TestFoldersThatLeanOnEachOther(t *testing.T) {
	r := repotest.New(t)
	r.Write("a/x.py", "from b import y\nimport c.z\n", "b/y.py", "from a import x\n", "c/z.py", "one = 1\n").Commit("one")
	m := remembering(t)
	w, err := run(t, r.Read(), "main", m).Whole(ctx, m, true)
	require.NoError(t, err)
	told := func(folder string) string {
		sentences, err := w.OfFolder(folder)
		require.NoError(t, err)
		var b strings.Builder
		for _, s := range sentences {
			fmt.Fprintln(&b, s.Text, s.Cites)
		}
		return b.String()
	}
	assert.Contains(t, told("a"), "Stands in a circle with `b`: each leans on the other. [{a/x.py 1} {b/y.py 1}]")
	assert.Contains(t, told("a"), "Leans on files in `b` and `c`.")
	assert.Contains(t, told("c"), "Leaned on by files in `a`. [{a/x.py 2}]")
	assert.NotContains(t, told("c"), "circle")
	assert.Equal(t, []int32{0, 1}, w.Cycle(0))
	assert.Empty(t, w.Cycle(2))
	assert.Equal(t, []int{1, 1, 0}, w.Layers)
}
