package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"juxtagram/core/note"
	"juxtagram/core/place"
	"juxtagram/store"
)

func (s *Server) annotationRoutes() []route {
	const at = "/api/repositories/{repository}/annotations"
	return []route{
		handle(s, "GET", at, Read, "The threads on a file or a folder at a commit", s.annotationsOn),
		handle(s, "POST", at, Read, "Write beside the code; readers may, too", s.annotate, status(http.StatusCreated)),
		handle(s, "POST", at+"/preview", Read, "A text as it would be shown, and whom it would tell", s.previewNote),
		handle(s, "PUT", at+"/seen", Read, "Note that you have seen threads as they are", s.seeThreads),
		handle(s, "GET", at+"/{annotation}", Read, "One thread with its replies, earlier texts and earlier places", s.thread),
		handle(s, "POST", at+"/{annotation}/replies", Read, "Reply in a thread", s.reply, status(http.StatusCreated)),
		handle(s, "PUT", at+"/{annotation}/text", Read, "Put another text in the place of yours", s.editNote),
		handle(s, "PUT", at+"/{annotation}/state", Read, "Resolve a thread, by a reply that answers it where there is one, or open it again", s.setThread),
		handle(s, "PUT", at+"/{annotation}/target", Read, "Place a thread anew: the place before is kept", s.retarget),
		handle(s, "PUT", at+"/{annotation}/told", Read, "Be told of a thread, or be left out", s.tellOf),
		handle(s, "DELETE", at+"/{annotation}", Read, "Take away what you wrote, or anything as a keeper", s.deleteNote),
		handle(s, "POST", at+"/{annotation}/restore", Read, "Bring back what was taken away", s.restoreNote),
	}
}

// NoteInfo is something that somebody wrote.
type NoteInfo struct {
	ID        int64      `json:"id"`
	By        string     `json:"by"`
	Mine      bool       `json:"mine"`
	Text      string     `json:"text" doc:"Markdown"`
	HTML      string     `json:"html" doc:"Safe to show"`
	Rev       int        `json:"rev" doc:"Of the text"`
	CreatedAt time.Time  `json:"created_at"`
	EditedAt  *time.Time `json:"edited_at"`
	MayEdit   bool       `json:"may_edit"`
	MayDelete bool       `json:"may_delete"`
}

// PlacedInfo is where a thread stands at a commit.
type PlacedInfo struct {
	What         string            `json:"what" enum:"same,moved,changed,gone,unknown" doc:"unknown: it is still to be looked for"`
	Path         string            `json:"path"`
	Start        int               `json:"start" doc:"0: the whole"`
	End          int               `json:"end"`
	Like         float64           `json:"like" doc:"How much of it reads as it did, 0..1"`
	Reason       string            `json:"reason" enum:",lines-deleted,file-deleted,file-absent,no-text,text-not-found"`
	ReasonCommit string            `json:"reason_commit" doc:"That took it away; empty: not known"`
	Candidates   []place.Candidate `json:"candidates" doc:"Where it may stand, the likeliest first"`
}

// ThreadInfo is a thread with its replies.
type ThreadInfo struct {
	NoteInfo
	UID       string           `json:"uid"`
	Kind      string           `json:"kind" enum:"note,question,ask"`
	Private   bool             `json:"private"`
	State     string           `json:"state" enum:"open,resolved"`
	StateBy   string           `json:"state_by"`
	Asked     string           `json:"asked" doc:"Who is asked to act"`
	AskedMe   bool             `json:"asked_me"`
	Answer    int64            `json:"answer" doc:"The reply that answers it; 0: none"`
	Tags      []string         `json:"tags"`
	Target    store.NoteTarget `json:"target"`
	Placed    PlacedInfo       `json:"placed"`
	Replies   []NoteInfo       `json:"replies"`
	Unread    bool             `json:"unread" doc:"Somebody else wrote in it since you saw it"`
	Mentioned bool             `json:"mentioned" doc:"You are, and have not seen it"`
	Told      bool             `json:"told" doc:"You are told of it"`
	ChangedAt time.Time        `json:"changed_at"`
}

// noteLore is what is needed to tell of notes.
type noteLore struct {
	s       *Server
	w       *who
	members []store.Member
	readers map[int64]store.ThreadReader
	places  map[int64]store.Placed
}

