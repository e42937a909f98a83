package origin

import (
	"encoding/json"
	"sort"
	"strings"
)

// The conditions of package exports, in the order in which a reader of source is
// best served; types come first for a file that has them.
var (
	typedConditions = []string{"types", "source", "import", "module", "node", "require", "browser", "development", "production", "default"}
	plainConditions = []string{"source", "import", "module", "node", "require", "browser", "development", "production", "default", "types"}
)

// exportTargets lists the files that a package's exports or imports give for a
// subpath ("./sub", "#name"), best first. Patterns with one star are followed.
func exportTargets(raw json.RawMessage, sub string, typed bool) []string {
	conditions := plainConditions
	if typed {
		conditions = typedConditions
	}
	if sub == "./" {
		sub = "."
	}
	var keyed map[string]json.RawMessage
	if json.Unmarshal(raw, &keyed) != nil || !subpaths(keyed) {
		if sub == "." {
			return targetsOf(raw, "", conditions, 0)
		}
		return nil
	}
	if v, ok := keyed[sub]; ok {
		return targetsOf(v, "", conditions, 0)
	}
	best, star := "", ""
	for k := range keyed {
		head, tail, ok := strings.Cut(k, "*")
		if !ok && strings.HasSuffix(k, "/") {
			head, ok = k, true
		}
		if ok && strings.HasPrefix(sub, head) && strings.HasSuffix(sub, tail) && len(sub) >= len(head)+len(tail) && len(head) >= len(best) {
			if b, _, _ := strings.Cut(best, "*"); len(head) > len(b) || best == "" || k < best {
				best, star = k, sub[len(head):len(sub)-len(tail)]
			}
		}
	}
	if best == "" {
		return nil
	}
	if strings.HasSuffix(best, "/") {
		var out []string
		for _, t := range targetsOf(keyed[best], "", conditions, 0) {
			out = append(out, t+star)
		}
		return out
	}
	return targetsOf(keyed[best], star, conditions, 0)
}

func subpaths(keyed map[string]json.RawMessage) bool {
	for k := range keyed {
		if !strings.HasPrefix(k, ".") && !strings.HasPrefix(k, "#") {
			return false
		}
	}
	return len(keyed) > 0
}

// targetsOf lists a value's files by condition.
func targetsOf(raw json.RawMessage, star string, conditions []string, depth int) []string {
	if depth > 8 {
		return nil
	}
	var one string
	if json.Unmarshal(raw, &one) == nil {
		return []string{strings.ReplaceAll(one, "*", star)}
	}
	var list []json.RawMessage
	if json.Unmarshal(raw, &list) == nil {
		var out []string
		for _, l := range list {
			out = append(out, targetsOf(l, star, conditions, depth+1)...)
		}
		return out
	}
	var keyed map[string]json.RawMessage
	if json.Unmarshal(raw, &keyed) != nil {
		return nil
	}
	var keys []string
	for k := range keyed {
		keys = append(keys, k)
	}
	rank := func(k string) int {
		for i, c := range conditions {
			if c == k {
				return i
			}
		}
		return len(conditions)
	}
	sort.Slice(keys, func(i, j int) bool {
		if rank(keys[i]) != rank(keys[j]) {
			return rank(keys[i]) < rank(keys[j])
		}
		return keys[i] < keys[j]
	})
	var out []string
	for _, k := range keys {
		out = append(out, targetsOf(keyed[k], star, conditions, depth+1)...)
	}
	return out
}
