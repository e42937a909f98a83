package follow_test

import (
	"context"
	"fmt"
	"math/rand"
	"path"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/follow"
	"juxtagram/core/gitlog"
	"juxtagram/core/lang"
	"juxtagram/core/place"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
)

// function is one of a generated file. Overloads share their name.
type function struct {
	name  string
	lines []string
}

type source struct {
	path      string
	head      []string
	functions []function
}

func (s *source) text() string {
	lines := append([]string{}, s.head...)
	for _, f := range s.functions {
		lines = append(append(lines, "func "+f.name), f.lines...)
		lines = append(lines, "")
	}
	return strings.Join(lines, "\n") + "\n"
}

// start is the line of a function by its first line of text, which is its alone; 0: it
// is not there.
func (s *source) start(mark string) int {
	for i, l := range strings.Split(s.text(), "\n") {
		if l == mark {
			return i
		}
	}
	return 0
}

var verbs = []string{"read", "write", "check", "dial", "open", "close", "count", "median", "store", "send"}
var nouns = []string{"gauge", "frame", "station", "level", "tide", "datum", "port", "clock", "sum", "link"}

// written is a file of functions, each of whose lines tell it from the others. Every
// fifth shares its name with the one before.
func written(r *rand.Rand, at string, n int) *source {
	s := &source{path: at, head: []string{"package tide", ""}}
	for i := range n {
		name := fmt.Sprintf("%s%d", verbs[r.Intn(len(verbs))], i)
		if i%5 == 4 {
			name = s.functions[i-1].name
		}
		f := function{name: name}
		for k := range 4 + r.Intn(6) {
			f.lines = append(f.lines, fmt.Sprintf("\t%s the %s and %s of %s_%d_%d", verbs[r.Intn(10)], nouns[r.Intn(10)], nouns[r.Intn(10)], path.Base(at), i, k))
		}
		s.functions = append(s.functions, f)
	}
	return s
}

// edited is another state of a file: functions in another order, lines put in and
// changed, some functions taken away.
func (s *source) edited(r *rand.Rand) *source {
	out := &source{path: s.path, head: append(append([]string{}, s.head...), "// of another day", "")}
	for _, i := range r.Perm(len(s.functions)) {
		if r.Intn(10) == 0 {
			continue
		}
		f := function{name: s.functions[i].name, lines: append([]string{}, s.functions[i].lines...)}
		if r.Intn(3) == 0 {
			k := 1 + r.Intn(len(f.lines)-1)
			f.lines = append(f.lines[:k:k], append([]string{fmt.Sprintf("\tlog line %d", r.Int())}, f.lines[k:]...)...)
		}
		out.functions = append(out.functions, f)
	}
	return out
}

