package server_test

import (
	"bufio"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/demo"
	"juxtagram/server"
	"juxtagram/store"
)

func TestReadingTheDemo(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	files, err := demo.Files()
	require.NoError(t, err)

	o := get[server.OverviewInfo](c, "GET", at+"/overview", nil)
	assert.Equal(t, len(files), o.Overview.Counts.Files)
	assert.Equal(t, 8, o.Overview.Counts.People)
	assert.Equal(t, "README.md", o.Overview.Readmes[0])
	sum := 0
	for _, f := range o.Overview.Folders {
		sum += f.Lines
	}
	assert.Equal(t, o.Overview.Counts.Lines, sum, "rows add up to the whole")

	root := get[server.FolderInfo](c, "GET", at+"/folder", nil)
	assert.Equal(t, len(files), root.Folder.Files)
	n := 0
	for _, x := range root.Children {
		n += x.Files
	}
	assert.Equal(t, len(files), n)

	text := string(files["firmware/sampler.c"])
	lines := get[server.LinesInfo](c, "GET", at+"/lines?path=firmware/sampler.c&from=1&to=9999", nil)
	var got []string
	for _, l := range lines.Lines {
		got = append(got, l.Text)
	}
	assert.Equal(t, text, strings.Join(got, "\n")+"\n", "exactly the pinned lines")
	part := get[server.LinesInfo](c, "GET", at+"/lines?path=firmware/sampler.c&from=10&to=12", nil)
	assert.Equal(t, got[9:12], []string{part.Lines[0].Text, part.Lines[1].Text, part.Lines[2].Text})
	tokens := get[server.TokensInfo](c, "GET", at+"/tokens?path=firmware/sampler.c&from=10&to=12", nil)
	assert.Len(t, tokens.Lines, 3)

	outline := get[server.OutlineInfo](c, "GET", at+"/outline?path=firmware/sampler.c", nil)
	assert.Equal(t, "parsed", outline.Depth)
	assert.Equal(t, outline.Total, len(outline.Symbols))
	assert.Equal(t, server.Symbol{
		Name: "take_median", Qualified: "take_median", Kind: "function", Visibility: "private", Signature: "static int16_t take_median(sensor_t *s)", Type: "int16_t",
		Doc: "The float knocks against its tube in a swell.", Start: 10, End: 21, NameLine: 10, Parent: -1, Intricacy: 3,
	}, outline.Symbols[0])
	assert.Equal(t, server.ImportInfo{Text: `"sampler.h"`, Line: 1, Names: []string{}}, outline.Imports[0])
	assert.Equal(t, "FIXME", outline.Tagged[0].Word)
	assert.Equal(t, "lexed", get[server.OutlineInfo](c, "GET", at+"/outline?path=schema/001_stations.sql", nil).Depth)
	assert.Equal(t, "listed", get[server.OutlineInfo](c, "GET", at+"/outline?path=docs/WHO", nil).Depth)
	before := get[server.OutlineInfo](c, "GET", at+"/outline?path=firmware/sampler.c&at=v1.0.0", nil)
	assert.Equal(t, "parsed", before.Depth, "a commit that is not surveyed is read when it is asked for")
	assert.NotEqual(t, outline.Total, 0)
	assert.NotEqual(t, outline.Commit, before.Commit)

	old := get[server.LinesInfo](c, "GET", at+"/lines?path=firmware/sampler.c&at=v1.0.0", nil)
	assert.False(t, old.Surveyed)
	assert.NotEqual(t, lines.Total, old.Total)
	status, problem := c.do("GET", at+"/lines?path=nowhere.c", nil)
	assert.Equal(t, 404, status)
	assert.Contains(t, problem, "nowhere.c is not in commit")
	status, _ = c.do("GET", at+"/lines?path=README.md&at=nowhere", nil)
	assert.Equal(t, 404, status)

	found := get[server.PathMatches](c, "GET", at+"/paths?text=SERIAL_", nil)
	assert.EqualValues(t, 2, found.Total)
	none := get[server.PathMatches](c, "GET", at+"/paths?text=%25", nil)
	assert.EqualValues(t, 0, none.Total, "a percent sign is a percent sign")

	leads := get[server.LeadsInfo](c, "GET", at+"/leads?kind=tagged-comment&detail=FIXME", nil)
	assert.EqualValues(t, 4, leads.Total)
	all := get[server.LeadsInfo](c, "GET", at+"/leads?limit=1", nil)
	sumKinds := 0
	for _, k := range all.Kinds {
		sumKinds += k.Count
	}
	assert.EqualValues(t, sumKinds, all.Total)
	assert.Len(t, all.Leads, 1)

	readme := get[server.Readme](c, "GET", at+"/readme?path=README.md", nil)
	assert.Contains(t, readme.HTML, "/picture?path=docs%2Fimg%2Fgauge.png")
	assert.Contains(t, readme.HTML, "/read?path=docs%2Fprotocol.md")
	r, err := http.NewRequest("GET", h.url+at+"/picture?path=docs/img/gauge.png", nil)
	require.NoError(t, err)
	answer, err := c.http.Do(r)
	require.NoError(t, err)
	answer.Body.Close()
	assert.Equal(t, "image/png", answer.Header.Get("Content-Type"))
	status, _ = c.do("GET", at+"/picture?path=README.md", nil)
	assert.Equal(t, 415, status)
}

