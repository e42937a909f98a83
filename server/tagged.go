package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/facts"
	"juxtagram/core/listing"
	"juxtagram/core/tagged"
	"juxtagram/store"
)

func (s *Server) taggedRoutes() []route {
	const at = "/api/repositories/{repository}/tagged"
	return []route{
		handle(s, "GET", at, Read, "Tagged comments, grouped and narrowed", s.taggedList),
		handle(s, "GET", at+"/table", Read, "Every tagged comment that fits, as CSV or JSON", s.taggedTable),
		handle(s, "GET", at+"/ignored", Read, "The rules that hide tagged comments, and how many each hides", s.ignoreRules),
		handle(s, "GET", at+"/ignored/preview", Read, "What a rule would hide", s.previewRule),
		handle(s, "POST", at+"/ignored", Write, "Hide tagged comments by path or by what they say", s.addRule),
		handle(s, "DELETE", at+"/ignored/{rule}", Write, "Take such a rule away", s.endRule),
	}
}

// heldTagged are the tagged comments of a survey in memory.
type heldTagged struct {
	rows    []store.TaggedRow
	people  []store.MovesPerson
	pinAt   int64
	words   *tagged.Words
	items   []tagged.Item
	named   *listing.List // with who wrote each
	unnamed *listing.List
	mu      sync.Mutex
	hidden  map[string][]bool // by the rules, as a text
	there   map[string][]int  // by path
}

// loadTagged brings the tagged comments of a survey together.
func (s *Server) loadTagged(ctx context.Context, v *store.Survey) (*heldTagged, error) {
	chart, err := s.charts.of(ctx, v)
	if err != nil {
		return nil, err
	}
	h := &heldTagged{people: chart.People, pinAt: chart.PinAt, hidden: map[string][]bool{}, there: map[string][]int{}}
	if h.rows, err = s.store.Tagged(ctx, v.ID); err != nil {
		return nil, err
	}
	if h.words, err = s.store.Words(ctx, v.RepositoryID); err != nil {
		return nil, err
	}
	items := make([]tagged.Item, len(h.rows))
	for i := range h.rows {
		t := &h.rows[i]
		items[i] = tagged.Item{Path: t.Path, Word: t.Word, Said: t.Said, Whole: t.Whole, Who: t.Who, Symbol: t.Symbol, BornAt: t.BornAt}
		if t.GoneAt == 0 {
			h.there[t.Path] = append(h.there[t.Path], i)
		}
	}
	h.items = items
	h.unnamed = tagged.NewList(items, h.words, h.pinAt)
	h.named = h.unnamed.With(tagged.ByPerson, func(i int) []string { return []string{h.person(h.rows[i].BornPerson)} })
	return h, nil
}

func (h *heldTagged) person(n int32) string {
	if n < 0 || int(n) >= len(h.people) {
		return ""
	}
	return h.people[n].Name
}

// taggedNow are the tagged comments at the pin, as the newest complete survey
// found them, with what people said of them.
func (s *Server) taggedNow(ctx context.Context, w *who) (*heldTagged, map[string]store.LeadMark, error) {
	v, err := s.store.CompleteSurveyAt(ctx, w.repository.ID, w.repository.Pin)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil, problem(http.StatusConflict, "not-surveyed", "tagged comments are told when the survey is complete")
	}
	if err != nil {
		return nil, nil, err
	}
	h, err := s.tagged.of(ctx, v)
	if err != nil {
		return nil, nil, err
	}
	marks, err := s.store.LeadMarks(ctx, w.repository.ID)
	return h, marks, err
}

// state is what became of a comment.
func (h *heldTagged) state(i int, marks map[string]store.LeadMark) tagged.State {
	t := &h.rows[i]
	if t.GoneAt > 0 {
		return tagged.Gone
	}
	if m, ok := marks[t.LeadID]; ok && t.LeadID != "" {
		return tagged.State(m.State)
	}
	if x := h.words.Of(t.Word); x != nil && x.Done {
		return tagged.Done
	}
	return tagged.Open
}

