package store_test

import (
	"context"
	"fmt"
	"juxtagram/core/plan"
	"path"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/links"
	"juxtagram/core/repo"
	"juxtagram/core/role"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
	"juxtagram/survey"
)

// found is a result of so many files, each with a lead.
func found(files int) *survey.Result {
	r := &survey.Result{Commit: "0000000000000000000000000000000000000001", Snapshot: &links.Snapshot{}, Moves: &history.Moves{}, People: &history.People{}}
	for i := range files {
		path := fmt.Sprintf("part%d/file%d.go", i%7, i)
		r.Files = append(r.Files, survey.File{Entry: repo.Entry{Path: path, Blob: fmt.Sprintf("%040d", i), Mode: "file"}, Size: int64(i)})
		r.Leads = append(r.Leads, leads.Lead{ID: path, Kind: "entry", Path: path, Title: path, Why: "so"})
	}
	return r
}

// begun puts down a survey of a repository of its own.
func begun(t *testing.T, s *store.Store, name string) (*store.Repository, *store.Survey) {
	t.Helper()
	r, err := s.AddRepository(t.Context(), store.Repository{Name: name, SourceKind: "folder", Source: "x", State: store.Pinned, HalfLife: 180})
	require.NoError(t, err)
	r.Pin = "0000000000000000000000000000000000000001"
	v, err := s.AddSurvey(t.Context(), r)
	require.NoError(t, err)
	return r, v
}

// TestRowsAreAsTheyWereFound: every kind of value goes into the database and comes back.
func TestRowsAreAsTheyWereFound(t *testing.T) {
	ctx := t.Context()
	s := pgtest.Store(t)
	_, v := begun(t, s, "rows")
	intricacy := 17
	r := found(3)
	r.People = &history.People{List: []history.Person{{Name: "Ada Bramble"}}}
	r.Files[0] = survey.File{
		Entry: repo.Entry{Path: "part0/b\xffd é.go", Blob: strings.Repeat("ab", 20), Mode: "executable"}, Size: 1 << 40,
		Role: role.Role{Name: "source", Evidence: "its name"},
		Facts: &facts.Facts{Depth: lang.Parsed, Symbols: 3, Intricacy: &intricacy, Lines: &facts.Lines{Total: 40, Code: 30, Comment: 8, Blank: 2},
			Tagged: make([]facts.TaggedComment, 2)},
		History: &history.File{Commits: 5, LinesAdded: 50, LinesDeleted: 10, LinesKnown: true, Recent: 1.75, FirstAt: -86_400, LastAt: 1_700_000_001, People: []history.Share{{Commits: 5}}},
	}
	line := 12
	r.Leads[0].Line, r.Leads[0].Weight = &line, 0.125
	saver, err := s.SaverOf(ctx, v)
	require.NoError(t, err)
	defer saver.Close()
	require.NoError(t, saver.Save(ctx, survey.StageLeads, r, nil))
	shown, _ := repo.EscapePath(r.Files[0].Path)
	row, err := s.PathAt(ctx, v.ID, shown)
	require.NoError(t, err)
	f, size, first := &r.Files[0], int64(1<<40), int64(-86_400)
	assert.Equal(t, []any{shown, "part0", path.Base(shown), true, []byte(f.Path), f.Blob, f.Mode, 1, size, "source", "its name", "parsed", false, 40, 30, 8, 2, 2, 5, 50, 10, 1.75, first, int64(1_700_000_001), 3, 17, 0},
		[]any{row.Path, *row.Parent, row.Name, row.Escaped, row.RawPath, row.Blob, row.Mode, row.Files, *row.Size, row.Role, row.RoleEvidence, row.Depth, row.IsBinary, *row.Lines, *row.Code, *row.Comment,
			*row.Blank, row.Tagged, *row.Commits, *row.LinesAdded, *row.LinesDeleted, *row.Recent, row.FirstAt.Unix(), row.LastAt.Unix(), *row.Symbols, *row.Intricacy, *row.Ord})
	assert.JSONEq(t, `[{"name": "Ada Bramble", "commits": 5}]`, string(row.People))
	assert.Nil(t, row.Dependents)
	plain, err := s.PathAt(ctx, v.ID, "part1/file1.go")
	require.NoError(t, err)
	assert.Equal(t, []any{false, []byte(nil), int64(1), 1, 0}, []any{plain.Escaped, plain.RawPath, *plain.Size, *plain.Ord, plain.Tagged})
	assert.Nil(t, plain.Lines)
	assert.Nil(t, plain.LastAt)

	root, err := s.PathAt(ctx, v.ID, "")
	require.NoError(t, err)
	assert.Equal(t, []any{true, 3, size + 1 + 2, 40, 50}, []any{root.Folder, root.Files, *root.Size, *root.Lines, *root.LinesAdded})
	assert.Nil(t, root.Parent)
	folders, err := s.FoldersAmong(ctx, v.ID, []string{"", "part0", "part1/file1.go", "part9", "part0"})
	require.NoError(t, err)
	assert.Equal(t, map[string]bool{"": true, "part0": true}, folders)
	files, err := s.FilesAmong(ctx, v.ID, []string{"", "part0", "part1/file1.go", "part1/file1.go", shown})
	require.NoError(t, err)
	assert.Equal(t, map[string]store.FileLore{"part1/file1.go": {Lines: -2}, shown: {Lines: 40, Role: "source", Evidence: "its name"}}, files)
	leads, total, err := s.Leads(ctx, v.ID, store.LeadFilter{Limit: 1})
	require.NoError(t, err)
	assert.Equal(t, []any{int64(3), 12, 0.125}, []any{total, *leads[0].Line, leads[0].Weight})

	listed, err := s.MemoryOf(v.RepositoryID).Listed(ctx, "")
	require.NoError(t, err)
	assert.Nil(t, listed, "a survey that is not complete")
	_, err = s.MoveSurvey(ctx, v.ID, []string{store.Waiting}, map[string]any{"state": store.Complete})
	require.NoError(t, err)
	listed, err = s.MemoryOf(v.RepositoryID).Listed(ctx, "")
	require.NoError(t, err)
	want := &survey.Listed{Commit: v.OID}
	for i := range r.Files {
		want.Files = append(want.Files, survey.ListedFile{Entry: r.Files[i].Entry, Size: r.Files[i].Size})
	}
	assert.Equal(t, want, listed)
}

