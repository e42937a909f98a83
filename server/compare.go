package server

import (
	"context"
	"net/http"
	"time"

	"juxtagram/store"
)

func (s *Server) compareRoutes() []route {
	const at = "/api/repositories/{repository}/compare"
	return []route{
		handle(s, "GET", at, Read, "How far two commits have gone apart, and in which files they differ", s.compare),
		handle(s, "GET", at+"/size", Read, "How many lines two commits differ by, all files counted", s.compareSize, surveyed),
		handle(s, "GET", at+"/said", Read, "How what the code says differs: symbols, entry points, recipes, passages", s.compareSaid, surveyed),
	}
}

// Ends are the two sides of a comparison.
type Ends struct {
	From string `query:"from" required:"true" minLength:"1" maxLength:"300" doc:"A commit id, tag or branch"`
	To   string `query:"to" required:"true" minLength:"1" maxLength:"300" doc:"Another"`
	Fork bool   `query:"fork" doc:"Compare the second with where it left the first, not with the first itself"`
}

// CompareInfo compares two commits.
type CompareInfo struct {
	From    CompareEnd   `json:"from"`
	To      CompareEnd   `json:"to"`
	Base    string       `json:"base" doc:"The commit that files are compared with: the first, or where they went apart"`
	Fork    CommitName   `json:"fork" doc:"Where they went apart: their best common ancestor; empty: they have none"`
	Ahead   int          `json:"ahead" doc:"Commits that only the second has"`
	Behind  int          `json:"behind" doc:"Commits that only the first has"`
	Newer   []LogRow     `json:"newer" doc:"Those that only the second has, at most 200"`
	Older   []LogRow     `json:"older" doc:"Those that only the first has, at most 200"`
	Changes []ChangeInfo `json:"changes" doc:"A page of the files that differ"`
	Total   int          `json:"total" doc:"Files that differ"`
}

// CompareSize is how large a difference is.
type CompareSize struct {
	Added   int `json:"added" doc:"Lines"`
	Deleted int `json:"deleted"`
}

// CompareEnd is one of the commits.
type CompareEnd struct {
	CommitName
	Time     time.Time `json:"time"`
	Refs     []RefName `json:"refs"`
	Surveyed bool      `json:"surveyed"`
	Pin      bool      `json:"pin"`
}

const maxCompared = 200

// ends resolves both sides, and the commit that files are compared with.
func (s *Server) ends(ctx context.Context, w *who, in *Ends) (from, to, fork, base string, err error) {
	g := s.jobs.Git(w.repository.ID)
	if from, err = g.Resolve(ctx, in.From); err != nil {
		return
	}
	if to, err = g.Resolve(ctx, in.To); err != nil {
		return
	}
	if fork, err = g.MergeBase(ctx, from, to); err != nil {
		return
	}
	base = from
	if in.Fork {
		if base = fork; base == "" {
			err = problem(http.StatusConflict, "no-fork", "these commits share no history: there is nowhere that they went apart")
		}
	}
	return
}

func (s *Server) compare(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Ends
	Offset int `query:"offset" minimum:"0"`
	Limit  int `query:"limit" minimum:"1" maximum:"1000" default:"300"`
}) (*body[CompareInfo], error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	from, to, fork, base, err := s.ends(ctx, w, &in.Ends)
	if err != nil {
		return nil, err
	}
	info := CompareInfo{Base: base, Fork: CommitName{ID: fork}, Newer: []LogRow{}, Older: []LogRow{}}
	if i := l.At(fork); i >= 0 {
		info.Fork.Subject = l.Subjects[i]
	}
	for _, e := range []struct {
		id   string
		into *CompareEnd
	}{{from, &info.From}, {to, &info.To}} {
		e.into.ID, e.into.Pin, e.into.Refs = e.id, e.id == w.repository.Pin, []RefName{}
		if e.into.Time, err = s.timeOf(ctx, w, e.id); err != nil {
			return nil, err
		}
		if v, err := s.store.SurveyAt(ctx, w.repository.ID, e.id); err == nil {
			e.into.Surveyed = v.State == store.Complete
		}
		if i := l.At(e.id); i >= 0 {
			row := l.row(i, int(i))
			e.into.Subject, e.into.Refs = row.Subject, row.Refs
		}
	}
	a, b := l.At(from), l.At(to)
	if a >= 0 && b >= 0 {
		onlyA, onlyB := l.Apart(a, b)
		info.Ahead, info.Behind = onlyB.Count(), onlyA.Count()
		info.Newer, info.Older = l.someRows(onlyB.List()), l.someRows(onlyA.List())
	}
	g := s.jobs.Git(w.repository.ID)
	found, err := g.DifferentPaths(ctx, base, to)
	if err != nil {
		return nil, err
	}
	info.Total = len(found)
	page := found[min(in.Offset, len(found)):min(in.Offset+in.Limit, len(found))]
	if err := g.CountLines(ctx, base, to, page); err != nil {
		return nil, err
	}
	info.Changes, _, _ = s.changesTold(ctx, w, page)
	return answer(info), nil
}

func (s *Server) compareSize(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Ends
}) (*body[CompareSize], error) {
	_, to, _, base, err := s.ends(ctx, w, &in.Ends)
	if err != nil {
		return nil, err
	}
	found, err := s.jobs.Git(w.repository.ID).Differences(ctx, base, to)
	var size CompareSize
	for _, d := range found {
		size.Added, size.Deleted = size.Added+int(d.Added), size.Deleted+int(d.Deleted)
	}
	return answer(size), err
}

func (l *heldLog) someRows(commits []int32) []LogRow {
	out := []LogRow{}
	for n, i := range commits[:min(len(commits), maxCompared)] {
		out = append(out, l.row(i, n))
	}
	return out
}
