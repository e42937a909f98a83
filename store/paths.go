package store

import (
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"maps"
	"path"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"

	"juxtagram/core/lang"
	"juxtagram/survey"
)

// folderColumns are what is told of a folder, and of a file too; fileColumns of a
// file alone.
var (
	folderColumns = []string{"survey_id", "path", "parent", "folder", "name", "files", "size", "lines", "code", "comment", "blank", "tagged", "starts", "commits",
		"lines_added", "lines_deleted", "recent", "first_at", "last_at", "symbols", "intricacy", "centrality"}
	fileColumns = []string{"escaped", "raw_path", "blob", "mode", "language", "role", "role_evidence", "depth", "depth_reason", "is_binary", "people", "dependents", "dependencies", "ord"}
)

// savePaths writes the rows as they are made: the database enters one while the next is
// told. Folders come last, as their files sum up to them.
func savePaths(ctx context.Context, tx pgx.Tx, id int64, r *survey.Result) error {
	if _, err := tx.Exec(ctx, "DELETE FROM survey_path WHERE survey_id = $1", id); err != nil {
		return err
	}
	// in the order of the index, which then grows at its end
	order := make([]int, len(r.Files))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int {
		return cmp.Or(strings.Compare(parent(r.Files[a].Path), parent(r.Files[b].Path)), a-b)
	})
	folders := map[string]*PathRow{}
	err := copyIn(ctx, tx, "survey_path", slices.Concat(folderColumns, fileColumns), func(w *rows) {
		for _, i := range order {
			row := fileRow(&r.Files[i], r)
			row.Ord = &i
			if r.Links != nil {
				in, out := int(r.Figures.Dependents[i]), int(r.Figures.Dependencies[i])
				row.Dependents, row.Dependencies, row.Centrality = &in, &out, &r.Figures.Centrality[i]
			}
			addToFolders(folders, row)
			w.row()
			row.folderValues(id, w)
			row.fileValues(w)
		}
	})
	if err != nil {
		return err
	}
	names := slices.SortedFunc(maps.Keys(folders), func(a, b string) int {
		return cmp.Or(strings.Compare(parent(a), parent(b)), strings.Compare(a, b))
	})
	return copyIn(ctx, tx, "survey_path", folderColumns, func(w *rows) {
		for _, name := range names {
			w.row()
			folders[name].folderValues(id, w)
		}
	})
}

// PathRow is one path or folder of a survey.
type PathRow struct {
	Path         string
	Parent       *string // nil for the root folder
	Folder       bool
	Name         string
	Escaped      bool
	RawPath      []byte // set where Escaped
	Blob, Mode   string
	Files        int // of a folder, all below it
	Size         *int64
	Language     string
	Role         string
	RoleEvidence string
	Depth        string
	DepthReason  string
	IsBinary     bool
	Lines        *int
	Code         *int
	Comment      *int
	Blank        *int
	Tagged       int
	Starts       int
	Commits      *int // of a folder, its files' summed
	LinesAdded   *int
	LinesDeleted *int
	Recent       *float64
	FirstAt      *time.Time
	LastAt       *time.Time
	Symbols      *int            // nil: the file's text was not read; of a folder, its files' summed
	Intricacy    *int            // nil: not parsed; of a folder, its files' summed
	Dependents   *int            // files of the repository that import it; nil: not resolved yet, or a folder
	Dependencies *int            // files of the repository that it imports
	Centrality   *float64        // its weight in the file graph, of a folder its files' summed
	Ord          *int            // number of the file among the survey's, in git's order; nil: a folder
	People       json.RawMessage `gorm:"type:jsonb"` // list of PathPerson, most commits first, at most five
}

// TableName names the table.
func (PathRow) TableName() string { return "survey_path" }

// PathPerson is one person's part in a file.
type PathPerson struct {
	Name    string `json:"name"`
	Commits int    `json:"commits"`
}

// maxPathPeople is how many people a row names.
const maxPathPeople = 5

