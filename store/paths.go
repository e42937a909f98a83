package store

import (
	"context"
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

var pathColumns = []string{"survey_id", "path", "parent", "folder", "name", "escaped", "raw_path", "blob", "mode", "files", "size", "language", "role", "role_evidence",
	"depth", "depth_reason", "is_binary", "lines", "code", "comment", "blank", "tagged", "starts", "commits", "lines_added", "lines_deleted", "recent", "first_at", "last_at", "people", "symbols", "intricacy", "dependents", "dependencies", "centrality", "ord"}

// savePaths writes the rows as they are made: the database enters one while the next is
// told. Folders come last, as their files sum up to them.
func savePaths(ctx context.Context, tx pgx.Tx, id int64, r *survey.Result) error {
	if _, err := tx.Exec(ctx, "DELETE FROM survey_path WHERE survey_id = $1", id); err != nil {
		return err
	}
	folders := map[string]*PathRow{}
	var names []string // of the folders
	n := 0
	_, err := tx.CopyFrom(ctx, pgx.Identifier{"survey_path"}, pathColumns, pgx.CopyFromFunc(func() ([]any, error) {
		i := n
		n++
		if i < len(r.Files) {
			row := fileRow(&r.Files[i], r)
			row.Ord = &i
			if r.Links != nil {
				in, out := int(r.Figures.Dependents[i]), int(r.Figures.Dependencies[i])
				row.Dependents, row.Dependencies, row.Centrality = &in, &out, &r.Figures.Centrality[i]
			}
			addToFolders(folders, row)
			return row.values(id), nil
		}
		if names == nil {
			names = slices.Sorted(maps.Keys(folders))
		}
		if i -= len(r.Files); i < len(names) {
			return folders[names[i]].values(id), nil
		}
		return nil, nil
	}))
	return err
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
	parent := ""
	if i := strings.LastIndexByte(p, '/'); i >= 0 {
		parent = p[:i]
	}
	row.Parent = &parent
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
				up := ""
				if i := strings.LastIndexByte(*at, '/'); i >= 0 {
					up = (*at)[:i]
				}
				d.Parent = &up
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

func (p *PathRow) values(id int64) []any {
	return []any{id, p.Path, orNull(p.Parent), p.Folder, p.Name, p.Escaped, p.RawPath, p.Blob, p.Mode, p.Files, orNull(p.Size), p.Language, p.Role, p.RoleEvidence,
		p.Depth, p.DepthReason, p.IsBinary, orNull(p.Lines), orNull(p.Code), orNull(p.Comment), orNull(p.Blank), p.Tagged, p.Starts, orNull(p.Commits), orNull(p.LinesAdded), orNull(p.LinesDeleted),
		orNull(p.Recent), orNull(p.FirstAt), orNull(p.LastAt), p.People, orNull(p.Symbols), orNull(p.Intricacy), orNull(p.Dependents), orNull(p.Dependencies), orNull(p.Centrality), orNull(p.Ord)}
}

// orNull is what a pointer points to, which is encoded much faster than the pointer.
func orNull[T any](p *T) any {
	if p == nil {
		return nil
	}
	return *p
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
	err := s.db.WithContext(ctx).Where("survey_id = ? AND path = ?", surveyID, p).First(&row).Error
	return &row, known(err)
}

// FoldersAmong tells which of some paths are folders; the root's is "".
func (s *Store) FoldersAmong(ctx context.Context, surveyID int64, paths []string) (map[string]bool, error) {
	var found []string
	err := s.db.WithContext(ctx).Model(&PathRow{}).Where("survey_id = ? AND folder AND path IN ?", surveyID, paths).Pluck("path", &found).Error
	folders := make(map[string]bool, len(found))
	for _, p := range found {
		folders[p] = true
	}
	return folders, err
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
