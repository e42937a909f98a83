package server

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func shownReadme(text string) string {
	return renderReadme(context.Background(), 1, "README.md", []byte(text), func([]string) map[string]bool { return nil }, func(string) bool { return false })
}

func FuzzReadme(f *testing.F) {
	f.Add("# A\n\n<script>alert(1)</script> [a](javascript:x) ![b](http://x.example/y.png) <a href='//x' onclick=x>\n")
	f.Add(strings.Repeat("> - **a", 50))
	f.Fuzz(func(t *testing.T, text string) {
		shown := strings.ToLower(shownReadme(text))
		for _, bad := range []string{"<script", "<iframe", "<style", "javascript:", "<form", "<object"} {
			if strings.Contains(shown, `"`+bad) || strings.HasPrefix(bad, "<") && strings.Contains(shown, bad) {
				t.Fatalf("%q shows %s", text, bad)
			}
		}
	})
}

func TestAReadmeIsShown(t *testing.T) {
	assert.Contains(t, shownReadme("# Gauges\n"), "Gauges</h1>")
	assert.NotContains(t, shownReadme("<script>alert(1)</script>x"), "script")
}
