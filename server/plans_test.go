package server_test

import (
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/server"
	"juxtagram/store"
)

func ops(list ...plan.Op) map[string]any {
	var out []server.ClientOp
	for i, op := range list {
		out = append(out, server.ClientOp{ClientID: fmt.Sprintf("client-%d-%p", i, &list[0]), Op: op})
	}
	return map[string]any{"ops": out}
}

func TestPlansOfSeveralPeople(t *testing.T) {
	h := open(t)
	owner, tam, kip := h.person("owner", true), h.person("tam", false), h.person("kip", false)
	id := h.surveyed(owner)
	require.NoError(t, h.store.SetRole(ctx, id, tam.person.ID, store.Writer))
	require.NoError(t, h.store.SetRole(ctx, id, kip.person.ID, store.Reader))
	pin := get[server.RepositoryInfo](owner, "GET", fmt.Sprintf("/api/repositories/%d", id), nil).Pin
	plans := fmt.Sprintf("/api/repositories/%d/plans", id)
	p := get[server.PlanInfo](tam, "POST", plans, map[string]any{"title": "Ours"})
	at := fmt.Sprintf("%s/%d", plans, p.ID)
	passage := func(id string, target plan.Target) plan.Op {
		target.Commit = pin
		return plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: id, Chapter: "chapter-1", Order: "V", Title: id, Minutes: 3, Target: target}}
	}
	lines := plan.Target{Kind: plan.Lines, Path: "firmware/sampler.c", Start: 10, End: 20}
	request := ops(plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-1", Order: "V", Title: "One"}}, passage("passage-1", lines), passage("passage-2", plan.Target{Kind: plan.Folder, Path: "collector/ingest"}))
	after := get[server.PlanInfo](tam, "POST", at+"/ops", request)
	assert.Equal(t, 2, after.Passages)
	again := get[server.PlanInfo](tam, "POST", at+"/ops", request)
	assert.Equal(t, after.Seq, again.Seq, "sent twice, carried out once")

	for name, op := range map[string]plan.Op{
		"no such file":        passage("passage-3", plan.Target{Kind: plan.File, Path: "nowhere.c"}),
		"no such folder":      passage("passage-3", plan.Target{Kind: plan.Folder, Path: "nowhere"}),
		"a file is no folder": passage("passage-3", plan.Target{Kind: plan.Folder, Path: "README.md"}),
		"lines past the end":  passage("passage-3", plan.Target{Kind: plan.Lines, Path: "firmware/sampler.c", Start: 1, End: 9999}),
	} {
		status, text := tam.do("POST", at+"/ops", ops(op))
		assert.Contains(t, []int{404, 422}, status, "%s: %s", name, text)
	}
	status, text := kip.do("POST", at+"/ops", ops(passage("passage-3", lines)))
	assert.Equal(t, 403, status, text)

	// two people write the same text: the second is told, and nothing is lost
	get[server.PlanInfo](owner, "POST", at+"/ops", ops(plan.Op{Kind: plan.SetPassage, ID: "passage-1", Field: "title", From: "passage-1", To: "The owner's title"}))
	status, text = tam.do("POST", at+"/ops", ops(plan.Op{Kind: plan.SetPassage, ID: "passage-1", Field: "title", From: "passage-1", To: "Tam's title"}))
	assert.Equal(t, 409, status)
	assert.Contains(t, text, "The owner's title")

	// undo takes back my last operation, and never another's work
	status, text = tam.do("POST", at+"/undo", map[string]string{"client_id": "undo-0001"})
	require.Equal(t, 200, status, text) // passage-2 goes
	status, text = tam.do("POST", at+"/undo", map[string]string{"client_id": "undo-0002"})
	assert.Equal(t, 409, status, "passage-1 carries the owner's title")
	assert.Contains(t, text, "owner changed this since")

	// progress is one's own
	get[struct{}](kip, "PUT", at+"/progress", map[string]any{"passage": "passage-1", "done": true})
	get[struct{}](kip, "PUT", at+"/place", map[string]any{"passage": "passage-1"})
	assert.Equal(t, []string{"passage-1"}, get[server.PlanInfo](kip, "GET", at, nil).DoneIDs)
	assert.Empty(t, get[server.PlanInfo](tam, "GET", at, nil).DoneIDs)
	get[struct{}](kip, "PUT", at+"/progress", map[string]any{"passage": "passage-1", "done": false})
	assert.Empty(t, get[server.PlanInfo](kip, "GET", at, nil).DoneIDs)
	status, _ = kip.do("PUT", at+"/progress", map[string]any{"passage": "passage-2", "done": true})
	assert.Equal(t, 404, status, "a removed passage cannot be done")

	// private plans are their maker's alone, of the owner too
	status, _ = kip.do("POST", plans, map[string]any{"title": "Shared?"})
	assert.Equal(t, 403, status)
	private := get[server.PlanInfo](kip, "POST", plans, map[string]any{"title": "Mine", "private": true})
	status, _ = owner.do("GET", fmt.Sprintf("%s/%d", plans, private.ID), nil)
	assert.Equal(t, 404, status)
	assert.Len(t, get[[]server.PlanSummary](owner, "GET", plans, nil), 1)
	assert.Len(t, get[[]server.PlanSummary](kip, "GET", plans, nil), 2)
	get[struct{}](kip, "DELETE", fmt.Sprintf("%s/%d", plans, private.ID), nil)
	status, _ = kip.do("DELETE", at, nil)
	assert.Equal(t, 403, status)
}

func TestPlansOfAnotherRepositoryAreNotThere(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	first, second := h.surveyed(owner), h.surveyed(owner)
	p := get[server.PlanInfo](owner, "POST", fmt.Sprintf("/api/repositories/%d/plans", first), map[string]any{"title": "One"})
	status, _ := owner.do("GET", fmt.Sprintf("/api/repositories/%d/plans/%d", second, p.ID), nil)
	assert.Equal(t, 404, status)
}

func TestManyWritersAtOnce(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	id := h.surveyed(owner)
	p := get[server.PlanInfo](owner, "POST", fmt.Sprintf("/api/repositories/%d/plans", id), map[string]any{"title": "Busy"})
	at := fmt.Sprintf("/api/repositories/%d/plans/%d", id, p.ID)
	var wait sync.WaitGroup
	for i := range 20 {
		wait.Go(func() {
			op := plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: fmt.Sprintf("chapter-%d", i), Order: "V", Title: "x"}}
			status, text := owner.do("POST", at+"/ops", map[string]any{"ops": []server.ClientOp{{ClientID: fmt.Sprintf("writer-%04d", i), Op: op}}})
			assert.Equal(t, 200, status, text)
		})
	}
	wait.Wait()
	got := get[server.PlanInfo](owner, "GET", at, nil)
	assert.Equal(t, 20, got.Chapters)
	assert.EqualValues(t, 21, got.Seq)
	entries, err := h.store.PlanEntries(ctx, p.ID)
	require.NoError(t, err)
	folded := plan.New()
	for _, e := range entries {
		require.NoError(t, folded.Apply(e.Op))
	}
	kept, err := h.store.Plan(ctx, p.ID)
	require.NoError(t, err)
	assert.Equal(t, folded, kept.State, "the state is the fold of its operations")
}
