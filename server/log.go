package server

import (
	"cmp"
	"context"
	"net/http"
	"slices"
	"strings"
	"time"

	"juxtagram/core/gitlog"
)

func (s *Server) logRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/log", Read, "Commits, newest first, narrowed by any terms together", s.logPage),
		handle(s, "GET", "/api/repositories/{repository}/log/keys", Read, "What commits can be asked for", s.logKeys),
		handle(s, "GET", "/api/repositories/{repository}/log/offers", Read, "What a typed text may mean as a term: values that exist here alone", s.logOffers),
		s.changedLinesRoute(),
		s.logExportRoute(),
	}
}

// Terms narrow a log.
type Terms struct {
	Keep []string `query:"keep,explode" maxItems:"30" doc:"Only commits that fit: a key, a colon and a value, as by:Oona Fell; see log/keys"`
	Drop []string `query:"drop,explode" maxItems:"30" doc:"No commits that fit, written the same"`
}

// terms reads them; what has no colon is a key without a value.
func (t *Terms) terms() []gitlog.Term {
	var out []gitlog.Term
	for n, list := range [][]string{t.Keep, t.Drop} {
		for _, x := range list {
			key, value, _ := strings.Cut(x, ":")
			out = append(out, gitlog.Term{Key: key, Value: strings.TrimSpace(value), Not: n == 1})
		}
	}
	return out
}

// LogPage is a run of commits.
type LogPage struct {
	All      int        `json:"all" doc:"Commits that branches, tags and the pin hold"`
	Total    int        `json:"total" doc:"Those that fit"`
	Offset   int        `json:"offset" doc:"Number of the first row, from 0"`
	Rows     []LogRow   `json:"rows"`
	Lanes    bool       `json:"lanes" doc:"Lines between the commits are drawn: every ancestor of a commit fits as well"`
	Terms    []TermInfo `json:"terms" doc:"What was asked, in words"`
	PinRow   int        `json:"pin_row" doc:"Number of the pin's row; -1: it does not fit"`
	Unread   int        `json:"unread" doc:"Branches and tags whose commits are still being read"`
	Found    int        `json:"found" doc:"Number of the row of the commit that was asked for; -1: it does not fit"`
	Problems []string   `json:"problems" doc:"Terms that cannot be understood, each with the reason; nothing is shown then"`
	First    *time.Time `json:"first" doc:"The earliest committer date among those that fit"`
	Last     *time.Time `json:"last"`
}

// LogRow is one commit of the log.
type LogRow struct {
	ID      string    `json:"id"`
	Row     int       `json:"row"`
	Subject string    `json:"subject"`
	Person  string    `json:"person" doc:"Its author, joined; empty where people are not told"`
	Time    time.Time `json:"time" doc:"Committed"`
	Refs    []RefName `json:"refs"`
	Files   int       `json:"files"`
	Added   int       `json:"added" doc:"-1: not counted"`
	Deleted int       `json:"deleted"`
	Merge   bool      `json:"merge"`
	Pin     bool      `json:"pin"`
	Lane    int       `json:"lane" doc:"Of the commit, from 0; the trunk's is 0"`
	Trunk   bool      `json:"trunk"`
	Above   []int32   `json:"above" doc:"Lanes from above that end here"`
	Below   []int32   `json:"below" doc:"Lanes that begin here, downwards"`
	Past    []int32   `json:"past" doc:"Lanes that run past"`
	CutOff  bool      `json:"cut_off" doc:"It has parents that this repository does not hold"`
}

// RefName is a branch or tag.
type RefName struct {
	Name string `json:"name"`
	Kind string `json:"kind" enum:"branch,tag"`
}

// TermInfo is a term in words, with what it does.
type TermInfo struct {
	Key     string `json:"key"`
	Value   string `json:"value"`
	Not     bool   `json:"not"`
	Says    string `json:"says" doc:"With %s for the value"`
	Alone   int    `json:"alone" doc:"Commits that fit it alone; -1: found by reading the changes"`
	Without int    `json:"without" doc:"Commits that would fit without it"`
}

func (s *Server) logPage(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Terms
	Offset int    `query:"offset" minimum:"0"`
	Limit  int    `query:"limit" minimum:"0" maximum:"500" default:"100"`
	Commit string `query:"commit" maxLength:"300" doc:"Begin so that this commit is in the answer: an id, tag or branch"`
}) (*body[LogPage], error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	page := LogPage{All: l.Len(), Rows: []LogRow{}, Terms: []TermInfo{}, Unread: l.Unread, PinRow: -1, Found: -1, Problems: []string{}}
	sel, problems := s.narrowed(ctx, w, l, in.terms())
	if problems != nil {
		for _, p := range problems {
			page.Problems = append(page.Problems, p.Why)
		}
		page.Terms = termsTold(in.terms(), nil)
		return answer(page), nil
	}
	page.Terms = termsTold(in.terms(), sel)
	page.Total, page.Lanes, page.Offset = len(sel.Commits), sel.Closed, in.Offset
	if n, ok := sel.Row(l.Pin); ok && l.Pin >= 0 {
		page.PinRow = n
	}
	page.First, page.Last = moment(sel.First), moment(sel.Last)
	if in.Commit != "" {
		id, err := s.jobs.Git(w.repository.ID).Resolve(ctx, in.Commit)
		if err != nil {
			return nil, err
		}
		if n, ok := sel.Row(l.At(id)); ok {
			page.Found = n
			page.Offset = max(0, n-in.Limit/2)
		}
	}
	to := min(len(sel.Commits), page.Offset+in.Limit)
	if page.Offset >= to {
		return answer(page), nil
	}
	var lanes []gitlog.Row
	if sel.Closed {
		lanes = l.lanesOf(in.Terms, sel).Rows(page.Offset, to)
	}
	for n := page.Offset; n < to; n++ {
		row := l.row(sel.Commits[n], n)
		if lanes != nil {
			x := lanes[n-page.Offset]
			row.Lane, row.Trunk = int(x.Lane), x.Trunk
			row.Above, row.Below, row.Past = orEmpty(x.Above), orEmpty(x.Below), orEmpty(x.Past)
		}
		page.Rows = append(page.Rows, row)
	}
	return answer(page), nil
}

