package draft

import (
	"context"
	"strings"
	"unicode/utf8"

	"juxtagram/core/repo"
)

// mostHits is how many lines of a question are looked at, and longestHit how many bytes
// of one are told.
const (
	mostHits   = 5000
	longestHit = 400
)

// Look fills in what a goal needs to know of the repository at a pin: the lines that
// hold what a question asks for, or what changed since a commit, tag or branch. It fails
// with *Unknown where the question asks for nothing.
func (goal *Goal) Look(ctx context.Context, git *repo.Git, pin, since string) error {
	switch goal.Kind {
	case Question:
		return goal.hits(ctx, git, pin)
	case Since:
		return goal.changes(ctx, git, pin, since)
	}
	return nil
}

// hits are the lines that hold all that a question asks for, or where nothing does, any
// of its longer words.
func (goal *Goal) hits(ctx context.Context, git *repo.Git, pin string) error {
	if utf8.RuneCountInString(goal.Words) < 2 {
		return &Unknown{"say what to look for, in two characters or more"}
	}
	var single []string
	for word := range strings.FieldsSeq(goal.Words) {
		if utf8.RuneCountInString(word) >= 3 {
			single = append(single, word)
		}
	}
	for n, texts := range [][]string{{goal.Words}, single} {
		if len(texts) == 0 {
			continue
		}
		err := git.Grep(ctx, pin, texts, repo.GrepOptions{IgnoreCase: true, Words: n > 0}, func(l repo.Line) bool {
			if goal.More = len(goal.Hits) == mostHits; goal.More {
				return false
			}
			path, _ := repo.EscapePath(l.Path)
			goal.Hits = append(goal.Hits, Hit{Path: path, Line: l.Number, Text: around(&l)})
			return true
		})
		if err != nil || len(goal.Hits) > 0 {
			return err
		}
	}
	return nil
}

// around is the part of a line where it was found.
func around(l *repo.Line) string {
	from := max(0, min(l.Column-l.Skipped-longestHit/4, len(l.Text)))
	return strings.ToValidUTF8(string(l.Text[from:min(len(l.Text), from+longestHit)]), "")
}

func (goal *Goal) changes(ctx context.Context, git *repo.Git, pin, since string) error {
	if since == "" {
		return &Unknown{"say since which commit, tag or branch"}
	}
	var err error
	if goal.Base, err = git.Resolve(ctx, since); err != nil {
		return err
	}
	found, err := git.Differences(ctx, goal.Base, pin)
	for _, d := range found {
		path, _ := repo.EscapePath(d.Path)
		goal.Changed = append(goal.Changed, Changed{Path: path, Changes: int(d.Added + d.Deleted), Gone: d.NewBlob == ""})
	}
	return err
}
