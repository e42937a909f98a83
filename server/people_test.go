package server_test

import (
	"fmt"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/server"
	"juxtagram/store"
)

func TestRulesOfHotspotsCanBeTurned(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	all := get[server.HotspotsInfo](c, "GET", at+"/hotspots", nil)
	require.NotEmpty(t, all.Rows)
	for n, r := range all.Rows {
		assert.NotContains(t, []string{"generated", "vendored"}, r.Role)
		if n > 0 {
			assert.LessOrEqual(t, r.Score, all.Rows[n-1].Score)
		}
	}
	left := 0
	for _, x := range all.LeftOut {
		if x.Why == "generated" {
			left = x.Files
		}
	}
	require.Positive(t, left)
	with := get[server.HotspotsInfo](c, "GET", at+"/hotspots?generated=true", nil)
	assert.Equal(t, all.Total+left, with.Total)
	short := get[server.HotspotsInfo](c, "GET", at+"/hotspots?days=90", nil)
	assert.Less(t, short.Commits, all.Commits)
	assert.NotNil(t, short.From)
	narrow := get[server.HotspotsInfo](c, "GET", at+"/hotspots?wide=2", nil)
	assert.Positive(t, narrow.Wide)
	status, csv := c.do("GET", at+"/hotspots/table?format=csv", nil)
	assert.Equal(t, 200, status)
	assert.Equal(t, all.Total+1, strings.Count(csv, "\n"))

	pairs := get[server.PartnersInfo](c, "GET", at+"/partners?least=2", nil)
	require.NotEmpty(t, pairs.Pairs)
	imports, across := map[string]bool{}, false
	for _, p := range pairs.Pairs {
		assert.GreaterOrEqual(t, p.Together, 2)
		imports[p.Import] = true
		across = across || p.Across
	}
	assert.True(t, imports["none"] && (imports["a"] || imports["b"]))
	assert.True(t, across)
	own := get[server.PartnersInfo](c, "GET", at+"/partners?least=2&path=firmware/sampler.c", nil)
	for _, p := range own.Pairs {
		assert.True(t, p.A == "firmware/sampler.c" || p.B == "firmware/sampler.c")
	}
}

// Where a keeper turns people's figures off, no answer names anybody.
func TestPeopleCanBeTurnedOffEverywhere(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	id := h.surveyed(c)
	at := fmt.Sprintf("/api/repositories/%d", id)
	feed := get[server.FeedAddress](c, "POST", at+"/feed", nil)
	paths := []string{
		at + "/log?limit=500", at + "/log/table?format=csv", at + "/log/table?format=json", at + "/commits/v1.4.0", at + "/overview", at + "/map", at + "/folder?path=firmware",
		at + "/file?path=firmware/sampler.c", at + "/story?path=firmware", at + "/line-history?path=firmware/sampler.c", at + "/log/file?path=firmware/sampler.c",
		at + "/compare?from=v1.0.0&to=v1.4.0", at + "/summary?path=firmware/sampler.c", at + "/log/offers?text=o", at + "/hotspots", at + "/partners", at + "/hotspots/table",
		at + "/log/changed-lines?keep=lines:settle", feed.Path,
	}
	named := regexp.MustCompile(`Oona Fell|Tam Reddick|Kip Marrow|Edda Sorrel|Sefa Lund|oona@|tam@`)
	some := 0
	for _, p := range paths {
		status, text := c.do("GET", p, nil)
		require.Equal(t, 200, status, p)
		if named.MatchString(text) {
			some++
		}
	}
	assert.Greater(t, some, 10, "people are told before")
	before := get[server.RepositoryInfo](c, "GET", at, nil)
	get[struct{}](c, "PUT", at+"/settings", map[string]any{"name": before.Name, "subfolder": "", "half_life": before.HalfLife, "people_hidden": true})
	for _, p := range paths {
		status, text := c.do("GET", p, nil)
		require.Equal(t, 200, status, p)
		assert.NotRegexp(t, named, text, p)
	}
	for _, p := range []string{at + "/knowers", at + "/little-known", at + "/people-joined", at + "/map/span?person=0"} {
		status, _ := c.do("GET", p, nil)
		assert.GreaterOrEqual(t, status, 400, p)
	}
	asked := get[server.LogPage](c, "GET", at+"/log?"+keep("by:Oona Fell"), nil)
	assert.NotEmpty(t, asked.Problems)
	get[struct{}](c, "PUT", at+"/settings", map[string]any{"name": before.Name, "subfolder": "", "half_life": before.HalfLife, "people_hidden": false})
	assert.NotEmpty(t, get[server.KnowersInfo](c, "GET", at+"/knowers", nil).People)
}

