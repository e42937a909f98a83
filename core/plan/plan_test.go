package plan_test

import (
	"fmt"
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

// journal is a plan with all that was done to it, as a store keeps it.
type journal struct {
	state   *plan.State
	entries []plan.Entry
	inverse []plan.Op
}

// do carries out a batch, or nothing of it.
func (j *journal) do(actor, turns int64, ops ...plan.Op) bool {
	s := j.state.Clone()
	batch := int64(len(j.entries) + 1)
	entries, inverse := j.entries, j.inverse
	for _, op := range ops {
		back := s.Inverse(op)
		if s.Apply(op) != nil {
			return false
		}
		entries = append(entries, plan.Entry{Seq: int64(len(entries) + 1), Actor: actor, Batch: batch, Turns: turns, Op: op})
		inverse = append(inverse, back)
	}
	j.state, j.entries, j.inverse = s, entries, inverse
	return true
}

// turn takes a batch back, or does it again.
func (j *journal) turn(t *testing.T, actor int64, redo bool) *plan.CannotUndo {
	undone, again := plan.Stands(j.entries, actor)
	if redo {
		undone = again
	}
	if undone.Of == 0 {
		return &plan.CannotUndo{Reason: "nothing"}
	}
	var ops, batch []plan.Op
	end := 0
	for i, e := range j.entries {
		if e.Batch == undone.Last {
			ops, batch, end = append([]plan.Op{j.inverse[i]}, ops...), append(batch, e.Op), i+1
		}
	}
	if cannot := plan.Disturbed(batch, j.entries[end:], actor); cannot != nil {
		return cannot
	}
	require.True(t, j.do(actor, undone.Of, ops...), "%+v", ops)
	return nil
}

// TestEverythingIsTakenBackAndDoneAgain plays random batches of one person,
// takes all of them back, and does all of them again.
func TestEverythingIsTakenBackAndDoneAgain(t *testing.T) {
	for seed := range int64(40) {
		r := rand.New(rand.NewSource(seed))
		j := &journal{state: plan.New()}
		states := []*plan.State{j.state}
		some := func(i int) plan.Op {
			id := string(rune('a'+r.Intn(6))) + "-thing"
			in := string(rune('a'+r.Intn(3))) + "-chapter"
			idea := string(rune('a'+r.Intn(3))) + "--idea"
			key := string(rune('1' + r.Intn(9)))
			return []plan.Op{chapter(in, key), passage(id, in, key), passage(id, in, key), {Kind: plan.MovePassage, ID: id, Chapter: in, Order: key}, {Kind: plan.RemovePassage, ID: id}, {Kind: plan.RestorePassage, ID: id},
				{Kind: plan.RemoveChapter, ID: in}, {Kind: plan.RestoreChapter, ID: in}, {Kind: plan.MoveChapter, ID: in, Order: key},
				{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: idea, Name: idea}}, {Kind: plan.AddNeed, ID: id, To: idea}, {Kind: plan.DropNeed, ID: id, To: idea}, {Kind: plan.RemoveIdea, ID: idea},
				{Kind: plan.SetPassage, ID: id, Field: "questions", From: "null", To: `[{"ask":"why?"}]`},
				{Kind: plan.SetPlan, Field: "purpose", From: j.state.Purpose, To: strings.Repeat("x", i)}}[r.Intn(15)]
		}
		for i := range 150 {
			batch := []plan.Op{some(i)}
			if r.Intn(3) == 0 {
				batch = append(batch, some(i))
			}
			if j.do(1, 0, batch...) {
				states = append(states, j.state)
			}
		}
		needs := func(s *plan.State) any { return []any{s.InOrder(), s.IdeasInOrder(), s.Purpose} }
		n := len(states) - 1
		require.Greater(t, n, 10)
		back := r.Intn(n)
		for i := range back {
			require.Nil(t, j.turn(t, 1, false))
			require.Equal(t, needs(states[n-1-i]), needs(j.state), "seed %d", seed)
		}
		for i := range back {
			require.Nil(t, j.turn(t, 1, true))
			require.Equal(t, needs(states[n-back+1+i]), needs(j.state), "seed %d", seed)
		}
		require.NotNil(t, j.turn(t, 1, true), "all is done again")
		for range n {
			require.Nil(t, j.turn(t, 1, false))
		}
		assert.Equal(t, needs(states[0]), needs(j.state))
		require.NotNil(t, j.turn(t, 1, false), "there is nothing left")
		require.Nil(t, j.turn(t, 1, true))
		require.True(t, j.do(1, 0, plan.Op{Kind: plan.SetPlan, Field: "title", To: "new"}))
		require.NotNil(t, j.turn(t, 1, true), "something new ends what could be done again")
	}
}

func TestUndoNeverLosesAnothersWork(t *testing.T) {
	for name, c := range map[string]struct {
		other   plan.Op
		refused bool
	}{
		"another wrote in it":          {plan.Op{Kind: plan.SetPassage, ID: "passage-1", Field: "title", From: "passage-1", To: "x"}, true},
		"another moved it":             {plan.Op{Kind: plan.MovePassage, ID: "passage-1", Chapter: "chapter-a", Order: "Z"}, true},
		"another gave it a need":       {plan.Op{Kind: plan.AddNeed, ID: "passage-1", To: "passage-0"}, true},
		"another added beside it":      {passage("passage-2", "chapter-a", "Z"), false},
		"another changed the plan":     {plan.Op{Kind: plan.SetPlan, Field: "title", To: "x"}, false},
		"another's chapter is its own": {chapter("chapter-b", "Z"), false},
	} {
		j := &journal{state: plan.New()}
		require.True(t, j.do(1, 0, chapter("chapter-a", "V"), passage("passage-0", "chapter-a", "B")))
		require.True(t, j.do(1, 0, passage("passage-1", "chapter-a", "V")))
		require.True(t, j.do(2, 0, c.other), name)
		cannot := j.turn(t, 1, false)
		if c.refused {
			require.NotNil(t, cannot, name)
			assert.Equal(t, int64(2), cannot.By, name)
			continue
		}
		require.Nil(t, cannot, name)
		assert.Nil(t, j.state.Passage("passage-1"), name)
	}
	// a chapter that somebody has put a passage into stays
	j := &journal{state: plan.New()}
	require.True(t, j.do(1, 0, chapter("chapter-a", "V")))
	require.True(t, j.do(2, 0, passage("passage-1", "chapter-a", "V")))
	assert.NotNil(t, j.turn(t, 1, false))
}

