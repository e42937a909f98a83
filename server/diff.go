package server

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/highlight"
	"juxtagram/core/lang"
	"juxtagram/core/repo"
)

// DiffInfo tells how a file differs between two commits.
type DiffInfo struct {
	Old     *DiffSide   `json:"old,omitempty" doc:"Left out: it was not there"`
	New     *DiffSide   `json:"new,omitempty" doc:"Left out: it is not there"`
	Classes []string    `json:"classes" doc:"Names of the classes that tokens speak of"`
	Pieces  []DiffPiece `json:"pieces" doc:"In the order of lines"`
	Added   int         `json:"added"`
	Deleted int         `json:"deleted"`
	Places  []HunkInfo  `json:"places" doc:"Where the changes lie in the whole file"`
	Large   bool        `json:"large" doc:"Too many lines changed to be sent unasked: ask with whole"`
	Cut     int         `json:"cut" doc:"Changed lines that are not sent even so"`
	Unshown string      `json:"unshown" doc:"Why no lines are told; empty: they are"`
	Picture bool        `json:"picture" doc:"Both sides, as far as they are there, are pictures"`
}

// DiffSide is the file at one of the commits.
type DiffSide struct {
	PlaceInfo
	Lines int   `json:"lines"`
	Size  int64 `json:"size"`
}

// DiffPiece is a run of lines: the same in both, or changed.
type DiffPiece struct {
	Kind     string     `json:"kind" enum:"same,hidden,changed" doc:"Hidden: the same, and not sent"`
	OldStart int        `json:"old_start" doc:"Number of the first line; of none, the line that would come next"`
	NewStart int        `json:"new_start"`
	Count    int        `json:"count" doc:"Lines of a run that is the same"`
	Same     []DiffLine `json:"same,omitempty"`
	Removed  []DiffLine `json:"removed,omitempty"`
	Added    []DiffLine `json:"added,omitempty"`
}

// DiffLine is a line with its colours.
type DiffLine struct {
	Line
	Tokens []int `json:"tokens,omitempty" doc:"Length (UTF-16 units) and class of each piece"`
}

// How much of a diff is sent.
const (
	largeDiff   = 2000  // changed lines that are sent unasked
	maxDiff     = 20000 // and at all
	maxDiffSize = 8 << 20
)

func (s *Server) diff(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Path        string `query:"path" required:"true" minLength:"1" maxLength:"5000" doc:"Of the file at the newer commit; where it is gone there, at the older"`
	OldPath     string `query:"old_path" maxLength:"5000" doc:"At the older commit; left out: the same"`
	From        string `query:"from" maxLength:"300" doc:"The older commit; left out: nothing, as before a first commit"`
	To          string `query:"to" required:"true" minLength:"1" maxLength:"300" doc:"The newer commit"`
	Context     int    `query:"context" minimum:"0" maximum:"10000000" default:"3" doc:"Lines around each change"`
	IgnoreSpace bool   `query:"ignore_space"`
	Whole       bool   `query:"whole" doc:"Send a large diff as well"`
}) (*body[DiffInfo], error) {
	info := &DiffInfo{Classes: highlight.Names, Pieces: []DiffPiece{}, Places: []HunkInfo{}}
	old, err := s.diffSide(ctx, w, in.From, first(in.OldPath, in.Path))
	if err != nil {
		return nil, err
	}
	now, err := s.diffSide(ctx, w, in.To, in.Path)
	if err != nil {
		return nil, err
	}
	if old == nil && now == nil {
		return nil, notThere(in.Path + " is in neither commit")
	}
	for _, x := range []struct {
		from *sided
		into **DiffSide
	}{{old, &info.Old}, {now, &info.New}} {
		if x.from != nil {
			*x.into = &x.from.DiffSide
		}
	}
	switch {
	case pictureOf(old, now):
		info.Picture, info.Unshown = true, "These are pictures."
		return answer(*info), nil
	case old.large() || now.large():
		info.Unshown = "A side has over 8 MB; such files are not compared line by line."
		return answer(*info), nil
	case old.binary() || now.binary():
		info.Unshown = "The file is binary."
		return answer(*info), nil
	}
	hunks, err := s.hunksOf(ctx, w, old, now, in.IgnoreSpace)
	if err != nil {
		return nil, err
	}
	for _, h := range hunks {
		info.Places = append(info.Places, HunkInfo(h))
		info.Added, info.Deleted = info.Added+int(h.NewCount), info.Deleted+int(h.OldCount)
	}
	if info.Added+info.Deleted > largeDiff && !in.Whole {
		info.Large = true
		return answer(*info), nil
	}
	s.pieces(ctx, info, old, now, hunks, in.Context)
	return answer(*info), nil
}

func first(a, b string) string {
	if a != "" {
		return a
	}
	return b
}

// sided is a side with its content.
type sided struct {
	DiffSide
	found   *found
	content []byte
	over    bool
}

func (d *sided) large() bool { return d != nil && d.over }
func (d *sided) binary() bool {
	return d != nil && bytes.IndexByte(d.content[:min(len(d.content), 8000)], 0) >= 0
}

