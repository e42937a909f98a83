package facts

import (
	"encoding/binary"
	"errors"
	"fmt"

	"github.com/fxamacker/cbor/v2"

	"juxtagram/core/lang"
)

// Details are what a text says name by name. They are large: a survey does not
// hold them.
type Details struct {
	Outline  []lang.Symbol
	Imports  []lang.Import
	Words    []string   // the names that Uses speak of
	Uses     []lang.Use // in text order
	Literals []lang.Literal
	Regions  []lang.Region
	Blocks   []lang.Block
	// Comments and Docstrings are where a team's own words may stand.
	Comments, Docstrings []lang.Span
}

// packed is the form in which details are kept.
type packed struct {
	_        struct{} `cbor:",toarray"`
	Outline  columns
	Imports  columns
	Words    []string
	Uses     []byte
	Literals []lang.Literal
	Regions  columns
	Blocks   []byte
	Comments []byte
	Strings  []byte
}

// Pack turns the details of facts into their kept form: CBOR (RFC 8949). The
// uses are one byte string of numbers: for each the word, the lines since the
// one before, the column and the role.
func (f *Facts) Pack() {
	if f.Details == nil {
		return
	}
	d := f.Details
	uses := make([]byte, 0, 4*len(d.Uses))
	last := int32(0)
	for _, u := range d.Uses {
		uses = binary.AppendUvarint(uses, uint64(u.Word))
		uses = binary.AppendVarint(uses, int64(u.Line-last))
		uses = binary.AppendUvarint(uses, uint64(u.Column))
		uses = append(uses, byte(u.Role))
		last = u.Line
	}
	blocks := make([]lang.Span, len(d.Blocks))
	for i, b := range d.Blocks {
		blocks[i] = lang.Span(b)
	}
	raw, err := cbor.Marshal(packed{Outline: packSymbols(d.Outline), Imports: packImports(d.Imports), Words: d.Words, Uses: uses, Literals: d.Literals, Regions: packRegions(d.Regions), Blocks: packSpans(blocks),
		Comments: packSpans(d.Comments), Strings: packSpans(d.Docstrings)})
	if err != nil {
		panic(err) // plain structures of strings and numbers
	}
	f.Linked = link(f.linkage, d)
	f.Packed, f.Details, f.linkage = raw, nil, linkage{}
}

// decoder bounds what is decoded, and takes names as they were written: what is
// kept came from hostile texts, and not all of them are UTF-8.
var decoder = func() cbor.DecMode {
	m, err := cbor.DecOptions{MaxArrayElements: 8_000_000, MaxMapPairs: 1000, UTF8: cbor.UTF8DecodeInvalid}.DecMode()
	if err != nil {
		panic(err) // the options are constants
	}
	return m
}()

var errKept = errors.New("what is kept is cut short")

// packedNames is packed, as far as names go.
type packedNames struct {
	_        struct{} `cbor:",toarray"`
	Outline  columns
	Imports  cbor.RawMessage
	Words    []string
	Uses     []byte
	Literals cbor.RawMessage
	Regions  cbor.RawMessage
	Blocks   []byte
	Comments cbor.RawMessage
	Strings  cbor.RawMessage
}

// UnpackNames decodes of what Pack encoded the outline, the uses of names and
// the blocks alone; nothing gives nil.
func UnpackNames(raw []byte) (*Details, error) {
	if len(raw) == 0 {
		return nil, nil
	}
	var p packedNames
	if err := decoder.Unmarshal(raw, &p); err != nil {
		return nil, fmt.Errorf("details: %w", err)
	}
	d := &Details{Words: p.Words}
	var err error
	if d.Outline, err = unpackSymbols(p.Outline); err != nil {
		return nil, err
	}
	if err := d.unpackUses(p.Uses); err != nil {
		return nil, err
	}
	return d, d.unpackBlocks(p.Blocks)
}

// Unpack decodes what Pack encoded; nothing gives nil.
func Unpack(raw []byte) (*Details, error) {
	if len(raw) == 0 {
		return nil, nil
	}
	var p packed
	if err := decoder.Unmarshal(raw, &p); err != nil {
		return nil, fmt.Errorf("details: %w", err)
	}
	d := &Details{Words: p.Words, Literals: p.Literals}
	var err error
	if d.Outline, err = unpackSymbols(p.Outline); err != nil {
		return nil, err
	}
	if d.Imports, err = unpackImports(p.Imports); err != nil {
		return nil, err
	}
	if d.Regions, err = unpackRegions(p.Regions); err != nil {
		return nil, err
	}
	if d.Comments, err = unpackSpans(p.Comments); err != nil {
		return nil, err
	}
	if d.Docstrings, err = unpackSpans(p.Strings); err != nil {
		return nil, err
	}
	if err := d.unpackUses(p.Uses); err != nil {
		return nil, err
	}
	return d, d.unpackBlocks(p.Blocks)
}

func (d *Details) unpackUses(raw []byte) error {
	line := int32(0)
	for at := 0; at < len(raw); {
		word, n := binary.Uvarint(raw[at:])
		if n <= 0 || word >= uint64(len(d.Words)) {
			return errKept
		}
		at += n
		step, n := binary.Varint(raw[at:])
		if n <= 0 {
			return errKept
		}
		at += n
		column, n := binary.Uvarint(raw[at:])
		if n <= 0 || at+n >= len(raw) {
			return errKept
		}
		at += n
		line += int32(step)
		d.Uses = append(d.Uses, lang.Use{Word: int32(word), Line: line, Column: int32(column), Role: lang.Role(raw[at])})
		at++
	}
	return nil
}

func (d *Details) unpackBlocks(raw []byte) error {
	spans, err := unpackSpans(raw)
	for _, s := range spans {
		d.Blocks = append(d.Blocks, lang.Block(s))
	}
	return err
}

// packSpans writes spans in the order of their starts as numbers: for each how
// far it starts behind the one before, and its length.
func packSpans(spans []lang.Span) []byte {
	b := make([]byte, 0, 3*len(spans))
	at := 0
	for _, s := range spans {
		b = binary.AppendVarint(b, int64(s.Start-at))
		b = binary.AppendUvarint(b, uint64(s.End-s.Start))
		at = s.Start
	}
	return b
}

func unpackSpans(raw []byte) ([]lang.Span, error) {
	var out []lang.Span
	start := 0
	for at := 0; at < len(raw); {
		step, n := binary.Varint(raw[at:])
		if n <= 0 {
			return nil, errKept
		}
		at += n
		length, n := binary.Uvarint(raw[at:])
		if n <= 0 {
			return nil, errKept
		}
		at += n
		start += int(step)
		out = append(out, lang.Span{Start: start, End: start + int(length)})
	}
	return out, nil
}
