package survey_test

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/demo"
	"juxtagram/survey"
)

var (
	ctx    = context.Background()
	update = flag.Bool("update", false, "rewrite golden files")
)

func run(t *testing.T, g *repo.Git, pin string, m survey.Memory) *survey.Result {
	t.Helper()
	commit, err := g.Resolve(ctx, pin)
	require.NoError(t, err)
	r, err := survey.Run(ctx, g, survey.Options{Commit: commit}, m, &survey.Quiet{})
	require.NoError(t, err)
	return r
}

func document(t *testing.T, r *survey.Result, about survey.About) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, survey.Describe(r, about).Write(&b))
	return b.Bytes()
}

func demoGit(t *testing.T) *repo.Git {
	dir := filepath.Join(t.TempDir(), "demo.git")
	require.NoError(t, demo.Build(ctx, dir))
	return repo.At(dir)
}

func validate(t *testing.T, doc []byte) {
	t.Helper()
	schema, err := jsonschema.NewCompiler().Compile("../docs/formats/survey.schema.json")
	require.NoError(t, err)
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(doc))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(v))
}

func TestTheDemosDocument(t *testing.T) {
	g := demoGit(t)
	about := survey.About{Source: "marshgauge.git", Ref: "v1.4.0", People: true}
	whole := func() []byte {
		memory, err := survey.NewScratch(t.TempDir())
		require.NoError(t, err)
		about.Details = func(key survey.FactKey) ([]byte, error) { return memory.Details(ctx, key) }
		r := run(t, g, "v1.4.0", memory)
		about.Whole, err = r.Whole(ctx, memory, true)
		require.NoError(t, err)
		doc := document(t, r, about)
		require.NoError(t, memory.Close())
		return doc
	}
	doc := whole()
	validate(t, doc)
	assert.True(t, string(doc) == string(whole()), "the same input gives the same bytes")
	golden := "testdata/marshgauge.json"
	if *update {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(golden, doc, 0o644))
	}
	want, err := os.ReadFile(golden)
	require.NoError(t, err)
	assert.True(t, string(want) == string(doc), "the document of the demo has changed: run make golden, and read the difference")
}

func TestTimeAndPeopleAreLeftOutOnRequest(t *testing.T) {
	r := run(t, demoGit(t), "v1.4.0", survey.Forget{})
	doc := document(t, r, survey.About{Source: "x", At: time.Unix(1, 0), Timings: map[string]int64{"tree": 1}})
	validate(t, doc)
	assert.False(t, strings.Contains(string(doc), `"email"`), "no address of anybody")
	assert.Contains(t, string(doc), "surveyed_at")
	assert.Contains(t, string(doc), `"timings"`)
}

// hostile is a repository with every file that is hard to read.
func hostile(t *testing.T) *repotest.Repo {
	r := repotest.New(t)
	r.Write(
		"new\nline.go", "package a // TODO: x\n", "quo\"te.py", "# FIXME: y\n", "bad\xff.c", "/* BUG: z */\n", strings.Repeat("n", 250), "long name\n",
		"bin.dat", "\x00\x01\x02", "invalid.go", "package \xff\n", "latin1.c", "#include \"caf\xe9.h\"\nint f(void) { return 1; }\n", "crlf.sh", "#!/bin/sh\r\n# TODO: crlf\r\n", "empty.py", "", "one-line.js", "x("+strings.Repeat("1,", 1<<18)+")", "five-mb-line.js", "x("+strings.Repeat("1,", 5<<19)+")",
		"package.json", "{ not json", "README", "No extension\n", "nested/deep/README.rst", "Title\n",
	).Commit("odd files")
	huge := filepath.Join(r.Dir, "huge.txt")
	require.NoError(t, os.WriteFile(huge, nil, 0o644))
	require.NoError(t, os.Truncate(huge, 200<<20))
	require.NoError(t, os.Symlink("/etc/passwd", filepath.Join(r.Dir, "link")))
	r.Commit("a large one and a link")
	r.Git("update-index", "--add", "--cacheinfo", "160000,"+strings.Repeat("1", 40)+",module")
	r.Git("commit", "-q", "-m", "a submodule")
	return r
}

func TestHostileFilesAreToldNotFailed(t *testing.T) {
	memory, err := survey.NewScratch(t.TempDir())
	require.NoError(t, err)
	res := run(t, hostile(t).Read(), "main", memory)
	w, err := res.Whole(ctx, memory, true)
	require.NoError(t, err)
	doc := document(t, res, survey.About{Source: "x", People: true, Whole: w, Details: func(key survey.FactKey) ([]byte, error) { return memory.Details(ctx, key) }})
	require.NoError(t, memory.Close())
	validate(t, doc)
	var d survey.Document
	require.NoError(t, json.Unmarshal(doc, &d))
	files := map[string]survey.DocFile{}
	for _, f := range d.Files {
		files[f.Path] = f
	}
	assert.True(t, files["bad%FF.c"].PathEscaped)
	assert.Equal(t, "BUG", files["bad%FF.c"].Tagged[0].Word)
	assert.Equal(t, "TODO", files["new\nline.go"].Tagged[0].Word)
	assert.Equal(t, 2, files["crlf.sh"].Tagged[0].Line)
	assert.Equal(t, "TODO: crlf", files["crlf.sh"].Tagged[0].Text)
	assert.Equal(t, "larger than 4 MB", files["huge.txt"].DepthReason)
	assert.Equal(t, int64(200<<20), *files["huge.txt"].Size)
	assert.True(t, files["bin.dat"].Binary)
	assert.Contains(t, files["one-line.js"].DepthReason, "100 kB")
	assert.Contains(t, files["five-mb-line.js"].DepthReason, "4 MB")
	assert.Equal(t, "symlink", files["link"].Mode)
	assert.Equal(t, "submodule", files["module"].Mode)
	assert.Nil(t, files["module"].Size)
	assert.Equal(t, 0, files["empty.py"].Lines.Total)
	limits := fmt.Sprint(d.Limits)
	for _, part := range []string{"1 submodule listed, not fetched", "1 symbolic link listed", "larger than 4 MB", "binary", "not readable as JSON"} {
		assert.Contains(t, limits, part)
	}
}

