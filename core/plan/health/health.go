// Package health tells what became of a plan's passages at another commit than the
// one at which they are read.
package health

import (
	"context"
	"errors"

	"juxtagram/core/follow"
	"juxtagram/core/place"
	"juxtagram/core/plan"
)

// Report is what became of one passage.
type Report struct {
	Passage string      `json:"passage"`
	What    string      `json:"what" enum:"same,moved,changed,gone"`
	Target  plan.Target `json:"target" doc:"At the new commit; of one that is gone, as it is"`
	Drafted string      `json:"drafted" doc:"What goes with the new target where nobody changed the passage since it was drafted"`
	Places  []Finding   `json:"places"`
}

// Finding is what became of one file, folder or stretch of lines.
type Finding struct {
	What         string            `json:"what" enum:"same,moved,changed,gone"`
	Was          plan.Stretch      `json:"was"`
	Now          plan.Stretch      `json:"now"`
	Like         float64           `json:"like" doc:"How much of it reads as it did, 0 to 1"`
	Reason       string            `json:"reason" doc:"Why it is gone"`
	ReasonCommit string            `json:"reason_commit" doc:"That took it away; empty: not known"`
	Candidates   []place.Candidate `json:"candidates" doc:"Where it may be, the likeliest first"`
}

// Find finds out what became of each of a target's places at the commit that is
// followed to; of one that stays at its commit, only what is lost.
func Find(ctx context.Context, to *follow.Follower, t *plan.Target) ([]Finding, error) {
	out := []Finding{}
	if !t.Follows() {
		for _, id := range []string{t.Commit, t.Base} {
			there, err := to.Has(ctx, id)
			if err != nil {
				return nil, err
			}
			if id != "" && !there {
				out = append(out, Finding{What: plan.Gone, Was: plan.Stretch{Path: t.Path, Commit: id}, Reason: string(follow.CommitAbsent), Candidates: []place.Candidate{}})
			}
		}
		return out, nil
	}
	for _, was := range t.Places() {
		o, err := stretch(ctx, to, t, was)
		if err != nil {
			return nil, err
		}
		f := Finding{string(o.What), was, plan.Stretch{Path: o.Path, Start: o.Start, End: o.End, Commit: to.Commit()}, o.Like, string(o.Reason), o.Commit, o.Candidates}
		if f.Candidates == nil {
			f.Candidates = []place.Candidate{}
		}
		out = append(out, f)
	}
	return out, nil
}

// Of is the report on a passage, given what became of its places at a commit.
func Of(x *plan.Passage, commit string, places []Finding) Report {
	r := Report{Passage: x.ID, What: plan.Same, Target: x.Target, Places: places}
	var now []plan.Stretch
	for _, f := range places {
		r.What = plan.Worst(r.What, f.What)
		now = append(now, f.Now)
	}
	if r.What != plan.Gone {
		r.Target = x.Target.At(commit, now)
	}
	if !x.ByHand() {
		moved := *x
		moved.Target = r.Target
		r.Drafted = moved.Print()
	}
	return r
}

// stretch finds one place of a target.
func stretch(ctx context.Context, to *follow.Follower, t *plan.Target, was plan.Stretch) (place.Outcome, error) {
	if there, err := to.Has(ctx, was.Commit); err != nil || !there {
		return lost(to, was), err
	}
	if was.Start == 0 && t.Kind != plan.Folder {
		return to.Whole(ctx, was.Commit, was.Path)
	}
	p := &follow.Point{Kind: follow.Lines, Commit: was.Commit, Path: was.Path, Start: was.Start, End: was.End}
	switch {
	case t.Kind == plan.Folder:
		p.Kind = follow.Folder
		return to.Point(ctx, p)
	case t.Kind == plan.Symbol || t.Kind == plan.Extract && t.Symbol != "":
		p.Kind, p.Symbol = follow.Symbol, t.Symbol
	}
	text, err := to.Text(was.Commit, was.Path)
	if err == nil && was.End <= len(text.Lines) {
		p.Quote = place.QuoteOf(text, was.Start, was.End)
	} else if err != nil && !errors.Is(err, place.ErrNoText) {
		return place.Outcome{}, err
	}
	return to.Point(ctx, p)
}

// lost is a place whose commit the repository does not have; where it has a file of
// that name, and as many lines, it may be meant.
func lost(to *follow.Follower, was plan.Stretch) place.Outcome {
	o := place.Outcome{Image: place.Image{What: place.Gone}, Reason: follow.CommitAbsent}
	text, err := to.Text(to.Commit(), was.Path)
	if err == nil && was.End <= len(text.Lines) {
		o.Candidates = []place.Candidate{{Spot: place.Spot{Path: was.Path, Start: was.Start, End: was.End}, Why: "path"}}
	}
	return o
}
