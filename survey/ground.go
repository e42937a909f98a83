package survey

import (
	"sync"

	"juxtagram/core/history"
	"juxtagram/core/plan/draft"
	"juxtagram/core/summary"
)

// Ground is what reading plans are drafted from. The survey must be complete;
// whole is its own.
func (r *Result) Ground(whole *summary.Whole) *draft.Ground {
	in := draft.Survey{Whole: whole, Pin: r.Commit, Hot: make([]float64, len(r.Files)), Intricacy: make([]int, len(r.Files)), Recipes: r.Recipes}
	for i := range r.Files {
		in.Intricacy[i] = -1
		if f := r.Files[i].Facts; f != nil && f.Intricacy != nil {
			in.Intricacy[i] = *f.Intricacy
		}
	}
	for _, h := range r.Hotspots {
		if i := whole.Find(h.Path); i >= 0 {
			in.Hot[i] = h.Score
		}
	}
	if r.Moves != nil {
		same := func(n int) int { return n }
		ledger := sync.OnceValue(func() *history.Ledger { return history.NewLedger(r.Moves, len(r.Files), r.Log.Time(), r.HalfLife) })
		in.Partners = func(files []int, limit int) ([]draft.Partner, int) {
			return draft.PartnersIn(ledger(), files, limit, same, same)
		}
	}
	return draft.NewGround(in)
}
