package links

import (
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"runtime"
	"strings"
	"sync"
	"sync/atomic"

	"github.com/fxamacker/cbor/v2"

	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

// Version changes whenever the same files would be linked otherwise.
const Version = 1

// Links are the origins of all imports of a tree.
type Links struct {
	Origins []origin.Origin // each once
	Of      [][]int32       // file → import → index in Origins
}

// Origin is where an import of a file comes from; nil: not known.
func (l *Links) Origin(file, n int) *origin.Origin {
	if l == nil || file >= len(l.Of) || n >= len(l.Of[file]) {
		return nil
	}
	return &l.Origins[l.Of[file][n]]
}

// Snapshot is what a survey keeps for the next one: its files with their links.
type Snapshot struct {
	_         struct{} `cbor:",toarray"`
	Version   int
	Manifests string   // digest of the manifests' paths and blobs
	Paths     []string // in path order
	Keys      []string // blob and language of each
	Packages  []string
	Origins   []origin.Origin
	Of        []byte // for each file the number of imports, then an index each
	Figures   Figures
}

// Pack makes the kept form.
func (s *Snapshot) Pack() []byte {
	raw, err := cbor.Marshal(s)
	if err != nil {
		panic(err) // plain structures of strings and numbers
	}
	return raw
}

var decoder = func() cbor.DecMode {
	m, err := cbor.DecOptions{MaxArrayElements: 8_000_000, UTF8: cbor.UTF8DecodeInvalid}.DecMode()
	if err != nil {
		panic(err) // the options are constants
	}
	return m
}()

// UnpackSnapshot decodes what Pack made; nothing, or another version, gives nil.
func UnpackSnapshot(raw []byte) (*Snapshot, error) {
	if len(raw) == 0 {
		return nil, nil
	}
	s := new(Snapshot)
	if err := decoder.Unmarshal(raw, s); err != nil {
		return nil, fmt.Errorf("links: %w", err)
	}
	if s.Version != Version {
		return nil, nil
	}
	if len(s.Keys) != len(s.Paths) || len(s.Packages) != len(s.Paths) {
		return nil, errors.New("links: cut short")
	}
	return s, nil
}

// Links are the snapshot's own.
func (s *Snapshot) Links() (*Links, error) {
	l := &Links{Origins: s.Origins, Of: make([][]int32, len(s.Paths))}
	at := 0
	number := func() (int, bool) {
		v, n := binary.Uvarint(s.Of[at:])
		if n <= 0 || v > 1<<31-1 {
			return 0, false
		}
		at += n
		return int(v), true
	}
	for i := range l.Of {
		count, ok := number()
		if !ok || count > len(s.Of) {
			return nil, errors.New("links: cut short")
		}
		if count == 0 {
			continue
		}
		l.Of[i] = make([]int32, count)
		for k := range l.Of[i] {
			v, ok := number()
			if !ok || v >= len(s.Origins) {
				return nil, errors.New("links: cut short")
			}
			l.Of[i][k] = int32(v)
		}
	}
	return l, nil
}

// Same tells whether files, and what was resolved anew of them, are as a
// snapshot has them, so that all of it still holds. found holds the origins of
// the files resolved anew, was those that the snapshot has of a file.
func (s *Snapshot) Same(files []origin.File, found [][]origin.Origin, was func(file int) []origin.Origin) bool {
	if len(files) != len(s.Paths) {
		return false
	}
	for i := range files {
		if files[i].Path != s.Paths[i] {
			return false
		}
	}
	var a, b []byte
	for i, list := range found {
		if list == nil {
			continue
		}
		old := was(i)
		if len(old) != len(list) {
			return false
		}
		for k := range list {
			a, b = list[k].Key(a[:0]), old[k].Key(b[:0])
			if string(a) != string(b) {
				return false
			}
		}
	}
	return true
}

// Keep makes the snapshot of links over a tree's files.
func Keep(files []origin.File, keys []string, manifests string, l *Links) *Snapshot {
	s := &Snapshot{Version: Version, Manifests: manifests, Keys: keys, Origins: l.Origins, Paths: make([]string, len(files)), Packages: make([]string, len(files))}
	for i := range files {
		s.Paths[i], s.Packages[i] = files[i].Path, files[i].Package
		s.Of = binary.AppendUvarint(s.Of, uint64(len(l.Of[i])))
		for _, o := range l.Of[i] {
			s.Of = binary.AppendUvarint(s.Of, uint64(o))
		}
	}
	return s
}

// Resolve finds the origins of the imports of the given files; imports of a
// file come from a function, which may be called by several goroutines.
func Resolve(ctx context.Context, t *origin.Tree, files []int, imports func(file int) ([]lang.Import, error), into [][]origin.Origin) error {
	r := origin.Open(ctx, t)
	var next atomic.Int64
	var failed atomic.Pointer[error]
	var wg sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for n := next.Add(1) - 1; n < int64(len(files)) && failed.Load() == nil; n = next.Add(1) - 1 {
				if err := ctx.Err(); err != nil {
					failed.Store(&err)
					return
				}
				i := files[n]
				list, err := imports(i)
				if err != nil {
					failed.Store(&err)
					return
				}
				out := make([]origin.Origin, len(list))
				for k := range list {
					out[k] = r.Resolve(&t.Files[i], &list[k])
				}
				into[i] = out
			}
		})
	}
	wg.Wait()
	if err := failed.Load(); err != nil {
		return *err
	}
	return nil
}

// Collect joins origins that are the same. Those of a file come from found, or
// where that has none from old.
func Collect(n int, found [][]origin.Origin, old func(file int) []origin.Origin) *Links {
	l := &Links{Of: make([][]int32, n)}
	at := map[string]int32{}
	var key []byte
	for i := range n {
		list := found[i]
		if list == nil && old != nil {
			list = old(i)
		}
		if len(list) == 0 {
			continue
		}
		l.Of[i] = make([]int32, len(list))
		for k := range list {
			key = list[k].Key(key[:0])
			id, ok := at[string(key)]
			if !ok {
				id = int32(len(l.Origins))
				at[string(key)] = id
				l.Origins = append(l.Origins, list[k])
			}
			l.Of[i][k] = id
		}
	}
	return l
}

// Meets tells whether an import may be resolved otherwise now that paths came
// or went: a part of its text, or a name it brings, is the name of one of them.
// moved holds the stems of those paths and of the folders that came or went
// with them.
func Meets(i *lang.Import, moved map[string]bool) bool {
	for part := range strings.FieldsFuncSeq(i.Text, func(r rune) bool {
		return r == '/' || r == '.' || r == ':' || r == '\\' || r == '<' || r == '>' || r == '"'
	}) {
		if moved[part] || moved[strings.ToLower(part)] || moved[strings.ReplaceAll(part, "-", "_")] {
			return true
		}
	}
	for _, n := range i.Names {
		if moved[n.Name] {
			return true
		}
	}
	return false
}
