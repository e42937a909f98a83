package server

import (
	"context"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"net/http"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/gitlog"
	"juxtagram/core/repo"
)

// OfferInfo is a term that a typed text may mean.
type OfferInfo struct {
	Key    string `json:"key"`
	Value  string `json:"value"`
	Says   string `json:"says" doc:"With %s for the value"`
	Fits   int    `json:"fits" doc:"Commits that would be left with it; -1: found by reading the changes"`
	Detail string `json:"detail" doc:"What to know of the value; empty: nothing"`
}

// How many values of a key are offered, and in all.
const (
	offersOfKey = 6
	maxOffers   = 24
)

func (s *Server) logOffers(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Terms
	Text string `query:"text" maxLength:"300" doc:"What is typed so far; empty: what there is"`
	Key  string `query:"key" maxLength:"30" doc:"Only values of this key"`
}) (*body[[]OfferInfo], error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	text := strings.TrimSpace(in.Text)
	out := []OfferInfo{}
	add := func(key, value, detail string) {
		if in.Key != "" && in.Key != key || slices.Contains(in.Keep, key+":"+value) {
			return
		}
		k := gitlog.KeyOf(key)
		o := OfferInfo{Key: key, Value: value, Says: k.Says, Fits: -1, Detail: detail}
		if !k.Slow {
			sel, problems := s.narrowed(ctx, w, l, append(in.terms(), gitlog.Term{Key: key, Value: value}))
			if problems != nil || len(sel.Commits) == 0 {
				return // nothing is offered that leads to nothing
			}
			o.Fits = len(sel.Commits)
		}
		out = append(out, o)
	}
	small := strings.ToLower(text)
	if !w.repository.PeopleHidden {
		s.offerPeople(l, small, add)
	}
	n := map[string]int{}
	for _, r := range l.Refs {
		if n[r.Kind] < offersOfKey && strings.Contains(strings.ToLower(r.Name), small) {
			n[r.Kind]++
			add(r.Kind, r.Name, "")
		}
	}
	offerDates(l, text, add)
	if text == "" || strings.HasPrefix("merges", small) {
		add("is", "merge", "")
	}
	if text != "" {
		for _, p := range l.PathsLike(text, offersOfKey) {
			add("path", p, "")
		}
		if _, err := strconv.Atoi(strings.Trim(text, "-")); err == nil {
			add("lines-changed", text, "lines added and taken away")
			add("files-changed", text, "files")
		}
		add("message", text, "")
		add("lines", text, "the changes themselves are read; hits come as they are found")
		if len(out) < maxOffers && (in.Key == "" || in.Key == "symbol") && len(text) >= 2 {
			s.offerSymbols(ctx, w, text, add)
		}
	}
	return answer(out[:min(len(out), maxOffers)]), nil
}

func (s *Server) offerPeople(l *heldLog, text string, add func(key, value, detail string)) {
	n := 0
	for i := range l.People.List {
		p := &l.People.List[i]
		if n == offersOfKey {
			return
		}
		if strings.Contains(strings.ToLower(p.Name), text) || (text != "" && strings.Contains(strings.ToLower(p.Email), text)) {
			n++
			add("by", p.Name, "")
		}
	}
}

// offerDates offers a date that is typed, or, of nothing, the last years.
func offerDates(l *heldLog, text string, add func(key, value, detail string)) {
	if text == "" {
		if l.Pin >= 0 {
			year := time.Unix(l.Times[l.Pin], 0).UTC().Year()
			add("from", strconv.Itoa(year), "")
			add("to", strconv.Itoa(year-1), "")
		}
		return
	}
	if _, _, err := gitlog.Span(text); err == nil {
		add("from", text, "")
		add("to", text, "")
	}
}

// offerSymbols offers names of the pin; how many commits touched one is found
// when it is chosen.
func (s *Server) offerSymbols(ctx context.Context, w *who, text string, add func(key, value, detail string)) {
	whole, _ := s.wholeNow(ctx, w, "")
	if whole == nil {
		return
	}
	files, symbols, err := whole.Names.Called(text, offersOfKey)
	if err != nil {
		return
	}
	for n, f := range files {
		if x, err := whole.Names.Symbol(f, symbols[n]); err == nil && x != nil {
			add("symbol", whole.Files[f].Path+"#"+valid(x.Qualified), "its lines at the pin, followed back")
		}
	}
}

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
				if w.repository.PeopleHidden {
					row.Person = ""
				}
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

