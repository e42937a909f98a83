package store

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/place"
)

// Kinds of targets of annotations.
const (
	OnLines      = "lines"
	OnSymbol     = "symbol"
	OnFile       = "file"
	OnFolder     = "folder"
	OnCommit     = "commit"
	OnRepository = "repository"
)

// NoteTarget is what an annotation is about, as it was when it was written, by all
// signs by which it is found again.
type NoteTarget struct {
	Kind   string      `json:"kind"`
	Commit string      `json:"commit"` // full id; the one it is about, for a commit
	Path   string      `json:"path,omitempty"`
	Start  int         `json:"start,omitempty"` // lines from 1, both included; of lines and symbols
	End    int         `json:"end,omitempty"`
	Symbol string      `json:"symbol,omitempty"` // qualified: that it is about, or that it stands in
	Quote  place.Quote `json:"quote,omitzero"`
	// The passage of a plan at which it was asked.
	Plan    int64  `json:"plan,omitempty"`
	Passage string `json:"passage,omitempty"`
}

// Annotation is something that somebody wrote beside the code.
type Annotation struct {
	ID         int64
	UID        string
	Repository int64
	Thread     int64 // 0: it is the first of one
	Author     int64 // 0: an account that is gone, or of another installation
	AuthorName string
	Kind       string // note, question, ask
	Private    bool
	Body       string
	Rev        int
	State      string // open, resolved
	StateBy    string
	Asked      int64 // who is asked to act; 0: nobody
	AskedName  string
	Answer     int64 // the reply that answers a question; 0: none
	Tags       []string
	Target     *NoteTarget // nil: a reply
	CreatedAt  time.Time
	EditedAt   *time.Time
	ChangedAt  time.Time
	Deleted    bool
}

// First is the first annotation of its thread.
func (a *Annotation) First() int64 {
	if a.Thread == 0 {
		return a.ID
	}
	return a.Thread
}

const annotationColumns = `a.id, a.uid, a.repository_id, coalesce(a.thread_id, 0), coalesce(a.author_id, 0), coalesce(p.name, a.author_name), a.kind, a.private, a.body, a.rev, a.state,
	coalesce(s.name, a.state_by_name), coalesce(a.asked_id, 0), coalesce(k.name, a.asked_name), coalesce(a.answer_id, 0), a.tags, a.target, a.created_at, a.edited_at, a.changed_at, a.deleted_at IS NOT NULL`

const annotationFrom = ` FROM annotation a LEFT JOIN person p ON p.id = a.author_id LEFT JOIN person s ON s.id = a.state_by LEFT JOIN person k ON k.id = a.asked_id `

// annotations reads rows by a condition that begins with WHERE.
func (s *Store) annotations(ctx context.Context, where string, args ...any) ([]Annotation, error) {
	rows, err := s.pool.Query(ctx, "SELECT "+annotationColumns+annotationFrom+where, args...)
	if err != nil {
		return nil, err
	}
	out := []Annotation{}
	var a Annotation
	var target []byte
	_, err = pgx.ForEachRow(rows, []any{&a.ID, &a.UID, &a.Repository, &a.Thread, &a.Author, &a.AuthorName, &a.Kind, &a.Private, &a.Body, &a.Rev, &a.State, &a.StateBy,
		&a.Asked, &a.AskedName, &a.Answer, &a.Tags, &target, &a.CreatedAt, &a.EditedAt, &a.ChangedAt, &a.Deleted}, func() error {
		x := a
		a.Tags = nil
		if x.Target = nil; target != nil {
			x.Target = new(NoteTarget)
			if err := json.Unmarshal(target, x.Target); err != nil {
				return fmt.Errorf("target of annotation %d: %w", x.ID, err)
			}
		}
		out = append(out, x)
		return nil
	})
	return out, err
}

// seenBy is the condition that somebody may see an annotation, as parameter $2.
const seenBy = ` (NOT a.private OR a.author_id = $2) `

// NotesVersion counts how often the threads of a repository, or their places,
// have changed.
func (s *Store) NotesVersion(ctx context.Context, repository int64) (int64, error) {
	var n int64
	err := s.pool.QueryRow(ctx, "SELECT notes_version FROM repository WHERE id = $1", repository).Scan(&n)
	return n, err
}

