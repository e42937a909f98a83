package bench

import (
	"errors"
	"fmt"
	"hash/crc32"
	"math/rand"
	"runtime"
	"sync"
	"testing"
	"time"

	"juxtagram/core/facts"
	"juxtagram/core/gitlog"
	"juxtagram/core/history"
	"juxtagram/core/place"
	"juxtagram/core/repo"
)

// BenchmarkPlaces: annotations made at a thousand commits, placed at the newest;
// against reading the texts that they are about.
func BenchmarkPlaces(b *testing.B) {
	g := shaped(b, histories()[0])
	log := wholeLog(b, g)
	for _, most := range []int{1_000, 10_000} {
		b.Run(fmt.Sprintf("commits=1000/annotations=%d", most), func(b *testing.B) {
			for b.Loop() {
				signs := signed(b, g, log, 1000, most)
				blobs := g.Blobs()
				reader := func(blobs *repo.Blobs) func(string, string) (*place.Text, error) {
					texts := map[[2]string]*place.Text{}
					return func(commit, path string) (*place.Text, error) {
						id, err := blobs.Find(commit, path)
						if err != nil {
							return nil, place.ErrNoFile
						}
						if t := texts[[2]string{id, path}]; t != nil {
							return t, nil
						}
						content, err := blobs.Read(id, facts.MaxRead)
						if err != nil {
							return nil, place.ErrNoText
						}
						t := place.NewText(path, string(content))
						texts[[2]string{id, path}] = t
						return t, nil
					}
				}
				began := time.Now()
				read := reader(blobs)
				for _, s := range signs {
					if _, err := read(s.Commit, s.Path); err != nil {
						b.Fatal(err)
					}
					if _, err := read(log.IDs[0], s.Path); err != nil && !errors.Is(err, place.ErrNoText) {
						b.Fatal(err)
					}
				}
				blobs.Close()
				floor := time.Since(began)
				began = time.Now()
				found := placedAll(b, g, log, signs, reader)
				took := time.Since(began)
				b.ReportMetric(took.Seconds(), "s-placed")
				b.ReportMetric(took.Seconds()/floor.Seconds(), "x-placed/read")
				for state, n := range found {
					b.ReportMetric(float64(n), "n-"+string(state))
				}
			}
		})
	}
}

// placedAll places signs with as many workers as there are processors, each with
// the files of its own.
func placedAll(b *testing.B, g *repo.Git, log *gitlog.Log, signs []place.Sign, reader func(*repo.Blobs) func(string, string) (*place.Text, error)) map[place.State]int {
	b.Helper()
	workers := runtime.GOMAXPROCS(0)
	found := map[place.State]int{}
	var mu sync.Mutex
	var all sync.WaitGroup
	for n := range workers {
		all.Go(func() {
			blobs := g.Blobs()
			defer blobs.Close()
			read, known, placers := reader(blobs), place.NewKnown(), map[string]*place.Placer{}
			for _, s := range signs {
				if int(crc32.ChecksumIEEE([]byte(s.Path)))%workers != n {
					continue
				}
				p := placers[s.Commit]
				if p == nil {
					p = place.NewPlacer(log.WayOf(log.At(s.Commit), 0, read), known)
					placers[s.Commit] = p
				}
				out, err := p.Place(&s)
				if err != nil {
					b.Error(err)
					return
				}
				mu.Lock()
				found[out.What]++
				mu.Unlock()
			}
		})
	}
	all.Wait()
	return found
}

// signed are places at lines of the files that some commits changed.
func signed(b *testing.B, g *repo.Git, log *gitlog.Log, commits, most int) []place.Sign {
	b.Helper()
	r := rand.New(rand.NewSource(9))
	blobs := g.Blobs()
	defer blobs.Close()
	var out []place.Sign
	for n := 0; n < commits; n++ {
		at := int32(n * (log.Len() - 1) / commits)
		changed := log.ChangesAt(at)
		for k := 0; k < most/commits && len(changed) > 0; k++ {
			c := changed[r.Intn(len(changed))]
			id, err := blobs.Find(log.IDs[at], c.Path)
			if err != nil {
				continue
			}
			content, err := blobs.Read(id, facts.MaxRead)
			if err != nil {
				continue
			}
			if lines := facts.CountLines(content); lines > 0 {
				line := 1 + r.Intn(lines)
				out = append(out, place.Sign{Commit: log.IDs[at], Path: c.Path, Start: line, End: min(lines, line+r.Intn(4))})
			}
		}
	}
	return out
}

// wholeLog reads the log of a repository into memory.
func wholeLog(b *testing.B, g *repo.Git) *gitlog.Log {
	b.Helper()
	head := run(b, g, "rev-parse", "main")
	commits, err := history.ReadNew(ctx, g, []string{head}, nil, nil, nil)
	if err != nil {
		b.Fatal(err)
	}
	builder := gitlog.NewBuilder()
	for _, c := range commits {
		if err := builder.Add(&gitlog.Entry{Commit: c.Commit, Packed: history.PackChanges(c.Changes)}); err != nil {
			b.Fatal(err)
		}
	}
	idents := builder.Idents()
	mapped := map[repo.Person]repo.Person{}
	for p := range idents {
		mapped[p] = p
	}
	return builder.Log(nil, head, history.Join(idents, mapped), nil)
}
