package survey

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"path"
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links"
	"juxtagram/core/links/origin"
	"juxtagram/core/repo"
)

// links resolves every import and draws the graph of files. What the survey
// before this one resolved is taken over where nothing that it rests on has
// changed.
func (s *run) links(ctx context.Context) error {
	r := s.result
	s.sink.Begin(ctx, StageLinks, len(r.Files))
	before, err := s.memory.Links(ctx, r.Subfolder)
	if err != nil {
		return err
	}
	if r.Snapshot, err = s.linked(ctx, before); err != nil {
		return err
	}
	r.Figures = r.Snapshot.Figures
	s.sink.Progress(StageLinks, len(r.Files), len(r.Files))
	return nil
}

// linked gives the result its links and returns what is kept of them.
func (s *run) linked(ctx context.Context, before *links.Snapshot) (*links.Snapshot, error) {
	r := s.result
	n := len(r.Files)
	files, keys := make([]origin.File, n), make([]string, n)
	for i := range r.Files {
		f := &r.Files[i]
		files[i] = origin.File{Path: f.Path, Language: f.LanguageName(), Role: f.Role.Name, Binary: f.Facts != nil && f.Facts.Binary}
		keys[i] = f.Key.String()
	}
	o, err := overlap(before, files, keys)
	if err != nil {
		return nil, err
	}
	heads, err := s.headsOf(ctx, o.fresh)
	if err != nil {
		return nil, err
	}
	for _, i := range o.fresh {
		files[i].Package = heads[r.Files[i].Key].Package
		o.movePackage(before, i)
	}
	manifests := s.manifestDigest()
	work := o.fresh
	if before != nil && (len(o.moved) > 0 || before.Manifests != manifests) {
		more, err := s.headsOf(ctx, o.unchanged())
		if err != nil {
			return nil, err
		}
		for _, i := range o.unchanged() {
			h := more[r.Files[i].Key]
			if before.Manifests != manifests || o.unsure(i) || meets(h.Imports, o.moved) {
				heads[r.Files[i].Key] = h
				work = append(work, i)
			}
		}
	}
	tree := origin.NewTree(files, s.manifestTexts)
	tree.Roots = s.roots()
	found := make([][]origin.Origin, n)
	if err := links.Resolve(ctx, tree, work, func(i int) ([]lang.Import, error) { return heads[r.Files[i].Key].Imports, nil }, found); err != nil {
		return nil, err
	}
	r.LinksResolved = len(work)
	if before != nil && before.Same(files, found, o.before) {
		r.Links = o.links
		keep := *before
		keep.Keys, keep.Manifests, keep.Packages = keys, manifests, make([]string, n)
		for i := range files {
			keep.Packages[i] = files[i].Package
		}
		return &keep, nil
	}
	r.Links = links.Collect(n, found, o.old)
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	keep := links.Keep(files, keys, manifests, r.Links)
	keep.Figures = links.NewGraph(r.Links).Figures()
	return keep, nil
}

// String is a key as snapshots hold it.
func (k FactKey) String() string { return k.Blob + " " + k.Language }

// ParseKey reads what String wrote.
func ParseKey(s string) FactKey {
	blob, language, _ := strings.Cut(s, " ")
	return FactKey{blob, language}
}

// shared is what two surveys have in common.
type shared struct {
	files []origin.File
	same  []int // index in the survey before; -1: new or changed
	fresh []int // files that are new or changed
	moved map[string]bool
	links *links.Links // of the survey before
	from  []string     // its paths
	to    map[string]int32
	was   map[string]int // path → index in the survey before
}

// overlap compares a tree with that of the survey before, nil: none.
func overlap(before *links.Snapshot, files []origin.File, keys []string) (*shared, error) {
	o := &shared{files: files, same: make([]int, len(files)), moved: map[string]bool{}, to: make(map[string]int32, len(files))}
	for i := range files {
		o.same[i] = -1
		o.to[files[i].Path] = int32(i)
	}
	if before == nil {
		for i := range files {
			o.fresh = append(o.fresh, i)
		}
		return o, nil
	}
	var err error
	if o.links, err = before.Links(); err != nil {
		return nil, err
	}
	o.from = before.Paths
	o.was = make(map[string]int, len(before.Paths))
	for i, p := range before.Paths {
		o.was[p] = i
		if _, ok := o.to[p]; !ok {
			o.move(p)
		}
	}
	for i := range files {
		was, ok := o.was[files[i].Path]
		if !ok {
			o.move(files[i].Path)
		}
		if ok && before.Keys[was] == keys[i] {
			o.same[i] = was
			files[i].Package = before.Packages[was]
			continue
		}
		o.fresh = append(o.fresh, i)
	}
	return o, nil
}

