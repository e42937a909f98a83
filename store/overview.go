package store

import (
	"math"
	"sort"
	"strings"
	"time"

	"juxtagram/core/history"
	"juxtagram/core/lang"
	"juxtagram/core/recipe"
	"juxtagram/core/repo"
	"juxtagram/core/role"
	"juxtagram/survey"
)

// Overview is the front page of a survey as one value. Parts whose stage has
// not ended are null.
type Overview struct {
	Counts      Counts          `json:"counts"`
	Languages   []LanguageSum   `json:"languages"`
	Roles       []RoleSum       `json:"roles"`
	Folders     []FolderSum     `json:"folders" doc:"Top folders, and the files at the root summed as one"`
	Readmes     []string        `json:"readmes" doc:"Paths of all readmes, the root's first"`
	EntryPoints []EntryPoint    `json:"entry_points" nullable:"true"`
	Hotspots    []Hotspot       `json:"hotspots" nullable:"true"`
	Recipes     []recipe.Recipe `json:"recipes" nullable:"true"`
	People      []PersonSum     `json:"people" nullable:"true"`
	Words       []WordSum       `json:"words" nullable:"true" doc:"Tagged comments by word, most first"`
	Limits      []survey.Limit  `json:"limits"`
	FirstAt     *time.Time      `json:"first_at"`
	LastAt      *time.Time      `json:"last_at"`
	PinAt       *time.Time      `json:"pin_at" doc:"The pin's own date: what ages count from"`
	Pace        *Pace           `json:"pace" doc:"Null until the history is read"`
	Knowledge   []Knowledge     `json:"knowledge" nullable:"true" doc:"Who knows each top folder, in the order of folders"`
	Parts       []Part          `json:"parts" doc:"What stands side by side: two and more, or none"`
	Depends     []Dependency    `json:"depends" doc:"Packages that files import, those that most import first"`
	Submodules  []Submodule     `json:"submodules"`
	LinesKnown  bool            `json:"lines_known" doc:"Whether changed lines are counted"`
}

// Counts are the totals behind lists that may be cut.
type Counts struct {
	Files       int   `json:"files"`
	Folders     int   `json:"folders"`
	Size        int64 `json:"size" doc:"Bytes"`
	Lines       int   `json:"lines"`
	Code        int   `json:"code"`
	Commits     int   `json:"commits"`
	People      int   `json:"people"`
	EntryPoints int   `json:"entry_points"`
	Hotspots    int   `json:"hotspots"`
	Recipes     int   `json:"recipes"`
	Tagged      int   `json:"tagged"`
	Parts       int   `json:"parts"`
	Depends     int   `json:"depends"`
	Submodules  int   `json:"submodules"`
}

// LanguageSum sums up one language.
type LanguageSum struct {
	Name  string `json:"name"`
	Files int    `json:"files"`
	Lines int    `json:"lines"`
	// how deep its files were looked into
	Parsed int `json:"parsed" doc:"Files read by the language's grammar"`
	Lexed  int `json:"lexed" doc:"Files of which comments, strings and an outline by token rules were read"`
	Listed int `json:"listed" doc:"Files that were not read"`
}

// RoleSum sums up one role.
type RoleSum struct {
	Role  string `json:"role"`
	Files int    `json:"files"`
	Lines int    `json:"lines"`
}

// FolderSum sums up a folder with all below it.
type FolderSum struct {
	Path    string `json:"path" doc:"Empty for the files at the root"`
	Role    string `json:"role" doc:"The role of most of its lines"`
	Files   int    `json:"files"`
	Lines   int    `json:"lines"`
	Commits int    `json:"commits" doc:"Changes of its files, summed"`
}

// EntryPoint is one place where control or a reader comes in.
type EntryPoint struct {
	Kind     string  `json:"kind"`
	Name     string  `json:"name"`
	Path     string  `json:"path"`
	Line     int     `json:"line" doc:"0: the file as a whole"`
	How      string  `json:"how" doc:"Command to run; empty: none known"`
	Evidence string  `json:"evidence"`
	Weight   float64 `json:"weight"`
}

