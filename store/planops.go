package store

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strconv"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/plan"
)

// ClientOp is an operation with the id its client gave it: sent twice, it is
// carried out once.
type ClientOp struct {
	ClientID string
	Op       plan.Op
}

// DoneOp is an operation that was carried out, and by whom.
type DoneOp struct {
	plan.Op
	Actor int64  // 0: an account that is gone
	Name  string // the actor's; "" with Actor 0
}

// burst is how soon after the last one an operation must come to go on with the
// same text in the same batch.
const burst = time.Minute

// keptEvery is after how many operations a plan's state is kept anew.
const keptEvery = 100

// changing is a plan in a transaction that changes it: its row is locked.
type changing struct {
	s         *Store
	tx        pgx.Tx
	id        int64
	seq, kept int64
	actor     int64
	state     *plan.State
}

// change locks a plan and calls do; what it carried out is kept when do succeeds.
func (s *Store) change(ctx context.Context, id, actor int64, do func(*changing) error) (*Plan, error) {
	c := &changing{s: s, id: id, actor: actor}
	err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		c.tx = tx
		err := tx.QueryRow(ctx, "SELECT seq, state_seq FROM plan WHERE id = $1 FOR UPDATE", id).Scan(&c.seq, &c.kept)
		if err != nil {
			return known(err)
		}
		before, err := s.folded(ctx, tx, id, c.seq)
		if err != nil {
			return err
		}
		c.state = before.Clone()
		was := c.seq
		if err := do(c); err != nil || c.seq == was {
			return err
		}
		if _, err := tx.Exec(ctx, "UPDATE plan SET seq = $2, changed_at = now() WHERE id = $1", id, c.seq); err != nil {
			return err
		}
		if c.seq-c.kept < keptEvery {
			return nil
		}
		b, err := json.Marshal(c.state)
		if err != nil {
			return err
		}
		_, err = tx.Exec(ctx, "UPDATE plan SET state = $2, state_seq = seq WHERE id = $1", id, b)
		return err
	})
	if err != nil {
		return nil, err
	}
	s.planStates.Add(id, foldedPlan{c.seq, c.state})
	return s.Plan(ctx, id)
}

// do carries out operations as one batch: all, or the first that fails tells why.
func (c *changing) do(ctx context.Context, turns int64, ops []ClientOp) error {
	batch, err := c.batch(ctx, turns, ops)
	if err != nil {
		return err
	}
	rows := make([][]any, len(ops))
	for i, o := range ops {
		back := c.state.Inverse(o.Op)
		if err := c.state.Apply(o.Op); err != nil {
			return err
		}
		op, err := json.Marshal(o.Op)
		if err != nil {
			return err
		}
		inverse, err := json.Marshal(back)
		if err != nil {
			return err
		}
		c.seq++
		rows[i] = []any{c.id, c.seq, c.actor, o.ClientID, op, inverse, batch, turns}
	}
	_, err = c.tx.CopyFrom(ctx, pgx.Identifier{"plan_op"}, []string{"plan_id", "seq", "actor", "client_id", "op", "inverse", "batch", "turns"}, pgx.CopyFromRows(rows))
	return err
}

// batch is the batch that operations belong to: one of their own, or the last one
// where they go on with the text that the same person wrote last, within a burst.
func (c *changing) batch(ctx context.Context, turns int64, ops []ClientOp) (int64, error) {
	own := c.seq + 1
	if turns != 0 || len(ops) != 1 {
		return own, nil
	}
	var raw []byte
	var batch int64
	err := c.tx.QueryRow(ctx, "SELECT op, batch FROM plan_op WHERE plan_id = $1 AND seq = $2 AND actor = $3 AND turns = 0 AND at > now() - $4::interval",
		c.id, c.seq, c.actor, burst).Scan(&raw, &batch)
	if errors.Is(err, pgx.ErrNoRows) {
		return own, nil
	}
	if err != nil {
		return 0, err
	}
	var last plan.Op
	if err := json.Unmarshal(raw, &last); err != nil {
		return 0, err
	}
	if plan.Continues(last, ops[0].Op) {
		return batch, nil
	}
	return own, nil
}

// fresh are those operations whose client id is not known yet.
func (c *changing) fresh(ctx context.Context, ops []ClientOp) ([]ClientOp, error) {
	ids := make([]string, len(ops))
	for i, o := range ops {
		ids[i] = o.ClientID
	}
	rows, err := c.tx.Query(ctx, "SELECT client_id FROM plan_op WHERE plan_id = $1 AND client_id = ANY ($2)", c.id, ids)
	if err != nil {
		return nil, err
	}
	twice, err := pgx.CollectRows(rows, pgx.RowTo[string])
	if err != nil {
		return nil, err
	}
	return slices.DeleteFunc(slices.Clone(ops), func(o ClientOp) bool { return slices.Contains(twice, o.ClientID) }), nil
}