// TaggedQuery narrows and groups tagged comments.
type TaggedQuery struct {
	RepositoryPath
	By     string   `query:"by" enum:"word,folder,file,person,age,owner,symbol,state" default:"word" doc:"What they are grouped by"`
	Word   []string `query:"word,explode" maxItems:"60"`
	Folder []string `query:"folder,explode" maxItems:"60" doc:"With what is below; a full stop: the root alone"`
	File   []string `query:"file,explode" maxItems:"60"`
	Person []string `query:"person,explode" maxItems:"60" doc:"Who wrote it; (none): not known"`
	Age    []string `query:"age,explode" maxItems:"60" doc:"At the pin: month, quarter, year, two-years, four-years, older, unknown"`
	Owner  []string `query:"owner,explode" maxItems:"60" doc:"Named in it; (none): nobody"`
	Symbol []string `query:"symbol,explode" maxItems:"60"`
	State  []string `query:"state,explode" maxItems:"10" doc:"open, done, kept, aside, gone; none: open"`
	Text   string   `query:"text" maxLength:"500"`
	All    bool     `query:"all" doc:"Also what the rules hide"`
}

// nothing stands in addresses for a value that is empty.
const nothing = "(none)"

// narrowing reads the values of an address, by key; keys without any are left
// out.
func narrowing(asked map[listing.Key][]string) map[listing.Key][]string {
	out := map[listing.Key][]string{}
	for k, values := range asked {
		for _, v := range values {
			if v == nothing {
				v = ""
			}
			out[k] = append(out[k], v)
		}
	}
	return out
}

func (q *TaggedQuery) values() map[listing.Key][]string {
	out := narrowing(map[listing.Key][]string{tagged.ByWord: q.Word, tagged.ByFolder: q.Folder, tagged.ByFile: q.File, tagged.ByPerson: q.Person, tagged.ByAge: q.Age,
		tagged.ByOwner: q.Owner, tagged.BySymbol: q.Symbol, tagged.ByState: q.State})
	if len(q.State) == 0 {
		out[tagged.ByState] = []string{string(tagged.Open)}
	}
	return out
}

// foundTagged narrows and groups.
func (s *Server) foundTagged(ctx context.Context, w *who, q *TaggedQuery) (*heldTagged, map[string]store.LeadMark, *listing.Found, error) {
	h, marks, err := s.taggedNow(ctx, w)
	if err != nil {
		return nil, nil, nil, err
	}
	list := h.named
	if w.repository.PeopleHidden {
		list = h.unnamed
	}
	list = list.With(tagged.ByState, func(i int) []string { return []string{string(h.state(i, marks))} })
	rules, err := s.store.IgnoreRules(ctx, w.repository.ID)
	if err != nil {
		return nil, nil, nil, err
	}
	f := listing.Filter{Values: q.values(), Text: q.Text}
	if len(rules) > 0 && !q.All {
		hidden, err := h.hiddenBy(rules)
		if err != nil {
			return nil, nil, nil, err
		}
		f.Hidden = func(i int) bool { return hidden[i] }
	}
	return h, marks, list.Find(f, listing.Key(q.By)), nil
}

// TaggedItem is one tagged comment.
type TaggedItem struct {
	Lead       string     `json:"lead" doc:"Id of the lead; empty: it is gone"`
	Path       string     `json:"path"`
	Line       int        `json:"line" doc:"Of one that is gone: before it went"`
	EndLine    int        `json:"end_line"`
	Word       string     `json:"word"`
	Said       string     `json:"said"`
	Whole      string     `json:"whole" doc:"The whole comment's text"`
	Owner      string     `json:"owner" doc:"Named in it"`
	Issue      string     `json:"issue"`
	Symbol     string     `json:"symbol"`
	Person     string     `json:"person" doc:"Who wrote it"`
	BornAt     *time.Time `json:"born_at"`
	BornCommit string     `json:"born_commit"`
	LastAt     *time.Time `json:"last_at" doc:"When it was last put otherwise or moved"`
	Edits      int32      `json:"edits" doc:"How often it was put otherwise"`
	Outlived   int32      `json:"outlived" doc:"People who wrote it or changed its file since, and are gone"`
	GoneAt     *time.Time `json:"gone_at" doc:"Null: it is there"`
	GoneCommit string     `json:"gone_commit"`
	GonePerson string     `json:"gone_person"`
	State      string     `json:"state" enum:"open,done,kept,aside,gone"`
	Reason     string     `json:"reason" doc:"Why it was set aside or is kept"`
	MarkedBy   string     `json:"marked_by"`
}

