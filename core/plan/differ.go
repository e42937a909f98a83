package plan

import "slices"

// Change is what became of one passage, chapter or idea between two states.
type Change struct {
	ID     string   `json:"id"`
	Kind   string   `json:"kind" enum:"chapter,passage,idea"`
	What   string   `json:"what" enum:"new,gone,changed,moved"`
	Title  string   `json:"title"`
	Fields []string `json:"fields"` // of what changed
}

// Differ tells what changed from one state to another: what there is now in
// reading order, then what is gone, in the order it was in.
func Differ(from, to *State) []Change {
	out := []Change{}
	add := func(c Change) {
		if c.Fields == nil {
			c.Fields = []string{}
		}
		out = append(out, c)
	}
	was, now := from.InOrder(), to.InOrder()
	staying := stays(was, now)
	for _, c := range now {
		old := from.Chapters[c.ID]
		switch {
		case old == nil || old.Removed:
			add(Change{ID: c.ID, Kind: "chapter", What: "new", Title: c.Title})
		default:
			if fields := changed(chapterFields, old, &c.Chapter); fields != nil {
				add(Change{ID: c.ID, Kind: "chapter", What: "changed", Title: c.Title, Fields: fields})
			}
		}
		for i := range c.Passages {
			p := &c.Passages[i]
			x := Change{ID: p.ID, Kind: "passage", Title: p.Title}
			old := from.Passage(p.ID)
			if old == nil {
				x.What = "new"
				add(x)
				continue
			}
			x.Fields = changed(passageFields, old, p)
			if !slices.Equal(old.Needs, p.Needs) {
				x.Fields = append(x.Fields, "needs")
			}
			if x.Fields != nil {
				x.What = "changed"
			} else if !staying[p.ID] {
				x.What = "moved"
			}
			if x.What != "" {
				add(x)
			}
		}
	}
	for _, i := range to.IdeasInOrder() {
		if old := from.Ideas[i.ID]; old == nil || old.Removed {
			add(Change{ID: i.ID, Kind: "idea", What: "new", Title: i.Name})
		} else if fields := changed(ideaFields, old, &i); fields != nil {
			add(Change{ID: i.ID, Kind: "idea", What: "changed", Title: i.Name, Fields: fields})
		}
	}
	for _, c := range was {
		if x := to.Chapters[c.ID]; x == nil || x.Removed {
			add(Change{ID: c.ID, Kind: "chapter", What: "gone", Title: c.Title})
		}
		for _, p := range c.Passages {
			if to.Passage(p.ID) == nil {
				add(Change{ID: p.ID, Kind: "passage", What: "gone", Title: p.Title})
			}
		}
	}
	for _, i := range from.IdeasInOrder() {
		if x := to.Ideas[i.ID]; x == nil || x.Removed {
			add(Change{ID: i.ID, Kind: "idea", What: "gone", Title: i.Name})
		}
	}
	return out
}

// changed names the fields in which two values differ.
func changed[T any](fields []field[T], a, b *T) []string {
	var out []string
	for _, f := range fields {
		if f.get(a) != f.get(b) {
			out = append(out, f.name)
		}
	}
	return out
}

// stays are the passages that kept their place among those that are in both:
// the longest run of them that is in the same order in both, and in the same
// chapter.
func stays(was, now []ChapterInOrder) map[string]bool {
	at, in := map[string]int{}, map[string]string{}
	for _, c := range was {
		for _, p := range c.Passages {
			at[p.ID], in[p.ID] = len(at), c.ID
		}
	}
	type link struct {
		id   string
		back int
	}
	var links []link // of all passages looked at
	var tails []int  // link that ends the best run of each length
	for _, c := range now {
		for _, p := range c.Passages {
			n, ok := at[p.ID]
			if !ok || in[p.ID] != c.ID {
				continue
			}
			k, _ := slices.BinarySearchFunc(tails, n, func(l, n int) int { return at[links[l].id] - n })
			back := -1
			if k > 0 {
				back = tails[k-1]
			}
			links = append(links, link{p.ID, back})
			if k == len(tails) {
				tails = append(tails, len(links)-1)
			} else {
				tails[k] = len(links) - 1
			}
		}
	}
	out := map[string]bool{}
	if len(tails) > 0 {
		for l := tails[len(tails)-1]; l >= 0; l = links[l].back {
			out[links[l].id] = true
		}
	}
	return out
}