// ApplyOps carries out operations in one transaction: all or none. Those whose
// client id is known already are passed over. Errors are plan's own.
func (s *Store) ApplyOps(ctx context.Context, id, actor int64, ops []ClientOp) (*Plan, error) {
	return s.change(ctx, id, actor, func(c *changing) error {
		left, err := c.fresh(ctx, ops)
		if err != nil || len(left) == 0 {
			return err
		}
		return c.do(ctx, 0, left)
	})
}

// Turn takes back a person's last batch of operations on a plan, or does again
// what they took back last. Errors are *plan.CannotUndo and plan's own.
func (s *Store) Turn(ctx context.Context, id, actor int64, clientID string, redo bool) (*Plan, error) {
	return s.change(ctx, id, actor, func(c *changing) error {
		if left, err := c.fresh(ctx, []ClientOp{{ClientID: clientID}}); err != nil || len(left) == 0 {
			return err
		}
		rows, err := c.tx.Query(ctx, "SELECT seq, batch, turns FROM plan_op WHERE plan_id = $1 AND actor = $2 ORDER BY seq", id, actor)
		if err != nil {
			return err
		}
		mine, err := pgx.CollectRows(rows, func(row pgx.CollectableRow) (plan.Entry, error) {
			e := plan.Entry{Actor: actor}
			return e, row.Scan(&e.Seq, &e.Batch, &e.Turns)
		})
		if err != nil {
			return err
		}
		turn, again := plan.Stands(mine, actor)
		if redo {
			turn = again
		}
		if turn.Of == 0 {
			return &plan.CannotUndo{Reason: map[bool]string{false: "there is nothing of yours to take back", true: "there is nothing to do again"}[redo]}
		}
		batch, inverse, since, err := c.turned(ctx, turn.Last)
		if err != nil {
			return err
		}
		if cannot := plan.Disturbed(batch, since, actor); cannot != nil {
			return cannot
		}
		ops := make([]ClientOp, len(inverse))
		for i, op := range inverse {
			ops[i] = ClientOp{clientID, op}
			if i > 0 {
				ops[i].ClientID = clientID + "." + strconv.Itoa(i)
			}
		}
		return c.do(ctx, turn.Of, ops)
	})
}

// turned reads a batch, what takes it back, the last first, and what others did
// since.
func (c *changing) turned(ctx context.Context, batch int64) (ops, inverse []plan.Op, since []plan.Entry, err error) {
	rows, err := c.tx.Query(ctx, "SELECT seq, coalesce(actor, 0), batch, op, inverse FROM plan_op WHERE plan_id = $1 AND batch >= $2 AND (batch = $2 OR actor IS DISTINCT FROM $3) ORDER BY seq", c.id, batch, c.actor)
	if err != nil {
		return nil, nil, nil, err
	}
	var e plan.Entry
	var op, back []byte
	_, err = pgx.ForEachRow(rows, []any{&e.Seq, &e.Actor, &e.Batch, &op, &back}, func() error {
		x := e
		if err := json.Unmarshal(op, &x.Op); err != nil {
			return err
		}
		if x.Batch != batch {
			since = append(since, x)
			return nil
		}
		if back == nil {
			return &plan.CannotUndo{Reason: "this was done before it could be taken back"}
		}
		var inv plan.Op
		if err := json.Unmarshal(back, &inv); err != nil {
			return err
		}
		ops, inverse = append(ops, x.Op), append([]plan.Op{inv}, inverse...)
		return nil
	})
	return ops, inverse, since, err
}

// OpsSince are the operations of a plan after one, in order.
func (s *Store) OpsSince(ctx context.Context, id, seq int64) ([]DoneOp, error) {
	rows, err := s.pool.Query(ctx, `SELECT o.op, coalesce(p.id, 0), coalesce(p.name, '') FROM plan_op o LEFT JOIN person p ON p.id = o.actor
		WHERE o.plan_id = $1 AND o.seq > $2 ORDER BY o.seq`, id, seq)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (op DoneOp, err error) {
		var raw []byte
		if err = row.Scan(&raw, &op.Actor, &op.Name); err == nil {
			err = json.Unmarshal(raw, &op.Op)
		}
		return op, err
	})
}

// LastWriter is the name of who set a field of a part of a plan last; "" where
// nobody did, or an account that is gone.
func (s *Store) LastWriter(ctx context.Context, id int64, part, field string) (string, error) {
	var name string
	err := s.pool.QueryRow(ctx, `SELECT coalesce(p.name, '') FROM plan_op o LEFT JOIN person p ON p.id = o.actor
		WHERE o.plan_id = $1 AND coalesce(o.op->>'id', '') = $2 AND o.op->>'field' = $3 ORDER BY o.seq DESC LIMIT 1`, id, part, field).Scan(&name)
	if errors.Is(err, pgx.ErrNoRows) {
		return "", nil
	}
	return name, err
}
