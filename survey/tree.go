package survey

import (
	"context"
	"fmt"
	"maps"
	"runtime"
	"strings"
	"sync"

	"juxtagram/core/history"
	"juxtagram/core/lang/all"
	"juxtagram/core/repo"
	"juxtagram/core/role"
)

// tree lists the paths and reads what their names say.
func (s *run) tree(ctx context.Context) error {
	s.sink.Begin(ctx, StageTree, 0)
	entries, err := s.entries(ctx)
	if err != nil {
		return err
	}
	if s.options.Subfolder != "" {
		if len(entries) == 0 {
			return &NoFolderError{s.options.Subfolder, s.options.Commit}
		}
		s.limit("folders", "limited to %s and what is below it", s.options.Subfolder)
	}
	if role.WantsAttributes(entries) {
		paths := make([]string, len(entries))
		for i, e := range entries {
			paths[i] = e.Path
		}
		if s.attributes, err = s.git.Attributes(ctx, s.options.Commit, paths); err != nil {
			return err
		}
	}
	s.result.Files = make([]File, len(entries))
	submodules, links := 0, 0
	for i, e := range entries {
		f := &s.result.Files[i]
		f.Entry, f.Size = e, -1
		switch e.Mode {
		case "submodule":
			submodules++
		case "symlink":
			links++
		default:
			f.Language = all.OfPath(e.Path)
		}
	}
	s.roles()
	if submodules > 0 {
		s.limit("submodules", "%s listed, not fetched", count(submodules, "submodule"))
		if s.result.Submodules, err = s.git.Submodules(ctx, s.options.Commit); err != nil {
			if ctx.Err() != nil {
				return ctx.Err()
			}
			s.limit(".gitmodules", "not readable: where the submodules come from is not known")
		}
	}
	if links > 0 {
		s.limit("symbolic links", "%s listed, not followed", count(links, "symbolic link"))
	}
	s.sink.Progress(StageTree, len(entries), len(entries))
	return nil
}

// entries lists the paths: by what changed where an earlier survey listed them.
func (s *run) entries(ctx context.Context) ([]repo.Entry, error) {
	var before *Listed
	if s.listed != nil {
		var err error
		if before, err = s.listed(); err != nil {
			return nil, err
		}
	}
	if before != nil && !odd(before) {
		known := make([]repo.Entry, len(before.Files))
		for i := range before.Files {
			known[i] = before.Files[i].Entry
		}
		if entries, err := s.git.TreeAfter(ctx, before.Commit, known, s.options.Commit, s.options.Subfolder); err == nil {
			s.before = before
			return entries, nil
		} // else the mirror may have lost the commit
	}
	l, err := s.git.List(ctx, s.options.Commit, s.options.Subfolder)
	if err != nil {
		return nil, err
	}
	if l.Renamed > 0 {
		s.limit("paths", "%s no tree of git's own holds (empty parts, \".\", \"..\", \".git\"); they are shown with %% signs", which(l.Renamed, "path is written as", "paths are written as"))
	}
	if l.Doubled > 0 {
		s.limit("paths", "%s left out: the tree holds another entry of the same path", which(l.Doubled, "entry is", "entries are"))
	}
	for i, d := range l.Damaged {
		if i == mostDamaged {
			s.limit("damage", "%s more not listed: their objects are missing or damaged", count(len(l.Damaged)-i, "folder"))
			break
		}
		s.limit("damage", "the folder %s is not listed: object %s is missing or damaged", d.Path, d.Object)
	}
	return l.Entries, nil
}

// odd tells that an earlier listing may hold paths that are not as git has them.
func odd(l *Listed) bool {
	for i := range l.Files {
		if strings.Contains(l.Files[i].Path, "%") {
			return true
		}
	}
	return false
}

