package server

import (
	"context"
	"fmt"
	"net/url"
	"slices"
	"time"

	"juxtagram/core/note"
	"juxtagram/core/place"
	"juxtagram/store"
)

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
	FollowUps []FollowUpInfo   `json:"follow_ups" doc:"Commits that follow it up"`
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
	files   map[string]*store.Attachment // that one may see, by uid; see loadFiles
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

// loadFiles reads which attachments one may see, where any of some texts may name
// one.
func (l *noteLore) loadFiles(ctx context.Context, texts ...string) error {
	if l.files != nil || !slices.ContainsFunc(texts, note.MayAttach) {
		return nil
	}
	files, err := l.s.store.Attachments(ctx, l.w.repository.ID, l.w.person.ID)
	if err != nil {
		return err
	}
	l.files = make(map[string]*store.Attachment, len(files))
	for i := range files {
		l.files[files[i].UID] = &files[i]
	}
	return nil
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
		Attached: func(uid string) *note.Attached {
			if f := l.files[uid]; f != nil {
				return attached(f)
			}
			return nil
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
		Answer: a.Answer, Tags: a.Tags, Target: *a.Target, Placed: l.placed(a.ID), Replies: []NoteInfo{}, FollowUps: []FollowUpInfo{}, ChangedAt: a.ChangedAt}
	said := []saidBy{{a.Author, a.CreatedAt}}
	for i := range replies {
		said = append(said, saidBy{replies[i].Author, replies[i].CreatedAt})
		x.Replies = append(x.Replies, l.note(&replies[i]))
	}
	_, x.Unread, x.Told = partIn(l.w.person.ID, a.Asked, said, r)
	x.Mentioned = r.Mentioned && x.Unread
	return x
}

// saidBy is who wrote a note, and when.
type saidBy struct {
	author int64
	at     time.Time
}

// partIn is somebody's part in a thread: whether they wrote in it, whether
// somebody else did since they saw it, and whether they are told of it. said are
// all its notes, asked is who is asked to act.
func partIn(me, asked int64, said []saidBy, r store.ThreadReader) (written, unread, told bool) {
	for _, x := range said {
		written = written || x.author == me
		unread = unread || x.author != me && (r.SeenAt == nil || x.at.After(*r.SeenAt))
	}
	if r.Told != nil {
		return written, unread, *r.Told
	}
	return written, unread, written || asked == me || r.Mentioned
}

func (l *noteLore) placed(id int64) PlacedInfo {
	p, ok := l.places[id]
	if !ok {
		return PlacedInfo{What: "unknown", Candidates: []place.Candidate{}}
	}
	return PlacedInfo{p.What, p.Path, p.Start, p.End, p.Like, p.Reason, p.ReasonCommit, append([]place.Candidate{}, p.Candidates...)}
}
