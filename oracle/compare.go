package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"runtime"
	"strings"
	"sync"

	"golang.org/x/sync/errgroup"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/tagged"
)

// said is what a language's own parser says of one file.
type said struct {
	Path     string  `json:"path"`
	Skip     string  `json:"skip"`     // why the parser could not read it
	Symbols  [][]any `json:"symbols"`  // level ("top" | "member"), name, line
	Imports  [][]any `json:"imports"`  // text, line
	Comments [][]int `json:"comments"` // first byte, byte after the last
}

// tally counts agreement of one sort.
type tally struct{ theirs, ours, both int }

func (t *tally) add(theirs, ours map[string]int) {
	for k, n := range theirs {
		t.theirs += n
		t.both += min(n, ours[k])
	}
	for _, n := range ours {
		t.ours += n
	}
}

func share(a, b int) float64 {
	if b == 0 {
		return 1
	}
	return float64(a) / float64(b)
}

type table struct {
	corpus
	files, skipped, unread        int
	top, members, imports, tagged tally
}

func (t table) good() bool {
	return share(t.top.both, t.top.theirs) >= 0.997 && share(t.top.both, t.top.ours) >= 0.995 &&
		share(t.members.both, t.members.theirs) >= 0.997 && share(t.imports.both, t.imports.theirs) >= 0.999 &&
		share(t.imports.both, t.imports.ours) >= 0.999 && t.tagged.both == t.tagged.theirs && t.tagged.both == t.tagged.ours
}

func percent(a, b int) string { return fmt.Sprintf("%.3f %%", 100*share(a, b)) }

func (t table) print(out io.Writer) {
	tagged := "-\t-\t-"
	if t.comments {
		tagged = fmt.Sprintf("%d\t%d\t%d", t.tagged.theirs, t.tagged.theirs-t.tagged.both, t.tagged.ours-t.tagged.both)
	}
	fmt.Fprintf(out, "%s\t%s\t%d\t%d\t%d\t%s\t%s\t%d\t%s\t%d\t%s\t%s\t%s\t\n", t.name, t.parser, t.files, t.skipped+t.unread,
		t.top.theirs, percent(t.top.both, t.top.theirs), percent(t.top.both, t.top.ours),
		t.members.theirs, percent(t.members.both, t.members.theirs),
		t.imports.theirs, percent(t.imports.both, t.imports.theirs), percent(t.imports.both, t.imports.ours), tagged)
}

func (c corpus) compare(ctx context.Context, shown int) (table, error) {
	t := table{corpus: c}
	paths, err := c.files()
	if err != nil {
		return t, err
	}
	answers, err := c.judge(ctx, paths)
	if err != nil {
		return t, err
	}
	var mu sync.Mutex
	show := map[string]int{}
	group, ctx := errgroup.WithContext(ctx)
	group.SetLimit(runtime.GOMAXPROCS(0))
	for _, a := range answers {
		if a.Skip != "" {
			t.skipped++
			continue
		}
		group.Go(func() error {
			content, err := os.ReadFile(a.Path)
			if err != nil {
				return err
			}
			l := all.OfPath(a.Path)
			ours, err := l.Read(ctx, content)
			mu.Lock()
			defer mu.Unlock()
			if err != nil || facts.Of(ctx, l, content).Depth != lang.Parsed {
				t.unread++
				return nil
			}
			t.files++
			t.one(a, content, ours, func(what, key string) {
				if show[what]++; show[what] <= shown {
					fmt.Fprintf(os.Stderr, "%s %s: %s\n", what, key, a.Path)
				}
			})
			return nil
		})
	}
	return t, group.Wait()
}

// one compares a file; each difference is told.
func (t *table) one(a said, content []byte, ours lang.Reading, differs func(what, key string)) {
	compare := func(what string, sum *tally, theirs, mine map[string]int) {
		sum.add(theirs, mine)
		for k, n := range theirs {
			if n > mine[k] {
				differs("missed "+what, k)
			}
		}
		for k, n := range mine {
			if n > theirs[k] && what != "member" {
				differs("extra "+what, k)
			}
		}
	}
	theirTop, theirMembers := symbols(a)
	ourTop, ourMembers := map[string]int{}, map[string]int{}
	for _, s := range ours.Outline {
		key := fmt.Sprint(s.Name, ":", s.NameLine)
		if s.Parent < 0 && s.Name == s.Qualified {
			ourTop[key]++
		} else {
			ourMembers[key]++
		}
	}
	compare("top", &t.top, theirTop, ourTop)
	compare("member", &t.members, theirMembers, ourMembers)
	theirs, mine := map[string]int{}, map[string]int{}
	for _, i := range a.Imports {
		theirs[fmt.Sprint(i[0], ":", i[1])]++
	}
	for _, i := range ours.Imports {
		mine[fmt.Sprint(i.Text, ":", i.Line)]++
	}
	compare("import", &t.imports, theirs, mine)
	if t.comments {
		compare("tagged", &t.tagged, tags(content, spans(a.Comments)), tags(content, ours.Comments))
	}
}

func symbols(a said) (top, members map[string]int) {
	top, members = map[string]int{}, map[string]int{}
	for _, s := range a.Symbols {
		key := fmt.Sprint(s[1], ":", s[2])
		if s[0] == "top" {
			top[key]++
		} else {
			members[key]++
		}
	}
	return top, members
}

func spans(pairs [][]int) []lang.Span {
	out := make([]lang.Span, len(pairs))
	for i, p := range pairs {
		out[i] = lang.Span{Start: p[0], End: p[1]}
	}
	return out
}

func tags(content []byte, comments []lang.Span) map[string]int {
	out := map[string]int{}
	for _, t := range facts.TaggedIn(content, comments, tagged.Standard) {
		out[fmt.Sprint(t.Word, ":", t.Line, " ", strings.ReplaceAll(t.Text, "\n", "⏎"))]++
	}
	return out
}
