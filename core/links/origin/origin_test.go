package origin_test

import (
	"context"
	"fmt"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/links/origin"
)

// tree makes a tree of paths; a path with a text is a manifest, "path|package"
// puts a file into a package.
func tree(paths string, manifests map[string]string) *origin.Tree {
	var files []origin.File
	for _, p := range strings.Fields(paths) {
		p, pkg, _ := strings.Cut(p, "|")
		f := origin.File{Path: p, Package: pkg, Binary: strings.HasSuffix(p, ".so") || strings.HasSuffix(p, ".node")}
		if l := all.OfPath(p); l != nil {
			f.Language = l.Name
		}
		files = append(files, f)
	}
	texts := map[string][]byte{}
	for p, text := range manifests {
		files = append(files, origin.File{Path: p})
		texts[p] = []byte(text)
	}
	sort.Slice(files, func(i, j int) bool { return files[i].Path < files[j].Path })
	return origin.NewTree(files, texts)
}

// told is an origin on one line.
func told(t *origin.Tree, o origin.Origin) string {
	out := string(o.To)
	for _, f := range o.Files {
		out += " " + t.Files[f].Path
	}
	if o.Name != "" {
		out += " " + o.Name
	}
	if o.Version != "" {
		out += " " + o.Version
	}
	if o.In != "" {
		out += fmt.Sprintf(" %s:%d", o.In, o.Line)
	}
	if o.Guess {
		out += " ?"
	}
	if len(o.Near) > 0 {
		out += " near " + strings.Join(o.Near, ",")
	}
	return out
}

type asked struct{ from, text, names, want string }

func check(t *testing.T, tr *origin.Tree, cases []asked) {
	t.Helper()
	r := origin.Open(context.Background(), tr)
	for _, c := range cases {
		i := lang.Import{Text: c.text, Line: 1, EndLine: 1}
		for _, n := range strings.Fields(c.names) {
			i.Names = append(i.Names, lang.Imported{Name: n})
		}
		f := tr.Find(c.from)
		if !assert.GreaterOrEqual(t, f, int32(0), c.from) {
			continue
		}
		assert.Equal(t, c.want, told(tr, r.Resolve(&tr.Files[f], &i)), "%s imports %s", c.from, c.text)
	}
}

func TestGo(t *testing.T) {
	tr := tree(`main.go store/a.go store/b.go store/a_test.go store/_old.go empty/x_test.go internal/deep/d.go sub/main.go sub/own/o.go lone/l.go
		vendor/example.test/kept/k.go near/stores/s.go`, map[string]string{
		"go.mod":     "module marsh.test/tide\n\nrequire (\n\texample.test/kept v1.0.0\n\texample.test/away/v2 v2.3.4\n\tmarsh.test/tide/sub v0.1.0\n\tmarsh.test/lone v0.0.0\n)\nreplace marsh.test/lone => ./lone\n",
		"sub/go.mod": "module marsh.test/tide/sub\n", "lone/go.mod": "module marsh.test/lone\n", "bad/go.mod": "modul{{{",
	})
	check(t, tr, []asked{
		{"main.go", "fmt", "", "standard-library fmt"},
		{"main.go", "C", "", "standard-library C, through cgo"},
		{"main.go", "marsh.test/tide/store", "", "file store/a.go store/b.go"},
		{"main.go", "marsh.test/tide/internal/deep", "", "file internal/deep/d.go"},
		{"main.go", "marsh.test/tide", "", "file main.go"}, // a module that names itself
		{"main.go", "example.test/kept", "", "file vendor/example.test/kept/k.go"},
		{"main.go", "example.test/away/v2/part", "", "dependency example.test/away/v2 v2.3.4 go.mod:5"},
		{"main.go", "marsh.test/lone", "", "file lone/l.go"},
		{"main.go", "marsh.test/tide/sub/own", "", "dependency sub/own/o.go marsh.test/tide/sub v0.1.0 go.mod:6"},
		{"sub/main.go", "marsh.test/tide/sub/own", "", "file sub/own/o.go"},
		{"main.go", "marsh.test/tide/empty", "", "unresolved near empty"},
		{"main.go", "marsh.test/tide/stor", "", "unresolved near store,near/stores"},
		{"main.go", "ftm", "", "unresolved near fmt"},
		{"main.go", "unknown.test/x", "", "unresolved"},
	})
}

func TestGoWorkspacesAndNoModules(t *testing.T) {
	check(t, tree("a/a.go b/b.go b/in/i.go", map[string]string{"go.work": "go 1.26\nuse (\n\t./a\n\t./b\n)\n", "a/go.mod": "module a.test\n", "b/go.mod": "module b.test\n"}), []asked{
		{"a/a.go", "b.test/in", "", "file b/in/i.go"},
		{"a/a.go", "b.test/out", "", "unresolved"},
	})
	check(t, tree("cmd/m.go pkg/x/x.go", nil), []asked{
		{"cmd/m.go", "old.test/some/pkg/x", "", "file pkg/x/x.go ?"},
		{"cmd/m.go", "net/http", "", "standard-library net/http"},
	})
}

