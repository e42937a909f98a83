package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"path"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/repo"
	"juxtagram/jobs"
	"juxtagram/store"
)

func (s *Server) repositoryRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories", SignedIn, "The shelf: every repository you may see", s.shelf),
		handle(s, "GET", "/api/sources", TakeIn, "Where repositories may be taken in from", s.sources),
		handle(s, "POST", "/api/repositories", TakeIn, "Take in a repository from a folder of the server or an address", s.takeIn, status(http.StatusAccepted)),
		handle(s, "POST", "/api/uploads", TakeIn, "Take in an uploaded archive (zip, tar, tar.gz) or git bundle", s.upload, status(http.StatusAccepted), rawBody),
		handle(s, "GET", "/api/repositories/{repository}", Read, "One repository with its pin and survey", s.repository),
		handle(s, "DELETE", "/api/repositories/{repository}", Keep, "Remove a repository and everything of it", s.remove),
		handle(s, "POST", "/api/repositories/{repository}/take-in", Keep, "Try a failed take-in again", s.takeInAgain),
		handle(s, "PUT", "/api/repositories/{repository}/file", Keep, "Take in again from a file, after a failure or where the copy is missing", s.uploadAgain, status(http.StatusAccepted), rawBody),
		handle(s, "GET", "/api/repositories/{repository}/refs", Read, "Tags, branches and recent commits to pin at, with a suggestion", s.refs),
		handle(s, "PUT", "/api/repositories/{repository}/pin", Keep, "Pin the repository at a commit and survey it", s.pin),
		handle(s, "PUT", "/api/repositories/{repository}/settings", Keep, "Change a repository's name, subfolder or half-life", s.settings),
		handle(s, "POST", "/api/repositories/{repository}/survey", Write, "Survey again at the pin, after a failure or a cancellation", s.retry),
		handle(s, "DELETE", "/api/repositories/{repository}/survey", Write, "Cancel the survey under way", s.cancel),
	}
}

func status(code int) func(*huma.Operation) {
	return func(op *huma.Operation) { op.DefaultStatus = code }
}

func rawBody(op *huma.Operation) {
	op.RequestBody = &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{
		"application/octet-stream": {Schema: &huma.Schema{Type: "string", Format: "binary"}},
	}}
}

// ShelfItem is one repository of the shelf.
type ShelfItem struct {
	ID        int64      `json:"id"`
	Name      string     `json:"name"`
	Source    string     `json:"source"`
	State     string     `json:"state" enum:"taking-in,failed,needs-pin,pinned"`
	Problem   string     `json:"problem"`
	Doing     string     `json:"doing"`
	Pin       string     `json:"pin"`
	PinRef    string     `json:"pin_ref"`
	Role      store.Role `json:"role"`
	Survey    string     `json:"survey" doc:"State of the survey at the pin; empty: none"`
	Files     int        `json:"files"`
	Commits   int        `json:"commits"`
	Plans     int        `json:"plans"`
	CreatedAt time.Time  `json:"created_at"`
}

func (s *Server) shelf(ctx context.Context, w *who, _ *struct{}) (*body[[]ShelfItem], error) {
	rows, err := s.store.Shelf(ctx, w.person)
	items := make([]ShelfItem, len(rows))
	for i, r := range rows {
		items[i] = ShelfItem{r.ID, r.Name, shownSource(&r.Repository, r.Role), r.State, r.Problem, r.Doing, r.Pin, r.PinRef, r.Role, r.Survey, r.Files, r.Commits, r.Plans, r.CreatedAt}
	}
	return answer(items), err
}

// shownSource is a repository's source as somebody may see it: where a folder
// lies on the server is for keepers.
func shownSource(r *store.Repository, role store.Role) string {
	if r.SourceKind == "folder" && role != store.Keeper {
		return path.Base(r.Source)
	}
	return r.Source
}

// RepositoryInfo is one repository with its pin and the survey there.
type RepositoryInfo struct {
	ShelfItem
	Subfolder    string      `json:"subfolder"`
	HalfLife     float64     `json:"half_life" doc:"Days after which a change counts half"`
	PeopleHidden bool        `json:"people_hidden" doc:"What people did is told nowhere"`
	FromFile     bool        `json:"from_file" doc:"It was taken in from a file"`
	Notes        []string    `json:"notes" doc:"What the take-in left out, or took with a doubt"`
	PinnedAt     *time.Time  `json:"pinned_at" doc:"Committer date of the pin"`
	SurveyNow    *SurveyInfo `json:"survey_now,omitempty" doc:"The newest survey at the pin; left out: none"`
}

