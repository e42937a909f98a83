package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"time"

	"juxtagram/core/plan"
	"juxtagram/store"
)

func (s *Server) planRoutes() []route {
	const plans = "/api/repositories/{repository}/plans"
	return []route{
		handle(s, "GET", plans, Read, "The plans of a repository, with how far you are", s.plans),
		handle(s, "POST", plans, Read, "Begin a plan; readers may begin private ones", s.addPlan, status(http.StatusCreated)),
		handle(s, "GET", plans+"/{plan}", Read, "One plan in reading order, with how far you are", s.plan),
		handle(s, "DELETE", plans+"/{plan}", Read, "Remove a plan: your own private one, or any as a writer", s.deletePlan),
		handle(s, "POST", plans+"/{plan}/ops", Read, "Change a plan by operations: all of them, or none", s.applyOps),
		handle(s, "POST", plans+"/{plan}/undo", Read, "Take back your last operation", s.undo),
		handle(s, "PUT", plans+"/{plan}/progress", Read, "Mark a passage done, or not done", s.setProgress),
		handle(s, "PUT", plans+"/{plan}/place", Read, "Remember the passage you are at", s.setPlace),
	}
}

// PlanSummary is a plan as a list shows it.
type PlanSummary struct {
	ID        int64     `json:"id"`
	Title     string    `json:"title"`
	Purpose   string    `json:"purpose"`
	Private   bool      `json:"private"`
	By        string    `json:"by" doc:"Who began it; empty: an account that is gone"`
	Mine      bool      `json:"mine"`
	Seq       int64     `json:"seq" doc:"The newest operation"`
	Chapters  int       `json:"chapters"`
	Passages  int       `json:"passages"`
	Minutes   int       `json:"minutes"`
	Done      int       `json:"done" doc:"Passages you have done"`
	Place     string    `json:"place" doc:"The passage you are at; empty: not begun"`
	ChangedAt time.Time `json:"changed_at"`
	MayWrite  bool      `json:"may_write"`
}

// PlanInfo is a plan in reading order.
type PlanInfo struct {
	PlanSummary
	InOrder []plan.ChapterInOrder `json:"in_order"`
	DoneIDs []string              `json:"done_ids" doc:"Passages you have done"`
}

func mayWrite(w *who, p *store.Plan) bool {
	if p.Private {
		return p.CreatedBy == w.person.ID
	}
	return w.role.Includes(store.Writer)
}

func planInfo(w *who, p *store.Plan, progress *store.Progress) PlanInfo {
	info := PlanInfo{PlanSummary: PlanSummary{ID: p.ID, Title: p.State.Title, Purpose: p.State.Purpose, Private: p.Private, By: p.CreatorName,
		Mine: p.CreatedBy == w.person.ID, Seq: p.Seq, Place: progress.Place, ChangedAt: p.ChangedAt, MayWrite: mayWrite(w, p)},
		InOrder: p.State.InOrder(), DoneIDs: []string{}}
	if info.InOrder == nil {
		info.InOrder = []plan.ChapterInOrder{}
	}
	info.Chapters = len(info.InOrder)
	for _, c := range info.InOrder {
		for _, x := range c.Passages {
			info.Passages++
			info.Minutes += x.Minutes
			if _, done := progress.Done[x.ID]; done {
				info.Done++
				info.DoneIDs = append(info.DoneIDs, x.ID)
			}
		}
	}
	return info
}

func (s *Server) plans(ctx context.Context, w *who, in *RepositoryPath) (*body[[]PlanSummary], error) {
	plans, err := s.store.Plans(ctx, in.Repository, w.person.ID)
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(plans))
	for i, p := range plans {
		ids[i] = p.ID
	}
	progress, err := s.store.ProgressOf(ctx, w.person.ID, ids)
	list := []PlanSummary{}
	for _, p := range plans {
		if err == nil {
			list = append(list, planInfo(w, p, progress[p.ID]).PlanSummary)
		}
	}
	return answer(list), err
}

// PlanPath names a plan of a repository.
type PlanPath struct {
	RepositoryPath
	Plan int64 `path:"plan" doc:"Id of the plan"`
}

// planOf finds a plan of the repository that the person may see.
func (s *Server) planOf(ctx context.Context, w *who, in PlanPath) (*store.Plan, error) {
	p, err := s.store.Plan(ctx, in.Plan)
	if err != nil {
		return nil, err
	}
	if p.RepositoryID != in.Repository || (p.Private && p.CreatedBy != w.person.ID) {
		return nil, store.ErrNotFound
	}
	return p, nil
}

func (s *Server) told(ctx context.Context, w *who, p *store.Plan) (*body[PlanInfo], error) {
	progress, err := s.store.ProgressOf(ctx, w.person.ID, []int64{p.ID})
	if err != nil {
		return nil, err
	}
	return answer(planInfo(w, p, progress[p.ID])), nil
}

func (s *Server) addPlan(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Title   string `json:"title" minLength:"1" maxLength:"200"`
		Private bool   `json:"private,omitempty"`
	}
}) (*body[PlanInfo], error) {
	if !in.Body.Private && !w.role.Includes(store.Writer) {
		return nil, problem(http.StatusForbidden, "not-allowed", "readers may begin private plans only")
	}
	p, err := s.store.AddPlan(ctx, in.Repository, in.Body.Title, in.Body.Private, w.person.ID)
	if err != nil {
		return nil, err
	}
	p.CreatorName = w.person.Name
	if err := s.publishPlan(ctx, p); err != nil {
		return nil, err
	}
	return s.told(ctx, w, p)
}

