package place

import (
	"errors"
	"fmt"
)

// Step is one commit on the way from one commit to another that changed a file.
type Step struct {
	Commit string
	// Path is the file's behind the step, Old before it; equal where it was not
	// renamed. Gone: it is not there behind the step.
	Path, Old string
	Gone      bool
	// From and To are the commits whose trees hold both texts.
	From, To string
	// Others are the other files that the commit changed.
	Others []OtherFile
}

// OtherFile is a file that changed in the same commit; "" before or behind it
// where it was not there.
type OtherFile struct{ Old, New string }

// Way is the way from one commit to another: what following needs to know of a
// repository.
type Way interface {
	// Steps are the commits that changed a file, in the order of the way, behind
	// a commit of it ("": from the beginning). The file is known by its path there.
	Steps(path, behind string) []Step
	// Text is a file's text at a commit; ErrNoText: there is none to be read, of which
	// ErrNoFile: there is no such file.
	Text(commit, path string) (*Text, error)
	// Target is the commit at the way's end.
	Target() string
	// Renamed is the path that a file has at the way's end as far as any commit
	// tells, also one that the way passes by; "": none does.
	Renamed(path string) string
}

// ErrNoText tells that a commit has no such file, or none with lines; ErrNoFile, which
// is one, that it has no such file.
var (
	ErrNoText = errors.New("there is no text")
	ErrNoFile = fmt.Errorf("%w: there is no file", ErrNoText)
)

// Sign is by what a place is found again.
type Sign struct {
	Commit string `json:"commit"` // full id
	Path   string `json:"path"`
	Start  int    `json:"start"` // line, from 1
	End    int    `json:"end"`   // included
	Quote  Quote  `json:"quote"`
}

// Known is what was compared, for placers of one repository to share. It is not
// safe for use by several goroutines.
type Known struct {
	set      *Set
	compared map[[2]*Text]*Mapping
	stepped  map[[2]string]*Mapping // by commit and path before it, other files looked through
	texts    map[[2]string]*Text    // by commit and path; nil: there is none
}

// NewKnown knows nothing yet.
func NewKnown() *Known {
	return &Known{NewSet(), map[[2]*Text]*Mapping{}, map[[2]string]*Mapping{}, map[[2]string]*Text{}}
}

// maxKnown is how many comparisons, and how many different lines, are kept.
const (
	maxKnown = 1500
	maxLines = 2_000_000
)

// compare maps one text to another, once.
func (k *Known) compare(a, b *Text) *Mapping {
	key := [2]*Text{a, b}
	if m := k.compared[key]; m != nil {
		return m
	}
	if len(k.compared) >= maxKnown || len(k.set.table.numbers) > maxLines {
		*k = *NewKnown()
	}
	m := k.set.Compare(a, b)
	k.compared[key] = m
	return m
}

// textOf is a file's text at a commit of a way.
func (k *Known) textOf(way Way, commit, path string) (*Text, error) {
	key := [2]string{commit, path}
	t, known := k.texts[key]
	if !known {
		var err error
		if t, err = way.Text(commit, path); err != nil && !errors.Is(err, ErrNoText) {
			return nil, err
		}
		if len(k.texts) >= 10*maxKnown {
			clear(k.texts)
		}
		k.texts[key] = t
	}
	if t == nil {
		return nil, ErrNoText
	}
	return t, nil
}
