package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"

	"juxtagram/survey"
)

// States of a survey.
const (
	Waiting   = "waiting"
	Running   = "running"
	Complete  = "complete"
	Failed    = "failed"
	Cancelled = "cancelled"
)

// StageProgress is how far one stage is.
type StageProgress struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Unit  string `json:"unit"`
	State string `json:"state" enum:"waiting,running,complete"`
	Done  int    `json:"done"`
	Total int    `json:"total" doc:"0: not known"`
	MS    int64  `json:"ms" doc:"Milliseconds it took"`
}

// Survey is one survey of a repository at one commit.
type Survey struct {
	ID           int64 `gorm:"primaryKey;default:(-)"`
	RepositoryID int64
	OID          string `gorm:"column:oid"`
	Ref          string
	Subfolder    string
	HalfLife     float64
	State        string
	Problem      string
	Stages       json.RawMessage `gorm:"type:jsonb"`
	Overview     json.RawMessage `gorm:"type:jsonb"`
	JobID        *int64
	CreatedAt    time.Time
	EndedAt      *time.Time
}

// TableName names the table.
func (Survey) TableName() string { return "survey" }

// StageList decodes the stages.
func (v *Survey) StageList() []StageProgress {
	var out []StageProgress
	_ = json.Unmarshal(v.Stages, &out) // written by SaveStages alone
	return out
}

// AddSurveyIn records a survey that is to be made, at a repository's pin, in a
// transaction.
func (s *Store) AddSurveyIn(ctx context.Context, tx pgx.Tx, r *Repository) (*Survey, error) {
	var stages []StageProgress
	for _, st := range survey.Stages {
		stages = append(stages, StageProgress{Name: st.Name, Title: st.Title, Unit: st.Unit, State: Waiting})
	}
	b, err := json.Marshal(stages)
	if err != nil {
		return nil, err
	}
	v := &Survey{RepositoryID: r.ID, OID: r.Pin, Ref: r.PinRef, Subfolder: r.Subfolder, HalfLife: r.HalfLife, State: Waiting,
		Stages: b, Overview: json.RawMessage("{}"), CreatedAt: time.Now()}
	err = tx.QueryRow(ctx, `INSERT INTO survey (repository_id, oid, ref, subfolder, half_life, state, stages, overview, created_at)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) RETURNING id`,
		v.RepositoryID, v.OID, v.Ref, v.Subfolder, v.HalfLife, v.State, v.Stages, v.Overview, v.CreatedAt).Scan(&v.ID)
	return v, err
}

// AddSurvey is AddSurveyIn in a transaction of its own: no job works on it.
func (s *Store) AddSurvey(ctx context.Context, r *Repository) (v *Survey, err error) {
	err = s.InTx(ctx, func(tx pgx.Tx) error {
		v, err = s.AddSurveyIn(ctx, tx, r)
		return err
	})
	return v, err
}

// SurveyBy notes in a transaction which job makes a survey.
func (s *Store) SurveyBy(ctx context.Context, tx pgx.Tx, id, job int64) error {
	_, err := tx.Exec(ctx, "UPDATE survey SET job_id = $2 WHERE id = $1", id, job)
	return err
}

// Survey finds one by id.
func (s *Store) Survey(ctx context.Context, id int64) (*Survey, error) {
	var v Survey
	err := s.db.WithContext(ctx).First(&v, id).Error
	return &v, known(err)
}

// SurveyAt is the newest survey of a repository at a commit.
func (s *Store) SurveyAt(ctx context.Context, repository int64, oid string) (*Survey, error) {
	var v Survey
	err := s.db.WithContext(ctx).Where("repository_id = ? AND oid = ?", repository, oid).Order("id DESC").First(&v).Error
	return &v, known(err)
}

// CompleteSurveyAt is the newest survey of a repository at a commit that is
// complete.
func (s *Store) CompleteSurveyAt(ctx context.Context, repository int64, oid string) (*Survey, error) {
	var v Survey
	err := s.db.WithContext(ctx).Where("repository_id = ? AND oid = ? AND state = ?", repository, oid, Complete).Order("id DESC").First(&v).Error
	return &v, known(err)
}

// UnfinishedSurveys lists surveys that wait or run, oldest first.
func (s *Store) UnfinishedSurveys(ctx context.Context) ([]Survey, error) {
	rows := []Survey{}
	err := s.db.WithContext(ctx).Where("state IN ?", []string{Waiting, Running}).Order("id").Find(&rows).Error
	return rows, err
}

