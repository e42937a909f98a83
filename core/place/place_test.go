package place_test

import (
	"context"
	"fmt"
	"math/rand"
	randv2 "math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/place"
	"juxtagram/core/place/placetest"
	"juxtagram/core/repo"
)

func TestFollow(t *testing.T) {
	insert := repo.Hunk{OldStart: 2, OldCount: 0, NewStart: 3, NewCount: 2} // two lines behind line 2
	remove := repo.Hunk{OldStart: 5, OldCount: 2, NewStart: 4, NewCount: 0}
	change := repo.Hunk{OldStart: 4, OldCount: 2, NewStart: 4, NewCount: 3}
	for _, c := range []struct {
		name       string
		hunks      []repo.Hunk
		start, end int
		from, to   int
		what       place.State
	}{
		{"nothing changed", nil, 3, 5, 3, 5, place.Same},
		{"above an insertion", []repo.Hunk{insert}, 1, 2, 1, 2, place.Same},
		{"below an insertion", []repo.Hunk{insert}, 3, 4, 5, 6, place.Moved},
		{"around an insertion", []repo.Hunk{insert}, 2, 3, 2, 5, place.Changed},
		{"taken away", []repo.Hunk{remove}, 5, 6, 4, 4, place.Gone},
		{"partly taken away", []repo.Hunk{remove}, 4, 5, 4, 4, place.Changed},
		{"below what was taken away", []repo.Hunk{remove}, 7, 9, 5, 7, place.Moved},
		{"replaced", []repo.Hunk{change}, 4, 5, 4, 6, place.Gone},
		{"partly replaced", []repo.Hunk{change}, 3, 4, 3, 6, place.Changed},
		{"replaced at the end", []repo.Hunk{change}, 5, 6, 4, 7, place.Changed},
	} {
		t.Run(c.name, func(t *testing.T) {
			from, to, what := place.Follow(c.hunks, c.start, c.end)
			assert.Equal(t, []any{c.from, c.to, c.what}, []any{from, to, what})
		})
	}
}

// Lines that carry numbers of their own are found again by these.
func TestFollowAgreesWithNumberedLines(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, exec.Command("git", "init", "-q", "--bare", dir).Run())
	g := repo.At(dir)
	blob := func(lines []string) string {
		p := filepath.Join(t.TempDir(), "text")
		require.NoError(t, os.WriteFile(p, []byte(strings.Join(lines, "\n")+"\n"), 0o600))
		out, err := exec.Command("git", "--git-dir="+dir, "hash-object", "-w", p).Output()
		require.NoError(t, err)
		return strings.TrimSpace(string(out))
	}
	r := rand.New(rand.NewSource(7))
	next := 0
	line := func() string { next++; return fmt.Sprint("line ", next) }
	for range 12 {
		var before []string
		for range 60 {
			before = append(before, line())
		}
		var after []string
		for _, l := range before {
			switch r.Intn(10) {
			case 0: // taken away
			case 1:
				after = append(after, line())
			case 2:
				after = append(after, l, line())
			default:
				after = append(after, l)
			}
		}
		hunks, err := g.Compare(context.Background(), blob(before), blob(after), false)
		require.NoError(t, err)
		at := map[string]int{}
		for i, l := range after {
			at[l] = i + 1
		}
		for n, l := range before {
			from, to, what := place.Follow(hunks, n+1, n+1)
			if want := at[l]; want == 0 {
				assert.Equal(t, place.Gone, what)
			} else {
				assert.Equal(t, []int{want, want}, []int{from, to})
				assert.NotEqual(t, place.Gone, what)
			}
		}
	}
}

// Generated edits of real texts: the same as `make bench-place`, in small.
func TestLinesArePlacedWhereTheyTrulyAre(t *testing.T) {
	files := placetest.Load(filepath.Join(runtime.GOROOT(), "src", "text"), ".go")
	require.Greater(t, len(files), 10)
	score := placetest.NewScore()
	random := rand.New(rand.NewSource(4))
	for range 60 {
		w := placetest.Scene(randv2.New(randv2.NewPCG(random.Uint64(), 2)), files)
		for range 1 + random.Intn(14) {
			w.Edit()
		}
		score.Judge("Go", w.Before, w.Truths(w.Before), w.Placed())
	}
	of := func(name string) (all int, right, wrong float64) {
		c := score.Of(name)
		return c.All, float64(c.Right) / float64(c.All), float64(c.Wrong) / float64(c.All)
	}
	for name, least := range map[string]float64{"unchanged": 0.99, "unchanged, says little": 0.99, "edited": 0.95, "deleted": 0.95} {
		all, right, wrong := of(name)
		assert.Greater(t, all, 100, name)
		assert.GreaterOrEqual(t, right, least, name)
		if name != "deleted" {
			assert.LessOrEqual(t, wrong, 0.005, name)
		}
	}
}

