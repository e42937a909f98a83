package server

import (
	"context"
	"errors"
	"net/http"
	"path"
	"strings"

	"juxtagram/core/plan/document"
	"juxtagram/core/repo"
)

// OfferedPlan is a plan file in the repository.
type OfferedPlan struct {
	Path     string `json:"path"`
	Title    string `json:"title"`
	Passages int    `json:"passages"`
	Problems int    `json:"problems" doc:"Items that cannot be taken as they are"`
	Fault    string `json:"fault" doc:"Why it cannot be read at all; empty: it can"`
}

// OfferedInfo are the plan files in the repository.
type OfferedInfo struct {
	Plans []OfferedPlan `json:"plans"`
	More  int           `json:"more" doc:"Further ones that were not looked at"`
}

// How many plan files of a repository are looked at, and how large each may be.
const (
	maxOffered     = 20
	maxOfferedSize = 4 << 20
)

// isPlanFile tells whether a path is called as plan files are.
func isPlanFile(p string) bool {
	return strings.HasSuffix(p, ".plan.json") || strings.HasSuffix(p, ".plan.md")
}

// folderOf is the folder that a file stands in; "": the root.
func folderOf(p string) string {
	if dir := path.Dir(p); dir != "." {
		return dir
	}
	return ""
}

func (s *Server) offeredPlans(ctx context.Context, w *who, _ *RepositoryPath) (*body[OfferedInfo], error) {
	info := OfferedInfo{Plans: []OfferedPlan{}}
	whole, _, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	for i := range whole.Files {
		f := &whole.Files[i]
		if !isPlanFile(f.Path) {
			continue
		}
		if len(info.Plans) == maxOffered {
			info.More++
			continue
		}
		o := OfferedPlan{Path: f.Path}
		content, err := s.readers.read(w.repository.ID, f.Blob, maxOfferedSize)
		if large := (*repo.TooLargeError)(nil); errors.As(err, &large) {
			o.Fault = "it is larger than 4 MB"
		} else if err != nil {
			return nil, err
		} else if state, problems, err := document.Read(content, document.Setting{Commit: w.repository.Pin, Folder: folderOf(f.Path)}); err != nil {
			o.Fault = err.Error()
		} else {
			o.Title, o.Passages, o.Problems = state.Title, len(state.Passages), len(problems)
		}
		info.Plans = append(info.Plans, o)
	}
	return answer(info), nil
}

func (s *Server) takeOffered(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Path    string `json:"path" maxLength:"5000" doc:"Of the plan file"`
		Private bool   `json:"private,omitempty"`
		Look    bool   `json:"look,omitempty" doc:"Only tell what would be taken"`
	}
}) (*body[TakenPlan], error) {
	f, err := s.find(ctx, w, &AtPath{FilePath: FilePath{in.RepositoryPath, in.Body.Path}})
	if err != nil {
		return nil, err
	}
	content, err := s.readers.read(w.repository.ID, f.blob, maxOfferedSize)
	if large := (*repo.TooLargeError)(nil); errors.As(err, &large) {
		return nil, problem(http.StatusUnprocessableEntity, "no-plan", "it is larger than 4 MB")
	}
	if err != nil {
		return nil, err
	}
	return s.takePlan(ctx, w, content, folderOf(in.Body.Path), in.Body.Look, in.Body.Private)
}
