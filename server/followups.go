package server

import (
	"context"
	"net/http"
	"time"

	"juxtagram/store"
)

// FollowUpInfo is a commit that follows up a thread.
type FollowUpInfo struct {
	Commit  string     `json:"commit"`
	Subject string     `json:"subject" doc:"Empty: the commit is not in the history that was read"`
	At      *time.Time `json:"at" doc:"The committer's time"`
	By      string     `json:"by" doc:"Who linked it"`
}

// followUps tells of the commits that follow up threads.
func (s *Server) followUps(ctx context.Context, w *who, threads []int64) (map[int64][]FollowUpInfo, error) {
	found, err := s.store.FollowUps(ctx, threads)
	if err != nil || len(found) == 0 {
		return nil, err
	}
	l, err := s.log(ctx, w) // without it, commits are told by their ids
	out := make(map[int64][]FollowUpInfo, len(found))
	for id, list := range found {
		for _, f := range list {
			x := FollowUpInfo{Commit: f.Commit, By: f.By}
			if err == nil {
				if i := l.At(f.Commit); i >= 0 {
					at := time.Unix(l.Times[i], 0).UTC()
					x.Subject, x.At = l.Subjects[i], &at
				}
			}
			out[id] = append(out[id], x)
		}
	}
	return out, nil
}

func (s *Server) linkCommit(ctx context.Context, w *who, in *struct {
	NotePath
	Commit string `path:"commit" maxLength:"300" doc:"Its id, or a name that leads to it"`
}) (*body[ThreadInfo], error) {
	return s.turnLink(ctx, w, in.Annotation, in.Commit, true)
}

func (s *Server) unlinkCommit(ctx context.Context, w *who, in *struct {
	NotePath
	Commit string `path:"commit" maxLength:"300"`
}) (*body[ThreadInfo], error) {
	return s.turnLink(ctx, w, in.Annotation, in.Commit, false)
}

func (s *Server) turnLink(ctx context.Context, w *who, thread int64, name string, on bool) (*body[ThreadInfo], error) {
	t, err := s.threadOf(ctx, w, thread)
	if err != nil {
		return nil, err
	}
	commit, err := s.jobs.Git(w.repository.ID).Resolve(ctx, name)
	if err != nil {
		if !on {
			commit = name // a commit that is gone may be unlinked all the same
		} else {
			return nil, err
		}
	}
	if on && t.Target.Kind == store.OnCommit && t.Target.Commit == commit {
		return nil, problem(http.StatusUnprocessableEntity, "itself", "the thread is about this very commit")
	}
	if err := s.store.Link(ctx, t.ID, w.person.ID, commit, on); err != nil {
		return nil, err
	}
	return s.toldThread(ctx, w, t.ID)
}
