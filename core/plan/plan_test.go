package plan_test

import (
	"math/rand"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
)

const commit = "1111111111111111111111111111111111111111"

func chapter(id, order string) plan.Op {
	return plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: id, Order: order, Title: id}}
}

func passage(id, in, order string) plan.Op {
	return plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: id, Chapter: in, Order: order, Title: id, Minutes: 5,
		Target: plan.Target{Kind: plan.Lines, Path: "a.go", Start: 1, End: 9, Commit: commit}}}
}

func apply(t *testing.T, s *plan.State, ops ...plan.Op) {
	t.Helper()
	for _, op := range ops {
		require.NoError(t, s.Apply(op), "%+v", op)
	}
}

func order(s *plan.State) string {
	var out []string
	for _, c := range s.InOrder() {
		var in []string
		for _, p := range c.Passages {
			in = append(in, p.ID)
		}
		out = append(out, c.ID+"["+strings.Join(in, " ")+"]")
	}
	return strings.Join(out, " ")
}

func TestFold(t *testing.T) {
	s := plan.New()
	apply(t, s, chapter("chapter-b", "M"), chapter("chapter-a", "D"), passage("passage-2", "chapter-a", "V"), passage("passage-1", "chapter-a", "B"), passage("passage-3", "chapter-b", "V"))
	assert.Equal(t, "chapter-a[passage-1 passage-2] chapter-b[passage-3]", order(s))
	apply(t, s, plan.Op{Kind: plan.MovePassage, ID: "passage-1", Chapter: "chapter-b", Order: "Z"})
	assert.Equal(t, "chapter-a[passage-2] chapter-b[passage-3 passage-1]", order(s))
	apply(t, s, plan.Op{Kind: plan.MoveChapter, ID: "chapter-a", Order: "T"}, plan.Op{Kind: plan.RemovePassage, ID: "passage-3"})
	assert.Equal(t, "chapter-b[passage-1] chapter-a[passage-2]", order(s))
	apply(t, s, plan.Op{Kind: plan.RemoveChapter, ID: "chapter-b"})
	assert.Equal(t, "chapter-a[passage-2]", order(s))
	apply(t, s, plan.Op{Kind: plan.RestoreChapter, ID: "chapter-b"})
	assert.Equal(t, "chapter-b[passage-1] chapter-a[passage-2]", order(s))
}

func TestTextsAreComparedBeforeTheyAreSet(t *testing.T) {
	s := plan.New()
	apply(t, s, plan.Op{Kind: plan.SetPlan, Field: "title", To: "one"})
	err := s.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", From: "other", To: "two"})
	var conflict *plan.Conflict
	require.ErrorAs(t, err, &conflict)
	assert.Equal(t, "one", conflict.Current)
	assert.Equal(t, "one", s.Title)
}

func TestWhatMakesNoSense(t *testing.T) {
	base := func() *plan.State {
		s := plan.New()
		apply(t, s, chapter("chapter-a", "V"), passage("passage-1", "chapter-a", "V"))
		return s
	}
	for name, op := range map[string]plan.Op{
		"no such kind":        {Kind: "explode"},
		"short id":            {Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "x", Order: "V"}},
		"no chapter":          {Kind: plan.AddChapter},
		"same chapter again":  chapter("chapter-a", "V"),
		"same passage again":  passage("passage-1", "chapter-a", "V"),
		"chapter is not here": passage("passage-2", "chapter-x", "V"),
		"order ends in 0":     passage("passage-2", "chapter-a", "V0"),
		"order has no key":    passage("passage-2", "chapter-a", ""),
		"order is no key":     passage("passage-2", "chapter-a", "ä"),
		"empty title":         {Kind: plan.SetPlan, Field: "title", To: "  "},
		"long title":          {Kind: plan.SetPlan, Field: "title", To: strings.Repeat("x", 201)},
		"NUL in a text":       {Kind: plan.SetPlan, Field: "purpose", To: "a\x00"},
		"no UTF-8":            {Kind: plan.SetPlan, Field: "purpose", To: "\xff"},
		"unknown field":       {Kind: plan.SetPassage, ID: "passage-1", Field: "color", To: "red"},
		"minutes below 0":     {Kind: plan.SetPassage, ID: "passage-1", Field: "minutes", From: "5", To: "-1"},
		"minutes are words":   {Kind: plan.SetPassage, ID: "passage-1", Field: "minutes", From: "5", To: "five"},
		"not removed":         {Kind: plan.RestorePassage, ID: "passage-1"},
		"unknown passage":     {Kind: plan.RemovePassage, ID: "passage-9"},
		"lines backwards": {Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-2", Chapter: "chapter-a", Order: "V",
			Target: plan.Target{Kind: plan.Lines, Path: "a", Start: 9, End: 1, Commit: commit}}},
		"no commit": {Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-2", Chapter: "chapter-a", Order: "V",
			Target: plan.Target{Kind: plan.File, Path: "a", Commit: "main"}}},
		"unknown target": {Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-2", Chapter: "chapter-a", Order: "V",
			Target: plan.Target{Kind: "galaxy", Path: "a", Commit: commit}}},
	} {
		s := base()
		err := s.Apply(op)
		var invalid *plan.Invalid
		assert.ErrorAs(t, err, &invalid, name)
		assert.Equal(t, base(), s, "%s: the state is as before", name)
	}
}