// SurveyInfo is how a survey stands.
type SurveyInfo struct {
	ID        int64                 `json:"id"`
	State     string                `json:"state" enum:"waiting,running,complete,failed,cancelled"`
	Problem   string                `json:"problem"`
	Stages    []store.StageProgress `json:"stages"`
	CreatedAt time.Time             `json:"created_at"`
	EndedAt   *time.Time            `json:"ended_at"`
}

func surveyInfo(v *store.Survey) *SurveyInfo {
	return &SurveyInfo{v.ID, v.State, v.Problem, v.StageList(), v.CreatedAt, v.EndedAt}
}

func (s *Server) repository(ctx context.Context, w *who, in *RepositoryPath) (*body[RepositoryInfo], error) {
	r := w.repository
	info := RepositoryInfo{ShelfItem: ShelfItem{ID: r.ID, Name: r.Name, Source: shownSource(r, w.role), State: r.State, Problem: r.Problem, Doing: r.Doing,
		Pin: r.Pin, PinRef: r.PinRef, Role: w.role, CreatedAt: r.CreatedAt}, Subfolder: r.Subfolder, HalfLife: r.HalfLife, PeopleHidden: r.PeopleHidden, FromFile: r.SourceKind == "file", Notes: jobs.Notes(r)}
	if info.Notes == nil {
		info.Notes = []string{}
	}
	if r.Pin == "" {
		return answer(info), nil
	}
	s.warmLog(w)
	v, err := s.store.SurveyAt(ctx, r.ID, r.Pin)
	if errors.Is(err, store.ErrNotFound) {
		return answer(info), nil
	}
	if err != nil {
		return nil, err
	}
	info.SurveyNow, info.Survey = surveyInfo(v), v.State
	var o store.Overview
	if err := json.Unmarshal(v.Overview, &o); err != nil {
		return nil, err
	}
	info.Files, info.Commits, info.PinnedAt = o.Counts.Files, o.Counts.Commits, o.LastAt
	return answer(info), nil
}

func (s *Server) remove(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Name string `query:"name" doc:"The repository's name, as a question back"`
}) (*none, error) {
	if in.Name != w.repository.Name {
		return nil, problem(http.StatusUnprocessableEntity, "invalid", "type the repository's name to remove it")
	}
	s.readers.forget(in.Repository)
	return &none{}, s.jobs.Remove(ctx, w.repository)
}

// RefInfo is something to pin at.
type RefInfo struct {
	Name    string    `json:"name"`
	Kind    string    `json:"kind" enum:"tag,branch,commit"`
	Commit  string    `json:"commit"`
	Time    time.Time `json:"time"`
	Subject string    `json:"subject"`
}

// RefList is what a repository may be pinned at.
type RefList struct {
	Suggested *RefInfo  `json:"suggested,omitempty" doc:"The highest release version, else where HEAD leads"`
	Why       string    `json:"why" doc:"Why it is suggested"`
	Tags      []RefInfo `json:"tags"`
	Branches  []RefInfo `json:"branches"`
	Recent    []RefInfo `json:"recent" doc:"The newest commits of the main branch"`
	Shallow   bool      `json:"shallow" doc:"The history is cut off"`
	Head      string    `json:"head" doc:"The main branch, else the commit that HEAD leads to"`
}

const recentCommits = 30

func (s *Server) refs(ctx context.Context, w *who, in *RepositoryPath) (*body[RefList], error) {
	if w.repository.State != store.NeedsPin && w.repository.State != store.Pinned {
		return nil, problem(http.StatusConflict, "not-taken-in", "the repository is not taken in yet")
	}
	g := s.jobs.Git(in.Repository)
	refs, err := g.Refs(ctx)
	if err != nil {
		return nil, err
	}
	list := RefList{Tags: []RefInfo{}, Branches: []RefInfo{}, Recent: []RefInfo{}}
	for _, r := range refs {
		info := RefInfo{r.Name, r.Kind, r.Commit, r.Time, r.Subject}
		if r.Kind == "tag" {
			list.Tags = append(list.Tags, info)
		} else {
			list.Branches = append(list.Branches, info)
		}
	}
	head, branch, err := g.Head(ctx)
	if err != nil {
		return nil, err
	}
	commits, err := g.Commits(ctx, head, nil, recentCommits)
	if err != nil {
		return nil, err
	}
	for _, c := range commits {
		list.Recent = append(list.Recent, RefInfo{c.ID[:12], "commit", c.ID, time.Unix(c.CommitTime, 0).UTC(), c.Subject})
	}
	if list.Head = branch; branch == "" {
		list.Head = head
	}
	list.suggest(refs, head, branch)
	cut, err := g.Shallow()
	list.Shallow = len(cut) > 0
	return answer(list), err
}

