package history_test

import (
	"fmt"
	"math/rand/v2"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/history"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/demo"
)

// event is one commit that changed a file, as git's own log tells it.
type event struct {
	at     int64
	person string
}

// replayed follows one path at a time through the text of git's log: the
// oracle of spans, which shares nothing with the columns.
func replayed(t *testing.T, log []string, path string) []event {
	var out []event
	var now event
	counted := false
	for _, l := range log {
		if rest, ok := strings.CutPrefix(l, "commit "); ok {
			at, person, _ := strings.Cut(rest, " ")
			n, err := strconv.ParseInt(at, 10, 64)
			require.NoError(t, err)
			now, counted = event{n, person}, false
			continue
		}
		f := strings.Split(l, "\t")
		if len(f) < 2 || f[len(f)-1] != path {
			continue
		}
		if !counted {
			out, counted = append(out, now), true
		}
		if len(f) == 3 {
			path = f[1]
		}
	}
	return out
}

func gitLog(t *testing.T, dir string) []string {
	cmd := exec.Command("git", "--git-dir="+dir, "-c", "mailmap.blob=main:.mailmap", "log", "--raw", "-M", "--no-abbrev", "--use-mailmap", "--format=commit %ct %aE", "main")
	cmd.Env = repo.Environ()
	out, err := cmd.Output()
	require.NoError(t, err)
	return strings.Split(string(out), "\n")
}

func ledger(t *testing.T, g *repo.Git, paths []string) (*history.Ledger, *history.Log, *history.People) {
	log, people := read(t, g)
	m, _ := log.Moves(paths, people)
	packed, err := history.UnpackMoves(m.Pack(), len(paths), len(people.List))
	require.NoError(t, err)
	assert.Equal(t, m, packed)
	return history.NewLedger(packed, len(paths), log.Time(), 180), log, people
}

func TestSpansAgreeWithAReplayOfGitLog(t *testing.T) {
	dir := t.TempDir() + "/demo.git"
	require.NoError(t, demo.Build(ctx, dir))
	paths := filesOf(t, repo.At(dir))
	l, log, people := ledger(t, repo.At(dir), paths)
	text := gitLog(t, dir)
	events := make([][]event, len(paths))
	for i, p := range paths {
		events[i] = replayed(t, text, p)
	}
	first, now := l.Time[0], log.Time()
	random := rand.New(rand.NewPCG(1, 2))
	changed := 0
	for range 300 {
		from := first + random.Int64N(now-first+1)
		s := history.Span{From: from, To: from + random.Int64N(now-from+2), Person: -1}
		if random.IntN(3) == 0 {
			s.Person = random.IntN(len(people.List))
		}
		sweep := l.Sweep(s)
		var files []int32
		for range 12 {
			files = append(files, int32(random.IntN(len(paths))))
		}
		for _, i := range files {
			var want history.Happened
			who := map[string]bool{}
			for _, e := range events[i] {
				if e.at < s.From || e.at >= s.To || s.Person >= 0 && e.person != people.List[s.Person].Email {
					continue
				}
				want.Changes++
				who[e.person] = true
				want.Recent += history.Recency(e.at, now, 180)
				if want.First == 0 || e.at < want.First {
					want.First = e.at
				}
				want.Last = max(want.Last, e.at)
			}
			got := sweep.Of(i)
			assert.InDelta(t, want.Recent, got.Recent, 1e-9)
			assert.Equal(t, len(who), got.People)
			assert.Equal(t, []int64{int64(want.Changes), want.First, want.Last}, []int64{int64(got.Changes), got.First, got.Last}, "%s in %v", paths[i], s)
			changed += want.Changes
		}
	}
	assert.Greater(t, changed, 1000, "the spans hold something")
}

func TestPeopleOfSeveralFilesCountOnce(t *testing.T) {
	r := repotest.New(t)
	r.Write("a", "1\n", "b", "1\n").Commit("both")
	r.Name, r.Mail = "Bo Linden", "bo@example.test"
	r.Write("a", "2\n").Commit("a again")
	l, _, _ := ledger(t, r.Read(), []string{"a", "b"})
	all := l.Sweep(history.Everything)
	assert.Equal(t, 2, all.Of(0).People)
	assert.Equal(t, 2, all.Of(0, 1).People)
	assert.Equal(t, 3, all.Of(0, 1).Changes, "each file's changes are summed")
	assert.Equal(t, 4, all.Of(0, 1).Churn, "1 and 1 added, then 1 added and 1 deleted")
	assert.Equal(t, []history.Share{{Person: 0, Commits: 1}, {Person: 1, Commits: 1}}, l.Shares(0, 1))
	assert.Equal(t, 0, l.Sweep(history.Span{From: 5, To: 3, Person: -1}).Of(0).Changes)
	pulse, _ := l.Pulse(3)
	assert.Equal(t, 2, sum(pulse))
	pulse, _ = l.Pulse(3, 1)
	assert.Equal(t, []int{1, 0, 0}, pulse)
}

func sum(list []int) int {
	n := 0
	for _, x := range list {
		n += x
	}
	return n
}

func TestPartnersLeaveSweepingCommitsOut(t *testing.T) {
	r := repotest.New(t)
	wide := []string{"a", "1\n", "b", "1\n", "c", "1\n"}
	paths := []string{"a", "b", "c"}
	for i := range history.WideCommit {
		p := fmt.Sprintf("z%02d", i)
		wide, paths = append(wide, p, "1\n"), append(paths, p)
	}
	r.Write(wide...).Commit("everything")
	for i := range 3 {
		r.Write("a", fmt.Sprint(i), "b", fmt.Sprint(i)).Commit("a with b")
	}
	r.Write("a", "x", "c", "x").Commit("a with c, once")
	l, _, _ := ledger(t, r.Read(), paths)
	got, of := l.Partners(5, 0)
	assert.Equal(t, []history.Partner{{File: 1, Together: 3, Changes: 3}}, got)
	assert.Equal(t, 4, of)
}

func TestDamagedMovesAreRefused(t *testing.T) {
	m := &history.Moves{Time: []int64{5, 9}, Person: []int32{0, 1}, From: []int32{0, 1, 3}, File: []int32{2, 0, 2}, Added: []int32{1, -1, 3}, Deleted: []int32{0, -1, 7}}
	packed := m.Pack()
	for cut := range packed {
		got, err := history.UnpackMoves(packed[:cut], 3, 2)
		assert.True(t, err != nil || got == nil, "cut at %d", cut)
	}
	_, err := history.UnpackMoves(packed, 2, 2)
	assert.Error(t, err, "a file that is not there")
	_, err = history.UnpackMoves(packed, 3, 1)
	assert.Error(t, err, "a person who is not there")
}
