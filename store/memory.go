package store

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/links"
	"juxtagram/core/repo"
	"juxtagram/survey"
)

// Memory is what surveys of one repository remember: facts of blobs, shared by
// all repositories, and the commits with their changes.
type Memory struct {
	store      *Store
	repository int64
}

// MemoryOf is the memory for surveys of a repository.
func (s *Store) MemoryOf(repository int64) *Memory { return &Memory{s, repository} }

// Facts implements survey.Memory.
func (m *Memory) Facts(ctx context.Context, keys []survey.FactKey) (map[survey.FactKey]*facts.Facts, error) {
	found := make(map[survey.FactKey]*facts.Facts, len(keys))
	blobs, languages := columns(keys)
	rows, err := m.store.pool.Query(ctx, `SELECT f.blob, f.language, f.facts FROM unnest($1::text[], $2::text[]) AS k (blob, language)
		JOIN blob_fact f ON f.blob = k.blob AND f.language = k.language AND f.version = $3`, blobs, languages, facts.Version)
	if err != nil {
		return nil, err
	}
	var key survey.FactKey
	var raw []byte
	_, err = pgx.ForEachRow(rows, []any{&key.Blob, &key.Language, &raw}, func() error {
		f := new(facts.Facts)
		if err := json.Unmarshal(raw, f); err != nil {
			return fmt.Errorf("facts of %s: %w", key.Blob, err)
		}
		found[key] = f
		return nil
	})
	return found, err
}

// KeepFacts implements survey.Memory.
func (m *Memory) KeepFacts(ctx context.Context, found map[survey.FactKey]*facts.Facts) error {
	if len(found) == 0 {
		return nil
	}
	rows := make([][]any, 0, len(found))
	for k, f := range found {
		raw, err := json.Marshal(f)
		if err != nil {
			return err
		}
		rows = append(rows, []any{k.Blob, k.Language, facts.Version, cleanJSON(raw), f.Packed, f.Linked.Head, f.Linked.Matter, f.Linked.Terms})
	}
	return m.store.copyNew(ctx, "blob_fact", []string{"blob", "language", "version", "facts", "details", "head", "matter", "terms"}, rows, "ON CONFLICT DO NOTHING")
}

// Details implements survey.Memory.
func (m *Memory) Details(ctx context.Context, key survey.FactKey) ([]byte, error) {
	f, err := m.store.FactsOf(ctx, key.Blob, key.Language)
	if f == nil {
		return nil, err
	}
	return f.Packed, nil
}

// Heads implements survey.Memory.
func (m *Memory) Heads(ctx context.Context, keys []survey.FactKey) (map[survey.FactKey][]byte, error) {
	found := make(map[survey.FactKey][]byte, len(keys))
	blobs, languages := columns(keys)
	rows, err := m.store.pool.Query(ctx, `SELECT f.blob, f.language, f.head FROM unnest($1::text[], $2::text[]) AS k (blob, language)
		JOIN blob_fact f ON f.blob = k.blob AND f.language = k.language AND f.version = $3`, blobs, languages, facts.Version)
	if err != nil {
		return nil, err
	}
	var key survey.FactKey
	var raw []byte
	_, err = pgx.ForEachRow(rows, []any{&key.Blob, &key.Language, &raw}, func() error {
		found[key] = append([]byte(nil), raw...)
		return nil
	})
	return found, err
}

// Linked implements survey.Memory.
func (m *Memory) Linked(ctx context.Context, keys []survey.FactKey) (map[survey.FactKey]facts.Linked, error) {
	found := make(map[survey.FactKey]facts.Linked, len(keys))
	blobs, languages := columns(keys)
	rows, err := m.store.pool.Query(ctx, `SELECT f.blob, f.language, f.head, f.matter, f.terms FROM unnest($1::text[], $2::text[]) AS k (blob, language)
		JOIN blob_fact f ON f.blob = k.blob AND f.language = k.language AND f.version = $3`, blobs, languages, facts.Version)
	if err != nil {
		return nil, err
	}
	var key survey.FactKey
	var l facts.Linked
	_, err = pgx.ForEachRow(rows, []any{&key.Blob, &key.Language, &l.Head, &l.Matter, &l.Terms}, func() error {
		found[key] = l
		l = facts.Linked{}
		return nil
	})
	return found, err
}

