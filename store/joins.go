package store

import (
	"context"
	"time"

	"juxtagram/core/history"
	"juxtagram/core/repo"
)

// PersonJoin tells that somebody of the history is the same person as another.
type PersonJoin struct {
	ID           int64 `gorm:"primaryKey;default:(-)"`
	RepositoryID int64
	Email, Name  string
	ToEmail      string
	ToName       string
	MadeBy       *int64
	MadeAt       time.Time
}

// TableName names the table.
func (PersonJoin) TableName() string { return "person_join" }

// Joins are those of a repository, the oldest first.
func (s *Store) Joins(ctx context.Context, repository int64) ([]PersonJoin, error) {
	rows := []PersonJoin{}
	err := s.db.WithContext(ctx).Where("repository_id = ?", repository).Order("id").Find(&rows).Error
	return rows, err
}

// AddJoin keeps one. ErrTaken: that somebody is joined already.
func (s *Store) AddJoin(ctx context.Context, j *PersonJoin) error {
	j.MadeAt = time.Now()
	if err := s.db.WithContext(ctx).Create(j).Error; err != nil {
		return known(err)
	}
	return s.TurnHistory(ctx, j.RepositoryID)
}

// UndoJoin takes one back; ErrNotFound: there is none.
func (s *Store) UndoJoin(ctx context.Context, repository, id int64) error {
	tx := s.db.WithContext(ctx).Where("id = ? AND repository_id = ?", id, repository).Delete(&PersonJoin{})
	if tx.Error != nil {
		return tx.Error
	}
	if tx.RowsAffected == 0 {
		return ErrNotFound
	}
	return s.TurnHistory(ctx, repository)
}

// Joined are joins as the history takes them.
func Joined(rows []PersonJoin) []history.Joined {
	out := make([]history.Joined, len(rows))
	for i, j := range rows {
		out[i] = history.Joined{From: repo.Person{Name: j.Name, Email: j.Email}, To: repo.Person{Name: j.ToName, Email: j.ToEmail}}
	}
	return out
}
