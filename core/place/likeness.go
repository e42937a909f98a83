package place

import "unicode"

// words are the pieces of a line: names, numbers and signs.
func words(line string) []string {
	var out []string
	start := -1
	for i, r := range line {
		if unicode.IsLetter(r) || unicode.IsDigit(r) || r == '_' {
			if start < 0 {
				start = i
			}
			continue
		}
		if start >= 0 {
			out = append(out, line[start:i])
			start = -1
		}
		if !unicode.IsSpace(r) {
			out = append(out, string(r))
		}
	}
	if start >= 0 {
		out = append(out, line[start:])
	}
	return out
}

// weightOf says how much a piece tells of its line: by its length, signs next
// to nothing.
func weightOf(word string) float64 {
	r := rune(word[0])
	if len(word) == 1 && !unicode.IsLetter(r) && !unicode.IsDigit(r) {
		return 0.3
	}
	return 1 + 0.25*float64(min(len(word), 12))
}

// maxWords is how many pieces of a line are compared.
const maxWords = 120

// pieces are a line taken to pieces.
type pieces struct {
	words  []string
	weight float64
}

func cut(line string) pieces {
	p := pieces{words: words(line)}
	p.words = p.words[:min(len(p.words), maxWords)]
	for _, w := range p.words {
		p.weight += weightOf(w)
	}
	return p
}

// likeness of two lines, from 0 to 1: the weight of the longest run of pieces
// that both have in the same order, twice, over the weight of all (Dice). Two
// names of which one holds the other count by their common part.
func likeness(a, b pieces) float64 {
	if len(a.words) == 0 || len(b.words) == 0 {
		return 0
	}
	if 2*min(a.weight, b.weight)/(a.weight+b.weight) < least {
		return 0
	}
	row := make([]float64, len(b.words)+1)
	for _, x := range a.words {
		diagonal := 0.0
		for j, y := range b.words {
			up := row[j+1]
			best := max(up, row[j])
			if s := same(x, y); s > 0 {
				best = max(best, diagonal+s)
			}
			diagonal, row[j+1] = up, best
		}
	}
	return 2 * row[len(b.words)] / (a.weight + b.weight)
}

// same is the weight that two pieces have in common.
func same(x, y string) float64 {
	if x == y {
		return weightOf(x)
	}
	if len(x) < 4 || len(y) < 4 {
		return 0
	}
	if n := commonEnds(x, y); 2*n >= max(len(x), len(y)) {
		return weightOf(x) * float64(n) / float64(max(len(x), len(y)))
	}
	return 0
}

// commonEnds is how many bytes two names share at their beginning and end.
func commonEnds(x, y string) int {
	n := 0
	for n < len(x) && n < len(y) && x[n] == y[n] {
		n++
	}
	m := 0
	for m < len(x)-n && m < len(y)-n && x[len(x)-1-m] == y[len(y)-1-m] {
		m++
	}
	return n + m
}

// telling is how much a line says: its weight without signs. A lone bracket or
// keyword says next to nothing, and is recognised by its neighbours alone.
func telling(line string) float64 {
	t := 0.0
	start := -1
	for i, r := range line {
		if unicode.IsLetter(r) || unicode.IsDigit(r) || r == '_' {
			if start < 0 {
				start = i
			}
		} else if start >= 0 {
			t += weightOf(line[start:i])
			start = -1
		}
	}
	if start >= 0 {
		t += weightOf(line[start:])
	}
	return t
}

// Telling tells a line that says enough to be recognised by itself: not a lone
// bracket, nor one short word.
func Telling(line string) bool { return telling(line) >= 4 }