// Hotspot is a file that is both large and often changed.
type Hotspot struct {
	Path    string  `json:"path"`
	Score   float64 `json:"score"`
	Reason  string  `json:"reason"`
	Changes int     `json:"changes"`
	Recent  float64 `json:"recent" doc:"Changes, each halved once a half-life of age"`
	Pulse   []int   `json:"pulse" doc:"Changes in equal parts of the time from the first commit to the pin"`
}

// PersonSum is one author of commits.
type PersonSum struct {
	Name    string     `json:"name"`
	Email   string     `json:"email"`
	Commits int        `json:"commits"`
	Files   int        `json:"files"`
	FirstAt *time.Time `json:"first_at"`
	LastAt  *time.Time `json:"last_at"`
}

// How much of each list the overview holds; Counts has the totals.
const (
	overviewEntries = 200
	overviewPeople  = 100
	overviewRecipes = 300
	overviewFolders = 5000
)

// Summarise makes the overview of a result as it stands.
func Summarise(r *survey.Result) *Overview {
	o := &Overview{LinesKnown: r.LinesKnown, Limits: []survey.Limit{}, Languages: []LanguageSum{}, Roles: []RoleSum{}, Readmes: []string{},
		Parts: []Part{}, Depends: []Dependency{}, Submodules: []Submodule{}}
	for _, l := range r.Limits {
		o.Limits = append(o.Limits, survey.Limit{What: valid(l.What), Why: valid(l.Why)})
	}
	o.Counts.Files = len(r.Files)
	for _, l := range survey.Languages(r) {
		o.Languages = append(o.Languages, LanguageSum(l))
	}
	roles := map[string]*RoleSum{}
	for i := range r.Files {
		f := &r.Files[i]
		o.Counts.Size += max(0, f.Size)
		x := roles[f.Role.Name]
		if x == nil {
			x = &RoleSum{Role: f.Role.Name}
			roles[f.Role.Name] = x
		}
		x.Files++
		if role.IsReadme(f.Path) && f.Mode != "submodule" {
			o.Readmes = append(o.Readmes, valid(f.Path))
		}
		if f.Facts == nil {
			continue
		}
		if f.Facts.Lines != nil {
			x.Lines += f.Facts.Lines.Total
			o.Counts.Lines += f.Facts.Lines.Total
			o.Counts.Code += f.Facts.Lines.Code
		}
		o.Counts.Tagged += len(f.Facts.Tagged)
	}
	for _, x := range roles {
		o.Roles = append(o.Roles, *x)
	}
	sort.Slice(o.Roles, func(i, j int) bool {
		if o.Roles[i].Files != o.Roles[j].Files {
			return o.Roles[i].Files > o.Roles[j].Files
		}
		return o.Roles[i].Role < o.Roles[j].Role
	})
	sort.SliceStable(o.Readmes, func(i, j int) bool {
		return strings.Count(o.Readmes[i], "/") < strings.Count(o.Readmes[j], "/")
	})
	if r.PartOf != nil {
		o.Words = wordSums(r)
	}
	o.Folders, o.Counts.Folders = folderSums(r)
	o.addHistory(r)
	o.addStarts(r)
	o.addParts(r)
	return o
}

