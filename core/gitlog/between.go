package gitlog

import (
	"context"

	"juxtagram/core/history"
	"juxtagram/core/repo"
)

// ReadBetween reads the log of the commits that lead from any of some commits to any
// other: all that they reach, down to where they meet. It knows no refs and joins no
// people; what is older is not in it.
func ReadBetween(ctx context.Context, g *repo.Git, commits []string) (*Log, error) {
	older, err := meeting(ctx, g, commits)
	if err != nil {
		return nil, err
	}
	read, err := history.ReadNew(ctx, g, commits, older, nil, nil)
	if err != nil {
		return nil, err
	}
	b := NewBuilder()
	for _, c := range read {
		if err := b.Add(&Entry{Commit: c.Commit, Packed: history.PackChanges(c.Changes)}); err != nil {
			return nil, err
		}
	}
	shallow, err := g.Shallow()
	if err != nil {
		return nil, err
	}
	mapped := map[repo.Person]repo.Person{}
	idents := b.Idents()
	for p := range idents {
		mapped[p] = p
	}
	var tips []repo.Ref
	for _, id := range commits {
		tips = append(tips, repo.Ref{Name: id, Commit: id})
	}
	return b.Log(tips, commits[0], history.Join(idents, mapped), shallow), nil
}

// meeting are the parents of the commit at which some commits meet; none where they
// meet nowhere, or at a first commit.
func meeting(ctx context.Context, g *repo.Git, commits []string) ([]string, error) {
	at := commits[0]
	for _, id := range commits[1:] {
		var err error
		if at, err = g.MergeBase(ctx, at, id); err != nil || at == "" {
			return nil, err
		}
	}
	c, _, err := g.ReadCommit(ctx, at, 0)
	if err != nil {
		return nil, err
	}
	return c.Parents, nil
}
