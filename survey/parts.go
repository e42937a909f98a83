package survey

import (
	"sort"

	"juxtagram/core/links/origin"
	"juxtagram/core/parts"
	"juxtagram/core/recipe"
	"juxtagram/core/role"
)

// Package is a package that a build file of the repository names.
type Package struct {
	recipe.Package
	Path string // of the build file
}

// Dependency is a package that files of the repository import and a build file
// asks for.
type Dependency struct {
	Kind    string // as in recipe.Kinds
	Name    string
	Version string // as asked for; "": not told
	In      string // the build file
	Line    int    // in it; 0: not told
	Files   int    // that import it
}

// parts tells what stands side by side.
func (s *run) parts() {
	r := s.result
	in := parts.Input{Files: make([]parts.File, len(r.Files)), Packages: map[string]*recipe.Package{}, Recipes: r.Recipes}
	r.Packages = nil
	for i := range r.Files {
		f := &r.Files[i]
		in.Files[i] = parts.File{Path: f.Path, Role: f.Role.Name, Language: f.LanguageName()}
		if f.Facts != nil && f.Facts.Lines != nil {
			in.Files[i].Lines = f.Facts.Lines.Total
		}
		if p := s.found[f.Path].Package; p != nil && f.Role.Name != role.Vendored && f.Role.Name != role.Test {
			in.Packages[f.Path] = p
			r.Packages = append(r.Packages, Package{*p, f.Path})
		}
	}
	for _, e := range r.EntryPoints {
		if e.Kind == "program" || e.Kind == "service" || e.Kind == "command" {
			in.Programs = append(in.Programs, e.Path)
		}
	}
	if r.Links != nil {
		in.Dependencies = func(file int) []int32 {
			var out []int32
			for _, o := range r.Links.Of[file] {
				out = append(out, r.Links.Origins[o].Files...)
			}
			return out
		}
	}
	r.Parts, r.PartOf = parts.Of(in)
}

// Dependencies are the packages that the files import, those that most import
// first.
func (r *Result) Dependencies() []Dependency {
	if r.Links == nil {
		return nil
	}
	users := make([]int, len(r.Links.Origins))
	for _, list := range r.Links.Of {
		for _, o := range list {
			users[o]++
		}
	}
	type key struct{ name, in string }
	at := map[key]int{}
	var out []Dependency
	for o := range r.Links.Origins {
		x := &r.Links.Origins[o]
		if x.To != origin.ToDependency || x.In == "" || users[o] == 0 {
			continue
		}
		k := key{x.Name, x.In}
		n, ok := at[k]
		if !ok {
			n = len(out)
			at[k] = n
			out = append(out, Dependency{recipe.KindOf(x.In), x.Name, x.Version, x.In, x.Line, 0})
		}
		out[n].Files += users[o]
	}
	sort.SliceStable(out, func(i, j int) bool {
		if out[i].Files != out[j].Files {
			return out[i].Files > out[j].Files
		}
		return out[i].Name < out[j].Name
	})
	return out
}
