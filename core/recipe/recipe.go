// Package recipe finds in build files how a repository is installed, built,
// run and tested, and which programs and faces those files declare.
//
// A finder is a value: which files it reads, and what it finds in one of them.
// Adding one is a line in Finders and a function beside its kin.
package recipe

import (
	"bytes"
	"context"
	"encoding/gob"
	"errors"
	"fmt"
	"path"
	"sort"
	"strings"
	"time"

	"github.com/BurntSushi/toml"

	"juxtagram/core/sandbox"
)

// Recipe is a command somebody is meant to run.
type Recipe struct {
	Kind     string `json:"kind"` // "install" | "build" | "run" | "test" | "lint" | "other"
	Command  string `json:"command"`
	Folder   string `json:"folder"`   // where to run it, "" for the repository's root
	Platform string `json:"platform"` // "" for any
	Path     string `json:"path"`     // the file that says so
	Line     int    `json:"line"`
}

// Declared is an entry point that a build file declares.
type Declared struct {
	Kind     string // as in the survey document
	Name     string
	Target   string // the path it leads to, relative to the root; "": none
	Path     string // the file that declares it
	Line     int
	How      string // command to run; "": none known
	Evidence string
	Implied  bool // not declared: what is taken where nothing is, if Target is there
}

// Package is what a build file calls the folder it stands in.
type Package struct {
	Kind string // as in Kinds
	Name string
	Line int
}

// Kinds are the sorts of packages, by the build files that declare them and
// that ask for them.
var Kinds = map[string]string{
	"go.mod": "Go module", "package.json": "npm package", "pyproject.toml": "Python project", "setup.py": "Python project", "setup.cfg": "Python project",
	"requirements.txt": "Python project", "cargo.toml": "Rust crate", "pom.xml": "Maven artifact", "build.gradle": "Gradle project", "build.gradle.kts": "Gradle project",
	"composer.json": "Composer package",
}

// KindOf is the sort of package that a build file is about; "": none.
func KindOf(p string) string { return Kinds[strings.ToLower(path.Base(p))] }

// Found is what one file tells.
type Found struct {
	Recipes  []Recipe
	Declared []Declared
	Package  *Package // the package that the file makes of its folder; nil: none
	Problem  string   // why the file could not be read to its end; "": it could
}

// Finder reads one sort of build file.
type Finder struct {
	Name    string // for people: "package scripts"
	Matches func(p string) bool
	Find    func(p string, content []byte) Found
}

// Finders are all finders.
var Finders = []Finder{
	{"package scripts", named("package.json"), packageJSON},
	{"make targets", makefile, makeTargets},
	{"Go modules", named("go.mod"), goModule},
	{"Python projects", named("pyproject.toml"), pyproject},
	{"Python set-up", named("setup.cfg", "setup.py", "requirements.txt", "tox.ini"), pythonSetup},
	{"Rust crates", named("cargo.toml"), cargo},
	{"Java builds", named("pom.xml", "build.gradle", "build.gradle.kts"), javaBuild},
	{"container files", containerfile, container},
	{"compositions", composition, compose},
	{"CI files", ciFile, ci},
	{"CMake", named("cmakelists.txt"), cmake},
}

// MaxSize is how large a build file may be to be read, in bytes.
const MaxSize = 1 << 20

// Wanted tells whether some finder reads files of this path.
func Wanted(p string) bool { return finder(p) != nil }

func finder(p string) *Finder {
	for i := range Finders {
		if Finders[i].Matches(p) {
			return &Finders[i]
		}
	}
	return nil
}

// budget is what one build file may take: anchors within anchors and nested brackets
// may make a decoder take hours or gigabytes.
var budget = sandbox.Budget{Bytes: MaxSize + 4096, Time: 2 * time.Second}

var task = sandbox.New("recipe", budget, func(in []byte) ([]byte, error) {
	p, content, _ := strings.Cut(string(in), "\x00")
	var out bytes.Buffer
	err := gob.NewEncoder(&out).Encode(find(p, []byte(content))) // paths are no text: any bytes
	return out.Bytes(), err
})

