package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/history"
	"juxtagram/core/spine"
	"juxtagram/survey"
)

// MovesPerson is a person of the history, by the number that moves know them by.
type MovesPerson struct {
	Name    string     `json:"name"`
	Email   string     `json:"email" doc:"Empty: a survey that did not keep it"`
	Commits int        `json:"commits" doc:"Merges included"`
	LastAt  *time.Time `json:"last_at" doc:"Their last change anywhere"`
}

// saveMoves keeps the changes of the survey's files as columns.
func saveMoves(ctx context.Context, tx pgx.Tx, id int64, r *survey.Result) error {
	people := make([]MovesPerson, len(r.People.List))
	for i, p := range r.People.List {
		people[i] = MovesPerson{clean(p.Name), clean(p.Email), p.Commits, instant(p.LastAt)}
	}
	raw, err := json.Marshal(people)
	if err != nil {
		return err
	}
	_, err = tx.Exec(ctx, "INSERT INTO survey_moves (survey_id, people, data) VALUES ($1, $2, $3) ON CONFLICT (survey_id) DO UPDATE SET people = $2, data = $3",
		id, raw, r.Moves.Pack())
	return err
}

func savePackages(ctx context.Context, tx pgx.Tx, id int64, r *survey.Result) error {
	if _, err := tx.Exec(ctx, "DELETE FROM survey_package WHERE survey_id = $1", id); err != nil {
		return err
	}
	_, err := tx.CopyFrom(ctx, pgx.Identifier{"survey_package"}, []string{"survey_id", "kind", "name", "path", "line"},
		pgx.CopyFromSlice(len(r.Packages), func(i int) ([]any, error) {
			p := r.Packages[i]
			return []any{id, p.Kind, clean(p.Name), valid(p.Path), p.Line}, nil
		}))
	return err
}

// ChartFile is what the Map shows of a file; figures below 0 are not known.
type ChartFile struct {
	Path, Role, Language                        string
	Lines, Code, Symbols, Dependents, Intricacy int32
	Centrality                                  float64
	Tagged, Starts                              int32
}

// Chart is the tree of a survey with all that the Map is drawn from. It is not
// changed once it is made.
type Chart struct {
	Table  *spine.Table
	Files  []ChartFile // by number
	Whole  *spine.Wing // the whole history; nil: not read yet
	People []MovesPerson
	Ledger *history.Ledger // nil: the survey is not complete
	PinAt  int64           // Unix seconds; 0: not known
	rowOf  map[string]int32
}

// RowOf is the row of a path; -1: not there. The root is no row.
func (c *Chart) RowOf(p string) int32 {
	if r, ok := c.rowOf[p]; ok {
		return r
	}
	return -1
}

// File is a file by its path; nil: there is none, or no chart.
func (c *Chart) File(p string) *ChartFile {
	if c == nil {
		return nil
	}
	if r := c.RowOf(p); r >= 0 && c.Table.Rows[r].File >= 0 {
		return &c.Files[c.Table.Rows[r].File]
	}
	return nil
}

// ChartOf reads what the Map of a survey is drawn from. ErrNotFound: the survey
// was made by a version that did not keep it.
func (s *Store) ChartOf(ctx context.Context, v *Survey) (*Chart, error) {
	c := &Chart{}
	whole, known, err := s.chartFiles(ctx, v, c)
	if err != nil {
		return nil, err
	}
	paths := make([]string, len(c.Files))
	for i := range c.Files {
		paths[i] = c.Files[i].Path
	}
	c.Table = spine.New(paths)
	c.rowOf = make(map[string]int32, len(c.Table.Rows))
	for i := range c.Table.Rows {
		c.rowOf[c.Table.Path(int32(i))] = int32(i)
	}
	if known {
		c.Whole = c.inRows(whole)
	}
	var overview struct {
		PinAt *time.Time `json:"pin_at"`
	}
	if err := json.Unmarshal(v.Overview, &overview); err != nil {
		return nil, err
	}
	if overview.PinAt != nil {
		c.PinAt = overview.PinAt.Unix()
	}
	var people, data []byte
	err = s.pool.QueryRow(ctx, "SELECT people, data FROM survey_moves WHERE survey_id = $1", v.ID).Scan(&people, &data)
	if errors.Is(err, pgx.ErrNoRows) {
		return c, nil
	}
	if err != nil {
		return nil, err
	}
	if err := json.Unmarshal(people, &c.People); err != nil {
		return nil, err
	}
	moves, err := history.UnpackMoves(data, len(c.Files), len(c.People))
	if err != nil {
		return nil, fmt.Errorf("moves of survey %d: %w", v.ID, err)
	}
	if moves == nil {
		return nil, ErrNotFound
	}
	c.Ledger = history.NewLedger(moves, len(c.Files), c.PinAt, v.HalfLife)
	c.Whole = c.Table.Wing(c.Ledger, history.Everything)
	return c, nil
}

// chartFiles fills in the files, and gives what happened to each by number, as
// far as the survey has got; known tells whether it has got there.
func (s *Store) chartFiles(ctx context.Context, v *Survey, c *Chart) (w *spine.Wing, known bool, err error) {
	rows, err := s.pool.Query(ctx, `SELECT coalesce(ord, -1), path, role, language, coalesce(lines, -1), coalesce(code, -1), coalesce(symbols, -1), coalesce(dependents, -1), coalesce(intricacy, -1),
		coalesce(centrality, -1), tagged, starts, coalesce(commits, -1), coalesce(lines_added + lines_deleted, -1), coalesce(recent, 0),
		coalesce(extract(epoch FROM first_at), 0)::bigint, coalesce(extract(epoch FROM last_at), 0)::bigint
		FROM survey_path WHERE survey_id = $1 AND NOT folder ORDER BY ord`, v.ID)
	if err != nil {
		return nil, false, err
	}
	w = &spine.Wing{}
	var f ChartFile
	var ord, changes, churn int32
	var recent float64
	var first, last int64
	_, err = pgx.ForEachRow(rows, []any{&ord, &f.Path, &f.Role, &f.Language, &f.Lines, &f.Code, &f.Symbols, &f.Dependents, &f.Intricacy,
		&f.Centrality, &f.Tagged, &f.Starts, &changes, &churn, &recent, &first, &last}, func() error {
		if int(ord) != len(c.Files) {
			return ErrNotFound
		}
		c.Files = append(c.Files, f)
		known = known || changes >= 0
		w.Changes, w.Churn, w.People = append(w.Changes, max(0, changes)), append(w.Churn, churn), append(w.People, -1)
		w.Recent, w.First, w.Last = append(w.Recent, recent), append(w.First, first), append(w.Last, last)
		return nil
	})
	return w, known, err
}

// inRows spreads what is known by file over the rows.
func (c *Chart) inRows(w *spine.Wing) *spine.Wing {
	n := len(c.Table.Rows)
	out := &spine.Wing{Changes: make([]int32, n), Churn: make([]int32, n), People: make([]int32, n), Recent: make([]float64, n), First: make([]int64, n), Last: make([]int64, n)}
	for i := range out.People {
		out.People[i] = -1
	}
	for f, r := range c.Table.OfRow {
		out.Changes[r], out.Churn[r], out.Recent[r], out.First[r], out.Last[r] = w.Changes[f], w.Churn[f], w.Recent[f], w.First[f], w.Last[f]
	}
	return out
}
