package facts_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"fmt"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/demo"
)

var ctx = context.Background()

func of(name, text string) facts.Facts {
	return facts.Of(ctx, all.Of(name, []byte(text)), []byte(text))
}

// Each text holds the word once in a comment and at least once in a string or
// another place that is none: only the comment counts.
func TestTaggedCommentsAreFoundInCommentsOnly(t *testing.T) {
	for name, text := range map[string]string{
		"a.go":       "package a\n\nvar s = \"TODO: no\" // TODO: yes\nvar r = `\n// TODO: no\n`\nvar c = '\"' /* plain */\n",
		"a.py":       "s = \"# TODO: no\"\nd = '''\n# TODO: no\n'''\n# TODO: yes\n\ndef f():\n    \"\"\"TODO: no, a docstring\"\"\"\n",
		"a.js":       "const s = '// TODO: no', r = /[/]\\/ TODO: no/g, t = `// TODO: no ${1 /* TODO: yes */}`\n",
		"a.ts":       "const s: string = \"/* TODO: no */\" // TODO: yes\n",
		"a.tsx":      "const a = <p>// TODO: no</p> // TODO: yes\n",
		"a.c":        "char *s = \"/* TODO: no */\"; /* TODO: yes */\nchar q = '\"';\n",
		"a.cpp":      "auto s = R\"x(// TODO: no)x\"; // TODO: yes\n",
		"A.java":     "class A { String s = \"// TODO: no\"; /* TODO: yes */ }\n",
		"a.rs":       "fn f() { let s = \"// TODO: no\"; let r = r#\"// TODO: no\"#; } /* outer /* TODO: yes */ */\n",
		"a.rb":       "s = \"# TODO: no\"\n# TODO: yes\nx = 'TODO #{1}'\n",
		"a.php":      "<?php\n$s = '// TODO: no'; // TODO: yes\n",
		"a.sh":       "echo \"# TODO: no\" '# TODO: no' a#TODO:no # TODO: yes\n",
		"a.cs":       "class A { string s = \"// TODO: no\"; string v = @\"// TODO: no\"; /* TODO: yes */ }\n",
		"a.kt":       "val s = \"// TODO: no\" // TODO: yes\n",
		"a.lua":      "s = \"-- TODO: no\" -- TODO: yes\n",
		"a.css":      "a::before { content: \"/* TODO: no */\" } /* TODO: yes */\n",
		"a.html":     "<p title=\"TODO: no\">TODO: no</p><!-- TODO: yes -->\n",
		"a.scala":    "val s = \"// TODO: no\" // TODO: yes\n",
		"a.proto":    "syntax = \"proto3\"; // TODO: yes\noption x = \"// TODO: no\";\n",
		"a.toml":     "s = \"# TODO: no\" # TODO: yes\n",
		"a.yaml":     "s: \"# TODO: no\" # TODO: yes\n",
		"a.sql":      "SELECT '-- TODO: no'; -- TODO: yes\n",
		"a.hs":       "s = \"-- TODO: no\" -- TODO: yes\n",
		"a.pl":       "my $s = \"# TODO: no\"; # TODO: yes\n",
		"a.ex":       "s = \"# TODO: no\" # TODO: yes\n",
		"a.vb":       "s = \"' TODO: no\" ' TODO: yes\n",
		"a.swift":    "let s = \"// TODO: no\" // TODO: yes\n",
		"Makefile":   "x = 1 # TODO: yes\n",
		"a.vue":      "<template><p>TODO: no</p></template>\n<script>\nconst s = '// TODO: no' // TODO: yes\n</script>\n",
		"a.md":       "TODO: no, this is text\n\n<!-- TODO: yes -->\n",
		"a.R":        "s <- \"# TODO: no\" # TODO: yes\n",
		"Dockerfile": "FROM x\n# TODO: yes\nRUN echo 'TODO: no'\n",
	} {
		t.Run(name, func(t *testing.T) {
			f := of(name, text)
			require.Len(t, f.Tagged, 1, "%+v", f)
			assert.Contains(t, f.Tagged[0].Text, "TODO: yes")
			at := strings.Count(text[:strings.Index(text, "TODO: yes")], "\n") + 1
			assert.Equal(t, at, f.Tagged[0].Line)
		})
	}
}

