package server

import (
	"context"
	"net/http"
	"time"

	"juxtagram/store"
)

func (s *Server) guidingRoutes() []route {
	const at = plansAt + "/{plan}"
	return []route{
		handle(s, "PUT", at+"/progress", Read, "Mark a passage done, left out, or neither", s.setProgress),
		handle(s, "PUT", at+"/place", Read, "Remember the passage you are at, and how long you had the last one before you", s.setPlace),
		handle(s, "PUT", at+"/reading", Read, "Choose the edition you read, and whether you show others where you are", s.setReading),
		handle(s, "GET", at+"/places", Read, "Where others are who show it", s.places),
		handle(s, "GET", at+"/readers", Read, "How readers who show it get on, for writers", s.readersOf),
	}
}

// followed is a plan as somebody reads it, with a passage that must be in it.
func (s *Server) followed(ctx context.Context, w *who, in PlanPath, passage string) (*planView, error) {
	p, err := s.planOf(ctx, w, in)
	if err != nil {
		return nil, err
	}
	progress, err := s.store.ProgressOf(ctx, w.person.ID, []int64{p.ID})
	if err != nil {
		return nil, err
	}
	v, err := s.view(ctx, w, p, "", progress[p.ID])
	if err != nil {
		return nil, err
	}
	if !v.has(w, passage) {
		return nil, problem(http.StatusNotFound, "not-found", "the passage is not there any more")
	}
	return v, nil
}

// has tells whether a passage is in what somebody reads, or in the draft that they
// may write.
func (v *planView) has(w *who, passage string) bool {
	return v.state.Passage(passage) != nil || mayWrite(w, v.Plan) && v.State.Passage(passage) != nil
}

func (s *Server) setProgress(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Passage string `json:"passage" maxLength:"64"`
		Done    bool   `json:"done,omitempty"`
		Skipped bool   `json:"skipped,omitempty"`
		Reason  string `json:"reason,omitempty" maxLength:"500" doc:"Why it is left out"`
	}
}) (*none, error) {
	if _, err := s.followed(ctx, w, in.PlanPath, in.Body.Passage); err != nil {
		return nil, err
	}
	if in.Body.Skipped {
		return &none{}, s.store.SetSkipped(ctx, in.Plan, w.person.ID, in.Body.Passage, in.Body.Reason)
	}
	return &none{}, s.store.SetDone(ctx, in.Plan, w.person.ID, in.Body.Passage, in.Body.Done)
}

// longestLook is how many seconds one look at a passage counts for at most:
// whoever goes away from the screen does not read.
const longestLook = 30 * 60

func (s *Server) setPlace(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Passage string `json:"passage" maxLength:"64"`
		Last    string `json:"last,omitempty" maxLength:"64" doc:"The passage before"`
		Seconds int    `json:"seconds,omitempty" minimum:"0" doc:"That you had it before you"`
	}
}) (*none, error) {
	p, err := s.followed(ctx, w, in.PlanPath, in.Body.Passage)
	if err != nil {
		return nil, err
	}
	if in.Body.Seconds > 0 && p.has(w, in.Body.Last) {
		if err := s.store.SpendTime(ctx, p.ID, w.person.ID, in.Body.Last, min(in.Body.Seconds, longestLook)); err != nil {
			return nil, err
		}
	}
	return &none{}, s.store.SetPlace(ctx, p.ID, w.person.ID, in.Body.Passage, p.Edition, placeOf(w, p.Plan))
}

// placeOf tells others where somebody is in a plan; nil: it is a plan of their own.
func placeOf(w *who, p *store.Plan) *store.Event {
	if p.Private {
		return nil
	}
	return &store.Event{Kind: "place", Repository: p.RepositoryID, Plan: p.ID, Person: w.person.ID, Name: w.person.Name}
}

func (s *Server) setReading(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Edition int  `json:"edition" minimum:"0" doc:"0: the newest"`
		Shown   bool `json:"shown"`
	}
}) (*body[PlanInfo], error) {
	p, err := s.planOf(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	if in.Body.Edition > p.Edition {
		return nil, problem(http.StatusUnprocessableEntity, "invalid", "there is no such edition")
	}
	if err := s.store.SetReading(ctx, p.ID, w.person.ID, in.Body.Edition, in.Body.Shown, placeOf(w, p)); err != nil {
		return nil, err
	}
	return s.told(ctx, w, p, "", false)
}

// ReaderPlaceInfo is where somebody is in a plan.
type ReaderPlaceInfo struct {
	Person  int64     `json:"person"`
	Name    string    `json:"name"`
	Passage string    `json:"passage"`
	At      time.Time `json:"at"`
}

// placesSince is how long somebody counts as here after they came to a passage.
const placesSince = 10 * time.Minute

func (s *Server) places(ctx context.Context, w *who, in *PlanPath) (*body[[]ReaderPlaceInfo], error) {
	p, err := s.planOf(ctx, w, *in)
	if err != nil {
		return nil, err
	}
	found, err := s.store.PlacesIn(ctx, p.ID, time.Now().Add(-placesSince))
	list := []ReaderPlaceInfo{}
	for _, x := range found {
		if x.Person != w.person.ID {
			list = append(list, ReaderPlaceInfo(x))
		}
	}
	return answer(list), err
}

// ReadersInfo is how readers get on with a plan.
type ReadersInfo struct {
	Readers  int                  `json:"readers" doc:"Who show it"`
	Passages []PassageReadingInfo `json:"passages"`
}

// PassageReadingInfo is how they get on with one passage.
type PassageReadingInfo struct {
	Passage   string   `json:"passage"`
	Done      int      `json:"done"`
	Skipped   int      `json:"skipped"`
	Reasons   []string `json:"reasons" doc:"Why it was left out, the newest first"`
	Minutes   float64  `json:"minutes" doc:"That half of them had it before them; 0: not known"`
	Questions int      `json:"questions" doc:"Open ones, of anybody"`
}

func (s *Server) readersOf(ctx context.Context, w *who, in *PlanPath) (*body[ReadersInfo], error) {
	p, err := s.writable(ctx, w, *in)
	if err != nil {
		return nil, err
	}
	readers, found, err := s.store.ReadingOf(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	asked, err := s.store.QuestionsOf(ctx, p.RepositoryID, w.person.ID, p.ID)
	if err != nil {
		return nil, err
	}
	info := ReadersInfo{Readers: readers, Passages: []PassageReadingInfo{}}
	for _, x := range found {
		info.Passages = append(info.Passages, PassageReadingInfo{x.Passage, x.Done, x.Skipped, append([]string{}, x.Reasons...), float64(x.Seconds) / 60, asked[x.Passage]})
		delete(asked, x.Passage)
	}
	for _, c := range p.State.InOrder() {
		for _, x := range c.Passages {
			if n := asked[x.ID]; n > 0 {
				info.Passages = append(info.Passages, PassageReadingInfo{Passage: x.ID, Reasons: []string{}, Questions: n})
			}
		}
	}
	return answer(info), nil
}
