package plan

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Entry is an operation as it was carried out. Operations of one request share
// a batch: they are taken back together.
type Entry struct {
	Seq   int64
	Actor int64
	Batch int64 // the Seq of its first operation
	Turns int64 // the batch that this one takes back or does again; 0: an operation of its own
	Op    Op
}

// CannotUndo tells why there is nothing to take back or to do again, or why that
// would lose another person's work. By is that person; 0 where there is none.
type CannotUndo struct {
	Reason string
	By     int64
}

func (e *CannotUndo) Error() string { return e.Reason }

// Continues reports whether next goes on writing the text that last wrote: the
// same text field of the same part. Both are then one batch, so that a text which
// is saved every few seconds is taken back as a whole.
func Continues(last, next Op) bool {
	switch next.Field {
	case "title", "purpose", "text", "caution", "intent", "name":
		return strings.HasPrefix(next.Kind, "set-") && last.Kind == next.Kind && last.ID == next.ID && last.Field == next.Field
	}
	return false
}

// Stands finds which batch of an actor can be taken back, and which of those
// that were taken back can be done again: 0 for none. Turned is the batch whose
// operations are to be turned round for it; entries are the actor's, in order;
// their Op is not read.
func Stands(entries []Entry, actor int64) (undo, redo Turn) {
	var done, undone []Turn
	last := int64(-1)
	for _, e := range entries {
		if e.Actor != actor || e.Batch == last {
			continue
		}
		last = e.Batch
		switch {
		case e.Turns == 0:
			done, undone = append(done, Turn{e.Batch, e.Batch}), nil
		case len(done) > 0 && done[len(done)-1].Of == e.Turns:
			done, undone = done[:len(done)-1], append(undone, Turn{e.Turns, e.Batch})
		case len(undone) > 0 && undone[len(undone)-1].Of == e.Turns:
			done, undone = append(done, Turn{e.Turns, e.Batch}), undone[:len(undone)-1]
		}
	}
	if n := len(done); n > 0 {
		undo = done[n-1]
	}
	if n := len(undone); n > 0 {
		redo = undone[n-1]
	}
	return undo, redo
}

// Turn is a batch that can be taken back or done again. Of is the batch as it
// was done first, Last the one that did or undid it last: its operations are
// turned round.
type Turn struct{ Of, Last int64 }

// Disturbed finds out whether somebody else has changed, since a batch was done,
// what taking it back would change. since are all entries of the plan after it.
func Disturbed(batch []Op, since []Entry, actor int64) *CannotUndo {
	var mine []string
	for _, op := range batch {
		mine = append(mine, op.targets()...)
	}
	for _, e := range since {
		if e.Actor != actor && overlap(mine, e.Op.targets()) {
			return &CannotUndo{Reason: fmt.Sprintf("somebody has changed this since (%s)", Words(e.Op)), By: e.Actor}
		}
	}
	return nil
}

// Inverse is what takes op back. It is asked for before op is carried out.
func (s *State) Inverse(op Op) Op {
	switch op.Kind {
	case SetPlan, SetChapter, SetPassage, SetIdea, SetAside:
		return Op{Kind: op.Kind, ID: op.ID, Field: op.Field, From: op.To, To: op.From}
	case AddChapter:
		return Op{Kind: RemoveChapter, ID: idOf(op.NewCh)}
	case AddPassage:
		return Op{Kind: RemovePassage, ID: idOf(op.NewPs)}
	case AddIdea:
		return Op{Kind: RemoveIdea, ID: idOf(op.NewIdea)}
	case MoveChapter:
		if c := s.Chapters[op.ID]; c != nil {
			return Op{Kind: MoveChapter, ID: op.ID, Order: c.Order}
		}
	case MovePassage:
		if p := s.Passages[op.ID]; p != nil {
			return Op{Kind: MovePassage, ID: op.ID, Chapter: p.Chapter, Order: p.Order}
		}
	}
	if other, ok := turned[op.Kind]; ok {
		return Op{Kind: other, ID: op.ID, To: op.To}
	}
	return op
}

// turned are the operations that take each other back.
var turned = map[string]string{
	RemoveChapter: RestoreChapter, RestoreChapter: RemoveChapter, RemovePassage: RestorePassage, RestorePassage: RemovePassage,
	RemoveIdea: RestoreIdea, RestoreIdea: RemoveIdea, AddNeed: DropNeed, DropNeed: AddNeed,
}

// idOf is the id of something new; "": there is nothing.
func idOf[T Chapter | Passage | Idea](x *T) string {
	switch v := any(x).(type) {
	case *Chapter:
		if v != nil {
			return v.ID
		}
	case *Passage:
		if v != nil {
			return v.ID
		}
	case *Idea:
		if v != nil {
			return v.ID
		}
	}
	return ""
}

// targets names what an operation touches. "chapter:x" covers "chapter:x/in",
// the fact that something lies in it.
func (op Op) targets() []string {
	switch op.Kind {
	case SetPlan:
		return []string{"plan/" + op.Field}
	case AddChapter:
		return []string{"chapter:" + idOf(op.NewCh)}
	case SetChapter:
		return []string{"chapter:" + op.ID + "/" + op.Field}
	case MoveChapter:
		return []string{"chapter:" + op.ID + "/order"}
	case RemoveChapter, RestoreChapter:
		return []string{"chapter:" + op.ID}
	case AddPassage:
		return []string{"passage:" + op.NewPs.ID, "chapter:" + op.NewPs.Chapter + "/in"}
	case SetPassage:
		return []string{"passage:" + op.ID + "/" + op.Field}
	case MovePassage:
		return []string{"passage:" + op.ID + "/order", "chapter:" + op.Chapter + "/in"}
	case RemovePassage, RestorePassage:
		return []string{"passage:" + op.ID}
	case AddNeed, DropNeed:
		return []string{"passage:" + op.ID + "/needs/" + op.To}
	case AddIdea:
		return []string{"idea:" + idOf(op.NewIdea)}
	case SetIdea:
		return []string{"idea:" + op.ID + "/" + op.Field}
	case RemoveIdea, RestoreIdea:
		return []string{"idea:" + op.ID}
	case SetAside:
		return []string{"aside:" + op.ID}
	}
	return nil
}

func overlap(a, b []string) bool {
	for _, x := range a {
		if slices.ContainsFunc(b, func(y string) bool {
			// two things put into one chapter do not disturb each other
			return (!strings.HasSuffix(x, "/in") || !strings.HasSuffix(y, "/in")) && (x == y || strings.HasPrefix(x, y+"/") || strings.HasPrefix(y, x+"/"))
		}) {
			return true
		}
	}
	return false
}

// Words tells in a few words what an operation does.
func Words(op Op) string {
	switch op.Kind {
	case SetPlan:
		return "the plan's " + op.Field
	case AddChapter:
		return "a new chapter " + strconv.Quote(op.NewCh.Title)
	case AddPassage:
		return "a new passage " + strconv.Quote(op.NewPs.Title)
	case AddIdea:
		return "a new idea " + strconv.Quote(op.NewIdea.Name)
	case SetChapter:
		return "a chapter's " + op.Field
	case SetPassage:
		return "a passage's " + op.Field
	case SetIdea:
		return "an idea's " + op.Field
	case AddNeed, DropNeed:
		return "what a passage needs"
	case SetAside:
		return "what is set aside"
	}
	return strings.ReplaceAll(op.Kind, "-", " a ")
}
