package names_test

import (
	"bytes"
	"context"
	"fmt"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/lang/all"
	"juxtagram/core/links"
	"juxtagram/core/links/names"
	"juxtagram/core/links/origin"
)

// world is a repository of a few texts.
type world struct {
	*names.Index
	texts map[string]string
	t     *testing.T
}

func build(t *testing.T, texts map[string]string) *world {
	t.Helper()
	var paths []string
	for p := range texts {
		paths = append(paths, p)
	}
	sort.Strings(paths)
	var files []names.File
	var tree []origin.File
	details := map[int]*facts.Details{}
	manifests := map[string][]byte{}
	for i, p := range paths {
		f := names.File{Path: p}
		if origin.IsManifest(p[strings.LastIndexByte(p, '/')+1:]) {
			manifests[p] = []byte(texts[p])
		}
		if l := all.OfPath(p); l != nil && l.Parsed() {
			x := facts.Of(context.Background(), l, []byte(texts[p]))
			x.Pack()
			head, err := facts.UnpackHead(x.Linked.Head)
			require.NoError(t, err)
			f.Language, f.Package, f.Imports, f.Terms = l.Name, head.Package, head.Imports, x.Linked.Terms
			details[i], err = facts.Unpack(x.Packed)
			require.NoError(t, err)
		}
		files = append(files, f)
		tree = append(tree, origin.File{Path: p, Language: f.Language, Package: f.Package})
	}
	resolvers := origin.Open(context.Background(), origin.NewTree(tree, manifests))
	found := make([][]origin.Origin, len(files))
	for i := range files {
		for k := range files[i].Imports {
			found[i] = append(found[i], resolvers.Resolve(&tree[i], &files[i].Imports[k]))
		}
	}
	l := links.Collect(len(files), found, nil)
	return &world{names.New(files, l, links.NewGraph(l), func(i int) (*facts.Details, error) { return details[i], nil }), texts, t}
}

// at finds the last name of a needle that occurs once in a text.
func (w *world) at(file, needle string) (line, column int) {
	w.t.Helper()
	text := w.texts[file]
	require.Equal(w.t, 1, strings.Count(text, needle), "%q in %s", needle, file)
	end := strings.Index(text, needle) + len(needle)
	start := end
	for start > 0 && (text[start-1] == '_' || text[start-1] >= '0' && text[start-1] <= '9' || text[start-1] >= 'a' && text[start-1] <= 'z' || text[start-1] >= 'A' && text[start-1] <= 'Z') {
		start--
	}
	return strings.Count(text[:start], "\n") + 1, start - strings.LastIndexByte(text[:start], '\n') - 1
}

// means is the first definition of the name that a needle ends with.
func (w *world) means(file, needle string) string {
	w.t.Helper()
	line, column := w.at(file, needle)
	a, err := w.DefinitionAt(w.Find(file), line, column)
	require.NoError(w.t, err)
	require.NotNil(w.t, a, needle)
	if len(a.Definitions) > 0 {
		d := a.Definitions[0]
		return fmt.Sprintf("%s:%d %s", w.Files[d.File].Path, d.Line, d.Certainty)
	}
	if a.Origin != nil {
		return strings.TrimSpace(fmt.Sprintf("%s %s %s", a.Origin.To, a.Origin.Name, strings.Join(a.Origin.Near, ",")))
	}
	return "nothing"
}

