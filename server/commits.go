package server

import (
	"context"
	"errors"
	"net/http"
	"slices"
	"strings"
	"time"

	"juxtagram/core/gitlog"
	"juxtagram/core/repo"
	"juxtagram/store"
)

func (s *Server) commitRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/commits/{commit}", Read, "All that a commit says, and what it changed", s.commit),
		handle(s, "POST", "/api/repositories/{repository}/commits/{commit}/survey", Write, "Survey a commit beside the pin; the pin stays", s.surveyCommit, status(http.StatusAccepted)),
		handle(s, "GET", "/api/repositories/{repository}/diff", Read, "How one file differs between two commits", s.diff, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/line-history", Read, "Which commit each line of a file comes from", s.lineHistory),
		handle(s, "GET", "/api/repositories/{repository}/log/file", Read, "The commits that changed a file, across its renames, or one symbol of it", s.fileStory),
	}
}

// CommitPath names a commit.
type CommitPath struct {
	RepositoryPath
	Commit string `path:"commit" maxLength:"300" doc:"A commit id"`
}

// CommitInfo is one commit.
type CommitInfo struct {
	ID         string        `json:"id"`
	Subject    string        `json:"subject"`
	Message    string        `json:"message" doc:"Without the subject"`
	Cut        int           `json:"cut" doc:"Bytes at the end of the message that are not sent"`
	Person     string        `json:"person" doc:"The author, joined; empty: people are not told here"`
	Author     SignatureInfo `json:"author"`
	Committer  SignatureInfo `json:"committer"`
	Parents    []CommitName  `json:"parents"`
	Children   []CommitName  `json:"children" doc:"At most 50"`
	Refs       []RefName     `json:"refs" doc:"That lead to it"`
	Branches   []string      `json:"branches" doc:"That contain it, at most 500"`
	Tags       []string      `json:"tags" doc:"That contain it, the oldest first, at most 500"`
	Containing int           `json:"containing" doc:"Branches and tags that contain it in all"`
	Known      bool          `json:"known" doc:"It is in the log: no branch or tag leads to others"`
	Surveyed   bool          `json:"surveyed" doc:"This commit is surveyed"`
	Surveying  bool          `json:"surveying" doc:"Its survey is under way"`
	Row        int           `json:"row" doc:"Its row in the whole log; -1: it is not in it"`
	Against    int           `json:"against" doc:"Number of the parent that it is compared with, from 1; 0: it has none"`
	CutOff     bool          `json:"cut_off" doc:"That parent is not in this shallow repository: no changes are told"`
	Changes    []ChangeInfo  `json:"changes" doc:"At most 3,000"`
	Total      int           `json:"total" doc:"Paths changed in all"`
	Added      int           `json:"added"`
	Deleted    int           `json:"deleted"`
	Pin        bool          `json:"pin"`
}

// SignatureInfo is who did something, when, in their own zone.
type SignatureInfo struct {
	Name  string    `json:"name"`
	Email string    `json:"email"`
	At    time.Time `json:"at"`
}

// CommitName names a commit by its subject.
type CommitName struct {
	ID      string `json:"id"`
	Subject string `json:"subject" doc:"Empty: it is not at hand"`
}

// ChangeInfo is one path that differs.
type ChangeInfo struct {
	Path    string `json:"path"`
	OldPath string `json:"old_path" doc:"Its name before; empty: the same"`
	Status  string `json:"status" enum:"added,deleted,changed,renamed,copied,type"`
	Added   int    `json:"added"`
	Deleted int    `json:"deleted"`
	Binary  bool   `json:"binary"`
	Link    bool   `json:"link" doc:"A submodule's commit"`
	Mode    string `json:"mode" doc:"How the mode changed, in words; empty: it did not"`
	Role    string `json:"role" doc:"At the pin; empty: it is not there"`
	Lines   int    `json:"lines" doc:"Of the file at the pin; -1: not known"`
}

// How much of a commit is told.
const (
	maxMessage    = 2 << 20 // bytes
	maxChanges    = 3000
	maxChildren   = 50
	maxContaining = 500
)

