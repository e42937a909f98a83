package server_test

import (
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/server"
	"juxtagram/store"
)

// Taking in is a right of its own: the owner gives it, and opens folders; a person sees
// the folders that are open to them and no others.
func TestOnlyWhomTheOwnerLetsTakesIn(t *testing.T) {
	h := open(t)
	owner, some, stranger := h.person("owner", true), h.person("some", false), h.person("stranger", false)
	src := repotest.New(t)
	src.Write("a.go", "package a\n").Commit("one")
	at := filepath.Join(h.roots, "gauges")
	require.NoError(t, os.Rename(src.Dir, at))
	for _, path := range []string{"/api/sources", "/api/people"} {
		status, text := stranger.do("GET", path, nil)
		assert.Equal(t, 403, status, text)
		assert.NotContains(t, text, h.roots)
	}
	status, _ := stranger.do("POST", "/api/repositories", map[string]string{"source": at})
	assert.Equal(t, 403, status)
	status, _ = stranger.do("POST", "/api/uploads?name=a.zip", raw("PK"))
	assert.Equal(t, 403, status)
	assert.False(t, get[server.Me](stranger, "GET", "/api/me", nil).Person.MayTakeIn)

	rights := fmt.Sprintf("/api/people/%d/rights", some.person.ID)
	get[server.PersonInfo](owner, "PUT", rights, map[string]any{"may_take_in": true, "roots": []string{}})
	assert.True(t, get[server.Me](some, "GET", "/api/me", nil).Person.MayTakeIn)
	assert.Empty(t, get[server.Sources](some, "GET", "/api/sources", nil).Roots)
	status, text := some.do("POST", "/api/repositories", map[string]string{"source": at})
	assert.Equal(t, 403, status, text)
	status, _ = owner.do("PUT", rights, map[string]any{"may_take_in": true, "roots": []string{"/etc"}})
	assert.Equal(t, 422, status, "none of the server's folders")
	info := get[server.PersonInfo](owner, "PUT", rights, map[string]any{"may_take_in": true, "roots": []string{h.roots}})
	assert.Equal(t, []string{h.roots}, info.Roots)
	assert.Equal(t, []string{h.roots}, get[server.Sources](some, "GET", "/api/sources", nil).Roots)
	made := get[server.ShelfItem](some, "POST", "/api/repositories", map[string]string{"source": at})
	await(t, func() bool {
		return get[server.RepositoryInfo](some, "GET", fmt.Sprintf("/api/repositories/%d", made.ID), nil).State == store.NeedsPin
	})
	all := get[server.Installation](owner, "GET", "/api/people", nil)
	require.Len(t, all.People, 3)
	assert.Equal(t, []string{h.roots}, all.Roots)
	for _, p := range all.People {
		if p.ID == some.person.ID {
			assert.Equal(t, 1, p.Repositories)
			assert.Positive(t, p.Bytes)
		}
	}
	// the folder is closed again: the repository stays, and is not fetched
	get[server.PersonInfo](owner, "PUT", rights, map[string]any{"may_take_in": true, "roots": []string{}})
	get[struct{}](some, "POST", fmt.Sprintf("/api/repositories/%d/fetch", made.ID), nil)
	await(t, func() bool {
		n := get[server.NewsInfo](some, "GET", fmt.Sprintf("/api/repositories/%d/news", made.ID), nil)
		return !n.Fetching && strings.Contains(n.Problem, "not below the folders")
	})
}

func await(t *testing.T, ok func() bool) {
	t.Helper()
	require.Eventually(t, ok, 30*time.Second, 10*time.Millisecond)
}

// Whoever is removed from everything is signed out at once, with all that is open.
func TestWhoIsRemovedFromEverythingIsSignedOut(t *testing.T) {
	h := open(t)
	owner, some := h.person("owner", true), h.person("some", false)
	id, other := h.surveyed(owner), h.surveyed(owner)
	for _, r := range []int64{id, other} {
		require.NoError(t, h.store.SetRole(ctx, r, some.person.ID, store.Reader))
	}
	require.NoError(t, h.store.SetRights(ctx, some.person.ID, true, []string{h.roots}))
	stream := some.listen()
	member := func(r int64) string { return fmt.Sprintf("/api/repositories/%d/members/%d", r, some.person.ID) }
	get[struct{}](owner, "DELETE", member(id), nil)
	assert.NotNil(t, get[server.Me](some, "GET", "/api/me", nil).Person, "they have another part")
	get[struct{}](owner, "DELETE", member(other), nil)
	for stream.Scan() { // ends
	}
	assert.Nil(t, get[server.Me](some, "GET", "/api/me", nil).Person)
	some.signIn()
	me := get[server.Me](some, "GET", "/api/me", nil)
	assert.False(t, me.Person.MayTakeIn)
	assert.Empty(t, get[[]server.ShelfItem](some, "GET", "/api/repositories", nil))
	rights, err := h.store.RightsOf(ctx, some.person.ID)
	require.NoError(t, err)
	assert.Empty(t, rights.Roots)
}

