// Package effects says what code does to the outside: what it writes, reads,
// opens, listens on, connects to and starts, and where that is decided. The
// way from a call to the value is followed through names and configurations,
// each hop with its line.
package effects

import (
	"fmt"
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
)

// File is one file of a survey.
type File struct {
	Language string
	Role     string
}

// Effect is one call that does something to the outside.
type Effect struct {
	Kind   lang.EffectKind
	Line   int
	Call   string
	Target string // what it names, as far as it is known; "": it names nothing
	Known  bool   // Target is the value itself, not a name for it
	Via    []Hop  // from the call's argument to the value
}

// Hop is one step on the way to a value.
type Hop struct {
	File int
	Line int
	Text string // what the step says: "log_path = cfg.get("log")"
}

// Tracer follows names to values over all files. It may be used by several
// goroutines.
type Tracer struct {
	files  []File
	values map[string][]place // last part of a name → where it is given something
	near   func(from, to int) int
}

// place is a value in a file, compactly.
type place struct {
	file, line int32
	name       string // in full
	text, from string
	call       string // callee and first argument of a call that gives it
	key        string // the setting that the call asks for
	fallback   string // what the call gives where nothing is set
}

// maxPlaces bounds how many places of one name are kept.
const maxPlaces = 200

// New makes a tracer that knows no values yet. near is how far one file is from
// another, 0 the same.
func New(files []File, near func(from, to int) int) *Tracer {
	return &Tracer{files: files, values: map[string][]place{}, near: near}
}

// Add tells the calls and values of a file, once for each; not while Of runs.
func (t *Tracer) Add(file int, m *facts.Matter) {
	for k := range m.Values {
		v := &m.Values[k]
		p := place{file: int32(file), line: int32(v.Line), name: v.Name, text: v.Text, from: v.From}
		if v.Call >= 0 && v.Call < len(m.Calls) {
			p.call, p.key, p.fallback = asks(&m.Calls[v.Call])
		}
		if p.text == "" && p.from == "" && p.call == "" {
			continue
		}
		name := lastPart(v.Name)
		if len(t.values[name]) < maxPlaces {
			t.values[name] = append(t.values[name], p)
		}
	}
}

// asks reads a call that fetches a setting: its name, and what is given where
// it is not set.
func asks(c *lang.CallSite) (call, key, fallback string) {
	for _, a := range c.Args {
		switch {
		case a.Text == "":
		case key == "" && a.Name == "":
			key = a.Text
		case fallback == "" && (a.Name == "" || a.Name == "default" || a.Name == "fallback"):
			fallback = a.Text
		}
	}
	if key == "" {
		return "", "", ""
	}
	return fmt.Sprintf("%s(%q)", c.Callee, key), key, fallback
}

func lastPart(name string) string {
	return strings.TrimLeft(name[strings.LastIndexAny(name, ".:>")+1:], "@$")
}

// Of lists the effects of one file, in the order of its lines.
func (t *Tracer) Of(file int, m *facts.Matter) []Effect {
	var out []Effect
	for k := range m.Calls {
		c := &m.Calls[k]
		if c.Kind == lang.Watched {
			continue
		}
		e := Effect{Kind: kindOf(t.files[file].Language, c), Line: c.Line, Call: c.Callee}
		if c.Target >= 0 && c.Target < len(c.Args) {
			a := c.Args[c.Target]
			switch {
			case a.Text != "":
				e.Target, e.Known = shown(a.Text), !strings.ContainsRune(a.Text, lang.Gap)
				if e.Kind == lang.Environment {
					t.setting(&e, file, a.Text, 0)
				}
			case a.Name != "":
				e.Target = a.Name
				t.follow(&e, file, a.Name, c.Line, 0)
			}
		}
		out = append(out, e)
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Line < out[j].Line })
	return out
}

// console are the names of what a program was given to write to.
var console = map[string]bool{"stderr": true, "stdout": true, "os.Stderr": true, "os.Stdout": true, "sys.stderr": true, "sys.stdout": true, "std::cerr": true, "std::cout": true, "STDERR": true, "STDOUT": true, "$stderr": true, "$stdout": true}

// shown replaces what only running tells by an ellipsis.
func shown(text string) string { return strings.ReplaceAll(text, string(lang.Gap), "…") }

