package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/ahead"
	"juxtagram/survey"
)

// Saver keeps what one survey finds, stage by stage. Where an earlier survey of
// the repository makes the stages short, it leaves out what the next stage
// would write anew at once. Close it in the end.
type Saver struct {
	store *Store
	id    int64
	again bool
	saved time.Time
	last  func() (pgx.Tx, error) // waits for the last transaction, which was begun before its stage; nil: it was not
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

// Save keeps what was found up to a stage, with the stages' progress: in one
// transaction, so that what is half loaded is never seen.
func (k *Saver) Save(ctx context.Context, stage string, r *survey.Result, stages []StageProgress) error {
	switch {
	case stage == survey.StageLeads:
		return k.end(ctx, r, stages)
	case stage == survey.StageLines:
		k.begin(ctx, r)
	}
	if k.again && time.Since(k.saved) < savedAfter {
		return k.store.SaveStages(ctx, k.id, stages)
	}
	err := k.store.saveStage(ctx, k.id, stage, r, stages)
	k.saved = time.Now()
	return err
}

// begin starts the last transaction: what it holds most of stands before the last
// stage, which goes on meanwhile.
func (k *Saver) begin(ctx context.Context, r *survey.Result) {
	k.last = ahead.Begin(func() (pgx.Tx, error) {
		tx, err := k.store.pool.Begin(ctx)
		if err != nil {
			return nil, err
		}
		whole := false
		defer func() { // after a panic too
			if !whole {
				undo(tx)
			}
		}()
		for _, save := range []func() error{
			func() error { return hold(ctx, tx, k.id) },
			func() error { return savePaths(ctx, tx, k.id, r) },
			func() error { return saveLinks(ctx, tx, k.id, r) },
			func() error { return saveMoves(ctx, tx, k.id, r) },
		} {
			if err := save(); err != nil {
				return nil, err
			}
		}
		whole = true
		return tx, nil
	})
}

// end finishes the last transaction.
func (k *Saver) end(ctx context.Context, r *survey.Result, stages []StageProgress) error {
	if k.last == nil {
		k.begin(ctx, r)
	}
	overview, err := json.Marshal(Summarise(r))
	if err != nil {
		return err
	}
	last := k.last
	k.last = nil
	tx, err := last()
	if err != nil {
		return err
	}
	defer undo(tx) // what is committed is not
	for _, save := range []func() error{
		func() error { return saveLeads(ctx, tx, k.id, r) },
		func() error { return saveTagged(ctx, tx, k.id, r) },
		func() error { return savePackages(ctx, tx, k.id, r) },
		func() error { return saveOverview(ctx, tx, k.id, overview, stages) },
	} {
		if err := save(); err != nil {
			return err
		}
	}
	if err := tx.Commit(ctx); err != nil {
		return err
	}
	return k.store.analyse(ctx)
}

// analyse has the database count the rows that surveys write by what they are found
// by, before anybody asks for them. By itself it counts minutes later; all columns would
// take ten times as long.
func (s *Store) analyse(ctx context.Context) error {
	_, err := s.pool.Exec(ctx, "ANALYZE survey_path (survey_id, parent), survey_lead (survey_id, kind, lead_id), survey_tagged (survey_id), lead_seen (repository_id, survey_id)")
	return err
}

// Close takes back what was begun of a survey that came to no end.
func (k *Saver) Close() {
	if k.last == nil {
		return
	}
	if tx, err := k.last(); err == nil {
		undo(tx)
	}
	k.last = nil
}

// undo takes a transaction back, whether or not the work it is part of was
// cancelled. One whose connection is gone is taken back by the database.
func undo(tx pgx.Tx) { _ = tx.Rollback(context.Background()) }

// saveStage keeps what a survey found up to a stage that is not the last.
func (s *Store) saveStage(ctx context.Context, id int64, stage string, r *survey.Result, stages []StageProgress) error {
	overview, err := json.Marshal(Summarise(r))
	if err != nil {
		return err
	}
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if err := hold(ctx, tx, id); err != nil {
			return err
		}
		switch stage {
		case survey.StageTree, survey.StageLines:
			// the next transaction holds their rows, and comes at once
		case survey.StageLinks:
			if err := saveLinks(ctx, tx, id, r); err != nil {
				return err
			}
		default:
			if err := savePaths(ctx, tx, id, r); err != nil {
				return err
			}
		}
		return saveOverview(ctx, tx, id, overview, stages)
	})
}

// hold keeps a survey from being taken away before its rows are there.
func hold(ctx context.Context, tx pgx.Tx, id int64) error {
	return known(tx.QueryRow(ctx, "SELECT id FROM survey WHERE id = $1 FOR KEY SHARE", id).Scan(&id))
}

func saveOverview(ctx context.Context, tx pgx.Tx, id int64, overview []byte, stages []StageProgress) error {
	progress, err := json.Marshal(stages)
	if err != nil {
		return err
	}
	_, err = tx.Exec(ctx, "UPDATE survey SET overview = $2, stages = $3 WHERE id = $1", id, cleanJSON(overview), progress)
	return err
}
