package draft

import (
	"cmp"
	"container/heap"
	"maps"
	"slices"
)

// Reading is a file shown within so many lines.
type Reading struct {
	File, Lines int
	Minutes     int
}

// chooser chooses readings for a number of minutes.
type chooser struct {
	*ledger
	led    bool        // a reader must be led to what is chosen
	leave  []bool      // files that are not chosen; nil: none
	lines  map[int]int // file → how many of its lines are read
	steps  map[int][]int
	from   []int32 // the file that leads to one, on the shortest way from where one may begin; -1: none, -2: one may begin there
	left   int     // minutes
	strays int     // chosen files that nothing leads to
	near   []bool  // linked with what is chosen, or beside it
	beside bool    // only what is beside it
	best   options
}

// option is a file's next step.
type option struct {
	file, lines int
	gain        float64
	cost        int
}

func (o *option) rate() float64 { return o.gain / float64(o.cost) }

type options []*option

func (o options) Len() int      { return len(o) }
func (o options) Swap(i, j int) { o[i], o[j] = o[j], o[i] }
func (o options) Less(i, j int) bool {
	if a, b := o[i].rate(), o[j].rate(); a != b {
		return a > b
	}
	return o[i].file < o[j].file
}
func (o *options) Push(x any) { *o = append(*o, x.(*option)) }
func (o *options) Pop() any {
	old := *o
	last := old[len(old)-1]
	*o = old[:len(old)-1]
	return last
}

// A draft is to cover so much more than any simple order; goods are weighed anew
// so often to come to that.
const (
	enough = 1.01
	rounds = 12
)

// wholeEffort is up to how many files times minutes a choice is tried as often as it may.
const wholeEffort = 500_000

// effort is how often out of most a choice is tried: a choice takes longer the more files
// there are to choose from and the more minutes to fill, and somebody waits.
func (g *Ground) effort(minutes, most int) int {
	size := min(len(g.opens), mostOptions) * minutes
	return max(1, min(most, most*wholeEffort/max(1, size)))
}

// Task is what is to be chosen.
type Task struct {
	Minutes   int
	Direction Direction
	Weights   Weights
	Interest  []float64    // 0..1 of each file; nil: all are of the same
	Leave     []bool       // files that are not chosen; nil: none
	Read      map[int]int  // files that are read in any case, with how many of their lines
	spots     map[int]spot // files of which some lines are read, and no others
	beside    bool         // close by is only what is in the same folder
}

// weigh finds what of each good a task is to cover, and what it could at most.
func (g *Ground) weigh(t *Task) *ledger {
	l := g.newLedger(t.Weights, t.Interest)
	l.spots = t.spots
	l.least = l.floor(t.Minutes)
	for k := range l.most {
		if l.weight[k] > 0 {
			alone := &chooser{ledger: l.only(good(k)), leave: t.Leave, left: t.Minutes}
			alone.run()
			l.most[k] = alone.got[k]
		}
	}
	return l
}

// choose fills the minutes with readings, in the order of files; weighed is what
// weigh found, and stays as it is. The second result is how far they cover more
// than simple orders do: 1 is as much.
func (g *Ground) choose(t *Task, weighed *ledger) ([]Reading, float64) {
	minutes := t.Minutes
	l := weighed.empty()
	l.w = t.Weights
	c := &chooser{ledger: l, led: t.Direction == OutsideIn && l.w.Led, leave: t.Leave, left: minutes, beside: t.beside}
	if c.led {
		c.lead()
	}
	c.start(t.Read)
	c.run()
	best := c
	for n := 0; n < g.effort(minutes, rounds) && best.margin() < enough; n++ {
		again := &chooser{ledger: c.anew(), led: c.led, from: c.from, leave: t.Leave, left: minutes, beside: t.beside}
		again.start(t.Read)
		again.run()
		if c = again; c.margin() > best.margin() {
			best = c
		}
	}
	c = best
	out := []Reading{}
	for file, n := range c.lines {
		out = append(out, Reading{file, n, g.minutes(file, n)})
	}
	slices.SortFunc(out, func(a, b Reading) int { return a.File - b.File })
	return out, c.margin()
}

