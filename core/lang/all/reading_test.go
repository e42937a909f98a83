package all_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
)

func read(t *testing.T, path, text string) lang.Reading {
	t.Helper()
	r, err := all.OfPath(path).Read(context.Background(), []byte(text))
	require.NoError(t, err)
	sound(t, []byte(text), r)
	return r
}

func TestIntricacyGrowsWithBranchingAndNesting(t *testing.T) {
	for _, c := range []struct {
		path, text string
		want       int
	}{
		{"a.go", "func f() {}", 0},
		{"a.go", "func f() { if a {} }", 1},
		{"a.go", "func f() { if a {}; if b {} }", 2},
		{"a.go", "func f() { if a { if b {} } }", 1 + 2},
		{"a.go", "func f() { for { if a { for {} } } }", 1 + 2 + 3},
		{"a.go", "func f() { if a {} else if b {} else if c {} else {} }", 3},
		{"a.go", "func f() { for { if a {} else if b {} } }", 1 + 2 + 2},
		{"a.go", "func f() { if a && b || c {} }", 1 + 2},
		{"a.go", "func f() { switch a { case 1: case 2: if b {} } }", 2 + 2},
		{"a.go", "func f() { g(func() { if a {} }) }", 2},
		{"a.py", "def f():\n    if a:\n        pass\n    elif b:\n        pass\n    else:\n        pass\n", 2},
		{"a.py", "def f():\n    return [x for x in y if x and z]\n", 1 + 1 + 1},
		{"a.js", "function f() { if (a) {} else if (b) {} else if (c) {} }", 3},
		{"a.js", "const f = () => a ? b : c ?? d", 1 + 1},
		{"a.js", "const f = () => () => a ? b : c", 2},
		{"a.js", "class A { f = function () { if (a) {} } }", 1},
		{"a.lua", "local f = function() if a then end end", 1},
		{"a.php", "<?php $f = function () { if ($a) {} };", 1},
		{"A.java", "class A { void f() { try { } catch (E e) { while (a) { } } } }", 1 + 2},
		{"a.c", "int f() { do { if (a) {} else if (b) {} } while (c); }", 1 + 2 + 2},
		{"a.rs", "fn f() { match a { 1 => {} _ => if b {} } }", 2 + 2},
		{"a.rb", "def f\n  return 1 if a && b\nend\n", 2},
		{"a.lua", "function f() if a then elseif b then end end", 2},
		{"a.sh", "f() { if a; then :; elif b; then :; fi; }\n", 2},
		{"a.scala", "def f = if (a && b) 1 else if (c) 2 else 3", 1 + 1 + 1},
		{"a.scala", "def f = x match { case 1 => 1; case _ => while (a) { do b while (c) } }", 2 + 2 + 3},
		{"a.scala", "def f = a :: b ++ c", 0},
		{"a.tf", "a = b ? c : d && e", 1 + 1},
	} {
		text := c.text
		if c.path == "a.go" {
			text = "package p\n" + text
		}
		r := read(t, c.path, text)
		assert.Equal(t, c.want, r.Intricacy, "%s: %s", c.path, c.text)
	}
}

func TestAFunctionsOwnIntricacyIsItsOwn(t *testing.T) {
	r := read(t, "a.go", "package p\nfunc f() { if a {} }\nfunc g() { for { if a {} } }\n")
	assert.Equal(t, []int{1, 3}, []int{r.Outline[0].Intricacy, r.Outline[1].Intricacy})
	assert.Equal(t, 4, r.Intricacy)
}