func TestReadmesCannotAct(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("README.md", "# Hi\n<script>alert(1)</script><img src=x onerror=alert(1)>\n[a](javascript:alert(1)) [b](../../../etc/passwd) <iframe src=x></iframe><style>*{}</style>\n<a href=\"data:text/html,x\">d</a> ![p](pic.png) ![q](https://tracker.test/p.png) <form action=/x></form>\n",
		"long.js", strings.Repeat("x", 5000)+"\n", "bad.txt", "a\xffb\n", "pic.svg", "<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>").Commit("one")
	dir := filepath.Join(h.roots, "hostile")
	require.NoError(t, os.Rename(r.Dir, dir))
	made := get[server.ShelfItem](c, "POST", "/api/repositories", map[string]string{"source": dir})
	h.wait(c, made.ID, func(r server.RepositoryInfo) bool { return r.State == store.NeedsPin })
	at := fmt.Sprintf("/api/repositories/%d", made.ID)
	get[server.SurveyInfo](c, "PUT", at+"/pin", map[string]string{"pin": "main"})
	h.wait(c, made.ID, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
	html := get[server.Readme](c, "GET", at+"/readme?path=README.md", nil).HTML
	for _, bad := range []string{"<script", "onerror", "javascript:", "<iframe", "<style", "data:text", "<form", "tracker.test"} {
		assert.NotContains(t, html, bad)
	}
	assert.Contains(t, html, "path=etc%2Fpasswd", "a link out of the repository stays inside it")
	lines := get[server.LinesInfo](c, "GET", at+"/lines?path=long.js", nil)
	assert.Equal(t, 3000, lines.Lines[0].Clipped, "what is clipped is told")
	bad := get[server.LinesInfo](c, "GET", at+"/lines?path=bad.txt", nil)
	assert.True(t, bad.Invalid)
	assert.Equal(t, "a?b", bad.Lines[0].Text)
	q, err := http.NewRequest("GET", h.url+at+"/picture?path=pic.svg", nil)
	require.NoError(t, err)
	answer, err := c.http.Do(q)
	require.NoError(t, err)
	answer.Body.Close()
	assert.Contains(t, answer.Header.Get("Content-Security-Policy"), "sandbox")
}

func TestBadSourcesAreToldClearly(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	outside := repotest.New(t)
	outside.Write("a", "1").Commit("one")
	empty := filepath.Join(h.roots, "empty")
	require.NoError(t, os.MkdirAll(empty, 0o755))
	for source, part := range map[string]string{outside.Dir: "not below the folders", empty: "not a Git repository", filepath.Join(h.roots, "none"): "no such folder", h.roots + "/../" + filepath.Base(filepath.Dir(outside.Dir)): ""} {
		made := get[server.ShelfItem](c, "POST", "/api/repositories", map[string]string{"source": source})
		r := h.wait(c, made.ID, func(r server.RepositoryInfo) bool { return r.State == store.TakeFailed })
		assert.Contains(t, r.Problem, part, source)
		status, _ := c.do("GET", fmt.Sprintf("/api/repositories/%d/refs", made.ID), nil)
		assert.Equal(t, 409, status)
	}
	for source, part := range map[string]string{"ext::sh -c x": "not an address", "http://x.test/y": "not allowed", "https://u:p@x.test/y": "leave the password out", "words": "not an address"} {
		status, text := c.do("POST", "/api/repositories", map[string]string{"source": source})
		assert.Equal(t, 422, status)
		assert.Contains(t, text, part)
	}
	status, text := c.do("POST", "/api/repositories", map[string]string{"source": "https://x.test/y", "subfolder": "../up"})
	assert.Equal(t, 422, status, text)
	for body, part := range map[string]string{"hello": "neither an archive", strings.Repeat("x", 2<<20): "larger than 1 MB"} {
		r, err := http.NewRequest("POST", h.url+"/api/uploads?name=x.zip", strings.NewReader(body))
		require.NoError(t, err)
		status, text := c.send(r)
		if status == 202 {
			var made server.ShelfItem
			require.NoError(t, json.Unmarshal([]byte(text), &made))
			text = h.wait(c, made.ID, func(r server.RepositoryInfo) bool { return r.State == store.TakeFailed }).Problem
		}
		assert.Contains(t, text, part)
	}
}

func TestUploadSecretsAndRemoval(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("a.txt", "1\n").Commit("one")
	bundle := filepath.Join(t.TempDir(), "b")
	r.Git("bundle", "create", "-q", bundle, "--all")
	f, err := os.Open(bundle)
	require.NoError(t, err)
	q, err := http.NewRequest("POST", h.url+"/api/uploads?name=thing.bundle", f)
	require.NoError(t, err)
	status, text := c.send(q)
	require.Equal(t, 202, status, text)
	var made server.ShelfItem
	require.NoError(t, json.Unmarshal([]byte(text), &made))
	assert.Equal(t, "thing", made.Name)
	h.wait(c, made.ID, func(r server.RepositoryInfo) bool { return r.State == store.NeedsPin })
	at := fmt.Sprintf("/api/repositories/%d", made.ID)
	refs := get[server.RefList](c, "GET", at+"/refs", nil)
	assert.Equal(t, "main", refs.Suggested.Name)
	status, text = c.do("PUT", at+"/pin", map[string]string{"pin": "v9"})
	assert.Equal(t, 404, status)
	assert.Contains(t, text, `no tag, branch or commit called`)
	get[server.SurveyInfo](c, "PUT", at+"/pin", map[string]string{"pin": "main"})
	h.wait(c, made.ID, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
	left, err := os.ReadDir(h.jobs.Uploads())
	require.NoError(t, err)
	assert.Empty(t, left, "the upload is not kept")

	private := get[server.ShelfItem](c, "POST", "/api/repositories", map[string]string{"source": "https://127.0.0.1:1/x", "token": "s3cr3t-t0ken"})
	row, err := h.store.Repository(ctx, private.ID)
	require.NoError(t, err)
	assert.NotEmpty(t, row.Credential)
	assert.NotContains(t, string(row.Credential), "s3cr3t")
	failed := h.wait(c, private.ID, func(r server.RepositoryInfo) bool { return r.State == store.TakeFailed })
	assert.NotContains(t, fmt.Sprint(failed), "s3cr3t")

	status, _ = c.do("DELETE", at+"?name=wrong", nil)
	assert.Equal(t, 422, status, "asked first")
	get[struct{}](c, "DELETE", at+"?name=thing", nil)
	status, _ = c.do("GET", at, nil)
	assert.Equal(t, 404, status)
	assert.NoDirExists(t, h.jobs.Mirror(made.ID))
}

// listen opens the stream of what changes; it stands when this returns.
func (c *client) listen() *bufio.Scanner {
	t := c.h.t
	t.Helper()
	c.http.Timeout = 0
	r, err := http.NewRequestWithContext(t.Context(), "GET", c.h.url+"/api/events", nil)
	require.NoError(t, err)
	answer, err := c.http.Do(r)
	require.NoError(t, err)
	t.Cleanup(func() { answer.Body.Close() })
	assert.Equal(t, "text/event-stream", answer.Header.Get("Content-Type"))
	lines := bufio.NewScanner(answer.Body)
	require.True(t, lines.Scan())
	return lines
}

func TestEvents(t *testing.T) {
	h := open(t)
	owner, stranger := h.person("owner", true), h.person("stranger", false)
	id := h.surveyed(owner)
	require.NoError(t, h.store.SetRights(ctx, stranger.person.ID, true, nil))
	mine, theirs := owner.listen(), stranger.listen()
	own := get[server.ShelfItem](stranger, "POST", "/api/repositories", map[string]string{"source": "https://127.0.0.1:1/x"})
	get[server.PlanInfo](owner, "POST", fmt.Sprintf("/api/repositories/%d/plans", id), map[string]any{"title": "one"})
	for mine.Scan() {
		if strings.Contains(mine.Text(), `"kind":"plan"`) {
			break
		}
	}
	assert.Contains(t, mine.Text(), fmt.Sprintf(`"repository":%d`, id))
	for theirs.Scan() {
		assert.NotContains(t, theirs.Text(), fmt.Sprintf(`"repository":%d,`, id), "strangers hear nothing")
		if strings.Contains(theirs.Text(), fmt.Sprintf(`"repository":%d`, own.ID)) && strings.Contains(theirs.Text(), "failed") {
			break
		}
	}
}
