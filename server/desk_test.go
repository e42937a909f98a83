package server_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/place"
	"juxtagram/core/repo/repotest"
	"juxtagram/core/skim"
	"juxtagram/server"
)

func TestATextIsWholeAndASkimFitsIt(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	text := get[server.TextInfo](c, "GET", at+"/text?path=firmware/sampler.c", nil)
	lines := get[server.LinesInfo](c, "GET", at+"/lines?path=firmware/sampler.c&to=2000", nil)
	var joined []string
	for _, l := range lines.Lines {
		joined = append(joined, l.Text)
	}
	assert.Equal(t, strings.Join(joined, "\n"), text.Text)
	assert.Equal(t, lines.Total, text.Total)
	assert.Contains(t, text.Kind, "text/plain")

	s := get[server.SkimInfo](c, "GET", at+"/skim?path=firmware/sampler.c", nil)
	assert.Equal(t, text.Total, s.Total)
	assert.Len(t, s.Order, len(s.Starts)-1)
	assert.Equal(t, []int{1, text.Total, -1}, []int{s.Starts[0], s.Ends[0], s.Parents[0]})
	kinds := map[skim.Kind]bool{}
	why := ""
	for i, k := range s.Kinds {
		kinds[k] = true
		if k == skim.OfSymbol {
			why += strings.Join(s.Whys[i], " ") + " "
		}
	}
	assert.True(t, kinds[skim.OfImports] && kinds[skim.OfSymbol])
	assert.Contains(t, why, "marked", "a tagged comment counts")
	// a passage that has one read lines makes them worth more
	worth := func(s server.SkimInfo, line int) float64 {
		for i, l := range s.Tells {
			if l == line {
				return s.Worth[i]
			}
		}
		return 0
	}
	plan := get[server.PlanInfo](c, "POST", at+"/plans", map[string]any{"title": "P", "private": false})
	ops := []any{
		map[string]any{"client_id": "aaaaaaaa", "op": map[string]any{"kind": "add-chapter", "new_chapter": map[string]any{"id": "chapter1", "order": "a", "title": "C"}}},
		map[string]any{"client_id": "bbbbbbbb", "op": map[string]any{"kind": "add-passage", "new_passage": map[string]any{"id": "passage1", "chapter": "chapter1", "order": "a", "title": "T", "purpose": "", "minutes": 2,
			"target": map[string]any{"kind": "lines", "path": "firmware/sampler.c", "start": 25, "end": 27, "commit": text.Commit}}}},
	}
	status, problem := c.do("POST", fmt.Sprintf("%s/plans/%d/ops", at, plan.ID), map[string]any{"ops": ops})
	require.Equal(t, 200, status, problem)
	again := get[server.SkimInfo](c, "GET", at+"/skim?path=firmware/sampler.c", nil)
	assert.Greater(t, worth(again, 24), worth(s, 24))
	here := get[[]server.PassageHere](c, "GET", at+"/passages?path=firmware/sampler.c", nil)
	require.Len(t, here, 1)
	assert.Equal(t, 1, here[0].Number)
	assert.NotEmpty(t, here[0].Places)
	// a file that is empty, or none that can be cut, is told without a list that is nothing
	empty := get[server.SkimInfo](c, "GET", at+"/skim?path=predict/marshtide/__init__.py", nil)
	assert.NotNil(t, empty.Order)
	old := get[server.SkimInfo](c, "GET", at+"/skim?path=firmware/sampler.c&at=v1.0.0", nil)
	assert.Equal(t, 6, old.Total, "another commit")
	status, _ = c.do("GET", at+"/skim?path=nowhere.c", nil)
	assert.Equal(t, 404, status)
}

