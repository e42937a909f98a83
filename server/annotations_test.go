package server_test

import (
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/server"
	"juxtagram/store"
)

// desk is a repository with three people.
type desk struct {
	*house
	keeper, writer, reader *client
	at                     string
}

func desked(t *testing.T, build func(h *house, keeper *client) int64) *desk {
	h := open(t)
	d := &desk{house: h, keeper: h.person("Oona Fell", true)}
	id := build(h, d.keeper)
	d.at = fmt.Sprintf("/api/repositories/%d", id)
	d.writer, d.reader = h.person("Tam Reddick", false), h.person("Kip Marrow", false)
	require.NoError(t, h.store.SetRole(ctx, id, d.writer.person.ID, store.Writer))
	require.NoError(t, h.store.SetRole(ctx, id, d.reader.person.ID, store.Reader))
	require.NoError(t, h.store.SetRole(ctx, id, d.keeper.person.ID, store.Keeper))
	return d
}

type any2 = map[string]any

func (d *desk) write(c *client, target any2, text string, more ...any2) server.WrittenInfo {
	body := any2{"target": target, "text": text}
	for _, m := range more {
		for k, v := range m {
			body[k] = v
		}
	}
	return get[server.WrittenInfo](c, "POST", d.at+"/annotations", body)
}

func (d *desk) on(c *client, path, at string) []server.ThreadInfo {
	return get[server.OnPath](c, "GET", d.at+"/annotations?path="+url.QueryEscape(path)+"&at="+at, nil).Threads
}

func TestAThreadBesideTheCode(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	lines := any2{"kind": "lines", "path": "firmware/sampler.c", "start": 15, "end": 17}
	made := d.write(d.reader, lines, "Saw 14 retries at Saltern #cold-start, see #41. @Oona.Fell @Nobody", any2{"kind": "question"})
	assert.Equal(t, []string{"Nobody"}, made.Untold)
	th := made.Thread
	assert.Equal(t, []any{"question", "open", "same", 15, 17, "take_median", []string{"cold-start"}}, []any{th.Kind, th.State, th.Placed.What, th.Placed.Start, th.Placed.End, th.Target.Symbol, th.Tags})
	assert.Contains(t, th.HTML, `class="tag"`)
	assert.Contains(t, th.Target.Quote.Exact, "SENSOR_BUSY")

	seen := d.on(d.keeper, "firmware/sampler.c", "")
	require.Len(t, seen, 1)
	assert.True(t, seen[0].Unread && seen[0].Mentioned && seen[0].Told)
	get[server.WrittenInfo](d.keeper, "POST", fmt.Sprintf("%s/annotations/%d/replies", d.at, th.ID), any2{"text": "The datasheet says 60 ms."})
	assert.False(t, d.on(d.keeper, "firmware/sampler.c", "")[0].Unread, "who writes in it has seen it")
	get[server.WrittenInfo](d.reader, "POST", fmt.Sprintf("%s/annotations/%d/replies", d.at, th.ID), any2{"text": "So more than 40."})
	assert.True(t, d.on(d.keeper, "firmware/sampler.c", "")[0].Unread)
	get[struct{}](d.keeper, "PUT", d.at+"/annotations/seen", any2{"threads": []int64{th.ID}})
	assert.False(t, d.on(d.keeper, "firmware/sampler.c", "")[0].Unread)
	get[server.WrittenInfo](d.keeper, "POST", fmt.Sprintf("%s/annotations/%d/replies", d.at, th.ID), any2{"text": "Then 60."})
	back := d.on(d.reader, "firmware/sampler.c", "")[0]
	assert.True(t, back.Unread, "the reply is news for who asked")

	state := fmt.Sprintf("%s/annotations/%d/state", d.at, th.ID)
	status, _ := d.keeper.do("PUT", state, any2{"state": "resolved", "answer": 999_999})
	assert.Equal(t, 422, status)
	done := get[server.ThreadInfo](d.keeper, "PUT", state, any2{"state": "resolved", "answer": back.Replies[0].ID})
	assert.Equal(t, []any{"resolved", "Oona Fell", back.Replies[0].ID}, []any{done.State, done.StateBy, done.Answer})
	get[server.ThreadInfo](d.reader, "PUT", state, any2{"state": "open"})
	get[struct{}](d.keeper, "PUT", fmt.Sprintf("%s/annotations/%d/told", d.at, th.ID), any2{"told": false})
	assert.False(t, d.on(d.keeper, "firmware/sampler.c", "")[0].Told)
}

