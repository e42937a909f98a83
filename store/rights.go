package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
)

// Rights are what a person may do in the installation, besides their parts in repositories.
type Rights struct {
	Person   int64
	Name     string
	Email    string
	Owner    bool     // may take in from everywhere
	MayTake  bool     // in from addresses and files
	Roots    []string // folders of the server from below which they may take in
	Parts    int      // repositories in which they have one
	TakenIn  int      // repositories that they took in
	UsedByte int64    // bytes that those take
}

const rightsQuery = `SELECT p.id, p.name, p.email, p.owner, p.owner OR p.may_take_in,
	COALESCE((SELECT array_agg(g.root ORDER BY g.root) FROM root_grant g WHERE g.person_id = p.id), '{}'),
	(SELECT count(*) FROM membership m WHERE m.person_id = p.id),
	(SELECT count(*) FROM repository r WHERE r.created_by = p.id), COALESCE((SELECT sum(r.bytes) FROM repository r WHERE r.created_by = p.id), 0)::bigint
	FROM person p`

func scanRights(row pgx.CollectableRow) (r Rights, err error) {
	return r, row.Scan(&r.Person, &r.Name, &r.Email, &r.Owner, &r.MayTake, &r.Roots, &r.Parts, &r.TakenIn, &r.UsedByte)
}

// RightsOfAll lists everybody by name.
func (s *Store) RightsOfAll(ctx context.Context) ([]Rights, error) {
	rows, err := s.pool.Query(ctx, rightsQuery+" ORDER BY lower(p.name), p.id")
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, scanRights)
}

// RightsOf are one person's.
func (s *Store) RightsOf(ctx context.Context, person int64) (*Rights, error) {
	rows, err := s.pool.Query(ctx, rightsQuery+" WHERE p.id = $1", person)
	if err != nil {
		return nil, err
	}
	r, err := pgx.CollectExactlyOneRow(rows, scanRights)
	return &r, known(err)
}

// SetRights lets a person take in, and opens folders to them; roots replace those before.
func (s *Store) SetRights(ctx context.Context, person int64, mayTake bool, roots []string) error {
	return s.InTx(ctx, func(tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, "UPDATE person SET may_take_in = $2 WHERE id = $1", person, mayTake)
		if err == nil && tag.RowsAffected() == 0 {
			err = ErrNotFound
		}
		if err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, "DELETE FROM root_grant WHERE person_id = $1", person); err != nil {
			return err
		}
		_, err = tx.Exec(ctx, "INSERT INTO root_grant (person_id, root) SELECT DISTINCT $1::bigint, unnest($2::text[])", person, roots)
		return err
	})
}

// RevokeWithoutPart revokes what somebody has who has no part in any repository any more: the
// right to take in, folders and sessions. False: they have a part, or own the installation.
func (s *Store) RevokeWithoutPart(ctx context.Context, person int64, now time.Time) (revoked bool, err error) {
	err = s.InTx(ctx, func(tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, `UPDATE person SET may_take_in = false, sessions_from = $2
			WHERE id = $1 AND NOT owner AND NOT EXISTS (SELECT 1 FROM membership m WHERE m.person_id = person.id)`, person, now)
		if err != nil || tag.RowsAffected() == 0 {
			return err
		}
		revoked = true
		_, err = tx.Exec(ctx, "DELETE FROM root_grant WHERE person_id = $1", person)
		return err
	})
	return revoked, err
}

// FirstCall keeps a call's signature for so long; false: it is kept already.
func (s *Store) FirstCall(ctx context.Context, signature []byte, keep time.Duration) (bool, error) {
	if _, err := s.pool.Exec(ctx, "DELETE FROM hook_call WHERE taken_at < now() - make_interval(secs => $1)", keep.Seconds()); err != nil {
		return false, err
	}
	tag, err := s.pool.Exec(ctx, "INSERT INTO hook_call (signature) VALUES ($1) ON CONFLICT DO NOTHING", signature)
	return tag.RowsAffected() == 1, err
}

// JobsOf counts the take-ins and surveys that somebody has waiting or at work.
func (s *Store) JobsOf(ctx context.Context, person int64) (n int, err error) {
	err = s.pool.QueryRow(ctx, `SELECT count(*) FROM repository r WHERE r.created_by = $1 AND (r.state = 'taking-in' OR r.fetching
		OR EXISTS (SELECT 1 FROM survey v WHERE v.repository_id = r.id AND v.state IN ('waiting', 'running')))`, person).Scan(&n)
	return n, err
}
