package skim

import (
	"math"
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
)

// Feature is one of the things that the worth of a symbol comes from.
type Feature struct {
	Name   string
	Weight float64
	Doc    string // what 1 means
}

// Features are all of them. The weights were chosen on packages other than
// those by which the worth is judged.
var Features = []Feature{
	{"surprising", 1.2, "its words stand in hardly any other file"},
	{"reached", 1.6, "sixty or more other files name it"},
	{"named", 0.6, "thirty or more places of this file name it"},
	{"starts", 1.5, "control comes in here"},
	{"offered", 0.8, "anyone may name it by the language's rule"},
	{"intricate", 1.0, "it branches a great deal"},
	{"long", 3.0, "forty or more lines of statements"},
	{"documented", 0.4, "a comment says what it is for"},
	{"recent", 0.4, "its lines changed lately"},
	{"marked", 1.5, "people wrote about it, or left a tagged comment in it"},
	{"skipped", -4, "an accessor, printing, comparing, or a call that is only handed on"},
}

// bias is the worth, before the logistic function, of a symbol of which nothing
// is known.
const bias = -2.0

// The worth of what is no symbol, and of what is inside of one as a share of it.
const (
	worthLicence    = 0.01
	worthImports    = 0.08
	worthHead       = 0.75 // the comment that a file begins with
	worthComment    = 0.35
	worthStatements = 0.3 // and more by its words
	shareComment    = 0.7
	shareInside     = 0.55 // and more by its words, and how new it is
	shareWords      = 0.35
	shareRecent     = 0.1
	shareMarked     = 0.97
	plumbingCost    = 0.35 // of a run that is nothing but plumbing
)

// scale weighs the regions of one file.
type scale struct {
	in     *Input
	text   *text
	weight map[string]float64
	bits   []float64 // by line: information of the words before its end, summed up
	words  []int     // the same of their number
	marks  []int     // tagged or written about
	named  []int     // for each symbol: places of this file that name it, outside of it
}

func newScale(in *Input, t *text) *scale {
	s := &scale{in: in, text: t, weight: in.Weights, bits: make([]float64, t.total()+1), words: make([]int, t.total()+1), marks: make([]int, t.total()+1)}
	if s.weight == nil {
		s.weight = map[string]float64{}
		for _, f := range Features {
			s.weight[f.Name] = f.Weight
		}
	}
	for _, n := range in.Tagged {
		s.mark(n, n)
	}
	for _, l := range in.Marked {
		s.mark(l.Start, l.End)
	}
	s.readWords()
	for n := 1; n <= t.total(); n++ {
		s.bits[n] += s.bits[n-1]
		s.words[n] += s.words[n-1]
		s.marks[n] += s.marks[n-1]
	}
	s.countNames()
	return s
}

func (s *scale) mark(from, to int) {
	for n := max(1, from); n <= min(to, s.text.total()); n++ {
		s.marks[n]++
	}
}

// readWords notes how much the words on each line tell.
func (s *scale) readWords() {
	if s.in.Rare == nil {
		return
	}
	d := s.in.Details
	if d == nil || len(d.Uses) == 0 {
		for n := 1; n <= s.text.total(); n++ {
			for _, w := range facts.Subwords(s.text.lines[n-1][:min(len(s.text.lines[n-1]), 2000)]) {
				s.bits[n] += s.in.Rare(w)
				s.words[n]++
			}
		}
		return
	}
	bits, count := make([]float64, len(d.Words)), make([]int, len(d.Words))
	for i, w := range d.Words {
		for _, sub := range facts.Subwords(w) {
			bits[i] += s.in.Rare(sub)
			count[i]++
		}
	}
	for _, u := range d.Uses {
		if n := int(u.Line); n >= 1 && n <= s.text.total() {
			s.bits[n] += bits[u.Word]
			s.words[n] += count[u.Word]
		}
	}
}

// countNames counts for each symbol where the file names it outside of it.
func (s *scale) countNames() {
	d := s.in.Details
	if d == nil {
		return
	}
	places := map[string][]int{}
	for i := range d.Outline {
		places[d.Outline[i].Name] = nil
	}
	for _, u := range d.Uses {
		if name := d.Words[u.Word]; u.Role.Plain() != lang.Define {
			if list, ok := places[name]; ok {
				places[name] = append(list, int(u.Line))
			}
		}
	}
	s.named = make([]int, len(d.Outline))
	for i := range d.Outline {
		x := &d.Outline[i]
		list := places[x.Name]
		s.named[i] = sort.SearchInts(list, x.Start) + len(list) - sort.SearchInts(list, x.End+1)
	}
}

// surprise is how much the words of lines a..b tell, 0..1; 0.5 where there are
// no words, or nothing is known of the others.
func (s *scale) surprise(a, b int) float64 {
	n := s.words[b] - s.words[a-1]
	if n == 0 {
		return 0.5
	}
	return (s.bits[b] - s.bits[a-1]) / float64(n)
}

