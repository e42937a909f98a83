package store

import (
	"context"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/history"
	"juxtagram/survey"
)

// TaggedRow is a tagged comment of a survey, or one that there was.
type TaggedRow struct {
	LeadID             string // "" for one that is gone
	Path               string
	Line, EndLine      int // of one that is gone, in the text before it went
	Word, Said, Whole  string
	Who, Issue, Symbol string
	BornAt             int64 // Unix seconds; 0: the history does not tell
	BornCommit         string
	BornPerson         int32 // among the survey's people; -1: not known
	LastAt             int64 // when it was last put otherwise or moved
	Edits, Outlived    int32
	GoneAt             int64 // 0: it is there
	GoneCommit         string
	GonePerson         int32
}

var taggedColumns = []string{"survey_id", "n", "lead_id", "path", "line", "end_line", "word", "said", "whole", "who", "issue", "symbol", "born_at", "born_commit", "born_person",
	"last_at", "edits", "outlived", "gone_at", "gone_commit", "gone_person"}

// saveTagged keeps the tagged comments with their lives.
func saveTagged(ctx context.Context, tx pgx.Tx, id int64, r *survey.Result) error {
	if _, err := tx.Exec(ctx, "DELETE FROM survey_tagged WHERE survey_id = $1", id); err != nil {
		return err
	}
	err := copyIn(ctx, tx, "survey_tagged", taggedColumns, func(w *rows) {
		for i, t := range taggedRows(r) {
			w.row()
			w.bigint(id)
			w.integer(i)
			t.values(w)
		}
	})
	if err != nil {
		return err
	}
	_, err = tx.Exec(ctx, `INSERT INTO lead_seen (repository_id, lead_id, survey_id)
		SELECT s.repository_id, l.lead_id, s.id FROM survey s JOIN survey_lead l ON l.survey_id = s.id WHERE s.id = $1 ON CONFLICT DO NOTHING`, id)
	return err
}

// values writes the values of taggedColumns behind the first two.
func (t *TaggedRow) values(w *rows) {
	w.text(t.LeadID)
	w.text(t.Path)
	w.integer(t.Line)
	w.integer(t.EndLine)
	for _, said := range []string{t.Word, t.Said, t.Whole, t.Who, t.Issue, t.Symbol} {
		w.text(clean(said))
	}
	w.bigint(t.BornAt)
	w.text(t.BornCommit)
	w.integer(int(t.BornPerson))
	w.bigint(t.LastAt)
	w.integer(int(t.Edits))
	w.integer(int(t.Outlived))
	w.bigint(t.GoneAt)
	w.text(t.GoneCommit)
	w.integer(int(t.GonePerson))
}

func taggedRows(r *survey.Result) []TaggedRow {
	type place struct {
		path, word string
		line       int
	}
	leads := map[place]string{}
	for _, l := range r.Leads {
		if l.Kind == "tagged-comment" && l.Line != nil {
			leads[place{l.Path, l.Detail, *l.Line}] = l.ID
		}
	}
	var rows []TaggedRow
	for i := range r.Files {
		f := &r.Files[i]
		if f.Facts == nil {
			continue
		}
		for n, t := range f.Facts.Tagged {
			row := TaggedRow{LeadID: leads[place{f.Path, t.Word, t.Line}], Path: valid(f.Path), Line: t.Line, EndLine: t.EndLine, Word: t.Word, Said: t.Said,
				Whole: t.Text, Who: t.Who, Issue: t.Issue, Symbol: t.Symbol, BornPerson: -1, GonePerson: -1}
			if r.Lives != nil && r.Lives[i] != nil {
				row.live(r, &r.Lives[i][n])
				row.Outlived = int32(r.Outlived[i][n])
			}
			rows = append(rows, row)
		}
	}
	for i := range r.Gone {
		l := &r.Gone[i]
		row := TaggedRow{Path: valid(l.Path), Line: l.Line, EndLine: l.Line, Word: l.Word, Said: l.Said, BornPerson: -1, GonePerson: -1,
			GoneAt: l.Gone.CommitTime, GoneCommit: l.Gone.ID}
		row.GonePerson = int32(r.People.Of(l.Gone))
		row.live(r, l)
		rows = append(rows, row)
	}
	return rows
}

func (t *TaggedRow) live(r *survey.Result, l *history.Life) {
	t.Edits = int32(l.Edits)
	if l.Born != nil {
		t.BornAt, t.BornCommit, t.BornPerson = l.Born.CommitTime, l.Born.ID, int32(r.People.Of(l.Born))
	}
	if l.Last != nil {
		t.LastAt = l.Last.CommitTime
	}
}

// Tagged reads the tagged comments of a survey: those that are there by path
// and line, then those that are gone.
func (s *Store) Tagged(ctx context.Context, survey int64) ([]TaggedRow, error) {
	return s.tagged(ctx, "survey_id = $1 ORDER BY n", survey)
}

// TaggedIn reads those of one file that are there.
func (s *Store) TaggedIn(ctx context.Context, survey int64, path string) ([]TaggedRow, error) {
	return s.tagged(ctx, "survey_id = $1 AND path = $2 AND gone_at = 0 ORDER BY n", survey, path)
}

func (s *Store) tagged(ctx context.Context, where string, args ...any) ([]TaggedRow, error) {
	rows, err := s.pool.Query(ctx, `SELECT lead_id, path, line, end_line, word, said, whole, who, issue, symbol, born_at, born_commit, born_person, last_at, edits, outlived,
		gone_at, gone_commit, gone_person FROM survey_tagged WHERE `+where, args...)
	if err != nil {
		return nil, err
	}
	out := []TaggedRow{}
	var t TaggedRow
	_, err = pgx.ForEachRow(rows, []any{&t.LeadID, &t.Path, &t.Line, &t.EndLine, &t.Word, &t.Said, &t.Whole, &t.Who, &t.Issue, &t.Symbol, &t.BornAt, &t.BornCommit, &t.BornPerson,
		&t.LastAt, &t.Edits, &t.Outlived, &t.GoneAt, &t.GoneCommit, &t.GonePerson}, func() error {
		out = append(out, t)
		return nil
	})
	return out, err
}
