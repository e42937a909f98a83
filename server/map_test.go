package server_test

import (
	"fmt"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/demo"
	"juxtagram/server"
	"juxtagram/store"
)

// paths are the whole paths of a map's rows.
func paths(m server.MapInfo) []string {
	out := make([]string, len(m.Names))
	var walk func(from, to int, dir string)
	walk = func(from, to int, dir string) {
		for i := from; i < to; {
			out[i] = dir + m.Names[i]
			next := i + 1 + int(m.Below[i])
			walk(i+1, next, out[i]+"/")
			i = next
		}
	}
	walk(0, len(out), "")
	return out
}

func rowOf(t *testing.T, m server.MapInfo, path string) int {
	for i, p := range paths(m) {
		if p == path {
			return i
		}
	}
	t.Fatalf("%s is not on the map", path)
	return -1
}

func TestTheMapOfTheDemo(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	files, err := demo.Files()
	require.NoError(t, err)
	o := get[server.OverviewInfo](c, "GET", at+"/overview", nil).Overview

	m := get[server.MapInfo](c, "GET", at+"/map", nil)
	lines, n := 0, 0
	for i, p := range paths(m) {
		if m.Below[i] > 0 {
			assert.EqualValues(t, -1, m.Role[i])
			continue
		}
		n++
		assert.Contains(t, files, p)
		lines += max(0, int(m.Lines[i]))
	}
	assert.Equal(t, len(files), n)
	assert.Equal(t, o.Counts.Lines, lines, "the map and the overview tell the same")
	assert.Equal(t, "generated", m.Roles[m.Role[rowOf(t, m, "firmware/tide_table.h")]])
	for _, p := range []string{"deploy/stations.json", "firmware/sampler.c", "docs/protocol.md"} {
		f := get[server.FileInfo](c, "GET", at+"/file?path="+p, nil)
		assert.Equal(t, *f.Commits, int(m.Happened.Changes[rowOf(t, m, p)]), p)
	}
	assert.Len(t, m.People, o.Counts.People)
	commits := 0
	for _, x := range m.Timeline.Counts {
		commits += x
	}
	assert.Equal(t, m.Happened.Commits, commits)

	// spans agree with git itself, on files that were never renamed
	dir := filepath.Join(h.roots, "marshgauge.git")
	span := m.Timeline.To - m.Timeline.From
	for _, s := range [][2]int64{{m.Timeline.From + span/3, m.Timeline.From + span/2}, {0, m.Timeline.From + span/2}, {m.Timeline.From + span/2, 0}} {
		got := get[server.SpanInfo](c, "GET", fmt.Sprintf("%s/map/span?from=%d&to=%d", at, s[0], s[1]), nil)
		for _, p := range []string{"deploy/stations.json", "firmware/frame.c", "collector/main.go"} {
			cmd := exec.Command("git", "--git-dir="+dir, "log", "--no-merges", "--full-history", "--format=%ct", "main", "--", p)
			cmd.Env = repo.Environ()
			out, err := cmd.Output()
			require.NoError(t, err)
			want := 0
			for _, l := range strings.Fields(string(out)) {
				var ct int64
				_, _ = fmt.Sscan(l, &ct)
				if ct >= s[0] && (s[1] == 0 || ct < s[1]) {
					want++
				}
			}
			assert.Equal(t, want, int(got.Changes[rowOf(t, m, p)]), "%s in %v", p, s)
		}
	}
	for i, p := range m.People {
		if p.Name == "Edda Sorrel" {
			own := get[server.SpanInfo](c, "GET", fmt.Sprintf("%s/map/span?person=%d", at, i), nil)
			for r, path := range paths(m) {
				assert.Equal(t, strings.HasPrefix(path, "levelling/") || path == "levelling", own.People[r] > 0, path)
			}
		}
	}
	status, _ := c.do("GET", at+"/map/span?person=99", nil)
	assert.Equal(t, 404, status)

	ties := get[server.TiesInfo](c, "GET", at+"/map/ties?path=collector/level/level.go", nil)
	var on []string
	for i, r := range ties.Rows {
		if ties.UsedBy[i] > 0 {
			on = append(on, paths(m)[r])
		}
	}
	assert.Equal(t, []string{"collector/alarm/alarm.go", "collector/api/json.go", "collector/config/config.go", "collector/ingest/link.go"}, on)
	circle := get[server.TiesInfo](c, "GET", at+"/map/ties?path=board/src/chart.ts", nil)
	assert.EqualValues(t, []int32{int32(rowOf(t, m, "board/src/tide_curve.ts"))}, circle.Cycle)
	folder := get[server.TiesInfo](c, "GET", at+"/map/ties?path=third_party", nil)
	require.Len(t, folder.Rows, 1)
	assert.Equal(t, "firmware/log.c", paths(m)[folder.Rows[0]])
	status, _ = c.do("GET", at+"/map/ties?path=nowhere", nil)
	assert.Equal(t, 404, status)
}

