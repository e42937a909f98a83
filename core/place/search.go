package place

import (
	"sort"
	"strings"
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
	Why  string  `json:"why"`  // "text", "symbol", "around", "path"
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
