// Package arch holds the house to its layers.
package arch

import (
	"encoding/json"
	"errors"
	"io"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rank of a package in the ladder: it may import only lower ones, and equal
// ones where the group allows it. Inside core the ladder goes on.
var ladder = []struct {
	prefix string
	rank   int
}{
	{"juxtagram/core/ahead", 0}, {"juxtagram/core/repo", 0}, {"juxtagram/core/syntax", 0}, {"juxtagram/core/listing", 0}, {"juxtagram/core/sandbox", 0}, {"juxtagram/core/decode", 1}, {"juxtagram/core/tagged", 1}, {"juxtagram/core/note", 1}, {"juxtagram/core/attach", 1}, {"juxtagram/core/lang", 1}, {"juxtagram/core/entry", 2}, {"juxtagram/core/highlight", 3}, {"juxtagram/core/facts", 3},
	{"juxtagram/core/intake", 3}, {"juxtagram/core/reader", 4}, {"juxtagram/core/history", 4}, {"juxtagram/core/role", 4}, {"juxtagram/core/recipe", 4}, {"juxtagram/core/effects", 4},
	{"juxtagram/core/links", 5}, {"juxtagram/core/leads", 5}, {"juxtagram/core/spine", 5}, {"juxtagram/core/gitlog", 6}, {"juxtagram/core/webanno", 6}, {"juxtagram/core/compare", 5}, {"juxtagram/core/parts", 5}, {"juxtagram/core/skim", 5}, {"juxtagram/core/place", 5}, {"juxtagram/core/find", 5}, {"juxtagram/core/summary", 6}, {"juxtagram/core/reach", 6}, {"juxtagram/core/follow", 7}, {"juxtagram/core/plan/health", 8}, {"juxtagram/core/plan/page", 9}, {"juxtagram/core/plan/draft", 8}, {"juxtagram/core/plan/document", 8}, {"juxtagram/core/plan", 7},
	{"juxtagram/survey", 10}, {"juxtagram/demo", 11}, {"juxtagram/store", 20}, {"juxtagram/jobs", 30}, {"juxtagram/server", 40}, {"juxtagram/cmd", 50},
}

func rank(path string) int {
	for _, l := range ladder {
		if path == l.prefix || strings.HasPrefix(path, l.prefix+"/") {
			return l.rank
		}
	}
	return -1
}

type pkg struct {
	ImportPath string
	Imports    []string
}

func packages(t *testing.T) []pkg {
	t.Helper()
	out, err := exec.Command("go", "list", "-json=ImportPath,Imports", "juxtagram/...").Output()
	require.NoError(t, err)
	var list []pkg
	for dec := json.NewDecoder(strings.NewReader(string(out))); ; {
		var p pkg
		if err := dec.Decode(&p); errors.Is(err, io.EOF) {
			return list
		} else {
			require.NoError(t, err)
		}
		list = append(list, p)
	}
}

func TestLayers(t *testing.T) {
	seen := 0
	for _, p := range packages(t) {
		from := rank(p.ImportPath)
		if strings.HasSuffix(p.ImportPath, "test") {
			continue // helpers of tests
		}
		for _, to := range p.Imports {
			if !strings.HasPrefix(to, "juxtagram/") {
				continue
			}
			if at := rank(to); from >= 0 && at >= 0 {
				seen++
				same := strings.HasPrefix(to, "juxtagram/core/lang") && strings.HasPrefix(p.ImportPath, "juxtagram/core/lang") ||
					strings.HasPrefix(to, "juxtagram/core/links") && strings.HasPrefix(p.ImportPath, "juxtagram/core/links")
				assert.True(t, at < from || same, "%s must not import %s", p.ImportPath, to)
			} else if strings.HasPrefix(p.ImportPath, "juxtagram/core/") {
				t.Errorf("%s imports %s, which has no place in the ladder", p.ImportPath, to)
			}
		}
	}
	assert.Greater(t, seen, 20)
}

func TestTheCoreHasNoInterface(t *testing.T) {
	for _, p := range packages(t) {
		if !strings.HasPrefix(p.ImportPath, "juxtagram/core/") && p.ImportPath != "juxtagram/survey" {
			continue
		}
		for _, to := range p.Imports {
			for _, banned := range []string{"net/http", "database/sql", "flag", "gorm.io", "github.com/jackc", "github.com/gin-gonic", "github.com/spf13", "github.com/danielgtaylor"} {
				assert.False(t, to == banned || strings.HasPrefix(to, banned+"/"), "%s must not import %s", p.ImportPath, to)
			}
		}
	}
}