func TestSigningOutEndsTheStream(t *testing.T) {
	h := open(t)
	c := h.person("ona", true)
	stream := c.listen()
	get[server.Me](c, "POST", "/api/sign-out", nil)
	for stream.Scan() { // ends
	}
}

func TestStreamsOfAPersonAreBounded(t *testing.T) {
	h := open(t)
	c := h.person("ona", true)
	for range 16 {
		c.listen()
	}
	status, text := c.do("GET", "/api/events", nil)
	assert.Equal(t, 429, status, text)
	h.person("other", false).listen()
}

// A stranger's guesses do not lock somebody out of a browser that they signed in with.
func TestAStrangerCannotLockAnAccount(t *testing.T) {
	h := open(t)
	known := h.person("ona", true)
	get[server.Me](known, "POST", "/api/sign-out", nil)
	body := func(password string) map[string]string {
		return map[string]string{"email": "ona@example.test", "password": password}
	}
	status := 0
	for range 12 {
		status, _ = h.nobody().do("POST", "/api/sign-in", body("a wrong password"))
	}
	assert.Equal(t, 429, status)
	status, _ = h.nobody().do("POST", "/api/sign-in", body(password))
	assert.Equal(t, 429, status, "elsewhere the right one waits too")
	known.signIn()
	for range 9 {
		status, _ = known.do("POST", "/api/sign-in", body("a wrong password"))
	}
	assert.Equal(t, 429, status, "the known browser is no way to guess either")
}

// Nothing costly is done for invitations that there are not, nor for a first account
// that is made.
func TestInvitationsAreLookedUpFirst(t *testing.T) {
	h := open(t)
	h.person("ona", true)
	account := map[string]any{"account": map[string]string{"name": "Eve", "email": "eve@example.test", "password": password}}
	release := h.server.HoldPasswords() // whoever would hash now waits, and is sent away
	defer release()
	for i := range 15 {
		status, _ := h.nobody().do("POST", fmt.Sprintf("/api/invitations/none%d", i), account)
		require.Equal(t, 404, status)
	}
	status := 0
	for i := range 15 {
		status, _ = h.nobody().do("POST", fmt.Sprintf("/api/invitations/more%d", i), account)
	}
	assert.Equal(t, 429, status, "guessing them waits")
	status, _ = h.nobody().do("POST", "/api/first-account", account["account"])
	assert.Equal(t, 409, status, "the first account is made")
}

func TestOnePersonTakesInSoMuch(t *testing.T) {
	h := openWith(t, server.PersonLimits{Repositories: 2, Bytes: 1 << 20, Jobs: 0})
	c := h.person("ona", true)
	upload := func(bytes int) (int, string) {
		return c.do("POST", "/api/uploads?name=a.zip", raw(strings.Repeat("x", bytes)))
	}
	status, text := upload(1<<20 + 10)
	assert.Equal(t, 409, status, text)
	assert.Contains(t, text, "MB are the most for one person")
	for range 2 {
		status, text = upload(10)
		require.Equal(t, 202, status, text)
	}
	status, text = upload(10)
	assert.Equal(t, 409, status)
	assert.Contains(t, text, "as many as one person may")
}

// Over https, cookies and addresses are those of the address that was configured,
// whatever a request says of its host.
func TestThePublicAddressDecides(t *testing.T) {
	public, err := url.Parse("https://gauges.example")
	require.NoError(t, err)
	h := open(t)
	background, stop := context.WithCancel(ctx)
	defer stop()
	srv := server.New(background, h.store, h.jobs, server.Config{PublicURL: public, Roots: []string{h.roots}})
	defer srv.Close()
	h.person("ona", true)
	ask := func(origin, host string) *http.Response {
		r := httptest.NewRequest("POST", "http://"+host+"/api/sign-in", strings.NewReader(`{"email":"ona@example.test","password":"`+password+`"}`))
		r.Header.Set("Content-Type", "application/json")
		if origin != "" {
			r.Header.Set("Origin", origin)
		}
		w := httptest.NewRecorder()
		srv.Handler().ServeHTTP(w, r)
		return w.Result()
	}
	answer := ask("https://gauges.example", "inside:7380")
	require.Equal(t, 200, answer.StatusCode, "a proxy may ask by another name")
	require.Len(t, answer.Cookies(), 2)
	for _, c := range answer.Cookies() {
		assert.True(t, strings.HasPrefix(c.Name, "__Host-"), c.Name)
		assert.True(t, c.Secure && c.HttpOnly && c.Path == "/" && c.Domain == "")
	}
	assert.Contains(t, answer.Header.Get("Strict-Transport-Security"), "max-age=")
	assert.Equal(t, "no-store", answer.Header.Get("Cache-Control"))
	assert.Equal(t, 403, ask("https://evil.example", "evil.example").StatusCode, "the host that it names does not make a request our own")
}