// start notes what is read in any case.
func (c *chooser) start(read map[int]int) {
	for _, file := range slices.Sorted(maps.Keys(read)) {
		c.add(file, 0, read[file])
	}
}

// lead finds the shortest ways to files along what leans on them.
func (c *chooser) lead() {
	g := c.g
	c.from = make([]int32, len(g.opens))
	var line []int32
	for i := range c.from {
		c.from[i] = -1
		if g.opens[i] && g.readable(i) {
			c.from[i] = -2
			line = append(line, int32(i))
		}
	}
	// entry points lead before what merely nothing leans on
	slices.SortStableFunc(line, func(a, b int32) int { return byWeight(g.starts[a], g.starts[b]) })
	for len(line) > 0 {
		at := line[0]
		line = line[1:]
		for _, to := range g.leans[at] {
			if c.from[to] == -1 {
				c.from[to] = at
				line = append(line, to)
			}
		}
	}
}

func byWeight(a, b float64) int {
	switch {
	case a > b:
		return -1
	case a < b:
		return 1
	}
	return 0
}

// next is a file's next step; nil: it is read whole.
func (c *chooser) next(file int) *option {
	steps, ok := c.steps[file]
	if !ok {
		if s := c.spots[file]; s.lines > 0 {
			steps = []int{s.lines}
		} else {
			steps = levels(c.g.Whole.Files[file].Lines)
		}
		c.steps[file] = steps
	}
	was := c.lines[file]
	at, _ := slices.BinarySearch(steps, was+1)
	if at == len(steps) {
		return nil
	}
	o := &option{file: file, lines: steps[at], cost: c.g.minutes(file, steps[at])}
	if was > 0 {
		o.cost = max(1, o.cost-c.g.minutes(file, was))
	}
	o.gain = c.worth(c.each(file, was, o.lines))
	if was == 0 && c.near[file] {
		o.gain *= 1 + c.w.Close
	}
	return o
}

// take chooses to read so many lines of a file.
func (c *chooser) take(file, lines int) {
	was := c.lines[file]
	c.left -= c.g.minutes(file, lines)
	if was > 0 {
		c.left += c.g.minutes(file, was)
	}
	c.add(file, was, lines)
	c.lines[file] = lines
	if was > 0 || c.w.Close == 0 {
		return
	}
	close := [][]int32{c.g.beside[c.g.folder[file]], c.g.leans[file], c.g.leaned[file]}
	if c.beside {
		close = close[:1]
	}
	for _, list := range close {
		for _, other := range list {
			if !c.near[other] && c.lines[int(other)] == 0 && !c.leaves(int(other)) && c.g.readable(int(other)) {
				c.near[other] = true
				heap.Push(&c.best, c.next(int(other)))
			}
		}
	}
}

// longestChain is how many files may have to be read before another one, for the
// reader to be led to it.
const longestChain = 4

// chain are the files that lead to one and are not chosen yet, outermost first,
// itself last; nil: nothing does.
func (c *chooser) chain(file int) []int {
	for _, on := range c.g.leaned[file] {
		if c.read[int(on)] {
			return []int{file}
		}
	}
	var out []int
	for at := int32(file); !c.read[int(at)]; at = c.from[at] {
		out = append(out, int(at))
		if c.from[at] == -2 {
			break
		}
		if c.from[at] == -1 || len(out) > longestChain {
			return nil
		}
	}
	slices.Reverse(out)
	return out
}

// mostOptions is how many files are weighed against each other, those with the most to
// gain in a minute, besides what is close to a chosen one. The longest draft reads less
// than half as many.
const mostOptions = 3000

// strayShare is how many of a hundred chosen files nothing need lead to.
const strayShare = 3

