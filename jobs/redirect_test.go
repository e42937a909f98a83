package jobs

import (
	"context"
	"net/http"
	"net/http/cgi"
	"net/http/httptest"
	"net/netip"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/intake"
	"juxtagram/core/repo/repotest"
)

// Where an address leads is looked at like the address itself, and no host but the one
// that a token was entered for is given it.
func TestRedirects(t *testing.T) {
	src := repotest.New(t)
	src.Write("a", "1\n").Commit("one")
	where, err := exec.Command("git", "--exec-path").Output()
	require.NoError(t, err)
	backend := &cgi.Handler{Path: strings.TrimSpace(string(where)) + "/git-http-backend", Env: []string{"GIT_PROJECT_ROOT=" + src.Dir, "GIT_HTTP_EXPORT_ALL=1", "GIT_CONFIG_COUNT=1", "GIT_CONFIG_KEY_0=safe.directory", "GIT_CONFIG_VALUE_0=*"}}
	var mu sync.Mutex
	tokens := map[string]int{} // host → how often it was given one
	var port string
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host, _, _ := strings.Cut(r.Host, ":")
		if _, _, ok := r.BasicAuth(); ok {
			mu.Lock()
			tokens[host]++
			mu.Unlock()
		}
		to := map[string]string{"old.example": "http://new.example:" + port, "loop.example": "http://loop.example:" + port, "inside.example": "http://127.0.0.2:" + port, "meta.example": "http://169.254.169.254",
			"odd.example": "http://new.example:" + port + "/page?", "file.example": "file:///etc", "scheme.example": "ftp://new.example"}[host]
		switch {
		case host == "private.example" || host == "leak.example":
			if _, _, ok := r.BasicAuth(); !ok {
				w.Header().Set("WWW-Authenticate", `Basic realm="x"`)
				http.Error(w, "no", http.StatusUnauthorized)
				return
			}
			if host == "leak.example" { // leads on once it has the token
				http.Redirect(w, r, "http://new.example:"+port+r.RequestURI, http.StatusFound)
				return
			}
			backend.ServeHTTP(w, r)
		case to != "":
			http.Redirect(w, r, to+r.RequestURI, http.StatusFound)
		default:
			backend.ServeHTTP(w, r)
		}
	}))
	defer s.Close()
	at, err := url.Parse(s.URL)
	require.NoError(t, err)
	port = at.Port()
	ask := filepath.Join(t.TempDir(), "ask")
	require.NoError(t, os.WriteFile(ask, []byte("#!/bin/sh\ncase $1 in Username*) echo \"$JUXTAGRAM_ASKPASS_USER\";; *) echo \"$JUXTAGRAM_ASKPASS_TOKEN\";; esac\n"), 0o755))
	resolve := func(_ context.Context, host string) ([]netip.Addr, error) {
		return []netip.Addr{netip.MustParseAddr("127.0.0.1")}, nil
	}
	for _, c := range []struct {
		host, want string
		token      bool
	}{
		{"new.example", "", false}, {"old.example", "", false}, {"private.example", "", true},
		{"old.example", "another host, which is not given the token", true},
		{"leak.example", "leads to another one", true},
		{"loop.example", "without end", false}, {"inside.example", "may not reach", false}, {"meta.example", "may not reach", false},
		{"odd.example", "there is no repository", false}, {"file.example", "not allowed here", false}, {"scheme.example", "not allowed here", false},
	} {
		o := intake.Options{Protocols: []string{"http"}, AskPass: ask, Hosts: &intake.HostPolicy{Allowed: []string{"127.0.0.1/32"}, Resolve: resolve, Redirect: redirect}}
		if c.token {
			o.Credential = &intake.Credential{Token: "t0k3n"}
		}
		_, err := intake.Address(context.Background(), filepath.Join(t.TempDir(), "m.git"), "http://"+c.host+":"+port+"/.git", o)
		if c.want == "" {
			assert.NoError(t, err, c.host)
			continue
		}
		require.Error(t, err, c.host)
		assert.True(t, intake.IsRefused(err), "%v", err)
		assert.Contains(t, err.Error(), c.want, c.host)
	}
	mu.Lock()
	defer mu.Unlock()
	for host := range tokens {
		assert.Contains(t, []string{"private.example", "leak.example"}, host, "the token went elsewhere")
	}
}
