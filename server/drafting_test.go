package server_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"net/url"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/core/plan/draft"
	"juxtagram/core/plan/health"
	"juxtagram/core/repo/repotest"
	"juxtagram/server"
	"juxtagram/store"
)

func TestDraftsAreProposedAndNothingIsKept(t *testing.T) {
	h := open(t)
	owner, kip := h.person("owner", true), h.person("kip", false)
	id := h.surveyed(owner)
	require.NoError(t, h.store.SetRole(ctx, id, kip.person.ID, store.Reader))
	at := fmt.Sprintf("/api/repositories/%d", id)
	for _, query := range []string{"minutes=60", "goal=folder&path=collector/ingest&minutes=30&order=inside-out", "goal=question&words=damaged frame", "goal=since&since=v1.3.0&minutes=45"} {
		p := get[draft.Proposal](kip, "GET", at+"/draft?"+strings.ReplaceAll(query, " ", "%20"), nil)
		assert.NotEmpty(t, p.Chapters, query)
		assert.LessOrEqual(t, p.Minutes, p.Budget, query)
		s := plan.New()
		for _, c := range p.Chapters {
			require.NoError(t, s.Apply(plan.Op{Kind: plan.AddChapter, NewCh: &c.Chapter}))
			for _, x := range c.Passages {
				require.NoError(t, s.Apply(plan.Op{Kind: plan.AddPassage, NewPs: &x.Passage}), "a plan takes it: %s", x.Title)
			}
		}
	}
	assert.Empty(t, get[[]server.PlanSummary](owner, "GET", at+"/plans", nil), "nothing is kept")
	for query, want := range map[string]int{
		"goal=folder&path=nowhere": 422, "goal=folder&path=../../etc": 422, "goal=symbol&path=collector/main.go&line=1&name=Nobody": 422, "goal=question&words=x": 422,
		"goal=question&words=" + url.QueryEscape("zyxwv utsrq"): 422, "goal=since": 422, "goal=since&since=nothing": 404, "goal=fame": 422, "minutes=4": 422, "minutes=2401": 422, "plan=999": 404,
	} {
		status, text := owner.do("GET", at+"/draft?"+query, nil)
		assert.Equal(t, want, status, "%s: %s", query, text)
	}
	shared := h.published(owner, id, "Ours")
	status, _ := kip.do("GET", fmt.Sprintf("%s/draft?plan=%d", at, shared.ID), nil)
	assert.Equal(t, 403, status, "who may not write a plan does not draft for it")
}

