package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/demo"
	"juxtagram/jobs"
	"juxtagram/localpg/pgtest"
	"juxtagram/server"
	"juxtagram/store"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

var ctx = context.Background()

const password = "a long enough password"

// house is a whole installation behind an address.
type house struct {
	t      *testing.T
	store  *store.Store
	jobs   *jobs.Runner
	url    string
	roots  string
	server *server.Server
}

func open(t *testing.T) *house { return openWith(t, server.PersonLimits{}) }

func openWith(t *testing.T, limits server.PersonLimits) *house {
	t.Helper()
	s := pgtest.Store(t)
	roots := t.TempDir()
	r, err := jobs.New(s, jobs.Config{Data: t.TempDir(), Roots: []string{roots}, Key: make([]byte, 32), Logger: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	require.NoError(t, r.Start(ctx))
	background, stop := context.WithCancel(ctx)
	srv := server.New(background, s, r, server.Config{Roots: []string{roots}, Logger: slog.New(slog.DiscardHandler), UploadLimit: 1 << 20, Person: limits,
		Web: fstest.MapFS{"index.html": {Data: []byte(`<meta name="csp-nonce" content="__NONCE__">`)}, "assets/a.js": {Data: []byte("1")}}})
	h := httptest.NewServer(srv.Handler())
	t.Cleanup(func() {
		srv.Close()
		h.Close()
		require.NoError(t, r.Stop(ctx))
		stop()
	})
	return &house{t, s, r, h.URL, roots, srv}
}

// client is somebody with a browser of their own.
type client struct {
	h      *house
	http   *http.Client
	person *store.Person
}

var hashed = func() string {
	h, err := argon2id.CreateHash(password, &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 16})
	if err != nil {
		panic(err)
	}
	return h
}()

func (h *house) nobody() *client {
	jar, err := cookiejar.New(nil)
	require.NoError(h.t, err)
	return &client{h: h, http: &http.Client{Jar: jar, Timeout: 30 * time.Second}}
}

func (h *house) person(name string, owner bool) *client {
	p, err := h.store.AddPerson(ctx, store.Person{Name: name, Email: name + "@example.test", PasswordHash: hashed, Owner: owner, CreatedAt: time.Now()}, false)
	require.NoError(h.t, err)
	c := h.nobody()
	c.person = p
	c.signIn()
	return c
}

func (c *client) signIn() {
	status, body := c.do("POST", "/api/sign-in", map[string]string{"email": c.person.Email, "password": password})
	require.Equal(c.h.t, 200, status, body)
}

// raw is a request's body as it is.
type raw string

func (c *client) do(method, path string, body any) (int, string) {
	c.h.t.Helper()
	var in io.Reader
	if text, ok := body.(raw); ok {
		in = strings.NewReader(string(text))
	} else if body != nil {
		b, err := json.Marshal(body)
		require.NoError(c.h.t, err)
		in = bytes.NewReader(b)
	}
	r, err := http.NewRequest(method, c.h.url+path, in)
	require.NoError(c.h.t, err)
	r.Header.Set("Content-Type", "application/json")
	return c.send(r)
}

func (c *client) send(r *http.Request) (int, string) {
	answer, err := c.http.Do(r)
	require.NoError(c.h.t, err)
	defer answer.Body.Close()
	b, err := io.ReadAll(answer.Body)
	require.NoError(c.h.t, err)
	if answer.StatusCode >= 400 {
		assert.Contains(c.h.t, answer.Header.Get("Content-Type"), "application/problem+json", string(b))
	}
	return answer.StatusCode, string(b)
}

// get decodes an answer that must be good.
func get[T any](c *client, method, path string, body any) T {
	c.h.t.Helper()
	status, text := c.do(method, path, body)
	require.Less(c.h.t, status, 300, "%s %s: %s", method, path, text)
	var v T
	if text != "" {
		require.NoError(c.h.t, json.Unmarshal([]byte(text), &v))
	}
	return v
}

// surveyed is the demo, taken in, pinned and surveyed by a keeper.
func (h *house) surveyed(keeper *client) int64 {
	h.t.Helper()
	dir := filepath.Join(h.roots, "marshgauge.git")
	if _, err := os.Stat(dir); err != nil {
		require.NoError(h.t, demo.Build(ctx, dir))
	}
	return h.surveyedAt(keeper, dir, "v1.4.0")
}

// moved puts a repository where sources may be named, and is its path.
func (h *house) moved(r *repotest.Repo, name string) string {
	h.t.Helper()
	dir := filepath.Join(h.roots, name)
	require.NoError(h.t, os.Rename(r.Dir, dir))
	return dir
}

// surveyedAt is a repository, taken in, pinned and surveyed by a keeper.
func (h *house) surveyedAt(keeper *client, dir, pin string) int64 {
	h.t.Helper()
	made := get[server.ShelfItem](keeper, "POST", "/api/repositories", map[string]string{"source": dir})
	h.wait(keeper, made.ID, func(r server.RepositoryInfo) bool { return r.State == store.NeedsPin })
	get[server.SurveyInfo](keeper, "PUT", fmt.Sprintf("/api/repositories/%d/pin", made.ID), map[string]string{"pin": pin})
	h.wait(keeper, made.ID, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
	// what other branches hold is read after the survey
	require.Eventually(h.t, func() bool {
		return get[server.LogPage](keeper, "GET", fmt.Sprintf("/api/repositories/%d/log?limit=0", made.ID), nil).Unread == 0
	}, 30*time.Second, 20*time.Millisecond)
	return made.ID
}

func (h *house) wait(c *client, id int64, ok func(server.RepositoryInfo) bool) server.RepositoryInfo {
	h.t.Helper()
	var r server.RepositoryInfo
	require.Eventually(h.t, func() bool {
		r = get[server.RepositoryInfo](c, "GET", fmt.Sprintf("/api/repositories/%d", id), nil)
		return ok(r)
	}, 30*time.Second, 20*time.Millisecond)
	return r
}

// bodies are requests that are well-formed for the routes that want one.
var bodies = map[string]any{
	"post-first-account":                                          map[string]string{"name": "x", "email": "x@example.test", "password": password},
	"post-sign-in":                                                map[string]string{"email": "nobody@example.test", "password": "wrong"},
	"post-invitations-token":                                      map[string]any{},
	"put-repositories-repository-members-person":                  map[string]string{"role": "reader"},
	"post-repositories-repository-invitations":                    map[string]string{"role": "reader"},
	"post-repositories":                                           map[string]string{"source": "https://127.0.0.1:1/x"},
	"put-repositories-repository-pin":                             map[string]string{"pin": "nowhere"},
	"put-repositories-repository-settings":                        map[string]any{"name": "marshgauge", "subfolder": "", "half_life": 180},
	"put-repositories-repository-leads-marks":                     map[string]any{"leads": []string{"0123456789abcdef"}, "state": "kept"},
	"put-repositories-repository-leads-read":                      map[string]any{"leads": []string{"0123456789abcdef"}, "read": true},
	"post-repositories-repository-tagged-ignored":                 map[string]any{"kind": "path", "pattern": "nowhere"},
	"put-repositories-repository-words":                           map[string]any{"own": []any{}},
	"post-repositories-repository-views":                          map[string]any{"page": "tagged", "name": "x", "query": ""},
	"post-repositories-repository-corrections":                    map[string]string{"kind": "role", "path": "README.md", "value": "documentation"},
	"post-repositories-repository-notes-annotations":              []any{map[string]any{"id": "x", "body": "y", "target": "README.md"}},
	"post-repositories-repository-attachments":                    raw("x"),
	"post-repositories-repository-plans-document":                 raw(`{"format":"juxtagram-plan/1","title":"x","chapters":[]}`),
	"post-repositories-repository-plans-offered":                  map[string]any{"path": "README.md", "look": true},
	"post-repositories-repository-annotations":                    map[string]any{"target": map[string]any{"kind": "repository"}, "text": "x"},
	"post-repositories-repository-annotations-accept":             map[string]any{"threads": []int{1}},
	"post-repositories-repository-annotations-preview":            map[string]any{"text": "x"},
	"put-repositories-repository-annotations-seen":                map[string]any{"threads": []int{1}},
	"post-repositories-repository-annotations-annotation-replies": map[string]any{"text": "x"},
	"put-repositories-repository-annotations-annotation-text":     map[string]any{"rev": 1, "text": "x"},
	"put-repositories-repository-annotations-annotation-state":    map[string]any{"state": "open"},
	"put-repositories-repository-annotations-annotation-target":   map[string]any{"kind": "repository"},
	"put-repositories-repository-annotations-annotation-told":     map[string]any{"told": true},
	"put-repositories-repository-opened":                          map[string]string{"path": "README.md"},
	"post-repositories-repository-plans":                          map[string]any{"title": "mine", "private": true},
	"post-repositories-repository-plans-plan-ops":                 map[string]any{"ops": []any{map[string]any{"client_id": "12345678", "op": map[string]any{"kind": "set-plan", "field": "title", "from": "no", "to": "x"}}}},
	"post-repositories-repository-plans-plan-undo":                map[string]any{"client_id": "12345678"},
	"post-repositories-repository-plans-plan-redo":                map[string]any{"client_id": "12345678"},
	"post-repositories-repository-plans-plan-copy":                map[string]any{"title": "a copy", "private": true},
	"post-repositories-repository-plans-plan-editions":            map[string]any{"seq": 0, "note": "x"},
	"put-repositories-repository-plans-plan-composing":            map[string]any{"passage": ""},
	"put-repositories-repository-plans-plan-reading":              map[string]any{"edition": 0, "shown": true},
	"put-repositories-repository-plans-plan-progress":             map[string]any{"passage": "none", "done": true},
	"put-repositories-repository-plans-plan-place":                map[string]any{"passage": "none"},
}

// writesPlan are the routes a reader may use on a private plan of their own,
// and so not on the shared one of this test.
var writesPlan = map[string]bool{"post-repositories-repository-plans-plan-ops": true, "post-repositories-repository-plans-plan-undo": true, "post-repositories-repository-plans-plan-redo": true, "post-repositories-repository-plans-plan-editions": true,
	"get-repositories-repository-plans-plan-changes": true, "get-repositories-repository-plans-plan-problems": true, "put-repositories-repository-plans-plan-composing": true, "get-repositories-repository-plans-plan-readers": true, "delete-repositories-repository-plans-plan": true}

// TestEveryRouteForEveryRole walks the whole table: a route added without
// access, or one that lets somebody through whom it should not, fails here.
func TestEveryRouteForEveryRole(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	id := h.surveyed(owner)
	plan := h.published(owner, id, "shared")
	people := map[string]*client{"signed out": h.nobody(), "stranger": h.person("stranger", false), "reader": h.person("reader", false), "writer": h.person("writer", false), "keeper": h.person("keeper", false)}
	for _, role := range []store.Role{store.Reader, store.Writer, store.Keeper} {
		require.NoError(t, h.store.SetRole(ctx, id, people[string(role)].person.ID, role))
	}
	// status when let through is whatever the handler says; refusals are exact
	refusal := map[server.Access]map[string]int{
		server.Unasked:  {},
		server.Anybody:  {},
		server.SignedIn: {"signed out": 401},
		server.TakeIn:   {"signed out": 401, "stranger": 403, "reader": 403, "writer": 403, "keeper": 403},
		server.Owner:    {"signed out": 401, "stranger": 403, "reader": 403, "writer": 403, "keeper": 403},
		server.Read:     {"signed out": 401, "stranger": 404},
		server.Write:    {"signed out": 401, "stranger": 404, "reader": 403},
		server.Keep:     {"signed out": 401, "stranger": 404, "reader": 403, "writer": 403},
	}
	seen := 0
	shared := plan.ID
	for path, item := range server.Describe().Paths {
		for method, op := range operations(item) {
			if op.OperationID == "delete-repositories-repository-plans-plan" {
				plan = h.published(owner, id, "to be removed")
			}
			access, ok := op.Extensions["x-access"].(string)
			require.True(t, ok, "%s %s tells no access", method, path)
			want, known := refusal[server.Access(access)]
			require.True(t, known, access)
			for _, role := range []string{"signed out", "stranger", "reader", "writer", "keeper"} { // who may least first
				c := people[role]
				seen++
				if op.OperationID == "get-events" && want[role] == 0 {
					continue // a stream that does not end; TestEvents reads it
				}
				if method == "DELETE" && path == "/api/repositories/{repository}" && want[role] == 0 {
					continue // would end the test's own repository; TestRemove does it
				}
				if op.OperationID == "post-sign-out" {
					continue
				}
				where := strings.NewReplacer("{repository}", fmt.Sprint(id), "{plan}", fmt.Sprint(plan.ID), "{person}", fmt.Sprint(people["reader"].person.ID), "{token}", "none").Replace(path)
				where += "?" + url.Values{"path": {"README.md"}, "text": {"x"}}.Encode()
				status, text := c.do(method, where, bodies[op.OperationID])
				if role == "reader" && writesPlan[op.OperationID] {
					assert.Equal(t, 403, status, "%s %s as reader: %s", method, path, text)
				} else if want[role] != 0 {
					assert.Equal(t, want[role], status, "%s %s as %s: %s", method, path, role, text)
				} else {
					assert.Less(t, status, 500, "%s %s as %s: %s", method, path, role, text)
					assert.NotContains(t, text, "your part in this repository", "%s %s as %s", method, path, role)
				}
			}
			plan.ID = shared
			if op.OperationID == "delete-repositories-repository-members-person" { // which ends the sessions of whom it leaves with nothing
				people["reader"].signIn()
			}
			require.NoError(t, h.store.SetRole(ctx, id, people["reader"].person.ID, store.Reader)) // some routes change it
		}
	}
	assert.Greater(t, seen, 150)
}

func TestTheDescriptionIsTheCommittedOne(t *testing.T) {
	want, err := os.ReadFile("../docs/api/openapi.json")
	require.NoError(t, err)
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetIndent("", "  ")
	require.NoError(t, enc.Encode(server.Describe()))
	assert.True(t, string(want) == b.String(), "routes or fields have changed: run make api, and read the difference")
	assert.Equal(t, "3.1.0", server.Describe().OpenAPI)
}

func TestSignIn(t *testing.T) {
	h := open(t)
	first := h.nobody()
	assert.True(t, get[server.Me](first, "GET", "/api/me", nil).FirstAccount)
	me := get[server.Me](first, "POST", "/api/first-account", map[string]string{"name": "Ona", "email": "Ona@example.test", "password": password})
	assert.True(t, me.Person.Owner)
	status, text := h.nobody().do("POST", "/api/first-account", map[string]string{"name": "Eve", "email": "eve@example.test", "password": password})
	assert.Equal(t, 409, status, text)
	other := h.nobody()
	status, _ = other.do("POST", "/api/sign-in", map[string]string{"email": "ona@example.test", "password": "wrong"})
	assert.Equal(t, 401, status)
	get[server.Me](other, "POST", "/api/sign-in", map[string]string{"email": " ona@EXAMPLE.test", "password": password})
	assert.Equal(t, "Ona", get[server.Me](other, "GET", "/api/me", nil).Person.Name)
	get[server.Me](other, "POST", "/api/sign-out", nil)
	assert.Nil(t, get[server.Me](other, "GET", "/api/me", nil).Person)
	for range 8 {
		status, _ = other.do("POST", "/api/sign-in", map[string]string{"email": "ona@example.test", "password": "wrong"})
	}
	status, text = other.do("POST", "/api/sign-in", map[string]string{"email": "ona@example.test", "password": password})
	assert.Equal(t, 429, status, text)
	status, text = h.nobody().do("POST", "/api/first-account", map[string]string{"name": "x", "email": "no address", "password": "short"})
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "password")
}

func TestCookiesAndOtherSites(t *testing.T) {
	h := open(t)
	c := h.person("ona", true)
	at, _ := url.Parse(h.url)
	require.Len(t, c.http.Jar.Cookies(at), 2, "the session, and that the browser is known")
	r, err := http.NewRequest("POST", h.url+"/api/sign-in", strings.NewReader(`{"email":"ona@example.test","password":"`+password+`"}`))
	require.NoError(t, err)
	r.Header.Set("Content-Type", "application/json")
	answer, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	cookie := answer.Header.Get("Set-Cookie")
	assert.Contains(t, cookie, "HttpOnly")
	assert.Contains(t, cookie, "SameSite=Lax")
	for name, value := range map[string]string{"Origin": "https://evil.test", "Sec-Fetch-Site": "cross-site"} {
		r, err := http.NewRequest("POST", h.url+"/api/repositories", strings.NewReader(`{"source":"https://x.test/y"}`))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set(name, value)
		status, _ := c.send(r)
		assert.Equal(t, 403, status, name)
	}
}

func TestPagesAndHeaders(t *testing.T) {
	h := open(t)
	for path, want := range map[string]int{"/": 200, "/r/1/read?path=a.go": 200, "/r/1/plans/2": 200, "/assets/a.js": 200, "/assets/none.js": 404, "/favicon.ico": 404, "/api/nothing": 404, "/..%2f..%2fetc/passwd": 200} {
		answer, err := http.Get(h.url + path)
		require.NoError(t, err)
		b, _ := io.ReadAll(answer.Body)
		answer.Body.Close()
		assert.Equal(t, want, answer.StatusCode, path)
		assert.Equal(t, "nosniff", answer.Header.Get("X-Content-Type-Options"))
		assert.NotContains(t, string(b), "root:")
		if policy := answer.Header.Get("Content-Security-Policy"); policy != "" {
			assert.NotContains(t, policy, "unsafe")
			assert.NotContains(t, string(b), "__NONCE__")
		} else {
			assert.NotEqual(t, "text/html; charset=utf-8", answer.Header.Get("Content-Type"))
		}
	}
}

func TestInvitations(t *testing.T) {
	h := open(t)
	owner := h.person("owner", true)
	id := h.surveyed(owner)
	inv := get[server.NewInvitation](owner, "POST", fmt.Sprintf("/api/repositories/%d/invitations", id), map[string]string{"role": "writer"})
	guest := h.nobody()
	info := get[server.InvitationInfo](guest, "GET", "/api/invitations/"+inv.Token, nil)
	assert.Equal(t, "marshgauge", info.Repository)
	status, _ := guest.do("POST", "/api/invitations/"+inv.Token, map[string]any{})
	assert.Equal(t, 401, status, "without an account nobody joins")
	get[server.Me](guest, "POST", "/api/invitations/"+inv.Token, map[string]any{"account": map[string]string{"name": "Guest", "email": "guest@example.test", "password": password}})
	assert.Equal(t, store.Writer, get[server.RepositoryInfo](guest, "GET", fmt.Sprintf("/api/repositories/%d", id), nil).Role)
	assert.Equal(t, "marshgauge.git", get[[]server.ShelfItem](guest, "GET", "/api/repositories", nil)[0].Source, "where it lies on the server is for keepers")
	status, text := h.nobody().do("GET", "/api/invitations/"+inv.Token, nil)
	assert.Equal(t, 404, status, text)
	assert.Contains(t, text, "has been used")
	again := get[server.NewInvitation](owner, "POST", fmt.Sprintf("/api/repositories/%d/invitations", id), map[string]string{"role": "reader"})
	get[server.Me](guest, "POST", "/api/invitations/"+again.Token, map[string]any{})
	assert.Equal(t, store.Writer, get[server.RepositoryInfo](guest, "GET", fmt.Sprintf("/api/repositories/%d", id), nil).Role, "an invitation takes nothing away")
	status, text = owner.do("DELETE", fmt.Sprintf("/api/repositories/%d/members/%d", id, owner.person.ID), nil)
	assert.Equal(t, 409, status, text)
}
