package server

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"net/http"
	"path"
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/reach"
	"juxtagram/core/skim"
	"juxtagram/core/summary"
	"juxtagram/store"
)

func (s *Server) extractRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/extract", Read, "A symbol with everything of this repository that it needs", s.extract, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/extract/archive", Read, "The same as a zip archive with its paths", s.extractArchive),
	}
}

// ExtractQuery names a symbol by a place, and how much of what it needs.
type ExtractQuery struct {
	FilePath
	Line   int `query:"line" required:"true" minimum:"1" doc:"Of a name"`
	Column int `query:"column" minimum:"0" doc:"In bytes, from 0"`
	Depth  int `query:"depth" minimum:"0" maximum:"100" doc:"Of needs; 0: to the end"`
	Lines  int `query:"lines" minimum:"1" maximum:"20000" default:"1500" doc:"Of all pieces"`
}

// ExtractInfo is a symbol with what it needs.
type ExtractInfo struct {
	Commit     string          `json:"commit"`
	Name       string          `json:"name"`
	Lines      int             `json:"lines" doc:"Of all pieces, comments above them aside"`
	Pieces     []PieceInfo     `json:"pieces" doc:"The symbol first, then what it names, then what these name"`
	Elsewhere  []ElsewhereInfo `json:"elsewhere" doc:"What comes from outside of this repository"`
	Unresolved []string        `json:"unresolved" doc:"Names of which nothing is known but the name"`
	Left       []LeftInfo      `json:"left" doc:"What the limits left out, at most 500"`
	LeftTotal  int             `json:"left_total"`
}

// PieceInfo is one symbol of an extract.
type PieceInfo struct {
	Path      string `json:"path"`
	Language  string `json:"language"`
	Qualified string `json:"qualified"`
	Kind      string `json:"kind"`
	From      int    `json:"from" doc:"First line: of the comment above it, where there is one"`
	To        int    `json:"to"`
	Text      string `json:"text"`
	Depth     int    `json:"depth" doc:"0: what was asked for"`
	By        int    `json:"by" doc:"Index of the piece that names it first; -1: none does"`
	Line      int    `json:"line" doc:"Where that names it"`
	Certainty string `json:"certainty" enum:"scope,imported,typed,name"`
}

// ElsewhereInfo is a module outside of the repository.
type ElsewhereInfo struct {
	Origin  OriginInfo `json:"origin"`
	Through string     `json:"through" doc:"The module as written"`
	Names   []string   `json:"names"`
}

// LeftInfo is a symbol that was left out.
type LeftInfo struct {
	Path      string `json:"path"`
	Qualified string `json:"qualified"`
	Lines     int    `json:"lines"`
}

const maxLeft = 500

func (s *Server) extract(ctx context.Context, w *who, in *ExtractQuery) (*body[ExtractInfo], error) {
	info, err := s.extractInfo(ctx, w, in)
	if err != nil {
		return nil, err
	}
	return answer(*info), nil
}

// extractInfo takes the symbol out that the name at a place means.
func (s *Server) extractInfo(ctx context.Context, w *who, in *ExtractQuery) (*ExtractInfo, error) {
	whole, v, a, err := s.nameAt(ctx, w, in.Path, in.Line, in.Column)
	if err != nil {
		return nil, err
	}
	if a == nil || len(a.Definitions) == 0 || a.Definitions[0].Symbol < 0 {
		return nil, problem(http.StatusNotFound, "no-symbol", fmt.Sprintf("at %s:%d stands no name of a symbol that this repository makes", in.Path, in.Line))
	}
	d := a.Definitions[0]
	x, err := reach.Of(whole.Names, d.File, d.Symbol, reach.Limits{Depth: in.Depth, Lines: in.Lines})
	if err != nil {
		return nil, err
	}
	info := &ExtractInfo{Commit: v.OID, Lines: x.Lines, Pieces: []PieceInfo{}, Elsewhere: []ElsewhereInfo{}, Unresolved: []string{}, Left: []LeftInfo{}, LeftTotal: len(x.Left)}
	texts := map[int]*pieceText{}
	for i := range x.Pieces {
		p := &x.Pieces[i]
		if texts[p.File] == nil {
			if texts[p.File], err = s.pieceText(ctx, w, whole, p.File); err != nil {
				return nil, err
			}
		}
		t := texts[p.File]
		from := skim.Above(t.text, t.details, p.Start)
		info.Pieces = append(info.Pieces, PieceInfo{whole.Files[p.File].Path, whole.Files[p.File].Language, valid(p.Qualified), string(p.Kind), from, p.End,
			strings.Join(t.lines[from-1:min(p.End, len(t.lines))], "\n"), p.Depth, p.By, p.Line, string(p.Certainty)})
	}
	info.Name = info.Pieces[0].Qualified
	for _, e := range x.Elsewhere {
		out := ElsewhereInfo{*originInfo(whole, &e.Origin), valid(e.Through), []string{}}
		for _, n := range e.Names {
			out.Names = append(out.Names, valid(n))
		}
		info.Elsewhere = append(info.Elsewhere, out)
	}
	for _, n := range x.Unresolved {
		info.Unresolved = append(info.Unresolved, valid(n))
	}
	for _, l := range x.Left[:min(len(x.Left), maxLeft)] {
		info.Left = append(info.Left, LeftInfo{whole.Files[l.File].Path, valid(l.Qualified), l.Lines})
	}
	return info, nil
}