func TestTwoWhoEditOneTextAreAsked(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	th := d.write(d.writer, any2{"kind": "file", "path": "README.md"}, "first").Thread
	text := fmt.Sprintf("%s/annotations/%d/text", d.at, th.ID)
	get[server.WrittenInfo](d.writer, "PUT", text, any2{"rev": 1, "text": "second"})
	status, body := d.writer.do("PUT", text, any2{"rev": 1, "text": "mine"})
	assert.Equal(t, 409, status)
	assert.Contains(t, body, "text-changed")
	status, _ = d.keeper.do("PUT", text, any2{"rev": 2, "text": "not mine"})
	assert.Equal(t, 403, status, "nobody writes in another's name")
	whole := get[server.WholeThread](d.keeper, "GET", fmt.Sprintf("%s/annotations/%d", d.at, th.ID), nil)
	assert.Equal(t, "second", whole.Thread.Text)
	require.Len(t, whole.Edits, 1)
	assert.Equal(t, "first", whole.Edits[0].Text)

	one := fmt.Sprintf("%s/annotations/%d", d.at, th.ID)
	status, _ = d.reader.do("DELETE", one, nil)
	assert.Equal(t, 403, status)
	get[struct{}](d.writer, "DELETE", one, nil)
	assert.Empty(t, d.on(d.writer, "README.md", ""))
	get[struct{}](d.writer, "POST", one+"/restore", nil)
	assert.Len(t, d.on(d.writer, "README.md", ""), 1)
}

func TestALaterCommitFollowsUpAThread(t *testing.T) {
	d := desked(t, followed)
	th := d.write(d.writer, any2{"kind": "lines", "path": "gauge.go", "start": 5, "end": 6}, "measures once").Thread
	assert.Empty(t, th.FollowUps)
	link := fmt.Sprintf("%s/annotations/%d/commits/", d.at, th.ID)
	th = get[server.ThreadInfo](d.reader, "PUT", link+"v3", nil)
	require.Len(t, th.FollowUps, 1)
	f := th.FollowUps[0]
	assert.Equal(t, []string{"three", "Kip Marrow"}, []string{f.Subject, f.By})
	on := get[server.OnPath](d.writer, "GET", d.at+"/annotations?about=true&at=v3", nil)
	require.Len(t, on.Threads, 1, "it is told at the commit")
	assert.Equal(t, th.ID, on.Threads[0].ID)
	status, text := d.writer.do("PUT", link+"nowhere", nil)
	assert.Equal(t, 404, status, text)
	about := d.write(d.writer, any2{"kind": "commit", "at": "v2"}, "this one").Thread
	status, text = d.writer.do("PUT", fmt.Sprintf("%s/annotations/%d/commits/v2", d.at, about.ID), nil)
	assert.Equal(t, 422, status, text)
	_, document := d.writer.do("GET", d.at+"/notes/annotations", nil)
	assert.Contains(t, document, `"follow_ups":["`+f.Commit+`"]`)
	th = get[server.ThreadInfo](d.writer, "DELETE", link+f.Commit, nil)
	assert.Empty(t, th.FollowUps)
}

