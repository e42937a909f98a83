package plan

import (
	"fmt"
	"regexp"
	"slices"
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
	AddNeed        = "add-need"
	DropNeed       = "drop-need"
	AddIdea        = "add-idea"
	SetIdea        = "set-idea"
	RemoveIdea     = "remove-idea"
	RestoreIdea    = "restore-idea"
	SetAside       = "set-aside"
)

// Op is one operation. Which fields count depends on Kind.
type Op struct {
	Kind    string   `json:"kind"`
	ID      string   `json:"id,omitempty"`      // of the chapter, passage or idea; for a new one, in it; set-aside: the key of a Thing
	Field   string   `json:"field,omitempty"`   // set-*: see fields.go
	From    string   `json:"from,omitempty"`    // set-*: the value it replaces; of an aside, the reason
	To      string   `json:"to,omitempty"`      // set-*: the new value; *-need: the id of what is needed
	Chapter string   `json:"chapter,omitempty"` // move-passage: where to
	Order   string   `json:"order,omitempty"`   // move-*: the new key
	NewCh   *Chapter `json:"new_chapter,omitempty"`
	NewPs   *Passage `json:"new_passage,omitempty"`
	NewIdea *Idea    `json:"new_idea,omitempty"`
}

// Invalid tells that an operation makes no sense by itself or here.
type Invalid struct{ Reason string }

func (e *Invalid) Error() string { return e.Reason }

func invalid(format string, args ...any) error { return &Invalid{fmt.Sprintf(format, args...)} }

// Conflict tells that the value an operation meant to replace has changed
// meanwhile. ID is the chapter, passage or idea that holds it; "" is the plan.
type Conflict struct{ ID, Field, Current string }

func (e *Conflict) Error() string {
	return fmt.Sprintf("somebody changed the %s meanwhile; it now reads %q", e.Field, e.Current)
}

// Limits of a plan. Those of chapters, passages and ideas count removed ones,
// which stay for undo.
const (
	MaxTitle    = 200    // characters
	MaxText     = 20_000 // characters
	MaxMinutes  = 600
	MaxBudget   = 10_000 // minutes
	MaxChapters = 1000
	MaxPassages = 5000
	MaxIdeas    = 1000
	MaxNeeds    = 50 // of one passage
	MaxAside    = 5000
)

var idShape = regexp.MustCompile(`^[A-Za-z0-9_-]{6,64}$`)

// ValidID tells whether a plan takes an id.
func ValidID(id string) bool { return idShape.MatchString(id) }

// Apply carries out an operation on the state. On an error, an *Invalid or a
// *Conflict, the state is as before.
func (s *State) Apply(op Op) error {
	switch op.Kind {
	case SetPlan:
		changed := *s
		if err := setField(planFields, &changed, op); err != nil {
			return err
		}
		*s = changed
		return nil
	case AddChapter:
		return s.addChapter(op.NewCh)
	case AddPassage:
		return s.addPassage(op.NewPs)
	case AddIdea:
		return s.addIdea(op.NewIdea)
	case SetChapter, MoveChapter, RemoveChapter, RestoreChapter:
		return s.changeChapter(op)
	case SetPassage, MovePassage, RemovePassage, RestorePassage, AddNeed, DropNeed:
		return s.changePassage(op)
	case SetIdea, RemoveIdea, RestoreIdea:
		return s.changeIdea(op)
	case SetAside:
		return s.setAside(op)
	}
	return invalid("no operation is called %q", op.Kind)
}

func (s *State) addChapter(c *Chapter) error {
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
	if err := allFit(limited{c.Title, MaxTitle}, limited{c.Intent, MaxText}); err != nil {
		return err
	}
	s.Chapters[c.ID] = &Chapter{ID: c.ID, Order: c.Order, Title: c.Title, Intent: c.Intent}
	return nil
}

func (s *State) addPassage(p *Passage) error {
	switch {
	case p == nil || !idShape.MatchString(p.ID):
		return invalid("a new passage needs an id of 6 to 64 letters and digits")
	case s.Passages[p.ID] != nil:
		return invalid("there is a passage with this id already")
	case len(s.Passages) >= MaxPassages:
		return invalid("a plan holds %d passages at most; make another plan", MaxPassages)
	case p.Minutes < 0 || p.Minutes > MaxMinutes:
		return invalid("minutes go from 0 to %d", MaxMinutes)
	case len(p.Needs) > MaxNeeds:
		return invalid("a passage needs at most %d things", MaxNeeds)
	}
	if err := s.checkPlace(p.Chapter, p.Order); err != nil {
		return err
	}
	if err := p.Target.check(); err != nil {
		return err
	}
	if err := checkQuestions(p.Questions); err != nil {
		return err
	}
	if err := allFit(limited{p.Title, MaxTitle}, limited{p.Purpose, MaxText}, limited{p.Text, MaxText}, limited{p.Caution, MaxText}, limited{p.Why, MaxText}, limited{p.Drafted, MaxTitle}); err != nil {
		return err
	}
	fresh := *p
	fresh.Removed = false
	fresh.Needs = sorted(slices.Clone(p.Needs))
	s.Passages[p.ID] = &fresh
	return nil
}

// sorted is a set of ids as it is kept, so that the order in which people add to
// it makes no difference; nil where it is empty.
func sorted(ids []string) []string {
	if len(ids) == 0 {
		return nil
	}
	slices.Sort(ids)
	return slices.Compact(ids)
}

