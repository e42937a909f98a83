// Package bench measures the figures that the product promises, each beside a
// floor measured in the same run. docs/benchmarks.md tells how to read them.
package bench

import (
	"bufio"
	"context"
	"fmt"
	"maps"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"

	"juxtagram/core/repo"
)

var words = strings.Fields("account batch buffer cache channel client cluster cursor delta entry event filter frame graph group handle header index input job key label layer limit list lock map match node offset order owner packet page parent part peer plan point port queue range record region report result role route rule scope segment session shard size slot source stage state store stream string sync table task token topic trace tree unit user value vector window worker zone")

// generator writes a repository of code-like files with a long, uneven history:
// few hot files, renames, tagged comments and, if wanted, branches that are
// merged; the same for the same seed.
type generator struct {
	r     *rand.Rand
	out   *bufio.Writer
	files map[string][]string
	names []string
	mark  int
	time  int64
	Shape
	main  int // the newest commit of main
	sides []side
}

// Shape says what a generated repository is like.
type Shape struct {
	Files, Commits int
	Branches       bool // side branches are begun and merged, and releases tagged
	Small          bool // of a few lines, so that very many commits are made soon
}

// side is a branch under way: it changes one file of its own.
type side struct {
	tip  int
	path string
	left int // commits until it is merged
}

var extensions = []string{"go", "go", "go", "go", "py", "py", "ts", "ts", "js", "java", "md"}

// Generate makes a bare repository at dir with about so many files and exactly
// so many commits that main reaches.
func Generate(ctx context.Context, dir string, shape Shape) error {
	init := exec.CommandContext(ctx, "git", "init", "--quiet", "--bare", "--template=", "--initial-branch=main", dir)
	init.Env = repo.Environ()
	if err := init.Run(); err != nil {
		return err
	}
	cmd := repo.At(dir).Command(ctx, nil, "-c", "core.compression=1", "-c", "pack.compression=1", "fast-import", "--quiet", "--depth=50", "--done")
	in, err := cmd.StdinPipe()
	if err != nil {
		return err
	}
	cmd.Stderr = os.Stderr
	if err := cmd.Start(); err != nil {
		return err
	}
	g := &generator{r: rand.New(rand.NewSource(1)), out: bufio.NewWriterSize(in, 1<<20), files: map[string][]string{}, time: 1_262_304_000, Shape: shape}
	g.run(shape.Files, shape.Commits)
	if err := g.out.Flush(); err != nil {
		return err
	}
	if err := in.Close(); err != nil {
		return err
	}
	return cmd.Wait()
}

func (g *generator) word() string { return words[g.r.Intn(len(words))] }

func (g *generator) run(files, commits int) {
	grow := float64(files) / (float64(commits) * 0.9)
	for g.mark < commits {
		changed := map[string]bool{}
		removed := ""
		edits := 1 + g.r.Intn(3)
		if g.Small {
			edits = 1
		}
		for n := edits; n > 0 && len(g.names) > 0; n-- {
			p := g.pick()
			g.edit(p)
			changed[p] = true
		}
		for n := grow; (n >= 1 || g.r.Float64() < n) && len(g.files) < files; n-- {
			p := g.fresh()
			changed[p] = true
		}
		if g.r.Float64() < 0.01 && len(g.names) > 10 {
			i := g.r.Intn(len(g.names))
			removed = g.names[i]
			to := g.path(filepath.Ext(removed)[1:])
			g.files[to] = g.files[removed]
			delete(g.files, removed)
			delete(changed, removed)
			g.names[i] = to
			changed[to] = true
		}
		if g.Branches {
			g.branch(commits)
		}
		if g.mark < commits {
			g.commit(changed, removed)
		}
	}
	fmt.Fprintf(g.out, "done\n")
}

// branch begins a side branch now and then, goes on with one, or merges it.
func (g *generator) branch(commits int) {
	if g.main > 0 && g.r.Float64() < 0.08 && len(g.sides) < 9 {
		g.sides = append(g.sides, side{g.main, g.fresh(), 1 + g.r.Intn(5)})
	}
	if len(g.sides) == 0 || g.mark+len(g.sides) >= commits || g.r.Float64() > 0.4 {
		return
	}
	n := g.r.Intn(len(g.sides))
	s := &g.sides[n]
	if s.left > 0 {
		s.left--
		g.head("side", "")
		fmt.Fprintf(g.out, "from :%d\n", s.tip)
		g.edit(s.path)
		g.write(s.path)
		s.tip = g.mark
		return
	}
	g.head("main", fmt.Sprintf("Merge the %s", g.word()))
	fmt.Fprintf(g.out, "from :%d\nmerge :%d\n", g.main, s.tip)
	g.write(s.path)
	g.main = g.mark
	g.sides = append(g.sides[:n], g.sides[n+1:]...)
	if g.r.Float64() < 0.02 {
		fmt.Fprintf(g.out, "reset refs/tags/v%d.%d\nfrom :%d\n\n", g.mark/1000, g.mark%1000, g.mark)
	}
}

