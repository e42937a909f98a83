package server

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"path"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/history"
	"juxtagram/core/intake"
	"juxtagram/store"
)

// Sources says where repositories may be taken in from.
type Sources struct {
	Roots       []string `json:"roots" doc:"Folders of the server below which you may name folders"`
	Protocols   []string `json:"protocols"`
	UploadLimit int64    `json:"upload_limit" doc:"Bytes"`
	Full        string   `json:"full" doc:"Why nothing can be taken in now; empty: it can"`
}

func (s *Server) sources(ctx context.Context, w *who, _ *struct{}) (*body[Sources], error) {
	roots, err := s.jobs.RootsOf(ctx, &w.person.ID)
	if err != nil {
		return nil, err
	}
	v := Sources{Roots: roots, Protocols: s.config.Protocols, UploadLimit: s.config.UploadLimit}
	if err := s.jobs.Room(); err != nil {
		v.Full = err.Error()
	}
	if v.Protocols == nil {
		v.Protocols = []string{"https", "ssh"}
	}
	return answer(v), nil
}

// TakeInRequest names a source.
type TakeInRequest struct {
	Source    string `json:"source" minLength:"1" maxLength:"2000" doc:"A folder of the server or an address"`
	Name      string `json:"name,omitempty" maxLength:"100" doc:"Left out: made from the source"`
	Subfolder string `json:"subfolder,omitempty" maxLength:"1000" doc:"Limit the repository to this folder"`
	Token     string `json:"token,omitempty" maxLength:"4000" doc:"For a private https address; kept encrypted, never shown"`
	User      string `json:"user,omitempty" maxLength:"200" doc:"That goes with the token"`
	Key       string `json:"key,omitempty" maxLength:"20000" doc:"A private key, for a private ssh address; kept encrypted, never shown"`
}

func (s *Server) takeIn(ctx context.Context, w *who, in *struct{ Body TakeInRequest }) (*body[ShelfItem], error) {
	b := in.Body
	if err := s.mayTakeMore(ctx, w, 0); err != nil {
		return nil, err
	}
	source := strings.TrimSpace(b.Source)
	kind := "folder"
	if !strings.HasPrefix(source, "/") {
		kind = "address"
		if _, err := intake.CheckAddress(source, s.config.Protocols); err != nil {
			return nil, err
		}
	}
	if kind == "folder" {
		roots, err := s.jobs.RootsOf(ctx, &w.person.ID)
		if err != nil {
			return nil, err
		}
		if len(roots) == 0 {
			return nil, problem(http.StatusForbidden, "not-allowed", "no folder of this server is open to you; give an address or a file")
		}
	}
	r := store.Repository{Name: nameFor(b.Name, source), SourceKind: kind, Source: source, HalfLife: history.DefaultHalfLife, CreatedBy: &w.person.ID}
	var err error
	if r.Subfolder, err = subfolder(b.Subfolder); err != nil {
		return nil, err
	}
	if b.Token != "" || b.Key != "" {
		if r.Credential, err = s.jobs.Seal(&intake.Credential{User: b.User, Token: b.Token, Key: b.Key}); err != nil {
			return nil, err
		}
	}
	made, err := s.jobs.TakeIn(ctx, r)
	if err != nil {
		return nil, err
	}
	return answer(shelved(made)), nil
}

// nameFor makes a name from a source's last part.
func nameFor(name, source string) string {
	if name = strings.TrimSpace(name); name != "" {
		return name
	}
	s := strings.TrimRight(source, "/")
	if u, err := url.Parse(s); err == nil && u.Path != "" {
		s = u.Path
	}
	s = path.Base(strings.ReplaceAll(s, ":", "/"))
	for _, end := range []string{".git", ".bundle", ".tar.gz", ".tgz", ".tar", ".zip"} {
		s = strings.TrimSuffix(s, end)
	}
	if s == "" || s == "." || s == "/" {
		return "repository"
	}
	return string([]rune(s)[:min(len([]rune(s)), 100)])
}

func subfolder(p string) (string, error) {
	p = strings.Trim(strings.TrimSpace(p), "/")
	if p == "" {
		return "", nil
	}
	if c := path.Clean(p); c != p || c == ".." || strings.HasPrefix(c, "../") {
		return "", problem(http.StatusUnprocessableEntity, "invalid", "the subfolder is not a plain path inside the repository")
	}
	return p, nil
}

// uploadRequest reads its body as a stream, never into memory.
type uploadRequest struct {
	Name   string `query:"name" maxLength:"200" doc:"The file's name"`
	As     string `query:"as" maxLength:"100" doc:"Name of the repository; left out: made from the file's"`
	Sub    string `query:"subfolder" maxLength:"1000"`
	length int64  // as the request says; 0: it does not
	stream io.Reader
}

