package survey

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"

	"juxtagram/core/facts"
	"juxtagram/core/summary"
)

// filesMark stands in the document's frame for the files.
const filesMark = "\n \"files\": []"

// Write writes the document as indented JSON. Files are written one by one, so
// that the outlines are never all in memory.
func (d *Document) Write(w io.Writer) error {
	frame := *d
	frame.Files = []DocFile{}
	var b bytes.Buffer
	if err := encode(&b, frame, ""); err != nil {
		return err
	}
	before, after, found := bytes.Cut(b.Bytes(), []byte(filesMark))
	if !found {
		return fmt.Errorf("the document has no files")
	}
	if _, err := w.Write(before); err != nil {
		return err
	}
	if err := d.writeFiles(w); err != nil {
		return err
	}
	_, err := w.Write(after)
	return err
}

func (d *Document) writeFiles(w io.Writer) error {
	if len(d.Files) == 0 {
		_, err := io.WriteString(w, filesMark)
		return err
	}
	if _, err := io.WriteString(w, "\n \"files\": ["); err != nil {
		return err
	}
	var b bytes.Buffer
	for i := range d.Files {
		f := d.Files[i]
		if d.details != nil {
			details, err := d.details(i)
			if err != nil {
				return fmt.Errorf("%s: %w", f.Path, err)
			}
			f.describe(details, func(n int) *DocOrigin { return d.origin(i, n) })
		}
		if d.whole != nil {
			if err := f.tell(d.whole, i); err != nil {
				return fmt.Errorf("%s: %w", f.Path, err)
			}
		}
		b.Reset()
		if i > 0 {
			b.WriteByte(',')
		}
		b.WriteString("\n  ")
		if err := encode(&b, f, "  "); err != nil {
			return err
		}
		if _, err := w.Write(bytes.TrimSuffix(b.Bytes(), []byte{'\n'})); err != nil {
			return err
		}
	}
	_, err := io.WriteString(w, "\n ]")
	return err
}

func encode(b *bytes.Buffer, v any, prefix string) error {
	enc := json.NewEncoder(b)
	enc.SetEscapeHTML(false)
	enc.SetIndent(prefix, " ")
	return enc.Encode(v)
}

// describe adds what a file's details say.
func (f *DocFile) describe(d *facts.Details, origin func(n int) *DocOrigin) {
	if d == nil {
		return
	}
	for _, s := range d.Outline {
		x := DocSymbol{
			Name: text(s.Name), Qualified: text(s.Qualified), Kind: string(s.Kind), Visibility: orNull(string(s.Visibility)), Static: s.Static,
			Signature: text(s.Signature), Doc: orNull(text(s.Doc)), Start: s.Start, End: s.End, NameLine: s.NameLine, Type: orNull(text(s.Type)),
			ForwardsTo: orNull(text(s.Forwards)),
		}
		if s.Parent >= 0 {
			x.Parent = &s.Parent
		}
		f.Outline = append(f.Outline, x)
	}
	for n, i := range d.Imports {
		x := DocImport{Text: text(i.Text), Line: i.Line, Names: []string{}, Resolves: origin(n)}
		for _, n := range i.Names {
			x.Names = append(x.Names, text(n.Name))
		}
		f.Imports = append(f.Imports, x)
	}
}

// tell adds what is told from the whole: effects and the summary.
func (f *DocFile) tell(w *summary.Whole, file int) error {
	effects, err := w.EffectsOf(file)
	if err != nil {
		return err
	}
	for _, e := range effects {
		x := DocEffect{Kind: string(e.Kind), Line: e.Line, Call: text(e.Call), Target: orNull(text(e.Target)), Via: []DocHop{}}
		for _, h := range e.Via {
			x.Via = append(x.Via, DocHop{escape(w.Files[h.File].Path), h.Line, text(h.Text)})
		}
		f.Effects = append(f.Effects, x)
	}
	sentences, err := w.OfFile(file)
	if err != nil {
		return err
	}
	for _, s := range sentences {
		x := DocSentence{Text: text(s.Text), Depth: string(s.Depth)}
		for _, c := range s.Cites {
			cite := DocCite{Path: escape(c.Path)}
			if c.Line > 0 {
				cite.Line = &c.Line
			}
			x.Cites = append(x.Cites, cite)
		}
		f.Summary = append(f.Summary, x)
	}
	return nil
}
