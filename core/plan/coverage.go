package plan

import (
	"cmp"
	"path"
	"slices"
)

// Thing is something that a plan may have one read: a lead, or a folder.
type Thing struct {
	Key    string  `json:"key" doc:"The id of the lead, or folder: and the path"`
	Kind   string  `json:"kind"`
	Path   string  `json:"path"`
	Line   int     `json:"line,omitempty"` // 0: the file, or folder, as a whole
	Title  string  `json:"title"`
	Why    string  `json:"why"`
	Weight float64 `json:"weight"` // beside others of its kind
}

// FolderKind is the kind of things that are folders.
const FolderKind = "folder"

// Asides are what the plan sets aside, never nil.
func (s *State) Asides() map[string]string {
	if s.Aside == nil {
		return map[string]string{}
	}
	return s.Aside
}

// What becomes of a thing.
const (
	ReadHere      = "here"
	ReadElsewhere = "elsewhere" // in another plan
	SetAsideHere  = "aside"     // on purpose, for a reason
	Open          = "open"      // not decided yet
)

// Covered is a thing with what becomes of it.
type Covered struct {
	Thing
	State   string `json:"state" enum:"here,elsewhere,aside,open"`
	Passage string `json:"passage,omitempty" doc:"That has one read it here"`
	Plan    int64  `json:"plan,omitempty" doc:"That has one read it elsewhere"`
	Reason  string `json:"reason,omitempty" doc:"Why it is set aside"`
}

// Reads tells whether passages have one read a thing: its file, with its line where
// only some lines are read; a folder where one reads it, or a file right in it.
type Reads struct {
	files   map[string][]stretchOf
	folders map[string]string // path → passage
}

type stretchOf struct {
	start, end int // 0: the whole file, or its most telling lines
	passage    string
}

// NewReads takes what passages have one read.
func NewReads(list []Passage) *Reads {
	r := &Reads{map[string][]stretchOf{}, map[string]string{}}
	for i := range list {
		p := &list[i]
		if p.Target.Kind == Folder {
			r.folder(p.Target.Path, p.ID)
		}
		for _, s := range p.Target.Stretches() {
			r.files[s.Path] = append(r.files[s.Path], stretchOf{s.Start, s.End, p.ID})
			dir := path.Dir(s.Path)
			if dir == "." {
				dir = ""
			}
			r.folder(dir, p.ID)
		}
	}
	return r
}

func (r *Reads) folder(path, passage string) {
	if r.folders[path] == "" {
		r.folders[path] = passage
	}
}

// Of is the passage that has one read a thing; "": none.
func (r *Reads) Of(t *Thing) string {
	if t.Kind == FolderKind {
		return r.folders[t.Path]
	}
	for _, s := range r.files[t.Path] {
		if t.Line == 0 || s.start == 0 || s.start <= t.Line && t.Line <= s.end {
			return s.passage
		}
	}
	return ""
}

// Other is another plan.
type Other struct {
	ID    int64
	Reads *Reads
}

// Cover tells what becomes of things in a plan: read by its own passages, by those
// of others, set aside by the plan or, by the key, for all; or open. The order is
// that of things.
func (s *State) Cover(things []Thing, others []Other, aside func(key string) string) []Covered {
	var own []Passage
	for _, c := range s.InOrder() {
		own = append(own, c.Passages...)
	}
	reads := NewReads(own)
	out := make([]Covered, len(things))
	for i, t := range things {
		c := Covered{Thing: t, State: Open, Passage: reads.Of(&t)}
		switch reason := cmp.Or(s.Aside[t.Key], aside(t.Key)); {
		case c.Passage != "":
			c.State = ReadHere
		case reason != "":
			c.State, c.Reason = SetAsideHere, reason
		default:
			if k := slices.IndexFunc(others, func(o Other) bool { return o.Reads.Of(&t) != "" }); k >= 0 {
				c.State, c.Plan = ReadElsewhere, others[k].ID
			}
		}
		out[i] = c
	}
	return out
}
