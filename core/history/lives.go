package history

import (
	"juxtagram/core/repo"
	"juxtagram/core/tagged"
)

// Comment is a tagged comment of the pin, as its history is asked for.
type Comment struct {
	Line int // from 1
	Word string
	Said string
}

// Life is what the history tells of one tagged comment.
type Life struct {
	Path  string // where it stands, or stood last
	Line  int    // there; of one that is gone, in the text before it went
	Word  string
	Said  string  // as it reads, or read last
	Born  *Commit // that wrote it first; nil: the history does not tell
	Last  *Commit // that wrote it as it reads; nil: the history does not tell
	Gone  *Commit // that took it away; nil: it is still there
	Edits int     // how often it was put otherwise
}

// Lives tells when each tagged comment of the pin was first written, and which
// there were that are gone. comments are those of each path; language gives a
// path's language, "" where it has none.
//
// It steps back through the lines that were kept of every change, newest commit
// first. A comment is recognised by what it says: a commit that takes away and
// adds the same words has moved it, one that takes away and adds the same word
// in one run of lines has put it otherwise. No line number is carried from one
// commit to the next, so branches that changed a file side by side do no harm.
// Whether a line that is gone stood in a comment is judged by that line alone;
// merges are passed over, as in all of this package.
func (l *Log) Lives(paths []string, comments [][]Comment, words *tagged.Words, language func(path string) string) (there [][]Life, gone []Life) {
	t := &tracer{words: words, language: language, at: map[string][]*trail{}, added: pool{}, removed: pool{}, behind: map[string][]*trail{}}
	there = make([][]Life, len(paths))
	all := make([][]*trail, len(paths))
	for i, p := range paths {
		for _, c := range comments[i] {
			w := &trail{life: Life{Path: p, Line: c.Line, Word: c.Word, Said: c.Said}, word: c.Word, same: tagged.Same(c.Said), line: int32(c.Line)}
			all[i] = append(all[i], w)
			t.at[p] = append(t.at[p], w)
		}
	}
	for _, c := range l.Commits {
		if len(c.Changes) > 0 {
			t.step(c)
		}
	}
	for i := range all {
		for _, w := range all[i] {
			there[i] = append(there[i], w.life)
		}
	}
	// what two branches took away was there once: only one of them finds its birth
	for _, w := range t.gone {
		if w.life.Born != nil || len(l.shallow) > 0 {
			gone = append(gone, w.life)
		}
	}
	return there, gone
}

// trail follows one comment into the past.
type trail struct {
	life Life
	word string
	same string
	line int32
}

type tracer struct {
	words    *tagged.Words
	language func(path string) string
	at       map[string][]*trail // by the path at this point of the past
	gone     []*trail
	// of the commit at hand
	added, removed pool
	behind         map[string][]*trail // by the path before it
}

// event is a word on a line that a commit added or took away.
type event struct {
	change int
	hunk   int
	line   int32
	word   string
	said   string
	same   string
	sure   bool // the line tells that it stands in a comment
	used   bool
}

// pool are events by what they are looked for by.
type pool map[poolKey][]*event

// poolKey is a change or -1 for any, a run of lines or -1 for any, and either
// what is said or the word alone.
type poolKey struct {
	change, hunk int
	text         string
}

func (p pool) add(e *event) {
	for _, k := range []poolKey{{e.change, -1, e.same}, {-1, -1, e.same}, {e.change, e.hunk, e.word}} {
		p[k] = append(p[k], e)
	}
}

// take picks the event nearest to a line that is not used, and marks it used;
// nil: none.
func (p pool) take(k poolKey, line int32) *event {
	var best *event
	far := int32(0)
	for _, e := range p[k] {
		if d := max(e.line-line, line-e.line); !e.used && (best == nil || d < far) {
			best, far = e, d
		}
	}
	if best != nil {
		best.used = true
	}
	return best
}