func fileRow(f *survey.File, r *survey.Result) *PathRow {
	p := valid(f.Path)
	row := &PathRow{Path: p, Name: path.Base(p), Blob: f.Blob, Mode: f.Mode, Files: 1, Language: f.LanguageName(),
		Role: f.Role.Name, RoleEvidence: clean(f.Role.Evidence), People: json.RawMessage("[]")}
	row.Parent = new(parent(p))
	if p != f.Path {
		row.Escaped, row.RawPath = true, []byte(f.Path)
	}
	if f.Size >= 0 {
		row.Size = &f.Size
	}
	if x := f.Facts; x != nil {
		row.Depth, row.DepthReason, row.IsBinary = string(x.Depth), clean(x.Reason), x.Binary
		row.Tagged, row.Starts, row.Intricacy = len(x.Tagged), len(x.Starts), x.Intricacy
		if x.Depth != lang.Listed {
			row.Symbols = &x.Symbols
		}
		if l := x.Lines; l != nil {
			row.Lines, row.Code, row.Comment, row.Blank = &l.Total, &l.Code, &l.Comment, &l.Blank
		}
	}
	if h := f.History; h != nil {
		row.Commits, row.Recent, row.FirstAt, row.LastAt = &h.Commits, &h.Recent, instant(h.FirstAt), instant(h.LastAt)
		if h.LinesKnown {
			row.LinesAdded, row.LinesDeleted = &h.LinesAdded, &h.LinesDeleted
		}
		var people []PathPerson
		for _, s := range h.People[:min(len(h.People), maxPathPeople)] {
			people = append(people, PathPerson{clean(r.People.List[s.Person].Name), s.Commits})
		}
		if b, err := json.Marshal(people); err == nil && people != nil {
			row.People = b
		}
	}
	return row
}

// addToFolders adds a file's figures to every folder above it.
func addToFolders(folders map[string]*PathRow, f *PathRow) {
	for at := f.Parent; at != nil; {
		d := folders[*at]
		if d == nil {
			d = &PathRow{Path: *at, Folder: true, Name: path.Base(*at), People: json.RawMessage("[]")}
			if *at != "" {
				d.Parent = new(parent(*at))
			} else {
				d.Name = ""
			}
			folders[*at] = d
		}
		d.Files++
		d.Tagged += f.Tagged
		d.Starts += f.Starts
		add(&d.Size, f.Size)
		add(&d.Lines, f.Lines)
		add(&d.Code, f.Code)
		add(&d.Comment, f.Comment)
		add(&d.Blank, f.Blank)
		add(&d.Commits, f.Commits)
		add(&d.Symbols, f.Symbols)
		add(&d.Intricacy, f.Intricacy)
		add(&d.Centrality, f.Centrality)
		add(&d.LinesAdded, f.LinesAdded)
		add(&d.LinesDeleted, f.LinesDeleted)
		add(&d.Recent, f.Recent)
		if f.LastAt != nil && (d.LastAt == nil || f.LastAt.After(*d.LastAt)) {
			d.LastAt = f.LastAt
		}
		if f.FirstAt != nil && (d.FirstAt == nil || f.FirstAt.Before(*d.FirstAt)) {
			d.FirstAt = f.FirstAt
		}
		at = d.Parent
	}
}

func add[N int | int64 | float64](sum **N, n *N) {
	if n == nil {
		return
	}
	if *sum == nil {
		*sum = new(N)
	}
	**sum += *n
}

// folderValues writes the values of folderColumns.
func (p *PathRow) folderValues(survey int64, w *rows) {
	w.bigint(survey)
	w.text(p.Path)
	orNull(w, w.text, p.Parent)
	w.boolean(p.Folder)
	w.text(p.Name)
	w.integer(p.Files)
	orNull(w, w.bigint, p.Size)
	orNull(w, w.integer, p.Lines)
	orNull(w, w.integer, p.Code)
	orNull(w, w.integer, p.Comment)
	orNull(w, w.integer, p.Blank)
	w.integer(p.Tagged)
	w.integer(p.Starts)
	orNull(w, w.integer, p.Commits)
	orNull(w, w.integer, p.LinesAdded)
	orNull(w, w.integer, p.LinesDeleted)
	orNull(w, w.double, p.Recent)
	orNull(w, w.timestamp, p.FirstAt)
	orNull(w, w.timestamp, p.LastAt)
	orNull(w, w.integer, p.Symbols)
	orNull(w, w.integer, p.Intricacy)
	orNull(w, w.double, p.Centrality)
}