func unix(at int64) *time.Time {
	if at == 0 {
		return nil
	}
	t := time.Unix(at, 0).UTC()
	return &t
}

// item tells of one; named: people are told.
func (h *heldTagged) item(i int, marks map[string]store.LeadMark, named bool) TaggedItem {
	t := &h.rows[i]
	x := TaggedItem{Lead: t.LeadID, Path: t.Path, Line: t.Line, EndLine: t.EndLine, Word: t.Word, Said: t.Said, Whole: t.Whole, Owner: t.Who, Issue: t.Issue, Symbol: t.Symbol,
		BornAt: unix(t.BornAt), BornCommit: t.BornCommit, LastAt: unix(t.LastAt), Edits: t.Edits, GoneAt: unix(t.GoneAt), GoneCommit: t.GoneCommit,
		State: string(h.state(i, marks))}
	if named {
		x.Person, x.Outlived, x.GonePerson = h.person(t.BornPerson), t.Outlived, h.person(t.GonePerson)
	}
	if m, ok := marks[t.LeadID]; ok && t.LeadID != "" {
		x.Reason, x.MarkedBy = m.Reason, m.By
	}
	return x
}

// WordInfo is an agreed word.
type WordInfo struct {
	Word    string `json:"word" minLength:"1" maxLength:"80"`
	Meaning string `json:"meaning" maxLength:"400"`
	Urgency int    `json:"urgency" enum:"1,2,3" doc:"3: pressing; 2: some day; 1: to know"`
	Pattern string `json:"pattern" maxLength:"400" doc:"RE2; empty: the word itself"`
	Done    bool   `json:"done" doc:"It says that nothing is left to do"`
	Own     bool   `json:"own" doc:"The team's own"`
}

func wordInfos(words *tagged.Words) []WordInfo {
	out := []WordInfo{}
	for _, x := range words.List() {
		out = append(out, WordInfo{x.Word, x.Meaning, int(x.Urgency), x.Pattern, x.Done, words.IsOwn(x.Word)})
	}
	return out
}

// ValueCount is how many comments have a value.
type ValueCount struct {
	Value string `json:"value"`
	Count int    `json:"count"`
}

// FacetInfo is what can be narrowed by one key.
type FacetInfo struct {
	Key    string       `json:"key"`
	Values []ValueCount `json:"values" doc:"At most 200"`
	Total  int          `json:"total" doc:"Of values"`
}

// TaggedPage is a page of tagged comments in the order of their groups.
type TaggedPage struct {
	Total  int          `json:"total" doc:"All that fit"`
	Hidden int          `json:"hidden" doc:"Hidden by rules, of those that would fit"`
	Groups []ValueCount `json:"groups" doc:"All groups that have any, in order"`
	Facets []FacetInfo  `json:"facets" doc:"What each further narrowing would leave"`
	Words  []WordInfo   `json:"words"`
	Stale  bool         `json:"stale" doc:"The words have changed since, or a newer survey is under way"`
	Items  []TaggedItem `json:"items"`
	PinAt  *time.Time   `json:"pin_at"`
}

// maxFacet is how many values of a key are told.
const maxFacet = 200

func (s *Server) taggedList(ctx context.Context, w *who, in *struct {
	TaggedQuery
	Offset int `query:"offset" minimum:"0"`
	Limit  int `query:"limit" minimum:"1" maximum:"500" default:"200"`
}) (*body[TaggedPage], error) {
	h, marks, found, err := s.foundTagged(ctx, w, &in.TaggedQuery)
	if err != nil {
		return nil, err
	}
	page := TaggedPage{Total: len(found.Items), Hidden: found.Hidden, Groups: counts(found.Groups), Facets: []FacetInfo{}, Words: wordInfos(h.words), Items: []TaggedItem{}, PinAt: unix(h.pinAt)}
	for _, k := range tagged.Keys {
		if k == tagged.ByPerson && w.repository.PeopleHidden {
			continue
		}
		page.Facets = append(page.Facets, facetInfo(k, found))
	}
	from := min(in.Offset, len(found.Items))
	for _, i := range found.Items[from:min(from+in.Limit, len(found.Items))] {
		page.Items = append(page.Items, h.item(i, marks, !w.repository.PeopleHidden))
	}
	newest, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	page.Stale = newest.State == store.Waiting || newest.State == store.Running
	return answer(page), nil
}