// move notes the names of a path that came or went.
func (o *shared) move(p string) {
	base := path.Base(p)
	stem, _, _ := strings.Cut(base, ".")
	for _, name := range []string{base, stem, strings.ToLower(stem), strings.TrimPrefix(stem, "_")} {
		o.moved[name] = true
	}
	for dir := range repo.Folders(p) {
		o.moved[path.Base(dir)] = true
		if len(o.moved) > 5000 {
			break
		}
	}
}

// movePackage notes the names of the packages that a changed file left or
// joined.
func (o *shared) movePackage(before *links.Snapshot, file int) {
	was := ""
	if before != nil {
		if k, ok := o.was[o.files[file].Path]; ok {
			was = before.Packages[k]
		}
	}
	if now := o.files[file].Package; now != was && before != nil {
		for _, name := range strings.FieldsFunc(was+"."+now, func(r rune) bool { return r == '.' || r == '\\' || r == ':' }) {
			o.moved[name] = true
		}
	}
}

// unchanged are the files that are as they were.
func (o *shared) unchanged() []int {
	var out []int
	for i, was := range o.same {
		if was >= 0 {
			out = append(out, i)
		}
	}
	return out
}

// unsure tells whether an origin of a file rests on what else there is: a guess,
// or one that was not found.
func (o *shared) unsure(file int) bool {
	for _, id := range o.links.Of[o.same[file]] {
		if was := &o.links.Origins[id]; was.Guess || len(was.Near) > 0 || was.To == origin.Unresolved || was.To == origin.ToGenerated {
			return true
		}
	}
	return false
}

func meets(list []lang.Import, moved map[string]bool) bool {
	for k := range list {
		if links.Meets(&list[k], moved) {
			return true
		}
	}
	return false
}

// before are the origins of the file of the same path in the survey before, in
// that survey's numbers.
func (o *shared) before(file int) []origin.Origin {
	was, ok := o.was[o.files[file].Path]
	if !ok {
		return nil
	}
	out := make([]origin.Origin, len(o.links.Of[was]))
	for k, id := range o.links.Of[was] {
		out[k] = o.links.Origins[id]
	}
	return out
}

// old are a file's origins in the survey before, in this survey's numbers.
func (o *shared) old(file int) []origin.Origin {
	if o.links == nil || o.same[file] < 0 {
		return nil
	}
	list := o.links.Of[o.same[file]]
	out := make([]origin.Origin, len(list))
	for k, id := range list {
		out[k] = o.links.Origins[id]
		if len(out[k].Files) == 0 {
			continue
		}
		files := make([]int32, 0, len(out[k].Files))
		for _, f := range out[k].Files {
			if to, ok := o.to[o.from[f]]; ok {
				files = append(files, to)
			}
		}
		out[k].Files = files
	}
	return out
}

// headsOf are the heads of files: those read in this survey, or kept ones.
func (s *run) headsOf(ctx context.Context, files []int) (map[FactKey]facts.Head, error) {
	out := make(map[FactKey]facts.Head, len(files))
	var missing []FactKey
	asked := map[FactKey]bool{}
	for _, i := range files {
		f := &s.result.Files[i]
		if f.Key == (FactKey{}) || asked[f.Key] || f.Facts == nil || f.Facts.Depth == lang.Listed {
			continue
		}
		asked[f.Key] = true
		raw, ok := s.heads[f.Key]
		if !ok {
			missing = append(missing, f.Key)
			continue
		}
		h, err := facts.UnpackHead(raw)
		if err != nil {
			return nil, err
		}
		out[f.Key] = h
	}
	if len(missing) == 0 {
		return out, nil
	}
	kept, err := s.memory.Heads(ctx, missing)
	if err != nil {
		return nil, err
	}
	for k, raw := range kept {
		if out[k], err = facts.UnpackHead(raw); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// manifestDigest names the manifests' paths and texts.
func (s *run) manifestDigest() string {
	var names []string
	for p := range s.manifestTexts {
		names = append(names, p)
	}
	sort.Strings(names)
	h := sha256.New()
	for _, r := range s.roots() {
		h.Write([]byte("root " + r + "\x00"))
	}
	for _, p := range names {
		h.Write([]byte(p + "\x00"))
		h.Write(s.manifestTexts[p])
		h.Write([]byte{0})
	}
	return hex.EncodeToString(h.Sum(nil))
}
