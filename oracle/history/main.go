// Command history compares what the log says with git's own answers, on random
// samples: the order of all commits, changes and renames, the commits that each
// term keeps, containing refs, ahead and behind, descent, and line history. It
// reads the repositories that it is given; with none, this project's own, and
// histories made of the releases of some packages, one commit a release.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"math/rand"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"text/tabwriter"

	"juxtagram/core/gitlog"
	"juxtagram/core/history"
	"juxtagram/core/repo"
)

func main() {
	samples := flag.Int("n", 40, "how many samples of each question")
	flag.Parse()
	ctx := context.Background()
	dirs := flag.Args()
	if len(dirs) == 0 {
		scratch, err := os.MkdirTemp("", "history-oracle-")
		if err != nil {
			log.Fatal(err)
		}
		defer os.RemoveAll(scratch)
		dirs = append([]string{".git"}, releases(ctx, scratch)...)
	}
	out := tabwriter.NewWriter(os.Stdout, 2, 8, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(out, "repository\tcommits\tquestions\tother answers\t")
	wrong := 0
	for _, dir := range dirs {
		j, err := judge(ctx, dir, *samples)
		if err != nil {
			log.Printf("%s: left out: %v", dir, err)
			continue
		}
		fmt.Fprintf(out, "%s\t%d\t%d\t%d\t\n", called(dir), j.log.Len(), j.asked, j.wrong)
		wrong += j.wrong
	}
	out.Flush()
	if wrong > 0 {
		log.Fatal("the log does not say what git says")
	}
}

// called is the name of a repository by its folder.
func called(dir string) string {
	if abs, err := filepath.Abs(dir); err == nil && filepath.Base(abs) == ".git" {
		return filepath.Base(filepath.Dir(abs))
	}
	return filepath.Base(dir)
}

// judged is one repository under examination.
type judged struct {
	git          *repo.Git
	log          *gitlog.Log
	commits      map[string]*history.Commit
	asked, wrong int
}

func judge(ctx context.Context, dir string, samples int) (*judged, error) {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	j := &judged{git: repo.At(abs), commits: map[string]*history.Commit{}}
	refs, err := j.git.Refs(ctx)
	if err != nil {
		return nil, err
	}
	head, _, err := j.git.Head(ctx)
	if err != nil {
		return nil, err
	}
	tips := []string{head}
	for _, r := range refs {
		tips = append(tips, r.Commit)
	}
	commits, err := history.ReadNew(ctx, j.git, tips, nil, nil, nil)
	if err != nil {
		return nil, err
	}
	b := gitlog.NewBuilder()
	for _, c := range commits {
		j.commits[c.ID] = c
		if err := b.Add(&gitlog.Entry{Commit: c.Commit, Packed: history.PackChanges(c.Changes)}); err != nil {
			return nil, err
		}
	}
	idents := b.Idents()
	mapped := map[repo.Person]repo.Person{}
	for p := range idents {
		mapped[p] = p
	}
	shallow, err := j.git.Shallow()
	if err != nil {
		return nil, err
	}
	j.log = b.Log(refs, head, history.Join(idents, mapped), shallow)
	return j, j.all(ctx, rand.New(rand.NewSource(1)), samples)
}

// all asks every question, samples of those that are of single commits or files.
func (j *judged) all(ctx context.Context, r *rand.Rand, samples int) error {
	g, l := j.git, j.log
	everything := []string{"rev-list", "--date-order", "HEAD", "--branches", "--tags"}
	want, err := j.words(ctx, everything...)
	if err != nil {
		return err
	}
	j.same("order", strings.Join(l.IDs, " "), strings.Join(want, " "))
	if err := j.changes(ctx); err != nil {
		return err
	}
	for range samples {
		i, k := r.Int31n(int32(l.Len())), r.Int31n(int32(l.Len()))
		a, b := l.IDs[i], l.IDs[k]
		var refs []string
		for _, x := range l.Containing(i) {
			refs = append(refs, "refs/"+map[string]string{"branch": "heads", "tag": "tags"}[x.Kind]+"/"+x.Name)
		}
		got, err := j.words(ctx, "for-each-ref", "--format=%(refname)", "--contains", a, "refs/heads", "refs/tags")
		if err != nil {
			return err
		}
		slices.Sort(refs)
		slices.Sort(got)
		j.same("containing "+a, strings.Join(refs, " "), strings.Join(got, " "))
		onlyA, onlyB := l.Apart(i, k)
		if got, err = j.words(ctx, "rev-list", "--left-right", "--count", a+"..."+b); err != nil {
			return err
		}
		j.same("apart "+a+" "+b, fmt.Sprint(onlyA.Count(), " ", onlyB.Count()), strings.Join(got, " "))
		_, notBelow := g.Run(ctx, "merge-base", "--is-ancestor", b, a)
		j.same("descent "+a+" "+b, fmt.Sprint(l.Descends(i, k)), fmt.Sprint(notBelow == nil))
	}
	return j.files(ctx, r, samples, everything)
}

// changes compares all changes with one pass of `git log --raw -M`.
func (j *judged) changes(ctx context.Context) error {
	out, err := j.git.Run(ctx, "log", "--raw", "-M", "-l1000", "--no-abbrev", "-z", "--format=%x01%H", "--no-merges", "HEAD", "--branches", "--tags")
	if err != nil {
		return err
	}
	for _, part := range strings.Split(string(out), "\x01")[1:] {
		id, rest, _ := strings.Cut(part, "\x00")
		var theirs, ours []string
		fields := strings.Split(strings.TrimLeft(rest, "\x00\n"), "\x00")
		for i := 0; i < len(fields); i++ {
			f := strings.Fields(fields[i])
			if len(f) != 5 || !strings.HasPrefix(fields[i], ":") {
				continue
			}
			line := f[4][:1] + " " + fields[i+1]
			if f[4][0] == 'R' {
				line += " → " + fields[i+2]
				i++
			}
			i++
			theirs = append(theirs, line)
		}
		c := j.commits[strings.TrimSpace(id)]
		if c == nil {
			return fmt.Errorf("git names commit %q, which was not read", id)
		}
		for _, x := range c.Changes {
			line := string(x.Status) + " " + x.Path
			if x.Status == 'R' {
				line = "R " + x.OldPath + " → " + x.Path
			}
			ours = append(ours, line)
		}
		j.same("changes of "+id, strings.Join(ours, "\n"), strings.Join(theirs, "\n"))
	}
	return nil
}

// files compares line history, and the commits that touch a path.
func (j *judged) files(ctx context.Context, r *rand.Rand, samples int, everything []string) error {
	out, err := j.git.Run(ctx, "ls-tree", "-r", "-z", "--name-only", "HEAD")
	if err != nil {
		return err
	}
	paths := strings.Split(strings.TrimRight(string(out), "\x00"), "\x00")
	for range min(samples, len(paths)) {
		p := paths[r.Intn(len(paths))]
		b, err := j.git.Blame(ctx, "HEAD", p, nil)
		if err != nil {
			return err
		}
		var ours, theirs strings.Builder
		for _, run := range b.Runs {
			for n := range run.Count {
				fmt.Fprintf(&ours, "%s %d\n", b.Commits[run.Commit], run.Line+n)
			}
		}
		// another form of git's answer, read in another way
		lines, err := j.git.Run(ctx, "--literal-pathspecs", "blame", "--incremental", "HEAD", "--", p)
		if err != nil {
			return err
		}
		theirs.WriteString(unrolled(string(lines)))
		j.same("line history of "+p, ours.String(), theirs.String())
		shown, _ := repo.EscapePath(p)
		sel, problems := j.log.Narrow([]gitlog.Term{{Key: "path", Value: shown}}, nil)
		if problems != nil {
			j.same("commits that touch "+p, problems[0].Why, "")
			continue
		}
		var got []string
		for _, i := range sel.Commits {
			got = append(got, j.log.IDs[i])
		}
		want, err := j.words(ctx, append(append([]string{"--literal-pathspecs"}, everything...), "--no-merges", "--full-history", "--", p)...)
		if err != nil {
			return err
		}
		j.same("commits that touch "+p, strings.Join(got, " "), strings.Join(want, " "))
	}
	return nil
}

// unrolled makes lines of what blame tells by groups, in any order.
func unrolled(text string) string {
	lines := map[int]string{}
	for _, line := range strings.Split(text, "\n") {
		f := strings.Fields(line)
		if len(f) != 4 || (len(f[0]) != 40 && len(f[0]) != 64) {
			continue
		}
		var from, at, n int
		if k, _ := fmt.Sscan(strings.Join(f[1:], " "), &from, &at, &n); k != 3 {
			continue
		}
		for i := range n {
			lines[at+i] = fmt.Sprintf("%s %d\n", f[0], from+i)
		}
	}
	var out strings.Builder
	for n := 1; n <= len(lines); n++ {
		out.WriteString(lines[n])
	}
	return out.String()
}

func (j *judged) words(ctx context.Context, args ...string) ([]string, error) {
	out, err := j.git.Run(ctx, args...)
	return strings.Fields(string(out)), err
}

func (j *judged) same(question, ours, theirs string) {
	j.asked++
	if ours == theirs {
		return
	}
	if j.wrong++; j.wrong <= 5 {
		log.Printf("%s: ours\n%.600s\ngit's\n%.600s", question, ours, theirs)
	}
}