// AllThreads are the first annotations of all threads of a repository, whoever
// may see them, the last changed first; deleted ones are left out.
func (s *Store) AllThreads(ctx context.Context, repository int64) ([]Annotation, error) {
	return s.annotations(ctx, "WHERE a.repository_id = $1 AND a.thread_id IS NULL AND a.deleted_at IS NULL ORDER BY a.changed_at DESC, a.id DESC", repository)
}

// Threads are the first annotations of all threads of a repository that somebody
// may see, the newest last; deleted ones are left out.
func (s *Store) Threads(ctx context.Context, repository, person int64) ([]Annotation, error) {
	return s.annotations(ctx, "WHERE a.repository_id = $1 AND a.thread_id IS NULL AND a.deleted_at IS NULL AND"+seenBy+"ORDER BY a.id", repository, person)
}

// ThreadsAmong are some of them.
func (s *Store) ThreadsAmong(ctx context.Context, repository, person int64, ids []int64) ([]Annotation, error) {
	return s.annotations(ctx, "WHERE a.repository_id = $1 AND a.thread_id IS NULL AND a.deleted_at IS NULL AND"+seenBy+"AND a.id = ANY ($3) ORDER BY a.id", repository, person, ids)
}

// ThreadsAbout are the threads about a commit itself, or that it follows up, that
// somebody may see.
func (s *Store) ThreadsAbout(ctx context.Context, repository, person int64, commit string) ([]Annotation, error) {
	return s.annotations(ctx, "WHERE a.repository_id = $1 AND a.thread_id IS NULL AND a.deleted_at IS NULL AND"+seenBy+"AND (a.target->>'kind' = 'commit' AND a.target->>'commit' = $3 OR EXISTS (SELECT 1 FROM thread_commit c WHERE c.thread_id = a.id AND c.commit_id = $3)) ORDER BY a.id", repository, person, commit)
}

// Replies are those of some threads, the oldest first; deleted ones are left out.
func (s *Store) Replies(ctx context.Context, threads []int64) ([]Annotation, error) {
	return s.annotations(ctx, "WHERE a.thread_id = ANY ($1) AND a.deleted_at IS NULL ORDER BY a.id", threads)
}

// Annotation finds one by id that somebody may see, also a deleted one.
func (s *Store) Annotation(ctx context.Context, repository, person, id int64) (*Annotation, error) {
	found, err := s.annotations(ctx, "WHERE a.repository_id = $1 AND"+seenBy+"AND a.id = $3", repository, person, id)
	if err != nil {
		return nil, err
	}
	if len(found) == 0 {
		return nil, ErrNotFound
	}
	return &found[0], nil
}

// AddAnnotation keeps a new one; its id is filled in, and a uid where it has none.
func (s *Store) AddAnnotation(ctx context.Context, a *Annotation) error {
	if a.UID == "" {
		a.UID = rand.Text()
	}
	if a.Kind == "" {
		a.Kind = "note"
	}
	if a.Tags == nil {
		a.Tags = []string{}
	}
	var target any
	var folder *string
	if a.Target != nil {
		b, err := json.Marshal(a.Target)
		if err != nil {
			return err
		}
		target = cleanJSON(b)
		folder = &a.Target.Path
	}
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		err := tx.QueryRow(ctx, `INSERT INTO annotation (uid, repository_id, thread_id, author_id, author_name, kind, private, body, asked_id, tags, target, folder)
			VALUES ($1, $2, nullif($3, 0), nullif($4, 0), $5, $6, $7, $8, nullif($9, 0), $10, $11, $12) RETURNING id, created_at`,
			a.UID, a.Repository, a.Thread, a.Author, a.AuthorName, a.Kind, a.Private, a.Body, a.Asked, a.Tags, target, folder).Scan(&a.ID, &a.CreatedAt)
		if err != nil || a.Thread == 0 {
			return err
		}
		_, err = tx.Exec(ctx, "UPDATE annotation SET changed_at = now() WHERE id = $1", a.Thread)
		return err
	})
}

// ErrChanged tells that somebody changed a text meanwhile.
var ErrChanged = errors.New("somebody changed it meanwhile")

