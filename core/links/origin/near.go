package origin

import (
	"path"
	"sort"
	"strings"
	"sync"
)

// maxNear is how many near misses are told.
const maxNear = 3

// nearIndex finds paths by what their names sound like.
type nearIndex struct {
	once sync.Once
	told sync.Map            // folder and stem → what was answered
	by   map[string][]string // folded name → paths of files and folders
}

// Near lists paths whose last name is close to a wanted one, best first: the
// same name elsewhere, other letter case, underscores, plural, dropped vowels,
// abbreviations, a slip of one or two letters. from is the asking file's path.
func (t *Tree) Near(from, wanted string) []string {
	t.near.once.Do(t.buildNear)
	stem := stemOf(path.Base(strings.TrimRight(wanted, "/")))
	if len(stem) < 2 {
		return nil
	}
	dir, base := split(from)
	key := dir + "\x00" + stem + path.Ext(base)
	if told, ok := t.near.told.Load(key); ok {
		return told.([]string)
	}
	near := t.nearest(from, stem)
	t.near.told.Store(key, near)
	return near
}

func (t *Tree) nearest(from, stem string) []string {
	seen := map[string]bool{from: true}
	var found []string
	for _, key := range keysOf(stem) {
		for _, p := range t.near.by[key] {
			if !seen[p] && len(found) < 200 {
				seen[p] = true
				found = append(found, p)
			}
		}
	}
	return closest(from, stem, found, func(p string) string { return stemOf(path.Base(p)) })
}

// NearNames lists the names close to a wanted one, best first.
func NearNames(wanted string, names []string) []string {
	var found []string
	for _, n := range names {
		if n != wanted && close(wanted, n) < far {
			found = append(found, n)
		}
	}
	return closest("", wanted, found, func(n string) string { return n })
}

func closest(from, wanted string, found []string, name func(string) string) []string {
	type scored struct {
		text  string
		score int
	}
	var all []scored
	for _, f := range found {
		if s := close(wanted, name(f)); s < far {
			all = append(all, scored{f, s*100 + distance(from, f) + strange(from, f)})
		}
	}
	sort.Slice(all, func(i, j int) bool {
		if all[i].score != all[j].score {
			return all[i].score < all[j].score
		}
		return all[i].text < all[j].text
	})
	var out []string
	for _, s := range all[:min(len(all), maxNear)] {
		out = append(out, s.text)
	}
	return out
}

// strange is how much farther a file of another sort is.
func strange(from, found string) int {
	if a, b := path.Ext(from), path.Ext(found); a != "" && b != "" && a != b {
		return 250
	}
	return 0
}

// far is the closeness of names that have nothing to do with each other.
const far = 10

// close tells how far apart two names are: 0 the same, far unrelated.
func close(a, b string) int {
	switch fa, fb := fold(a), fold(b); {
	case a == b:
		return 0
	case strings.EqualFold(a, b):
		return 1
	case fa == fb:
		return 2
	case singular(fa) == singular(fb):
		return 3
	case skeleton(fa) == skeleton(fb) && len(skeleton(fa)) > 1:
		return 4
	case len(fa) > 2 && len(fb) > 2 && fa[0] == fb[0] && (subsequence(fa, fb) || subsequence(fb, fa)) && 2*min(len(fa), len(fb)) >= max(len(fa), len(fb))-4:
		return 6
	case len(fa) > 2 && swapped(fa, fb):
		return 5
	case len(fa) > 3 && slips(fa, fb) <= 1+len(fa)/8:
		return 5
	}
	return far
}

// keysOf are the keys under which names close to a stem are found.
func keysOf(stem string) []string {
	f := fold(stem)
	keys := []string{"=" + f, "=" + singular(f), "=" + f + "s", "~" + skeleton(f)}
	if len(f) > 2 {
		keys = append(keys, "^"+f[:2])
	}
	return keys
}

func (t *Tree) buildNear() {
	by := map[string][]string{}
	add := func(p string) {
		f := fold(stemOf(path.Base(p)))
		by["="+f] = append(by["="+f], p)
		by["~"+skeleton(f)] = append(by["~"+skeleton(f)], p)
		if len(f) > 2 {
			by["^"+f[:2]] = append(by["^"+f[:2]], p)
		}
	}
	for i := range t.Files {
		if !t.Files[i].Binary {
			add(t.Files[i].Path)
		}
	}
	var folders []string
	for d := range t.folders {
		if d != "" {
			folders = append(folders, d)
		}
	}
	sort.Strings(folders)
	for _, d := range folders {
		add(d)
	}
	t.near.by = by
}

func stemOf(base string) string {
	if i := strings.IndexByte(base, '.'); i > 0 {
		return base[:i]
	}
	return base
}

// fold takes away letter case and what joins words.
func fold(s string) string {
	return strings.NewReplacer("_", "", "-", "", " ", "", ".", "").Replace(strings.ToLower(s))
}

func singular(s string) string {
	switch {
	case strings.HasSuffix(s, "ies") && len(s) > 4:
		return s[:len(s)-3] + "y"
	case strings.HasSuffix(s, "s") && !strings.HasSuffix(s, "ss") && len(s) > 3:
		return s[:len(s)-1]
	}
	return s
}

// skeleton drops the vowels after the first letter.
func skeleton(s string) string {
	var b strings.Builder
	for i, r := range s {
		if i == 0 || !strings.ContainsRune("aeiouy", r) {
			b.WriteRune(r)
		}
	}
	return b.String()
}

// subsequence tells whether the letters of a occur in b in that order.
func subsequence(a, b string) bool {
	i := 0
	for j := 0; i < len(a) && j < len(b); j++ {
		if a[i] == b[j] {
			i++
		}
	}
	return i == len(a)
}

// swapped tells names that differ by two neighbouring letters in the wrong order.
func swapped(a, b string) bool {
	if len(a) != len(b) {
		return false
	}
	i := 0
	for i < len(a) && a[i] == b[i] {
		i++
	}
	return i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && a[i+2:] == b[i+2:]
}

// slips is the edit distance of two names, given up beyond a few.
func slips(a, b string) int {
	if d := len(a) - len(b); d > 3 || d < -3 || len(a) > 60 {
		return far
	}
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := 1; i <= len(a); i++ {
		last := row[0]
		row[0] = i
		for j := 1; j <= len(b); j++ {
			cost := last
			if a[i-1] != b[j-1] {
				cost = 1 + min(last, row[j], row[j-1])
			}
			last, row[j] = row[j], cost
		}
	}
	return row[len(b)]
}

// Apart is how many folders lie between two paths.
func Apart(a, b string) int {
	pa, pb := strings.Split(a, "/"), strings.Split(b, "/")
	same := 0
	for same < len(pa)-1 && same < len(pb)-1 && pa[same] == pb[same] {
		same++
	}
	return len(pa) + len(pb) - 2*same - 2
}

// distance is Apart, at most 99.
func distance(a, b string) int { return min(99, Apart(a, b)) }