// noteLore gathers it; the places at a commit, or none where it is "".
func (s *Server) noteLore(ctx context.Context, w *who, commit string) (*noteLore, error) {
	l := &noteLore{s: s, w: w}
	var err error
	if l.members, err = s.store.Members(ctx, w.repository.ID); err != nil {
		return nil, err
	}
	if l.readers, err = s.store.ThreadReaders(ctx, w.repository.ID, w.person.ID); err != nil {
		return nil, err
	}
	if commit != "" {
		l.places, err = s.store.PlacesAt(ctx, w.repository.ID, commit)
	}
	return l, err
}

// handle is how somebody is mentioned: their name, its parts joined by dots.
func handleOf(name string) string { return strings.Join(strings.Fields(name), ".") }

// member finds who is meant by a mention: a member's whole name, or the first
// part of one that only one bears.
func memberOf(members []store.Member, mention string) *store.Member {
	var first *store.Member
	for i := range members {
		m := &members[i]
		if strings.EqualFold(handleOf(m.Name), mention) {
			return m
		}
		if part, _, _ := strings.Cut(m.Name, " "); strings.EqualFold(part, mention) {
			if first != nil {
				return nil
			}
			first = m
		}
	}
	return first
}

func (l *noteLore) links() note.Links {
	return note.Links{
		Tag: func(tag string) string {
			return fmt.Sprintf("/r/%d/notes?tag=%s", l.w.repository.ID, url.QueryEscape(tag))
		},
		Mention: func(name string) (string, bool) {
			if m := memberOf(l.members, name); m != nil {
				return m.Name, true
			}
			return "", false
		},
	}
}

func (l *noteLore) note(a *store.Annotation) NoteInfo {
	mine := a.Author == l.w.person.ID
	return NoteInfo{ID: a.ID, By: a.AuthorName, Mine: mine, Text: a.Body, HTML: note.HTML(a.Body, l.links()), Rev: a.Rev, CreatedAt: a.CreatedAt, EditedAt: a.EditedAt,
		MayEdit: mine, MayDelete: mine || l.w.role.Includes(store.Keeper)}
}

func (l *noteLore) thread(a *store.Annotation, replies []store.Annotation) ThreadInfo {
	r := l.readers[a.ID]
	x := ThreadInfo{NoteInfo: l.note(a), UID: a.UID, Kind: a.Kind, Private: a.Private, State: a.State, StateBy: a.StateBy, Asked: a.AskedName, AskedMe: a.Asked == l.w.person.ID,
		Answer: a.Answer, Tags: a.Tags, Target: *a.Target, Placed: l.placed(a.ID), Replies: []NoteInfo{}, ChangedAt: a.ChangedAt}
	part := a.Author == l.w.person.ID || x.AskedMe || r.Mentioned
	others := a.Author != l.w.person.ID && (r.SeenAt == nil || a.CreatedAt.After(*r.SeenAt))
	for i := range replies {
		y := &replies[i]
		part = part || y.Author == l.w.person.ID
		others = others || y.Author != l.w.person.ID && (r.SeenAt == nil || y.CreatedAt.After(*r.SeenAt))
		x.Replies = append(x.Replies, l.note(y))
	}
	x.Told = part
	if r.Told != nil {
		x.Told = *r.Told
	}
	x.Unread, x.Mentioned = others, r.Mentioned && others
	return x
}

func (l *noteLore) placed(id int64) PlacedInfo {
	p, ok := l.places[id]
	if !ok {
		return PlacedInfo{What: "unknown", Candidates: []place.Candidate{}}
	}
	return PlacedInfo{p.What, p.Path, p.Start, p.End, p.Like, p.Reason, p.ReasonCommit, append([]place.Candidate{}, p.Candidates...)}
}

// commitAt is the commit that a request is about: the pin where it names none.
func (s *Server) commitAt(ctx context.Context, w *who, at string) (string, error) {
	if at == "" || at == w.repository.Pin {
		if w.repository.Pin == "" {
			return "", problem(http.StatusConflict, "no-pin", "choose a pin first")
		}
		return w.repository.Pin, nil
	}
	return s.jobs.Git(w.repository.ID).Resolve(ctx, at)
}

// OnPath are the threads on a file or folder.
type OnPath struct {
	Commit  string       `json:"commit"`
	Threads []ThreadInfo `json:"threads" doc:"In the order of lines; those on the whole first"`
	Left    int          `json:"left" doc:"Threads of the repository whose place is still to be found"`
}