func (s *scale) marked(a, b int) bool { return s.marks[b] > s.marks[a-1] }

func (s *scale) recent(a, b int) float64 {
	if s.in.Recent == nil {
		return 0
	}
	most := 0.0
	for n := a; n <= b; n++ {
		most = max(most, s.in.Recent(n))
	}
	return most
}

// longest is how many statements make a symbol as long as can be told.
const longest = 40

// part is v of most, 0..1, growing with its logarithm.
func part(v, most int) float64 {
	return math.Min(1, math.Log2(1+float64(v))/math.Log2(1+float64(most)))
}

// features are those of a symbol, by name; skip is the kind of code that people
// pass over, where it is such.
func (s *scale) features(n *node) (f map[string]float64, skip string) {
	x := &s.in.Details.Outline[n.Symbol]
	f = map[string]float64{
		"surprising": s.surprise(x.Start, x.End),
		"named":      part(s.named[n.Symbol], 30),
		"intricate":  part(x.Intricacy, 30),
		"recent":     s.recent(x.Start, x.End),
	}
	if s.in.Reach != nil {
		f["reached"] = part(s.in.Reach[n.Symbol], 60)
	}
	if i := sort.SearchInts(s.in.Starts, x.Start); i < len(s.in.Starts) && s.in.Starts[i] <= x.End {
		f["starts"] = 1
	}
	switch x.Visibility {
	case lang.Public, "":
		f["offered"] = 1
	case lang.Protected, lang.Internal:
		f["offered"] = 0.5
	}
	if x.Doc != "" {
		f["documented"] = 1
	}
	if s.marked(n.Start, n.End) {
		f["marked"] = 1
	}
	body := s.text.statementsOf(n, longest)
	f["long"] = part(len(body), longest)
	f["skipped"], skip = skipped(x, body)
	return f, skip
}

// symbol weighs a symbol and tells why.
func (s *scale) symbol(n *node) {
	sum := bias
	type share struct {
		name string
		by   float64
	}
	var shares []share
	f, skip := s.features(n)
	for _, feature := range Features {
		by := s.weight[feature.Name] * f[feature.Name]
		sum += by
		if math.Abs(by) >= 0.3 {
			shares = append(shares, share{feature.Name, math.Abs(by)})
		}
	}
	n.Worth = 1 / (1 + math.Exp(-sum))
	sort.SliceStable(shares, func(i, j int) bool { return shares[i].by > shares[j].by })
	for _, one := range shares {
		if one.name == "skipped" {
			one.name = skip
		}
		n.Why = append(n.Why, one.name)
	}
}

// weigh gives every region its worth and its key.
func (s *scale) weigh(root *node) {
	root.Worth = 1
	begun := false // a region other than licence and imports was met
	for _, k := range root.kids {
		s.top(k, !begun)
		begun = begun || k.Kind != OfLicence && k.Kind != OfImports
	}
}

// top weighs a region that is in no symbol.
func (s *scale) top(n *node, first bool) {
	switch n.Kind {
	case OfSymbol:
		s.member(n)
		return
	case OfLicence:
		n.Worth = worthLicence
	case OfImports:
		n.Worth = worthImports
	case OfComment:
		if n.Worth = worthComment; first {
			n.Worth = worthHead
		}
	default:
		n.Worth = worthStatements + (1-worthStatements)*0.5*s.surprise(n.Start, n.End)
		if s.marked(n.Start, n.End) {
			n.Worth = math.Max(n.Worth, 0.7)
		}
		n.Worth *= 1 - plumbingCost*s.plumbing(n.Start, n.End)
	}
	s.inside(n)
}

// member weighs a symbol with all in it.
func (s *scale) member(n *node) {
	s.symbol(n)
	s.inside(n)
}

// inside weighs what is in a region, and makes its key.
func (s *scale) inside(n *node) {
	n.key = n.Worth
	for _, k := range n.kids {
		switch k.Kind {
		case OfSymbol:
			s.member(k)
		default:
			k.Worth = n.Worth * s.share(k)
			s.inside(k)
		}
		n.key = math.Max(n.key, k.key)
	}
}

// share is how much of the worth of the region around it a region is worth.
func (s *scale) share(n *node) float64 {
	if s.marked(n.Start, n.End) {
		return shareMarked
	}
	if n.Kind == OfComment {
		return shareComment
	}
	share := shareInside + shareWords*s.surprise(n.Start, n.End) + shareRecent*s.recent(n.Start, n.End)
	return share * (1 - plumbingCost*s.plumbing(n.Start, n.End))
}

// plumbing is which share of the lines a..b that hold text is plumbing.
func (s *scale) plumbing(a, b int) float64 {
	all, such := 0, 0
	for n := a; n <= b; n++ {
		line := s.text.line(n)
		if line == "" || strings.Trim(line, "{}();,") == "" {
			continue
		}
		all++
		if len(line) < 200 && plumbing.MatchString(line) {
			such++
		}
	}
	if all == 0 {
		return 0
	}
	return float64(such) / float64(all)
}
