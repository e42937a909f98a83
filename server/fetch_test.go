package server_test

import (
	"bytes"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/hex"
	"encoding/xml"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo"
	"juxtagram/server"
	"juxtagram/store"
)

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
	now := time.Now()
	call := func(secret, body string) int {
		mac := hmac.New(sha256.New, []byte(secret))
		seconds := fmt.Sprint(now.Unix())
		mac.Write([]byte(seconds + "." + body))
		r, err := http.NewRequest("POST", h.url+hook.Path, strings.NewReader(body))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Juxtagram-Signature", "t="+seconds+",sha256="+hex.EncodeToString(mac.Sum(nil)))
		answer, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		defer answer.Body.Close()
		_, _ = io.Copy(io.Discard, answer.Body)
		return answer.StatusCode
	}
	assert.Equal(t, 401, call("another secret", "{}"))
	for _, late := range []time.Duration{-6 * time.Minute, 6 * time.Minute} {
		now = time.Now().Add(late)
		assert.Equal(t, 401, call(hook.Secret, "{}"), "signed for another time")
	}
	now = time.Now()
	assert.Equal(t, 202, call(hook.Secret, `{"ref":"refs/heads/main"}`))
	assert.Equal(t, 401, call(hook.Secret, `{"ref":"refs/heads/main"}`), "each is taken once")
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
		notes := get[server.RepositoryInfo](c, "GET", at, nil).Notes
		require.Len(t, notes, 1)
		assert.Contains(t, notes[0], "refs/replace")
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

// A commit may say any time: what no calendar holds is shown at its nearest end.
func TestTimesThatNoCalendarHolds(t *testing.T) {
	h := open(t)
	c := h.person("owner", true)
	dir := filepath.Join(h.roots, "times.git")
	require.NoError(t, exec.Command("git", "init", "-q", "--bare", "-b", "main", dir).Run())
	write := func(kind, text string) string {
		cmd := exec.Command("git", "--git-dir="+dir, "hash-object", "-t", kind, "-w", "--stdin", "--literally")
		cmd.Stdin = strings.NewReader(text)
		out, err := cmd.Output()
		require.NoError(t, err)
		return strings.TrimSpace(string(out))
	}
	tree, parent := write("tree", ""), ""
	for _, when := range []string{"-100000 +0000", "99999999999999999999 +0000", "1700000000 +9999", "none"} {
		parent = write("commit", fmt.Sprintf("tree %s\n%sauthor Ona <o@x.test> %s\ncommitter Ona <o@x.test> %s\n\nat %s\n", tree, parent, when, when, when))
		git(t, dir, "update-ref", "refs/heads/main", parent)
		parent = "parent " + parent + "\n"
	}
	at := fmt.Sprintf("/api/repositories/%d", h.surveyedAt(c, dir, "main"))
	log := get[server.LogPage](c, "GET", at+"/log", nil)
	var years []int
	for _, r := range log.Rows {
		years = append(years, r.Time.Year())
		get[server.CommitInfo](c, "GET", at+"/commits/"+r.ID, nil)
	}
	assert.Equal(t, []int{1970, 2023, 9999, 1970}, years)
	get[server.RefList](c, "GET", at+"/refs", nil)
	get[server.CompareInfo](c, "GET", at+"/compare?from="+log.Rows[3].ID+"&to=main", nil)
	assert.Equal(t, 1, get[server.LogPage](c, "GET", at+"/log?"+keep("from:9999"), nil).Total)
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
	some := false
	for _, x := range lines.Commits {
		some = some || x.CutOff
	}
	assert.True(t, some, "lines that are as old as the history, or older")
}