func TestGoNames(t *testing.T) {
	w := build(t, map[string]string{
		"go.mod": "module marsh.test\n",
		"main.go": `package main

import (
	"fmt"
	"marsh.test/store"
)

type app struct{ keep *store.Memory }

func main() {
	level := 3
	if level := level + 1; level > 2 {
		fmt.Println(level)
	}
	m := store.NewMemory(level)
	a := app{keep: m}
	a.keep.Add(7)
	run(func(level int) {
		use(level * 2)
	})
	store.Newmemory()
	helper(level / 4)
}
`,
		"help.go":            "package main\n\nfunc helper(int)  {}\nfunc run(func(int)) {}\nfunc use(int) {}\n",
		"store/memory.go":    "package store\n\n// Memory keeps.\ntype Memory struct{ n int }\n\nfunc NewMemory(n int) *Memory { return &Memory{n: n} }\n\nfunc (m *Memory) Add(x int) { m.n += x }\n",
		"other/memory.go":    "package other\n\ntype Thing struct{}\n\nfunc (t *Thing) Add(x int) {}\n",
		"store/a_test.go":    "package store\n\nimport \"testing\"\n\nfunc TestAdd(t *testing.T) { NewMemory(1).Add(2) }\n",
		"generic/generic.go": "package generic\n\ntype Box[T any] struct{ v T }\n\nfunc (b *Box[T]) Get() (x T) { return b.v }\n",
	})
	for needle, want := range map[string]string{
		"fmt.Println":           "standard-library fmt",
		"store.NewMemory":       "store/memory.go:6 imported",
		"*store.Memory":         "store/memory.go:4 imported",
		"if level := level":     "main.go:12 scope", // of the line's own, as the text stands
		"fmt.Println(level":     "main.go:12 scope",
		"store.NewMemory(level": "main.go:11 scope", // the block's has ended
		"app{keep":              "main.go:8 scope",
		"a.keep":                "main.go:8 scope",
		"a.keep.Add":            "store/memory.go:8 imported", // not the other's
		"use(level":             "main.go:18 scope",           // the closure's own
		"\thelper":              "help.go:3 scope",
		"helper(level":          "main.go:11 scope",
		"store.Newmemory":       "unresolved  NewMemory", // did you mean
		"func main":             "main.go:10 scope",
		"\t\tuse":               "help.go:5 scope",
		"a := app":              "main.go:8 scope",
		"app{keep: m":           "main.go:15 scope",
	} {
		assert.Equal(t, want, w.means("main.go", needle), needle)
	}
	assert.Equal(t, "store/memory.go:8 name", w.means("store/a_test.go", "NewMemory(1).Add"), "what a call returns is not followed; the same package comes first")
	assert.Equal(t, "generic/generic.go:5 scope", w.means("generic/generic.go", "Get() (x T"), "the receiver's type parameter")

	page, err := w.Uses(w.Find("store/memory.go"), 1, 0, 10)
	require.NoError(t, err)
	require.Equal(t, "NewMemory", mustSymbol(t, w, "store/memory.go", 2).Name)
	page, err = w.Uses(w.Find("store/memory.go"), 2, 0, 10)
	require.NoError(t, err)
	var told []string
	for _, f := range page.Files {
		for _, s := range f.Sites {
			told = append(told, fmt.Sprintf("%s:%d %s", w.Files[f.File].Path, s.Line, s.Certainty))
		}
	}
	assert.Equal(t, []string{"store/a_test.go:5 scope", "main.go:15 imported"}, told)
	assert.Equal(t, 3, page.Total)
	first, err := w.Uses(w.Find("store/memory.go"), 2, 0, 1)
	require.NoError(t, err)
	require.NotZero(t, first.Next)
	rest, err := w.Uses(w.Find("store/memory.go"), 2, first.Next, 10)
	require.NoError(t, err)
	assert.Len(t, rest.Files, 1, "the parts do not overlap")
}

func mustSymbol(t *testing.T, w *world, file string, n int) *struct{ Name string } {
	t.Helper()
	s, err := w.Symbol(w.Find(file), n)
	require.NoError(t, err)
	require.NotNil(t, s)
	return &struct{ Name string }{s.Name}
}

