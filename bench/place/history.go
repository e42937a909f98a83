package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"juxtagram/core/facts"
	"juxtagram/core/gitlog"
	"juxtagram/core/history"
	"juxtagram/core/place"
	"juxtagram/core/repo"
)

// releases are a repository with its log.
type releases struct {
	dir   string
	git   *repo.Git
	log   *gitlog.Log
	blobs *repo.Blobs
	texts map[[2]string]*place.Text
}

func open(ctx context.Context, dir string) (*releases, error) {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	r := &releases{dir: abs, git: repo.At(abs), texts: map[[2]string]*place.Text{}}
	r.blobs = r.git.Blobs()
	head, _, err := r.git.Head(ctx)
	if err != nil {
		return nil, err
	}
	refs, err := r.git.Refs(ctx)
	if err != nil {
		return nil, err
	}
	commits, err := history.ReadNew(ctx, r.git, []string{head}, nil, nil, nil)
	if err != nil {
		return nil, err
	}
	b := gitlog.NewBuilder()
	for _, c := range commits {
		if err := b.Add(&gitlog.Entry{Commit: c.Commit, Packed: history.PackChanges(c.Changes)}); err != nil {
			return nil, err
		}
	}
	idents := b.Idents()
	mapped := map[repo.Person]repo.Person{}
	for p := range idents {
		mapped[p] = p
	}
	r.log = b.Log(refs, head, history.Join(idents, mapped), nil)
	return r, nil
}

// text reads a file at a commit.
func (r *releases) text(commit, path string) (*place.Text, error) {
	id, err := r.blobs.Find(commit, path)
	if errors.Is(err, repo.ErrNoFile) {
		return nil, place.ErrNoFile
	}
	if err != nil {
		return nil, err
	}
	key := [2]string{id, path}
	if t := r.texts[key]; t != nil {
		return t, nil
	}
	content, err := r.blobs.Read(id, facts.MaxRead)
	if err != nil {
		return nil, place.ErrNoText
	}
	t := place.NewText(path, string(content))
	r.texts[key] = t
	return t, nil
}

// judgeReleases places lines of the commits of a repository at its head, and
// asks git's blame, read backwards, which of them live there and where.
func judgeReleases(ctx context.Context, dir string, files int) error {
	r, err := open(ctx, dir)
	if err != nil {
		return err
	}
	random := rand.New(rand.NewPCG(3, 4))
	n := r.log.Len()
	var all, right, wrong, lost, other int
	var took time.Duration
	for range files {
		from := int32(n/3 + random.IntN(n-n/3))
		entries, err := r.git.Tree(ctx, r.log.IDs[from], "")
		if err != nil || len(entries) == 0 {
			continue
		}
		e := entries[random.IntN(len(entries))]
		truth, err := r.survivors(ctx, r.log.IDs[from], r.log.IDs[0], e.Path)
		if err != nil {
			return err
		}
		old, err := r.text(r.log.IDs[from], e.Path)
		if err != nil {
			continue
		}
		began := time.Now()
		p := place.NewPlacer(r.log.WayOf(from, 0, r.text), place.NewKnown())
		for line := range old.Lines {
			if line%5 > 0 || strings.TrimSpace(old.Lines[line]) == "" {
				continue
			}
			out, err := p.Place(&place.Sign{Commit: r.log.IDs[from], Path: e.Path, Start: line + 1, End: line + 1})
			if err != nil {
				return fmt.Errorf("%s: %w", e.Path, err)
			}
			want, lives := truth[line+1]
			switch {
			case !lives && out.What == place.Gone:
				other++
			case !lives:
				other++ // edited or moved, or wrong: git does not tell
			case out.What == place.Gone:
				all++
				lost++
			case out.Spot == want:
				all++
				right++
			default:
				all++
				wrong++
			}
		}
		took += time.Since(began)
	}
	of := func(k int) float64 { return 100 * float64(k) / float64(max(1, all)) }
	fmt.Printf("%-26s %9d %7.2f%% %7.2f%% %7.2f%%   lines that live on, by blame --reverse; %d of which git tells nothing; %.0f lines/s\n",
		filepath.Base(dir), all, of(right), of(wrong), of(lost), other, float64(all+other)/took.Seconds())
	return nil
}

// survivors are the lines of a file that live unchanged at a later commit, with
// where they stand there.
func (r *releases) survivors(ctx context.Context, from, to, path string) (map[int]place.Spot, error) {
	cmd := exec.CommandContext(ctx, "git", "--git-dir="+r.git.Dir(), "blame", "--reverse", "--porcelain", from+".."+to, "--", path)
	cmd.Env = repo.Environ()
	out, err := cmd.Output()
	if err != nil {
		return nil, nil // git refuses where the file does not change at all, or is gone
	}
	found := map[int]place.Spot{}
	names := map[string]string{}
	commit, there, here := "", 0, 0
	lines := bufio.NewScanner(strings.NewReader(string(out)))
	lines.Buffer(nil, 1<<24)
	for lines.Scan() {
		l := lines.Text()
		if strings.HasPrefix(l, "\t") {
			if commit == to {
				found[here] = place.Spot{Path: names[commit], Start: there, End: there}
			}
			continue
		}
		if name, ok := strings.CutPrefix(l, "filename "); ok {
			names[commit] = name
			continue
		}
		f := strings.Fields(l)
		if len(f) >= 3 && len(f[0]) == 40 {
			commit = f[0]
			there, _ = strconv.Atoi(f[1])
			here, _ = strconv.Atoi(f[2])
		}
	}
	return found, nil
}
