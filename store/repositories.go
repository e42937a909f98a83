package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
)

// States of a repository.
const (
	TakingIn   = "taking-in"
	TakeFailed = "failed"
	NeedsPin   = "needs-pin"
	Pinned     = "pinned"
	Removing   = "removing"
)

// Repository is one repository of the shelf.
type Repository struct {
	ID         int64 `gorm:"primaryKey;default:(-)"`
	Name       string
	SourceKind string // "folder" | "address" | "file"
	Source     string // as shown; never with a secret
	Subfolder  string
	State      string
	Problem    string // why the take-in failed
	Doing      string // what the take-in is at
	Pin        string // full id, "" before it is chosen
	PinRef     string // the tag or branch it was chosen by, "" for an id
	HalfLife   float64
	Notes      json.RawMessage `gorm:"type:jsonb"` // list of words
	Credential []byte          // encrypted
	JobID      *int64
	CreatedBy  *int64
	CreatedAt  time.Time
	Bytes      int64 // of the mirror, when it was taken in or fetched last
	// HistoryVersion grows with the history that is kept, and with what is told
	// of its people.
	HistoryVersion int64
	PeopleHidden   bool // what people did is told nowhere
	FetchedAt      *time.Time
	Fetching       bool            // new commits are asked for
	FetchProblem   string          // why the last fetch failed
	News           json.RawMessage `gorm:"type:jsonb"` // list of intake.News: what it found
	HookSecret     []byte          // encrypted; nil: no calls are taken
}

// TableName names the table.
func (Repository) TableName() string { return "repository" }

// AddRepository puts a repository on the shelf; its maker becomes keeper.
func (s *Store) AddRepository(ctx context.Context, r Repository) (*Repository, error) {
	return &r, s.InTx(ctx, func(tx pgx.Tx) error { return s.AddRepositoryIn(ctx, tx, &r) })
}

// AddRepositoryIn is AddRepository in a transaction; it sets the id.
func (s *Store) AddRepositoryIn(ctx context.Context, tx pgx.Tx, r *Repository) error {
	r.CreatedAt = time.Now()
	if r.Notes == nil {
		r.Notes = json.RawMessage("[]")
	}
	r.News = json.RawMessage("[]")
	err := tx.QueryRow(ctx, `INSERT INTO repository (name, source_kind, source, subfolder, state, doing, pin, pin_ref, half_life, notes, news, credential, created_by, created_at)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) RETURNING id`,
		r.Name, r.SourceKind, r.Source, r.Subfolder, r.State, r.Doing, r.Pin, r.PinRef, r.HalfLife, r.Notes, r.News, r.Credential, r.CreatedBy, r.CreatedAt).Scan(&r.ID)
	if err != nil || r.CreatedBy == nil {
		return err
	}
	_, err = tx.Exec(ctx, "INSERT INTO membership (repository_id, person_id, role) VALUES ($1, $2, $3)", r.ID, *r.CreatedBy, Keeper)
	return err
}

// PinIn sets the commit at which a repository is read, in a transaction.
func (s *Store) PinIn(ctx context.Context, tx pgx.Tx, id int64, commit, ref string) error {
	_, err := tx.Exec(ctx, "UPDATE repository SET state = $2, pin = $3, pin_ref = $4 WHERE id = $1", id, Pinned, commit, ref)
	return err
}

// TakeInBy notes in a transaction that a job takes a repository in.
func (s *Store) TakeInBy(ctx context.Context, tx pgx.Tx, id, job int64) error {
	_, err := tx.Exec(ctx, "UPDATE repository SET state = $2, problem = '', doing = '', job_id = $3 WHERE id = $1", id, TakingIn, job)
	return err
}

// Repository finds one by id.
func (s *Store) Repository(ctx context.Context, id int64) (*Repository, error) {
	var r Repository
	err := s.db.WithContext(ctx).First(&r, id).Error
	return &r, known(err)
}

// Shelved is a repository as the shelf shows it.
type Shelved struct {
	Repository `gorm:"embedded"`
	Role       Role
	Plans      int
	Survey     string // state of the newest survey at the pin; "": none
	Files      int
	Commits    int
}

