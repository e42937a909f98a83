package document

import (
	"fmt"
	"strconv"
	"strings"

	"juxtagram/core/plan"
)

// inPassage reads a block of a passage: what it leads to first, then by its label.
func (h *hand) inPassage(p *piece, x *passage) {
	list := h.list
	h.list = ""
	if !h.led && !labelled.MatchString(p.text) {
		h.lead(p, x)
		return
	}
	if m := caution.FindStringSubmatch(p.text); m != nil {
		x.Caution = plainLines(strings.ReplaceAll(m[1], "\n> ", "\n"))
		return
	}
	if m := reason.FindStringSubmatch(p.text); m != nil {
		x.Why = plainLines(m[1])
		return
	}
	if m := labelled.FindStringSubmatch(p.text); m != nil {
		h.label(x, m[1], m[2])
		return
	}
	if list != "" && itemOfList.MatchString(p.text) {
		h.items(p, x, list)
		return
	}
	if t := x.Target.Try; t != nil && fence.MatchString(p.text) && h.sawTry.Commands == "" {
		lines := strings.Split(p.text, "\n")
		if last := len(lines) - 1; last > 0 && fence.MatchString(lines[last]) {
			lines = lines[:last]
		}
		h.sawTry.Commands = strings.TrimRight(strings.Join(lines[1:], "\n"), "\n")
		return
	}
	h.text(p.text)
}

// lead reads the line that leads to what is to be read.
func (h *hand) lead(p *piece, x *passage) {
	h.led = true
	line := p.text
	if m := minutes.FindStringSubmatch(line); m != nil {
		x.Minutes, _ = strconv.Atoi(m[1])
	} else {
		h.problem(x.where(0, 0), "it names no minutes, as “· 5 min” does: they are taken as 0")
	}
	x.Optional = mayBeLeft.MatchString(line)
	t, why := targetOf(line, h.setting.Folder, h.setting.Commit)
	noted := x.Target.Kind != ""
	switch {
	case !noted && why != "":
		h.problem(x.where(0, 0), "%s: it is left out", why)
	case !noted && t.Commit == "":
		h.problem(x.where(0, 0), "it does not say at which commit it is read: it is left out")
	case !noted:
		x.Target = t
		h.problem(x.where(0, 0), "it does not say at which commit it is read: it is taken at %.10s", t.Commit)
	case why == "" && (t.Path != "" && t.Path != x.Target.Path || t.Start > 0 && (t.Start != x.Target.Start || t.End != x.Target.End)):
		h.problem(x.where(0, 0), "its link leads elsewhere than its comment says: the comment's is taken, %s", x.Target.Path)
	}
}

func (h *hand) label(x *passage, label, text string) {
	said := plainLines(strings.TrimSpace(text))
	switch label {
	case "After it":
		x.Purpose = said
	case "Before it":
		if len(x.Needs) == 0 {
			x.Needs = []string{"\x00" + said}
		}
	case "Ask yourself":
		h.list = "questions"
	case "Stop at":
		h.list = "pauses"
	case "Where":
		h.sawTry.Folder = said
	case "On":
		h.sawTry.Platform = said
	case "Set up":
		h.sawTry.SetUp = said
	case "Give it":
		h.sawTry.Inputs = said
	case "What should come":
		h.sawTry.Outcome = said
	}
}

// items reads a list of questions, or of lines to stop at.
func (h *hand) items(p *piece, x *passage, list string) {
	for i, l := range strings.Split(p.text, "\n") {
		m := itemOfList.FindStringSubmatch(l)
		switch {
		case list == "questions" && m != nil:
			x.Questions = append(x.Questions, plan.Question{Ask: plain(m[1])})
		case list == "questions":
			answer := strings.TrimSpace(l)
			if len(answer) > 1 && answer[0] == '*' && answer[len(answer)-1] == '*' {
				answer = answer[1 : len(answer)-1]
			}
			q := &x.Questions[len(x.Questions)-1]
			q.Answer = joined(q.Answer, plain(answer), " ")
		case m != nil && link.MatchString(m[1]):
			to := link.FindStringSubmatch(m[1])
			s, why := place(to[2], h.setting.Folder)
			if why != "" {
				h.problem(fmt.Sprintf("line %d", p.line+i), "its link to “%s” %s: it is left out", clipped(to[2]), why)
				continue
			}
			s.Says = plain(strings.TrimSpace(strings.Replace(m[1], to[0], "", 1)))
			h.sawTry.Pauses = append(h.sawTry.Pauses, s)
		default:
			h.problem(fmt.Sprintf("line %d", p.line+i), "this leads to no line to stop at: it is left out")
		}
	}
}

// needsByHand finds what is written to come before passages: numbers of passages, and
// names of ideas.
func (h *hand) needsByHand() {
	ideas := map[string]string{}
	for _, x := range h.doc.Ideas {
		ideas[x.Name] = x.ID
	}
	for i := range h.doc.Chapters {
		for k := range h.doc.Chapters[i].Passages {
			x := &h.doc.Chapters[i].Passages[k]
			if len(x.Needs) != 1 || !strings.HasPrefix(x.Needs[0], "\x00") {
				continue
			}
			said := x.Needs[0][1:]
			x.Needs = nil
			for part := range strings.SplitSeq(said, ";") {
				part = strings.TrimSpace(part)
				id := ""
				if name, ok := strings.CutPrefix(part, "the idea "); ok {
					id = ideas[strings.Trim(name, "*")]
				} else if m := passageNumber.FindStringSubmatch(part); m != nil {
					id = h.numbers[m[1]]
				}
				if id == "" {
					h.problem(x.where(i, k), "what is to come before it, “%s”, is not in the plan: that is left out", clipped(part))
					continue
				}
				x.Needs = append(x.Needs, id)
			}
		}
	}
}

// tryAgain takes what is written to be tried: people may have changed it since its
// comment was written. The comment knows the commits of the lines to stop at.
func (h *hand) tryAgain(x *passage) {
	said := h.sawTry
	if len(said.Pauses) == len(x.Target.Try.Pauses) {
		for i := range said.Pauses {
			said.Pauses[i].Commit = x.Target.Try.Pauses[i].Commit
		}
	}
	x.Target.Try = &said
}