func TestNode(t *testing.T) {
	tr := tree(`src/main.ts src/units.ts src/units.css src/widgets/index.ts src/widgets/card.vue src/loop.js src/loop/index.js lib/util.js packages/gauge/src/index.ts
		packages/gauge/src/read.ts packages/gauge/native.node node_modules/kept/lib/main.js node_modules/kept/lib/types.d.ts assets/logo.svg src/Case.ts src/case.ts app/page.tsx`,
		map[string]string{
			"package.json":                   `{"name": "board", "imports": {"#units": "./src/units.ts"}, "dependencies": {"vue": "^3.5.0"}, "devDependencies": {"@types/plain": "1.0.0"}}`,
			"packages/gauge/package.json":    `{"name": "@marsh/gauge", "exports": {".": {"types": "./dist/index.d.ts", "import": "./dist/index.js"}, "./read": "./src/read.ts", "./native": "./native.node", "./deep/*": "./src/*.ts"}}`,
			"node_modules/kept/package.json": `{"name": "kept", "main": "lib/main.js", "types": "lib/types.d.ts"}`,
			"tsconfig.json":                  "{\n // comments stand here\n \"extends\": \"./tsconfig.base.json\", /* and here */\n \"compilerOptions\": {\"paths\": {\"@/*\": [\"./src/*\"], \"whole\": [\"./lib/util\"],},},\n}",
			"tsconfig.base.json":             `{"extends": "./tsconfig.json", "compilerOptions": {"baseUrl": "."}}`,
			"bad/package.json":               `{"name": `,
		})
	check(t, tr, []asked{
		{"src/main.ts", "./units", "", "file src/units.ts"},
		{"src/main.ts", "./units.js", "", "file src/units.ts"}, // as the compiler wants it written
		{"src/main.ts", "./widgets", "", "file src/widgets/index.ts"},
		{"src/main.ts", "./widgets/card.vue", "", "file src/widgets/card.vue"},
		{"src/main.ts", "./units.css?inline", "", "file src/units.css"},
		{"lib/util.js", "../src/loop", "", "file src/loop.js"}, // before the folder of that name
		{"src/main.ts", "@/widgets", "", "file src/widgets/index.ts"},
		{"src/main.ts", "whole", "", "file lib/util.js"},
		{"src/main.ts", "lib/util", "", "file lib/util.js"}, // by baseUrl, of a circle of extends
		{"src/main.ts", "#units", "", "file src/units.ts"},
		{"src/main.ts", "@marsh/gauge", "", "file packages/gauge/src/index.ts ?"}, // its exports are built
		{"src/main.ts", "@marsh/gauge/read", "", "file packages/gauge/src/read.ts"},
		{"src/main.ts", "@marsh/gauge/deep/read", "", "file packages/gauge/src/read.ts"},
		{"src/main.ts", "@marsh/gauge/native", "", "binary packages/gauge/native.node"},
		{"src/main.ts", "@marsh/gauge/none", "", "unresolved"},
		{"src/main.ts", "kept", "", "file node_modules/kept/lib/types.d.ts"},
		{"lib/util.js", "kept", "", "file node_modules/kept/lib/main.js"},
		{"src/main.ts", "vue", "", "dependency vue ^3.5.0 package.json:1"},
		{"src/main.ts", "plain", "", "dependency @types/plain 1.0.0 package.json:1"},
		{"src/main.ts", "node:fs", "", "standard-library node:fs"},
		{"src/main.ts", "fs/promises", "", "standard-library fs/promises"},
		{"src/main.ts", "../../outside", "", "unresolved"},
		{"src/main.ts", "./unit", "", "unresolved near src/units.ts,src/units.css"},
		{"src/main.ts", "./dist/made", "", "generated"},
		{"src/main.ts", "https://x.test/m.js", "", "unresolved"},
		{"src/main.ts", "veu", "", "unresolved near vue"},
		{"src/main.ts", "./case", "", "file src/case.ts"},
		{"src/main.ts", "./CASE", "", "unresolved near src/Case.ts,src/case.ts"},
		{"src/main.ts", "", "", "unresolved"},
	})
}

