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
		{Path: "board/src/index.ts", Role: role.Source, Language: "TypeScript", Facts: &facts.Facts{}},
		{Path: "src/pkg/cli.py", Role: role.Source, Language: "Python", Facts: &facts.Facts{}},
	}
	got := map[string]leads.EntryPoint{}
	for _, e := range leads.EntryPoints(files, []recipe.Declared{
		{Kind: "command", Name: "tool", Target: "pkg/cli.py", Path: "pyproject.toml", Line: 4, Evidence: "declared"},
		{Kind: "library", Name: "lost", Target: "dist/index.js", Path: "package.json", Line: 2, Evidence: "main leads to dist/index.js"},
		{Kind: "library", Name: "implied", Target: "index.js", Path: "other/package.json", Line: 1, Evidence: "names no face", Implied: true},
		{Kind: "library", Name: "board", Target: "board/lib/index.js", Path: "board/package.json", Line: 2, Evidence: "main leads to lib/index.js"},
	}, nil) {
		got[e.Kind+" "+e.Name] = e
	}
	assert.Equal(t, "board/src/index.ts", got["library board"].Path, "the source of what is built")
	require.Len(t, got, 7, "a function main in a Rust library is none: %v", got)
	assert.Equal(t, "go run ./cmd/tool", got["program tool"].How)
	assert.Equal(t, "cd svc && go run .", got["program svc"].How)
	assert.Equal(t, "./run.sh", got["script run"].How)
	assert.Equal(t, "src/pkg/cli.py", got["command tool"].Path, "found below src")
	assert.Equal(t, "package.json", got["library lost"].Path)
	assert.Contains(t, got["library lost"].Evidence, "not in the repository")
	assert.Greater(t, got["program svc"].Weight, got["library lost"].Weight)
}

func tagged(path, birth string, line int, text string) leads.File {
	return leads.File{Path: path, Birth: birth, Role: role.Source, Facts: &facts.Facts{Tagged: []facts.TaggedComment{{Word: "TODO", Text: text, Said: text, Line: line, EndLine: line}}}}
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
	twice.Facts.Tagged = append(twice.Facts.Tagged, facts.TaggedComment{Word: "TODO", Text: "TODO: mend", Said: "TODO: mend", Line: 30, EndLine: 30})
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
		EntryPoints: leads.EntryPoints([]leads.File{goMain("main.go")}, nil, nil), Hotspots: []history.Hotspot{{Path: "main.go", Score: 0.7, Reason: "r"}}})
	var kinds []string
	for _, l := range got {
		kinds = append(kinds, l.Kind)
	}
	assert.Equal(t, []string{"entry-point", "hotspot", "tagged-comment"}, kinds)
	assert.Nil(t, got[1].Line, "a hotspot is a file as a whole")
}

func TestWhatOnlyTheWholeTreeShows(t *testing.T) {
	code := func(p, language, as string) leads.File {
		return leads.File{Path: p, Birth: p, Role: as, Language: language, Facts: &facts.Facts{Symbols: 3}}
	}
	files := []leads.File{
		{Path: "go.mod", Role: role.Build}, code("tide.go", "Go", role.Source), code("doc.go", "Go", role.Source), code("tide_test.go", "Go", role.Test),
		{Path: "cmd/go.mod", Role: role.Build}, goMain("cmd/main.go"), code("cmd/more.go", "Go", role.Source),
		code("internal/x/x_test.go", "Go", role.Test), code("py/tests/test_a.py", "Python", role.Test), code("py/tests/data.json", "JSON", role.Test),
		code("web/src/a.test.ts", "TypeScript", role.Test), code("examples/show.go", "Go", role.Sample), code("cpp/t/a.cc", "C++", role.Test),
	}
	got := map[string]leads.EntryPoint{}
	for _, e := range leads.EntryPoints(files, nil, []recipe.Recipe{
		{Kind: "test", Command: "npm test", Folder: "web", Path: "web/package.json", Line: 3}, {Kind: "test", Command: "make check", Path: "Makefile", Line: 9}, {Kind: "test", Command: "pytest", Folder: "py", Path: "py/pyproject.toml", Line: 1},
	}) {
		got[e.Kind+" "+e.Name] = e
	}
	assert.Equal(t, "doc.go", got["library the root package"].Path, "the package at the module's root, not the one that holds a program: %v", got)
	assert.Equal(t, "go test .", got["test the tests at the root"].How)
	assert.Equal(t, "go test ./internal/x", got["test the tests of internal/x"].How)
	assert.Equal(t, "pytest py/tests", got["test the tests of py/tests"].How)
	assert.Equal(t, "1 test file", got["test the tests of py/tests"].Evidence, "data is no test")
	assert.Equal(t, "cd web && npm test", got["test the tests of web/src"].How, "the nearest recipe above")
	assert.Equal(t, "make check", got["test the tests of cpp/t"].How)
	assert.Equal(t, "examples/show.go", got["sample show"].Path)
	assert.Len(t, got, 8, "%v", got)
}

func TestHubsAreLeads(t *testing.T) {
	all := leads.All(leads.Input{Files: []leads.File{tagged("a.go", "a.go", 1, "TODO: x")}, Hubs: []leads.Hub{{Path: "a.go", Dependents: 9, Centrality: 0.4}, {Path: "b.go", Dependents: 3, Centrality: 0.1}}})
	require.Len(t, all, 3)
	assert.Equal(t, "9 files lean on it", all[0].Why)
	assert.Greater(t, all[0].Weight, all[1].Weight)
}