func (s *Server) commit(ctx context.Context, w *who, in *struct {
	CommitPath
	Against int `query:"against" minimum:"1" maximum:"1000" default:"1" doc:"Number of the parent to compare with"`
}) (*body[CommitInfo], error) {
	g := s.jobs.Git(w.repository.ID)
	id, err := g.Resolve(ctx, in.Commit)
	if err != nil {
		return nil, err
	}
	c, cut, err := g.ReadCommit(ctx, id, maxMessage)
	if err != nil {
		return nil, err
	}
	info := CommitInfo{ID: id, Subject: c.Subject, Message: c.Message, Cut: cut, Person: c.Author.Name, Author: SignatureInfo(c.Author), Committer: SignatureInfo(c.Committer),
		Parents: []CommitName{}, Children: []CommitName{}, Refs: []RefName{}, Branches: []string{}, Tags: []string{}, Row: -1, Changes: []ChangeInfo{}, Pin: id == w.repository.Pin}
	if v, err := s.store.SurveyAt(ctx, w.repository.ID, id); err == nil {
		info.Surveyed = v.State == store.Complete
		info.Surveying = v.State == store.Waiting || v.State == store.Running
	}
	for _, p := range c.Parents {
		info.Parents = append(info.Parents, CommitName{ID: p})
	}
	if l, err := s.log(ctx, w); err == nil {
		l.tell(id, &info)
	}
	if w.repository.PeopleHidden {
		info.Person, info.Author.Name, info.Author.Email, info.Committer.Name, info.Committer.Email = "", "", "", "", ""
	}
	shallow, err := g.Shallow()
	if err != nil {
		return nil, err
	}
	info.CutOff = slices.Contains(shallow, id)
	against := ""
	if len(c.Parents) > 0 {
		info.Against = min(in.Against, len(c.Parents))
		against = c.Parents[info.Against-1]
	}
	if info.CutOff {
		return answer(info), nil
	}
	found, err := g.Differences(ctx, against, id)
	if err != nil {
		return nil, err
	}
	info.Changes, info.Added, info.Deleted = s.changesTold(ctx, w, found)
	info.Total = len(found)
	return answer(info), nil
}

// surveyCommit queues the survey of any commit, unless there is one.
func (s *Server) surveyCommit(ctx context.Context, w *who, in *CommitPath) (*none, error) {
	if w.repository.State != store.Pinned {
		return nil, problem(http.StatusConflict, "no-pin", "choose a pin first")
	}
	id, err := s.jobs.Git(w.repository.ID).Resolve(ctx, in.Commit)
	if err != nil {
		return nil, err
	}
	v, err := s.store.SurveyAt(ctx, w.repository.ID, id)
	if err == nil && v.State != store.Failed && v.State != store.Cancelled {
		return &none{}, nil
	}
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	beside := *w.repository
	beside.Pin, beside.PinRef = id, ""
	_, err = s.jobs.QueueSurvey(ctx, &beside)
	return &none{}, err
}

// tell adds what the log knows of a commit.
func (l *heldLog) tell(id string, info *CommitInfo) {
	name := func(i int32) CommitName { return CommitName{l.IDs[i], l.Subjects[i]} }
	for n := range info.Parents {
		if p := l.At(info.Parents[n].ID); p >= 0 {
			info.Parents[n] = name(p)
		}
	}
	i := l.At(id)
	if i < 0 {
		return
	}
	info.Known, info.Row, info.Person = true, int(i), l.person(i)
	for _, r := range l.RefsAt(i) {
		info.Refs = append(info.Refs, RefName{r.Name, r.Kind})
	}
	for _, c := range l.Children(i, maxChildren) {
		info.Children = append(info.Children, name(c))
	}
	in := l.Containing(i)
	info.Containing = len(in)
	for _, r := range in {
		if r.Kind == "branch" && len(info.Branches) < maxContaining {
			info.Branches = append(info.Branches, r.Name)
		}
	}
	// the release that first held it is the one to know
	for k := len(in) - 1; k >= 0; k-- {
		if in[k].Kind == "tag" && len(info.Tags) < maxContaining {
			info.Tags = append(info.Tags, in[k].Name)
		}
	}
}

var statuses = map[byte]string{'A': "added", 'D': "deleted", 'M': "changed", 'R': "renamed", 'C': "copied", 'T': "type"}