func TestPrivateThreadsAreSeenByOneAlone(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	made := d.write(d.reader, any2{"kind": "folder", "path": "firmware"}, "for me, @Oona.Fell", any2{"private": true})
	assert.Equal(t, []string{"Oona.Fell"}, made.Untold)
	assert.Empty(t, d.on(d.keeper, "firmware", ""))
	assert.Len(t, d.on(d.reader, "firmware", ""), 1)
	status, _ := d.keeper.do("GET", fmt.Sprintf("%s/annotations/%d", d.at, made.Thread.ID), nil)
	assert.Equal(t, 404, status)
	assert.Zero(t, get[server.NotesPage](d.keeper, "GET", d.at+"/notes", nil).All)
}

func TestWhatCannotBeWrittenAbout(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	for name, body := range map[string]any2{
		"an empty text":       {"target": any2{"kind": "repository"}, "text": " \n"},
		"a megabyte of text":  {"target": any2{"kind": "repository"}, "text": strings.Repeat("x", 150_000)},
		"a path that is gone": {"target": any2{"kind": "file", "path": "no/such"}, "text": "x"},
		"no such folder":      {"target": any2{"kind": "folder", "path": "no/such"}, "text": "x"},
		"lines past the end":  {"target": any2{"kind": "lines", "path": "README.md", "start": 1, "end": 99_999}, "text": "x"},
		"lines turned round":  {"target": any2{"kind": "lines", "path": "README.md", "start": 9, "end": 3}, "text": "x"},
		"lines of a picture":  {"target": any2{"kind": "lines", "path": "docs/pictures/harbour.png", "start": 1, "end": 1}, "text": "x"},
		"no such symbol":      {"target": any2{"kind": "symbol", "path": "firmware/sampler.c", "symbol": "nope"}, "text": "x"},
		"somebody elsewhere":  {"target": any2{"kind": "repository"}, "text": "x", "asked": 999_999},
		"a kind of its own":   {"target": any2{"kind": "planet"}, "text": "x"},
	} {
		status, text := d.writer.do("POST", d.at+"/annotations", body)
		assert.Equal(t, 422, status, "%s: %s", name, text)
	}
	shown := d.write(d.writer, any2{"kind": "repository"}, "<script>alert(1)</script> [a](javascript:x) a\u202Eb").Thread.HTML
	assert.NotContains(t, shown, "script>")
	assert.NotContains(t, shown, "javascript")
	assert.Contains(t, shown, "⟦RLO⟧")
}

// history is a repository whose file goes on: moved, changed, taken apart.
func followed(h *house, k *client) int64 {
	r := repotest.New(h.t)
	body := func(n int) string {
		var b strings.Builder
		for i := range n {
			fmt.Fprintf(&b, "\tcase%d := measure(%d)\n", i, i)
		}
		return b.String()
	}
	head := "package gauge\n\nfunc read() {\n" + body(12) + "}\n\nfunc old() {\n\tnobody(calls, me)\n\tany(longer)\n}\n"
	r.Write("gauge.go", head, "note.txt", "x\n").Commit("one")
	r.Git("tag", "v1")
	r.Write("gauge.go", strings.Replace(head, "package gauge\n", "package gauge\n\n// More above.\nvar more = 1\n", 1)).Commit("two")
	r.Git("tag", "v2")
	r.Git("mv", "gauge.go", "station.go")
	r.Write("station.go", strings.Replace(strings.Replace(head, "package gauge\n", "package gauge\n\n// More above.\nvar more = 1\n", 1), "measure(5)", "measure(5, twice)", 1)).Commit("three")
	r.Git("tag", "v3")
	now := strings.Replace(strings.Replace(head, "package gauge\n", "package gauge\n\n// More above.\nvar more = 1\n", 1), "measure(5)", "measure(5, twice)", 1)
	r.Write("station.go", now[:strings.Index(now, "\nfunc old")]).Commit("four")
	r.Git("tag", "v4")
	dir := filepath.Join(h.roots, "followed")
	require.NoError(h.t, os.Rename(r.Dir, dir))
	return h.surveyedAt(k, dir, "v1")
}

