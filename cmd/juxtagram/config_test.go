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

func TestSettingsThatCannotBeMeant(t *testing.T) {
	for args, want := range map[string]string{
		"": "", "--job-memory 0 --job-time 0 --job-processor 0 --person-jobs 0 --free-disk 0": "",
		"--job-memory -1": "negative", "--job-time -1s": "negative", "--person-space -1": "negative", "--person-repositories -1": "negative",
		"--free-disk 101": "percent", "--free-disk -1": "percent",
		"--listen 0.0.0.0:80": "--public-url", "--listen :80": "--public-url", "--listen [::1]:80": "", "--listen localhost:80": "",
		"--listen 0.0.0.0:80 --public-url https://gauges.example": "", "--public-url http://127.0.0.1:7380": "",
		"--public-url http://gauges.example": "https alone", "--public-url https://gauges.example/x": "without a path", "--public-url gauges.example": "without a path", "--public-url https://a:b@gauges.example": "without a path",
	} {
		var c config
		f := pflag.NewFlagSet("x", pflag.ContinueOnError)
		c.flags(f)
		require.NoError(t, f.Parse(strings.Fields(args)), args)
		if err := c.check(); want == "" {
			assert.NoError(t, err, args)
		} else {
			assert.ErrorContains(t, err, want, args)
		}
	}
}

// The password of one host is no answer to a question about another.
func TestWhatGitAsksFor(t *testing.T) {
	for question, want := range map[string]bool{
		"Username for 'https://gauges.example': ": true, "Password for 'https://token@gauges.example:8443': ": true, "Password for 'https://token@GAUGES.example': ": true,
		"Password for 'https://token@other.example': ": false, "Password for 'https://gauges.example@other.example': ": false, "Password: ": false, "": false,
	} {
		assert.Equal(t, want, asksFor(question, "gauges.example"), question)
	}
	assert.False(t, asksFor("Password for 'https:///': ", ""))
}
