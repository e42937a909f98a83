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
)

func TestWhatTheDemosFilesSayToEachOther(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))

	links := get[server.LinksInfo](c, "GET", at+"/links?path=collector/main.go", nil)
	outline := get[server.OutlineInfo](c, "GET", at+"/outline?path=collector/main.go", nil)
	require.Len(t, links.Imports, len(outline.Imports), "one origin for each import")
	assert.Equal(t, "standard-library", links.Imports[0].To)
	last := links.Imports[len(links.Imports)-1]
	assert.Equal(t, "file", last.To)
	assert.Equal(t, []string{"collector/store/memory.go", "collector/store/readings.go"}, last.Paths)
	var listens *server.EffectInfo
	for i := range links.Effects {
		if links.Effects[i].Kind == "listens" {
			listens = &links.Effects[i]
		}
	}
	require.NotNil(t, listens)
	assert.Equal(t, ":8300", listens.Target)
	assert.Equal(t, []server.HopInfo{{Path: "collector/main.go", Line: 19, Text: `listen = flag.String("listen")`}}, listens.Via)

	serial := get[server.LinksInfo](c, "GET", at+"/links?path=firmware/port/serial_unix.c", nil)
	require.NotEmpty(t, serial.Twins)
	assert.Equal(t, "firmware/port/serial_win.c", serial.Twins[0].Path)
	assert.Contains(t, serial.Twins[0].Shared, "port_send")
	curve := get[server.LinksInfo](c, "GET", at+"/links?path=board/src/tide_curve.ts", nil)
	assert.Equal(t, []string{"board/src/tide_curve.test.ts"}, curve.Tests)
	assert.Equal(t, "board/src/chart.ts", curve.Dependents[0].Path)

	short := get[server.SummaryInfo](c, "GET", at+"/summary?path=collector/main.go", nil)
	assert.Contains(t, short.Sentences[0].Text, "receives frames from the radio")
	assert.Equal(t, []server.CiteInfo{{Path: "collector/main.go", Line: 1}}, short.Sentences[0].Cites)
	assert.NotEmpty(t, get[server.SummaryInfo](c, "GET", at+"/summary", nil).Sentences, "the whole repository")
	assert.NotEmpty(t, get[server.SummaryInfo](c, "GET", at+"/summary?path=firmware/port", nil).Sentences)
	assert.Empty(t, get[server.SummaryInfo](c, "GET", at+"/summary?path=no/such", nil).Sentences)

	made := get[server.DefinitionAnswer](c, "GET", at+"/definition?path=collector/main.go&line=27&column=21", nil)
	assert.Equal(t, "NewMemory", made.Name)
	require.NotEmpty(t, made.Definitions)
	d := made.Definitions[0]
	assert.Equal(t, "imported", d.Certainty)
	assert.Equal(t, "collector/store/memory.go", d.Path)
	uses := get[server.UsesAnswer](c, "GET", fmt.Sprintf("%s/uses?path=%s&line=%d&name=%s", at, d.Path, d.Line, d.Name), nil)
	found := ""
	for _, f := range uses.Files {
		for _, s := range f.Sites {
			found += fmt.Sprintf("%s:%d %s %s\n", f.Path, s.Line, s.Certainty, s.Text)
		}
	}
	assert.Contains(t, found, "collector/main.go:27 imported readings := store.NewMemory(store.KeepDays(30))\n")
	away := get[server.DefinitionAnswer](c, "GET", at+"/definition?path=collector/main.go&line=37&column=18", nil)
	require.NotNil(t, away.Origin)
	assert.Equal(t, "standard-library", away.Origin.To)

	for path, want := range map[string]int{
		"/links?path=nowhere": 404, "/definition?path=collector/main.go&line=2&column=0": 404, "/definition?path=collector/main.go&line=0&column=0": 422,
		"/uses?path=collector/main.go&line=1&name=nothing": 404, "/relatives?path=nowhere&line=1&name=x": 404, "/links?path=" + url.QueryEscape("../../etc/passwd"): 404,
	} {
		status, _ := c.do("GET", at+path, nil)
		assert.Equal(t, want, status, path)
	}
	status, markdown := c.do("GET", at+"/summaries", nil)
	assert.Equal(t, 200, status)
	assert.Contains(t, markdown, "### collector/main.go")
	status, tags := c.do("GET", at+"/tags", nil)
	assert.Equal(t, 200, status)
	assert.Contains(t, tags, "NewMemory\tcollector/store/memory.go\t")
	assert.True(t, strings.HasSuffix(tags, "\n"))
	stranger := h.person("stranger", false)
	for _, p := range []string{"/summary", "/links?path=collector/main.go", "/summaries", "/tags", "/definition?path=collector/main.go&line=27&column=21"} {
		status, _ := stranger.do("GET", at+p, nil)
		assert.Equal(t, 404, status, p)
	}
}

func TestNearMissesAndRelativesAreAnswered(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("a.py", "from units import metre\nfrom base import Gauge\n\n\nclass Float(Gauge):\n    def read(self):\n        return self.raw()\n", "unit.py", "def metres():\n    pass\n", "base.py", "class Gauge:\n    def raw(self):\n        return raw_of(self)\n\n\ndef raw_of(g):\n    return 1\n").Commit("one")
	dir := filepath.Join(h.roots, "units")
	require.NoError(t, os.Rename(r.Dir, dir))
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, dir, "main"))
	links := get[server.LinksInfo](c, "GET", at+"/links?path=a.py", nil)
	assert.Equal(t, "unresolved", links.Imports[0].To)
	assert.Equal(t, []string{"unit.py"}, links.Imports[0].Near, "did you mean")
	rel := get[server.RelativesInfo](c, "GET", at+"/relatives?path=base.py&line=1&name=Gauge", nil)
	require.Len(t, rel.Subtypes, 1)
	assert.Equal(t, "a.py", rel.Subtypes[0].Path)
	up := get[server.RelativesInfo](c, "GET", at+"/relatives?path=a.py&line=5&name=Float", nil)
	require.Len(t, up.Supertypes, 1)
	assert.Equal(t, "base.py", up.Supertypes[0].Path)
	forward := get[server.RelativesInfo](c, "GET", at+"/relatives?path=base.py&line=2&name=raw", nil)
	assert.Equal(t, "raw_of", forward.ForwardsTo)
	require.Len(t, forward.Chain, 1)
	assert.Equal(t, 6, forward.Chain[0].Line)
}