// EditAnnotation puts another text in the place of the revision rev; the one
// before is kept. ErrChanged: it is another revision by now.
func (s *Store) EditAnnotation(ctx context.Context, id int64, rev int, body string, tags []string) error {
	if tags == nil {
		tags = []string{}
	}
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var now int
		var before string
		var thread int64
		if err := tx.QueryRow(ctx, "SELECT rev, body, coalesce(thread_id, id) FROM annotation WHERE id = $1 FOR UPDATE", id).Scan(&now, &before, &thread); err != nil {
			return known(err)
		}
		if now != rev {
			return ErrChanged
		}
		if _, err := tx.Exec(ctx, "INSERT INTO annotation_edit (annotation_id, rev, body) VALUES ($1, $2, $3)", id, rev, before); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, "UPDATE annotation SET body = $2, tags = $3, rev = rev + 1, edited_at = now() WHERE id = $1", id, body, tags); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, "UPDATE annotation SET changed_at = now() WHERE id = $1", thread)
		return err
	})
}

// Edit is an earlier text of an annotation.
type Edit struct {
	Rev  int
	Body string
	At   time.Time // when it was replaced
}

// Edits are the earlier texts of an annotation, the oldest first.
func (s *Store) Edits(ctx context.Context, id int64) ([]Edit, error) {
	rows, err := s.pool.Query(ctx, "SELECT rev, body, at FROM annotation_edit WHERE annotation_id = $1 ORDER BY rev", id)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Edit])
}

// SetThread sets the state of a thread and the reply that answers it.
func (s *Store) SetThread(ctx context.Context, id int64, state string, by, answer int64) error {
	_, err := s.pool.Exec(ctx, "UPDATE annotation SET state = $2, state_by = $3, state_by_name = '', answer_id = nullif($4, 0), changed_at = now() WHERE id = $1", id, state, by, answer)
	return err
}

// DeleteAnnotation takes one away, or brings it back. It is kept.
func (s *Store) DeleteAnnotation(ctx context.Context, id int64, deleted bool) error {
	_, err := s.pool.Exec(ctx, `UPDATE annotation SET deleted_at = CASE WHEN $2 THEN now() END WHERE id = $1`, id, deleted)
	return err
}

// SetTarget places an annotation anew; the target before is kept, what was
// found by it is forgotten.
func (s *Store) SetTarget(ctx context.Context, id, by int64, target *NoteTarget) error {
	b, err := json.Marshal(target)
	if err != nil {
		return err
	}
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `INSERT INTO annotation_target (annotation_id, n, target, person_id)
			SELECT id, (SELECT count(*) FROM annotation_target WHERE annotation_id = id), target, $2 FROM annotation WHERE id = $1`, id, by)
		if err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, "UPDATE annotation SET target = $2, folder = $3, changed_at = now() WHERE id = $1", id, cleanJSON(b), target.Path); err != nil {
			return err
		}
		_, err = tx.Exec(ctx, "DELETE FROM annotation_place WHERE annotation_id = $1", id)
		return err
	})
}

// Targets are the earlier targets of an annotation, the oldest first.
func (s *Store) Targets(ctx context.Context, id int64) ([]NoteTarget, error) {
	rows, err := s.pool.Query(ctx, "SELECT target FROM annotation_target WHERE annotation_id = $1 ORDER BY n", id)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[NoteTarget])
}

// Placed is where an annotation stands at a commit.
type Placed struct {
	Annotation   int64
	What         string // same, moved, changed, gone
	Path         string
	Start, End   int // 0: the whole
	Like         float64
	Reason       string
	ReasonCommit string
	Candidates   []place.Candidate
}

// PlacesAt are the places at a commit of the threads of a repository, by thread.
func (s *Store) PlacesAt(ctx context.Context, repository int64, commit string) (map[int64]Placed, error) {
	rows, err := s.pool.Query(ctx, `SELECT p.annotation_id, p.what, p.path, p.start_line, p.end_line, p.likeness, p.reason, p.reason_commit, p.candidates
		FROM annotation_place p JOIN annotation a ON a.id = p.annotation_id WHERE a.repository_id = $1 AND p.commit_id = $2`, repository, commit)
	if err != nil {
		return nil, err
	}
	out := map[int64]Placed{}
	var p Placed
	_, err = pgx.ForEachRow(rows, []any{&p.Annotation, &p.What, &p.Path, &p.Start, &p.End, &p.Like, &p.Reason, &p.ReasonCommit, &p.Candidates}, func() error {
		out[p.Annotation] = p
		p.Candidates = nil
		return nil
	})
	return out, err
}

// PathCount counts what is on a path.
type PathCount struct {
	Path  string
	Count int
}

