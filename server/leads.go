package server

import (
	"context"

	"juxtagram/core/facts"
	"juxtagram/core/leads"
	"juxtagram/store"
)

func (s *Server) leadRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/leads", Read, "What the survey found worth reading, best first", s.leads),
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
}

func leadInfo(l store.LeadRow) LeadInfo {
	return LeadInfo{l.LeadID, l.Kind, l.Detail, l.Path, l.Line, l.Title, l.Why, l.Weight}
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
	Leads  []LeadInfo `json:"leads"`
}

func (s *Server) leads(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Kind   string `query:"kind" maxLength:"50"`
	Detail string `query:"detail" maxLength:"100"`
	Text   string `query:"text" maxLength:"500"`
	Offset int    `query:"offset" minimum:"0"`
	Limit  int    `query:"limit" minimum:"1" maximum:"1000" default:"200"`
}) (*body[LeadsInfo], error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	counts, err := s.store.LeadCounts(ctx, v.ID)
	if err != nil {
		return nil, err
	}
	rows, total, err := s.store.Leads(ctx, v.ID, store.LeadFilter{Kind: in.Kind, Detail: in.Detail, Text: in.Text, Offset: in.Offset, Limit: in.Limit})
	if err != nil {
		return nil, err
	}
	info := LeadsInfo{Survey: *surveyInfo(v), Total: total, Leads: []LeadInfo{}}
	for _, d := range leads.Detectors {
		k := KindInfo{Kind: d.Kind, Doc: d.Doc, Details: []DetailInfo{}}
		for _, c := range counts {
			if c.Kind == d.Kind {
				k.Count += c.Count
				if c.Detail != "" {
					k.Details = append(k.Details, DetailInfo{c.Detail, facts.Meanings[c.Detail], c.Count})
				}
			}
		}
		info.Kinds = append(info.Kinds, k)
	}
	for _, l := range rows {
		info.Leads = append(info.Leads, leadInfo(l))
	}
	return answer(info), nil
}
