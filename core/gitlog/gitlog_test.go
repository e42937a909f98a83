package gitlog_test

import (
	"context"
	"fmt"
	"maps"
	"math/rand"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/gitlog"
	"juxtagram/core/history"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
)

// random makes a history with several roots, branches, octopus and criss-cross
// merges, renames, empty commits and dates that go back.
func random(t *testing.T, seed int64, commits int) *repo.Git {
	t.Helper()
	r := rand.New(rand.NewSource(seed))
	var in strings.Builder
	type made struct {
		mark  int
		files map[string]int
	}
	var all []made
	people := []string{"Oona Fell <oona@x.test>", "Tam Rook <tam@x.test>", "Kip Marrow <kip@x.test>", " <>"}
	write := func(ref string, parents []made, when int) {
		m := made{len(all) + 1, map[string]int{}}
		if len(parents) > 0 {
			maps.Copy(m.files, parents[0].files)
		}
		who := people[r.Intn(len(people))]
		message := fmt.Sprintf("change %d of %s\n\nwith words w%dx", m.mark, ref, r.Intn(9))
		fmt.Fprintf(&in, "commit refs/heads/%s\nmark :%d\nauthor %s %d +0100\ncommitter %s %d +0000\ndata %d\n%s\n", ref, m.mark, who, when, who, when, len(message), message)
		for n, p := range parents {
			word := "merge"
			if n == 0 {
				word = "from"
			}
			fmt.Fprintf(&in, "%s :%d\n", word, p.mark)
		}
		for range r.Intn(3) {
			p := fmt.Sprintf("dir%d/file%d", r.Intn(3), r.Intn(5))
			m.files[p] = m.mark
			text := strings.Repeat(fmt.Sprintf("line of %s\n", p), 5) + fmt.Sprintf("%d\n", m.mark)
			fmt.Fprintf(&in, "M 100644 inline %s\ndata %d\n%s\n", p, len(text), text)
		}
		if len(parents) == 1 && r.Intn(6) == 0 && len(m.files) > 0 {
			names := slices.Sorted(maps.Keys(m.files))
			from, to := names[r.Intn(len(names))], fmt.Sprintf("dir%d/new%d", r.Intn(3), m.mark)
			if parents[0].files[from] > 0 {
				fmt.Fprintf(&in, "R %s %s\n", from, to)
				delete(m.files, from)
				m.files[to] = m.mark
			}
		}
		fmt.Fprintln(&in)
		all = append(all, m)
	}
	for k := range commits {
		when := 1_600_000_000 + k*1000
		if r.Intn(10) == 0 {
			when -= r.Intn(50_000)
		}
		ref := fmt.Sprintf("b%d", r.Intn(4))
		var parents []made
		switch {
		case k < 2 || r.Intn(40) == 0: // another root
			fmt.Fprintf(&in, "reset refs/heads/%s\n\n", ref)
		case r.Intn(4) == 0 && k > 6:
			for range 2 + r.Intn(3) {
				p := all[max(0, len(all)-1-r.Intn(8))]
				if !slices.ContainsFunc(parents, func(x made) bool { return x.mark == p.mark }) {
					parents = append(parents, p)
				}
			}
		default:
			parents = []made{all[max(0, len(all)-1-r.Intn(5))]}
		}
		write(ref, parents, when)
		if r.Intn(12) == 0 {
			fmt.Fprintf(&in, "reset refs/tags/t%d\nfrom :%d\n\n", k, len(all))
		}
	}
	g := repotest.New(t).Read()
	_, err := g.RunInput(context.Background(), strings.NewReader(in.String()), "fast-import", "--quiet", "--force")
	require.NoError(t, err)
	return g
}

