package server

import (
	"context"
	"encoding/json"
	"net/http"
	"reflect"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/repo"
)

// ChangedLine is one document of the answer of log/changed-lines: a commit, or
// how far it has got, or the end.
type ChangedLine struct {
	Commit *LogRow     `json:"commit,omitempty"`
	Read   int         `json:"read,omitempty" doc:"Commits read so far"`
	End    *ChangedEnd `json:"end,omitempty"`
}

// ChangedEnd closes the answer.
type ChangedEnd struct {
	Read  int    `json:"read" doc:"Commits whose changes were read"`
	Found int    `json:"found"`
	More  bool   `json:"more" doc:"The limit was reached: not all were read"`
	Fault string `json:"fault,omitempty" doc:"Why it ended early"`
}

const (
	maxChangedFound = 2000
	maxChangedTime  = 3 * time.Minute
)

func (s *Server) changedLinesRoute() route {
	return streamed[ChangedLine](handle(s, "GET", "/api/repositories/{repository}/log/changed-lines", Read,
		"Commits that changed lines with a text, as they are found, newest first: one JSON document a line", s.changedLines), "ChangedLine")
}

// streamed says of a route that it answers line by line, and with what.
func streamed[T any](r route, name string) route {
	register := r.register
	r.register = func(api huma.API) {
		register(api)
		schema := api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[T](), true, name)
		api.OpenAPI().Paths[r.path].Get.Responses["200"] = &huma.Response{Description: "OK", Content: map[string]*huma.MediaType{"application/x-ndjson": {Schema: schema}}}
	}
	return r
}

func (s *Server) changedLines(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Terms
}) (*huma.StreamResponse, error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	var search repo.LineSearch
	for _, t := range in.terms() {
		switch {
		case t.Key == "lines" && t.Value == "":
			return nil, problem(http.StatusUnprocessableEntity, "no-text", "which text the changed lines should have is left open")
		case t.Key == "lines":
			search.Texts = append(search.Texts, repo.LineText{Text: t.Value, Not: t.Not})
		case t.Key == "path" && !t.Not:
			search.Paths = append(search.Paths, rawPath(t.Value))
		}
	}
	sel, problems := s.narrowed(ctx, w, l, in.terms())
	if problems != nil {
		return nil, problem(http.StatusUnprocessableEntity, "not-understood", problems[0].Why)
	}
	git := s.jobs.Git(w.repository.ID)
	var ids []string
	for _, i := range sel.Commits {
		if !l.IsMerge(i) && l.Files[i] > 0 {
			ids = append(ids, l.IDs[i])
		}
	}
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		hc.SetHeader("Content-Type", "application/x-ndjson")
		hc.SetHeader("Cache-Control", "no-store")
		out := json.NewEncoder(hc.BodyWriter())
		flusher, _ := hc.BodyWriter().(http.Flusher)
		ctx, cancel := context.WithTimeout(hc.Context(), maxChangedTime)
		defer cancel()
		end := ChangedEnd{}
		err := git.ChangedLines(ctx, ids, search, func(id string, read int) bool {
			end.Read = read
			line := ChangedLine{Read: read}
			if id != "" {
				if end.Found == maxChangedFound {
					end.More = true
					return false
				}
				end.Found++
				i := l.At(id)
				row := l.row(i, int(i))
				line.Commit = &row
			}
			if out.Encode(line) != nil {
				return false // nobody reads on
			}
			if flusher != nil {
				flusher.Flush()
			}
			return true
		})
		switch {
		case ctx.Err() == context.DeadlineExceeded:
			end.Fault, end.More = "it took longer than three minutes", true
		case err != nil && ctx.Err() == nil:
			end.Fault = "git could not read the changes: " + err.Error()
		}
		_ = out.Encode(ChangedLine{End: &end}) // whoever has gone does not need it
	}}, nil
}

// rawPath is a path as git has it, of one as it is shown.
func rawPath(shown string) string {
	p := strings.Trim(shown, "/")
	if raw, err := repo.UnescapePath(p, strings.Contains(p, "%")); err == nil {
		return raw
	}
	return p
}
