package server

import (
	"context"
	"net/http"
	"path"
	"strings"
	"time"

	"juxtagram/core/repo"
)

// TreeInfo is what lies right below a folder at some commit, surveyed or not.
type TreeInfo struct {
	Commit  string      `json:"commit"`
	At      *time.Time  `json:"at" doc:"The commit's date"`
	Folder  string      `json:"folder"`
	Entries []TreeEntry `json:"entries" doc:"Folders first"`
}

// TreeEntry is one file or folder.
type TreeEntry struct {
	Name string `json:"name"`
	Path string `json:"path"`
	Mode string `json:"mode" enum:"file,executable,symlink,submodule,folder"`
}

// tree lists a folder at any commit, as git has it.
func (s *Server) tree(ctx context.Context, w *who, in *struct {
	RepositoryPath
	At   string `query:"at" minLength:"1" maxLength:"300" doc:"A commit id, tag or branch"`
	Path string `query:"path" maxLength:"5000" doc:"Empty for the root"`
}) (*body[TreeInfo], error) {
	g := s.jobs.Git(w.repository.ID)
	commit, err := g.Resolve(ctx, in.At)
	if err != nil {
		return nil, err
	}
	dir, err := repo.UnescapePath(in.Path, strings.Contains(in.Path, "%"))
	if err != nil || strings.Contains(dir, "\x00") {
		dir = strings.ReplaceAll(in.Path, "\x00", "")
	}
	found, err := g.Folder(ctx, commit, dir)
	if err != nil {
		return nil, err
	}
	if len(found) == 0 && dir != "" {
		return nil, problem(http.StatusNotFound, "not-found", "there is no such folder at this commit")
	}
	info := TreeInfo{Commit: commit, Folder: in.Path, Entries: []TreeEntry{}}
	if list, err := g.Commits(ctx, commit, nil, 1); err == nil && len(list) > 0 {
		info.At = moment(list[0].CommitTime)
	}
	for _, folders := range []bool{true, false} {
		for _, e := range found {
			if (e.Mode == "folder") == folders {
				p, _ := repo.EscapePath(e.Path)
				info.Entries = append(info.Entries, TreeEntry{path.Base(p), p, e.Mode})
			}
		}
	}
	return answer(info), nil
}
