package server

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"juxtagram/core/tagged"
	"juxtagram/store"
)

// RuleInfo is a rule that hides tagged comments.
type RuleInfo struct {
	ID      int64  `json:"id"`
	Kind    string `json:"kind" enum:"path,text"`
	Pattern string `json:"pattern"`
	Hides   int    `json:"hides" doc:"Tagged comments at the pin, also those that other rules hide"`
}

func (s *Server) ignoreRules(ctx context.Context, w *who, _ *RepositoryPath) (*body[[]RuleInfo], error) {
	rules, err := s.store.IgnoreRules(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	h, _, err := s.taggedNow(ctx, w)
	if err != nil {
		return nil, err
	}
	out := []RuleInfo{}
	for _, r := range rules {
		hidden, _, err := h.hides(r.Kind, r.Pattern)
		if err != nil {
			return nil, err
		}
		out = append(out, RuleInfo{r.ID, r.Kind, r.Pattern, hidden})
	}
	return answer(out), nil
}

// hides counts what a rule hides of what is there, with the first of them.
func (h *heldTagged) hides(kind, pattern string) (int, []int, error) {
	rule, err := compileRule(kind, pattern)
	if err != nil {
		return 0, nil, problem(http.StatusUnprocessableEntity, "not-understood", err.Error())
	}
	n, first := 0, []int{}
	for i := range h.rows {
		if h.rows[i].GoneAt > 0 || !rule.Hides(&h.items[i]) {
			continue
		}
		if n++; len(first) < 20 {
			first = append(first, i)
		}
	}
	return n, first, nil
}

// RuleQuery is a rule as it is asked about.
type RuleQuery struct {
	RepositoryPath
	Kind    string `query:"kind" enum:"path,text" required:"true"`
	Pattern string `query:"pattern" required:"true" minLength:"1" maxLength:"300"`
}

// RulePreview is what a rule would hide.
type RulePreview struct {
	Hides int          `json:"hides"`
	Of    int          `json:"of" doc:"Tagged comments at the pin"`
	First []TaggedItem `json:"first" doc:"At most 20"`
}

func (s *Server) previewRule(ctx context.Context, w *who, in *RuleQuery) (*body[RulePreview], error) {
	h, marks, err := s.taggedNow(ctx, w)
	if err != nil {
		return nil, err
	}
	n, first, err := h.hides(in.Kind, in.Pattern)
	if err != nil {
		return nil, err
	}
	p := RulePreview{Hides: n, First: []TaggedItem{}}
	for i := range h.rows {
		if h.rows[i].GoneAt == 0 {
			p.Of++
		}
	}
	for _, i := range first {
		p.First = append(p.First, h.item(i, marks, !w.repository.PeopleHidden))
	}
	return answer(p), nil
}

func (s *Server) addRule(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Kind    string `json:"kind" enum:"path,text"`
		Pattern string `json:"pattern" minLength:"1" maxLength:"300"`
	}
}) (*body[RuleInfo], error) {
	if _, err := compileRule(in.Body.Kind, in.Body.Pattern); err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "not-understood", err.Error())
	}
	rules, err := s.store.IgnoreRules(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	if len(rules) >= maxRules {
		return nil, problem(http.StatusUnprocessableEntity, "too-many", fmt.Sprintf("there can be %d rules at most", maxRules))
	}
	r := &store.IgnoreRule{RepositoryID: w.repository.ID, Kind: in.Body.Kind, Pattern: strings.TrimSpace(in.Body.Pattern), MadeBy: &w.person.ID}
	if err := s.store.AddIgnoreRule(ctx, r); err != nil {
		return nil, err
	}
	return answer(RuleInfo{ID: r.ID, Kind: r.Kind, Pattern: r.Pattern}), s.publishLeads(ctx, w)
}

// maxRules is how many rules a repository may have.
const maxRules = 100

func (s *Server) endRule(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Rule int64 `path:"rule"`
}) (*none, error) {
	if err := s.store.EndIgnoreRule(ctx, w.repository.ID, in.Rule); err != nil {
		return nil, err
	}
	return &none{}, s.publishLeads(ctx, w)
}

// heldRules is for how many sets of rules it is kept what they hide.
const heldRules = 4

// hiddenBy tells which comments some rules hide.
func (h *heldTagged) hiddenBy(rules []store.IgnoreRule) ([]bool, error) {
	key := ""
	for _, r := range rules {
		key += fmt.Sprintf("%s %q\n", r.Kind, r.Pattern)
	}
	h.mu.Lock()
	defer h.mu.Unlock()
	if held := h.hidden[key]; held != nil {
		return held, nil
	}
	out := make([]bool, len(h.rows))
	for _, r := range rules {
		rule, err := compileRule(r.Kind, r.Pattern)
		if err != nil {
			return nil, err
		}
		for i := range out {
			out[i] = out[i] || rule.Hides(&h.items[i])
		}
	}
	if len(h.hidden) >= heldRules {
		h.hidden = map[string][]bool{}
	}
	h.hidden[key] = out
	return out, nil
}

func compileRule(kind, pattern string) (*tagged.Rule, error) {
	if kind == "path" {
		return tagged.PathRule(pattern)
	}
	return tagged.TextRule(pattern)
}
