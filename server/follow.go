package server

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"juxtagram/core/follow"
	"juxtagram/core/place"
)

func (s *Server) followRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/follow", Read, "Where lines of a file stand at another commit", s.follow, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/since", Read, "Whether a file changed after a commit", s.since, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/differences", Read, "Where two texts differ, line by line", s.differences, surveyed),
	}
}

// FollowInfo is what became of some lines at another commit, by the same search that
// follows annotations and passages.
type FollowInfo struct {
	Commit     string            `json:"commit" doc:"The other one, as a full id"`
	Path       string            `json:"path" doc:"Of the file there; empty: it is not there"`
	Start      int               `json:"start" doc:"Of lines that are gone: where one looks for them"`
	End        int               `json:"end"`
	State      place.State       `json:"state" enum:"same,moved,changed,gone"`
	Candidates []place.Candidate `json:"candidates" doc:"Of lines that are gone: where they may be, the likeliest first"`
}

func (s *Server) follow(ctx context.Context, w *who, in *struct {
	AtPath
	To    string `query:"to" required:"true" minLength:"1" maxLength:"300" doc:"A commit id, tag or branch"`
	Start int    `query:"start" minimum:"1" default:"1"`
	End   int    `query:"end" minimum:"1" default:"1"`
}) (*body[FollowInfo], error) {
	from, err := s.find(ctx, w, &in.AtPath)
	if err != nil {
		return nil, err
	}
	commit, err := s.jobs.Git(w.repository.ID).Resolve(ctx, in.To)
	if err != nil {
		return nil, err
	}
	p, err := s.placing(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	point := follow.Point{Kind: follow.Lines, Commit: from.commit, Path: in.Path, Start: in.Start, End: max(in.Start, in.End)}
	text, err := p.Text(from.commit, in.Path)
	switch {
	case errors.Is(err, place.ErrNoText): // binary: the file as a whole
		point.Kind = follow.File
	case err != nil:
		return nil, err
	default:
		point.End = min(point.End, len(text.Lines))
		point.Start = min(point.Start, point.End)
		point.Quote = place.QuoteOf(text, point.Start, point.End)
	}
	o, err := p.Point(ctx, &point)
	if err != nil {
		return nil, err
	}
	info := FollowInfo{commit, o.Path, o.Start, o.End, o.What, append([]place.Candidate{}, o.Candidates...)}
	if o.What == place.Gone {
		if err := s.whereGone(ctx, p, &point, &info); err != nil {
			return nil, err
		}
	}
	return answer(info), nil
}

// whereGone shows, of lines that are gone, the file that held them, where it is there.
func (s *Server) whereGone(ctx context.Context, p *placing, point *follow.Point, info *FollowInfo) error {
	file := *point
	file.Kind = follow.File
	o, err := p.Point(ctx, &file)
	if err != nil || o.What == place.Gone {
		return err
	}
	info.Path, info.Start, info.End = o.Path, 1, 1
	text, err := p.Text(info.Commit, o.Path)
	if err == nil {
		info.Start = max(1, min(point.Start, len(text.Lines)))
		info.End = info.Start
	}
	if len(info.Candidates) > 0 {
		c := info.Candidates[0]
		info.Path, info.Start, info.End = c.Path, c.Start, c.End
	}
	if errors.Is(err, place.ErrNoText) {
		err = nil
	}
	return err
}

// findIn is find for a file that may not be there: nil.
func (s *Server) findIn(ctx context.Context, w *who, commit, path string) (*found, error) {
	f, err := s.find(ctx, w, &AtPath{FilePath: FilePath{RepositoryPath{w.repository.ID}, path}, At: commit})
	if none := (*Problem)(nil); errors.As(err, &none) && none.Status == http.StatusNotFound {
		return nil, nil
	}
	return f, err
}

// SinceInfo tells whether the repository went on with a file.
type SinceInfo struct {
	Branch  string `json:"branch" doc:"The branch that is asked; empty: the repository has none"`
	Commit  string `json:"commit" doc:"Where it stands"`
	Changes int    `json:"changes" doc:"Commits on it after the given one that changed the file"`
	More    bool   `json:"more" doc:"There are more than were counted"`
}

// maxSince is how many later changes are counted.
const maxSince = 1000

func (s *Server) since(ctx context.Context, w *who, in *AtPath) (*body[SinceInfo], error) {
	f, err := s.find(ctx, w, in)
	if err != nil {
		return nil, err
	}
	g := s.jobs.Git(w.repository.ID)
	head, branch, err := g.Head(ctx)
	if err != nil || head == "" {
		return answer(SinceInfo{}), err
	}
	n := 0
	if !strings.Contains(in.Path, "\x00") {
		if n, err = g.CountSince(ctx, f.commit, head, in.Path, maxSince+1); err != nil {
			return nil, err
		}
	}
	return answer(SinceInfo{branch, head, min(n, maxSince), n > maxSince}), nil
}

// DifferencesInfo are the runs of lines in which two texts differ.
type DifferencesInfo struct {
	Old   PlaceInfo  `json:"old"`
	New   PlaceInfo  `json:"new"`
	Hunks []HunkInfo `json:"hunks" doc:"In the order of lines"`
}

// HunkInfo is one run of lines that differ. Lines count from 1; of a count of 0,
// start is the line before.
type HunkInfo struct {
	OldStart int32 `json:"old_start"`
	OldCount int32 `json:"old_count"`
	NewStart int32 `json:"new_start"`
	NewCount int32 `json:"new_count"`
}

// PlaceInfo is a file at a commit.
type PlaceInfo struct {
	Path   string    `json:"path"`
	Commit string    `json:"commit"`
	Time   time.Time `json:"time" doc:"When that was committed"`
}

func (s *Server) differences(ctx context.Context, w *who, in *struct {
	AtPath
	Beside      string `query:"beside" required:"true" minLength:"1" maxLength:"5000" doc:"Path of the other file"`
	BesideAt    string `query:"beside_at" maxLength:"300" doc:"Its commit; left out: the pin"`
	IgnoreSpace bool   `query:"ignore_space"`
}) (*body[DifferencesInfo], error) {
	a, err := s.find(ctx, w, &in.AtPath)
	if err != nil {
		return nil, err
	}
	b, err := s.find(ctx, w, &AtPath{FilePath: FilePath{in.RepositoryPath, in.Beside}, At: in.BesideAt})
	if err != nil {
		return nil, err
	}
	g := s.jobs.Git(w.repository.ID)
	info := DifferencesInfo{PlaceInfo{Path: in.Path, Commit: a.commit}, PlaceInfo{Path: in.Beside, Commit: b.commit}, []HunkInfo{}}
	for _, p := range []*PlaceInfo{&info.Old, &info.New} {
		if p.Time, err = s.timeOf(ctx, w, p.Commit); err != nil {
			return nil, err
		}
	}
	hunks, err := g.Compare(ctx, a.blob, b.blob, in.IgnoreSpace)
	for _, h := range hunks {
		info.Hunks = append(info.Hunks, HunkInfo(h))
	}
	return answer(info), err
}

// timeOf is when a commit was committed.
func (s *Server) timeOf(ctx context.Context, w *who, commit string) (time.Time, error) {
	if at, err := s.store.CommitTime(ctx, w.repository.ID, commit); err == nil {
		return at, nil
	}
	commits, err := s.jobs.Git(w.repository.ID).Commits(ctx, commit, nil, 1)
	if err != nil || len(commits) == 0 {
		return time.Time{}, err
	}
	return time.Unix(commits[0].CommitTime, 0).UTC(), nil
}
