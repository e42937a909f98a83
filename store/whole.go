package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/links"
	"juxtagram/core/summary"
	"juxtagram/survey"
)

// Whole brings the files of a complete survey together, for summaries and
// names. It reads through ctx for as long as it is used. Paths are as they are
// shown. ErrNotFound: the survey resolved nothing.
func (s *Store) Whole(ctx context.Context, v *Survey) (*summary.Whole, error) {
	var raw []byte
	err := s.pool.QueryRow(ctx, "SELECT data FROM survey_links WHERE survey_id = $1", v.ID).Scan(&raw)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, ErrNotFound
	}
	if err != nil {
		return nil, err
	}
	snapshot, err := links.UnpackSnapshot(raw)
	if err != nil {
		return nil, err
	}
	if snapshot == nil {
		return nil, ErrNotFound // of another version
	}
	resolved, err := snapshot.Links()
	if err != nil {
		return nil, err
	}
	files, keys, rank, err := s.toldFiles(ctx, v, snapshot)
	if err != nil {
		return nil, err
	}
	if err := s.toldLeads(ctx, v, files); err != nil {
		return nil, err
	}
	source := survey.NewSource(ctx, s.MemoryOf(v.RepositoryID), keys)
	w, err := summary.NewWhole(files, resolved, links.NewGraph(resolved), rank, source)
	if err != nil {
		return nil, err
	}
	r, err := s.Repository(ctx, v.RepositoryID)
	if err != nil {
		return nil, err
	}
	if r.PeopleHidden {
		for i := range w.Files {
			w.Files[i].People = nil
		}
	}
	return w, s.toldPeople(ctx, v, w)
}

// toldFiles are the files of a survey in the order of its links, with the keys
// of their facts.
func (s *Store) toldFiles(ctx context.Context, v *Survey, snapshot *links.Snapshot) ([]summary.File, []survey.FactKey, []float64, error) {
	n := len(snapshot.Paths)
	files, keys, rank := make([]summary.File, n), make([]survey.FactKey, n), make([]float64, n)
	at := make(map[string]int, n)
	for i, p := range snapshot.Paths {
		files[i].Path = valid(p)
		at[files[i].Path] = i
		keys[i] = survey.ParseKey(snapshot.Keys[i])
	}
	rows, err := s.pool.Query(ctx, `SELECT path, blob, language, role, role_evidence, depth, depth_reason, coalesce(lines, 0), coalesce(code, 0), coalesce(commits, 0), coalesce(recent, 0),
		coalesce(extract(epoch FROM first_at), 0)::bigint, coalesce(extract(epoch FROM last_at), 0)::bigint, people, coalesce(centrality, 0) FROM survey_path WHERE survey_id = $1 AND NOT folder`, v.ID)
	if err != nil {
		return nil, nil, nil, err
	}
	var f summary.File
	var depth string
	var people []byte
	var weight float64
	_, err = pgx.ForEachRow(rows, []any{&f.Path, &f.Blob, &f.Language, &f.Role, &f.RoleEvidence, &depth, &f.Reason, &f.Lines, &f.Code, &f.Commits, &f.Recent, &f.FirstAt, &f.LastAt, &people, &weight}, func() error {
		i, ok := at[f.Path]
		if !ok {
			return fmt.Errorf("survey %d: %s has no links", v.ID, f.Path)
		}
		var list []PathPerson
		if err := json.Unmarshal(people, &list); err != nil {
			return err
		}
		files[i], rank[i] = f, weight
		files[i].Depth = lang.Depth(depth)
		for _, p := range list {
			files[i].People = append(files[i].People, summary.Share{Name: p.Name, Commits: p.Commits})
		}
		return nil
	})
	return files, keys, rank, err
}

// toldLeads gives the files their entry points and tagged comments.
func (s *Store) toldLeads(ctx context.Context, v *Survey, files []summary.File) error {
	at := make(map[string]int, len(files))
	for i := range files {
		at[files[i].Path] = i
	}
	var overview Overview
	if err := json.Unmarshal(v.Overview, &overview); err != nil {
		return err
	}
	how := map[string]string{}
	for _, e := range overview.EntryPoints {
		how[e.Kind+"\x00"+e.Path+"\x00"+e.Name] = e.How
	}
	rows, err := s.pool.Query(ctx, `SELECT kind, detail, path, coalesce(line, 0), title, why, weight FROM survey_lead
		WHERE survey_id = $1 AND kind IN ('entry-point', 'tagged-comment') ORDER BY n`, v.ID)
	if err != nil {
		return err
	}
	var l LeadRow
	line := 0
	_, err = pgx.ForEachRow(rows, []any{&l.Kind, &l.Detail, &l.Path, &line, &l.Title, &l.Why, &l.Weight}, func() error {
		i, ok := at[l.Path]
		if !ok {
			return nil // declared, but its file is not in the tree
		}
		if l.Kind == "tagged-comment" {
			files[i].Tagged = append(files[i].Tagged, summary.Tagged{Word: l.Detail, Text: l.Title, Line: line})
			return nil
		}
		files[i].Starts = append(files[i].Starts, leads.EntryPoint{Kind: l.Detail, Name: l.Title, Path: l.Path, Line: line, Evidence: l.Why, Weight: l.Weight, How: how[l.Detail+"\x00"+l.Path+"\x00"+l.Title]})
		return nil
	})
	return err
}

// toldPeople tells when people were last seen, as far as the overview names
// them, and the time of the pin.
func (s *Store) toldPeople(ctx context.Context, v *Survey, w *summary.Whole) error {
	var overview Overview
	if err := json.Unmarshal(v.Overview, &overview); err != nil {
		return err
	}
	for _, p := range overview.People {
		if p.LastAt != nil {
			w.LastSeen[p.Name] = p.LastAt.Unix()
		}
	}
	err := s.pool.QueryRow(ctx, "SELECT commit_time FROM history_commit WHERE repository_id = $1 AND oid = $2", v.RepositoryID, v.OID).Scan(&w.PinAt)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil
	}
	return err
}