// TestHalfASurveyIsNeverSeen: what is written before the last stage is there with it or
// not at all.
func TestHalfASurveyIsNeverSeen(t *testing.T) {
	s := pgtest.Store(t)
	count := func(v *store.Survey) int {
		all, _, err := s.MatchPaths(t.Context(), v.ID, "file", 100)
		require.NoError(t, err)
		return len(all)
	}
	begin := func(name string, r *survey.Result) (context.CancelFunc, *store.Survey, *store.Saver, func() error) {
		ctx, cancel := context.WithCancel(t.Context())
		_, v := begun(t, s, name)
		saver, err := s.SaverOf(ctx, v)
		require.NoError(t, err)
		require.NoError(t, saver.Save(ctx, survey.StageLines, r, nil))
		return cancel, v, saver, func() error { return saver.Save(ctx, survey.StageLeads, r, nil) }
	}

	cancel, v, saver, end := begin("whole", found(50))
	assert.Equal(t, 0, count(v))
	require.NoError(t, end())
	assert.Equal(t, 50, count(v))
	saver.Close()
	cancel()

	cancel, v, saver, _ = begin("ended early", found(50))
	saver.Close()
	assert.Equal(t, 0, count(v))
	require.NoError(t, s.DeleteRepository(t.Context(), v.RepositoryID), "nothing holds it any more")
	cancel()

	cancel, v, saver, end = begin("cancelled", found(20_000))
	cancel()
	require.ErrorIs(t, end(), context.Canceled)
	saver.Close()
	assert.Equal(t, 0, count(v))

	large := found(3)
	large.Files[1].History = &history.File{LinesKnown: true, LinesAdded: 1 << 33}
	cancel, v, saver, end = begin("a number that no column holds", large)
	require.ErrorContains(t, end(), "8589934592 is more than a column holds")
	saver.Close()
	assert.Equal(t, 0, count(v))
	cancel()

	broken := found(3)
	broken.Links = &links.Links{} // but no figures
	cancel, v, saver, end = begin("a fault of our own", broken)
	assert.Panics(t, func() { _ = end() }, "it meets whoever waits")
	saver.Close()
	require.NoError(t, s.DeleteRepository(t.Context(), v.RepositoryID), "nothing holds it any more")
	cancel()
	assert.Zero(t, s.Pool().Stat().AcquiredConns())
}