// changesTold puts differences into words, and sums up their lines.
func (s *Server) changesTold(ctx context.Context, w *who, found []repo.Difference) (out []ChangeInfo, added, deleted int) {
	out = []ChangeInfo{}
	chart, _, err := s.chart(ctx, w)
	if err != nil {
		chart = nil // no survey: nothing is known of the pin's files
	}
	for _, d := range found {
		added, deleted = added+int(d.Added), deleted+int(d.Deleted)
		if len(out) == maxChanges {
			continue
		}
		c := ChangeInfo{Status: statuses[d.Status], Added: int(d.Added), Deleted: int(d.Deleted), Binary: d.Binary, Link: d.Link}
		c.Path, _ = repo.EscapePath(d.Path)
		c.OldPath, _ = repo.EscapePath(d.OldPath)
		c.Lines = -1
		if f := chart.File(c.Path); f != nil {
			c.Role, c.Lines = f.Role, int(f.Lines)
		}
		c.Mode = modeTold(d)
		out = append(out, c)
	}
	return out, added, deleted
}

func modeTold(d repo.Difference) string {
	if d.OldMode == d.NewMode || strings.Trim(d.OldMode, "0") == "" || strings.Trim(d.NewMode, "0") == "" {
		return ""
	}
	say := map[string]string{"100644": "a plain file", "100755": "a program", "120000": "a symbolic link", "160000": "a submodule"}
	a, b := say[d.OldMode], say[d.NewMode]
	if a == "" || b == "" {
		return ""
	}
	return "from " + a + " to " + b
}

// StoryOf is the story of one file or symbol.
type StoryOf struct {
	Path   string     `json:"path"`
	Symbol string     `json:"symbol"`
	Rows   []StoryRow `json:"rows" doc:"Newest first, at most 2,000"`
	Total  int        `json:"total"`
	Lines  int        `json:"lines" doc:"Of the file at the pin"`
	Heat   []HeatPart `json:"heat" doc:"Where in the file, and when, its lines changed"`
	Since  *time.Time `json:"since" doc:"When the story of the whole file begins: the first part of time"`
	Rough  bool       `json:"rough" doc:"Side branches changed the file meanwhile: lines of older commits may be taken for their neighbours"`
	Start  int        `json:"start" doc:"Of the symbol: its lines at the pin; 0: the whole file"`
	End    int        `json:"end"`
}

// StoryRow is one commit of a story.
type StoryRow struct {
	LogRow
	Path    string `json:"path" doc:"Its name after the commit"`
	OldPath string `json:"old_path" doc:"Its name before, where the commit renamed it"`
	Status  string `json:"status"`
	Parent  string `json:"parent" doc:"Its first parent; empty: it has none here"`
}

// HeatPart counts the changed lines of one part of the file in one part of its
// time.
type HeatPart struct {
	Part  int `json:"part" doc:"Part of the file, from 0, of 24 equal ones"`
	When  int `json:"when" doc:"Part of the time from its first commit to the pin, from 0, of 12 equal ones"`
	Lines int `json:"lines"`
}

// maxStory is how many commits of a story are told.
const maxStory = 2000

func (s *Server) fileStory(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Path   string `query:"path" required:"true" minLength:"1" maxLength:"5000" doc:"A file of the pin, or one that is gone"`
	Symbol string `query:"symbol" maxLength:"1000" doc:"The commits that touched this symbol alone"`
}) (*body[StoryOf], error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	story, err := s.storyOf(ctx, w, l, in.Path, in.Symbol)
	if err != nil {
		return nil, err
	}
	out := StoryOf{Path: in.Path, Symbol: in.Symbol, Rows: []StoryRow{}, Total: len(story.chapters), Lines: story.lines, Heat: []HeatPart{}, Rough: story.rough, Start: story.start, End: story.end}
	for _, c := range story.chapters[:min(len(story.chapters), maxStory)] {
		row := StoryRow{LogRow: l.row(c.Commit, int(c.Commit)), Path: c.Path, OldPath: c.Old, Status: statuses[c.Status]}
		if parents := l.Parents(c.Commit); len(parents) > 0 && parents[0] >= 0 {
			row.Parent = l.IDs[parents[0]]
		}
		row.Added, row.Deleted = -1, -1
		if n, ok := story.counts[c.Commit]; ok {
			row.Added, row.Deleted = n[0], n[1]
		}
		out.Rows = append(out.Rows, row)
	}
	out.Heat, out.Since = story.heat, moment(story.first)
	return answer(out), nil
}

// symbolStory are the commits that touched a symbol of the pin.
func (s *Server) symbolStory(ctx context.Context, w *who, l *heldLog, path, name string) ([]gitlog.Chapter, error) {
	story, err := s.storyOf(ctx, w, l, path, name)
	if err != nil {
		return nil, err
	}
	return story.chapters, nil
}

func notThere(detail string) error {
	return problem(http.StatusNotFound, "not-found", detail)
}
