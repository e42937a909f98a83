package server_test

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/server"
	"juxtagram/store"
)

func TestThreadsMoveToAnotherCopy(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	th := d.write(d.writer, any2{"kind": "lines", "path": "firmware/sampler.c", "start": 15, "end": 17}, "Why? #cold", any2{"kind": "question"}).Thread
	get[server.WrittenInfo](d.reader, "POST", fmt.Sprintf("%s/annotations/%d/replies", d.at, th.ID), any2{"text": "So."})
	th = d.on(d.writer, "firmware/sampler.c", "")[0]
	get[server.ThreadInfo](d.writer, "PUT", fmt.Sprintf("%s/annotations/%d/state", d.at, th.ID), any2{"state": "resolved", "answer": th.Replies[0].ID})
	d.write(d.writer, any2{"kind": "symbol", "path": "firmware/sampler.c", "symbol": "take_median"}, "a symbol")
	d.write(d.writer, any2{"kind": "folder", "path": "firmware"}, "a folder")
	d.write(d.writer, any2{"kind": "repository"}, "all")
	_, document := d.writer.do("GET", d.at+"/notes/annotations", nil)
	assert.Contains(t, document, `"exact":`)

	again := get[server.BroughtInfo](d.writer, "POST", d.at+"/notes/annotations", raw(document))
	assert.Equal(t, []int{0, 4, 0}, []int{again.Added, again.There, again.Passed}, "what is here already is passed over")
	other := d.surveyed(d.keeper)
	to := fmt.Sprintf("/api/repositories/%d", other)
	require.NoError(t, d.store.SetRole(ctx, other, d.writer.person.ID, store.Writer))
	status, _ := d.reader.do("POST", to+"/notes/annotations", raw(document))
	assert.Equal(t, 404, status, "a stranger there")
	took := get[server.BroughtInfo](d.writer, "POST", to+"/notes/annotations", raw(document))
	assert.Equal(t, []int{4, 0, 0}, []int{took.Added, took.There, took.Passed})
	_, back := d.writer.do("GET", to+"/notes/annotations", nil)
	assert.ElementsMatch(t, strings.Split(document, "\n"), strings.Split(back, "\n"), "without loss")
	there := get[server.OnPath](d.writer, "GET", to+"/annotations?path=firmware/sampler.c", nil).Threads
	require.Len(t, there, 2)
	_, digest := d.writer.do("GET", to+"/notes/digest", nil)
	assert.Contains(t, digest, "> **Kip Marrow**")
	assert.Contains(t, digest, "`firmware/sampler.c:15-17`")

	for text, want := range map[string]int{"nonsense": 422, `{"items":[]}`: 422, `[{"id":"x","body":"y","target":"https://elsewhere.example"}]`: 200} {
		status, answer := d.writer.do("POST", to+"/notes/annotations", raw(text))
		assert.Equal(t, want, status, answer)
	}
	// every quote is a piece of its file, and one that comes alone is found by it
	source, err := os.ReadFile("../demo/_marshgauge/firmware/sampler.c")
	require.NoError(t, err)
	var page struct {
		Items []struct {
			Target json.RawMessage `json:"target"`
		} `json:"items"`
	}
	require.NoError(t, json.Unmarshal([]byte(document), &page))
	quoted := 0
	for _, item := range page.Items {
		var target struct {
			Selector []struct{ Type, Prefix, Exact, Suffix string } `json:"selector"`
		}
		_ = json.Unmarshal(item.Target, &target) // a reply's is a name
		for _, sel := range target.Selector {
			if sel.Type == "TextQuoteSelector" {
				quoted++
				assert.Contains(t, string(source), sel.Prefix+sel.Exact+sel.Suffix)
			}
		}
	}
	assert.Equal(t, 2, quoted)
	for name, c := range map[string]struct {
		selector   string
		start, end int // 0: it is told as a problem
	}{
		"a quote alone":                {`{"type":"TextQuoteSelector","exact":"return median_of(window, SAMPLES);"}`, 1, 1},
		"a quote of several lines":     {`{"type":"TextQuoteSelector","exact":"SAMPLES);\n}"}`, 1, 2},
		"a quote that is nowhere":      {`{"type":"TextQuoteSelector","exact":"nothing of the kind"}`, 0, 0},
		"positions alone":              {`{"type":"TextPositionSelector","start":0,"end":3}`, 1, 1},
		"positions behind the end":     {`{"type":"TextPositionSelector","start":0,"end":300000}`, 0, 0},
		"a selector nobody knows here": {`{"type":"XPathSelector","value":"/a"}`, 0, 0},
	} {
		t.Run(name, func(t *testing.T) {
			uid := strings.ReplaceAll(name, " ", "-")
			took := get[server.BroughtInfo](d.writer, "POST", to+"/notes/annotations", raw(fmt.Sprintf(`[{"id":%q,"body":"x","target":{"source":"firmware/sampler.c","selector":%s}}]`, uid, c.selector)))
			if c.start == 0 {
				assert.Equal(t, []int{0, 1}, []int{took.Added, took.Passed})
				require.Len(t, took.Problems, 1)
				return
			}
			require.Equal(t, 1, took.Added, "%v", took.Problems)
			for _, x := range get[server.OnPath](d.writer, "GET", to+"/annotations?path=firmware/sampler.c", nil).Threads {
				if x.UID == uid {
					assert.Equal(t, []any{"lines", c.end - c.start}, []any{x.Target.Kind, x.Placed.End - x.Placed.Start})
					assert.Contains(t, x.Target.Quote.Exact, map[bool]string{true: "SAMPLES", false: "#include"}[strings.Contains(name, "quote")])
				}
			}
		})
	}
	// a commit that this copy does not have: the place is found by the quoted text
	foreign := strings.ReplaceAll(strings.ReplaceAll(document, th.Target.Commit, strings.Repeat("ab", 20)), "annotation:", "annotation:far-")
	get[server.BroughtInfo](d.writer, "POST", to+"/notes/annotations", raw(foreign))
	var found *server.ThreadInfo
	for _, x := range get[server.OnPath](d.writer, "GET", to+"/annotations?path=firmware/sampler.c", nil).Threads {
		if strings.HasPrefix(x.UID, "far-") && x.Kind == "question" {
			found = &x
		}
	}
	require.NotNil(t, found)
	assert.Equal(t, []int{15, 17}, []int{found.Placed.Start, found.Placed.End})

	feed := get[server.FeedAddress](d.writer, "POST", to+"/feed", nil)
	_, atom := d.nobody().do("GET", feed.Path+"/threads", nil)
	assert.Contains(t, atom, "<title>Why? #cold</title>")
}
