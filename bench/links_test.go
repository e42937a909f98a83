package bench

import (
	"fmt"
	"io/fs"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"sort"
	"strings"
	"testing"
	"time"

	"juxtagram/core/links/origin"
	"juxtagram/core/repo"
	"juxtagram/core/summary"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
	"juxtagram/survey"
)

// realText is a repository of real Go files that import each other, Go's own
// sources, in two commits: the second changes ten files and renames an exported
// function in one of them.
func realText(b *testing.B, most int) *repo.Git {
	b.Helper()
	dir := filepath.Join(os.TempDir(), fmt.Sprintf("juxtagram-bench-go-%d.git", most))
	if _, err := repo.At(dir).Resolve(ctx, "main"); err == nil {
		return repo.At(dir)
	}
	raw, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		b.Fatal(err)
	}
	root := filepath.Join(strings.TrimSpace(string(raw)), "src")
	work := b.TempDir()
	var copied []string
	err = filepath.WalkDir(root, func(at string, d fs.DirEntry, err error) error {
		if err != nil || !d.Type().IsRegular() || len(copied) >= most || strings.Contains(at, "/testdata/") || !strings.HasSuffix(at, ".go") && filepath.Base(at) != "go.mod" {
			return err
		}
		content, err := os.ReadFile(at)
		if err != nil {
			return err
		}
		rel, err := filepath.Rel(root, at)
		if err != nil {
			return err
		}
		to := filepath.Join(work, rel)
		copied = append(copied, to)
		if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
			return err
		}
		return os.WriteFile(to, content, 0o644)
	})
	if err != nil {
		b.Fatal(err)
	}
	git := func(args ...string) {
		cmd := exec.Command("git", append([]string{"-C", work, "-c", "user.name=a", "-c", "user.email=a@example.test"}, args...)...)
		if out, err := cmd.CombinedOutput(); err != nil {
			b.Fatalf("git %v: %s", args, out)
		}
	}
	git("init", "-q", "-b", "main")
	git("add", "-A")
	git("commit", "-q", "-m", "all")
	for i := range 10 {
		f, err := os.OpenFile(copied[(i+1)*len(copied)/12], os.O_APPEND|os.O_WRONLY, 0)
		if err != nil {
			b.Fatal(err)
		}
		_, err = fmt.Fprintf(f, "\n// changed, the %d.\n", i)
		if closed := f.Close(); err != nil || closed != nil {
			b.Fatal(err, closed)
		}
	}
	git("commit", "-q", "-a", "-m", "ten files")
	git("clone", "-q", "--bare", work, dir)
	return repo.At(dir)
}

// BenchmarkLinks: resolving the imports of real text, against taking its facts;
// a commit that changed ten files, against the first; and how long a server
// that holds the survey takes for definitions and uses.
func BenchmarkLinks(b *testing.B) {
	for _, most := range []int{2000, 10_000} {
		b.Run(fmt.Sprintf("files=%d", most), func(b *testing.B) {
			g := realText(b, most)
			for b.Loop() {
				s := pgtest.Store(b)
				r, err := s.AddRepository(ctx, store.Repository{Name: "go", SourceKind: "folder", Source: "x", State: store.Pinned, HalfLife: 180})
				if err != nil {
					b.Fatal(err)
				}
				head, before := strings.TrimSpace(run(b, g, "rev-parse", "main")), strings.TrimSpace(run(b, g, "rev-parse", "main~1"))
				first, _ := surveyed(b, s, g, r, before)
				facts, links := first.at[survey.StageContents]-first.at[survey.StageChanges], first.at[survey.StageLinks]-first.at[survey.StageContents]
				second, blobs := surveyed(b, s, g, r, head)
				again := second.at[survey.StageLinks] - second.at[survey.StageContents]
				b.ReportMetric(facts, "s-facts")
				b.ReportMetric(links/facts, "x-links/facts")
				b.ReportMetric(again/links, "x-links-second/first")
				b.ReportMetric(second.at[survey.StageLeads]/first.at[survey.StageLeads], "x-second/first")
				b.ReportMetric(float64(blobs), "blobs-second")
				v, err := s.SurveyAt(ctx, r.ID, head)
				if err != nil {
					b.Fatal(err)
				}
				askNames(b, s, v)
			}
		})
	}
}

// askNames asks a survey held in memory for definitions of names drawn at
// random, and for the uses of the most used symbols.
func askNames(b *testing.B, s *store.Store, v *store.Survey) {
	b.Helper()
	var was, is runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&was)
	began := time.Now()
	w, err := s.Whole(ctx, v)
	if err != nil {
		b.Fatal(err)
	}
	b.ReportMetric(time.Since(began).Seconds(), "s-load")
	runtime.GC()
	runtime.ReadMemStats(&is)
	b.ReportMetric(float64(is.HeapAlloc-was.HeapAlloc)/1e6, "MB-held")
	resolved, imports := 0, 0
	for i := range w.Files {
		for _, o := range w.Origins(i) {
			imports++
			if o.To != origin.Unresolved {
				resolved++
			}
		}
	}
	b.ReportMetric(100*float64(resolved)/float64(max(imports, 1)), "%-imports-resolved")
	random := rand.New(rand.NewSource(1))
	var took []time.Duration
	largest, answered, asked := 0, 0, 0
	for asked < 400 {
		file := random.Intn(len(w.Files))
		if w.Files[file].Lines == 0 {
			continue
		}
		line, column := 1+random.Intn(w.Files[file].Lines), random.Intn(40)
		began := time.Now()
		a, err := w.Names.DefinitionAt(file, line, column)
		if err != nil {
			b.Fatal(err)
		}
		if a == nil {
			continue
		}
		asked++
		took = append(took, time.Since(began))
		largest = max(largest, len(a.Definitions))
		if len(a.Definitions) > 0 || a.Origin != nil {
			answered++
		}
	}
	sort.Slice(took, func(i, j int) bool { return took[i] < took[j] })
	b.ReportMetric(ms(took[len(took)/2]), "ms-definition-median")
	b.ReportMetric(ms(took[len(took)*99/100]), "ms-definition-p99")
	b.ReportMetric(100*float64(answered)/float64(asked), "%-answered")
	b.ReportMetric(float64(largest), "definitions-largest")
	askUses(b, w)
}

// askUses asks for the first page of the uses of the symbol whose name stands
// in most files.
func askUses(b *testing.B, w *summary.Whole) {
	b.Helper()
	worst, most := time.Duration(0), 0
	for _, name := range []string{"Errorf", "String", "Error", "New", "Fatal", "Println"} {
		for i := range w.Files {
			if n, err := w.Names.Named(i, name); err != nil {
				b.Fatal(err)
			} else if n >= 0 {
				began := time.Now()
				page, err := w.Names.Uses(i, n, 0, 30)
				if err != nil {
					b.Fatal(err)
				}
				worst, most = max(worst, time.Since(began)), max(most, page.Total)
				break
			}
		}
	}
	b.ReportMetric(ms(worst), "ms-uses-first-page")
	b.ReportMetric(float64(most), "files-with-name")
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }
