package bench

import (
	"fmt"
	"math/rand"
	"net/url"
	"testing"
	"time"

	"juxtagram/core/place"
	"juxtagram/store"
)

// BenchmarkLooseEnds: the tagged comments of a whole repository listed and
// grouped anew, and threads narrowed by their facts, as the server answers.
func BenchmarkLooseEnds(b *testing.B) {
	size := sizes()[1]
	b.Run(fmt.Sprintf("files=%d/threads=20000", size[0]), func(b *testing.B) {
		h := opened(b, generated(b, size))
		at := fmt.Sprintf("/api/repositories/%d", h.id)
		for b.Loop() {
			b.ReportMetric(ms(h.ask("GET", at+"/tagged", "")), "ms-tagged-cold")
			report(b, h, "tagged", func(n int) string { return fmt.Sprintf("%s/tagged?offset=%d", at, n*200) })
			groups := []string{"word", "folder", "file", "person", "age", "owner", "symbol", "state"}
			report(b, h, "regrouped", func(n int) string { return at + "/tagged?by=" + groups[n%len(groups)] })
			report(b, h, "narrowed", func(n int) string {
				return at + "/tagged?word=TODO&age=older&text=" + url.QueryEscape(string(rune('a'+n)))
			})
			written(b, h, 20_000)
			b.ReportMetric(ms(h.ask("GET", at+"/notes", "")), "ms-notes-cold")
			report(b, h, "notes", func(n int) string { return fmt.Sprintf("%s/notes?offset=%d", at, n*50) })
			report(b, h, "notes-narrowed", func(n int) string { return fmt.Sprintf("%s/notes?tag=t%d&state=open&text=note", at, n) })
		}
	})
}

// written writes threads on files of the repository, at the pin.
func written(b *testing.B, h *house, most int) {
	b.Helper()
	r := rand.New(rand.NewSource(8))
	p, err := h.store.Repository(ctx, h.id)
	if err != nil {
		b.Fatal(err)
	}
	v, err := h.store.SurveyAt(ctx, h.id, p.Pin)
	if err != nil {
		b.Fatal(err)
	}
	rows, _, err := h.store.MatchPaths(ctx, v.ID, "", 5000)
	if err != nil || len(rows) == 0 {
		b.Fatal("no paths", err)
	}
	var threads []store.Imported
	for n := range most {
		f := rows[r.Intn(len(rows))]
		line := 1 + r.Intn(40)
		threads = append(threads, store.Imported{First: store.Annotation{UID: fmt.Sprintf("bench-%d-%d", time.Now().UnixNano(), n), AuthorName: fmt.Sprintf("Person %d", r.Intn(40)), Kind: "note", State: "open", Rev: 1,
			Body: fmt.Sprintf("A note on line %d, number %d. #t%d", line, n, r.Intn(60)), Tags: []string{fmt.Sprintf("t%d", r.Intn(60))}, CreatedAt: time.Now(),
			Target: &store.NoteTarget{Kind: store.OnLines, Commit: p.Pin, Path: f.Path, Start: line, End: line, Quote: place.Quote{Exact: "x"}}}})
	}
	if _, err := h.store.ImportThreads(ctx, h.id, threads); err != nil {
		b.Fatal(err)
	}
}
