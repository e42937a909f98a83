package server

import (
	"context"
	"errors"
	"net/http"
	"time"

	"juxtagram/core/place"
	"juxtagram/core/plan"
	"juxtagram/core/repo"
	"juxtagram/store"
)

// HealthInfo tells what became of a plan's passages at a commit.
type HealthInfo struct {
	Commit   string          `json:"commit" doc:"Where they were looked for"`
	Same     int             `json:"same"`
	Moved    int             `json:"moved"`
	Changed  int             `json:"changed"`
	Gone     int             `json:"gone"`
	Left     int             `json:"left" doc:"Passages that there was no time to look for"`
	Passages []PassageHealth `json:"passages" doc:"Those that are read at another commit, in reading order"`
}

// PassageHealth is what became of one passage.
type PassageHealth struct {
	Passage string        `json:"passage"`
	What    string        `json:"what" enum:"same,moved,changed,gone"`
	Target  plan.Target   `json:"target" doc:"At the new commit; of one that is gone, as it is"`
	Drafted string        `json:"drafted" doc:"What goes with the new target where nobody changed the passage since it was drafted"`
	Places  []PlaceHealth `json:"places"`
}

// PlaceHealth is what became of one file, folder or stretch of lines.
type PlaceHealth struct {
	What         string            `json:"what" enum:"same,moved,changed,gone"`
	Was          plan.Stretch      `json:"was"`
	Now          plan.Stretch      `json:"now"`
	Like         float64           `json:"like" doc:"How much of it reads as it did, 0 to 1"`
	Reason       string            `json:"reason" doc:"Why it is gone"`
	ReasonCommit string            `json:"reason_commit" doc:"That took it away; empty: not known"`
	Candidates   []place.Candidate `json:"candidates" doc:"Where it may be, the likeliest first"`
}

// healthTime is how long one request looks for places.
const healthTime = 5 * time.Second

func (s *Server) health(ctx context.Context, w *who, in *struct {
	PlanPath
	Edition string `query:"edition" maxLength:"10" doc:"A number, or draft; left out: what you read"`
	Commit  string `query:"commit" maxLength:"300" doc:"A commit, tag or branch; left out: the pin"`
}) (*body[HealthInfo], error) {
	v, err := s.viewOf(ctx, w, in.PlanPath, in.Edition)
	if err != nil {
		return nil, err
	}
	commit := w.repository.Pin
	if in.Commit != "" {
		if commit, err = s.jobs.Git(w.repository.ID).Resolve(ctx, in.Commit); err != nil {
			return nil, err
		}
	}
	find, err := s.placing(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	if find.log.At(commit) < 0 {
		return nil, problem(http.StatusConflict, "no-history", "the history of this commit is not read yet")
	}
	info := HealthInfo{Commit: commit, Passages: []PassageHealth{}}
	began := time.Now()
	for _, c := range v.state.InOrder() {
		for i := range c.Passages {
			x := &c.Passages[i]
			if x.Target.Commit == commit || !x.Target.Follows() {
				info.Same++
				continue
			}
			if time.Since(began) > healthTime {
				info.Left++
				continue
			}
			h, err := find.passage(ctx, x)
			if err != nil {
				return nil, err
			}
			*map[string]*int{plan.Same: &info.Same, plan.Moved: &info.Moved, plan.Changed: &info.Changed, plan.Gone: &info.Gone}[h.What]++
			info.Passages = append(info.Passages, *h)
		}
	}
	return answer(info), nil
}

// passage finds out what became of a passage at the commit.
func (p *placing) passage(ctx context.Context, x *plan.Passage) (*PassageHealth, error) {
	h := &PassageHealth{Passage: x.ID, What: plan.Same, Places: []PlaceHealth{}}
	var now []plan.Stretch
	for _, was := range x.Target.Places() {
		placed, err := p.stretch(ctx, &x.Target, was)
		if err != nil {
			return nil, err
		}
		there := plan.Stretch{Path: placed.Path, Start: placed.Start, End: placed.End, Commit: p.commit}
		candidates := placed.Candidates
		if candidates == nil {
			candidates = []place.Candidate{}
		}
		h.Places = append(h.Places, PlaceHealth{placed.What, was, there, placed.Like, placed.Reason, placed.ReasonCommit, candidates})
		h.What = plan.Worst(h.What, placed.What)
		now = append(now, there)
	}
	h.Target = x.Target
	if h.What != plan.Gone {
		h.Target = x.Target.At(p.commit, now)
	}
	if !x.ByHand() {
		moved := *x
		moved.Target = h.Target
		h.Drafted = moved.Print()
	}
	return h, nil
}

// stretch finds one place of a target.
func (p *placing) stretch(ctx context.Context, t *plan.Target, was plan.Stretch) (store.Placed, error) {
	on := &store.NoteTarget{Kind: store.OnLines, Commit: was.Commit, Path: was.Path, Start: was.Start, End: was.End}
	switch {
	case t.Kind == plan.Folder:
		on.Kind = store.OnFolder
	case was.Start == 0:
		return p.whole(ctx, on)
	case t.Kind == plan.Symbol || t.Kind == plan.Extract && t.Symbol != "":
		on.Kind, on.Symbol = store.OnSymbol, t.Symbol
	}
	text, err := p.text(was.Commit, was.Path)
	if err == nil && was.Start > 0 && was.End <= len(text.Lines) {
		on.Quote = place.QuoteOf(text, was.Start, was.End)
	} else if err != nil && !errors.Is(err, place.ErrNoText) {
		return store.Placed{}, err
	}
	return p.place(ctx, on)
}

// whole finds a file, and how much of it reads as it did.
func (p *placing) whole(ctx context.Context, t *store.NoteTarget) (store.Placed, error) {
	t.Kind = store.OnFile
	x, err := p.place(ctx, t)
	if err != nil || x.What == plan.Gone {
		return x, err
	}
	blobs := p.s.readers.blobs(p.w.repository.ID)
	find := func(commit, path string) (string, error) {
		raw, err := repo.UnescapePath(path, false)
		if err != nil {
			return "", repo.ErrNoFile
		}
		return blobs.Find(commit, raw)
	}
	old, err := find(t.Commit, t.Path)
	if errors.Is(err, repo.ErrNoFile) {
		return x, nil // it was never there: nothing of it changed
	}
	if err != nil {
		return x, err
	}
	now, err := find(p.commit, x.Path)
	if err != nil || old == now {
		return x, err
	}
	x.What, x.Like = plan.Changed, 0
	a, err := p.text(t.Commit, t.Path)
	if err == nil {
		var b *place.Text
		if b, err = p.text(p.commit, x.Path); err == nil && len(a.Lines) > 0 {
			x.Like = place.NewSet().Compare(a, b).Lines(1, len(a.Lines)).Like
		}
	}
	if err != nil && !errors.Is(err, place.ErrNoText) {
		return x, err
	}
	return x, nil
}
