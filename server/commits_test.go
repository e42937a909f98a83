package server_test

import (
	"fmt"
	"net/url"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo"
	"juxtagram/server"
)

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
