package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"path"
	"strings"
	"time"
	"unicode/utf8"

	lru "github.com/hashicorp/golang-lru/v2"

	"juxtagram/core/facts"
	"juxtagram/core/highlight"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/repo"
	"juxtagram/store"
	"juxtagram/survey"
)

func (s *Server) readingRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/overview", Read, "The front page of the survey at the pin", s.overview),
		handle(s, "GET", "/api/repositories/{repository}/folder", Read, "What lies right below a folder", s.folder),
		handle(s, "GET", "/api/repositories/{repository}/paths", Read, "Files whose path holds a text", s.matchPaths),
		handle(s, "GET", "/api/repositories/{repository}/file", Read, "What the survey knows of one file", s.file),
		handle(s, "GET", "/api/repositories/{repository}/lines", Read, "Lines of a file, at the pin or any commit", s.lines),
		handle(s, "GET", "/api/repositories/{repository}/tokens", Read, "What the pieces of a file's lines are, for colouring", s.tokens),
		handle(s, "GET", "/api/repositories/{repository}/readme", Read, "A readme as safe HTML", s.readme),
		handle(s, "GET", "/api/repositories/{repository}/picture", Read, "A picture of the repository", s.picture),
	}
}

// surveyNow is the newest survey at a repository's pin.
func (s *Server) surveyNow(ctx context.Context, w *who) (*store.Survey, error) {
	if w.repository.Pin == "" {
		return nil, problem(http.StatusConflict, "no-pin", "choose a pin first")
	}
	return s.store.SurveyAt(ctx, w.repository.ID, w.repository.Pin)
}

// OverviewInfo is an overview with how complete it is.
type OverviewInfo struct {
	Survey   SurveyInfo     `json:"survey"`
	Overview store.Overview `json:"overview"`
}

func (s *Server) overview(ctx context.Context, w *who, _ *RepositoryPath) (*body[OverviewInfo], error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	info := OverviewInfo{Survey: *surveyInfo(v), Overview: *store.Summarise(&survey.Result{})}
	if err := json.Unmarshal(v.Overview, &info.Overview); err != nil {
		return nil, err
	}
	return answer(info), nil
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
	Commits      *int               `json:"commits"`
	LinesAdded   *int               `json:"lines_added"`
	LinesDeleted *int               `json:"lines_deleted"`
	Recent       *float64           `json:"recent"`
	FirstAt      *time.Time         `json:"first_at"`
	LastAt       *time.Time         `json:"last_at"`
	People       []store.PathPerson `json:"people" doc:"At most five, most changes first"`
}

func pathInfo(r *store.PathRow) PathInfo {
	p := PathInfo{r.Path, r.Name, r.Folder, r.Files, r.Mode, r.Size, r.Language, r.Role, r.RoleEvidence, r.Depth, r.DepthReason, r.IsBinary,
		r.Lines, r.Code, r.Comment, r.Blank, r.Tagged, r.Starts, r.Commits, r.LinesAdded, r.LinesDeleted, r.Recent, r.FirstAt, r.LastAt, []store.PathPerson{}}
	_ = json.Unmarshal(r.People, &p.People) // written by the store alone
	return p
}

func pathInfos(rows []store.PathRow) []PathInfo {
	out := make([]PathInfo, len(rows))
	for i := range rows {
		out[i] = pathInfo(&rows[i])
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
	at := pathInfo(row)
	info.Folder, info.Children = &at, pathInfos(rows)
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
	return answer(PathMatches{total, pathInfos(rows)}), err
}

// FileInfo is one file with the leads in it.
type FileInfo struct {
	PathInfo
	Leads  []LeadInfo `json:"leads"`
	Commit string     `json:"commit" doc:"The pin"`
}

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
	leads, _, err := s.store.Leads(ctx, v.ID, store.LeadFilter{Path: in.Path, Limit: 500})
	if err != nil {
		return nil, err
	}
	info := FileInfo{PathInfo: pathInfo(row), Leads: []LeadInfo{}, Commit: v.OID}
	for _, l := range leads {
		info.Leads = append(info.Leads, leadInfo(l))
	}
	return answer(info), nil
}

// AtPath names a file at the pin or another commit.
type AtPath struct {
	FilePath
	At string `query:"at" maxLength:"300" doc:"A commit id, tag or branch; left out: the pin"`
}

