package survey

import (
	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/summary"
)

// Format names the version of the document.
const Format = "juxtagram-survey/1"

// Document is a survey as one JSON document; docs/formats/survey.md describes
// it. Fields that are not computed yet are absent.
type Document struct {
	Format      string             `json:"format"`
	Repository  DocRepository      `json:"repository"`
	Languages   []DocLanguage      `json:"languages"`
	Files       []DocFile          `json:"files"`
	Hotspots    []DocHotspot       `json:"hotspots"`
	Twins       []DocTwin          `json:"twins,omitempty"`
	EntryPoints []DocEntryPoint    `json:"entry_points"`
	Recipes     []DocRecipe        `json:"recipes"`
	People      []DocPerson        `json:"people,omitempty"`
	Leads       []leads.Lead       `json:"leads"`
	Limits      []Limit            `json:"limits"`
	Timings     map[string]float64 `json:"timings,omitempty"`
	details     func(i int) (*facts.Details, error)
	origin      func(i, n int) *DocOrigin
	whole       *summary.Whole
}

// DocRepository says what was surveyed.
type DocRepository struct {
	Source        string  `json:"source"`
	Commit        string  `json:"commit"`
	Ref           *string `json:"ref"`
	SurveyedAt    string  `json:"surveyed_at,omitempty"`
	Commits       int     `json:"commits"`
	FirstCommitAt *string `json:"first_commit_at"`
	LastCommitAt  *string `json:"last_commit_at"`
}

// DocLanguage sums up one language.
type DocLanguage struct {
	Name  string `json:"name"`
	Files int    `json:"files"`
	Lines int    `json:"lines"`
	// files by how deep they were looked into; not in the document, whose files
	// tell it each
	Parsed int `json:"-"`
	Lexed  int `json:"-"`
	Listed int `json:"-"`
}

// DocFile is one path of the tree.
type DocFile struct {
	Path         string        `json:"path"`
	PathEscaped  bool          `json:"path_escaped,omitempty"`
	Blob         string        `json:"blob"`
	Size         *int64        `json:"size"`
	Binary       bool          `json:"binary"`
	Language     *string       `json:"language"`
	Mode         string        `json:"mode"`
	Role         string        `json:"role"`
	RoleEvidence string        `json:"role_evidence"`
	Depth        lang.Depth    `json:"depth"`
	DepthReason  string        `json:"depth_reason,omitempty"`
	Lines        *facts.Lines  `json:"lines"`
	Outline      []DocSymbol   `json:"outline"`
	Imports      []DocImport   `json:"imports"`
	Tagged       []DocTagged   `json:"tagged_comments"`
	Intricacy    *int          `json:"intricacy"`
	Changes      *DocChanges   `json:"changes,omitempty"`
	Dependents   *int          `json:"dependents,omitempty"`
	Dependencies *int          `json:"dependencies,omitempty"`
	Centrality   *float64      `json:"centrality,omitempty"`
	Effects      []DocEffect   `json:"effects,omitempty"`
	Summary      []DocSentence `json:"summary,omitempty"`
}

// DocEffect is one call that does something to the outside.
type DocEffect struct {
	Kind   string   `json:"kind"`
	Line   int      `json:"line"`
	Call   string   `json:"call"`
	Target *string  `json:"target"` // as joined, or the name it comes from
	Via    []DocHop `json:"via"`    // to the value
}

// DocHop is one step from a call to the value that it is given.
type DocHop struct {
	Path string `json:"path"`
	Line int    `json:"line"`
	Text string `json:"text"`
}

// DocSentence is one sentence of a summary.
type DocSentence struct {
	Text  string    `json:"text"`
	Depth string    `json:"depth"`
	Cites []DocCite `json:"cites"`
}

// DocCite is a line that bears a sentence; a null line means the file.
type DocCite struct {
	Path string `json:"path"`
	Line *int   `json:"line"`
}

// DocTwin is a pair of files that do the same job for different cases.
type DocTwin struct {
	Paths    []string `json:"paths"`
	Likeness float64  `json:"likeness"`
	Kind     string   `json:"kind"`
	Evidence string   `json:"evidence"`
}

// DocSymbol is one symbol of a file's outline.
type DocSymbol struct {
	Name       string  `json:"name"`
	Qualified  string  `json:"qualified"`
	Kind       string  `json:"kind"`
	Visibility *string `json:"visibility"`
	Static     bool    `json:"static"`
	Signature  string  `json:"signature"`
	Doc        *string `json:"doc"`
	Start      int     `json:"start"`
	End        int     `json:"end"`
	NameLine   int     `json:"name_line"`
	Parent     *int    `json:"parent"`
	Type       *string `json:"type"`
	ForwardsTo *string `json:"forwards_to"`
}

// DocImport is one import of a file.
type DocImport struct {
	Text     string     `json:"text"`
	Line     int        `json:"line"`
	Names    []string   `json:"names"`
	Resolves *DocOrigin `json:"resolves,omitempty"`
}

// DocOrigin is where an import comes from. What does not apply is absent, but
// that a dependency's version and declaration are null where they are not told.
type DocOrigin struct {
	To           string   `json:"to"`
	Paths        []string `json:"paths,omitempty"`
	Name         string   `json:"name,omitempty"`
	*DocDeclared          // of dependencies
	Guess        bool     `json:"guess,omitempty"`
	Reason       string   `json:"reason,omitempty"`
	Near         []string `json:"near,omitempty"` // what may have been meant
}

// DocDeclared is the line of a manifest that asks for a dependency.
type DocDeclared struct {
	Version      *string `json:"version"`
	DeclaredIn   *string `json:"declared_in"`
	DeclaredLine *int    `json:"declared_line"`
}

// DocTagged is one tagged comment.
type DocTagged struct {
	Word    string  `json:"word"`
	Text    string  `json:"text"`
	Line    int     `json:"line"`
	EndLine int     `json:"end_line"`
	Who     *string `json:"who"`
	Issue   *string `json:"issue"`
}

// DocChanges is what happened to one file.
type DocChanges struct {
	Commits      int        `json:"commits"`
	LinesAdded   int        `json:"lines_added"`
	LinesDeleted int        `json:"lines_deleted"`
	Recent       float64    `json:"recent"`
	FirstAt      *string    `json:"first_at"`
	LastAt       *string    `json:"last_at"`
	People       []DocShare `json:"people,omitempty"`
}

// DocShare is one person's part in a file.
type DocShare struct {
	Name    string `json:"name"`
	Email   string `json:"email"`
	Commits int    `json:"commits"`
}

// DocHotspot is one hotspot.
type DocHotspot struct {
	Path   string  `json:"path"`
	Score  float64 `json:"score"`
	Reason string  `json:"reason"`
}

// DocEntryPoint is one entry point.
type DocEntryPoint struct {
	Kind     string  `json:"kind"`
	Name     string  `json:"name"`
	Path     string  `json:"path"`
	Line     *int    `json:"line"`
	How      *string `json:"how"`
	Evidence string  `json:"evidence"`
	Weight   float64 `json:"weight"`
}

// DocRecipe is one recipe.
type DocRecipe struct {
	Kind     string  `json:"kind"`
	Command  string  `json:"command"`
	Folder   string  `json:"folder"`
	Platform *string `json:"platform"`
	Path     string  `json:"path"`
	Line     int     `json:"line"`
}

// DocPerson is one author.
type DocPerson struct {
	Name    string  `json:"name"`
	Email   string  `json:"email"`
	Commits int     `json:"commits"`
	Files   int     `json:"files"`
	FirstAt *string `json:"first_at"`
	LastAt  *string `json:"last_at"`
}
