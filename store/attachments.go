package store

import (
	"context"
	"crypto/rand"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/note"
)

// Attachment is a file that somebody handed in for a text.
type Attachment struct {
	ID            int64
	UID           string
	Repository    int64
	Person        int64 // who handed it in; 0: an account that is gone
	Name, Type    string
	Size          int64
	Picture       bool
	Width, Height int
	Blob          string // the key of its bytes
	CreatedAt     time.Time
}

const attachmentColumns = "f.id, f.uid, f.repository_id, coalesce(f.person_id, 0), f.name, f.type, f.size, f.picture, f.width, f.height, f.blob, f.created_at"

// attachmentSeen is the condition that $2 may see an attachment: it is theirs, or
// a text that they may see uses it.
const attachmentSeen = ` (f.person_id = $2 OR EXISTS (SELECT 1 FROM attachment_use u JOIN annotation a ON a.id = u.annotation_id LEFT JOIN annotation t ON t.id = a.thread_id
	WHERE u.attachment_id = f.id AND a.deleted_at IS NULL AND t.deleted_at IS NULL AND (NOT a.private OR a.author_id = $2))
	OR EXISTS (SELECT 1 FROM attachment_plan u JOIN plan p ON p.id = u.plan_id WHERE u.attachment_id = f.id AND (NOT p.private OR p.created_by = $2))) `

func (s *Store) attachments(ctx context.Context, where string, args ...any) ([]Attachment, error) {
	rows, err := s.pool.Query(ctx, "SELECT "+attachmentColumns+" FROM attachment f "+where, args...)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Attachment])
}

// Attachments are those of a repository that somebody may see.
func (s *Store) Attachments(ctx context.Context, repository, person int64) ([]Attachment, error) {
	return s.attachments(ctx, "WHERE f.repository_id = $1 AND"+attachmentSeen+"ORDER BY f.id", repository, person)
}

// Attachment finds one by uid that somebody may see.
func (s *Store) Attachment(ctx context.Context, repository, person int64, uid string) (*Attachment, error) {
	found, err := s.attachments(ctx, "WHERE f.repository_id = $1 AND"+attachmentSeen+"AND f.uid = $3", repository, person, uid)
	if err != nil {
		return nil, err
	}
	if len(found) == 0 {
		return nil, ErrNotFound
	}
	return &found[0], nil
}

// AddAttachment keeps a new one; a uid is filled in where it has none. One whose
// uid is there already is left as it is, and added tells that it was not.
func (s *Store) AddAttachment(ctx context.Context, f *Attachment) (added bool, err error) {
	if f.UID == "" {
		f.UID = rand.Text()
	}
	tag, err := s.pool.Exec(ctx, `INSERT INTO attachment (uid, repository_id, person_id, name, type, size, picture, width, height, blob)
		VALUES ($1, $2, nullif($3, 0), $4, $5, $6, $7, $8, $9, $10) ON CONFLICT (repository_id, uid) DO NOTHING`,
		f.UID, f.Repository, f.Person, f.Name, f.Type, f.Size, f.Picture, f.Width, f.Height, f.Blob)
	return tag.RowsAffected() == 1, err
}

// Use is that a text uses an attachment, both by uid.
type Use struct{ Annotation, Attachment string }

// UsesOf are the attachments that texts use.
func UsesOf(texts ...*Annotation) []Use {
	var uses []Use
	for _, a := range texts {
		for _, uid := range note.Read(a.Body).Attached {
			uses = append(uses, Use{Annotation: a.UID, Attachment: uid})
		}
	}
	return uses
}

// UseAttachments notes which texts use attachments. What the person may not see
// is passed over: nobody shows others what they cannot see themselves.
func (s *Store) UseAttachments(ctx context.Context, repository, person int64, uses []Use) error {
	if len(uses) == 0 {
		return nil
	}
	var notes, files []string
	for _, u := range uses {
		notes, files = append(notes, u.Annotation), append(files, u.Attachment)
	}
	_, err := s.pool.Exec(ctx, `INSERT INTO attachment_use (attachment_id, annotation_id)
		SELECT f.id, n.id FROM unnest($3::text[], $4::text[]) AS x (note, file) JOIN annotation n ON n.repository_id = $1 AND n.uid = x.note JOIN attachment f ON f.repository_id = $1 AND f.uid = x.file
		WHERE`+attachmentSeen+`ON CONFLICT DO NOTHING`, repository, person, notes, files)
	return err
}

// UseInPlan notes that a plan's texts use attachments; what the person may not
// see is passed over.
func (s *Store) UseInPlan(ctx context.Context, repository, person, planID int64, uids []string) error {
	if len(uids) == 0 {
		return nil
	}
	_, err := s.pool.Exec(ctx, "INSERT INTO attachment_plan (attachment_id, plan_id) SELECT f.id, $3 FROM attachment f WHERE f.repository_id = $1 AND f.uid = ANY ($4) AND"+attachmentSeen+"ON CONFLICT DO NOTHING", repository, person, planID, uids)
	return err
}

// unused is the condition that no text uses an attachment.
const unused = " NOT EXISTS (SELECT 1 FROM attachment_use u WHERE u.attachment_id = f.id) AND NOT EXISTS (SELECT 1 FROM attachment_plan u WHERE u.attachment_id = f.id) "

// WaitingBytes is how many bytes somebody has handed in that no text uses.
func (s *Store) WaitingBytes(ctx context.Context, person int64) (n int64, err error) {
	err = s.pool.QueryRow(ctx, "SELECT coalesce(sum(size), 0) FROM attachment f WHERE f.person_id = $1 AND"+unused, person).Scan(&n)
	return n, err
}

// DropWaiting forgets attachments that no text has used since a time. It gives
// the keys of their bytes.
func (s *Store) DropWaiting(ctx context.Context, since time.Time) ([]string, error) {
	rows, err := s.pool.Query(ctx, "DELETE FROM attachment f WHERE f.created_at < $1 AND"+unused+"RETURNING f.blob", since)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}
