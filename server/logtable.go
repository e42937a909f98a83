package server

import (
	"context"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/gitlog"
)

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
	return table(w.repository.Name+"-log", in.Format, LogExport{l.exported(sel.Commits)}, func(e LogExport) [][]string {
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

func (l *heldLog) exported(commits []int32) []LogExported {
	out := make([]LogExported, 0, len(commits))
	at := func(unix int64) string { return time.Unix(unix, 0).UTC().Format(time.RFC3339) }
	for _, i := range commits {
		e := LogExported{ID: l.IDs[i], Author: l.person(i), Parents: []string{}, Authored: at(l.AuthorTimes[i]), Committed: at(l.Times[i]), Subject: l.Subjects[i], Refs: []string{}, Files: l.Files[i], Added: l.Added[i], Deleted: l.Deleted[i]}
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
