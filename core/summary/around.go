package summary

import (
	"path"
	"strings"

	"juxtagram/core/links/origin"
	"juxtagram/core/role"
)

// leans: what the file imports, this repository's first.
func (t *teller) leans() {
	var own, others, standard named
	seen := map[string]bool{}
	once := func(list *named, name string, line int) {
		if name != "" && !seen[name] {
			seen[name] = true
			list.add(code(name), t.here(line))
		}
	}
	for n := range t.f.Imports {
		o := t.Links.Origin(t.n, n)
		if o == nil {
			continue
		}
		line := t.f.Imports[n].Line
		switch o.To {
		case origin.ToFile:
			name := ""
			if len(o.Files) == 1 {
				name = t.Files[o.Files[0]].Path
			} else if len(o.Files) > 1 {
				if name = path.Dir(t.Files[o.Files[0]].Path) + "/"; name == "./" {
					name = "the root folder"
				}
			}
			if name != t.f.Path {
				once(&own, name, line)
			}
		case origin.ToDependency:
			once(&others, strings.TrimSpace(o.Name+" "+o.Version), line)
		case origin.ToStandard:
			once(&standard, o.Name, line)
		}
	}
	var parts []string
	var cites []Cite
	if n := len(own.words); n > 0 {
		parts, cites = append(parts, some(own.words, 3)+" of this repository"), append(cites, own.cites[:min(n, 3)]...)
	}
	if n := len(others.words); n > 0 {
		parts, cites = append(parts, "the "+noun(n, "dependency", "dependencies")+" "+some(others.words, 3)), append(cites, others.cites[:min(n, 3)]...)
	}
	if n := len(standard.words); n > 0 && len(parts) == 0 {
		parts, cites = append(parts, some(standard.words, 3)+" of the standard library alone"), standard.cites[:min(n, 3)]
	}
	if len(parts) > 0 {
		t.say(40, "lean", Names, "Leans on "+list(parts)+".", cites...)
	}
}

// named are words with the line that bears each.
type named struct {
	words []string
	cites []Cite
}

func (n *named) add(word string, c Cite) {
	n.words, n.cites = append(n.words, word), append(n.cites, c)
}

func noun(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

// used: who leans on the file.
func (t *teller) used() error {
	all, err := t.Dependents(t.n)
	if err != nil || len(all) == 0 {
		return err
	}
	var named []string
	var cites []Cite
	tests := 0
	for _, l := range all {
		if t.Files[l.File].Role == role.Test {
			tests++
		}
	}
	for _, l := range all[:min(len(all), 3)] {
		named = append(named, code(t.Files[l.File].Path))
		cites = append(cites, Cite{t.Files[l.File].Path, l.Line})
	}
	if tests == len(all) {
		return nil // told as tests
	}
	text := count(len(all)-tests, "file") + " lean" + third(len(all)-tests) + " on it: " + list(named) + "."
	if len(all)-tests > len(named) {
		text = count(len(all)-tests, "file") + " lean on it, " + list(named) + " foremost."
	} else {
		named = named[:len(all)-tests]
		text = count(len(named), "file") + " lean" + third(len(named)) + " on it: " + list(named) + "."
		cites = cites[:len(named)]
	}
	t.say(64, "used", Names, text, cites...)
	return nil
}

func (t *teller) tested() error {
	if t.f.Role == role.Test {
		var named []string
		var cites []Cite
		for _, s := range t.shows[t.n] {
			if uses, err := t.user(s); err != nil {
				return err
			} else if uses != nil && !uses(t.n) && testedStem(t.f.Path) != stem(t.Files[s].Path) {
				continue
			}
			named = append(named, code(t.Files[s].Path))
			cites = append(cites, t.here(max(t.lineOf(t.n, s), 0)))
		}
		if len(named) > 0 {
			t.say(70, "test", Names, "Shows what "+some(named, 3)+" "+noun(len(named), "does", "do")+".", cites...)
		}
		return nil
	}
	list, err := t.Tests(t.n)
	if err != nil || len(list) == 0 {
		return err
	}
	var named []string
	var cites []Cite
	for _, x := range list {
		named = append(named, code(t.Files[x].Path))
		cites = append(cites, Cite{t.Files[x].Path, t.lineOf(x, t.n)})
	}
	t.say(50, "test", Names, "Shown by "+some(named, 2)+".", cites...)
	return nil
}

func (t *teller) twins() {
	list := t.TwinsOf(t.n)
	if len(list) == 0 {
		return
	}
	var named []string
	cites := []Cite{t.here(0)}
	for _, w := range list {
		other := w.A
		if other == t.n {
			other = w.B
		}
		named = append(named, code(t.Files[other].Path))
		cites = append(cites, Cite{t.Files[other].Path, 0})
	}
	t.say(58, "twin", Read, "Has a twin in "+some(named, 2)+": "+list[0].Evidence+".", cites...)
}