func orEmpty(list []int32) []int32 {
	if list == nil {
		return []int32{}
	}
	return list
}

// row tells a commit without its lanes.
func (l *heldLog) row(i int32, n int) LogRow {
	row := LogRow{ID: l.IDs[i], Row: n, Subject: l.Subjects[i], Person: l.person(i), Time: time.Unix(l.Times[i], 0).UTC(), Refs: []RefName{},
		Files: int(l.Files[i]), Added: int(l.Added[i]), Deleted: int(l.Deleted[i]), Merge: l.IsMerge(i), Pin: i == l.Pin, CutOff: l.Cut[i], Above: []int32{}, Below: []int32{}, Past: []int32{}}
	for _, r := range l.RefsAt(i) {
		row.Refs = append(row.Refs, RefName{r.Name, r.Kind})
	}
	return row
}

// narrowed is what terms leave of the log; the answers to the last ones asked
// are kept.
func (s *Server) narrowed(ctx context.Context, w *who, l *heldLog, terms []gitlog.Term) (*gitlog.Selection, []*gitlog.Problem) {
	if l.hidden && slices.ContainsFunc(terms, func(t gitlog.Term) bool { return t.Key == "by" }) {
		return nil, []*gitlog.Problem{{Why: "a keeper has turned people's figures off here, so commits cannot be asked for by person"}}
	}
	key := termsKey(terms)
	if sel, ok := l.narrowed.Get(key); ok {
		return sel, nil
	}
	sel, problems := l.Narrow(terms, &outside{s, ctx, w, l})
	if problems == nil {
		l.narrowed.Add(key, sel)
	}
	return sel, problems
}

func termsKey(terms []gitlog.Term) string {
	var b strings.Builder
	for _, t := range terms {
		if t.Not {
			b.WriteByte('!')
		}
		b.WriteString(t.Key + "\x00" + t.Value + "\x00")
	}
	return b.String()
}

// lanesOf are the lanes of a closed selection.
func (l *heldLog) lanesOf(t Terms, sel *gitlog.Selection) *gitlog.Lanes {
	key := termsKey(t.terms())
	if lanes, ok := l.lanes.Get(key); ok {
		return lanes
	}
	lanes := l.LanesOf(sel.Commits)
	l.lanes.Add(key, lanes)
	return lanes
}

// termsTold puts terms into words. sel is nil where some were not understood.
func termsTold(terms []gitlog.Term, sel *gitlog.Selection) []TermInfo {
	out := []TermInfo{}
	n := 0
	for _, t := range terms {
		info := TermInfo{Key: t.Key, Value: t.Value, Not: t.Not, Says: t.Key + " %s", Alone: -1, Without: -1}
		k := gitlog.KeyOf(t.Key)
		if k != nil {
			info.Says = k.Says
			if t.Not {
				info.Says = k.SaysNot
			}
		}
		if sel != nil && k != nil && !k.Slow && n < len(sel.Left) {
			info.Alone, info.Without = sel.Left[n].Alone, sel.Left[n].Without
			n++
		}
		out = append(out, info)
	}
	return out
}

// KeyInfo is one thing that commits can be asked for.
type KeyInfo struct {
	Name    string `json:"name"`
	Says    string `json:"says" doc:"With %s for the value"`
	SaysNot string `json:"says_not"`
	Doc     string `json:"doc"`
	Example string `json:"example"`
	Slow    bool   `json:"slow" doc:"The changes themselves are read for it: ask log/changed-lines"`
}

func (s *Server) logKeys(ctx context.Context, w *who, _ *RepositoryPath) (*body[[]KeyInfo], error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	own := l.examples()
	out := []KeyInfo{}
	for _, k := range gitlog.Keys {
		out = append(out, KeyInfo{k.Name, k.Says, k.SaysNot, k.Doc, cmp.Or(own[k.Name], k.Example), k.Slow})
	}
	return answer(out), nil
}

// examples are values of this very repository, by key; "" where it has none.
func (l *heldLog) examples() map[string]string {
	own := map[string]string{}
	for _, r := range l.Refs {
		if own[r.Kind] == "" {
			own[r.Kind] = r.Name
		}
	}
	if l.Pin >= 0 && !l.hidden {
		own["by"] = l.person(l.Pin)
	}
	return own
}

// outside finds the commits that touched a symbol of the pin.
type outside struct {
	s   *Server
	ctx context.Context
	w   *who
	l   *heldLog
}

// Symbol implements gitlog.Outside.
func (o *outside) Symbol(value string) ([]int32, error) {
	if commits, ok := o.l.symbols.Get(value); ok {
		return commits, nil
	}
	path, name, ok := strings.Cut(value, "#")
	if !ok {
		return nil, problem(http.StatusUnprocessableEntity, "no-symbol", "a symbol is written with its file: "+gitlog.KeyOf("symbol").Example)
	}
	story, err := o.s.symbolStory(o.ctx, o.w, o.l, path, name)
	if err != nil {
		return nil, err
	}
	var commits []int32
	for _, x := range story {
		commits = append(commits, x.Commit)
	}
	slices.Sort(commits)
	o.l.symbols.Add(value, commits)
	return commits, nil
}