func (s *Server) annotationsOn(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Path string `query:"path" maxLength:"5000" doc:"Of the file or folder; empty: the repository itself"`
	At   string `query:"at" maxLength:"300"`
}) (*body[OnPath], error) {
	commit, err := s.commitAt(ctx, w, in.At)
	if err != nil {
		return nil, err
	}
	left, err := s.ensurePlaced(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	l, err := s.noteLore(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	var ids []int64
	for id, p := range l.places {
		if p.Path == in.Path && p.What != string(place.Gone) {
			ids = append(ids, id)
		}
	}
	threads, err := s.store.ThreadsAmong(ctx, w.repository.ID, w.person.ID, ids)
	if err != nil {
		return nil, err
	}
	threads = slices.DeleteFunc(threads, func(a store.Annotation) bool { return a.Target.Kind == store.OnCommit })
	told, err := s.threads(ctx, l, threads)
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(told, func(a, b ThreadInfo) int { return a.Placed.Start - b.Placed.Start })
	return answer(OnPath{commit, told, left}), nil
}

// threads tells of threads with their replies.
func (s *Server) threads(ctx context.Context, l *noteLore, firsts []store.Annotation) ([]ThreadInfo, error) {
	ids := make([]int64, len(firsts))
	for i := range firsts {
		ids[i] = firsts[i].ID
	}
	replies, err := s.store.Replies(ctx, ids)
	if err != nil {
		return nil, err
	}
	of := map[int64][]store.Annotation{}
	for _, r := range replies {
		of[r.Thread] = append(of[r.Thread], r)
	}
	out := []ThreadInfo{}
	for i := range firsts {
		out = append(out, l.thread(&firsts[i], of[firsts[i].ID]))
	}
	return out, nil
}

// TargetIn is what somebody wants to write about.
type TargetIn struct {
	Kind   string `json:"kind" enum:"lines,symbol,file,folder,commit,repository"`
	At     string `json:"at,omitempty" maxLength:"300" doc:"A commit; left out: the pin"`
	Path   string `json:"path,omitempty" maxLength:"5000"`
	Start  int    `json:"start,omitempty" minimum:"0"`
	End    int    `json:"end,omitempty" minimum:"0"`
	Symbol string `json:"symbol,omitempty" maxLength:"1000" doc:"Qualified"`
}

// target takes down all signs of what somebody wants to write about.
func (s *Server) target(ctx context.Context, w *who, in *TargetIn) (*store.NoteTarget, error) {
	commit, err := s.commitAt(ctx, w, in.At)
	if err != nil {
		return nil, err
	}
	t := &store.NoteTarget{Kind: in.Kind, Commit: commit}
	no := func(why string) error { return problem(http.StatusUnprocessableEntity, "no-target", why) }
	switch in.Kind {
	case store.OnRepository, store.OnCommit:
		return t, nil
	case store.OnFolder:
		t.Path = strings.Trim(in.Path, "/")
		entries, err := s.jobs.Git(w.repository.ID).Folder(ctx, commit, t.Path)
		if err != nil || len(entries) == 0 {
			return nil, no("there is no folder " + in.Path + " at this commit")
		}
		return t, nil
	}
	t.Path = in.Path
	f, err := s.findIn(ctx, w, commit, in.Path)
	if err != nil {
		return nil, err
	}
	if f == nil {
		return nil, no("there is no file " + in.Path + " at this commit")
	}
	if in.Kind == store.OnFile {
		return t, nil
	}
	p, err := s.placing(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	text, err := p.text(commit, in.Path)
	if errors.Is(err, place.ErrNoText) {
		return nil, no("this file has no lines to write about; write about the file as a whole")
	}
	if err != nil {
		return nil, err
	}
	outline, err := p.outlineAt(ctx, in.Path)
	if err != nil {
		return nil, err
	}
	t.Start, t.End = in.Start, in.End
	if in.Kind == store.OnSymbol {
		for _, x := range outline {
			if x.Qualified == in.Symbol && (in.Start == 0 || x.Start <= in.Start && in.Start <= x.End) {
				t.Symbol, t.Start, t.End = x.Qualified, x.Start, x.End
			}
		}
		if t.Symbol == "" {
			return nil, no("this file has no symbol " + in.Symbol)
		}
	}
	if t.Start < 1 || t.End < t.Start || t.End > len(text.Lines) {
		return nil, no(fmt.Sprintf("the file has %d lines; lines %d to %d are not among them", len(text.Lines), t.Start, t.End))
	}
	if t.Symbol == "" {
		for _, x := range outline { // the innermost comes last
			if x.Start <= t.Start && t.End <= x.End {
				t.Symbol = x.Qualified
			}
		}
	}
	t.Quote = place.QuoteOf(text, t.Start, t.End)
	return t, nil
}

// WrittenInfo is a thread after something was written in it.
type WrittenInfo struct {
	Thread ThreadInfo `json:"thread"`
	// Untold are mentions that tell nobody.
	Untold []string `json:"untold" doc:"Mentions of whom nobody here is called, or who may not read this: they are not told"`
}

func (s *Server) annotate(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Target  TargetIn `json:"target"`
		Text    string   `json:"text" maxLength:"200000"`
		Kind    string   `json:"kind,omitempty" enum:"note,question,ask"`
		Private bool     `json:"private,omitempty"`
		Asked   int64    `json:"asked,omitempty" doc:"Who is asked to act"`
	}
}) (*body[WrittenInfo], error) {
	if err := note.Check(in.Body.Text); err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "bad-text", err.Error())
	}
	t, err := s.target(ctx, w, &in.Body.Target)
	if err != nil {
		return nil, err
	}
	a := &store.Annotation{Repository: w.repository.ID, Author: w.person.ID, AuthorName: w.person.Name, Kind: in.Body.Kind, Private: in.Body.Private, Body: in.Body.Text,
		Tags: note.Read(in.Body.Text).Tags, Target: t}
	if in.Body.Asked != 0 {
		role, err := s.roleOf(ctx, w, in.Body.Asked)
		if err != nil || role == store.NoRole {
			return nil, problem(http.StatusUnprocessableEntity, "not-here", "who is asked to act cannot read this repository")
		}
		a.Kind, a.Asked = "ask", in.Body.Asked
	}
	if err := s.store.AddAnnotation(ctx, a); err != nil {
		return nil, err
	}
	return s.written(ctx, w, a.ID, a)
}

