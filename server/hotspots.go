package server

import (
	"context"
	"fmt"
	"math"
	"path"
	"sort"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/history"
	"juxtagram/core/role"
	"juxtagram/store"
)

func (s *Server) hotspotRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/hotspots", Read, "Files that are intricate and often changed, reckoned by the rules given", s.hotspots),
		handle(s, "GET", "/api/repositories/{repository}/hotspots/table", Read, "The same as CSV or JSON, whole", s.hotspotTable),
		handle(s, "GET", "/api/repositories/{repository}/partners", Read, "Files that change together more often than chance would have it", s.partners),
	}
}

// HotRules say what counts.
type HotRules struct {
	Days      int     `query:"days" minimum:"0" maximum:"100000" doc:"Changes of so many days before the pin; 0: of all time"`
	HalfLife  float64 `query:"half_life" minimum:"1" maximum:"100000" default:"180" doc:"Days after which a change counts half"`
	Wide      int     `query:"wide" minimum:"0" maximum:"1000000" default:"40" doc:"Commits that changed more files are left out; 0: none are"`
	Generated bool    `query:"generated" doc:"Generated files count as well"`
	Vendored  bool    `query:"vendored" doc:"Vendored files count as well"`
	NoTests   bool    `query:"no_tests" doc:"Tests do not count"`
	Folder    string  `query:"folder" maxLength:"5000" doc:"Files below it alone"`
}

func (r *HotRules) rules(now int64) history.Rules {
	out := history.Rules{HalfLife: r.HalfLife, Wide: r.Wide}
	if r.Days > 0 {
		out.From = now - int64(r.Days)*24*60*60
	}
	return out
}

// counts tells whether a file counts, and else why not.
func (r *HotRules) counts(f *store.ChartFile) (bool, string) {
	switch {
	case r.Folder != "" && !strings.HasPrefix(f.Path, strings.Trim(r.Folder, "/")+"/"):
		return false, ""
	case f.Role == role.Generated && !r.Generated, f.Role == role.Vendored && !r.Vendored, f.Role == role.Test && r.NoTests:
		return false, f.Role
	case f.Role == role.Source, f.Role == role.Schema, f.Role == role.Test, f.Role == role.Generated, f.Role == role.Vendored, f.Role == role.Sample, f.Role == role.Build:
		return true, ""
	}
	return false, "no code"
}

// HotspotsInfo are hotspots with the rules they were found by.
type HotspotsInfo struct {
	Rows    []HotspotInfo `json:"rows" doc:"Hottest first, at most 300"`
	Total   int           `json:"total" doc:"Files that moved at all"`
	Commits int           `json:"commits" doc:"Counted; merges never are"`
	Wide    int           `json:"wide" doc:"Commits left out because they changed too many files"`
	LeftOut []LeftOut     `json:"left_out" doc:"Files that moved and do not count"`
	From    *time.Time    `json:"from" doc:"Start of the time; null: the beginning"`
	To      *time.Time    `json:"to" doc:"The pin"`
}

// LeftOut counts files that do not count, by the reason.
type LeftOut struct {
	Why   string `json:"why" doc:"A role, or that it is no code"`
	Files int    `json:"files"`
}

// HotspotInfo is one file.
type HotspotInfo struct {
	Path      string        `json:"path"`
	Role      string        `json:"role"`
	Score     float64       `json:"score" doc:"0 to 1"`
	Changes   int           `json:"changes"`
	Recent    float64       `json:"recent" doc:"Changes, each halved once a half-life of age"`
	Intricacy int32         `json:"intricacy" doc:"-1: not parsed; its code lines stand in"`
	Weight    float64       `json:"weight" doc:"What counts of its intricacy"`
	Code      int32         `json:"code" doc:"Code lines; -1: not counted"`
	Trend     history.Trend `json:"trend" enum:"more,less,steady" doc:"Whether it changes more or less often than in the first half of the time"`
	Early     int           `json:"early" doc:"Changes in the first half of the time"`
	Late      int           `json:"late"`
	LastAt    *time.Time    `json:"last_at"`
}

const (
	maxHotRows = 300
	maxPairs   = 200
)

func (s *Server) hotspots(ctx context.Context, w *who, in *struct {
	RepositoryPath
	HotRules
}) (*body[HotspotsInfo], error) {
	info, err := s.reckonHotspots(ctx, w, &in.HotRules)
	if err != nil {
		return nil, err
	}
	info.Rows = info.Rows[:min(len(info.Rows), maxHotRows)]
	return answer(*info), nil
}