func TestPythonNames(t *testing.T) {
	w := build(t, map[string]string{
		"tide/__init__.py": "from .fit import solve\nfrom .fit import LIMIT as MOST\n",
		"tide/fit.py":      "import math\n\nLIMIT = 3\n\n\nclass Tide:\n    def __init__(self, n):\n        self.n = n\n\n    def curve(self):\n        return self.step()\n\n    def step(self):\n        return math.pi\n\n\ndef solve(rows):\n    rows = list(rows)\n    return Tide(rows)\n",
		"tide/wave.py":     "from .fit import Tide\n\n\nclass Wave(Tide):\n    def crest(self):\n        return self.curve()\n",
		"run.py":           "import tide\nfrom tide import solve, MOST\nfrom tide.fit import sovle\nfrom numpy import array\n\nx = solve([MOST])\ny = tide.solve([])\nprint(x.curve(), array(y))\n",
	})
	assert.Equal(t, "tide/fit.py:17 imported", w.means("run.py", "x = solve"), "through the package that hands it on")
	assert.Equal(t, "tide/fit.py:3 imported", w.means("run.py", "solve([MOST"), "renamed on the way")
	assert.Equal(t, "tide/fit.py:17 imported", w.means("run.py", "tide.solve"))
	assert.Equal(t, "unresolved  solve", w.means("run.py", "import sovle"), "did you mean")
	assert.Equal(t, "unresolved", w.means("run.py", ", array"))
	assert.Equal(t, "tide/fit.py:13 scope", w.means("tide/fit.py", "self.step"))
	assert.Equal(t, "tide/fit.py:10 imported", w.means("tide/wave.py", "self.curve"), "of the class above")
	assert.Equal(t, "tide/fit.py:18 scope", w.means("tide/fit.py", "Tide(rows"))
	assert.Equal(t, "standard-library math", w.means("tide/fit.py", "math.pi"))

	up, err := w.Supertypes(w.Find("tide/wave.py"), 0)
	require.NoError(t, err)
	require.Len(t, up, 1)
	assert.Equal(t, "tide/fit.py", w.Files[up[0].File].Path)
	at, err := w.SymbolOn(w.Find("tide/fit.py"), 6, "Tide")
	require.NoError(t, err)
	down, more, err := w.Subtypes(w.Find("tide/fit.py"), at)
	require.NoError(t, err)
	assert.False(t, more)
	require.Len(t, down, 1)
	assert.Equal(t, names.Imported, down[0].Certainty)
}

func TestTypeScriptAndJavaNames(t *testing.T) {
	w := build(t, map[string]string{
		"package.json": `{"name": "board"}`,
		"a.ts":         "import draw, { place as put } from './lib'\nimport * as units from './units'\nimport { Gauge } from './gauge'\n\nconst g: Gauge = new Gauge()\ndraw(put(units.metres(g.level)))\n",
		"lib/index.ts": "export { place } from './place'\nexport default function draw(x: number) {}\n", "lib/place.ts": "export function place(x: number) { return x }\n",
		"units.ts": "export const metres = (x: number) => x\n", "gauge.ts": "export class Gauge {\n  level = 3\n}\n", "other.ts": "export class Other {\n  level = 4\n}\n",
		"src/test/marsh/Gauge.java": "package test.marsh;\n\npublic class Gauge {\n  int level;\n  int read() { return level; }\n}\n",
		"src/test/app/App.java":     "package test.app;\n\nimport test.marsh.Gauge;\n\nclass App {\n  int run(Gauge gauge) { return gauge.read(); }\n}\n",
	})
	assert.Equal(t, "lib/index.ts:2 imported", w.means("a.ts", "\ndraw"))
	assert.Equal(t, "lib/place.ts:1 imported", w.means("a.ts", "draw(put"), "handed on and renamed")
	assert.Equal(t, "units.ts:1 imported", w.means("a.ts", "units.metres"))
	assert.Equal(t, "gauge.ts:2 imported", w.means("a.ts", "g.level"), "of the type, not the other's")
	assert.Equal(t, "src/test/marsh/Gauge.java:5 imported", w.means("src/test/app/App.java", "gauge.read"))
	assert.Equal(t, "src/test/marsh/Gauge.java:4 scope", w.means("src/test/marsh/Gauge.java", "return level"))
}

