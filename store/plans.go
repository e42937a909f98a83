package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"juxtagram/core/plan"
)

// Plan is a reading plan with its state.
type Plan struct {
	ID           int64
	RepositoryID int64
	Private      bool
	Seq          int64
	State        *plan.State
	CreatedBy    int64 // 0: an account that is gone
	CreatorName  string
	ChangedAt    time.Time
}

type planRow struct {
	ID           int64 `gorm:"primaryKey;default:(-)"`
	RepositoryID int64
	Private      bool
	Seq          int64
	State        json.RawMessage `gorm:"type:jsonb"`
	CreatedBy    *int64
	CreatedAt    time.Time
	ChangedAt    time.Time
	CreatorName  string `gorm:"->;-:migration"`
}

func (planRow) TableName() string { return "plan" }

func (r planRow) value() (*Plan, error) {
	p := &Plan{ID: r.ID, RepositoryID: r.RepositoryID, Private: r.Private, Seq: r.Seq, State: plan.New(), ChangedAt: r.ChangedAt, CreatorName: r.CreatorName}
	if r.CreatedBy != nil {
		p.CreatedBy = *r.CreatedBy
	}
	if err := json.Unmarshal(r.State, p.State); err != nil {
		return nil, fmt.Errorf("plan %d: %w", r.ID, err)
	}
	return p, nil
}

type opRow struct {
	PlanID   int64 `gorm:"primaryKey"`
	Seq      int64 `gorm:"primaryKey"`
	Actor    *int64
	ClientID string
	Op       json.RawMessage `gorm:"type:jsonb"`
	Undoes   int64
	At       time.Time
}

func (opRow) TableName() string { return "plan_op" }

// AddPlan makes an empty plan with a title.
func (s *Store) AddPlan(ctx context.Context, repository int64, title string, private bool, by int64) (*Plan, error) {
	state, err := json.Marshal(plan.New())
	if err != nil {
		return nil, err
	}
	row := planRow{RepositoryID: repository, Private: private, State: state, CreatedBy: &by, CreatedAt: time.Now(), ChangedAt: time.Now()}
	if err := s.db.WithContext(ctx).Omit("CreatorName").Create(&row).Error; err != nil {
		return nil, err
	}
	first := plan.Op{Kind: plan.SetPlan, Field: "title", To: title}
	p, _, err := s.ApplyOps(ctx, row.ID, by, []ClientOp{{ClientID: fmt.Sprintf("title-of-%d", row.ID), Op: first}})
	return p, err
}

// Plan finds one by id.
func (s *Store) Plan(ctx context.Context, id int64) (*Plan, error) {
	var row planRow
	err := s.db.WithContext(ctx).Table("plan").Joins("LEFT JOIN person ON person.id = plan.created_by").
		Select("plan.*, coalesce(person.name, '') AS creator_name").Where("plan.id = ?", id).First(&row).Error
	if err != nil {
		return nil, known(err)
	}
	return row.value()
}

// Plans lists the plans of a repository that a person may see, by id.
func (s *Store) Plans(ctx context.Context, repository, person int64) ([]*Plan, error) {
	var rows []planRow
	err := s.db.WithContext(ctx).Table("plan").Joins("LEFT JOIN person ON person.id = plan.created_by").
		Select("plan.*, coalesce(person.name, '') AS creator_name").
		Where("repository_id = ? AND (NOT private OR created_by = ?)", repository, person).Order("plan.id").Find(&rows).Error
	if err != nil {
		return nil, err
	}
	plans := make([]*Plan, len(rows))
	for i, r := range rows {
		if plans[i], err = r.value(); err != nil {
			return nil, err
		}
	}
	return plans, nil
}

// DeletePlan removes a plan with its operations and everybody's progress.
func (s *Store) DeletePlan(ctx context.Context, id int64) error {
	return s.db.WithContext(ctx).Delete(&planRow{}, id).Error
}

// ClientOp is an operation with the id its client gave it: sent twice, it is
// carried out once.
type ClientOp struct {
	ClientID string
	Op       plan.Op
}

// ApplyOps carries out operations in one transaction: all or none. Those whose
// client id is known already are passed over. Errors are plan's own.
func (s *Store) ApplyOps(ctx context.Context, id, actor int64, ops []ClientOp) (*Plan, int64, error) {
	var p *Plan
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		row, state, err := lockPlan(tx, id)
		if err != nil {
			return err
		}
		for _, o := range ops {
			var n int64
			if err := tx.Model(&opRow{}).Where("plan_id = ? AND client_id = ?", id, o.ClientID).Count(&n).Error; err != nil {
				return err
			}
			if n > 0 {
				continue
			}
			if err := state.Apply(o.Op); err != nil {
				return err
			}
			if err := appendOp(tx, row, actor, o, 0); err != nil {
				return err
			}
		}
		p, err = savePlan(tx, row, state)
		return err
	})
	if err != nil {
		return nil, 0, known(err)
	}
	return p, p.Seq, nil
}

