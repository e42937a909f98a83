package server_test

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/server"
	"juxtagram/store"
)

func TestPeopleCorrectTheSurvey(t *testing.T) {
	h := open(t)
	c := h.person("Oona", true)
	r := repotest.New(t)
	r.Write("run.py", "import deep\n\nif __name__ == \"__main__\":\n    deep.run()\n", "odd/place/deep.py", "def run():\n    pass\n", "tools/gen.py", "x = 1\n").Commit("one")
	dir := filepath.Join(h.roots, "odd")
	require.NoError(t, os.Rename(r.Dir, dir))
	id := h.surveyedAt(c, dir, "main")
	at := fmt.Sprintf("/api/repositories/%d", id)
	settled := func() {
		h.wait(c, id, func(r server.RepositoryInfo) bool { return r.Survey == store.Complete })
	}
	correct := func(kind, path, value string) server.CorrectionInfo {
		made := get[server.CorrectionInfo](c, "POST", at+"/corrections", map[string]string{"kind": kind, "path": path, "value": value})
		settled()
		return made
	}
	origin := func() server.OriginInfo {
		return *get[server.LinksInfo](c, "GET", at+"/links?path=run.py", nil).Imports[0]
	}
	starts := func() int {
		return get[server.OverviewInfo](c, "GET", at+"/overview", nil).Overview.Counts.EntryPoints
	}
	assert.Equal(t, "unresolved", origin().To)
	assert.Equal(t, 1, starts())

	root := correct("root", "odd/place", "")
	assert.Equal(t, []string{"odd/place/deep.py"}, origin().Paths, "a source root")
	correct("role", "tools", "generated")
	file := get[server.FileInfo](c, "GET", at+"/file?path=tools/gen.py", nil)
	assert.Equal(t, "generated", file.Role)
	assert.Contains(t, file.RoleEvidence, "Oona says so", "told")
	correct("start", "tools/gen.py", "script")
	assert.Equal(t, 2, starts())
	correct("no-start", "run.py", "")
	assert.Equal(t, 1, starts())

	list := get[[]server.CorrectionInfo](c, "GET", at+"/corrections", nil)
	require.Len(t, list, 4)
	assert.Equal(t, "Oona", list[0].By)
	status, _ := c.do("DELETE", fmt.Sprintf("%s/corrections/%d", at, root.ID), nil)
	assert.Less(t, status, 300)
	settled()
	assert.Equal(t, "unresolved", origin().To, "taken back")
	status, _ = c.do("DELETE", fmt.Sprintf("%s/corrections/%d", at, root.ID), nil)
	assert.Equal(t, 404, status, "once")

	for _, bad := range []map[string]string{
		{"kind": "role", "path": "tools", "value": "wonderful"}, {"kind": "start", "path": "tools", "value": "script"}, {"kind": "root", "path": "run.py"}, {"kind": "role", "path": "nowhere", "value": "test"},
	} {
		status, _ := c.do("POST", at+"/corrections", bad)
		assert.Equal(t, 422, status, "%v", bad)
	}
	// kept when the code moves on
	require.NoError(t, os.WriteFile(filepath.Join(dir, "new.py"), []byte("y = 2\n"), 0o644))
	assert.Len(t, get[[]server.CorrectionInfo](c, "GET", at+"/corrections", nil), 3)
}
