package plan

import (
	"fmt"
	"regexp"
	"slices"
	"unicode/utf8"
)

// Kinds of targets.
const (
	File       = "file" // whole, or its most telling lines
	Lines      = "lines"
	Symbol     = "symbol"
	Folder     = "folder"
	Pair       = "pair" // two things side by side
	Commit     = "commit"
	Comparison = "comparison"
	Extract    = "extract" // a symbol with all it needs; lines and column are those of its name
	Way        = "way"     // hops, one after another
	Planned    = "planned" // a file that is not there yet
	Asset      = "asset"
	Try        = "try" // something to do
)

// Target is what a passage has one read, at one commit.
type Target struct {
	Kind    string    `json:"kind" enum:"file,lines,symbol,folder,pair,commit,comparison,extract,way,planned,asset,try"`
	Path    string    `json:"path"`              // as the survey shows it; "" for the root folder, and where no one path is meant
	Start   int       `json:"start,omitempty"`   // first line, from 1
	End     int       `json:"end,omitempty"`     // last line, included
	Column  int       `json:"column,omitempty"`  // of an extract's name, in bytes from 0
	Symbol  string    `json:"symbol,omitempty"`  // of a symbol: its qualified name
	Skim    int       `json:"skim,omitempty"`    // of a file: how many of its lines to show; 0: all
	Commit  string    `json:"commit"`            // full id
	Base    string    `json:"base,omitempty"`    // of a comparison: full id of the older commit
	Beside  *Stretch  `json:"beside,omitempty"`  // of a pair: the other side
	Pattern string    `json:"pattern,omitempty"` // of a file that is not there yet: the file to go by
	Hops    []Stretch `json:"hops,omitempty"`    // of a way
	Try     *Trial    `json:"try,omitempty"`     // of something to try
}

// Stretch is some lines of a file with a word about them.
type Stretch struct {
	Path   string `json:"path"`
	Start  int    `json:"start,omitempty"`  // from 1; 0: the whole file
	End    int    `json:"end,omitempty"`    // included
	Commit string `json:"commit,omitempty"` // full id; "": the target's
	Says   string `json:"says,omitempty"`
}

// Trial is something to try: what to do, where, and what should come of it.
type Trial struct {
	Folder   string    `json:"folder,omitempty"`   // to be in
	Platform string    `json:"platform,omitempty"` // it works on
	SetUp    string    `json:"set_up,omitempty"`   // what must be there before
	Commands string    `json:"commands"`           // a line each
	Inputs   string    `json:"inputs,omitempty"`   // to give
	Outcome  string    `json:"outcome,omitempty"`  // that is expected
	Pauses   []Stretch `json:"pauses,omitempty"`   // lines to stop at
}

// Limits of a target.
const (
	maxPath  = 4096 // bytes
	maxHops  = 100
	maxTrial = 8000 // bytes of each of its texts
)

var commitID = regexp.MustCompile(`^(?:[0-9a-f]{40}|[0-9a-f]{64})$`)

// kind is what a target of a kind must have.
type kind struct {
	name  string
	path  bool // needs one
	lines bool
	check func(t *Target) error // nil: nothing more
}

// kinds are all of them, in the order of their names' list above.
var kinds = []kind{
	{File, true, false, nil},
	{Lines, true, true, nil},
	{Symbol, true, true, func(t *Target) error { return need(t.Symbol != "", "the symbol's name") }},
	{Folder, false, false, nil},
	{Pair, true, false, func(t *Target) error {
		if t.Beside == nil {
			return need(false, "another side")
		}
		return t.Beside.check()
	}},
	{Commit, false, false, nil},
	{Comparison, false, false, func(t *Target) error {
		return need(commitID.MatchString(t.Base), "the full id of the commit it is compared with")
	}},
	{Extract, true, true, nil},
	{Way, false, false, func(t *Target) error {
		if len(t.Hops) == 0 || len(t.Hops) > maxHops {
			return invalid("a way has 1 to %d hops, not %d", maxHops, len(t.Hops))
		}
		return checkAll(t.Hops)
	}},
	{Planned, true, false, func(t *Target) error { return checkPath(t.Pattern) }},
	{Asset, true, false, nil},
	{Try, false, false, func(t *Target) error { return t.Try.check() }},
}

func need(ok bool, what string) error {
	if ok {
		return nil
	}
	return invalid("a passage of this kind needs %s", what)
}

