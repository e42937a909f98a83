package follow_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/follow"
	"juxtagram/core/gitlog"
	"juxtagram/core/lang"
	"juxtagram/core/place"
	"juxtagram/core/repo/repotest"
)

// outline finds lines as "func name" as symbols of one line and what is indented below.
func outline(text string) []lang.Symbol {
	var out []lang.Symbol
	for i, l := range strings.Split(text, "\n") {
		if name, ok := strings.CutPrefix(l, "func "); ok {
			out = append(out, lang.Symbol{Name: name, Qualified: name, Start: i + 1, End: i + 1})
		} else if n := len(out); n > 0 && strings.HasPrefix(l, "\t") {
			out[n-1].End = i + 1
		}
	}
	return out
}

const before = "package tide\n\nfunc level\n\tread the gauge\n\tcheck the sum\n\nfunc send\n\tdial the station\n\twrite the frame\n"

const after = "package tide\n\n// Levels are centimetres above chart datum.\nfunc send\n\tdial the station\n\twrite the frame\n\nfunc level\n\tread the gauge twice\n\tcheck the sum\n"

func TestPoints(t *testing.T) {
	r := repotest.New(t)
	first := r.Write("tide.go", before, "old/name.go", "package name\n\none line of it\n", "gone.go", "package gone\n\nit goes away\n", "blob.bin", "\x00\x01", "pic.bin", "\x00\x02\x03").Commit("one")
	r.Git("mv", "old/name.go", "new.go")
	r.Git("mv", "pic.bin", "picture.bin")
	r.Git("rm", "-q", "gone.go")
	second := r.Write("tide.go", after).Commit("two")
	g := r.Read()
	blobs := g.Blobs()
	defer blobs.Close()
	open := func(commits ...string) *follow.Follower {
		log, err := gitlog.ReadBetween(context.Background(), g, commits)
		require.NoError(t, err)
		return follow.New(g, blobs, log, commits[0], func(_ context.Context, commit, path string) ([]lang.Symbol, error) {
			switch {
			case path != "tide.go":
				return nil, nil
			case commit == first:
				return outline(before), nil
			}
			return outline(after), nil
		})
	}
	for name, c := range map[string]struct {
		point  follow.Point
		what   place.State
		path   string
		start  int
		reason place.Reason
	}{
		"lines that moved":              {follow.Point{Kind: follow.Lines, Path: "tide.go", Start: 8, End: 9}, place.Moved, "tide.go", 5, ""},
		"a symbol that moved":           {follow.Point{Kind: follow.Symbol, Path: "tide.go", Start: 7, End: 9, Symbol: "send"}, place.Moved, "tide.go", 4, ""},
		"a symbol that reads otherwise": {follow.Point{Kind: follow.Symbol, Path: "tide.go", Start: 3, End: 5, Symbol: "level"}, place.Changed, "tide.go", 8, ""},
		"a file that was renamed":       {follow.Point{Kind: follow.File, Path: "old/name.go"}, place.Moved, "new.go", 0, ""},
		"lines of a renamed file":       {follow.Point{Kind: follow.Lines, Path: "old/name.go", Start: 3, End: 3}, place.Moved, "new.go", 3, ""},
		"a picture":                     {follow.Point{Kind: follow.File, Path: "blob.bin"}, place.Same, "blob.bin", 0, ""},
		"a picture that was renamed":    {follow.Point{Kind: follow.File, Path: "pic.bin"}, place.Moved, "picture.bin", 0, ""},
		"a file that went":              {follow.Point{Kind: follow.File, Path: "gone.go"}, place.Gone, "", 0, place.FileDeleted},
		"lines of a file that went":     {follow.Point{Kind: follow.Lines, Path: "gone.go", Start: 1, End: 3}, place.Gone, "", 0, place.FileDeleted},
		"a folder that went":            {follow.Point{Kind: follow.Folder, Path: "old"}, place.Gone, "", 0, place.FileAbsent},
		"the whole repository":          {follow.Point{Kind: follow.Folder, Path: ""}, place.Same, "", 0, ""},
		"a file that never was":         {follow.Point{Kind: follow.Lines, Path: "never.go", Start: 1, End: 1}, place.Gone, "", 0, place.FileAbsent},
	} {
		t.Run(name, func(t *testing.T) {
			c.point.Commit = first
			got, err := open(second, first).Point(context.Background(), &c.point)
			require.NoError(t, err)
			assert.Equal(t, c.what, got.What)
			assert.Equal(t, c.path, got.Path)
			assert.Equal(t, c.start, got.Start)
			assert.Equal(t, c.reason, got.Reason)
		})
	}

	t.Run("no history leads there", func(t *testing.T) {
		f := open(second) // its log begins behind the first commit
		text, err := f.Text(first, "tide.go")
		require.NoError(t, err)
		got, err := f.Point(context.Background(), &follow.Point{Kind: follow.Lines, Commit: first, Path: "tide.go", Start: 7, End: 9, Quote: place.QuoteOf(text, 7, 9)})
		require.NoError(t, err)
		assert.NotEqual(t, place.Gone, got.What)
		assert.Equal(t, 4, got.Start)
	})
	t.Run("a whole file", func(t *testing.T) {
		got, err := open(second, first).Whole(context.Background(), first, "tide.go")
		require.NoError(t, err)
		assert.Equal(t, place.Changed, got.What)
		assert.InDelta(t, 0.6, got.Like, 0.1, "its halves changed places, one line reads otherwise")
		same, err := open(second, first).Whole(context.Background(), first, "blob.bin")
		require.NoError(t, err)
		assert.Equal(t, place.Same, same.What)
	})
	t.Run("a commit of another history", func(t *testing.T) {
		there, err := open(second, first).Has(context.Background(), strings.Repeat("0123456789", 4))
		require.NoError(t, err)
		assert.False(t, there)
		there, err = open(second).Has(context.Background(), first)
		require.NoError(t, err)
		assert.True(t, there, "not in the log, but there")
	})
}