func (s *Server) reckonHotspots(ctx context.Context, w *who, in *HotRules) (*HotspotsInfo, error) {
	c, l, err := s.reckoned(ctx, w)
	if err != nil {
		return nil, err
	}
	rules := in.rules(l.Now)
	moved, counted, wide := l.Moved(rules)
	info := &HotspotsInfo{Rows: []HotspotInfo{}, Commits: counted, Wide: wide, LeftOut: []LeftOut{}, To: moment(l.Now)}
	if rules.From != 0 {
		info.From = moment(rules.From)
	}
	var files []int32
	var intricacy, code []int32
	left := map[string]int{}
	for i := range c.Files {
		if moved[i].Changes == 0 {
			continue
		}
		ok, why := in.counts(&c.Files[i])
		if !ok {
			if why != "" {
				left[why]++
			}
			continue
		}
		files = append(files, int32(i))
		intricacy, code = append(intricacy, c.Files[i].Intricacy), append(code, c.Files[i].Code)
	}
	weights := history.Substance(intricacy, code)
	var maxRecent, maxWeight float64
	for n, i := range files {
		maxRecent, maxWeight = max(maxRecent, moved[i].Recent), max(maxWeight, weights[n])
	}
	for n, i := range files {
		f, m := &c.Files[i], &moved[i]
		info.Rows = append(info.Rows, HotspotInfo{Path: f.Path, Role: f.Role, Score: history.Score(m.Recent, maxRecent, weights[n], maxWeight), Changes: m.Changes,
			Recent: m.Recent, Intricacy: f.Intricacy, Weight: weights[n], Code: f.Code, Trend: m.Trend(), Early: m.Early, Late: m.Late, LastAt: moment(m.Last)})
	}
	info.Total = len(files)
	sort.SliceStable(info.Rows, func(a, b int) bool { return info.Rows[a].Score > info.Rows[b].Score })
	for why, n := range left {
		info.LeftOut = append(info.LeftOut, LeftOut{why, n})
	}
	sort.Slice(info.LeftOut, func(a, b int) bool { return info.LeftOut[a].Why < info.LeftOut[b].Why })
	return info, nil
}

func (s *Server) hotspotTable(ctx context.Context, w *who, in *struct {
	RepositoryPath
	HotRules
	Format string `query:"format" enum:"csv,json" default:"csv"`
}) (*huma.StreamResponse, error) {
	info, err := s.reckonHotspots(ctx, w, &in.HotRules)
	if err != nil {
		return nil, err
	}
	return table(w.repository.Name+"-hotspots", in.Format, *info, func(h HotspotsInfo) [][]string {
		rows := [][]string{{"path", "role", "score", "changes", "recent", "intricacy", "code_lines", "trend", "earlier_half", "later_half", "last"}}
		for _, x := range h.Rows {
			last := ""
			if x.LastAt != nil {
				last = x.LastAt.Format(time.RFC3339)
			}
			rows = append(rows, []string{x.Path, x.Role, fmt.Sprint(x.Score), fmt.Sprint(x.Changes), fmt.Sprintf("%.3f", x.Recent), number(x.Intricacy), number(x.Code), string(x.Trend), fmt.Sprint(x.Early), fmt.Sprint(x.Late), last})
		}
		return rows
	}), nil
}

// PartnersInfo are pairs of files that change together.
type PartnersInfo struct {
	Pairs []PairInfo `json:"pairs" doc:"The most telling first, at most 200"`
	Total int        `json:"total"`
	Least int        `json:"least" doc:"Commits that a pair must share"`
}

// PairInfo is one pair.
type PairInfo struct {
	A        string  `json:"a"`
	B        string  `json:"b"`
	Together int     `json:"together" doc:"Commits that changed both"`
	OfA      int     `json:"of_a" doc:"Commits that changed each, sweeping ones left out"`
	OfB      int     `json:"of_b"`
	Lift     float64 `json:"lift" doc:"How many times as often as chance would have it"`
	Import   string  `json:"import" enum:"a,b,both,none,unknown" doc:"Which of them imports the other"`
	Across   bool    `json:"across" doc:"They lie in different folders"`
}

func (s *Server) partners(ctx context.Context, w *who, in *struct {
	RepositoryPath
	HotRules
	Least int    `query:"least" minimum:"2" maximum:"1000000" default:"3" doc:"Commits that a pair must share"`
	Path  string `query:"path" maxLength:"5000" doc:"Pairs with this file alone"`
}) (*body[PartnersInfo], error) {
	c, l, err := s.reckoned(ctx, w)
	if err != nil {
		return nil, err
	}
	own := int32(-1)
	if in.Path != "" {
		row := c.RowOf(in.Path)
		if row < 0 || c.Table.Rows[row].File < 0 {
			return nil, store.ErrNotFound
		}
		own = c.Table.Rows[row].File
	}
	limit := maxPairs
	if own >= 0 {
		limit = math.MaxInt
	}
	pairs, total := l.Pairs(in.rules(l.Now), in.Least, limit, func(f int32) bool {
		// partners may be of any kind: a document that goes with a source tells much
		r := c.Files[f].Role
		return (r != role.Generated || in.Generated) && (r != role.Vendored || in.Vendored) && (in.Folder == "" || strings.HasPrefix(c.Files[f].Path, strings.Trim(in.Folder, "/")+"/"))
	})
	info := PartnersInfo{Pairs: []PairInfo{}, Total: total, Least: in.Least}
	whole, _ := s.wholeNow(ctx, w, "")
	if own >= 0 {
		info.Total = 0
	}
	for _, p := range pairs {
		if own >= 0 {
			if p.A != own && p.B != own {
				continue
			}
			info.Total++
		}
		if len(info.Pairs) == maxPairs {
			continue
		}
		x := PairInfo{A: c.Files[p.A].Path, B: c.Files[p.B].Path, Together: p.Together, OfA: p.OfA, OfB: p.OfB, Lift: p.Lift, Import: "unknown"}
		x.Across = path.Dir(x.A) != path.Dir(x.B)
		if whole != nil {
			a, b := whole.Graph.Leans(int(p.A), p.B), whole.Graph.Leans(int(p.B), p.A)
			x.Import = map[[2]bool]string{{true, true}: "both", {true, false}: "a", {false, true}: "b", {false, false}: "none"}[[2]bool{a, b}]
		}
		info.Pairs = append(info.Pairs, x)
	}
	return answer(info), nil
}