func TestForwardersNameTheRealBody(t *testing.T) {
	w := build(t, map[string]string{
		"go.mod":     "module m.test\n",
		"face.go":    "package face\n\nimport \"m.test/inner\"\n\n// Read hands on.\nfunc Read(p string) error { return inner.Read(p) }\n\nfunc Twice(p string) error {\n\tif err := Read(p); err != nil {\n\t\treturn err\n\t}\n\treturn Read(p)\n}\n",
		"inner/i.go": "package inner\n\nfunc Read(p string) error { return read(p) }\n\nfunc read(p string) error {\n\tprintln(p)\n\treturn nil\n}\n",
	})
	target, chain, err := w.Chain(w.Find("face.go"), 0)
	require.NoError(t, err)
	assert.Equal(t, "inner.Read", target)
	require.Len(t, chain, 2, "through both")
	assert.Equal(t, "inner/i.go:3", fmt.Sprintf("%s:%d", w.Files[chain[0].File].Path, chain[0].Line))
	assert.Equal(t, "inner/i.go:5", fmt.Sprintf("%s:%d", w.Files[chain[1].File].Path, chain[1].Line))
	c := build(t, map[string]string{
		"log.h": "void log_line(const char *s);\n#define LOG(x) log_line(x)\n#define NOTE LOG\n#define TWICE(x) (log_line(x), log_line(x))\n",
		"log.c": "#include \"log.h\"\nvoid log_line(const char *s) { (void)s; }\n",
	})
	target, chain, err = c.Chain(c.Find("log.h"), 2)
	require.NoError(t, err)
	assert.Equal(t, "LOG", target, "a macro that names another")
	require.NotEmpty(t, chain)
	at := chain[len(chain)-1]
	assert.Equal(t, "log.h:1", fmt.Sprintf("%s:%d", c.Files[at.File].Path, at.Line))
	target, _, err = c.Chain(c.Find("log.h"), 3)
	require.NoError(t, err)
	assert.Empty(t, target)
	target, chain, err = w.Chain(w.Find("face.go"), 1)
	require.NoError(t, err)
	assert.Empty(t, target, "it does more")
	assert.Empty(t, chain)
}

func TestARenameLeavesTheCallerWithANearMiss(t *testing.T) {
	texts := map[string]string{"go.mod": "module m.test\n", "a.go": "package a\n\nimport \"m.test/u\"\n\nvar x = u.ReadLevel()\n", "u/u.go": "package u\n\nfunc ReadLevel() int { return 1 }\n"}
	assert.Equal(t, "u/u.go:3 imported", build(t, texts).means("a.go", "u.ReadLevel"))
	texts["u/u.go"] = strings.Replace(texts["u/u.go"], "ReadLevel", "ReadLevels", 1)
	assert.Equal(t, "unresolved  ReadLevels", build(t, texts).means("a.go", "u.ReadLevel"))
}

func TestTags(t *testing.T) {
	w := build(t, map[string]string{"b.py": "def zed():\n    pass\n\n\nclass Alpha:\n    def run(self):\n        pass\n", "a.go": "package a\n\nfunc Run() {}\n"})
	var b bytes.Buffer
	left, err := w.WriteTags(&b)
	require.NoError(t, err)
	assert.Zero(t, left)
	assert.Equal(t, "Alpha\tb.py\t5\nRun\ta.go\t3\nrun\tb.py\t6\nzed\tb.py\t1\n", b.String())
}

func TestPlacesWithoutNames(t *testing.T) {
	w := build(t, map[string]string{"a.go": "package a\n\nfunc F() {}\n"})
	for _, at := range [][2]int{{0, 0}, {2, 0}, {99, 3}, {3, 99}} {
		a, err := w.DefinitionAt(0, at[0], at[1])
		require.NoError(t, err)
		assert.Nil(t, a)
	}
	page, err := w.Uses(0, 99, 0, 10)
	require.NoError(t, err)
	assert.Empty(t, page.Files)
}

