package skim

import (
	"fmt"
	"io"
	"strings"
)

// Print writes what shows within a budget as text: each line behind its number,
// folded regions marked with "+" and what they hold.
func (s *Skim) Print(w io.Writer, content string, budget int) error {
	lines := newText(content).lines
	open, _ := s.Within(budget)
	digits := len(fmt.Sprint(s.Total))
	for _, row := range s.Rows(open) {
		mark, text, note := " ", strings.TrimRight(lines[row.Line-1], "\r"), ""
		if row.Folded > 0 {
			r := &s.Regions[row.Folded]
			mark, note = "+", "  … "+r.Note()
			if r.Tell == 0 {
				text, note = strings.Repeat(" ", max(0, indentOf(text)))+r.Note(), ""
			}
		}
		if _, err := fmt.Fprintf(w, "%*d %s %s%s\n", digits, row.Line, mark, text, note); err != nil {
			return err
		}
	}
	return nil
}

// Note tells what a folded region holds: how many lines, and what it is.
func (r *Region) Note() string {
	n := fmt.Sprintf("%d lines", r.End-r.Start+1)
	if r.Label == "" {
		return n
	}
	if r.Tell == 0 {
		return r.Label + " (" + n + ")"
	}
	return n + ": " + r.Label
}
