package main

import (
	"archive/zip"
	"bufio"
	"bytes"
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/sync/errgroup"
)

//go:embed python.py typescript.cjs Outline.java
var scripts embed.FS

func corpora() []corpus {
	return []corpus{
		{name: "Go", parser: "go/parser", roots: goRoot, exts: []string{".go"}, judge: judgeGo, comments: true},
		{name: "Python", parser: "ast, tokenize", roots: pythonRoot, exts: []string{".py"}, judge: script("python.py", "python3"), comments: true},
		{name: "TypeScript", parser: "typescript", roots: modules, exts: []string{".ts", ".mts", ".cts", ".tsx"}, judge: script("typescript.cjs", "node", "--max-old-space-size=4096"), comments: true},
		{name: "JavaScript", parser: "typescript", roots: modules, exts: []string{".js", ".mjs", ".cjs", ".jsx"}, judge: script("typescript.cjs", "node", "--max-old-space-size=4096"), comments: true},
		{name: "Java", parser: "javac", roots: javaRoot, exts: []string{".java"}, judge: script("Outline.java", "java")},
	}
}

func goRoot() []string {
	out, _ := exec.Command("go", "env", "GOROOT").Output()
	return []string{filepath.Join(strings.TrimSpace(string(out)), "src")}
}

func pythonRoot() []string {
	out, _ := exec.Command("python3", "-c", "import sysconfig; print(sysconfig.get_path('stdlib'))").Output()
	return []string{strings.TrimSpace(string(out))}
}

func modules() []string { return []string{"web/node_modules"} }

// javaRoot unpacks the JDK's source below .cache, once.
func javaRoot() []string {
	into := filepath.Join(".cache", "jdk-source")
	if _, err := os.Stat(into); err == nil {
		return []string{into}
	}
	found, _ := filepath.Glob("/usr/lib/jvm/*/lib/src.zip")
	for _, path := range found {
		if err := unpack(path, into); err == nil {
			return []string{into}
		}
		os.RemoveAll(into)
	}
	return nil
}

func unpack(path, into string) error {
	z, err := zip.OpenReader(path)
	if err != nil {
		return err
	}
	defer z.Close()
	for _, f := range z.File {
		if !strings.HasSuffix(f.Name, ".java") || !filepath.IsLocal(f.Name) {
			continue
		}
		to := filepath.Join(into, f.Name)
		if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
			return err
		}
		r, err := f.Open()
		if err != nil {
			return err
		}
		content, err := io.ReadAll(r)
		r.Close()
		if err == nil {
			err = os.WriteFile(to, content, 0o644)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// script judges by a program that reads paths and prints what it says of each.
func script(name string, command ...string) func(context.Context, []string) ([]said, error) {
	return func(ctx context.Context, paths []string) ([]said, error) {
		folder, err := os.MkdirTemp("", "oracle")
		if err != nil {
			return nil, err
		}
		defer os.RemoveAll(folder)
		text, err := scripts.ReadFile(name)
		if err != nil {
			return nil, err
		}
		file := filepath.Join(folder, name)
		if err := os.WriteFile(file, text, 0o600); err != nil {
			return nil, err
		}
		args := append(append([]string{}, command[1:]...), file)
		if name == "typescript.cjs" {
			where, err := filepath.Abs("web/node_modules/typescript")
			if err != nil {
				return nil, err
			}
			args = append(args, where)
		}
		parts := make([][]said, runtime.GOMAXPROCS(0))
		group, ctx := errgroup.WithContext(ctx)
		for k := range parts {
			var mine []string
			for i := k; i < len(paths); i += len(parts) {
				mine = append(mine, paths[i])
			}
			group.Go(func() error {
				cmd := exec.CommandContext(ctx, command[0], args...)
				cmd.Stdin = strings.NewReader(strings.Join(mine, "\n"))
				cmd.Stderr = os.Stderr
				raw, err := cmd.Output()
				if err != nil {
					return fmt.Errorf("%s: %w", command[0], err)
				}
				parts[k], err = answers(raw)
				return err
			})
		}
		err = group.Wait()
		return slices.Concat(parts...), err
	}
}

// answers reads what a program printed: one object a line.
func answers(raw []byte) ([]said, error) {
	var out []said
	lines := bufio.NewScanner(bytes.NewReader(raw))
	lines.Buffer(nil, 1<<30)
	for lines.Scan() {
		var s said
		if err := json.Unmarshal(lines.Bytes(), &s); err != nil {
			return nil, err
		}
		out = append(out, s)
	}
	return out, lines.Err()
}

func judgeGo(_ context.Context, paths []string) ([]said, error) {
	out := make([]said, len(paths))
	work := make(chan int)
	done := make(chan struct{})
	for range runtime.GOMAXPROCS(0) {
		go func() {
			for i := range work {
				out[i] = goSays(paths[i])
			}
			done <- struct{}{}
		}()
	}
	for i := range paths {
		work <- i
	}
	close(work)
	for range runtime.GOMAXPROCS(0) {
		<-done
	}
	return out, nil
}

func goSays(path string) said {
	s := said{Path: path}
	set := token.NewFileSet()
	file, err := parser.ParseFile(set, path, nil, parser.ParseComments|parser.SkipObjectResolution)
	if err != nil {
		s.Skip = err.Error()
		return s
	}
	// lines as they stand, without //line directives
	line := func(p token.Pos) int { return set.PositionFor(p, false).Line }
	add := func(level string, name *ast.Ident) {
		if name.Name != "_" || level == "member" {
			s.Symbols = append(s.Symbols, []any{level, name.Name, line(name.Pos())})
		}
	}
	for _, d := range file.Decls {
		switch d := d.(type) {
		case *ast.FuncDecl:
			level := "top"
			if d.Recv != nil {
				level = "member"
			}
			add(level, d.Name)
		case *ast.GenDecl:
			for _, spec := range d.Specs {
				switch spec := spec.(type) {
				case *ast.ImportSpec:
					text, _ := strconv.Unquote(spec.Path.Value)
					s.Imports = append(s.Imports, []any{text, line(spec.Pos())})
				case *ast.ValueSpec:
					for _, name := range spec.Names {
						add("top", name)
					}
				case *ast.TypeSpec:
					add("top", spec.Name)
					switch of := spec.Type.(type) {
					case *ast.StructType:
						members(of.Fields, add, true)
					case *ast.InterfaceType:
						members(of.Methods, add, false)
					}
				}
			}
		}
	}
	for _, group := range file.Comments {
		for _, c := range group.List {
			// c.Text has carriage returns taken out; the end is looked for anew
			start := set.PositionFor(c.Pos(), false).Offset
			s.Comments = append(s.Comments, []int{start, start + len(c.Text)})
		}
	}
	return s
}

func members(list *ast.FieldList, add func(string, *ast.Ident), embedded bool) {
	for _, f := range list.List {
		for _, name := range f.Names {
			add("member", name)
		}
		if len(f.Names) == 0 && embedded {
			of := f.Type
			for {
				switch t := of.(type) {
				case *ast.StarExpr:
					of = t.X
					continue
				case *ast.IndexExpr:
					of = t.X
					continue
				case *ast.IndexListExpr:
					of = t.X
					continue
				case *ast.SelectorExpr:
					add("member", t.Sel)
				case *ast.Ident:
					add("member", t)
				}
				break
			}
		}
	}
}