func TestStoriesAndTheFrontPage(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	frame := get[server.StoryInfo](c, "GET", at+"/story?path=collector/ingest/frame.go", nil)
	require.NotEmpty(t, frame.Partners)
	assert.Equal(t, "firmware/frame.c", frame.Partners[0].Path, "no import ties them, and they move together")
	assert.GreaterOrEqual(t, frame.Partners[0].Together, 5)
	left := get[server.StoryInfo](c, "GET", at+"/story?path=levelling", nil)
	require.Len(t, left.People, 1)
	assert.True(t, left.People[0].Gone)
	assert.Equal(t, left.Changes, left.People[0].Commits)
	whole := get[server.StoryInfo](c, "GET", at+"/story", nil)
	assert.Equal(t, 8, whole.PeopleTotal)
	status, _ := c.do("GET", at+"/story?path=nowhere", nil)
	assert.Equal(t, 404, status)

	info := get[server.OverviewInfo](c, "GET", at+"/overview", nil)
	o := info.Overview
	assert.Equal(t, "README.md", info.Readme.Path)
	var names []string
	for _, p := range o.Parts {
		names = append(names, p.Name)
		assert.True(t, p.Alone, p.Name)
	}
	assert.Equal(t, []string{"marshgauge-board", "marshgauge.test/collector", "firmware", "marshtide"}, names)
	for _, k := range o.Knowledge {
		assert.Equal(t, k.Folder != "levelling", k.Active, "%s: somebody who knows it is still there", k.Folder)
	}
	for _, w := range o.Words {
		assert.Equal(t, w.Count, w.Quarter+w.Year+w.Older+w.Undated, w.Word)
		assert.NotEmpty(t, w.Path)
	}
	for _, s := range o.Hotspots {
		n := 0
		for _, x := range s.Pulse {
			n += x
		}
		assert.Equal(t, s.Changes, n, s.Path)
	}
	told := get[server.SummaryInfo](c, "GET", at+"/summary?children=true", nil)
	said := map[string]string{}
	for _, x := range told.Children {
		said[x.Path] = x.Sentence.Text
	}
	assert.Contains(t, said["collector"], "keeps the readings")
	assert.NotContains(t, said, "collector/ingest")

	then := get[server.TreeInfo](c, "GET", at+"/tree?at=v1.0.0&path=collector", nil)
	var there []string
	for _, e := range then.Entries {
		there = append(there, e.Path)
	}
	assert.Equal(t, []string{"collector/api", "collector/config", "collector/ingest", "collector/store", "collector/go.mod", "collector/main.go"}, there[:6])
	status, _ = c.do("GET", at+"/tree?at=v1.0.0&path=levelling/none", nil)
	assert.Equal(t, 404, status)
}

func TestWhatIsReadIsForOneselfOnly(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	id := h.surveyed(c)
	at := fmt.Sprintf("/api/repositories/%d", id)
	other := h.person("other", false)
	require.NoError(t, h.store.SetRole(ctx, id, other.person.ID, store.Reader))
	get[struct{}](c, "PUT", at+"/opened", map[string]string{"path": "firmware/main.c"})
	get[struct{}](c, "PUT", at+"/opened", map[string]string{"path": "firmware/main.c"})
	status, _ := c.do("PUT", at+"/opened", map[string]string{"path": "nowhere"})
	assert.Equal(t, 404, status)
	assert.Equal(t, []string{"firmware/main.c"}, get[server.MarksInfo](c, "GET", at+"/marks", nil).Read)
	assert.Empty(t, get[server.MarksInfo](other, "GET", at+"/marks", nil).Read)

	p := get[server.PlanInfo](c, "POST", at+"/plans", map[string]any{"title": "mine", "private": true})
	op := func(v map[string]any, n int) map[string]any {
		return map[string]any{"client_id": fmt.Sprintf("client-%04d", n), "op": v}
	}
	pin := get[server.RepositoryInfo](c, "GET", at, nil).Pin
	ops := []any{
		op(map[string]any{"kind": "add-chapter", "new_chapter": map[string]any{"id": "chapter-1", "order": "a", "title": "one"}}, 1),
		op(map[string]any{"kind": "add-passage", "new_passage": map[string]any{"id": "passage-1", "chapter": "chapter-1", "order": "a", "title": "x", "purpose": "", "minutes": 1,
			"target": map[string]any{"kind": "folder", "path": "collector", "commit": pin}}}, 2),
	}
	get[server.PlanChange](c, "POST", fmt.Sprintf("%s/plans/%d/ops", at, p.ID), map[string]any{"ops": ops})
	get[struct{}](c, "PUT", fmt.Sprintf("%s/plans/%d/progress", at, p.ID), map[string]any{"passage": "passage-1", "done": true})
	marks := get[server.MarksInfo](c, "GET", at+"/marks", nil)
	assert.Equal(t, []server.PlannedInfo{{Path: "collector", Folder: true, Plan: p.ID, Title: "mine", Passage: "passage-1", Number: 1, Done: true}}, marks.Planned)
	assert.Equal(t, []string{"firmware/main.c", "collector"}, marks.Read)
	assert.Empty(t, get[server.MarksInfo](other, "GET", at+"/marks", nil).Planned, "a private plan is nobody else's")
}