// TestPlacesAfterGeneratedEdits holds lines, symbols, overloads, files and folders to
// where generated edits truly put them: one engine answers for annotations, plans,
// checks and for who follows lines by hand.
func TestPlacesAfterGeneratedEdits(t *testing.T) {
	asked, right := map[string]int{}, map[string]int{}
	for seed := range int64(6) {
		r := rand.New(rand.NewSource(seed))
		a := []*source{written(r, "gauge/read/one.go", 15), written(r, "gauge/read/two.go", 15), written(r, "gauge/three.go", 10)}
		rp := repotest.New(t)
		for _, s := range a {
			rp.Write(s.path, s.text())
		}
		first := rp.Commit("one")
		rp.Git("mv", "gauge", "firmware") // a folder renamed whole
		rp.Commit("two")
		b := map[string]*source{}
		for _, s := range a {
			e := s.edited(r)
			e.path = "firmware" + strings.TrimPrefix(s.path, "gauge")
			b[s.path] = e
			rp.Write(e.path, e.text())
		}
		last := rp.Commit("three")
		f := followTo(t, rp.Read(), last, first)

		judge := func(class string, got place.Outcome, wantPath string, start int) {
			asked[class]++
			if start == 0 && got.What == place.Gone || got.What != place.Gone && got.Path == wantPath && got.Start == start {
				right[class]++
			}
		}
		for _, s := range a {
			now := b[s.path]
			for _, fn := range s.functions {
				mark := fn.lines[0]
				at, to := s.start(mark), now.start(mark)
				end := at + len(fn.lines)
				text, err := f.Text(first, s.path)
				require.NoError(t, err)
				quote := place.QuoteOf(text, at, end)
				class := "symbols"
				if n := strings.Count(s.text(), "func "+fn.name+"\n"); n > 1 {
					class = "overloads"
				}
				got, err := f.Point(context.Background(), &follow.Point{Kind: follow.Symbol, Commit: first, Path: s.path, Start: at, End: end, Symbol: fn.name, Quote: quote})
				require.NoError(t, err)
				judge(class, got, now.path, to)
				got, err = f.Point(context.Background(), &follow.Point{Kind: follow.Lines, Commit: first, Path: s.path, Start: at + 1, End: end, Quote: place.QuoteOf(text, at+1, end)})
				require.NoError(t, err)
				if to > 0 {
					judge("lines", got, now.path, to+1)
				} else {
					judge("lines", got, now.path, 0)
				}
				for _, c := range got.Candidates { // none is offered that is not there
					there, err := f.Text(last, c.Path)
					require.NoError(t, err)
					assert.LessOrEqual(t, c.End, len(there.Lines))
				}
				if got.What == place.Changed && to > 0 {
					assert.Less(t, got.Like, 1+1e-9)
				}
			}
			got, err := f.Point(context.Background(), &follow.Point{Kind: follow.File, Commit: first, Path: s.path})
			require.NoError(t, err)
			judge("files", got, now.path, 0)
			assert.Equal(t, now.path, got.Path)
		}
		for was, now := range map[string]string{"gauge": "firmware", "gauge/read": "firmware/read"} {
			got, err := f.Point(context.Background(), &follow.Point{Kind: follow.Folder, Commit: first, Path: was})
			require.NoError(t, err)
			assert.Equal(t, []any{place.Moved, now}, []any{got.What, got.Path})
		}
	}
	for class, least := range map[string]float64{"lines": 0.98, "symbols": 0.98, "overloads": 0.97, "files": 1} {
		share := float64(right[class]) / float64(asked[class])
		t.Logf("%s: %d of %d", class, right[class], asked[class])
		assert.GreaterOrEqual(t, share, least, class)
	}
}

// followTo follows to a commit, with the outlines of generated files.
func followTo(t *testing.T, g *repo.Git, commits ...string) *follow.Follower {
	t.Helper()
	blobs := g.Blobs()
	t.Cleanup(func() { blobs.Close() })
	log, err := gitlog.ReadBetween(context.Background(), g, commits)
	require.NoError(t, err)
	var f *follow.Follower
	f = follow.New(g, blobs, log, commits[0], func(_ context.Context, commit, path string) ([]lang.Symbol, error) {
		text, err := f.Content(commit, path)
		if err != nil {
			return nil, err
		}
		return outline(text), nil
	})
	return f
}

// Where one line of many went, however little it says, it is not all there.
func TestOneLineGoneIsNeverAllOfIt(t *testing.T) {
	var lines []string
	for i := range 400 {
		lines = append(lines, fmt.Sprintf("\tcount the %d. level of %d gauges", i, i*7))
	}
	lines[200] = "}"
	rp := repotest.New(t)
	first := rp.Write("a.go", strings.Join(lines, "\n")+"\n").Commit("one")
	last := rp.Write("b.go", "package b\n").Write("a.go", strings.Join(append(append([]string{}, lines[:200]...), lines[201:]...), "\n")+"\n").Commit("two")
	got, err := followTo(t, rp.Read(), last, first).Point(context.Background(), &follow.Point{Kind: follow.Lines, Commit: first, Path: "a.go", Start: 1, End: 400})
	require.NoError(t, err)
	assert.Equal(t, place.Changed, got.What)
	assert.Less(t, got.Like, 1-1e-9)
}
