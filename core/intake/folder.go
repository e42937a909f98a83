package intake

import (
	"bytes"
	"context"
	"errors"
	"io"
	"io/fs"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"regexp"
	"strings"

	"juxtagram/core/repo"
)

// Folder takes in the repository at a folder of this machine: a work tree, a
// linked work tree, or a bare repository. The folder is only read.
func Folder(ctx context.Context, dir, source string, o Options) (_ Taken, err error) {
	real, err := within(source, o.Roots)
	if err != nil {
		return Taken{}, err
	}
	gitDir, common, err := gitFolders(real, o.Roots)
	if err != nil {
		return Taken{}, err
	}
	defer clean(dir, &err)
	return copyRepository(ctx, dir, gitDir, common, "folder", o)
}

// within resolves a folder and checks that it lies below one of roots.
func within(source string, roots []string) (string, error) {
	abs, err := filepath.Abs(source)
	if err != nil {
		return "", refuse("%s: %v", source, err)
	}
	real, err := filepath.EvalSymlinks(abs)
	if err != nil {
		return "", refuse("%s: no such folder", source)
	}
	if roots == nil {
		return real, nil
	}
	named := false
	for _, root := range roots {
		r, err := filepath.EvalSymlinks(root)
		if err != nil {
			continue
		}
		if isBelow(real, r) {
			return real, nil
		}
		named = named || isBelow(abs, r) || isBelow(abs, root)
	}
	if named {
		return "", refuse("%s leads out of the folders this server may read, through a symbolic link", source)
	}
	return "", refuse("%s is not below the folders this server may read", source)
}

func isBelow(p, root string) bool {
	rel, err := filepath.Rel(root, p)
	return err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator))
}

// gitFolders finds the folder with HEAD, and the one with objects and refs,
// which differ for a linked work tree.
func gitFolders(real string, roots []string) (gitDir, common string, err error) {
	dot := filepath.Join(real, ".git")
	info, statErr := os.Lstat(dot)
	switch {
	case statErr != nil && looksBare(real):
		return real, real, nil
	case statErr != nil:
		return "", "", refuse("not a Git repository: there is no .git in %s", real)
	case info.Mode()&fs.ModeSymlink != 0:
		return "", "", refuse(".git is a symbolic link, which is not followed")
	case info.IsDir():
		return dot, dot, nil
	}
	b, err := readSmall(dot)
	if err != nil {
		return "", "", refuse("cannot read .git: %v", err)
	}
	to, ok := strings.CutPrefix(strings.TrimSpace(string(b)), "gitdir: ")
	if !ok {
		return "", "", refuse("not a Git repository: .git is a file of another kind")
	}
	if !filepath.IsAbs(to) {
		to = filepath.Join(real, to)
	}
	if gitDir, err = within(to, roots); err != nil {
		return "", "", err
	}
	common = gitDir
	if b, err := readSmall(filepath.Join(gitDir, "commondir")); err == nil {
		c := strings.TrimSpace(string(b))
		if !filepath.IsAbs(c) {
			c = filepath.Join(gitDir, c)
		}
		if common, err = within(c, roots); err != nil {
			return "", "", err
		}
	}
	return gitDir, common, nil
}

func looksBare(dir string) bool {
	for _, name := range []string{"HEAD", "objects", "refs"} {
		if _, err := os.Lstat(filepath.Join(dir, name)); err != nil {
			return false
		}
	}
	return true
}

func readSmall(p string) ([]byte, error) {
	f, err := os.Open(p)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil || !info.Mode().IsRegular() {
		return nil, errors.New("not a file")
	}
	return io.ReadAll(io.LimitReader(f, 64<<20))
}

