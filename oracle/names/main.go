// Command names compares the definition that the survey tells first for a name
// with what each language's own type checker says: go/types, and the compiler
// of TypeScript. It prints the share that is right among those shown as
// certain, and among all.
package main

import (
	"context"
	"flag"
	"fmt"
	"io/fs"
	"log"
	"os"
	"path/filepath"
	"sort"
	"text/tabwriter"

	"juxtagram/core/facts"
	"juxtagram/core/lang/all"
	"juxtagram/core/links"
	"juxtagram/core/links/names"
	"juxtagram/core/links/origin"
	"juxtagram/core/role"
)

// said is what a checker says of one name: the line that makes it, or that no
// file of the tree does.
type said struct {
	file         string
	line, column int // of the use; the column in bytes from 0
	name         string
	toFile       string // "": made elsewhere
	toLine       int
}

func main() {
	shown := flag.Int("show", 0, "print so many differences of each corpus")
	only := flag.String("only", "", "one corpus by name")
	every := flag.Int("every", 7, "ask for every n-th use")
	flag.Parse()
	out := tabwriter.NewWriter(os.Stdout, 2, 8, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(out, "corpus\tchecker\tuses\tanswered\tcertain\tright\tall here\tright\tnot here\tso told\tlargest answer\t")
	failed := false
	for _, c := range corpora {
		if *only != "" && *only != c.name {
			continue
		}
		t, err := c.compare(context.Background(), *every, *shown)
		if err != nil {
			log.Printf("%s: left out: %v", c.name, err)
			continue
		}
		fmt.Fprintf(out, "%s\t%s\t%d\t%.1f %%\t%d\t%.2f %%\t%d\t%.2f %%\t%d\t%.1f %%\t%d\t\n", c.name, c.checker, t.uses, share(t.answered, t.uses), t.certain, share(t.certainRight, t.certain),
			t.here, share(t.hereRight, t.here), t.away, share(t.awayRight, t.away), t.largest)
		failed = failed || share(t.certainRight, t.certain) < 97 || share(t.hereRight, t.here) < 85
	}
	out.Flush()
	if failed {
		log.Fatal("below what is asked for: 97 % of what is shown as certain, 85 % of all")
	}
}

func share(part, whole int) float64 {
	if whole == 0 {
		return 100
	}
	return 100 * float64(part) / float64(whole)
}

type tally struct{ uses, answered, certain, certainRight, here, hereRight, away, awayRight, largest int }

func (c corpus) compare(ctx context.Context, every, shown int) (tally, error) {
	var t tally
	root, done, err := c.root()
	if err != nil {
		return t, err
	}
	defer done()
	x, err := index(ctx, root, c.languages)
	if err != nil {
		return t, err
	}
	all, err := c.ask(ctx, root, x)
	if err != nil {
		return t, err
	}
	for n, s := range all {
		if n%every != 0 {
			continue
		}
		f := x.Find(s.file)
		if f < 0 {
			continue
		}
		a, err := x.DefinitionAt(f, s.line, s.column)
		if err != nil {
			return t, err
		}
		if a == nil || a.Name != s.name {
			continue
		}
		t.uses++
		t.largest = max(t.largest, len(a.Definitions))
		right := len(a.Definitions) > 0 && x.Files[a.Definitions[0].File].Path == s.toFile && (a.Definitions[0].Line == s.toLine)
		if len(a.Definitions) > 0 || a.Origin != nil {
			t.answered++
		}
		wrong := func(what string) {
			if shown > 0 {
				shown--
				got := "nothing"
				if len(a.Definitions) > 0 {
					d := a.Definitions[0]
					got = fmt.Sprintf("%s:%d (%s, %s)", x.Files[d.File].Path, d.Line, d.Certainty, d.Why)
				}
				log.Printf("%s: %s:%d:%d %s: checker %s:%d, we %s %v", what, s.file, s.line, s.column, s.name, s.toFile, s.toLine, got, a.Origin)
			}
		}
		if len(a.Definitions) > 0 && a.Definitions[0].Certainty.Certain() {
			t.certain++
			if right {
				t.certainRight++
			} else {
				wrong("certain")
			}
		}
		if s.toFile == "" {
			t.away++
			if len(a.Definitions) == 0 || !a.Definitions[0].Certainty.Certain() {
				t.awayRight++
			}
			continue
		}
		t.here++
		if right {
			t.hereRight++
		} else if len(a.Definitions) == 0 || !a.Definitions[0].Certainty.Certain() {
			wrong("unsure")
		}
	}
	return t, nil
}

// index reads a folder as a survey would.
func index(ctx context.Context, root string, languages map[string]bool) (*names.Index, error) {
	var files []names.File
	var tree []origin.File
	details := map[int]*facts.Details{}
	manifests := map[string][]byte{}
	err := filepath.WalkDir(root, func(at string, d fs.DirEntry, err error) error {
		if err != nil || !d.Type().IsRegular() {
			return err
		}
		rel, err := filepath.Rel(root, at)
		if err != nil {
			return err
		}
		content, err := os.ReadFile(at)
		if err != nil {
			return err
		}
		f := names.File{Path: filepath.ToSlash(rel), Role: role.Source}
		if origin.IsManifest(filepath.Base(at)) {
			manifests[f.Path] = content
		}
		if l := all.OfPath(f.Path); l != nil && languages[l.Name] && len(content) <= facts.MaxRead {
			f.Language = l.Name
			x := facts.Of(ctx, l, content)
			x.Pack()
			head, err := facts.UnpackHead(x.Linked.Head)
			if err != nil {
				return err
			}
			f.Package, f.Imports, f.Terms = head.Package, head.Imports, x.Linked.Terms
			if details[len(files)], err = facts.Unpack(x.Packed); err != nil {
				return err
			}
		}
		files = append(files, f)
		return nil
	})
	if err != nil {
		return nil, err
	}
	for i := range files {
		tree = append(tree, origin.File{Path: files[i].Path, Language: files[i].Language, Package: files[i].Package, Role: files[i].Role})
	}
	resolvers := origin.Open(context.Background(), origin.NewTree(tree, manifests))
	found := make([][]origin.Origin, len(files))
	for i := range files {
		for k := range files[i].Imports {
			found[i] = append(found[i], resolvers.Resolve(&tree[i], &files[i].Imports[k]))
		}
	}
	l := links.Collect(len(files), found, nil)
	return names.New(files, l, links.NewGraph(l), func(file int) (*facts.Details, error) { return details[file], nil }), nil
}

// inOrder sorts what a checker said by place.
func inOrder(all []said) []said {
	sort.Slice(all, func(i, j int) bool {
		a, b := all[i], all[j]
		switch {
		case a.file != b.file:
			return a.file < b.file
		case a.line != b.line:
			return a.line < b.line
		}
		return a.column < b.column
	})
	return all
}
