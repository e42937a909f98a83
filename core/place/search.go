package place

import (
	"sort"
	"strings"
	"unicode/utf8"
)

// Quote is a piece of text with what stood around it.
type Quote struct {
	Exact  string `json:"exact"`
	Before string `json:"prefix,omitempty"`
	After  string `json:"suffix,omitempty"`
}

// Lengths of quotes, in bytes and lines.
const (
	maxQuote   = 4096
	maxContext = 400
	contextOf  = 3
)

// QuoteOf quotes lines start..end (from 1) of a text. Long quotes are cut at
// the end of a line.
func QuoteOf(t *Text, start, end int) Quote {
	start, end = max(1, start), min(end, len(t.Lines))
	if start > end {
		return Quote{}
	}
	return Quote{
		Exact:  clip(t.Lines[start-1:end], maxQuote),
		Before: clipEnd(t.Lines[max(0, start-1-contextOf):start-1], maxContext),
		After:  clip(t.Lines[end:min(len(t.Lines), end+contextOf)], maxContext),
	}
}

// PieceOf quotes lines start..end (from 1) of a text as they stand in it, line ends
// included: Before, Exact and After are one piece of it, to the byte. from and to are
// where Exact stands, in characters from 0. Long quotes are cut, and After begins there.
func PieceOf(content string, start, end int) (q Quote, from, to int) {
	begin, stop := lineOffsets(content, start, end)
	if begin >= stop {
		return Quote{}, 0, 0
	}
	exact := strings.TrimSuffix(content[begin:stop], "\n")
	exact = exact[:wholeRunes(exact, maxQuote)]
	before := content[:begin]
	if len(before) > maxContext {
		cut := len(before) - maxContext
		for cut < len(before) && !utf8.RuneStart(before[cut]) {
			cut++
		}
		before = before[cut:]
	}
	after := content[begin+len(exact):]
	after = after[:wholeRunes(after, maxContext)]
	from = utf8.RuneCountInString(content[:begin])
	return Quote{Exact: exact, Before: before, After: after}, from, from + utf8.RuneCountInString(exact)
}

// wholeRunes is how many bytes of s there are up to most, no character cut apart.
func wholeRunes(s string, most int) int {
	if len(s) <= most {
		return len(s)
	}
	for most > 0 && !utf8.RuneStart(s[most]) {
		most--
	}
	return most
}

// lineOffsets are where lines start..end (from 1) begin and stop in a content, in bytes.
func lineOffsets(content string, start, end int) (begin, stop int) {
	line := 1
	for line < start {
		i := strings.IndexByte(content[begin:], '\n')
		if i < 0 {
			return len(content), len(content)
		}
		begin += i + 1
		line++
	}
	stop = begin
	for line <= end {
		i := strings.IndexByte(content[stop:], '\n')
		if i < 0 {
			return begin, len(content)
		}
		stop += i + 1
		line++
	}
	return begin, stop
}

// Quoted finds the lines in which a quote stands word for word, as any program may
// have quoted it; where it stands several times, what is quoted around it decides.
// ok is false where it is not there, or where nothing decides.
func Quoted(content string, q Quote) (start, end int, ok bool) {
	if strings.TrimSpace(q.Exact) == "" {
		return 0, 0, false
	}
	best, at, twice := -1, 0, false
	for from := 0; ; {
		i := strings.Index(content[from:], q.Exact)
		if i < 0 {
			break
		}
		i += from
		n := commonSuffix(content[:i], q.Before) + commonPrefix(content[i+len(q.Exact):], q.After)
		if n > best {
			best, at, twice = n, i, false
		} else if n == best {
			twice = true
		}
		from = i + 1
	}
	if best < 0 || twice {
		return 0, 0, false
	}
	start, end = linesOf(content, at, at+len(q.Exact))
	return start, end, true
}

// LinesAt are the lines in which characters from..to (from 0, to not included) of a
// content stand; ok is false where it has not as many.
func LinesAt(content string, from, to int) (start, end int, ok bool) {
	n, a, b := 0, -1, -1
	for i := range content {
		if n == from {
			a = i
		}
		if n == to {
			b = i
		}
		n++
	}
	if n == to {
		b = len(content)
	}
	if a < 0 || b <= a {
		return 0, 0, false
	}
	start, end = linesOf(content, a, b)
	return start, end, true
}

