package leads

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"sort"
	"strings"

	"juxtagram/core/history"
	"juxtagram/core/role"
	"juxtagram/core/tagged"
)

// Lead is anything the survey found worth reading.
type Lead struct {
	ID     string  `json:"id"` // 16 hexadecimal digits
	Kind   string  `json:"kind"`
	Path   string  `json:"path"`
	Line   *int    `json:"line"` // nil: the file as a whole
	Title  string  `json:"title"`
	Why    string  `json:"why"`
	Weight float64 `json:"weight"` // 0..1
	// Detail is what a list is narrowed by: the word of a tagged comment, the
	// kind of an entry point.
	Detail string `json:"-"`
}

// Input is what the detectors draw on.
type Input struct {
	Files       []File
	EntryPoints []EntryPoint
	Hotspots    []history.Hotspot
	Hubs        []Hub         // weightiest first
	Words       *tagged.Words // of the tagged comments; nil: those agreed everywhere
}

// Hub is a file that many others lean on.
type Hub struct {
	Path       string
	Dependents int
	Centrality float64
}

// Detector finds leads of one kind.
type Detector struct {
	Kind string
	Doc  string // one sentence for people
	Find func(Input) []draft
}

// draft is a lead whose id is still to be made from key.
type draft struct {
	Lead
	birth, symbol, text string
}

// Detectors are all detectors, in the order leads of equal weight are told.
var Detectors = []Detector{
	{"entry-point", "Where control or a reader comes in.", entryLeads},
	{"hotspot", "A file that is both large and often changed, recent changes weighing more.", hotspotLeads},
	{"hub", "A file that much of the repository leans on.", hubLeads},
	{"tagged-comment", "A comment that carries an agreed word.", taggedLeads},
}

// All runs every detector and returns the leads, best first.
func All(in Input) []Lead {
	if in.Words == nil {
		in.Words = tagged.Standard
	}
	ordinal := map[string]int{}
	var out []Lead
	for _, d := range Detectors {
		for _, x := range d.Find(in) {
			key := strings.Join([]string{d.Kind, x.birth, x.symbol, normal(x.text)}, "\x00")
			x.Kind = d.Kind
			x.ID = id(key, ordinal[key])
			ordinal[key]++
			out = append(out, x.Lead)
		}
	}
	sort.SliceStable(out, func(i, j int) bool {
		if out[i].Weight != out[j].Weight {
			return out[i].Weight > out[j].Weight
		}
		if out[i].Path != out[j].Path {
			return out[i].Path < out[j].Path
		}
		return line(out[i]) < line(out[j])
	})
	return out
}

func line(l Lead) int {
	if l.Line == nil {
		return 0
	}
	return *l.Line
}

func id(key string, ordinal int) string {
	sum := sha256.Sum256(fmt.Appendf(nil, "%s\x00%d", key, ordinal))
	return hex.EncodeToString(sum[:8])
}

// normal folds letter case and white space, so that reformatting a comment
// does not make another lead of it.
func normal(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), " ")) }

func births(in Input) map[string]string {
	m := make(map[string]string, len(in.Files))
	for _, f := range in.Files {
		m[f.Path] = f.Birth
	}
	return m
}

func entryLeads(in Input) []draft {
	birth := births(in)
	var out []draft
	for _, e := range in.EntryPoints {
		l := Lead{Path: e.Path, Title: e.Name, Why: e.Evidence, Weight: e.Weight, Detail: e.Kind}
		if e.Line > 0 {
			n := e.Line
			l.Line = &n
		}
		out = append(out, draft{Lead: l, birth: birth[e.Path], symbol: e.Kind, text: e.Name})
	}
	return out
}

func hotspotLeads(in Input) []draft {
	birth := births(in)
	var out []draft
	for _, h := range in.Hotspots {
		out = append(out, draft{Lead: Lead{Path: h.Path, Title: h.Path, Why: h.Reason, Weight: h.Score}, birth: birth[h.Path]})
	}
	return out
}

func hubLeads(in Input) []draft {
	birth := births(in)
	var out []draft
	for _, h := range in.Hubs {
		w := round(0.35 + 0.4*h.Centrality/in.Hubs[0].Centrality)
		out = append(out, draft{Lead: Lead{Path: h.Path, Title: h.Path, Why: fmt.Sprintf("%d files lean on it", h.Dependents), Weight: w}, birth: birth[h.Path]})
	}
	return out
}

// urgencyWeight says how pressing a tagged comment is.
var urgencyWeight = map[tagged.Urgency]float64{tagged.Pressing: 0.6, tagged.SomeDay: 0.4, tagged.ToKnow: 0.25}

func taggedLeads(in Input) []draft {
	var out []draft
	for _, f := range in.Files {
		if f.Facts == nil {
			continue
		}
		w := 1.0
		if f.Role == role.Vendored || f.Role == role.Generated {
			w = 0.3
		}
		for _, t := range f.Facts.Tagged {
			n := t.Line
			out = append(out, draft{
				Lead:  Lead{Path: f.Path, Line: &n, Title: t.Said, Why: t.Word + ": " + in.Words.Meaning(t.Word), Weight: round(urgencyWeight[in.Words.Of(t.Word).Urgency] * w), Detail: t.Word},
				birth: f.Birth, symbol: t.Word, text: t.Said,
			})
		}
	}
	return out
}
