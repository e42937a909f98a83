package intake

import (
	"bytes"
	"context"
	"errors"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"strings"
	"time"
)

// Folder takes in the repository at a folder of this machine: a work tree, a
// linked work tree, or a bare repository. The folder is only read.
func Folder(ctx context.Context, dir, source string, o Options) (_ Taken, err error) {
	gitDir, common, err := gitFolders(source, o.Roots)
	if err != nil {
		return Taken{}, err
	}
	defer gitDir.Close()
	defer common.Close()
	defer clean(dir, &err)
	return copyRepository(ctx, dir, gitDir, common, "folder", o)
}

// within resolves a folder and checks that it lies below one of roots, which it tells,
// resolved too; nil: any folder, itself the root.
func within(source string, roots []string) (real, root string, err error) {
	abs, err := filepath.Abs(source)
	if err != nil {
		return "", "", refuse("%s: no such folder", source)
	}
	real, err = filepath.EvalSymlinks(abs)
	if roots == nil {
		if err != nil {
			return "", "", refuse("%s: no such folder", source)
		}
		return real, real, nil
	}
	named := false
	for _, root := range roots {
		r, rootErr := filepath.EvalSymlinks(root)
		if rootErr != nil {
			continue
		}
		if err == nil && isBelow(real, r) {
			return real, r, nil
		}
		named = named || isBelow(abs, r) || isBelow(abs, root)
	}
	switch {
	case !named:
		return "", "", refuse("%s is not below the folders that may be read here", source)
	case err != nil:
		return "", "", refuse("%s: no such folder", source)
	}
	return "", "", refuse("%s leads out of the folders that may be read here, through a symbolic link", source)
}

func isBelow(p, root string) bool {
	rel, err := filepath.Rel(root, p)
	return err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator))
}

// gitFolders opens the folder with HEAD, and the one with objects and refs,
// which differ for a linked work tree. Both are the caller's to close.
func gitFolders(source string, roots []string) (gitDir, common *foreign, err error) {
	top, err := openForeign(source, roots)
	if err != nil {
		return nil, nil, err
	}
	defer top.Close()
	info, statErr := top.Lstat(".git")
	switch {
	case statErr != nil && top.is("HEAD") && top.is("objects") && top.is("refs"): // bare
		gitDir, err = openForeign(top.path, roots)
	case statErr != nil:
		return nil, nil, refuse("not a Git repository: there is no .git in %s", source)
	case info.IsDir() || info.Mode()&fs.ModeSymlink != 0:
		gitDir, err = top.sub(".git")
	default:
		gitDir, err = leadsTo(top, ".git", "gitdir: ", roots)
	}
	if err != nil {
		return nil, nil, err
	}
	common, err = leadsTo(gitDir, "commondir", "", roots)
	if errors.Is(err, fs.ErrNotExist) {
		common, err = gitDir.sub(".")
	}
	if err != nil {
		_ = gitDir.Close()
		return nil, nil, err
	}
	return gitDir, common, nil
}

// leadsTo opens the folder that a file names, which must lie below one of roots too.
func leadsTo(f *foreign, name, prefix string, roots []string) (*foreign, error) {
	b, err := f.read(name)
	if err != nil {
		return nil, err
	}
	to, ok := strings.CutPrefix(strings.TrimSpace(string(b)), prefix)
	if !ok || to == "" || strings.ContainsAny(to, "\x00\n") {
		return nil, refuse("not a Git repository: %s does not name a folder", name)
	}
	if !filepath.IsAbs(to) {
		to = filepath.Join(f.path, to)
	}
	out, err := openForeign(to, roots)
	if err != nil {
		return nil, refuse("%s leads to a folder that is not there or may not be read here", name)
	}
	return out, nil
}

// copyRepository copies refs first and objects after them, so that objects
// written meanwhile are only ever too many.
func copyRepository(ctx context.Context, dir string, gitDir, common *foreign, kind string, o Options) (Taken, error) {
	taken := Taken{Kind: kind}
	if err := checkForeign(common); err != nil {
		return taken, err
	}
	says, err := readSettings(ctx, common)
	if err != nil {
		return taken, err
	}
	taken.Notes = append(taken.Notes, says.doubts...)
	o.say("reading refs")
	refs, err := foreignRefs(common)
	if err != nil {
		return taken, err
	}
	head, err := readHead(gitDir)
	if err != nil {
		return taken, err
	}
	if !headRef.MatchString(head) && !refID.MatchString(head) {
		taken.Notes = append(taken.Notes, "its HEAD is missing or damaged; its newest branch stands in for it")
	}
	g, err := create(ctx, dir, says.format)
	if err != nil {
		return taken, err
	}
	if err := copyObjects(ctx, common, filepath.Join(dir, "objects"), &o); err != nil {
		return taken, err
	}
	if b, err := common.read("shallow"); err == nil && shallowFile.Match(b) {
		if err := os.WriteFile(filepath.Join(dir, "shallow"), b, 0o644); err != nil {
			return taken, err
		}
	}
	lost, err := setRefs(ctx, g, refs, head)
	if err != nil {
		return taken, err
	}
	if len(refs) > 0 && lost == len(refs) {
		return taken, refuse("the repository is damaged: none of its %d branches and tags leads to an object that is there", lost)
	}
	if lost > 0 {
		taken.Notes = append(taken.Notes, plural(lost, "branch or tag leads", "branches or tags lead")+" to a missing object and were left out")
	}
	if standsIn(common) {
		taken.Notes = append(taken.Notes, "the repository has commits that stand in for others (refs/replace or grafts); they do not count here: the history is shown as it was committed")
	}
	return taken, finish(ctx, g, &o)
}

