package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
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

// published is a plan with a chapter that readers see.
func (h *house) published(writer *client, repository int64, title string) server.PlanInfo {
	plans := fmt.Sprintf("/api/repositories/%d/plans", repository)
	p := get[server.PlanInfo](writer, "POST", plans, map[string]any{"title": title})
	at := fmt.Sprintf("%s/%d", plans, p.ID)
	c := get[server.PlanChange](writer, "POST", at+"/ops", ops(plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-0", Order: "B", Title: "Zero"}}))
	return get[server.PlanInfo](writer, "POST", at+"/editions", map[string]any{"seq": c.Seq, "note": "first"})
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
	after := get[server.PlanChange](tam, "POST", at+"/ops", request)
	assert.Len(t, after.Passages, 2)
	again := get[server.PlanChange](tam, "POST", at+"/ops", request)
	assert.Equal(t, after.Seq, again.Seq, "sent twice, carried out once")
	status, text := kip.do("GET", at, nil)
	assert.Equal(t, 404, status, "a draft that was never published is for those who write it: %s", text)
	get[server.PlanInfo](tam, "POST", at+"/editions", map[string]any{"seq": after.Seq, "note": "first"})

	for name, op := range map[string]plan.Op{
		"no such file":        passage("passage-3", plan.Target{Kind: plan.File, Path: "nowhere.c"}),
		"no such folder":      passage("passage-3", plan.Target{Kind: plan.Folder, Path: "nowhere"}),
		"a file is no folder": passage("passage-3", plan.Target{Kind: plan.Folder, Path: "README.md"}),
		"lines past the end":  passage("passage-3", plan.Target{Kind: plan.Lines, Path: "firmware/sampler.c", Start: 1, End: 9999}),
	} {
		status, text := tam.do("POST", at+"/ops", ops(op))
		assert.Contains(t, []int{404, 422}, status, "%s: %s", name, text)
	}
	status, text = kip.do("POST", at+"/ops", ops(passage("passage-3", lines)))
	assert.Equal(t, 403, status, text)

	// two people write the same text: the second is told, and nothing is lost
	get[server.PlanChange](owner, "POST", at+"/ops", ops(plan.Op{Kind: plan.SetPassage, ID: "passage-1", Field: "title", From: "passage-1", To: "The owner's title"}))
	status, text = tam.do("POST", at+"/ops", ops(plan.Op{Kind: plan.SetPassage, ID: "passage-1", Field: "title", From: "passage-1", To: "Tam's title"}))
	assert.Equal(t, 409, status)
	assert.Contains(t, text, "The owner's title")

	// undo takes back what I did last, all of it, and never another's work
	status, text = tam.do("POST", at+"/undo", map[string]string{"client_id": "undo-0001"})
	assert.Equal(t, 409, status, "passage-1 carries the owner's title")
	assert.Contains(t, text, "owner changed this since")
	get[server.PlanChange](tam, "POST", at+"/ops", ops(plan.Op{Kind: plan.RemovePassage, ID: "passage-2"}, plan.Op{Kind: plan.SetPlan, Field: "purpose", To: "so"}))
	back := get[server.PlanChange](tam, "POST", at+"/undo", map[string]any{"client_id": "undo-0002", "since": after.Seq + 1})
	assert.Equal(t, []any{"", 1, "passage-2", false}, []any{back.Purpose, len(back.Passages), back.Passages[0].ID, back.Passages[0].Removed})
	same := get[server.PlanChange](tam, "POST", at+"/undo", map[string]any{"client_id": "undo-0002", "since": back.Seq})
	assert.Equal(t, back.Seq, same.Seq, "sent twice, taken back once")
	forth := get[server.PlanChange](tam, "POST", at+"/redo", map[string]any{"client_id": "redo-0001"})
	assert.Equal(t, "so", forth.Purpose)
	status, text = tam.do("POST", at+"/redo", map[string]any{"client_id": "redo-0002"})
	assert.Equal(t, 409, status, text)

	// progress is one's own
	get[struct{}](kip, "PUT", at+"/progress", map[string]any{"passage": "passage-1", "done": true})
	get[struct{}](kip, "PUT", at+"/place", map[string]any{"passage": "passage-1"})
	assert.Equal(t, []string{"passage-1"}, get[server.PlanInfo](kip, "GET", at, nil).DoneIDs)
	assert.Empty(t, get[server.PlanInfo](tam, "GET", at, nil).DoneIDs)
	get[struct{}](kip, "PUT", at+"/progress", map[string]any{"passage": "passage-1", "done": false})
	assert.Empty(t, get[server.PlanInfo](kip, "GET", at, nil).DoneIDs)
	get[struct{}](kip, "PUT", at+"/progress", map[string]any{"passage": "passage-2", "done": true}) // it is in the edition still
	status, _ = kip.do("PUT", at+"/progress", map[string]any{"passage": "passage-3", "done": true})
	assert.Equal(t, 404, status, "a passage that is not there cannot be done")

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
	assert.EqualValues(t, 20, got.Seq)
	list, err := h.store.OpsSince(ctx, p.ID, 0)
	require.NoError(t, err)
	folded := plan.New()
	require.NoError(t, folded.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", To: "Busy"}))
	for _, op := range list {
		require.NoError(t, folded.Apply(op.Op))
	}
	kept, err := h.store.Plan(ctx, p.ID)
	require.NoError(t, err)
	assert.Equal(t, folded, kept.State, "the state is the fold of its operations")
}

// TestEditions: readers read what was published, keep their progress across
// editions, and see what changed.
func TestEditions(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	pin := get[server.RepositoryInfo](d.keeper, "GET", d.at, nil).Pin
	file := func(id, path string) plan.Op {
		return plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: id, Chapter: "chapter-0", Order: "V" + id[len(id)-1:], Title: id, Purpose: "so", Minutes: 5, Text: "A **frame**.", Target: plan.Target{Kind: plan.File, Path: path, Commit: pin}}}
	}
	var repository int64
	_, err := fmt.Sscanf(d.at, "/api/repositories/%d", &repository)
	require.NoError(t, err)
	first := d.published(d.writer, repository, "Ours")
	at := fmt.Sprintf("%s/plans/%d", d.at, first.ID)
	status, text := d.writer.do("POST", at+"/editions", map[string]any{"seq": first.Seq, "note": ""})
	assert.Equal(t, 409, status, "there is nothing new: %s", text)
	c := get[server.PlanChange](d.writer, "POST", at+"/ops", ops(file("passage-1", "README.md"), file("passage-2", "Makefile"), plan.Op{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: "idea-1", Name: "frame", By: "passage-1"}}))
	status, text = d.writer.do("POST", at+"/editions", map[string]any{"seq": first.Seq, "note": "blind"})
	assert.Equal(t, 409, status, "one publishes what one has seen: %s", text)

	seen := get[server.PlanInfo](d.reader, "GET", at, nil)
	assert.Equal(t, []int{1, 1, 0}, []int{seen.Edition, seen.Newest, seen.Passages})
	status, _ = d.reader.do("GET", at+"?edition=draft", nil)
	assert.Equal(t, 403, status)
	get[server.PlanInfo](d.writer, "POST", at+"/editions", map[string]any{"seq": c.Seq, "note": "two files"})
	seen = get[server.PlanInfo](d.reader, "GET", at+"?texts=true", nil)
	assert.Equal(t, []int{2, 2}, []int{seen.Edition, seen.Passages}, "nobody has begun: the newest")
	assert.Equal(t, `<p>A <strong><a class="idea" href="#idea-idea-1" rel="nofollow">frame</a></strong>.</p>`, strings.TrimSpace(seen.Texts["passage-1"]))

	get[struct{}](d.reader, "PUT", at+"/place", map[string]any{"passage": "passage-2"})
	get[struct{}](d.reader, "PUT", at+"/progress", map[string]any{"passage": "passage-1", "done": true})
	get[struct{}](d.reader, "PUT", at+"/progress", map[string]any{"passage": "passage-2", "skipped": true, "reason": "I wrote it"})
	c = get[server.PlanChange](d.writer, "POST", at+"/ops", ops(plan.Op{Kind: plan.RemovePassage, ID: "passage-2"}, file("passage-3", "LICENSE"), plan.Op{Kind: plan.SetPassage, ID: "passage-1", Field: "title", From: "passage-1", To: "New"}))
	get[server.PlanInfo](d.writer, "POST", at+"/editions", map[string]any{"seq": c.Seq, "note": "three"})
	seen = get[server.PlanInfo](d.reader, "GET", at, nil)
	assert.Equal(t, []any{2, 3, "passage-2", []server.SkippedInfo{{Passage: "passage-2", Reason: "I wrote it"}}}, []any{seen.Edition, seen.Newest, seen.Place, seen.Skipped}, "one stays with what one began")
	what := []string{}
	for _, x := range get[[]plan.Change](d.reader, "GET", at+"/differences?from=2&to=3", nil) {
		what = append(what, x.What+" "+x.ID)
	}
	assert.Equal(t, []string{"changed passage-1", "new passage-3", "gone passage-2"}, what)
	seen = get[server.PlanInfo](d.reader, "PUT", at+"/reading", map[string]any{"edition": 3, "shown": true})
	assert.Equal(t, []any{3, []string{"passage-1"}, true}, []any{seen.Edition, seen.DoneIDs, seen.Shown}, "progress goes along by identity")
	list := get[[]server.EditionInfo](d.reader, "GET", at+"/editions", nil)
	require.Len(t, list, 3)
	assert.Equal(t, []any{3, "three", "Tam Reddick", pin}, []any{list[0].Number, list[0].Note, list[0].By, list[0].Pin})
	status, _ = d.reader.do("GET", at+"?edition=9", nil)
	assert.Equal(t, 404, status)
	status, _ = d.reader.do("PUT", at+"/reading", map[string]any{"edition": 9, "shown": true})
	assert.Equal(t, 422, status)

	// where others are, and how they get on, as far as they show it
	get[struct{}](d.reader, "PUT", at+"/place", map[string]any{"passage": "passage-3", "last": "passage-1", "seconds": 90})
	places := get[[]server.ReaderPlaceInfo](d.writer, "GET", at+"/places", nil)
	require.Len(t, places, 1)
	assert.Equal(t, []string{"Kip Marrow", "passage-3"}, []string{places[0].Name, places[0].Passage})
	_, err = d.store.Pool().Exec(ctx, "UPDATE reading_place SET at = at - interval '11 minutes'")
	require.NoError(t, err)
	assert.Empty(t, get[[]server.ReaderPlaceInfo](d.writer, "GET", at+"/places", nil), "here is who came within ten minutes")
	how := get[server.ReadersInfo](d.writer, "GET", at+"/readers", nil)
	assert.Equal(t, 1, how.Readers)
	require.NotEmpty(t, how.Passages)
	assert.Equal(t, server.PassageReadingInfo{Passage: "passage-1", Done: 1, Reasons: []string{}, Minutes: 1.5}, how.Passages[0])
	get[server.PlanInfo](d.reader, "PUT", at+"/reading", map[string]any{"edition": 3, "shown": false})
	assert.Empty(t, get[[]server.ReaderPlaceInfo](d.writer, "GET", at+"/places", nil))
	assert.Zero(t, get[server.ReadersInfo](d.writer, "GET", at+"/readers", nil).Readers)

	// a question at a passage goes to those who write
	asked := get[server.WrittenInfo](d.reader, "POST", d.at+"/annotations", any2{"target": any2{"kind": "file", "path": "README.md", "plan": first.ID, "passage": "passage-1"}, "text": "Why?", "kind": "question"})
	there := get[server.OnPath](d.writer, "GET", fmt.Sprintf("%s/annotations?plan=%d&passage=passage-1", d.at, first.ID), nil)
	require.Len(t, there.Threads, 1)
	assert.True(t, there.Threads[0].Mentioned)
	assert.Equal(t, 1, get[server.ReadersInfo](d.writer, "GET", at+"/readers", nil).Passages[0].Questions)
	get[server.ThreadInfo](d.writer, "PUT", fmt.Sprintf("%s/annotations/%d/state", d.at, asked.Thread.ID), any2{"state": "resolved"})
	assert.Empty(t, get[server.ReadersInfo](d.writer, "GET", at+"/readers", nil).Passages)

	// a copy for other readers
	copied := get[server.PlanInfo](d.reader, "POST", at+"/copy", any2{"title": "Mine", "private": true})
	assert.Equal(t, []any{"Mine", true, 2, true}, []any{copied.Title, copied.Private, copied.Passages, copied.MayWrite})
}

