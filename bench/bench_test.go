package bench

import (
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"sort"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"juxtagram/core/facts"
	"juxtagram/core/reader"
	"juxtagram/core/repo"
	"juxtagram/core/sandbox"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
	"juxtagram/survey"
	"juxtagram/web"
)

func TestMain(m *testing.M) {
	sandbox.Main(reader.Kind, sandbox.Tasks)
	pgtest.Main(m)
}

var ctx = context.Background()

// sizes of the generated repositories; BENCH_SCALE=0.1 makes a quick try.
func sizes() [][2]int {
	scale := 1.0
	if s, err := strconv.ParseFloat(os.Getenv("BENCH_SCALE"), 64); err == nil {
		scale = s
	}
	return [][2]int{{int(2000 * scale), int(10_000 * scale)}, {int(10_000 * scale), int(50_000 * scale)}}
}

// generated makes a repository of a size, or takes the one of an earlier run.
func generated(b *testing.B, size [2]int) *repo.Git {
	b.Helper()
	return shaped(b, Shape{Files: size[0], Commits: size[1]})
}

// shaped is generated with a shape.
func shaped(b *testing.B, shape Shape) *repo.Git {
	b.Helper()
	dir := filepath.Join(os.TempDir(), fmt.Sprintf("juxtagram-bench-%d-%d%s%s.git", shape.Files, shape.Commits, map[bool]string{true: "-branches"}[shape.Branches], map[bool]string{true: "-small"}[shape.Small]))
	if _, err := repo.At(dir).Resolve(ctx, "main"); err != nil {
		_ = os.RemoveAll(dir)
		if err := Generate(ctx, dir, shape); err != nil {
			b.Fatal(err)
		}
		if err := repo.At(dir).WriteCommitGraph(ctx); err != nil {
			b.Fatal(err)
		}
	}
	return repo.At(dir)
}

// floor times git itself at work.
func floor(b *testing.B, g *repo.Git, script string) float64 {
	b.Helper()
	cmd := exec.CommandContext(ctx, "sh", "-c", script)
	cmd.Env = repo.Environ("GIT_DIR=" + g.Dir())
	began := time.Now()
	if out, err := cmd.CombinedOutput(); err != nil {
		b.Fatalf("%s: %v %s", script, err, out)
	}
	return time.Since(began).Seconds()
}

const (
	rawLog  = "git log --raw -M main >/dev/null"
	numstat = "git log --raw --numstat -M main >/dev/null"
	allCat  = "git ls-tree -r main | cut -c13-52 | git cat-file --batch >/dev/null"
)

// clock is a sink that notes when each stage was done, saving included.
type clock struct {
	save  func(string, *survey.Result) error
	began time.Time
	at    map[string]float64
}

func (c *clock) Begin(context.Context, string, int) {}
func (c *clock) Progress(string, int, int)          {}
func (c *clock) Done(_ context.Context, stage string, r *survey.Result) error {
	err := c.save(stage, r)
	c.at[stage] = time.Since(c.began).Seconds()
	return err
}

// counting reads blobs in processes of their own and counts them.
type counting struct {
	*reader.Pool
	blobs atomic.Int64
}

func (c *counting) FactsOf(ctx context.Context, blobs []reader.Blob) []*facts.Facts {
	c.blobs.Add(int64(len(blobs)))
	return c.Pool.FactsOf(ctx, blobs)
}

// surveyed runs a survey into the database, as the server does. It tells how
// many blobs were read for their facts.
func surveyed(b *testing.B, s *store.Store, g *repo.Git, r *store.Repository, pin string) (*clock, int64) {
	b.Helper()
	readers := &counting{Pool: reader.New(runtime.GOMAXPROCS(0))}
	defer readers.Close()
	r.Pin = pin
	v, err := s.AddSurvey(ctx, r)
	if err != nil {
		b.Fatal(err)
	}
	saver, err := s.SaverOf(ctx, v)
	if err != nil {
		b.Fatal(err)
	}
	defer saver.Close()
	c := &clock{began: time.Now(), at: map[string]float64{}, save: func(stage string, res *survey.Result) error {
		return saver.Save(ctx, stage, res, nil)
	}}
	if _, err := survey.Run(ctx, g, survey.Options{Commit: pin, Reader: readers}, s.MemoryOf(r.ID), c); err != nil {
		b.Fatal(err)
	}
	if _, err := s.MoveSurvey(ctx, v.ID, []string{store.Waiting}, map[string]any{"state": store.Complete}); err != nil {
		b.Fatal(err)
	}
	return c, readers.blobs.Load()
}

