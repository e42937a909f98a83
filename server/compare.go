package server

import (
	"context"
	"net/http"
	"time"

	"juxtagram/core/compare"
	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/plan"
	"juxtagram/core/recipe"
	"juxtagram/core/repo"
	"juxtagram/store"
)

func (s *Server) compareRoutes() []route {
	const at = "/api/repositories/{repository}/compare"
	return []route{
		handle(s, "GET", at, Read, "How far two commits have gone apart, and in which files they differ", s.compare),
		handle(s, "GET", at+"/said", Read, "How what the code says differs: symbols, entry points, recipes, passages", s.compareSaid),
	}
}

// Ends are the two sides of a comparison.
type Ends struct {
	From string `query:"from" required:"true" minLength:"1" maxLength:"300" doc:"A commit id, tag or branch"`
	To   string `query:"to" required:"true" minLength:"1" maxLength:"300" doc:"Another"`
	Fork bool   `query:"fork" doc:"Compare the second with where it left the first, not with the first itself"`
}

// CompareInfo compares two commits.
type CompareInfo struct {
	From    CompareEnd   `json:"from"`
	To      CompareEnd   `json:"to"`
	Base    string       `json:"base" doc:"The commit that files are compared with: the first, or where they went apart"`
	Fork    CommitName   `json:"fork" doc:"Where they went apart: their best common ancestor; empty: they have none"`
	Ahead   int          `json:"ahead" doc:"Commits that only the second has"`
	Behind  int          `json:"behind" doc:"Commits that only the first has"`
	Newer   []LogRow     `json:"newer" doc:"Those that only the second has, at most 200"`
	Older   []LogRow     `json:"older" doc:"Those that only the first has, at most 200"`
	Changes []ChangeInfo `json:"changes" doc:"At most 3,000"`
	Total   int          `json:"total"`
	Added   int          `json:"added"`
	Deleted int          `json:"deleted"`
}

// CompareEnd is one of the commits.
type CompareEnd struct {
	CommitName
	Time     time.Time `json:"time"`
	Refs     []RefName `json:"refs"`
	Surveyed bool      `json:"surveyed"`
	Pin      bool      `json:"pin"`
}

const maxCompared = 200

// ends resolves both sides, and the commit that files are compared with.
func (s *Server) ends(ctx context.Context, w *who, in *Ends) (from, to, fork, base string, err error) {
	g := s.jobs.Git(w.repository.ID)
	if from, err = g.Resolve(ctx, in.From); err != nil {
		return
	}
	if to, err = g.Resolve(ctx, in.To); err != nil {
		return
	}
	if fork, err = g.MergeBase(ctx, from, to); err != nil {
		return
	}
	base = from
	if in.Fork {
		if base = fork; base == "" {
			err = problem(http.StatusConflict, "no-fork", "these commits share no history: there is nowhere that they went apart")
		}
	}
	return
}

func (s *Server) compare(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Ends
}) (*body[CompareInfo], error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	from, to, fork, base, err := s.ends(ctx, w, &in.Ends)
	if err != nil {
		return nil, err
	}
	info := CompareInfo{Base: base, Fork: CommitName{ID: fork}, Newer: []LogRow{}, Older: []LogRow{}}
	if i := l.At(fork); i >= 0 {
		info.Fork.Subject = l.Subjects[i]
	}
	for _, e := range []struct {
		id   string
		into *CompareEnd
	}{{from, &info.From}, {to, &info.To}} {
		e.into.ID, e.into.Pin, e.into.Refs = e.id, e.id == w.repository.Pin, []RefName{}
		if e.into.Time, err = s.timeOf(ctx, w, e.id); err != nil {
			return nil, err
		}
		if v, err := s.store.SurveyAt(ctx, w.repository.ID, e.id); err == nil {
			e.into.Surveyed = v.State == store.Complete
		}
		if i := l.At(e.id); i >= 0 {
			row := l.row(i, int(i))
			e.into.Subject, e.into.Refs = row.Subject, row.Refs
		}
	}
	a, b := l.At(from), l.At(to)
	if a >= 0 && b >= 0 {
		onlyA, onlyB := l.Apart(a, b)
		info.Ahead, info.Behind = onlyB.Count(), onlyA.Count()
		info.Newer, info.Older = l.someRows(onlyB.List()), l.someRows(onlyA.List())
	}
	found, err := s.jobs.Git(w.repository.ID).Differences(ctx, base, to)
	if err != nil {
		return nil, err
	}
	info.Changes, info.Added, info.Deleted = s.changesTold(ctx, w, found)
	info.Total = len(found)
	return answer(info), nil
}

