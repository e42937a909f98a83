package recipe_test

import (
	"context"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/recipe"
	"juxtagram/core/sandbox"
)

func TestMain(m *testing.M) {
	sandbox.Main(sandbox.Tasks)
	os.Exit(m.Run())
}

// nestedAnchors unfolds to 9^levels strings.
func nestedAnchors(levels int) string {
	var b strings.Builder
	b.WriteString("a0: &a0 [x, x, x, x, x, x, x, x, x]\n")
	for i := range levels {
		fmt.Fprintf(&b, "a%d: &a%d [%s]\n", i+1, i+1, strings.TrimSuffix(strings.Repeat(fmt.Sprintf("*a%d, ", i), 9), ", "))
	}
	fmt.Fprintf(&b, "services:\n  gauge: *a%d\n", levels)
	return b.String()
}

// A build file that would take gigabytes, hours or the whole stack is given up, and says so.
func TestHostileBuildFiles(t *testing.T) {
	for name, c := range map[string]struct{ path, text string }{
		"anchors within anchors": {"compose.yaml", nestedAnchors(12)},
		"an anchor in itself":    {"compose.yaml", "a: &a [*a]\nservices: *a\n"},
		"nested flow":            {"compose.yaml", "services: " + strings.Repeat("[", 300_000)},
		"nested maps":            {"compose.yaml", "services: " + strings.Repeat("{a: ", 200_000)},
		"nested TOML":            {"pyproject.toml", "a = " + strings.Repeat("[", 500_000)},
		"a long key":             {"Cargo.toml", strings.Repeat("a.", 400_000) + "a = 1"},
		"nested JSON":            {"package.json", strings.Repeat(`{"a":`, 150_000)},
	} {
		found := recipe.Find(context.Background(), c.path, []byte(c.text))
		assert.NotEmpty(t, found.Problem, name)
		assert.Empty(t, found.Recipes, name)
	}
	found := recipe.Find(context.Background(), "compose.yaml", []byte(nestedAnchors(1)))
	assert.Empty(t, found.Problem)
	assert.Len(t, found.Declared, 1, "what unfolds to little is read")
	done, cancel := context.WithCancel(context.Background())
	cancel()
	assert.NotEmpty(t, recipe.Find(done, "compose.yaml", []byte("services: {}\n")).Problem)
}

func FuzzFind(f *testing.F) {
	for _, path := range []string{"compose.yaml", "pyproject.toml", "package.json", "Makefile", ".github/workflows/a.yml", "pom.xml", "CMakeLists.txt", "Dockerfile", "go.mod", "setup.cfg"} {
		f.Add(path, []byte("a: [b]\n"))
	}
	f.Fuzz(func(t *testing.T, path string, text []byte) {
		found := recipe.Find(context.Background(), path, text)
		for _, r := range found.Recipes {
			assert.Equal(t, path, r.Path)
		}
	})
}