func (s *State) addIdea(i *Idea) error {
	switch {
	case i == nil || !idShape.MatchString(i.ID):
		return invalid("a new idea needs an id of 6 to 64 letters and digits")
	case s.Ideas[i.ID] != nil:
		return invalid("there is an idea with this id already")
	case len(s.Ideas) >= MaxIdeas:
		return invalid("a plan holds %d ideas at most", MaxIdeas)
	case strings.TrimSpace(i.Name) == "":
		return invalid("an idea needs a name")
	}
	if err := allFit(limited{i.Name, MaxTitle}, limited{i.Text, MaxText}, limited{i.By, MaxTitle}); err != nil {
		return err
	}
	fresh := *i
	fresh.Removed = false
	s.Ideas[i.ID] = &fresh
	return nil
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

func (s *State) changeChapter(op Op) error {
	was := s.Chapters[op.ID]
	if was == nil || was.Removed != (op.Kind == RestoreChapter) {
		return invalid("the chapter is not there any more")
	}
	c := *was
	switch op.Kind {
	case SetChapter:
		if err := setField(chapterFields, &c, op); err != nil {
			return err
		}
	case MoveChapter:
		if op.Order == "" || !validKey(op.Order) {
			return invalid("the order key %q cannot be used", op.Order)
		}
		c.Order = op.Order
	default:
		c.Removed = op.Kind == RemoveChapter
	}
	s.Chapters[op.ID] = &c
	return nil
}

func (s *State) changePassage(op Op) error {
	was := s.Passages[op.ID]
	if was == nil || was.Removed != (op.Kind == RestorePassage) {
		return invalid("the passage is not there any more")
	}
	if c := s.Chapters[was.Chapter]; c == nil || c.Removed {
		return invalid("the passage's chapter is not there any more")
	}
	p := *was
	switch op.Kind {
	case SetPassage:
		if err := setField(passageFields, &p, op); err != nil {
			return err
		}
	case MovePassage:
		if err := s.checkPlace(op.Chapter, op.Order); err != nil {
			return err
		}
		p.Chapter, p.Order = op.Chapter, op.Order
	case AddNeed:
		switch {
		case slices.Contains(p.Needs, op.To):
			return invalid("the passage needs this already")
		case op.To == op.ID:
			return invalid("a passage cannot need itself")
		case len(p.Needs) >= MaxNeeds:
			return invalid("a passage needs at most %d things", MaxNeeds)
		case s.Passages[op.To] == nil && s.Ideas[op.To] == nil:
			return invalid("what it needs is not in this plan")
		}
		p.Needs = sorted(append(slices.Clone(p.Needs), op.To))
	case DropNeed:
		at := slices.Index(p.Needs, op.To)
		if at < 0 {
			return invalid("the passage does not need this")
		}
		p.Needs = sorted(slices.Delete(slices.Clone(p.Needs), at, at+1))
	default:
		p.Removed = op.Kind == RemovePassage
	}
	s.Passages[op.ID] = &p
	return nil
}

func (s *State) changeIdea(op Op) error {
	was := s.Ideas[op.ID]
	if was == nil || was.Removed != (op.Kind == RestoreIdea) {
		return invalid("the idea is not there any more")
	}
	i := *was
	if op.Kind == SetIdea {
		if err := setField(ideaFields, &i, op); err != nil {
			return err
		}
	} else {
		i.Removed = op.Kind == RemoveIdea
	}
	s.Ideas[op.ID] = &i
	return nil
}

// setAside keeps why something is left out on purpose; "" brings it back.
func (s *State) setAside(op Op) error {
	now := s.Aside[op.ID]
	switch {
	case op.ID == "":
		return invalid("say what is set aside")
	case now != op.From:
		return &Conflict{ID: op.ID, Field: "reason", Current: now}
	case op.To == "":
		delete(s.Aside, op.ID)
		return nil
	case now == "" && len(s.Aside) >= MaxAside:
		return invalid("a plan sets at most %d things aside", MaxAside)
	}
	if err := allFit(limited{op.ID, 2 * maxPath}, limited{op.To, MaxText}); err != nil {
		return err
	}
	if s.Aside == nil {
		s.Aside = map[string]string{}
	}
	s.Aside[op.ID] = op.To
	return nil
}

type limited struct {
	text string
	most int
}

func allFit(list ...limited) error {
	for _, x := range list {
		if err := fits(x.text, x.most); err != nil {
			return err
		}
	}
	return nil
}

func fits(text string, limit int) error {
	if !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
		return invalid("the text is not valid UTF-8")
	}
	if n := utf8.RuneCountInString(text); n > limit {
		return invalid("the text has %d characters; %d are the most", n, limit)
	}
	return nil
}

// Touched are the parts of a plan that operations change, each once.
type Touched struct {
	Plan                      bool
	Chapters, Passages, Ideas []string
}

// Touches finds what operations change.
func Touches(ops []Op) Touched {
	var t Touched
	add := func(list *[]string, id string) {
		if !slices.Contains(*list, id) {
			*list = append(*list, id)
		}
	}
	for _, op := range ops {
		switch op.Kind {
		case SetPlan, SetAside:
			t.Plan = true
		case AddChapter:
			add(&t.Chapters, idOf(op.NewCh))
		case SetChapter, MoveChapter, RemoveChapter, RestoreChapter:
			add(&t.Chapters, op.ID)
		case AddPassage:
			add(&t.Passages, idOf(op.NewPs))
		case AddIdea:
			add(&t.Ideas, idOf(op.NewIdea))
		case SetIdea, RemoveIdea, RestoreIdea:
			add(&t.Ideas, op.ID)
		default:
			add(&t.Passages, op.ID)
		}
	}
	return t
}