// BenchmarkSurvey: the tree on screen, changes against `git log --raw -M`,
// everything against numstat and cat-file, a second commit against the first.
func BenchmarkSurvey(b *testing.B) {
	for _, size := range sizes() {
		b.Run(fmt.Sprintf("files=%d/commits=%d", size[0], size[1]), func(b *testing.B) {
			g := generated(b, size)
			head, err := g.Resolve(ctx, "main")
			if err != nil {
				b.Fatal(err)
			}
			parent := tenBlobsBefore(b, g, head)
			for b.Loop() {
				s := pgtest.Store(b)
				r, err := s.AddRepository(ctx, store.Repository{Name: "bench", SourceKind: "folder", Source: "x", State: store.Pinned, HalfLife: 180})
				if err != nil {
					b.Fatal(err)
				}
				raw1, all1 := floor(b, g, rawLog), floor(b, g, numstat)+floor(b, g, allCat)
				first, _ := surveyed(b, s, g, r, parent)
				raw2, all2 := floor(b, g, rawLog), floor(b, g, numstat)+floor(b, g, allCat)
				second, blobs := surveyed(b, s, g, r, head)
				raw, all := (raw1+raw2)/2, (all1+all2)/2
				b.ReportMetric(first.at[survey.StageSizes], "s-tree")
				b.ReportMetric((first.at[survey.StageChanges]-first.at[survey.StageSizes])/raw, "x-raw-log")
				b.ReportMetric(first.at[survey.StageLeads], "s-all")
				b.ReportMetric(first.at[survey.StageLeads]/all, "x-numstat+cat")
				b.ReportMetric(second.at[survey.StageLeads]/first.at[survey.StageLeads], "x-second/first")
				b.ReportMetric(float64(blobs), "blobs-second")
				b.ReportMetric(all, "s-floor")
			}
		})
	}
}

// tenBlobsBefore is the newest commit before another that differs from it in
// ten files or more.
func tenBlobsBefore(b *testing.B, g *repo.Git, head string) string {
	b.Helper()
	for n := 1; ; n++ {
		at := strings.TrimSpace(run(b, g, "rev-parse", fmt.Sprintf("%s~%d", head, n)))
		if strings.Count(run(b, g, "diff", "--name-only", "--diff-filter=AM", at, head), "\n") >= 9 {
			return at
		}
	}
}

func run(b *testing.B, g *repo.Git, args ...string) string {
	b.Helper()
	out, err := g.Run(ctx, args...)
	if err != nil {
		b.Fatal(err)
	}
	return strings.TrimSpace(string(out))
}

