package hostile

import (
	"fmt"
	"maps"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func trees() (out []input) {
	add := func(name, want string, read bool, change func(t *testing.T, at, blob string)) {
		out = append(out, input{named("tree", name), func(t *testing.T, dir string) string {
			at := plain(t, dir)
			change(t, at, object(t, at, "blob", "package a\n"))
			return at
		}, want, read})
	}
	for _, name := range []string{".", "..", ".git", ".GIT", ".Git ", "git~1", ".git.", ".git::$INDEX_ALLOCATION", ".g\u200cit", "/etc/passwd", "a//b", "a/", "../../x"} {
		add(fmt.Sprintf("a file called %q", name), "written as no tree", true, func(t *testing.T, at, blob string) {
			commitOf(t, at, tree(t, at, entry{"100644", name, blob}, entry{"100644", "z.go", blob}), "")
		})
		if strings.Contains(name, "/") {
			continue
		}
		add(fmt.Sprintf("a folder called %q", name), "written as no tree", true, func(t *testing.T, at, blob string) {
			below := tree(t, at, entry{"100644", "config", blob})
			commitOf(t, at, tree(t, at, entry{"40000", name, below}, entry{"100644", "z.go", blob}), "")
		})
	}
	add("a name twice", "another entry of the same path", true, func(t *testing.T, at, blob string) {
		commitOf(t, at, tree(t, at, entry{"100644", "a", blob}, entry{"100644", "a", blob}), "")
	})
	add("a file and a folder of one name", "another entry of the same path", true, func(t *testing.T, at, blob string) {
		commitOf(t, at, tree(t, at, entry{"100644", "a", blob}, entry{"40000", "a", tree(t, at, entry{"100644", "b", blob})}), "")
	})
	add("out of order", "", true, func(t *testing.T, at, blob string) {
		commitOf(t, at, tree(t, at, entry{"100644", "z", blob}, entry{"100644", "b", blob}, entry{"100644", "a", blob}), "")
	})
	add("an empty name", "damaged", false, func(t *testing.T, at, blob string) {
		commitOf(t, at, tree(t, at, entry{"100644", "", blob}), "")
	})
	add("ten million files", "more than 2000000 files", false, func(t *testing.T, at, blob string) {
		id, mode := blob, "100644"
		for range 7 {
			var list []entry
			for i := range 10 {
				list = append(list, entry{mode, fmt.Sprint(i), id})
			}
			id, mode = tree(t, at, list...), "40000"
		}
		commitOf(t, at, id, "")
	})
	add("500 folders deep", "more than 200 deep", false, func(t *testing.T, at, blob string) {
		id := tree(t, at, entry{"100644", "a", blob})
		for range 500 {
			id = tree(t, at, entry{"40000", "d", id})
		}
		commitOf(t, at, id, "")
	})
	add("a name of a megabyte", "longer than any file system", false, func(t *testing.T, at, blob string) {
		commitOf(t, at, tree(t, at, entry{"100644", strings.Repeat("a", 1<<20), blob}), "")
	})
	add("paths of hundreds of megabytes", "MB together", false, func(t *testing.T, at, blob string) {
		var list []entry
		for i := range 1000 {
			list = append(list, entry{"100644", fmt.Sprintf("%04d", i) + strings.Repeat("b", 3000), blob})
		}
		id := tree(t, at, list...)
		list = nil
		for i := range 300 {
			list = append(list, entry{"40000", fmt.Sprintf("%04d", i), id})
		}
		commitOf(t, at, tree(t, at, list...), "")
	})
	add("a blob in place of a folder", "the folder a is not listed", true, func(t *testing.T, at, blob string) {
		commitOf(t, at, tree(t, at, entry{"40000", "a", blob}), "")
	})
	add("a folder in place of a blob", "missing or damaged", true, func(t *testing.T, at, blob string) {
		commitOf(t, at, tree(t, at, entry{"100644", "a", tree(t, at, entry{"100644", "b", blob})}, entry{"100644", "z.go", blob}), "")
	})
	add("odd modes", "", true, func(t *testing.T, at, blob string) {
		commitOf(t, at, tree(t, at, entry{"100666", "a", blob}, entry{"100600", "b", blob}, entry{"104755", "c", blob}), "")
	})
	add("a link to a place outside", "not followed", true, func(t *testing.T, at, _ string) {
		commitOf(t, at, tree(t, at, entry{"120000", "a", object(t, at, "blob", "../../../etc/passwd")}), "")
	})
	add("a submodule of a command", "submodule", true, func(t *testing.T, at, blob string) {
		modules := object(t, at, "blob", "[submodule \"a\"]\n\tpath = a\n\turl = ext::sh -c touch% /tmp/x\n\tupdate = !touch /tmp/x\n")
		commitOf(t, at, tree(t, at, entry{"100644", ".gitmodules", modules}, entry{"160000", "a", strings.Repeat("1", 40)}), "")
	})
	lose := func(name, want, path string, read bool) {
		add(name, want, read, func(t *testing.T, at, _ string) {
			require.NoError(t, os.Remove(loose(at, git(t, at, "", "rev-parse", "HEAD:"+path))))
		})
	}
	lose("a file's object lost", "a.go: object", "a.go", true)
	lose("a folder's object lost", "the folder sub is not listed", "sub", true)
	lose("the whole tree lost", "damaged", "", false)
	add("a file's object damaged", "a.go: object", true, func(t *testing.T, at, _ string) {
		p := loose(at, git(t, at, "", "rev-parse", "HEAD:a.go"))
		require.NoError(t, os.Chmod(p, 0o644))
		write(t, p, "SECRET")
	})
	add("another file's content under an id", "a.go: object", true, func(t *testing.T, at, _ string) {
		p, other := loose(at, git(t, at, "", "rev-parse", "HEAD:a.go")), loose(at, git(t, at, "", "rev-parse", "HEAD:sub/b.txt"))
		b, err := os.ReadFile(other)
		require.NoError(t, err)
		require.NoError(t, os.Chmod(p, 0o644))
		write(t, p, string(b))
	})
	return out
}

func commits() (out []input) {
	add := func(name, want string, read bool, rest func(tree string) string) {
		out = append(out, input{named("commit", name), func(t *testing.T, dir string) string {
			at := plain(t, dir)
			commitOf(t, at, git(t, at, "", "rev-parse", "HEAD^{tree}"), rest(""))
			return at
		}, want, read})
	}
	person := "author a <a@gauges.example> 1600000000 +0000\ncommitter a <a@gauges.example> 1600000000 +0000\n"
	texts := map[string]string{
		"of the year 292277026596": "author a <a@gauges.example> 9223372036854775807 +0000\ncommitter a <a@gauges.example> 9223372036854775807 +0000\n\nx\n",
		"before time":              "author a <a@gauges.example> -1 +0000\ncommitter a <a@gauges.example> -1 +0000\n\nx\n",
		"of an odd zone":           "author a <a@gauges.example> 1600000000 +9999\ncommitter a <a@gauges.example> 1600000000 -9999\n\nx\n",
		"without an address":       "author a <> 1600000000 +0000\ncommitter <> 1600000000 +0000\n\nx\n",
		"of a name of a megabyte":  "author " + strings.Repeat("a", 1<<20) + " <a@gauges.example> 1600000000 +0000\ncommitter a <a@gauges.example> 1600000000 +0000\n\nx\n",
		"with a message of 10 MB":  person + "\n" + strings.Repeat("x", 10<<20),
		"with a NUL":               person + "\nx\x00y\n",
		"in an unknown encoding":   strings.TrimSuffix(person, "\n") + "\nencoding SECRET\n\n\xff\xfe\n",
		"that poses as two":        person + "\ncommit " + strings.Repeat("1", 40) + "\ntree x\nauthor b <b@gauges.example> 1 +0000\n",
		"with control characters":  person + "\n\x1b[31mred\x1b[0m \u202e turned\n",
		"without a message":        person + "\n",
		"with a signature of text": strings.TrimSuffix(person, "\n") + "\ngpgsig SECRET\n\nx\n",
		"whose person is a tag":    "author <script>alert(1)</script> <a@gauges.example> 1600000000 +0000\ncommitter a <a@gauges.example> 1600000000 +0000\n\nx\n",
	}
	for _, name := range slices.Sorted(maps.Keys(texts)) {
		add(name, "", true, func(string) string { return texts[name] })
	}
	out = append(out, input{"commit: with a parent that is not there", func(t *testing.T, dir string) string {
		at := plain(t, dir)
		commitOf(t, at, git(t, at, "", "rev-parse", "HEAD^{tree}"), "parent "+strings.Repeat("1", 40)+"\n"+person+"\nx\n")
		return at
	}, "damaged", false})
	out = append(out, input{"commit: of 3,000 parents", func(t *testing.T, dir string) string {
		at := plain(t, dir)
		tree := git(t, at, "", "rev-parse", "HEAD^{tree}")
		first := git(t, at, "", "rev-parse", "HEAD")
		list := object(t, at, "commit", "tree "+tree+"\nparent "+first+"\n"+person+"\nx\n")
		commitOf(t, at, tree, strings.Repeat("parent "+first+"\nparent "+list+"\n", 1500)+person+"\nx\n")
		return at
	}, "", true})
	return out
}
