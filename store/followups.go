package store

import (
	"context"

	"github.com/jackc/pgx/v5"
)

// FollowUp is a commit that follows up a thread.
type FollowUp struct {
	Thread int64
	Commit string // full id
	By     string // who linked it; "": an account that is gone
}

// FollowUps are the commits that follow up some threads, by thread, in the order
// they were linked.
func (s *Store) FollowUps(ctx context.Context, threads []int64) (map[int64][]FollowUp, error) {
	rows, err := s.pool.Query(ctx, "SELECT c.thread_id, c.commit_id, coalesce(p.name, '') FROM thread_commit c LEFT JOIN person p ON p.id = c.person_id WHERE c.thread_id = ANY ($1) ORDER BY c.at, c.commit_id", threads)
	if err != nil {
		return nil, err
	}
	out := map[int64][]FollowUp{}
	var f FollowUp
	_, err = pgx.ForEachRow(rows, []any{&f.Thread, &f.Commit, &f.By}, func() error {
		out[f.Thread] = append(out[f.Thread], f)
		return nil
	})
	return out, err
}

// Link makes a commit follow up a thread, or no longer where on is false.
func (s *Store) Link(ctx context.Context, thread, person int64, commit string, on bool) error {
	text, args := "INSERT INTO thread_commit (thread_id, commit_id, person_id) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING", []any{thread, commit, person}
	if !on {
		text, args = "DELETE FROM thread_commit WHERE thread_id = $1 AND commit_id = $2", args[:2]
	}
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, text, args...); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, "UPDATE annotation SET changed_at = now() WHERE id = $1", thread)
		return err
	})
}
