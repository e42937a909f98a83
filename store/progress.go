package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
)

// Progress is how far one person is with a plan.
type Progress struct {
	Done    map[string]time.Time // passage → when
	Skipped map[string]string    // passage → why; "": no reason given
	Place   string               // the passage the person was at; "": not begun
	Edition int                  // that they read; 0: the newest
	Shown   bool                 // to others
}

// SetDone marks a passage done or not; either way it is not left out any more.
func (s *Store) SetDone(ctx context.Context, planID, person int64, passage string, done bool) error {
	_, err := s.pool.Exec(ctx, `INSERT INTO progress (plan_id, person_id, passage_id, done_at) VALUES ($1, $2, $3, CASE WHEN $4 THEN now() END)
		ON CONFLICT (plan_id, person_id, passage_id) DO UPDATE SET done_at = CASE WHEN $4 THEN coalesce(progress.done_at, now()) END, skipped_at = NULL, reason = ''`, planID, person, passage, done)
	return err
}

// SetSkipped notes that somebody leaves a passage out, and why; SetDone takes that
// back.
func (s *Store) SetSkipped(ctx context.Context, planID, person int64, passage, reason string) error {
	_, err := s.pool.Exec(ctx, `INSERT INTO progress (plan_id, person_id, passage_id, skipped_at, reason) VALUES ($1, $2, $3, now(), $4)
		ON CONFLICT (plan_id, person_id, passage_id) DO UPDATE SET skipped_at = excluded.skipped_at, reason = excluded.reason, done_at = NULL`, planID, person, passage, reason)
	return err
}

// SpendTime adds to how long somebody has had a passage before them.
func (s *Store) SpendTime(ctx context.Context, planID, person int64, passage string, seconds int) error {
	_, err := s.pool.Exec(ctx, `INSERT INTO progress (plan_id, person_id, passage_id, seconds) VALUES ($1, $2, $3, $4)
		ON CONFLICT (plan_id, person_id, passage_id) DO UPDATE SET seconds = progress.seconds + excluded.seconds`, planID, person, passage, seconds)
	return err
}

// SetPlace remembers the passage a person is at. Whoever reads no edition yet keeps
// to the given one from then on. Where they show others where they are, told is
// published with the passage; nil: never.
func (s *Store) SetPlace(ctx context.Context, planID, person int64, passage string, edition int, told *Event) error {
	return s.place(ctx, told, `INSERT INTO reading_place AS r (plan_id, person_id, passage_id, edition) VALUES ($1, $2, $3, $4)
		ON CONFLICT (plan_id, person_id) DO UPDATE SET passage_id = excluded.passage_id, at = now(),
			edition = CASE r.edition WHEN 0 THEN excluded.edition ELSE r.edition END
		RETURNING CASE WHEN shown THEN passage_id END`, planID, person, passage, edition)
}

// SetReading keeps which edition of a plan somebody reads, and whether they show
// others where they are: told is published with that, or with no passage; nil: never.
func (s *Store) SetReading(ctx context.Context, planID, person int64, edition int, shown bool, told *Event) error {
	return s.place(ctx, told, `INSERT INTO reading_place (plan_id, person_id, edition, shown) VALUES ($1, $2, $3, $4)
		ON CONFLICT (plan_id, person_id) DO UPDATE SET edition = excluded.edition, shown = excluded.shown
		RETURNING CASE WHEN shown THEN passage_id ELSE '' END`, planID, person, edition, shown)
}

// place runs a change of where somebody is, which gives the passage that others are
// told, or NULL. The row is held until that is on its way: what is told last is what is
// kept.
func (s *Store) place(ctx context.Context, told *Event, query string, args ...any) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var passage *string
		if err := tx.QueryRow(ctx, query, args...).Scan(&passage); err != nil || passage == nil || told == nil {
			return err
		}
		e := *told
		e.Passage = *passage
		return publish(ctx, tx, e)
	})
}

// ProgressOf reads one person's progress in some plans.
func (s *Store) ProgressOf(ctx context.Context, person int64, plans []int64) (map[int64]*Progress, error) {
	out := map[int64]*Progress{}
	for _, id := range plans {
		out[id] = &Progress{Done: map[string]time.Time{}, Skipped: map[string]string{}}
	}
	rows, err := s.pool.Query(ctx, "SELECT plan_id, passage_id, done_at, skipped_at IS NOT NULL, reason FROM progress WHERE person_id = $1 AND plan_id = ANY ($2)", person, plans)
	if err != nil {
		return nil, err
	}
	var id int64
	var passage, reason string
	var done *time.Time
	var skipped bool
	_, err = pgx.ForEachRow(rows, []any{&id, &passage, &done, &skipped, &reason}, func() error {
		if done != nil {
			out[id].Done[passage] = *done
		}
		if skipped {
			out[id].Skipped[passage] = reason
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	rows, err = s.pool.Query(ctx, "SELECT plan_id, passage_id, edition, shown FROM reading_place WHERE person_id = $1 AND plan_id = ANY ($2)", person, plans)
	if err != nil {
		return nil, err
	}
	var edition int
	var shown bool
	_, err = pgx.ForEachRow(rows, []any{&id, &passage, &edition, &shown}, func() error {
		out[id].Place, out[id].Edition, out[id].Shown = passage, edition, shown
		return nil
	})
	return out, err
}

// ReaderPlace is where somebody who shows it is in a plan.
type ReaderPlace struct {
	Person  int64
	Name    string
	Passage string
	At      time.Time
}

// PlacesIn is where those are in a plan who show it, and were there lately.
func (s *Store) PlacesIn(ctx context.Context, planID int64, since time.Time) ([]ReaderPlace, error) {
	rows, err := s.pool.Query(ctx, `SELECT r.person_id, p.name, r.passage_id, r.at FROM reading_place r JOIN person p ON p.id = r.person_id
		WHERE r.plan_id = $1 AND r.shown AND r.passage_id <> '' AND r.at >= $2 ORDER BY r.at DESC, r.person_id LIMIT 500`, planID, since)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[ReaderPlace])
}

// PassageReading is how those who show it get on with a passage.
type PassageReading struct {
	Passage string
	Done    int
	Skipped int
	Reasons []string // why it was left out, the newest first
	Seconds int      // that half of them had it before them; 0: nobody yet
}

// ReadingOf tells how readers who show it get on with the passages of a plan.
func (s *Store) ReadingOf(ctx context.Context, planID int64) (readers int, list []PassageReading, err error) {
	if err = s.pool.QueryRow(ctx, "SELECT count(*) FROM reading_place WHERE plan_id = $1 AND shown", planID).Scan(&readers); err != nil {
		return 0, nil, err
	}
	rows, err := s.pool.Query(ctx, `SELECT g.passage_id, count(g.done_at), count(g.skipped_at),
			coalesce(array_agg(g.reason ORDER BY g.skipped_at DESC) FILTER (WHERE g.reason <> ''), '{}'),
			coalesce((percentile_cont(0.5) WITHIN GROUP (ORDER BY g.seconds) FILTER (WHERE g.seconds > 0))::int, 0)
		FROM progress g JOIN reading_place r ON r.plan_id = g.plan_id AND r.person_id = g.person_id AND r.shown
		WHERE g.plan_id = $1 GROUP BY g.passage_id ORDER BY g.passage_id`, planID)
	if err != nil {
		return 0, nil, err
	}
	list, err = pgx.CollectRows(rows, pgx.RowToStructByPos[PassageReading])
	return readers, list, err
}
