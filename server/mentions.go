package server

import (
	"fmt"
	"regexp"
	"strings"

	"juxtagram/store"
)

// unmentionable is what a mention cannot hold.
var unmentionable = regexp.MustCompile(`[^\p{L}\p{N}_-]+`)

// handles are how members are mentioned: their names, the parts joined by dots,
// and their number where two would be called the same.
func handles(members []store.Member) []string {
	out := make([]string, len(members))
	named := map[string]int{}
	for i, m := range members {
		h := strings.Trim(unmentionable.ReplaceAllString(m.Name, "."), ".")
		if !letter.MatchString(h) {
			h = strings.TrimSuffix("person."+h, ".")
		}
		out[i] = h
		named[strings.ToLower(h)]++
	}
	for i, m := range members {
		if named[strings.ToLower(out[i])] > 1 {
			out[i] = fmt.Sprintf("%s.%d", out[i], m.PersonID)
		}
	}
	return out
}

// letter is how a mention begins.
var letter = regexp.MustCompile(`^\p{L}`)

// memberOf finds who is meant by a mention: a member's handle, or the first part
// of one that only one bears.
func memberOf(members []store.Member, mention string) *store.Member {
	var first *store.Member
	known := handles(members)
	for i := range members {
		if strings.EqualFold(known[i], mention) {
			return &members[i]
		}
		if part, _, _ := strings.Cut(known[i], "."); strings.EqualFold(part, mention) {
			if first != nil {
				return nil
			}
			first = &members[i]
		}
	}
	return first
}
