package facts

import (
	"cmp"
	"encoding/binary"
	"fmt"
	"math/bits"
	"slices"
	"sort"

	"github.com/fxamacker/cbor/v2"

	"juxtagram/core/lang"
)

// Linked is what one blob offers to others and asks of them, in its kept form.
// Each part is read by itself: heads resolve imports, matter tells definitions
// and calls, terms find names.
type Linked struct {
	Head, Matter, Terms []byte
}

// Head is what the imports of a file are resolved from.
type Head struct {
	Package string
	Imports []lang.Import
}

// keptHead is the kept form of a Head.
type keptHead struct {
	_       struct{} `cbor:",toarray"`
	Package string
	Imports columns
}

// Matter is what other files, summaries and detectors ask of a file.
type Matter struct {
	Doc    lang.Doc
	Makes  []string // names of its functions and methods, each once, in text order
	Calls  []lang.CallSite
	Values []lang.Value
	Sketch []uint32 // the smallest hashes of its runs of names; see Likeness
	// Vocabulary holds the hashes of the words that its names are made of.
	Vocabulary []byte
}

// keptMatter is the kept form of Matter.
type keptMatter struct {
	_             struct{} `cbor:",toarray"`
	Doc           lang.Doc
	Makes         []string
	Calls, Values columns
	Sketch        []byte // 32 bits each, the lowest byte first
	Vocabulary    []byte
}

// link makes the kept form of what others may ask.
func link(l linkage, d *Details) Linked {
	m := keptMatter{Doc: l.doc, Calls: packCalls(l.calls), Values: packValues(l.values), Vocabulary: vocabulary(d.Words)}
	seen := map[string]bool{}
	for i := range d.Outline {
		if s := &d.Outline[i]; (s.Kind == lang.Function || s.Kind == lang.Method) && !seen[s.Name] {
			seen[s.Name] = true
			m.Makes = append(m.Makes, s.Name)
		}
	}
	hashes := make([]uint64, len(d.Words))
	for i, w := range d.Words {
		hashes[i] = NameHash(w)
	}
	m.Sketch = numbers(sketch(d.Uses, hashes))
	return Linked{Head: encode(keptHead{Package: l.pkg, Imports: packImports(d.Imports)}), Matter: encode(m), Terms: terms(d.Uses, hashes)}
}

func encode(v any) []byte {
	raw, err := cbor.Marshal(v)
	if err != nil {
		panic(err) // plain structures of strings and numbers
	}
	return raw
}

// UnpackHead decodes a kept head; nothing gives an empty one.
func UnpackHead(raw []byte) (h Head, err error) {
	if len(raw) == 0 {
		return h, nil
	}
	var kept keptHead
	if err = decoder.Unmarshal(raw, &kept); err == nil {
		h.Package = kept.Package
		h.Imports, err = unpackImports(kept.Imports)
	}
	if err != nil {
		err = fmt.Errorf("head: %w", err)
	}
	return h, err
}

// UnpackMatter decodes kept matter; nothing gives an empty one.
func UnpackMatter(raw []byte) (m Matter, err error) {
	if len(raw) == 0 {
		return m, nil
	}
	var kept keptMatter
	if err = decoder.Unmarshal(raw, &kept); err == nil {
		m.Doc, m.Makes, m.Vocabulary = kept.Doc, kept.Makes, kept.Vocabulary
		for at := 0; at+4 <= len(kept.Sketch); at += 4 {
			m.Sketch = append(m.Sketch, binary.LittleEndian.Uint32(kept.Sketch[at:]))
		}
		if m.Calls, err = unpackCalls(kept.Calls); err == nil {
			m.Values, err = unpackValues(kept.Values)
		}
	}
	if err != nil {
		err = fmt.Errorf("matter: %w", err)
	}
	return m, err
}

// numbers writes 32 bits each, the lowest byte first.
func numbers(list []uint32) []byte {
	out := make([]byte, 0, 4*len(list))
	for _, n := range list {
		out = binary.LittleEndian.AppendUint32(out, n)
	}
	return out
}

// NameHash is the number by which terms know a name (FNV-1a, 64 bits).
func NameHash(name string) uint64 {
	h := uint64(firstHash)
	for i := 0; i < len(name); i++ {
		h = nextHash(h, name[i])
	}
	return h
}

// firstHash is that of nothing.
const firstHash = 14695981039346656037

func nextHash(h uint64, c byte) uint64 { return (h ^ uint64(c)) * 1099511628211 }

// Term tells how often, and in which roles, a text uses one name.
type Term struct {
	Roles RoleSet
	Count int // up to 65,535
}

// RoleSet is a set of roles; Bare and Owned tell whether the name stands by
// itself, or behind another one, anywhere.
type RoleSet uint16