func (s *Server) roleOf(ctx context.Context, w *who, person int64) (store.Role, error) {
	p, err := s.store.Person(ctx, person)
	if err != nil {
		return store.NoRole, err
	}
	return s.store.RoleOf(ctx, w.repository.ID, p)
}

// written tells people of what was written in a thread, and answers with it.
func (s *Server) written(ctx context.Context, w *who, thread int64, a *store.Annotation) (*body[WrittenInfo], error) {
	members, err := s.store.Members(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	info := WrittenInfo{Untold: []string{}}
	var told []int64
	for _, mention := range note.Read(a.Body).Mentions {
		m := memberOf(members, mention)
		if m == nil || a.Private && m.PersonID != a.Author {
			info.Untold = append(info.Untold, mention)
		} else if m.PersonID != w.person.ID {
			told = append(told, m.PersonID)
		}
	}
	if len(told) > 0 {
		if err := s.store.Mention(ctx, thread, told); err != nil {
			return nil, err
		}
	}
	if err := s.publishNotes(ctx, w, thread); err != nil {
		return nil, err
	}
	t, err := s.threadInfo(ctx, w, thread, "")
	if err != nil {
		return nil, err
	}
	info.Thread = *t
	return answer(info), nil
}

// publishNotes tells that a thread has changed.
func (s *Server) publishNotes(ctx context.Context, w *who, thread int64) error {
	e := store.Event{Kind: "notes", Repository: w.repository.ID, Thread: thread}
	if a, err := s.store.Annotation(ctx, w.repository.ID, w.person.ID, thread); err == nil && a.Private {
		e.PrivateTo = a.Author
	}
	return s.store.Publish(ctx, e)
}

// threadInfo tells of one thread at a commit; "": the pin.
func (s *Server) threadInfo(ctx context.Context, w *who, id int64, at string) (*ThreadInfo, error) {
	commit, err := s.commitAt(ctx, w, at)
	if err != nil {
		return nil, err
	}
	if _, err := s.ensurePlaced(ctx, w, commit); err != nil {
		return nil, err
	}
	found, err := s.store.ThreadsAmong(ctx, w.repository.ID, w.person.ID, []int64{id})
	if err != nil {
		return nil, err
	}
	if len(found) == 0 {
		return nil, store.ErrNotFound
	}
	l, err := s.noteLore(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	told, err := s.threads(ctx, l, found)
	if err != nil {
		return nil, err
	}
	return &told[0], nil
}

// NotePath names an annotation.
type NotePath struct {
	RepositoryPath
	Annotation int64 `path:"annotation"`
}

// WholeThread is a thread with its past.
type WholeThread struct {
	Thread  ThreadInfo         `json:"thread"`
	Edits   []EditInfo         `json:"edits" doc:"Earlier texts of the first annotation"`
	Targets []store.NoteTarget `json:"targets" doc:"Earlier places, the oldest first"`
}

// EditInfo is an earlier text.
type EditInfo struct {
	Rev  int       `json:"rev"`
	Text string    `json:"text"`
	At   time.Time `json:"at" doc:"When it was replaced"`
}

func (s *Server) thread(ctx context.Context, w *who, in *struct {
	NotePath
	At string `query:"at" maxLength:"300"`
}) (*body[WholeThread], error) {
	t, err := s.threadInfo(ctx, w, in.Annotation, in.At)
	if err != nil {
		return nil, err
	}
	out := WholeThread{Thread: *t, Edits: []EditInfo{}}
	edits, err := s.store.Edits(ctx, in.Annotation)
	if err != nil {
		return nil, err
	}
	for _, e := range edits {
		out.Edits = append(out.Edits, EditInfo{e.Rev, e.Body, e.At})
	}
	targets, err := s.store.Targets(ctx, in.Annotation)
	out.Targets = append([]store.NoteTarget{}, targets...)
	return answer(out), err
}

// threadOf finds the first annotation of a thread that is there.
func (s *Server) threadOf(ctx context.Context, w *who, id int64) (*store.Annotation, error) {
	a, err := s.store.Annotation(ctx, w.repository.ID, w.person.ID, id)
	if err != nil {
		return nil, err
	}
	if a.Thread != 0 || a.Deleted {
		return nil, store.ErrNotFound
	}
	return a, nil
}

func (s *Server) reply(ctx context.Context, w *who, in *struct {
	NotePath
	Body struct {
		Text string `json:"text" maxLength:"200000"`
	}
}) (*body[WrittenInfo], error) {
	if err := note.Check(in.Body.Text); err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "bad-text", err.Error())
	}
	t, err := s.threadOf(ctx, w, in.Annotation)
	if err != nil {
		return nil, err
	}
	a := &store.Annotation{Repository: w.repository.ID, Thread: t.ID, Author: w.person.ID, AuthorName: w.person.Name, Private: t.Private, Body: in.Body.Text, Tags: note.Read(in.Body.Text).Tags}
	if err := s.store.AddAnnotation(ctx, a); err != nil {
		return nil, err
	}
	return s.written(ctx, w, t.ID, a)
}

