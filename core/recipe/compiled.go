package recipe

import (
	"path"
	"regexp"
	"strings"

	"github.com/BurntSushi/toml"
	"golang.org/x/mod/modfile"
)

func goModule(p string, content []byte) Found {
	mod, err := modfile.ParseLax(p, content, nil)
	if err != nil || mod.Module == nil {
		return Found{Problem: "not readable as a Go module file"}
	}
	line := mod.Module.Syntax.Start.Line
	dir := folder(p)
	return Found{
		Package: &Package{Kind: KindOf(p), Name: mod.Module.Mod.Path, Line: line},
		Recipes: []Recipe{
			{Kind: "build", Command: "go build ./...", Folder: dir, Path: p, Line: line},
			{Kind: "test", Command: "go test ./...", Folder: dir, Path: p, Line: line},
		},
	}
}

type crate struct {
	Package struct{ Name string }
	Bin     []struct{ Name, Path string }
	Lib     struct{ Name, Path string }
}

// cargo reads the declared programs and the library's root.
func cargo(p string, content []byte) Found {
	var c crate
	if _, err := toml.Decode(string(content), &c); err != nil {
		return Found{Problem: "not readable as TOML" + lineOfError(err)}
	}
	dir := folder(p)
	f := Found{Recipes: []Recipe{
		{Kind: "build", Command: "cargo build", Folder: dir, Path: p, Line: 1},
		{Kind: "test", Command: "cargo test", Folder: dir, Path: p, Line: 1},
	}}
	if c.Package.Name != "" {
		f.Package = &Package{Kind: KindOf(p), Name: c.Package.Name, Line: lineOf(content, `"`+c.Package.Name+`"`)}
	}
	for _, b := range c.Bin {
		if b.Path != "" {
			f.Declared = append(f.Declared, Declared{Kind: "program", Name: b.Name, Target: path.Join(dir, b.Path), Path: p,
				Line: lineOf(content, `"`+b.Path+`"`), How: "cargo run --bin " + b.Name, Evidence: "Cargo.toml declares the program " + b.Name})
		}
	}
	if c.Lib.Path != "" {
		f.Declared = append(f.Declared, Declared{Kind: "library", Name: c.Package.Name, Target: path.Join(dir, c.Lib.Path), Path: p,
			Line: lineOf(content, `"`+c.Lib.Path+`"`), Evidence: "Cargo.toml declares the library's root"})
	}
	return f
}

func javaBuild(p string, content []byte) Found {
	dir := folder(p)
	build, test := "gradle build", "gradle test"
	if strings.EqualFold(path.Base(p), "pom.xml") {
		build, test = "mvn package", "mvn test"
	}
	name, line := path.Base(dir), 1
	if m := artifact.FindSubmatchIndex(parentOf.ReplaceAllFunc(content, blanked)); m != nil {
		name, line = string(content[m[2]:m[3]]), strings.Count(string(content[:m[2]]), "\n")+1
	}
	f := Found{Recipes: []Recipe{
		{Kind: "build", Command: build, Folder: dir, Path: p, Line: 1},
		{Kind: "test", Command: test, Folder: dir, Path: p, Line: 1},
	}}
	if name != "." {
		f.Package = &Package{Kind: KindOf(p), Name: name, Line: line}
	}
	return f
}

var (
	artifact = regexp.MustCompile(`<artifactId>\s*([\w.-]+)\s*</artifactId>`)
	parentOf = regexp.MustCompile(`(?s)<parent>.*?</parent>`)
)

// blanked is a text of the same length and lines without words.
func blanked(b []byte) []byte {
	out := make([]byte, len(b))
	for i, c := range b {
		if out[i] = ' '; c == '\n' {
			out[i] = c
		}
	}
	return out
}
