package place

// Spot is where lines stand.
type Spot struct {
	Path  string `json:"path"`
	Start int    `json:"start"` // from 1
	End   int    `json:"end"`   // included
}

// Image is what became of some lines.
type Image struct {
	Spot
	What State
	Like float64 // how much of it reads as it did, 0..1
}

// Lines tells where the old lines start..end (from 1, both included) stand in
// the new texts. Where they are gone, What is Gone and the spot the line around
// which they stood.
func (m *Mapping) Lines(start, end int) Image {
	start, end = max(1, start), min(end, len(m.lines))
	// the text in which most of it stands
	votes := map[*Mapping]float64{}
	all := 0.0
	for i := start - 1; i < end; i++ {
		w := 0.2 + telling(m.Old.Lines[i])
		all += w
		if x := m.lines[i]; x.in != nil {
			votes[x.in] += w * x.like
		}
	}
	var in *Mapping
	for _, x := range m.lines[max(0, start-1):max(start-1, end)] {
		if x.in != nil && (in == nil || votes[x.in] > votes[in]) {
			in = x.in
		}
	}
	if in == nil {
		return Image{Spot: m.around(start), What: Gone}
	}
	img := Image{Spot: Spot{Path: in.New.Path}, Like: votes[in] / all}
	first, last := m.cluster(in, start-1, end)
	img.Start, img.End = first+1, last+1
	whole := last-first == end-start
	for i := start - 1; i < end && whole; i++ {
		x := m.lines[i]
		whole = x.in == in && int(x.line) == first+i-(start-1) && m.Old.Lines[i] == in.New.Lines[x.line]
	}
	switch {
	case img.Like < keepsEnough:
		return Image{Spot: m.around(start), What: Gone, Like: img.Like}
	case whole && in == m && first == start-1:
		img.What = Same
	case whole:
		img.What = Moved
	default:
		img.What = Changed
	}
	return img
}

// keepsEnough is how much of some lines must be left for them to be there.
const keepsEnough = 0.3

// cluster is the run of lines of a text, from 0, in which most of the images of
// the old lines start..end-1 stand: one of a line far off does not stretch it.
func (m *Mapping) cluster(in *Mapping, start, end int) (first, last int) {
	type point struct {
		line   int
		weight float64
	}
	var points []point
	for i := start; i < end; i++ {
		if x := m.lines[i]; x.in == in {
			points = append(points, point{int(x.line), (0.2 + telling(m.Old.Lines[i])) * x.like})
		}
	}
	best := 0.0
	for n := 0; n < len(points); {
		sum, low, high := points[n].weight, points[n].line, points[n].line
		k := n + 1
		for k < len(points) && points[k].line > high && points[k].line-high <= reachOf(end-start) {
			sum, high = sum+points[k].weight, points[k].line
			k++
		}
		if sum > best {
			best, first, last = sum, low, high
		}
		n = k
	}
	return first, last
}

// reachOf is how many lines may have come between two lines of a range for
// them to be one range still.
func reachOf(lines int) int { return 20 + 2*lines }

// around is the line of the new text at which a line stood that is gone.
func (m *Mapping) around(line int) Spot {
	for i := line - 2; i >= 0; i-- {
		if x := m.lines[i]; x.in == m {
			return Spot{m.New.Path, int(x.line) + 1, int(x.line) + 1}
		}
	}
	return Spot{m.New.Path, 1, 1}
}
