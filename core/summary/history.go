package summary

import (
	"fmt"
	"strings"
	"time"

	"juxtagram/core/history"
	"juxtagram/core/role"
)

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
			gone = gone && t.LastSeen[p.Name] > 0 && history.Gone(t.LastSeen[p.Name], t.PinAt)
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
