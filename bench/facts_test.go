package bench

import (
	"fmt"
	"runtime"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/reader"
	"juxtagram/core/repo"
)

// BenchmarkFacts: the facts of all blobs, in processes of their own, against a
// bare parse of the same blobs by the same grammars with as many workers, each
// taken four times, in turn: machines that are shared grow faster and slower while they
// run. Only blobs of parsed languages.
func BenchmarkFacts(b *testing.B) {
	for _, size := range sizes() {
		b.Run(fmt.Sprintf("files=%d", size[0]), func(b *testing.B) {
			g := generated(b, size)
			blobs := parsedBlobs(b, g)
			for b.Loop() {
				readers := reader.New(runtime.GOMAXPROCS(0))
				readers.Facts(ctx, "Go", []byte("package a\n")) // started
				var bare, whole float64
				for range turns {
					bare += timed(blobs, func(t text) { _ = t.language.Bare(t.content) })
					whole += timedTogether(blobs, readers)
				}
				readers.Close()
				b.ReportMetric(bare/turns, "s-bare-parse")
				b.ReportMetric(whole/bare, "x-facts/bare")
				b.ReportMetric(float64(len(blobs)), "blobs")
			}
		})
	}
}

const turns = 4

type text struct {
	language *lang.Language
	content  []byte
}

func parsedBlobs(b *testing.B, g *repo.Git) []text {
	b.Helper()
	entries, err := g.Tree(ctx, "main", "")
	if err != nil {
		b.Fatal(err)
	}
	var ids []string
	var out []text
	for _, e := range entries {
		if l := all.OfPath(e.Path); l != nil && l.Syntax != nil {
			ids, out = append(ids, e.Blob), append(out, text{language: l})
		}
	}
	n := 0
	if err := g.EachBlob(ctx, ids, func(_ string, content []byte, _ error) error {
		out[n].content = content
		n++
		return nil
	}); err != nil {
		b.Fatal(err)
	}
	return out
}

// timedTogether takes facts as a survey does, small blobs in one exchange with a reader,
// with a worker for each processor; in seconds.
func timedTogether(texts []text, readers *reader.Pool) float64 {
	blobs := make([]reader.Blob, len(texts))
	for i, t := range texts {
		blobs[i] = reader.Blob{Language: t.language.Name, Content: t.content}
	}
	began := time.Now()
	var mu sync.Mutex
	next := func() []reader.Blob {
		mu.Lock()
		defer mu.Unlock()
		n := reader.Together(blobs)
		out := blobs[:n]
		blobs = blobs[n:]
		return out
	}
	var wg sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for some := next(); len(some) > 0; some = next() {
				readers.FactsOf(ctx, some)
			}
		})
	}
	wg.Wait()
	return time.Since(began).Seconds()
}

// timed runs over the texts with a worker for each processor, in seconds.
func timed(texts []text, do func(text)) float64 {
	began := time.Now()
	next := atomic.Int64{}
	var wg sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for i := next.Add(1) - 1; i < int64(len(texts)); i = next.Add(1) - 1 {
				do(texts[i])
			}
		})
	}
	wg.Wait()
	return time.Since(began).Seconds()
}
