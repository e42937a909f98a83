package draft

import "math"

// A good is something of which a plan is to cover as much as it can: each file
// has a share of it.
type good int

const (
	hot     good = iota // the weight of hotspots
	central             // the centrality of sources
	starts              // the weight of entry points
	folders             // folders that hold sources, by how much
	about               // what the goal is about
	goods               // how many there are
)

// Weights say how drafts are made.
type Weights struct {
	Hot, Central, Starts, Folders, Interest float64 // how much each good counts
	Balance                                 float64 // how much more of a good counts that little is covered of, 0..1
	Close                                   float64 // how much more counts what is linked with something chosen, or beside it
	Twins                                   float64 // how much less a twin of what is read counts, 0..1
	Led                                     bool    // from outside in: what leads to a file is read with it
}

// Standard are the weights that drafts are made with. They were chosen on other
// repositories than those by which drafts are judged; see docs/benchmarks.md.
var Standard = Weights{Hot: 1, Central: 1, Starts: 0.5, Folders: 0.05, Interest: 2, Balance: 1, Close: 0.5, Twins: 0.7, Led: true}

// ledger keeps how much of each good is covered. The value of that is concave,
//
//	value = Σ weight · (balance · log(1 + covered/(most/10)) + (1 − balance) · covered/most)
//
// where most is what could be covered if nothing else counted: what there is
// little of gains more by one more file than what there is plenty of.
type ledger struct {
	g      *Ground
	w      Weights
	share  [goods][]float64 // of each file; of folders, of each folder
	weight [goods]float64
	least  [goods]float64 // what is to be covered of each in any case
	most   [goods]float64
	got    [goods]float64
	in     []int        // of each folder, how many files are chosen
	read   map[int]bool // files that are chosen
	spots  map[int]spot
}

// newLedger takes the shares of files in the goods of a goal. interest is 0..1
// for each file; nil: all are of the same.
func (g *Ground) newLedger(w Weights, interest []float64) *ledger {
	l := &ledger{g: g, w: w, in: make([]int, len(g.folders)), read: map[int]bool{}}
	l.weight = [goods]float64{w.Hot, w.Central, w.Starts, w.Folders, w.Interest}
	l.share = [goods][]float64{g.hot, g.central, g.starts, g.wide, nil}
	if interest == nil {
		l.weight[about] = 0
		return l
	}
	l.weight[folders] = 0
	for k := range l.share {
		if good(k) == folders {
			continue
		}
		list := make([]float64, len(interest))
		for i := range list {
			if list[i] = interest[i]; good(k) != about {
				list[i] *= l.share[k][i]
			}
		}
		toShares(list)
		l.share[k] = list
	}
	return l
}

// each tells how much of each good a file adds when as many of its lines are
// read as to, after was; 0: none yet.
func (l *ledger) each(file, was, to int) (add [goods]float64) {
	lines := l.g.Whole.Files[file].Lines
	credit := Credit(to, lines)
	fresh := 1.0
	if was > 0 {
		credit -= Credit(was, lines)
	} else {
		k := l.g.folder[file]
		if l.weight[starts] > 0 {
			add[starts] = l.share[starts][file]
		}
		if l.weight[folders] > 0 && l.g.central[file] > 0 {
			add[folders] = l.share[folders][k] * math.Pow(4, -float64(l.in[k])) * 0.75 // the first three quarters of it, the next three quarters of the rest, …
		}
	}
	for _, t := range l.g.twin[file] {
		if l.read[t.file] {
			fresh = min(fresh, 1-l.w.Twins*t.likeness)
		}
	}
	if l.weight[about] > 0 && l.spots[file].lines > 0 {
		add[about] = l.share[about][file] * fresh // all that the goal is about
	}
	for _, k := range []good{hot, central, about} {
		if l.weight[k] > 0 && add[k] == 0 {
			add[k] = l.share[k][file] * credit * fresh
		}
	}
	return add
}

// worth is what it is worth to add so much.
func (l *ledger) worth(add [goods]float64) float64 {
	out := 0.0
	for k, x := range add {
		if x > 0 && l.most[k] > 0 {
			per := 1 - l.w.Balance + l.w.Balance/(0.1+l.got[k]/l.most[k])
			out += l.weight[k] * per * x / l.most[k]
		}
	}
	return out
}

// add notes that a file is read as far as to, after was.
func (l *ledger) add(file, was, to int) {
	for k, x := range l.each(file, was, to) {
		l.got[k] += x
	}
	if was == 0 {
		l.read[file] = true
		l.in[l.g.folder[file]]++
	}
}

// margin is how far the good that comes off worst is covered beyond what the
// simple orders cover: 1 is as much.
func (l *ledger) margin() float64 {
	out := math.Inf(1)
	for k := range l.least {
		out = min(out, l.beyond(k))
	}
	return out
}

func (l *ledger) beyond(k int) float64 {
	if l.weight[k] == 0 || l.least[k] == 0 {
		return math.Inf(1)
	}
	return l.got[k] / l.least[k]
}

// anew is a ledger of nothing, in which counts more what this one covers too
// little of.
func (l *ledger) anew() *ledger {
	n := l.empty()
	for k := range n.weight {
		if b := l.beyond(k); b < enough {
			n.weight[k] *= min(2, enough*enough/max(b*b, 0.1))
		}
	}
	return n
}

// empty is the same ledger with nothing covered yet.
func (l *ledger) empty() *ledger {
	n := *l
	n.got, n.in, n.read = [goods]float64{}, make([]int, len(l.in)), map[int]bool{}
	return &n
}

// only is a ledger in which one good alone counts.
func (l *ledger) only(k good) *ledger {
	one := &ledger{g: l.g, spots: l.spots, share: l.share, in: make([]int, len(l.in)), read: map[int]bool{}}
	one.weight[k], one.most[k] = 1, 1
	return one
}