func (s *Server) editNote(ctx context.Context, w *who, in *struct {
	NotePath
	Body struct {
		Rev  int    `json:"rev" doc:"The revision that it replaces"`
		Text string `json:"text" maxLength:"200000"`
	}
}) (*body[WrittenInfo], error) {
	if err := note.Check(in.Body.Text); err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "bad-text", err.Error())
	}
	a, err := s.store.Annotation(ctx, w.repository.ID, w.person.ID, in.Annotation)
	if err != nil {
		return nil, err
	}
	if a.Author != w.person.ID || a.Deleted {
		return nil, errNotAllowed
	}
	err = s.store.EditAnnotation(ctx, a.ID, in.Body.Rev, in.Body.Text, note.Read(in.Body.Text).Tags)
	if errors.Is(err, store.ErrChanged) {
		return nil, problem(http.StatusConflict, "text-changed", "the text was changed elsewhere meanwhile; yours is not lost: compare both and save again")
	}
	if err != nil {
		return nil, err
	}
	a.Body = in.Body.Text
	return s.written(ctx, w, a.First(), a)
}

func (s *Server) setThread(ctx context.Context, w *who, in *struct {
	NotePath
	Body struct {
		State  string `json:"state" enum:"open,resolved"`
		Answer int64  `json:"answer,omitempty" doc:"The reply that answers it"`
	}
}) (*body[ThreadInfo], error) {
	t, err := s.threadOf(ctx, w, in.Annotation)
	if err != nil {
		return nil, err
	}
	if in.Body.Answer != 0 {
		r, err := s.store.Annotation(ctx, w.repository.ID, w.person.ID, in.Body.Answer)
		if err != nil || r.Thread != t.ID || r.Deleted {
			return nil, problem(http.StatusUnprocessableEntity, "no-answer", "the answer is no reply of this thread")
		}
	}
	if err := s.store.SetThread(ctx, t.ID, in.Body.State, w.person.ID, in.Body.Answer); err != nil {
		return nil, err
	}
	return s.toldThread(ctx, w, t.ID)
}

