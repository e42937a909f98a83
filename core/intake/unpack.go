package intake

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"path"
	"path/filepath"
	"strings"

	"juxtagram/core/repo"
)

// unpackRepository writes the refs and objects of an archived repository to a
// folder for temporary files and takes that in. Other entries are not written.
func unpackRepository(ctx context.Context, dir, file string, s shape, o Options) (Taken, error) {
	temp, err := os.MkdirTemp(o.temp(dir), "unpack-")
	if err != nil {
		return Taken{}, err
	}
	defer os.RemoveAll(temp)
	o.say("unpacking the repository")
	prefix := s.gitRoot + "/"
	if s.gitRoot == "." {
		prefix = ""
	}
	err = each(ctx, file, o.Limits, func(e entry) error {
		name, inside := strings.CutPrefix(e.name, prefix)
		if !inside || !wantedGitFile(name) {
			return nil
		}
		if e.mode == "120000" {
			return refuse("the archived repository holds a symbolic link, which is not followed")
		}
		to := filepath.Join(temp, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
			return err
		}
		out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o644)
		if err != nil {
			return refuse("the archived repository holds a file twice")
		}
		if _, err := io.Copy(out, e.body); err != nil {
			_ = out.Close()
			return err
		}
		return out.Close()
	})
	if err != nil {
		return Taken{}, err
	}
	folder, err := openForeign(temp, nil)
	if err != nil {
		return Taken{}, err
	}
	defer folder.Close()
	return copyRepository(ctx, dir, folder, folder, "archive", o)
}

func wantedGitFile(name string) bool {
	switch name {
	case "HEAD", "packed-refs", "shallow", "config", "objects/info/alternates":
		return true
	}
	if strings.HasPrefix(name, "refs/heads/") || strings.HasPrefix(name, "refs/tags/") {
		return true
	}
	rest, ok := strings.CutPrefix(name, "objects/")
	if !ok {
		return false
	}
	d, base := path.Split(rest)
	return d == "pack/" && (packName.MatchString(base) || strings.HasSuffix(base, ".promisor")) ||
		looseFolder.MatchString(path.Clean(d)) && looseName.MatchString(base)
}

// makeCommit turns an archive without history into one commit, streamed into
// git: nothing is unpacked to disk, and links stay links.
func makeCommit(ctx context.Context, dir, file string, s shape, o Options) (Taken, error) {
	taken := Taken{Kind: "archive", Made: true}
	g, err := create(ctx, dir, "")
	if err != nil {
		return taken, err
	}
	o.say("making one commit of %d files", s.entries)
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	cmd := g.Command(ctx, nil, "fast-import", "--quiet", "--done", "--date-format=raw")
	var said repo.Tail
	cmd.Stderr = &said
	in, err := cmd.StdinPipe()
	if err != nil {
		return taken, err
	}
	if err := cmd.Start(); err != nil {
		return taken, err
	}
	left, writeErr := writeCommit(ctx, bufio.NewWriterSize(in, 1<<18), file, s, o)
	if writeErr != nil {
		cancel()
	}
	_ = in.Close()
	waitErr := cmd.Wait()
	if writeErr != nil && (IsRefused(writeErr) || waitErr == nil) {
		return taken, writeErr
	}
	if waitErr != nil {
		if ctx.Err() != nil && writeErr != nil {
			return taken, writeErr
		}
		return taken, refuse("the archive's files could not be made a commit")
	}
	taken.Notes = append(taken.Notes, fmt.Sprintf("one commit was made from %s, which holds no history", o.describe(file)))
	if left > 0 {
		taken.Notes = append(taken.Notes, plural(left, "file called .git was", "files below a folder called .git were")+" left out")
	}
	return taken, finish(ctx, g, &o)
}