// Find reads one build file, in the sandbox. A file that no finder reads gives nothing;
// one that takes too much tells so as its problem.
func Find(ctx context.Context, p string, content []byte) Found {
	if finder(p) == nil {
		return Found{}
	}
	var found Found
	out, err := task.Run(ctx, append([]byte(p+"\x00"), content...))
	if err == nil {
		err = gob.NewDecoder(bytes.NewReader(out)).Decode(&found)
	}
	if err != nil {
		return Found{Problem: err.Error()}
	}
	return found
}

func find(p string, content []byte) Found {
	f := finder(p)
	found := f.Find(p, content)
	for i := range found.Recipes {
		if r := &found.Recipes[i]; r.Platform == "" {
			r.Platform = platformOf(r.Command + " " + r.Folder + " " + path.Base(r.Path))
		}
	}
	return found
}

// Sort orders recipes by what they do, then by folder depth, path and line.
func Sort(recipes []Recipe) {
	rank := map[string]int{"install": 0, "build": 1, "run": 2, "test": 3, "lint": 4, "other": 5}
	sort.SliceStable(recipes, func(i, j int) bool {
		a, b := recipes[i], recipes[j]
		if rank[a.Kind] != rank[b.Kind] {
			return rank[a.Kind] < rank[b.Kind]
		}
		if da, db := strings.Count(a.Path, "/"), strings.Count(b.Path, "/"); da != db {
			return da < db
		}
		if a.Path != b.Path {
			return a.Path < b.Path
		}
		return a.Line < b.Line
	})
}

func named(names ...string) func(string) bool {
	return func(p string) bool {
		base := strings.ToLower(path.Base(p))
		for _, n := range names {
			if base == n {
				return true
			}
		}
		return false
	}
}

func folder(p string) string {
	if d := path.Dir(p); d != "." {
		return d
	}
	return ""
}

// kindOf reads what a script or target is for from its name.
func kindOf(name string) string {
	name = strings.ToLower(name)
	for _, k := range []struct {
		kind  string
		words []string
	}{
		{"lint", []string{"lint", "format", "fmt", "vet", "typecheck", "style"}},
		{"test", []string{"test", "check", "spec", "e2e", "coverage", "bench"}},
		{"install", []string{"install", "setup", "bootstrap", "deps", "prepare", "init"}},
		{"run", []string{"run", "start", "serve", "dev", "watch", "demo", "up", "preview", "flash"}},
		{"build", []string{"build", "all", "compile", "dist", "release", "package", "bundle", "generate", "docs"}},
	} {
		for _, w := range k.words {
			if name == w || strings.HasPrefix(name, w+"-") || strings.HasPrefix(name, w+":") || strings.HasPrefix(name, w+"_") ||
				strings.HasSuffix(name, "-"+w) || strings.HasSuffix(name, ":"+w) || strings.HasSuffix(name, "_"+w) || strings.HasPrefix(name, w+".") {
				return k.kind
			}
		}
	}
	return "other"
}

// lineOf is the line (from 1) of the first of several texts that occurs in
// content; 1 when none does.
func lineOf(content []byte, texts ...string) int {
	s := string(content)
	for _, t := range texts {
		if i := strings.Index(s, t); i >= 0 {
			return strings.Count(s[:i], "\n") + 1
		}
	}
	return 1
}

// eachLine calls do with each line and its number, from 1.
func eachLine(content []byte, do func(n int, line string)) {
	for i, l := range strings.Split(string(content), "\n") {
		do(i+1, strings.TrimSuffix(l, "\r"))
	}
}

// lineOfError is where TOML could not be read, in words; "": nobody knows.
func lineOfError(err error) string {
	var at toml.ParseError
	if errors.As(err, &at) {
		return fmt.Sprintf(" (line %d)", at.Position.Line)
	}
	return ""
}