// TestWhereSomebodyIsIsNotLost: a page tells its place while its reader begins to
// show it, and whoever asks and listens ends up with what is kept.
func TestWhereSomebodyIsIsNotLost(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	pin := get[server.RepositoryInfo](d.keeper, "GET", d.at, nil).Pin
	var repository int64
	_, err := fmt.Sscanf(d.at, "/api/repositories/%d", &repository)
	require.NoError(t, err)
	lines := d.writer.listen()
	for round := range 12 {
		first := d.published(d.writer, repository, fmt.Sprintf("Plan %d", round))
		at := fmt.Sprintf("%s/plans/%d", d.at, first.ID)
		passage := func(id string) plan.Op {
			return plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: id, Chapter: "chapter-0", Order: "V" + id[len(id)-1:], Title: id, Purpose: "so", Minutes: 5, Target: plan.Target{Kind: plan.File, Path: "README.md", Commit: pin}}}
		}
		c := get[server.PlanChange](d.writer, "POST", at+"/ops", ops(passage("passage-1"), passage("passage-2")))
		get[server.PlanInfo](d.writer, "POST", at+"/editions", any2{"seq": c.Seq, "note": ""})
		var both sync.WaitGroup
		both.Go(func() { get[struct{}](d.reader, "PUT", at+"/place", any2{"passage": "passage-2"}) })
		both.Go(func() { get[server.PlanInfo](d.reader, "PUT", at+"/reading", any2{"edition": 2, "shown": true}) })
		both.Wait()
		places := get[[]server.ReaderPlaceInfo](d.writer, "GET", at+"/places", nil)
		require.Len(t, places, 1)
		assert.Equal(t, "passage-2", places[0].Passage)
		heard := ""
		for heard != "passage-2" && lines.Scan() {
			require.NotEqual(t, "event: alive", lines.Text(), "nothing was told for a while")
			var e store.Event
			if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok && json.Unmarshal([]byte(data), &e) == nil && e.Kind == "place" && e.Plan == first.ID {
				heard = e.Passage
			}
		}
		get[server.PlanInfo](d.reader, "PUT", at+"/reading", any2{"edition": 2, "shown": false})
		for heard != "" && lines.Scan() {
			if strings.Contains(lines.Text(), `"kind":"place"`) {
				heard = ""
				assert.NotContains(t, lines.Text(), "passage-")
			}
		}
	}
}

