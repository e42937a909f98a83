package plan

import (
	"fmt"
	"strconv"
	"strings"
)

// Entry is an operation as it was carried out.
type Entry struct {
	Seq    int64
	Actor  int64
	Op     Op
	Undoes int64 // the entry this one took back; 0: an operation of its own
}

// CannotUndo tells why there is nothing to undo, or why it would lose another
// person's work. By is that person; 0 where there is none.
type CannotUndo struct {
	Reason string
	By     int64
}

func (e *CannotUndo) Error() string { return e.Reason }

// Undo finds the last operation of actor that still stands and the operation
// that takes it back. It is refused with *CannotUndo when somebody else has
// changed the same thing since. entries are all of the plan's, in order.
func Undo(entries []Entry, actor int64) (inverse Op, undoes int64, err error) {
	undone := map[int64]bool{}
	for _, e := range entries {
		if e.Undoes != 0 {
			undone[e.Undoes] = true
		}
	}
	at := -1
	for i := len(entries) - 1; i >= 0; i-- {
		if e := entries[i]; e.Actor == actor && e.Undoes == 0 && !undone[e.Seq] {
			at = i
			break
		}
	}
	if at < 0 {
		return Op{}, 0, &CannotUndo{Reason: "there is nothing of yours to undo"}
	}
	mine := entries[at]
	for _, e := range entries[at+1:] {
		if e.Actor != actor && overlap(mine.Op.targets(), e.Op.targets()) {
			return Op{}, 0, &CannotUndo{Reason: fmt.Sprintf("somebody has changed this since (%s)", Words(e.Op)), By: e.Actor}
		}
	}
	before := New()
	for _, e := range entries[:at] {
		if err := before.Apply(e.Op); err != nil {
			return Op{}, 0, fmt.Errorf("operation %d of the plan cannot be replayed: %w", e.Seq, err)
		}
	}
	return before.inverse(mine.Op), mine.Seq, nil
}

// inverse is what takes op back, given the state before it.
func (s *State) inverse(op Op) Op {
	switch op.Kind {
	case SetPlan, SetChapter, SetPassage:
		return Op{Kind: op.Kind, ID: op.ID, Field: op.Field, From: op.To, To: op.From}
	case AddChapter:
		return Op{Kind: RemoveChapter, ID: op.NewCh.ID}
	case AddPassage:
		return Op{Kind: RemovePassage, ID: op.NewPs.ID}
	case RemoveChapter:
		return Op{Kind: RestoreChapter, ID: op.ID}
	case RestoreChapter:
		return Op{Kind: RemoveChapter, ID: op.ID}
	case RemovePassage:
		return Op{Kind: RestorePassage, ID: op.ID}
	case RestorePassage:
		return Op{Kind: RemovePassage, ID: op.ID}
	case MoveChapter:
		return Op{Kind: MoveChapter, ID: op.ID, Order: s.Chapters[op.ID].Order}
	case MovePassage:
		p := s.Passages[op.ID]
		return Op{Kind: MovePassage, ID: op.ID, Chapter: p.Chapter, Order: p.Order}
	}
	return op
}

// targets names what an operation touches. "chapter:x" covers "chapter:x/in",
// the fact that something lies in it.
func (op Op) targets() []string {
	switch op.Kind {
	case SetPlan:
		return []string{"plan/" + op.Field}
	case AddChapter:
		return []string{"chapter:" + op.NewCh.ID}
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
	}
	return nil
}

func overlap(a, b []string) bool {
	for _, x := range a {
		for _, y := range b {
			// two things put into one chapter do not disturb each other
			if strings.HasSuffix(x, "/in") && strings.HasSuffix(y, "/in") {
				continue
			}
			if x == y || strings.HasPrefix(x, y+"/") || strings.HasPrefix(y, x+"/") {
				return true
			}
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
	case SetChapter:
		return "a chapter's " + op.Field
	case SetPassage:
		return "a passage's " + op.Field
	}
	return strings.ReplaceAll(op.Kind, "-", " a ")
}