// found is a file's blob at a commit.
type found struct {
	commit, blob string
	language     *lang.Language
	row          *store.PathRow // nil: not surveyed at this commit
}

// find looks a file up: in the survey at that commit where there is one, else
// in git.
func (s *Server) find(ctx context.Context, w *who, in *AtPath) (*found, error) {
	f := &found{commit: w.repository.Pin}
	if in.At != "" && in.At != f.commit {
		commit, err := s.jobs.Git(w.repository.ID).Resolve(ctx, in.At)
		if err != nil {
			return nil, err
		}
		f.commit = commit
	}
	if f.commit == "" {
		return nil, problem(http.StatusConflict, "no-pin", "choose a pin first")
	}
	if v, err := s.store.SurveyAt(ctx, w.repository.ID, f.commit); err == nil {
		row, err := s.store.PathAt(ctx, v.ID, in.Path)
		if err == nil && !row.Folder && row.Mode != "submodule" {
			f.blob, f.language, f.row = row.Blob, all.ByName(row.Language), row
			return f, nil
		}
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, err
		}
	} else if !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	if strings.Contains(in.Path, "\x00") {
		return nil, store.ErrNotFound
	}
	blob, err := s.readers.blobAt(ctx, w.repository.ID, f.commit, in.Path)
	if err != nil {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return nil, problem(http.StatusNotFound, "not-found", fmt.Sprintf("%s is not in commit %.10s", in.Path, f.commit))
	}
	f.blob, f.language = blob, all.OfPath(in.Path)
	return f, nil
}

// How much of a file is sent.
const (
	maxShown     = 32 << 20 // bytes of a file that is shown at all
	maxLineShown = 2000     // characters of one line
	maxLines     = 2000     // lines of one answer
)

// Line is one line of a file.
type Line struct {
	Text    string `json:"text"`
	Clipped int    `json:"clipped,omitempty" doc:"Characters left out at the line's end"`
}

// LinesInfo is a range of a file's lines.
type LinesInfo struct {
	Commit   string `json:"commit"`
	Path     string `json:"path"`
	Surveyed bool   `json:"surveyed" doc:"Whether this commit is surveyed"`
	Total    int    `json:"total" doc:"Lines of the whole file"`
	From     int    `json:"from" doc:"Number of the first line, from 1"`
	Lines    []Line `json:"lines"`
	Unshown  string `json:"unshown" doc:"Why no lines are shown; empty: they are"`
	Invalid  bool   `json:"invalid" doc:"Bytes that are not UTF-8 are shown as ?"`
}

func (s *Server) lines(ctx context.Context, w *who, in *struct {
	AtPath
	From int `query:"from" minimum:"1" default:"1"`
	To   int `query:"to" minimum:"1" default:"500"`
}) (*body[LinesInfo], error) {
	f, err := s.find(ctx, w, &in.AtPath)
	if err != nil {
		return nil, err
	}
	info := LinesInfo{Commit: f.commit, Path: in.Path, Surveyed: f.row != nil, From: in.From, Lines: []Line{}}
	content, err := s.readers.read(w.repository.ID, f.blob, maxShown)
	var large *repo.TooLargeError
	if errors.As(err, &large) {
		info.Unshown = fmt.Sprintf("The file has %d MB; files over %d MB are not shown.", large.Size>>20, maxShown>>20)
		return answer(info), nil
	}
	if err != nil {
		return nil, err
	}
	if bytes.IndexByte(content[:min(len(content), 8000)], 0) >= 0 {
		info.Unshown = "The file is binary."
		return answer(info), nil
	}
	info.Total = facts.CountLines(content)
	info.Invalid = !utf8.Valid(content)
	to := min(in.To, info.Total, in.From+maxLines-1)
	for _, l := range cut(content, in.From, to) {
		info.Lines = append(info.Lines, clip(lang.ValidText(l)))
	}
	return answer(info), nil
}

// cut returns lines from..to (from 1, both included), without their ends.
func cut(content []byte, from, to int) [][]byte {
	var out [][]byte
	for n := 1; n <= to && len(content) > 0; n++ {
		line, rest, _ := bytes.Cut(content, []byte{'\n'})
		if n >= from {
			out = append(out, bytes.TrimSuffix(line, []byte{'\r'}))
		}
		content = rest
	}
	return out
}

