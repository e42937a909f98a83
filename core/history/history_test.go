package history_test

import (
	"context"
	"math"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/history"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/core/tagged"
	"juxtagram/demo"
)

var ctx = context.Background()

func read(t *testing.T, g *repo.Git) (*history.Log, *history.People) {
	pin, err := g.Resolve(ctx, "main")
	require.NoError(t, err)
	log, fresh, err := history.Read(ctx, g, pin, history.Known{}, nil)
	require.NoError(t, err)
	require.NoError(t, log.CountLines(ctx, g, fresh, tagged.Standard, nil))
	people, err := history.ReadPeople(ctx, g, log, nil)
	require.NoError(t, err)
	return log, people
}

func filesOf(t *testing.T, g *repo.Git) []string {
	entries, err := g.Tree(ctx, "main", "")
	require.NoError(t, err)
	var paths []string
	for _, e := range entries {
		paths = append(paths, e.Path)
	}
	return paths
}

// replay is the oracle: it follows one path at a time through the text of
// `git log --raw -M`, independently of how package history reads changes.
func replay(t *testing.T, dir string, path string) (commits int, oldest string) {
	cmd := exec.Command("git", "--git-dir="+dir, "log", "--raw", "-M", "--no-abbrev", "--format=commit %H", "main")
	cmd.Env = repo.Environ()
	out, err := cmd.Output()
	require.NoError(t, err)
	counted := false
	for _, l := range strings.Split(string(out), "\n") {
		if strings.HasPrefix(l, "commit ") {
			counted = false
			continue
		}
		f := strings.Split(l, "\t")
		if len(f) < 2 || f[len(f)-1] != path {
			continue
		}
		if !counted {
			commits++
			counted = true
		}
		if len(f) == 3 {
			path = f[1]
		}
	}
	return commits, path
}

func TestFilesAgreeWithAReplayOfGitLog(t *testing.T) {
	dir := t.TempDir() + "/demo.git"
	require.NoError(t, demo.Build(ctx, dir))
	g := repo.At(dir)
	log, people := read(t, g)
	renamed := 0
	for _, f := range log.Files(filesOf(t, g), people, 180) {
		commits, oldest := replay(t, dir, f.Path)
		assert.Equal(t, commits, f.Commits, f.Path)
		assert.Equal(t, oldest, f.Birth, f.Path)
		if f.Birth != f.Path {
			renamed++
		}
		sum := 0
		for _, s := range f.People {
			sum += s.Commits
		}
		assert.Equal(t, f.Commits, sum, "everybody's commits of %s", f.Path)
		assert.True(t, f.LinesKnown)
	}
	assert.GreaterOrEqual(t, renamed, 8, "the demo has files to follow")
}

func TestPeopleAgreeWithShortlog(t *testing.T) {
	dir := t.TempDir() + "/demo.git"
	require.NoError(t, demo.Build(ctx, dir))
	g := repo.At(dir)
	_, people := read(t, g)
	out, err := g.Run(ctx, "-c", "mailmap.blob=main:.mailmap", "shortlog", "-sne", "main")
	require.NoError(t, err)
	var want []string
	for _, l := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		want = append(want, strings.Join(strings.Fields(l), " "))
	}
	var got []string
	for _, p := range people.List {
		got = append(got, strings.Join([]string{itoa(p.Commits), p.Name, "<" + p.Email + ">"}, " "))
	}
	assert.ElementsMatch(t, want, got)
	assert.Len(t, got, 8)
}

func itoa(n int) string {
	s := ""
	for ; n > 0; n /= 10 {
		s = string(rune('0'+n%10)) + s
	}
	return s
}

