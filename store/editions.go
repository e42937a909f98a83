package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/plan"
)

// Edition is a published, numbered state of a plan.
type Edition struct {
	Number int
	Seq    int64
	Pin    string // the repository's, when it was published
	Note   string
	By     string // "": an account that is gone
	At     time.Time
}

const editionColumns = "e.number, e.seq, e.pin, e.note, coalesce(p.name, ''), e.at"

// PublishPlan makes a plan as it is into its next edition. ErrChanged: somebody has
// changed it since the operation seq.
func (s *Store) PublishPlan(ctx context.Context, id, person, seq int64, pin, note string) (int, error) {
	var number int
	err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var now int64
		if err := tx.QueryRow(ctx, "SELECT seq FROM plan WHERE id = $1 FOR UPDATE", id).Scan(&now); err != nil {
			return known(err)
		}
		if now != seq {
			return ErrChanged
		}
		state, err := s.folded(ctx, tx, id, seq)
		if err != nil {
			return err
		}
		b, err := json.Marshal(state)
		if err != nil {
			return err
		}
		return tx.QueryRow(ctx, `INSERT INTO plan_edition (plan_id, number, seq, pin, note, state, person_id)
			SELECT $1, coalesce(max(number), 0) + 1, $2, $3, $4, $5, $6 FROM plan_edition WHERE plan_id = $1 RETURNING number`, id, seq, pin, note, b, person).Scan(&number)
	})
	return number, err
}

// Editions are those of a plan, the newest first.
func (s *Store) Editions(ctx context.Context, id int64) ([]Edition, error) {
	rows, err := s.pool.Query(ctx, "SELECT "+editionColumns+" FROM plan_edition e LEFT JOIN person p ON p.id = e.person_id WHERE e.plan_id = $1 ORDER BY e.number DESC", id)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Edition])
}

// EditionState is what an edition says.
func (s *Store) EditionState(ctx context.Context, id int64, number int) (*plan.State, error) {
	key := [2]int64{id, int64(number)}
	if state, ok := s.editionStates.Get(key); ok {
		return state, nil
	}
	var raw []byte
	if err := s.pool.QueryRow(ctx, "SELECT state FROM plan_edition WHERE plan_id = $1 AND number = $2", id, number).Scan(&raw); err != nil {
		return nil, known(err)
	}
	state := plan.New()
	if err := json.Unmarshal(raw, state); err != nil {
		return nil, err
	}
	s.editionStates.Add(key, state)
	return state, nil
}