// copyRepository copies refs first and objects after them, so that objects
// written meanwhile are only ever too many.
func copyRepository(ctx context.Context, dir, gitDir, common, kind string, o Options) (Taken, error) {
	taken := Taken{Kind: kind}
	if err := checkForeign(common); err != nil {
		return taken, err
	}
	format, err := objectFormat(ctx, common)
	if err != nil {
		return taken, err
	}
	o.say("reading refs")
	refs, err := foreignRefs(common)
	if err != nil {
		return taken, err
	}
	head, _ := readSmall(filepath.Join(gitDir, "HEAD"))
	g, err := create(ctx, dir, format)
	if err != nil {
		return taken, err
	}
	if err := copyObjects(ctx, filepath.Join(common, "objects"), filepath.Join(dir, "objects"), &o); err != nil {
		return taken, err
	}
	if b, err := readSmall(filepath.Join(common, "shallow")); err == nil && shallowFile.Match(b) {
		if err := os.WriteFile(filepath.Join(dir, "shallow"), b, 0o644); err != nil {
			return taken, err
		}
	}
	lost, err := setRefs(ctx, g, refs, strings.TrimSpace(string(head)))
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

// standsIn tells whether some commits are to be taken for others.
func standsIn(common string) bool {
	if b, err := readSmall(filepath.Join(common, "packed-refs")); err == nil && bytes.Contains(b, []byte(" refs/replace/")) {
		return true
	}
	if list, err := os.ReadDir(filepath.Join(common, "refs", "replace")); err == nil && len(list) > 0 {
		return true
	}
	b, err := readSmall(filepath.Join(common, "info", "grafts"))
	return err == nil && len(bytes.TrimSpace(b)) > 0
}

func checkForeign(common string) error {
	for _, name := range []string{"objects/info/alternates", "objects/info/http-alternates"} {
		if _, err := os.Lstat(filepath.Join(common, name)); err == nil {
			return refuse("the repository borrows objects from another one (alternates), which is not followed")
		}
	}
	if _, err := os.Lstat(filepath.Join(common, "reftable")); err == nil {
		return refuse("the repository keeps its refs as reftable, which is not read yet; take it in by its address")
	}
	return nil
}

// objectFormat reads the one setting of a foreign configuration that says how
// its objects are named. The file is read alone: includes are not followed.
func objectFormat(ctx context.Context, common string) (string, error) {
	cmd := exec.CommandContext(ctx, "git", "config", "--file", filepath.Join(common, "config"), "--no-includes", "--get", "extensions.objectformat")
	cmd.Env = repo.Environ()
	cmd.Dir = os.TempDir()
	out, err := cmd.Output()
	if err != nil {
		return "", ctx.Err() // no such setting, or no configuration at all
	}
	switch f := strings.ToLower(strings.TrimSpace(string(out))); f {
	case "sha1", "sha256":
		return f, nil
	default:
		return "", refuse("objects are named by %.20q, which is not known here", f)
	}
}

var (
	looseFolder = regexp.MustCompile(`^[0-9a-f]{2}$`)
	looseName   = regexp.MustCompile(`^[0-9a-f]{38}$|^[0-9a-f]{62}$`)
	packName    = regexp.MustCompile(`^pack-[0-9a-f]{40,64}\.(pack|idx|rev)$`)
)

// copyObjects copies loose objects and packs, by name; anything else stays.
func copyObjects(ctx context.Context, from, to string, o *Options) error {
	root, err := os.OpenRoot(from)
	if err != nil {
		return refuse("not a Git repository: no objects in %s", filepath.Dir(from))
	}
	defer root.Close()
	files := 0
	return fs.WalkDir(root.FS(), ".", func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return refuse("cannot read the repository: %v", err)
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
		if !d.Type().IsRegular() || !loose && !(dir == "pack/" && packName.MatchString(name)) {
			return nil
		}
		if files++; files%500 == 1 {
			o.say("copying objects: %d files", files)
		}
		return copyFile(root, p, filepath.Join(to, filepath.FromSlash(p)))
	})
}

func copyFile(root *os.Root, from, to string) error {
	in, err := root.Open(from)
	if err != nil {
		return refuse("cannot read objects/%s: %v", from, err)
	}
	defer in.Close()
	if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
		return err
	}
	if _, err := os.Lstat(to); err == nil {
		return nil // an object never changes under its name
	}
	// git must not find half an object, whenever this ends
	out, err := os.CreateTemp(filepath.Dir(to), "incoming-")
	if err != nil {
		return err
	}
	defer os.Remove(out.Name())
	if _, err := io.Copy(out, in); err != nil {
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