// events reads the kept lines of a commit's changes, those that it took away
// also in their order.
func (t *tracer) events(c *Commit) (away []*event) {
	t.added, t.removed = emptied(t.added), emptied(t.removed)
	for n := range c.Changes {
		ch := &c.Changes[n]
		if len(ch.Kept) == 0 {
			continue
		}
		language := t.language(ch.Path)
		for _, k := range ch.Kept {
			line := []byte(k.Text)
			var sure map[string]bool
			if k.Removed {
				sure = map[string]bool{}
				for _, h := range t.words.OnLine(language, line) {
					sure[h.Word] = true
				}
			}
			for _, h := range t.words.In(line) {
				e := &event{change: n, hunk: hunkOf(ch.Hunks, k), line: k.Line, word: h.Word, said: h.Said, same: tagged.Same(h.Said), sure: sure[h.Word]}
				if k.Removed {
					t.removed.add(e)
					away = append(away, e)
				} else {
					t.added.add(e)
				}
			}
		}
	}
	return away
}

// emptied is a map that holds nothing: the same, if it does. One that held much is
// not cleared, which would take as long for each commit to come.
func emptied[M ~map[K]V, K comparable, V any](m M) M {
	if len(m) == 0 {
		return m
	}
	return M{}
}

// hunkOf is the hunk that a kept line is part of.
func hunkOf(hunks []repo.Hunk, k repo.Kept) int {
	for i, h := range hunks {
		start, count := h.NewStart, h.NewCount
		if k.Removed {
			start, count = h.OldStart, h.OldCount
		}
		if k.Line >= start && k.Line < start+count {
			return i
		}
	}
	return -1
}

// step takes every trail behind one commit.
func (t *tracer) step(c *Commit) {
	away := t.events(c)
	t.behind = emptied(t.behind)
	for n := range c.Changes {
		ch := &c.Changes[n]
		if ch.Status != 'A' && len(ch.Kept) == 0 && before(ch) == ch.Path {
			continue // nothing was said here: what stood at the path did so before
		}
		trails := t.at[ch.Path]
		delete(t.at, ch.Path)
		for _, w := range trails {
			e := t.added.take(poolKey{n, -1, w.same}, w.line)
			switch {
			case e != nil:
				t.written(c, w, e)
			case ch.Status == 'A' && w.life.Gone == nil:
				w.born(c) // the file begins here, though the line was not recognised
			default:
				t.behind[before(ch)] = append(t.behind[before(ch)], w)
			}
		}
	}
	for _, e := range away {
		if e.used || !e.sure {
			continue
		}
		ch := &c.Changes[e.change]
		w := &trail{life: Life{Path: before(ch), Line: int(e.line), Word: e.word, Said: e.said, Gone: c}, word: e.word, same: e.same, line: e.line}
		t.gone = append(t.gone, w)
		t.behind[before(ch)] = append(t.behind[before(ch)], w)
	}
	for p, trails := range t.behind {
		t.at[p] = append(t.at[p], trails...)
	}
}

// written deals with a comment that a commit wrote as it reads: it may have
// stood elsewhere, or read otherwise, before.
func (t *tracer) written(c *Commit, w *trail, e *event) {
	if w.life.Last == nil {
		w.life.Last = c
	}
	from := t.removed.take(poolKey{e.change, -1, w.same}, e.line)
	if from == nil {
		from = t.removed.take(poolKey{-1, -1, w.same}, e.line)
	}
	if from == nil {
		from = t.removed.take(poolKey{e.change, e.hunk, w.word}, e.line)
		if from != nil {
			w.life.Edits++
		}
	}
	if from == nil {
		w.born(c)
		return
	}
	w.word, w.same, w.line = from.word, from.same, from.line
	p := before(&c.Changes[from.change])
	t.behind[p] = append(t.behind[p], w)
}

func (w *trail) born(c *Commit) {
	w.life.Born = c
	if w.life.Last == nil {
		w.life.Last = c
	}
}

// before is a change's path before the commit.
func before(ch *repo.Change) string {
	if ch.Status == 'R' {
		return ch.OldPath
	}
	return ch.Path
}
