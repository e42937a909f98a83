package all_test

import (
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
)

var update = flag.Bool("update", false, "rewrite golden files")

// leastDeclarations is how many declarations each sample holds at least.
const leastDeclarations = 300

// TestSamples compares what is read in a sample of each language with what a
// person found right; testdata/README.md tells the format.
func TestSamples(t *testing.T) {
	samples, err := filepath.Glob("testdata/sample.*")
	require.NoError(t, err)
	seen := 0
	for _, path := range samples {
		if filepath.Ext(path) == ".golden" {
			continue
		}
		seen++
		t.Run(filepath.Ext(path)[1:], func(t *testing.T) {
			content, err := os.ReadFile(path)
			require.NoError(t, err)
			l := all.OfPath(path)
			r, err := l.Read(context.Background(), content)
			require.NoError(t, err)
			assert.GreaterOrEqual(t, len(r.Outline), leastDeclarations)
			sound(t, content, r)
			golden := strings.TrimSuffix(path, filepath.Ext(path)) + "_" + filepath.Ext(path)[1:] + ".golden"
			got := describe(content, r)
			if *update {
				require.NoError(t, os.WriteFile(golden, []byte(got), 0o644))
			}
			want, err := os.ReadFile(golden)
			require.NoError(t, err)
			assert.Equal(t, strings.Split(string(want), "\n"), strings.Split(got, "\n"))
		})
	}
	assert.GreaterOrEqual(t, seen, 17)
}

// describe writes a reading as lines that a person can check against the text.
func describe(content []byte, r lang.Reading) string {
	var b strings.Builder
	for _, s := range r.Outline {
		depth := 0
		for p := s.Parent; p >= 0; p = r.Outline[p].Parent {
			depth++
		}
		fmt.Fprintf(&b, "%d-%d", s.Start, s.End)
		if s.NameLine != s.Start {
			fmt.Fprintf(&b, " @%d", s.NameLine)
		}
		static := ""
		if s.Static {
			static = " static"
		}
		fmt.Fprintf(&b, " %s%s %s [%s] %s%s | %s", strings.Repeat(". ", depth), s.Kind, s.Name, s.Qualified, s.Visibility, static, s.Signature)
		if s.Type != "" {
			fmt.Fprintf(&b, " | type %s", s.Type)
		}
		if s.Doc != "" {
			fmt.Fprintf(&b, " | doc %s", s.Doc)
		}
		if s.Intricacy > 0 {
			fmt.Fprintf(&b, " | intricacy %d", s.Intricacy)
		}
		b.WriteByte('\n')
	}
	for _, i := range r.Imports {
		fmt.Fprintf(&b, "import %d %s", i.Line, i.Text)
		for _, n := range i.Names {
			fmt.Fprintf(&b, " %s", n.Name)
			if n.As != "" {
				fmt.Fprintf(&b, " as %s", n.As)
			}
		}
		if i.Reexport {
			b.WriteString(" (handed on)")
		}
		b.WriteByte('\n')
	}
	for _, x := range r.Literals {
		fmt.Fprintf(&b, "text %d %q\n", x.Line, x.Text)
	}
	for _, c := range r.Comments {
		if text := lang.CommentText(content[c.Start:c.End]); strings.ContainsAny(text, ":") {
			fmt.Fprintf(&b, "comment %q\n", text)
		}
	}
	for _, s := range r.Starts {
		fmt.Fprintf(&b, "start %d %s, %s", s.Line, s.Kind, s.Evidence)
		if s.Name != "" {
			fmt.Fprintf(&b, ", called %s", s.Name)
		}
		b.WriteByte('\n')
	}
	return b.String()
}

// sound checks what holds of every reading: ranges lie inside the text, the
// outline is properly nested, names stand where they are said to.
func sound(t testing.TB, content []byte, r lang.Reading) {
	t.Helper()
	lines := strings.Split(string(content), "\n")
	inside := func(from, to int) bool { return from >= 1 && from <= to && to <= len(lines) }
	for i, s := range r.Outline {
		assert.True(t, inside(s.Start, s.End) && inside(s.NameLine, s.NameLine), "%+v", s)
		assert.NotEmpty(t, s.Name)
		assert.True(t, strings.HasSuffix(s.Qualified, s.Name), "%+v", s)
		assert.Contains(t, lang.Kinds, s.Kind)
		assert.True(t, s.Parent < i && s.Parent >= -1)
		if s.Parent >= 0 {
			p := r.Outline[s.Parent]
			assert.True(t, p.Start <= s.Start && s.End <= p.End, "%s %d-%d is not inside %s %d-%d", s.Qualified, s.Start, s.End, p.Qualified, p.Start, p.End)
		}
	}
	for i, c := range r.Comments {
		assert.True(t, c.Start >= 0 && c.Start < c.End && c.End <= len(content), "comment %+v of %q", c, content)
		assert.True(t, i == 0 || c.Start >= r.Comments[i-1].End, "comments overlap")
	}
	for _, x := range r.Regions {
		assert.True(t, inside(x.Start, x.End) && x.Start < x.End, "%+v", x)
	}
	for _, x := range r.Imports {
		assert.True(t, inside(x.Line, x.EndLine), "%+v", x)
	}
	for _, x := range r.Literals {
		assert.True(t, inside(x.Line, x.EndLine), "%+v", x)
	}
	for i, u := range r.Uses {
		require.True(t, inside(int(u.Line), int(u.Line)) && int(u.Word) < len(r.Words))
		line, word := lines[u.Line-1], r.Words[u.Word]
		require.True(t, int(u.Column) <= len(line))
		first, _, _ := strings.Cut(word, "\n")
		require.True(t, strings.HasPrefix(line[u.Column:], first), "%q is not at %d:%d", word, u.Line, u.Column)
		require.True(t, i == 0 || u.Line > r.Uses[i-1].Line || u.Line == r.Uses[i-1].Line && u.Column >= r.Uses[i-1].Column, "uses are out of order")
	}
}
