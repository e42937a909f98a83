package tagged

import "bytes"

// openers are the byte sequences that open a comment, by language, as far as
// the usual ones are not it.
var openers = func() map[string][]string {
	out := map[string][]string{}
	for _, g := range []struct {
		openers   []string
		languages []string
	}{
		{[]string{"#"}, []string{"Python", "Ruby", "Bash", "Perl", "R", "Elixir", "Makefile", "YAML", "TOML", "Dockerfile", "CMake", "Julia", "Nim", "Tcl", "PowerShell", "Crystal", "Awk", "Fish"}},
		{[]string{"--", "/*"}, []string{"SQL", "Ada", "VHDL", "Elm"}},
		{[]string{"--", "--[["}, []string{"Lua"}},
		{[]string{"--", "{-"}, []string{"Haskell"}},
		{[]string{";"}, []string{"Common Lisp", "Scheme", "Clojure", "Emacs Lisp", "Racket", "INI"}},
		{[]string{"%"}, []string{"TeX", "Erlang", "Prolog", "MATLAB"}},
		{[]string{"(*", "//"}, []string{"F#", "OCaml", "Pascal"}},
		{[]string{"'"}, []string{"Visual Basic"}},
		{[]string{"!"}, []string{"Fortran"}},
		{[]string{"<!--"}, []string{"HTML", "XML", "Markdown", "SVG"}},
		{[]string{"<!--", "//", "/*"}, []string{"Vue"}},
		{[]string{"//", "/*", "#"}, []string{"PHP", "HCL"}},
		{[]string{"/*"}, []string{"CSS"}},
	} {
		for _, l := range g.languages {
			out[l] = g.openers
		}
	}
	return out
}()

var usual = []string{"//", "/*"}

// OnLine finds the words on one line of a language's text that stand in a
// comment as far as the line alone can tell: behind an opener of a comment that
// is in no string, or first on a line that begins as the middle of a comment
// does. What stands in the middle of a comment without any mark is taken only
// where the word is followed by a colon or brackets.
func (w *Words) OnLine(language string, line []byte) []Hit {
	if !w.May(line) {
		return nil
	}
	marks := openers[language]
	if marks == nil {
		marks = usual
	}
	from := opened(line, marks)
	if from < 0 {
		return w.inside(line, marks)
	}
	hits := w.In(line[from:])
	for i := range hits {
		hits[i].Start += from
		hits[i].End += from
	}
	return hits
}

// opened is where a comment opens on a line, strings passed over; -1: nowhere.
func opened(line []byte, marks []string) int {
	quote := byte(0)
	for i := 0; i < len(line); i++ {
		c := line[i]
		if quote != 0 {
			if c == '\\' {
				i++
			} else if c == quote {
				quote = 0
			}
			continue
		}
		for _, m := range marks {
			if bytes.HasPrefix(line[i:], []byte(m)) && !(m == "#" && i > 0 && line[i-1] != ' ' && line[i-1] != '\t') {
				return i
			}
		}
		if c == '"' || c == '`' || c == '\'' && bytes.IndexByte(line[i+1:], '\'') >= 0 {
			quote = c
		}
	}
	return -1
}

// inside takes the words of a line that has no opener.
func (w *Words) inside(line []byte, marks []string) []Hit {
	block := false
	for _, m := range marks {
		block = block || len(m) > 1 && m != "//" && m != "--"
	}
	if !block {
		return nil
	}
	trimmed := bytes.TrimLeft(line, " \t")
	starred := len(trimmed) > 0 && trimmed[0] == '*'
	for _, h := range w.In(line) {
		before := bytes.Trim(line[:h.Start], " \t*-+@\\")
		after := bytes.TrimLeft(line[h.End:], " ")
		if starred && bytes.IndexByte(line[:h.Start], '"') < 0 {
			return []Hit{h}
		}
		if len(before) == 0 && len(after) > 0 && (after[0] == ':' || after[0] == '(') && !bytes.HasSuffix(bytes.TrimSpace(after), []byte(";")) {
			return []Hit{h}
		}
	}
	return nil
}