func TestDependenciesAndSubmodulesLeadToTheShelf(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	ring := repotest.New(t)
	ring.Write("go.mod", "module example.test/ring\n", "ring.go", "package ring\n\nfunc New() {}\n")
	first := ring.Commit("one")
	ring.Git("tag", "v1.2.0")
	ring.Write("ring.go", "package ring\n\nfunc New() { /* more */ }\n").Commit("two")
	dir := filepath.Join(h.roots, "ring")
	require.NoError(t, os.Rename(ring.Dir, dir))
	held := h.surveyedAt(c, dir, "main")

	user := repotest.New(t)
	user.Write("go.mod", "module example.test/user\n\nrequire example.test/ring v1.2.0\n", "main.go", "package main\n\nimport \"example.test/ring\"\n\nfunc main() { ring.New() }\n",
		".gitmodules", "[submodule \"ring\"]\n\tpath = lib/ring\n\turl = "+dir+"\n[submodule \"away\"]\n\tpath = lib/away\n\turl = https://away.test/x.git\n",
		"README", "See <a href=\"docs\">the docs</a>, [one](docs/one.md) and [that](#there).\n", "docs/one.md", "one\n")
	user.Git("add", "-A")
	user.Git("update-index", "--add", "--cacheinfo", "160000,"+first+",lib/ring")
	user.Git("update-index", "--add", "--cacheinfo", "160000,"+first+",lib/away")
	user.Git("commit", "-qm", "one")
	place := filepath.Join(h.roots, "user")
	require.NoError(t, os.Rename(user.Dir, place))
	id := h.surveyedAt(c, place, "main")
	at := fmt.Sprintf("/api/repositories/%d", id)
	info := get[server.OverviewInfo](c, "GET", at+"/overview", nil)
	assert.Equal(t, 2, info.Overview.Counts.Submodules)
	assert.Equal(t, []server.ShelfLink{
		{Kind: "submodule", Name: "lib/ring", Repository: held, Title: "ring", Commit: first},
		{Kind: "dependency", Name: "example.test/ring", In: "go.mod", Repository: held, Title: "ring", Commit: first, Ref: "v1.2.0"},
	}, info.Shelf)
	assert.Contains(t, info.Readme.HTML, fmt.Sprintf(`/r/%d/read?folder=docs`, id), "a link in HTML, to a folder")
	assert.Contains(t, info.Readme.HTML, fmt.Sprintf(`/r/%d/read?path=%s`, id, url.QueryEscape("docs/one.md")))
	assert.Contains(t, info.Readme.HTML, `href="#there"`)

	reader := h.person("reader", false)
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.Reader))
	assert.Empty(t, get[server.OverviewInfo](reader, "GET", at+"/overview", nil).Shelf, "what one may not see is not told of")
}

func TestMapsOfSmallRepositories(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("only.txt", "one line\n").Commit("one commit, one file, no readme")
	dir := filepath.Join(h.roots, "one")
	require.NoError(t, os.Rename(r.Dir, dir))
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, dir, "main"))
	m := get[server.MapInfo](c, "GET", at+"/map", nil)
	assert.Equal(t, []string{"only.txt"}, m.Names)
	assert.Equal(t, server.Column{1}, m.Happened.Changes)
	o := get[server.OverviewInfo](c, "GET", at+"/overview", nil)
	assert.Nil(t, o.Readme)
	assert.Empty(t, o.Overview.Parts)
	assert.Equal(t, 1, o.Overview.Pace.Year)
	assert.Equal(t, 1, get[server.StoryInfo](c, "GET", at+"/story?path=only.txt", nil).Changes)
}
