package store

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"juxtagram/core/tagged"
)

// wordRow is one of a team's own words of tagged comments.
type wordRow struct {
	RepositoryID int64 `gorm:"primaryKey"`
	N            int   `gorm:"primaryKey"`
	Word         string
	Meaning      string
	Urgency      int
	Pattern      string
	Done         bool
}

func (wordRow) TableName() string { return "tagged_word" }

// OwnWords are a team's own words, in the order they were put down.
func (s *Store) OwnWords(ctx context.Context, repository int64) ([]tagged.Word, error) {
	var rows []wordRow
	if err := s.db.WithContext(ctx).Where("repository_id = ?", repository).Order("n").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]tagged.Word, len(rows))
	for i, r := range rows {
		out[i] = tagged.Word{Word: r.Word, Meaning: r.Meaning, Urgency: tagged.Urgency(r.Urgency), Pattern: r.Pattern, Done: r.Done}
	}
	return out, nil
}

// Words are all words of a repository's tagged comments, ready to be looked for.
func (s *Store) Words(ctx context.Context, repository int64) (*tagged.Words, error) {
	own, err := s.OwnWords(ctx, repository)
	if err != nil || len(own) == 0 {
		return tagged.Standard, err
	}
	w, err := tagged.Compile(own)
	if err != nil {
		return nil, fmt.Errorf("words of repository %d: %w", repository, err)
	}
	return w, nil
}

// SetOwnWords puts a team's own words in the place of those before. They must
// compile.
func (s *Store) SetOwnWords(ctx context.Context, repository int64, own []tagged.Word) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Where("repository_id = ?", repository).Delete(&wordRow{}).Error; err != nil {
			return err
		}
		for i, w := range own {
			row := wordRow{RepositoryID: repository, N: i, Word: w.Word, Meaning: w.Meaning, Urgency: int(w.Urgency), Pattern: w.Pattern, Done: w.Done}
			if err := tx.Create(&row).Error; err != nil {
				return err
			}
		}
		return nil
	})
}
