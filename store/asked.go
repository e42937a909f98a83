package store

import (
	"context"

	"github.com/jackc/pgx/v5"
)

// ThreadsAt are the threads of a passage of a plan that somebody may see.
func (s *Store) ThreadsAt(ctx context.Context, repository, person, planID int64, passage string) ([]Annotation, error) {
	return s.annotations(ctx, "WHERE a.repository_id = $1 AND a.thread_id IS NULL AND a.deleted_at IS NULL AND"+seenBy+"AND (a.target->>'plan')::bigint = $3 AND a.target->>'passage' = $4 ORDER BY a.id", repository, person, planID, passage)
}

// QuestionsOf counts the open questions at the passages of a plan.
func (s *Store) QuestionsOf(ctx context.Context, repository, person, planID int64) (map[string]int, error) {
	rows, err := s.pool.Query(ctx, "SELECT a.target->>'passage', count(*) FROM annotation a WHERE a.repository_id = $1 AND a.thread_id IS NULL AND a.deleted_at IS NULL AND"+seenBy+
		"AND (a.target->>'plan')::bigint = $3 AND a.kind = 'question' AND a.state = 'open' GROUP BY 1", repository, person, planID)
	if err != nil {
		return nil, err
	}
	out := map[string]int{}
	var passage string
	var n int
	_, err = pgx.ForEachRow(rows, []any{&passage, &n}, func() error {
		out[passage] = n
		return nil
	})
	return out, err
}
