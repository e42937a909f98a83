package server

import (
	"context"
	"net/http"
	"strings"

	"juxtagram/core/leads"
	"juxtagram/core/plan"
	"juxtagram/store"
)

func (s *Server) leadRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/leads", Read, "What the survey found worth reading, best first", s.leads),
		handle(s, "PUT", "/api/repositories/{repository}/leads/marks", Write, "Set leads aside with a reason, keep them on purpose, or bring them back", s.markLeads),
		handle(s, "PUT", "/api/repositories/{repository}/leads/read", Read, "Note that you have read leads, or have not", s.readLeads),
	}
}

// LeadInfo is one lead.
type LeadInfo struct {
	ID     string  `json:"id" doc:"The same from survey to survey"`
	Kind   string  `json:"kind"`
	Detail string  `json:"detail" doc:"The word of a tagged comment, the kind of an entry point"`
	Path   string  `json:"path"`
	Line   *int    `json:"line" doc:"Null: the file as a whole"`
	Title  string  `json:"title"`
	Why    string  `json:"why"`
	Weight float64 `json:"weight"`
	State  string  `json:"state" enum:"open,kept,aside"`
	Reason string  `json:"reason" doc:"Why it was set aside, or is kept"`
	By     string  `json:"by" doc:"Who said so"`
	Read   bool    `json:"read" doc:"By you"`
	New    bool    `json:"new" doc:"No earlier survey found it"`
	Plan   int64   `json:"plan" doc:"A plan that has it; 0: none that you see"`
}

// leadLore is what is known of leads beside the survey.
type leadLore struct {
	marks   map[string]store.LeadMark
	read    map[string]bool
	fresh   map[string]bool
	planned func(path string, line *int) int64
}

func (s *Server) leadLore(ctx context.Context, w *who, survey int64) (*leadLore, error) {
	var l leadLore
	var err error
	if l.marks, err = s.store.LeadMarks(ctx, w.repository.ID); err != nil {
		return nil, err
	}
	if l.read, err = s.store.LeadsRead(ctx, w.repository.ID, w.person.ID); err != nil {
		return nil, err
	}
	if l.fresh, err = s.store.LeadsNew(ctx, w.repository.ID, survey); err != nil {
		return nil, err
	}
	l.planned, err = s.planned(ctx, w)
	return &l, err
}

// planned tells which plan has one read a file, or a line of it.
func (s *Server) planned(ctx context.Context, w *who) (func(path string, line *int) int64, error) {
	type part struct {
		plan       int64
		start, end int // 0: the whole file
	}
	parts := map[string][]part{}
	err := s.eachPassage(ctx, w, func(p *planView, _ int, x *plan.Passage) {
		for _, t := range x.Target.Stretches() {
			parts[t.Path] = append(parts[t.Path], part{p.ID, t.Start, t.End})
		}
	})
	if err != nil {
		return nil, err
	}
	return func(path string, line *int) int64 {
		for _, x := range parts[path] {
			if line == nil == (x.start == 0) && (line == nil || *line >= x.start && *line <= x.end) {
				return x.plan
			}
		}
		return 0
	}, nil
}

func (l *leadLore) info(r store.LeadRow) LeadInfo {
	x := LeadInfo{ID: r.LeadID, Kind: r.Kind, Detail: r.Detail, Path: r.Path, Line: r.Line, Title: r.Title, Why: r.Why, Weight: r.Weight, State: "open",
		Read: l.read[r.LeadID], New: l.fresh[r.LeadID], Plan: l.planned(r.Path, r.Line)}
	if m, ok := l.marks[r.LeadID]; ok {
		x.State, x.Reason, x.By = m.State, m.Reason, m.By
	}
	return x
}

// KindInfo is one kind of leads with its counts.
type KindInfo struct {
	Kind    string       `json:"kind"`
	Doc     string       `json:"doc"`
	Count   int          `json:"count"`
	Details []DetailInfo `json:"details"`
}

// DetailInfo counts the leads of one detail.
type DetailInfo struct {
	Detail  string `json:"detail"`
	Meaning string `json:"meaning" doc:"In plain words; empty where it speaks for itself"`
	Count   int    `json:"count"`
}

