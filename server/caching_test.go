package server_test

import (
	"fmt"
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/store"
)

// What is answered about people, texts and permissions is kept nowhere; what a survey
// found may be kept, and is asked for each time; who may no longer read gets nothing.
func TestWhatBrowsersMayKeep(t *testing.T) {
	h := open(t)
	owner, reader := h.person("owner", true), h.person("reader", false)
	id := h.surveyed(owner)
	require.NoError(t, h.store.SetRole(ctx, id, reader.person.ID, store.Reader))
	at := fmt.Sprintf("/api/repositories/%d", id)
	ask := func(c *client, path, tag string) (*http.Response, string) {
		r, err := http.NewRequest("GET", h.url+path, nil)
		require.NoError(t, err)
		if tag != "" {
			r.Header.Set("If-None-Match", tag)
		}
		answer, err := c.http.Do(r)
		require.NoError(t, err)
		defer answer.Body.Close()
		b, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer, string(b)
	}
	for _, path := range []string{"/api/me", "/api/repositories", at, at + "/members", at + "/overview", at + "/plans", at + "/annotations", at + "/log", at + "/nothing", "/api/people"} {
		answer, _ := ask(owner, path, "")
		assert.Equal(t, "no-store", answer.Header.Get("Cache-Control"), path)
		assert.Empty(t, answer.Header.Get("ETag"), path)
	}
	for _, path := range []string{"/text?path=README.md", "/lines?path=README.md", "/tokens?path=firmware/sampler.c", "/outline?path=firmware/sampler.c", "/folder?path=", "/readme?path=README.md", "/skim?path=firmware/sampler.c"} {
		answer, text := ask(reader, at+path, "")
		require.Equal(t, 200, answer.StatusCode, path)
		assert.Equal(t, "private, no-cache", answer.Header.Get("Cache-Control"), path)
		tag := answer.Header.Get("ETag")
		require.NotEmpty(t, tag, path)
		answer, none := ask(reader, at+path, `"other", `+tag)
		assert.Equal(t, 304, answer.StatusCode, path)
		assert.Empty(t, none)
		answer, again := ask(reader, at+path, `"other"`)
		assert.Equal(t, 200, answer.StatusCode)
		assert.Equal(t, text, again)
		answer, _ = ask(h.nobody(), at+path, tag)
		assert.Equal(t, 401, answer.StatusCode, "a tag opens nothing")
	}
	answer, _ := ask(reader, at+"/text?path=none", "")
	assert.Equal(t, 404, answer.StatusCode)
	assert.Equal(t, "no-store", answer.Header.Get("Cache-Control"))
}
