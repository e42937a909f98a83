package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/server"
	"juxtagram/store"
)

// bad are values that no parameter can mean, as they are sent.
func bad() map[string]string {
	return map[string]string{
		"NUL": "a%00b", "invalid UTF-8": "a%FFb", "1 MB": strings.Repeat("x", 1<<20), "negative": "-9223372036854775808", "huge": "9223372036854775807",
		"beyond": "99999999999999999999999999", "dots": "..%2F..%2F..%2Fetc%2Fpasswd", "half an escape": "%zz", "a newline": "a%0Ab", "a quote": "%27%22%3B--", "empty": "",
	}
}

// Every parameter of every route, with values that it cannot mean: none is answered as if
// the server had failed.
func TestEveryParameterWithOddValues(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	id := h.surveyed(owner)
	plan := h.published(owner, id, "shared").ID
	fill := strings.NewReplacer("{repository}", fmt.Sprint(id), "{plan}", fmt.Sprint(plan), "{person}", fmt.Sprint(owner.person.ID), "{token}", "none", "{commit}", "v1.4.0", "{edition}", "1")
	good := url.Values{"path": {"README.md"}, "text": {"x"}, "from": {"1"}, "to": {"3"}}
	tried := 0
	for path, item := range server.Describe().Paths {
		for method, op := range operations(item) {
			if op.OperationID == "get-events" || op.OperationID == "post-sign-out" || method == "DELETE" && path == "/api/repositories/{repository}" {
				continue
			}
			for _, p := range op.Parameters {
				for what, value := range bad() {
					where, query := path, url.Values{}
					for k, v := range good {
						query[k] = v
					}
					raw := ""
					switch p.In {
					case "path":
						if value == "" || len(value) > 1<<15 {
							continue
						}
						where = strings.Replace(path, "{"+p.Name+"}", value, 1)
					case "query":
						query.Del(p.Name)
						raw = "&" + url.QueryEscape(p.Name) + "=" + value
					default:
						continue
					}
					status := owner.ask(method, fill.Replace(where)+"?"+query.Encode()+raw, body(op))
					tried++
					assert.Positive(t, status, "%s %s: %s of %s was not answered", method, path, what, p.Name)
					assert.Less(t, status, 500, "%s %s: %s of %s", method, path, what, p.Name)
					if what == "NUL" || what == "invalid UTF-8" {
						assert.Contains(t, []int{400, 404}, status, "%s %s: %s of %s", method, path, what, p.Name)
					}
				}
			}
		}
	}
	assert.Greater(t, tried, 2000)
}

func body(op *huma.Operation) string {
	b, err := json.Marshal(bodies[op.OperationID])
	if err != nil || bodies[op.OperationID] == nil {
		return "{}"
	}
	return string(b)
}

// ask sends an address as it is written, and tells the status.
func (c *client) ask(method, where, body string) int {
	r, err := http.NewRequest(method, c.h.url, strings.NewReader(body))
	if err != nil {
		return 0
	}
	path, query, _ := strings.Cut(where, "?")
	r.URL.Opaque = strings.TrimPrefix(c.h.url, "http:") + path
	r.URL.RawQuery = query
	r.Header.Set("Content-Type", "application/json")
	answer, err := c.http.Do(r)
	if err != nil {
		return 0
	}
	defer answer.Body.Close()
	return answer.StatusCode
}

// Bodies with texts that no record can keep are refused wherever they are sent.
func TestEveryBodyWithOddTexts(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	id := h.surveyed(owner)
	plan := h.published(owner, id, "shared").ID
	fill := strings.NewReplacer("{repository}", fmt.Sprint(id), "{plan}", fmt.Sprint(plan), "{person}", fmt.Sprint(owner.person.ID), "{token}", "none")
	tried := 0
	for path, item := range server.Describe().Paths {
		for method, op := range operations(item) {
			full := body(op)
			if op.RequestBody == nil || op.RequestBody.Content["application/json"] == nil || !strings.Contains(full, `"`) {
				continue
			}
			for what, odd := range map[string]string{"NUL": strings.Replace(full, `"`, `"\u0000`, 1), "NUL in a value": strings.Replace(full, `:"`, `:"\u0000`, 1), "invalid UTF-8": strings.Replace(full, `"`, "\"\xff", 1), "half": full[:len(full)/2], "nested": strings.Repeat("[", 100_000)} {
				if odd == full {
					continue
				}
				tried++
				status := owner.ask(method, fill.Replace(path), odd)
				assert.GreaterOrEqual(t, status, 400, "%s %s: %s", method, path, what)
				assert.Less(t, status, 500, "%s %s: %s", method, path, what)
			}
		}
	}
	assert.Greater(t, tried, 50)
	status := owner.ask("POST", "/api/repositories", `{"source":"a \\u0000 that is no NUL, and no address"}`)
	assert.Equal(t, 422, status)
}

// A submodule, a folder, and a path that leads out are no files, and said so.
func TestPathsThatAreNoFiles(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	src := repotest.New(t)
	src.Write("sub/a.go", "package a\n").Commit("one")
	src.Git("update-index", "--add", "--cacheinfo", "160000,"+strings.Repeat("1", 40)+",module")
	src.Git("commit", "-q", "-m", "two")
	at := filepath.Join(h.roots, "m")
	require.NoError(t, os.Rename(src.Dir, at))
	made := get[server.ShelfItem](owner, "POST", "/api/repositories", map[string]string{"source": at})
	base := fmt.Sprintf("/api/repositories/%d", made.ID)
	await(t, func() bool { return get[server.RepositoryInfo](owner, "GET", base, nil).State == store.NeedsPin })
	get[server.SurveyInfo](owner, "PUT", base+"/pin", map[string]string{"pin": "main"})
	await(t, func() bool { return get[server.RepositoryInfo](owner, "GET", base, nil).Survey == store.Complete })
	for _, what := range []string{"text", "lines", "tokens", "outline", "skim", "readme", "picture"} {
		for _, path := range []string{"module", "module/x", "sub", "../m/sub/a.go", "sub/../sub/a.go", "/sub/a.go", "./sub/a.go", ".", ".."} {
			for _, commit := range []string{"", "&at=main"} {
				status, text := owner.do("GET", base+"/"+what+"?path="+url.QueryEscape(path)+commit, nil)
				assert.GreaterOrEqual(t, status, 400, "%s of %q%s: %s", what, path, commit, text)
				assert.Less(t, status, 500, "%s of %q%s: %s", what, path, commit, text)
			}
		}
	}
}