func TestSubfolder(t *testing.T) {
	g := demoGit(t)
	commit, err := g.Resolve(ctx, "v1.4.0")
	require.NoError(t, err)
	r, err := survey.Run(ctx, g, survey.Options{Commit: commit, Subfolder: "firmware/port"}, survey.Forget{}, &survey.Quiet{})
	require.NoError(t, err)
	assert.Len(t, r.Files, 3)
	assert.Contains(t, fmt.Sprint(r.Limits), "limited to firmware/port")
	_, err = survey.Run(ctx, g, survey.Options{Commit: commit, Subfolder: "nowhere"}, survey.Forget{}, &survey.Quiet{})
	assert.ErrorContains(t, err, `"nowhere" is not in commit`)
}

// keeper is a memory that counts what is computed anew.
type keeper struct {
	survey.Forget
	mu      sync.Mutex
	facts   map[survey.FactKey]*facts.Facts
	commits map[string]*history.Commit
	pins    []string
	newFact int
	newCom  int
}

func (k *keeper) Facts(_ context.Context, keys []survey.FactKey) (map[survey.FactKey]*facts.Facts, error) {
	return k.facts, nil
}

func (k *keeper) KeepFacts(_ context.Context, found map[survey.FactKey]*facts.Facts) error {
	k.mu.Lock()
	defer k.mu.Unlock()
	for key, f := range found {
		k.facts[key] = f
		k.newFact++
	}
	return nil
}

func (k *keeper) History(context.Context) (history.Known, error) {
	return history.Known{Pins: k.pins, Commits: k.commits}, nil
}

func (k *keeper) KeepHistory(_ context.Context, pins []string, commits []*history.Commit) error {
	for _, c := range commits {
		k.commits[c.ID] = c
		k.newCom++
	}
	k.pins = append(k.pins, pins...)
	return nil
}

func TestASecondSurveyComputesOnlyWhatIsNew(t *testing.T) {
	r := repotest.New(t)
	r.Write("a.go", "package a\n", "b.go", "package b // TODO: one\n", "go.mod", "module x\n", "tool", "#!/bin/sh\n# FIXME: two\n").Commit("one")
	r.Write("c.go", "package c\n").Commit("two")
	k := &keeper{facts: map[survey.FactKey]*facts.Facts{}, commits: map[string]*history.Commit{}}
	run(t, r.Read(), "main", k)
	assert.Equal(t, 5, k.newFact)
	assert.Equal(t, 2, k.newCom)
	k.newFact, k.newCom = 0, 0
	r.Write("a.go", "package a // NOTE: new\n").Commit("three")
	got := run(t, r.Read(), "main", k)
	assert.Equal(t, 1, k.newFact, "exactly one blob is read for its facts")
	assert.Equal(t, 1, k.newCom)
	fresh := run(t, r.Read(), "main", survey.Forget{})
	about := survey.About{Source: "x", People: true}
	assert.Equal(t, string(document(t, fresh, about)), string(document(t, got, about)), "remembered or not, the document is the same")
}

type stopper struct {
	survey.Quiet
	at     string
	cancel context.CancelFunc
	seen   []string
}

func (s *stopper) Done(ctx context.Context, stage string, r *survey.Result) error {
	s.seen = append(s.seen, stage)
	if stage == s.at {
		s.cancel()
	}
	return nil
}

func TestCancelEndsAfterTheStage(t *testing.T) {
	g := demoGit(t)
	commit, err := g.Resolve(ctx, "main")
	require.NoError(t, err)
	for _, at := range []string{survey.StageTree, survey.StageChanges, survey.StageContents} {
		stopped, cancel := context.WithCancel(ctx)
		s := &stopper{at: at, cancel: cancel}
		_, err := survey.Run(stopped, g, survey.Options{Commit: commit}, survey.Forget{}, s)
		assert.True(t, errors.Is(err, context.Canceled), "%v", err)
		assert.Equal(t, at, s.seen[len(s.seen)-1])
		cancel()
	}
}

func TestStagesAreListed(t *testing.T) {
	var names []string
	for _, s := range survey.Stages {
		names = append(names, s.Name)
		assert.NotEmpty(t, s.Title)
		assert.NotEmpty(t, s.Unit)
	}
	s := &stopper{cancel: func() {}}
	g := demoGit(t)
	commit, err := g.Resolve(ctx, "main")
	require.NoError(t, err)
	_, err = survey.Run(ctx, g, survey.Options{Commit: commit}, survey.Forget{}, s)
	require.NoError(t, err)
	assert.Equal(t, names, s.seen)
}
