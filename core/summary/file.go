package summary

import (
	"fmt"
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/role"
	"juxtagram/core/tagged"
)

// teller gathers what can be said of one file.
type teller struct {
	*Whole
	n       int
	f       *File
	m       *facts.Matter
	outline []lang.Symbol
	out     []Sentence
}

// OfFile is the summary of a file: at most six sentences, the most telling
// first; none where nothing is known.
func (w *Whole) OfFile(file int) ([]Sentence, error) {
	t := &teller{Whole: w, n: file, f: &w.Files[file]}
	var err error
	if t.m, err = w.source.Matter(file); err != nil {
		return nil, err
	}
	if t.m == nil {
		t.m = &facts.Matter{}
	}
	if t.outline, err = w.Names.Outline(file); err != nil {
		return nil, err
	}
	t.purpose()
	t.starts()
	t.effects()
	t.offers()
	t.leans()
	t.twins()
	t.alive()
	t.loose()
	for _, tell := range []func() error{t.used, t.tested} {
		if err := tell(); err != nil {
			return nil, err
		}
	}
	return best(t.out), nil
}

func (t *teller) say(weight float64, kind string, depth Depth, text string, cites ...Cite) {
	t.out = append(t.out, Sentence{Kind: kind, Text: text, Depth: depth, Cites: cites, weight: weight})
}

func (t *teller) here(line int) Cite { return Cite{t.f.Path, line} }

// purpose: what the file says of itself, else what its foremost symbol says,
// else its role, if that says more than that it is source.
func (t *teller) purpose() {
	if d := t.m.Doc; d.Line > 0 {
		t.say(100, "purpose", Read, strings.TrimSpace(d.Text), t.here(d.Line))
		return
	}
	foremost := -1
	base := stem(t.f.Path)
	for i := range t.outline {
		d := &t.outline[i]
		if d.Kind == lang.Key || d.Kind == lang.Section || !says(d.Doc, d.Name) || opensTagged(d.Doc) || d.Parent >= 0 && t.outline[d.Parent].Kind != lang.Namespace {
			continue
		}
		if strings.EqualFold(d.Name, strings.ReplaceAll(base, "_", "")) {
			foremost = i
			break
		}
		if foremost < 0 || t.telling(i) > t.telling(foremost) {
			foremost = i
		}
	}
	if foremost >= 0 {
		d := &t.outline[foremost]
		t.say(90, "purpose", Read, fmt.Sprintf("Makes the %s %s: %s", t.kind(d.Kind), code(d.Name), strings.TrimSpace(d.Doc)), t.here(d.NameLine))
		return
	}
	switch t.f.Role {
	case role.Source, role.Other, "":
		return
	case role.Test:
		if len(t.shows[t.n]) > 0 {
			return // what it shows says more
		}
	}
	what := map[string]string{
		role.Test: "A test", role.Sample: "A sample", role.Documentation: "Documentation", role.Build: "Part of the build", role.Configuration: "Configuration",
		role.Schema: "A schema", role.Asset: "An asset", role.Generated: "Generated", role.Vendored: "A copy of a library",
	}[t.f.Role]
	t.say(60, "purpose", Names, what+": "+t.f.RoleEvidence+".", t.here(0))
}

// says tells whether documentation holds more than the name it documents.
func says(doc, name string) bool {
	words := 0
	for _, w := range strings.FieldsFunc(doc, func(r rune) bool { return r == ' ' || r == '.' || r == '…' || r == ':' || r == '-' }) {
		if !strings.EqualFold(w, name) {
			words++
		}
	}
	return words > 1
}

// kind is a symbol's kind in the words of the file's language.
func (t *teller) kind(k lang.Kind) string {
	if t.f.Language == "Make" && k == lang.Function {
		return "target"
	}
	return kindWord(k)
}

// opensTagged tells a comment that begins with an agreed word: it does not say
// what a thing is for.
func opensTagged(doc string) bool {
	word, _, _ := strings.Cut(doc, " ")
	word, _, _ = strings.Cut(word, "(")
	return tagged.Standard.Of(strings.TrimRight(word, ":")) != nil
}

func kindWord(k lang.Kind) string {
	switch k {
	case lang.EnumMember:
		return "enum member"
	case lang.TypeName:
		return "type"
	}
	return string(k)
}

// offers: the public symbols of the top, those most leaned on first.
func (t *teller) offers() {
	if t.f.Role == role.Test || t.f.Role == role.Documentation {
		return
	}
	kinds := map[string]int{}
	var order []string
	type offer struct{ name, line int }
	var list []int
	for i := range t.outline {
		d := &t.outline[i]
		if d.Visibility != lang.Public || !t.top(i) || d.Kind == lang.Section || d.Kind == lang.Key || d.Kind == lang.Namespace || d.Kind == lang.Module || d.Name == "main" || strings.HasPrefix(d.Name, "__") {
			continue
		}
		k := kindWord(d.Kind)
		if kinds[k] == 0 {
			order = append(order, k)
		}
		kinds[k]++
		list = append(list, i)
	}
	if len(list) == 0 {
		return
	}
	sort.SliceStable(order, func(i, j int) bool { return kinds[order[i]] > kinds[order[j]] })
	var parts []string
	for _, k := range order[:min(len(order), 3)] {
		parts = append(parts, count(kinds[k], k))
	}
	sort.SliceStable(list, func(i, j int) bool { return t.telling(list[i]) > t.telling(list[j]) })
	var foremost []string
	var cites []Cite
	for _, i := range list[:min(len(list), 3)] {
		foremost = append(foremost, code(t.outline[i].Name))
		cites = append(cites, t.here(t.outline[i].NameLine))
	}
	text := "Offers " + strings.Join(parts, ", ")
	if len(order) > 3 {
		text += " and others"
	}
	if len(list) > 3 {
		text += ", " + strings.Join(foremost, ", ") + " among them"
	} else {
		text += ": " + strings.Join(foremost, ", ")
	}
	t.say(72, "offer", Names, text+".", cites...)
}

// top tells whether nothing but namespaces stands around a symbol.
func (t *teller) top(i int) bool {
	for p := t.outline[i].Parent; p >= 0; p = t.outline[p].Parent {
		switch t.outline[p].Kind {
		case lang.Namespace, lang.Package, lang.Module:
		default:
			return false
		}
	}
	return true
}

// telling ranks a symbol: documented ones and large ones say more.
func (t *teller) telling(i int) float64 {
	d := &t.outline[i]
	v := float64(min(d.End-d.Start, 200)) / 200
	if d.Doc != "" {
		v++
	}
	if d.Visibility != lang.Public && d.Visibility != "" {
		v -= 2
	}
	switch d.Kind {
	case lang.Class, lang.Struct, lang.Interface, lang.Trait:
		v++
	case lang.Variable, lang.Constant:
		v--
	}
	return v
}