// pick favours files that were made early: a few are hot.
func (g *generator) pick() string {
	f := g.r.Float64()
	return g.names[int(f*f*f*float64(len(g.names)))]
}

func (g *generator) path(ext string) string {
	for g.Small {
		p := fmt.Sprintf("%s/%s%d.%s", g.word(), g.word(), g.r.Intn(10_000), ext)
		if g.files[p] == nil {
			return p
		}
	}
	for {
		p := fmt.Sprintf("%s/%s%d/%s/%s_%s%d.%s", []string{"cmd", "internal", "pkg", "web", "lib"}[g.r.Intn(5)], g.word(), g.r.Intn(40), g.word(), g.word(), g.word(), g.r.Intn(1000), ext)
		if g.files[p] == nil {
			return p
		}
	}
}

func (g *generator) fresh() string {
	ext := extensions[g.r.Intn(len(extensions))]
	p := g.path(ext)
	lines := map[string][]string{"go": {"package " + g.word(), ""}, "java": {"final class C {"}}[ext]
	blocks := 2 + g.r.Intn(22)
	if g.Small {
		blocks = 1
	}
	for n := blocks; n > 0; n-- {
		lines = append(lines, g.block(ext)...)
	}
	g.files[p] = lines
	g.names = append(g.names, p)
	return p
}

func (g *generator) block(ext string) []string {
	a, b, k := g.word(), g.word(), g.r.Intn(1000)
	mark := map[string]string{"py": "#", "md": "-"}[ext]
	if mark == "" {
		mark = "//"
	}
	head := fmt.Sprintf("%s updates the %s %s for each %s", mark, a, g.word(), b)
	if g.r.Float64() < 0.06 {
		head = fmt.Sprintf("%s TODO(%s): handle %s %s", mark, g.word(), a, b)
	}
	switch ext {
	case "go":
		return []string{head, fmt.Sprintf("func %s%s%d(x *%s, n int) (int, error) {", a, b, k, a), "\tif x == nil {", fmt.Sprintf("\t\treturn 0, fmt.Errorf(\"%s %s: %%d\", n)", a, b), "\t}", fmt.Sprintf("\tsum := %d", k), "\tfor i := 0; i < n; i++ {", "\t\tsum += i * 7", "\t}", "\treturn sum, nil", "}", ""}
	case "py":
		return []string{head, fmt.Sprintf("def %s_%s_%d(%s, limit=%d):", a, b, k, a, k), "    total = 0", "    for i in range(limit):", "        total += i", "    return total", "", ""}
	case "md":
		return []string{fmt.Sprintf("## %s %d", a, k), "", fmt.Sprintf("The %s %s holds one %s.", a, b, g.word()), ""}
	case "java":
		return []string{head, fmt.Sprintf("  static int %s%d(int n) {", a, k), "    int sum = 0;", "    for (int i = 0; i < n; i++) sum += i;", "    return sum;", "  }", ""}
	}
	return []string{head, fmt.Sprintf("export function %s%s%d(n) {", a, b, k), "  let sum = 0;", "  for (let i = 0; i < n; i++) sum += i;", "  return sum;", "}", ""}
}

func (g *generator) edit(p string) {
	lines := g.files[p]
	ext := filepath.Ext(p)[1:]
	i := g.r.Intn(len(lines) + 1)
	switch r := g.r.Float64(); {
	case r < 0.5 && i < len(lines):
		lines = append([]string(nil), lines...)
		lines[i] = strings.TrimRight(lines[i], " ") + " " + map[bool]string{true: "# ", false: "// "}[ext == "py"] + g.word()
	case (r < 0.8 || len(lines) < 20) && (!g.Small || len(lines) < 60):
		lines = append(lines[:i:i], append(g.block(ext), lines[i:]...)...)
	default:
		to := min(len(lines), i+1+g.r.Intn(6))
		lines = append(lines[:min(i, to):min(i, to)], lines[to:]...)
	}
	g.files[p] = lines
}

func (g *generator) commit(changed map[string]bool, removed string) {
	g.head("main", "")
	g.main = g.mark
	if removed != "" {
		fmt.Fprintf(g.out, "D %s\n", removed)
	}
	for _, p := range slices.Sorted(maps.Keys(changed)) {
		g.write(p)
	}
	fmt.Fprintln(g.out)
}

// head begins a commit; an empty message is made up.
func (g *generator) head(branch, message string) {
	g.mark++
	g.time += int64(60 + g.r.Intn(12_000))
	f := g.r.Float64()
	who := int(f * f * 200)
	if message == "" {
		message = fmt.Sprintf("%s: change %s %s\n", g.word(), g.word(), g.word())
	}
	fmt.Fprintf(g.out, "commit refs/heads/%s\nmark :%d\ncommitter Person %d <p%d@example.test> %d +0000\ndata %d\n%s\n", branch, g.mark, who, who, g.time, len(message), message)
}

func (g *generator) write(p string) {
	text := strings.Join(g.files[p], "\n") + "\n"
	fmt.Fprintf(g.out, "M 100644 inline %s\ndata %d\n%s\n", p, len(text), text)
}
