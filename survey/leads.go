package survey

import (
	"context"
	"fmt"
	"slices"
	"sort"
	"strings"

	"juxtagram/core/history"
	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/recipe"
	"juxtagram/core/role"
)

// recipes gathers what the build files tell, in path order.
func (s *run) recipes() {
	r := s.result
	r.Recipes = nil
	var declared []recipe.Declared
	for i := range r.Files {
		f := &r.Files[i]
		found, ok := s.found[f.Path]
		if !ok || f.Role.Name == role.Vendored || f.Role.Name == role.Test {
			continue
		}
		if found.Problem != "" {
			s.limit(f.Path, "%s", found.Problem)
		}
		r.Recipes = append(r.Recipes, found.Recipes...)
		declared = append(declared, found.Declared...)
	}
	recipe.Sort(r.Recipes)
	r.EntryPoints = s.correctStarts(leads.EntryPoints(s.leadFiles(), declared, r.Recipes))
}

func (s *run) leadFiles() []leads.File {
	out := make([]leads.File, len(s.result.Files))
	for i := range s.result.Files {
		f := &s.result.Files[i]
		out[i] = leads.File{Path: f.Path, Birth: f.Path, Role: f.Role.Name, Language: f.LanguageName(), Executable: f.Mode == "executable", Facts: f.Facts}
		if f.History != nil {
			out[i].Birth = f.History.Birth
		}
	}
	return out
}

// unread tells in the limits how many files were not read, by reason.
func (s *run) unread() {
	reasons := map[string]int{}
	var order []string
	for i := range s.result.Files {
		f := s.result.Files[i].Facts
		if f == nil || f.Depth != lang.Listed || f.Passing && strings.HasPrefix(f.Reason, "object ") || f.Reason == "empty" || f.Reason == "a submodule" || f.Reason == "a symbolic link" {
			continue
		}
		if reasons[f.Reason] == 0 {
			order = append(order, f.Reason)
		}
		reasons[f.Reason]++
	}
	slices.Sort(s.damaged)
	for i, what := range s.damaged {
		if i == mostDamaged {
			s.limit("damage", "%s more not read: their objects are missing or damaged", count(len(s.damaged)-i, "file"))
			break
		}
		s.limit("damage", "not read: %s", what)
	}
	if log := s.result.Log; log != nil && len(log.Unread) > 0 {
		s.limit("damage", "the changes of %s are not counted: objects are missing or damaged (the first is %.12s)", count(len(log.Unread), "commit"), slices.Min(log.Unread))
	}
	for _, reason := range order {
		s.limit("contents", "%s not read: %s", count(reasons[reason], "file"), reason)
	}
}

// mostDamaged is how many damaged objects are named.
const mostDamaged = 20

// maxHotspots is how many hotspots a survey tells.
const maxHotspots = 100

// hotspots scores sources; by their intricacy where all are read, else by bytes.
func (s *run) hotspots() []history.Hotspot {
	read := s.found != nil
	for i := range s.result.Files {
		read = read && s.result.Files[i].Facts != nil
	}
	var in []history.Candidate
	var intricacy, code []int32
	for i := range s.result.Files {
		f := &s.result.Files[i]
		if f.Role.Name != role.Source && f.Role.Name != role.Schema && f.Role.Name != role.Test {
			continue
		}
		c := history.Candidate{Path: f.Path, Recent: f.History.Recent, Commits: f.History.Commits, Weight: float64(f.Size), Told: count(int(f.Size), "byte")}
		if read {
			if f.Facts.Lines == nil {
				continue
			}
			intricacy, code = append(intricacy, -1), append(code, int32(f.Facts.Lines.Code))
			c.Told = count(f.Facts.Lines.Code, "code line")
			if n := f.Facts.Intricacy; n != nil {
				intricacy[len(in)], c.Told = int32(*n), fmt.Sprintf("an intricacy of %d", *n)
			}
		}
		in = append(in, c)
	}
	if read {
		for i, weight := range history.Substance(intricacy, code) {
			in[i].Weight = weight
		}
	}
	return history.Hotspots(in, maxHotspots)
}

// maxHubs is how many hubs a survey tells, leastDependents how many files must
// lean on one.
const (
	maxHubs         = 50
	leastDependents = 3
)

// hubs are the files that most others lean on, by their weight in the graph.
func (s *run) hubs() []leads.Hub {
	r := s.result
	if r.Links == nil {
		return nil
	}
	var out []leads.Hub
	for i := range r.Files {
		f := &r.Files[i]
		if n := int(r.Figures.Dependents[i]); n >= leastDependents && (f.Role.Name == role.Source || f.Role.Name == role.Schema) {
			out = append(out, leads.Hub{Path: f.Path, Dependents: n, Centrality: r.Figures.Centrality[i]})
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Centrality > out[j].Centrality })
	if len(out) > maxHubs {
		s.limit("hubs", "the %d weightiest of %d are told", maxHubs, len(out))
	}
	return out[:min(len(out), maxHubs)]
}

// leads gathers everything worth reading.
func (s *run) leads(ctx context.Context) error {
	s.sink.Begin(ctx, StageLeads, 0)
	r := s.result
	s.lives()
	r.Hotspots = s.hotspots()
	if len(r.Hotspots) == maxHotspots {
		s.limit("hotspots", "the %d highest are told", maxHotspots)
	}
	s.parts()
	r.Leads = leads.All(leads.Input{Files: s.leadFiles(), EntryPoints: r.EntryPoints, Hotspots: r.Hotspots, Hubs: s.hubs(), Words: s.options.Words})
	s.sink.Progress(StageLeads, len(r.Leads), len(r.Leads))
	return nil
}
