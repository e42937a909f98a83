package main

import (
	"context"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"sort"
	"sync"
	"text/tabwriter"

	"golang.org/x/sync/errgroup"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/reader"
)

// reading is what was read of the files of one language.
type reading struct {
	files, parsed, lexed, symbols, imports int
	bytes                                  int64
	reasons                                map[string]int
}

// readFolders reads every file below some folders as a survey would, in
// processes of their own, and prints by language what came of it: a crash, a
// hang or a file that is given up shows among the reasons.
func readFolders(ctx context.Context, folders []string) error {
	pool := reader.New(runtime.GOMAXPROCS(0))
	defer pool.Close()
	var mu sync.Mutex
	sums := map[string]*reading{}
	group, ctx := errgroup.WithContext(ctx)
	group.SetLimit(runtime.GOMAXPROCS(0))
	for _, folder := range folders {
		err := filepath.WalkDir(folder, func(path string, d fs.DirEntry, err error) error {
			if err != nil || !d.Type().IsRegular() {
				return err
			}
			l := all.OfPath(path)
			if l == nil {
				return nil
			}
			group.Go(func() error {
				content, err := os.ReadFile(path)
				if err != nil || len(content) == 0 {
					return err
				}
				got := &facts.Facts{Depth: lang.Listed, Reason: "larger than 4 MB"}
				if len(content) <= facts.MaxRead {
					got = pool.Facts(ctx, l.Name, content)
				}
				details, err := facts.Unpack(got.Packed)
				mu.Lock()
				defer mu.Unlock()
				sums[l.Name] = sums[l.Name].add(got, details, len(content))
				return err
			})
			return ctx.Err()
		})
		if err != nil {
			return err
		}
	}
	if err := group.Wait(); err != nil {
		return err
	}
	printReadings(sums)
	return nil
}

func (r *reading) add(got *facts.Facts, details *facts.Details, size int) *reading {
	if r == nil {
		r = &reading{reasons: map[string]int{}}
	}
	r.files++
	r.bytes += int64(size)
	switch got.Depth {
	case lang.Parsed:
		r.parsed++
	case lang.Lexed:
		r.lexed++
	default:
		r.reasons[got.Reason]++
	}
	if details != nil {
		r.symbols += len(details.Outline)
		r.imports += len(details.Imports)
	}
	return r
}

func printReadings(sums map[string]*reading) {
	var names []string
	for n := range sums {
		names = append(names, n)
	}
	sort.Strings(names)
	out := tabwriter.NewWriter(os.Stdout, 2, 8, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(out, "language\tfiles\tkB\tparsed\tlexed\tsymbols\timports\tnot read\t")
	for _, n := range names {
		r := sums[n]
		fmt.Fprintf(out, "%s\t%d\t%d\t%d\t%d\t%d\t%d\t%v\t\n", n, r.files, r.bytes>>10, r.parsed, r.lexed, r.symbols, r.imports, r.reasons)
	}
	out.Flush()
}
