package lexed

import (
	"maps"
	"regexp"

	"juxtagram/core/lang"
)

// leafOf is a rule whose declaration is its line alone.
func leafOf(r lang.LineRule) lang.LineRule {
	r.Leaf = true
	return r
}

// headingOf is a rule whose declaration holds until the next of its level.
func headingOf(level int, kind lang.Kind, pattern string) lang.LineRule {
	return lang.LineRule{Pattern: regexp.MustCompile(pattern), Kind: kind, Level: level, Visibility: lang.Public}
}

func imports(patterns ...string) []*regexp.Regexp {
	var out []*regexp.Regexp
	for _, p := range patterns {
		out = append(out, regexp.MustCompile(p))
	}
	return out
}

// Programs are the token rules of programming languages, by language.
var Programs = merged(compiled, functional, scripting)

func merged(families ...map[string]*lang.LineRules) map[string]*lang.LineRules {
	out := map[string]*lang.LineRules{}
	for _, family := range families {
		maps.Copy(out, family)
	}
	return out
}
