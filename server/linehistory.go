package server

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/repo"
)

// LineHistoryInfo tells which commit each line of a file comes from.
type LineHistoryInfo struct {
	Commit    string        `json:"commit"`
	Path      string        `json:"path"`
	Commits   []LineCommit  `json:"commits"`
	Runs      [][]int32     `json:"runs" doc:"Lines in a row of one commit, in the order of the file: index in commits, number of lines, line number of the first in that commit"`
	Ignored   []IgnoredInfo `json:"ignored" doc:"Commits that are passed over, at most 50"`
	Unignored int           `json:"unignored" doc:"Commits that were to be passed over as well and are not: 400 are at most"`
	Bulk      int           `json:"bulk" doc:"Commits among those of the file that changed very many files"`
	Wide      int           `json:"wide" doc:"From how many changed files on that is"`
	Unshown   string        `json:"unshown" doc:"Why nothing is told; empty: it is"`
	Oldest    *time.Time    `json:"oldest"`
	Youngest  *time.Time    `json:"youngest"`
}

// LineCommit is a commit that lines come from.
type LineCommit struct {
	ID      string    `json:"id"`
	Subject string    `json:"subject"`
	Person  string    `json:"person"`
	Time    time.Time `json:"time"`
	Path    string    `json:"path" doc:"Of the file in it"`
	Lines   int       `json:"lines" doc:"Of the file that come from it"`
	CutOff  bool      `json:"cut_off" doc:"What came before it is not in this shallow repository: the lines may be older"`
	Youth   float64   `json:"youth" doc:"1: as young as the commit that is read; 0: as old as the first of all; by the square root of the age"`
}

// IgnoredInfo is a commit that is passed over.
type IgnoredInfo struct {
	CommitName
	Why string `json:"why" enum:"asked,listed,bulk" doc:"Asked for; listed in the repository's own file of revisions to ignore; changed very many files"`
}

// ignoreFile lists revisions to pass over, by git's convention.
const ignoreFile = ".git-blame-ignore-revs"

const (
	maxIgnored   = 400
	toldIgnored  = 50
	maxBlameTime = time.Minute
	maxBlameSize = 8 << 20
	wideCommit   = history.WideCommit
)

func (s *Server) lineHistory(ctx context.Context, w *who, in *struct {
	AtPath
	Past     []string `query:"past,explode" maxItems:"50" doc:"Commits to look behind: what stood there before them"`
	SkipBulk bool     `query:"skip_bulk" doc:"Look behind commits that changed very many files"`
}) (*body[LineHistoryInfo], error) {
	f, err := s.find(ctx, w, &in.AtPath)
	if err != nil {
		return nil, err
	}
	info := LineHistoryInfo{Commit: f.commit, Path: in.Path, Commits: []LineCommit{}, Runs: [][]int32{}, Ignored: []IgnoredInfo{}, Wide: wideCommit}
	content, err := s.readers.read(w.repository.ID, f.blob, maxBlameSize)
	switch {
	case err != nil:
		info.Unshown = "Files over 8 MB have no line history here."
		return answer(info), nil
	case bytes.IndexByte(content[:min(len(content), 8000)], 0) >= 0:
		if _, encoding := facts.Text(content); encoding == "" {
			info.Unshown = "The file is binary."
			return answer(info), nil
		}
	}
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	ids, err := s.ignoredIn(ctx, w, l, f.commit, &info, in.Path, in.Past, in.SkipBulk)
	if err != nil {
		return nil, err
	}
	b, err := s.blameOf(ctx, w, f.commit, rawPath(in.Path), ids)
	if ctx.Err() == nil && errors.Is(err, context.DeadlineExceeded) {
		info.Unshown = "Its line history took longer than a minute."
		return answer(info), nil
	}
	if err != nil {
		return nil, err
	}
	l.linesTold(b, &info)
	return answer(info), nil
}

// blameOf is the line history as it was kept, or as git tells it now.
func (s *Server) blameOf(ctx context.Context, w *who, commit, path string, ignored []string) (*repo.Blame, error) {
	sum := sha256.Sum256([]byte(path + "\x00" + strings.Join(ignored, " ")))
	key := commit + " " + hex.EncodeToString(sum[:])
	if b, err := s.store.Blame(ctx, w.repository.ID, key); err != nil || b != nil {
		return b, err
	}
	limited, cancel := context.WithTimeout(ctx, maxBlameTime)
	defer cancel()
	b, err := s.jobs.Git(w.repository.ID).Blame(limited, commit, path, ignored)
	if err != nil {
		return nil, err
	}
	return b, s.store.KeepBlame(ctx, w.repository.ID, key, b)
}