// TestASurveyGoesWithAllItsRows: no row names a survey that is not there, though the
// database does not hold the rows to it one by one.
func TestASurveyGoesWithAllItsRows(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	going, first := begun(t, s, "going")
	_, second := begun(t, s, "staying")
	rows := func(v *store.Survey) (paths, leads int) {
		all, _, err := s.MatchPaths(ctx, v.ID, "file", 100)
		require.NoError(t, err)
		_, total, err := s.Leads(ctx, v.ID, store.LeadFilter{Limit: 1})
		require.NoError(t, err)
		return len(all), int(total)
	}
	for _, v := range []*store.Survey{first, second} {
		saver, err := s.SaverOf(ctx, v)
		require.NoError(t, err)
		require.NoError(t, saver.Save(ctx, survey.StageLeads, found(50), nil))
		paths, leads := rows(v)
		assert.Equal(t, []int{50, 50}, []int{paths, leads})
	}
	saver, err := s.SaverOf(ctx, first)
	require.NoError(t, err)
	require.NoError(t, s.DeleteRepository(ctx, going.ID))
	assert.ErrorIs(t, saver.Save(ctx, survey.StageLeads, found(50), nil), store.ErrNotFound, "a survey that was taken away meanwhile")
	paths, leads := rows(first)
	assert.Equal(t, []int{0, 0}, []int{paths, leads})
	paths, leads = rows(second)
	assert.Equal(t, []int{50, 50}, []int{paths, leads})
}

// TestRecordsHoldTogether: what would lose or double data is refused by the schema.
func TestRecordsHoldTogether(t *testing.T) {
	s := pgtest.Store(t)
	p, err := s.AddPerson(t.Context(), store.Person{Name: "Oona Fell", Email: "o@example.test", PasswordHash: "x", Owner: true, CreatedAt: time.Now()}, false)
	require.NoError(t, err)
	r, err := s.AddRepository(t.Context(), store.Repository{Name: "m", SourceKind: "folder", Source: "x", State: store.Pinned, Pin: strings.Repeat("a", 40), HalfLife: 180, CreatedBy: &p.ID})
	require.NoError(t, err)
	v, err := s.AddSurvey(t.Context(), r)
	require.NoError(t, err)
	made, err := s.AddPlan(t.Context(), r.ID, plan.New(), false, p.ID)
	require.NoError(t, err)
	_, err = s.ApplyOps(t.Context(), made.ID, p.ID, []store.ClientOp{{ClientID: "operation-1", Op: plan.Op{Kind: plan.SetPlan, Field: "title", To: "Tides"}}})
	require.NoError(t, err)
	exec := func(query string, args ...any) error {
		_, err := s.Pool().Exec(t.Context(), query, args...)
		return err
	}
	var twice string
	require.NoError(t, s.Pool().QueryRow(t.Context(), "SELECT pg_get_indexdef('survey_path_place'::regclass)").Scan(&twice))
	assert.Contains(t, twice, "NULLS NOT DISTINCT", "a survey has one row for the root")
	for name, err := range map[string]error{
		"a state of a repository that there is not": exec("UPDATE repository SET state = 'lost' WHERE id = $1", r.ID),
		"a state of a survey that there is not":     exec("UPDATE survey SET state = 'lost' WHERE id = $1", v.ID),
		"an operation of nobody":                    exec("UPDATE plan_op SET actor = 4711"),
		"an answer that is not there":               exec("INSERT INTO annotation (uid, repository_id, author_name, body, answer_id) VALUES ('u', $1, 'x', 'x', 4711)", r.ID),
		"a question of a plan that is not there":    exec(`INSERT INTO annotation (uid, repository_id, author_name, body, target) VALUES ('w', $1, 'x', 'x', '{"plan": 4711}')`, r.ID),
	} {
		assert.ErrorContains(t, err, "violates", name)
	}
	require.NoError(t, exec(`INSERT INTO annotation (uid, repository_id, author_name, body, target) VALUES ('q', $1, 'x', 'Why?', jsonb_build_object('plan', $2::bigint))`, r.ID, made.ID))
	require.NoError(t, s.DeletePlan(t.Context(), made.ID))
	var left int
	require.NoError(t, s.Pool().QueryRow(t.Context(), "SELECT count(*) FROM annotation").Scan(&left))
	assert.Zero(t, left, "a question goes with its plan")
}
