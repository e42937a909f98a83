package highlight_test

import (
	"context"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/highlight"
	"juxtagram/core/lang/all"
	"juxtagram/core/sandbox"
)

func TestMain(m *testing.M) {
	sandbox.Main(sandbox.Tasks)
	os.Exit(m.Run())
}

// A text that a lexer tries for minutes is given up in seconds, and says so.
func TestHostileTextsAreGivenUp(t *testing.T) {
	for name, c := range map[string]struct{ path, text string }{
		"Markdown": {"a.md", strings.Repeat("**a", 66_000)},
		"YAML":     {"a.yaml", strings.Repeat("a: &a *a ", 20_000)},
	} {
		ctx, cancel := context.WithTimeout(context.Background(), 5*time.Minute) // a busy machine takes its time
		_, err := highlight.Lines(ctx, all.Of(c.path, []byte(c.text)), []byte(c.text))
		assert.NoError(t, ctx.Err(), name)
		if given := (*sandbox.GivenUp)(nil); err != nil {
			assert.ErrorAs(t, err, &given, name)
		}
		cancel()
	}
}

func TestACallerWhoLeavesGetsNothing(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := highlight.Lines(ctx, all.ByName("Go"), []byte("package a\n"))
	assert.ErrorIs(t, err, context.Canceled)
}

func FuzzLines(f *testing.F) {
	f.Add("a.md", []byte("**a*_b_ [c](d)\n```go\nx\n```\n"))
	f.Add("a.yaml", []byte("a: &b {c: [*b]}\n"))
	f.Add("a.php", []byte("<?php $a = <<<X\nX;\n"))
	f.Fuzz(func(t *testing.T, name string, text []byte) {
		if _, err := highlight.Lines(context.Background(), all.Of(name, text), text); err != nil {
			var given *sandbox.GivenUp
			if err.Error() != highlight.ErrNone.Error() {
				assert.ErrorAs(t, err, &given)
			}
		}
	})
}