func TestCoverageTellsWhatIsDecided(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	id := h.surveyed(owner)
	at := fmt.Sprintf("/api/repositories/%d", id)
	pin := get[server.RepositoryInfo](owner, "GET", at, nil).Pin
	p := h.published(owner, id, "Ours")
	mine := fmt.Sprintf("%s/plans/%d", at, p.ID)
	kinds := func() map[string]server.CoverageKind {
		out := map[string]server.CoverageKind{}
		for _, k := range get[server.CoverageInfo](owner, "GET", mine+"/coverage?edition=draft", nil).Kinds {
			assert.Equal(t, k.Total, k.Here+k.Elsewhere+k.Aside+k.Open, k.Kind)
			out[k.Kind] = k
		}
		return out
	}
	before := kinds()
	for _, kind := range []string{"entry-point", "hotspot", "hub", "tagged-comment", plan.FolderKind} {
		assert.Positive(t, before[kind].Open, kind)
		assert.Zero(t, before[kind].Share, kind)
	}
	hottest := before["hotspot"].Rows[0]
	lead := before["tagged-comment"].Rows[0]
	get[struct{}](owner, "PUT", at+"/leads/marks", map[string]any{"leads": []string{lead.Key}, "state": "aside", "reason": "known"})
	get[server.PlanChange](owner, "POST", mine+"/ops", ops(
		plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-1", Chapter: "chapter-0", Order: "V", Title: "x", Target: plan.Target{Kind: plan.File, Path: hottest.Path, Commit: pin}}},
		plan.Op{Kind: plan.SetAside, ID: "folder:" + before[plan.FolderKind].Rows[0].Path, To: "copied"}))
	other := h.published(owner, id, "Another")
	get[server.PlanChange](owner, "POST", fmt.Sprintf("%s/plans/%d/ops", at, other.ID), ops(
		plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-1", Chapter: "chapter-0", Order: "V", Title: "x", Target: plan.Target{Kind: plan.File, Path: before["hub"].Rows[1].Path, Commit: pin}}}))
	after := kinds()
	// file by file it comes to the same
	by := get[server.CoveredPaths](owner, "GET", mine+"/covered?edition=draft", nil)
	sums := map[string]int{}
	for i, path := range by.Paths {
		sums["here"] += int(by.Here[i])
		sums["elsewhere"] += int(by.Elsewhere[i])
		sums["aside"] += int(by.Aside[i])
		sums["open"] += int(by.Open[i])
		if path == hottest.Path {
			assert.Positive(t, by.Here[i])
			assert.Zero(t, by.Open[i], "all of the file is read")
		}
	}
	want := map[string]int{}
	for _, k := range after {
		want["here"] += k.Here
		want["elsewhere"] += k.Elsewhere
		want["aside"] += k.Aside
		want["open"] += k.Open
	}
	assert.Equal(t, want, sums)
	assert.Equal(t, 1, after["hotspot"].Here)
	assert.Positive(t, after["hotspot"].Share)
	assert.Equal(t, 1, after["tagged-comment"].Aside, "set aside for all plans")
	assert.Equal(t, 1, after[plan.FolderKind].Aside, "set aside for this plan")
	assert.Equal(t, 1, after["hub"].Elsewhere)
}

func TestAPlanIsBroughtToTheNewPinAndBack(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	id := h.surveyed(owner)
	at := fmt.Sprintf("/api/repositories/%d", id)
	p := h.published(owner, id, "Ours")
	mine := fmt.Sprintf("%s/plans/%d", at, p.ID)
	commit := func(name string) string {
		return get[server.CompareInfo](owner, "GET", at+"/compare?from="+name+"&to="+name, nil).From.ID
	}
	old, older, pin := commit("v1.3.0"), commit("v1.1.0"), commit("v1.4.0")
	add := func(id, order string, target plan.Target) plan.Op {
		return plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: id, Chapter: "chapter-0", Order: order, Title: id, Target: target}}
	}
	get[server.PlanChange](owner, "POST", mine+"/ops", ops(
		add("renamed", "1", plan.Target{Kind: plan.File, Path: "docs/frame.md", Commit: old}),
		add("lines-in", "2", plan.Target{Kind: plan.Lines, Path: "collector/ingest/link.go", Start: 1, End: 3, Commit: old}),
		add("whole-file", "3", plan.Target{Kind: plan.File, Path: "collector/ingest/link.go", Commit: old}),
		add("gone-file", "4", plan.Target{Kind: plan.Lines, Path: "predict/moving_average.py", Start: 1, End: 4, Commit: older}),
		add("commit", "5", plan.Target{Kind: plan.Commit, Commit: older}),
		add("folder", "6", plan.Target{Kind: plan.Folder, Path: "collector", Commit: old}),
		add("at-the-pin", "7", plan.Target{Kind: plan.File, Path: "README.md", Commit: pin}),
	))
	found := get[server.HealthInfo](owner, "GET", mine+"/health?edition=draft", nil)
	assert.Equal(t, pin, found.Commit)
	what := map[string]health.Report{}
	var bring []plan.Op
	for _, x := range found.Passages {
		what[x.Passage] = x
	}
	assert.Equal(t, plan.Changed, what["renamed"].What)
	assert.Equal(t, "docs/protocol.md", what["renamed"].Target.Path)
	assert.Greater(t, what["renamed"].Places[0].Like, 0.5)
	assert.Equal(t, plan.Same, what["lines-in"].What)
	assert.Equal(t, plan.Changed, what["whole-file"].What, "42 lines came")
	assert.Equal(t, plan.Gone, what["gone-file"].What)
	assert.NotEmpty(t, what["gone-file"].Places[0].ReasonCommit)
	assert.Equal(t, plan.Same, what["folder"].What)
	assert.NotContains(t, what, "commit")
	assert.NotContains(t, what, "at-the-pin")
	assert.Equal(t, []int{4, 0, 2, 1}, []int{found.Same, found.Moved, found.Changed, found.Gone})

	state := get[server.PlanInfo](owner, "GET", mine+"?edition=draft", nil)
	for _, x := range state.InOrder[0].Passages {
		if f, ok := what[x.ID]; ok && f.What != plan.Gone {
			bring = append(bring, plan.Op{Kind: plan.SetPassage, ID: x.ID, Field: "target", From: written(t, x.Target), To: written(t, f.Target)})
		}
	}
	get[server.PlanChange](owner, "POST", mine+"/ops", ops(bring...))
	after := get[server.HealthInfo](owner, "GET", mine+"/health?edition=draft", nil)
	assert.Equal(t, []int{6, 0, 0, 1}, []int{after.Same, after.Moved, after.Changed, after.Gone})
	get[server.PlanChange](owner, "POST", mine+"/undo", map[string]any{"client_id": "undo-everything"})
	assert.Equal(t, found, get[server.HealthInfo](owner, "GET", mine+"/health?edition=draft", nil), "one step, taken back as one")
	back := get[server.HealthInfo](owner, "GET", mine+"/health?edition=draft&commit=v1.0.0", nil)
	assert.Positive(t, back.Gone+back.Changed+back.Moved, "backward, too")
	for _, kind := range []string{plan.Pair, plan.Try} {
		status, text := owner.do("POST", mine+"/ops", ops(add("half-of-one", "8", plan.Target{Kind: kind, Path: "README.md", Commit: pin})))
		assert.Equal(t, 422, status, "a %s that lacks its other half: %s", kind, text)
	}
	status, _ := owner.do("GET", mine+"/health?edition=draft&commit=nowhere", nil)
	assert.Equal(t, 404, status)
}

