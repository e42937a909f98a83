package hostile

import (
	"math/rand/v2"
	"path/filepath"
	"strings"
	"testing"
)

func contents() (out []input) {
	add := func(name, want, path, text string) {
		out = append(out, input{named("content", name), func(t *testing.T, dir string) string {
			return repository(t, dir, map[string]string{path: text, "ok.go": "package ok\n"})
		}, want, true})
	}
	anchors := "a0: &a0 [x, x, x, x, x, x, x, x, x]\n" + numbered(12, func(i int) string {
		return "a" + itoa(i+1) + ": &a" + itoa(i+1) + " [" + strings.TrimSuffix(strings.Repeat("*a"+itoa(i)+", ", 9), ", ") + "]\n"
	}) + "services:\n  gauge: *a12\n"
	add("anchors within anchors", "compose.yaml", "compose.yaml", anchors)
	add("nested YAML", "compose.yaml", "compose.yaml", "services: "+strings.Repeat("[", 200_000))
	add("nested TOML", "pyproject.toml", "pyproject.toml", "a = "+strings.Repeat("[", 400_000))
	add("a long key of TOML", "Cargo.toml", "Cargo.toml", strings.Repeat("a.", 300_000)+"a = 1")
	add("nested JSON", "package.json", "package.json", strings.Repeat(`{"a":`, 150_000))
	add("a tsconfig that extends itself", "", "tsconfig.json", `{"extends": "./tsconfig.json"}`)
	add("nested exports", "", "package.json", `{"name":"a","exports":`+strings.Repeat(`{"import":`, 5000)+`"./a.js"`+strings.Repeat("}", 5000)+"}")
	add("a pom of entities", "", "pom.xml", "<!DOCTYPE p [<!ENTITY a \"aaaaaaaaaa\">"+numbered(9, func(i int) string {
		return "<!ENTITY a" + itoa(i+1) + " \"" + strings.Repeat("&a"+itoa(i)+";", 10) + "\">"
	})+"]><project><artifactId>&a9;</artifactId></project>")
	add("a makefile of one line", "", "Makefile", growing("a: b ", 900_000))
	add("a Dockerfile of continued lines", "", "Dockerfile", "FROM a\nRUN "+growing("x \\\n", 500_000))
	add("a go.mod that goes on", "", "go.mod", "module a\n"+growing("require b v1.0.0\n", 800_000))
	add("attributes without end", "", ".gitattributes", growing("**/a*b*c*d* diff=x\n", 200_000))
	add("a mailmap without end", "", ".mailmap", numbered(20_000, func(i int) string { return "A <a" + itoa(i) + "@x.example> <b" + itoa(i) + "@x.example>\n" }))
	add("modules that are none", "", ".gitmodules", "[submodule \"a\"\n\tpath = ../..\n")
	add("Markdown of marks", "", "README.md", growing("**a", 200_000))
	add("Markdown of brackets", "", "README.md", growing("[a](", 200_000))
	add("Markdown of quotes", "", "README.md", growing("> ", 200_000))
	add("a plan that is none", "", "a.plan.json", strings.Repeat(`{"chapters":[`, 20_000))
	add("a large file", "not read", "a.txt", growing("x\n", 6<<20))
	add("one line of 3 MB", "", "a.js", growing("a=1;", 3<<20))
	add("zeros", "", "a.go", growing("\x00", 1<<20))
	add("UTF-16", "", "a.cs", "\xff\xfec\x00l\x00a\x00s\x00s\x00 \x00A\x00")
	add("no encoding", "", "a.py", "x = '\xff\xfe'\n")
	add("carriage returns alone", "", "a.c", growing("int a;\r", 100_000))
	add("a large-file pointer", "", "a.bin", "version https://git-lfs.github.com/spec/v1\noid sha256:"+strings.Repeat("1", 64)+"\nsize 99999999999999999999\n")
	add("tagged comments without end", "", "a.go", "package a\n"+growing("// TODO: x\n", 900_000))
	add("a comment that never ends", "", "a.c", "/* "+growing("TODO x ", 900_000))
	add("a string that never ends", "", "a.lua", "x = [["+growing("y ", 500_000))
	for i, c := range []struct{ ext, open string }{
		{"go", "func f() { if a { "}, {"py", "("}, {"js", "(() => {"}, {"ts", "f<T<"}, {"tsx", "<a>"}, {"java", "class A { "}, {"c", "{("}, {"cpp", "a<b<"}, {"cs", "namespace A { "}, {"rs", "mod a { "}, {"rb", "begin "}, {"php", "<?php if (a) { "},
		{"sh", "$( "}, {"kt", "class A { "}, {"css", "a { "}, {"html", "<div>"}, {"lua", "do "}, {"sql", "("}, {"yaml", "- "}, {"toml", "a = [["}, {"md", "- > "}, {"proto", "message A { "}, {"scala", "object A { "}, {"swift", "{ "}, {"hcl", "a { "}, {"vue", "<template><a>"},
	} {
		add("nested "+c.ext, "", "a."+c.ext, growing(c.open, 300_000))
		random := rand.New(rand.NewPCG(uint64(i), 7))
		junk := make([]byte, 60_000)
		alphabet := "(){}[]<>\"'`/*\\#@$%^&|;:,.=+-_ \n\tabc019é\x00"
		for k := range junk {
			junk[k] = alphabet[random.IntN(len(alphabet))]
		}
		add("junk of "+c.ext, "", "a."+c.ext, string(junk))
	}
	out = append(out, input{"content: 20,000 empty files", func(t *testing.T, dir string) string {
		files := map[string]string{}
		for i := range 20_000 {
			files[filepath.Join("d"+itoa(i%100), "f"+itoa(i)+".go")] = ""
		}
		return repository(t, dir, files)
	}, "", true})
	return out
}
