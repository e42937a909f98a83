package server

import (
	"context"
	"errors"

	"juxtagram/core/plan"
	"juxtagram/core/repo"
	"juxtagram/core/role"
	"juxtagram/store"
)

// planLore is what the repository says of what passages have one read. Files are
// looked up where they are asked for, or many at once before.
type planLore struct {
	s     *Server
	ctx   context.Context
	w     *who
	known map[[2]string]store.FileLore // commit and path
	read  map[string]int64             // commit → its survey; 0: none
	there map[string]bool              // commit → whether this repository has it
	err   error                        // the first that is no plain absence
}

// planLore is for one request: it holds its context, as plan.Lore has none.
func (s *Server) planLore(ctx context.Context, w *who) *planLore {
	return &planLore{s: s, ctx: ctx, w: w, known: map[[2]string]store.FileLore{}, read: map[string]int64{}, there: map[string]bool{}}
}

// commit tells whether the repository has a commit. Git is asked only for those
// that are neither the pin nor surveyed, and once for each.
func (l *planLore) commit(id string) bool {
	there, ok := l.there[id]
	if !ok {
		there = id == l.w.repository.Pin || l.survey(id) != 0
		if !there {
			_, err := l.s.jobs.Git(l.w.repository.ID).Resolve(l.ctx, id)
			var unknown *repo.UnknownPinError
			if err != nil && !errors.As(err, &unknown) {
				l.fail(err)
			}
			there = err == nil
		}
		l.there[id] = there
	}
	return there
}

// folder tells whether there is a folder at a commit.
func (l *planLore) folder(commit, path string) bool {
	if path == "" {
		return true
	}
	if id := l.survey(commit); id != 0 {
		row, err := l.s.store.PathAt(l.ctx, id, path)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			l.fail(err)
		}
		return err == nil && row.Folder
	}
	entries, err := l.s.jobs.Git(l.w.repository.ID).Folder(l.ctx, commit, path)
	return err == nil && len(entries) > 0
}

// survey is that of a commit; 0: there is none.
func (l *planLore) survey(commit string) int64 {
	id, ok := l.read[commit]
	if !ok {
		v, err := l.s.store.SurveyAt(l.ctx, l.w.repository.ID, commit)
		switch {
		case err == nil:
			id = v.ID
		case !errors.Is(err, store.ErrNotFound):
			l.fail(err)
		}
		l.read[commit] = id
	}
	return id
}

func (l *planLore) fail(err error) {
	if l.err == nil {
		l.err = err
	}
}

// load looks up the files of many targets, commit by commit.
func (l *planLore) load(targets []*plan.Target) {
	paths := map[string][]string{}
	for _, t := range targets {
		for _, x := range t.Stretches() {
			paths[x.Commit] = append(paths[x.Commit], x.Path)
		}
	}
	for commit, list := range paths {
		id := l.survey(commit)
		if id == 0 {
			continue
		}
		found, err := l.s.store.FilesAmong(l.ctx, id, list)
		if err != nil {
			l.fail(err)
			return
		}
		for path, f := range found {
			l.known[[2]string{commit, path}] = f
		}
	}
}

func (l *planLore) file(commit, path string) store.FileLore {
	key := [2]string{commit, path}
	f, ok := l.known[key]
	if ok {
		return f
	}
	f.Lines = -1
	found, err := l.s.findIn(l.ctx, l.w, commit, path)
	switch {
	case err != nil:
		l.fail(err)
	case found != nil && found.row != nil:
		f = store.LoreOf(found.row)
	case found != nil:
		f.Lines = -2
	}
	l.known[key] = f
	return f
}

// Lines implements plan.Lore.
func (l *planLore) Lines(commit, path string) int { return l.file(commit, path).Lines }

// Generated implements plan.Lore.
func (l *planLore) Generated(commit, path string) string {
	switch f := l.file(commit, path); f.Role {
	case role.Generated, role.Vendored:
		return f.Role + ": " + f.Evidence
	}
	return ""
}