// folderSums sums up the top folders, most lines first, and counts all folders.
func folderSums(r *survey.Result) ([]FolderSum, int) {
	sums := map[string]*FolderSum{}
	roles := map[string]map[string]int{}
	all := map[string]bool{}
	for i := range r.Files {
		f := &r.Files[i]
		for d := range repo.Folders(f.Path) {
			if all[d] {
				break
			}
			all[d] = true
		}
		top, _, nested := strings.Cut(valid(f.Path), "/")
		if !nested {
			top = ""
		}
		x := sums[top]
		if x == nil {
			x = &FolderSum{Path: top}
			sums[top], roles[top] = x, map[string]int{}
		}
		x.Files++
		weight := 1
		if f.Facts != nil && f.Facts.Lines != nil {
			x.Lines += f.Facts.Lines.Total
			switch f.Role.Name {
			case role.Generated, role.Vendored: // nobody here wrote them: they do not say what the folder is for
			case role.Test:
				weight += f.Facts.Lines.Total / 5 // tests beside sources are there for these
			default:
				weight += f.Facts.Lines.Total
			}
		}
		roles[top][f.Role.Name] += weight
		if f.History != nil {
			x.Commits += f.History.Commits
		}
	}
	out := make([]FolderSum, 0, len(sums))
	for top, x := range sums {
		for name, n := range roles[top] {
			if best := roles[top][x.Role]; n > best || (n == best && name < x.Role) {
				x.Role = name
			}
		}
		out = append(out, *x)
	}
	sort.Slice(out, func(i, j int) bool {
		if out[i].Lines != out[j].Lines {
			return out[i].Lines > out[j].Lines
		}
		return out[i].Path < out[j].Path
	})
	return out[:min(len(out), overviewFolders)], len(all)
}

func (o *Overview) addHistory(r *survey.Result) {
	if r.Log == nil || r.People == nil {
		return
	}
	o.Counts.Commits, o.Counts.People, o.Counts.Hotspots = len(r.Log.Commits), len(r.People.List), len(r.Hotspots)
	for _, c := range r.Log.Commits {
		at := time.Unix(c.CommitTime, 0).UTC() // of one without a date: 1970
		if o.FirstAt == nil || at.Before(*o.FirstAt) {
			o.FirstAt = &at
		}
		if o.LastAt == nil || at.After(*o.LastAt) {
			o.LastAt = &at
		}
	}
	o.People, o.Hotspots = []PersonSum{}, []Hotspot{}
	for _, p := range r.People.List[:min(len(r.People.List), overviewPeople)] {
		o.People = append(o.People, PersonSum{p.Name, p.Email, p.Commits, p.Files, instant(p.FirstAt), instant(p.LastAt)})
	}
	o.PinAt = instant(r.Log.Time())
	l := history.NewLedger(r.Moves, len(r.Files), r.Log.Time(), r.HalfLife)
	at := make(map[string]int, len(r.Hotspots))
	for i := range r.Files {
		at[r.Files[i].Path] = i
	}
	for _, h := range r.Hotspots {
		f := at[h.Path]
		pulse, _ := l.Pulse(pulseParts, int32(f))
		o.Hotspots = append(o.Hotspots, Hotspot{valid(h.Path), h.Score, h.Reason, r.Files[f].History.Commits, math.Round(r.Files[f].History.Recent*100) / 100, pulse})
	}
	o.Pace = pace(l)
	o.Knowledge = knowledge(r, l)
}

// pulseParts is in how many parts a small drawing of the history is cut.
const pulseParts = 48

func (o *Overview) addStarts(r *survey.Result) {
	if r.EntryPoints == nil && r.Recipes == nil && r.PartOf == nil {
		return
	}
	o.Counts.EntryPoints, o.Counts.Recipes = len(r.EntryPoints), len(r.Recipes)
	o.EntryPoints, o.Recipes = []EntryPoint{}, []recipe.Recipe{}
	for _, e := range r.EntryPoints[:min(len(r.EntryPoints), overviewEntries)] {
		o.EntryPoints = append(o.EntryPoints, EntryPoint{e.Kind, clean(e.Name), valid(e.Path), e.Line, clean(e.How), clean(e.Evidence), e.Weight})
	}
	for _, x := range r.Recipes[:min(len(r.Recipes), overviewRecipes)] {
		x.Command, x.Folder, x.Path = clean(x.Command), valid(x.Folder), valid(x.Path)
		o.Recipes = append(o.Recipes, x)
	}
}

// valid is a path as it is shown and asked for.
func valid(p string) string {
	s, _ := repo.EscapePath(p)
	return noNUL(s)
}

// clean makes words from a repository fit for the database.
func clean(s string) string { return noNUL(lang.ValidText([]byte(s))) }

func instant(unix int64) *time.Time {
	if unix == 0 {
		return nil
	}
	t := time.Unix(unix, 0).UTC()
	return &t
}
