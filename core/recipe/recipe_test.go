package recipe_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/recipe"
)

func told(f recipe.Found) (out []string) {
	for _, r := range f.Recipes {
		out = append(out, fmt.Sprintf("%s %q in %q :%d", r.Kind, r.Command, r.Folder, r.Line))
	}
	for _, d := range f.Declared {
		out = append(out, fmt.Sprintf("%s %s -> %s :%d", d.Kind, d.Name, d.Target, d.Line))
	}
	return out
}

func TestFinders(t *testing.T) {
	for _, c := range []struct {
		path, text string
		want       []string
	}{
		{"web/package.json", `{
 "name": "@team/board",
 "main": "lib/index.js",
 "bin": {"zeta": "bin/z.js", "alpha": "./bin/a.js"},
 "exports": {".": {"import": "./lib/index.mjs", "types": "./lib/index.d.ts"}, "./sub": "./lib/sub.js"},
 "scripts": {
  "test": "x",
  "build:all": "y",
  "odd": "z"
 }
}`, []string{`build "npm run build:all" in "web" :8`, `other "npm run odd" in "web" :9`, `test "npm test" in "web" :7`, `install "npm install" in "web" :1`,
			"command alpha -> web/bin/a.js :4", "command zeta -> web/bin/z.js :4", "library @team/board -> web/lib/index.js :3",
			"library @team/board -> web/lib/index.mjs :5", "library @team/board/sub -> web/lib/sub.js :5"}},
		{"package.json", `{"name":"x","main":"./i.js","exports":{".":{"require":"./i.js","types":"./i.d.mts"}},"scripts":{"check:lint":"y"}}`,
			[]string{`lint "npm run check:lint" in "" :1`, `install "npm install" in "" :1`, "library x -> i.js :1"}},
		{"package.json", `{"name":"cli","bin":"run.js"}`, []string{`install "npm install" in "" :1`, "command cli -> run.js :1", "library cli -> index.js :1"}},
		{"Makefile", "CC := cc\n.PHONY: all check run.once\nall: a b\n\techo\ncheck fmt: all\nrun.once:\n%.o: %.c\nout/x: y\nx.o:\nVAR=1\nV::=2\n",
			[]string{`build "make all" in "" :3`, `test "make check" in "" :5`, `lint "make fmt" in "" :5`, `run "make run.once" in "" :6`}},
		{"go.mod", "// a comment\nmodule example.test/x\n\ngo 1.22\n", []string{`build "go build ./..." in "" :2`, `test "go test ./..." in "" :2`}},
		{"py/pyproject.toml", "[project]\nname = \"x\"\n[project.scripts]\nrun-x = \"x.cli:main\"\n[tool.pytest.ini_options]\n",
			[]string{`install "pip install ." in "py" :1`, `test "pytest" in "py" :5`, "command run-x -> py/x/cli.py :4"}},
		{"setup.cfg", "[options.entry_points]\nconsole_scripts =\n    a = pkg.a:main\n    b = pkg.b:main\n\n[other]\nc = pkg.c:main\n", []string{"command a -> pkg/a.py :3", "command b -> pkg/b.py :4"}},
		{"Cargo.toml", "[package]\nname = \"x\"\n[[bin]]\nname = \"tool\"\npath = \"src/tool.rs\"\n", []string{`build "cargo build" in "" :1`, `test "cargo test" in "" :1`, "program tool -> src/tool.rs :5"}},
		{"pom.xml", "<project/>", []string{`build "mvn package" in "" :1`, `test "mvn test" in "" :1`}},
		{"Dockerfile", "FROM x\nCMD [\"old\"]\nENTRYPOINT [\"serve\"]\ncmd [\"-p\", \"80\"]\n", []string{`build "docker build -f Dockerfile ." in "" :1`, "container serve -p 80 ->  :3"}},
		{"compose.yaml", "services:\n  web:\n    image: x\n  db:\n    image: y\n", []string{`run "docker compose -f compose.yaml up" in "" :1`, "service web ->  :2", "service db ->  :4"}},
		{".github/workflows/x.yml", "jobs:\n  a:\n    steps:\n      - run: go test ./...\n      - run: |\n          make lint\n          echo done\n      - uses: x\n",
			[]string{`test "go test ./..." in "" :4`, `lint "make lint" in "" :6`, `other "echo done" in "" :7`, "ci x.yml -> .github/workflows/x.yml :1"}},
		{"CMakeLists.txt", "project(x)\nadd_executable(tool src/main.c)\nenable_testing()\n",
			[]string{`build "cmake -B build && cmake --build build" in "" :1`, `test "ctest --test-dir build" in "" :3`, "program tool -> src/main.c :2"}},
	} {
		assert.True(t, recipe.Wanted(c.path), c.path)
		assert.Equal(t, c.want, told(recipe.Find(context.Background(), c.path, []byte(c.text))), c.path)
	}
}