// check tells what is wrong with a target by itself.
func (t *Target) check() error {
	i := slices.IndexFunc(kinds, func(k kind) bool { return k.name == t.Kind })
	if i < 0 {
		return invalid("a passage cannot be of the kind %q", t.Kind)
	}
	k := kinds[i]
	switch {
	case !commitID.MatchString(t.Commit):
		return invalid("a passage needs the full id of the commit it is read at")
	case k.path && t.Path == "":
		return need(false, "a path")
	case k.lines && t.Start == 0:
		return need(false, "lines")
	case t.Start != 0 && (t.Start < 0 || t.End < t.Start):
		return invalid("lines go from %d to %d, which is no range", t.Start, t.End)
	case t.Skim < 0 || t.Skim > 0 && t.Kind != File, t.Column < 0 || t.Column > 0 && t.Kind != Extract,
		t.Beside != nil && t.Kind != Pair, t.Hops != nil && t.Kind != Way, t.Try != nil && t.Kind != Try, t.Base != "" && t.Kind != Comparison, t.Pattern != "" && t.Kind != Planned:
		return invalid("a passage of the kind %q has no such part", t.Kind)
	}
	if err := checkPath(t.Path); err != nil {
		return err
	}
	if err := fits(t.Symbol, maxPath); err != nil {
		return err
	}
	if k.check != nil {
		return k.check(t)
	}
	return nil
}

func checkPath(p string) error {
	if len(p) > maxPath || !utf8.ValidString(p) || slices.Contains([]byte(p), 0) {
		return invalid("the path cannot be used")
	}
	return nil
}

func (s *Stretch) check() error {
	switch {
	case s.Path == "":
		return need(false, "a path")
	case s.Start < 0 || s.Start > 0 && s.End < s.Start:
		return invalid("lines go from %d to %d, which is no range", s.Start, s.End)
	case s.Commit != "" && !commitID.MatchString(s.Commit):
		return invalid("a commit is named by its full id")
	}
	if err := checkPath(s.Path); err != nil {
		return err
	}
	return fits(s.Says, maxTrial)
}

func checkAll(list []Stretch) error {
	for i := range list {
		if err := list[i].check(); err != nil {
			return err
		}
	}
	return nil
}

func (t *Trial) check() error {
	if t == nil || t.Commands == "" && t.SetUp == "" && t.Outcome == "" {
		return need(false, "something to do")
	}
	for _, text := range []string{t.Folder, t.Platform, t.SetUp, t.Commands, t.Inputs, t.Outcome} {
		if err := fits(text, maxTrial); err != nil {
			return err
		}
	}
	if len(t.Pauses) > maxHops {
		return invalid("at most %d lines to pause at", maxHops)
	}
	return checkAll(t.Pauses)
}

// Stretches are all lines and files that a target has one read; of one that was
// not checked yet, those that there are.
func (t *Target) Stretches() []Stretch {
	own := Stretch{Path: t.Path, Start: t.Start, End: t.End, Commit: t.Commit}
	var out []Stretch
	switch t.Kind {
	case File, Lines, Symbol, Extract, Asset:
		return []Stretch{own}
	case Pair:
		out = []Stretch{own}
		if t.Beside != nil {
			out = append(out, *t.Beside)
		}
	case Way:
		out = slices.Clone(t.Hops)
	case Try:
		if t.Try != nil {
			out = slices.Clone(t.Try.Pauses)
		}
	}
	for i := range out {
		if out[i].Commit == "" {
			out[i].Commit = t.Commit
		}
	}
	return out
}

// Paths are the files that a target has one read, or its folder, each once.
func (t *Target) Paths() []string {
	if t.Kind == Folder {
		return []string{t.Path}
	}
	var out []string
	for _, x := range t.Stretches() {
		if !slices.Contains(out, x.Path) {
			out = append(out, x.Path)
		}
	}
	return out
}

// Name is a stretch as people read it: its path, with its lines where it is not the whole
// file.
func (s *Stretch) Name() string {
	switch {
	case s.Start == 0:
		return s.Path
	case s.Start >= s.End:
		return fmt.Sprintf("%s, line %d", s.Path, s.Start)
	}
	return fmt.Sprintf("%s, lines %d to %d", s.Path, s.Start, s.End)
}

// Commits are the commits that a plan's passages are read at, each once, in order.
func (s *State) Commits() []string {
	var out []string
	add := func(id string) {
		if id != "" {
			out = append(out, id)
		}
	}
	for id := range s.Passages {
		p := s.Passage(id)
		if p == nil {
			continue
		}
		add(p.Target.Commit)
		add(p.Target.Base)
		for _, x := range p.Target.Places() {
			add(x.Commit)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}