func TestTargetsAreHeldToWhatIsThere(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	pin := get[server.RepositoryInfo](d.keeper, "GET", d.at, nil).Pin
	p := get[server.PlanInfo](d.writer, "POST", d.at+"/plans", any2{"title": "Ours"})
	at := fmt.Sprintf("%s/plans/%d", d.at, p.ID)
	get[server.PlanChange](d.writer, "POST", at+"/ops", ops(plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-0", Order: "B"}}))
	n := 0
	add := func(x plan.Target) (int, string) {
		n++
		if x.Commit == "" {
			x.Commit = pin
		}
		return d.writer.do("POST", at+"/ops", ops(plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: fmt.Sprintf("passage-%d", n), Chapter: "chapter-0", Order: "V", Target: x}}))
	}
	unix, win := plan.Stretch{Path: "firmware/port/serial_unix.c"}, plan.Stretch{Path: "firmware/port/serial_win.c", Start: 1, End: 9}
	for name, x := range map[string]plan.Target{
		"a pair": {Kind: plan.Pair, Path: unix.Path, Beside: &win}, "a way": {Kind: plan.Way, Hops: []plan.Stretch{unix, win}}, "a planned file": {Kind: plan.Planned, Path: "firmware/port/serial_bare.c", Pattern: unix.Path},
		"the root": {Kind: plan.Folder}, "a trial": {Kind: plan.Try, Try: &plan.Trial{Commands: "make", Pauses: []plan.Stretch{win}}}, "an asset": {Kind: plan.Asset, Path: "docs/curve.svg"}, "a commit": {Kind: plan.Commit},
	} {
		status, text := add(x)
		assert.Equal(t, 200, status, "%s: %s", name, text)
	}
	nowhere := strings.Repeat("0", 39) + "1"
	for name, x := range map[string]plan.Target{
		"a pair with nothing": {Kind: plan.Pair, Path: unix.Path, Beside: &plan.Stretch{Path: "nowhere.c"}}, "a hop past the end": {Kind: plan.Way, Hops: []plan.Stretch{{Path: win.Path, Start: 1, End: 9999}}},
		"planned and there": {Kind: plan.Planned, Path: unix.Path}, "planned after nothing": {Kind: plan.Planned, Path: "x.c", Pattern: "nowhere.c"}, "a commit of elsewhere": {Kind: plan.Commit, Commit: nowhere},
		"compared with nothing": {Kind: plan.Comparison, Base: nowhere}, "a file of nowhere": {Kind: plan.File, Path: "nowhere.c"},
	} {
		status, text := add(x)
		assert.Equal(t, 422, status, "%s: %s", name, text)
	}
	kinds := map[string]bool{}
	for _, x := range get[[]plan.Fault](d.writer, "GET", at+"/problems", nil) {
		kinds[x.Kind] = true
	}
	assert.Equal(t, map[string]bool{plan.NoPurpose: true, plan.SameLines: false, plan.NoTitle: true}, map[string]bool{plan.NoPurpose: kinds[plan.NoPurpose], plan.SameLines: kinds[plan.SameLines], plan.NoTitle: kinds[plan.NoTitle]})
}

