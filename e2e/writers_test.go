package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand"
	"os"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/store"
)

// edits is how many are made: EDITS=10000 for the figure.
func edits() int {
	if n, err := strconv.Atoi(os.Getenv("EDITS")); err == nil {
		return n
	}
	return 1200
}

const writers = 8

// TestNothingAcknowledgedIsLost has eight writers edit one plan at random over
// HTTP, and kills the server midway: all end with the same plan, everything that
// was acknowledged is in it once, and the plan is the fold of its operations.
func TestNothingAcknowledgedIsLost(t *testing.T) {
	database, data := copied(t)
	s := serve(t, database, data, "127.0.0.1:0", "--roots", begun.roots)
	base := s.base
	first := signedIn(t, base)
	var repository struct{ Pin string }
	first.must(t, "GET", "/api/repositories/1", nil, &repository)
	first.must(t, "POST", "/api/repositories/1/plans", map[string]string{"title": "Busy"}, nil)

	beginning := []any{}
	with := func(op plan.Op) {
		beginning = append(beginning, map[string]any{"client_id": fmt.Sprintf("beginning-%d", len(beginning)), "op": op})
	}
	for i := range 12 {
		with(plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: fmt.Sprintf("chapter-%d", i), Order: fmt.Sprintf("%dV", i+1), Title: "x"}})
	}
	for i := range 60 {
		with(plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: fmt.Sprintf("passage-%d", i), Chapter: fmt.Sprintf("chapter-%d", i%12), Order: "V", Target: plan.Target{Kind: plan.Commit, Commit: repository.Pin}}})
	}
	first.must(t, "POST", "/api/repositories/1/plans/1/ops", map[string]any{"ops": beginning}, nil)

	total := int64(edits())
	var made, acknowledged, refused atomic.Int64
	var known sync.Map // client ids that were acknowledged
	var restart sync.Once
	killed := make(chan struct{})
	var wait sync.WaitGroup
	for w := range writers {
		c := signedIn(t, base)
		wait.Go(func() {
			r := rand.New(rand.NewSource(int64(w)))
			texts := map[string]string{}
			for made.Add(1) <= total {
				if made.Load() > total/2 {
					restart.Do(func() { close(killed) })
				}
				op := randomOp(r, repository.Pin, texts)
				id := fmt.Sprintf("w%d-%d-%d", w, made.Load(), r.Int63())
				for {
					status, text := c.ask("POST", "/api/repositories/1/plans/1/ops", map[string]any{"ops": []any{map[string]any{"client_id": id, "op": op}}}, nil)
					if status == 0 || status >= 500 { // the server is away: the same again
						time.Sleep(20 * time.Millisecond)
						continue
					}
					switch {
					case status < 300:
						acknowledged.Add(1)
						known.Store(id, true)
						if op.Field != "" {
							texts[op.ID+op.Field] = op.To
						}
					case status == 409:
						var p struct{ Current *string }
						if json.Unmarshal([]byte(text), &p) == nil && p.Current != nil {
							texts[op.ID+op.Field] = *p.Current
						}
						refused.Add(1)
					default:
						refused.Add(1)
					}
					break
				}
			}
		})
	}
	<-killed
	s.stop(syscall.SIGKILL)
	serve(t, database, data, strings.TrimPrefix(base, "http://"), "--roots", begun.roots)
	wait.Wait()
	t.Logf("%d edits by %d writers: %d acknowledged, %d refused with the reason", total, writers, acknowledged.Load(), refused.Load())
	assert.Greater(t, acknowledged.Load(), total/4)

	plans := map[string]bool{}
	for range writers {
		plans[signedIn(t, base).must(t, "GET", "/api/repositories/1/plans/1?edition=draft", nil, nil)] = true
	}
	assert.Len(t, plans, 1, "all end with the same plan")
	db, err := store.Open(context.Background(), database)
	require.NoError(t, err)
	defer db.Close()
	rows, err := db.Pool().Query(context.Background(), "SELECT client_id FROM plan_op WHERE plan_id = 1")
	require.NoError(t, err)
	kept := map[string]int{}
	for rows.Next() {
		var id string
		require.NoError(t, rows.Scan(&id))
		kept[id]++
	}
	require.NoError(t, rows.Err())
	known.Range(func(id, _ any) bool {
		assert.Equal(t, 1, kept[id.(string)], "acknowledged, and there once")
		return true
	})
	ops, err := db.OpsSince(context.Background(), 1, 0)
	require.NoError(t, err)
	folded := plan.New()
	require.NoError(t, folded.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", To: "Busy"}))
	for _, op := range ops {
		require.NoError(t, folded.Apply(op.Op))
	}
	now, err := db.Plan(context.Background(), 1)
	require.NoError(t, err)
	assert.Equal(t, folded.InOrder(), now.State.InOrder())
	assert.Equal(t, folded.IdeasInOrder(), now.State.IdeasInOrder())
	assert.Equal(t, folded.Title, now.State.Title)
}

// randomOp is something that somebody may do to a plan of a few chapters; texts
// are what its writer takes texts to be.
func randomOp(r *rand.Rand, pin string, texts map[string]string) plan.Op {
	chapter, passage, idea := fmt.Sprintf("chapter-%d", r.Intn(12)), fmt.Sprintf("passage-%d", r.Intn(60)), fmt.Sprintf("idea-%04d", r.Intn(12))
	key := string(rune('1'+r.Intn(9))) + string(rune('A'+r.Intn(20)))
	set := func(kind, id, field string) plan.Op {
		return plan.Op{Kind: kind, ID: id, Field: field, From: texts[id+field], To: fmt.Sprintf("%s %d", field, r.Intn(1_000_000))}
	}
	switch r.Intn(14) {
	case 0:
		return plan.Op{Kind: plan.SetPlan, Field: "purpose", From: texts["purpose"], To: fmt.Sprintf("purpose %d", r.Intn(1_000_000))}
	case 1:
		return plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: fmt.Sprintf("further-%d", r.Intn(2000)), Chapter: chapter, Order: key, Minutes: 5, Target: plan.Target{Kind: plan.Commit, Commit: pin}}}
	case 2, 3, 4, 5:
		return plan.Op{Kind: plan.MovePassage, ID: passage, Chapter: chapter, Order: key}
	case 6, 7:
		return set(plan.SetPassage, passage, "text")
	case 8:
		return plan.Op{Kind: plan.AddNeed, ID: passage, To: fmt.Sprintf("passage-%d", r.Intn(60))}
	case 9:
		return plan.Op{Kind: plan.MoveChapter, ID: chapter, Order: key}
	case 10:
		return plan.Op{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: idea, Name: idea}}
	case 11:
		return set(plan.SetIdea, idea, "text")
	case 12:
		return plan.Op{Kind: []string{plan.RemovePassage, plan.RestorePassage}[r.Intn(2)], ID: passage}
	}
	return plan.Op{Kind: []string{plan.RemoveChapter, plan.RestoreChapter, plan.RestoreChapter, plan.RestoreChapter}[r.Intn(4)], ID: fmt.Sprintf("chapter-%d", r.Intn(40))}
}
