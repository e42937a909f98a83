package store

import (
	"context"
	"encoding/json"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/plan/draft"
	"juxtagram/core/summary"
)

// Ground is what plans are drafted from at a survey, which must be complete; whole and
// chart are its own.
func (s *Store) Ground(ctx context.Context, v *Survey, whole *summary.Whole, chart *Chart) (*draft.Ground, error) {
	n := len(whole.Files)
	in := draft.Survey{Whole: whole, Pin: v.OID, Hot: make([]float64, n), Intricacy: make([]int, n)}
	for i := range in.Intricacy {
		in.Intricacy[i] = -1
	}
	rows, err := s.pool.Query(ctx, "SELECT path, intricacy FROM survey_path WHERE survey_id = $1 AND intricacy IS NOT NULL", v.ID)
	if err != nil {
		return nil, err
	}
	var path string
	var intricacy int
	_, err = pgx.ForEachRow(rows, []any{&path, &intricacy}, func() error {
		if i := whole.Find(path); i >= 0 {
			in.Intricacy[i] = intricacy
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	var o Overview
	if err := json.Unmarshal(v.Overview, &o); err != nil {
		return nil, err
	}
	in.Recipes = o.Recipes
	for _, h := range o.Hotspots {
		if i := whole.Find(h.Path); i >= 0 {
			in.Hot[i] = h.Score
		}
	}
	if chart.Ledger != nil {
		in.Partners = func(files []int, limit int) ([]draft.Partner, int) {
			return draft.PartnersIn(chart.Ledger, files, limit, func(file int) int {
				row := chart.RowOf(whole.Files[file].Path)
				if row < 0 {
					return -1
				}
				return int(chart.Table.Rows[row].File)
			}, func(number int) int { return whole.Find(chart.Files[number].Path) })
		}
	}
	return draft.NewGround(in), nil
}