func TestLinesAreFollowedAndCompared(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("sub/x.txt", "x\n", "a.txt", "one\ntwo\nthree\nfour\nfive\nsix\nseven\n").Commit("one")
	r.Git("tag", "first")
	r.Write("a.txt", "zero\none\ntwo\nthree\nfour\nfive  \nsix\nseven\n").Commit("two")
	r.Git("tag", "second")
	r.Git("mv", "a.txt", "b.txt")
	r.Commit("three")
	dir := filepath.Join(h.roots, "lines")
	require.NoError(t, os.Rename(r.Dir, dir))
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, dir, "main"))
	follow := func(query string) server.FollowInfo {
		return get[server.FollowInfo](c, "GET", at+"/follow?"+query, nil)
	}
	f := follow("path=b.txt&to=first&start=3&end=4")
	assert.Equal(t, server.FollowInfo{Commit: f.Commit, Path: "a.txt", Start: 2, End: 3, State: place.Moved, Candidates: []place.Candidate{}}, f, "under its old name")
	assert.Equal(t, place.Changed, follow("path=b.txt&to=first&start=5&end=6").State)
	gone := follow("path=b.txt&to=first&start=1&end=1")
	assert.Equal(t, []any{place.Gone, "a.txt", 1}, []any{gone.State, gone.Path, gone.Start}, "the file is shown all the same")
	assert.Equal(t, place.Same, follow("path=a.txt&at=first&to=first&start=2&end=2").State)
	// whoever follows lines by hand is told what a note on them is told
	wrote := get[server.WrittenInfo](c, "POST", at+"/annotations", map[string]any{"target": map[string]any{"kind": "lines", "path": "a.txt", "at": "first", "start": 2, "end": 3}, "text": "here", "kind": "note"})
	placed := get[server.WholeThread](c, "GET", fmt.Sprintf("%s/annotations/%d", at, wrote.Thread.ID), nil).Thread.Placed
	hand := follow("path=a.txt&at=first&to=main&start=2&end=3")
	assert.Equal(t, []any{placed.Path, placed.Start, placed.End, placed.What}, []any{hand.Path, hand.Start, hand.End, string(hand.State)})
	since := get[server.SinceInfo](c, "GET", at+"/since?path=a.txt&at=first", nil)
	assert.Equal(t, []any{"main", 2}, []any{since.Branch, since.Changes})

	d := get[server.DifferencesInfo](c, "GET", at+"/differences?path=a.txt&at=first&beside=b.txt", nil)
	assert.Equal(t, []server.HunkInfo{{OldStart: 0, OldCount: 0, NewStart: 1, NewCount: 1}, {OldStart: 5, OldCount: 1, NewStart: 6, NewCount: 1}}, d.Hunks)
	assert.False(t, d.Old.Time.IsZero())
	d = get[server.DifferencesInfo](c, "GET", at+"/differences?path=a.txt&at=first&beside=b.txt&ignore_space=true", nil)
	assert.Len(t, d.Hunks, 1, "white space does not count")
	for query, want := range map[string]int{
		"/follow?path=b.txt&to=nowhere&start=1": 404, "/differences?path=b.txt": 422, "/differences?path=b.txt&beside=sub": 404, "/follow?path=b.txt": 422, "/follow?path=none&to=first": 404, "/differences?path=b.txt&beside=none": 404, "/follow?path=b.txt&to=--all": 404,
		"/since?path=none": 404, "/differences?path=b.txt&beside=" + url.QueryEscape("../../etc/passwd"): 404,
	} {
		status, text := c.do("GET", at+query, nil)
		assert.Equal(t, want, status, "%s: %s", query, text)
	}
}