// linesOf are the lines, from 1, of bytes from..to of a content.
func linesOf(content string, from, to int) (start, end int) {
	start = 1 + strings.Count(content[:from], "\n")
	return start, start + strings.Count(strings.TrimSuffix(content[from:to], "\n"), "\n")
}

func commonPrefix(a, b string) int {
	n := 0
	for n < len(a) && n < len(b) && a[n] == b[n] {
		n++
	}
	return n
}

func commonSuffix(a, b string) int {
	n := 0
	for n < len(a) && n < len(b) && a[len(a)-1-n] == b[len(b)-1-n] {
		n++
	}
	return n
}

func clip(lines []string, most int) string {
	n, size := 0, 0
	for n < len(lines) && size+len(lines[n]) < most {
		size += len(lines[n]) + 1
		n++
	}
	if n == 0 && len(lines) > 0 {
		return strings.ToValidUTF8(lines[0][:most-1], "\uFFFD")
	}
	return strings.ToValidUTF8(strings.Join(lines[:n], "\n"), "\uFFFD")
}

func clipEnd(lines []string, most int) string {
	n, size := len(lines), 0
	for n > 0 && size+len(lines[n-1]) < most {
		size += len(lines[n-1]) + 1
		n--
	}
	return strings.ToValidUTF8(strings.Join(lines[n:], "\n"), "\uFFFD")
}

// Candidate is a place where something may stand.
type Candidate struct {
	Spot
	Like float64 `json:"like"` // 0..1
	Why  string  `json:"why"`  // "text", "symbol", "path"; "file", "folder": what is around it, lines 0
}

// maxCandidates is how many candidates are told.
const maxCandidates = 5

// Search looks for a quote in a text by its lines' likeness, its context
// counting for a quarter; the likeliest first, at most five, none below a third.
func Search(t *Text, q Quote) []Candidate {
	quoted := strings.Split(q.Exact, "\n")
	if strings.TrimSpace(q.Exact) == "" || len(t.Lines) == 0 {
		return nil
	}
	quoted = quoted[:min(len(quoted), 60)]
	want := make([]pieces, len(quoted))
	for i, l := range quoted {
		want[i] = cut(l)
	}
	before, after := lastLine(q.Before), firstLine(q.After)
	lines := make([]pieces, len(t.Lines))
	for i, l := range t.Lines {
		lines[i] = cut(l)
	}
	// the line that tells most is looked for first: where it is not, nothing is
	key := 0
	for i := range want {
		if want[i].weight > want[key].weight {
			key = i
		}
	}
	var out []Candidate
	for j := range lines {
		if likeness(want[key], lines[j]) < least {
			continue
		}
		start := j - key
		sum, all := 0.0, 0.0
		for i := range want {
			w := 0.2 + want[i].weight
			all += w
			if k := start + i; k >= 0 && k < len(lines) {
				if t.Lines[k] == quoted[i] || len(want[i].words) == 0 && len(lines[k].words) == 0 {
					sum += w
				} else {
					sum += w * likeness(want[i], lines[k])
				}
			}
		}
		like := 0.75*sum/all + 0.125*sameLine(t, start-1, before) + 0.125*sameLine(t, start+len(want), after)
		if like > 1.0/3 {
			out = append(out, Candidate{Spot{t.Path, max(1, start+1), min(len(t.Lines), start+len(want))}, like, "text"})
		}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Like > out[b].Like })
	// of those that overlap the likeliest stays
	var kept []Candidate
	for _, c := range out {
		free := true
		for _, k := range kept {
			free = free && (c.End < k.Start || c.Start > k.End)
		}
		if free {
			kept = append(kept, c)
		}
		if len(kept) == maxCandidates {
			break
		}
	}
	return kept
}

func firstLine(s string) string {
	l, _, _ := strings.Cut(s, "\n")
	return l
}

func lastLine(s string) string { return s[strings.LastIndexByte(s, '\n')+1:] }

// sameLine is 1 where line i (from 0) of a text reads as given, less where not.
func sameLine(t *Text, i int, want string) float64 {
	if i < 0 || i >= len(t.Lines) {
		if want == "" {
			return 1
		}
		return 0
	}
	if strings.TrimSpace(t.Lines[i]) == strings.TrimSpace(want) {
		return 1
	}
	return likeness(cut(t.Lines[i]), cut(want))
}
