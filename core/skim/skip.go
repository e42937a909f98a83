package skim

import (
	"regexp"
	"strings"

	"juxtagram/core/lang"
)

// skipped tells how sure a symbol is code that people pass over on a first
// reading, 0..1, and of what kind.
func skipped(x *lang.Symbol, body []string) (float64, string) {
	if !calls(x.Kind) && x.Kind != lang.Property {
		return 0, ""
	}
	name := strings.ToLower(strings.Trim(x.Name, "_"))
	if printing[name] || strings.HasPrefix(name, "marshal") || strings.HasPrefix(name, "unmarshal") {
		return 1, "printing"
	}
	if comparing[name] || strings.HasPrefix(name, "operator") && strings.ContainsAny(name, "=<>!") {
		return 1, "comparing"
	}
	switch {
	case len(body) == 0:
		return 1, "does nothing"
	case passes(x, body):
		return 1, "hands its call on as it is"
	case x.Forwards != "":
		return 0.2, "hands its call on"
	case len(body) == 1 && accessing.MatchString(body[0]):
		return 1, "accessor"
	case len(body) == 2 && accessing.MatchString(body[0]) && accessing.MatchString(body[1]):
		return 0.4, "accessor"
	}
	return 0, ""
}

// handing matches a statement that is one call: whom, and with what.
var handing = regexp.MustCompile(`^(?:return\s+|await\s+|yield from\s+)*[&*!]?[\w.$@:>-]+(?:<[^<>]*>)?\(([^()]*)\)[;?]?$`)

// passes tells a symbol that makes one call, with nothing but its own parameters.
func passes(x *lang.Symbol, body []string) bool {
	if len(body) != 1 {
		return false
	}
	m := handing.FindStringSubmatch(body[0])
	if m == nil {
		return false
	}
	arguments := strings.TrimSpace(m[1])
	if arguments == "" {
		return true
	}
	for _, a := range strings.Split(arguments, ",") {
		a = strings.Trim(strings.TrimSpace(a), ".*&")
		if name, value, keyed := strings.Cut(a, "="); keyed && name == value {
			a = name
		}
		if !plainWord.MatchString(a) || !hasWord(x.Signature, a) {
			return false
		}
	}
	return true
}

var plainWord = regexp.MustCompile(`^[\p{L}_$][\p{L}\p{N}_$]*$`)

// hasWord tells whether a text holds a word by itself.
func hasWord(text, word string) bool {
	for at := 0; ; {
		i := strings.Index(text[at:], word)
		if i < 0 {
			return false
		}
		i += at
		at = i + len(word)
		if (i == 0 || !isWord(text[i-1])) && (at == len(text) || !isWord(text[at])) {
			return true
		}
	}
}

func calls(k lang.Kind) bool {
	return k == lang.Function || k == lang.Method || k == lang.Constructor || k == lang.Operator
}

func set(words string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(words) {
		m[w] = true
	}
	return m
}

// Names by which languages and habit call such code, in lower case without
// underscores around them.
var (
	printing  = set("string gostring tostring repr str format tojson to_json inspect to_s to_str fmt debugstring debug_string tostringtag error getstate setstate")
	comparing = set("equal equals eq ne lt le gt ge hash hashcode hash_code gethashcode compare compareto cmp less len swap unwrap isequal is_equal eql? <=> ==")
)

// accessing matches a statement that only hands a value out or takes it in.
var accessing = regexp.MustCompile(`^(?:return\b\s*)?(?:[&*!(]*[\w.$@?\[\]"'>-]+\)*(?:\(\))?(?:\s*:?=\s*[&*!]*[\w.$@?\[\]"'>-]+)?)?(?:\s*,\s*(?:nil|true|false|ok|null))?;?$`)

// statementsOf are the statements in a symbol's lines, as far as lines tell:
// without header, brackets, comments, texts that say what it is for, and blank
// lines. At most so many of them.
func (t *text) statementsOf(n *node, most int) []string {
	if n.inner > n.innerEnd {
		// all on one line: what stands in its brackets
		line := t.line(n.Tell)
		open, end := strings.IndexByte(line, '{'), strings.LastIndexByte(line, '}')
		if open < 0 || end < open {
			return nil
		}
		if line = strings.Trim(line[open+1:end], "; "); line == "" {
			return nil
		}
		return strings.Split(line, ";")
	}
	var out []string
	quoted := "" // the quotes that a text of several lines ends with
	for at := n.inner; at <= n.innerEnd && len(out) < most; at++ {
		line := t.line(at)
		bare := strings.TrimLeft(line, "rRuUbB")
		switch {
		case quoted != "":
			if strings.Contains(line, quoted) {
				quoted = ""
			}
		case strings.HasPrefix(bare, `"""`) || strings.HasPrefix(bare, "'''"):
			if !strings.Contains(bare[3:], bare[:3]) {
				quoted = bare[:3]
			}
		case len(line) > 1 && strings.IndexByte("\"'", line[0]) >= 0 && line[0] == line[len(line)-1]:
		case line == "" || line == "{" || closes(line) || noted(line):
		default:
			out = append(out, line)
		}
	}
	return out
}

// plumbing matches a line that only passes an error on, logs, asserts or ends.
var plumbing = regexp.MustCompile(`^(?:if (?:err|e|error)\b.*|(?:return|throw|raise)\b.*\b(?:err|error|Error|Exception|e|nil|null|None|undefined)\b.*|(?:log|logger|logging|console|slog|fmt\.(?:Print|Fprint)|print|printf|System\.out|assert)\b.*|(?:defer|finally|close|free)\b.*|break;?|continue;?|pass)$`)
