package e2e

import (
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"juxtagram/demo"
	"juxtagram/e2e/browser"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
)

const password = "a long enough password"

// begun is an installation with one account, Ona's, that has taken in the demo
// and surveyed it, as it stood when its server ended.
var begun struct {
	once     sync.Once
	done     bool
	database string
	data     string
	roots    string
	session  *http.Cookie
}

// begin makes that installation, once for all tests.
func begin(t *testing.T) {
	t.Helper()
	dir, err := os.MkdirTemp(filepath.Dir(program), "begun-")
	require.NoError(t, err)
	begun.data, begun.roots, begun.database = filepath.Join(dir, "data"), filepath.Join(dir, "roots"), pgtest.URL(t)
	require.NoError(t, os.Mkdir(begun.roots, 0o700))
	source := filepath.Join(begun.roots, "m.git")
	require.NoError(t, demo.Build(t.Context(), source))
	s := serve(t, begun.database, begun.data, "127.0.0.1:0", "--roots", begun.roots)
	ona := newClient(t, s.base)
	ona.must(t, "POST", "/api/first-account", map[string]string{"name": "Ona", "email": "ona@example.test", "password": password}, nil)
	ona.takeIn(t, source, "v1.4.0")
	at, err := url.Parse(s.base)
	require.NoError(t, err)
	cookies := ona.http.Jar.Cookies(at)
	begun.session = sessionOf(t, cookies)
	s.stop(syscall.SIGINT)
	begun.done = true
}

// sessionOf is the cookie of a session among those of a browser.
func sessionOf(t *testing.T, cookies []*http.Cookie) *http.Cookie {
	t.Helper()
	at := slices.IndexFunc(cookies, func(c *http.Cookie) bool { return c.Name == "juxtagram_session" })
	require.GreaterOrEqual(t, at, 0)
	return cookies[at]
}

// takeIn takes in the first repository, pins it and waits for its survey.
func (c *client) takeIn(t *testing.T, source, pin string) {
	t.Helper()
	var r struct{ State, Survey string }
	until := func(done func() bool) {
		t.Helper()
		require.Eventually(t, func() bool {
			_, _ = c.ask("GET", "/api/repositories/1", nil, &r)
			return done()
		}, time.Minute, 20*time.Millisecond)
	}
	c.must(t, "POST", "/api/repositories", map[string]string{"source": source}, nil)
	until(func() bool { return r.State == store.NeedsPin })
	c.must(t, "PUT", "/api/repositories/1/pin", map[string]string{"pin": pin}, nil)
	until(func() bool { return r.Survey == store.Complete })
}

// copied is a copy of the begun installation: its database, and its folder.
func copied(t *testing.T) (database, data string) {
	t.Helper()
	begun.once.Do(func() { begin(t) })
	require.True(t, begun.done, "the installation to copy could not be made")
	data = filepath.Join(t.TempDir(), "data")
	require.NoError(t, os.CopyFS(data, os.DirFS(begun.data)))
	return pgtest.Copy(t, begun.database), data
}

// desk is a tab of Ona's, before the demo's overview.
func desk(t *testing.T) *browser.Page {
	t.Helper()
	p, _ := deskOn(t)
	return p
}

// deskOn is desk with the server behind it.
func deskOn(t *testing.T) (*browser.Page, *served) {
	t.Helper()
	database, data := copied(t)
	s := serve(t, database, data, "127.0.0.1:0", "--roots", begun.roots)
	return onaOn(t, s), s
}

// onaOn is a tab in which Ona is signed in, before the demo's overview.
func onaOn(t *testing.T, s *served) *browser.Page {
	t.Helper()
	p := page(t, s)
	steps(t, p.Cookie(begun.session.Name, begun.session.Value), p.Open("/r/1"), p.See("In short"))
	return p
}