// MoveSurvey changes a survey's state if it is in one of from; it tells
// whether it was.
func (s *Store) MoveSurvey(ctx context.Context, id int64, from []string, set map[string]any) (bool, error) {
	tx := s.db.WithContext(ctx).Model(&Survey{}).Where("id = ? AND state IN ?", id, from).Updates(set)
	return tx.RowsAffected > 0, tx.Error
}

// SaveStages keeps the progress of the stages.
func (s *Store) SaveStages(ctx context.Context, id int64, stages []StageProgress) error {
	b, err := json.Marshal(stages)
	if err != nil {
		return err
	}
	return s.db.WithContext(ctx).Model(&Survey{}).Where("id = ?", id).Update("stages", json.RawMessage(b)).Error
}

// saveLinks keeps what the imports were resolved to.
func saveLinks(ctx context.Context, tx pgx.Tx, id int64, r *survey.Result) error {
	_, err := tx.Exec(ctx, "INSERT INTO survey_links (survey_id, data) VALUES ($1, $2) ON CONFLICT (survey_id) DO NOTHING", id, r.Snapshot.Pack())
	return err
}

func saveLeads(ctx context.Context, tx pgx.Tx, id int64, r *survey.Result) error {
	if _, err := tx.Exec(ctx, "DELETE FROM survey_lead WHERE survey_id = $1", id); err != nil {
		return err
	}
	return copyIn(ctx, tx, "survey_lead", []string{"survey_id", "n", "lead_id", "kind", "detail", "path", "line", "title", "why", "weight"}, func(w *rows) {
		for i := range r.Leads {
			l := &r.Leads[i]
			w.row()
			w.bigint(id)
			w.integer(i)
			w.text(l.ID)
			w.text(l.Kind)
			w.text(clean(l.Detail))
			w.text(valid(l.Path))
			orNull(w, w.integer, l.Line)
			w.text(clean(l.Title))
			w.text(clean(l.Why))
			w.double(l.Weight)
		}
	})
}

// LeadRow is one lead of a survey.
type LeadRow struct {
	N      int
	LeadID string
	Kind   string
	Detail string
	Path   string
	Line   *int
	Title  string
	Why    string
	Weight float64
}

// TableName names the table.
func (LeadRow) TableName() string { return "survey_lead" }

// LeadFilter narrows leads; zero values do not.
type LeadFilter struct {
	Kind, Detail, Text, Path string // Path: this file alone
	State                    string // open, kept, aside, read, unread or new; "": all
	Repository               int64  // whose marks State asks for
	Person                   int64  // whose reading State asks for
	Offset, Limit            int
}

// leadStates are the conditions of LeadFilter's states.
var leadStates = map[string]string{
	"open":   "NOT EXISTS (SELECT 1 FROM lead_mark m WHERE m.repository_id = @repository AND m.lead_id = survey_lead.lead_id)",
	"kept":   "EXISTS (SELECT 1 FROM lead_mark m WHERE m.repository_id = @repository AND m.lead_id = survey_lead.lead_id AND m.state = 'kept')",
	"aside":  "EXISTS (SELECT 1 FROM lead_mark m WHERE m.repository_id = @repository AND m.lead_id = survey_lead.lead_id AND m.state = 'aside')",
	"read":   "EXISTS (SELECT 1 FROM lead_read m WHERE m.repository_id = @repository AND m.lead_id = survey_lead.lead_id AND m.person_id = @person)",
	"unread": "NOT EXISTS (SELECT 1 FROM lead_read m WHERE m.repository_id = @repository AND m.lead_id = survey_lead.lead_id AND m.person_id = @person)",
	"new":    "EXISTS (SELECT 1 FROM lead_seen m WHERE m.repository_id = @repository AND m.lead_id = survey_lead.lead_id AND m.survey_id = @survey)",
}

func (f *LeadFilter) inState(q *gorm.DB, survey int64) *gorm.DB {
	where := leadStates[f.State]
	if where == "" {
		return q
	}
	return q.Where(where, map[string]any{"repository": f.Repository, "person": f.Person, "survey": survey})
}

// leadsIn calls do in a transaction whose plans do not rest on how many rows the
// database believes there are: those of a new survey it has not counted yet.
func (s *Store) leadsIn(ctx context.Context, do func(tx *gorm.DB) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("SET LOCAL enable_nestloop = off").Error; err != nil {
			return err
		}
		return do(tx)
	}, &sql.TxOptions{ReadOnly: true})
}