func (l *heldLog) someRows(commits []int32) []LogRow {
	out := []LogRow{}
	for n, i := range commits[:min(len(commits), maxCompared)] {
		out = append(out, l.row(i, n))
	}
	return out
}

// SaidInfo tells how what the code says differs.
type SaidInfo struct {
	Symbols  []SymbolChange `json:"symbols" doc:"At most 2,000, by file"`
	Total    int            `json:"total" doc:"Symbols that differ in all"`
	Starts   []StartChange  `json:"starts"`
	Recipes  []RecipeChange `json:"recipes"`
	Passages []PassageHere  `json:"passages" doc:"Passages of plans whose files differ"`
	Read     int            `json:"read" doc:"Files whose outlines were compared"`
	Unread   int            `json:"unread" doc:"Files that were not: too many, too large, or not parsed"`
}

// SymbolChange is a symbol that came, went or is declared otherwise.
type SymbolChange struct {
	Path string `json:"path"`
	Kind string `json:"kind"`
	Name string `json:"name"`
	What string `json:"what" enum:"came,went,changed"`
	Old  string `json:"old" doc:"Its signature; empty: it was not there"`
	New  string `json:"new"`
	Line int    `json:"line" doc:"In the newer version; of one that went, in the older"`
}

// StartChange is an entry point that came or went.
type StartChange struct {
	Path string `json:"path"`
	Kind string `json:"kind"`
	Name string `json:"name"`
	What string `json:"what" enum:"came,went"`
	Line int    `json:"line"`
}

// RecipeChange is a command to build, run or test that came or went.
type RecipeChange struct {
	Path    string `json:"path"`
	Purpose string `json:"purpose" doc:"To install, build, run, test, lint or something else"`
	Command string `json:"command"`
	What    string `json:"what" enum:"came,went"`
	Line    int    `json:"line"`
}

const (
	maxSaidFiles   = 400
	maxSaidSymbols = 2000
)

func (s *Server) compareSaid(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Ends
}) (*body[SaidInfo], error) {
	_, to, _, base, err := s.ends(ctx, w, &in.Ends)
	if err != nil {
		return nil, err
	}
	found, err := s.jobs.Git(w.repository.ID).Differences(ctx, base, to)
	if err != nil {
		return nil, err
	}
	info := &SaidInfo{Symbols: []SymbolChange{}, Starts: []StartChange{}, Recipes: []RecipeChange{}, Passages: []PassageHere{}}
	for i := range found {
		d := &found[i]
		if d.Link {
			continue
		}
		s.recipesApart(w, d, info)
		if all.OfPath(d.Path) == nil && all.OfPath(first(d.OldPath, d.Path)) == nil {
			continue // it says nothing that is compared
		}
		if info.Read == maxSaidFiles || d.Binary {
			info.Unread++
			continue
		}
		if err := s.symbolsApart(ctx, w, d, info); err != nil {
			return nil, err
		}
	}
	info.Passages, err = s.passagesApart(ctx, w, found)
	return answer(*info), err
}

// factsAt reads what a blob says under a path; nil details: nothing.
func (s *Server) factsAt(ctx context.Context, w *who, blob, path string) (*facts.Facts, *facts.Details, error) {
	if blob == "" {
		return &facts.Facts{}, &facts.Details{}, nil
	}
	told, err := s.factsOf(ctx, w, &found{blob: blob, language: all.OfPath(path)})
	if err != nil {
		return nil, nil, err
	}
	details, err := facts.Unpack(told.Packed)
	return told, details, err
}

