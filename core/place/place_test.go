package place_test

import (
	"context"
	"fmt"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/place"
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
