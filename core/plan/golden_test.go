package plan_test

import (
	"encoding/json"
	"flag"
	"math/rand"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
)

var update = flag.Bool("update", false, "write the golden files anew")

// vector is a list of operations and what they make: the web application folds
// the same ones, and must come to the same.
type vector struct {
	Ops     []plan.Op             `json:"ops"`
	Title   string                `json:"title"`
	Purpose string                `json:"purpose"`
	Budget  int                   `json:"budget"`
	Goal    *plan.Goal            `json:"goal"`
	Aside   map[string]string     `json:"aside"`
	InOrder []plan.ChapterInOrder `json:"in_order"`
	Ideas   []plan.Idea           `json:"ideas"`
}

func TestFoldedVectors(t *testing.T) {
	const file = "testdata/folded.json"
	var list []vector
	for seed := range int64(12) {
		r := rand.New(rand.NewSource(seed))
		s := plan.New()
		var v vector
		for range 90 {
			if op := someOp(r, s); s.Clone().Apply(op) == nil {
				require.NoError(t, s.Apply(op))
				v.Ops = append(v.Ops, op)
			}
		}
		v.Title, v.Purpose, v.Budget, v.Goal, v.Aside, v.InOrder, v.Ideas = s.Title, s.Purpose, s.Budget, s.Goal, s.Aside, s.InOrder(), s.IdeasInOrder()
		list = append(list, v)
	}
	got, err := json.MarshalIndent(list, "", " ")
	require.NoError(t, err)
	got = append(got, '\n')
	if *update {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(file, got, 0o644))
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(want), string(got), "go test ./core/plan -update writes them anew")
}

// someOp is some operation of any kind on a small plan.
func someOp(r *rand.Rand, s *plan.State) plan.Op {
	id, other := string(rune('a'+r.Intn(6)))+"-thing", string(rune('a'+r.Intn(6)))+"-thing"
	in, idea, key := string(rune('a'+r.Intn(3)))+"-chapter", string(rune('a'+r.Intn(3)))+"--idea", string(rune('1'+r.Intn(9)))
	p := s.Passages[id]
	if p == nil {
		p = &plan.Passage{}
	}
	minutes, err := json.Marshal(p.Minutes)
	if err != nil {
		panic(err) // a number
	}
	return []plan.Op{
		chapter(in, key), passage(id, in, key), passage(id, in, key), passage(id, in, key), {Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: idea, Name: idea}},
		{Kind: plan.MovePassage, ID: id, Chapter: in, Order: key}, {Kind: plan.MoveChapter, ID: in, Order: key}, {Kind: plan.RemovePassage, ID: id}, {Kind: plan.RestorePassage, ID: id},
		{Kind: plan.RemoveChapter, ID: in}, {Kind: plan.RestoreChapter, ID: in}, {Kind: plan.RemoveIdea, ID: idea}, {Kind: plan.RestoreIdea, ID: idea},
		{Kind: plan.AddNeed, ID: id, To: other}, {Kind: plan.AddNeed, ID: id, To: idea}, {Kind: plan.DropNeed, ID: id, To: idea},
		{Kind: plan.SetPassage, ID: id, Field: "minutes", From: string(minutes), To: key}, {Kind: plan.SetPassage, ID: id, Field: "text", From: p.Text, To: "text " + key},
		{Kind: plan.SetPassage, ID: id, Field: "questions", From: "null", To: `[{"ask":"why?","answer":"so"}]`}, {Kind: plan.SetPassage, ID: id, Field: "optional", From: "false", To: "true"},
		{Kind: plan.SetPlan, Field: "title", From: s.Title, To: "title " + key}, {Kind: plan.SetPlan, Field: "budget", From: "0", To: "60"}, {Kind: plan.SetIdea, ID: idea, Field: "by", To: id},
		{Kind: plan.SetPlan, Field: "goal", From: "null", To: `{"kind":"whole","direction":"outside-in"}`}, {Kind: plan.SetPassage, ID: id, Field: "drafted", From: p.Drafted, To: key},
		{Kind: plan.SetAside, ID: "lead-" + key, From: s.Aside["lead-"+key], To: "because " + key}, {Kind: plan.SetAside, ID: "lead-" + key, From: s.Aside["lead-"+key]},
	}[r.Intn(27)]
}
