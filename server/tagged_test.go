package server_test

import (
	"encoding/csv"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/server"
	"juxtagram/store"
)

func TestTaggedComments(t *testing.T) {
	h := open(t)
	keeper := h.person("Oona", true)
	id := h.surveyed(keeper)
	at := fmt.Sprintf("/api/repositories/%d", id)
	reader := h.person("Kip", false)
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.Reader))
	list := func(query string) server.TaggedPage {
		return get[server.TaggedPage](keeper, "GET", at+"/tagged?limit=500&"+query, nil)
	}
	all := list("")
	require.Greater(t, all.Total, 20)

	t.Run("groups add up to the whole, and narrowing leaves what it said", func(t *testing.T) {
		for _, by := range []string{"word", "folder", "file", "person", "age", "owner", "symbol", "state"} {
			sum := 0
			page := list("by=" + by)
			for _, g := range page.Groups {
				assert.Positive(t, g.Count)
				sum += g.Count
			}
			assert.Equal(t, all.Total, sum, by)
			assert.Len(t, page.Items, all.Total)
		}
		for _, f := range all.Facets {
			if f.Key == "state" || f.Key == "folder" {
				continue
			}
			for _, v := range f.Values {
				assert.Equal(t, v.Count, list(f.Key+"="+url.QueryEscape(v.Value)).Total, "%s=%s", f.Key, v.Value)
			}
		}
	})
	t.Run("each tells when and by whom it was written", func(t *testing.T) {
		for _, x := range all.Items {
			assert.NotNil(t, x.BornAt, x.Said)
			assert.NotEmpty(t, x.Person, x.Said)
			assert.Len(t, x.Lead, 16)
		}
		gone := list("state=gone")
		require.NotZero(t, gone.Total)
		assert.NotNil(t, gone.Items[0].GoneAt)
		assert.NotEmpty(t, gone.Items[0].GoneCommit)
	})
	t.Run("a page goes on where the one before ended", func(t *testing.T) {
		first := get[server.TaggedPage](keeper, "GET", at+"/tagged?limit=7", nil)
		second := get[server.TaggedPage](keeper, "GET", at+"/tagged?limit=7&offset=7", nil)
		assert.Equal(t, all.Items[:14], append(first.Items, second.Items...))
	})
	t.Run("as a table", func(t *testing.T) {
		_, text := keeper.do("GET", at+"/tagged/table?format=csv&word=TODO", nil)
		rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
		require.NoError(t, err)
		assert.Len(t, rows, list("word=TODO").Total+1)
		assert.Len(t, get[server.TaggedExport](keeper, "GET", at+"/tagged/table?format=json", nil).Tagged, all.Total)
	})
	t.Run("set aside with a reason, kept across surveys, brought back", func(t *testing.T) {
		x := all.Items[0]
		status, _ := keeper.do("PUT", at+"/leads/marks", map[string]any{"leads": []string{x.Lead}, "state": "aside"})
		assert.Equal(t, 422, status, "without a reason")
		status, _ = keeper.do("PUT", at+"/leads/marks", map[string]any{"leads": []string{"zz"}, "state": "kept"})
		assert.Equal(t, 422, status, "no lead's id")
		status, _ = reader.do("PUT", at+"/leads/marks", map[string]any{"leads": []string{x.Lead}, "state": "kept"})
		assert.Equal(t, 403, status, "a reader")
		keeper.do("PUT", at+"/leads/marks", map[string]any{"leads": []string{x.Lead}, "state": "aside", "reason": "known"})
		get[server.CorrectionInfo](keeper, "POST", at+"/corrections", map[string]string{"kind": "role", "path": "tools", "value": "build"})
		h.wait(keeper, id, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
		assert.Equal(t, all.Total-1, list("").Total)
		aside := list("state=aside")
		require.Len(t, aside.Items, 1)
		assert.Equal(t, []string{x.Said, "known", "Oona"}, []string{aside.Items[0].Said, aside.Items[0].Reason, aside.Items[0].MarkedBy})
		leads := get[server.LeadsInfo](reader, "GET", at+"/leads?state=aside", nil)
		require.Len(t, leads.Leads, 1)
		assert.Equal(t, x.Lead, leads.Leads[0].ID)
		assert.Zero(t, leads.New, "the same leads as before")
		outline := get[server.OutlineInfo](reader, "GET", at+"/outline?path="+url.QueryEscape(x.Path), nil)
		states := map[string]string{}
		for _, c := range outline.Tagged {
			states[c.Lead] = c.State
		}
		assert.Equal(t, "aside", states[x.Lead])
		keeper.do("PUT", at+"/leads/marks", map[string]any{"leads": []string{x.Lead}, "state": "open"})
		assert.Equal(t, all.Total, list("").Total)
	})
	t.Run("rules hide, and say how many", func(t *testing.T) {
		for _, bad := range []string{"(", `(a)\1`, strings.Repeat("(", 200)} {
			status, _ := keeper.do("GET", at+"/tagged/ignored/preview?kind=text&pattern="+url.QueryEscape(bad), nil)
			assert.Equal(t, 422, status, bad)
		}
		preview := get[server.RulePreview](reader, "GET", at+"/tagged/ignored/preview?kind=path&pattern=firmware", nil)
		assert.Positive(t, preview.Hides)
		assert.Equal(t, all.Total, preview.Of)
		rule := get[server.RuleInfo](keeper, "POST", at+"/tagged/ignored", map[string]string{"kind": "path", "pattern": "firmware"})
		page := list("")
		assert.Equal(t, []int{all.Total - preview.Hides, preview.Hides}, []int{page.Total, page.Hidden})
		assert.Equal(t, all.Total, list("all=true").Total)
		assert.Equal(t, preview.Hides, get[[]server.RuleInfo](reader, "GET", at+"/tagged/ignored", nil)[0].Hides)
		keeper.do("DELETE", fmt.Sprintf("%s/tagged/ignored/%d", at, rule.ID), nil)
		assert.Equal(t, all.Total, list("").Total)
	})
	t.Run("a team's own words", func(t *testing.T) {
		for _, bad := range []map[string]any{
			{"word": "X", "meaning": "short", "urgency": 1},
			{"word": "SEE", "meaning": "broken", "urgency": 1, "pattern": "("},
			{"word": "SEE", "meaning": "exploding", "urgency": 1, "pattern": "((((a{99}){99}){99}){99})"},
			{"word": "SEE", "meaning": "", "urgency": 1},
		} {
			status, text := keeper.do("PUT", at+"/words", map[string]any{"own": []any{bad}})
			assert.Equal(t, 422, status, text)
		}
		own := []any{map[string]any{"word": "see", "meaning": "an issue says more", "urgency": 3, "pattern": `see #\d+`}}
		status, _ := reader.do("PUT", at+"/words", map[string]any{"own": own})
		assert.Equal(t, 403, status)
		get[[]server.WordInfo](keeper, "PUT", at+"/words", map[string]any{"own": own})
		h.wait(keeper, id, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
		page := list("word=see")
		require.NotZero(t, page.Total)
		for _, x := range page.Items {
			assert.NotNil(t, x.BornAt, "the history was read again by the new word: %s", x.Said)
		}
		assert.Equal(t, "see", page.Items[0].Word)
		assert.Contains(t, page.Items[0].Said, "see #")
		get[[]server.WordInfo](keeper, "PUT", at+"/words", map[string]any{"own": []any{}})
		h.wait(keeper, id, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
		assert.Zero(t, list("word=see").Total)
		assert.Equal(t, all.Total, list("").Total)
	})
	t.Run("people are not told where a keeper says so", func(t *testing.T) {
		get[struct{}](keeper, "PUT", at+"/settings", map[string]any{"name": "marshgauge", "subfolder": "", "half_life": 180, "people_hidden": true})
		page := list("")
		for _, x := range page.Items {
			assert.Empty(t, x.Person)
			assert.Zero(t, x.Outlived)
		}
		for _, f := range page.Facets {
			assert.NotEqual(t, "person", f.Key)
		}
	})
}

func TestLeadsAreReadByEachForThemselves(t *testing.T) {
	h := open(t)
	keeper := h.person("Oona", true)
	id := h.surveyed(keeper)
	at := fmt.Sprintf("/api/repositories/%d", id)
	reader := h.person("Kip", false)
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.Reader))
	leads := get[server.LeadsInfo](reader, "GET", at+"/leads", nil)
	reader.do("PUT", at+"/leads/read", map[string]any{"leads": []string{leads.Leads[0].ID, leads.Leads[1].ID}, "read": true})
	reader.do("PUT", at+"/leads/read", map[string]any{"leads": []string{leads.Leads[1].ID}, "read": false})
	for who, want := range map[*client]int64{reader: 1, keeper: 0} {
		got := get[server.LeadsInfo](who, "GET", at+"/leads?state=read", nil)
		assert.Equal(t, want, got.Total)
		sum := 0
		for _, k := range got.Kinds {
			sum += k.Count
		}
		assert.EqualValues(t, want, sum, "the counts are those of the state")
	}
	assert.Equal(t, leads.Total-1, get[server.LeadsInfo](reader, "GET", at+"/leads?state=unread", nil).Total)
}