func written(t *testing.T, target plan.Target) string {
	t.Helper()
	b, err := json.Marshal(target)
	require.NoError(t, err)
	return string(b)
}

// A history that was written anew leaves passages at commits that are not there any
// more: they are told as gone, with their reason, and the others as they are.
func TestACommitThatIsGone(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	id := h.surveyed(owner)
	s := plan.New()
	lost := strings.Repeat("0123456789", 4)
	for _, op := range []plan.Op{
		{Kind: plan.SetPlan, Field: "title", To: "Of another history"}, {Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: "chapter-0", Order: "1", Title: "One"}},
		{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "lines-lost", Chapter: "chapter-0", Order: "1", Title: "x", Target: plan.Target{Kind: plan.Lines, Path: "README.md", Start: 1, End: 2, Commit: lost}}},
		{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "file-lost", Chapter: "chapter-0", Order: "2", Title: "x", Target: plan.Target{Kind: plan.File, Path: "nowhere.c", Commit: lost}}},
		{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "file-there", Chapter: "chapter-0", Order: "3", Title: "x", Target: plan.Target{Kind: plan.File, Path: "README.md", Commit: lost}}},
	} {
		require.NoError(t, s.Apply(op))
	}
	p, err := h.store.AddPlan(ctx, id, s, false, owner.person.ID)
	require.NoError(t, err)
	found := get[server.HealthInfo](owner, "GET", fmt.Sprintf("/api/repositories/%d/plans/%d/health?edition=draft", id, p.ID), nil)
	what := map[string]string{}
	for _, x := range found.Passages {
		what[x.Passage] = x.What + " " + x.Places[0].Reason
	}
	assert.Equal(t, map[string]string{"lines-lost": "gone commit-absent", "file-lost": "gone commit-absent", "file-there": "gone commit-absent"}, what)
	assert.Equal(t, "README.md", found.Passages[0].Places[0].Candidates[0].Path, "where a file of that name is now")
	assert.Empty(t, found.Passages[1].Places[0].Candidates)
}

// What one installation exports, another that has the commit takes in, and every
// passage opens there.
func TestAPlanMovesToAnotherInstallation(t *testing.T) {
	from, to := open(t), open(t)
	owner, other := from.person("owner", true), to.person("other", true)
	id, there := from.surveyed(owner), to.surveyed(other)
	p := get[draft.Proposal](owner, "GET", fmt.Sprintf("/api/repositories/%d/draft?minutes=120", id), nil)
	made := get[server.PlanInfo](owner, "POST", fmt.Sprintf("/api/repositories/%d/plans", id), map[string]any{"title": "Travels"})
	at := fmt.Sprintf("/api/repositories/%d/plans/%d", id, made.ID)
	var list []plan.Op
	for _, c := range p.Chapters {
		list = append(list, plan.Op{Kind: plan.AddChapter, NewCh: &c.Chapter})
		for _, x := range c.Passages {
			list = append(list, plan.Op{Kind: plan.AddPassage, NewPs: &x.Passage})
		}
	}
	get[server.PlanChange](owner, "POST", at+"/ops", ops(list...))
	status, exported := owner.do("GET", at+"/document?edition=draft", nil)
	require.Equal(t, 200, status)

	plans := fmt.Sprintf("/api/repositories/%d/plans", there)
	looked := get[server.TakenPlan](other, "POST", plans+"/document?look=true", raw(exported))
	assert.Zero(t, looked.Plan)
	assert.Empty(t, get[[]server.PlanSummary](other, "GET", plans, nil), "looked at, not taken")
	taken := get[server.TakenPlan](other, "POST", plans+"/document", raw(exported))
	assert.Empty(t, taken.Problems)
	status, again := other.do("GET", fmt.Sprintf("%s/%d/document?edition=draft", plans, taken.Plan), nil)
	require.Equal(t, 200, status)
	assert.Equal(t, exported, again, "the same bytes")
	for _, c := range get[server.PlanInfo](other, "GET", fmt.Sprintf("%s/%d?edition=draft", plans, taken.Plan), nil).InOrder {
		for _, x := range c.Passages {
			if x.Target.Kind == plan.File {
				status, text := other.do("GET", fmt.Sprintf("/api/repositories/%d/file?path=%s&at=%s", there, url.QueryEscape(x.Target.Path), x.Target.Commit), nil)
				assert.Equal(t, 200, status, text)
			}
		}
	}

	status, markdown := owner.do("GET", at+"/document?edition=draft&as=markdown&folder=docs", nil)
	require.Equal(t, 200, status)
	assert.Contains(t, markdown, "# Travels\n")
	assert.Contains(t, markdown, "](../README.md)")

	told := get[server.TakenPlan](other, "POST", plans+"/document", raw(markdown))
	assert.Empty(t, told.Problems)
	status, again = other.do("GET", fmt.Sprintf("%s/%d/document?edition=draft", plans, told.Plan), nil)
	require.Equal(t, 200, status)
	assert.Equal(t, exported, again, "nothing is lost by way of Markdown")

	strange := strings.Replace(exported, `"commit": "`, `"commit": "000000`, 1)
	strange = strings.Replace(strange, `"commit": "000000`+"", `"commit": "`+strings.Repeat("0", 40)+`", "x": "`, 1)
	partly := get[server.TakenPlan](other, "POST", plans+"/document?private=true", raw(strange))
	require.NotEmpty(t, partly.Problems)
	assert.Equal(t, taken.Passages-1, partly.Passages, "a commit that is not here: one passage less")
	for text, want := range map[string]string{exported[:len(exported)/2]: "cut short", strings.Replace(exported, "plan/1", "plan/7", 1): "this version reads", "# A plan": "neither JSON nor Markdown"} {
		status, answer := other.do("POST", plans+"/document", raw(text))
		assert.Equal(t, 422, status)
		assert.Contains(t, answer, want)
	}
}