func clip(s string) Line {
	if len(s) <= maxLineShown {
		return Line{Text: s}
	}
	r := []rune(s)
	if len(r) <= maxLineShown {
		return Line{Text: s}
	}
	return Line{Text: string(r[:maxLineShown]), Clipped: len(r) - maxLineShown}
}

// TokensInfo tells the pieces of a range of lines.
type TokensInfo struct {
	Classes []string `json:"classes" doc:"Names of the classes"`
	From    int      `json:"from"`
	Lines   [][]int  `json:"lines" doc:"For each line: length (UTF-16 units) and class of each piece, one after the other"`
	Reason  string   `json:"reason" doc:"Why there are none; empty: there are"`
}

// coloured keeps the pieces of the files looked at last.
var coloured = func() *lru.Cache[string, [][]highlight.Piece] {
	c, err := lru.New[string, [][]highlight.Piece](200)
	if err != nil {
		panic(err) // the size is a constant above zero
	}
	return c
}()

func (s *Server) tokens(ctx context.Context, w *who, in *struct {
	AtPath
	From int `query:"from" minimum:"1" default:"1"`
	To   int `query:"to" minimum:"1" default:"500"`
}) (*body[TokensInfo], error) {
	f, err := s.find(ctx, w, &in.AtPath)
	if err != nil {
		return nil, err
	}
	info := TokensInfo{Classes: highlight.Names, From: in.From, Lines: [][]int{}}
	if f.language == nil {
		info.Reason = "no language recognised"
		return answer(info), nil
	}
	key := f.blob + " " + f.language.Name
	lines, ok := coloured.Get(key)
	if !ok {
		content, err := s.readers.read(w.repository.ID, f.blob, highlight.MaxSize)
		var large *repo.TooLargeError
		if errors.As(err, &large) {
			info.Reason = fmt.Sprintf("files over %d MB are not coloured", highlight.MaxSize>>20)
			return answer(info), nil
		}
		if err != nil {
			return nil, err
		}
		if lines, ok = highlight.Lines(ctx, f.language, content); !ok {
			info.Reason = "no colours for " + f.language.Name
			return answer(info), nil
		}
		coloured.Add(key, lines)
	}
	for n := in.From; n <= min(in.To, len(lines), in.From+maxLines-1); n++ {
		info.Lines = append(info.Lines, flat(lines[n-1]))
	}
	return answer(info), nil
}

// flat clips a line's pieces as its text is clipped.
func flat(pieces []highlight.Piece) []int {
	out := make([]int, 0, 2*len(pieces))
	left := maxLineShown
	for _, p := range pieces {
		if left <= 0 {
			break
		}
		n := min(p.Length, left)
		out = append(out, n, int(p.Class))
		left -= n
	}
	return out
}

// Readme is a readme as safe HTML.
type Readme struct {
	Path string `json:"path"`
	HTML string `json:"html"`
}

const maxReadme = 1 << 20

func (s *Server) readme(ctx context.Context, w *who, in *FilePath) (*body[Readme], error) {
	f, err := s.find(ctx, w, &AtPath{FilePath: *in})
	if err != nil {
		return nil, err
	}
	content, err := s.readers.read(w.repository.ID, f.blob, maxReadme)
	if err != nil {
		return nil, err
	}
	return answer(Readme{in.Path, renderReadme(w.repository.ID, in.Path, content)}), nil
}

// pictureTypes are the kinds of pictures that are sent, by extension.
var pictureTypes = map[string]string{".png": "image/png", ".jpg": "image/jpeg", ".jpeg": "image/jpeg", ".gif": "image/gif", ".webp": "image/webp", ".svg": "image/svg+xml", ".ico": "image/x-icon", ".bmp": "image/bmp", ".avif": "image/avif"}

const maxPicture = 16 << 20

type pictureAnswer struct {
	ContentType string `header:"Content-Type"`
	Policy      string `header:"Content-Security-Policy"`
	Cache       string `header:"Cache-Control"`
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
	return &pictureAnswer{kind, "default-src 'none'; style-src 'unsafe-inline'; sandbox", "private, max-age=300", content}, nil
}
