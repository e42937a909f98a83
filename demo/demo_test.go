package demo_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/core/repo"
	"juxtagram/demo"
)

var ctx = context.Background()

func build(t *testing.T) *repo.Git {
	dir := filepath.Join(t.TempDir(), "m.git")
	require.NoError(t, demo.Build(ctx, dir))
	return repo.At(dir)
}

func TestTheSameIdsEachTime(t *testing.T) {
	first, err := build(t).Resolve(ctx, "v1.4.0")
	require.NoError(t, err)
	second, err := build(t).Resolve(ctx, "v1.4.0")
	require.NoError(t, err)
	assert.Equal(t, first, second)
}

func TestTheDemoIsWhatItPromises(t *testing.T) {
	g := build(t)
	commits, err := g.Commits(ctx, "main", nil, 0)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(commits), 150)
	merges := 0
	for _, c := range commits {
		if len(c.Parents) > 1 {
			merges++
		}
	}
	assert.GreaterOrEqual(t, merges, 3)
	span := commits[0].CommitTime - commits[len(commits)-1].CommitTime
	assert.Greater(t, span, int64(2*364*86400), "two years")
	refs, err := g.Refs(ctx)
	require.NoError(t, err)
	tags := 0
	for _, r := range refs {
		if r.Kind == "tag" {
			tags++
		}
	}
	assert.GreaterOrEqual(t, tags, 6)
}

// The history must end in the very files that lie beside the story.
func TestTheStoryEndsInTheFinalFiles(t *testing.T) {
	g := build(t)
	files, err := demo.Files()
	require.NoError(t, err)
	entries, err := g.Tree(ctx, "main", "")
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(entries), 60)
	assert.Len(t, entries, len(files))
	var ids []string
	for _, e := range entries {
		ids = append(ids, e.Blob)
	}
	i := 0
	require.NoError(t, g.EachBlob(ctx, ids, func(_ string, content []byte, _ error) error {
		assert.Equal(t, string(files[entries[i].Path]), string(content), entries[i].Path)
		i++
		return nil
	}))
}

// lore is what the demo's history says.
type lore struct{ blobs *repo.Blobs }

func (l lore) Lines(commit, path string) int {
	id, err := l.blobs.Find(commit, path)
	if err != nil {
		return -1
	}
	content, err := l.blobs.Read(id, 1<<20)
	if err != nil {
		return -1
	}
	return strings.Count(string(content), "\n")
}

func (lore) Generated(_, path string) string {
	if strings.HasPrefix(path, "third_party/") || strings.Contains(path, "_table.h") {
		return "made"
	}
	return ""
}

func TestThePlansHaveNoProblems(t *testing.T) {
	g := build(t)
	blobs := g.Blobs()
	defer blobs.Close()
	resolve := func(tag string) (string, error) { return g.Resolve(ctx, tag) }
	pin, err := resolve("v1.4.0")
	require.NoError(t, err)
	plans, err := demo.Plans(pin, resolve)
	require.NoError(t, err)
	require.Len(t, plans, 3)
	kinds := map[string]int{}
	for _, p := range plans {
		assert.Empty(t, p.State.Faults(lore{blobs}), p.State.Title)
		assert.NotEmpty(t, p.Note)
		for _, c := range p.State.InOrder() {
			assert.NotEmpty(t, c.Intent, c.Title)
			for _, x := range c.Passages {
				kinds[x.Target.Kind]++
			}
		}
	}
	for _, kind := range []string{plan.File, plan.Lines, plan.Symbol, plan.Folder, plan.Pair, plan.Comparison, plan.Extract, plan.Way, plan.Planned, plan.Try} {
		assert.NotZero(t, kinds[kind], "the demo shows a passage of the kind %s", kind)
	}
}

// The demo's code compiles and its tests run, with the tools this machine has.
func TestTheDemosCodeWorks(t *testing.T) {
	dir := t.TempDir()
	files, err := demo.Files()
	require.NoError(t, err)
	for p, content := range files {
		to := filepath.Join(dir, p)
		require.NoError(t, os.MkdirAll(filepath.Dir(to), 0o755))
		require.NoError(t, os.WriteFile(to, content, 0o755))
	}
	tsc, err := filepath.Abs("../web/node_modules/.bin/tsc")
	require.NoError(t, err)
	trials := map[string]string{}
	plans, err := demo.Plans(strings.Repeat("1", 40), func(string) (string, error) { return strings.Repeat("2", 40), nil })
	require.NoError(t, err)
	for _, p := range plans {
		for _, x := range p.State.Passages {
			if x.Target.Try != nil {
				trials[p.State.Title] = x.Target.Try.Commands
			}
		}
	}
	for _, c := range []struct{ name, in, need, command string }{
		{"firmware", "firmware", "make", "make all test"},
		{"collector", "collector", "go", "GOFLAGS=-mod=mod GOWORK=off go vet ./... && GOFLAGS=-mod=mod GOWORK=off go test ./..."},
		{"predictor", "predict", "python3", "python3 -m unittest discover -s tests"},
		{"board", "board", "node", "node " + tsc + " -p . --outDir build && node --test build/"},
		{"generated files", ".", "python3", "python3 tools/gen_crc.py | cmp - firmware/crc_table.h && python3 tools/gen_tides.py | cmp - firmware/tide_table.h"},
		{"levelling", "levelling", "python3", "./level_run.py saltern.csv"},
		{"trial of a gauge", "firmware", "make", trials["The firmware in an hour"] + `; test "$(od -An -tx1 /tmp/gauge.out | head -c 9)" = " 4d 00 07"; rm /tmp/gauge.out`},
		{"trial of the tests", "firmware", "make", trials["Where does a reading get lost?"]},
		{"shell", ".", "sh", "for f in tools/*.sh .ci/run.sh; do bash -n $f || exit 1; done"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if _, err := exec.LookPath(c.need); err != nil {
				t.Skipf("%s is not on this machine", c.need)
			}
			if strings.Contains(c.command, tsc) {
				if _, err := os.Stat(tsc); err != nil {
					t.Skip("the web application's tools are not installed")
				}
			}
			cmd := exec.Command("sh", "-c", c.command)
			cmd.Dir = filepath.Join(dir, c.in)
			out, err := cmd.CombinedOutput()
			require.NoError(t, err, string(out))
		})
	}
}
