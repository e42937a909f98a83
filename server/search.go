package server

import (
	"context"
	"encoding/json"
	"net/http"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/find"
	"juxtagram/core/lang"
	"juxtagram/core/repo"
	"juxtagram/core/summary"
)

func (s *Server) searchRoutes() []route {
	return []route{
		s.searchRoute(),
		handle(s, "GET", "/api/repositories/{repository}/referrers", Read, "Who refers to a file by its path or name", s.referrers),
	}
}

func (s *Server) searchRoute() route {
	return streamed[SearchLine](handle(s, "GET", "/api/repositories/{repository}/search", Read, "Lines at the pin that hold a text, as they are found: one JSON document a line", s.search), "SearchLine")
}

// SearchLine is one document of a search's answer: a line that holds the text,
// or the end.
type SearchLine struct {
	Path   string     `json:"path,omitempty"`
	Line   int        `json:"line,omitempty"`
	Column int        `json:"column,omitempty" doc:"Bytes before the place, from 0"`
	Text   string     `json:"text,omitempty" doc:"The line, cut around the place"`
	End    *SearchEnd `json:"end,omitempty"`
}

// SearchEnd closes a search's answer.
type SearchEnd struct {
	Lines  int    `json:"lines"`
	Files  int    `json:"files"`
	More   bool   `json:"more" doc:"The limit of lines was reached; there may be others"`
	Commit string `json:"commit"`
	Fault  string `json:"fault,omitempty" doc:"Why it ended early"`
}

// How much a search tells.
const (
	maxFound      = 2000 // lines
	maxSearchTime = 30 * time.Second
	maxSnippet    = 240 // characters of a line
)

func (s *Server) search(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Text   string `query:"text" required:"true" minLength:"1" maxLength:"300"`
	Folder string `query:"folder" maxLength:"5000" doc:"Only below this folder"`
	Case   bool   `query:"case" doc:"Capitals count"`
}) (*huma.StreamResponse, error) {
	if strings.ContainsAny(in.Text, "\x00\n") {
		return nil, problem(http.StatusUnprocessableEntity, "no-text", "a search is for text on one line")
	}
	commit := w.repository.Pin
	if commit == "" {
		return nil, problem(http.StatusConflict, "no-pin", "choose a pin first")
	}
	git := s.jobs.Git(w.repository.ID)
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		hc.SetHeader("Content-Type", "application/x-ndjson")
		hc.SetHeader("Cache-Control", "no-store")
		out := json.NewEncoder(hc.BodyWriter())
		flusher, _ := hc.BodyWriter().(http.Flusher)
		ctx, cancel := context.WithTimeout(hc.Context(), maxSearchTime)
		defer cancel()
		end := SearchEnd{Commit: commit}
		last, flushed := "", time.Now()
		err := git.Grep(ctx, commit, []string{in.Text}, repo.GrepOptions{IgnoreCase: !in.Case, Below: strings.Trim(in.Folder, "/")}, func(l repo.Line) bool {
			if end.Lines == maxFound {
				end.More = true
				return false
			}
			end.Lines++
			if l.Path != last {
				last = l.Path
				end.Files++
			}
			path, _ := repo.EscapePath(l.Path)
			if out.Encode(SearchLine{Path: path, Line: l.Number, Column: l.Column, Text: snippet(l)}) != nil {
				return false // nobody reads on
			}
			if flusher != nil && (end.Lines < 50 || time.Since(flushed) > 50*time.Millisecond) {
				flusher.Flush()
				flushed = time.Now()
			}
			return true
		})
		switch {
		case ctx.Err() == context.DeadlineExceeded:
			end.Fault, end.More = "it took longer than 30 seconds", true
		case err != nil && ctx.Err() == nil:
			end.Fault = "git could not search: " + err.Error()
		}
		_ = out.Encode(SearchLine{End: &end}) // whoever has gone does not need it
	}}, nil
}

