package server_test

import (
	"bytes"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo"
	"juxtagram/server"
	"juxtagram/store"
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

func TestACommitIsToldWhole(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	dir := filepath.Join(h.roots, "marshgauge.git")
	for _, id := range strings.Fields(git(t, dir, "rev-list", "--max-count=40", "--all")) {
		x := get[server.CommitInfo](c, "GET", at+"/commits/"+id, nil)
		assert.Equal(t, git(t, dir, "log", "-1", "--format=%s", id), x.Subject)
		assert.Equal(t, git(t, dir, "log", "-1", "--format=%b", id), x.Message)
		assert.Equal(t, git(t, dir, "log", "-1", "--format=%aI", id), x.Author.At.Format("2006-01-02T15:04:05-07:00"))
		assert.ElementsMatch(t, strings.Fields(git(t, dir, "tag", "--contains", id)), x.Tags)
		var parents []string
		for _, p := range x.Parents {
			parents = append(parents, p.ID)
		}
		assert.Equal(t, strings.Fields(git(t, dir, "log", "-1", "--format=%P", id)), parents)
		base := "4b825dc642cb6eb9a060e54bf8d69288fbee4904" // nothing
		if len(parents) > 0 {
			base = parents[0]
		}
		got := []string{}
		for _, y := range x.Changes {
			got = append(got, y.Path)
		}
		assert.Equal(t, strings.Fields(git(t, dir, "diff-tree", "-r", "-M", "--name-only", base, id)), got, id)
	}
	status, _ := c.do("GET", at+"/commits/ffffffffffffffffffffffffffffffffffffffff", nil)
	assert.Equal(t, 404, status)
}

// The pieces of a diff, shown whole, are both texts.
func TestADiffHoldsBothTexts(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	dir := filepath.Join(h.roots, "marshgauge.git")
	seen := 0
	for _, line := range strings.Split(git(t, dir, "diff", "--numstat", "--no-renames", "v1.1.0", "v1.4.0"), "\n") {
		f := strings.Split(line, "\t")
		if f[0] == "-" {
			continue
		}
		q := url.Values{"path": {f[2]}, "from": {"v1.1.0"}, "to": {"v1.4.0"}, "context": {"10000000"}}
		d := get[server.DiffInfo](c, "GET", at+"/diff?"+q.Encode(), nil)
		assert.Equal(t, f[0]+" "+f[1], fmt.Sprint(d.Added, " ", d.Deleted), f[2])
		if d.Large {
			continue
		}
		var old, now []string
		for _, p := range d.Pieces {
			require.NotEqual(t, "hidden", p.Kind)
			assert.Equal(t, len(old)+1, p.OldStart, f[2])
			assert.Equal(t, len(now)+1, p.NewStart, f[2])
			for _, l := range p.Same {
				old, now = append(old, l.Text), append(now, l.Text)
			}
			for _, l := range p.Removed {
				old = append(old, l.Text)
			}
			for _, l := range p.Added {
				now = append(now, l.Text)
			}
		}
		for side, lines := range map[string][]string{"v1.1.0": old, "v1.4.0": now} {
			cmd := exec.Command("git", "--git-dir="+dir, "show", side+":"+f[2])
			cmd.Env = repo.Environ()
			text, _ := cmd.Output() // it may not be there
			if len(lines) > 0 {
				assert.Equal(t, strings.TrimSuffix(string(text), "\n"), strings.Join(lines, "\n"), side+":"+f[2])
			}
		}
		// with some lines around, the rest is hidden and counted
		few := get[server.DiffInfo](c, "GET", at+"/diff?"+strings.Replace(q.Encode(), "context=10000000", "context=2", 1), nil)
		lines := 0
		for _, p := range few.Pieces {
			lines += len(p.Same) + len(p.Added)
			if p.Kind == "hidden" {
				lines += p.Count
				assert.Greater(t, p.Count, 3, "a gap that hides next to nothing is none")
			}
		}
		assert.Equal(t, len(now), lines, f[2])
		seen++
	}
	assert.Greater(t, seen, 20)
}

func TestLineHistoryIsWhatGitSays(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	dir := filepath.Join(h.roots, "marshgauge.git")
	lines := func(x server.LineHistoryInfo) (out []string) {
		for _, r := range x.Runs {
			for n := range r[1] {
				out = append(out, fmt.Sprintf("%s %d", x.Commits[r[0]].ID, r[2]+n))
			}
		}
		return out
	}
	head := regexp.MustCompile(`(?m)^([0-9a-f]{40}) (\d+) \d+( \d+)?$`)
	theirs := func(args ...string) (out []string) {
		for _, m := range head.FindAllStringSubmatch(git(t, dir, append([]string{"blame", "--line-porcelain"}, args...)...), -1) {
			out = append(out, m[1]+" "+m[2])
		}
		return out
	}
	for _, p := range []string{"firmware/sampler.c", "collector/ingest/frame.go", "board/src/tide_curve.ts", "README.md", "docs/architecture.md"} {
		got := get[server.LineHistoryInfo](c, "GET", at+"/line-history?path="+p, nil)
		assert.Equal(t, theirs("v1.4.0", "--", p), lines(got), p)
		again := get[server.LineHistoryInfo](c, "GET", at+"/line-history?path="+p, nil)
		assert.Equal(t, got, again, "kept")
		for _, x := range got.Commits {
			assert.True(t, x.Youth >= 0 && x.Youth <= 1)
			assert.NotEmpty(t, x.Person)
		}
		old := get[server.LineHistoryInfo](c, "GET", at+"/line-history?at=v1.3.0&path="+p, nil)
		assert.Equal(t, theirs("v1.3.0", "--", p), lines(old), p)
		// behind a commit
		past := got.Commits[0].ID
		behind := get[server.LineHistoryInfo](c, "GET", at+"/line-history?path="+p+"&past="+past, nil)
		assert.Equal(t, theirs("--ignore-rev", past, "v1.4.0", "--", p), lines(behind), p)
		assert.Equal(t, "asked", behind.Ignored[0].Why)
	}
	binary := get[server.LineHistoryInfo](c, "GET", at+"/line-history?path=docs/img/gauge.png", nil)
	assert.NotEmpty(t, binary.Unshown)
}

func TestAStoryFollowsAFileAndASymbol(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	at := fmt.Sprintf("/api/repositories/%d", h.surveyed(c))
	dir := filepath.Join(h.roots, "marshgauge.git")
	ids := func(s server.StoryOf) (out []string) {
		for _, r := range s.Rows {
			out = append(out, r.ID)
		}
		return out
	}
	for _, p := range []string{"firmware/sampler.c", "board/src/tide_curve.ts", "collector/ingest/frame.go"} {
		s := get[server.StoryOf](c, "GET", at+"/log/file?path="+p, nil)
		assert.Equal(t, strings.Fields(git(t, dir, "log", "--follow", "--no-merges", "--format=%H", "v1.4.0", "--", p)), ids(s), p)
		assert.NotEmpty(t, s.Heat)
		total := 0
		for _, x := range s.Heat {
			assert.True(t, x.Part >= 0 && x.Part < 24 && x.When >= 0 && x.When < 12)
			total += x.Lines
		}
		assert.Positive(t, total)
	}
	renamed := get[server.StoryOf](c, "GET", at+"/log/file?path=board/src/tide_curve.ts", nil)
	assert.True(t, func() bool {
		for _, r := range renamed.Rows {
			if r.OldPath != "" {
				return true
			}
		}
		return false
	}(), "its name before is told")
	// a symbol's lines, followed back
	median := get[server.StoryOf](c, "GET", at+"/log/file?path=firmware/sampler.c&symbol=take_median", nil)
	var subjects []string
	for _, r := range median.Rows {
		subjects = append(subjects, r.Subject)
	}
	assert.Equal(t, []string{"A flag for cold readings", "Retry without counting the sample", "Keep the previous reading for comparison", "Send the battery along", "Four spaces everywhere in the firmware", "Why Saltern was silent on cold mornings", "Settle longer, and say why"}, subjects)
	log := get[server.LogPage](c, "GET", at+"/log?"+keep("symbol:firmware/sampler.c#take_median"), nil)
	assert.Equal(t, len(subjects), log.Total)
	status, _ := c.do("GET", at+"/log/file?path=firmware/sampler.c&symbol=nowhere", nil)
	assert.Equal(t, 404, status)
}

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
	joined := get[server.KnowersInfo](c, "GET", at+"/knowers?path=firmware", nil)
	assert.Len(t, joined.People, len(all.People)-1)
	assert.InDelta(t, a.Weight+b.Weight, joined.People[0].Weight, 0.001, "no commit of both")
	log := get[server.LogPage](c, "GET", at+"/log?limit=500&"+keep("by:"+a.Name), nil)
	both := get[server.LogPage](c, "GET", at+"/log?limit=500&"+keep("by:"+b.Name), nil)
	assert.Equal(t, log.Total, both.Total, "either name finds the person")
	status, _ := c.do("POST", at+"/people-joined", map[string]any{"from": b.OtherName, "to": map[string]string{"name": "Nobody", "email": "n@x.test"}})
	assert.Equal(t, 422, status)
	// and two again
	joins := get[[]server.JoinInfo](c, "GET", at+"/people-joined", nil)
	require.Len(t, joins, 1)
	get[struct{}](c, "DELETE", fmt.Sprintf("%s/people-joined/%d", at, joins[0].ID), nil)
	again := get[server.KnowersInfo](c, "GET", at+"/knowers?path=firmware", nil)
	assert.Len(t, again.People, len(all.People))
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

// New commits come by a signed call; the pin stays, and stays readable after
// its branch was rewritten.
func TestNewCommitsAreFetchedAndThePinStays(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	dir := filepath.Join(h.roots, "work")
	require.NoError(t, os.MkdirAll(dir, 0o755))
	in := func(args ...string) string {
		cmd := exec.Command("git", args...)
		cmd.Dir = dir
		cmd.Env = repo.Environ("GIT_AUTHOR_NAME=Ona", "GIT_AUTHOR_EMAIL=o@x.test", "GIT_COMMITTER_NAME=Ona", "GIT_COMMITTER_EMAIL=o@x.test")
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
		return strings.TrimSpace(string(out))
	}
	write := func(text string) { require.NoError(t, os.WriteFile(filepath.Join(dir, "a.go"), []byte(text), 0o644)) }
	in("init", "-q", "-b", "main")
	write("package a\n")
	in("add", ".")
	in("commit", "-q", "-m", "one")
	id := h.surveyedAt(c, dir, "main")
	at := fmt.Sprintf("/api/repositories/%d", id)
	pin := in("rev-parse", "HEAD")
	assert.Equal(t, 1, get[server.LogPage](c, "GET", at+"/log", nil).Total)

	write("package a // not committed, and so never read\n")
	in("commit", "-q", "--allow-empty", "-m", "two")
	hook := get[server.HookInfo](c, "POST", at+"/hook", nil)
	call := func(secret, body string) int {
		mac := hmac.New(sha256.New, []byte(secret))
		mac.Write([]byte(body))
		r, err := http.NewRequest("POST", h.url+hook.Path, strings.NewReader(body))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Juxtagram-Signature", "sha256="+hex.EncodeToString(mac.Sum(nil)))
		answer, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		defer answer.Body.Close()
		_, _ = io.Copy(io.Discard, answer.Body)
		return answer.StatusCode
	}
	assert.Equal(t, 401, call("another secret", "{}"))
	assert.Equal(t, 202, call(hook.Secret, `{"ref":"refs/heads/main"}`))
	fetched := func(ok func(server.NewsInfo) bool) server.NewsInfo {
		var n server.NewsInfo
		require.Eventually(t, func() bool {
			n = get[server.NewsInfo](c, "GET", at+"/news", nil)
			return !n.Fetching && ok(n)
		}, 20*time.Second, 20*time.Millisecond, "%+v", n)
		return n
	}
	n := fetched(func(n server.NewsInfo) bool { return n.Ahead == 1 })
	require.Len(t, n.News, 1)
	assert.Equal(t, "moved", n.News[0].What)
	assert.Equal(t, pin, get[server.RepositoryInfo](c, "GET", at, nil).Pin)
	log := get[server.LogPage](c, "GET", at+"/log", nil)
	assert.Equal(t, 2, log.Total)
	assert.Equal(t, 1, log.PinRow)

	// the branch is rewritten
	in("checkout", "-q", "--orphan", "other")
	in("commit", "-q", "-m", "another beginning", "--allow-empty")
	in("branch", "-q", "-M", "main")
	get[struct{}](c, "POST", at+"/fetch", nil)
	n = fetched(func(n server.NewsInfo) bool { return len(n.News) == 1 && n.News[0].What == "rewritten" })
	assert.Empty(t, n.Problem)
	lines := get[server.LinesInfo](c, "GET", at+"/lines?path=a.go", nil)
	assert.Equal(t, "package a", lines.Lines[0].Text, "the pin stays readable")
	require.Eventually(t, func() bool { return get[server.LogPage](c, "GET", at+"/log", nil).Total == 2 }, 20*time.Second, 20*time.Millisecond, "what the branch holds now, and the pin")
	assert.True(t, get[server.CommitInfo](c, "GET", at+"/commits/"+pin, nil).Known)
	// a source that has gone is told
	require.NoError(t, os.Rename(dir, dir+"-gone"))
	get[struct{}](c, "POST", at+"/fetch", nil)
	fetched(func(n server.NewsInfo) bool { return n.Problem != "" })
	get[struct{}](c, "DELETE", at+"/hook", nil)
	assert.Equal(t, 401, call(hook.Secret, "{}"))
}

func TestAFeedHoldsNewCommitsOnWatchedPaths(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	id := h.surveyed(c)
	reader := h.person("reader", false)
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.Reader))
	made := get[server.FeedAddress](reader, "POST", fmt.Sprintf("/api/repositories/%d/feed", id), nil)
	read := func(path string) (int, []byte) {
		answer, err := http.Get(h.url + path)
		require.NoError(t, err)
		defer answer.Body.Close()
		b, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer.StatusCode, b
	}
	status, text := read(made.Path + "?" + keep("path:firmware/"))
	require.Equal(t, 200, status)
	var feed struct {
		XMLName xml.Name `xml:"http://www.w3.org/2005/Atom feed"`
		ID      string   `xml:"id"`
		Updated string   `xml:"updated"`
		Entries []struct {
			Title   string `xml:"title"`
			Updated string `xml:"updated"`
			ID      string `xml:"id"`
		} `xml:"entry"`
	}
	require.NoError(t, xml.Unmarshal(text, &feed))
	want := strings.Split(git(t, filepath.Join(h.roots, "marshgauge.git"), "log", "--date-order", "--no-merges", "--full-history", "--format=%s", "--branches", "--tags", "-n", "60", "--", "firmware"), "\n")
	require.Len(t, feed.Entries, len(want))
	for n, e := range feed.Entries {
		assert.Equal(t, want[n], e.Title)
		_, err := time.Parse(time.RFC3339, e.Updated)
		assert.NoError(t, err)
	}
	// whoever may not read any more reads nothing
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.NoRole))
	status, _ = read(made.Path)
	assert.Equal(t, 404, status)
}

