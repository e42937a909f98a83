package skim_test

import (
	"context"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/skim"
)

// input reads a text as the language of its name.
func input(t testing.TB, path, content string) *skim.Input {
	t.Helper()
	f := facts.Of(context.Background(), all.OfPath(path), []byte(content))
	in := &skim.Input{Content: lang.ValidText([]byte(content)), Details: f.Details}
	for _, c := range f.Tagged {
		in.Tagged = append(in.Tagged, c.Line)
	}
	return in
}

// holds checks what must be true of every skim.
func holds(t testing.TB, s *skim.Skim) {
	t.Helper()
	require.Len(t, s.Order, len(s.Regions)-1)
	place := make([]int, len(s.Regions))
	for i, r := range s.Order {
		place[r] = i + 1
	}
	for i, r := range s.Regions[1:] {
		parent := s.Regions[r.Parent]
		require.True(t, parent.Start <= r.Start && r.End <= parent.End && r.Start <= r.End, "region %d", i+1)
		require.GreaterOrEqual(t, r.Cost(), 1, "a region of %d lines opens for nothing", r.End-r.Start+1)
		require.True(t, r.Tell == 0 && r.Label != "" || r.Start <= r.Tell && r.Tell <= r.End, "region %d shows line %d of %d..%d", i+1, r.Tell, r.Start, r.End)
		require.Greater(t, place[i+1], place[r.Parent], "a region opens before the one around it")
		require.True(t, r.Worth >= 0 && r.Worth <= 1)
	}
	require.LessOrEqual(t, s.Least(), 12, "a small budget can be kept")
	seen := map[int]bool{} // the lines that a smaller budget showed
	for budget := 1; ; budget = budget*5/4 + 1 {
		open, lines := s.Within(budget)
		rows := s.Rows(open)
		require.Len(t, rows, lines, "budget %d", budget)
		require.True(t, lines <= budget || open == 0, "%d lines of a budget of %d", lines, budget)
		if open < len(s.Order) {
			require.Less(t, budget-lines, s.Regions[s.Order[open]].Cost())
		}
		last, now := 0, map[int]bool{}
		for _, r := range rows {
			require.Greater(t, r.Line, last)
			last = r.Line
			if r.Folded == 0 {
				now[r.Line] = true
			}
		}
		for line := range seen {
			require.True(t, now[line], "budget %d hides line %d", budget, line)
		}
		if seen = now; budget > s.Total {
			require.Len(t, now, s.Total, "all lines show")
			return
		}
	}
}

func TestASkimOfEveryFileOfThisRepositoryHolds(t *testing.T) {
	checked := map[string]int{}
	err := filepath.WalkDir("../..", func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() {
			if err == nil && (e.Name() == "node_modules" || e.Name() == ".git" || e.Name() == ".data" || e.Name() == "dist" || e.Name() == "bin" || e.Name() == ".cache") {
				return fs.SkipDir
			}
			return err
		}
		l := all.OfPath(path)
		if info, err := e.Info(); err != nil || l == nil || info.Size() > 200<<10 || checked[l.Name] >= 60 {
			return err
		}
		content, err := os.ReadFile(path)
		if err != nil || strings.IndexByte(string(content), 0) >= 0 {
			return err
		}
		checked[l.Name]++
		in := input(t, path, string(content))
		s := skim.Of(in)
		ok := t.Run(path, func(t *testing.T) {
			holds(t, s)
			assert.Equal(t, s, skim.Of(in), "the same input gives the same skim")
		})
		if !ok {
			t.Log(path)
		}
		return nil
	})
	require.NoError(t, err)
	for _, l := range []string{"Go", "Python", "TypeScript", "Vue", "C", "Java", "Rust", "Ruby", "PHP", "Markdown", "YAML", "SQL"} {
		assert.NotZero(t, checked[l], "no file of %s was checked", l)
	}
}

func FuzzSkim(f *testing.F) {
	f.Add("a.go", "package a\n\n// F does.\nfunc F() {\n\tif x {\n\t\ty()\n\t}\n}\n")
	f.Add("a.py", "class A:\n  def f(self):\n\n    return 1\n")
	f.Add("a.txt", "\n\n a\n  b\nc\r\n")
	f.Add("a.hs", "main = do\n  a\n  b\n  where\n    c = 1\n")
	f.Fuzz(func(t *testing.T, path, content string) { holds(t, skim.Of(input(t, path, content))) })
}