func TestPython(t *testing.T) {
	tr := tree(`src/tide/__init__.py src/tide/fit.py src/tide/parts/__init__.py src/tide/parts/wave.py src/tide/_fast.cpython-311-x86_64-linux-gnu.so space/one/a.py
		tests/test_fit.py tools/run.py tools/helper.py tools/json.py lib/extra.py src/tide/readings.py src/loop/__init__.py src/loop/a.py src/loop/b.py`,
		map[string]string{"pyproject.toml": "[project]\nname = \"tide\"\ndependencies = [\n  \"numpy>=1.26\",\n  \"PyYAML\",\n]\n", "requirements.txt": "# what the tools need\nrequests==2.32.0\n-e .\n", "setup.cfg": "not [ valid"})
	check(t, tr, []asked{
		{"tests/test_fit.py", "tide.fit", "solve", "file src/tide/fit.py"},
		{"tests/test_fit.py", "tide", "fit solve", "file src/tide/__init__.py src/tide/fit.py"},
		{"src/tide/fit.py", ".", "parts", "file src/tide/__init__.py src/tide/parts/__init__.py"},
		{"src/tide/parts/wave.py", "..fit", "solve", "file src/tide/fit.py"},
		{"src/tide/parts/wave.py", "....far", "x", "unresolved"},
		{"src/tide/fit.py", "tide._fast", "", "binary src/tide/_fast.cpython-311-x86_64-linux-gnu.so"},
		{"src/tide/fit.py", "math", "", "standard-library math"},
		{"tools/run.py", "json", "", "file tools/json.py"}, // a script's own folder comes first
		{"tools/run.py", "helper", "", "file tools/helper.py"},
		{"src/tide/fit.py", "numpy.linalg", "norm", "dependency numpy >=1.26 pyproject.toml:4"},
		{"src/tide/fit.py", "yaml", "", "dependency PyYAML pyproject.toml:5"},
		{"tools/run.py", "requests", "", "dependency requests ==2.32.0 requirements.txt:2"},
		{"tests/test_fit.py", "space.one", "", "file space/one/a.py"}, // a namespace package
		{"tests/test_fit.py", "tide.reading", "", "unresolved near src/tide/readings.py"},
		{"src/loop/a.py", ".b", "x", "file src/loop/b.py"},
		{"src/loop/b.py", ".a", "x", "file src/loop/a.py"}, // a circle
		{"tests/test_fit.py", "nowhere", "", "unresolved"},
	})
}

func TestOtherEcosystems(t *testing.T) {
	check(t, tree("core/src/main/java/test/marsh/Gauge.java|test.marsh core/src/main/java/test/marsh/Units.java|test.marsh app/App.java|test.app", map[string]string{
		"pom.xml": "<project><dependencies>\n<dependency><groupId>org.other</groupId><artifactId>other-core</artifactId><version>2.1</version></dependency>\n</dependencies></project>",
	}), []asked{
		{"app/App.java", "test.marsh.Gauge", "", "file core/src/main/java/test/marsh/Gauge.java"},
		{"app/App.java", "test.marsh.Gauge.Reading", "", "file core/src/main/java/test/marsh/Gauge.java"},
		{"app/App.java", "test.marsh.*", "", "file core/src/main/java/test/marsh/Gauge.java core/src/main/java/test/marsh/Units.java"},
		{"app/App.java", "java.util.List", "", "standard-library java.util.List"},
		{"app/App.java", "org.other.core.Thing", "", "dependency org.other:other-core 2.1 pom.xml:2"},
		{"app/App.java", "test.marsh.Gage", "", "unresolved near core/src/main/java/test/marsh/Gauge.java"},
	})
	check(t, tree("src/main.c src/util.h include/api.h vendor/deep/only.h version.h.in", map[string]string{"CMakeLists.txt": "include_directories(vendor)\n"}), []asked{
		{"src/main.c", `"util.h"`, "", "file src/util.h"},
		{"src/main.c", `"api.h"`, "", "file include/api.h ?"},
		{"src/main.c", `<deep/only.h>`, "", "file vendor/deep/only.h ?"},
		{"src/main.c", `<stdio.h>`, "", "standard-library stdio.h"},
		{"src/main.c", `"version.h"`, "", "generated"},
		{"src/main.c", `"utils.h"`, "", "unresolved near src/util.h"},
		{"src/main.c", `"../../../etc/passwd"`, "", "unresolved"},
	})
	check(t, tree("src/lib.rs src/gauge.rs src/gauge/wire.rs src/units/mod.rs tools/src/main.rs", map[string]string{
		"Cargo.toml": "[package]\nname = \"marsh-core\"\n\n[dependencies]\nserde = \"1.0\"\n", "tools/Cargo.toml": "[package]\nname = \"tools\"\n[dependencies]\nmarsh-core = { path = \"..\" }\n",
	}), []asked{
		{"src/lib.rs", "self::gauge", "gauge", "file src/gauge.rs"},
		{"src/units/mod.rs", "crate::gauge::wire::Frame", "", "file src/gauge/wire.rs"},
		{"src/gauge/wire.rs", "super::Gauge", "", "file src/gauge.rs"},
		{"tools/src/main.rs", "marsh_core::units::Metres", "", "file src/units/mod.rs"},
		{"src/lib.rs", "serde::Serialize", "", "dependency serde 1.0 Cargo.toml:5"},
		{"src/lib.rs", "std::fs", "", "standard-library std::fs"},
		{"src/lib.rs", "nowhere::x", "", "unresolved"},
	})
	check(t, tree("lib/marsh.rb lib/marsh/gauge.rb test/gauge_test.rb", map[string]string{"Gemfile": "source 'x'\ngem 'rack', '~> 3.0'\n"}), []asked{
		{"test/gauge_test.rb", "marsh/gauge", "", "file lib/marsh/gauge.rb"},
		{"lib/marsh.rb", "./marsh/gauge", "", "file lib/marsh/gauge.rb"},
		{"lib/marsh.rb", "json", "", "standard-library json"},
		{"lib/marsh.rb", "rack/request", "", "dependency rack ~> 3.0 Gemfile:2"},
	})
	check(t, tree(`src/Gauge/Reader.php|Marsh\Gauge src/legacy.php web/index.php`, map[string]string{"composer.json": `{"autoload": {"psr-4": {"Marsh\\": "src/"}}, "require": {"monolog/monolog": "^3"}}`}), []asked{
		{"web/index.php", `Marsh\Gauge\Reader`, "", "file src/Gauge/Reader.php"},
		{"web/index.php", `Monolog\Logger`, "", "dependency monolog/monolog ^3 composer.json:1 ?"},
		{"web/index.php", `./../src/legacy.php`, "", "file src/legacy.php"},
		{"web/index.php", `Marsh\Gauge\Readr`, "", "unresolved near src/Gauge/Reader.php"},
	})
	check(t, tree("a.lua lib/b.lua run.sh lib.sh page.html main.js", nil), []asked{
		{"a.lua", "lib.b", "", "file lib/b.lua"},
		{"run.sh", "./lib.sh", "", "file lib.sh"},
		{"page.html", "main.js", "", "file main.js"},
		{"page.html", "https://x.test/y.js", "", "unresolved"},
	})
}