// run spends the minutes.
func (c *chooser) run() {
	c.lines, c.steps, c.near = map[int]int{}, map[int][]int{}, make([]bool, len(c.g.opens))
	var best options
	for i := range c.g.opens {
		if !c.leaves(i) && c.g.readable(i) {
			if o := c.next(i); o.gain > 0 {
				best = append(best, o)
			}
		}
	}
	if len(best) > mostOptions {
		slices.SortFunc(best, func(a, b *option) int {
			return cmp.Or(cmp.Compare(b.rate(), a.rate()), cmp.Compare(a.file, b.file))
		})
		best = best[:mostOptions]
	}
	strays := c.spend(best, c.led)
	if c.left > 0 {
		c.spend(strays, false)
	}
	c.fill()
}

func (c *chooser) leaves(file int) bool { return c.leave != nil && c.leave[file] }

// spend takes the best steps first, until the minutes are spent. Where a reader
// must be led to files, those that nothing leads to are given back but for a few.
func (c *chooser) spend(best options, led bool) (strays options) {
	c.best = best
	heap.Init(&c.best)
	for c.left > 0 && c.best.Len() > 0 {
		if c.best[0].cost > c.left {
			c.affordable()
			continue
		}
		o := heap.Pop(&c.best).(*option)
		now := c.next(o.file)
		switch {
		case now == nil || now.gain <= 0:
			continue
		case now.lines != o.lines || now.gain < o.gain-1e-12:
			heap.Push(&c.best, now)
			continue
		case led && !c.read[o.file]:
			way := c.chain(o.file)
			if len(way) > 1 && c.takeChain(way) {
				continue
			}
			if len(way) != 1 {
				if (c.strays+1)*100 > strayShare*(len(c.lines)+1) {
					strays = append(strays, o)
					continue
				}
				c.strays++
			}
		}
		if now.cost > c.left {
			continue
		}
		c.take(o.file, now.lines)
		if o := c.next(o.file); o != nil {
			heap.Push(&c.best, o)
		}
	}
	return strays
}

// affordable leaves out the steps that take more minutes than are left.
func (c *chooser) affordable() {
	c.best = slices.DeleteFunc(c.best, func(o *option) bool { return o.cost > c.left })
	heap.Init(&c.best)
}

// takeChain chooses a file with those that lead to it, where that is worth its
// minutes beside the best of the others; else it puts it behind them. false: it
// cannot be chosen so.
func (c *chooser) takeChain(way []int) bool {
	alone := c.next(way[len(way)-1])
	together := &option{}
	for _, f := range way {
		if c.leaves(f) {
			return false
		}
		o := c.next(f)
		together.gain, together.cost = together.gain+o.gain, together.cost+o.cost
	}
	if together.cost > c.left {
		return false
	}
	if c.best.Len() > 0 && together.rate() < c.best[0].rate()*(1-1e-9) {
		// as one step of the file itself, worth as much a minute
		heap.Push(&c.best, &option{alone.file, alone.lines, together.rate() * float64(alone.cost), alone.cost})
		return true
	}
	for _, f := range way {
		c.take(f, c.next(f).lines)
		if o := c.next(f); o != nil {
			heap.Push(&c.best, o)
		}
	}
	return true
}

// fill spends the minutes that are left on deepening what is chosen, by so many
// lines as they suffice for.
func (c *chooser) fill() {
	for c.left > 0 {
		best := option{file: -1}
		for file, now := range c.lines {
			if c.spots[file].lines > 0 {
				continue
			}
			minutes := c.g.minutes(file, now)
			to := c.g.Within(file, c.g.Whole.Files[file].Lines, minutes+c.left).Lines
			cost := c.g.minutes(file, to) - minutes
			if cost <= 0 {
				continue
			}
			o := option{file, to, c.worth(c.each(file, now, to)), cost}
			if best.file < 0 || o.rate() > best.rate() || o.rate() == best.rate() && file < best.file {
				best = o
			}
		}
		if best.file < 0 {
			return
		}
		c.take(best.file, best.lines)
	}
}