// TestStatesShareNothingThatChanges: a state that was cloned stays as it was.
func TestStatesShareNothingThatChanges(t *testing.T) {
	s := plan.New()
	apply(t, s, chapter("chapter-a", "V"), passage("passage-1", "chapter-a", "V"), passage("passage-2", "chapter-a", "Z"), plan.Op{Kind: plan.AddNeed, ID: "passage-2", To: "passage-1"})
	kept := s.Clone()
	before := fmt.Sprintf("%+v %+v", kept.InOrder(), kept.Title)
	apply(t, s, plan.Op{Kind: plan.SetPlan, Field: "title", To: "x"}, plan.Op{Kind: plan.SetPassage, ID: "passage-2", Field: "text", To: "y"}, plan.Op{Kind: plan.SetChapter, ID: "chapter-a", Field: "intent", To: "z"},
		plan.Op{Kind: plan.DropNeed, ID: "passage-2", To: "passage-1"}, plan.Op{Kind: plan.MovePassage, ID: "passage-1", Chapter: "chapter-a", Order: "ZZ"})
	assert.Equal(t, before, fmt.Sprintf("%+v %+v", kept.InOrder(), kept.Title))
}

func TestFieldsAreSet(t *testing.T) {
	s := plan.New()
	apply(t, s, chapter("chapter-a", "V"), passage("passage-1", "chapter-a", "V"), plan.Op{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: "idea-1", Name: "frame"}})
	set := func(kind, id, field, from, to string) plan.Op {
		return plan.Op{Kind: kind, ID: id, Field: field, From: from, To: to}
	}
	target := fmt.Sprintf(`{"commit":%q, "kind":"file","path":"<b>.go"}`, commit)
	for _, op := range []plan.Op{
		set(plan.SetPlan, "", "budget", "0", "90"), set(plan.SetChapter, "chapter-a", "intent", "", "why"), set(plan.SetPassage, "passage-1", "caution", "", "stop here"),
		set(plan.SetPassage, "passage-1", "optional", "false", "true"), set(plan.SetPassage, "passage-1", "questions", "null", `[{"ask":"a"}]`), set(plan.SetPassage, "passage-1", "questions", ` [ {"ask" : "a"} ]`, `[]`),
		set(plan.SetPassage, "passage-1", "target", fmt.Sprintf(`{"end":9,"start":1,"kind":"lines","path":"a.go","commit":%q}`, commit), target), set(plan.SetPassage, "passage-1", "target", target, target),
		set(plan.SetIdea, "idea-1", "by", "", "passage-1"), set(plan.SetIdea, "idea-1", "text", "", "twelve bytes"),
	} {
		require.NoError(t, s.Apply(op), "%+v", op)
	}
	assert.Equal(t, 90, s.Budget)
	p := s.Passage("passage-1")
	assert.Equal(t, []any{"stop here", true, "<b>.go", plan.File, 0}, []any{p.Caution, p.Optional, p.Target.Path, p.Target.Kind, p.Target.Start})
	for name, op := range map[string]plan.Op{
		"a target that is none":  set(plan.SetPassage, "passage-1", "target", target, `{"kind":"galaxy"}`),
		"no JSON":                set(plan.SetPassage, "passage-1", "questions", "[]", "why?"),
		"a budget below nothing": set(plan.SetPlan, "", "budget", "90", "-1"),
		"an idea without a name": set(plan.SetIdea, "idea-1", "name", "frame", " "),
		"a title of a book":      set(plan.SetPassage, "passage-1", "title", "passage-1", strings.Repeat("x", 5000)),
		"a need of itself":       {Kind: plan.AddNeed, ID: "passage-1", To: "passage-1"},
		"a need of nothing":      {Kind: plan.AddNeed, ID: "passage-1", To: "passage-9"},
		"a need that is none":    {Kind: plan.DropNeed, ID: "passage-1", To: "idea-1"},
	} {
		var no *plan.Invalid
		assert.ErrorAs(t, s.Apply(op), &no, name)
	}
	var conflict *plan.Conflict
	assert.ErrorAs(t, s.Apply(set(plan.SetPassage, "passage-1", "questions", `[{"ask":"other"}]`, `[]`)), &conflict)
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

func TestAPlanHasAnEnd(t *testing.T) {
	s := plan.New()
	apply(t, s, chapter("chapter-a", "V"))
	for i := range plan.MaxPassages {
		require.NoError(t, s.Apply(passage(fmt.Sprintf("passage-%d", i), "chapter-a", "V")))
	}
	err := s.Apply(passage("one-more", "chapter-a", "V"))
	assert.ErrorContains(t, err, "5000 passages at most")
	assert.Len(t, s.InOrder()[0].Passages, plan.MaxPassages)
}