// Resolve implements huma.Resolver.
func (u *uploadRequest) Resolve(ctx huma.Context) []error {
	u.stream = &pacedReader{in: ctx.BodyReader(), extend: ctx.SetReadDeadline, began: time.Now()}
	u.length, _ = strconv.ParseInt(ctx.Header("Content-Length"), 10, 64)
	return nil
}

func (s *Server) upload(ctx context.Context, w *who, in *uploadRequest) (*body[ShelfItem], error) {
	if err := s.mayTakeMore(ctx, w, in.length); err != nil {
		return nil, err
	}
	leave, err := s.quotas.enter("upload", w.person.ID, uploadsAtOnce)
	if err != nil {
		return nil, err
	}
	defer leave()
	name := filepath.Base(strings.TrimSpace(in.Name))
	if in.Name == "" {
		name = "upload"
	}
	sub, err := subfolder(in.Sub)
	if err != nil {
		return nil, err
	}
	made, err := s.jobs.TakeInUpload(ctx, store.Repository{Name: nameFor(in.As, name), SourceKind: "file", Source: name, Subfolder: sub,
		HalfLife: history.DefaultHalfLife, CreatedBy: &w.person.ID}, in.stream, s.config.UploadLimit)
	if err != nil {
		return nil, err
	}
	return answer(shelved(made)), nil
}

// mayTakeMore is an error where somebody has taken in, or has at work, as much as one
// person may, or the disk has no room for more. bytes are those to come.
func (s *Server) mayTakeMore(ctx context.Context, w *who, bytes int64) error {
	if err := s.jobs.Room(); err != nil {
		return problem(http.StatusInsufficientStorage, "disk-full", err.Error())
	}
	r, err := s.store.RightsOf(ctx, w.person.ID)
	if err != nil {
		return err
	}
	l := s.config.Person
	switch {
	case l.Repositories > 0 && r.TakenIn >= l.Repositories:
		return problem(http.StatusConflict, "limit", fmt.Sprintf("you have taken in %d repositories, as many as one person may here; remove one first", r.TakenIn))
	case l.Bytes > 0 && r.UsedByte+bytes > l.Bytes:
		return problem(http.StatusConflict, "limit", fmt.Sprintf("the repositories that you took in have %d MB; %d MB are the most for one person here", (r.UsedByte+bytes)>>20, l.Bytes>>20))
	case l.Jobs == 0:
		return nil
	}
	n, err := s.store.JobsOf(ctx, w.person.ID)
	if err == nil && n >= l.Jobs {
		err = problem(http.StatusConflict, "limit", fmt.Sprintf("%d repositories of yours are being taken in, fetched or surveyed; wait until one of them is done", n))
	}
	return err
}

// shelved is a repository that was just put on the shelf, as its maker sees it.
func shelved(r *store.Repository) ShelfItem {
	return ShelfItem{ID: r.ID, Name: r.Name, Source: r.Source, State: r.State, Role: store.Keeper, CreatedAt: r.CreatedAt}
}

// uploadAgain takes a repository in anew from a file, where the one it came from is not
// kept any more.
func (s *Server) uploadAgain(ctx context.Context, w *who, in *struct {
	RepositoryPath
	uploadRequest
}) (*none, error) {
	if w.repository.State != store.TakeFailed || w.repository.SourceKind != "file" {
		return nil, problem(http.StatusConflict, "not-failed", "only a repository whose take-in from a file failed, or whose copy is missing, is taken in again")
	}
	if err := s.jobs.Room(); err != nil {
		return nil, problem(http.StatusInsufficientStorage, "disk-full", err.Error())
	}
	leave, err := s.quotas.enter("upload", w.person.ID, uploadsAtOnce)
	if err != nil {
		return nil, err
	}
	defer leave()
	return &none{}, s.jobs.TakeInUploadAgain(ctx, in.Repository, in.stream, s.config.UploadLimit)
}

func (s *Server) takeInAgain(ctx context.Context, w *who, in *RepositoryPath) (*none, error) {
	if w.repository.State != store.TakeFailed {
		return nil, problem(http.StatusConflict, "not-failed", "only a failed take-in can be tried again")
	}
	if w.repository.SourceKind == "file" && !s.jobs.HasUpload(in.Repository) {
		return nil, problem(http.StatusConflict, "gone", "the uploaded file is not kept: upload it again")
	}
	return &none{}, s.jobs.TakeInAgain(ctx, in.Repository)
}
