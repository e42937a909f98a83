package server

import (
	"context"
	"errors"
	"math"
	"net/http"
	"time"

	"juxtagram/core/history"
	"juxtagram/core/role"
	"juxtagram/core/spine"
	"juxtagram/store"
)

func (s *Server) mapRoutes() []route {
	const at = "/api/repositories/{repository}/map"
	return []route{
		handle(s, "GET", at, Read, "The tree with what the code is and what happened to it, as columns", s.mapOf),
		handle(s, "GET", at+"/span", Read, "What happened in a span of the history, or by one person, as columns", s.mapSpan),
		handle(s, "GET", at+"/ties", Read, "What a file or folder leans on, and what leans on it", s.mapTies),
		handle(s, "GET", "/api/repositories/{repository}/story", Read, "What happened to a file or folder: its pulse, people and partners", s.story),
	}
}

// MapInfo is the tree of the survey as rows, each a file or folder: every folder
// before what is below it, folders before files. All lists have one item for a
// row; a folder's figures are 0, to be summed up from its files, but for people.
type MapInfo struct {
	Commit     string   `json:"commit"`
	State      string   `json:"state" doc:"Of the survey"`
	Names      []string `json:"names" doc:"The last part of the path"`
	Below      Column   `json:"below" doc:"Rows below a folder, which follow it; 0: a file"`
	Roles      []string `json:"roles"`
	Role       Column   `json:"role" doc:"Index in roles; -1: a folder"`
	Languages  []string `json:"languages"`
	Language   Column   `json:"language" doc:"Index in languages; -1: none, or a folder"`
	Lines      Column   `json:"lines" doc:"-1: not counted, as with all figures of what the code is"`
	Code       Column   `json:"code"`
	Symbols    Column   `json:"symbols"`
	Dependents Column   `json:"dependents"`
	Intricacy  Column   `json:"intricacy"`
	Centrality Column   `json:"centrality" doc:"In millionths of all files' weight"`
	Tagged     Column   `json:"tagged" doc:"Tagged comments"`
	Starts     Column   `json:"starts" doc:"Entry points"`

	Happened *SpanInfo           `json:"happened" doc:"The whole history; null until it is read"`
	Timeline *Timeline           `json:"timeline" doc:"Null until spans can be asked for"`
	People   []store.MovesPerson `json:"people" doc:"By the number that spans know them by"`
	PinAt    *time.Time          `json:"pin_at"`
}

// Timeline is when commits were made, merges aside.
type Timeline struct {
	From   int64 `json:"from" doc:"The first commit, Unix seconds"`
	To     int64 `json:"to" doc:"The end of the last part, Unix seconds"`
	Counts []int `json:"counts" doc:"Commits in equal parts of that time"`
}

// SpanInfo is what happened to every row in a span.
type SpanInfo struct {
	Commits int    `json:"commits" doc:"Of the span, merges aside"`
	Changes Column `json:"changes" doc:"0 of a folder"`
	Churn   Column `json:"churn" doc:"Lines added and deleted; -1: not counted"`
	People  Column `json:"people" doc:"Of a folder: everybody who changed anything below it; -1: not known yet"`
	Recent  Column `json:"recent" doc:"Changes, each halved once a half-life of age, in hundredths"`
	First   Times  `json:"first" doc:"Unix seconds; 0: no change"`
	Last    Times  `json:"last"`
}

func spanInfo(w *spine.Wing) *SpanInfo {
	i := &SpanInfo{Commits: w.Commits, Changes: w.Changes, Churn: w.Churn, People: w.People, First: w.First, Last: w.Last, Recent: make(Column, len(w.Recent))}
	for k, r := range w.Recent {
		i.Recent[k] = int32(math.Round(r * 100))
	}
	return i
}

// timelineParts is in how many parts the timeline is cut.
const timelineParts = 120

// chart is what the Map of the survey at the pin is drawn from.
func (s *Server) chart(ctx context.Context, w *who) (*store.Chart, *store.Survey, error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, nil, err
	}
	c, err := s.charts.of(ctx, v)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil, problem(http.StatusConflict, "not-surveyed", "this survey was made before maps were kept: survey the commit again")
	}
	return c, v, err
}

