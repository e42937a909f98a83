package e2e

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"net/http/cookiejar"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// client sends requests as somebody who signed in.
type client struct {
	base string
	http *http.Client
}

func newClient(t *testing.T, base string) *client {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return &client{base, &http.Client{Jar: jar, Timeout: 20 * time.Second}}
}

// ask sends a request; status 0: nobody answered.
func (c *client) ask(method, path string, body, into any) (int, string) {
	var in bytes.Buffer
	if err := json.NewEncoder(&in).Encode(body); err != nil {
		return 0, err.Error()
	}
	q, err := http.NewRequest(method, c.base+path, &in)
	if err != nil {
		return 0, err.Error()
	}
	q.Header.Set("Content-Type", "application/json")
	answer, err := c.http.Do(q)
	if err != nil {
		return 0, err.Error()
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil {
		return 0, err.Error()
	}
	if into != nil && answer.StatusCode < 300 {
		if err := json.Unmarshal(text, into); err != nil {
			return 0, err.Error()
		}
	}
	return answer.StatusCode, string(text)
}

// signedIn is a client that Ona has signed in with.
func signedIn(t *testing.T, base string) *client {
	t.Helper()
	c := newClient(t, base)
	c.must(t, "POST", "/api/sign-in", map[string]string{"email": "ona@example.test", "password": password}, nil)
	return c
}

// must is ask where the answer has to be a good one; it is given.
func (c *client) must(t *testing.T, method, path string, body, into any) string {
	t.Helper()
	status, text := c.ask(method, path, body, into)
	require.NotZero(t, status, text)
	require.Less(t, status, 300, text)
	return text
}