// fileValues writes the values of fileColumns.
func (p *PathRow) fileValues(w *rows) {
	w.boolean(p.Escaped)
	w.bytea(p.RawPath)
	w.text(p.Blob)
	w.text(p.Mode)
	w.text(p.Language)
	w.text(p.Role)
	w.text(p.RoleEvidence)
	w.text(p.Depth)
	w.text(p.DepthReason)
	w.boolean(p.IsBinary)
	w.jsonb(p.People)
	orNull(w, w.integer, p.Dependents)
	orNull(w, w.integer, p.Dependencies)
	orNull(w, w.integer, p.Ord)
}

// Children lists what lies right below a folder ("" for the root): folders
// first, by name.
func (s *Store) Children(ctx context.Context, surveyID int64, folder string) ([]PathRow, error) {
	rows := []PathRow{}
	err := s.db.WithContext(ctx).Where("survey_id = ? AND parent = ?", surveyID, folder).Order("folder DESC, path").Find(&rows).Error
	return rows, err
}

// PathAt is one path or folder of a survey.
func (s *Store) PathAt(ctx context.Context, surveyID int64, p string) (*PathRow, error) {
	var row PathRow
	at := "parent IS NULL" // the root
	if p != "" {
		at = "parent = @parent"
	}
	err := s.db.WithContext(ctx).Where("survey_id = @survey AND path = @path AND "+at, sql.Named("survey", surveyID), sql.Named("path", p), sql.Named("parent", parent(p))).Take(&row).Error
	return &row, known(err)
}

// FoldersAmong tells which of some paths are folders; the root's is "".
func (s *Store) FoldersAmong(ctx context.Context, surveyID int64, paths []string) (map[string]bool, error) {
	rows, err := s.pool.Query(ctx, `SELECT p.path FROM unnest($2::text[], $3::text[]) AS k (parent, path)
		JOIN survey_path p ON p.survey_id = $1 AND p.parent = k.parent AND p.path = k.path WHERE folder
		UNION ALL SELECT path FROM survey_path WHERE survey_id = $1 AND parent IS NULL AND path = ANY ($3)`, surveyID, parents(paths), paths)
	if err != nil {
		return nil, err
	}
	folders := make(map[string]bool, len(paths))
	var p string
	_, err = pgx.ForEachRow(rows, []any{&p}, func() error {
		folders[p] = true
		return nil
	})
	return folders, err
}

// parent is the folder that a path stands in; "": the root.
func parent(p string) string {
	return p[:max(0, strings.LastIndexByte(p, '/'))]
}

func parents(paths []string) []string {
	out := make([]string, len(paths))
	for i, p := range paths {
		out[i] = parent(p)
	}
	return out
}

// MatchPaths lists files whose path holds a text, letter case aside: those
// whose name begins with it first. total counts all of them.
func (s *Store) MatchPaths(ctx context.Context, surveyID int64, text string, limit int) (rows []PathRow, total int64, err error) {
	like := strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(text)
	q := s.db.WithContext(ctx).Model(&PathRow{}).Where("survey_id = ? AND NOT folder AND path ILIKE ?", surveyID, "%"+like+"%")
	if err := q.Session(&gorm.Session{}).Count(&total).Error; err != nil {
		return nil, 0, err
	}
	rows = []PathRow{}
	err = q.Order(gorm.Expr("(name ILIKE ?) DESC, length(path), path", like+"%")).Limit(limit).Find(&rows).Error
	return rows, total, err
}
