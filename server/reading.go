package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"path"
	"regexp"
	"strings"
	"time"

	"juxtagram/store"
)

func (s *Server) readingRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/overview", Read, "The front page of the survey at the pin", s.overview),
		handle(s, "GET", "/api/repositories/{repository}/folder", Read, "What lies right below a folder", s.folder, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/paths", Read, "Files whose path holds a text", s.matchPaths, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/tree", Read, "What lies right below a folder at any commit", s.tree, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/file", Read, "What the survey knows of one file", s.file),
		handle(s, "GET", "/api/repositories/{repository}/lines", Read, "Lines of a file, at the pin or any commit", s.lines, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/text", Read, "A whole file, at the pin or any commit", s.text, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/skim", Read, "A file cut into regions, and in which order they open", s.skim, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/outline", Read, "What a file says by itself: outline, imports, tagged comments", s.outline, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/tokens", Read, "What the pieces of a file's lines are, for colouring", s.tokens, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/readme", Read, "A text in Markdown as safe HTML", s.readme, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/picture", Read, "A picture of the repository", s.picture, surveyed),
	}
}

// surveyNow is the newest survey at a repository's pin.
func (s *Server) surveyNow(ctx context.Context, w *who) (*store.Survey, error) {
	if w.repository.Pin == "" {
		return nil, problem(http.StatusConflict, "no-pin", "choose a pin first")
	}
	return s.store.SurveyAt(ctx, w.repository.ID, w.repository.Pin)
}

// PathInfo is one path or folder of the survey. Figures are null as long as
// they are not known; a folder's are summed over the files below it.
type PathInfo struct {
	Path         string             `json:"path"`
	Name         string             `json:"name"`
	Folder       bool               `json:"folder"`
	Files        int                `json:"files"`
	Mode         string             `json:"mode"`
	Size         *int64             `json:"size" doc:"Bytes"`
	Language     string             `json:"language"`
	Role         string             `json:"role"`
	RoleEvidence string             `json:"role_evidence"`
	Depth        string             `json:"depth"`
	DepthReason  string             `json:"depth_reason"`
	Binary       bool               `json:"binary"`
	Lines        *int               `json:"lines"`
	Code         *int               `json:"code"`
	Comment      *int               `json:"comment"`
	Blank        *int               `json:"blank"`
	Tagged       int                `json:"tagged"`
	Starts       int                `json:"starts"`
	Symbols      *int               `json:"symbols"`
	Intricacy    *int               `json:"intricacy"`
	Dependents   *int               `json:"dependents" doc:"Files that import it; null for a folder"`
	Dependencies *int               `json:"dependencies" doc:"Files that it imports; null for a folder"`
	Centrality   *float64           `json:"centrality" doc:"Its weight in the file graph; all files sum to 1"`
	Commits      *int               `json:"commits"`
	LinesAdded   *int               `json:"lines_added"`
	LinesDeleted *int               `json:"lines_deleted"`
	Recent       *float64           `json:"recent"`
	FirstAt      *time.Time         `json:"first_at"`
	LastAt       *time.Time         `json:"last_at"`
	People       []store.PathPerson `json:"people" doc:"At most five, most changes first"`
}

func pathInfo(w *who, r *store.PathRow) PathInfo {
	p := PathInfo{r.Path, r.Name, r.Folder, r.Files, r.Mode, r.Size, r.Language, r.Role, r.RoleEvidence, r.Depth, r.DepthReason, r.IsBinary,
		r.Lines, r.Code, r.Comment, r.Blank, r.Tagged, r.Starts, r.Symbols, r.Intricacy, r.Dependents, r.Dependencies, r.Centrality, r.Commits, r.LinesAdded, r.LinesDeleted, r.Recent, r.FirstAt, r.LastAt, []store.PathPerson{}}
	if !w.repository.PeopleHidden {
		_ = json.Unmarshal(r.People, &p.People) // written by the store alone
	}
	return p
}

func pathInfos(w *who, rows []store.PathRow) []PathInfo {
	out := make([]PathInfo, len(rows))
	for i := range rows {
		out[i] = pathInfo(w, &rows[i])
	}
	return out
}

// FolderInfo is a folder with what lies right below it.
type FolderInfo struct {
	Folder   *PathInfo  `json:"folder,omitempty" doc:"Left out until the tree is listed"`
	Children []PathInfo `json:"children"`
}

func (s *Server) folder(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Path string `query:"path" maxLength:"5000" doc:"Empty for the root"`
}) (*body[FolderInfo], error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	info := FolderInfo{Children: []PathInfo{}}
	row, err := s.store.PathAt(ctx, v.ID, in.Path)
	if errors.Is(err, store.ErrNotFound) && in.Path == "" {
		return answer(info), nil
	}
	if err != nil {
		return nil, err
	}
	rows, err := s.store.Children(ctx, v.ID, in.Path)
	if err != nil {
		return nil, err
	}
	at := pathInfo(w, row)
	info.Folder, info.Children = &at, pathInfos(w, rows)
	return answer(info), nil
}

// PathMatches are files whose path holds a text.
type PathMatches struct {
	Total int64      `json:"total" doc:"All that match; files may hold fewer"`
	Files []PathInfo `json:"files"`
}