func TestSwappedNamesAndReusedPaths(t *testing.T) {
	r := repotest.New(t)
	a, b := strings.Repeat("alpha\n", 40), strings.Repeat("beta\n", 40)
	r.Write("x", a, "y", b).Commit("both")
	for _, step := range [][2]string{{"x", "t"}, {"y", "x"}, {"t", "y"}} {
		r.Git("mv", step[0], step[1])
		r.Commit("swap by steps")
	}
	r.Write("x", b+"more\n").Commit("x, once y")
	r.Git("mv", "y", "z")
	r.Commit("y becomes z")
	r.Write("y", "another y\n").Commit("a new y")
	g := r.Read()
	log, people := read(t, g)
	got := map[string]history.File{}
	for _, f := range log.Files([]string{"x", "y", "z"}, people, 180) {
		got[f.Path] = f
	}
	assert.Equal(t, "y", got["x"].Birth)
	assert.Equal(t, 3, got["x"].Commits, "made, moved, changed")
	assert.Equal(t, "x", got["z"].Birth)
	assert.Equal(t, 4, got["z"].Commits, "made, and moved three times")
	assert.Equal(t, 1, got["y"].Commits, "the new y has nothing to do with the old one")
}

func TestRecencyCountsFromThePin(t *testing.T) {
	const day = 86400
	assert.InDelta(t, 1, history.Recency(1000*day, 1000*day, 180), 1e-9)
	assert.InDelta(t, 0.5, history.Recency(820*day, 1000*day, 180), 1e-9)
	assert.InDelta(t, 1, history.Recency(2000*day, 1000*day, 180), 1e-9, "a clock ahead does not count above one")
	r := repotest.New(t)
	r.Write("a", "1").Commit("one")
	r.Day(360)
	r.Write("a", "2").Commit("two")
	log, people := read(t, r.Read())
	f := log.Files([]string{"a"}, people, 180)[0]
	assert.InDelta(t, 1+math.Exp2(-361.0/180), f.Recent, 1e-9)
}

func TestShallowHistoryDoesNotInventAdditions(t *testing.T) {
	r := repotest.New(t)
	r.Write("a", "1").Commit("one")
	r.Write("b", "2").Commit("two")
	r.Write("b", "3").Commit("three")
	dir := t.TempDir() + "/shallow.git"
	cmd := exec.Command("git", "clone", "-q", "--bare", "--depth", "2", "file://"+r.Dir, dir)
	cmd.Env = repo.Environ()
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
	log, people := read(t, repo.At(dir))
	assert.Len(t, log.Commits, 2)
	f := log.Files([]string{"a", "b"}, people, 180)
	assert.Equal(t, 0, f[0].Commits, "a was there before the history begins")
	assert.Equal(t, 1, f[1].Commits)
}

func TestReadAgainTakesOnlyWhatIsNew(t *testing.T) {
	r := repotest.New(t)
	r.Write("a", "1\n").Commit("one")
	r.Write("a", "2\n").Commit("two")
	g := r.Read()
	log, _ := read(t, g)
	known := history.Known{Pins: []string{log.Pin}, Commits: map[string]*history.Commit{}}
	for _, c := range log.Commits {
		packed, err := history.UnpackChanges(history.PackChanges(c.Changes))
		require.NoError(t, err)
		known.Commits[c.ID] = &history.Commit{Commit: c.Commit, Changes: packed}
	}
	newest := r.Write("b", "3\n").Commit("three")
	again, fresh, err := history.Read(ctx, g, newest, known, nil)
	require.NoError(t, err)
	require.Len(t, fresh, 1)
	assert.Equal(t, newest, fresh[0].ID)
	require.NoError(t, again.CountLines(ctx, g, fresh, tagged.Standard, nil))
	whole, _ := read(t, g)
	require.Len(t, again.Commits, len(whole.Commits))
	for i := range whole.Commits {
		assert.Equal(t, whole.Commits[i].ID, again.Commits[i].ID, "same order")
		assert.Equal(t, whole.Commits[i].Changes, again.Commits[i].Changes)
	}
}

func TestHotspotsNeedIntricacyAndMovement(t *testing.T) {
	got := history.Hotspots([]history.Candidate{
		{Path: "both", Weight: 1234567, Told: "an intricacy of 1234567", Recent: 9, Commits: 12},
		{Path: "large", Weight: 5000, Told: "an intricacy of 5000", Recent: 0.01, Commits: 12},
		{Path: "moving", Weight: 3, Told: "an intricacy of 3", Recent: 10, Commits: 12},
		{Path: "once", Weight: 500, Told: "an intricacy of 500", Recent: 1, Commits: 1},
		{Path: "empty", Weight: 0, Told: "an intricacy of 0", Recent: 10, Commits: 12},
	}, 10)
	var order []string
	for _, h := range got {
		order = append(order, h.Path)
		assert.True(t, h.Score > 0 && h.Score <= 1)
	}
	assert.Equal(t, []string{"both", "moving"}, order)
	assert.Equal(t, "12 changes, weighing 9.0 by age, on an intricacy of 1234567", got[0].Reason)
	assert.Nil(t, history.Hotspots(nil, 10))
}