// ThreadsByPath counts the open threads that somebody may see by the path they
// stand on at a commit, as far as that is known; those on the whole repository
// are left out.
func (s *Store) ThreadsByPath(ctx context.Context, repository, person int64, commit string) ([]PathCount, error) {
	rows, err := s.pool.Query(ctx, `SELECT p.path, count(*) FROM annotation_place p JOIN annotation a ON a.id = p.annotation_id
		WHERE a.repository_id = $1 AND`+seenBy+`AND p.commit_id = $3 AND a.thread_id IS NULL AND a.deleted_at IS NULL AND a.state = 'open' AND p.path <> '' GROUP BY p.path ORDER BY p.path`, repository, person, commit)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[PathCount])
}

// KeepPlaces keeps where annotations stand at a commit.
func (s *Store) KeepPlaces(ctx context.Context, commit string, places []Placed) error {
	rows := make([][]any, 0, len(places))
	for _, p := range places {
		candidates, err := json.Marshal(append([]place.Candidate{}, p.Candidates...))
		if err != nil {
			return err
		}
		rows = append(rows, []any{p.Annotation, commit, p.What, clean(p.Path), p.Start, p.End, p.Like, p.Reason, p.ReasonCommit, candidates})
	}
	return s.copyNew(ctx, "annotation_place", []string{"annotation_id", "commit_id", "what", "path", "start_line", "end_line", "likeness", "reason", "reason_commit", "candidates"}, rows,
		`ON CONFLICT (annotation_id, commit_id) DO UPDATE SET what = excluded.what, path = excluded.path, start_line = excluded.start_line, end_line = excluded.end_line,
		likeness = excluded.likeness, reason = excluded.reason, reason_commit = excluded.reason_commit, candidates = excluded.candidates, placed_at = now()`)
}

// Unplaced are the threads of a repository that have no place at a commit yet,
// whoever may see them.
func (s *Store) Unplaced(ctx context.Context, repository int64, commit string) ([]Annotation, error) {
	return s.annotations(ctx, `WHERE a.repository_id = $1 AND a.thread_id IS NULL AND NOT EXISTS (SELECT 1 FROM annotation_place x WHERE x.annotation_id = a.id AND x.commit_id = $2) ORDER BY a.id`, repository, commit)
}

// ThreadReader is what somebody has to do with a thread.
type ThreadReader struct {
	Told      *bool // nil: as they take part
	Mentioned bool
	SeenAt    *time.Time
}

// ThreadReaders is what somebody has to do with the threads of a repository.
func (s *Store) ThreadReaders(ctx context.Context, repository, person int64) (map[int64]ThreadReader, error) {
	rows, err := s.pool.Query(ctx, "SELECT r.thread_id, r.told, r.mentioned, r.seen_at FROM thread_reader r JOIN annotation a ON a.id = r.thread_id WHERE a.repository_id = $1 AND r.person_id = $2", repository, person)
	if err != nil {
		return nil, err
	}
	out := map[int64]ThreadReader{}
	var id int64
	var r ThreadReader
	_, err = pgx.ForEachRow(rows, []any{&id, &r.Told, &r.Mentioned, &r.SeenAt}, func() error {
		out[id] = r
		r = ThreadReader{}
		return nil
	})
	return out, err
}

// SeeThreads keeps that somebody has seen threads as they are now.
func (s *Store) SeeThreads(ctx context.Context, person int64, threads []int64) error {
	_, err := s.pool.Exec(ctx, `INSERT INTO thread_reader (thread_id, person_id, seen_at) SELECT unnest($2::bigint[]), $1, now()
		ON CONFLICT (thread_id, person_id) DO UPDATE SET seen_at = now()`, person, threads)
	return err
}

// TellOf keeps whether somebody wants to be told of a thread.
func (s *Store) TellOf(ctx context.Context, thread, person int64, told bool) error {
	_, err := s.pool.Exec(ctx, `INSERT INTO thread_reader (thread_id, person_id, told) VALUES ($1, $2, $3) ON CONFLICT (thread_id, person_id) DO UPDATE SET told = $3`, thread, person, told)
	return err
}

// Mention keeps that people were mentioned in a thread.
func (s *Store) Mention(ctx context.Context, thread int64, people []int64) error {
	_, err := s.pool.Exec(ctx, `INSERT INTO thread_reader (thread_id, person_id, mentioned) SELECT $1, unnest($2::bigint[]), true
		ON CONFLICT (thread_id, person_id) DO UPDATE SET mentioned = true`, thread, people)
	return err
}