func pictureOf(sides ...*sided) bool {
	for _, d := range sides {
		if d != nil && (d.over || !strings.HasPrefix(http.DetectContentType(d.content[:min(len(d.content), 512)]), "image/")) {
			return false
		}
	}
	return true
}

// diffSide reads one side; nil: the file is not there.
func (s *Server) diffSide(ctx context.Context, w *who, commit, path string) (*sided, error) {
	if commit == "" {
		return nil, nil
	}
	id, err := s.jobs.Git(w.repository.ID).Resolve(ctx, commit)
	if err != nil {
		return nil, err
	}
	f, err := s.findIn(ctx, w, id, path)
	if err != nil || f == nil {
		return nil, err
	}
	d := &sided{found: f, DiffSide: DiffSide{PlaceInfo: PlaceInfo{Path: path, Commit: id}}}
	if d.Time, err = s.timeOf(ctx, w, id); err != nil {
		return nil, err
	}
	d.content, err = s.readers.read(w.repository.ID, f.blob, maxDiffSize)
	if large := (*repo.TooLargeError)(nil); errors.As(err, &large) {
		d.Size, d.over = large.Size, true
		return d, nil
	}
	if err != nil {
		return nil, err
	}
	d.Size = int64(len(d.content))
	d.content, _ = facts.Text(d.content)
	d.Lines = facts.CountLines(d.content)
	return d, nil
}

func (s *Server) hunksOf(ctx context.Context, w *who, old, now *sided, ignoreSpace bool) ([]repo.Hunk, error) {
	switch {
	case old == nil && now.Lines == 0, now == nil && old.Lines == 0:
		return nil, nil
	case old == nil:
		return []repo.Hunk{{NewStart: 1, NewCount: int32(now.Lines)}}, nil
	case now == nil:
		return []repo.Hunk{{OldStart: 1, OldCount: int32(old.Lines)}}, nil
	case old.found.blob == now.found.blob:
		return nil, nil
	}
	return s.jobs.Git(w.repository.ID).Compare(ctx, old.found.blob, now.found.blob, ignoreSpace)
}

// side gives the lines of one side with their colours.
type side struct {
	lines  [][]byte
	tokens [][]highlight.Piece
}

func (s *Server) sideOf(ctx context.Context, d *sided) side {
	if d == nil {
		return side{}
	}
	out := side{lines: cut(d.content, 1, d.Lines)}
	if d.found.language != nil && len(d.content) <= highlight.MaxSize {
		out.tokens, _, _ = s.colours.lines(ctx, d.found.blob, d.found.language, d.content, 1, d.Lines)
	}
	return out
}

// of is the lines from..to, from 1, to not included.
func (x side) of(from, to int) []DiffLine {
	out := []DiffLine{}
	for n := from; n < to && n <= len(x.lines); n++ {
		l := DiffLine{Line: clip(lang.ValidText(x.lines[n-1]))}
		if n <= len(x.tokens) {
			l.Tokens = flat(x.tokens[n-1])
		}
		out = append(out, l)
	}
	return out
}

// pieces cuts both sides into runs of lines.
func (s *Server) pieces(ctx context.Context, info *DiffInfo, old, now *sided, hunks []repo.Hunk, around int) {
	a, b := s.sideOf(ctx, old), s.sideOf(ctx, now)
	atOld, atNew := 1, 1 // the lines that come next
	sent := 0
	same := func(count int, first, last bool) {
		if count <= 0 {
			return
		}
		head, tail := around, around
		if first {
			head = 0
		}
		if last {
			tail = 0
		}
		if head+tail+3 >= count { // a gap that hides next to nothing is none
			head, tail = count, 0
		}
		tell := func(kind string, n int) {
			if n <= 0 {
				return
			}
			p := DiffPiece{Kind: kind, OldStart: atOld, NewStart: atNew, Count: n}
			if kind == "same" {
				p.Same = b.of(atNew, atNew+n)
			}
			info.Pieces = append(info.Pieces, p)
			atOld, atNew = atOld+n, atNew+n
		}
		tell("same", head)
		tell("hidden", count-head-tail)
		tell("same", tail)
	}
	for n, h := range hunks {
		// of no lines, the start is the line before
		startOld, startNew := int(h.OldStart), int(h.NewStart)
		if h.OldCount == 0 {
			startOld++
		}
		if h.NewCount == 0 {
			startNew++
		}
		same(startNew-atNew, n == 0, false)
		atOld, atNew = startOld, startNew
		p := DiffPiece{Kind: "changed", OldStart: atOld, NewStart: atNew}
		if sent < maxDiff {
			p.Removed, p.Added = a.of(atOld, atOld+int(h.OldCount)), b.of(atNew, atNew+int(h.NewCount))
		} else {
			info.Cut += int(h.OldCount + h.NewCount)
		}
		sent += int(h.OldCount + h.NewCount)
		info.Pieces = append(info.Pieces, p)
		atOld, atNew = atOld+int(h.OldCount), atNew+int(h.NewCount)
	}
	if now != nil && len(hunks) > 0 {
		same(now.Lines-atNew+1, false, true)
	}
}