func (s *Server) symbolsApart(ctx context.Context, w *who, d *repo.Difference, info *SaidInfo) error {
	a, oldDetails, err := s.factsAt(ctx, w, d.OldBlob, first(d.OldPath, d.Path))
	if err != nil {
		return err
	}
	b, newDetails, err := s.factsAt(ctx, w, d.NewBlob, d.Path)
	if err != nil {
		return err
	}
	if oldDetails == nil || newDetails == nil {
		info.Unread++
		return nil
	}
	info.Read++
	shown, _ := repo.EscapePath(d.Path)
	for _, c := range compare.Symbols(oldDetails.Outline, newDetails.Outline) {
		x := SymbolChange{Path: shown, What: "changed"}
		var at *lang.Symbol
		if c.Old >= 0 {
			at = &oldDetails.Outline[c.Old]
			x.Old = at.Signature
		} else {
			x.What = "came"
		}
		if c.New >= 0 {
			at = &newDetails.Outline[c.New]
			x.New = at.Signature
		} else {
			x.What = "went"
		}
		if at.Kind == lang.Section {
			continue // a heading of a text is no symbol of the code
		}
		x.Kind, x.Name, x.Line = string(at.Kind), at.Qualified, at.NameLine
		if info.Total++; len(info.Symbols) < maxSaidSymbols {
			info.Symbols = append(info.Symbols, x)
		}
	}
	came, went := compare.Starts(a.Starts, b.Starts)
	for _, x := range []struct {
		list []lang.Start
		what string
	}{{came, "came"}, {went, "went"}} {
		for _, start := range x.list {
			info.Starts = append(info.Starts, StartChange{shown, start.Kind, start.Name, x.what, start.Line})
		}
	}
	return nil
}

func (s *Server) recipesApart(w *who, d *repo.Difference, info *SaidInfo) {
	if !recipe.Wanted(d.Path) {
		return
	}
	read := func(blob string) recipe.Found {
		if blob == "" {
			return recipe.Found{}
		}
		content, err := s.readers.read(w.repository.ID, blob, recipe.MaxSize)
		if err != nil {
			return recipe.Found{} // one that is too large tells nothing
		}
		return recipe.Find(d.Path, content)
	}
	before, after := read(d.OldBlob), read(d.NewBlob)
	old, now := before.Recipes, after.Recipes
	shown, _ := repo.EscapePath(d.Path)
	came, went := compare.Starts(declared(before), declared(after))
	for _, x := range came {
		info.Starts = append(info.Starts, StartChange{shown, x.Kind, x.Name, "came", x.Line})
	}
	for _, x := range went {
		info.Starts = append(info.Starts, StartChange{shown, x.Kind, x.Name, "went", x.Line})
	}
	has := func(list []recipe.Recipe, r recipe.Recipe) bool {
		for _, x := range list {
			if x.Command == r.Command && x.Kind == r.Kind {
				return true
			}
		}
		return false
	}
	for _, r := range now {
		if !has(old, r) {
			info.Recipes = append(info.Recipes, RecipeChange{shown, r.Kind, r.Command, "came", r.Line})
		}
	}
	for _, r := range old {
		if !has(now, r) {
			info.Recipes = append(info.Recipes, RecipeChange{shown, r.Kind, r.Command, "went", r.Line})
		}
	}
}

// declared are the entry points that a build file declares.
func declared(f recipe.Found) (out []lang.Start) {
	for _, d := range f.Declared {
		out = append(out, lang.Start{Kind: d.Kind, Name: d.Name, Line: d.Line})
	}
	return out
}

// passagesApart are the passages of plans that have one read files which differ.
func (s *Server) passagesApart(ctx context.Context, w *who, found []repo.Difference) ([]PassageHere, error) {
	differs := make(map[string]bool, len(found))
	for _, d := range found {
		for _, p := range []string{d.Path, d.OldPath} {
			shown, _ := repo.EscapePath(p)
			differs[shown] = true
		}
	}
	plans, err := s.store.Plans(ctx, w.repository.ID, w.person.ID)
	if err != nil {
		return nil, err
	}
	out := []PassageHere{}
	for _, p := range plans {
		n := 0
		for _, c := range p.State.InOrder() {
			for _, x := range c.Passages {
				if n++; x.Target.Kind != plan.Folder && differs[x.Target.Path] {
					out = append(out, PassageHere{p.ID, p.State.Title, n, x})
				}
			}
		}
	}
	return out, nil
}
