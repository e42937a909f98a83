package store

import "context"

// maxOpened is how many paths are remembered of what a person opened in one
// repository, the latest.
const maxOpened = 20000

// Open remembers that a person opened a file to read it.
func (s *Store) Open(ctx context.Context, repository, person int64, path string) error {
	_, err := s.pool.Exec(ctx, `INSERT INTO opened (person_id, repository_id, path) VALUES ($1, $2, $3)
		ON CONFLICT (person_id, repository_id, path) DO UPDATE SET at = now()`, person, repository, path)
	return err
}

// Opened lists the paths that a person opened, the latest first.
func (s *Store) Opened(ctx context.Context, repository, person int64) ([]string, error) {
	paths := []string{}
	err := s.db.WithContext(ctx).Table("opened").Where("person_id = ? AND repository_id = ?", person, repository).
		Order("at DESC, path").Limit(maxOpened).Pluck("path", &paths).Error
	return paths, err
}
