package lang

import "sort"

// regions finds what can be folded beyond bodies: blocks of imports, the
// licence header, comments of several lines, groups of fields.
func (c *collector) regions(text []byte) {
	c.importBlocks()
	for k := len(c.Comments) - 1; k >= 0; {
		first := c.group(k)
		if from, to := c.notes[first], c.notes[k]; from.alone && to.last > from.line {
			kind := CommentBlock
			if from.line <= 5 && ofRights(text[c.Comments[first].Start:c.Comments[k].End]) {
				kind = LicenceHeader
			}
			c.region(kind, from.line, to.last)
		}
		k = first - 1
	}
	c.fieldGroups()
	sort.Slice(c.Regions, func(i, j int) bool {
		a, b := c.Regions[i], c.Regions[j]
		if a.Start != b.Start {
			return a.Start < b.Start
		}
		if a.End != b.End {
			return a.End > b.End
		}
		return a.Kind < b.Kind
	})
	out := c.Regions[:0]
	for i, r := range c.Regions {
		if i == 0 || r != c.Regions[i-1] {
			out = append(out, r)
		}
	}
	c.Regions = out
}

// importBlocks joins imports that at most one line keeps apart.
func (c *collector) importBlocks() {
	start, end := 0, 0
	for _, i := range c.Imports {
		if start > 0 && i.Line-end <= 2 {
			end = max(end, i.EndLine)
			continue
		}
		c.region(ImportBlock, start, end)
		start, end = i.Line, i.EndLine
	}
	c.region(ImportBlock, start, end)
}

// leastFields is how many fields make a group.
const leastFields = 3

// fieldGroups joins members that hold values and follow each other closely.
func (c *collector) fieldGroups() {
	type run struct{ count, start, end int }
	runs := map[int]*run{}
	close := func(r *run) {
		if r != nil && r.count >= leastFields {
			c.region(FieldGroup, r.start, r.end)
		}
	}
	for _, s := range c.Outline {
		r := runs[s.Parent]
		if !s.Kind.value() {
			close(r)
			delete(runs, s.Parent)
			continue
		}
		if r != nil && s.Start-r.end <= 2 {
			r.count, r.end = r.count+1, max(r.end, s.End)
			continue
		}
		close(r)
		runs[s.Parent] = &run{1, s.Start, s.End}
	}
	for _, r := range runs {
		close(r)
	}
}
