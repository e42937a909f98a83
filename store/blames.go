package store

import (
	"context"
	"encoding/json"
	"errors"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/repo"
)

// Blame is a line history that was kept under a key; nil: none.
func (s *Store) Blame(ctx context.Context, repository int64, key string) (*repo.Blame, error) {
	var raw []byte
	err := s.pool.QueryRow(ctx, "SELECT data FROM line_history WHERE repository_id = $1 AND key = $2", repository, key).Scan(&raw)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	b := new(repo.Blame)
	return b, json.Unmarshal(raw, b)
}

// maxBlames is how many line histories are kept of a repository, the latest.
const maxBlames = 5000

// KeepBlame keeps a line history; the oldest of very many go.
func (s *Store) KeepBlame(ctx context.Context, repository int64, key string, b *repo.Blame) error {
	raw, err := json.Marshal(b)
	if err != nil {
		return err
	}
	_, err = s.pool.Exec(ctx, `INSERT INTO line_history (repository_id, key, data) VALUES ($1, $2, $3)
		ON CONFLICT (repository_id, key) DO UPDATE SET data = $3, made_at = now()`, repository, key, raw)
	if err != nil {
		return err
	}
	_, err = s.pool.Exec(ctx, `DELETE FROM line_history WHERE repository_id = $1 AND key IN (
		SELECT key FROM line_history WHERE repository_id = $1 ORDER BY made_at DESC OFFSET $2)`, repository, maxBlames)
	return err
}