// toldThread publishes a thread's change, and answers with it.
func (s *Server) toldThread(ctx context.Context, w *who, id int64) (*body[ThreadInfo], error) {
	if err := s.publishNotes(ctx, w, id); err != nil {
		return nil, err
	}
	t, err := s.threadInfo(ctx, w, id, "")
	if err != nil {
		return nil, err
	}
	return answer(*t), nil
}

func (s *Server) retarget(ctx context.Context, w *who, in *struct {
	NotePath
	Body TargetIn
}) (*body[ThreadInfo], error) {
	t, err := s.threadOf(ctx, w, in.Annotation)
	if err != nil {
		return nil, err
	}
	if t.Author != w.person.ID && !w.role.Includes(store.Writer) {
		return nil, errNotAllowed
	}
	target, err := s.target(ctx, w, &in.Body)
	if err != nil {
		return nil, err
	}
	if err := s.store.SetTarget(ctx, t.ID, w.person.ID, target); err != nil {
		return nil, err
	}
	return s.toldThread(ctx, w, t.ID)
}

func (s *Server) tellOf(ctx context.Context, w *who, in *struct {
	NotePath
	Body struct {
		Told bool `json:"told"`
	}
}) (*none, error) {
	t, err := s.threadOf(ctx, w, in.Annotation)
	if err != nil {
		return nil, err
	}
	return &none{}, s.store.TellOf(ctx, t.ID, w.person.ID, in.Body.Told)
}

func (s *Server) seeThreads(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Threads []int64 `json:"threads" minItems:"1" maxItems:"2000"`
	}
}) (*none, error) {
	found, err := s.store.ThreadsAmong(ctx, w.repository.ID, w.person.ID, in.Body.Threads)
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(found))
	for i := range found {
		ids[i] = found[i].ID
	}
	return &none{}, s.store.SeeThreads(ctx, w.person.ID, ids)
}

func (s *Server) deleteNote(ctx context.Context, w *who, in *NotePath) (*none, error) {
	return s.turnNote(ctx, w, in, true)
}

func (s *Server) restoreNote(ctx context.Context, w *who, in *NotePath) (*none, error) {
	return s.turnNote(ctx, w, in, false)
}

func (s *Server) turnNote(ctx context.Context, w *who, in *NotePath, deleted bool) (*none, error) {
	a, err := s.store.Annotation(ctx, w.repository.ID, w.person.ID, in.Annotation)
	if err != nil {
		return nil, err
	}
	if a.Author != w.person.ID && !w.role.Includes(store.Keeper) {
		return nil, errNotAllowed
	}
	if err := s.store.DeleteAnnotation(ctx, a.ID, deleted); err != nil {
		return nil, err
	}
	return &none{}, s.publishNotes(ctx, w, a.First())
}

// PreviewInfo is a text as it would be shown.
type PreviewInfo struct {
	HTML     string   `json:"html"`
	Tags     []string `json:"tags"`
	Mentions []string `json:"mentions" doc:"Who would be told"`
	Untold   []string `json:"untold" doc:"Mentions that tell nobody"`
}

func (s *Server) previewNote(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Text string `json:"text" maxLength:"200000"`
	}
}) (*body[PreviewInfo], error) {
	if len(in.Body.Text) > note.MaxText {
		return nil, problem(http.StatusUnprocessableEntity, "bad-text", note.Check(in.Body.Text).Error())
	}
	l, err := s.noteLore(ctx, w, w.repository.Pin)
	if err != nil {
		return nil, err
	}
	said := note.Read(in.Body.Text)
	info := PreviewInfo{HTML: note.HTML(in.Body.Text, l.links()), Tags: append([]string{}, said.Tags...), Mentions: []string{}, Untold: []string{}}
	for _, m := range said.Mentions {
		if who := memberOf(l.members, m); who != nil {
			info.Mentions = append(info.Mentions, who.Name)
		} else {
			info.Untold = append(info.Untold, m)
		}
	}
	return answer(info), nil
}