// logOf reads a whole repository into a log, as it is kept and loaded.
func logOf(t *testing.T, g *repo.Git) *gitlog.Log {
	t.Helper()
	ctx := context.Background()
	refs, err := g.Refs(ctx)
	require.NoError(t, err)
	var tips []string
	for _, r := range refs {
		tips = append(tips, r.Commit)
	}
	commits, err := history.ReadNew(ctx, g, tips, nil, nil, nil)
	require.NoError(t, err)
	b := gitlog.NewBuilder()
	for _, c := range commits {
		require.NoError(t, b.Add(&gitlog.Entry{Commit: c.Commit, Packed: history.PackChanges(c.Changes)}))
	}
	idents := b.Idents()
	mapped := map[repo.Person]repo.Person{}
	for p := range idents {
		mapped[p] = p
	}
	return b.Log(refs, tips[0], history.Join(idents, mapped), nil)
}

func ask(t *testing.T, g *repo.Git, args ...string) []string {
	t.Helper()
	out, err := g.Run(context.Background(), args...)
	require.NoError(t, err)
	return strings.Fields(string(out))
}

func idsOf(l *gitlog.Log, commits []int32) []string {
	out := []string{}
	for _, i := range commits {
		out = append(out, l.IDs[i])
	}
	return out
}

func sorted(list []string) []string {
	out := slices.Clone(list)
	slices.Sort(out)
	return slices.Compact(out)
}

func TestTheLogAnswersAsGitDoes(t *testing.T) {
	for seed := range int64(6) {
		g := random(t, seed, 150)
		l := logOf(t, g)
		require.Zero(t, l.Unread)
		assert.Equal(t, ask(t, g, "rev-list", "--date-order", "--branches", "--tags"), l.IDs, "seed %d", seed)

		keep := func(terms ...gitlog.Term) []string {
			sel, problems := l.Narrow(terms, nil)
			require.Empty(t, problems)
			return sorted(idsOf(l, sel.Commits))
		}
		all := []string{"rev-list", "--branches", "--tags"}
		assert.Equal(t, sorted(ask(t, g, append(all, "--merges")...)), keep(gitlog.Term{Key: "is", Value: "merge"}))
		assert.Equal(t, sorted(ask(t, g, append(all, "--max-parents=0")...)), keep(gitlog.Term{Key: "is", Value: "root"}))
		assert.Equal(t, sorted(ask(t, g, append(all, "--author=Tam Rook")...)), keep(gitlog.Term{Key: "by", Value: "tam rook"}))
		assert.Equal(t, sorted(ask(t, g, append(all, "--grep=words w3x", "-i")...)), keep(gitlog.Term{Key: "message", Value: "w3X words"}))
		assert.Equal(t, sorted(ask(t, g, "rev-list", "b0")), keep(gitlog.Term{Key: "branch", Value: "b0"}))
		assert.Equal(t, sorted(ask(t, g, "rev-list", "b0", "^b1")), keep(gitlog.Term{Key: "branch", Value: "b0"}, gitlog.Term{Key: "branch", Value: "b1", Not: true}))
		assert.Equal(t, sorted(ask(t, g, append(all, "--no-merges", "--full-history", "--", "dir1")...)), keep(gitlog.Term{Key: "path", Value: "dir1/"}))
		assert.Equal(t, sorted(ask(t, g, append(all, "--no-merges", "--full-history", "--", "dir0/file1")...)), keep(gitlog.Term{Key: "path", Value: "dir0/file1"}))

		for range 12 {
			i := rand.New(rand.NewSource(seed)).Int31n(int32(l.Len()))
			var refs []string
			for _, r := range l.Containing(i) {
				refs = append(refs, "refs/"+map[string]string{"branch": "heads", "tag": "tags"}[r.Kind]+"/"+r.Name)
			}
			assert.Equal(t, sorted(ask(t, g, "for-each-ref", "--format=%(refname)", "--contains", l.IDs[i], "refs/heads", "refs/tags")), sorted(refs))
			j := (i*7 + 13) % int32(l.Len())
			a, b := l.Apart(i, j)
			assert.Equal(t, ask(t, g, "rev-list", "--left-right", "--count", l.IDs[i]+"..."+l.IDs[j]), []string{fmt.Sprint(a.Count()), fmt.Sprint(b.Count())})
			_, isAncestor := g.Run(context.Background(), "merge-base", "--is-ancestor", l.IDs[j], l.IDs[i])
			assert.Equal(t, isAncestor == nil, l.Descends(i, j))
		}
	}
}