func TestThreadsFollowTheCode(t *testing.T) {
	d := desked(t, followed)
	on := func(start, end int, text string) int64 {
		return d.write(d.writer, any2{"kind": "lines", "path": "gauge.go", "start": start, "end": end}, text).Thread.ID
	}
	kept, edited, doomed := on(7, 7, "kept"), on(9, 9, "edited"), on(19, 19, "doomed")
	symbol := d.write(d.writer, any2{"kind": "symbol", "path": "gauge.go", "symbol": "read"}, "the symbol").Thread.ID
	file := d.write(d.writer, any2{"kind": "file", "path": "gauge.go"}, "the file").Thread.ID
	whole := d.write(d.writer, any2{"kind": "repository"}, "all of it").Thread.ID
	at := func(tag string, id int64) server.PlacedInfo {
		return get[server.WholeThread](d.writer, "GET", fmt.Sprintf("%s/annotations/%d?at=%s", d.at, id, tag), nil).Thread.Placed
	}
	for _, c := range []struct {
		name, tag  string
		id         int64
		what, path string
		start      int
	}{
		{"where it was written", "v1", kept, "same", "gauge.go", 7},
		{"below an insertion", "v2", kept, "moved", "gauge.go", 10},
		{"in a renamed file", "v3", kept, "moved", "station.go", 10},
		{"put otherwise", "v3", edited, "changed", "station.go", 12},
		{"still there", "v3", doomed, "moved", "station.go", 22},
		{"taken away", "v4", doomed, "gone", "", 0},
		{"a symbol", "v2", symbol, "moved", "gauge.go", 6},
		{"a symbol whose body changed", "v4", symbol, "changed", "station.go", 6},
		{"a file", "v4", file, "moved", "station.go", 0},
		{"the repository", "v4", whole, "same", "", 0},
	} {
		p := at(c.tag, c.id)
		assert.Equal(t, []any{c.what, c.path, c.start}, []any{p.What, p.Path, p.Start}, c.name)
	}
	gone := at("v4", doomed)
	assert.Equal(t, "lines-deleted", gone.Reason)
	assert.Len(t, gone.ReasonCommit, 40)
	assert.Len(t, d.on(d.reader, "station.go", "v3"), 5, "all of the file are seen at another commit")

	// the pin moves on: what has no place is told, and is placed by hand
	get[server.SurveyInfo](d.keeper, "PUT", d.at+"/pin", map[string]string{"pin": "v4"})
	var id int64
	_, _ = fmt.Sscanf(d.at, "/api/repositories/%d", &id)
	d.wait(d.keeper, id, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
	page := get[server.NotesPage](d.reader, "GET", d.at+"/notes", nil)
	assert.Equal(t, []int{6, 1}, []int{page.All, page.Unplaced})
	only := get[server.NotesPage](d.reader, "GET", d.at+"/notes?placed=gone", nil)
	require.Len(t, only.Threads, 1)
	assert.Equal(t, doomed, only.Threads[0].ID)
	accept := get[server.AcceptInfo](d.writer, "POST", d.at+"/annotations/accept", any2{"threads": []int64{doomed, kept}})
	assert.Equal(t, server.AcceptInfo{Placed: 0, Left: 2}, accept, "nothing is half alike, and what has a place keeps it")
	place := fmt.Sprintf("%s/annotations/%d/target", d.at, doomed)
	status, _ := d.reader.do("PUT", place, any2{"kind": "file", "path": "station.go"})
	assert.Equal(t, 403, status)
	again := get[server.ThreadInfo](d.writer, "PUT", place, any2{"kind": "file", "path": "station.go"})
	assert.Equal(t, []any{"same", "file"}, []any{again.Placed.What, again.Target.Kind})
	past := get[server.WholeThread](d.writer, "GET", fmt.Sprintf("%s/annotations/%d", d.at, doomed), nil)
	require.Len(t, past.Targets, 1)
	assert.Equal(t, "lines", past.Targets[0].Kind, "the earlier place is kept")
	assert.Zero(t, get[server.NotesPage](d.reader, "GET", d.at+"/notes", nil).Unplaced)
	commit := strings.TrimSpace(again.Target.Commit)
	d.write(d.reader, any2{"kind": "commit", "at": commit}, "about the commit")
	about := get[server.OnPath](d.keeper, "GET", d.at+"/annotations?about=true&at="+commit, nil).Threads
	require.Len(t, about, 1)
	assert.Equal(t, "about the commit", about[0].Text)
	// backward, from a thread begun at the later commit
	late := d.write(d.writer, any2{"kind": "lines", "path": "station.go", "start": 10, "end": 10}, "written late").Thread.ID
	p := at("v1", late)
	assert.Equal(t, []any{"moved", "gauge.go", 7}, []any{p.What, p.Path, p.Start})
}

func TestNotesAreNarrowedByTheirFacts(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	d.write(d.writer, any2{"kind": "lines", "path": "firmware/sampler.c", "start": 3, "end": 4}, "one #cold #wet")
	d.write(d.reader, any2{"kind": "file", "path": "collector/main.go"}, "two #cold", any2{"kind": "question"})
	d.write(d.writer, any2{"kind": "repository"}, "three", any2{"asked": d.reader.person.ID})
	d.write(d.writer, any2{"kind": "folder", "path": "firmware"}, "four")
	for query, want := range map[string]int{
		"": 4, "tag=cold": 2, "tag=cold&tag=wet": 2, "tag=wet": 1, "kind=question": 1, "kind=ask": 1, "by=Kip+Marrow": 1, "on=file": 1, "folder=firmware": 2, "folder=.": 0,
		"text=THREE": 1, "state=open": 4, "state=resolved": 0, "tag=cold&kind=note": 1, "yours=asked": 1, "yours=written": 1, "yours=unread": 3, "since=true": 3, "placed=same": 4,
	} {
		page := get[server.NotesPage](d.reader, "GET", d.at+"/notes?"+query, nil)
		assert.Equal(t, want, page.Total, query)
		assert.Len(t, page.Threads, want, query)
		assert.Equal(t, []int{4, 3, 0}, []int{page.All, page.Unread, page.Unplaced})
	}
	page := get[server.NotesPage](d.reader, "GET", d.at+"/notes?limit=1&offset=1", nil)
	require.Len(t, page.Threads, 1)
	assert.Equal(t, "three", page.Threads[0].Text, "the last changed first")
}

// A note on a line of a file that became a folder has no place there, and is offered what
// is: the folder of that name.
func TestANoteOnAFileThatBecameAFolder(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	first := r.Write("gauge", "one\ntwo\nthree\n", "b.txt", "b\n").Commit("one")
	r.Git("rm", "-q", "gauge")
	r.Commit("two")
	r.Write("gauge/level.c", "int level;\n").Commit("three")
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, h.moved(r, "folder"), "main"))
	wrote := get[server.WrittenInfo](c, "POST", at+"/annotations", map[string]any{"target": map[string]any{"kind": "lines", "path": "gauge", "at": first, "start": 2, "end": 2}, "text": "here", "kind": "note"})
	placed := get[server.WholeThread](c, "GET", fmt.Sprintf("%s/annotations/%d", at, wrote.Thread.ID), nil).Thread.Placed
	assert.Equal(t, "gone", placed.What)
	require.Len(t, placed.Candidates, 1)
	assert.Equal(t, []any{"folder", "gauge"}, []any{placed.Candidates[0].Why, placed.Candidates[0].Path})
	status, text := c.do("GET", at+"/text?path=gauge", nil)
	assert.Equal(t, 404, status)
	assert.Contains(t, text, "is-folder")
	put := get[server.ThreadInfo](c, "PUT", fmt.Sprintf("%s/annotations/%d/target", at, wrote.Thread.ID), map[string]any{"kind": "folder", "path": "gauge"})
	assert.Equal(t, "same", put.Placed.What)
}
