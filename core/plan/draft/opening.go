package draft

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"juxtagram/core/plan"
	"juxtagram/core/recipe"
	"juxtagram/core/role"
)

// shortest is from how many minutes on a plan opens with what a repository says
// of itself, and longer from when on with something to try.
const (
	shortest = 10
	longer   = 45
)

// readmeLines is how much of a readme is shown, tryMinutes how long commands take.
const (
	readmeLines = 60
	tryMinutes  = 5
)

// bearings are what a newcomer to a folder ("": the root) begins with: what it
// says of itself, and how it is built, run and tested.
func (g *Ground) bearings(dir string) []plan.Passage {
	var out []plan.Passage
	if i := g.readme(dir); i >= 0 {
		f := &g.Whole.Files[i]
		lines := min(f.Lines, readmeLines)
		p := plan.Passage{Title: "What it says of itself", Purpose: "What it is for, in its own words.", Target: plan.Target{Kind: plan.File, Path: f.Path, Commit: g.Pin}, Minutes: g.minutes(i, lines), Why: "the readme of " + orRoot(dir)}
		if lines < f.Lines {
			p.Target.Skim = lines
		}
		out = append(out, p)
	}
	if p, ok := g.trial(dir); ok {
		out = append(out, p)
	}
	return out
}

func orRoot(dir string) string {
	if dir == "" {
		return "the repository"
	}
	return dir
}

// readme is a folder's readme; -1: it has none.
func (g *Ground) readme(dir string) int {
	best := -1
	for i := range g.Whole.Files {
		f := &g.Whole.Files[i]
		at := path.Dir(f.Path)
		if at == "." {
			at = ""
		}
		base := strings.ToLower(path.Base(f.Path))
		if at == dir && f.Role == role.Documentation && strings.HasPrefix(base, "readme") && g.readable(i) && (best < 0 || len(f.Path) < len(g.Whole.Files[best].Path)) {
			best = i
		}
	}
	return best
}

// trial has one build and test, by the recipes nearest to a folder.
func (g *Ground) trial(dir string) (plan.Passage, bool) {
	var chosen []recipe.Recipe
	folder := ""
	for _, kind := range []string{"install", "build", "run", "test"} {
		for _, r := range g.Recipes {
			if r.Kind != kind || r.Folder != "" && r.Folder != dir && !strings.HasPrefix(dir, r.Folder+"/") || len(chosen) > 0 && r.Folder != folder || r.Platform != "" {
				continue
			}
			if len(chosen) == 0 {
				folder = r.Folder
			}
			chosen = append(chosen, r)
			break
		}
	}
	if !slices.ContainsFunc(chosen, func(r recipe.Recipe) bool { return r.Kind != "install" }) {
		return plan.Passage{}, false
	}
	var commands, from []string
	for _, r := range chosen {
		commands = append(commands, r.Command)
		if cite := fmt.Sprintf("%s:%d", r.Path, r.Line); !slices.Contains(from, cite) {
			from = append(from, cite)
		}
	}
	return plan.Passage{Title: "Build it and see it work", Purpose: "That it works on your machine, before you read on.",
		Target:  plan.Target{Kind: plan.Try, Commit: g.Pin, Try: &plan.Trial{Folder: folder, Commands: strings.Join(commands, "\n")}},
		Minutes: tryMinutes, Why: "recipes found in " + strings.Join(from, ", ")}, true
}
