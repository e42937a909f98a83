package main

import (
	"bytes"
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"go/ast"
	"go/importer"
	"go/parser"
	"go/token"
	"go/types"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"juxtagram/core/links/names"
)

// corpus is a tree with a checker of its language.
type corpus struct {
	name, checker string
	languages     map[string]bool
	root          func() (string, func(), error)
	ask           func(ctx context.Context, root string, x *names.Index) ([]said, error)
}

var corpora = []corpus{
	{"gin", "go/types", golang, module("github.com/gin-gonic/gin"), goTypes},
	{"gorm", "go/types", golang, module("gorm.io/gorm"), goTypes},
	{"chromedp", "go/types", golang, module("github.com/chromedp/chromedp"), goTypes},
	{"river", "go/types", golang, module("github.com/riverqueue/river"), goTypes},
	{"this repository", "go/types", golang, here, goTypes},
	{"openapi-core", "TypeScript", typed, nodeModule("@redocly/openapi-core"), compiler},
	{"happy-dom", "TypeScript", typed, nodeModule("happy-dom"), compiler},
	{"query-core", "TypeScript", typed, nodeModule("@tanstack/query-core"), compiler},
}

var (
	golang = map[string]bool{"Go": true}
	typed  = map[string]bool{"TypeScript": true, "TSX": true}
)

func here() (string, func(), error) {
	at, err := filepath.Abs(".")
	return at, func() {}, err
}

// module is a copy of a module from the cache.
func module(path string) func() (string, func(), error) {
	return func() (string, func(), error) {
		raw, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", path).Output()
		if err != nil {
			return "", nil, err
		}
		temp, err := os.MkdirTemp("", "juxtagram-names-")
		if err != nil {
			return "", nil, err
		}
		return temp, func() { _ = os.RemoveAll(temp) }, os.CopyFS(temp, os.DirFS(strings.TrimSpace(string(raw))))
	}
}

// nodeModule is a copy of the sources of an installed package: what it imports
// from others is not there.
func nodeModule(name string) func() (string, func(), error) {
	return func() (string, func(), error) {
		temp, err := os.MkdirTemp("", "juxtagram-names-")
		if err != nil {
			return "", nil, err
		}
		return temp, func() { _ = os.RemoveAll(temp) }, os.CopyFS(temp, os.DirFS(filepath.Join("web/node_modules", name, "src")))
	}
}

type goPackage struct {
	Dir, ImportPath string
	GoFiles         []string
	Export          string
	Standard        bool
}

// goTypes checks every package of a module; what it takes from others comes
// from their export data.
func goTypes(ctx context.Context, root string, _ *names.Index) ([]said, error) {
	cmd := exec.CommandContext(ctx, "go", "list", "-e", "-deps", "-export", "-json=Dir,ImportPath,GoFiles,Export,Standard", "./...")
	cmd.Dir, cmd.Env = root, append(os.Environ(), "GOFLAGS=-mod=mod", "GOWORK=off")
	raw, err := cmd.Output()
	if err != nil {
		return nil, fmt.Errorf("go list: %w", err)
	}
	exports := map[string]string{}
	var own []goPackage
	for d := json.NewDecoder(bytes.NewReader(raw)); d.More(); {
		var p goPackage
		if err := d.Decode(&p); err != nil {
			return nil, err
		}
		exports[p.ImportPath] = p.Export
		if rel, err := filepath.Rel(root, p.Dir); err == nil && !strings.HasPrefix(rel, "..") && !p.Standard {
			own = append(own, p)
		}
	}
	fset := token.NewFileSet()
	// one importer over sources of this module, so that positions are known
	checked := map[string]*types.Package{}
	back := importer.ForCompiler(fset, "gc", func(path string) (io.ReadCloser, error) { return os.Open(exports[path]) })
	info := &types.Info{Uses: map[*ast.Ident]types.Object{}, Selections: map[*ast.SelectorExpr]*types.Selection{}}
	byPath := map[string]goPackage{}
	for _, p := range own {
		byPath[p.ImportPath] = p
	}
	var check func(path string) (*types.Package, error)
	check = func(path string) (*types.Package, error) {
		if p := checked[path]; p != nil {
			return p, nil
		}
		p, ok := byPath[path]
		if !ok {
			return back.Import(path)
		}
		var files []*ast.File
		for _, f := range p.GoFiles {
			parsed, err := parser.ParseFile(fset, filepath.Join(p.Dir, f), nil, parser.SkipObjectResolution)
			if err != nil {
				return nil, err
			}
			files = append(files, parsed)
		}
		c := types.Config{Importer: importFunc(check), Error: func(error) {}}
		pkg, _ := c.Check(path, fset, files, info) // what could be checked is asked
		checked[path] = pkg
		return pkg, nil
	}
	for _, p := range own {
		if _, err := check(p.ImportPath); err != nil {
			return nil, err
		}
	}
	var out []said
	for id, obj := range info.Uses {
		at := fset.Position(id.Pos())
		rel, err := filepath.Rel(root, at.Filename)
		if err != nil || id.Name == "_" {
			continue
		}
		s := said{file: filepath.ToSlash(rel), line: at.Line, column: at.Column - 1, name: id.Name}
		if name, ok := obj.(*types.PkgName); ok {
			_ = name // a package is many files: its name is not asked for
			continue
		}
		if to := fset.Position(obj.Pos()); to.IsValid() {
			if rel, err := filepath.Rel(root, to.Filename); err == nil && !strings.HasPrefix(rel, "..") && !filepath.IsAbs(rel) {
				s.toFile, s.toLine = filepath.ToSlash(rel), to.Line
			}
		}
		out = append(out, s)
	}
	return inOrder(out), nil
}

type importFunc func(path string) (*types.Package, error)

func (f importFunc) Import(path string) (*types.Package, error) {
	if path == "unsafe" {
		return types.Unsafe, nil
	}
	return f(path)
}

//go:embed symbols.cjs
var symbols string

func compiler(ctx context.Context, root string, _ *names.Index) ([]said, error) {
	web, err := filepath.Abs("web")
	if err != nil {
		return nil, err
	}
	cmd := exec.CommandContext(ctx, "node", "-e", symbols, root, web)
	cmd.Stderr = os.Stderr
	raw, err := cmd.Output()
	if err != nil {
		return nil, err
	}
	var rows []struct {
		File   string
		Line   int
		Column int
		Name   string
		To     string
		ToLine int
	}
	if err := json.Unmarshal(raw, &rows); err != nil {
		return nil, err
	}
	var out []said
	for _, r := range rows {
		out = append(out, said{r.File, r.Line, r.Column, r.Name, r.To, r.ToLine})
	}
	return inOrder(out), nil
}