// UndoLast takes back a person's last operation on a plan. Errors are
// *plan.CannotUndo and plan's own.
func (s *Store) UndoLast(ctx context.Context, id, actor int64, clientID string) (*Plan, plan.Op, error) {
	var p *Plan
	var inverse plan.Op
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		row, state, err := lockPlan(tx, id)
		if err != nil {
			return err
		}
		entries, err := planEntries(tx, id)
		if err != nil {
			return err
		}
		if len(entries) > 0 {
			entries[0].Actor = 0 // a plan's first title is not taken back
		}
		var undoes int64
		if inverse, undoes, err = plan.Undo(entries, actor); err != nil {
			return err
		}
		if err := state.Apply(inverse); err != nil {
			return err
		}
		if err := appendOp(tx, row, actor, ClientOp{ClientID: clientID, Op: inverse}, undoes); err != nil {
			return err
		}
		p, err = savePlan(tx, row, state)
		return err
	})
	return p, inverse, known(err)
}

func lockPlan(tx *gorm.DB, id int64) (*planRow, *plan.State, error) {
	var row planRow
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Omit("CreatorName").First(&row, id).Error; err != nil {
		return nil, nil, err
	}
	v, err := row.value()
	if err != nil {
		return nil, nil, err
	}
	return &row, v.State, nil
}

func appendOp(tx *gorm.DB, row *planRow, actor int64, o ClientOp, undoes int64) error {
	b, err := json.Marshal(o.Op)
	if err != nil {
		return err
	}
	row.Seq++
	return tx.Create(&opRow{PlanID: row.ID, Seq: row.Seq, Actor: &actor, ClientID: o.ClientID, Op: b, Undoes: undoes, At: time.Now()}).Error
}

func savePlan(tx *gorm.DB, row *planRow, state *plan.State) (*Plan, error) {
	b, err := json.Marshal(state)
	if err != nil {
		return nil, err
	}
	row.State, row.ChangedAt = b, time.Now()
	if err := tx.Model(&planRow{}).Where("id = ?", row.ID).Updates(map[string]any{"seq": row.Seq, "state": row.State, "changed_at": row.ChangedAt}).Error; err != nil {
		return nil, err
	}
	return row.value()
}

func planEntries(tx *gorm.DB, id int64) ([]plan.Entry, error) {
	var rows []opRow
	if err := tx.Where("plan_id = ?", id).Order("seq").Find(&rows).Error; err != nil {
		return nil, err
	}
	entries := make([]plan.Entry, len(rows))
	for i, r := range rows {
		entries[i] = plan.Entry{Seq: r.Seq, Undoes: r.Undoes}
		if r.Actor != nil {
			entries[i].Actor = *r.Actor
		}
		if err := json.Unmarshal(r.Op, &entries[i].Op); err != nil {
			return nil, err
		}
	}
	return entries, nil
}

// PlanEntries lists a plan's operations in order.
func (s *Store) PlanEntries(ctx context.Context, id int64) ([]plan.Entry, error) {
	return planEntries(s.db.WithContext(ctx), id)
}

// Progress is what one person has read of a plan.
type Progress struct {
	Done  map[string]time.Time // passage → when
	Place string               // the passage the person was at; "": not begun
}

// SetProgress marks a passage done or not.
func (s *Store) SetProgress(ctx context.Context, planID, person int64, passage string, done bool) error {
	db := s.db.WithContext(ctx)
	if !done {
		return db.Exec("DELETE FROM progress WHERE plan_id = ? AND person_id = ? AND passage_id = ?", planID, person, passage).Error
	}
	return db.Exec("INSERT INTO progress (plan_id, person_id, passage_id) VALUES (?, ?, ?) ON CONFLICT DO NOTHING", planID, person, passage).Error
}

// SetPlace remembers the passage a person is at.
func (s *Store) SetPlace(ctx context.Context, planID, person int64, passage string) error {
	return s.db.WithContext(ctx).Exec(`INSERT INTO reading_place (plan_id, person_id, passage_id) VALUES (?, ?, ?)
		ON CONFLICT (plan_id, person_id) DO UPDATE SET passage_id = excluded.passage_id, at = now()`, planID, person, passage).Error
}

// ProgressOf reads one person's progress in some plans.
func (s *Store) ProgressOf(ctx context.Context, person int64, plans []int64) (map[int64]*Progress, error) {
	out := map[int64]*Progress{}
	for _, id := range plans {
		out[id] = &Progress{Done: map[string]time.Time{}}
	}
	var done []struct {
		PlanID    int64
		PassageID string
		DoneAt    time.Time
	}
	if err := s.db.WithContext(ctx).Table("progress").Where("person_id = ? AND plan_id IN ?", person, plans).Find(&done).Error; err != nil {
		return nil, err
	}
	for _, d := range done {
		out[d.PlanID].Done[d.PassageID] = d.DoneAt
	}
	var places []struct {
		PlanID    int64
		PassageID string
	}
	if err := s.db.WithContext(ctx).Table("reading_place").Where("person_id = ? AND plan_id IN ?", person, plans).Find(&places).Error; err != nil {
		return nil, err
	}
	for _, p := range places {
		out[p.PlanID].Place = p.PassageID
	}
	return out, nil
}
