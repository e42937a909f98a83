package store_test

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/history"
	"juxtagram/core/leads"
	"juxtagram/core/links"
	"juxtagram/core/repo"
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

// TestASurveyGoesWithAllItsRows: no row names a survey that is not there, though the
// database does not hold the rows to it one by one.
func TestASurveyGoesWithAllItsRows(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	begun := func(name string) (*store.Repository, *store.Survey) {
		r, err := s.AddRepository(ctx, store.Repository{Name: name, SourceKind: "folder", Source: "x", State: store.Pinned, HalfLife: 180})
		require.NoError(t, err)
		r.Pin = "0000000000000000000000000000000000000001"
		v, err := s.AddSurvey(ctx, r)
		require.NoError(t, err)
		return r, v
	}
	going, first := begun("going")
	_, second := begun("staying")
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
