package store

import (
	"context"
	"time"

	"juxtagram/survey"
)

// Correction is what a person said of a path; see survey.Correction.
type Correction struct {
	ID           int64 `gorm:"primaryKey;default:(-)"`
	RepositoryID int64
	Kind         string
	Path         string
	Value        string
	PersonID     *int64
	At           time.Time
	UndoneAt     *time.Time
	Name         string `gorm:"->"` // of the person; "": gone
}

// TableName names the table.
func (Correction) TableName() string { return "correction" }

// AddCorrection keeps one.
func (s *Store) AddCorrection(ctx context.Context, c *Correction) error {
	c.At = time.Now()
	return s.db.WithContext(ctx).Create(c).Error
}

// Corrections are those of a repository that hold, oldest first.
func (s *Store) Corrections(ctx context.Context, repository int64) ([]Correction, error) {
	rows := []Correction{}
	err := s.db.WithContext(ctx).Model(&Correction{}).Select("correction.*, coalesce(person.name, '') AS name").
		Joins("LEFT JOIN person ON person.id = correction.person_id").
		Where("repository_id = ? AND undone_at IS NULL", repository).Order("correction.id").Scan(&rows).Error
	return rows, err
}

// UndoCorrection takes one back; ErrNotFound: there is none that holds.
func (s *Store) UndoCorrection(ctx context.Context, repository, id int64) error {
	tx := s.db.WithContext(ctx).Model(&Correction{}).Where("id = ? AND repository_id = ? AND undone_at IS NULL", id, repository).Update("undone_at", time.Now())
	if tx.Error == nil && tx.RowsAffected == 0 {
		return ErrNotFound
	}
	return tx.Error
}

// CorrectedSince tells whether a correction was made or taken back after a time.
func (s *Store) CorrectedSince(ctx context.Context, repository int64, at time.Time) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&Correction{}).Where("repository_id = ? AND (at > ? OR undone_at > ?)", repository, at, at).Count(&n).Error
	return n > 0, err
}

// Said are corrections as a survey takes them.
func Said(rows []Correction) []survey.Correction {
	out := make([]survey.Correction, len(rows))
	for i, r := range rows {
		by := r.Name
		if by == "" {
			by = "someone who has left"
		}
		out[i] = survey.Correction{Kind: r.Kind, Path: r.Path, Value: r.Value, By: by}
	}
	return out
}
