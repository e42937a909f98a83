package lang

import "strings"

// EffectKind is what a call does to the outside.
type EffectKind string

// The kinds of effects, as in the survey document.
const (
	Writes      EffectKind = "writes"
	Reads       EffectKind = "reads"
	Logs        EffectKind = "logs"
	Opens       EffectKind = "opens"
	Listens     EffectKind = "listens"
	Connects    EffectKind = "connects"
	Environment EffectKind = "environment"
	Process     EffectKind = "process"
	// Watched is no effect: a call that a detector of entry points looks for.
	Watched EffectKind = ""
)

// Effect is what one function of a standard library or common framework does.
type Effect struct {
	Kind EffectKind
	Arg  int // index of the argument that names the file, address, variable or command; -1: none does
}

// CallSite is a call that a language's table of effects, or a detector, asked
// for.
type CallSite struct {
	Callee string // as written, on one line: "os.Open"
	Kind   EffectKind
	Line   int
	Symbol int // index of the innermost symbol around it; -1: none
	Target int // index in Args of what it names; -1: none
	Args   []Argument
}

// Argument is one argument of a call: a string, a name, or neither.
type Argument struct {
	Text string // a string literal as joined; "" where it is none
	Name string // a name as written: "cfg.Path"; "" where it is none
}

// Value says that a name was given something: a string or number, another name,
// or what a watched call returns.
type Value struct {
	Name   string
	Line   int
	Symbol int    // innermost symbol around it; -1: none
	Text   string // the literal
	From   string // the other name
	Call   int    // index in Calls; -1: none
}

// Limits on what one text contributes.
const (
	maxCalls  = 2000
	maxValues = 2000
	maxArgs   = 6
)

// callShape tells where a call's node keeps function and arguments.
type callShape struct{ function, object, arguments uint16 }

// call notes a call if the language's tables ask for it.
func (w *Walk) call(n uint32, s callShape) {
	f := w.childIn(n, s.function)
	if f == noNode || len(w.out.Calls) >= maxCalls {
		return
	}
	last := w.lastName(f)
	if last == "" || !w.table.watched[last] {
		return
	}
	callee := w.OneLine(f)
	if s.object != 0 {
		if o := w.childIn(n, s.object); o != noNode {
			callee = w.OneLine(o) + "." + callee
		}
	}
	if len(callee) > 160 {
		callee = "…." + last
	}
	kind, arg := w.effectOf(callee, last)
	site := CallSite{Callee: callee, Kind: kind, Line: w.Line(n), Symbol: w.innermost(), Target: -1}
	if arg >= 0 {
		site.Target = arg
	}
	if args := w.childIn(n, s.arguments); args != noNode {
		site.Args = w.arguments(args)
	}
	if site.Target >= len(site.Args) {
		site.Target = -1
	}
	w.out.callAt(n, len(w.out.Calls))
	w.out.Calls = append(w.out.Calls, site)
}

