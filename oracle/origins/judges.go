package main

import (
	"bytes"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

var judges = []judge{
	{"Go", "go list", []string{"Go"}, goModules, goList},
	{"Python", "importlib", []string{"Python"}, pythonTrees, importlib},
	{"TypeScript", "the compiler", []string{"TypeScript", "TSX"}, typescriptTrees, compiler},
}

// modules are read from the module cache; the build's own go.mod asks for them.
var modules = []string{
	"github.com/gin-gonic/gin", "github.com/riverqueue/river", "gorm.io/gorm", "github.com/danielgtaylor/huma/v2", "github.com/chromedp/chromedp", "golang.org/x/tools",
}

// goModules are copies of modules, and this repository itself.
func goModules() ([]string, func(), error) {
	temp, err := os.MkdirTemp("", "juxtagram-origins-")
	if err != nil {
		return nil, nil, err
	}
	done := func() { _ = os.RemoveAll(temp) }
	here, err := filepath.Abs(".")
	if err != nil {
		return nil, done, err
	}
	roots := []string{here}
	for _, m := range modules {
		raw, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", m).Output()
		dir := strings.TrimSpace(string(raw))
		if err != nil || dir == "" {
			continue
		}
		to := filepath.Join(temp, filepath.Base(dir))
		if err := os.CopyFS(to, os.DirFS(dir)); err != nil {
			return nil, done, err
		}
		if _, err := os.Stat(filepath.Join(to, "go.mod")); err == nil {
			roots = append(roots, to)
		}
	}
	return roots, done, nil
}

type goPackage struct {
	ImportPath, Dir     string
	Name                string
	Standard            bool
	Module              *struct{ Path, Dir string }
	Imports             []string
	TestImports         []string
	XTestImports        []string
	ImportMap           map[string]string
	GoFiles, CgoFiles   []string
	TestGoFiles         []string
	XTestGoFiles        []string
	Incomplete, DepOnly bool
}

func goList(ctx context.Context, root string, t *tree) (map[question]verdict, error) {
	cmd := exec.CommandContext(ctx, "go", "list", "-e", "-deps", "-test", "-json=ImportPath,Dir,Name,Standard,Module,Imports,TestImports,XTestImports,ImportMap,GoFiles,CgoFiles,TestGoFiles,XTestGoFiles,DepOnly", "./...")
	cmd.Dir = root
	cmd.Env = append(os.Environ(), "GOFLAGS=-mod=mod", "GOWORK=off")
	raw, err := cmd.Output()
	if err != nil {
		return nil, fmt.Errorf("go list: %w", err)
	}
	known := map[string]verdict{}
	var own []goPackage
	for d := json.NewDecoder(bytes.NewReader(raw)); ; {
		var p goPackage
		if err := d.Decode(&p); errors.Is(err, io.EOF) {
			break
		} else if err != nil {
			return nil, err
		}
		name, _, _ := strings.Cut(p.ImportPath, " ")
		switch rel, err := filepath.Rel(root, p.Dir); {
		case p.Dir == "":
		case p.Standard:
			known[name] = verdict{origin.ToStandard, name}
		case err == nil && !strings.HasPrefix(rel, ".."):
			known[name] = verdict{origin.ToFile, filepath.ToSlash(rel) + "/"}
			if !p.DepOnly {
				own = append(own, p)
			}
		case p.Module != nil:
			known[name] = verdict{origin.ToDependency, p.Module.Path}
		}
	}
	said := map[question]verdict{}
	for _, p := range own {
		rel, _ := filepath.Rel(root, p.Dir)
		if program := p.Name == "main" && len(p.GoFiles) > 0; strings.HasSuffix(p.ImportPath, ".test") {
			continue
		} else if program != t.mains[filepath.ToSlash(rel)] {
			return nil, fmt.Errorf("%s: a program: %t, the survey says %t", rel, program, !program)
		}
		for _, f := range append(append(append(p.GoFiles, p.CgoFiles...), p.TestGoFiles...), p.XTestGoFiles...) {
			if filepath.IsAbs(f) {
				continue
			}
			file := path.Join(filepath.ToSlash(rel), f)
			n := t.Find(file)
			if n < 0 {
				continue
			}
			for _, i := range t.heads[n].Imports {
				name := i.Text
				if to := p.ImportMap[name]; to != "" {
					name, _, _ = strings.Cut(to, " ")
				}
				if v, ok := known[name]; ok {
					said[question{file, i.Text}] = v
				}
			}
		}
	}
	return said, nil
}

// ask runs a script that gets questions, one JSON list a line, and answers each
// with a line.
func ask(ctx context.Context, program string, args []string, dir string, in any) ([][]string, error) {
	raw, err := json.Marshal(in)
	if err != nil {
		return nil, err
	}
	cmd := exec.CommandContext(ctx, program, args...)
	cmd.Dir, cmd.Stdin, cmd.Stderr = dir, bytes.NewReader(raw), os.Stderr
	answer, err := cmd.Output()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", program, err)
	}
	var out [][]string
	return out, json.Unmarshal(answer, &out)
}

//go:embed finder.py
var finder string

// pythonTrees are the standard library, and the packages that come with it.
func pythonTrees() ([]string, func(), error) {
	raw, err := exec.Command("python3", "-c", "import sysconfig; print(sysconfig.get_paths()['stdlib'])").Output()
	return []string{strings.TrimSpace(string(raw))}, func() {}, err
}

func importlib(ctx context.Context, root string, t *tree) (map[question]verdict, error) {
	var in [][]string
	t.asked(func(l string) bool { return l == "Python" }, func(f *origin.File, i *lang.Import) {
		if !strings.Contains(f.Path, "site-packages") && !strings.Contains(f.Path, "lib2to3/tests/data") {
			in = append(in, []string{f.Path, i.Text})
		}
	})
	out, err := ask(ctx, "python3", []string{"-c", finder, root}, root, in)
	return verdicts(out), err
}

//go:embed resolve.cjs
var resolver string

// typescriptTrees is the folder of the web application, with the packages that
// are installed in it.
func typescriptTrees() ([]string, func(), error) {
	at, err := filepath.Abs("web")
	return []string{at}, func() {}, err
}

func compiler(ctx context.Context, root string, t *tree) (map[question]verdict, error) {
	var in [][]string
	t.asked(func(l string) bool { return l == "TypeScript" || l == "TSX" }, func(f *origin.File, i *lang.Import) {
		in = append(in, []string{f.Path, i.Text})
	})
	out, err := ask(ctx, "node", []string{"-e", resolver, root}, root, in)
	return verdicts(out), err
}

// verdicts reads answers: file, text, sort, name.
func verdicts(rows [][]string) map[question]verdict {
	said := map[question]verdict{}
	for _, r := range rows {
		said[question{r[0], r[1]}] = verdict{origin.Kind(r[2]), r[3]}
	}
	return said
}