func (s *Server) matchPaths(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Text  string `query:"text" minLength:"1" maxLength:"500"`
	Limit int    `query:"limit" minimum:"1" maximum:"500" default:"100"`
}) (*body[PathMatches], error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	rows, total, err := s.store.MatchPaths(ctx, v.ID, in.Text, in.Limit)
	return answer(PathMatches{total, pathInfos(w, rows)}), err
}

// FileInfo is one file with the leads in it.
type FileInfo struct {
	PathInfo
	Leads      []LeadInfo `json:"leads" doc:"Best first, at most 500"`
	LeadsTotal int64      `json:"leads_total"`
	Commit     string     `json:"commit" doc:"The pin"`
}

// maxFileLeads is how many leads a file's page gets.
const maxFileLeads = 500

// FilePath names a file at a commit.
type FilePath struct {
	RepositoryPath
	Path string `query:"path" minLength:"1" maxLength:"5000"`
}

func (s *Server) file(ctx context.Context, w *who, in *FilePath) (*body[FileInfo], error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	row, err := s.store.PathAt(ctx, v.ID, in.Path)
	if err != nil {
		return nil, err
	}
	leads, total, err := s.store.Leads(ctx, v.ID, store.LeadFilter{Path: in.Path, Limit: maxFileLeads})
	if err != nil {
		return nil, err
	}
	info := FileInfo{PathInfo: pathInfo(w, row), Leads: []LeadInfo{}, LeadsTotal: total, Commit: v.OID}
	lore, err := s.leadLore(ctx, w, v.ID)
	if err != nil {
		return nil, err
	}
	for _, l := range leads {
		info.Leads = append(info.Leads, lore.info(l))
	}
	return answer(info), nil
}

// Readme is a readme as safe HTML.
type Readme struct {
	Path string `json:"path"`
	HTML string `json:"html"`
}

const maxReadme = 1 << 20

func (s *Server) readme(ctx context.Context, w *who, in *struct {
	AtPath
	Start int `query:"start" minimum:"0" doc:"The first line; left out: the whole document"`
	End   int `query:"end" minimum:"0" doc:"The last line"`
}) (*body[Readme], error) {
	r, err := s.readmeAt(ctx, w, in.Path, in.At, in.Start, in.End)
	if err != nil {
		return nil, err
	}
	return answer(*r), nil
}

// readmeAt renders a document, or its lines start..end where start is not 0.
func (s *Server) readmeAt(ctx context.Context, w *who, path, at string, start, end int) (*Readme, error) {
	f, err := s.find(ctx, w, &AtPath{FilePath: FilePath{RepositoryPath{w.repository.ID}, path}, At: at})
	if err != nil {
		return nil, err
	}
	content, err := s.readers.read(w.repository.ID, f.blob, maxReadme)
	if err != nil {
		return nil, err
	}
	if start > 0 {
		content = proseOf(content, start, end)
	}
	folders := func(paths []string) map[string]bool {
		v, err := s.surveyNow(ctx, w)
		if err != nil {
			return nil
		}
		found, _ := s.store.FoldersAmong(ctx, v.ID, paths) // without it, a link to a folder leads to a page that says so
		return found
	}
	isPicture := func(path string) bool {
		if pictureTypes[strings.ToLower(extensionOf(path))] == "" {
			return false
		}
		f, err := s.findIn(ctx, w, at, path)
		return err == nil && f != nil
	}
	return &Readme{path, renderReadme(ctx, w.repository.ID, path, content, folders, isPicture)}, nil
}

// reference is a line of Markdown that says where a link leads which is named elsewhere.
var reference = regexp.MustCompile(`(?m)^ {0,3}\[[^\]\n]+\]:[^\n]*$`)

// proseOf are lines start..end of a document, with what its links need of the rest.
func proseOf(content []byte, start, end int) []byte {
	lines := bytes.SplitAfter(content, []byte("\n"))
	start, end = min(start, len(lines)), min(max(start, end), len(lines))
	out := bytes.Join(lines[start-1:end], nil)
	for _, r := range reference.FindAll(content, -1) {
		out = append(append(out, "\n\n"...), r...)
	}
	return out
}

// extensionOf is that of a path, with its full stop.
func extensionOf(p string) string { return path.Ext(p) }

// pictureTypes are the kinds of pictures that are sent, by extension.
var pictureTypes = map[string]string{".png": "image/png", ".jpg": "image/jpeg", ".jpeg": "image/jpeg", ".gif": "image/gif", ".webp": "image/webp", ".svg": "image/svg+xml", ".ico": "image/x-icon", ".bmp": "image/bmp", ".avif": "image/avif"}

const maxPicture = 16 << 20

type pictureAnswer struct {
	ContentType string `header:"Content-Type"`
	Policy      string `header:"Content-Security-Policy"`
	Body        []byte
}

func (s *Server) picture(ctx context.Context, w *who, in *AtPath) (*pictureAnswer, error) {
	kind := pictureTypes[strings.ToLower(path.Ext(in.Path))]
	if kind == "" {
		return nil, problem(http.StatusUnsupportedMediaType, "no-picture", "not a picture that can be shown")
	}
	f, err := s.find(ctx, w, in)
	if err != nil {
		return nil, err
	}
	content, err := s.readers.read(w.repository.ID, f.blob, maxPicture)
	if err != nil {
		return nil, err
	}
	return &pictureAnswer{kind, "default-src 'none'; style-src 'unsafe-inline'; sandbox", content}, nil
}