func TestWhatATaggedCommentSays(t *testing.T) {
	for _, c := range []struct {
		text string
		want []facts.TaggedComment
	}{
		{"// TODO(kip): mend, see #12\n", []facts.TaggedComment{{Word: "TODO", Text: "TODO(kip): mend, see #12", Said: "TODO(kip): mend, see #12", Line: 1, EndLine: 1, Who: "kip", Issue: "#12"}}},
		{"// FIXME @oona MG-7 falls over\n", []facts.TaggedComment{{Word: "FIXME", Text: "FIXME @oona MG-7 falls over", Said: "FIXME @oona MG-7 falls over", Line: 1, EndLine: 1, Who: "oona", Issue: "MG-7"}}},
		{"// TODO(#41): later\n", []facts.TaggedComment{{Word: "TODO", Text: "TODO(#41): later", Said: "TODO(#41): later", Line: 1, EndLine: 1, Issue: "#41"}}},
		{"x := 1 // HACK\n", []facts.TaggedComment{{Word: "HACK", Text: "HACK", Said: "HACK", Line: 1, EndLine: 1}}},
		{"// First line.\n// BUG: second\n// and third.\n\n// another\n", []facts.TaggedComment{{Word: "BUG", Text: "First line.\nBUG: second\nand third.", Said: "BUG: second", Line: 2, EndLine: 3}}},
		{"/*\n * NOTE: inside\n * a block\n */\n", []facts.TaggedComment{{Word: "NOTE", Text: "NOTE: inside\na block", Said: "NOTE: inside", Line: 2, EndLine: 4}}},
		{"// TODO one\n// TODO two\n", []facts.TaggedComment{{Word: "TODO", Text: "TODO one\nTODO two", Said: "TODO one", Line: 1, EndLine: 2}, {Word: "TODO", Text: "TODO one\nTODO two", Said: "TODO two", Line: 2, EndLine: 2}}},
		{"//TODO: tight\n", []facts.TaggedComment{{Word: "TODO", Text: "TODO: tight", Said: "TODO: tight", Line: 1, EndLine: 1}}},
		{"// a TODO_LIST, TODOs, todo, /path/TODO and x.TODO are none\n", nil},
		{"// DEPRECATED: use OPTIMIZE\n", []facts.TaggedComment{{Word: "DEPRECATED", Text: "DEPRECATED: use OPTIMIZE", Said: "DEPRECATED: use OPTIMIZE", Line: 1, EndLine: 1}, {Word: "OPTIMIZE", Text: "DEPRECATED: use OPTIMIZE", Said: "OPTIMIZE", Line: 1, EndLine: 1}}},
	} {
		got := of("a.go", "package a\n"+c.text).Tagged
		for i := range got {
			got[i].Line--
			got[i].EndLine--
		}
		if c.text[0] == 'x' {
			continue
		}
		assert.Equal(t, c.want, got, c.text)
	}
}

func TestDocstringsCountAsMarkersAlone(t *testing.T) {
	f := of("a.py", "def f():\n    \"\"\"Reads a frame. TODO: no.\n\n    .. deprecated:: 1.4\n       Use g.\n    \"\"\"\n    # TODO: yes\n    return 'TODO: no'\n")
	require.Len(t, f.Tagged, 2)
	assert.Equal(t, []any{"DEPRECATED", 4, "TODO", 7}, []any{f.Tagged[0].Word, f.Tagged[0].Line, f.Tagged[1].Word, f.Tagged[1].Line})
}

// classify is the oracle of line counts: it colours every byte, then looks at
// each line by itself.
func classify(content []byte, comments []lang.Span) facts.Lines {
	inside := make([]bool, len(content))
	for _, s := range comments {
		for i := s.Start; i < s.End; i++ {
			inside[i] = true
		}
	}
	var l facts.Lines
	at := 0
	for _, line := range bytes.SplitAfter(content, []byte("\n")) {
		if len(line) == 0 {
			continue
		}
		code, comment := false, false
		for i, c := range line {
			if strings.ContainsRune(" \t\r\n\f\v", rune(c)) {
				continue
			}
			if inside[at+i] {
				comment = true
			} else {
				code = true
			}
		}
		l.Total++
		switch {
		case code:
			l.Code++
		case comment:
			l.Comment++
		default:
			l.Blank++
		}
		at += len(line)
	}
	return l
}