func TestANameUsedAHundredThousandTimesIsPaged(t *testing.T) {
	texts := map[string]string{"m.py": "def level():\n    return 1\n"}
	for i := range 50 {
		texts[fmt.Sprintf("use%02d.py", i)] = "from m import level\n" + strings.Repeat("level()\n", 2000)
	}
	w := build(t, texts)
	page, err := w.Uses(w.Find("m.py"), 0, 0, 10)
	require.NoError(t, err)
	require.Len(t, page.Files, 10)
	assert.Equal(t, 51, page.Total)
	assert.Equal(t, 50*2001+1, page.Named)
	assert.Len(t, page.Files[0].Sites, 200)
	assert.Equal(t, 1801, page.Files[0].More, "told")
	seen := map[int]bool{}
	for next := 0; ; {
		page, err := w.Uses(w.Find("m.py"), 0, next, 10)
		require.NoError(t, err)
		for _, f := range page.Files {
			assert.False(t, seen[f.File])
			seen[f.File] = true
		}
		if next = page.Next; next == 0 {
			break
		}
	}
	assert.Len(t, seen, 50)
}

func TestNamesCrossLanguagesWhereATableSaysSo(t *testing.T) {
	w := build(t, map[string]string{
		"setup.py":         "from setuptools import Extension, setup\n\nsetup(ext_modules=[Extension(\"tide._fast\", [\"src/fast.c\"])])\n",
		"tide/__init__.py": "from tide import _fast\nfrom tide._fast import solve\n\nx = _fast.solve(1)\ny = solve(2)\n",
		"src/fast.c":       "#include <Python.h>\n\nstatic PyObject *py_solve(PyObject *self, PyObject *args) { return 0; }\n\nstatic PyMethodDef methods[] = {\n\t{\"solve\", (PyCFunction)py_solve, METH_VARARGS, \"Solves.\"},\n\t{NULL, NULL, 0, NULL},\n};\n",
		"other.lua":        "local fast = require('fast')\nfast.solve(3)\n",
	})
	assert.Equal(t, "src/fast.c:6 imported", w.means("tide/__init__.py", "_fast.solve"), "through the build file and the table")
	assert.Equal(t, "src/fast.c:6 imported", w.means("tide/__init__.py", "y = solve"))
	assert.Equal(t, "src/fast.c:6 name", w.means("other.lua", "fast.solve"), "the table alone")
	n, err := w.SymbolOn(w.Find("src/fast.c"), 6, "solve")
	require.NoError(t, err)
	target, chain, err := w.Chain(w.Find("src/fast.c"), n)
	require.NoError(t, err)
	assert.Equal(t, "py_solve", target)
	require.NotEmpty(t, chain)
	assert.Equal(t, 3, chain[len(chain)-1].Line)
	page, err := w.Uses(w.Find("src/fast.c"), n, 0, 10)
	require.NoError(t, err)
	assert.Len(t, page.Files, 2, "used from Python and Lua")
}

// Every module takes in all of every other: without end, for whoever follows
// each way.
func TestModulesThatHandOnInCircles(t *testing.T) {
	texts := map[string]string{"pkg/__init__.py": ""}
	var all strings.Builder
	for i := range 40 {
		fmt.Fprintf(&all, "from pkg.m%d import *\n", i)
	}
	for i := range 40 {
		texts[fmt.Sprintf("pkg/m%d.py", i)] = all.String()
	}
	texts["pkg/m39.py"] += "def deep():\n    pass\n"
	texts["run.py"] = "from pkg.m0 import deep, nowhere\n\ndeep()\nnowhere()\n"
	w := build(t, texts)
	assert.Equal(t, "pkg/m39.py:41 imported", w.means("run.py", "\n\ndeep"))
	assert.Equal(t, "unresolved", w.means("run.py", ")\nnowhere"))
}

func TestSubtypesInMoreFilesThanAreLookedInto(t *testing.T) {
	texts := map[string]string{"base.py": "class Base:\n    pass\n"}
	for i := range 450 {
		texts[fmt.Sprintf("d%03d.py", i)] = fmt.Sprintf("from base import Base\nx%d = Base\n", i)
	}
	w := build(t, texts)
	_, more, err := w.Subtypes(w.Find("base.py"), 0)
	require.NoError(t, err)
	assert.True(t, more, "told")
}
