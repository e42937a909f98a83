package main

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strings"
)

// function is a function of a package, with what it does that people pass over:
// "accessor", "printing", "comparing", "passes"; "": none of these.
type function struct {
	path  string
	line  int
	name  string
	class string
}

// goFunctions are those of Go files below a folder, but for tests and examples.
func goFunctions(root string) ([]function, error) {
	var out []function
	err := filepath.WalkDir(root, func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() {
			if err == nil && (e.Name() == "testdata" || strings.HasPrefix(e.Name(), "_") || e.Name() == "examples") {
				return fs.SkipDir
			}
			return err
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		set := token.NewFileSet()
		file, err := parser.ParseFile(set, path, nil, parser.SkipObjectResolution)
		if err != nil {
			return nil //nolint:nilerr // no Go that its own parser reads
		}
		short, err := filepath.Rel(root, path)
		if err != nil {
			return err
		}
		for _, d := range file.Decls {
			if f, ok := d.(*ast.FuncDecl); ok && f.Body != nil {
				out = append(out, function{filepath.ToSlash(short), set.Position(f.Name.Pos()).Line, f.Name.Name, sortGo(f)})
			}
		}
		return nil
	})
	return out, err
}

var (
	goPrinting  = map[string]bool{"String": true, "GoString": true, "Format": true, "Error": true, "MarshalJSON": true, "UnmarshalJSON": true, "MarshalText": true, "UnmarshalText": true, "Dump": true}
	goComparing = map[string]bool{"Equal": true, "Less": true, "Len": true, "Swap": true, "Compare": true, "Hash": true, "Is": true, "Unwrap": true}
)

func sortGo(f *ast.FuncDecl) string {
	switch {
	case f.Recv != nil && goPrinting[f.Name.Name]:
		return "printing"
	case f.Recv != nil && goComparing[f.Name.Name]:
		return "comparing"
	case len(f.Body.List) != 1:
		return ""
	}
	var only ast.Expr
	switch s := f.Body.List[0].(type) {
	case *ast.ReturnStmt:
		if len(s.Results) == 1 {
			only = s.Results[0]
		}
	case *ast.ExprStmt:
		only = s.X
	case *ast.AssignStmt:
		if len(s.Lhs) == 1 && len(s.Rhs) == 1 && plain(s.Lhs[0]) && plain(s.Rhs[0]) {
			return "accessor"
		}
	}
	if only == nil {
		return ""
	}
	if plain(only) {
		return "accessor"
	}
	call, ok := only.(*ast.CallExpr)
	if !ok {
		return ""
	}
	var own, given []string
	for _, p := range f.Type.Params.List {
		for _, n := range p.Names {
			own = append(own, n.Name)
		}
	}
	for _, a := range call.Args {
		n, ok := a.(*ast.Ident)
		if !ok {
			return ""
		}
		given = append(given, n.Name)
	}
	if strings.Join(own, ",") == strings.Join(given, ",") {
		return "passes"
	}
	return ""
}

// plain is a name, a member of one, an item of one, or a constant.
func plain(e ast.Expr) bool {
	for {
		switch x := e.(type) {
		case *ast.Ident, *ast.BasicLit:
			return true
		case *ast.SelectorExpr:
			e = x.X
		case *ast.IndexExpr:
			e = x.X
		case *ast.StarExpr:
			e = x.X
		case *ast.UnaryExpr:
			e = x.X
		default:
			return false
		}
	}
}