// pieceText is the text of a file that pieces are cut from.
type pieceText struct {
	text    string
	lines   []string
	details *facts.Details
}

func (s *Server) pieceText(ctx context.Context, w *who, whole *summary.Whole, file int) (*pieceText, error) {
	raw, err := s.readers.read(w.repository.ID, whole.Files[file].Blob, facts.MaxRead)
	if err != nil {
		return nil, err
	}
	raw, _ = facts.Text(raw)
	t := &pieceText{text: lang.ValidText(raw)}
	t.lines = strings.Split(strings.ReplaceAll(t.text, "\r\n", "\n"), "\n")
	told, err := s.store.FactsOf(ctx, whole.Files[file].Blob, whole.Files[file].Language)
	if err != nil {
		return nil, err
	}
	if told == nil {
		return nil, store.ErrNotFound
	}
	t.details, err = facts.Unpack(told.Packed)
	return t, err
}

type archiveAnswer struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// extractArchive packs an extract: each file with its pieces in the order of
// their lines, and a list of all of them.
func (s *Server) extractArchive(ctx context.Context, w *who, in *ExtractQuery) (*archiveAnswer, error) {
	info, err := s.extractInfo(ctx, w, in)
	if err != nil {
		return nil, err
	}
	files := map[string][]PieceInfo{}
	for _, p := range info.Pieces {
		files[p.Path] = append(files[p.Path], p)
	}
	names := make([]string, 0, len(files))
	for p := range files {
		names = append(names, p)
	}
	sort.Strings(names)
	var out bytes.Buffer
	archive := zip.NewWriter(&out)
	put := func(name, text string) error {
		f, err := archive.Create(name)
		if err == nil {
			_, err = f.Write([]byte(text))
		}
		return err
	}
	if err := put("EXTRACT.md", contents(info)); err != nil {
		return nil, err
	}
	for _, name := range names {
		pieces := files[name]
		sort.SliceStable(pieces, func(i, j int) bool { return pieces[i].From < pieces[j].From })
		var text strings.Builder
		for i, p := range pieces {
			if i > 0 {
				text.WriteString("\n")
			}
			text.WriteString(p.Text + "\n")
		}
		if err := put(inside(name), text.String()); err != nil {
			return nil, err
		}
	}
	if err := archive.Close(); err != nil {
		return nil, err
	}
	return &archiveAnswer{"application/zip", `attachment; filename="extract.zip"`, out.Bytes()}, nil
}

// inside is a path that stays inside the folder an archive is unpacked into, and
// is none of the archive's own.
func inside(p string) string {
	clean := strings.TrimLeft(path.Clean("/"+strings.ReplaceAll(p, "\\", "_")), "/")
	clean = strings.ReplaceAll(clean, ":", "_")
	if strings.EqualFold(clean, "EXTRACT.md") {
		return "_" + clean
	}
	return clean
}

// contents lists what an extract holds, as Markdown.
func contents(info *ExtractInfo) string {
	var b strings.Builder
	fmt.Fprintf(&b, "# Extract of %s\n\nAt commit %s: %d pieces, %d lines.\n\n", info.Name, info.Commit, len(info.Pieces), info.Lines)
	for _, p := range info.Pieces {
		fmt.Fprintf(&b, "- `%s` %s:%d-%d", p.Qualified, p.Path, p.From, p.To)
		if p.By >= 0 {
			fmt.Fprintf(&b, ", named by `%s` in line %d", info.Pieces[p.By].Qualified, p.Line)
		}
		b.WriteString("\n")
	}
	if len(info.Elsewhere) > 0 {
		b.WriteString("\n## From elsewhere\n\n")
	}
	for _, e := range info.Elsewhere {
		fmt.Fprintf(&b, "- %s %s: %s\n", strings.ReplaceAll(e.Origin.To, "-", " "), strings.TrimSpace(e.Origin.Name+" "+e.Origin.Version), strings.Join(e.Names, ", "))
	}
	if len(info.Unresolved) > 0 {
		fmt.Fprintf(&b, "\n## Not resolved\n\n%s\n", strings.Join(info.Unresolved, ", "))
	}
	if info.LeftTotal > 0 {
		fmt.Fprintf(&b, "\n## Left out by the limits: %d\n\n", info.LeftTotal)
		for _, l := range info.Left {
			fmt.Fprintf(&b, "- `%s` %s, %d lines\n", l.Qualified, l.Path, l.Lines)
		}
	}
	return b.String()
}