func TestWhoToAskAndJoiningPeople(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	id := h.surveyed(c)
	at := fmt.Sprintf("/api/repositories/%d", id)
	all := get[server.KnowersInfo](c, "GET", at+"/knowers?path=firmware", nil)
	require.Greater(t, len(all.People), 2)
	for n := 1; n < len(all.People); n++ {
		assert.LessOrEqual(t, all.People[n].Weight, all.People[n-1].Weight)
	}
	little := get[server.LittleKnownInfo](c, "GET", at+"/little-known", nil)
	nobody, one := 0, 0
	for _, f := range little.Folders {
		if f.One == "" {
			nobody++
		} else {
			one++
		}
	}
	assert.True(t, nobody > 0 && one > 0)
	// two people are one
	a, b := all.People[0], all.People[1]
	body := map[string]any{"from": b.OtherName, "to": a.OtherName}
	get[struct{}](c, "POST", at+"/people-joined", body)
	again := func() {
		h.wait(c, id, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
	}
	again()
	joined := get[server.KnowersInfo](c, "GET", at+"/knowers?path=firmware", nil)
	assert.Len(t, joined.People, len(all.People)-1)
	assert.InDelta(t, a.Weight+b.Weight, joined.People[0].Weight, 0.001, "no commit of both")
	log := get[server.LogPage](c, "GET", at+"/log?limit=500&"+keep("by:"+a.Name), nil)
	both := get[server.LogPage](c, "GET", at+"/log?limit=500&"+keep("by:"+b.Name), nil)
	assert.Equal(t, log.Total, both.Total, "either name finds the person")
	status, _ := c.do("POST", at+"/people-joined", map[string]any{"from": b.OtherName, "to": map[string]string{"name": "Nobody", "email": "n@x.test"}})
	assert.Equal(t, 422, status)
	overview := get[server.OverviewInfo](c, "GET", at+"/overview", nil)
	for _, p := range overview.Overview.People {
		assert.NotEqual(t, b.Name, p.Name, "the pin was surveyed again")
	}
	// and two again
	joins := get[[]server.JoinInfo](c, "GET", at+"/people-joined", nil)
	require.Len(t, joins, 1)
	get[struct{}](c, "DELETE", fmt.Sprintf("%s/people-joined/%d", at, joins[0].ID), nil)
	again()
	apart := get[server.KnowersInfo](c, "GET", at+"/knowers?path=firmware", nil)
	assert.Len(t, apart.People, len(all.People))
	// readers do not join anybody
	reader := h.person("reader", false)
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.Reader))
	status, _ = reader.do("POST", at+"/people-joined", body)
	assert.Equal(t, 403, status)
}

func TestTwoCommitsCompared(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	dir := filepath.Join(h.roots, "marshgauge.git")
	x := get[server.CompareInfo](c, "GET", at+"/compare?from=v1.2.0&to=v1.4.0", nil)
	assert.Equal(t, strings.Fields(git(t, dir, "rev-list", "--left-right", "--count", "v1.2.0...v1.4.0")), []string{fmt.Sprint(x.Behind), fmt.Sprint(x.Ahead)})
	assert.Equal(t, git(t, dir, "merge-base", "v1.2.0", "v1.4.0"), x.Fork.ID)
	assert.Len(t, strings.Split(git(t, dir, "diff", "--name-only", "-M", "v1.2.0", "v1.4.0"), "\n"), x.Total)
	// page by page, with the lines that git counts for the whole
	var counted []string
	for offset := 0; offset < x.Total; offset += 7 {
		page := get[server.CompareInfo](c, "GET", fmt.Sprintf("%s/compare?from=v1.2.0&to=v1.4.0&limit=7&offset=%d", at, offset), nil)
		assert.Equal(t, x.Total, page.Total)
		for _, f := range page.Changes {
			counted = append(counted, fmt.Sprintf("%d %d %s", f.Added, f.Deleted, f.Path))
		}
	}
	var want []string
	for _, l := range strings.Split(git(t, dir, "diff-tree", "-r", "-M", "--numstat", "v1.2.0", "v1.4.0"), "\n") {
		n := strings.SplitN(l, "\t", 3)
		if strings.Contains(n[2], "=>") {
			continue // a rename: git writes both names into one
		}
		want = append(want, strings.ReplaceAll(n[0], "-", "0")+" "+strings.ReplaceAll(n[1], "-", "0")+" "+n[2])
	}
	assert.Subset(t, counted, want)
	assert.Len(t, counted, x.Total)
	size := get[server.CompareSize](c, "GET", at+"/compare/size?from=v1.2.0&to=v1.4.0", nil)
	assert.Contains(t, git(t, dir, "diff", "--shortstat", "-M", "v1.2.0", "v1.4.0"), fmt.Sprintf(" %d insertions(+), %d deletions(-)", size.Added, size.Deleted))
	said := get[server.SaidInfo](c, "GET", at+"/compare/said?from=v1.2.0&to=v1.4.0", nil)
	var symbols, starts, recipes []string
	for _, s := range said.Symbols {
		symbols = append(symbols, s.What+" "+s.Name)
	}
	for _, s := range said.Starts {
		starts = append(starts, s.What+" "+s.Kind)
	}
	for _, r := range said.Recipes {
		recipes = append(recipes, r.What+" "+r.Command)
	}
	assert.Contains(t, symbols, "came sampler_self_check")
	assert.Contains(t, starts, "came route")
	assert.Contains(t, recipes, "came make test")
	back := get[server.SaidInfo](c, "GET", at+"/compare/said?from=v1.4.0&to=v1.2.0", nil)
	assert.Equal(t, said.Total, back.Total, "the other way round it is as much")
	same := get[server.CompareInfo](c, "GET", at+"/compare?from=v1.4.0&to=v1.4.0", nil)
	assert.Zero(t, same.Ahead+same.Behind+same.Total)
}
