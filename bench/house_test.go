package bench

import (
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"

	"juxtagram/core/repo"
	"juxtagram/jobs"
	"juxtagram/localpg/pgtest"
	"juxtagram/server"
	"juxtagram/store"
	"juxtagram/web"
)

// house is a server with one surveyed repository, and somebody signed in.
type house struct {
	b     *testing.B
	url   string
	id    int64
	store *store.Store
	http  *http.Client

	runner *jobs.Runner
	stop   func()
}

const (
	email    = "ona@example.test"
	password = "a long enough password"
)

// opened serves a repository, surveyed at the newest commit of main.
func opened(b *testing.B, g *repo.Git) *house {
	b.Helper()
	return housed(b, g, func(s *store.Store, r *store.Repository, head string) { surveyed(b, s, g, r, head) })
}

// housed serves a repository that something has read.
func housed(b *testing.B, g *repo.Git, read func(s *store.Store, r *store.Repository, head string)) *house {
	b.Helper()
	s := pgtest.Store(b)
	quiet := slog.New(slog.DiscardHandler)
	runner, err := jobs.New(s, jobs.Config{Data: b.TempDir(), Key: make([]byte, 32), Logger: quiet})
	if err != nil {
		b.Fatal(err)
	}
	hash, _ := argon2id.CreateHash(password, &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 16})
	p, err := s.AddPerson(ctx, store.Person{Name: "Ona", Email: email, PasswordHash: hash, Owner: true, CreatedAt: time.Now()}, false)
	if err != nil {
		b.Fatal(err)
	}
	head, err := g.Resolve(ctx, "main")
	if err != nil {
		b.Fatal(err)
	}
	r, err := s.AddRepository(ctx, store.Repository{Name: "bench", SourceKind: "folder", Source: "x", State: store.Pinned, Pin: head, HalfLife: 180, CreatedBy: &p.ID})
	if err != nil {
		b.Fatal(err)
	}
	if err := os.Symlink(g.Dir(), runner.Mirror(r.ID)); err != nil {
		b.Fatal(err)
	}
	read(s, r, head)
	h := &house{b: b, id: r.ID, store: s, runner: runner}
	h.start()
	b.Cleanup(func() { h.stop() })
	return h
}

// start serves, and signs somebody in.
func (h *house) start() {
	srv := server.New(ctx, h.store, h.runner, server.Config{Logger: slog.New(slog.DiscardHandler), Web: web.Files()})
	h.runner.OnSurveyed(srv.Surveyed)
	if err := srv.WarmLatest(ctx, 5*time.Second); err != nil { // as the program does before it is ready
		h.b.Fatal(err)
	}
	at := httptest.NewServer(srv.Handler())
	h.stop = func() {
		at.Close()
		srv.Close()
	}
	jar, _ := cookiejar.New(nil)
	h.url, h.http = at.URL, &http.Client{Jar: jar}
	h.ask("POST", "/api/sign-in", fmt.Sprintf(`{"email":%q,"password":%q}`, email, password))
}

// restart serves anew: nothing is in the server's memory.
func (h *house) restart() {
	h.stop()
	h.start()
}

// ask sends a request and tells how long the whole answer took.
func (h *house) ask(method, path, body string) time.Duration {
	q, err := http.NewRequest(method, h.url+path, strings.NewReader(body))
	if err != nil {
		h.b.Fatal(err)
	}
	q.Header.Set("Content-Type", "application/json")
	began := time.Now()
	answer, err := h.http.Do(q)
	if err != nil {
		h.b.Fatal(err)
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil || answer.StatusCode >= 400 {
		h.b.Fatalf("%s: %d %s", path, answer.StatusCode, text)
	}
	return time.Since(began)
}