// effectOf looks a call up: as written, then by its last name alone.
func (w *Walk) effectOf(callee, last string) (EffectKind, int) {
	plain := strings.ReplaceAll(strings.ReplaceAll(strings.TrimPrefix(strings.TrimPrefix(callee, `\`), "new "), "?.", "."), "this.", "")
	if e, ok := w.rules.Effects[plain]; ok {
		return e.Kind, e.Arg
	}
	// "java.nio.file.Files.write": the last two names tell
	if i := strings.LastIndexAny(plain, ".:"); i > 0 {
		if j := strings.LastIndexAny(strings.TrimRight(plain[:i], ":."), ".:"); j >= 0 {
			if e, ok := w.rules.Effects[plain[j+1:]]; ok {
				return e.Kind, e.Arg
			}
		}
	}
	if e, ok := w.rules.Effects["."+last]; ok && plain != last {
		return e.Kind, e.Arg
	}
	return Watched, -1
}

// lastName is the last name of a callee: "Open" of "os.Open".
func (w *Walk) lastName(f uint32) string {
	node := &w.Nodes[f]
	if node.End-node.Start > 1000 {
		return ""
	}
	text := w.Text[node.Start:node.End]
	end := len(text)
	if i := strings.IndexByte(string(text), '<'); i > 0 && end > 0 && text[end-1] == '>' {
		end = i
	}
	start := end
	for start > 0 && (text[start-1] == '_' || text[start-1] >= '0' && text[start-1] <= '9' || text[start-1] >= 'a' && text[start-1] <= 'z' ||
		text[start-1] >= 'A' && text[start-1] <= 'Z' || text[start-1] == '$' || text[start-1] == '!' || text[start-1] == '?') {
		start--
	}
	return string(text[start:end])
}

// arguments reads the first arguments of a call.
func (w *Walk) arguments(list uint32) []Argument {
	var out []Argument
	for c := range w.Children(list) {
		symbol := w.Nodes[c].Symbol
		if int(symbol) >= len(w.table.actions) || w.table.actions[symbol].comment || !w.Grammar.Named(symbol) {
			continue
		}
		out = append(out, w.argument(c))
		if len(out) == maxArgs {
			break
		}
	}
	return out
}

func (w *Walk) argument(n uint32) Argument {
	n = w.inner(n)
	node := &w.Nodes[n]
	if w.table.actions[node.Symbol].text {
		return Argument{Text: clip(ValidText(w.stringValue(n)), 400)}
	}
	if w.plainName(n) {
		return Argument{Name: w.source(n)}
	}
	if w.table.actions[node.Symbol].join || node.Next > n+1 {
		if text, ok := w.joined(n); ok {
			return Argument{Text: text}
		}
	}
	if key, value := w.pair(n); key != noNode {
		return Argument{Name: w.source(key), Text: clip(ValidText(w.stringValue(value)), 400)}
	}
	if node.Next == n+1 && node.End-node.Start <= 40 {
		if text := w.Source(n); len(text) > 0 && text[0] >= '0' && text[0] <= '9' {
			return Argument{Text: string(text)}
		}
	}
	return Argument{}
}

// pair is a key and the string it is given: "key: value", "key=value".
func (w *Walk) pair(n uint32) (key, value uint32) {
	key, value = noNode, noNode
	for c := range w.Children(n) {
		symbol := w.Nodes[c].Symbol
		if int(symbol) >= len(w.table.actions) || !w.Grammar.Named(symbol) {
			continue
		}
		switch {
		case key == noNode && w.plainName(c):
			key = c
		case key != noNode && value == noNode && w.table.actions[w.Nodes[w.inner(c)].Symbol].text:
			value = w.inner(c)
		default:
			return noNode, noNode
		}
	}
	if value == noNode {
		return noNode, noNode
	}
	return key, value
}

// joined is the text of an expression that puts strings together, with gaps
// for what only running tells.
func (w *Walk) joined(n uint32) (string, bool) {
	if !w.table.actions[w.Nodes[n].Symbol].join {
		return "", false
	}
	var out strings.Builder
	some := false
	for i := n + 1; i < w.Nodes[n].Next; i++ {
		node := &w.Nodes[i]
		if int(node.Symbol) >= len(w.table.actions) {
			continue
		}
		switch a := &w.table.actions[node.Symbol]; {
		case a.text:
			out.Write(w.stringValue(i))
			some = true
			i = node.Next - 1
		case a.join || a.comment:
		case w.Grammar.Named(node.Symbol):
			out.WriteRune(Gap)
			i = node.Next - 1
		}
		if out.Len() > 400 {
			break
		}
	}
	return clip(ValidText([]byte(out.String())), 400), some
}

// inner steps into nodes that only stand around another: one named child.
func (w *Walk) inner(n uint32) uint32 {
	for range maxHops {
		node := &w.Nodes[n]
		a := w.table.actions
		if int(node.Symbol) >= len(a) || a[node.Symbol].text || a[node.Symbol].name != 0 || a[node.Symbol].call.function != 0 {
			return n
		}
		only := noNode
		count := 0
		for c := range w.Children(n) {
			if int(w.Nodes[c].Symbol) < len(a) && w.Grammar.Named(w.Nodes[c].Symbol) && !a[w.Nodes[c].Symbol].comment {
				only = c
				count++
			}
		}
		if count != 1 {
			return n
		}
		n = only
	}
	return n
}

// plainName tells whether a node is a name, or names joined by dots.
func (w *Walk) plainName(n uint32) bool {
	node := &w.Nodes[n]
	if node.Start == node.End || node.End-node.Start > 120 {
		return false
	}
	for i, b := range w.Text[node.Start:node.End] {
		letter := b == '_' || b == '$' || b == '@' || b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= 0x80
		if !letter && (i == 0 || b != '.' && b != ':' && b != '-' && b != '>' && (b < '0' || b > '9')) {
			return false
		}
	}
	return true
}

// assign notes that a name was given a value that can be followed.
func (w *Walk) assign(left, right uint32) {
	if left == noNode || right == noNode || len(w.out.Values) >= maxValues {
		return
	}
	left, right = w.inner(left), w.inner(right)
	if !w.plainName(left) {
		return
	}
	v := Value{Name: w.source(left), Line: w.Line(left), Symbol: w.innermost(), Call: -1}
	if int(w.Nodes[right].Symbol) < len(w.table.actions) && w.table.actions[w.Nodes[right].Symbol].call.function != 0 {
		// known when the call is walked, later
		w.out.awaited = append(w.out.awaited, awaited{right, len(w.out.Values)})
		w.out.Values = append(w.out.Values, v)
		return
	}
	switch a := w.argument(right); {
	case a.Text != "":
		v.Text = a.Text
	case a.Name != "" && a.Name != v.Name:
		v.From = a.Name
	default:
		return
	}
	w.out.Values = append(w.out.Values, v)
}

// awaited is a value that a call gives, by the call's node.
type awaited struct {
	node  uint32
	value int
}

// callAt tells the values that waited for a call.
func (c *collector) callAt(node uint32, index int) {
	for k := range c.awaited {
		if a := &c.awaited[k]; a.node == node && a.value >= 0 {
			c.Values[a.value].Call = index
			a.value = -1
		}
	}
}

// settleValues drops the values that waited for calls which nobody asked for.
func (c *collector) settleValues() {
	out := c.Values[:0]
	for _, v := range c.Values {
		if v.Text != "" || v.From != "" || v.Call >= 0 {
			out = append(out, v)
		}
	}
	c.Values = out
}

// innermost is the index of the symbol that is being walked; -1: none.
func (w *Walk) innermost() int {
	if k := len(w.scopes); k > 0 {
		return w.scopes[k-1].symbol
	}
	return -1
}

// childIn is the first child in a field, by the field's number.
func (w *Walk) childIn(n uint32, field uint16) uint32 {
	if field == 0 {
		return noNode
	}
	for c := n + 1; c < w.Nodes[n].Next; c = w.Nodes[c].Next {
		if w.Nodes[c].Field&^defined == field {
			return c
		}
	}
	return noNode
}
