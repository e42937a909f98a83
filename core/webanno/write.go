package webanno

import (
	"bufio"
	"encoding/json"
	"io"
	"time"
)

// context names the model and our own terms.
var context = []any{contextURL, map[string]string{"juxtagram": "urn:x-juxtagram:terms:"}}

var motivations = map[string]string{"note": "commenting", "question": "questioning", "ask": "assessing"}

// Write writes threads as an AnnotationPage, each note an annotation: a thread's
// first with its target, then the replies, whose target is the first. Files that
// texts use stand before them.
func Write(w io.Writer, threads []Thread, files []File) error {
	out := bufio.NewWriter(w)
	head, err := json.Marshal(context)
	if err != nil {
		return err
	}
	_, _ = out.WriteString(`{"@context":` + string(head) + `,"type":"AnnotationPage",`)
	n := 0
	put := func(x any) error {
		b, err := json.Marshal(x)
		if err != nil {
			return err
		}
		if n++; n > 1 {
			_ = out.WriteByte(',')
		}
		_ = out.WriteByte('\n')
		_, err = out.Write(b)
		return err
	}
	if len(files) > 0 {
		_, _ = out.WriteString(`"` + filesTerm + `":[`)
		for _, f := range files {
			if err := put(file{urnOfFile + f.UID, f.Name, f.Content}); err != nil {
				return err
			}
		}
		_, _ = out.WriteString("\n],")
		n = 0
	}
	_, _ = out.WriteString(`"items":[`)
	for i := range threads {
		t := &threads[i]
		first := asItem(&t.Note)
		first.Motivation = motivations[t.Kind]
		bodies := []textualBody{{"TextualBody", "commenting", "text/markdown", t.Text}}
		for _, tag := range t.Tags {
			bodies = append(bodies, textualBody{"TextualBody", "tagging", "", tag})
		}
		first.Body = bodies
		first.Target = resource{sourceOf(&t.Target), selectors(&t.Target)}
		first.Ours = &ours{t.Kind, t.Target.Kind, t.Target.Symbol, t.State, t.StateBy, t.Asked, t.Answer, t.Private, t.Rev, t.Commits}
		if err := put(first); err != nil {
			return err
		}
		for k := range t.Replies {
			r := asItem(&t.Replies[k])
			r.Motivation = "replying"
			r.Body = []textualBody{{"TextualBody", "replying", "text/markdown", t.Replies[k].Text}}
			r.Target = urnOfNote + t.UID
			r.Ours = &ours{Rev: t.Replies[k].Rev}
			if err := put(r); err != nil {
				return err
			}
		}
	}
	_, _ = out.WriteString("\n]}\n")
	return out.Flush()
}

func asItem(n *Note) *item {
	x := &item{ID: urnOfNote + n.UID, Type: "Annotation", Created: n.Created.UTC().Format(time.RFC3339Nano)}
	if n.Edited != nil {
		x.Modified = n.Edited.UTC().Format(time.RFC3339Nano)
	}
	if n.Author != "" {
		x.Creator = &creator{"Person", n.Author}
	}
	return x
}