func TestSearchFindsWhatReadsMuchTheSame(t *testing.T) {
	text := place.NewText("a.go", "package a\n\nfunc one() {\n\tread(frame, port)\n}\n\nfunc two() {\n\tread(frames, ports)\n\twrite(frame)\n}\n")
	found := place.Search(text, place.Quote{Exact: "\tread(frame, ports)\n\twrite(frames)", Before: "func two() {", After: "}"})
	require.NotEmpty(t, found)
	assert.Equal(t, place.Spot{Path: "a.go", Start: 8, End: 9}, found[0].Spot)
	assert.Empty(t, place.Search(text, place.Quote{Exact: "nothing of the kind stands anywhere"}))
	assert.Empty(t, place.Search(text, place.Quote{Exact: " \n"}))
	q := place.QuoteOf(text, 4, 4)
	assert.Equal(t, place.Quote{Exact: "\tread(frame, port)", Before: "package a\n\nfunc one() {", After: "}\n\nfunc two() {"}, q)
	assert.Empty(t, place.QuoteOf(text, 40, 50).Exact)
}

// A piece is to the byte what stands in the text, whoever reads it, and leads back.
func TestAPieceIsAPieceOfTheText(t *testing.T) {
	r := rand.New(rand.NewSource(5))
	ends := []string{"\n", "\r\n", "\n\n"}
	for range 400 {
		var b strings.Builder
		n := 1 + r.Intn(60)
		for i := range n {
			b.WriteString(strings.Repeat([]string{"tide ", "größe ", "水位 ", "\t"}[r.Intn(4)], r.Intn(40)))
			if i%7 == 3 {
				b.WriteString(strings.Repeat("x", 3000))
			}
			fmt.Fprintf(&b, "%d%s", i, ends[r.Intn(3)])
		}
		content := b.String()
		if r.Intn(2) == 0 {
			content = strings.TrimSuffix(content, "\n")
		}
		lines := strings.Count(strings.TrimSuffix(content, "\n"), "\n") + 1
		start := 1 + r.Intn(lines)
		end := start + r.Intn(lines-start+1)
		q, from, to := place.PieceOf(content, start, end)
		runes := []rune(content)
		assert.Equal(t, q.Exact, string(runes[from:to]))
		assert.Equal(t, len(string(runes[:from]))-len(q.Before), strings.Index(content[len(string(runes[:from]))-len(q.Before):], q.Before+q.Exact+q.After)+len(string(runes[:from]))-len(q.Before))
		if strings.TrimSpace(q.Exact) == "" {
			continue
		}
		s, e, ok := place.LinesAt(content, from, to)
		require.True(t, ok)
		assert.Equal(t, start, s)
		if s2, e2, ok := place.Quoted(content, q); ok {
			assert.Equal(t, []int{s, e}, []int{s2, e2})
		}
	}
	_, _, ok := place.Quoted("a\nb\na\n", place.Quote{Exact: "a"})
	assert.False(t, ok, "it stands twice, and nothing tells which is meant")
	s, e, ok := place.Quoted("a\nb\na\n", place.Quote{Exact: "a", Before: "b\n"})
	assert.Equal(t, []any{3, 3, true}, []any{s, e, ok})
	_, _, ok = place.LinesAt("abc", 2, 9)
	assert.False(t, ok)
}

// Any two texts can be compared, and every line stands in the text it is said to.
func FuzzCompare(f *testing.F) {
	f.Add("a\nb\nc\n", "b\nc\na\n")
	f.Add("", "x")
	f.Add("func a() {\n}\n\nfunc b() {\n}\n", "func b() {\n}\n")
	f.Fuzz(func(t *testing.T, before, after string) {
		old, now := place.NewText("a", before), place.NewText("b", after)
		m := place.NewSet().Compare(old, now)
		taken := map[int]int{}
		for i := range old.Lines {
			img := m.Lines(i+1, i+1)
			if img.What == place.Gone {
				continue
			}
			if img.Start < 1 || img.End > len(now.Lines) || img.Start > img.End {
				t.Fatalf("line %d of %q at %v of %q", i+1, before, img, after)
			}
			if img.What != place.Changed && strings.TrimSpace(now.Lines[img.Start-1]) != strings.TrimSpace(old.Lines[i]) {
				t.Fatalf("line %d is said to read the same", i+1)
			}
			if other, ok := taken[img.Start]; ok {
				t.Fatalf("lines %d and %d both at %d", other, i+1, img.Start)
			}
			taken[img.Start] = i + 1
		}
	})
}
