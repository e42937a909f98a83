package parts_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/parts"
	"juxtagram/core/recipe"
)

func files(list ...string) []parts.File {
	var out []parts.File
	for i := 0; i+1 < len(list); i += 2 {
		out = append(out, parts.File{Path: list[i], Role: list[i+1], Language: "Go", Lines: 10})
	}
	return out
}

func TestPartsOfAMonorepo(t *testing.T) {
	in := parts.Input{
		Files: files("go.mod", "build", "main.go", "source", "a/go.mod", "build", "a/a.go", "source", "a/deep/b.go", "source", "c/package.json", "build", "c/c.ts", "source",
			"testdata/x/go.mod", "build", "testdata/x/x.go", "test", "tool/Makefile", "build", "tool/run.c", "source"),
		Packages: map[string]*recipe.Package{"go.mod": {Kind: "Go module", Name: "top", Line: 1}, "a/go.mod": {Kind: "Go module", Name: "top/a", Line: 1},
			"c/package.json": {Kind: "npm package", Name: "c", Line: 2}, "testdata/x/go.mod": {Kind: "Go module", Name: "x", Line: 1}},
		Recipes:      []recipe.Recipe{{Kind: "build", Folder: "tool", Path: "tool/Makefile"}},
		Programs:     []string{"tool/run.c", "main.go", "a/deep/b.go"},
		Dependencies: func(f int) []int32 { return map[int][]int32{1: {3, 4}, 3: {4}}[f] },
	}
	list, of := parts.Of(in)
	assert.Equal(t, []parts.Part{
		{Path: "", Name: "top", Kind: "Go module", Manifest: "go.mod", Line: 1, Language: "Go", Files: 4, Lines: 40, LeansOn: []int{1}, Group: 0},
		{Path: "a", Name: "top/a", Kind: "Go module", Manifest: "a/go.mod", Line: 1, Language: "Go", Files: 3, Lines: 30, Group: 0},
		{Path: "c", Name: "c", Kind: "npm package", Manifest: "c/package.json", Line: 2, Language: "Go", Files: 2, Lines: 20, Group: 2},
		{Path: "tool", Name: "tool", Manifest: "tool/Makefile", Language: "Go", Files: 2, Lines: 20, Group: 3},
	}, list)
	assert.Equal(t, []int{0, 0, 1, 1, 1, 2, 2, 0, 0, 3, 3}, of)
}

func TestOnePartTellsNothingApart(t *testing.T) {
	list, of := parts.Of(parts.Input{Files: files("go.mod", "build", "a.go", "source"), Packages: map[string]*recipe.Package{"go.mod": {Name: "a"}}})
	assert.Empty(t, list)
	assert.Equal(t, []int{-1, -1}, of)
	list, _ = parts.Of(parts.Input{})
	assert.Empty(t, list)
}