// Every parent of every commit is reached by a line that begins in the child,
// runs straight down, and ends in the parent.
func TestLanesLeadFromEveryCommitToItsParents(t *testing.T) {
	for seed := range int64(8) {
		l := logOf(t, random(t, seed, 1300))
		sel, _ := l.Narrow(nil, nil)
		require.True(t, sel.Closed)
		lanes := l.LanesOf(sel.Commits)
		rows := lanes.Rows(0, l.Len())
		require.Len(t, rows, l.Len())
		open := map[int32][]int32{} // lane → the commits whose line runs in it
		for n, row := range rows {
			var ended []int32
			for lane := range open {
				if slices.Contains(row.Above, lane) {
					ended = append(ended, open[lane]...)
					delete(open, lane)
				} else {
					assert.Contains(t, row.Past, lane, "a line that does not end runs past")
				}
			}
			assert.Len(t, open, len(row.Past))
			if row.Trunk && len(l.Parents(int32(n))) > 0 {
				assert.Zero(t, row.Lane)
				assert.Equal(t, int32(0), row.Below[0], "the trunk goes straight on")
			}
			var children []int32
			for i := int32(0); i < int32(n); i++ {
				if slices.Contains(l.Parents(i), int32(n)) {
					children = append(children, i)
				}
			}
			slices.Sort(ended)
			assert.Equal(t, children, ended, "seed %d row %d: the lines that end in a commit are those of its children", seed, n)
			for _, lane := range row.Below {
				open[lane] = append(open[lane], int32(n))
			}
			if t.Failed() {
				return
			}
		}
		assert.Empty(t, open)
		for _, at := range []int{0, 1, 511, 512, 513, len(rows) - 20} {
			assert.Equal(t, rows[at:min(at+40, len(rows))], lanes.Rows(at, at+40), "a page is what the whole says")
		}
	}
}

func TestTermsThatCannotBeUnderstoodSayWhy(t *testing.T) {
	l := logOf(t, random(t, 1, 40))
	for _, c := range []struct{ key, value, why string }{
		{"by", "Nobody", `nobody called "Nobody"`},
		{"from", "yesterday", "is no date"},
		{"to", "2026-02-31", "is no date"},
		{"branch", "nope", "there is no branch"},
		{"tag", "nope", "there is no tag"},
		{"path", "not/here", "no commit ever changed"},
		{"lines-changed", "5-2", "is no size"},
		{"lines-changed", "many", "is no size"},
		{"is", "octopus", "merge or a root"},
		{"message", "  ", "left open"},
		{"colour", "red", "nothing that commits can be asked for"},
	} {
		sel, problems := l.Narrow([]gitlog.Term{{Key: c.key, Value: c.value}}, nil)
		assert.Nil(t, sel)
		require.Len(t, problems, 1, c.key)
		assert.Contains(t, problems[0].Why, c.why)
	}
}

func TestEveryTermSaysWhatItKeeps(t *testing.T) {
	l := logOf(t, random(t, 2, 120))
	terms := []gitlog.Term{{Key: "by", Value: "Oona Fell"}, {Key: "is", Value: "merge"}, {Key: "from", Value: "2020", Not: true}}
	sel, problems := l.Narrow(terms, nil)
	require.Empty(t, problems)
	assert.Empty(t, sel.Commits)
	require.Len(t, sel.Left, 3)
	for n := range terms {
		alone, _ := l.Narrow(terms[n:n+1], nil)
		others := append(slices.Clone(terms[:n]), terms[n+1:]...)
		without, _ := l.Narrow(others, nil)
		assert.Equal(t, gitlog.Left{Alone: len(alone.Commits), Without: len(without.Commits)}, sel.Left[n])
	}
}

