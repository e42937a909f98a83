package survey

import (
	"fmt"
	"path"
	"strings"

	"juxtagram/core/leads"
	"juxtagram/core/role"
)

// What a correction says of a path.
const (
	CorrectRole  = "role"  // Value: the role of the path and all below it
	CorrectStart = "start" // Value: the kind of entry point that the file is
	NoStart      = "no-start"
	SourceRoot   = "root" // the folder is a source root
)

// Correction is what a person said that a survey could not know. The newest of
// a kind for a path counts.
type Correction struct {
	Kind        string
	Path, Value string // the path as it is shown
	By          string // name of the person
}

// corrected is the role that a person gave a path, or a folder above it; the
// nearest counts.
func (s *run) corrected(p string, found role.Role) role.Role {
	best, p := -1, escape(p)
	for i, c := range s.options.Corrections {
		if c.Kind != CorrectRole || !within(p, c.Path) {
			continue
		}
		if best < 0 || len(c.Path) >= len(s.options.Corrections[best].Path) {
			best = i
		}
	}
	if best < 0 {
		return found
	}
	c := s.options.Corrections[best]
	return role.Role{Name: c.Value, Evidence: fmt.Sprintf("%s says so; the survey said %s, %s", c.By, found.Name, found.Evidence)}
}

func within(p, folder string) bool {
	return folder == "" || p == folder || strings.HasPrefix(p, folder+"/")
}

// correctStarts takes out and puts in the entry points that people spoke of.
func (s *run) correctStarts(all []leads.EntryPoint) []leads.EntryPoint {
	said := map[string]Correction{}
	for _, c := range s.options.Corrections {
		if c.Kind == CorrectStart || c.Kind == NoStart {
			said[c.Path] = c
		}
	}
	if len(said) == 0 {
		return all
	}
	out := all[:0]
	for _, e := range all {
		if c, ok := said[escape(e.Path)]; !ok || c.Kind == CorrectStart && c.Value != e.Kind {
			out = append(out, e)
		}
	}
	var added []leads.EntryPoint
	for i := range s.result.Files {
		f := &s.result.Files[i]
		if c, ok := said[escape(f.Path)]; ok && c.Kind == CorrectStart {
			added = append(added, leads.EntryPoint{Kind: c.Value, Name: path.Base(f.Path), Path: f.Path, Evidence: c.By + " says so", Weight: 1})
		}
	}
	return append(added, out...)
}

// roots are the folders that people called source roots.
func (s *run) roots() []string {
	var out []string
	for _, c := range s.options.Corrections {
		if c.Kind == SourceRoot {
			out = append(out, c.Path)
		}
	}
	return out
}
