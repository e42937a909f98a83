// Command origins compares where the survey says imports come from with what
// each language's own tools say: the go command, the TypeScript compiler, the
// import system of Python. It prints a table.
package main

import (
	"context"
	"flag"
	"fmt"
	"io/fs"
	"log"
	"os"
	"path"
	"path/filepath"
	"strings"
	"text/tabwriter"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/links/origin"
	"juxtagram/core/role"
)

// verdict is what a language's tool says of one import: a file, or a sort of
// origin with a name.
type verdict struct {
	to   origin.Kind
	name string // path from the root, or a dependency's name
}

// judge asks a language's tool about a tree.
type judge struct {
	name      string
	tool      string
	languages []string
	roots     func() ([]string, func(), error)
	ask       func(ctx context.Context, root string, t *tree) (map[question]verdict, error)
}

// question is one import of one file.
type question struct{ file, text string }

// tree is a folder read as a survey would.
type tree struct {
	*origin.Tree
	heads []facts.Head
	mains map[string]bool // folders in which some file is a program
}

func main() {
	shown := flag.Int("show", 0, "print so many differences of each tool")
	only := flag.String("only", "", "one language by name")
	flag.Parse()
	out := tabwriter.NewWriter(os.Stdout, 2, 8, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(out, "language\ttool\ttrees\timports\tas the tool says\tshare\t")
	failed := false
	for _, j := range judges {
		if *only != "" && *only != j.name {
			continue
		}
		roots, done, err := j.roots()
		if err != nil {
			log.Printf("%s: left out: %v", j.name, err)
			continue
		}
		all, right := 0, 0
		for _, root := range roots {
			a, r, err := j.compare(context.Background(), root, *shown)
			if err != nil {
				log.Printf("%s: %s left out: %v", j.name, root, err)
				continue
			}
			all, right = all+a, right+r
		}
		done()
		if all == 0 {
			continue
		}
		share := float64(right) / float64(all)
		failed = failed || share < 0.99
		fmt.Fprintf(out, "%s\t%s\t%d\t%d\t%d\t%.3f %%\t\n", j.name, j.tool, len(roots), all, right, 100*share)
	}
	out.Flush()
	if failed {
		log.Fatal("below what is asked for: 99 % as the tool says")
	}
}

func (j judge) compare(ctx context.Context, root string, shown int) (all, right int, err error) {
	t, err := readTree(ctx, root, j.languages)
	if err != nil {
		return 0, 0, err
	}
	said, err := j.ask(ctx, root, t)
	if err != nil {
		return 0, 0, err
	}
	resolvers := origin.Open(context.Background(), t.Tree)
	for i := range t.Files {
		f := &t.Files[i]
		for k := range t.heads[i].Imports {
			imp := &t.heads[i].Imports[k]
			want, ok := said[question{f.Path, imp.Text}]
			if !ok {
				continue
			}
			all++
			got := resolvers.Resolve(f, imp)
			if fits(t, want, got) {
				right++
			} else if shown > 0 {
				shown--
				log.Printf("%s: %q: the tool says %v, we %s %s %v (%s)", f.Path, imp.Text, want, got.To, got.Name, paths(t, got), got.Reason)
			}
		}
	}
	return all, right, nil
}

func paths(t *tree, o origin.Origin) []string {
	var out []string
	for _, f := range o.Files[:min(len(o.Files), 5)] {
		out = append(out, t.Files[f].Path)
	}
	return out
}

func fits(t *tree, want verdict, got origin.Origin) bool {
	if want.to != got.To {
		return false
	}
	switch want.to {
	case origin.ToFile:
		for _, f := range got.Files {
			if p := t.Files[f].Path; p == want.name || strings.TrimSuffix(want.name, "/") == filepath.Dir(p) {
				return true
			}
		}
		return false
	case origin.ToDependency:
		return want.name == "" || want.name == got.Name
	}
	return true
}

// readTree reads what lies below a folder; only files of the given languages
// are looked into.
func readTree(ctx context.Context, root string, languages []string) (*tree, error) {
	t := &tree{mains: map[string]bool{}}
	var files []origin.File
	manifests := map[string][]byte{}
	err := filepath.WalkDir(root, func(at string, d fs.DirEntry, err error) error {
		if err != nil || !d.Type().IsRegular() {
			return err
		}
		rel, err := filepath.Rel(root, at)
		if err != nil {
			return err
		}
		f := origin.File{Path: filepath.ToSlash(rel)}
		var head facts.Head
		l := all.OfPath(f.Path)
		wanted := origin.IsManifest(filepath.Base(at))
		if l != nil {
			f.Language = l.Name
			for _, name := range languages {
				wanted = wanted || name == l.Name
			}
		}
		if wanted {
			content, err := os.ReadFile(at)
			if err != nil {
				return err
			}
			if origin.IsManifest(filepath.Base(at)) && len(content) <= origin.MaxManifest {
				manifests[f.Path] = content
			}
			if l != nil && len(content) <= facts.MaxRead {
				x := facts.Of(ctx, l, content)
				for _, s := range x.Starts {
					if s.Kind == "program" {
						t.mains[path.Dir(f.Path)] = true
					}
				}
				x.Pack()
				if head, err = facts.UnpackHead(x.Linked.Head); err != nil {
					return err
				}
				f.Package = head.Package
			}
			f.Role = role.Source
		}
		files = append(files, f)
		t.heads = append(t.heads, head)
		return nil
	})
	t.Tree = origin.NewTree(files, manifests)
	return t, err
}

// asked lists the imports of a language's files, file by file.
func (t *tree) asked(language func(string) bool, each func(f *origin.File, i *lang.Import)) {
	for n := range t.Files {
		if language(t.Files[n].Language) {
			for k := range t.heads[n].Imports {
				each(&t.Files[n], &t.heads[n].Imports[k])
			}
		}
	}
}
