package plan

import (
	"encoding/json"
	"strconv"
	"strings"
)

// field is a part of something that can be set: how it is written, and how it
// is read. A value is set only where the one it replaces is still there.
type field[T any] struct {
	name string
	get  func(*T) string
	set  func(*T, string) error
	// plain writes a value as get does; nil: it is written so already
	plain func(string) string
}

// text is a field that holds words.
func text[T any](name string, limit int, at func(*T) *string) field[T] {
	return field[T]{name: name, get: func(x *T) string { return *at(x) }, set: func(x *T, to string) error {
		if err := fits(to, limit); err != nil {
			return err
		}
		*at(x) = to
		return nil
	}}
}

// named is a text that must not be empty.
func named[T any](f field[T], what string) field[T] {
	set := f.set
	f.set = func(x *T, to string) error {
		if strings.TrimSpace(to) == "" {
			return invalid("%s", what)
		}
		return set(x, to)
	}
	return f
}

func number[T any](name string, most int, at func(*T) *int) field[T] {
	return field[T]{name: name, get: func(x *T) string { return strconv.Itoa(*at(x)) }, set: func(x *T, to string) error {
		n, err := strconv.Atoi(to)
		if err != nil || n < 0 || n > most {
			return invalid("minutes go from 0 to %d", most)
		}
		*at(x) = n
		return nil
	}}
}

// document is a field that holds a value written in JSON.
func document[T, V any](name string, at func(*T) *V, check func(*V) error) field[T] {
	write := func(v *V) string {
		b, err := json.Marshal(v)
		if err != nil {
			return "" // strings and numbers are always written
		}
		return string(b)
	}
	set := func(x *T, to string) error {
		var v V
		if err := json.Unmarshal([]byte(to), &v); err != nil {
			return invalid("the %s cannot be read: %s", name, err)
		}
		if err := check(&v); err != nil {
			return err
		}
		*at(x) = v
		return nil
	}
	plain := func(value string) string {
		var v V
		if json.Unmarshal([]byte(value), &v) != nil {
			return value
		}
		return write(&v)
	}
	return field[T]{name, func(x *T) string { return write(at(x)) }, set, plain}
}

var planFields = []field[State]{
	named(text("title", MaxTitle, func(s *State) *string { return &s.Title }), "a plan needs a title"),
	text("purpose", MaxText, func(s *State) *string { return &s.Purpose }),
	number("budget", MaxBudget, func(s *State) *int { return &s.Budget }),
	document("goal", func(s *State) **Goal { return &s.Goal }, func(g **Goal) error { return checkGoal(*g) }),
}

var chapterFields = []field[Chapter]{
	text("title", MaxTitle, func(c *Chapter) *string { return &c.Title }),
	text("intent", MaxText, func(c *Chapter) *string { return &c.Intent }),
}

var passageFields = []field[Passage]{
	text("title", MaxTitle, func(p *Passage) *string { return &p.Title }),
	text("purpose", MaxText, func(p *Passage) *string { return &p.Purpose }),
	text("text", MaxText, func(p *Passage) *string { return &p.Text }),
	text("caution", MaxText, func(p *Passage) *string { return &p.Caution }),
	text("why", MaxText, func(p *Passage) *string { return &p.Why }),
	text("drafted", MaxTitle, func(p *Passage) *string { return &p.Drafted }),
	number("minutes", MaxMinutes, func(p *Passage) *int { return &p.Minutes }),
	document("optional", func(p *Passage) *bool { return &p.Optional }, func(*bool) error { return nil }),
	document("target", func(p *Passage) *Target { return &p.Target }, (*Target).check),
	document("questions", func(p *Passage) *[]Question { return &p.Questions }, func(q *[]Question) error { return checkQuestions(*q) }),
}

var ideaFields = []field[Idea]{
	named(text("name", MaxTitle, func(i *Idea) *string { return &i.Name }), "an idea needs a name"),
	text("text", MaxText, func(i *Idea) *string { return &i.Text }),
	text("by", MaxTitle, func(i *Idea) *string { return &i.By }),
}

func checkQuestions(list []Question) error {
	if len(list) > 20 {
		return invalid("a passage has at most 20 questions")
	}
	for _, q := range list {
		if err := allFit(limited{q.Ask, MaxText}, limited{q.Answer, MaxText}); err != nil {
			return err
		}
	}
	return nil
}

// setField replaces a value if it is still as the operation expects.
func setField[T any](fields []field[T], at *T, op Op) error {
	for _, f := range fields {
		if f.name != op.Field {
			continue
		}
		now, from := f.get(at), op.From
		if f.plain != nil {
			from = f.plain(from)
		}
		if now != from {
			return &Conflict{ID: op.ID, Field: op.Field, Current: now}
		}
		return f.set(at, op.To)
	}
	return invalid("there is no field %q to set", op.Field)
}
