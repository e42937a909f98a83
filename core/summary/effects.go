package summary

import (
	"fmt"
	"strings"

	"juxtagram/core/effects"
	"juxtagram/core/lang"
	"juxtagram/core/role"
)

var effectVerbs = []struct {
	kind lang.EffectKind
	verb string
}{
	{lang.Listens, "listens on"}, {lang.Connects, "connects to"}, {lang.Writes, "writes"}, {lang.Process, "starts"}, {lang.Opens, "opens"}, {lang.Reads, "reads"}, {lang.Environment, "asks the environment for"}, {lang.Logs, "logs"},
}

// effects: what bodies do to the outside, with where that is decided.
func (t *teller) effects() {
	all := t.Effects.Of(t.n, t.m)
	if len(all) == 0 || t.f.Role == role.Test {
		return
	}
	var parts []string
	var cites []Cite
	for _, v := range effectVerbs {
		var targets []string
		seen := map[string]bool{}
		count, call := 0, ""
		for i := range all {
			e := &all[i]
			if e.Kind != v.kind {
				continue
			}
			if count++; count == 1 {
				call = e.Call
			}
			if v.kind == lang.Logs {
				if count == 1 {
					cites = append(cites, t.here(e.Line))
				}
				continue
			}
			if count <= 2 {
				cites = append(cites, t.here(e.Line))
			}
			target := t.targetWords(e)
			if target == "" || seen[target] {
				continue
			}
			seen[target] = true
			targets = append(targets, target)
			for _, h := range e.Via {
				if len(targets) <= 2 {
					cites = append(cites, Cite{t.Files[h.File].Path, h.Line})
				}
			}
		}
		switch {
		case count == 0:
		case v.kind == lang.Logs:
			parts = append(parts, "logs")
		case len(targets) > 0:
			parts = append(parts, v.verb+" "+some(targets, 3))
		default:
			parts = append(parts, bare[v.kind]+" by "+code(clip(call)))
		}
	}
	if len(parts) == 0 || len(parts) == 1 && parts[0] == "logs" {
		return
	}
	weight := 76.0
	if t.f.Role == role.Source {
		weight = 84
	}
	t.say(weight, "effect", Read, "It "+list(parts)+".", cites...)
}

// bare are verbs for effects whose target the text does not tell.
var bare = map[lang.EffectKind]string{
	lang.Listens: "listens for connections", lang.Connects: "connects elsewhere", lang.Writes: "writes", lang.Process: "starts other programs", lang.Opens: "opens files", lang.Reads: "reads files", lang.Environment: "asks the environment",
}

// targetWords says what an effect is aimed at: the value, with the name that
// leads to it, or the name alone.
func (t *teller) targetWords(e *effects.Effect) string {
	switch {
	case e.Target == "":
		return ""
	case len(e.Via) > 0 && e.Known:
		last := e.Via[len(e.Via)-1]
		return fmt.Sprintf("%s (decided at %s:%d)", code(clip(e.Target)), t.Files[last.File].Path, last.Line)
	case e.Known:
		return code(clip(e.Target))
	case strings.Contains(e.Target, "…"):
		return code(clip(e.Target))
	}
	return "what " + code(clip(e.Target)) + " names"
}

func clip(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:59]) + "…"
	}
	return s
}
