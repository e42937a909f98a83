package facts

import (
	"encoding/binary"
	"slices"

	"juxtagram/core/lang"
)

// columns is the kept form of a list: the numbers of its entries one after the other,
// and their texts. How long each text is stands among the numbers.
type columns struct {
	_       struct{} `cbor:",toarray"`
	Numbers []byte   // as varints
	Texts   []byte
}

func (c *columns) number(n int) { c.Numbers = binary.AppendVarint(c.Numbers, int64(n)) }

func (c *columns) flag(on bool) {
	n := 0
	if on {
		n = 1
	}
	c.number(n)
}

func (c *columns) text(s string) {
	c.number(len(s))
	c.Texts = append(c.Texts, s...)
}

// rows reads columns. What is kept may be cut short: then broken is set, and what is
// read is 0 or empty.
type rows struct {
	numbers []byte
	texts   string
	broken  bool
}

func (c *columns) rows() *rows { return &rows{numbers: c.Numbers, texts: string(c.Texts)} }

func (r *rows) more() bool { return len(r.numbers) > 0 && !r.broken }

func (r *rows) number() int {
	v, n := binary.Varint(r.numbers)
	if n <= 0 {
		r.broken = true
		return 0
	}
	r.numbers = r.numbers[n:]
	return int(v)
}

func (r *rows) flag() bool { return r.number() == 1 }

// count is how many of something follow, each of at least one number.
func (r *rows) count() int {
	n := r.number()
	if n < 0 || n > len(r.numbers) {
		r.broken = true
		return 0
	}
	return n
}

func (r *rows) text() string {
	n := r.number()
	if n < 0 || n > len(r.texts) {
		r.broken = true
		return ""
	}
	s := r.texts[:n]
	r.texts = r.texts[n:]
	return s
}

func (r *rows) err() error {
	if r.broken {
		return errKept
	}
	return nil
}

func packSymbols(outline []lang.Symbol) (c columns) {
	c.Numbers, c.Texts = make([]byte, 0, 24*len(outline)), make([]byte, 0, 96*len(outline))
	for i := range outline {
		s := &outline[i]
		for _, text := range [...]string{s.Name, s.Qualified, string(s.Kind), string(s.Visibility), s.Signature, s.Type, s.Doc, s.Forwards} {
			c.text(text)
		}
		c.flag(s.Static)
		for _, n := range [...]int{s.Start, s.End - s.Start, s.NameLine - s.Start, s.Parent, s.Intricacy, len(s.Supers)} {
			c.number(n)
		}
		for _, super := range s.Supers {
			c.text(super)
		}
	}
	return c
}

func unpackSymbols(c columns) (out []lang.Symbol, err error) {
	r := c.rows()
	for r.more() {
		s := lang.Symbol{Name: r.text(), Qualified: r.text(), Kind: lang.Kind(r.text()), Visibility: lang.Visibility(r.text()), Signature: r.text(), Type: r.text(), Doc: r.text(), Forwards: r.text(), Static: r.flag()}
		s.Start = r.number()
		s.End, s.NameLine, s.Parent, s.Intricacy = s.Start+r.number(), s.Start+r.number(), r.number(), r.number()
		for range r.count() {
			s.Supers = append(s.Supers, r.text())
		}
		out = append(out, s)
	}
	return out, r.err()
}

func packImports(imports []lang.Import) (c columns) {
	for i := range imports {
		m := &imports[i]
		c.text(m.Text)
		c.number(m.Line)
		c.number(m.EndLine - m.Line)
		c.flag(m.Reexport)
		c.number(len(m.Names))
		for _, n := range m.Names {
			c.text(n.Name)
			c.text(n.As)
		}
	}
	return c
}

func unpackImports(c columns) (out []lang.Import, err error) {
	r := c.rows()
	for r.more() {
		m := lang.Import{Text: r.text(), Line: r.number()}
		m.EndLine, m.Reexport = m.Line+r.number(), r.flag()
		for range r.count() {
			m.Names = append(m.Names, lang.Imported{Name: r.text(), As: r.text()})
		}
		out = append(out, m)
	}
	return out, r.err()
}

func packCalls(calls []lang.CallSite) (c columns) {
	for i := range calls {
		s := &calls[i]
		c.text(s.Callee)
		c.text(string(s.Kind))
		for _, n := range [...]int{s.Line, s.Symbol, s.Target, len(s.Args)} {
			c.number(n)
		}
		for _, a := range s.Args {
			c.text(a.Text)
			c.text(a.Name)
		}
	}
	return c
}

func unpackCalls(c columns) (out []lang.CallSite, err error) {
	r := c.rows()
	for r.more() {
		s := lang.CallSite{Callee: r.text(), Kind: lang.EffectKind(r.text()), Line: r.number(), Symbol: r.number(), Target: r.number()}
		for range r.count() {
			s.Args = append(s.Args, lang.Argument{Text: r.text(), Name: r.text()})
		}
		out = append(out, s)
	}
	return out, r.err()
}

func packValues(values []lang.Value) (c columns) {
	for i := range values {
		v := &values[i]
		for _, text := range [...]string{v.Name, v.Text, v.From} {
			c.text(text)
		}
		for _, n := range [...]int{v.Line, v.Symbol, v.Call} {
			c.number(n)
		}
	}
	return c
}

func unpackValues(c columns) (out []lang.Value, err error) {
	r := c.rows()
	for r.more() {
		out = append(out, lang.Value{Name: r.text(), Text: r.text(), From: r.text(), Line: r.number(), Symbol: r.number(), Call: r.number()})
	}
	return out, r.err()
}

func packRegions(regions []lang.Region) (c columns) {
	for _, r := range regions {
		for _, n := range [...]int{slices.Index(lang.RegionKinds, r.Kind), r.Start, r.End - r.Start} {
			c.number(n)
		}
	}
	return c
}

func unpackRegions(c columns) (out []lang.Region, err error) {
	r := c.rows()
	for r.more() {
		kind, start, length := r.number(), r.number(), r.number()
		if kind < 0 || kind >= len(lang.RegionKinds) {
			return nil, errKept
		}
		out = append(out, lang.Region{Kind: lang.RegionKinds[kind], Start: start, End: start + length})
	}
	return out, r.err()
}