// LeadsInfo is a page of leads with the counts of all.
type LeadsInfo struct {
	Survey SurveyInfo `json:"survey"`
	Kinds  []KindInfo `json:"kinds"`
	Total  int64      `json:"total" doc:"All that fit the narrowing"`
	Aside  int64      `json:"aside" doc:"Set aside or kept on purpose, of all kinds"`
	New    int64      `json:"new" doc:"Found by this survey and by none before it, of all kinds"`
	Leads  []LeadInfo `json:"leads"`
}

func (s *Server) leads(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Kind   string `query:"kind" maxLength:"50"`
	Detail string `query:"detail" maxLength:"100"`
	Text   string `query:"text" maxLength:"500"`
	State  string `query:"state" enum:"all,open,kept,aside,read,unread,new" default:"open"`
	Offset int    `query:"offset" minimum:"0"`
	Limit  int    `query:"limit" minimum:"1" maximum:"1000" default:"200"`
}) (*body[LeadsInfo], error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	filter := store.LeadFilter{Kind: in.Kind, Detail: in.Detail, Text: in.Text, State: in.State, Repository: w.repository.ID, Person: w.person.ID, Offset: in.Offset, Limit: in.Limit}
	counts, err := s.store.LeadCounts(ctx, v.ID, filter)
	if err != nil {
		return nil, err
	}
	rows, total, err := s.store.Leads(ctx, v.ID, filter)
	if err != nil {
		return nil, err
	}
	info := LeadsInfo{Survey: *surveyInfo(v), Total: total, Leads: []LeadInfo{}}
	words, err := s.store.Words(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	lore, err := s.leadLore(ctx, w, v.ID)
	if err != nil {
		return nil, err
	}
	if info.Aside, info.New, err = s.store.LeadTotals(ctx, w.repository.ID, v.ID); err != nil {
		return nil, err
	}
	for _, d := range leads.Detectors {
		k := KindInfo{Kind: d.Kind, Doc: d.Doc, Details: []DetailInfo{}}
		for _, c := range counts {
			if c.Kind == d.Kind {
				k.Count += c.Count
				if c.Detail != "" {
					k.Details = append(k.Details, DetailInfo{c.Detail, words.Meaning(c.Detail), c.Count})
				}
			}
		}
		info.Kinds = append(info.Kinds, k)
	}
	for _, l := range rows {
		info.Leads = append(info.Leads, lore.info(l))
	}
	return answer(info), nil
}

func (s *Server) markLeads(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Leads  []string `json:"leads" minItems:"1" maxItems:"2000"`
		State  string   `json:"state" enum:"open,kept,aside" doc:"open: bring them back"`
		Reason string   `json:"reason,omitempty" maxLength:"500"`
	}
}) (*none, error) {
	state, reason := in.Body.State, strings.TrimSpace(in.Body.Reason)
	if state == "open" {
		state = ""
	}
	if state == store.Aside && reason == "" {
		return nil, problem(http.StatusUnprocessableEntity, "no-reason", "say in a few words why it is set aside; others will ask")
	}
	if err := leadIDs(in.Body.Leads); err != nil {
		return nil, err
	}
	if err := s.store.MarkLeads(ctx, w.repository.ID, w.person.ID, in.Body.Leads, state, reason); err != nil {
		return nil, err
	}
	return &none{}, s.publishLeads(ctx, w)
}

func leadIDs(ids []string) error {
	for _, id := range ids {
		if len(id) != 16 || strings.Trim(id, "0123456789abcdef") != "" {
			return problem(http.StatusUnprocessableEntity, "no-lead", "a lead's id has 16 hexadecimal digits")
		}
	}
	return nil
}

func (s *Server) readLeads(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Leads []string `json:"leads" minItems:"1" maxItems:"2000"`
		Read  bool     `json:"read"`
	}
}) (*none, error) {
	if err := leadIDs(in.Body.Leads); err != nil {
		return nil, err
	}
	return &none{}, s.store.ReadLeads(ctx, w.repository.ID, w.person.ID, in.Body.Leads, in.Body.Read)
}
