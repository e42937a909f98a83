package tagged

import (
	"fmt"
	"hash/fnv"
	"regexp"
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Urgency says how soon a word wants to be seen to.
type Urgency int

// The urgencies.
const (
	ToKnow   Urgency = 1 // nothing to do, but a reader should know
	SomeDay  Urgency = 2
	Pressing Urgency = 3
)

// Word is an agreed word.
type Word struct {
	Word    string  `json:"word"`    // as it is shown, and written where there is no pattern
	Meaning string  `json:"meaning"` // in plain language
	Urgency Urgency `json:"urgency"`
	Pattern string  `json:"pattern,omitempty"` // RE2; "": the word itself, as a word of its own
	Done    bool    `json:"done,omitempty"`    // it says that nothing is left to do
}

// Agreed are the words that every repository starts with.
var Agreed = []Word{
	{Word: "FIXME", Meaning: "known to be wrong", Urgency: Pressing},
	{Word: "BUG", Meaning: "a known fault", Urgency: Pressing},
	{Word: "XXX", Meaning: "needs attention before it is relied on", Urgency: Pressing},
	{Word: "HACK", Meaning: "works, but not the way it should", Urgency: SomeDay},
	{Word: "TODO", Meaning: "something is still to be done here", Urgency: SomeDay},
	{Word: "OPTIMIZE", Meaning: "works, but too slowly or too large", Urgency: SomeDay},
	{Word: "[ ]", Meaning: "a box that is still open: not done yet", Urgency: SomeDay},
	{Word: "DEPRECATED", Meaning: "on its way out; do not build on it", Urgency: ToKnow},
	{Word: "NOTE", Meaning: "something a reader should know", Urgency: ToKnow},
	{Word: "[x]", Meaning: "a ticked box: done", Urgency: ToKnow, Done: true},
}

// Limits of a team's own words.
const (
	MaxWords   = 50
	MaxWord    = 40  // characters
	MaxMeaning = 200 // characters
	MaxPattern = 200 // bytes
)

// Words are the agreed words of one repository, ready to be looked for. They
// may be used by several goroutines.
type Words struct {
	list  []Word
	named map[string]*Word
	rules []rule
	// starts are the texts by which a match begins, by their first two bytes.
	starts map[uint16][]start
	pairs  [1 << 10]uint64 // the keys of starts, a bit each
	firsts [256]bool       // the first bytes of starts
	always []int           // rules whose matches may begin with anything
	own    *Words          // the team's own alone; nil: there are none
}

// start is a text by which matches of a rule begin.
type start struct {
	text string
	rule int
}

// rule is one way of writing a word.
type rule struct {
	word   *Word
	re     *regexp.Regexp // the word is group 1
	marker bool           // of documentation
}

// markers are the documentation markers that stand for words.
var markers = map[string]string{
	"TODO": `todo`, "DEPRECATED": `deprecated`, "BUG": `bug`, "FIXME": `fixme`, "HACK": `hack`, "NOTE": `note`, "XXX": `xxx`,
}

// head is what may stand before the first word of a comment's line: its own
// marks, space and a bullet.
const head = `(?m:^)[ \t]*(?://+!?|/\*+!?|\*+|#+|--+|;+|%+|<!--|\{-|\(\*)*[ \t]*(?:[-*+•][ \t]+|\d+[.)][ \t]+)?`

// Compile makes words ready: the agreed ones and a team's own, of which one by
// the same name takes the place of an agreed one. An error is meant for the
// person who wrote them.
func Compile(own []Word) (*Words, error) {
	if len(own) > MaxWords {
		return nil, fmt.Errorf("there can be %d words at most", MaxWords)
	}
	seen := map[string]bool{}
	for _, x := range own {
		if err := x.check(); err != nil {
			return nil, err
		}
		if seen[x.Word] {
			return nil, fmt.Errorf("the word %q is there twice", x.Word)
		}
		seen[x.Word] = true
	}
	list := append([]Word(nil), own...)
	for _, x := range Agreed {
		if !seen[x.Word] {
			list = append(list, x)
		}
	}
	w, err := compile(list)
	if err != nil || len(own) == 0 {
		return w, err
	}
	w.own, err = compile(own)
	return w, err
}

func compile(list []Word) (*Words, error) {
	w := &Words{list: append([]Word(nil), list...), named: map[string]*Word{}, starts: map[uint16][]start{}}
	sort.SliceStable(w.list, func(i, j int) bool { return w.list[i].Urgency > w.list[j].Urgency })
	for i := range w.list {
		w.named[w.list[i].Word] = &w.list[i]
		if err := w.rule(&w.list[i]); err != nil {
			return nil, err
		}
	}
	return w, nil
}

// Standard are the agreed words alone.
var Standard = func() *Words {
	w, err := Compile(nil)
	if err != nil {
		panic(err) // the words are constants
	}
	return w
}()

func (x *Word) check() error {
	switch {
	case strings.TrimSpace(x.Word) == "" || x.Word != strings.TrimSpace(x.Word):
		return fmt.Errorf("a word cannot be empty, nor begin or end with space")
	case utf8.RuneCountInString(x.Word) > MaxWord || !utf8.ValidString(x.Word) || strings.IndexFunc(x.Word, unicode.IsControl) >= 0:
		return fmt.Errorf("the word %.40q is longer than %d characters, or cannot be written", x.Word, MaxWord)
	case utf8.RuneCountInString(x.Word) < 2 && x.Pattern == "":
		return fmt.Errorf("the word %q is too short: two characters are the least", x.Word)
	case strings.TrimSpace(x.Meaning) == "":
		return fmt.Errorf("say in plain words what %s means", x.Word)
	case utf8.RuneCountInString(x.Meaning) > MaxMeaning || !utf8.ValidString(x.Meaning):
		return fmt.Errorf("the meaning of %s is longer than %d characters", x.Word, MaxMeaning)
	case x.Urgency < ToKnow || x.Urgency > Pressing:
		return fmt.Errorf("the urgency of %s is none of the three", x.Word)
	case len(x.Pattern) > MaxPattern:
		return fmt.Errorf("the pattern of %s is longer than %d bytes", x.Word, MaxPattern)
	}
	return nil
}

// rule compiles the ways in which a word is written, in the order they are
// tried.
func (w *Words) rule(x *Word) error {
	marker := false
	add := func(pattern string, starts ...string) error {
		re, err := regexp.Compile(pattern)
		if err != nil {
			return fmt.Errorf("the pattern of %s cannot be used: %w", x.Word, err)
		}
		w.rules = append(w.rules, rule{x, re, marker})
		for _, s := range starts {
			key := uint16(s[0])<<8 | uint16(s[1])
			w.starts[key] = append(w.starts[key], start{s, len(w.rules) - 1})
			w.pairs[key>>6] |= 1 << (key & 63)
			w.firsts[s[0]] = true
		}
		return nil
	}
	if x.Pattern != "" {
		re, err := regexp.Compile(x.Pattern)
		if err != nil {
			return fmt.Errorf("the pattern of %s cannot be used: %w", x.Word, err)
		}
		if re.MatchString("") {
			return fmt.Errorf("the pattern of %s fits where nothing stands", x.Word)
		}
		start, _ := re.LiteralPrefix()
		if len(start) < 2 {
			w.always = append(w.always, len(w.rules))
			return add("(" + x.Pattern + ")")
		}
		return add("("+x.Pattern+")", start)
	}
	switch x.Word {
	case "[ ]":
		return add(head+`(\[ \])[ \t]`, "[ ]")
	case "[x]":
		return add(head+`(\[[xX]\])[ \t]`, "[x]", "[X]")
	}
	if err := add(own(x.Word), x.Word); err != nil {
		return err
	}
	marker = true
	if m := markers[x.Word]; m != "" {
		if err := add(`(?:^|[\s*/!{])[@\\](`+m+`)\b`, "@"+m, `\`+m); err != nil {
			return err
		}
	}
	if x.Word == "DEPRECATED" {
		return add(head+`(Deprecated:|\.\. deprecated::)`, "Deprecated:", ".. deprecated::")
	}
	if x.Word == "TODO" {
		return add(head+`(\.\. todo::)`, ".. todo::")
	}
	return nil
}

// own matches a word as a word of its own.
func own(word string) string {
	first, _ := utf8.DecodeRuneInString(word)
	last, _ := utf8.DecodeLastRuneInString(word)
	pattern := "(" + regexp.QuoteMeta(word) + ")"
	if inWord(first) {
		pattern = `\b` + pattern
	}
	if inWord(last) {
		pattern += `\b`
	}
	return pattern
}

func inWord(r rune) bool {
	return r == '_' || r < utf8.RuneSelf && (unicode.IsLetter(r) || unicode.IsDigit(r))
}

// List are all words, the most urgent first.
func (w *Words) List() []Word { return append([]Word(nil), w.list...) }

// Of is a word by name; nil: it is not agreed.
func (w *Words) Of(name string) *Word { return w.named[name] }

// Meaning is what a word means, "" where it is not agreed.
func (w *Words) Meaning(name string) string {
	if x := w.named[name]; x != nil {
		return x.Meaning
	}
	return ""
}

// rulesVersion changes whenever the agreed words, or how they are found, do.
const rulesVersion = 1

// Print is a fingerprint of how the words are written, never 0: what was read
// by words with another one must be read again.
func (w *Words) Print() int32 {
	h := fnv.New32a()
	list := w.List()
	sort.Slice(list, func(i, j int) bool { return list[i].Word < list[j].Word })
	for _, x := range list {
		_, _ = fmt.Fprintf(h, "%d %q %q\n", rulesVersion, x.Word, x.Pattern)
	}
	return int32(h.Sum32()>>1) + 1
}

// May tells quickly whether a text could hold a word: false is certain.
func (w *Words) May(text []byte) bool {
	if len(w.always) > 0 {
		return len(text) > 0
	}
	for i, c := range text {
		if w.firsts[c] && w.begins(text[i:]) {
			return true
		}
	}
	return false
}

// begins tells whether a text begins with a start.
func (w *Words) begins(text []byte) bool {
	if len(text) < 2 {
		return false
	}
	key := uint16(text[0])<<8 | uint16(text[1])
	if w.pairs[key>>6]&(1<<(key&63)) == 0 {
		return false
	}
	for _, s := range w.starts[key] {
		if len(text) >= len(s.text) && string(text[:len(s.text)]) == s.text {
			return true
		}
	}
	return false
}

// Own tells whether there are words of the team's own.
func (w *Words) Own() bool { return w.own != nil }

// OwnMay tells quickly whether a text could hold one of the team's own words.
func (w *Words) OwnMay(text []byte) bool { return w.own != nil && w.own.May(text) }

// IsOwn tells whether a word is the team's own.
func (w *Words) IsOwn(word string) bool { return w.own != nil && w.own.Of(word) != nil }

// begun calls do with the rule of each start found in a text, until it says
// that it has seen enough.
func (w *Words) begun(text []byte, do func(rule int) bool) {
	for i, c := range text {
		if !w.firsts[c] || i+1 == len(text) {
			continue
		}
		key := uint16(c)<<8 | uint16(text[i+1])
		if w.pairs[key>>6]&(1<<(key&63)) == 0 {
			continue
		}
		for _, s := range w.starts[key] {
			if len(text)-i >= len(s.text) && string(text[i:i+len(s.text)]) == s.text && !do(s.rule) {
				return
			}
		}
	}
}
