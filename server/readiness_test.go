package server_test

import (
	"context"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/jobs"
	"juxtagram/localpg/pgtest"
	"juxtagram/server"
	"juxtagram/store"
)

func TestReadiness(t *testing.T) {
	s, err := store.Open(ctx, pgtest.URL(t))
	require.NoError(t, err)
	r, err := jobs.New(s, jobs.Config{Data: t.TempDir(), Key: make([]byte, 32), FreeShare: 1, Logger: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	background, stop := context.WithCancel(ctx)
	srv := server.New(background, s, r, server.Config{Logger: slog.New(slog.DiscardHandler)})
	ask := func(path string) (int, string) {
		w := httptest.NewRecorder()
		q := httptest.NewRequest("GET", path, nil)
		q.AddCookie(&http.Cookie{Name: "juxtagram_session", Value: "any"})
		srv.Handler().ServeHTTP(w, q)
		return w.Code, w.Body.String()
	}
	status, text := ask("/readyz")
	assert.Equal(t, 200, status)
	assert.JSONEq(t, `{"ready":true,"database":"up","disk":"full"}`, text, "a disk that is full to the share can be read")
	srv.Close()
	stop()
	s.Close() // the database is away
	status, text = ask("/readyz")
	assert.Equal(t, 503, status)
	assert.Contains(t, text, `"database":"down"`)
	status, _ = ask("/healthz")
	assert.Equal(t, 200, status)
	status, text = ask("/api/me")
	assert.Equal(t, 503, status, text)
}