func columns(keys []survey.FactKey) (blobs, languages []string) {
	blobs, languages = make([]string, len(keys)), make([]string, len(keys))
	for i, k := range keys {
		blobs[i], languages[i] = k.Blob, k.Language
	}
	return blobs, languages
}

// Links implements survey.Memory.
func (m *Memory) Links(ctx context.Context, subfolder string) (*links.Snapshot, error) {
	var raw []byte
	err := m.store.pool.QueryRow(ctx, `SELECT l.data FROM survey_links l JOIN survey s ON s.id = l.survey_id
		WHERE s.repository_id = $1 AND s.subfolder = $2 ORDER BY s.id DESC LIMIT 1`, m.repository, subfolder).Scan(&raw)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return links.UnpackSnapshot(raw)
}

// FactsOf are the facts of a blob read as a language, with packed details; nil:
// none kept. What is kept under no language was recognised by its first line.
func (s *Store) FactsOf(ctx context.Context, blob, language string) (*facts.Facts, error) {
	found, err := s.FactsAmong(ctx, []survey.FactKey{{Blob: blob, Language: language}})
	return found[survey.FactKey{Blob: blob, Language: language}], err
}

// FactsAmong is FactsOf for several blobs read as languages, as far as they are
// kept, by key; what is kept under no language stands for every one.
func (s *Store) FactsAmong(ctx context.Context, keys []survey.FactKey) (map[survey.FactKey]*facts.Facts, error) {
	blobs, languages := columns(keys)
	rows, err := s.pool.Query(ctx, `SELECT DISTINCT ON (k.blob, k.language) k.blob, k.language, f.facts, f.details FROM unnest($1::text[], $2::text[]) AS k (blob, language)
		JOIN blob_fact f ON f.blob = k.blob AND f.language IN (k.language, '') AND f.version = $3 ORDER BY k.blob, k.language, f.language DESC`, blobs, languages, facts.Version)
	if err != nil {
		return nil, err
	}
	found := make(map[survey.FactKey]*facts.Facts, len(keys))
	var key survey.FactKey
	var raw, details []byte
	_, err = pgx.ForEachRow(rows, []any{&key.Blob, &key.Language, &raw, &details}, func() error {
		f := &facts.Facts{Packed: bytes.Clone(details)}
		if err := json.Unmarshal(raw, f); err != nil {
			return fmt.Errorf("facts of %s: %w", key.Blob, err)
		}
		found[key] = f
		return nil
	})
	return found, err
}

// cleanJSON takes out what PostgreSQL's jsonb cannot hold: the character NUL.
func cleanJSON(raw []byte) []byte {
	if !strings.Contains(string(raw), `\u0000`) {
		return raw
	}
	return []byte(strings.ReplaceAll(string(raw), `\u0000`, `\ufffd`))
}

// copyNew loads rows by COPY into a passing table and from there into the real
// one, with a clause that says what to do with those that are there already.
func (s *Store) copyNew(ctx context.Context, table string, columns []string, rows [][]any, onConflict string) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		names := strings.Join(columns, ", ")
		if _, err := tx.Exec(ctx, "CREATE TEMP TABLE passing ON COMMIT DROP AS SELECT "+names+" FROM "+table+" WITH NO DATA"); err != nil {
			return err
		}
		if _, err := tx.CopyFrom(ctx, pgx.Identifier{"passing"}, columns, pgx.CopyFromRows(rows)); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, "INSERT INTO "+table+" ("+names+") SELECT "+names+" FROM passing "+onConflict)
		return err
	})
}

