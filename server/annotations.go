package server

import (
	"context"
	"net/http"
	"slices"
	"time"

	"juxtagram/core/place"
	"juxtagram/store"
)

func (s *Server) annotationRoutes() []route {
	const at = "/api/repositories/{repository}/annotations"
	return []route{
		handle(s, "GET", at, Read, "The threads on a file or a folder at a commit", s.annotationsOn),
		handle(s, "POST", at, Read, "Write beside the code; readers may, too", s.annotate, status(http.StatusCreated)),
		handle(s, "POST", at+"/accept", Write, "Attach threads that lost their place to their likeliest candidates", s.acceptPlaces),
		handle(s, "POST", at+"/preview", Read, "A text as it would be shown, and whom it would tell", s.previewNote),
		handle(s, "PUT", at+"/seen", Read, "Note that you have seen threads as they are", s.seeThreads),
		handle(s, "GET", at+"/{annotation}", Read, "One thread with its replies, earlier texts and earlier places", s.thread),
		handle(s, "POST", at+"/{annotation}/replies", Read, "Reply in a thread", s.reply, status(http.StatusCreated)),
		handle(s, "PUT", at+"/{annotation}/text", Read, "Put another text in the place of yours", s.editNote),
		handle(s, "PUT", at+"/{annotation}/state", Read, "Resolve a thread, by a reply that answers it where there is one, or open it again", s.setThread),
		handle(s, "PUT", at+"/{annotation}/target", Read, "Place a thread anew: the place before is kept", s.retarget),
		handle(s, "PUT", at+"/{annotation}/told", Read, "Be told of a thread, or be left out", s.tellOf),
		handle(s, "PUT", at+"/{annotation}/commits/{commit}", Read, "Link a commit to a thread as its follow-up", s.linkCommit),
		handle(s, "DELETE", at+"/{annotation}/commits/{commit}", Read, "Unlink it", s.unlinkCommit),
		handle(s, "DELETE", at+"/{annotation}", Read, "Take away what you wrote, or anything as a keeper", s.deleteNote),
		handle(s, "POST", at+"/{annotation}/restore", Read, "Bring back what was taken away", s.restoreNote),
	}
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
	Path    string `query:"path" maxLength:"5000" doc:"Of the file or folder; empty: the repository itself"`
	At      string `query:"at" maxLength:"300"`
	Plan    int64  `query:"plan" doc:"Those asked at a passage of this plan instead"`
	Passage string `query:"passage" maxLength:"64"`
	About   bool   `query:"about" doc:"Those about the commit itself, or that it follows up, instead"`
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
	var threads []store.Annotation
	if in.Plan != 0 {
		threads, err = s.store.ThreadsAt(ctx, w.repository.ID, w.person.ID, in.Plan, in.Passage)
	} else if in.About {
		threads, err = s.store.ThreadsAbout(ctx, w.repository.ID, w.person.ID, commit)
	} else {
		threads, err = s.store.ThreadsAmong(ctx, w.repository.ID, w.person.ID, ids)
		threads = withoutCommits(threads)
	}
	if err != nil {
		return nil, err
	}
	told, err := s.threads(ctx, l, threads)
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(told, func(a, b ThreadInfo) int { return a.Placed.Start - b.Placed.Start })
	return answer(OnPath{commit, told, left}), nil
}

// withoutCommits leaves out threads about commits, which have no path.
func withoutCommits(threads []store.Annotation) []store.Annotation {
	return slices.DeleteFunc(threads, func(a store.Annotation) bool { return a.Target.Kind == store.OnCommit })
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
	texts := make([]string, 0, len(firsts)+len(replies))
	for i := range firsts {
		texts = append(texts, firsts[i].Body)
	}
	for _, r := range replies {
		of[r.Thread] = append(of[r.Thread], r)
		texts = append(texts, r.Body)
	}
	if err := l.loadFiles(ctx, texts...); err != nil {
		return nil, err
	}
	followed, err := s.followUps(ctx, l.w, ids)
	if err != nil {
		return nil, err
	}
	out := []ThreadInfo{}
	for i := range firsts {
		t := l.thread(&firsts[i], of[firsts[i].ID])
		t.FollowUps = append(t.FollowUps, followed[t.ID]...)
		out = append(out, t)
	}
	return out, nil
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