// The bits beyond those of the roles.
const (
	Bare  RoleSet = 1 << 12
	Owned RoleSet = 1 << 13
)

// Has tells whether a role is in the set.
func (s RoleSet) Has(r lang.Role) bool { return s&(1<<r.Plain()) != 0 }

// termSize is the size of one term: hash, roles, count.
const termSize = 12

// terms packs the names of a text, in the order of their hashes.
func terms(uses []lang.Use, hashes []uint64) []byte {
	found := make([]Term, len(hashes))
	for i := range uses {
		u := &uses[i]
		t := &found[u.Word]
		t.Count++
		set := RoleSet(1)<<u.Role.Plain() | Bare
		if u.Role&lang.OnOwner != 0 {
			set = set&^Bare | Owned
		}
		t.Roles |= set
	}
	type named struct {
		hash uint64
		of   int
	}
	order := make([]named, len(hashes))
	for i, h := range hashes {
		order[i] = named{h, i}
	}
	slices.SortFunc(order, func(a, b named) int { return cmp.Compare(a.hash, b.hash) })
	out := make([]byte, 0, termSize*len(order))
	for _, n := range order {
		t := &found[n.of]
		out = binary.LittleEndian.AppendUint64(out, n.hash)
		out = binary.LittleEndian.AppendUint16(out, uint16(t.Roles))
		out = binary.LittleEndian.AppendUint16(out, uint16(min(t.Count, 65535)))
	}
	return out
}

// EachTerm calls each for all packed terms, in the order of their hashes.
func EachTerm(packed []byte, each func(hash uint64, t Term)) {
	for at := 0; at+termSize <= len(packed); at += termSize {
		t := packed[at:]
		each(binary.LittleEndian.Uint64(t), Term{Roles: RoleSet(binary.LittleEndian.Uint16(t[8:])), Count: int(binary.LittleEndian.Uint16(t[10:]))})
	}
}

// FindTerm looks a name up among packed terms.
func FindTerm(packed []byte, hash uint64) (Term, bool) {
	n := len(packed) / termSize
	at := sort.Search(n, func(i int) bool { return binary.LittleEndian.Uint64(packed[i*termSize:]) >= hash })
	if at == n || binary.LittleEndian.Uint64(packed[at*termSize:]) != hash {
		return Term{}, false
	}
	t := packed[at*termSize:]
	return Term{Roles: RoleSet(binary.LittleEndian.Uint16(t[8:])), Count: int(binary.LittleEndian.Uint16(t[10:]))}, true
}

// sketchSize is how many hashes a sketch keeps, runLength how many names follow
// each other in a run.
const (
	sketchSize = 64
	runLength  = 4
	rolled     = 17 // bits by which a name's hash is turned for each that follows
)

// sketch keeps the smallest hashes of a text's runs of names: a bottom-k sketch
// (Cohen and Kaplan, 2007) of its shingles (Broder, 1997).
func sketch(uses []lang.Use, hashes []uint64) []uint32 {
	if len(uses) < runLength {
		return nil
	}
	least := make([]uint32, 0, sketchSize+1)
	run := uint64(0) // rolled on from name to name: the one that a run leaves behind is taken out of it
	for i := range uses {
		run = bits.RotateLeft64(run, rolled) ^ hashes[uses[i].Word]
		if i >= runLength {
			run ^= bits.RotateLeft64(hashes[uses[i-runLength].Word], rolled*runLength)
		}
		if i+1 < runLength {
			continue
		}
		x := uint32(run * 0x9E3779B97F4A7C15 >> 32)
		if len(least) == sketchSize && x >= least[sketchSize-1] {
			continue
		}
		at := sort.Search(len(least), func(k int) bool { return least[k] >= x })
		if at < len(least) && least[at] == x {
			continue
		}
		least = append(least, 0)
		copy(least[at+1:], least[at:])
		least[at] = x
		least = least[:min(len(least), sketchSize)]
	}
	return least
}

// Likeness estimates which share of the runs of names two texts have in common,
// 0..1, from their sketches; 0 for texts too short to tell.
func Likeness(a, b []uint32) float64 {
	if len(a) < 8 || len(b) < 8 {
		return 0
	}
	size := min(sketchSize, max(len(a), len(b)))
	i, j, seen, both := 0, 0, 0, 0
	for seen < size && (i < len(a) || j < len(b)) {
		switch {
		case j == len(b) || i < len(a) && a[i] < b[j]:
			i++
		case i == len(a) || b[j] < a[i]:
			j++
		default:
			i, j, both = i+1, j+1, both+1
		}
		seen++
	}
	return float64(both) / float64(seen)
}
