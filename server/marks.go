package server

import (
	"context"
	"slices"

	"juxtagram/core/plan"
)

func (s *Server) markRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/marks", Read, "Which paths plans hold, and which you have read", s.marks),
		handle(s, "GET", "/api/repositories/{repository}/passages", Read, "Passages of all plans you may see that have one read a file", s.passages),
		handle(s, "PUT", "/api/repositories/{repository}/opened", Read, "Remember that you opened a file to read it; only you see it", s.open),
	}
}

// MarksInfo is what people did with paths.
type MarksInfo struct {
	Planned []PlannedInfo `json:"planned" doc:"Passages of all plans you may see, in reading order"`
	Read    []string      `json:"read" doc:"Paths you opened, or whose passage you have done; the latest 20,000"`
	Written []WrittenOn   `json:"written" doc:"Paths about which there are open threads at the pin"`
}

// WrittenOn counts the open threads on a path.
type WrittenOn struct {
	Path    string `json:"path"`
	Threads int    `json:"threads"`
}

// PlannedInfo is one passage of a plan.
type PlannedInfo struct {
	Path    string `json:"path"`
	Folder  bool   `json:"folder"`
	Plan    int64  `json:"plan"`
	Title   string `json:"title" doc:"Of the plan"`
	Passage string `json:"passage" doc:"Its id"`
	Number  int    `json:"number" doc:"Of the passage in the plan, from 1"`
	Done    bool   `json:"done" doc:"By you"`
}

func (s *Server) marks(ctx context.Context, w *who, in *RepositoryPath) (*body[MarksInfo], error) {
	info := MarksInfo{Planned: []PlannedInfo{}, Read: []string{}, Written: []WrittenOn{}}
	read := map[string]bool{}
	note := func(p string) {
		if !read[p] {
			read[p] = true
			info.Read = append(info.Read, p)
		}
	}
	opened, err := s.store.Opened(ctx, in.Repository, w.person.ID)
	if err != nil {
		return nil, err
	}
	for _, p := range opened {
		note(p)
	}
	err = s.eachPassage(ctx, w, func(p *planView, n int, x *plan.Passage) {
		_, done := p.progress.Done[x.ID]
		for _, path := range x.Target.Paths() {
			info.Planned = append(info.Planned, PlannedInfo{path, x.Target.Kind == plan.Folder, p.ID, p.state.Title, x.ID, n, done})
			if done {
				note(path)
			}
		}
	})
	if err != nil {
		return nil, err
	}
	written, err := s.store.ThreadsByPath(ctx, in.Repository, w.person.ID, w.repository.Pin)
	if err != nil {
		return nil, err
	}
	for _, x := range written {
		info.Written = append(info.Written, WrittenOn{x.Path, x.Count})
	}
	return answer(info), nil
}

// PassageHere is a passage that has one read a file.
type PassageHere struct {
	Plan    int64          `json:"plan"`
	Title   string         `json:"title" doc:"Of the plan"`
	Number  int            `json:"number" doc:"Of the passage in the plan, from 1"`
	Passage plan.Passage   `json:"passage"`
	Places  []PassagePlace `json:"places" doc:"Where in the file; empty where it is read at another commit"`
}

// PassagePlace are lines of a file that a passage has one read.
type PassagePlace struct {
	Start int `json:"start" doc:"From 1; 0: the whole file"`
	End   int `json:"end"`
}

func (s *Server) passages(ctx context.Context, w *who, in *AtPath) (*body[[]PassageHere], error) {
	f, err := s.find(ctx, w, in)
	if err != nil {
		return nil, err
	}
	out := []PassageHere{}
	err = s.eachPassage(ctx, w, func(p *planView, n int, x *plan.Passage) {
		if places, touches := placesIn(&x.Target, in.Path, f.commit); touches {
			out = append(out, PassageHere{p.ID, p.state.Title, n, *x, places})
		}
	})
	if err != nil {
		return nil, err
	}
	return answer(out), nil
}

// placesIn are the lines of a file at a commit that a target has one read, each once;
// touches: it has one read the file, maybe at another commit.
func placesIn(t *plan.Target, path, commit string) (places []PassagePlace, touches bool) {
	places = []PassagePlace{}
	for _, x := range t.Stretches() {
		if x.Path != path {
			continue
		}
		touches = true
		at := PassagePlace{x.Start, x.End}
		if x.Commit == commit && !slices.Contains(places, at) {
			places = append(places, at)
		}
	}
	return places, touches
}

func (s *Server) open(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Path string `json:"path" minLength:"1" maxLength:"5000"`
	}
}) (*none, error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	if _, err := s.store.PathAt(ctx, v.ID, in.Body.Path); err != nil {
		return nil, err
	}
	return &none{}, s.store.Open(ctx, w.repository.ID, w.person.ID, in.Body.Path)
}
