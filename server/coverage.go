package server

import (
	"context"
	"slices"

	"juxtagram/core/plan"
	"juxtagram/store"
)

// CoverageInfo tells what a plan covers, kind by kind.
type CoverageInfo struct {
	Kinds []CoverageKind `json:"kinds"`
}

// CoverageKind is what a plan covers of one kind.
type CoverageKind struct {
	Kind      string         `json:"kind"`
	Total     int            `json:"total"`
	Here      int            `json:"here"`
	Elsewhere int            `json:"elsewhere"`
	Aside     int            `json:"aside"`
	Open      int            `json:"open" doc:"Not decided yet"`
	Share     float64        `json:"share" doc:"Of the weight of all, what is read here, 0 to 1"`
	Rows      []plan.Covered `json:"rows" doc:"Those not decided yet first, by weight; at most 200"`
}

// maxCovered is how many things of a kind are told.
const maxCovered = 200

// coverageOrder is the order in which rows are told.
var coverageOrder = []string{plan.Open, plan.ReadElsewhere, plan.SetAsideHere, plan.ReadHere}

func (s *Server) coverage(ctx context.Context, w *who, in *struct {
	PlanPath
	Edition string `query:"edition" maxLength:"10" doc:"A number, or draft; left out: what you read"`
}) (*body[CoverageInfo], error) {
	covered, err := s.covered(ctx, w, in.PlanPath, in.Edition)
	if err != nil {
		return nil, err
	}
	return answer(CoverageInfo{byKind(covered)}), nil
}

// CoveredPaths tells of every file and folder that has leads, or is one to be read, how
// many of them become what. All lists have one item for a path.
type CoveredPaths struct {
	Paths     []string `json:"paths"`
	Here      Column   `json:"here"`
	Elsewhere Column   `json:"elsewhere"`
	Aside     Column   `json:"aside"`
	Open      Column   `json:"open" doc:"Not decided yet"`
}

func (s *Server) coveredPaths(ctx context.Context, w *who, in *struct {
	PlanPath
	Edition string `query:"edition" maxLength:"10" doc:"A number, or draft; left out: what you read"`
}) (*body[CoveredPaths], error) {
	covered, err := s.covered(ctx, w, in.PlanPath, in.Edition)
	if err != nil {
		return nil, err
	}
	out := CoveredPaths{Paths: []string{}, Here: Column{}, Elsewhere: Column{}, Aside: Column{}, Open: Column{}}
	at := map[string]int{}
	for i := range covered {
		c := &covered[i]
		k, ok := at[c.Path]
		if !ok {
			k = len(out.Paths)
			at[c.Path] = k
			out.Paths = append(out.Paths, c.Path)
			out.Here, out.Elsewhere, out.Aside, out.Open = append(out.Here, 0), append(out.Elsewhere, 0), append(out.Aside, 0), append(out.Open, 0)
		}
		map[string]Column{plan.ReadHere: out.Here, plan.ReadElsewhere: out.Elsewhere, plan.SetAsideHere: out.Aside, plan.Open: out.Open}[c.State][k]++
	}
	return answer(out), nil
}

// covered is what becomes of everything that a plan may have one read.
func (s *Server) covered(ctx context.Context, w *who, in PlanPath, edition string) ([]plan.Covered, error) {
	v, err := s.viewOf(ctx, w, in, edition)
	if err != nil {
		return nil, err
	}
	things, err := s.things(ctx, w)
	if err != nil {
		return nil, err
	}
	marks, err := s.store.LeadMarks(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	others, err := s.otherPlans(ctx, w, v.ID)
	if err != nil {
		return nil, err
	}
	return v.state.Cover(things, others, func(key string) string {
		if m := marks[key]; m.State == store.Aside {
			return m.Reason
		}
		return ""
	}), nil
}

// byKind sums up what is covered, in the order in which kinds come.
func byKind(covered []plan.Covered) []CoverageKind {
	out := []CoverageKind{}
	at := map[string]int{}
	for _, c := range covered {
		i, ok := at[c.Kind]
		if !ok {
			i = len(out)
			at[c.Kind] = i
			out = append(out, CoverageKind{Kind: c.Kind, Rows: []plan.Covered{}})
		}
		k := &out[i]
		k.Total++
		switch c.State {
		case plan.ReadHere:
			k.Here++
		case plan.ReadElsewhere:
			k.Elsewhere++
		case plan.SetAsideHere:
			k.Aside++
		default:
			k.Open++
		}
		k.Rows = append(k.Rows, c)
	}
	for i := range out {
		k := &out[i]
		sum := 0.0
		for _, c := range k.Rows {
			sum += c.Weight
			if c.State == plan.ReadHere {
				k.Share += c.Weight
			}
		}
		if sum > 0 {
			k.Share /= sum
		}
		slices.SortStableFunc(k.Rows, func(a, b plan.Covered) int {
			return slices.Index(coverageOrder, a.State) - slices.Index(coverageOrder, b.State)
		})
		k.Rows = k.Rows[:min(len(k.Rows), maxCovered)]
	}
	return out
}

// things are what a plan may have one read: all leads, best first, and the folders
// that hold sources.
func (s *Server) things(ctx context.Context, w *who) ([]plan.Thing, error) {
	_, v, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	ground, err := s.grounds.of(ctx, v)
	if err != nil {
		return nil, err
	}
	rows, _, err := s.store.Leads(ctx, v.ID, store.LeadFilter{Limit: -1})
	if err != nil {
		return nil, err
	}
	out := make([]plan.Thing, 0, len(rows))
	for _, r := range rows {
		t := plan.Thing{Key: r.LeadID, Kind: r.Kind, Path: r.Path, Title: r.Title, Why: r.Why, Weight: r.Weight}
		if r.Line != nil {
			t.Line = *r.Line
		}
		out = append(out, t)
	}
	return append(out, ground.Folders()...), nil
}

// otherPlans are the plans that somebody may see, without one.
func (s *Server) otherPlans(ctx context.Context, w *who, but int64) ([]plan.Other, error) {
	byPlan := map[int64][]plan.Passage{}
	var order []int64
	err := s.eachPassage(ctx, w, func(p *planView, _ int, x *plan.Passage) {
		if p.ID == but {
			return
		}
		if byPlan[p.ID] == nil {
			order = append(order, p.ID)
		}
		byPlan[p.ID] = append(byPlan[p.ID], *x)
	})
	out := make([]plan.Other, 0, len(order))
	for _, id := range order {
		out = append(out, plan.Other{ID: id, Reads: plan.NewReads(byPlan[id])})
	}
	return out, err
}
