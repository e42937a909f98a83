package plan

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Kinds of operations.
const (
	SetPlan        = "set-plan"
	AddChapter     = "add-chapter"
	SetChapter     = "set-chapter"
	MoveChapter    = "move-chapter"
	RemoveChapter  = "remove-chapter"
	RestoreChapter = "restore-chapter"
	AddPassage     = "add-passage"
	SetPassage     = "set-passage"
	MovePassage    = "move-passage"
	RemovePassage  = "remove-passage"
	RestorePassage = "restore-passage"
)

// Op is one operation. Which fields count depends on Kind.
type Op struct {
	Kind    string   `json:"kind"`
	ID      string   `json:"id,omitempty"`      // of the chapter or passage; for a new one, in it
	Field   string   `json:"field,omitempty"`   // set-*: title, purpose, minutes
	From    string   `json:"from,omitempty"`    // set-*: the value it replaces
	To      string   `json:"to,omitempty"`      // set-*: the new value
	Chapter string   `json:"chapter,omitempty"` // move-passage: where to
	Order   string   `json:"order,omitempty"`   // move-*: the new key
	NewCh   *Chapter `json:"new_chapter,omitempty"`
	NewPs   *Passage `json:"new_passage,omitempty"`
}

// Invalid tells that an operation makes no sense by itself or here.
type Invalid struct{ Reason string }

func (e *Invalid) Error() string { return e.Reason }

func invalid(format string, args ...any) error { return &Invalid{fmt.Sprintf(format, args...)} }

// Conflict tells that the text an operation meant to replace has changed
// meanwhile.
type Conflict struct{ Field, Current string }

func (e *Conflict) Error() string {
	return fmt.Sprintf("somebody changed the %s meanwhile; it now reads %q", e.Field, e.Current)
}

// Limits of a plan.
const (
	MaxTitle    = 200   // characters
	MaxText     = 20000 // bytes
	MaxMinutes  = 600
	MaxChapters = 200
	MaxPassages = 2000
)

var idShape = regexp.MustCompile(`^[A-Za-z0-9_-]{6,64}$`)

// Apply carries out an operation on the state. On an error, an *Invalid or a
// *Conflict, the state is as before.
func (s *State) Apply(op Op) error {
	switch op.Kind {
	case SetPlan:
		return s.setPlan(op)
	case AddChapter:
		return s.addChapter(op)
	case AddPassage:
		return s.addPassage(op)
	case SetChapter, MoveChapter, RemoveChapter, RestoreChapter:
		c := s.Chapters[op.ID]
		if c == nil || c.Removed != (op.Kind == RestoreChapter) {
			return invalid("the chapter is not there any more")
		}
		return s.changeChapter(c, op)
	case SetPassage, MovePassage, RemovePassage, RestorePassage:
		p := s.Passages[op.ID]
		if p == nil || p.Removed != (op.Kind == RestorePassage) {
			return invalid("the passage is not there any more")
		}
		if c := s.Chapters[p.Chapter]; c == nil || c.Removed {
			return invalid("the passage's chapter is not there any more")
		}
		return s.changePassage(p, op)
	}
	return invalid("no operation is called %q", op.Kind)
}

func (s *State) setPlan(op Op) error {
	switch op.Field {
	case "title":
		if strings.TrimSpace(op.To) == "" {
			return invalid("a plan needs a title")
		}
		return set(&s.Title, op, MaxTitle)
	case "purpose":
		return set(&s.Purpose, op, MaxText)
	}
	return invalid("a plan has no field %q", op.Field)
}

func (s *State) addChapter(op Op) error {
	c := op.NewCh
	switch {
	case c == nil || !idShape.MatchString(c.ID):
		return invalid("a new chapter needs an id of 6 to 64 letters and digits")
	case s.Chapters[c.ID] != nil:
		return invalid("there is a chapter with this id already")
	case len(s.Chapters) >= MaxChapters:
		return invalid("a plan holds %d chapters at most", MaxChapters)
	case c.Order == "" || !validKey(c.Order):
		return invalid("the order key %q cannot be used", c.Order)
	}
	if err := fits(c.Title, MaxTitle); err != nil {
		return err
	}
	s.Chapters[c.ID] = &Chapter{ID: c.ID, Order: c.Order, Title: c.Title}
	return nil
}