func TestStringsAreJoined(t *testing.T) {
	for _, c := range []struct{ path, text, want string }{
		{"a.go", "package p\nvar s = \"a\" + /* between */ \"b\" +\n\t\"c\"\n", "abc"},
		{"a.go", "package p\nvar s = \"a\" + x + \"b\"\n", "a\uFFFCb"},
		{"a.go", "package p\nvar s = f(\"a\" + g(\"q\") + \"b\")\n", "a\uFFFCb|q"},
		{"a.go", "package p\nvar s = (\"a\" + (\"b\")) + `c\\n`\n", "abc\\n"},
		{"a.go", "package p\nvar s = 1 - len(\"a\") + len(\"b\")\n", "a|b"},
		{"a.go", "package p\nvar s = \"tab\\there \\u00e9 \\x41\"\n", "tab\there é A"},
		{"a.py", "s = ('a'  # why\n     'b' f'{x}c')\n", "ab\uFFFCc"},
		{"a.py", "def f():\n    '''A docstring is no value.'''\n    return 'v'\n", "v"},
		{"a.js", "const s = 'a' + `b${x}c` + \"d\"", "ab\uFFFCcd"},
		{"A.java", "class A { String s = \"a\" + \"b\" + 1 + \"c\"; }", "ab\uFFFCc"},
		{"a.c", "char *s = \"a\" /* x */ \"b\"\n  \"c\";\n", "abc"},
		{"a.cpp", "auto s = R\"m(a \"b\")m\" \"c\";\n", "a \"b\"c"},
		{"a.rs", "const S: &str = r##\"a \"# b\"##;\n", "a \"# b"},
		{"a.rb", "s = 'a' \"b#{x}\" + 'c'\n", "ab\uFFFCc"},
		{"a.php", "<?php\n$s = 'a' . \"b$x\" . 'c';\n", "ab\uFFFCc"},
		{"a.lua", "local s = 'a' .. [[b]]\n", "ab"},
		{"a.ts", "import x from './module'\nconst s = 'v'\n", "v"},
		// between single quotes: everything written, all but quotes and backslashes, all escapes
		{"a.toml", `a = 'C:\new' # so`, `C:\new`},
		{"a.php", `<?php $s = 'C:\new\\x \'y\'';`, `C:\new\x 'y'`},
		{"a.rb", `s = '\d+\b'`, `\d+\b`},
		{"a.py", `s = 'a\tb'`, "a\tb"},
		{"a.js", `s = 'it\'s'`, "it's"},
		// between three
		{"a.toml", "a = \"\"\"\nfirst\nlast\"\"\"", "first\nlast"},
		{"a.toml", "a = \"\"\"\\\n   one \\\n   line\\\n\n   \"\"\"", "one line"},
		{"a.toml", "a = \"\"\"x\\\\\ny\"\"\"", "x\\\ny"},
		{"a.toml", "a = '''\n\\\n'''", "\\\n"},
		{"a.py", "s = '''\na'''", "\na"},
		// here-documents: without their marks
		{"a.rb", "s = <<~E\n  red #{x}\nE\n", "  red \uFFFC\n"},
		{"a.php", "<?php $s = <<<E\nred\\t$x\nE;\n", "red\t\uFFFC"},
		{"a.php", "<?php $s = <<<'E'\nred\\t\nE;\n", `red\t`},
		{"a.tf", "s = <<E\nred ${x}\nE\n", "red \uFFFC"},
		{"a.sh", "cat <<E\nred $x\nE\n", "red \uFFFC\n"},
		{"a.scala", `val s = "a" :: "b" :: Nil`, "a|b"},
		{"a.scala", "val s = s\"a ${x} $y\" + \"b\"", "a \uFFFC \uFFFCb"},
	} {
		var got []string
		for _, l := range read(t, c.path, c.text).Literals {
			got = append(got, l.Text)
		}
		assert.ElementsMatch(t, strings.Split(c.want, "|"), got, "%s: %s", c.path, c.text)
	}
}

func TestJoiningAVeryLongChainIsQuickAndSaysWhereItEnds(t *testing.T) {
	r := read(t, "a.js", "const s = 'a'"+strings.Repeat(" +\n 'b'", 20_000)+"\n")
	require.Len(t, r.Literals, 1)
	assert.Equal(t, 20_001, r.Literals[0].EndLine)
	assert.True(t, strings.HasSuffix(r.Literals[0].Text, " …"), "what is cut short says so")
}