func (l *RefList) suggest(refs []repo.Ref, head, branch string) {
	if r := repo.HighestRelease(refs); r != nil {
		l.Suggested, l.Why = &RefInfo{r.Name, r.Kind, r.Commit, r.Time, r.Subject}, whyRelease(r, refs)
		return
	}
	for i := range l.Branches {
		if l.Branches[i].Name == branch {
			l.Suggested, l.Why = &l.Branches[i], "no tag names a release; this is the main branch"
			return
		}
	}
	if len(l.Recent) > 0 && l.Recent[0].Commit == head {
		l.Suggested, l.Why = &l.Recent[0], "no tag names a release; this is where HEAD leads"
	}
}

// whyRelease says why a release is suggested: it is not the newest where tags of later
// days stand beside it.
func whyRelease(r *repo.Ref, refs []repo.Ref) string {
	later, newest := 0, r
	for i := range refs {
		if refs[i].Kind == "tag" && refs[i].Time.After(r.Time) {
			later++
			if refs[i].Time.After(newest.Time) {
				newest = &refs[i]
			}
		}
	}
	const day = "2 Jan 2006"
	switch later {
	case 0:
		return "the newest release"
	case 1:
		return fmt.Sprintf("the highest version; %s of %s is newer", newest.Name, newest.Time.Format(day))
	}
	return fmt.Sprintf("the highest version; %d tags are newer, the last of them %s of %s", later, newest.Name, newest.Time.Format(day))
}

func (s *Server) pin(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Pin string `json:"pin" minLength:"1" maxLength:"300" doc:"A tag, a branch or a commit id"`
	}
}) (*body[SurveyInfo], error) {
	r := w.repository
	if r.State != store.NeedsPin && r.State != store.Pinned {
		return nil, problem(http.StatusConflict, "not-taken-in", "the repository is not taken in yet")
	}
	commit, err := s.jobs.Git(r.ID).Resolve(ctx, in.Body.Pin)
	if err != nil {
		return nil, err
	}
	ref := in.Body.Pin
	if strings.HasPrefix(commit, ref) {
		ref = ""
	}
	v, err := s.store.SurveyAt(ctx, r.ID, commit)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	fits := err == nil && v.State != store.Failed && v.State != store.Cancelled && v.HalfLife == r.HalfLife && v.Subfolder == r.Subfolder && !s.correctedSince(ctx, v)
	made, err := s.jobs.Pin(ctx, r, commit, ref, fits)
	if err != nil {
		return nil, err
	}
	if made != nil {
		v = made
	}
	return answer(*surveyInfo(v)), s.store.Publish(ctx, store.Event{Kind: "repository", Repository: r.ID, State: store.Pinned})
}

func (s *Server) settings(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Name      string  `json:"name" minLength:"1" maxLength:"100"`
		Subfolder string  `json:"subfolder" maxLength:"1000"`
		HalfLife  float64 `json:"half_life" minimum:"1" maximum:"36500"`
		// left out, it stays as it is
		PeopleHidden *bool `json:"people_hidden,omitempty" doc:"What people did is told nowhere"`
	}
}) (*none, error) {
	sub, err := subfolder(in.Body.Subfolder)
	if err != nil {
		return nil, err
	}
	set := map[string]any{"name": in.Body.Name, "subfolder": sub, "half_life": in.Body.HalfLife}
	if in.Body.PeopleHidden != nil {
		set["people_hidden"] = *in.Body.PeopleHidden
	}
	if err := s.store.UpdateRepository(ctx, in.Repository, set); err != nil {
		return nil, err
	}
	if in.Body.PeopleHidden != nil && *in.Body.PeopleHidden != w.repository.PeopleHidden {
		if err := s.historyTurned(ctx, in.Repository); err != nil {
			return nil, err
		}
	}
	r := w.repository
	again := r.State == store.Pinned && (r.Subfolder != sub || r.HalfLife != in.Body.HalfLife)
	r.Subfolder, r.HalfLife = sub, in.Body.HalfLife
	if again {
		if _, err := s.jobs.QueueSurvey(ctx, r); err != nil {
			return nil, err
		}
	}
	return &none{}, s.store.Publish(ctx, store.Event{Kind: "repository", Repository: r.ID, State: r.State})
}

func (s *Server) retry(ctx context.Context, w *who, _ *RepositoryPath) (*body[SurveyInfo], error) {
	if w.repository.Pin == "" {
		return nil, problem(http.StatusConflict, "no-pin", "choose a pin first")
	}
	v, err := s.jobs.Retry(ctx, w.repository)
	if err != nil {
		return nil, err
	}
	return answer(*surveyInfo(v)), nil
}

func (s *Server) cancel(ctx context.Context, w *who, _ *RepositoryPath) (*none, error) {
	v, err := s.store.SurveyAt(ctx, w.repository.ID, w.repository.Pin)
	if err != nil {
		return nil, err
	}
	return &none{}, s.jobs.CancelSurvey(ctx, v)
}
