package summary

import (
	"fmt"
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/role"
)

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
