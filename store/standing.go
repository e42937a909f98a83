package store

import (
	"context"
	"sort"

	"github.com/jackc/pgx/v5"

	"juxtagram/survey"
)

// Part is one of several packages or programs that stand side by side.
type Part struct {
	Path     string   `json:"path" doc:"Its folder; empty: the root"`
	Name     string   `json:"name"`
	Kind     string   `json:"kind" doc:"Empty: a program with a build of its own, and no package"`
	Manifest string   `json:"manifest"`
	Line     int      `json:"line" doc:"0: the manifest as a whole"`
	Language string   `json:"language"`
	Files    int      `json:"files"`
	Lines    int      `json:"lines"`
	LeansOn  []string `json:"leans_on" doc:"Folders of the parts that it imports from"`
	UsedBy   []string `json:"used_by"`
	Alone    bool     `json:"alone" doc:"It leans on none of the others, nor they on it"`
}

// Dependency is a package that files import.
type Dependency struct {
	Kind    string `json:"kind"`
	Name    string `json:"name"`
	Version string `json:"version" doc:"As asked for; empty: not told"`
	In      string `json:"in" doc:"The build file that asks for it"`
	Line    int    `json:"line"`
	Files   int    `json:"files" doc:"That import it"`
}

// Submodule is another repository at one of its commits.
type Submodule struct {
	Path    string `json:"path"`
	Commit  string `json:"commit"`
	Address string `json:"address" doc:"Where it comes from; empty: not told"`
}

// How much of each list the overview holds; Counts has the totals.
const (
	overviewParts      = 1000
	overviewDepends    = 500
	overviewSubmodules = 500
)

func (o *Overview) addParts(r *survey.Result) {
	used := make([][]string, len(r.Parts))
	grouped := map[int]int{}
	for _, p := range r.Parts {
		grouped[p.Group]++
		for _, to := range p.LeansOn {
			used[to] = append(used[to], valid(p.Path))
		}
	}
	o.Counts.Parts = len(r.Parts)
	for i, p := range r.Parts[:min(len(r.Parts), overviewParts)] {
		x := Part{Path: valid(p.Path), Name: clean(p.Name), Kind: p.Kind, Manifest: valid(p.Manifest), Line: p.Line, Language: p.Language, Files: p.Files, Lines: p.Lines,
			LeansOn: []string{}, UsedBy: append([]string{}, used[i]...), Alone: grouped[p.Group] == 1}
		for _, to := range p.LeansOn {
			x.LeansOn = append(x.LeansOn, valid(r.Parts[to].Path))
		}
		o.Parts = append(o.Parts, x)
	}
	depends := r.Dependencies()
	o.Counts.Depends = len(depends)
	for _, d := range depends[:min(len(depends), overviewDepends)] {
		o.Depends = append(o.Depends, Dependency{d.Kind, clean(d.Name), clean(d.Version), valid(d.In), d.Line, d.Files})
	}
	for i := range r.Files {
		if f := &r.Files[i]; f.Mode == "submodule" {
			o.Counts.Submodules++
			if len(o.Submodules) < overviewSubmodules {
				o.Submodules = append(o.Submodules, Submodule{valid(f.Path), f.Blob, clean(r.Submodules[f.Path])})
			}
		}
	}
	sort.Slice(o.Submodules, func(i, j int) bool { return o.Submodules[i].Path < o.Submodules[j].Path })
}

// NamedPackage is a package of some repository, at its pin.
type NamedPackage struct {
	RepositoryID     int64
	Kind, Name, Path string
}

// PackagesNamed finds packages by name in all repositories, each at its pin, the
// newest repository first.
func (s *Store) PackagesNamed(ctx context.Context, names []string) ([]NamedPackage, error) {
	rows, err := s.pool.Query(ctx, `SELECT s.repository_id, p.kind, p.name, p.path FROM survey_package p
		JOIN survey s ON s.id = p.survey_id JOIN repository r ON r.id = s.repository_id AND r.pin = s.oid
		WHERE p.name = ANY ($1) ORDER BY s.repository_id DESC, s.id DESC, length(p.path), p.path`, names)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (NamedPackage, error) {
		var p NamedPackage
		return p, row.Scan(&p.RepositoryID, &p.Kind, &p.Name, &p.Path)
	})
}