func TestLineCountsAgreeWithBruteForce(t *testing.T) {
	files, err := demo.Files()
	require.NoError(t, err)
	files["crlf.go"] = []byte("package a\r\n\r\n// c\r\nvar x = 1 // c\r\n/* a\r\n\r\nb */ var y = 2\r\n")
	files["noend.c"] = []byte("int a; /* x\n y */")
	counted := 0
	for name, content := range files {
		l := all.Of(name, content)
		if l == nil || bytes.IndexByte(content, 0) >= 0 {
			continue
		}
		r, err := l.Read(ctx, content)
		require.NoError(t, err, name)
		got := facts.Of(ctx, l, content)
		require.NotNil(t, got.Lines, name)
		assert.Equal(t, classify(content, r.Comments), *got.Lines, name)
		assert.Equal(t, got.Lines.Total, got.Lines.Code+got.Lines.Comment+got.Lines.Blank, name)
		counted++
	}
	assert.Greater(t, counted, 60)
}

func TestWhatIsNotRead(t *testing.T) {
	for name, c := range map[string]struct{ text, reason string }{
		"bin.go":     {"package a\x00", "binary"},
		"noext":      {"who knows\n", "no language"},
		"one.js":     {"x(" + strings.Repeat("1,", 3<<20) + ")", "a line of more than 100 kB"},
		"large.yaml": {strings.Repeat("a: b\n", 300_000), "only lexed"},
		"lfs.png":    {"version https://git-lfs.example.test/spec/v1\noid sha256:00\nsize 1\n", "pointer"},
	} {
		f := of(name, c.text)
		assert.Equal(t, lang.Listed, f.Depth, name)
		assert.Contains(t, f.Reason, c.reason, name)
		assert.Nil(t, f.Lines, name)
	}
	assert.Equal(t, lang.Parsed, of("bad.go", "package \xff\xfe\n// TODO: x\n").Depth, "invalid UTF-8 is read all the same")
	assert.Equal(t, lang.Lexed, of("bad.yaml", "a: \xff # TODO: x\n").Depth)
}

func TestUTF16IsRead(t *testing.T) {
	text := "package a\n\n// F is é. TODO: mend\nfunc F() {}\n"
	for name, order := range map[string]binary.AppendByteOrder{"\xff\xfe": binary.LittleEndian, "\xfe\xff": binary.BigEndian} {
		raw := []byte(name)
		for _, unit := range utf16.Encode([]rune(text)) {
			raw = order.AppendUint16(raw, unit)
		}
		f := of("a.go", string(raw))
		assert.Equal(t, lang.Parsed, f.Depth)
		assert.Equal(t, "UTF-16", f.Encoding)
		assert.Equal(t, 4, f.Lines.Total)
		assert.Equal(t, 3, f.Tagged[0].Line)
		assert.Equal(t, "F is é.", f.Details.Outline[0].Doc)
		assert.Equal(t, "UTF-16", of("a.go", string(raw[:len(raw)-1])).Encoding, "half a character at the end")
	}
}

func TestMarks(t *testing.T) {
	assert.True(t, of("a.js", "x=1;"+strings.Repeat("y(1);", 1000)).Minified)
	assert.False(t, of("a.js", strings.Repeat("y(1);\n", 1000)).Minified)
	assert.Equal(t, "Tidekit v1.2.3", of("a.js", "/*! Tidekit v1.2.3 */\nx()\n").Vendored)
	assert.Equal(t, "Tidekit Core 2.0.1", of("a.js", "/**\n * Tidekit Core 2.0.1\n */\nx()\n").Vendored)
	assert.Empty(t, of("a.js", "// raise the limit to 2.0\n").Vendored)
}

func TestDetailsComeBackAsTheyWere(t *testing.T) {
	for name, text := range map[string]string{
		"a.go": "package a\n\nimport \"fmt\"\n\n// T is.\ntype T struct{ a int }\n\nfunc (T) m() { fmt.Println(\"x\" + \"y\") }\n", "a.py": "def f(): pass\n", "a.hs": "f :: Int\n", "a.txt": "words\n",
		"latin1.c": "#include \"caf\xe9.h\"\nint x;\n",
	} {
		f := of(name, text)
		want := f.Details
		f.Pack()
		assert.Nil(t, f.Details)
		got, err := facts.Unpack(f.Packed)
		require.NoError(t, err)
		assert.Equal(t, want, got, name)
		for i := range f.Packed {
			_, _ = facts.Unpack(f.Packed[:i]) // cut short: an error or less, never a crash
		}
	}
	d, err := facts.Unpack(nil)
	assert.Nil(t, d)
	assert.NoError(t, err)
}

