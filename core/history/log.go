package history

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"slices"
	"sync"

	"golang.org/x/sync/errgroup"

	"juxtagram/core/repo"
	"juxtagram/core/tagged"
)

// Commit is a commit with the paths it changed. Merges have no changes.
type Commit struct {
	repo.Commit
	Changes []repo.Change
	Words   int32 // the Print of the words by which lines of its changes were kept; 0: not read
}

// IsMerge tells whether the commit has more than one parent.
func (c *Commit) IsMerge() bool { return len(c.Parents) > 1 }

// Log is every commit a pin reaches, newest first.
type Log struct {
	Pin     string
	Commits []*Commit
	byID    map[string]*Commit // what this reading found
	known   map[string]*Commit // what an earlier reading found, by full id
	shallow map[string]bool    // commits whose parents are cut off
	mu      sync.Mutex
	Unread  []string // commits whose changes could not be read, as objects are missing or damaged
}

// Time is the pin's committer date in Unix seconds: the clock of all ages.
func (l *Log) Time() int64 {
	if len(l.Commits) == 0 {
		return 0
	}
	if pin := l.commit(l.Pin); pin != nil {
		return pin.CommitTime
	}
	return l.Commits[0].CommitTime
}

// commit is one that the reading, or an earlier one, found; nil: there is none.
func (l *Log) commit(id string) *Commit {
	if c := l.byID[id]; c != nil {
		return c
	}
	return l.known[id]
}

// Known is what an earlier reading of the same repository found.
type Known struct {
	Pins    []string           // earlier pins: all that they reach is in Commits
	Commits map[string]*Commit // by full id, with changes and counts
	// Reached are the full ids of every commit that the new pin reaches, newest
	// first as git lists them; nil: git is asked.
	Reached []string
}

// Progress is told how many of all commits are done.
type Progress func(done, total int)

// chunk is how many commits one git process looks at before the next takes
// over: small enough to share the work evenly, large enough that starting the
// process does not count.
const chunk = 1000

// Read lists the commits pin reaches and finds which paths the new ones
// changed. It returns the log and the commits that known did not hold, newest
// first. Lines are not counted yet: see CountLines.
func Read(ctx context.Context, g *repo.Git, pin string, known Known, progress Progress) (*Log, []*Commit, error) {
	found, err := g.Commits(ctx, pin, known.Pins, 0)
	if err != nil {
		return nil, nil, fmt.Errorf("reading the history of %.12s: %w", pin, err)
	}
	fresh := make([]*Commit, 0, len(found))
	log := &Log{Pin: pin, byID: make(map[string]*Commit, len(found)), known: known.Commits}
	for i := range found {
		c := known.Commits[found[i].ID]
		if c == nil {
			c = &Commit{Commit: found[i]}
			fresh = append(fresh, c)
		}
		log.byID[c.ID] = c
	}
	if len(known.Pins) == 0 {
		for i := range found {
			log.Commits = append(log.Commits, log.byID[found[i].ID])
		}
	} else if err := log.order(ctx, g, known); err != nil {
		return nil, nil, err
	}
	if err := log.cutOff(g); err != nil {
		return nil, nil, err
	}
	err = log.readChanges(ctx, g, fresh, progress)
	if err != nil {
		return nil, nil, fmt.Errorf("reading the history of %.12s: %w", pin, err)
	}
	return log, fresh, nil
}

// ReadNew reads the commits that tips reach and known pins do not, with their
// changes and counts, newest first. Changed lines that may hold one of some
// words are kept; nil: none.
func ReadNew(ctx context.Context, g *repo.Git, tips, known []string, words *tagged.Words, progress Progress) ([]*Commit, error) {
	found, err := g.CommitsOf(ctx, tips, known, 0)
	if err != nil {
		return nil, fmt.Errorf("reading the history of %d commits: %w", len(tips), err)
	}
	log := &Log{byID: make(map[string]*Commit, len(found))}
	for i := range found {
		c := &Commit{Commit: found[i]}
		log.byID[c.ID] = c
		log.Commits = append(log.Commits, c)
	}
	if err := log.cutOff(g); err != nil {
		return nil, err
	}
	if err := log.readChanges(ctx, g, log.Commits, nil); err != nil {
		return nil, err
	}
	return log.Commits, log.CountLines(ctx, g, log.Commits, words, progress)
}

// readChanges finds which paths some commits of the log changed.
func (l *Log) readChanges(ctx context.Context, g *repo.Git, commits []*Commit, progress Progress) error {
	return eachChunk(ctx, l.diffable(commits), progress, func(ctx context.Context, part []*Commit) error {
		return l.around(ctx, part, func(part []*Commit) error {
			for _, c := range part {
				c.Changes = nil // half of them may have been read
			}
			return g.Changes(ctx, ids(part), func(id string, changes []repo.Change) error {
				c := l.commit(id)
				if c == nil {
					return fmt.Errorf("git named commit %.40q, which was not asked for", id)
				}
				c.Changes = changes
				return nil
			})
		}, func(c *Commit) { c.Changes = nil })
	})
}

