// Command place measures how well lines are placed in later texts, where the
// truth is known: real files of several languages are taken through generated
// edits whose effect on every line is written down. Folders to read from may be
// given; without any, what is at hand on the machine is read.
package main

import (
	"context"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"sort"
	"strings"

	"juxtagram/core/place/placetest"
)

func main() {
	scenes := flag.Int("scenes", 400, "how many scenes for each language")
	edits := flag.Int("edits", 14, "how many edits a scene has at most")
	show := flag.Int("show", 0, "how many wrong placements are shown")
	seed := flag.Uint64("seed", 1, "of the random numbers")
	histories := flag.String("histories", "", "repositories, apart by commas, whose commits are judged by git's blame")
	files := flag.Int("files", 200, "how many files of each are looked at")
	flag.Parse()
	score := placetest.NewScore()
	made := map[string]int{}
	shown := 0
	for _, c := range corpora(flag.Args()) {
		random := rand.New(rand.NewPCG(*seed, 77))
		files := placetest.Load(c.root, c.ends)
		if len(files) < 10 {
			fmt.Printf("%-12s nothing at hand\n", c.language)
			continue
		}
		for range *scenes {
			w := placetest.Scene(random, files)
			first := w.Before
			for range 1 + random.IntN(*edits) {
				w.Edit()
			}
			if shown < *show {
				score.Show = func(text string) {
					if shown++; shown <= *show {
						fmt.Println(text)
					}
				}
			} else {
				score.Show = nil
			}
			score.Judge(c.language, first, w.Truths(first), w.Placed())
			for k, n := range w.Edits {
				made[k] += n
			}
		}
	}
	print(score, made)
	for _, dir := range strings.FieldsFunc(*histories, func(r rune) bool { return r == ',' }) {
		if err := judgeReleases(context.Background(), dir, *files); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
	}
}

type corpus struct{ language, root, ends string }

func corpora(roots []string) []corpus {
	if len(roots) > 0 {
		var out []corpus
		for _, r := range roots {
			out = append(out, corpus{filepath.Base(r), r, ""})
		}
		return out
	}
	goroot, _ := exec.Command("go", "env", "GOROOT").Output()
	cache, _ := exec.Command("go", "env", "GOMODCACHE").Output()
	python, _ := filepath.Glob("/usr/lib/python3.*")
	out := []corpus{{"Go", filepath.Join(strings.TrimSpace(string(goroot)), "src/net"), ".go"}, {"TypeScript", "web/node_modules", ".d.ts"}, {"JavaScript", "web/node_modules/eslint/lib", ".js"},
		{"C", filepath.Join(strings.TrimSpace(string(cache)), "github.com/smacker"), ".h"}}
	if len(python) > 0 {
		out = append(out, corpus{"Python", python[len(python)-1], ".py"})
	}
	return out
}

func print(s *placetest.Score, made map[string]int) {
	names := make([]string, 0, len(s.Classes))
	for n := range s.Classes {
		names = append(names, n)
	}
	sort.Strings(names)
	fmt.Printf("%-26s %9s %8s %8s %8s\n", "lines", "all", "right", "wrong", "unplaced")
	for _, n := range names {
		c := s.Classes[n]
		of := func(k int) float64 { return 100 * float64(k) / float64(c.All) }
		fmt.Printf("%-26s %9d %7.2f%% %7.2f%% %7.2f%%\n", n, c.All, of(c.Right), of(c.Wrong), of(c.Unplaced))
	}
	kinds := make([]string, 0, len(made))
	total := 0
	for k, n := range made {
		kinds = append(kinds, fmt.Sprintf("%s %d", k, n))
		total += n
	}
	sort.Strings(kinds)
	fmt.Printf("%d edits: %s\n", total, strings.Join(kinds, ", "))
}