func TestStarts(t *testing.T) {
	for _, c := range []struct {
		name, text string
		kind       string
		line       int
	}{
		{"main.go", "package main\n\nfunc main() {}\n", "program", 3},
		{"lib.go", "package lib\n\nfunc main() {}\n", "", 0},
		{"m.go", "package main\n\ntype T int\n\nfunc (T) main() {}\n", "", 0},
		{"s.go", "package main\n\nvar s = `func main() {}`\n", "", 0},
		{"a.py", "x = 1\nif __name__ == '__main__':\n    pass\n", "script", 2},
		{"b.py", "s = \"if __name__ == '__main__':\"\n", "", 0},
		{"c.py", "if '__main__' == __name__ :\n    pass\n", "script", 1},
		{"A.java", "class A {\n  public static void main(String[] args) {}\n}\n", "program", 2},
		{"B.java", "class B {\n  static void main(int n) {}\n}\n", "", 0},
		{"a.c", "#ifdef X\nint main(void)\n{ return 0; }\n#endif\n", "program", 2},
		{"b.c", "int main_loop(void) { return 0; }\nint main(void);\n", "", 0},
		{"a.cpp", "int main(int argc, char** argv) { return 0; }\n", "program", 1},
		{"main.rs", "fn main() {}\n", "program", 1},
		{"m.rs", "mod x { fn main() {} }\n", "", 0},
		{"tool", "#!/usr/bin/env -S python3 -u\nprint(1)\n", "script", 1},
		{"tool.sh", "#!/bin/sh\necho\n", "script", 1},
	} {
		starts := of(c.name, c.text).Starts
		if c.kind == "" {
			assert.Empty(t, starts, c.name)
			continue
		}
		if assert.Len(t, starts, 1, c.name) {
			assert.Equal(t, c.kind, starts[0].Kind, c.name)
			assert.Equal(t, c.line, starts[0].Line, c.name)
		}
	}
}

func TestGeneratedIsSaidInAComment(t *testing.T) {
	assert.Equal(t, "Code generated by x; DO NOT EDIT.", of("a.go", "// Code generated by x; DO NOT EDIT.\npackage a\n").Generated)
	assert.Empty(t, of("a.py", "print('# Code generated by x; DO NOT EDIT.')\n").Generated)
	assert.Empty(t, of("a.go", "package a\n// this is generated by hand\n").Generated)
}

func FuzzFacts(f *testing.F) {
	f.Add("go", "package a // TODO: x")
	f.Add("py", "'''# TODO")
	f.Add("vue", "<script>// TODO")
	f.Fuzz(func(t *testing.T, ext, text string) {
		got := of("a."+strings.ReplaceAll(ext, "/", ""), text)
		if got.Lines != nil {
			read, _ := facts.Text([]byte(text))
			assert.Equal(t, facts.CountLines(read), got.Lines.Total)
			for _, c := range got.Tagged {
				assert.True(t, c.Line >= 1 && c.Line <= c.EndLine && c.EndLine <= got.Lines.Total+1, fmt.Sprint(c))
			}
		}
	})
}

func BenchmarkFacts(b *testing.B) {
	line := "func f%d(a int) int { return a * %d } // note %d\n"
	for _, n := range []int{1000, 10000} {
		var text bytes.Buffer
		text.WriteString("package a\n")
		for i := range n {
			fmt.Fprintf(&text, line, i, i, i)
		}
		b.Run(fmt.Sprintf("lines=%d", n), func(b *testing.B) {
			b.SetBytes(int64(text.Len()))
			for b.Loop() {
				facts.Of(ctx, all.OfPath("a.go"), text.Bytes())
			}
		})
	}
}

func TestDocumentsSayWhatTheyAreOf(t *testing.T) {
	for text, want := range map[string]string{
		"# Tide\n\nNews: version 2 is out.\n\n## About\n\nTide is a small library for gauges. It is fast.\n": "Tide is a small library for gauges.",
		"# Tide\n\nEverything a gauge needs.\n\nTide has many parts.\n":                                      "Everything a gauge needs.",
		"Tide\n====\n\nThe Tide project is old.\n\nTide is not a toy.\n":                                     "Tide is not a toy.",
		"![badge](x)\n\n- a list\n":                        "",
		"# Tide\n\n```\nTide is a trap\n```\n\nA first.\n": "A first.",
		"no heading, one paragraph":                        "no heading, one paragraph",
	} {
		f := of("README.md", text)
		f.Pack()
		l, err := facts.UnpackMatter(f.Linked.Matter)
		require.NoError(t, err)
		assert.Equal(t, want, l.Doc.Text, text)
	}
}