// BenchmarkScreens: how long the server takes to answer each screen's query,
// against the bare answer "who am I" in the same run.
func BenchmarkScreens(b *testing.B) {
	size := sizes()[1]
	g := generated(b, size)
	h := opened(b, g)
	ask := h.ask
	paths := longest(b, g)
	at := fmt.Sprintf("/api/repositories/%d", h.id)
	screens := map[string]func(int) string{
		"floor-me":  func(int) string { return "/api/me" },
		"shelf":     func(int) string { return "/api/repositories" },
		"overview":  func(int) string { return at + "/overview" },
		"tree":      func(int) string { return at + "/folder" },
		"find":      func(i int) string { return at + "/paths?limit=12&text=" + words[i%len(words)] },
		"file":      func(i int) string { return at + "/file?path=" + paths[i%len(paths)] },
		"lines":     func(i int) string { return at + "/lines?to=400&path=" + paths[i%len(paths)] },
		"tokens":    func(i int) string { return at + "/tokens?to=400&path=" + paths[i%len(paths)] },
		"leads":     func(int) string { return at + "/leads" },
		"leads-far": func(i int) string { return at + "/leads?offset=" + strconv.Itoa(200*(i%10)) },
		"plans":     func(int) string { return at + "/plans" },
		"summary":   func(int) string { return at + "/summary?children=true" },
		"map":       func(int) string { return at + "/map" },
		"map-span":  func(i int) string { return fmt.Sprintf("%s/map/span?from=%d", at, 1_300_000_000+i*1_000_000) },
		"map-ties":  func(i int) string { return at + "/map/ties?path=" + paths[i%len(paths)] },
		"story":     func(i int) string { return at + "/story?path=" + paths[i%len(paths)] },
		"marks":     func(int) string { return at + "/marks" },
	}
	names := make([]string, 0, len(screens))
	for n := range screens {
		names = append(names, n)
	}
	sort.Strings(names)
	for _, name := range names {
		b.Run(name, func(b *testing.B) {
			const asks = 200
			for b.Loop() {
				var took []time.Duration
				for i := range asks {
					took = append(took, ask("GET", screens[name](i), ""))
				}
				sort.Slice(took, func(i, j int) bool { return took[i] < took[j] })
				b.ReportMetric(float64(took[asks/2].Microseconds())/1000, "ms-median")
				b.ReportMetric(float64(took[asks*99/100].Microseconds())/1000, "ms-p99")
			}
		})
	}
}

// longest are the fifty largest files of the pin: the worst a reader opens.
func longest(b *testing.B, g *repo.Git) []string {
	entries, err := g.Tree(ctx, "main", "")
	if err != nil {
		b.Fatal(err)
	}
	ids := make([]string, len(entries))
	for i, e := range entries {
		ids[i] = e.Blob
	}
	sizes, err := g.Sizes(ctx, ids)
	if err != nil {
		b.Fatal(err)
	}
	sort.SliceStable(entries, func(i, j int) bool { return sizes[entries[i].Blob] > sizes[entries[j].Blob] })
	var out []string
	for _, e := range entries[:min(50, len(entries))] {
		out = append(out, e.Path)
	}
	return out
}

// BenchmarkFirstLoad: how much script the shelf and the overview need before
// any code is shown, compressed as the server sends it.
func BenchmarkFirstLoad(b *testing.B) {
	manifest, err := os.ReadFile("../web/dist/.vite/manifest.json")
	if err != nil {
		b.Skip("the web application is not built")
	}
	var chunks map[string]struct {
		File    string   `json:"file"`
		Imports []string `json:"imports"`
	}
	if err := json.Unmarshal(manifest, &chunks); err != nil {
		b.Fatal(err)
	}
	files := web.Files()
	size := func(name string) int {
		f, err := files.Open(name)
		if err != nil {
			b.Fatal(err)
		}
		defer f.Close()
		var n counter
		z := gzip.NewWriter(&n)
		if _, err := io.Copy(z, f); err != nil {
			b.Fatal(err)
		}
		if err := z.Close(); err != nil {
			b.Fatal(err)
		}
		return int(n)
	}
	for _, page := range []string{"src/shelf/Shelf.vue", "src/overview/Overview.vue", "src/read/Read.vue", "src/plans/Guide.vue"} {
		b.Run(filepath.Base(page), func(b *testing.B) {
			for b.Loop() {
				seen := map[string]bool{}
				var add func(string)
				sum := 0
				add = func(key string) {
					if seen[key] {
						return
					}
					seen[key] = true
					sum += size(chunks[key].File)
					for _, i := range chunks[key].Imports {
						add(i)
					}
				}
				add("index.html")
				if page != "src/shelf/Shelf.vue" {
					add("src/frame/Repository.vue")
				}
				add(page)
				b.ReportMetric(float64(sum)/1000, "kB-script")
			}
		})
	}
}

type counter int

func (c *counter) Write(p []byte) (int, error) {
	*c += counter(len(p))
	return len(p), nil
}