// A plan that lives in the repository is offered, looked at and taken by whoever wants
// it; one that cannot be read says why.
func TestAPlanFileOfTheRepositoryIsOffered(t *testing.T) {
	h := open(t)
	owner, reader := h.person("owner", true), h.person("reader", false)
	r := repotest.New(t)
	byHand := "# Start here\n\n## The gauge\n\n### How it is read\n\n[gauge](../gauge.go#L1-L3) · 4 min\n\n### Elsewhere\n\n[x](../../x.go) · 1 min\n"
	r.Write("gauge.go", "package gauge\n\nfunc Level() int { return 4 }\n", "docs/start.plan.md", byHand, "half.plan.json", `{"format":"juxtagram-plan/1",`, "README.md", "# No plan\n").Commit("one")
	dir := filepath.Join(h.roots, "offers.git")
	r.Git("clone", "-q", "--bare", r.Dir, dir)
	id := h.surveyedAt(owner, dir, "main")
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.Reader))
	plans := fmt.Sprintf("/api/repositories/%d/plans", id)
	assert.Equal(t, server.OfferedInfo{Plans: []server.OfferedPlan{
		{Path: "docs/start.plan.md", Title: "Start here", Passages: 1, Problems: 2},
		{Path: "half.plan.json", Fault: "it is cut short: it ends after 29 bytes, in the middle of something"},
	}}, get[server.OfferedInfo](reader, "GET", plans+"/offered", nil))

	take := func(c *client, path string, more map[string]any) (int, string) {
		body := map[string]any{"path": path}
		maps.Copy(body, more)
		return c.do("POST", plans+"/offered", body)
	}
	looked := get[server.TakenPlan](owner, "POST", plans+"/offered", map[string]any{"path": "docs/start.plan.md", "look": true})
	assert.Equal(t, 1, looked.Passages)
	require.Len(t, looked.Problems, 2)
	assert.Contains(t, looked.Problems[0].What, "it is taken at "+get[server.RepositoryInfo](owner, "GET", fmt.Sprintf("/api/repositories/%d", id), nil).Pin[:10])
	assert.Contains(t, looked.Problems[1].What, "leads out of the repository")
	status, _ := take(reader, "docs/start.plan.md", nil)
	assert.Equal(t, 403, status, "readers take it for themselves alone")
	taken := get[server.TakenPlan](reader, "POST", plans+"/offered", map[string]any{"path": "docs/start.plan.md", "private": true})
	p := get[server.PlanInfo](reader, "GET", fmt.Sprintf("%s/%d?edition=draft", plans, taken.Plan), nil)
	assert.Equal(t, "gauge.go", p.InOrder[0].Passages[0].Target.Path)
	for path, want := range map[string]int{"half.plan.json": 422, "README.md": 422, "nowhere.plan.md": 404, "../x.plan.md": 404} {
		status, said := take(owner, path, nil)
		assert.Equal(t, want, status, "%s: %s", path, said)
	}
	status, page := reader.do("GET", fmt.Sprintf("%s/%d/document?edition=draft&as=html", plans, taken.Plan), nil)
	require.Equal(t, 200, status)
	assert.Contains(t, page, "Level")
}