// readHead is what HEAD says; "": there is none.
func readHead(gitDir *foreign) (string, error) {
	b, err := gitDir.read("HEAD")
	if errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	return strings.TrimSpace(string(b)), err
}

// standsIn tells whether some commits are to be taken for others.
func standsIn(common *foreign) bool {
	if b, err := common.read("packed-refs"); err == nil && bytes.Contains(b, []byte(" refs/replace/")) {
		return true
	}
	if list, err := fs.ReadDir(common.FS(), "refs/replace"); err == nil && len(list) > 0 {
		return true
	}
	b, err := common.read("info/grafts")
	return err == nil && len(bytes.TrimSpace(b)) > 0
}

func checkForeign(common *foreign) error {
	for _, name := range []string{"objects/info/alternates", "objects/info/http-alternates"} {
		if common.is(name) {
			return refuse("the repository borrows objects from another one (alternates), which is not followed")
		}
	}
	if common.is("reftable") {
		return refuse("the repository keeps its refs as reftable, which is not read yet; take it in by its address")
	}
	return nil
}

var (
	looseFolder = regexp.MustCompile(`^[0-9a-f]{2}$`)
	looseName   = regexp.MustCompile(`^[0-9a-f]{38}$|^[0-9a-f]{62}$`)
	packName    = regexp.MustCompile(`^pack-[0-9a-f]{40,64}\.(pack|idx|rev)$`)
)

// errChanged tells that a file was there when it was listed, and was not when it was
// to be copied: the source packed its objects meanwhile.
var errChanged = errors.New("the repository changed while it was copied")

// listings is how often the objects of a source that changes are listed anew, each time
// after a longer pause.
const listings = 10

// copyObjects copies loose objects and packs, by name; anything else stays.
func copyObjects(ctx context.Context, common *foreign, to string, o *Options) error {
	from, err := common.sub("objects")
	if errors.Is(err, fs.ErrNotExist) {
		return refuse("not a Git repository: there are no objects")
	}
	if err != nil {
		return err
	}
	defer from.Close()
	for n := range listings {
		if err = copyListed(ctx, from, to, o); !errors.Is(err, errChanged) {
			return err
		}
		select {
		case <-time.After(time.Duration(n) * 20 * time.Millisecond):
		case <-ctx.Done():
			return ctx.Err()
		}
	}
	return refuse("the repository changes all the time; take it in when nobody works on it")
}

func copyListed(ctx context.Context, from *foreign, to string, o *Options) error {
	files := 0
	return fs.WalkDir(from.FS(), ".", func(p string, d fs.DirEntry, err error) error {
		if errors.Is(err, fs.ErrNotExist) {
			return errChanged
		}
		if err != nil {
			return refuse("objects/%s cannot be read", p)
		}
		if err := ctx.Err(); err != nil {
			return err
		}
		if d.Type()&fs.ModeSymlink != 0 {
			return refuse("objects/%s is a symbolic link, which is not followed", p)
		}
		if d.IsDir() {
			if p == "." || p == "pack" || looseFolder.MatchString(p) {
				return nil
			}
			return fs.SkipDir
		}
		dir, name := path.Split(p)
		if strings.HasSuffix(name, ".promisor") {
			return refuse("the repository is a partial clone: some of its objects are elsewhere")
		}
		loose := looseFolder.MatchString(path.Clean(dir)) && looseName.MatchString(name)
		if !loose && !(dir == "pack/" && packName.MatchString(name)) {
			return nil
		}
		if !d.Type().IsRegular() {
			return refuse("objects/%s is no file (a pipe, socket, device or folder)", p)
		}
		if files++; files%500 == 1 {
			o.say("copying objects: %d files", files)
		}
		return copyFile(from, p, filepath.Join(to, filepath.FromSlash(p)))
	})
}

func copyFile(root *foreign, from, to string) error {
	if _, err := os.Lstat(to); err == nil {
		return nil // an object never changes under its name
	}
	in, size, err := root.open(from)
	if errors.Is(err, fs.ErrNotExist) {
		return errChanged
	}
	if err != nil {
		return err
	}
	defer in.Close()
	if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
		return err
	}
	// git must not find half an object, whenever this ends
	out, err := os.CreateTemp(filepath.Dir(to), "incoming-")
	if err != nil {
		return err
	}
	defer os.Remove(out.Name())
	// not more than it had: it may be written to for ever
	if _, err := io.Copy(out, io.LimitReader(in, size)); err != nil {
		_ = out.Close()
		return err
	}
	if err := out.Chmod(0o444); err != nil {
		_ = out.Close()
		return err
	}
	if err := out.Close(); err != nil {
		return err
	}
	return os.Rename(out.Name(), to)
}

func plural(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return itoa(n) + " " + many
}