func TestNearMisses(t *testing.T) {
	names := []string{"read_level", "readLevels", "rdlvl", "configuration", "write"}
	assert.Equal(t, []string{"read_level", "readLevels", "rdlvl"}, origin.NearNames("readLevel", names), "case and joints, plural, dropped vowels")
	assert.Equal(t, []string{"configuration"}, origin.NearNames("config", names), "abbreviated")
	assert.Empty(t, origin.NearNames("tide", names))
}

func TestEveryEcosystemIsDescribed(t *testing.T) {
	seen := map[string]string{}
	for _, e := range origin.Ecosystems {
		assert.NotEmpty(t, e.Doc, e.Name)
		for _, l := range e.Languages {
			assert.Empty(t, seen[l], "%s belongs to two", l)
			seen[l] = e.Name
			assert.NotNil(t, all.ByName(l), "%s of %s", l, e.Name)
		}
	}
}

func FuzzManifests(f *testing.F) {
	for _, s := range []string{`{"exports": {".": {"a": {"b": ["./x"]}}}}`, "module x\nrequire y v1", "[project]\ndependencies=['a']", "<dependency><groupId>g", "gem 'x', 'y'", "{/*", "{\"a\":1,}"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		manifests := map[string]string{}
		for _, p := range []string{"go.mod", "go.work", "package.json", "tsconfig.json", "pyproject.toml", "setup.py", "pom.xml", "Cargo.toml", "Gemfile", "composer.json", "CMakeLists.txt", "x.csproj"} {
			manifests[p] = text
		}
		tr := tree("a.go b.ts c.py d.java e.c f.rs g.rb h.php i.cs", manifests)
		r := origin.Open(context.Background(), tr)
		for n := range tr.Files {
			for _, i := range []string{"x", "./x", "a/b", "a.b.C", "#a", "crate::a"} {
				o := r.Resolve(&tr.Files[n], &lang.Import{Text: i})
				for _, to := range o.Files {
					if int(to) >= len(tr.Files) || to < 0 {
						t.Fatalf("%s: file %d", i, to)
					}
				}
			}
		}
	})
}

func TestTheNearestOfTwoVendoredCopiesIsMeant(t *testing.T) {
	check(t, tree("app/a.js app/node_modules/lib/index.js b.js node_modules/lib/index.js node_modules/lib/deep.js", map[string]string{
		"app/node_modules/lib/package.json": `{"name": "lib"}`, "node_modules/lib/package.json": `{"name": "lib"}`,
	}), []asked{
		{"app/a.js", "lib", "", "file app/node_modules/lib/index.js"},
		{"b.js", "lib", "", "file node_modules/lib/index.js"},
		{"app/a.js", "lib/deep", "", "file node_modules/lib/deep.js"},
	})
}
