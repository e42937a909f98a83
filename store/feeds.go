package store

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"errors"

	"github.com/jackc/pgx/v5"
)

// MakeFeed makes the address token of a person's feed of a repository; the one
// before stops to work. The token is kept nowhere.
func (s *Store) MakeFeed(ctx context.Context, repository, person int64) (token string, err error) {
	raw := make([]byte, 24)
	_, _ = rand.Read(raw) // never fails
	token = base64.RawURLEncoding.EncodeToString(raw)
	_, err = s.pool.Exec(ctx, `INSERT INTO feed (token_hash, repository_id, person_id) VALUES ($1, $2, $3)
		ON CONFLICT (repository_id, person_id) DO UPDATE SET token_hash = $1, made_at = now()`, hash(token), repository, person)
	return token, err
}

// EndFeed stops the person's feed of a repository.
func (s *Store) EndFeed(ctx context.Context, repository, person int64) error {
	_, err := s.pool.Exec(ctx, "DELETE FROM feed WHERE repository_id = $1 AND person_id = $2", repository, person)
	return err
}

// FeedOf is what a token leads to; ErrNotFound: nothing.
func (s *Store) FeedOf(ctx context.Context, token string) (repository, person int64, err error) {
	err = s.pool.QueryRow(ctx, "SELECT repository_id, person_id FROM feed WHERE token_hash = $1", hash(token)).Scan(&repository, &person)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return repository, person, err
}
