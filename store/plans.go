package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/plan"
)

// Plan is a reading plan with its state.
type Plan struct {
	ID           int64
	RepositoryID int64
	Private      bool
	Seq          int64       // the newest operation
	State        *plan.State // not to be changed
	CreatedBy    int64       // 0: an account that is gone
	CreatorName  string
	ChangedAt    time.Time
	Edition      int   // the newest one's number; 0: none is published
	EditionSeq   int64 // the newest operation that is in it
}

const planColumns = `p.id, p.repository_id, p.private, p.seq, coalesce(p.created_by, 0), coalesce(c.name, ''), p.changed_at, coalesce(e.number, 0), coalesce(e.seq, 0)
	FROM plan p LEFT JOIN person c ON c.id = p.created_by LEFT JOIN LATERAL (SELECT number, seq FROM plan_edition WHERE plan_id = p.id ORDER BY number DESC LIMIT 1) e ON true `

// plans reads plans by a condition that begins with WHERE, with their states.
func (s *Store) plans(ctx context.Context, where string, args ...any) ([]*Plan, error) {
	rows, err := s.pool.Query(ctx, "SELECT "+planColumns+where, args...)
	if err != nil {
		return nil, err
	}
	out := []*Plan{}
	var p Plan
	_, err = pgx.ForEachRow(rows, []any{&p.ID, &p.RepositoryID, &p.Private, &p.Seq, &p.CreatedBy, &p.CreatorName, &p.ChangedAt, &p.Edition, &p.EditionSeq}, func() error {
		x := p
		out = append(out, &x)
		return nil
	})
	if err != nil {
		return nil, err
	}
	for _, p := range out {
		if p.State, err = s.folded(ctx, s.pool, p.ID, p.Seq); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Plan finds one by id.
func (s *Store) Plan(ctx context.Context, id int64) (*Plan, error) {
	found, err := s.plans(ctx, "WHERE p.id = $1", id)
	if err != nil {
		return nil, err
	}
	if len(found) == 0 {
		return nil, ErrNotFound
	}
	return found[0], nil
}

// Plans lists the plans of a repository that a person may see, by id.
func (s *Store) Plans(ctx context.Context, repository, person int64) ([]*Plan, error) {
	return s.plans(ctx, "WHERE p.repository_id = $1 AND (NOT p.private OR p.created_by = $2) ORDER BY p.id", repository, person)
}

// AddPlan makes a plan of a state.
func (s *Store) AddPlan(ctx context.Context, repository int64, state *plan.State, private bool, by int64) (*Plan, error) {
	b, err := json.Marshal(state)
	if err != nil {
		return nil, err
	}
	var id int64
	// a plan's beginning is nobody's operation: it is not taken back
	err = s.pool.QueryRow(ctx, "INSERT INTO plan (repository_id, private, seq, state, state_seq, created_by) VALUES ($1, $2, 0, $3, 0, $4) RETURNING id", repository, private, cleanJSON(b), by).Scan(&id)
	if err != nil {
		return nil, err
	}
	return s.Plan(ctx, id)
}

// DeletePlan removes a plan with its operations, its editions and everybody's
// progress.
func (s *Store) DeletePlan(ctx context.Context, id int64) error {
	_, err := s.pool.Exec(ctx, "DELETE FROM plan WHERE id = $1", id)
	return err
}

// foldedPlan is a plan's state as of an operation.
type foldedPlan struct {
	seq   int64
	state *plan.State
}

// heldPlans is how many plans' states are held in memory.
const heldPlans = 256

type queryer interface {
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
	QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
}

// folded is the state of a plan as of its operation seq, its newest: what is held
// or kept, and what came later folded onto it.
func (s *Store) folded(ctx context.Context, q queryer, id, seq int64) (*plan.State, error) {
	held, ok := s.planStates.Get(id)
	if ok && held.seq == seq {
		return held.state, nil
	}
	if !ok || held.seq > seq {
		var raw []byte
		held = foldedPlan{state: plan.New()}
		if err := q.QueryRow(ctx, "SELECT state_seq, state FROM plan WHERE id = $1", id).Scan(&held.seq, &raw); err != nil {
			return nil, known(err)
		}
		if err := json.Unmarshal(raw, held.state); err != nil {
			return nil, fmt.Errorf("the state of plan %d: %w", id, err)
		}
	}
	state := held.state.Clone()
	rows, err := q.Query(ctx, "SELECT seq, op FROM plan_op WHERE plan_id = $1 AND seq > $2 AND seq <= $3 ORDER BY seq", id, held.seq, seq)
	if err != nil {
		return nil, err
	}
	var n int64
	var raw []byte
	_, err = pgx.ForEachRow(rows, []any{&n, &raw}, func() error {
		var op plan.Op
		if err := json.Unmarshal(raw, &op); err != nil {
			return err
		}
		if err := state.Apply(op); err != nil {
			return fmt.Errorf("operation %d of plan %d cannot be carried out again: %w", n, id, err)
		}
		held.seq = n
		return nil
	})
	if err != nil {
		return nil, err
	}
	if held.seq >= seq {
		s.planStates.Add(id, foldedPlan{held.seq, state})
	}
	return state, nil
}
