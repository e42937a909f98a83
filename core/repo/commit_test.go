package repo_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
)

func TestDifferencesOfTwoCommits(t *testing.T) {
	ctx := context.Background()
	r := repotest.New(t)
	long := strings.Repeat("a line of text that stays\n", 20)
	r.Write("stays", "x\n", "goes", "what was here\nis not kept\n", "moves", long, "odd \"name\"\t\n.txt", "o\n", "binary", "a\x00b").Commit("one")
	one := r.Git("rev-parse", "HEAD")
	r.Git("mv", "moves", "moved")
	r.Git("rm", "-q", "goes")
	r.Write("new", "1\n2\n3\n", "odd \"name\"\t\n.txt", "o\np\n", "binary", "a\x00c").Commit("two")
	two := r.Git("rev-parse", "HEAD")
	g := r.Read()
	got, err := g.Differences(ctx, one, two)
	require.NoError(t, err)
	told := map[string]string{}
	for _, d := range got {
		told[d.Path] = string(d.Status) + " " + d.OldPath
		switch d.Path {
		case "new":
			assert.Equal(t, []any{int32(3), int32(0), "", "000000"}, []any{d.Added, d.Deleted, d.OldBlob, d.OldMode})
		case "binary":
			assert.True(t, d.Binary)
		case "odd \"name\"\t\n.txt":
			assert.Equal(t, int32(1), d.Added)
		}
	}
	assert.Equal(t, map[string]string{"new": "A ", "goes": "D ", "moved": "R moves", "binary": "M ", "odd \"name\"\t\n.txt": "M "}, told)
	first, err := g.Differences(ctx, "", one)
	require.NoError(t, err)
	assert.Len(t, first, 5, "a first commit beside nothing")
	base, err := g.MergeBase(ctx, one, two)
	require.NoError(t, err)
	assert.Equal(t, one, base)
	r.Git("checkout", "-q", "--orphan", "other")
	r.Commit("alone")
	base, err = g.MergeBase(ctx, two, r.Git("rev-parse", "HEAD"))
	require.NoError(t, err)
	assert.Empty(t, base, "they share nothing")
	_, err = g.MergeBase(ctx, two, strings.Repeat("f", 40))
	assert.Error(t, err)
}

func TestACommitIsReadWhole(t *testing.T) {
	ctx := context.Background()
	r := repotest.New(t)
	message := "Subject over\ntwo lines\n\nBody with  spaces\n\n    indented\n\nend"
	r.Write("a", "1\n").Commit(message)
	g := r.Read()
	c, cut, err := g.ReadCommit(ctx, r.Git("rev-parse", "HEAD"), 1<<20)
	require.NoError(t, err)
	assert.Zero(t, cut)
	assert.Equal(t, "Subject over two lines", c.Subject)
	assert.Equal(t, "Body with  spaces\n\n    indented\n\nend", c.Message)
	assert.Equal(t, "Ada Bramble", c.Author.Name)
	c, cut, err = g.ReadCommit(ctx, c.ID, 10)
	require.NoError(t, err)
	assert.Equal(t, []any{10, len("Body with  spaces\n\n    indented\n\nend") - 10}, []any{len(c.Message), cut})
}

func TestBlameOfOddFiles(t *testing.T) {
	ctx := context.Background()
	r := repotest.New(t)
	name := "odd \"\t\xff.txt"
	long := strings.Repeat("x", 200_000)
	r.Write(name, "one\n"+long+"\nthree").Commit("one")
	r.Write(name, "one\n"+long+"\n\tauthor is not a head\nthree\n").Commit("two")
	r.Git("mv", name, "plain")
	r.Commit("moved")
	b, err := r.Read().Blame(ctx, "HEAD", "plain", nil)
	require.NoError(t, err)
	n := 0
	for _, run := range b.Runs {
		n += int(run.Count)
	}
	assert.Equal(t, 4, n)
	assert.Equal(t, name, b.Paths[0], "the name that the file had then")
	_, err = r.Read().Blame(ctx, "HEAD", "nowhere", nil)
	assert.Error(t, err)
	empty, err := r.Write("empty", "").Read().Blame(ctx, r.Commit("empty"), "empty", nil)
	require.NoError(t, err)
	assert.Empty(t, empty.Runs)
}

func TestChangedLinesAreFoundInOrderAndStopped(t *testing.T) {
	ctx := context.Background()
	r := repotest.New(t)
	var ids []string
	for n := range 130 {
		text := "plain\n"
		if n%10 == 3 {
			text = "with (a.b*) in it\n"
		}
		r.Write("f", text+strings.Repeat("y\n", n)).Commit("c")
		ids = append([]string{r.Git("rev-parse", "HEAD")}, ids...)
	}
	g := r.Read()
	find := func(search repo.LineSearch, most int) (found []string, read int) {
		require.NoError(t, g.ChangedLines(ctx, ids, search, func(id string, n int) bool {
			read = n
			if id != "" {
				found = append(found, id)
			}
			return len(found) < most
		}))
		return found, read
	}
	all, read := find(repo.LineSearch{Texts: []repo.LineText{{Text: "(A.B*)"}}}, 1000)
	assert.Equal(t, 130, read)
	want := strings.Fields(r.Git("log", "--format=%H", "-i", "-F", "-S(a.b*)", "--pickaxe-all"))
	assert.NotEmpty(t, all)
	for _, id := range want {
		assert.Contains(t, all, id)
	}
	none, _ := find(repo.LineSearch{Texts: []repo.LineText{{Text: "axbyyy"}}}, 1000)
	assert.Empty(t, none, "signs are no pattern")
	not, _ := find(repo.LineSearch{Texts: []repo.LineText{{Text: "(a.b*)", Not: true}}}, 1000)
	assert.Len(t, not, 130-len(all))
	few, read := find(repo.LineSearch{Texts: []repo.LineText{{Text: "(a.b*)"}}}, 1)
	assert.Equal(t, all[:1], few)
	assert.Less(t, read, 130, "it ends early")
	both, _ := find(repo.LineSearch{Texts: []repo.LineText{{Text: "(a.b*)"}, {Text: "plain"}}, Paths: []string{"f"}}, 1000)
	assert.Equal(t, all, both)
	elsewhere, _ := find(repo.LineSearch{Texts: []repo.LineText{{Text: "plain"}}, Paths: []string{"g"}}, 1000)
	assert.Empty(t, elsewhere)
}