// Histories that no tool would write on a good day.
func TestOddHistoriesAreShown(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	var in bytes.Buffer
	commit := func(ref string, mark int, who string, when int64, message string, parents ...int) {
		fmt.Fprintf(&in, "commit refs/heads/%s\nmark :%d\nauthor %s %d +0545\ncommitter %s %d -0930\ndata %d\n%s\n", ref, mark, who, when, who, when, len(message), message)
		for n, p := range parents {
			fmt.Fprintf(&in, "%s :%d\n", map[bool]string{true: "from", false: "merge"}[n == 0], p)
		}
	}
	file := func(path, text string) {
		fmt.Fprintf(&in, "M 100644 inline %s\ndata %d\n%s\n", path, len(text), text)
	}
	const ona = "Ona <o@x.test>"
	commit("main", 1, ona, 1_700_000_000, "first")
	file("README.md", "hello\n")
	file("Case.txt", "case\n")
	fmt.Fprint(&in, "reset refs/heads/root\n\n")
	commit("root", 2, "\xff\xfe\x1f odd <\xe9@x.test>", 1_700_000_100, "another root\n\n"+strings.Repeat("a long message ", 70_000))
	file("other.txt", "x\n")
	commit("main", 3, " <>", 1_700_000_200, "", 1) // nobody, saying nothing, changing nothing
	commit("b", 4, ona, 4_000_000_000, "from the future", 1)
	file("b.txt", "b\n")
	commit("c", 5, ona, 1, "before anything", 1)
	file("c.txt", "c\n")
	commit("main", 6, ona, 1_700_000_300, "octopus", 3, 4, 5, 2)
	for _, p := range []string{"b", "c", "other"} {
		file(p+".txt", p+"\n")
	}
	commit("x", 7, ona, 1_700_000_400, "left", 6)
	file("x.txt", "1\n")
	commit("y", 8, ona, 1_700_000_500, "right", 6)
	file("y.txt", "1\n")
	commit("x", 9, ona, 1_700_000_600, "criss", 7, 8)
	file("y.txt", "1\n")
	commit("y", 10, ona, 1_700_000_700, "cross", 8, 7)
	file("x.txt", "1\n")
	commit("main", 11, ona, 1_700_000_800, "case only", 6)
	fmt.Fprint(&in, "R Case.txt case.txt\n\n")
	commit("main", 12, ona, 1_700_000_900, "odd names", 11)
	file("\"na\\303me\\377\\n.txt\"", "z\n")
	fmt.Fprint(&in, "\nreset refs/tags/v1.0.0\nfrom :12\n\n")
	for _, format := range []string{"sha1", "sha256"} {
		dir := filepath.Join(h.roots, format+".git")
		require.NoError(t, exec.Command("git", "init", "-q", "--bare", "--object-format="+format, "-b", "main", dir).Run())
		cmd := exec.Command("git", "--git-dir="+dir, "fast-import", "--quiet", "--force")
		cmd.Stdin = bytes.NewReader(in.Bytes())
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
		// what stands in for a commit elsewhere does not count here
		git(t, dir, "replace", git(t, dir, "rev-parse", "main~1"), git(t, dir, "rev-parse", "b"))
		at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, dir, "v1.0.0"))
		var log server.LogPage
		require.Eventually(t, func() bool {
			log = get[server.LogPage](c, "GET", at+"/log?limit=500", nil)
			return log.Unread == 0 && log.Total == 12
		}, 20*time.Second, 20*time.Millisecond)
		assert.Equal(t, strings.Fields(git(t, dir, "rev-list", "--date-order", "--branches", "--tags")), func() (out []string) {
			for _, r := range log.Rows {
				out = append(out, r.ID)
			}
			return out
		}())
		for _, r := range log.Rows {
			x := get[server.CommitInfo](c, "GET", at+"/commits/"+r.ID, nil)
			if x.Subject == "another root" {
				assert.Len(t, x.Message, len(strings.TrimRight(strings.Repeat("a long message ", 70_000), "\n")))
				assert.Zero(t, x.Against)
			}
			for n := range x.Parents {
				y := get[server.CommitInfo](c, "GET", fmt.Sprintf("%s/commits/%s?against=%d", at, r.ID, n+1), nil)
				assert.Equal(t, n+1, y.Against)
				for _, f := range y.Changes {
					q := url.Values{"path": {f.Path}, "old_path": {f.OldPath}, "from": {x.Parents[n].ID}, "to": {r.ID}}
					get[server.DiffInfo](c, "GET", at+"/diff?"+q.Encode(), nil)
				}
			}
			if x.Subject == "octopus" {
				assert.Len(t, x.Parents, 4)
			}
		}
		found := get[server.LogPage](c, "GET", at+"/log?"+keep("message:message long a"), nil)
		assert.Equal(t, 1, found.Total)
		renamed := get[server.StoryOf](c, "GET", at+"/log/file?path=case.txt", nil)
		assert.Equal(t, "Case.txt", renamed.Rows[0].OldPath)
	}
}

func TestAShallowHistoryIsTold(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	h.surveyed(c)
	dir := filepath.Join(h.roots, "shallow.git")
	cmd := exec.Command("git", "clone", "-q", "--bare", "--depth", "5", "file://"+filepath.Join(h.roots, "marshgauge.git"), dir)
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, dir, "main"))
	log := get[server.LogPage](c, "GET", at+"/log", nil)
	require.Equal(t, 5, log.Total)
	last := log.Rows[4]
	assert.True(t, last.CutOff)
	x := get[server.CommitInfo](c, "GET", at+"/commits/"+last.ID, nil)
	assert.True(t, x.CutOff)
	assert.Empty(t, x.Changes)
	lines := get[server.LineHistoryInfo](c, "GET", at+"/line-history?path=README.md", nil)
	assert.NotEmpty(t, lines.Runs)
}