func TestSpansAreInclusive(t *testing.T) {
	for value, want := range map[string]string{"2026": "31536000", "2026-02": "2419200", "2026-03-01": "86400"} {
		first, end, err := gitlog.Span(value)
		require.NoError(t, err)
		assert.Equal(t, want, fmt.Sprint(end-first), value)
	}
}

func TestKeysAreWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, k := range gitlog.Keys {
		assert.False(t, seen[k.Name])
		seen[k.Name] = true
		assert.Equal(t, 1, strings.Count(k.Says, "%s"), k.Name)
		assert.Equal(t, 1, strings.Count(k.SaysNot, "%s"), k.Name)
		assert.NotEmpty(t, k.Doc)
		assert.NotEmpty(t, k.Example)
	}
}

// Functions of a file are edited, moved and surrounded by chance; the commits
// that touched one are those that were made to.
func TestTheCommitsThatTouchedSomeLines(t *testing.T) {
	for seed := range int64(8) {
		r := rand.New(rand.NewSource(seed))
		rep := repotest.New(t)
		blocks := [][]string{}
		for b := range 6 {
			var lines []string
			for n := range 5 + r.Intn(6) {
				lines = append(lines, fmt.Sprintf("block %d line %d", b, n))
			}
			blocks = append(blocks, lines)
		}
		name := "a.txt"
		write := func() {
			var text strings.Builder
			for _, b := range blocks {
				text.WriteString(strings.Join(b, "\n") + "\n----\n")
			}
			rep.Write(name, text.String())
		}
		write()
		touched := map[int][]string{}
		id := rep.Commit("made")
		for b := range blocks {
			touched[b] = []string{id}
		}
		for k := range 60 {
			hit := map[int]bool{}
			for _, b := range r.Perm(len(blocks))[:1+r.Intn(2)] {
				at := 1 + r.Intn(len(blocks[b])-2)
				switch r.Intn(3) {
				case 0:
					blocks[b][at] = fmt.Sprintf("block %d changed %d", b, k)
				case 1:
					blocks[b] = slices.Insert(blocks[b], at, fmt.Sprintf("block %d added %d", b, k))
				default:
					if len(blocks[b]) > 4 {
						blocks[b] = slices.Delete(blocks[b], at, at+1)
					} else {
						blocks[b][at] = fmt.Sprintf("block %d changed %d", b, k)
					}
				}
				hit[b] = true
			}
			if r.Intn(10) == 0 {
				rep.Git("mv", name, fmt.Sprintf("b%d.txt", k))
				name = fmt.Sprintf("b%d.txt", k)
			}
			write()
			id := rep.Commit(fmt.Sprint(k))
			for b := range hit {
				touched[b] = append([]string{id}, touched[b]...)
			}
		}
		g := rep.Read()
		l := logOf(t, g)
		chapters := l.Story(name, nil)
		require.Len(t, chapters, 61)
		commits, err := history.ReadNew(context.Background(), g, []string{"main"}, nil, nil, nil)
		require.NoError(t, err)
		changes := map[string][]repo.Hunk{}
		for _, c := range commits {
			changes[c.ID] = c.Changes[0].Hunks
		}
		hunks := func(c gitlog.Chapter) []repo.Hunk { return changes[l.IDs[c.Commit]] }
		start := 1
		for b, lines := range blocks {
			end := start + len(lines) - 1
			var got []string
			for _, c := range gitlog.Touching(chapters, hunks, start, end) {
				got = append(got, l.IDs[c.Commit])
			}
			assert.Equal(t, touched[b], got, "seed %d block %d", seed, b)
			start = end + 2
		}
		assert.False(t, l.SideBySide(chapters))
		sum, want := 0, 0
		for _, h := range l.HeatOf(chapters, hunks, start-1, l.Times[0]) {
			sum += h.Lines
		}
		for _, c := range chapters {
			for _, h := range hunks(c) {
				want += max(1, int(h.NewCount))
			}
		}
		assert.LessOrEqual(t, sum, want)
		assert.Greater(t, sum, want*8/10, "nearly every changed line lies in some part")
	}
}
