package server

import (
	"context"
	"regexp"
	"slices"
	"strings"

	"juxtagram/core/attach"
	"juxtagram/core/note"
	"juxtagram/core/webanno"
	"juxtagram/store"
)

// maxExported is how many bytes of attachments one document holds. Further ones
// it names alone.
const maxExported = 32 << 20

// usedFiles are the uids of attachments that threads use, sorted.
func usedFiles(threads []webanno.Thread) []string {
	var out []string
	for i := range threads {
		out = append(out, note.Read(threads[i].Text).Attached...)
		for k := range threads[i].Replies {
			out = append(out, note.Read(threads[i].Replies[k].Text).Attached...)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// exportedFiles are the attachments that threads use, as far as one may see them.
func (s *Server) exportedFiles(ctx context.Context, w *who, threads []webanno.Thread) ([]webanno.File, error) {
	used := usedFiles(threads)
	if len(used) == 0 {
		return nil, nil
	}
	seen, err := s.store.Attachments(ctx, w.repository.ID, w.person.ID)
	if err != nil {
		return nil, err
	}
	slices.SortFunc(seen, func(a, b store.Attachment) int { return strings.Compare(a.UID, b.UID) })
	var out []webanno.File
	room := int64(maxExported)
	for i := range seen {
		f := &seen[i]
		if _, found := slices.BinarySearch(used, f.UID); !found {
			continue
		}
		x := webanno.File{UID: f.UID, Name: f.Name}
		if f.Size <= room {
			if x.Content, err = s.jobs.Attached(ctx, f); err != nil && err != store.ErrNotFound {
				return nil, err
			}
			room -= int64(len(x.Content))
		}
		out = append(out, x)
	}
	return out, nil
}

// uidShape is how the uid of an attachment may look.
var uidShape = regexp.MustCompile(`^[A-Za-z0-9-]{8,60}$`)

// importFiles takes in the attachments of a document that its threads use, each
// read like one that was handed in.
func (s *Server) importFiles(ctx context.Context, w *who, doc *webanno.Document, threads []store.Imported, info *BroughtInfo) error {
	used := usedFiles(doc.Threads)
	for _, f := range doc.Files {
		if _, found := slices.BinarySearch(used, f.UID); !found || !uidShape.MatchString(f.UID) {
			info.tell(attach.Name(f.Name), "no text of the document uses this attachment")
			continue
		}
		if f.Content == nil {
			info.tell(attach.Name(f.Name), "the document names this attachment, and does not hold it")
			continue
		}
		kept, err := s.readAttached(ctx, f.Name, f.Content)
		if err != nil {
			info.tell(attach.Name(f.Name), err.Error())
			continue
		}
		if _, err := s.jobs.KeepAttached(ctx, w.repository.ID, w.person.ID, f.UID, kept); err != nil {
			return err
		}
		info.Files++
	}
	var texts []*store.Annotation
	for i := range threads {
		texts = append(texts, &threads[i].First)
		for k := range threads[i].Replies {
			texts = append(texts, &threads[i].Replies[k])
		}
	}
	return s.store.UseAttachments(ctx, w.repository.ID, w.person.ID, store.UsesOf(texts...))
}