func (s *Server) publishPlan(ctx context.Context, p *store.Plan) error {
	e := store.Event{Kind: "plan", Repository: p.RepositoryID, Plan: p.ID, Seq: p.Seq}
	if p.Private {
		e.PrivateTo = p.CreatedBy
	}
	return s.store.Publish(ctx, e)
}

func (s *Server) plan(ctx context.Context, w *who, in *PlanPath) (*body[PlanInfo], error) {
	p, err := s.planOf(ctx, w, *in)
	if err != nil {
		return nil, err
	}
	return s.told(ctx, w, p)
}

// writable finds a plan that the person may change.
func (s *Server) writable(ctx context.Context, w *who, in PlanPath) (*store.Plan, error) {
	p, err := s.planOf(ctx, w, in)
	if err == nil && !mayWrite(w, p) {
		err = errNotAllowed
	}
	return p, err
}

func (s *Server) deletePlan(ctx context.Context, w *who, in *PlanPath) (*none, error) {
	p, err := s.writable(ctx, w, *in)
	if err != nil {
		return nil, err
	}
	if err := s.store.DeletePlan(ctx, p.ID); err != nil {
		return nil, err
	}
	return &none{}, s.publishPlan(ctx, p)
}

// ClientOp is an operation with the id its client gave it.
type ClientOp struct {
	ClientID string  `json:"client_id" minLength:"8" maxLength:"64" doc:"Sent twice, an operation is carried out once"`
	Op       plan.Op `json:"op"`
}

func (s *Server) applyOps(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Ops []ClientOp `json:"ops" minItems:"1" maxItems:"500"`
	}
}) (*body[PlanInfo], error) {
	p, err := s.writable(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	ops := make([]store.ClientOp, len(in.Body.Ops))
	for i, o := range in.Body.Ops {
		if o.Op.Kind == plan.AddPassage && o.Op.NewPs != nil {
			if err := s.checkTarget(ctx, w, o.Op.NewPs.Target); err != nil {
				return nil, err
			}
		}
		ops[i] = store.ClientOp{ClientID: o.ClientID, Op: o.Op}
	}
	changed, _, err := s.store.ApplyOps(ctx, p.ID, w.person.ID, ops)
	if err != nil {
		return nil, err
	}
	changed.CreatorName = p.CreatorName
	if err := s.publishPlan(ctx, changed); err != nil {
		return nil, err
	}
	return s.told(ctx, w, changed)
}

// checkTarget holds a new passage to what is really there: a path of that
// commit, and lines the file has.
func (s *Server) checkTarget(ctx context.Context, w *who, t plan.Target) error {
	if t.Kind == plan.Folder {
		v, err := s.store.SurveyAt(ctx, w.repository.ID, t.Commit)
		if err == nil {
			var row *store.PathRow
			if row, err = s.store.PathAt(ctx, v.ID, t.Path); err == nil && !row.Folder {
				err = store.ErrNotFound
			}
		}
		if errors.Is(err, store.ErrNotFound) {
			return problem(http.StatusUnprocessableEntity, "invalid", fmt.Sprintf("there is no folder %q at this commit", t.Path))
		}
		return err
	}
	f, err := s.find(ctx, w, &AtPath{FilePath: FilePath{Path: t.Path}, At: t.Commit})
	if err != nil {
		return err
	}
	if t.Kind == plan.Lines && f.row != nil && f.row.Lines != nil && t.End > *f.row.Lines {
		return problem(http.StatusUnprocessableEntity, "invalid", fmt.Sprintf("%s has %d lines, not %d", t.Path, *f.row.Lines, t.End))
	}
	return nil
}

func (s *Server) undo(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		ClientID string `json:"client_id" minLength:"8" maxLength:"64"`
	}
}) (*body[PlanInfo], error) {
	p, err := s.writable(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	changed, _, err := s.store.UndoLast(ctx, p.ID, w.person.ID, in.Body.ClientID)
	var cannot *plan.CannotUndo
	if errors.As(err, &cannot) {
		q := problem(http.StatusConflict, "cannot-undo", cannot.Reason)
		if by, err := s.store.Person(ctx, cannot.By); err == nil {
			q.By = by.Name
			q.Detail = by.Name + " changed this since; your change stays"
		}
		return nil, q
	}
	if err != nil {
		return nil, err
	}
	changed.CreatorName = p.CreatorName
	if err := s.publishPlan(ctx, changed); err != nil {
		return nil, err
	}
	return s.told(ctx, w, changed)
}

func (s *Server) passageOf(ctx context.Context, w *who, in PlanPath, passage string) error {
	p, err := s.planOf(ctx, w, in)
	if err != nil {
		return err
	}
	if x := p.State.Passages[passage]; x == nil || x.Removed {
		return problem(http.StatusNotFound, "not-found", "the passage is not there any more")
	}
	return nil
}

func (s *Server) setProgress(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Passage string `json:"passage" maxLength:"64"`
		Done    bool   `json:"done"`
	}
}) (*none, error) {
	if err := s.passageOf(ctx, w, in.PlanPath, in.Body.Passage); err != nil {
		return nil, err
	}
	return &none{}, s.store.SetProgress(ctx, in.Plan, w.person.ID, in.Body.Passage, in.Body.Done)
}

func (s *Server) setPlace(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Passage string `json:"passage" maxLength:"64"`
	}
}) (*none, error) {
	if err := s.passageOf(ctx, w, in.PlanPath, in.Body.Passage); err != nil {
		return nil, err
	}
	return &none{}, s.store.SetPlace(ctx, in.Plan, w.person.ID, in.Body.Passage)
}
