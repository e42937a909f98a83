package main

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/spf13/pflag"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTheTableOfSettingsIsTrue(t *testing.T) {
	page, err := os.ReadFile("../../docs/guide/configuration.md")
	require.NoError(t, err)
	var c config
	f := pflag.NewFlagSet("x", pflag.ContinueOnError)
	c.flags(f)
	n := 0
	f.VisitAll(func(x *pflag.Flag) {
		n++
		assert.Contains(t, string(page), fmt.Sprintf("| `--%s` | `%s` |", x.Name, environment(x.Name)))
		assert.Contains(t, x.Usage, environment(x.Name))
	})
	assert.Equal(t, n, strings.Count(string(page), "| `--"), "no row without a flag")
}

func TestEnvironmentGivesWayToFlags(t *testing.T) {
	t.Setenv("JUXTAGRAM_LISTEN", "127.0.0.1:1")
	t.Setenv("JUXTAGRAM_ROOTS", "/a,/b")
	t.Setenv("JUXTAGRAM_WORKERS", "7")
	var c config
	f := pflag.NewFlagSet("x", pflag.ContinueOnError)
	c.flags(f)
	require.NoError(t, f.Parse([]string{"--workers", "3"}))
	require.NoError(t, fromEnvironment(f))
	assert.Equal(t, "127.0.0.1:1", c.listen)
	assert.Equal(t, []string{"/a", "/b"}, c.roots)
	assert.Equal(t, 3, c.workers)
	t.Setenv("JUXTAGRAM_ANSWER_IN", "soon")
	var d config
	g := pflag.NewFlagSet("x", pflag.ContinueOnError)
	d.flags(g)
	assert.ErrorContains(t, fromEnvironment(g), "JUXTAGRAM_ANSWER_IN")
}