func (s *State) addPassage(op Op) error {
	p := op.NewPs
	switch {
	case p == nil || !idShape.MatchString(p.ID):
		return invalid("a new passage needs an id of 6 to 64 letters and digits")
	case s.Passages[p.ID] != nil:
		return invalid("there is a passage with this id already")
	case len(s.Passages) >= MaxPassages:
		return invalid("a plan holds %d passages at most", MaxPassages)
	case p.Minutes < 0 || p.Minutes > MaxMinutes:
		return invalid("minutes go from 0 to %d", MaxMinutes)
	}
	if err := s.checkPlace(p.Chapter, p.Order); err != nil {
		return err
	}
	if err := checkTarget(p.Target); err != nil {
		return err
	}
	for _, t := range []struct {
		text string
		max  int
	}{{p.Title, MaxTitle}, {p.Purpose, MaxText}, {p.Why, MaxText}} {
		if err := fits(t.text, t.max); err != nil {
			return err
		}
	}
	fresh := *p
	fresh.Removed = false
	s.Passages[p.ID] = &fresh
	return nil
}

var commitID = regexp.MustCompile(`^(?:[0-9a-f]{40}|[0-9a-f]{64})$`)

func checkTarget(t Target) error {
	switch {
	case !commitID.MatchString(t.Commit):
		return invalid("a passage needs the full id of the commit it is read at")
	case len(t.Path) > 4096 || !utf8.ValidString(t.Path):
		return invalid("the path cannot be used")
	case (t.Kind == Lines || t.Kind == Extract) && (t.Start < 1 || t.End < t.Start):
		return invalid("lines go from %d to %d, which is no range", t.Start, t.End)
	case t.Skim < 0 || t.Skim > 0 && t.Kind != File || t.Column < 0 || t.Column > 0 && t.Kind != Extract:
		return invalid("a passage of the kind %q has no such part", t.Kind)
	case t.Kind == Lines || t.Kind == File || t.Kind == Extract:
		if t.Path == "" {
			return invalid("a passage of a file needs its path")
		}
		return nil
	case t.Kind == Folder:
		return nil
	}
	return invalid("a passage cannot be of the kind %q", t.Kind)
}

func (s *State) checkPlace(chapter, order string) error {
	if c := s.Chapters[chapter]; c == nil || c.Removed {
		return invalid("the chapter is not there any more")
	}
	if order == "" || !validKey(order) {
		return invalid("the order key %q cannot be used", order)
	}
	return nil
}

func (s *State) changeChapter(c *Chapter, op Op) error {
	switch op.Kind {
	case SetChapter:
		if op.Field != "title" {
			return invalid("a chapter has no field %q", op.Field)
		}
		return set(&c.Title, op, MaxTitle)
	case MoveChapter:
		if op.Order == "" || !validKey(op.Order) {
			return invalid("the order key %q cannot be used", op.Order)
		}
		c.Order = op.Order
	case RemoveChapter:
		c.Removed = true
	case RestoreChapter:
		c.Removed = false
	}
	return nil
}

func (s *State) changePassage(p *Passage, op Op) error {
	switch op.Kind {
	case SetPassage:
		switch op.Field {
		case "title":
			return set(&p.Title, op, MaxTitle)
		case "purpose":
			return set(&p.Purpose, op, MaxText)
		case "minutes":
			n, err := strconv.Atoi(op.To)
			if err != nil || n < 0 || n > MaxMinutes {
				return invalid("minutes go from 0 to %d", MaxMinutes)
			}
			now := strconv.Itoa(p.Minutes)
			if now != op.From {
				return &Conflict{Field: op.Field, Current: now}
			}
			p.Minutes = n
			return nil
		}
		return invalid("a passage has no field %q", op.Field)
	case MovePassage:
		if err := s.checkPlace(op.Chapter, op.Order); err != nil {
			return err
		}
		p.Chapter, p.Order = op.Chapter, op.Order
	case RemovePassage:
		p.Removed = true
	case RestorePassage:
		p.Removed = false
	}
	return nil
}

// set replaces a text if it still reads as the operation expects.
func set(at *string, op Op, limit int) error {
	if err := fits(op.To, limit); err != nil {
		return err
	}
	if *at != op.From {
		return &Conflict{Field: op.Field, Current: *at}
	}
	*at = op.To
	return nil
}

func fits(text string, limit int) error {
	if !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
		return invalid("the text is not valid UTF-8")
	}
	if utf8.RuneCountInString(text) > limit {
		return invalid("the text is longer than %d characters", limit)
	}
	return nil
}
