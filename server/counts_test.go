package server_test

import (
	"fmt"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/server"
	"juxtagram/store"
)

// Leads, marshgauge: type "memory" into "in path or title" and choose "everything": the
// counts beside the kinds are of what is listed.
func TestLeadCountsAreOfTheTypedText(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	every := get[server.LeadsInfo](c, "GET", at+"/leads?state=all", nil)
	for _, text := range []string{"memory", "sampler", "%", "nowhere at all", ""} {
		got := get[server.LeadsInfo](c, "GET", at+"/leads?state=all&limit=1000&text="+url.QueryEscape(text), nil)
		sum := int64(0)
		for _, k := range got.Kinds {
			of := get[server.LeadsInfo](c, "GET", at+"/leads?state=all&kind="+k.Kind+"&text="+url.QueryEscape(text), nil)
			assert.EqualValues(t, of.Total, k.Count, "%q of %s", text, k.Kind)
			sum += int64(k.Count)
		}
		assert.Equal(t, got.Total, sum, text)
		assert.Len(t, got.Leads, int(got.Total), text)
		if text != "" {
			assert.Less(t, got.Total, every.Total, text)
		}
	}
}

// Pin, a repository whose hand tags a lower version after a higher one: the suggestion
// says that it is the highest, not the newest.
func TestTheSuggestedPinSaysWhy(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	cases := []struct {
		tags []string // in the order of their days
		pin  string
		why  string
	}{
		{[]string{"v1.0.0", "v2.0.0"}, "v2.0.0", "the newest release"},
		{[]string{"v2.0.0", "v1.0.1"}, "v2.0.0", "the highest version; v1.0.1 of 16 Nov 2023 is newer"},
		{[]string{"v2.0.0", "v1.0.1", "nightly"}, "v2.0.0", "the highest version; 2 tags are newer, the last of them nightly of 17 Nov 2023"},
		{[]string{"release-1.10.0", "release-1.9"}, "release-1.10.0", "the highest version; release-1.9 of 16 Nov 2023 is newer"},
	}
	for n, x := range cases {
		r := repotest.New(t)
		for _, tag := range x.tags {
			r.Write("a.go", "package a // "+tag+"\n").Commit(tag)
			r.Git("tag", tag)
		}
		made := get[server.ShelfItem](c, "POST", "/api/repositories", map[string]string{"source": h.moved(r, fmt.Sprint("tags-", n))})
		h.wait(c, made.ID, func(r server.RepositoryInfo) bool { return r.State == store.NeedsPin })
		refs := get[server.RefList](c, "GET", fmt.Sprintf("/api/repositories/%d/refs", made.ID), nil)
		require.NotNil(t, refs.Suggested, x.tags)
		assert.Equal(t, x.pin, refs.Suggested.Name, x.tags)
		assert.Equal(t, x.why, refs.Why, x.tags)
	}
}

// Read, a readme that names pictures: only one that is there, and is a picture, is shown.
func TestAReadmeShowsThePicturesThatAreThere(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("docs/README.md", "![buoy](here.png) ![gone](gone.png) ![up](../top.svg) ![text](here.txt) ![dir](more) <img src=here.png alt=tag>\n",
		"docs/here.png", "x", "docs/here.txt", "x", "docs/more/a.png", "x", "top.svg", "<svg/>").Commit("one")
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, h.moved(r, "pictures"), "main"))
	html := get[server.Readme](c, "GET", at+"/readme?path=docs/README.md", nil).HTML
	for _, shown := range []string{"picture?path=docs%2Fhere.png", "picture?path=top.svg", `alt="buoy"`, `alt="tag"`} {
		assert.Contains(t, html, shown)
	}
	for _, word := range []string{"gone", "text", "dir"} {
		assert.Contains(t, html, "<em>"+word+"</em>", "its words stand in its place")
	}
	assert.NotContains(t, html, "gone.png")
}

// Read, /r/1/read?path=firmware, typed by hand: the answer says that it is a folder.
func TestAFolderAskedForAsAFile(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	for _, rest := range []string{"firmware", "firmware/port", "firmware&at=v1.0.0"} {
		status, text := c.do("GET", at+"/lines?path="+rest, nil)
		assert.Equal(t, 404, status, rest)
		assert.Contains(t, text, "is-folder", rest)
	}
	status, text := c.do("GET", at+"/lines?path=firmwares", nil)
	assert.Equal(t, 404, status)
	assert.NotContains(t, text, "is-folder")
}

// Map, a file's card: with the sweeping commits, those that partners are counted in are
// all its changes.
func TestAStoryTellsWhatItLeavesOut(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("a.go", "package a\n", "b.go", "package a\n").Commit("both")
	many := []string{"a.go", "package a // swept\n"}
	for n := range 60 {
		many = append(many, fmt.Sprintf("wide/%d.txt", n), "x\n")
	}
	r.Write(many...).Commit("sixty at once")
	r.Write("a.go", "package a // alone\n").Commit("alone")
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, h.moved(r, "swept"), "main"))
	story := get[server.StoryInfo](c, "GET", at+"/story?path=a.go", nil)
	assert.Equal(t, 3, story.Changes)
	assert.Equal(t, 2, story.PartnersOf)
	assert.Equal(t, 1, story.Swept)
}
