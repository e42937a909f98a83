package health

import (
	"encoding/json"
	"fmt"
	"io"
	"net/url"
	"path/filepath"

	"juxtagram/core/plan"
)

// rules are what results of a check are about, as SARIF 2.1.0 names them.
var rules = []sarifRule{
	{"passage-moved", sarifText{"A passage of the reading plan stands elsewhere"}},
	{"passage-changed", sarifText{"A passage of the reading plan reads otherwise"}},
	{"passage-gone", sarifText{"A passage of the reading plan is not there any more"}},
}

type sarifText struct {
	Text string `json:"text"`
}

type sarifRule struct {
	ID    string    `json:"id"`
	Short sarifText `json:"shortDescription"`
}

type sarifResult struct {
	Rule      string          `json:"ruleId"`
	Level     string          `json:"level"`
	Message   sarifText       `json:"message"`
	Locations []sarifLocation `json:"locations"`
}

type sarifLocation struct {
	Physical struct {
		Artifact struct {
			URI string `json:"uri"`
		} `json:"artifactLocation"`
		Region *sarifRegion `json:"region,omitempty"`
	} `json:"physicalLocation"`
}

type sarifRegion struct {
	Start int `json:"startLine"`
	End   int `json:"endLine"`
}

// WriteSARIF writes checks of plans, by the path of each plan's file, as one run of
// SARIF 2.1.0: a result for each place that is not as it was, at the code, or where
// that is gone at the plan's file. Those of stale passages are warnings, others notes.
func WriteSARIF(w io.Writer, files []string, checks []*Check, m *Measure) error {
	results := []sarifResult{}
	for i, c := range checks {
		for k := range c.Passages {
			p := &c.Passages[k]
			for n := range p.Places {
				if f := &p.Places[n]; f.What != plan.Same {
					results = append(results, result(files[i], p, f, m))
				}
			}
		}
	}
	enc := json.NewEncoder(w)
	enc.SetIndent("", " ")
	enc.SetEscapeHTML(false)
	return enc.Encode(map[string]any{
		"version": "2.1.0",
		"runs": []any{map[string]any{
			"tool":    map[string]any{"driver": map[string]any{"name": "juxtagram", "rules": rules}},
			"results": results,
		}},
	})
}

func result(file string, p *Checked, f *Finding, m *Measure) sarifResult {
	r := sarifResult{Rule: "passage-" + f.What, Level: "note", Message: sarifText{fmt.Sprintf("Passage %d, %s: %s", p.Number, p.Title, f.Says())}}
	if m.Stale(&p.Report) {
		r.Level = "warning"
	}
	at := sarifLocation{}
	at.Physical.Artifact.URI = address(filepath.ToSlash(file))
	if f.What != plan.Gone {
		at.Physical.Artifact.URI = address(f.Now.Path)
		if f.Now.Start > 0 {
			at.Physical.Region = &sarifRegion{f.Now.Start, f.Now.End}
		}
	}
	r.Locations = []sarifLocation{at}
	return r
}

// address is a path as a URI has it.
func address(path string) string { return (&url.URL{Path: path}).EscapedPath() }
