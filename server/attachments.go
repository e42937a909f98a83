package server

import (
	"context"
	"fmt"
	"mime"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/attach"
	"juxtagram/core/note"
	"juxtagram/store"
)

func (s *Server) attachmentRoutes() []route {
	return []route{
		handle(s, "POST", "/api/repositories/{repository}/attachments", Read, "Hand in a file for a text; it is seen by others once a text uses it", s.attach, status(http.StatusCreated), slowBody(attach.MaxBytes+1)),
		handle(s, "GET", "/attachments/{repository}/{attachment}", Read, "A picture as it was drawn anew, or a file as a download", s.attachment),
	}
}

// slowBody lets a request bring so many bytes, and take its time.
func slowBody(limit int64) func(*huma.Operation) {
	return func(op *huma.Operation) { op.MaxBodyBytes, op.BodyReadTimeout = limit, 10*time.Minute }
}

// maxWaiting is how many bytes somebody may have handed in that no text uses.
const maxWaiting = 10 * attach.MaxBytes

// AttachmentInfo is a file that was handed in.
type AttachmentInfo struct {
	UID      string `json:"uid"`
	Name     string `json:"name"`
	Type     string `json:"type" doc:"By its bytes"`
	Size     int64  `json:"size" doc:"Bytes that are kept"`
	Picture  bool   `json:"picture"`
	Markdown string `json:"markdown" doc:"What to write in a text to show it, or to link to it"`
	Remark   string `json:"remark" doc:"What to know: it lies about its type, or only its first frame is kept"`
}

func (s *Server) attach(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Name    string `query:"name" maxLength:"1000"`
	RawBody []byte `contentType:"application/octet-stream"`
}) (*body[AttachmentInfo], error) {
	waiting, err := s.store.WaitingBytes(ctx, w.person.ID)
	if err != nil {
		return nil, err
	}
	if waiting+int64(len(in.RawBody)) > maxWaiting {
		return nil, problem(http.StatusUnprocessableEntity, "too-much-waiting", fmt.Sprintf("%d MB that you handed in are in no text yet; save those texts first", waiting>>20))
	}
	kept, err := s.readAttached(ctx, in.Name, in.RawBody)
	if err != nil {
		return nil, err
	}
	f, err := s.jobs.KeepAttached(ctx, w.repository.ID, w.person.ID, "", kept)
	if err != nil {
		return nil, err
	}
	return answer(AttachmentInfo{f.UID, f.Name, f.Type, f.Size, f.Picture, note.Attach(f.UID, f.Name, f.Picture), kept.Remark}), nil
}

// readAttached finds out what a file is. One picture is drawn at a time, as each
// takes much memory.
func (s *Server) readAttached(ctx context.Context, name string, content []byte) (*attach.Kept, error) {
	select {
	case s.drawing <- struct{}{}:
		defer func() { <-s.drawing }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	k, err := attach.Read(name, content)
	if attach.IsRefused(err) {
		return nil, problem(http.StatusUnprocessableEntity, "not-attached", err.Error())
	}
	return k, err
}

type attachmentAnswer struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Policy      string `header:"Content-Security-Policy"`
	Cache       string `header:"Cache-Control"`
	Body        []byte
}

func (s *Server) attachment(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Attachment string `path:"attachment" maxLength:"100"`
}) (*attachmentAnswer, error) {
	f, err := s.store.Attachment(ctx, w.repository.ID, w.person.ID, in.Attachment)
	if err != nil {
		return nil, err
	}
	content, err := s.jobs.Attached(ctx, f)
	if err != nil {
		return nil, err
	}
	a := &attachmentAnswer{ContentType: "application/octet-stream", Policy: "default-src 'none'; sandbox", Cache: immutable, Body: content}
	way := "attachment"
	if f.Picture {
		way, a.ContentType = "inline", f.Type
	}
	a.Disposition = mime.FormatMediaType(way, map[string]string{"filename": f.Name})
	return a, nil
}

// attached is an attachment as a text shows it.
func attached(f *store.Attachment) *note.Attached {
	return &note.Attached{Address: fmt.Sprintf("/attachments/%d/%s", f.Repository, f.UID), Picture: f.Picture, Width: f.Width, Height: f.Height}
}