func (s *Server) mapOf(ctx context.Context, w *who, _ *RepositoryPath) (*body[MapInfo], error) {
	c, v, err := s.chart(ctx, w)
	if err != nil {
		return nil, err
	}
	rows := c.Table.Rows
	n := len(rows)
	info := MapInfo{Commit: v.OID, State: v.State, Names: make([]string, n), Below: make(Column, n), Roles: []string{}, Role: make(Column, n), Languages: []string{}, Language: make(Column, n),
		Lines: make(Column, n), Code: make(Column, n), Symbols: make(Column, n), Dependents: make(Column, n), Intricacy: make(Column, n), Centrality: make(Column, n),
		Tagged: make(Column, n), Starts: make(Column, n), People: c.People}
	if info.People == nil || w.repository.PeopleHidden {
		info.People = []store.MovesPerson{}
	}
	roles, languages := dictionary{list: &info.Roles}, dictionary{list: &info.Languages}
	for i := range rows {
		r := &rows[i]
		info.Names[i], info.Below[i], info.Role[i], info.Language[i] = r.Name, r.Below, -1, -1
		if r.File < 0 {
			continue
		}
		f := &c.Files[r.File]
		info.Role[i] = roles.number(f.Role)
		if f.Language != "" {
			info.Language[i] = languages.number(f.Language)
		}
		info.Lines[i], info.Code[i], info.Symbols[i], info.Dependents[i], info.Intricacy[i] = f.Lines, f.Code, f.Symbols, f.Dependents, f.Intricacy
		if info.Centrality[i] = -1; f.Centrality >= 0 && f.Role != role.Vendored {
			info.Centrality[i] = int32(math.Round(f.Centrality * 1e6))
		}
		info.Tagged[i], info.Starts[i] = f.Tagged, f.Starts
	}
	if c.Whole != nil {
		info.Happened = spanInfo(c.Whole)
	}
	if c.PinAt != 0 {
		at := time.Unix(c.PinAt, 0).UTC()
		info.PinAt = &at
	}
	if l := c.Ledger; l != nil && len(l.Time) > 0 {
		counts, first := l.Pulse(timelineParts)
		info.Timeline = &Timeline{first, max(l.Now, l.Time[len(l.Time)-1]) + 1, counts}
	}
	return answer(info), nil
}

// dictionary numbers words in the order they are met.
type dictionary struct {
	list *[]string
	at   map[string]int32
}

func (d *dictionary) number(word string) int32 {
	if n, ok := d.at[word]; ok {
		return n
	}
	if d.at == nil {
		d.at = map[string]int32{}
	}
	d.at[word] = int32(len(*d.list))
	*d.list = append(*d.list, word)
	return d.at[word]
}

func (s *Server) ledger(c *store.Chart) (*history.Ledger, error) {
	if c.Ledger == nil {
		return nil, problem(http.StatusConflict, "not-surveyed", "the survey of this commit is not complete: its history can be asked about when it is")
	}
	return c.Ledger, nil
}

// reckoned are the chart of the survey at the pin and the changes of its files.
func (s *Server) reckoned(ctx context.Context, w *who) (*store.Chart, *history.Ledger, error) {
	c, _, err := s.chart(ctx, w)
	if err != nil {
		return nil, nil, err
	}
	l, err := s.ledger(c)
	return c, l, err
}

func (s *Server) mapSpan(ctx context.Context, w *who, in *struct {
	RepositoryPath
	From   int64 `query:"from" doc:"Unix seconds; commits from then on"`
	To     int64 `query:"to" doc:"Unix seconds; commits before then; 0: to the end"`
	Person int   `query:"person" default:"-1" minimum:"-1" doc:"Number in people; -1: everybody"`
}) (*body[SpanInfo], error) {
	c, l, err := s.reckoned(ctx, w)
	if err != nil {
		return nil, err
	}
	if in.Person >= len(c.People) || (in.Person >= 0 && w.repository.PeopleHidden) {
		return nil, store.ErrNotFound
	}
	span := history.Span{From: in.From, To: in.To, Person: in.Person}
	if in.To == 0 {
		span.To = math.MaxInt64
	}
	return answer(*spanInfo(c.Table.Wing(l, span))), nil
}

// TiesInfo is how other files are tied to a file or folder.
type TiesInfo struct {
	Row     int32   `json:"row" doc:"Of the path that was asked for; -1: the root"`
	Rows    []int32 `json:"rows" doc:"Rows of files outside it"`
	LeansOn []int   `json:"leans_on" doc:"For each of rows: files of the selection that lean on it"`
	UsedBy  []int   `json:"used_by" doc:"For each of rows: files of the selection that it leans on"`
	Cycle   []int32 `json:"cycle" doc:"Rows of files that lean on each other in a circle with some file of it"`
}

func (s *Server) mapTies(ctx context.Context, w *who, in *FilePath) (*body[TiesInfo], error) {
	c, v, err := s.chart(ctx, w)
	if err != nil {
		return nil, err
	}
	row := c.RowOf(in.Path)
	if row < 0 {
		return nil, store.ErrNotFound
	}
	if v.State != store.Complete {
		_, _, err := s.whole(ctx, w)
		return nil, err
	}
	whole, err := s.wholes.of(ctx, v)
	if err != nil {
		return nil, err
	}
	info := TiesInfo{Row: row, Rows: []int32{}, LeansOn: []int{}, UsedBy: []int{}, Cycle: []int32{}}
	for _, t := range c.Table.Ties(row, whole.Graph) {
		info.Rows, info.LeansOn, info.UsedBy = append(info.Rows, t.Row), append(info.LeansOn, t.LeansOn), append(info.UsedBy, t.UsedBy)
	}
	seen := map[int32]bool{}
	for _, f := range c.Table.FilesOf(row) {
		for _, other := range whole.Cycle(int(f)) {
			if r := c.Table.OfRow[other]; other != f && !seen[r] {
				seen[r] = true
				info.Cycle = append(info.Cycle, r)
			}
		}
	}
	return answer(info), nil
}
