package all_test

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/syntax"
)

// broken are texts that no language is glad to see.
var broken = []string{
	"", "\n", "\x00", "\xff\xfe\x00", "\xef\xbb\xbfpackage a\n", "'", "\"", "`", "\"\"\"", "/*", "<!--", "{-", "--[[", "=begin\n", "<<EOF\n", "R\"x(", "r#\"",
	"((((((((((", "}}}}}}}}}}", "[{([{([{(", "\\", "\"\\", "\"\\u{", "\"\\x", "a\r\nb\rc\n", "#", "@", "#define", "#if 1\n", "class", "def", "fn", "func", "function (",
	"<<<<<<< ours\nint a;\n=======\nint b;\n>>>>>>> theirs\n", "x = = = ;;; (", "<script>", "<script lang=\"ts\">\nlet a = `${", "import", "from . import (", "use a::{b::{c",
	"export * as", "export default", "@property\n", "// TODO: é\u2028x\n", "struct { int a; } b, *c;", "typedef struct", "typedef enum {A} *b, c;", "a.b.c.d.e.f()", "::::", "namespace {",
	"impl Foo;", "impl Foo for Bar;", "impl;", "trait T;", "enum E;", "class A;", "class;", "interface;", "struct;", "def", "module;", "fun ;", "val", "using;", "namespace;",
	"CREATE TABLE", "$$", "sub ", "=head1\n", "\tall:\n", "# \n## \n", "x\n===\n", "const { a: { b = 1, ...c } = {}, d: [e] } = f",
}

func TestBrokenTextGivesWhatCanBeRead(t *testing.T) {
	for _, l := range append(append([]*lang.Language{}, all.Parsed...), all.Lexed...) {
		for _, text := range broken {
			r, err := l.Read(context.Background(), []byte(text))
			require.NoError(t, err, "%s %q", l.Name, text)
			sound(t, []byte(text), r)
		}
	}
}

// FuzzRead: any text, in any language, is read without a crash, its ranges lie
// inside it and its outline is properly nested.
func FuzzRead(f *testing.F) {
	for _, text := range broken {
		for _, name := range []string{"Go", "Python", "C++", "Ruby", "TypeScript", "PHP", "Vue", "Shell", "Lua", "SQL"} {
			f.Add(name, text)
		}
	}
	samples, err := filepath.Glob("testdata/sample.*")
	require.NoError(f, err)
	for _, path := range samples {
		content, err := os.ReadFile(path)
		require.NoError(f, err)
		f.Add(all.OfPath(path).Name, string(content[:min(len(content), 3000)]))
	}
	f.Fuzz(func(t *testing.T, name, text string) {
		l := all.ByName(name)
		if l == nil || len(text) > 1<<16 {
			t.Skip()
		}
		r, err := l.Read(context.Background(), []byte(text))
		if errors.Is(err, syntax.ErrTime) || err != nil && strings.Contains(err.Error(), "longer than") {
			t.Skip()
		}
		require.NoError(t, err)
		sound(t, []byte(text), r)
	})
}

func TestEveryRuleNamesWhatTheGrammarHas(t *testing.T) {
	for _, l := range all.Parsed {
		if l.Syntax != nil {
			assert.Empty(t, l.Syntax.Missing(), l.Name)
		}
	}
}

// depth is how many brackets the deepest text opens.
const depth = 100_000

func TestDeeplyNestedTextIsSurvived(t *testing.T) {
	for name, text := range map[string]string{
		"Go":         "package a\n\nvar x = " + strings.Repeat("(", depth) + strings.Repeat(")", depth) + "\n\nfunc F() {}\n",
		"JavaScript": "x = " + strings.Repeat("[", depth) + strings.Repeat("]", depth) + "\n",
		"Python":     "x = " + strings.Repeat("(", depth) + "\n",
		"C":          "int f(void) " + strings.Repeat("{", depth),
		"Rust":       strings.Repeat("mod a { ", depth),
		"Java":       strings.Repeat("class A { ", depth/10),
		"HTML":       strings.Repeat("<div id=a>", depth/10),
		"Ruby":       strings.Repeat("[", depth),
		"TypeScript": "let a: " + strings.Repeat("A<", depth),
		"Shell":      strings.Repeat("$(", depth/10),
		"Go sums":    "package a\n\nvar x = " + strings.Repeat("\"a\" + ", depth) + "\"b\"\n",
	} {
		l := all.ByName(strings.Fields(name)[0])
		r, err := l.Read(context.Background(), []byte(text))
		if err != nil {
			assert.ErrorIs(t, err, syntax.ErrTime, name)
			continue
		}
		for i, s := range r.Outline {
			assert.Less(t, s.Parent, i)
		}
	}
}