// LogExport is the log as a document.
type LogExport struct {
	Commits []LogExported `json:"commits" doc:"Newest first"`
}

// LogExported is one commit of it.
type LogExported struct {
	ID        string   `json:"id"`
	Parents   []string `json:"parents"`
	Author    string   `json:"author,omitempty" doc:"Joined; left out where people are not told"`
	Authored  string   `json:"authored"`
	Committed string   `json:"committed"`
	Subject   string   `json:"subject"`
	Refs      []string `json:"refs"`
	Files     int32    `json:"files"`
	Added     int32    `json:"added" doc:"-1: not counted"`
	Deleted   int32    `json:"deleted"`
}

func (s *Server) logExportRoute() route {
	return handle(s, "GET", "/api/repositories/{repository}/log/table", Read, "Every commit that fits, as CSV or JSON", s.logExport)
}

func (s *Server) logExport(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Terms
	Format string `query:"format" enum:"csv,json" default:"csv"`
}) (*huma.StreamResponse, error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	for _, t := range in.terms() {
		if k := gitlog.KeyOf(t.Key); k != nil && k.Slow {
			return nil, problem(http.StatusUnprocessableEntity, "not-understood", "words in changed lines are found by log/changed-lines, which is a document a line already")
		}
	}
	sel, problems := s.narrowed(ctx, w, l, in.terms())
	if problems != nil {
		return nil, problem(http.StatusUnprocessableEntity, "not-understood", problems[0].Why)
	}
	return table(w.repository.Name+"-log", in.Format, LogExport{l.exported(sel.Commits, w.repository.PeopleHidden)}, func(e LogExport) [][]string {
		head := []string{"id", "parents", "author", "authored", "committed", "subject", "refs", "files", "added", "deleted"}
		rows := [][]string{head}
		for _, c := range e.Commits {
			rows = append(rows, []string{c.ID, strings.Join(c.Parents, " "), c.Author, c.Authored, c.Committed, c.Subject, strings.Join(c.Refs, " "), number(c.Files), number(c.Added), number(c.Deleted)})
		}
		return rows
	}), nil
}

func number(n int32) string {
	if n < 0 {
		return ""
	}
	return strconv.Itoa(int(n))
}

func (l *heldLog) exported(commits []int32, hidden bool) []LogExported {
	out := make([]LogExported, 0, len(commits))
	at := func(unix int64) string { return time.Unix(unix, 0).UTC().Format(time.RFC3339) }
	for _, i := range commits {
		e := LogExported{ID: l.IDs[i], Parents: []string{}, Authored: at(l.AuthorTimes[i]), Committed: at(l.Times[i]), Subject: l.Subjects[i], Refs: []string{}, Files: l.Files[i], Added: l.Added[i], Deleted: l.Deleted[i]}
		if !hidden {
			e.Author = l.People.List[l.Authors[i]].Name
		}
		for _, p := range l.Parents(i) {
			if p >= 0 {
				e.Parents = append(e.Parents, l.IDs[p])
			}
		}
		for _, r := range l.RefsAt(i) {
			e.Refs = append(e.Refs, r.Name)
		}
		out = append(out, e)
	}
	return out
}

// table answers with a document as a file, in either form. CSV cells that a
// spreadsheet would take for a formula are told apart by an apostrophe.
func table[T any](name, format string, document T, rows func(T) [][]string) *huma.StreamResponse {
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		kind := "text/csv; charset=utf-8"
		if format == "json" {
			kind = "application/json"
		}
		hc.SetHeader("Content-Type", kind)
		hc.SetHeader("Content-Disposition", fmt.Sprintf("attachment; filename=%q", plainName(name)+"."+format))
		if format == "json" {
			_ = json.NewEncoder(hc.BodyWriter()).Encode(document)
			return
		}
		out := csv.NewWriter(hc.BodyWriter())
		for _, row := range rows(document) {
			for i := range row {
				if row[i] != "" && strings.ContainsRune("=+-@\t\r", rune(row[i][0])) {
					if _, err := strconv.ParseFloat(row[i], 64); err != nil {
						row[i] = "'" + row[i]
					}
				}
			}
			_ = out.Write(row)
		}
		out.Flush()
	}}
}

func plainName(name string) string {
	return strings.Map(func(r rune) rune {
		if r == '-' || r == '.' || r == '_' || (r >= '0' && r <= '9') || (r >= 'a' && r <= 'z') || (r >= 'A' && r <= 'Z') {
			return r
		}
		return '-'
	}, name)
}