// facetInfo tells what narrowing by a key would leave.
func facetInfo(k listing.Key, found *listing.Found) FacetInfo {
	all := found.Facets[k]
	return FacetInfo{string(k), counts(all[:min(len(all), maxFacet)]), len(all)}
}

func counts(in []listing.Count) []ValueCount {
	out := make([]ValueCount, len(in))
	for i, c := range in {
		out[i] = ValueCount(c)
		if c.Value == "" {
			out[i].Value = nothing
		}
	}
	return out
}

// TaggedExport are tagged comments as a document.
type TaggedExport struct {
	Tagged []TaggedItem `json:"tagged_comments"`
}

func (s *Server) taggedTable(ctx context.Context, w *who, in *struct {
	TaggedQuery
	Format string `query:"format" enum:"csv,json" default:"csv"`
}) (*huma.StreamResponse, error) {
	h, marks, found, err := s.foundTagged(ctx, w, &in.TaggedQuery)
	if err != nil {
		return nil, err
	}
	doc := TaggedExport{Tagged: make([]TaggedItem, 0, len(found.Items))}
	for _, i := range found.Items {
		doc.Tagged = append(doc.Tagged, h.item(i, marks, !w.repository.PeopleHidden))
	}
	return table(w.repository.Name+"-tagged-comments", in.Format, doc, func(e TaggedExport) [][]string {
		rows := [][]string{{"word", "said", "path", "line", "symbol", "owner", "issue", "person", "written", "changed", "edits", "outlived", "state", "reason", "gone", "gone_commit"}}
		for _, t := range e.Tagged {
			rows = append(rows, []string{t.Word, t.Said, t.Path, fmt.Sprint(t.Line), t.Symbol, t.Owner, t.Issue, t.Person, day(t.BornAt), day(t.LastAt), fmt.Sprint(t.Edits), fmt.Sprint(t.Outlived), t.State, t.Reason, day(t.GoneAt), t.GoneCommit})
		}
		return rows
	}), nil
}

func day(t *time.Time) string {
	if t == nil {
		return ""
	}
	return t.Format(time.RFC3339)
}

// taggedIn are the tagged comments of a file; at the pin with what the survey
// and people know of them.
func (s *Server) taggedIn(ctx context.Context, w *who, f *found, path string, got *facts.Facts, details *facts.Details) ([]TaggedInfo, error) {
	words, err := s.store.Words(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	comments := got.Tagged
	if words.Own() && details != nil {
		content, err := s.readers.read(w.repository.ID, f.blob, facts.MaxRead)
		if err != nil {
			return nil, err
		}
		content, _ = facts.Text(content)
		comments = facts.Tagged(content, details.Comments, details.Docstrings, details.Outline, words)
	}
	out := []TaggedInfo{}
	if len(comments) == 0 {
		return out, nil
	}
	type place struct {
		line int
		word string
	}
	known := map[place]TaggedItem{}
	if f.commit == w.repository.Pin {
		h, marks, err := s.taggedNow(ctx, w)
		if err == nil {
			for _, i := range h.there[path] {
				known[place{h.rows[i].Line, h.rows[i].Word}] = h.item(i, marks, !w.repository.PeopleHidden)
			}
		} else if ctx.Err() != nil {
			return nil, err
		}
	}
	for _, t := range comments {
		x := TaggedInfo{Word: t.Word, Meaning: words.Meaning(t.Word), Text: t.Text, Line: t.Line, EndLine: t.EndLine, Who: t.Who, Issue: t.Issue, Said: t.Said, Symbol: t.Symbol, State: "open"}
		if k, ok := known[place{t.Line, t.Word}]; ok {
			x.Lead, x.BornAt, x.Person, x.Outlived, x.State, x.Reason = k.Lead, k.BornAt, k.Person, int(k.Outlived), k.State, k.Reason
		}
		out = append(out, x)
	}
	return out, nil
}

// publishLeads tells that what people say of leads has changed.
func (s *Server) publishLeads(ctx context.Context, w *who) error {
	return s.store.Publish(ctx, store.Event{Kind: "leads", Repository: w.repository.ID})
}
