package leads_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/recipe"
	"juxtagram/core/role"
)

func goMain(path string) leads.File {
	return leads.File{Path: path, Birth: path, Role: role.Source, Language: "Go", Facts: &facts.Facts{Starts: []lang.Start{{Kind: "program", Line: 7, Evidence: "package main with func main"}}}}
}

func TestEntryPoints(t *testing.T) {
	files := []leads.File{
		goMain("cmd/tool/main.go"), goMain("svc/main.go"), {Path: "svc/go.mod", Role: role.Build}, {Path: "go.mod", Role: role.Build},
		{Path: "src/lib.rs", Role: role.Source, Language: "Rust", Facts: &facts.Facts{Starts: []lang.Start{{Kind: "program", Line: 1}}}},
		{Path: "src/bin/x.rs", Role: role.Source, Language: "Rust", Facts: &facts.Facts{Starts: []lang.Start{{Kind: "program", Line: 1}}}},
		{Path: "run.sh", Role: role.Source, Language: "Shell", Executable: true, Facts: &facts.Facts{Starts: []lang.Start{{Kind: "script", Line: 1}}}},
		{Path: "src/pkg/cli.py", Role: role.Source, Language: "Python", Facts: &facts.Facts{}},
	}
	got := map[string]leads.EntryPoint{}
	for _, e := range leads.EntryPoints(files, []recipe.Declared{
		{Kind: "command", Name: "tool", Target: "pkg/cli.py", Path: "pyproject.toml", Line: 4, Evidence: "declared"},
		{Kind: "library", Name: "lost", Target: "dist/index.js", Path: "package.json", Line: 2, Evidence: "main leads to dist/index.js"},
	}) {
		got[e.Kind+" "+e.Name] = e
	}
	require.Len(t, got, 6, "a function main in a Rust library is none: %v", got)
	assert.Equal(t, "go run ./cmd/tool", got["program tool"].How)
	assert.Equal(t, "cd svc && go run .", got["program svc"].How)
	assert.Equal(t, "./run.sh", got["script run"].How)
	assert.Equal(t, "src/pkg/cli.py", got["command tool"].Path, "found below src")
	assert.Equal(t, "package.json", got["library lost"].Path)
	assert.Contains(t, got["library lost"].Evidence, "not in the repository")
	assert.Greater(t, got["program svc"].Weight, got["library lost"].Weight)
}

func tagged(path, birth string, line int, text string) leads.File {
	return leads.File{Path: path, Birth: birth, Role: role.Source, Facts: &facts.Facts{Tagged: []facts.TaggedComment{{Word: "TODO", Text: text, Line: line, EndLine: line}}}}
}

func TestIdsOutliveEditsAndRenames(t *testing.T) {
	id := func(files ...leads.File) []string {
		var out []string
		for _, l := range leads.All(leads.Input{Files: files, Hotspots: []history.Hotspot{}}) {
			out = append(out, l.ID)
		}
		return out
	}
	before := id(tagged("a.go", "a.go", 10, "TODO: mend"))
	assert.Equal(t, before, id(tagged("a.go", "a.go", 99, "TODO:   mend")), "moved down and reformatted")
	assert.Equal(t, before, id(tagged("sub/b.go", "a.go", 10, "TODO: mend")), "renamed")
	assert.NotEqual(t, before, id(tagged("a.go", "a.go", 10, "TODO: other")))
	twice := tagged("a.go", "a.go", 10, "TODO: mend")
	twice.Facts.Tagged = append(twice.Facts.Tagged, facts.TaggedComment{Word: "TODO", Text: "TODO: mend", Line: 30, EndLine: 30})
	two := id(twice)
	require.Len(t, two, 2)
	assert.NotEqual(t, two[0], two[1], "equal ones are told apart by their order")
}

func TestDetectorsAreDocumented(t *testing.T) {
	kinds := map[string]bool{}
	for _, d := range leads.Detectors {
		assert.NotEmpty(t, d.Doc)
		assert.False(t, kinds[d.Kind])
		kinds[d.Kind] = true
	}
}

func TestBestFirst(t *testing.T) {
	got := leads.All(leads.Input{Files: []leads.File{goMain("main.go"), tagged("z.go", "z.go", 1, "TODO: x")},
		EntryPoints: leads.EntryPoints([]leads.File{goMain("main.go")}, nil), Hotspots: []history.Hotspot{{Path: "main.go", Score: 0.7, Reason: "r"}}})
	var kinds []string
	for _, l := range got {
		kinds = append(kinds, l.Kind)
	}
	assert.Equal(t, []string{"entry-point", "hotspot", "tagged-comment"}, kinds)
	assert.Nil(t, got[1].Line, "a hotspot is a file as a whole")
	assert.Equal(t, "TODO: x", leads.Excerpt(facts.TaggedComment{Word: "TODO", Text: "first\nTODO: x\nlast"}))
}
