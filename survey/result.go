package survey

import (
	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/links"
	"juxtagram/core/parts"
	"juxtagram/core/recipe"
	"juxtagram/core/repo"
	"juxtagram/core/role"
	"juxtagram/core/tagged"
)

// File is what the survey knows of one path. Pointers and flags tell what has
// been computed so far.
type File struct {
	repo.Entry
	Size     int64 // bytes; -1: not measured yet, or a submodule
	Language *lang.Language
	Role     role.Role
	Facts    *facts.Facts  // nil: not read yet; without details
	Key      FactKey       // under which Memory holds the facts and details
	History  *history.File // nil: not followed yet
}

// LanguageName is the language's name, "" where none was recognised.
func (f *File) LanguageName() string {
	if f.Language == nil {
		return ""
	}
	return f.Language.Name
}

// Limit is something that was left out or cut short, and why.
type Limit struct {
	What string `json:"what"`
	Why  string `json:"why"`
}

// Result is all that a survey found; it grows from stage to stage.
type Result struct {
	Commit      string
	Subfolder   string // "": the whole repository
	Files       []File // in git's path order
	Log         *history.Log
	People      *history.People
	Hotspots    []history.Hotspot
	EntryPoints []leads.EntryPoint
	Recipes     []recipe.Recipe
	Leads       []leads.Lead
	Limits      []Limit
	HalfLife    float64         // days
	Links       *links.Links    // nil: not resolved yet
	Snapshot    *links.Snapshot // the kept form of Links
	Figures     links.Figures   // of each file's place in the graph of files
	// LinksResolved is how many files' imports this survey resolved itself.
	LinksResolved int
	LinesKnown    bool // the changed lines of all commits are counted
	// Moves are the changes of the files as columns; nil: the history is not read.
	Moves *history.Moves
	// Words are those of the tagged comments.
	Words *tagged.Words
	// Lives tell of each file's tagged comments, in the order of its facts, when
	// they were written, and Outlived how many of those who changed the file
	// since are gone; Gone are tagged comments that there were. nil: not told yet.
	Lives    [][]history.Life
	Outlived [][]int
	Gone     []history.Life
	// Parts stand side by side in the repository; PartOf gives each file's, -1
	// for none. nil: not told yet.
	Parts    []parts.Part
	PartOf   []int
	Packages []Package // that build files name, in path order
	// Submodules are the addresses that submodules come from, by path.
	Submodules map[string]string
}

// TaggedCount is the number of tagged comments.
func (r *Result) TaggedCount() int {
	n := 0
	for i := range r.Files {
		if f := r.Files[i].Facts; f != nil {
			n += len(f.Tagged)
		}
	}
	return n
}
