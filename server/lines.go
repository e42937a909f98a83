package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"unicode/utf8"

	"juxtagram/core/facts"
	"juxtagram/core/highlight"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/repo"
	"juxtagram/core/sandbox"
	"juxtagram/store"
)

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

// isFolder is the answer to who asks for a file and names a folder.
func isFolder(path, commit string) error {
	return problem(http.StatusNotFound, "is-folder", fmt.Sprintf("%s is a folder in commit %.10s", path, commit))
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
		if err == nil && row.Folder {
			return nil, isFolder(in.Path, f.commit)
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
	if raw, escaped := repo.UnescapePath(in.Path, strings.Contains(in.Path, "%")); err != nil && escaped == nil && raw != in.Path {
		blob, err = s.readers.blobAt(ctx, w.repository.ID, f.commit, raw) // a name that is not UTF-8
	}
	if err != nil {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return nil, problem(http.StatusNotFound, "not-found", fmt.Sprintf("%s is not in commit %.10s", in.Path, f.commit))
	}
	if _, err := s.readers.blobs(w.repository.ID).Size(blob); errors.Is(err, repo.ErrNoFile) {
		if entries, err := s.jobs.Git(w.repository.ID).Folder(ctx, f.commit, in.Path); err == nil && len(entries) > 0 {
			return nil, isFolder(in.Path, f.commit)
		}
		return nil, problem(http.StatusNotFound, "not-found", fmt.Sprintf("%s is no file in commit %.10s", in.Path, f.commit))
	} else if err != nil {
		return nil, err
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
	Encoding string `json:"encoding" doc:"That the file is in; empty: UTF-8"`
	Invalid  bool   `json:"invalid" doc:"Bytes that are not UTF-8 are shown as ?"`
}

func (s *Server) lines(ctx context.Context, w *who, in *struct {
	AtPath
	From int `query:"from" minimum:"1" default:"1"`
	To   int `query:"to" minimum:"1" default:"500"`
}) (*body[LinesInfo], error) {
	t, content, err := s.textAt(ctx, w, &in.AtPath)
	if err != nil {
		return nil, err
	}
	info := LinesInfo{t.Commit, t.Path, t.Surveyed, t.Total, in.From, []Line{}, t.Unshown, t.Encoding, t.Invalid}
	to := min(in.To, info.Total, in.From+maxLines-1)
	for _, l := range cut(content, in.From, to) {
		info.Lines = append(info.Lines, clip(lang.ValidText(l)))
	}
	return answer(info), nil
}

// TextInfo is a whole file.
type TextInfo struct {
	Commit   string        `json:"commit"`
	Path     string        `json:"path"`
	Surveyed bool          `json:"surveyed" doc:"Whether this commit is surveyed"`
	Total    int           `json:"total" doc:"Lines of the whole file"`
	Text     string        `json:"text" doc:"All lines, a line feed between them"`
	Clipped  []ClippedLine `json:"clipped" doc:"Lines whose end is left out"`
	Unshown  string        `json:"unshown" doc:"Why no lines are shown; empty: they are"`
	Encoding string        `json:"encoding" doc:"That the file is in; empty: UTF-8"`
	Invalid  bool          `json:"invalid" doc:"Bytes that are not UTF-8 are shown as ?"`
	Size     int64         `json:"size" doc:"Bytes"`
	Kind     string        `json:"kind" doc:"Media type by its first bytes; empty where it was not read"`
}

// ClippedLine is a line whose end is left out.
type ClippedLine struct {
	Line       int `json:"line" doc:"From 1"`
	Characters int `json:"characters" doc:"Left out"`
}

func (s *Server) text(ctx context.Context, w *who, in *AtPath) (*body[TextInfo], error) {
	info, content, err := s.textAt(ctx, w, in)
	if err != nil {
		return nil, err
	}
	var text strings.Builder
	text.Grow(len(content))
	for n := 1; n <= info.Total; n++ {
		line, rest, _ := bytes.Cut(content, []byte{'\n'})
		content = rest
		l := clip(lang.ValidText(bytes.TrimSuffix(line, []byte{'\r'})))
		if l.Clipped > 0 {
			info.Clipped = append(info.Clipped, ClippedLine{n, l.Clipped})
		}
		if n > 1 {
			text.WriteByte('\n')
		}
		text.WriteString(l.Text)
	}
	info.Text = text.String()
	return answer(*info), nil
}

// textAt reads a file as text; where it is none, the info says so.
func (s *Server) textAt(ctx context.Context, w *who, in *AtPath) (*TextInfo, []byte, error) {
	f, err := s.find(ctx, w, in)
	if err != nil {
		return nil, nil, err
	}
	info := &TextInfo{Commit: f.commit, Path: in.Path, Surveyed: f.row != nil, Clipped: []ClippedLine{}}
	content, err := s.readers.read(w.repository.ID, f.blob, maxShown)
	var large *repo.TooLargeError
	if errors.As(err, &large) {
		info.Size = large.Size
		info.Unshown = fmt.Sprintf("The file has %d MB; files over %d MB are not shown.", large.Size>>20, maxShown>>20)
		return info, nil, nil
	}
	if err != nil {
		return nil, nil, err
	}
	info.Size, info.Kind = int64(len(content)), http.DetectContentType(content[:min(len(content), 512)])
	content, info.Encoding = facts.Text(content)
	if bytes.IndexByte(content[:min(len(content), 8000)], 0) >= 0 {
		info.Unshown = "The file is binary."
		return info, nil, nil
	}
	info.Total = facts.CountLines(content)
	info.Invalid = !utf8.Valid(content)
	return info, content, nil
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
	Rough   bool     `json:"rough" doc:"Read from the lines around alone; ask again soon for those of the whole file"`
}

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
	content, err := s.readers.read(w.repository.ID, f.blob, highlight.MaxSize)
	var large *repo.TooLargeError
	if errors.As(err, &large) {
		info.Reason = fmt.Sprintf("files over %d MB are not coloured", highlight.MaxSize>>20)
		return answer(info), nil
	}
	if err != nil {
		return nil, err
	}
	content, _ = facts.Text(content)
	to := min(in.To, in.From+maxLines-1)
	lines, rough, why := s.colours.lines(ctx, f.blob, f.language, content, in.From, to)
	if why != nil {
		info.Reason = noColours(f.language, why)
		return answer(info), ctx.Err()
	}
	info.Rough = rough
	for _, l := range lines {
		info.Lines = append(info.Lines, flat(l))
	}
	return answer(info), nil
}

// noColours says why a text has no colours.
func noColours(l *lang.Language, why error) string {
	if given := (*sandbox.GivenUp)(nil); errors.As(why, &given) {
		return "not coloured: " + given.Reason
	}
	return "no colours for " + l.Name
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
