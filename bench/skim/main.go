// Command skim judges the worth that a skim gives to functions, by labels that
// bench/skim/label made: how likely a function worth seeing stands before one
// that is not (the area under the ROC curve), beside three simple orders, and
// with each feature left out in turn.
package main

import (
	"bufio"
	"context"
	"flag"
	"fmt"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"text/tabwriter"

	"juxtagram/bench/corpus"
	"juxtagram/bench/skim/corpora"
	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/repo"
	"juxtagram/core/skim"
	"juxtagram/core/summary"
	"juxtagram/survey"
)

// function is a labelled function with all by which it is put in order.
type function struct {
	worth bool // worth seeing, by its label
	path  string
	name  string
	scale map[string]float64 // by what is measured
}

func main() {
	show := flag.Bool("show", false, "print the functions that stand where they should not")
	flag.Parse()
	measures := []string{"worth", "order", "depth", "length"}
	for _, f := range skim.Features {
		measures = append(measures, "without "+f.Name)
	}
	out := tabwriter.NewWriter(os.Stdout, 2, 8, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintf(out, "package\tworth seeing\tnot\t%s\t\n", strings.Join(measures, "\t"))
	languages := map[string][]function{}
	for _, c := range corpora.All {
		if flag.NArg() > 0 && flag.Arg(0) != c.Name {
			continue
		}
		list, err := read(context.Background(), c)
		if err != nil {
			log.Printf("%s: left out: %v", c.Name, err)
			continue
		}
		name := c.Name
		if c.Tuned {
			name += " (tuned on)"
		} else {
			languages[c.Language] = append(languages[c.Language], list...)
		}
		row(out, name, list, measures)
		if *show {
			tell(list)
		}
	}
	names := make([]string, 0, len(languages))
	for l := range languages {
		names = append(names, l)
	}
	sort.Strings(names)
	failed := false
	for _, l := range names {
		got := row(out, l, languages[l], measures)
		failed = failed || got[0] < 0.85 || got[0] <= max(got[1], got[2], got[3])
	}
	out.Flush()
	if failed {
		log.Fatal("below what is asked for: 0.85 in each language, and ahead of order, depth and length")
	}
}

func row(out *tabwriter.Writer, name string, list []function, measures []string) []float64 {
	good := 0
	for _, f := range list {
		if f.worth {
			good++
		}
	}
	fmt.Fprintf(out, "%s\t%d\t%d\t", name, good, len(list)-good)
	got := make([]float64, len(measures))
	for i, m := range measures {
		got[i] = area(list, m)
		fmt.Fprintf(out, "%.3f\t", got[i])
	}
	fmt.Fprintln(out)
	return got
}

// area is the share of pairs of a function worth seeing and one that is not of
// which the first stands higher; equal ones count half.
func area(list []function, by string) float64 {
	sorted := append([]function(nil), list...)
	sort.SliceStable(sorted, func(i, j int) bool { return sorted[i].scale[by] < sorted[j].scale[by] })
	won, below, good, bad := 0.0, 0.0, 0.0, 0.0
	for i := 0; i < len(sorted); {
		j := i
		g, b := 0.0, 0.0
		for ; j < len(sorted) && sorted[j].scale[by] == sorted[i].scale[by]; j++ {
			if sorted[j].worth {
				g++
			} else {
				b++
			}
		}
		won += g * (below + b/2)
		below += b
		good, bad = good+g, bad+b
		i = j
	}
	return won / (good * bad)
}

// read surveys a package and weighs its labelled functions. Those of fewer than
// three lines are no regions and cannot be put in an order.
func read(ctx context.Context, c corpora.Corpus) ([]function, error) {
	labels, err := labelsOf(c.Name)
	if err != nil {
		return nil, err
	}
	root, err := c.Folder()
	if err != nil {
		return nil, err
	}
	temp, err := os.MkdirTemp("", "juxtagram-skim-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(temp)
	git := filepath.Join(temp, "of.git")
	for _, args := range [][]string{{"init", "-q", "--bare"}, append([]string{"-c", "core.bare=false", "--work-tree=" + root, "add", "-f"}, c.Paths()...), {"-c", "core.bare=false", "--work-tree=" + root, "-c", "user.name=n", "-c", "user.email=e@example.test", "commit", "-q", "-m", "all"}} {
		cmd := exec.Command("git", append([]string{"--git-dir=" + git}, args...)...)
		cmd.Dir = root
		if args[0] == "init" {
			cmd = exec.Command("git", "init", "-q", "--bare", git)
		}
		if out, err := cmd.CombinedOutput(); err != nil {
			return nil, fmt.Errorf("git %v: %w: %s", args, err, out)
		}
	}
	var list []function
	err = corpus.With(ctx, git, func(s *corpus.Surveyed) error {
		blobs := s.Git.Blobs()
		defer blobs.Close()
		for i := range s.Result.Files {
			path := string(s.Result.Files[i].Path)
			if len(labels[path]) == 0 {
				continue
			}
			got, err := weigh(ctx, s.Result, s.Whole, s.Memory, blobs, i, labels[path])
			if err != nil {
				return fmt.Errorf("%s: %w", path, err)
			}
			list = append(list, got...)
		}
		return nil
	})
	return list, err
}

func weigh(ctx context.Context, r *survey.Result, whole *summary.Whole, memory survey.Memory, blobs *repo.Blobs, file int, labels map[string]bool) ([]function, error) {
	raw, err := blobs.Read(r.Files[file].Blob, facts.MaxRead)
	if err != nil {
		return nil, err
	}
	packed, err := memory.Details(ctx, r.Files[file].Key)
	if err != nil {
		return nil, err
	}
	d, err := facts.Unpack(packed)
	if err != nil || d == nil {
		return nil, err
	}
	in := whole.SkimInput(file, lang.ValidText(raw), d)
	var list []function
	at := map[string]int{}
	judge := func(measure string, weights map[string]float64) {
		in.Weights = weights
		s := skim.Of(in)
		for k := range s.Regions {
			x := &s.Regions[k]
			if x.Symbol < 0 {
				continue
			}
			sym := &d.Outline[x.Symbol]
			key := fmt.Sprintf("%d %s", sym.NameLine, sym.Name)
			worth, labelled := labels[key]
			if !labelled {
				continue
			}
			if _, known := at[key]; !known {
				at[key] = len(list)
				deep := 0
				for p := sym.Parent; p >= 0; p = d.Outline[p].Parent {
					deep++
				}
				list = append(list, function{worth, r.Files[file].Path, sym.Name, map[string]float64{
					"order": -float64(sym.Start) / float64(s.Total), "depth": -float64(deep), "length": float64(sym.End - sym.Start + 1),
				}})
			}
			list[at[key]].scale[measure] = x.Worth
		}
	}
	judge("worth", nil)
	for _, left := range skim.Features {
		weights := map[string]float64{}
		for _, f := range skim.Features {
			if f.Name != left.Name {
				weights[f.Name] = f.Weight
			}
		}
		judge("without "+left.Name, weights)
	}
	return list, nil
}

// labelsOf are the labels of a package: path → "line name" → worth seeing.
func labelsOf(name string) (map[string]map[string]bool, error) {
	f, err := os.Open(filepath.Join("bench", "skim", "labels", name+".txt"))
	if err != nil {
		return nil, err
	}
	defer f.Close()
	out := map[string]map[string]bool{}
	lines := bufio.NewScanner(f)
	for lines.Scan() {
		part := strings.Split(lines.Text(), "\t")
		if strings.HasPrefix(lines.Text(), "#") || len(part) != 5 {
			continue
		}
		n, err := strconv.Atoi(part[2])
		if err != nil {
			return nil, fmt.Errorf("%s: %q: %w", f.Name(), lines.Text(), err)
		}
		if out[part[1]] == nil {
			out[part[1]] = map[string]bool{}
		}
		out[part[1]][fmt.Sprintf("%d %s", n, part[3])] = part[0] == "+"
	}
	return out, lines.Err()
}

// tell prints what stands furthest from where it should.
func tell(list []function) {
	sorted := append([]function(nil), list...)
	sort.SliceStable(sorted, func(i, j int) bool { return sorted[i].scale["worth"] < sorted[j].scale["worth"] })
	shown := 0
	for _, f := range sorted {
		if f.worth && shown < 25 {
			fmt.Printf("  low, though worth seeing: %.3f %s %s\n", f.scale["worth"], f.path, f.name)
			shown++
		}
	}
	for i := len(sorted) - 1; i >= 0 && shown < 50; i-- {
		if f := sorted[i]; !f.worth {
			fmt.Printf("  high, though not: %.3f %s %s\n", f.scale["worth"], f.path, f.name)
			shown++
		}
	}
}
