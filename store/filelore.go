package store

import (
	"context"

	"github.com/jackc/pgx/v5"
)

// FileLore is what a survey says of a file, in short.
type FileLore struct {
	Lines          int // -2: not counted
	Role, Evidence string
}

// LoreOf takes it from a whole row.
func LoreOf(r *PathRow) FileLore {
	f := FileLore{-2, r.Role, r.RoleEvidence}
	if r.Lines != nil {
		f.Lines = *r.Lines
	}
	return f
}

// FilesAmong finds which of some paths are files of a survey.
func (s *Store) FilesAmong(ctx context.Context, survey int64, paths []string) (map[string]FileLore, error) {
	rows, err := s.pool.Query(ctx, `SELECT p.path, coalesce(lines, -2), role, role_evidence FROM unnest($2::text[], $3::text[]) AS k (parent, path)
		JOIN survey_path p ON p.survey_id = $1 AND p.parent = k.parent AND p.path = k.path WHERE NOT folder AND mode <> 'submodule'`, survey, parents(paths), paths)
	if err != nil {
		return nil, err
	}
	out := map[string]FileLore{}
	var path string
	var f FileLore
	_, err = pgx.ForEachRow(rows, []any{&path, &f.Lines, &f.Role, &f.Evidence}, func() error {
		out[path] = f
		return nil
	})
	return out, err
}
