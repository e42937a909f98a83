// Command oracle compares what the survey reads in source files with what each
// language's own parser says of the same files, and prints a table. The
// corpora are what a machine with the languages has: Go's and Python's standard
// libraries, the packages below web/node_modules, the JDK's own source.
//
// With folders as arguments it reads what lies below them as a survey would,
// and tells by language what was read and what was given up.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"strings"
	"text/tabwriter"

	"juxtagram/core/reader"
	"juxtagram/core/sandbox"
)

// corpus is one language's files and the parser they are compared with.
type corpus struct {
	name   string
	parser string
	roots  func() []string
	exts   []string
	judge  func(ctx context.Context, paths []string) ([]said, error)
	// comments: the parser tells where comments are.
	comments bool
}

func main() {
	sandbox.Main(reader.Kind, sandbox.Tasks)
	shown := flag.Int("show", 0, "print so many differences of each sort")
	only := flag.String("only", "", "one corpus by name")
	flag.Parse()
	if flag.NArg() > 0 {
		if err := readFolders(context.Background(), flag.Args()); err != nil {
			log.Fatal(err)
		}
		return
	}
	out := tabwriter.NewWriter(os.Stdout, 2, 8, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(out, "corpus\tparser\tfiles\tleft out\ttop level\trecall\tprecision\tmembers\trecall\timports\trecall\tprecision\ttagged\tmissed\tfalse\t")
	failed := false
	for _, c := range corpora() {
		if *only != "" && *only != c.name {
			continue
		}
		t, err := c.compare(context.Background(), *shown)
		if err != nil {
			log.Printf("%s: left out: %v", c.name, err)
			continue
		}
		t.print(out)
		failed = failed || !t.good()
	}
	out.Flush()
	if failed {
		log.Fatal("below what is asked for: recall of declarations 99.7 %, precision of top-level ones 99.5 %, imports 99.9 %, tagged comments exact")
	}
}

// files lists what lies below the roots and has one of the endings, in order.
func (c corpus) files() ([]string, error) {
	var out []string
	for _, root := range c.roots() {
		err := filepath.WalkDir(root, func(path string, d os.DirEntry, err error) error {
			if err != nil {
				return err
			}
			if d.IsDir() && d.Name() == "site-packages" {
				return filepath.SkipDir
			}
			if d.Type().IsRegular() {
				for _, ext := range c.exts {
					if strings.HasSuffix(path, ext) {
						out = append(out, path)
						break
					}
				}
			}
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("no files below %v", c.roots())
	}
	return out, nil
}
