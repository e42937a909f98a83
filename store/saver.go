package store

import (
	"context"
	"time"

	"juxtagram/survey"
)

// Saver keeps what one survey finds, stage by stage. Where an earlier survey of
// the repository makes the stages short, it leaves out what the next stage
// would write anew at once.
type Saver struct {
	store *Store
	id    int64
	again bool
	saved time.Time
}

// savedAfter is how long a survey that has much remembered may show nothing
// new.
const savedAfter = 3 * time.Second

// SaverOf makes the saver of a survey.
func (s *Store) SaverOf(ctx context.Context, v *Survey) (*Saver, error) {
	k := &Saver{store: s, id: v.ID, saved: time.Now()}
	err := s.pool.QueryRow(ctx, "SELECT EXISTS (SELECT 1 FROM history_pin WHERE repository_id = $1)", v.RepositoryID).Scan(&k.again)
	return k, err
}

// Save keeps what was found up to a stage, with the stages' progress.
func (k *Saver) Save(ctx context.Context, stage string, r *survey.Result, stages []StageProgress) error {
	if k.again && stage != survey.StageLeads && time.Since(k.saved) < savedAfter {
		return k.store.SaveStages(ctx, k.id, stages)
	}
	err := k.store.saveStage(ctx, k.id, stage, r, stages)
	k.saved = time.Now()
	return err
}