// roles writes the uses of one name: line, role, "." where it follows an owner.
func roles(r lang.Reading, name string) string {
	letters := map[lang.Role]string{lang.Read: "read", lang.Write: "write", lang.Call: "call", lang.AsType: "type", lang.Define: "define", lang.Bind: "bind", lang.Imports: "import"}
	var out []string
	for _, u := range r.Uses {
		if r.Words[u.Word] == name {
			dot := ""
			if u.Role&lang.OnOwner != 0 {
				dot = "."
			}
			out = append(out, fmt.Sprintf("%d%s%s", u.Line, dot, letters[u.Role.Plain()]))
		}
	}
	return strings.Join(out, " ")
}

func TestNamesHaveRoles(t *testing.T) {
	for _, c := range []struct{ path, text, name, want string }{
		{"a.go", "package p\nfunc F(a int) { F(a)\n a = 1\n x.F()\n var v T\n _ = v.F }\n", "F", "2define 2call 4.call 6.read"},
		{"a.go", "package p\nfunc F(a int) { F(a)\n a = 1\n a++ }\n", "a", "2bind 2read 3write 4write"},
		{"a.go", "package p\ntype T struct{ T2 }\nfunc (t T) m() T { return t }\n", "T", "2define 3type 3type"},
		{"a.py", "from m import f\ndef g(f): return f(1)\nx.f = g(f)\nclass A(f): pass\n", "f", "1import 2bind 2call 3.write 3read 4type"},
		{"a.js", "import { f } from 'm'\nf(1)\nx.f(2)\nx.f = f\nnew f()\n", "f", "1import 2call 3.call 4.write 4read 5call"},
		{"a.ts", "class A { f: T }\nlet t: T = new T()\n", "T", "1type 2type 2call"},
		{"A.java", "import p.A; class B extends A { A a; void f() { a.f(); this.a = new A(); } }", "A", "1.import 1type 1type 1call"},
		{"a.c", "int f(int a);\nint g(void) { s.f = f(1); return p->f; }\n", "f", "1define 2.write 2call 2.read"},
		{"a.rs", "use m::f;\nfn g(f: T) { f(1); x.f(); x.f = 1; }\n", "f", "1.import 2bind 2call 2.call 2.write"},
		{"a.hs", "f :: Int\nf = g \"f\" -- f\n", "ff", ""},
	} {
		assert.Equal(t, c.want, roles(read(t, c.path, c.text), c.name), "%s: %s", c.path, c.text)
	}
}

func TestRegionsCanBeFolded(t *testing.T) {
	r := read(t, "a.go", `// Copyright of nobody.
// Licensed as you like.

package p

import (
	"a"
	"b"
)

// T has fields.
// Three of them.
type T struct {
	a int
	b int

	c int
}

func f() {
	g()
}
`)
	var got []string
	for _, x := range r.Regions {
		got = append(got, fmt.Sprintf("%s %d-%d", x.Kind, x.Start, x.End))
	}
	assert.Equal(t, []string{"licence 1-2", "imports 6-9", "imports 7-8", "comment 11-12", "body 13-18", "fields 14-17", "body 20-22"}, got)
}

func TestBrokenSourceStillGivesWhatCanBeRead(t *testing.T) {
	for _, c := range []struct{ path, text, want string }{
		{"a.go", "package p\n\nfunc before() {}\n\n<<<<<<< ours\nfunc mine() {}\n=======\nfunc theirs() {}\n>>>>>>> other\n\nfunc after() {}\n", "before mine theirs after"},
		{"a.py", "def before(): pass\n<<<<<<< ours\ndef mine(): pass\n=======\ndef theirs(): pass\n>>>>>>> other\ndef after(): pass\n", "before mine theirs after"},
		{"a.js", "function before() {}\nconst s = 'never ends\nfunction after() {}\n", "before"},
		{"a.c", "int before(void) { return 1; }\n/* never ends\nint maybe(void) { return 2; }\n", "before"},
		{"A.java", "class A { void before() { } void broken( { } void after() { } }", "A before after"},
		{"a.go", "package p\n\nfunc before() {}\n\x00\x00\nfunc after() {}\n", "before after"},
	} {
		names := map[string]bool{}
		for _, s := range read(t, c.path, c.text).Outline {
			names[s.Name] = true
		}
		for _, want := range strings.Fields(c.want) {
			assert.True(t, names[want], "%s is found in %q", want, c.text)
		}
	}
}
