package server

import (
	"context"
	"slices"

	"juxtagram/core/compare"
	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/plan"
	"juxtagram/core/recipe"
	"juxtagram/core/repo"
	"juxtagram/survey"
)

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
	saidAtOnce     = 40 // files whose facts are in memory together
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
	var said []*repo.Difference // whose outlines are compared
	for i := range found {
		d := &found[i]
		if d.Link {
			continue
		}
		s.recipesApart(ctx, w, d, info)
		switch {
		case all.OfPath(d.Path) == nil && all.OfPath(first(d.OldPath, d.Path)) == nil: // it says nothing that is compared
		case d.Binary || len(said) == maxSaidFiles:
			info.Unread++
		default:
			said = append(said, d)
		}
	}
	for part := range slices.Chunk(said, saidAtOnce) {
		if err := s.symbolsApart(ctx, w, part, info); err != nil {
			return nil, err
		}
	}
	info.Passages, err = s.passagesApart(ctx, w, found)
	return answer(*info), err
}

// keysApart are the keys of what both sides of a difference say; a side that is
// not there has no blob.
func keysApart(d *repo.Difference) (old, now survey.FactKey) {
	key := func(blob, path string) survey.FactKey {
		k := survey.FactKey{Blob: blob}
		if l := all.OfPath(path); l != nil {
			k.Language = l.Name
		}
		return k
	}
	return key(d.OldBlob, first(d.OldPath, d.Path)), key(d.NewBlob, d.Path)
}

// symbolsApart compares what some files say; what is kept of them is asked for
// at once, the rest is read.
func (s *Server) symbolsApart(ctx context.Context, w *who, part []*repo.Difference, info *SaidInfo) error {
	var keys []survey.FactKey
	for _, d := range part {
		old, now := keysApart(d)
		keys = append(keys, old, now)
	}
	kept, err := s.store.FactsAmong(ctx, keys)
	if err != nil {
		return err
	}
	// nil details: nothing that is compared
	read := func(k survey.FactKey) (*facts.Facts, *facts.Details, error) {
		if k.Blob == "" {
			return &facts.Facts{}, &facts.Details{}, nil
		}
		told := kept[k]
		if told == nil {
			var err error
			if told, err = s.readFacts(ctx, w, k.Blob, k.Language); err != nil {
				return nil, nil, err
			}
		}
		details, err := facts.Unpack(told.Packed)
		return told, details, err
	}
	for _, d := range part {
		old, now := keysApart(d)
		a, oldDetails, err := read(old)
		if err != nil {
			return err
		}
		b, newDetails, err := read(now)
		if err != nil {
			return err
		}
		info.add(d, a, b, oldDetails, newDetails)
	}
	return nil
}

// add tells how what one file says differs.
func (info *SaidInfo) add(d *repo.Difference, a, b *facts.Facts, oldDetails, newDetails *facts.Details) {
	if oldDetails == nil || newDetails == nil {
		info.Unread++
		return
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
	info.addStarts(shown, a.Starts, b.Starts)
}

// addStarts tells which entry points of a file came and went.
func (info *SaidInfo) addStarts(path string, old, now []lang.Start) {
	came, went := compare.Starts(old, now)
	for _, x := range came {
		info.Starts = append(info.Starts, StartChange{path, x.Kind, x.Name, "came", x.Line})
	}
	for _, x := range went {
		info.Starts = append(info.Starts, StartChange{path, x.Kind, x.Name, "went", x.Line})
	}
}

func (s *Server) recipesApart(ctx context.Context, w *who, d *repo.Difference, info *SaidInfo) {
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
		return recipe.Find(ctx, d.Path, content)
	}
	before, after := read(d.OldBlob), read(d.NewBlob)
	old, now := before.Recipes, after.Recipes
	shown, _ := repo.EscapePath(d.Path)
	info.addStarts(shown, declared(before), declared(after))
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
	out := []PassageHere{}
	err := s.eachPassage(ctx, w, func(p *planView, n int, x *plan.Passage) {
		if slices.ContainsFunc(x.Target.Stretches(), func(t plan.Stretch) bool { return differs[t.Path] }) {
			out = append(out, PassageHere{p.ID, p.state.Title, n, *x, []PassagePlace{}})
		}
	})
	return out, err
}
