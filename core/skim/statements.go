package skim

// statement is a line with whatever is indented below it and goes on with it.
type statement struct{ start, end int }

// statements makes regions of lines a..b of a region, by indentation and blank
// lines. Runs of fewer than three lines stay lines of the region.
func (b *builder) statements(n *node, from, to, depth int) {
	for from <= to && b.text.blank(from) {
		from++
	}
	for from <= to && b.text.blank(to) {
		to--
	}
	if from > to {
		return
	}
	if depth >= maxDepth {
		b.cut(n, from, to)
		return
	}
	list := b.split(from, to)
	run := statement{start: from, end: from - 1}
	flush := func() {
		if run.end-run.start+1 >= least {
			n.kids = append(n.kids, &node{Region: Region{Kind: OfRun, Start: run.start, End: run.end, Tell: b.text.telling(run.start, run.end), Symbol: -1}})
		}
	}
	for i, s := range list {
		size := s.end - s.start + 1
		// a comment goes with what stands right below it
		note := i > 0 && list[i-1].end+1 == s.start && noted(b.text.line(list[i-1].start)) && list[i-1].start >= run.start
		if size > b.leaf {
			if note {
				run.end = list[i-1].start - 1
				flush()
				s.start = list[i-1].start
			} else {
				flush()
			}
			n.kids = append(n.kids, b.block(list[i], s.start, depth))
			run = statement{start: s.end + 1, end: s.end}
			continue
		}
		length := run.end - run.start + 1
		if parted := run.end+1 < s.start; length > 0 && !note && (parted && length >= least || s.end-run.start+1 > b.leaf) {
			flush()
			run.start = s.start
		}
		if length == 0 {
			run.start = s.start
		}
		run.end = s.end
	}
	flush()
}

// split cuts lines a..b into statements; both ends hold text.
func (b *builder) split(from, to int) []statement {
	base := -1
	for n := from; n <= to; n++ {
		if c := b.text.column(n); c >= 0 && (base < 0 || c < base) {
			base = c
		}
	}
	list := []statement{{from, from}}
	for n := from + 1; n <= to; n++ {
		if b.text.blank(n) {
			continue
		}
		last := &list[len(list)-1]
		if b.text.column(n) > base || continues(b.text.line(n)) {
			last.end = n
			continue
		}
		list = append(list, statement{n, n})
	}
	return list
}

// block is a statement too long for a run: its own lines stay, what is indented
// below them becomes regions. Comments from start on stand above it.
func (b *builder) block(s statement, start, depth int) *node {
	n := &node{Region: Region{Kind: OfBlock, Start: start, End: s.end, Tell: s.start, Symbol: -1}, inner: s.start + 1, innerEnd: s.end}
	base := b.text.column(s.start)
	deep := 0 // first line of the indented ones at hand; 0: none
	for at := s.start + 1; at <= s.end+1; at++ {
		inside := at <= s.end && (b.text.blank(at) || b.text.column(at) > base)
		switch {
		case inside && deep == 0:
			deep = at
		case !inside && deep > 0:
			b.statements(n, deep, at-1, depth+1)
			deep = 0
		}
	}
	b.absorb(n)
	return n
}

// cut makes runs of lines a..b, as they come, each about as long as the others.
func (b *builder) cut(n *node, from, to int) {
	total := to - from + 1
	pieces := (total + b.leaf - 1) / b.leaf
	for i := range pieces {
		start, end := from+i*total/pieces, from+(i+1)*total/pieces-1
		if end-start+1 >= least {
			n.kids = append(n.kids, &node{Region: Region{Kind: OfRun, Start: start, End: end, Tell: b.text.telling(start, end), Symbol: -1}})
		}
	}
}
