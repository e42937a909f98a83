package store

import (
	"context"
	"encoding/json"

	"github.com/jackc/pgx/v5"
)

// Imported is a thread of another installation: its first annotation, its
// replies, the uid of the one that answers it, and the commits that follow it up.
type Imported struct {
	First   Annotation
	Replies []Annotation
	Answer  string
	Commits []string
}

var importColumns = []string{"uid", "repository_id", "thread_id", "author_id", "author_name", "kind", "private", "body", "rev", "state", "state_by_name", "asked_name", "tags", "target", "folder", "created_at", "edited_at", "changed_at"}

// ImportThreads keeps threads with their times. Those whose uid is there already
// are passed over with their replies; it gives how many were added.
func (s *Store) ImportThreads(ctx context.Context, repository int64, threads []Imported) (added int, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		rows := make([][]any, len(threads))
		for i := range threads {
			if rows[i], err = importRow(repository, 0, &threads[i].First); err != nil {
				return err
			}
		}
		ids, err := importRows(ctx, tx, rows)
		if err != nil {
			return err
		}
		added = len(ids)
		rows = rows[:0]
		var questions, answers, commits []string
		var followed []int64
		for i := range threads {
			t := &threads[i]
			thread, fresh := ids[t.First.UID]
			if !fresh {
				continue
			}
			for k := range t.Replies {
				row, err := importRow(repository, thread, &t.Replies[k])
				if err != nil {
					return err
				}
				rows = append(rows, row)
			}
			for _, c := range t.Commits {
				followed, commits = append(followed, thread), append(commits, c)
			}
			if t.Answer != "" {
				questions, answers = append(questions, t.First.UID), append(answers, t.Answer)
			}
		}
		if _, err := importRows(ctx, tx, rows); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, "INSERT INTO thread_commit (thread_id, commit_id) SELECT * FROM unnest($1::bigint[], $2::text[]) ON CONFLICT DO NOTHING", followed, commits); err != nil {
			return err
		}
		_, err = tx.Exec(ctx, `UPDATE annotation a SET answer_id = r.id FROM unnest($2::text[], $3::text[]) AS x (first, answer), annotation r
			WHERE a.repository_id = $1 AND a.uid = x.first AND r.repository_id = $1 AND r.uid = x.answer AND r.thread_id = a.id`, repository, questions, answers)
		return err
	})
	return added, err
}

func importRow(repository, thread int64, a *Annotation) ([]any, error) {
	var target any
	var folder *string
	if a.Target != nil {
		b, err := json.Marshal(a.Target)
		if err != nil {
			return nil, err
		}
		target, folder = json.RawMessage(cleanJSON(b)), &a.Target.Path
	}
	if a.Tags == nil {
		a.Tags = []string{}
	}
	orNull := func(id int64) any {
		if id == 0 {
			return nil
		}
		return id
	}
	changed := a.CreatedAt
	if !a.ChangedAt.IsZero() {
		changed = a.ChangedAt
	}
	return []any{a.UID, repository, orNull(thread), orNull(a.Author), clean(a.AuthorName), a.Kind, a.Private, clean(a.Body), a.Rev, a.State, clean(a.StateBy), clean(a.AskedName), a.Tags, target, folder, a.CreatedAt, a.EditedAt, changed}, nil
}

// importRows keeps rows, and gives the ids of those that were not there by uid.
func importRows(ctx context.Context, tx pgx.Tx, rows [][]any) (map[string]int64, error) {
	ids := map[string]int64{}
	if len(rows) == 0 {
		return ids, nil
	}
	names := ""
	for i, c := range importColumns {
		if i > 0 {
			names += ", "
		}
		names += c
	}
	if _, err := tx.Exec(ctx, "DROP TABLE IF EXISTS passing_notes; CREATE TEMP TABLE passing_notes ON COMMIT DROP AS SELECT "+names+" FROM annotation WITH NO DATA"); err != nil {
		return nil, err
	}
	if _, err := tx.CopyFrom(ctx, pgx.Identifier{"passing_notes"}, importColumns, pgx.CopyFromRows(rows)); err != nil {
		return nil, err
	}
	found, err := tx.Query(ctx, "INSERT INTO annotation ("+names+") SELECT "+names+" FROM passing_notes ON CONFLICT (repository_id, uid) DO NOTHING RETURNING uid, id")
	if err != nil {
		return nil, err
	}
	var uid string
	var id int64
	_, err = pgx.ForEachRow(found, []any{&uid, &id}, func() error {
		ids[uid] = id
		return nil
	})
	return ids, err
}