// isFirst tells whether no survey of a repository before this one found any lead:
// then none counts as new.
func isFirst(tx *gorm.DB, repository, survey int64) (bool, error) {
	var first bool
	err := tx.Raw("SELECT NOT EXISTS (SELECT 1 FROM lead_seen WHERE repository_id = ? AND survey_id < ?)", repository, survey).Scan(&first).Error
	return first, err
}

// LeadCount counts the leads of one kind and detail.
type LeadCount struct {
	Kind, Detail string
	Count        int
}

// Leads lists leads, best first, with the number of all that fit.
func (s *Store) Leads(ctx context.Context, surveyID int64, f LeadFilter) (rows []LeadRow, total int64, err error) {
	rows = []LeadRow{}
	err = s.leadsIn(ctx, func(tx *gorm.DB) error {
		q, err := f.among(tx, surveyID)
		if err != nil || q == nil {
			return err
		}
		if f.Kind != "" {
			q = q.Where("kind = ?", f.Kind)
		}
		if f.Detail != "" {
			q = q.Where("detail = ?", f.Detail)
		}
		if f.Path != "" {
			q = q.Where("path = ?", f.Path)
		}
		if err := q.Session(&gorm.Session{}).Count(&total).Error; err != nil {
			return err
		}
		return q.Select("survey_lead.*").Order("n").Offset(f.Offset).Limit(f.Limit).Find(&rows).Error
	})
	return rows, total, err
}

// among are the leads of a survey that are in the filter's state and hold its text,
// whatever their kind; nil: none can be.
func (f LeadFilter) among(tx *gorm.DB, survey int64) (*gorm.DB, error) {
	if f.State == "new" {
		if first, err := isFirst(tx, f.Repository, survey); err != nil || first {
			return nil, err
		}
	}
	return f.inState(f.holding(tx.Model(&LeadRow{}).Where("survey_lead.survey_id = ?", survey)), survey), nil
}

// holding narrows to the leads whose path or title holds the filter's text.
func (f LeadFilter) holding(q *gorm.DB) *gorm.DB {
	if f.Text == "" {
		return q
	}
	like := "%" + strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(f.Text) + "%"
	return q.Where("(path ILIKE ? OR title ILIKE ?)", like, like)
}

// LeadCounts counts the leads of a survey by kind and detail; those alone that are in
// the filter's state and hold its text.
func (s *Store) LeadCounts(ctx context.Context, surveyID int64, f LeadFilter) ([]LeadCount, error) {
	rows := []LeadCount{}
	err := s.leadsIn(ctx, func(tx *gorm.DB) error {
		q, err := f.among(tx, surveyID)
		if err != nil || q == nil {
			return err
		}
		return q.Select("kind, detail, count(*) AS count").Group("kind, detail").Order("kind, count DESC, detail").Scan(&rows).Error
	})
	return rows, err
}

// LeadTotals counts the leads of a survey that somebody marked, and those that
// no earlier one found.
func (s *Store) LeadTotals(ctx context.Context, repository, surveyID int64) (marked, fresh int64, err error) {
	err = s.leadsIn(ctx, func(tx *gorm.DB) error {
		err := tx.Raw("SELECT count(*) FROM survey_lead l JOIN lead_mark m ON m.lead_id = l.lead_id WHERE l.survey_id = ? AND m.repository_id = ?", surveyID, repository).Scan(&marked).Error
		if err != nil {
			return err
		}
		if first, err := isFirst(tx, repository, surveyID); err != nil || first {
			return err
		}
		return tx.Raw("SELECT count(*) FROM lead_seen WHERE repository_id = ? AND survey_id = ?", repository, surveyID).Scan(&fresh).Error
	})
	return marked, fresh, err
}

// CommitTime is when a commit was committed, as far as a survey has read it.
func (s *Store) CommitTime(ctx context.Context, repository int64, oid string) (time.Time, error) {
	var unix int64
	err := s.pool.QueryRow(ctx, "SELECT commit_time FROM history_commit WHERE repository_id = $1 AND oid = $2", repository, oid).Scan(&unix)
	if errors.Is(err, pgx.ErrNoRows) {
		return time.Time{}, ErrNotFound
	}
	return time.Unix(unix, 0), err
}
