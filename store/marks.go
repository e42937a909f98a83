package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
)

// What people may say of a lead.
const (
	Kept  = "kept"  // it is meant to be so
	Aside = "aside" // it is not worth reading, for a reason
)

// LeadMark is what somebody said of a lead.
type LeadMark struct {
	State  string
	Reason string
	By     string // "": an account that is gone
	At     time.Time
}

// LeadMarks are those of a repository, by the lead's id.
func (s *Store) LeadMarks(ctx context.Context, repository int64) (map[string]LeadMark, error) {
	rows, err := s.pool.Query(ctx, `SELECT m.lead_id, m.state, m.reason, coalesce(p.name, ''), m.at FROM lead_mark m LEFT JOIN person p ON p.id = m.person_id WHERE m.repository_id = $1`, repository)
	if err != nil {
		return nil, err
	}
	out := map[string]LeadMark{}
	var id string
	var m LeadMark
	_, err = pgx.ForEachRow(rows, []any{&id, &m.State, &m.Reason, &m.By, &m.At}, func() error {
		out[id] = m
		return nil
	})
	return out, err
}

// MarkLeads keeps what somebody says of leads; state "": they are brought back.
func (s *Store) MarkLeads(ctx context.Context, repository, person int64, leads []string, state, reason string) error {
	if state == "" {
		_, err := s.pool.Exec(ctx, "DELETE FROM lead_mark WHERE repository_id = $1 AND lead_id = ANY ($2)", repository, leads)
		return err
	}
	_, err := s.pool.Exec(ctx, `INSERT INTO lead_mark (repository_id, lead_id, state, reason, person_id) SELECT $1, unnest($2::text[]), $3, $4, $5
		ON CONFLICT (repository_id, lead_id) DO UPDATE SET state = $3, reason = $4, person_id = $5, at = now()`, repository, leads, state, reason, person)
	return err
}

// ReadLeads keeps that somebody has read leads, or has not.
func (s *Store) ReadLeads(ctx context.Context, repository, person int64, leads []string, read bool) error {
	if !read {
		_, err := s.pool.Exec(ctx, "DELETE FROM lead_read WHERE repository_id = $1 AND person_id = $2 AND lead_id = ANY ($3)", repository, person, leads)
		return err
	}
	_, err := s.pool.Exec(ctx, "INSERT INTO lead_read (repository_id, person_id, lead_id) SELECT $1, $2, unnest($3::text[]) ON CONFLICT DO NOTHING", repository, person, leads)
	return err
}

// LeadsRead are the leads that somebody has read.
func (s *Store) LeadsRead(ctx context.Context, repository, person int64) (map[string]bool, error) {
	return s.leadSet(ctx, "SELECT lead_id FROM lead_read WHERE repository_id = $1 AND person_id = $2", repository, person)
}

// LeadsNew are the leads that a survey found and none before it; where it is the
// repository's first there are none.
func (s *Store) LeadsNew(ctx context.Context, repository, survey int64) (map[string]bool, error) {
	return s.leadSet(ctx, `SELECT lead_id FROM lead_seen WHERE repository_id = $1 AND survey_id = $2
		AND EXISTS (SELECT 1 FROM lead_seen WHERE repository_id = $1 AND survey_id < $2)`, repository, survey)
}

func (s *Store) leadSet(ctx context.Context, query string, args ...any) (map[string]bool, error) {
	rows, err := s.pool.Query(ctx, query, args...)
	if err != nil {
		return nil, err
	}
	out := map[string]bool{}
	var id string
	_, err = pgx.ForEachRow(rows, []any{&id}, func() error {
		out[id] = true
		return nil
	})
	return out, err
}

// IgnoreRule hides tagged comments.
type IgnoreRule struct {
	ID           int64 `gorm:"primaryKey;default:(-)"`
	RepositoryID int64
	Kind         string // "path" or "text"
	Pattern      string
	MadeBy       *int64
	MadeAt       time.Time
}

// TableName names the table.
func (IgnoreRule) TableName() string { return "tagged_ignore" }

// IgnoreRules are those of a repository, the oldest first.
func (s *Store) IgnoreRules(ctx context.Context, repository int64) ([]IgnoreRule, error) {
	rows := []IgnoreRule{}
	err := s.db.WithContext(ctx).Where("repository_id = ?", repository).Order("id").Find(&rows).Error
	return rows, err
}

// AddIgnoreRule keeps one.
func (s *Store) AddIgnoreRule(ctx context.Context, r *IgnoreRule) error {
	r.MadeAt = time.Now()
	return s.db.WithContext(ctx).Create(r).Error
}

// EndIgnoreRule takes one away; ErrNotFound: there is none.
func (s *Store) EndIgnoreRule(ctx context.Context, repository, id int64) error {
	tx := s.db.WithContext(ctx).Where("id = ? AND repository_id = ?", id, repository).Delete(&IgnoreRule{})
	if tx.Error == nil && tx.RowsAffected == 0 {
		return ErrNotFound
	}
	return tx.Error
}

// KeptView is the address of a list that somebody keeps by a name.
type KeptView struct {
	ID           int64 `gorm:"primaryKey;default:(-)"`
	RepositoryID int64
	PersonID     *int64 // nil: everybody's
	Page         string
	Name         string
	Query        string // of the page's address
	MadeAt       time.Time
}

// TableName names the table.
func (KeptView) TableName() string { return "kept_view" }

// KeptViews are those of a page that somebody may use, the oldest first.
func (s *Store) KeptViews(ctx context.Context, repository, person int64, page string) ([]KeptView, error) {
	rows := []KeptView{}
	err := s.db.WithContext(ctx).Where("repository_id = ? AND page = ? AND (person_id IS NULL OR person_id = ?)", repository, page, person).Order("id").Find(&rows).Error
	return rows, err
}

// AddKeptView keeps one.
func (s *Store) AddKeptView(ctx context.Context, v *KeptView) error {
	v.MadeAt = time.Now()
	return s.db.WithContext(ctx).Create(v).Error
}

// KeptView finds one by id.
func (s *Store) KeptView(ctx context.Context, repository, id int64) (*KeptView, error) {
	var v KeptView
	err := s.db.WithContext(ctx).Where("repository_id = ?", repository).First(&v, id).Error
	return &v, known(err)
}

// EndKeptView takes one away.
func (s *Store) EndKeptView(ctx context.Context, id int64) error {
	return s.db.WithContext(ctx).Delete(&KeptView{}, id).Error
}
