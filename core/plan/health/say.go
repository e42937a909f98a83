package health

import (
	"fmt"

	"juxtagram/core/follow"
	"juxtagram/core/place"
	"juxtagram/core/plan"
)

// reasons are why something is gone, in words.
var reasons = map[string]string{
	string(place.LinesDeleted):  "its lines were taken away",
	string(place.FileDeleted):   "its file was taken away",
	string(place.FileAbsent):    "it is not there",
	string(place.NoText):        "the file has no text there",
	string(place.TextNotFound):  "its text is not found",
	string(follow.CommitAbsent): "the repository does not have the commit it is read at",
}

// Says tells what became of a place in one phrase.
func (f *Finding) Says() string {
	was := named(f.Was)
	switch f.What {
	case plan.Gone:
		said := was + ": " + reasons[f.Reason]
		if f.ReasonCommit != "" {
			said += fmt.Sprintf(" in %.10s", f.ReasonCommit)
		}
		if len(f.Candidates) > 0 {
			c := f.Candidates[0]
			said += "; perhaps " + named(plan.Stretch{Path: c.Path, Start: c.Start, End: c.End})
		}
		return said
	case plan.Same:
		return was
	}
	if now := named(f.Now); now != was {
		was += " → " + now
	}
	switch {
	case f.What == plan.Changed && f.Like > 1-1e-9:
		was += ": all of it is there, with more"
	case f.What == plan.Changed:
		was += fmt.Sprintf(": %.0f %% reads as it did", 100*f.Like)
	}
	return was
}

// named is a place as people write it.
func named(s plan.Stretch) string {
	switch {
	case s.Path == "":
		return fmt.Sprintf("commit %.10s", s.Commit)
	case s.Start == 0:
		return s.Path
	case s.Start == s.End:
		return fmt.Sprintf("%s:%d", s.Path, s.Start)
	}
	return fmt.Sprintf("%s:%d-%d", s.Path, s.Start, s.End)
}
