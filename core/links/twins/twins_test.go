package twins

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/lang/all"
)

// file reads a text as a survey would.
func file(t *testing.T, p, text string) File {
	t.Helper()
	l := all.OfPath(p)
	x := facts.Of(context.Background(), l, []byte(text))
	x.Pack()
	m, err := facts.UnpackMatter(x.Linked.Matter)
	require.NoError(t, err)
	return File{Path: p, Language: l.Name, Sketch: m.Sketch, Names: m.Makes}
}

// body is text with many runs of names, told apart by a word.
func body(word string, n int) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, "int %s_%d(int a%d) { return a%d + %s_other%d(a%d); }\n", word, i, i, i, word, i, i)
	}
	return b.String()
}

func told(files []File, list []Twin) []string {
	var out []string
	for _, t := range list {
		out = append(out, fmt.Sprintf("%s %s %s", files[t.A].Path, files[t.B].Path, t.Kind))
	}
	return out
}

func TestNamesAndTextsTellTwins(t *testing.T) {
	serial := "int serial_open(char *p) { return open(p, 0); }\nint serial_send(int f, char *b) { return write(f, b, 1); }\n"
	files := []File{
		file(t, "copy/a.c", body("tide", 40)), file(t, "copy/b.c", body("tide", 40)+body("level", 6)), file(t, "copy/c.c", body("gauge", 40)),
		file(t, "net/client.c", "int dial(int a) { return a; }\nint greet(int a) { return a + 1; }\n"), file(t, "net/server.c", "int dial(int b) { return serve(b); }\nint greet(int x) { return x - 2; }\n"),
		file(t, "port/linux/clock.c", serial), file(t, "port/sim/clock.c", serial),
		file(t, "port/serial_unix.c", serial), file(t, "port/serial_win.c", strings.ReplaceAll(serial, "write(f, b, 1)", "WriteFile(f, b, 1, 0, 0)")),
		file(t, "port/unrelated_unix.c", "int f(void) { return 1; }\n"), file(t, "port/unrelated_win.c", "int g(void) { return 2; }\n"),
		file(t, "port/serial_unix.go", "package port\n"),
	}
	got := Find(files)
	names := told(files, got)
	for _, want := range []string{"copy/a.c copy/b.c copy", "net/client.c net/server.c counterpart", "port/linux/clock.c port/sim/clock.c platform", "port/serial_unix.c port/serial_win.c platform"} {
		assert.Contains(t, names, want)
	}
	for _, n := range names {
		assert.NotContains(t, n, "unrelated", "nothing but the name speaks for them")
		assert.NotContains(t, n, "copy/c.c")
		assert.NotContains(t, n, ".go")
	}
	for _, x := range got {
		if files[x.A].Path == "port/serial_unix.c" {
			assert.Equal(t, []string{"serial_open", "serial_send"}, x.Shared)
			assert.Contains(t, x.Evidence, `"unix" and "win"`)
			assert.Contains(t, x.Evidence, "2 functions of the same name")
		}
	}
	files[7].Skip = true
	assert.NotContains(t, told(files, Find(files)), "port/serial_unix.c port/serial_win.c platform")
}

func TestLikenessIsNearTheShareOfCommonRuns(t *testing.T) {
	whole := body("tide", 300)
	lines := strings.SplitAfter(whole, "\n")
	for _, shared := range []int{300, 225, 150, 75, 0} {
		other := strings.Join(lines[:shared], "") + body("other", 300-shared)
		want := float64(shared) / float64(600-shared)
		assert.InDelta(t, want, facts.Likeness(file(t, "a.c", whole).Sketch, file(t, "b.c", other).Sketch), 0.17, "%d of 300 functions", shared)
	}
	assert.Zero(t, facts.Likeness(nil, nil))
}