// kindOf tells writing from reading where a mode says so: open(path, "w").
func kindOf(language string, c *lang.CallSite) lang.EffectKind {
	if c.Kind == lang.Writes && c.Target >= 0 && c.Target < len(c.Args) && console[c.Args[c.Target].Name] {
		return lang.Logs
	}
	if c.Kind != lang.Opens {
		return c.Kind
	}
	mode := ""
	for n, a := range c.Args {
		if n > 0 && a.Text != "" && (a.Name == "" || a.Name == "mode") && len(a.Text) <= 4 && strings.Trim(a.Text, "rwabtx+U") == "" {
			mode = a.Text
			break
		}
	}
	switch {
	case strings.ContainsAny(mode, "wax+"):
		return lang.Writes
	case mode != "", language == "Python", language == "Ruby":
		return lang.Reads
	}
	return lang.Opens
}

// maxHops is how many steps to a value are followed.
const maxHops = 6

// follow looks for what a name stands for: right above in the same file, then in
// the file at all, then nearest by.
func (t *Tracer) follow(e *Effect, file int, name string, line, hop int) {
	if hop == maxHops {
		return
	}
	p := t.best(file, name, line)
	if p == nil {
		t.byKey(e, file, name)
		return
	}
	for _, h := range e.Via {
		if h.File == int(p.file) && h.Line == int(p.line) {
			return // a circle
		}
	}
	said := p.text
	if said == "" {
		said = p.from
	} else {
		said = fmt.Sprintf("%q", shown(said))
	}
	if p.call != "" {
		said = p.call
	}
	e.Via = append(e.Via, Hop{int(p.file), int(p.line), p.name + " = " + said})
	switch {
	case p.call != "":
		e.Target = p.key
		if !t.setting(e, int(p.file), p.key, hop) && p.fallback != "" {
			e.Target, e.Known = p.fallback, true
		}
	case p.text != "":
		e.Target, e.Known = shown(p.text), !strings.ContainsRune(p.text, lang.Gap)
	default:
		e.Target = p.from
		t.follow(e, int(p.file), p.from, int(p.line), hop+1)
	}
}

// best is the place that most likely gives a name its value.
func (t *Tracer) best(file int, name string, line int) *place {
	var found *place
	score := -1 << 30
	last := lastPart(name)
	for i := range t.values[last] {
		p := &t.values[last][i]
		if int(p.file) == file && int(p.line) == line && p.from != "" && lastPart(p.from) == last {
			continue
		}
		dotted := strings.ContainsAny(name, ".:>")
		s := 0
		switch {
		case int(p.file) == file && p.name == name:
			s = 1000
			if int(p.line) <= line {
				s += 500 - min(400, line-int(p.line))
			}
		case int(p.file) == file && dotted:
			s = 400
		case int(p.file) == file:
			s = 300
		case !dotted && strings.ToUpper(name) != name:
			continue // another file's local name
		case t.settingsFile(int(p.file)):
			continue
		default:
			s = 100 - 10*t.near(file, int(p.file))
		}
		if s > score {
			found, score = p, s
		}
	}
	if score < 0 {
		return nil
	}
	return found
}

func (t *Tracer) settingsFile(file int) bool {
	switch t.files[file].Language {
	case "YAML", "JSON", "TOML", "INI", "Container file", "Make", "Shell":
		return true
	}
	return false
}

// setting looks a name up in configurations; false: none gives it a value.
func (t *Tracer) setting(e *Effect, file int, key string, hop int) bool {
	if hop == maxHops {
		return false
	}
	var found *place
	score := -1 << 30
	for i := range t.values[lastPart(key)] {
		p := &t.values[lastPart(key)][i]
		if !t.settingsFile(int(p.file)) || p.text == "" {
			continue
		}
		s := -t.near(file, int(p.file))
		if p.name == key {
			s += 50
		}
		if r := t.files[p.file].Role; r == "test" || r == "vendored" || r == "generated" {
			s -= 100
		}
		if s > score {
			found, score = p, s
		}
	}
	if found == nil || score < -100 {
		return false
	}
	e.Via = append(e.Via, Hop{int(found.file), int(found.line), found.name + ": " + shown(found.text)})
	e.Target, e.Known = shown(found.text), true
	return true
}

// byKey looks for a member's name among the keys of configurations: LogPath is
// log_path there.
func (t *Tracer) byKey(e *Effect, file int, name string) {
	if !strings.ContainsAny(name, ".>") {
		return
	}
	var b strings.Builder
	for i, r := range lastPart(name) {
		if r >= 'A' && r <= 'Z' {
			if i > 0 {
				b.WriteByte('_')
			}
			r += 'a' - 'A'
		}
		b.WriteRune(r)
	}
	if b.Len() > 3 {
		_ = t.setting(e, file, b.String(), 0) // not found: the name stands for itself
	}
}
