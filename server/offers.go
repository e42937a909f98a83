package server

import (
	"context"
	"slices"
	"strconv"
	"strings"
	"time"

	"juxtagram/core/gitlog"
)

// OfferInfo is a term that a typed text may mean.
type OfferInfo struct {
	Key    string `json:"key"`
	Value  string `json:"value"`
	Says   string `json:"says" doc:"With %s for the value"`
	Fits   int    `json:"fits" doc:"Commits that would be left with it; -1: found by reading the changes"`
	Detail string `json:"detail" doc:"What to know of the value; empty: nothing"`
}

// How many values of a key are offered, and in all.
const (
	offersOfKey = 6
	maxOffers   = 24
)

func (s *Server) logOffers(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Terms
	Text string `query:"text" maxLength:"300" doc:"What is typed so far; empty: what there is"`
	Key  string `query:"key" maxLength:"30" doc:"Only values of this key"`
}) (*body[[]OfferInfo], error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	text := strings.TrimSpace(in.Text)
	out := []OfferInfo{}
	add := func(key, value, detail string) {
		if in.Key != "" && in.Key != key || slices.Contains(in.Keep, key+":"+value) {
			return
		}
		k := gitlog.KeyOf(key)
		o := OfferInfo{Key: key, Value: value, Says: k.Says, Fits: -1, Detail: detail}
		if !k.Slow {
			sel, problems := s.narrowed(ctx, w, l, append(in.terms(), gitlog.Term{Key: key, Value: value}))
			if problems != nil || len(sel.Commits) == 0 {
				return // nothing is offered that leads to nothing
			}
			o.Fits = len(sel.Commits)
		}
		out = append(out, o)
	}
	small := strings.ToLower(text)
	if !l.hidden {
		offerPeople(l, small, add)
	}
	n := map[string]int{}
	for _, r := range l.Refs {
		if n[r.Kind] < offersOfKey && strings.Contains(strings.ToLower(r.Name), small) {
			n[r.Kind]++
			add(r.Kind, r.Name, "")
		}
	}
	offerDates(l, text, add)
	if text == "" || strings.HasPrefix("merges", small) {
		add("is", "merge", "")
	}
	if text != "" {
		for _, p := range l.PathsLike(text, offersOfKey) {
			add("path", p, "")
		}
		if _, err := strconv.Atoi(strings.Trim(text, "-")); err == nil {
			add("lines-changed", text, "lines added and taken away")
			add("files-changed", text, "files")
		}
		add("message", text, "")
		add("lines", text, "the changes themselves are read; hits come as they are found")
		if len(out) < maxOffers && (in.Key == "" || in.Key == "symbol") && len(text) >= 2 {
			s.offerSymbols(ctx, w, text, add)
		}
	}
	return answer(out[:min(len(out), maxOffers)]), nil
}

func offerPeople(l *heldLog, text string, add func(key, value, detail string)) {
	n := 0
	for i := range l.People.List {
		p := &l.People.List[i]
		if n == offersOfKey {
			return
		}
		if strings.Contains(strings.ToLower(p.Name), text) || (text != "" && strings.Contains(strings.ToLower(p.Email), text)) {
			n++
			add("by", p.Name, "")
		}
	}
}

// offerDates offers a date that is typed, or, of nothing, the last years.
func offerDates(l *heldLog, text string, add func(key, value, detail string)) {
	if text == "" {
		if l.Pin >= 0 {
			year := time.Unix(l.Times[l.Pin], 0).UTC().Year()
			add("from", strconv.Itoa(year), "")
			add("to", strconv.Itoa(year-1), "")
		}
		return
	}
	if _, _, err := gitlog.Span(text); err == nil {
		add("from", text, "")
		add("to", text, "")
	}
}

// offerSymbols offers names of the pin; how many commits touched one is found
// when it is chosen.
func (s *Server) offerSymbols(ctx context.Context, w *who, text string, add func(key, value, detail string)) {
	whole, _ := s.wholeNow(ctx, w, "")
	if whole == nil {
		return
	}
	files, symbols, err := whole.Names.Called(text, offersOfKey)
	if err != nil {
		return
	}
	for n, f := range files {
		if x, err := whole.Names.Symbol(f, symbols[n]); err == nil && x != nil {
			add("symbol", whole.Files[f].Path+"#"+valid(x.Qualified), "its lines at the pin, followed back")
		}
	}
}