func which(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// roles tells what each file is for, as far as its path says; both processors
// are used.
func (s *run) roles() {
	files := s.result.Files
	workers := runtime.GOMAXPROCS(0)
	var wg sync.WaitGroup
	for k := range workers {
		wg.Go(func() {
			for i := k; i < len(files); i += workers {
				files[i].Role = s.role(&files[i])
			}
		})
	}
	wg.Wait()
}

func count(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

func (s *run) role(f *File) role.Role {
	in := role.File{Path: f.Path, Mode: f.Mode, Language: f.LanguageName(), Attributes: s.attributes[f.Path]}
	if f.Facts != nil {
		in.Generated, in.Minified, in.Binary = f.Facts.Generated, f.Facts.Minified, f.Facts.Binary
	}
	return s.corrected(f.Path, role.Of(in))
}

// sizes measures every blob that an earlier survey has not measured.
func (s *run) sizes(ctx context.Context) error {
	files := s.result.Files
	s.sink.Begin(ctx, StageSizes, len(files))
	sizes := make(map[string]int64, len(files))
	if s.before != nil {
		for _, f := range s.before.Files {
			sizes[f.Blob] = f.Size
		}
	}
	var ids []string
	for i := range files {
		f := &files[i]
		if _, seen := sizes[f.Blob]; f.Mode != "submodule" && !seen {
			sizes[f.Blob] = -1
			ids = append(ids, f.Blob)
		}
	}
	measured, err := s.git.Sizes(ctx, ids)
	if err != nil {
		return err
	}
	maps.Copy(sizes, measured)
	for i := range files {
		if n, ok := sizes[files[i].Blob]; ok {
			files[i].Size = n
		}
	}
	s.sink.Progress(StageSizes, len(files), len(files))
	return nil
}

// changes reads which paths the commits changed. Where counting their lines takes its
// time, it scores first hotspots, by size in bytes.
func (s *run) changes(ctx context.Context) error {
	s.sink.Begin(ctx, StageChanges, 0)
	s.recall(ctx)
	known, err := s.history()
	if err != nil {
		return err
	}
	if s.reached != nil {
		if known.Reached, err = s.reached(); err != nil {
			return err
		}
	}
	log, fresh, err := history.Read(ctx, s.git, s.options.Commit, known, func(done, total int) {
		s.sink.Progress(StageChanges, done, total)
	})
	if err != nil {
		return err
	}
	s.unkept, s.uncounted = fresh, s.toCount(log)
	s.unkept = append(s.unkept, readAgain(s.uncounted, fresh)...)
	s.result.Log = log
	if s.result.People, err = history.ReadPeople(ctx, s.git, log, s.options.Joins); err != nil {
		return err
	}
	if len(s.uncounted) <= fewUncounted {
		// so few are counted at once, and the files followed once instead of twice
		if err := log.CountLines(ctx, s.git, s.uncounted, s.options.Words, nil); err != nil {
			return err
		}
		s.countedEarly, s.uncounted = len(s.uncounted), nil
	}
	s.follow()
	if cut, err := s.git.Shallow(); err != nil {
		return err
	} else if len(cut) > 0 {
		s.limit("history", "the repository is shallow: its history ends at %s; what came before is unknown", shortIDs(cut))
	}
	if s.uncounted != nil {
		s.result.Hotspots = s.hotspots() // to be seen while lines are counted
	}
	return nil
}

// fewUncounted is how many commits are too few to show anybody their changes
// before their lines are counted.
const fewUncounted = 200

func shortIDs(ids []string) string {
	var short []string
	for i, id := range ids {
		if i == 3 {
			short = append(short, fmt.Sprintf("%d more", len(ids)-3))
			break
		}
		short = append(short, fmt.Sprintf("%.10s", id))
	}
	return strings.Join(short, ", ")
}

// toCount are the commits some of whose changes have no line counts, or were
// read by other words.
func (s *run) toCount(log *history.Log) []*history.Commit {
	print := s.options.Words.Print()
	var out []*history.Commit
	for _, c := range log.Commits {
		if len(c.Changes) > 0 && (c.Words != print || !counted(c)) {
			out = append(out, c)
		}
	}
	return out
}

func counted(c *history.Commit) bool {
	for i := range c.Changes {
		if !c.Changes[i].Known {
			return false
		}
	}
	return true
}

// readAgain are those of the commits to be counted that memory holds.
func readAgain(all, fresh []*history.Commit) []*history.Commit {
	is := make(map[*history.Commit]bool, len(fresh))
	for _, c := range fresh {
		is[c] = true
	}
	var out []*history.Commit
	for _, c := range all {
		if !is[c] {
			out = append(out, c)
		}
	}
	return out
}

// follow joins the files with what the log says of them.
func (s *run) follow() {
	r := s.result
	paths := make([]string, len(r.Files))
	for i := range r.Files {
		paths[i] = r.Files[i].Path
	}
	moves, births := r.Log.Moves(paths, r.People)
	found := moves.Files(paths, births, r.People, s.options.HalfLife, r.Log.Time())
	r.Moves = moves
	for i := range found {
		r.Files[i].History = &found[i]
	}
	r.People.CountFiles(found)
}

// lines counts the lines that each change added and deleted.
func (s *run) lines(ctx context.Context) error {
	s.sink.Begin(ctx, StageLines, s.countedEarly+len(s.uncounted))
	s.sink.Progress(StageLines, s.countedEarly, s.countedEarly+len(s.uncounted))
	r := s.result
	if s.uncounted != nil {
		err := r.Log.CountLines(ctx, s.git, s.uncounted, s.options.Words, func(done, total int) { s.sink.Progress(StageLines, done, total) })
		if err != nil {
			return err
		}
		s.follow()
	}
	r.LinesKnown = true
	var wide int
	for _, c := range r.Log.Commits {
		if added := addedOrDeleted(c.Changes); added > repo.RenameLimit {
			wide++
		}
	}
	if wide > 0 {
		s.limit("renames", "%s add or delete more than %d paths; git looks for exact renames only in them", count(wide, "commit"), repo.RenameLimit)
	}
	return s.memory.KeepHistory(ctx, []string{s.options.Commit}, s.unkept)
}

// addedOrDeleted is the larger of the numbers of added and deleted paths, as
// git's limit on the search for renames counts them.
func addedOrDeleted(changes []repo.Change) int {
	added, deleted := 0, 0
	for _, c := range changes {
		switch c.Status {
		case 'A':
			added++
		case 'D':
			deleted++
		}
	}
	if added == 0 || deleted == 0 {
		return 0
	}
	return max(added, deleted)
}

// NoFolderError tells that a commit has no folder of the name that a survey is limited to.
type NoFolderError struct{ Folder, Commit string }

func (e *NoFolderError) Error() string {
	return fmt.Sprintf("the folder %q is not in commit %.12s", e.Folder, e.Commit)
}