// Shelf lists what a person may see, newest first.
func (s *Store) Shelf(ctx context.Context, p *Person) ([]Shelved, error) {
	rows := []Shelved{}
	q := s.db.WithContext(ctx).Table("repository r").
		Joins("LEFT JOIN membership m ON m.repository_id = r.id AND m.person_id = ?", p.ID).
		Joins(`LEFT JOIN LATERAL (SELECT state, overview FROM survey v WHERE v.repository_id = r.id AND v.oid = r.pin ORDER BY id DESC LIMIT 1) v ON true`).
		Select(`r.*, coalesce(m.role, '') AS role, coalesce(v.state, '') AS survey,
			coalesce((v.overview->'counts'->>'files')::int, 0) AS files, coalesce((v.overview->'counts'->>'commits')::int, 0) AS commits,
			(SELECT count(*) FROM plan WHERE plan.repository_id = r.id AND (NOT plan.private OR plan.created_by = ?)) AS plans`, p.ID).
		Where("r.state <> ?", Removing).Order("r.id DESC")
	if !p.Owner {
		q = q.Where("m.role IS NOT NULL")
	}
	err := q.Scan(&rows).Error
	for i := range rows {
		if p.Owner {
			rows[i].Role = Keeper
		}
	}
	return rows, err
}

// UpdateRepository sets some columns.
func (s *Store) UpdateRepository(ctx context.Context, id int64, set map[string]any) error {
	return s.db.WithContext(ctx).Model(&Repository{}).Where("id = ?", id).Updates(set).Error
}

// DeleteRepository removes a repository and everything of it but the facts of
// blobs, which other repositories may share, and then facts nobody holds.
func (s *Store) DeleteRepository(ctx context.Context, id int64) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("CREATE TEMP TABLE going ON COMMIT DROP AS SELECT DISTINCT blob FROM survey_path p JOIN survey v ON v.id = p.survey_id WHERE v.repository_id = ? AND blob <> ''", id).Error; err != nil {
			return err
		}
		if err := tx.Exec("DELETE FROM repository WHERE id = ?", id).Error; err != nil {
			return err
		}
		return tx.Exec(`DELETE FROM blob_fact f USING going g WHERE f.blob = g.blob
			AND NOT EXISTS (SELECT 1 FROM survey_path p WHERE p.blob = g.blob)`).Error
	})
}

// RepositoriesIn lists the repositories in one of some states, by id.
func (s *Store) RepositoriesIn(ctx context.Context, states ...string) ([]Repository, error) {
	rows := []Repository{}
	err := s.db.WithContext(ctx).Where("state IN ?", states).Order("id").Find(&rows).Error
	return rows, err
}

// AskFetch notes in a transaction that new commits are asked for; first tells whether nobody was
// at it.
func (s *Store) AskFetch(ctx context.Context, tx pgx.Tx, id int64) (first bool, err error) {
	err = tx.QueryRow(ctx, `UPDATE repository r SET fetching = true, fetch_asked = clock_timestamp() FROM repository old
		WHERE r.id = $1 AND old.id = r.id RETURNING NOT old.fetching`, id).Scan(&first)
	return first, err
}

// EndFetch notes how a fetch went that began at a time; again tells that it was
// asked for once more meanwhile.
func (s *Store) EndFetch(ctx context.Context, id int64, began time.Time, problem string, news json.RawMessage) (again bool, err error) {
	err = s.pool.QueryRow(ctx, `UPDATE repository SET fetched_at = now(), fetch_problem = $3, news = coalesce($4, news), fetching = fetch_asked > $2
		WHERE id = $1 RETURNING fetching`, id, began, problem, news).Scan(&again)
	return again, err
}

// Now is the time by the database's clock.
func (s *Store) Now(ctx context.Context) (at time.Time, err error) {
	err = s.pool.QueryRow(ctx, "SELECT clock_timestamp()").Scan(&at)
	return at, err
}

// LatestRepositories are those whose surveys ended last, the latest first.
func (s *Store) LatestRepositories(ctx context.Context, most int) ([]Repository, error) {
	rows := []Repository{}
	err := s.db.WithContext(ctx).Where("pin <> '' AND state = ?", Pinned).
		Order("(SELECT max(v.ended_at) FROM survey v WHERE v.repository_id = repository.id) DESC NULLS LAST, id DESC").Limit(most).Find(&rows).Error
	return rows, err
}
