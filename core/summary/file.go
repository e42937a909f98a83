package summary

import (
	"fmt"
	"path"
	"sort"
	"strings"
	"time"

	"juxtagram/core/effects"
	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
	"juxtagram/core/role"
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
	return facts.Meanings[strings.TrimRight(word, ":")] != ""
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

func (t *teller) starts() {
	if t.f.Role == role.Test {
		t.f = t.withoutPlayed()
	}
	kinds := map[string][]int{}
	var order []string
	for i := range t.f.Starts {
		k := t.f.Starts[i].Kind
		if len(kinds[k]) == 0 {
			order = append(order, k)
		}
		kinds[k] = append(kinds[k], i)
	}
	for _, k := range order {
		var named []string
		var cites []Cite
		for _, i := range kinds[k] {
			s := &t.f.Starts[i]
			named = append(named, s.Name)
			cites = append(cites, t.here(s.Line))
		}
		first := &t.f.Starts[kinds[k][0]]
		switch k {
		case "program":
			text := "Control comes in here: it is the program " + some(codes(named), 3)
			if first.How != "" {
				text += ", run by " + code(first.How)
			}
			t.say(95, "start", Names, text+".", cites...)
		case "script":
			t.say(80, "start", Names, fmt.Sprintf("It can be run as a script (%s).", trimStop(first.Evidence)), cites...)
		case "command":
			t.say(92, "start", Read, "It is where the "+commandWord(len(named))+" "+some(codes(named), 5)+" begin"+third(len(named))+".", cites...)
		case "route":
			t.say(88, "start", Read, "It answers "+count(len(named), "route")+": "+some(codes(named), 4)+".", cites...)
		case "service":
			if !t.listens() {
				t.say(78, "start", Read, "A service starts here, by "+code(first.Evidence)+".", cites...)
			}
		case "job":
			t.say(78, "start", Read, "It runs work by itself: "+some(codes(named), 3)+".", cites...)
		case "library":
			t.say(86, "start", Names, "It is the face that "+code(first.Name)+" shows to those who build upon it ("+trimStop(first.Evidence)+").", cites...)
		}
	}
}

// withoutPlayed is a test without the routes, services and commands that it
// only plays.
func (t *teller) withoutPlayed() *File {
	f := *t.f
	f.Starts = nil
	for _, s := range t.f.Starts {
		if s.Kind == "program" || s.Kind == "script" {
			f.Starts = append(f.Starts, s)
		}
	}
	return &f
}

// listens tells whether an effect says what the file listens on.
func (t *teller) listens() bool {
	for _, e := range t.Effects.Of(t.n, t.m) {
		if e.Kind == lang.Listens && e.Target != "" && t.f.Role != role.Test {
			return true
		}
	}
	return false
}

func commandWord(n int) string {
	if n == 1 {
		return "command"
	}
	return "commands"
}

// third is the ending of a verb whose subject is one.
func third(n int) string {
	if n == 1 {
		return "s"
	}
	return ""
}

func trimStop(s string) string { return strings.TrimRight(s, ". ") }

var effectVerbs = []struct {
	kind lang.EffectKind
	verb string
}{
	{lang.Listens, "listens on"}, {lang.Connects, "connects to"}, {lang.Writes, "writes"}, {lang.Process, "starts"}, {lang.Opens, "opens"}, {lang.Reads, "reads"}, {lang.Environment, "asks the environment for"}, {lang.Logs, "logs"},
}

// effects: what bodies do to the outside, with where that is decided.
func (t *teller) effects() {
	all := t.Effects.Of(t.n, t.m)
	if len(all) == 0 || t.f.Role == role.Test {
		return
	}
	var parts []string
	var cites []Cite
	for _, v := range effectVerbs {
		var targets []string
		seen := map[string]bool{}
		count, call := 0, ""
		for i := range all {
			e := &all[i]
			if e.Kind != v.kind {
				continue
			}
			if count++; count == 1 {
				call = e.Call
			}
			if v.kind == lang.Logs {
				if count == 1 {
					cites = append(cites, t.here(e.Line))
				}
				continue
			}
			if count <= 2 {
				cites = append(cites, t.here(e.Line))
			}
			target := t.targetWords(e)
			if target == "" || seen[target] {
				continue
			}
			seen[target] = true
			targets = append(targets, target)
			for _, h := range e.Via {
				if len(targets) <= 2 {
					cites = append(cites, Cite{t.Files[h.File].Path, h.Line})
				}
			}
		}
		switch {
		case count == 0:
		case v.kind == lang.Logs:
			parts = append(parts, "logs")
		case len(targets) > 0:
			parts = append(parts, v.verb+" "+some(targets, 3))
		default:
			parts = append(parts, bare[v.kind]+" by "+code(clip(call)))
		}
	}
	if len(parts) == 0 || len(parts) == 1 && parts[0] == "logs" {
		return
	}
	weight := 76.0
	if t.f.Role == role.Source {
		weight = 84
	}
	t.say(weight, "effect", Read, "It "+list(parts)+".", cites...)
}

// bare are verbs for effects whose target the text does not tell.
var bare = map[lang.EffectKind]string{
	lang.Listens: "listens for connections", lang.Connects: "connects elsewhere", lang.Writes: "writes", lang.Process: "starts other programs", lang.Opens: "opens files", lang.Reads: "reads files", lang.Environment: "asks the environment",
}

// targetWords says what an effect is aimed at: the value, with the name that
// leads to it, or the name alone.
func (t *teller) targetWords(e *effects.Effect) string {
	switch {
	case e.Target == "":
		return ""
	case len(e.Via) > 0 && e.Known:
		last := e.Via[len(e.Via)-1]
		return fmt.Sprintf("%s (decided at %s:%d)", code(clip(e.Target)), t.Files[last.File].Path, last.Line)
	case e.Known:
		return code(clip(e.Target))
	case strings.Contains(e.Target, "…"):
		return code(clip(e.Target))
	}
	return "what " + code(clip(e.Target)) + " names"
}

func clip(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:59]) + "…"
	}
	return s
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

