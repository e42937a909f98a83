package server_test

import (
	"encoding/json"
	"fmt"
	"net/url"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo"
	"juxtagram/server"
)

// keep writes terms for an address.
func keep(terms ...string) string {
	q := url.Values{}
	for _, t := range terms {
		if term, not := strings.CutPrefix(t, "!"); not {
			q.Add("drop", term)
		} else {
			q.Add("keep", t)
		}
	}
	return q.Encode()
}

// git asks git itself about a repository.
func git(t *testing.T, dir string, args ...string) string {
	t.Helper()
	cmd := exec.Command("git", append([]string{"--git-dir=" + dir}, args...)...)
	cmd.Env = repo.Environ()
	out, err := cmd.Output()
	require.NoError(t, err, "git %v", args)
	return strings.TrimRight(string(out), "\n")
}

func TestTheLogIsNarrowedByTermsTogether(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	dir := filepath.Join(h.roots, "marshgauge.git")
	log := func(terms ...string) server.LogPage {
		return get[server.LogPage](c, "GET", at+"/log?limit=500&"+keep(terms...), nil)
	}
	ids := func(p server.LogPage) (out []string) {
		for _, r := range p.Rows {
			out = append(out, r.ID)
		}
		return out
	}
	all := log()
	assert.Equal(t, strings.Fields(git(t, dir, "rev-list", "--date-order", "--branches", "--tags")), ids(all))
	assert.True(t, all.Lanes)
	assert.Equal(t, all.Total, all.All)
	assert.True(t, all.Rows[all.PinRow].Pin)
	cases := []struct {
		terms []string
		git   []string
	}{
		{[]string{"by:Oona Fell"}, []string{"--author=Oona Fell"}},
		{[]string{"path:firmware/"}, []string{"--no-merges", "--full-history", "--", "firmware"}},
		{[]string{"is:merge"}, []string{"--merges"}},
		{[]string{"!is:merge", "path:firmware/sampler.c", "by:Oona Fell"}, []string{"--no-merges", "--full-history", "--author=Oona Fell", "--", "firmware/sampler.c"}},
		{[]string{"tag:v1.2.0", "!tag:v1.1.0"}, []string{"v1.2.0", "^v1.1.0"}},
		{[]string{"from:2026-03", "to:2026-04-30"}, []string{"--since=2026-03-01T00:00:00Z", "--until=2026-04-30T23:59:59Z"}},
		{[]string{"message:DATASHEET"}, []string{"--grep=datasheet", "-i"}},
	}
	for _, x := range cases {
		args := []string{"rev-list", "--date-order"}
		if !strings.HasPrefix(x.git[0], "v") {
			args = append(args, "--branches", "--tags")
		}
		got := log(x.terms...)
		require.Empty(t, got.Problems)
		assert.Equal(t, strings.Fields(git(t, dir, append(args, x.git...)...)), ids(got), x.terms)
		assert.NotZero(t, got.Total)
	}
	// lanes are drawn only where nothing is left out
	assert.False(t, log("by:Oona Fell").Lanes)
	assert.True(t, log("tag:v1.2.0").Lanes)
	// an empty answer says which term leaves nothing
	none := log("by:Edda Sorrel", "path:firmware/sampler.c")
	assert.Zero(t, none.Total)
	require.Len(t, none.Terms, 2)
	assert.Positive(t, none.Terms[0].Without)
	assert.Positive(t, none.Terms[1].Alone)
	// what cannot be understood is told, and nothing else
	odd := log("by:Nobody", "from:someday", "shape:round")
	assert.Len(t, odd.Problems, 3)
	assert.Empty(t, odd.Rows)
	// a commit is found wherever it stands
	found := get[server.LogPage](c, "GET", at+"/log?limit=10&commit=v1.0.0", nil)
	assert.Equal(t, git(t, dir, "rev-parse", "v1.0.0^{commit}"), found.Rows[found.Found-found.Offset].ID)
	// only what is there is offered
	for _, o := range get[[]server.OfferInfo](c, "GET", at+"/log/offers?text=take_median", nil) {
		if o.Fits >= 0 {
			assert.Positive(t, o.Fits, o.Value)
		}
	}
	assert.NotEmpty(t, get[[]server.OfferInfo](c, "GET", at+"/log/offers?key=by", nil))
	assert.Len(t, get[[]server.KeyInfo](c, "GET", at+"/log/keys", nil), 12)
	// the whole as a table
	status, csv := c.do("GET", at+"/log/table?format=csv&"+keep("by:Oona Fell"), nil)
	assert.Equal(t, 200, status)
	assert.Equal(t, log("by:Oona Fell").Total+1, strings.Count(csv, "\n"))
	table := get[server.LogExport](c, "GET", at+"/log/table?format=json", nil)
	assert.Len(t, table.Commits, all.Total)
}

func TestWordsInChangedLinesComeAsTheyAreFound(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	dir := filepath.Join(h.roots, "marshgauge.git")
	ask := func(terms ...string) (ids []string, end *server.ChangedEnd) {
		status, text := c.do("GET", at+"/log/changed-lines?"+keep(terms...), nil)
		require.Equal(t, 200, status, text)
		for _, line := range strings.Split(strings.TrimSpace(text), "\n") {
			var x server.ChangedLine
			require.NoError(t, json.Unmarshal([]byte(line), &x))
			if x.Commit != nil {
				ids = append(ids, x.Commit.ID)
			}
			if x.End != nil {
				end = x.End
			}
		}
		require.NotNil(t, end)
		return ids, end
	}
	got, end := ask("lines:SETTLE_MS")
	assert.Equal(t, strings.Fields(git(t, dir, "log", "--date-order", "--branches", "--tags", "--no-merges", "--format=%H", "-i", "-Gsettle_ms")), got)
	assert.Equal(t, len(got), end.Found)
	assert.False(t, end.More)
	got, _ = ask("lines:settle_ms", "path:firmware/sampler.c")
	assert.Equal(t, strings.Fields(git(t, dir, "log", "--no-merges", "--format=%H", "-Gsettle_ms", "-i", "v1.4.0", "--", "firmware/sampler.c")), got)
	// signs that mean something to a pattern are taken as they are
	got, _ = ask("lines:take_median(sensor_t *s)")
	assert.NotEmpty(t, got)
	got, end = ask("lines:no such words anywhere")
	assert.Empty(t, got)
	assert.Positive(t, end.Read)
}
