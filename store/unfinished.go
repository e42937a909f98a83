package store

import (
	"sort"
	"time"

	"juxtagram/survey"
)

// WordSum counts the tagged comments with one word, by how long before the pin
// they were written.
type WordSum struct {
	Word     string     `json:"word"`
	Meaning  string     `json:"meaning"`
	Count    int        `json:"count"`
	Quarter  int        `json:"quarter" doc:"Written within 90 days before the pin"`
	Year     int        `json:"year" doc:"Within a year, and not in the last 90 days"`
	Older    int        `json:"older"`
	Undated  int        `json:"undated" doc:"The history does not tell"`
	OldestAt *time.Time `json:"oldest_at"`
	Path     string     `json:"path" doc:"Of the oldest; empty: none is dated"`
	Line     int        `json:"line"`
}

// wordSums counts tagged comments by word, most first.
func wordSums(r *survey.Result) []WordSum {
	now := int64(0)
	if r.Log != nil {
		now = r.Log.Time()
	}
	sums := map[string]*WordSum{}
	oldest := map[string]int64{}
	for i := range r.Files {
		f := &r.Files[i]
		if f.Facts == nil {
			continue
		}
		for n, t := range f.Facts.Tagged {
			w := sums[t.Word]
			if w == nil {
				w = &WordSum{Word: t.Word, Meaning: r.Words.Meaning(t.Word)}
				sums[t.Word] = w
			}
			w.Count++
			at := int64(0)
			if r.Lives != nil && r.Lives[i] != nil && r.Lives[i][n].Born != nil {
				at = r.Lives[i][n].Born.CommitTime
			}
			switch age := now - at; {
			case at == 0:
				w.Undated++
				continue
			case age <= 90*24*60*60:
				w.Quarter++
			case age <= year:
				w.Year++
			default:
				w.Older++
			}
			if oldest[t.Word] == 0 || at < oldest[t.Word] {
				oldest[t.Word] = at
				w.OldestAt, w.Path, w.Line = instant(at), valid(f.Path), t.Line
			}
		}
	}
	out := []WordSum{}
	for _, w := range sums {
		out = append(out, *w)
	}
	sort.Slice(out, func(i, j int) bool {
		if out[i].Count != out[j].Count {
			return out[i].Count > out[j].Count
		}
		return out[i].Word < out[j].Word
	})
	return out
}
