package decode_test

import (
	"context"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/decode"
	"juxtagram/core/sandbox"
)

func TestMain(m *testing.M) {
	sandbox.Main(sandbox.Tasks)
	os.Exit(m.Run())
}

func TestTOML(t *testing.T) {
	var v struct {
		Name  string
		Other []string `json:"other-names"`
		Tool  map[string]any
	}
	require.NoError(t, decode.TOML(context.Background(), []byte("name = 'gauge'\nother-names = ['a', 'b']\n[tool.x]\nwhen = 2026-01-02\nn = 3\n"), &v))
	assert.Equal(t, "gauge", v.Name)
	assert.Equal(t, []string{"a", "b"}, v.Other)
	assert.Equal(t, map[string]any{"x": map[string]any{"when": "2026-01-02T00:00:00Z", "n": 3.0}}, v.Tool)
}

// What is given up says so, holds nothing of the text, and ends no process but the child's.
func TestHostileTOML(t *testing.T) {
	for name, c := range map[string]struct{ text, want string }{
		"no TOML":        {"secret\nsecret", "line 1"},
		"another shape":  {"name = ['secret']", "something else"},
		"no number":      {"a = nan", "number"},
		"too long":       {strings.Repeat("# secret\n", 200_000), "1024 kB"},
		"nested lists":   {"a = " + strings.Repeat("[", 500_000), "not readable"},
		"nested tables":  {"a = " + strings.Repeat("{a=", 300_000), "not readable"},
		"a long key":     {strings.Repeat("a.", 400_000) + "a = 1", "not readable"},
		"many long keys": {strings.Repeat(strings.Repeat("a.", 500)+"a = 1\n", 900), "not readable"},
	} {
		var v struct{ Name string }
		err := decode.TOML(context.Background(), []byte(c.text), &v)
		require.Error(t, err, name)
		assert.Contains(t, err.Error(), c.want, name)
		assert.NotContains(t, err.Error(), "secret", name)
	}
}

func FuzzTOML(f *testing.F) {
	f.Add([]byte("a = [1, {b = 'c'}]\n[[d.e]]\nf.g = 1e400\n"))
	f.Fuzz(func(_ *testing.T, text []byte) {
		var v map[string]any
		_ = decode.TOML(context.Background(), text, &v)
	})
}