// snippet is the part of a line around the place that was found.
func snippet(l repo.Line) string {
	line, column := l.Text, l.Column-l.Skipped
	from := 0
	if column > maxSnippet/2 {
		for from = column - maxSnippet/4; from < len(line) && !utf8.RuneStart(line[from]); from++ {
		}
	}
	text := []rune(lang.ValidText(line[min(from, len(line)):]))
	out := strings.TrimLeft(string(text[:min(len(text), maxSnippet)]), " \t")
	if from > 0 || l.Skipped > 0 {
		out = "…" + out
	}
	if len(text) > maxSnippet {
		out += "…"
	}
	return out
}

// ReferrersInfo are the places that refer to a file.
type ReferrersInfo struct {
	Commit string     `json:"commit"`
	By     []Referrer `json:"by" doc:"At most 200, by its path before by its name alone"`
	Asked  []string   `json:"asked" doc:"The texts that were looked for"`
	More   bool       `json:"more" doc:"There are others"`
}

// Referrer is one place.
type Referrer struct {
	Path  string     `json:"path"`
	Line  int        `json:"line"`
	Text  string     `json:"text"`
	How   string     `json:"how" enum:"path,name,stem" doc:"By its path, by its name, by its name without extension"`
	Alias string     `json:"alias" doc:"What the place calls it; empty: nothing"`
	Uses  []AliasUse `json:"uses" doc:"Where that alias is used, at most 20"`
	More  bool       `json:"more" doc:"It may be used in further places, which are not told"`
}

// AliasUse is a line that names an alias.
type AliasUse struct {
	Path string `json:"path"`
	Line int    `json:"line"`
}

// How many referrers are told, and how many uses of an alias.
const (
	maxReferrers = 200
	maxAliasUses = 20
)

func (s *Server) referrers(ctx context.Context, w *who, in *AtPath) (*body[ReferrersInfo], error) {
	f, err := s.find(ctx, w, in)
	if err != nil {
		return nil, err
	}
	info := ReferrersInfo{Commit: f.commit, By: []Referrer{}, Asked: find.Texts(in.Path)}
	var found []Referrer
	err = s.jobs.Git(w.repository.ID).Grep(ctx, f.commit, info.Asked, repo.GrepOptions{}, func(l repo.Line) bool {
		path, _ := repo.EscapePath(l.Path)
		if how := find.Refers(string(l.Text), path, in.Path); how != "" && path != in.Path {
			found = append(found, Referrer{Path: path, Line: l.Number, Text: snippet(l), How: string(how), Uses: []AliasUse{}})
		}
		return len(found) < 4*maxReferrers
	})
	if err != nil {
		return nil, err
	}
	for _, how := range []find.How{find.ByPath, find.ByName, find.ByStem} {
		for _, r := range found {
			if r.How == string(how) {
				info.By = append(info.By, r)
			}
		}
	}
	info.More = len(info.By) > maxReferrers
	info.By = info.By[:min(len(info.By), maxReferrers)]
	if f.commit != w.repository.Pin {
		return answer(info), nil
	}
	if whole, _ := s.wholeNow(ctx, w, in.Path); whole != nil {
		for i := range info.By {
			if err := aliasOf(whole, &info.By[i]); err != nil {
				return nil, err
			}
		}
	}
	return answer(info), nil
}

// aliasOf tells what the place that refers to a file calls it, and where that
// name is used.
func aliasOf(whole *summary.Whole, r *Referrer) error {
	file := whole.Find(r.Path)
	if file < 0 {
		return nil
	}
	symbol, err := whole.Names.ValueOn(file, r.Line)
	if err != nil || symbol < 0 {
		return err
	}
	made, err := whole.Names.Symbol(file, symbol)
	if err != nil || made == nil {
		return err
	}
	r.Alias = valid(made.Qualified)
	page, err := whole.Names.Uses(file, symbol, 0, maxAliasUses)
	if err != nil {
		return err
	}
	r.More = page.Next > 0
	for _, in := range page.Files {
		for _, site := range in.Sites {
			if len(r.Uses) == maxAliasUses {
				r.More = true
				return nil
			}
			r.Uses = append(r.Uses, AliasUse{whole.Files[in.File].Path, site.Line})
		}
	}
	return nil
}
