package place

// slide moves runs of lines that were added or taken away, where the text
// leaves a choice, to where a person would see them: a run begins where the
// indentation is least, at best behind an empty line. After Haggerty's rule in
// git's xdiff.
func (d *diff) slide(a, b *Text) {
	slideRuns(d.from, d.to, d.b, b.Lines)
	slideRuns(d.to, d.from, d.a, a.Lines)
}

// maxSlide is how far a run is moved at most.
const maxSlide = 100

// slideRuns moves the unmatched runs of one side. here matches its lines with
// those of the other, there the other way round.
func slideRuns(here, there []int32, ids []int32, lines []string) {
	for end := 0; end < len(here); {
		if here[end] >= 0 {
			end++
			continue
		}
		start := end
		for end < len(here) && here[end] < 0 {
			end++
		}
		best, score := 0, cost(lines, start, end)
		// up: the line above the run equals its last
		for up := 1; up <= maxSlide && start-up >= 0 && here[start-up] >= 0 && ids[start-up] == ids[end-up]; up++ {
			if c := cost(lines, start-up, end-up); c < score {
				best, score = -up, c
			}
		}
		for down := 1; down <= maxSlide && end+down-1 < len(here) && here[end+down-1] >= 0 && ids[end+down-1] == ids[start+down-1]; down++ {
			if c := cost(lines, start+down, end+down); c < score {
				best, score = down, c
			}
		}
		for ; best < 0; best++ {
			start, end = start-1, end-1
			move(here, there, start, end)
		}
		for ; best > 0; best-- {
			move(here, there, end, start)
			start, end = start+1, end+1
		}
		for end < len(here) && here[end] < 0 {
			end++
		}
	}
}

// move hands the match of one line to another that reads the same.
func move(here, there []int32, from, to int) {
	other := here[from]
	here[from], here[to] = -1, other
	there[other] = int32(to)
}

// cost is how odd it is that a run begins at a line and ends before another.
func cost(lines []string, start, end int) int {
	return oddity(lines, start) + oddity(lines, end)
}

// oddity is how odd it is to cut a text before a line.
func oddity(lines []string, at int) int {
	if at >= len(lines) || at == 0 {
		return 0
	}
	i := at
	for i < len(lines) && indent(lines[i]) < 0 {
		i++
	}
	c := 0
	if i < len(lines) {
		c = 4 * indent(lines[i])
	}
	switch {
	case indent(lines[at]) < 0:
		c += 3 // an empty line belongs to what stands above it
	case indent(lines[at-1]) >= 0:
		c += 2
	}
	if above := indent(lines[at-1]); above >= 0 && i == at && indent(lines[at]) < above && closes(lines[at]) {
		c += 6 // the end of what stands above
	}
	return c
}

// closes tells a line that does nothing but end a block.
func closes(line string) bool {
	for _, r := range line {
		switch r {
		case ' ', '\t', '}', ')', ']', ';', ',':
		default:
			return false
		}
	}
	return true
}

// indent is how far a line is indented, a tab counting as four; -1: it is empty.
func indent(line string) int {
	n := 0
	for _, r := range line {
		switch r {
		case ' ':
			n++
		case '\t':
			n += 4
		default:
			return n
		}
	}
	return -1
}
