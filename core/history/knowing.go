package history

import "sort"

// Knower is what one person did to some files, and how much of that still counts.
type Knower struct {
	Person  int
	Changes int     // commits, each once, however many of the files it changed
	Weight  float64 // the same, each halved once a half-life of age
	Last    int64   // their last change of these files, Unix seconds
}

// Knowers are the people who changed some files, those who know them best now
// first.
func (l *Ledger) Knowers(halfLife float64, files ...int32) []Knower {
	of := make([]Knower, l.people)
	for _, c := range l.commitsOf(files) {
		k := &of[l.Person[c]]
		k.Changes++
		k.Weight += Recency(l.Time[c], l.Now, halfLife)
		k.Last = max(k.Last, l.Time[c])
	}
	var out []Knower
	for p := range of {
		if of[p].Changes > 0 {
			of[p].Person = p
			out = append(out, of[p])
		}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Weight > out[b].Weight })
	return out
}

// LeastKnown is the weight from which on somebody counts as knowing a place: one
// change a half-life ago.
const LeastKnown = 0.5

// KnowersIn counts, for some sets of files, the people who know them: whose
// changes still weigh LeastKnown or more, and who are not gone. one is the only
// one, -1 where there are none or several. place gives the sets that a file is
// in.
func (l *Ledger) KnowersIn(halfLife float64, places int, place func(file int32) []int32, gone func(person int32) bool) (count []int, one []int32) {
	weight := make([]map[int32]float64, places)
	seen := make([]int32, places) // place → the commit that was last counted for it, plus one
	for c := range l.Time {
		w := Recency(l.Time[c], l.Now, halfLife)
		for row := l.From[c]; row < l.From[c+1]; row++ {
			for _, p := range place(l.File[row]) {
				if seen[p] == int32(c)+1 {
					continue
				}
				seen[p] = int32(c) + 1
				if weight[p] == nil {
					weight[p] = map[int32]float64{}
				}
				weight[p][l.Person[c]] += w
			}
		}
	}
	count, one = make([]int, places), make([]int32, places)
	for p := range weight {
		one[p] = -1
		for who, w := range weight[p] {
			if w < LeastKnown || gone(who) {
				continue
			}
			if count[p]++; count[p] == 1 {
				one[p] = who
			} else {
				one[p] = -1
			}
		}
	}
	return count, one
}

// Activity counts each person's commits to some files in n equal parts of a
// span, [from, to) in Unix seconds; no files are all.
func (l *Ledger) Activity(from, to int64, n int, files ...int32) map[int][]int {
	out := map[int][]int{}
	count := func(c int32) {
		at := l.Time[c]
		if at < from || at >= to {
			return
		}
		who := int(l.Person[c])
		if out[who] == nil {
			out[who] = make([]int, n)
		}
		out[who][min(n-1, int(float64(at-from)/float64(to-from)*float64(n)))]++
	}
	if len(files) == 0 {
		for c := range l.Time {
			count(int32(c))
		}
		return out
	}
	for _, c := range l.commitsOf(files) {
		count(c)
	}
	return out
}