func writeCommit(ctx context.Context, w *bufio.Writer, file string, s shape, o Options) (left int, err error) {
	const message = "Taken in from an archive\n"
	when := max(s.newest, 315532800) // formats without a time say 1980
	fmt.Fprintf(w, "commit refs/heads/main\ncommitter Juxtagram <take-in@juxtagram.invalid> %d +0000\ndata %d\n%s", when, len(message), message)
	err = each(ctx, file, o.Limits, func(e entry) error {
		name := e.name
		if s.top != "" {
			name = strings.TrimPrefix(name, s.top+"/")
		}
		for _, part := range strings.Split(name, "/") {
			if strings.EqualFold(part, ".git") {
				left++
				return nil
			}
		}
		fmt.Fprintf(w, "M %s inline %s\ndata %d\n", e.mode, quotePath(name), e.size)
		n, err := io.Copy(w, io.LimitReader(e.body, e.size))
		if err != nil {
			return err
		}
		if n != e.size {
			return refuse("the archive is damaged: an entry is shorter than it says")
		}
		if extra, _ := e.body.Read(make([]byte, 1)); extra > 0 {
			return refuse("the archive is damaged: an entry is longer than it says")
		}
		return w.WriteByte('\n')
	})
	if err != nil {
		return left, err
	}
	fmt.Fprint(w, "done\n")
	return left, w.Flush()
}

// quotePath writes a path as fast-import reads it: any bytes, C-style.
func quotePath(p string) string {
	var b bytes.Buffer
	b.WriteByte('"')
	for i := 0; i < len(p); i++ {
		switch c := p[i]; {
		case c == '"' || c == '\\':
			b.WriteByte('\\')
			b.WriteByte(c)
		case c < 0x20 || c == 0x7f:
			fmt.Fprintf(&b, "\\%03o", c)
		default:
			b.WriteByte(c)
		}
	}
	b.WriteByte('"')
	return b.String()
}

// bundle unpacks a git bundle into a mirror. No transport is involved.
func bundle(ctx context.Context, dir, file string, o Options) (Taken, error) {
	taken := Taken{Kind: "bundle"}
	abs, err := filepath.Abs(file)
	if err != nil {
		return taken, err
	}
	format, err := bundleFormat(file)
	if err != nil {
		return taken, err
	}
	g, err := create(ctx, dir, format)
	if err != nil {
		return taken, err
	}
	o.say("unpacking the bundle")
	out, err := g.Run(ctx, "bundle", "unbundle", abs)
	if err != nil {
		if ctx.Err() != nil {
			return taken, ctx.Err()
		}
		if strings.Contains(err.Error(), "prerequisite") {
			return taken, refuse("the bundle builds on commits that are not in it; make one with all of the history")
		}
		return taken, refuse("the bundle is damaged or cut short")
	}
	refs := map[string]string{}
	head := ""
	for _, l := range strings.Split(string(out), "\n") {
		if m := refLine.FindStringSubmatch(l); m != nil {
			refs[m[2]] = m[1]
		} else if id, ok := strings.CutSuffix(l, " HEAD"); ok {
			head = id
		}
	}
	for _, name := range []string{"refs/heads/main", "refs/heads/master"} {
		if head != "" && refs[name] == head {
			head = "ref: " + name
		}
	}
	lost, err := setRefs(ctx, g, refs, head)
	if err != nil {
		return taken, err
	}
	if lost > 0 {
		taken.Notes = append(taken.Notes, plural(lost, "branch or tag", "branches or tags")+" of the bundle left out")
	}
	return taken, finish(ctx, g, &o)
}

// bundleFormat is how the objects of a bundle are named, as its head says; "": as usual.
func bundleFormat(file string) (string, error) {
	f, err := os.Open(file)
	if err != nil {
		return "", refuse("the file cannot be read")
	}
	defer f.Close()
	head := bufio.NewScanner(io.LimitReader(f, 64<<10))
	for n := 0; head.Scan(); n++ {
		l := head.Text()
		switch key, value, _ := strings.Cut(strings.TrimPrefix(l, "@"), "="); {
		case n == 0:
		case !strings.HasPrefix(l, "@"):
			return "", nil
		case key == "object-format" && (value == "sha1" || value == "sha256"):
			return value, nil
		case key == "object-format":
			return "", refuse("the bundle's objects are named in a format that is not supported here; sha1 and sha256 are")
		case key == "filter":
			return "", refuse("the bundle is partial: some of its objects are elsewhere")
		default:
			return "", refuse("the bundle needs something of git that is not supported here")
		}
	}
	return "", nil
}
