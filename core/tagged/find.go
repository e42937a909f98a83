package tagged

import (
	"bytes"
	"regexp"
	"slices"
	"sort"
	"strings"
	"unicode/utf8"
)

// Hit is a word found in a text.
type Hit struct {
	Word       string
	Start, End int    // of the word, in bytes; End is not included
	Said       string // the line from the word on, without the comment's end mark, at most 300 bytes
	Who        string // the person named in it; "": nobody
	Issue      string // the issue it refers to; "": none
	Marker     bool   // written as a marker of documentation is: @todo, Deprecated:
}

// maxSaid is how many bytes of a line are kept.
const maxSaid = 300

var (
	inBrackets = regexp.MustCompile(`^\(([^()\n]{1,60})\)`)
	whoAt      = regexp.MustCompile(`(?:^|\s)@([A-Za-z][\w.-]{0,38})`)
	issue      = regexp.MustCompile(`(?:^|[\s(\[:,])(#\d{1,9}|[A-Z][A-Z0-9]{1,9}-\d{1,7}|(?:https?://)\S+/\d+)\b`)
	named      = regexp.MustCompile(`^@?([A-Za-z][\w.@-]*(?: [A-Za-z][\w.-]*)?)$`)
)

// In finds the words in the text of a comment, its marks included: none
// overlaps another, in the order of the text. A word counts once a line.
func (w *Words) In(text []byte) []Hit {
	try := make([]bool, 0, 64) // most have no more rules, and no memory is asked for
	try = slices.Grow(try, len(w.rules))[:len(w.rules)]
	some := false
	for _, r := range w.always {
		try[r], some = true, true
	}
	w.begun(text, func(r int) bool { try[r], some = true, true; return true })
	if !some {
		return nil
	}
	var found []Hit
	for n, r := range w.rules {
		if !try[n] {
			continue
		}
		for _, m := range r.re.FindAllSubmatchIndex(text, -1) {
			if m[2] < 0 || m[2] == m[3] || r.word.Pattern == "" && partOfName(text, m[2]) {
				continue
			}
			found = append(found, Hit{Word: r.word.Word, Start: m[2], End: m[3], Marker: r.marker})
		}
	}
	found = longest(found)
	out := found[:0]
	last := map[string]int{} // word → where the line of its last hit begins
	for _, h := range found {
		line := bytes.LastIndexByte(text[:h.Start], '\n')
		if at, ok := last[h.Word]; ok && at == line {
			continue
		}
		last[h.Word] = line
		h.read(text)
		out = append(out, h)
	}
	return out
}

// partOfName tells whether a word is part of a path, an option or a name: a
// word right behind the comment's own marks is none.
func partOfName(text []byte, at int) bool {
	if at == 0 {
		return false
	}
	switch text[at-1] {
	case '/':
		return at < 2 || text[at-2] != '/'
	case '-':
		return at < 2 || text[at-2] != '-'
	case '.':
		return at < 2 || text[at-2] != '.'
	}
	return false
}

// longest drops what overlaps with something longer, or as long and agreed
// earlier, and orders the rest.
func longest(found []Hit) []Hit {
	sort.SliceStable(found, func(i, j int) bool { return found[i].Start < found[j].Start })
	var kept []Hit
	for from := 0; from < len(found); {
		// what hangs together is looked at by itself: a text full of words takes no longer than it must
		to, end := from+1, found[from].End
		for to < len(found) && found[to].Start < end && to-from < maxHanging {
			end = max(end, found[to].End)
			to++
		}
		kept = append(kept, longestOf(found[from:to])...)
		from = to
	}
	return kept
}

// maxHanging is how many overlapping hits are looked at together.
const maxHanging = 200

func longestOf(found []Hit) []Hit {
	if len(found) == 1 {
		return found
	}
	sort.SliceStable(found, func(i, j int) bool { return found[i].End-found[i].Start > found[j].End-found[j].Start })
	var kept []Hit
	for _, h := range found {
		if !slices.ContainsFunc(kept, func(k Hit) bool { return h.Start < k.End && k.Start < h.End }) {
			kept = append(kept, h)
		}
	}
	sort.Slice(kept, func(i, j int) bool { return kept[i].Start < kept[j].Start })
	return kept
}

// read takes from the rest of the line what it says.
func (h *Hit) read(text []byte) {
	line, _, _ := bytes.Cut(text[h.Start:], []byte{'\n'})
	h.Said = said(line)
	rest := string(line[min(len(line), h.End-h.Start):])
	// a pattern is tried only where something that it needs is there
	if strings.HasPrefix(rest, "(") {
		if m := inBrackets.FindStringSubmatch(rest); m != nil {
			if who := named.FindStringSubmatch(m[1]); who != nil && issue.FindString(m[1]) == "" {
				h.Who = who[1]
			}
			rest = m[1] + " " + rest[len(m[0]):]
		}
	}
	if h.Who == "" && strings.Contains(rest, "@") {
		if who := whoAt.FindStringSubmatch(rest); who != nil {
			h.Who = who[1]
		}
	}
	if strings.ContainsAny(rest, "0123456789") {
		if ref := issue.FindStringSubmatch(rest); ref != nil {
			h.Issue = ref[1]
		}
	}
}

var ends = []string{"*/", "-->", "-}", "*)", "--%>", "#}"}

func said(line []byte) string {
	s := strings.TrimSpace(strings.ToValidUTF8(string(line), "\uFFFD"))
	for _, end := range ends {
		if at := strings.Index(s, end); at > 0 {
			s = s[:at]
		}
	}
	s = strings.ReplaceAll(strings.TrimSpace(s), "\x00", "\uFFFD")
	if len(s) > maxSaid {
		at := maxSaid - len("…")
		for !utf8.RuneStart(s[at]) {
			at--
		}
		s = s[:at] + "…"
	}
	return s
}

// Same is what two comments have in common that say the same: letter case,
// space and the marks of lists aside.
func Same(said string) string { return strings.ToLower(strings.Join(strings.Fields(said), " ")) }