func TestListsAreKeptByAName(t *testing.T) {
	h := open(t)
	keeper := h.person("Oona", true)
	id := h.surveyed(keeper)
	at := fmt.Sprintf("/api/repositories/%d/views", id)
	reader := h.person("Kip", false)
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.Reader))
	own := get[server.ViewInfo](reader, "POST", at, map[string]any{"page": "tagged", "name": "old ones", "query": "by=age&state=open"})
	status, _ := reader.do("POST", at, map[string]any{"page": "tagged", "name": "for all", "query": "", "shared": true})
	assert.Equal(t, 403, status)
	status, _ = reader.do("POST", at, map[string]any{"page": "tagged", "name": " ", "query": ""})
	assert.Equal(t, 422, status)
	shared := get[server.ViewInfo](keeper, "POST", at, map[string]any{"page": "tagged", "name": "for all", "query": "by=word", "shared": true})
	assert.Equal(t, []server.ViewInfo{own, shared}, get[[]server.ViewInfo](reader, "GET", at+"?page=tagged", nil))
	assert.Equal(t, []server.ViewInfo{shared}, get[[]server.ViewInfo](keeper, "GET", at+"?page=tagged", nil))
	assert.Empty(t, get[[]server.ViewInfo](keeper, "GET", at+"?page=leads", nil))
	status, _ = reader.do("DELETE", fmt.Sprintf("%s/%d", at, shared.ID), nil)
	assert.Equal(t, 403, status)
	status, _ = keeper.do("DELETE", fmt.Sprintf("%s/%d", at, own.ID), nil)
	assert.Equal(t, 404, status, "somebody else's is not told")
	status, _ = reader.do("DELETE", fmt.Sprintf("%s/%d", at, own.ID), nil)
	assert.Less(t, status, 300)
}