// ignoredIn are the commits to pass over, in a fixed order, as they are told.
func (s *Server) ignoredIn(ctx context.Context, w *who, l *heldLog, commit string, info *LineHistoryInfo, path string, past []string, skipBulk bool) ([]string, error) {
	var ids []string
	add := func(id, why string) {
		i := l.At(id)
		if i < 0 || slices.Contains(ids, id) {
			return
		}
		if len(ids) == maxIgnored {
			info.Unignored++
			return
		}
		ids = append(ids, id)
		if len(info.Ignored) < toldIgnored {
			info.Ignored = append(info.Ignored, IgnoredInfo{CommitName{id, l.Subjects[i]}, why})
		}
	}
	for _, p := range past {
		id := p
		if l.At(id) < 0 { // not a full id
			var err error
			if id, err = s.jobs.Git(w.repository.ID).Resolve(ctx, p); err != nil {
				return nil, err
			}
		}
		if l.At(id) < 0 {
			return nil, problem(http.StatusUnprocessableEntity, "not-understood", "commit "+p+" is not in the log")
		}
		add(id, "asked")
	}
	listed, err := s.listedIgnored(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	for _, id := range listed {
		add(id, "listed")
	}
	if at := l.At(commit); at >= 0 {
		for _, c := range l.Story(path, l.Reach(at)) {
			if l.Files[c.Commit] > wideCommit {
				info.Bulk++
				// the commit that made the file has nothing behind it
				if skipBulk && c.Status != 'A' {
					add(l.IDs[c.Commit], "bulk")
				}
			}
		}
	}
	return ids, nil
}

// listedIgnored are the full ids in the repository's own file of revisions to
// ignore, at a commit.
func (s *Server) listedIgnored(ctx context.Context, w *who, commit string) ([]string, error) {
	blob, err := s.readers.blobAt(ctx, w.repository.ID, commit, ignoreFile)
	if err != nil || blob == "" {
		return nil, ctx.Err() // there is none
	}
	content, err := s.readers.read(w.repository.ID, blob, 1<<20)
	if err != nil {
		return nil, nil //nolint:nilerr // one that cannot be read says nothing
	}
	var ids []string
	for _, line := range strings.Split(string(content), "\n") {
		line, _, _ = strings.Cut(line, "#")
		if id := strings.TrimSpace(line); len(id) == len(commit) {
			ids = append(ids, id)
		}
	}
	return ids, nil
}

// linesTold puts a line history into words.
func (l *heldLog) linesTold(b *repo.Blame, info *LineHistoryInfo) {
	lines := make([]int, len(b.Commits))
	for _, r := range b.Runs {
		lines[r.Commit] += int(r.Count)
		info.Runs = append(info.Runs, []int32{r.Commit, r.Count, r.Line})
	}
	now, first := int64(0), int64(math.MaxInt64)
	if i := l.At(info.Commit); i >= 0 {
		now = l.Times[i]
	}
	for i := range l.Times {
		if l.Times[i] > 0 {
			first = min(first, l.Times[i])
		}
	}
	for n, id := range b.Commits {
		c := LineCommit{ID: id, Lines: lines[n]}
		c.Path, _ = repo.EscapePath(b.Paths[n])
		if i := l.At(id); i >= 0 {
			c.Subject, c.Time = l.Subjects[i], time.Unix(l.Times[i], 0).UTC()
			c.Person = l.person(i)
			c.CutOff, c.Youth = l.Cut[i], youth(l.Times[i], now, first)
			if at := c.Time; info.Oldest == nil || at.Before(*info.Oldest) {
				info.Oldest = &at
			}
			if at := c.Time; info.Youngest == nil || at.After(*info.Youngest) {
				info.Youngest = &at
			}
		}
		info.Commits = append(info.Commits, c)
	}
}

// youth is 1 for a commit made now, and 0 for the first of all; ages count by
// their square root, since last week and last month differ more to a reader
// than nine years and ten.
func youth(at, now, first int64) float64 {
	age, most := math.Max(0, float64(now-at)), math.Max(1, float64(now-first))
	return math.Round(1000*math.Max(0, 1-math.Sqrt(age/most))) / 1000
}
