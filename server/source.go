package server

import (
	"context"

	"juxtagram/core/facts"
	"juxtagram/core/highlight"
	"juxtagram/core/lang"
	"juxtagram/core/skim"
)

// SourceInfo is the source of one symbol.
type SourceInfo struct {
	Commit  string   `json:"commit"`
	Path    string   `json:"path"`
	From    int      `json:"from" doc:"Number of the first line: of the comment above it, where there is one"`
	To      int      `json:"to"`
	Lines   []Line   `json:"lines" doc:"At most 400"`
	Classes []string `json:"classes" doc:"Names of the classes that tokens speak of"`
	Tokens  [][]int  `json:"tokens" doc:"For each line: length (UTF-16 units) and class of each piece; fewer lines where there are no colours"`
	More    int      `json:"more" doc:"Further lines that are not sent"`
}

// maxSource is how many lines of a definition are sent.
const maxSource = 400

func (s *Server) source(ctx context.Context, w *who, in *struct {
	AtPath
	Start int `query:"start" required:"true" minimum:"1" doc:"First line of the symbol"`
	End   int `query:"end" required:"true" minimum:"1" doc:"Its last line"`
}) (*body[SourceInfo], error) {
	info, err := s.sourceOf(ctx, w, &in.AtPath, in.Start, in.End)
	if err != nil {
		return nil, err
	}
	return answer(*info), nil
}

// sourceOf is the source of the symbol that stands on lines start..end.
func (s *Server) sourceOf(ctx context.Context, w *who, at *AtPath, start, end int) (*SourceInfo, error) {
	f, err := s.find(ctx, w, at)
	if err != nil {
		return nil, err
	}
	raw, err := s.readers.read(w.repository.ID, f.blob, facts.MaxRead)
	if err != nil {
		return nil, err
	}
	content, _ := facts.Text(raw)
	told, err := s.factsOf(ctx, w, f)
	if err != nil {
		return nil, err
	}
	details, err := facts.Unpack(told.Packed)
	if err != nil {
		return nil, err
	}
	info := &SourceInfo{Commit: f.commit, Path: at.Path, Lines: []Line{}, Classes: highlight.Names, Tokens: [][]int{}}
	info.From = skim.Above(lang.ValidText(content), details, start)
	info.To = max(start, min(end, facts.CountLines(content)))
	last := min(info.To, info.From+maxSource-1)
	info.More = info.To - last
	for _, l := range cut(content, info.From, last) {
		info.Lines = append(info.Lines, clip(lang.ValidText(l)))
	}
	if f.language != nil {
		pieces, _, _ := s.colours.lines(ctx, f.blob, f.language, content, info.From, last)
		for _, l := range pieces {
			info.Tokens = append(info.Tokens, flat(l))
		}
	}
	return info, nil
}