func FuzzUnpack(f *testing.F) {
	f.Add(history.PackChanges([]repo.Change{{Status: 'M', Path: "a/b", Counts: repo.Counts{Known: true, Added: 3, Hunks: []repo.Hunk{{OldStart: 1, NewStart: 1, NewCount: 3}}}}}))
	f.Add([]byte{0xff, 0xff, 0xff, 0xff, 0x0f})
	f.Fuzz(func(t *testing.T, b []byte) {
		changes, err := history.UnpackChanges(b)
		if err != nil {
			return
		}
		again, err := history.UnpackChanges(history.PackChanges(changes))
		require.NoError(t, err)
		assert.Equal(t, changes, again)
	})
}

// Passing over packed changes tells what unpacking them does, and fails where
// that fails.
func FuzzScan(f *testing.F) {
	f.Add(history.PackChanges([]repo.Change{{Status: 'R', Path: "a/b", OldPath: "c", Counts: repo.Counts{Known: true, Added: 3, Deleted: 1, Hunks: []repo.Hunk{{OldStart: 1, NewStart: 1, NewCount: 3}}}}, {Status: 'D', Path: "x"}}))
	f.Add([]byte{2, 'M', 0, 1, 'a', 0, 0, 0, 0})
	f.Fuzz(func(t *testing.T, b []byte) {
		changes, err := history.UnpackChanges(b)
		var scanned []repo.Change
		err2 := history.ScanChanges(b, func(c *history.Scanned) {
			scanned = append(scanned, repo.Change{Status: c.Status, Path: string(c.Path), OldPath: string(c.OldPath), Counts: repo.Counts{Known: c.Known, Added: c.Added, Deleted: c.Deleted}})
		})
		if err != nil {
			require.Error(t, err2)
			return
		}
		require.NoError(t, err2)
		require.Len(t, scanned, len(changes))
		for i, c := range changes {
			assert.Equal(t, repo.Change{Status: c.Status, Path: c.Path, OldPath: c.OldPath, Counts: repo.Counts{Known: c.Known, Added: c.Added, Deleted: c.Deleted}}, scanned[i])
		}
	})
}

func TestJoinsComeOnTopOfTheMailmap(t *testing.T) {
	p := func(name, email string) repo.Person { return repo.Person{Name: name, Email: email} }
	idents := map[repo.Person]int{p("Ona", "o@x.test"): 3, p("Ona at home", "O@HOME.test"): 1, p("O.", "old@x.test"): 5, p("Tam", "t@x.test"): 2, p("nameless", ""): 1}
	mapped := map[repo.Person]repo.Person{}
	for who := range idents {
		mapped[who] = who
	}
	history.Follow(mapped, []history.Joined{{From: p("", "old@x.test"), To: p("Ona at home", "o@home.test")}, {From: p("", "o@home.test"), To: p("Ona", "o@x.test")}, {From: p("nameless", ""), To: p("Tam", "t@x.test")}})
	people := history.Join(idents, mapped)
	require.Len(t, people.List, 2)
	assert.Equal(t, []any{"Ona", 9, "Tam", 3}, []any{people.List[0].Name, people.List[0].Commits, people.List[1].Name, people.List[1].Commits}, "joins follow on from each other")
	assert.Equal(t, []int32{0}, people.Called("old@x.test"))
	// a circle of joins comes to an end
	for who := range idents {
		mapped[who] = who
	}
	history.Follow(mapped, []history.Joined{{From: p("", "o@x.test"), To: p("Tam", "t@x.test")}, {From: p("", "t@x.test"), To: p("Ona", "o@x.test")}})
	assert.NotEmpty(t, history.Join(idents, mapped).List)
}
