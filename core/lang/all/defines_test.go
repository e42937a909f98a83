package all_test

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
)

// TestWhatIsDeclaredIsDefinedWhereItsNameStands: a name of the outline is a use with
// the role of a definition on the name's line, so that one who looks a name up is led
// there. Told without one are names that no single node writes.
func TestWhatIsDeclaredIsDefinedWhereItsNameStands(t *testing.T) {
	// how many of each file's have none, for the reasons beside
	without := map[string]int{
		"sample.cpp": 13, "sample.cs": 7, // operators, destructors, names of several parts
		"sample.kt": 2, "sample.scala": 2, // companions, constructors and givens that nobody names
		"sample.php": 2, "sample.rb": 1, // names of several parts, and by a string
		"walk.go":    1, // an embedded type
		"sample.vue": 4, // of its style
	}
	samples, err := filepath.Glob("testdata/sample.*")
	require.NoError(t, err)
	for _, path := range append(samples, "../walk.go", "../../syntax/walk.c", "../../../web/src/plans/model.ts", "../../../web/src/read/find.ts") {
		switch filepath.Ext(path) {
		case ".hcl", ".toml", ".css", ".html", ".sql", ".golden":
			continue // their names are no words that code uses
		}
		t.Run(filepath.Base(path), func(t *testing.T) {
			content, err := os.ReadFile(path)
			require.NoError(t, err)
			r, err := all.OfPath(path).Read(context.Background(), content)
			require.NoError(t, err)
			type place struct {
				word string
				line int
			}
			defined := map[place]bool{}
			for _, u := range r.Uses {
				if u.Role.Plain() == lang.Define {
					defined[place{r.Words[u.Word], int(u.Line)}] = true
				}
			}
			var missing []string
			for _, s := range r.Outline {
				if !defined[place{s.Name, s.NameLine}] {
					missing = append(missing, s.Qualified)
				}
			}
			assert.LessOrEqual(t, len(missing), without[filepath.Base(path)], strings.Join(missing, " "))
		})
	}
}