// TestWhatGoesOnBetweenTwo: a chapter is taken away while another moves it, texts
// with HTML in them, and a part that is taken away meanwhile.
func TestWhatGoesOnBetweenTwo(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	pin := get[server.RepositoryInfo](d.keeper, "GET", d.at, nil).Pin
	p := get[server.PlanInfo](d.writer, "POST", d.at+"/plans", any2{"title": "Ours"})
	at := fmt.Sprintf("%s/plans/%d", d.at, p.ID)
	hostile := "<script>alert(1)</script> <img src=x onerror=alert(1)> and a frame"
	get[server.PlanChange](d.writer, "POST", at+"/ops", ops(plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-0", Order: "B"}}, plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-1", Order: "D"}},
		plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-1", Chapter: "chapter-1", Order: "V", Text: hostile, Target: plan.Target{Kind: plan.Commit, Commit: pin}}}))
	shown := get[server.PlanInfo](d.writer, "GET", at+"?edition=draft&texts=true", nil).Texts["passage-1"]
	assert.Contains(t, shown, "&lt;script&gt;")
	assert.NotContains(t, shown, "<script")
	assert.NotContains(t, shown, "<img")

	get[server.PlanChange](d.keeper, "POST", at+"/ops", ops(plan.Op{Kind: plan.RemoveChapter, ID: "chapter-1"}))
	for name, op := range map[string]plan.Op{
		"moved":                {Kind: plan.MoveChapter, ID: "chapter-1", Order: "A"},
		"taken away again":     {Kind: plan.RemoveChapter, ID: "chapter-1"},
		"its passage written":  {Kind: plan.SetPassage, ID: "passage-1", Field: "title", To: "x"},
		"a passage put in it":  {Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-2", Chapter: "chapter-1", Order: "V", Target: plan.Target{Kind: plan.Commit, Commit: pin}}},
		"a title of a chapter": {Kind: plan.SetChapter, ID: "chapter-0", Field: "title", To: strings.Repeat("x", 5000)},
	} {
		status, text := d.writer.do("POST", at+"/ops", ops(op))
		assert.Equal(t, 422, status, "%s: %s", name, text)
	}
	back := get[server.PlanChange](d.keeper, "POST", at+"/undo", any2{"client_id": "undo-0001"})
	require.Len(t, back.Chapters, 1)
	assert.False(t, back.Chapters[0].Removed)

	var repository int64
	_, err := fmt.Sscanf(d.at, "/api/repositories/%d", &repository)
	require.NoError(t, err)
	require.NoError(t, d.store.SetRole(ctx, repository, d.writer.person.ID, store.Reader))
	status, text := d.writer.do("POST", at+"/ops", ops(plan.Op{Kind: plan.MoveChapter, ID: "chapter-1", Order: "A"}))
	assert.Equal(t, 404, status, "a reader does not find a draft that was never published: %s", text)
	get[server.PlanInfo](d.keeper, "POST", at+"/editions", any2{"seq": back.Seq, "note": ""})
	status, text = d.writer.do("POST", at+"/ops", ops(plan.Op{Kind: plan.MoveChapter, ID: "chapter-1", Order: "A"}))
	assert.Equal(t, 403, status, text)
}
