package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/core/plan/document"
	"juxtagram/core/plan/draft"
	"juxtagram/core/plan/health"
	"juxtagram/core/reader"
	"juxtagram/core/repo/repotest"
	"juxtagram/core/sandbox"
)

func TestMain(m *testing.M) {
	sandbox.Main(reader.Kind, sandbox.Tasks)
	os.Exit(m.Run())
}

// run runs a command line, and gives its exit status and what it wrote to --out.
func run(t *testing.T, args ...string) (status int, out string) {
	t.Helper()
	name := filepath.Join(t.TempDir(), "out")
	root := rootCommand()
	root.SetArgs(append(args, "--out", name))
	if err := root.ExecuteContext(t.Context()); err != nil {
		status = exitStatus(err)
	}
	content, err := os.ReadFile(name)
	if err != nil && !os.IsNotExist(err) {
		require.NoError(t, err)
	}
	return status, string(content)
}

const gauge = "package gauge\n\n// Level is centimetres above datum.\nfunc Level() int {\n\treturn 4\n}\n\nfunc Send() {\n\tdial()\n}\n"

// tracked is a repository with a plan in it, and the commit the plan is read at.
func tracked(t *testing.T) (r *repotest.Repo, at string) {
	t.Helper()
	r = repotest.New(t)
	at = r.Write("gauge.go", gauge, "other.go", "package gauge\n\nvar x = 1\n", "README.md", "# Gauge\n").Commit("one")
	s := plan.New()
	add := func(id string, target plan.Target) {
		target.Commit = at
		require.NoError(t, s.Apply(plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: id, Chapter: "chapter-1", Order: strings.TrimPrefix(id, "passage-"), Title: id, Minutes: 2, Target: target}}))
	}
	require.NoError(t, s.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", To: "How to gauge"}))
	require.NoError(t, s.Apply(plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-1", Order: "1", Title: "One"}}))
	add("passage-1", plan.Target{Kind: plan.Symbol, Path: "gauge.go", Start: 8, End: 10, Symbol: "Send"})
	add("passage-2", plan.Target{Kind: plan.File, Path: "other.go"})
	add("passage-3", plan.Target{Kind: plan.File, Path: "README.md"})
	require.NoError(t, os.MkdirAll(filepath.Join(r.Dir, "docs"), 0o755))
	for name, write := range map[string]func(*bytes.Buffer) error{
		"docs/gauge.plan.json": func(b *bytes.Buffer) error { return document.Write(b, s) },
		"docs/gauge.plan.md":   func(b *bytes.Buffer) error { return document.WriteMarkdown(b, s, "docs") },
	} {
		var b bytes.Buffer
		require.NoError(t, write(&b))
		require.NoError(t, os.WriteFile(filepath.Join(r.Dir, name), b.Bytes(), 0o644))
	}
	return r, at
}

func TestCheckTellsWhatIsStale(t *testing.T) {
	r, at := tracked(t)
	for _, file := range []string{"docs/gauge.plan.json", "docs/gauge.plan.md"} {
		status, out := run(t, "plan", "check", "-r", r.Dir, filepath.Join(r.Dir, file))
		assert.Zero(t, status, out)
		assert.Contains(t, out, "3 as they were, 0 moved, 0 changed, 0 gone")
	}

	r.Write("gauge.go", strings.Replace(gauge, "// Level", "// Level is what the float says.\n// It", 1)).Commit("two")
	file := filepath.Join(r.Dir, "docs/gauge.plan.json")
	status, out := run(t, "plan", "check", "-r", r.Dir, file)
	assert.Zero(t, status, "what only moved is not stale")
	assert.Contains(t, out, "gauge.go:8-10 → gauge.go:9-11")
	status, _ = run(t, "plan", "check", "-r", r.Dir, "--strict", file)
	assert.Equal(t, 3, status)

	r.Git("rm", "-q", "other.go")
	now := r.Write("README.md", "# Gauge\n\nMore.\n").Commit("three")
	status, out = run(t, "plan", "check", "-r", r.Dir, file)
	assert.Equal(t, 3, status)
	assert.Contains(t, out, fmt.Sprintf("How to gauge at %.10s: 0 as they were, 1 moved, 1 changed, 1 gone", now))
	assert.Contains(t, out, "other.go: its file was taken away in "+now[:10])
	assert.Contains(t, out, "README.md: all of it is there, with more")
	status, out = run(t, "plan", "check", "-r", r.Dir, "--at", at, file)
	assert.Zero(t, status, out)

	_, sarif := run(t, "plan", "check", "-r", r.Dir, "--alike", "90", "--as", "sarif", file)
	assert.Equal(t, 1, strings.Count(sarif, `"level": "warning"`), "what has only more in it is excepted, what is gone is not")

	_, out = run(t, "plan", "check", "-r", r.Dir, "--as", "json", file)
	var checks []health.Check
	require.NoError(t, json.Unmarshal([]byte(out), &checks))
	assert.Equal(t, health.Counts{Moved: 1, Changed: 1, Gone: 1}, checks[0].Counts)

	_, out = run(t, "plan", "check", "-r", r.Dir, "--as", "sarif", file)
	var log struct {
		Version string
		Runs    []struct {
			Results []struct {
				RuleID    string
				Level     string
				Locations []struct {
					PhysicalLocation struct {
						ArtifactLocation struct{ URI string }
						Region           struct{ StartLine int }
					}
				}
			}
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &log))
	assert.Equal(t, "2.1.0", log.Version)
	require.Len(t, log.Runs[0].Results, 3)
	assert.Equal(t, "note", log.Runs[0].Results[0].Level)
	assert.Equal(t, 9, log.Runs[0].Results[0].Locations[0].PhysicalLocation.Region.StartLine)
	assert.Equal(t, "passage-gone", log.Runs[0].Results[1].RuleID)

	for _, kind := range []string{"json", "md"} {
		status, _ = run(t, "plan", "check", "-r", r.Dir, "--bring", filepath.Join(r.Dir, "docs/gauge.plan."+kind))
		assert.Equal(t, 3, status)
		status, out = run(t, "plan", "check", "-r", r.Dir, "--strict", filepath.Join(r.Dir, "docs/gauge.plan."+kind))
		assert.Equal(t, 3, status)
		assert.Contains(t, out, "2 as they were, 0 moved, 0 changed, 1 gone", "what was brought along is as it was")
	}
}

func TestCheckRefusesWhatItCannotRead(t *testing.T) {
	r, at := tracked(t)
	file := filepath.Join(r.Dir, "docs/gauge.plan.json")
	whole, err := os.ReadFile(file)
	require.NoError(t, err)
	write := func(text string) string {
		name := filepath.Join(t.TempDir(), "p.plan.json")
		require.NoError(t, os.WriteFile(name, []byte(text), 0o644))
		return name
	}
	for name, args := range map[string][]string{
		"cut short":       {write(string(whole[:len(whole)/2]))},
		"a later format":  {write(strings.Replace(string(whole), "plan/1", "plan/2", 1))},
		"partly":          {write(strings.Replace(string(whole), `"README.md"`, `"../README.md"`, 1))},
		"no file":         {filepath.Join(t.TempDir(), "nowhere.plan.md")},
		"no repository":   {"-r", t.TempDir(), file},
		"no such commit":  {"-r", r.Dir, "--at", "nowhere", file},
		"--bring, partly": {"--bring", write(strings.Replace(string(whole), `"README.md"`, `"../README.md"`, 1))},
	} {
		t.Run(name, func(t *testing.T) {
			status, _ := run(t, append([]string{"plan", "check", "-r", r.Dir}, args...)...)
			assert.Equal(t, 2, status)
		})
	}
	status, out := run(t, "plan", "check", "-r", r.Dir, write(strings.Replace(string(whole), "How to gauge", `How \u001b[2J to\u202e gauge`, 1)))
	assert.Zero(t, status)
	assert.Contains(t, out, "How \uFFFD[2J to⟦RLO⟧ gauge", "a title steers no terminal")
	lost := write(strings.ReplaceAll(string(whole), at, strings.Repeat("0123456789", 4)))
	status, out = run(t, "plan", "check", "-r", r.Dir, lost)
	assert.Equal(t, 3, status)
	assert.Contains(t, out, "the repository does not have the commit it is read at; perhaps README.md")
}

func TestExportTurnsOneFormIntoTheOther(t *testing.T) {
	r, _ := tracked(t)
	want, err := os.ReadFile(filepath.Join(r.Dir, "docs/gauge.plan.json"))
	require.NoError(t, err)
	status, got := run(t, "plan", "export", "--as", "json", filepath.Join(r.Dir, "docs/gauge.plan.md"))
	assert.Zero(t, status)
	assert.Equal(t, string(want), got)
	_, got = run(t, "plan", "export", "--folder", "docs", filepath.Join(r.Dir, "docs/gauge.plan.json"))
	assert.Contains(t, got, "](../gauge.go#L8-L10)")
}

func TestDraftsForEveryGoal(t *testing.T) {
	r, at := tracked(t)
	r.Write("other.go", "package gauge\n\nvar x = Level()\n").Commit("two")
	for name, args := range map[string][]string{
		"Understand the whole": nil, "Change Send": {"--goal", "symbol", "--about", "gauge.go:8:Send"}, "Pursue: centimetres above": {"--goal", "question", "--about", "centimetres above"},
		"What changed since " + at[:10]: {"--goal", "since", "--about", at},
	} {
		status, out := run(t, append([]string{"plan", "draft", "-q", "-m", "15", r.Dir}, args...)...)
		assert.Zero(t, status, name)
		drafted := filepath.Join(t.TempDir(), "drafted.plan.json")
		require.NoError(t, os.WriteFile(drafted, []byte(out), 0o644))
		state, problems, err := document.Read([]byte(out), document.Setting{})
		require.NoError(t, err)
		assert.Empty(t, problems)
		assert.Equal(t, name, state.Title)
		status, out = run(t, "plan", "check", "-r", r.Dir, drafted)
		assert.Zero(t, status)
		assert.Contains(t, out, fmt.Sprintf("%d as they were, 0 moved", len(state.Passages)))
	}
	_, markdown := run(t, "plan", "draft", "-q", "-m", "15", "--as", "markdown", r.Dir)
	assert.Contains(t, markdown, "](gauge.go)")
	var proposal draft.Proposal
	_, out := run(t, "plan", "draft", "-q", "-m", "15", "--as", "proposal", r.Dir)
	require.NoError(t, json.Unmarshal([]byte(out), &proposal))
	assert.NotZero(t, proposal.Figures.Minutes)
	for _, args := range [][]string{{"--goal", "since"}, {"--goal", "since", "--about", "nowhere"}, {"--goal", "question", "--about", "x"}, {"--goal", "folder", "--about", "nowhere"}} {
		status, _ := run(t, append([]string{"plan", "draft", "-q", r.Dir}, args...)...)
		assert.Equal(t, 2, status, "%v", args)
	}
}