func TestASearchIsStreamedAndTellsItsEnd(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("many.txt", strings.Repeat("tide and Tide\n", 2100), "sub/one.txt", "a tide\n", "dark.bin", "tide\x00tide", "long.txt", strings.Repeat("x", 9000)+" tide "+strings.Repeat("y", 9000)+"\n").Commit("one")
	dir := filepath.Join(h.roots, "search")
	require.NoError(t, os.Rename(r.Dir, dir))
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, dir, "main"))
	search := func(query string) (lines []server.SearchLine, end server.SearchEnd) {
		status, text := c.do("GET", at+"/search?"+query, nil)
		require.Equal(t, 200, status, text)
		for dec := json.NewDecoder(strings.NewReader(text)); ; {
			var l server.SearchLine
			if err := dec.Decode(&l); err == io.EOF {
				return lines, end
			} else {
				require.NoError(t, err)
			}
			if l.End != nil {
				end = *l.End
			} else {
				lines = append(lines, l)
			}
		}
	}
	lines, end := search("text=tide")
	assert.Len(t, lines, 2000)
	assert.True(t, end.More, "the limit is told")
	lines, end = search("text=tide&folder=sub")
	assert.Equal(t, []server.SearchLine{{Path: "sub/one.txt", Line: 1, Column: 2, Text: "a tide"}}, lines)
	assert.False(t, end.More)
	lines, _ = search("text=" + url.QueryEscape("x tide y"))
	require.Len(t, lines, 1)
	assert.Less(t, len(lines[0].Text), 300, "cut around the place")
	assert.Contains(t, lines[0].Text, "x tide y")
	lines, end = search("text=Neither&case=true")
	assert.Empty(t, lines)
	assert.Equal(t, 0, end.Lines)
	for _, text := range []string{"--help", "-e", "$(id)", "a b", `\`, "[", "ü"} {
		_, end = search("text=" + url.QueryEscape(text))
		assert.Empty(t, end.Fault, text)
	}
	status, _ := c.do("GET", at+"/search?text=", nil)
	assert.Equal(t, 422, status)
	status, _ = c.do("GET", at+"/search?text=a%00b", nil)
	assert.Equal(t, 400, status)
}

func TestWhoRefersToAnAsset(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	r := repotest.New(t)
	r.Write("img/gauge.png", "\x89PNG\x00", "go.mod", "module m.test\n", "main.go", "package main\n\nconst Icon = \"img/gauge.png\"\n\nfunc main() {\n\tprintln(Icon)\n}\n",
		"README.md", "![g](img/gauge.png)\n", "other.md", "![g](elsewhere/gauge.png) and old-gauge.png\n").Commit("one")
	dir := filepath.Join(h.roots, "assets")
	require.NoError(t, os.Rename(r.Dir, dir))
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, dir, "main"))
	found := get[server.ReferrersInfo](c, "GET", at+"/referrers?path=img/gauge.png", nil)
	require.Len(t, found.By, 2)
	assert.Equal(t, "README.md", found.By[0].Path)
	assert.Equal(t, server.Referrer{Path: "main.go", Line: 3, Text: `const Icon = "img/gauge.png"`, How: "path", Alias: "Icon", Uses: []server.AliasUse{{Path: "main.go", Line: 6}}}, found.By[1])
	text := get[server.TextInfo](c, "GET", at+"/text?path=img/gauge.png", nil)
	assert.NotEmpty(t, text.Unshown)
	assert.EqualValues(t, 5, text.Size)
}

func TestAnExtractIsReadAndPacked(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	x := get[server.ExtractInfo](c, "GET", at+"/extract?path=firmware/sampler.c&line=41&column=5", nil)
	assert.Equal(t, "sampler_tick", x.Name)
	names := map[string]int{}
	for i, p := range x.Pieces {
		names[p.Qualified]++
		text := get[server.TextInfo](c, "GET", at+"/text?path="+url.QueryEscape(p.Path), nil)
		assert.Equal(t, strings.Join(strings.Split(text.Text, "\n")[p.From-1:p.To], "\n"), p.Text, p.Qualified)
		assert.True(t, p.By < i)
	}
	assert.Equal(t, 2, names["frame_pack"], "declaration and body")
	assert.Contains(t, names, "take_median")
	assert.Zero(t, x.LeftTotal)
	less := get[server.ExtractInfo](c, "GET", at+"/extract?path=firmware/sampler.c&line=41&column=5&depth=1&lines=60", nil)
	assert.Less(t, len(less.Pieces), len(x.Pieces))
	assert.NotZero(t, less.LeftTotal)
	assert.LessOrEqual(t, less.Lines, 60)

	q, err := http.NewRequest("GET", h.url+at+"/extract/archive?path=firmware/sampler.c&line=41&column=5", nil)
	require.NoError(t, err)
	answer, err := c.http.Do(q)
	require.NoError(t, err)
	raw, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	answer.Body.Close()
	assert.Contains(t, answer.Header.Get("Content-Disposition"), "attachment")
	packed, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	require.NoError(t, err)
	held := map[string]string{}
	for _, f := range packed.File {
		r, err := f.Open()
		require.NoError(t, err)
		b, err := io.ReadAll(r)
		require.NoError(t, err)
		held[f.Name] = string(b)
	}
	assert.Contains(t, held["firmware/sampler.c"], "take_median(sensor_t *s)")
	assert.Contains(t, held["EXTRACT.md"], "`take_median` firmware/sampler.c:")
	for query, want := range map[string]int{"path=firmware/sampler.c&line=1&column=0": 404, "path=none&line=1": 404, "path=firmware/sampler.c&line=0": 422, "path=firmware/sampler.c&line=41&column=5&lines=99999": 422} {
		status, _ := c.do("GET", at+"/extract?"+query, nil)
		assert.Equal(t, want, status, query)
	}
}

func TestTheSourceOfADefinitionComesWithItsComment(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	s := get[server.SourceInfo](c, "GET", at+"/source?path=firmware/sampler.c&start=10&end=21", nil)
	assert.Equal(t, []int{8, 21}, []int{s.From, s.To})
	assert.Contains(t, s.Lines[0].Text, "The float knocks")
	assert.Len(t, s.Tokens, len(s.Lines))
	past := get[server.SourceInfo](c, "GET", at+"/source?path=firmware/sampler.c&start=9000&end=9001", nil)
	assert.Empty(t, past.Lines)
	// nobody but those who may read the repository
	stranger := h.person("stranger", false)
	for _, p := range []string{"/text?path=README.md", "/skim?path=README.md", "/search?text=a", "/extract?path=firmware/sampler.c&line=41&column=5", "/extract/archive?path=firmware/sampler.c&line=41&column=5", "/source?path=README.md&start=1&end=1", "/referrers?path=README.md"} {
		status, _ := stranger.do("GET", at+p, nil)
		assert.Equal(t, 404, status, p)
	}
}