// TestUndoTakesBackAnything plays random operations of one person, takes all
// of them back, and must find the state of the beginning.
func TestUndoTakesBackAnything(t *testing.T) {
	for seed := range int64(30) {
		r := rand.New(rand.NewSource(seed))
		s := plan.New()
		var entries []plan.Entry
		do := func(op plan.Op, undoes int64) bool {
			if s.Apply(op) != nil {
				return false
			}
			entries = append(entries, plan.Entry{Seq: int64(len(entries) + 1), Actor: 1, Op: op, Undoes: undoes})
			return true
		}
		for i := range 60 {
			id := string(rune('a'+r.Intn(6))) + "-thing"
			in := string(rune('a'+r.Intn(3))) + "-chapter"
			key := string(rune('1' + r.Intn(9)))
			do([]plan.Op{chapter(in, key), passage(id, in, key), {Kind: plan.MovePassage, ID: id, Chapter: in, Order: key}, {Kind: plan.RemovePassage, ID: id},
				{Kind: plan.RemoveChapter, ID: in}, {Kind: plan.RestoreChapter, ID: in}, {Kind: plan.MoveChapter, ID: in, Order: key},
				{Kind: plan.SetPlan, Field: "purpose", From: s.Purpose, To: strings.Repeat("x", i)}}[r.Intn(8)], 0)
		}
		n := len(entries)
		for range n {
			op, seq, err := plan.Undo(entries, 1)
			require.NoError(t, err)
			require.True(t, do(op, seq), "seed %d: %+v", seed, op)
		}
		assert.Empty(t, s.InOrder())
		assert.Empty(t, s.Purpose)
		_, _, err := plan.Undo(entries, 1)
		var none *plan.CannotUndo
		assert.ErrorAs(t, err, &none)
	}
}

func TestUndoNeverLosesAnothersWork(t *testing.T) {
	ops := []plan.Entry{
		{Seq: 1, Actor: 1, Op: chapter("chapter-a", "V")},
		{Seq: 2, Actor: 1, Op: passage("passage-1", "chapter-a", "V")},
	}
	other := func(op plan.Op) []plan.Entry { return append(ops[:2:2], plan.Entry{Seq: 3, Actor: 2, Op: op}) }
	for name, c := range map[string]struct {
		entries []plan.Entry
		refused bool
	}{
		"another wrote in it":          {other(plan.Op{Kind: plan.SetPassage, ID: "passage-1", Field: "title", From: "passage-1", To: "x"}), true},
		"another moved it":             {other(plan.Op{Kind: plan.MovePassage, ID: "passage-1", Chapter: "chapter-a", Order: "Z"}), true},
		"another added beside it":      {other(passage("passage-2", "chapter-a", "Z")), false},
		"another changed the plan":     {other(plan.Op{Kind: plan.SetPlan, Field: "title", To: "x"}), false},
		"another's chapter is its own": {other(chapter("chapter-b", "Z")), false},
	} {
		op, seq, err := plan.Undo(c.entries, 1)
		if c.refused {
			var cannot *plan.CannotUndo
			require.ErrorAs(t, err, &cannot, name)
			assert.Equal(t, int64(2), cannot.By, name)
			continue
		}
		require.NoError(t, err, name)
		assert.Equal(t, plan.Op{Kind: plan.RemovePassage, ID: "passage-1"}, op, name)
		assert.Equal(t, int64(2), seq)
	}
	// a chapter that somebody has put a passage into stays
	entries := []plan.Entry{{Seq: 1, Actor: 1, Op: chapter("chapter-a", "V")}, {Seq: 2, Actor: 2, Op: passage("passage-1", "chapter-a", "V")}}
	_, _, err := plan.Undo(entries, 1)
	assert.Error(t, err)
}

func TestBetweenAlwaysFindsRoom(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	keys := []string{}
	for range 4000 {
		i := r.Intn(len(keys) + 1)
		if r.Intn(3) == 0 {
			i = len(keys) / 2 // crowd one place
		}
		a, b := "", ""
		if i > 0 {
			a = keys[i-1]
		}
		if i < len(keys) {
			b = keys[i]
		}
		k, err := plan.Between(a, b)
		require.NoError(t, err)
		require.True(t, k > a && (b == "" || k < b), "%q < %q < %q", a, k, b)
		if len(k) > 150 {
			break
		}
		keys = append(keys[:i], append([]string{k}, keys[i:]...)...)
	}
	assert.True(t, sort.StringsAreSorted(keys))
	assert.Greater(t, len(keys), 500)
	for _, bad := range [][2]string{{"B", "A"}, {"A", "A"}, {"A0", ""}, {"-", ""}} {
		_, err := plan.Between(bad[0], bad[1])
		assert.Error(t, err, bad)
	}
}

func FuzzBetween(f *testing.F) {
	f.Add("", "")
	f.Add("A", "A1")
	f.Fuzz(func(t *testing.T, a, b string) {
		k, err := plan.Between(a, b)
		if err == nil {
			require.True(t, k > a && (b == "" || k < b))
		}
	})
}