func TestWhatCannotBeReadIsTold(t *testing.T) {
	for path, text := range map[string]string{"package.json": "{", "pyproject.toml": "[", "Cargo.toml": "=", "go.mod": "module", "compose.yaml": "\t:"} {
		assert.NotEmpty(t, recipe.Find(context.Background(), path, []byte(text)).Problem, path)
	}
	assert.False(t, recipe.Wanted("main.c"))
}

func TestFindersAreDocumentedAndSurviveAnything(t *testing.T) {
	names := map[string]bool{}
	for _, f := range recipe.Finders {
		assert.False(t, names[f.Name])
		names[f.Name] = true
		for _, text := range []string{"", "\x00\xff", strings.Repeat("[", 5000), strings.Repeat("a:\n", 100)} {
			f.Find("a/"+f.Name, []byte(text))
		}
	}
}

func TestSort(t *testing.T) {
	list := []recipe.Recipe{{Kind: "test", Path: "a"}, {Kind: "build", Path: "x/y"}, {Kind: "build", Path: "z"}, {Kind: "install", Path: "q", Line: 9}, {Kind: "install", Path: "q", Line: 2}}
	recipe.Sort(list)
	var got []string
	for _, r := range list {
		got = append(got, fmt.Sprint(r.Kind, r.Path, r.Line))
	}
	assert.Equal(t, []string{"installq2", "installq9", "buildz0", "buildx/y0", "testa0"}, got)
}

func TestPackagesAreNamedByTheirBuildFiles(t *testing.T) {
	for _, c := range []struct{ path, text, want string }{
		{"go.mod", "module example.test/a/b\n", "Go module example.test/a/b 1"},
		{"web/package.json", "{\n  \"version\": \"1\",\n  \"name\": \"@tide/board\"\n}", "npm package @tide/board 3"},
		{"package.json", "{}", ""},
		{"pyproject.toml", "[build-system]\n[project]\nname = \"tide\"\n", "Python project tide 3"},
		{"pyproject.toml", "[tool.poetry]\nname = \"tide\"\n", "Python project tide 2"},
		{"setup.py", "setup(\n    name='tide',\n)", "Python project tide 2"},
		{"setup.cfg", "[metadata]\nname = tide\n", "Python project tide 2"},
		{"Cargo.toml", "[package]\nname = \"tide\"\n", "Rust crate tide 2"},
		{"Cargo.toml", "[workspace]\nmembers = [\"a\"]\n", ""},
		{"a/pom.xml", "<project>\n<parent><artifactId>top</artifactId></parent>\n<artifactId>tide</artifactId></project>", "Maven artifact tide 3"},
		{"a/build.gradle", "plugins {}", "Gradle project a 1"},
		{"build.gradle", "plugins {}", ""},
	} {
		got := ""
		if p := recipe.Find(context.Background(), c.path, []byte(c.text)).Package; p != nil {
			got = fmt.Sprint(p.Kind, " ", p.Name, " ", p.Line)
		}
		assert.Equal(t, c.want, got, c.path)
	}
}

func TestRecipesTellTheirPlatform(t *testing.T) {
	of := func(p, text string) map[string]string {
		got := map[string]string{}
		for _, r := range recipe.Find(context.Background(), p, []byte(text)).Recipes {
			got[r.Command] = r.Platform
		}
		return got
	}
	assert.Equal(t, map[string]string{"make flash": "", "make flash-windows": "Windows", "make mac": "macOS", "make all-win-linux": ""},
		of("Makefile", "flash:\nflash-windows:\nmac:\nall-win-linux:\n"))
	assert.Equal(t, map[string]string{"npm install": "", "npm run build:win": "Windows", "npm run window": ""},
		of("package.json", `{"scripts": {"build:win": "x", "window": "y"}}`))
	assert.Equal(t, map[string]string{"nmake all": "Windows", "make all": "Linux", "make any": ""},
		of(".github/workflows/ci.yml", "jobs:\n  a:\n    runs-on: windows-latest\n    steps:\n      - run: nmake all\n  b:\n    runs-on: ubuntu-latest\n    steps:\n      - run: make all\n  c:\n    runs-on: ${{ matrix.os }}\n    steps:\n      - run: make any\n"))
}