// alive: how often and when the file changed, and who knows it.
func (t *teller) alive() {
	f := t.f
	if f.Commits == 0 || t.PinAt == 0 {
		return
	}
	text := "Changed " + times(f.Commits)
	switch {
	case f.Commits == 1:
		text = "Came " + when(f.FirstAt)
	default:
		text += ", first " + when(f.FirstAt) + " and last " + when(f.LastAt)
	}
	all := 0
	for _, p := range f.People {
		all += p.Commits
	}
	if len(f.People) > 0 && all > 0 {
		p := f.People[0]
		switch {
		case len(f.People) == 1 && f.Commits > 1:
			text += ", by " + p.Name + " alone"
		case f.Commits == 1:
			text += " by " + p.Name + ", unchanged since"
		default:
			text += fmt.Sprintf(", mostly by %s (%d of %d)", p.Name, p.Commits, f.Commits)
		}
		gone := true
		for _, p := range f.People {
			gone = gone && t.LastSeen[p.Name] > 0 && t.PinAt-t.LastSeen[p.Name] > year
		}
		if gone {
			text += "; nobody who changed it has changed anything here for a year"
		}
	}
	weight := 36.0
	if f.Recent >= 3 {
		weight = 56
	}
	t.say(weight, "alive", History, text+".", t.here(0))
}

const year = 365 * 24 * 3600

func times(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return fmt.Sprintf("%d times", n)
}

func when(at int64) string { return "in " + time.Unix(at, 0).UTC().Format("January 2006") }

func (t *teller) loose() {
	if t.f.Role == role.Vendored {
		return
	}
	counts := map[string]int{}
	var order []string
	var cites []Cite
	for _, x := range t.f.Tagged {
		if !unfinished(x.Word) {
			continue
		}
		if counts[x.Word] == 0 {
			order = append(order, x.Word)
		}
		counts[x.Word]++
		cites = append(cites, t.here(x.Line))
	}
	if len(order) == 0 {
		return
	}
	var parts []string
	for _, word := range order {
		if counts[word] == 1 {
			parts = append(parts, "1 "+word)
		} else {
			parts = append(parts, fmt.Sprintf("%d %s", counts[word], word))
		}
	}
	text := "Unfinished: " + list(parts)
	if len(cites) == 1 {
		for _, x := range t.f.Tagged {
			if unfinished(x.Word) {
				text = "Unfinished: “" + clipLong(x.Text) + "”"
			}
		}
	}
	t.say(52, "loose", Read, text+".", cites...)
}

// unfinished tells the words that ask for work from those that only remark.
func unfinished(word string) bool { return word != "NOTE" && word != "DEPRECATED" }

func clipLong(s string) string {
	s = strings.TrimSpace(strings.SplitN(s, "\n", 2)[0])
	if r := []rune(s); len(r) > 110 {
		return string(r[:109]) + "…"
	}
	return strings.TrimRight(s, ".")
}
