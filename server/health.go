package server

import (
	"context"
	"encoding/json"
	"net/http"
	"time"

	"juxtagram/core/plan"
	"juxtagram/core/plan/health"
)

// HealthInfo tells what became of a plan's passages at a commit.
type HealthInfo struct {
	Commit string `json:"commit" doc:"Where they were looked for"`
	health.Counts
	Left     int             `json:"left" doc:"Passages that there was no time to look for: asked again, more are known"`
	Passages []health.Report `json:"passages" doc:"Those that are read at another commit, in reading order"`
}

// healthTime is how long one request looks for places.
const healthTime = 5 * time.Second

func (s *Server) health(ctx context.Context, w *who, in *struct {
	PlanPath
	Edition string `query:"edition" maxLength:"10" doc:"A number, or draft; left out: what you read"`
	Commit  string `query:"commit" maxLength:"300" doc:"A commit, tag or branch; left out: the pin"`
}) (*body[HealthInfo], error) {
	v, err := s.viewOf(ctx, w, in.PlanPath, in.Edition)
	if err != nil {
		return nil, err
	}
	commit := w.repository.Pin
	if in.Commit != "" {
		if commit, err = s.jobs.Git(w.repository.ID).Resolve(ctx, in.Commit); err != nil {
			return nil, err
		}
	}
	find, err := s.placing(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	if find.log.At(commit) < 0 {
		return nil, problem(http.StatusConflict, "no-history", "the history of this commit is not read yet")
	}
	info := HealthInfo{Commit: commit, Passages: []health.Report{}}
	began := time.Now()
	for _, c := range v.state.InOrder() {
		for i := range c.Passages {
			x := &c.Passages[i]
			if x.Target.Commit == commit && x.Target.Follows() {
				info.Add(plan.Same)
				continue
			}
			places, err := find.target(ctx, &x.Target, time.Since(began) < healthTime)
			if err != nil {
				return nil, err
			}
			if places == nil {
				info.Left++
				continue
			}
			if len(places) == 0 {
				info.Add(plan.Same)
				continue
			}
			r := health.Of(x, commit, places)
			info.Add(r.What)
			info.Passages = append(info.Passages, r)
		}
	}
	return answer(info), nil
}

// target is what became of a target's places, kept as long as the log is; nil: it is
// not known, and there is no time to look.
func (p *placing) target(ctx context.Context, t *plan.Target, look bool) ([]health.Finding, error) {
	raw, err := json.Marshal(t)
	if err != nil {
		return nil, err
	}
	key := p.Commit() + string(raw)
	if known, ok := p.log.places.Get(key); ok || !look {
		return known, nil
	}
	found, err := health.Find(ctx, p.Follower, t)
	if err == nil {
		p.log.places.Add(key, found)
	}
	return found, err
}
