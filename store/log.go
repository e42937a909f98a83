package store

import (
	"context"
	"fmt"
	"strings"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/gitlog"
	"juxtagram/core/history"
	"juxtagram/core/repo"
)

// HistoryPins are the commits all of whose history is kept.
func (s *Store) HistoryPins(ctx context.Context, repository int64) ([]string, error) {
	rows, err := s.pool.Query(ctx, "SELECT oid FROM history_pin WHERE repository_id = $1", repository)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}

// TurnHistory tells that the history of a repository, or what is told of its
// people, is not what it was.
func (s *Store) TurnHistory(ctx context.Context, repository int64) error {
	_, err := s.pool.Exec(ctx, "UPDATE repository SET history_version = history_version + 1 WHERE id = $1", repository)
	return err
}

// Entries gives every commit that is kept of a repository to do, in no order.
// An entry is valid until the next.
func (s *Store) Entries(ctx context.Context, repository int64, do func(*gitlog.Entry) error) error {
	rows, err := s.pool.Query(ctx, `SELECT oid, parents, author_name, author_email, author_time, commit_time, subject, message, changes
		FROM history_commit WHERE repository_id = $1`, repository)
	if err != nil {
		return err
	}
	defer rows.Close()
	var e gitlog.Entry
	var parents string
	for rows.Next() {
		raw := rows.RawValues()
		e.ID, parents = string(raw[0]), string(raw[1])
		e.AuthorName, e.AuthorEmail = string(raw[2]), string(raw[3])
		e.AuthorTime, e.CommitTime = bigint(raw[4]), bigint(raw[5])
		e.Subject, e.Message, e.Packed = string(raw[6]), string(raw[7]), raw[8]
		e.Parents = strings.Fields(parents)
		if err := do(&e); err != nil {
			return fmt.Errorf("commit %s: %w", e.ID, err)
		}
	}
	return rows.Err()
}

// bigint reads a column of that type as it comes over the wire.
func bigint(b []byte) int64 {
	var n uint64
	for _, c := range b {
		n = n<<8 | uint64(c)
	}
	return int64(n)
}

// ChangesOf are the changes of some commits, by id, hunks and all.
func (s *Store) ChangesOf(ctx context.Context, repository int64, ids []string) (map[string][]repo.Change, error) {
	rows, err := s.pool.Query(ctx, "SELECT oid, changes FROM history_commit WHERE repository_id = $1 AND oid = ANY($2)", repository, ids)
	if err != nil {
		return nil, err
	}
	out := make(map[string][]repo.Change, len(ids))
	var id string
	var packed []byte
	_, err = pgx.ForEachRow(rows, []any{&id, &packed}, func() error {
		changes, err := history.UnpackChanges(packed)
		if err != nil {
			return fmt.Errorf("commit %s: %w", id, err)
		}
		out[id] = changes
		return nil
	})
	return out, err
}