// order fills Commits where part of the history was known: git gives the ids
// in order, the commits come from both places.
func (l *Log) order(ctx context.Context, g *repo.Git, known Known) error {
	all := known.Reached
	if all == nil {
		var err error
		if all, err = g.Reachable(ctx, l.Pin); err != nil {
			return err
		}
	}
	var missing []string
	l.Commits = make([]*Commit, 0, len(all))
	for _, id := range all {
		if c := l.commit(id); c != nil {
			l.Commits = append(l.Commits, c)
		} else {
			missing = append(missing, id)
		}
	}
	if len(missing) > 0 {
		return fmt.Errorf("%d commits of an earlier reading are not at hand, among them %s", len(missing), missing[0])
	}
	return nil
}

func (l *Log) cutOff(g *repo.Git) error {
	at, err := g.Shallow()
	if err != nil {
		return err
	}
	l.shallow = map[string]bool{}
	for _, id := range at {
		l.shallow[id] = true
	}
	return nil
}

// diffable leaves out merges, and the commits at which a shallow history is
// cut off: compared with nothing they would seem to have added every file.
func (l *Log) diffable(commits []*Commit) []*Commit {
	out := make([]*Commit, 0, len(commits))
	for _, c := range commits {
		if !c.IsMerge() && !l.shallow[c.ID] {
			out = append(out, c)
		}
	}
	return out
}

// CountLines counts the lines that the changes of commits added and deleted.
// The commits must be of this log. Counts that are known are taken again.
// Changed lines that may hold one of some words are kept; nil: none.
func (l *Log) CountLines(ctx context.Context, g *repo.Git, commits []*Commit, words *tagged.Words, progress Progress) error {
	var keep func([]byte) bool
	if words != nil {
		keep = words.May
	}
	var changed []*Commit
	for _, c := range commits {
		if words != nil {
			c.Words = words.Print()
		}
		if len(c.Changes) > 0 {
			changed = append(changed, c)
		}
	}
	return eachChunk(ctx, changed, progress, func(ctx context.Context, part []*Commit) error {
		changesOf := func(id string) []repo.Change {
			if c := l.commit(id); c != nil {
				return c.Changes
			}
			return nil
		}
		return l.around(ctx, part, func(part []*Commit) error {
			return g.LineChanges(ctx, ids(part), changesOf, keep, func(id string, counts []repo.Counts) error {
				for i := range counts {
					l.commit(id).Changes[i].Counts = counts[i]
				}
				return nil
			})
		}, func(*Commit) {})
	})
}

// mostUnread is how many commits of a damaged repository may be passed over.
const mostUnread = 200

// around reads commits by read, which may be asked for one twice. Those over which git
// ends, as objects of theirs are missing or damaged, are passed over and noted.
func (l *Log) around(ctx context.Context, part []*Commit, read func([]*Commit) error, pass func(*Commit)) error {
	err := read(part)
	var git *repo.Error
	if err == nil || ctx.Err() != nil || !errors.As(err, &git) {
		return err
	}
	if len(part) > 1 {
		half := len(part) / 2
		if err := l.around(ctx, part[:half], read, pass); err != nil {
			return err
		}
		return l.around(ctx, part[half:], read, pass)
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	if len(l.Unread) >= mostUnread {
		return err
	}
	pass(part[0])
	if !slices.Contains(l.Unread, part[0].ID) {
		l.Unread = append(l.Unread, part[0].ID)
	}
	return nil
}

func ids(commits []*Commit) []string {
	out := make([]string, len(commits))
	for i, c := range commits {
		out[i] = c.ID
	}
	return out
}

// eachChunk runs do over commits in parts, as many side by side as there are
// processors.
func eachChunk(ctx context.Context, commits []*Commit, progress Progress, do func(context.Context, []*Commit) error) error {
	group, ctx := errgroup.WithContext(ctx)
	group.SetLimit(runtime.GOMAXPROCS(0))
	var mu sync.Mutex
	done := 0
	for start := 0; start < len(commits); start += chunk {
		part := commits[start:min(start+chunk, len(commits))]
		group.Go(func() error {
			if err := do(ctx, part); err != nil {
				return err
			}
			mu.Lock()
			defer mu.Unlock()
			done += len(part)
			if progress != nil {
				progress(done, len(commits))
			}
			return nil
		})
	}
	return group.Wait()
}