// Listed implements survey.Memory.
func (m *Memory) Listed(ctx context.Context, subfolder string) (*survey.Listed, error) {
	var id int64
	l := &survey.Listed{}
	err := m.store.pool.QueryRow(ctx, "SELECT id, oid FROM survey WHERE repository_id = $1 AND subfolder = $2 AND state = $3 ORDER BY id DESC LIMIT 1",
		m.repository, subfolder, Complete).Scan(&id, &l.Commit)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	rows, err := m.store.pool.Query(ctx, "SELECT coalesce(raw_path, convert_to(path, 'UTF8')), mode, blob, coalesce(size, -1) FROM survey_path WHERE survey_id = $1 AND NOT folder ORDER BY ord", id)
	if err != nil {
		return nil, err
	}
	var raw []byte
	var f survey.ListedFile
	_, err = pgx.ForEachRow(rows, []any{&raw, &f.Mode, &f.Blob, &f.Size}, func() error {
		f.Path = string(raw)
		l.Files = append(l.Files, f)
		return nil
	})
	return l, err
}

// Pins implements survey.Memory.
func (m *Memory) Pins(ctx context.Context) ([]string, error) {
	return m.store.HistoryPins(ctx, m.repository)
}

// History implements survey.Memory.
func (m *Memory) History(ctx context.Context) (history.Known, error) {
	known := history.Known{Commits: map[string]*history.Commit{}}
	var err error
	if known.Pins, err = m.Pins(ctx); err != nil || len(known.Pins) == 0 {
		return known, err
	}
	rows, err := m.store.pool.Query(ctx, `SELECT oid, parents, author_name, author_email, author_time, commit_time, subject, message, changes, words
		FROM history_commit WHERE repository_id = $1`, m.repository)
	if err != nil {
		return known, err
	}
	var c repo.Commit
	var parents string
	var packed []byte
	var words int32
	_, err = pgx.ForEachRow(rows, []any{&c.ID, &parents, &c.AuthorName, &c.AuthorEmail, &c.AuthorTime, &c.CommitTime, &c.Subject, &c.Message, &packed, &words}, func() error {
		changes, err := history.UnpackChanges(packed)
		if err != nil {
			return fmt.Errorf("commit %s: %w", c.ID, err)
		}
		commit := &history.Commit{Commit: c, Changes: changes, Words: words}
		commit.Parents = strings.Fields(parents)
		known.Commits[c.ID] = commit
		return nil
	})
	return known, err
}

// KeepHistory implements survey.Memory. Commits of pins are all kept, or none.
func (m *Memory) KeepHistory(ctx context.Context, pins []string, commits []*history.Commit) error {
	rows := make([][]any, 0, len(commits))
	for _, c := range commits {
		rows = append(rows, []any{m.repository, c.ID, strings.Join(c.Parents, " "), noNUL(c.AuthorName), noNUL(c.AuthorEmail), c.AuthorTime, c.CommitTime,
			noNUL(c.Subject), noNUL(c.Message), history.PackChanges(c.Changes), c.Words})
	}
	if len(rows) > 0 {
		err := m.store.copyNew(ctx, "history_commit", []string{"repository_id", "oid", "parents", "author_name", "author_email", "author_time", "commit_time", "subject", "message", "changes", "words"},
			rows, "ON CONFLICT (repository_id, oid) DO UPDATE SET changes = excluded.changes, words = excluded.words")
		if err != nil {
			return err
		}
	}
	kept, err := m.store.pool.Exec(ctx, "INSERT INTO history_pin (repository_id, oid) SELECT $1, unnest($2::text[]) ON CONFLICT DO NOTHING", m.repository, pins)
	if err != nil || (kept.RowsAffected() == 0 && len(rows) == 0) {
		return err
	}
	return m.store.TurnHistory(ctx, m.repository)
}

func noNUL(s string) string { return strings.ReplaceAll(s, "\x00", "?") }
