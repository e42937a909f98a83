package server

import (
	"context"
	"net/http"
	"slices"
	"strconv"
	"time"

	"juxtagram/core/note"
	"juxtagram/core/plan"
	"juxtagram/store"
)

const plansAt = "/api/repositories/{repository}/plans"

func (s *Server) planRoutes() []route {
	return []route{
		handle(s, "GET", plansAt, Read, "The plans of a repository, with how far you are", s.plans),
		handle(s, "POST", plansAt, Read, "Begin a plan; readers may begin private ones", s.addPlan, status(http.StatusCreated)),
		handle(s, "GET", plansAt+"/{plan}", Read, "One plan in reading order, with how far you are", s.plan),
		handle(s, "POST", plansAt+"/{plan}/copy", Read, "Begin a plan as a copy of one, for other readers", s.copyPlan, status(http.StatusCreated)),
		handle(s, "DELETE", plansAt+"/{plan}", Read, "Remove a plan: your own private one, or any as a writer", s.deletePlan),
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
	Edition   int       `json:"edition" doc:"That is told of; 0: the draft"`
	Newest    int       `json:"newest" doc:"The newest edition; 0: none is published"`
	Ahead     bool      `json:"ahead" doc:"The draft holds more than the newest edition; told to those who may write"`
	Budget    int       `json:"budget" doc:"Minutes that readers have; 0: no limit"`
	Chapters  int       `json:"chapters"`
	Passages  int       `json:"passages"`
	Minutes   int       `json:"minutes"`
	Elsewhere int       `json:"elsewhere" doc:"Passages that are read at another commit than the pin"`
	Done      int       `json:"done" doc:"Passages you have done"`
	Place     string    `json:"place" doc:"The passage you are at; empty: not begun"`
	ChangedAt time.Time `json:"changed_at"`
	MayWrite  bool      `json:"may_write"`
}

// PlanInfo is a plan in reading order.
type PlanInfo struct {
	PlanSummary
	Goal    *plan.Goal            `json:"goal,omitempty" doc:"What it was drafted for; left out: it was not"`
	Aside   map[string]string     `json:"aside" doc:"What it leaves out on purpose: key of the thing, and why"`
	InOrder []plan.ChapterInOrder `json:"in_order"`
	Ideas   []plan.Idea           `json:"ideas"`
	DoneIDs []string              `json:"done_ids" doc:"Passages you have done"`
	Skipped []SkippedInfo         `json:"skipped" doc:"Passages you leave out"`
	Shown   bool                  `json:"shown" doc:"You show others where you are, and writers how you get on"`
	Texts   map[string]string     `json:"texts,omitempty" doc:"On request: the texts of passages as HTML that is safe to show, by passage"`
}

// SkippedInfo is a passage that somebody leaves out.
type SkippedInfo struct {
	Passage string `json:"passage"`
	Reason  string `json:"reason"`
}

func mayWrite(w *who, p *store.Plan) bool {
	if p.Private {
		return p.CreatedBy == w.person.ID
	}
	return w.role.Includes(store.Writer)
}

// mayRead tells whether somebody finds a plan at all: drafts that were never
// published are for those who write them.
func mayRead(w *who, p *store.Plan) bool {
	return mayWrite(w, p) || !p.Private && p.Edition > 0
}

// planView is a plan as somebody looks at it.
type planView struct {
	*store.Plan
	state    *plan.State
	edition  int // 0: the draft
	progress *store.Progress
}

// view finds the state of a plan that is asked for: an edition by its number,
// "draft", or "" for what the person reads.
func (s *Server) view(ctx context.Context, w *who, p *store.Plan, asked string, progress *store.Progress) (*planView, error) {
	v := &planView{Plan: p, progress: progress}
	switch asked {
	case "":
		if v.edition = progress.Edition; v.edition == 0 || v.edition > p.Edition {
			v.edition = p.Edition
		}
	case "draft":
		if !mayWrite(w, p) {
			return nil, errNotAllowed
		}
	default:
		n, err := strconv.Atoi(asked)
		if err != nil || n < 1 {
			return nil, problem(http.StatusUnprocessableEntity, "invalid", "an edition is a number, or the draft")
		}
		v.edition = n
	}
	if v.edition == 0 {
		v.state = p.State
		return v, nil
	}
	var err error
	v.state, err = s.store.EditionState(ctx, p.ID, v.edition)
	return v, err
}

// viewOf is a plan by its address, as somebody asks to look at it: see view.
func (s *Server) viewOf(ctx context.Context, w *who, in PlanPath, asked string) (*planView, error) {
	p, err := s.planOf(ctx, w, in)
	if err != nil {
		return nil, err
	}
	progress, err := s.progressIn(ctx, w, []*store.Plan{p})
	if err != nil {
		return nil, err
	}
	return s.view(ctx, w, p, asked, progress[p.ID])
}

func (v *planView) info(w *who) PlanInfo {
	p := v.Plan
	info := PlanInfo{PlanSummary: PlanSummary{ID: p.ID, Title: v.state.Title, Purpose: v.state.Purpose, Private: p.Private, By: p.CreatorName, Mine: p.CreatedBy == w.person.ID, Seq: p.Seq,
		Edition: v.edition, Newest: p.Edition, Budget: v.state.Budget, Place: v.progress.Place, ChangedAt: p.ChangedAt, MayWrite: mayWrite(w, p)},
		Goal: v.state.Goal, Aside: v.state.Asides(), InOrder: v.state.InOrder(), Ideas: v.state.IdeasInOrder(), DoneIDs: []string{}, Skipped: []SkippedInfo{}, Shown: v.progress.Shown}
	info.Ahead = info.MayWrite && p.Seq > p.EditionSeq
	info.Chapters = len(info.InOrder)
	for _, c := range info.InOrder {
		for _, x := range c.Passages {
			info.Passages++
			info.Minutes += x.Minutes
			if x.Target.Commit != w.repository.Pin && x.Target.Follows() {
				info.Elsewhere++
			}
			if _, done := v.progress.Done[x.ID]; done {
				info.Done++
				info.DoneIDs = append(info.DoneIDs, x.ID)
			}
			if reason, skipped := v.progress.Skipped[x.ID]; skipped {
				info.Skipped = append(info.Skipped, SkippedInfo{x.ID, reason})
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
	plans = slices.DeleteFunc(plans, func(p *store.Plan) bool { return !mayRead(w, p) })
	progress, err := s.progressIn(ctx, w, plans)
	if err != nil {
		return nil, err
	}
	list := []PlanSummary{}
	for _, p := range plans {
		v, err := s.view(ctx, w, p, "", progress[p.ID])
		if err != nil {
			return nil, err
		}
		list = append(list, v.info(w).PlanSummary)
	}
	return answer(list), nil
}

// progressIn is how far somebody is with plans.
func (s *Server) progressIn(ctx context.Context, w *who, plans []*store.Plan) (map[int64]*store.Progress, error) {
	ids := make([]int64, len(plans))
	for i, p := range plans {
		ids[i] = p.ID
	}
	return s.store.ProgressOf(ctx, w.person.ID, ids)
}

// eachPassage calls do with the passages of all plans that somebody may see, in
// reading order, each with its number from 1: of the draft where they may write
// it, else of the newest edition.
func (s *Server) eachPassage(ctx context.Context, w *who, do func(p *planView, n int, x *plan.Passage)) error {
	plans, err := s.store.Plans(ctx, w.repository.ID, w.person.ID)
	if err != nil {
		return err
	}
	progress, err := s.progressIn(ctx, w, plans)
	if err != nil {
		return err
	}
	for _, p := range plans {
		if !mayRead(w, p) {
			continue
		}
		asked := ""
		if mayWrite(w, p) {
			asked = "draft"
		}
		v, err := s.view(ctx, w, p, asked, progress[p.ID])
		if err != nil {
			return err
		}
		n := 0
		for _, c := range v.state.InOrder() {
			for i := range c.Passages {
				n++
				do(v, n, &c.Passages[i])
			}
		}
	}
	return nil
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
	if p.RepositoryID != in.Repository || !mayRead(w, p) {
		return nil, store.ErrNotFound
	}
	return p, nil
}

// writable finds a plan that the person may change.
func (s *Server) writable(ctx context.Context, w *who, in PlanPath) (*store.Plan, error) {
	p, err := s.planOf(ctx, w, in)
	if err == nil && !mayWrite(w, p) {
		err = errNotAllowed
	}
	return p, err
}

func (s *Server) told(ctx context.Context, w *who, p *store.Plan, edition string, texts bool) (*body[PlanInfo], error) {
	progress, err := s.store.ProgressOf(ctx, w.person.ID, []int64{p.ID})
	if err != nil {
		return nil, err
	}
	v, err := s.view(ctx, w, p, edition, progress[p.ID])
	if err != nil {
		return nil, err
	}
	info := v.info(w)
	if texts {
		if info.Texts, err = s.planTexts(ctx, w, &info); err != nil {
			return nil, err
		}
	}
	return answer(info), nil
}

// planTexts are the texts of a plan's passages as HTML. The first word in each
// that names an idea leads to it.
func (s *Server) planTexts(ctx context.Context, w *who, info *PlanInfo) (map[string]string, error) {
	l, err := s.noteLore(ctx, w, "")
	if err != nil {
		return nil, err
	}
	for _, c := range info.InOrder {
		for _, p := range c.Passages {
			if err := l.loadFiles(ctx, p.Text); err != nil {
				return nil, err
			}
		}
	}
	links := l.links()
	links.Idea = func(id string) string { return "#idea-" + id }
	for _, i := range info.Ideas {
		links.Terms = append(links.Terms, note.Term{Word: i.Name, Address: "#idea-" + i.ID})
	}
	out := map[string]string{}
	for _, c := range info.InOrder {
		for _, p := range c.Passages {
			if p.Text != "" {
				out[p.ID] = note.HTML(p.Text, links)
			}
		}
	}
	return out, nil
}

func (s *Server) addPlan(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Title   string `json:"title" minLength:"1" maxLength:"200"`
		Private bool   `json:"private,omitempty"`
	}
}) (*body[PlanInfo], error) {
	state := plan.New()
	if err := state.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", To: in.Body.Title}); err != nil {
		return nil, err
	}
	return s.beginPlan(ctx, w, state, in.Body.Private)
}

// beginPlan keeps a new plan.
func (s *Server) beginPlan(ctx context.Context, w *who, state *plan.State, private bool) (*body[PlanInfo], error) {
	if !private && !w.role.Includes(store.Writer) {
		return nil, problem(http.StatusForbidden, "not-allowed", "readers may begin private plans only")
	}
	p, err := s.store.AddPlan(ctx, w.repository.ID, state, private, w.person.ID)
	if err != nil {
		return nil, err
	}
	if err := s.publishPlan(ctx, p); err != nil {
		return nil, err
	}
	return s.told(ctx, w, p, "draft", false)
}

func (s *Server) copyPlan(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Title   string `json:"title" minLength:"1" maxLength:"200"`
		Private bool   `json:"private,omitempty"`
	}
}) (*body[PlanInfo], error) {
	p, err := s.planOf(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	asked := ""
	if mayWrite(w, p) {
		asked = "draft"
	}
	v, err := s.view(ctx, w, p, asked, &store.Progress{})
	if err != nil {
		return nil, err
	}
	state := v.state.There()
	if err := state.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", From: state.Title, To: in.Body.Title}); err != nil {
		return nil, err
	}
	return s.beginPlan(ctx, w, state, in.Body.Private)
}

func (s *Server) publishPlan(ctx context.Context, p *store.Plan) error {
	e := store.Event{Kind: "plan", Repository: p.RepositoryID, Plan: p.ID, Seq: p.Seq}
	if p.Private {
		e.PrivateTo = p.CreatedBy
	}
	return s.store.Publish(ctx, e)
}

func (s *Server) plan(ctx context.Context, w *who, in *struct {
	PlanPath
	Edition string `query:"edition" maxLength:"10" doc:"A number, or draft; left out: what you read"`
	Texts   bool   `query:"texts" doc:"Give the texts as HTML as well"`
}) (*body[PlanInfo], error) {
	p, err := s.planOf(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	return s.told(ctx, w, p, in.Edition, in.Texts)
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
