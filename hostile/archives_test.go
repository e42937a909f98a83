package hostile

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/gzip"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func archives() (out []input) {
	tars := func(name, want string, read bool, headers ...*tar.Header) {
		out = append(out, input{named("tar", name), func(t *testing.T, dir string) string {
			return tarball(t, filepath.Join(dir, "a.tar.gz"), headers...)
		}, want, read})
	}
	file := func(name string) *tar.Header { return &tar.Header{Name: name} }
	link := func(name, to string, kind byte) *tar.Header {
		return &tar.Header{Name: name, Linkname: to, Typeflag: kind}
	}
	tars("absolute name", "absolute name", false, file("/etc/passwd"))
	tars("name that leads out", "leads out of it", false, file("a/../../b"))
	tars("dots alone", "leads out of it", false, file(".."))
	tars("drive letter", "absolute name", false, file("C:x"))
	tars("backslash first", "absolute name", false, file(`\x`))
	tars("long name", "cannot be used", false, file(strings.Repeat("a/", 2500)+"b"))
	tars("hard link", "hard link", false, file("a"), link("b", "a", tar.TypeLink))
	tars("hard link outside", "hard link", false, link("b", "/etc/passwd", tar.TypeLink))
	tars("device", "device or pipe", false, &tar.Header{Name: "a", Typeflag: tar.TypeBlock})
	tars("character device", "device or pipe", false, &tar.Header{Name: "a", Typeflag: tar.TypeChar})
	tars("pipe", "device or pipe", false, &tar.Header{Name: "a", Typeflag: tar.TypeFifo})
	tars("empty", "empty", false)
	tars("folders alone", "empty", false, &tar.Header{Name: "a/", Typeflag: tar.TypeDir})
	tars("link outside", "symbolic link listed", true, file("b"), link("a", "/etc/passwd", tar.TypeSymlink))
	tars("link to itself", "symbolic link listed", true, file("b"), link("a", "a", tar.TypeSymlink))
	tars("writes through its own link", "one of its own links", true, link("a", "/etc", tar.TypeSymlink), file("a/x"))
	tars("a name twice", "the name of one before", true, file("a"), file("a"))
	tars("a file that is a folder", "below a file", true, file("a"), file("a/b"))
	tars("dots in a name", "one commit was made", true, file("./a/./b"), file("a//c"))
	tars("a .git inside", "called .git", true, file("a"), file("b/.git/config"), file(".GIT/config"))
	tars("names in no encoding", "one commit was made", true, file("a\xff\xfe"), file("b\x01"))
	tars("a line feed in a name", "one commit was made", true, file("a\nb"))
	tars("turned characters", "one commit was made", true, file("a\u202eog.txt"))
	raw := func(name, want string, read bool, make func(t *testing.T) []byte) {
		out = append(out, input{named("file", name), func(t *testing.T, dir string) string {
			p := filepath.Join(dir, "a")
			require.NoError(t, os.WriteFile(p, make(t), 0o644))
			return p
		}, want, read})
	}
	some := func(t *testing.T) []byte {
		b, err := os.ReadFile(tarball(t, filepath.Join(t.TempDir(), "x"), file("a"), file("b"), file("c/d")))
		require.NoError(t, err)
		return b
	}
	for _, part := range []int{20, 40, 60, 80, 95} {
		raw(named("tar cut at", part), "cut short", false, func(t *testing.T) []byte { b := some(t); return b[:len(b)*part/100] })
	}
	raw("tar without compression, cut", "cut short", false, func(t *testing.T) []byte {
		r, err := gzip.NewReader(bytes.NewReader(some(t)))
		require.NoError(t, err)
		b := make([]byte, 700)
		n, _ := r.Read(b)
		return b[:min(n, 300)]
	})
	raw("nothing", "neither an archive", false, func(*testing.T) []byte { return nil })
	raw("text", "neither an archive", false, func(*testing.T) []byte { return []byte("SECRET text\n") })
	raw("gzip of text", "", false, func(t *testing.T) []byte { return gzipped(t, []byte("SECRET text\n")) })
	raw("gzip of zeros", "empty", false, func(t *testing.T) []byte { return gzipped(t, make([]byte, 4096)) })
	raw("gzip head alone", "", false, func(*testing.T) []byte { return []byte{0x1f, 0x8b, 8, 0, 0, 0, 0, 0, 0, 3} })
	raw("bomb", "times its size", false, func(t *testing.T) []byte {
		var b bytes.Buffer
		gz := gzip.NewWriter(&b)
		w := tar.NewWriter(gz)
		require.NoError(t, w.WriteHeader(&tar.Header{Name: "a", Size: 512 << 20, Mode: 0o644, Typeflag: tar.TypeReg}))
		zeros := make([]byte, 1<<20)
		for range 512 {
			_, err := w.Write(zeros)
			require.NoError(t, err)
		}
		require.NoError(t, w.Close())
		require.NoError(t, gz.Close())
		return b.Bytes()
	})
	raw("entries without end", "more than 300000 entries", false, func(t *testing.T) []byte {
		var b bytes.Buffer
		gz, err := gzip.NewWriterLevel(&b, gzip.NoCompression)
		require.NoError(t, err)
		w := tar.NewWriter(gz)
		for range 300_001 {
			require.NoError(t, w.WriteHeader(&tar.Header{Name: "a/", Typeflag: tar.TypeDir}))
		}
		require.NoError(t, gz.Close())
		return b.Bytes()
	})
	zips := func(name, want string, read bool, members ...member) {
		out = append(out, input{named("zip", name), func(t *testing.T, dir string) string {
			return zipped(t, filepath.Join(dir, "a.zip"), members...)
		}, want, read})
	}
	zips("absolute name", "absolute name", false, member{name: "/x"})
	zips("name that leads out", "leads out of it", false, member{name: "../x"})
	zips("device", "device or pipe", false, member{name: "x", mode: os.ModeDevice | 0o644})
	zips("pipe", "device or pipe", false, member{name: "x", mode: os.ModeNamedPipe | 0o644})
	zips("encrypted", "encrypted", false, member{name: "SECRET", body: "x", change: func(h *zip.FileHeader) { h.Flags |= 1 }})
	zips("empty", "empty", false)
	zips("link outside", "symbolic link listed", true, member{name: "b", body: "x"}, member{name: "a", body: "/etc/passwd", mode: os.ModeSymlink | 0o777})
	zips("link too long", "symbolic link", false, member{name: "a", body: strings.Repeat("x", 5000), mode: os.ModeSymlink | 0o777})
	zips("through its link", "one of its own links", true, member{name: "a", body: "/etc", mode: os.ModeSymlink | 0o777}, member{name: "a/x", body: "x"})
	zips("a name twice", "the name of one before", true, member{name: "a", body: "1"}, member{name: "a", body: "2"})
	zips("backslashes", "one commit was made", true, member{name: `a\b`, body: "x"})
	zips("bomb", "times its size", false, member{name: "a", body: strings.Repeat("\x00", 200<<20)})
	for _, part := range []int{30, 60, 90} {
		out = append(out, input{named("zip cut at", part), func(t *testing.T, dir string) string {
			p := zipped(t, filepath.Join(dir, "a.zip"), member{name: "a", body: strings.Repeat("abc", 2000)}, member{name: "b", body: "x"})
			b, err := os.ReadFile(p)
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(p, b[:len(b)*part/100], 0o644))
			return p
		}, "the archive is", false})
	}
	for _, at := range []int{42, 45, 48} {
		out = append(out, input{named("zip damaged at", at), func(t *testing.T, dir string) string {
			p := zipped(t, filepath.Join(dir, "a.zip"), member{name: "a", body: strings.Repeat("abc", 20)})
			b, err := os.ReadFile(p)
			require.NoError(t, err)
			for i := range 4 {
				b[at+i] ^= 0x5a
			}
			require.NoError(t, os.WriteFile(p, b, 0o644))
			return p
		}, "the archive is damaged", false})
	}
	with := func(name, want string, read bool, make func(t *testing.T, dir string) []member) {
		out = append(out, input{named("zip of a repository", name), func(t *testing.T, dir string) string {
			return zipped(t, filepath.Join(dir, "a.zip"), make(t, dir)...)
		}, want, read})
	}
	with("alone", "", true, func(t *testing.T, dir string) []member { return packed(t, plain(t, dir), "") })
	with("below a folder", "", true, func(t *testing.T, dir string) []member { return packed(t, plain(t, dir), "top") })
	with("beside other folders", "the others were left out", true, func(t *testing.T, dir string) []member {
		return append(packed(t, plain(t, dir), "project"), member{name: "notes/x", body: "x"})
	})
	with("two of them", "holds 2 repositories", true, func(t *testing.T, dir string) []member {
		at := plain(t, dir)
		return append(packed(t, at, "one"), packed(t, at, "two")...)
	})
	with("with alternates", "borrows objects", false, func(t *testing.T, dir string) []member {
		return append(packed(t, plain(t, dir), ""), member{name: ".git/objects/info/alternates", body: "/etc"})
	})
	with("with a link as HEAD", "symbolic link", false, func(t *testing.T, dir string) []member {
		return append(packed(t, plain(t, dir), ""), member{name: ".git/refs/heads/x", body: "/etc/passwd", mode: os.ModeSymlink | 0o777})
	})
	with("without objects", "there are no objects", false, func(t *testing.T, dir string) (out []member) {
		for _, m := range packed(t, plain(t, dir), "") {
			if !strings.HasPrefix(m.name, ".git/objects/") {
				out = append(out, m)
			}
		}
		return append(out, member{name: ".git/objects/info/x", body: "x"})
	})
	return out
}

func gzipped(t *testing.T, b []byte) []byte {
	t.Helper()
	var out bytes.Buffer
	w := gzip.NewWriter(&out)
	_, err := w.Write(b)
	require.NoError(t, err)
	require.NoError(t, w.Close())
	return out.Bytes()
}

func bundles() (out []input) {
	add := func(name, want string, read bool, change func(t *testing.T, at string, b []byte) []byte) {
		out = append(out, input{named("bundle", name), func(t *testing.T, dir string) string {
			at, p := plain(t, dir), filepath.Join(dir, "a.bundle")
			git(t, at, "", "bundle", "create", "-q", p, "--all")
			b, err := os.ReadFile(p)
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(p, change(t, at, b), 0o644))
			return p
		}, want, read})
	}
	add("as it is", "", true, func(_ *testing.T, _ string, b []byte) []byte { return b })
	for _, part := range []int{10, 50, 90} {
		add(named("cut at", part), "damaged or cut short", false, func(_ *testing.T, _ string, b []byte) []byte { return b[:len(b)*part/100] })
	}
	add("damaged", "damaged or cut short", false, func(_ *testing.T, _ string, b []byte) []byte { b[len(b)-30] ^= 0xff; return b })
	head := func(name, want, line string) {
		add(name, want, false, func(_ *testing.T, _ string, b []byte) []byte {
			return append([]byte("# v3 git bundle\n"+line+"\n"), b[bytes.IndexByte(b, '\n')+1:]...)
		})
	}
	head("of a third kind of ids", "not supported here", "@object-format=sha3")
	head("partial", "partial", "@filter=blob:none")
	head("that needs more", "not supported here", "@SECRET=1")
	add("of a later version", "neither an archive", false, func(_ *testing.T, _ string, b []byte) []byte {
		return append([]byte("# v9 git bundle\n"), b[bytes.IndexByte(b, '\n')+1:]...)
	})
	add("on commits that are elsewhere", "builds on commits", false, func(_ *testing.T, _ string, b []byte) []byte {
		return append([]byte("# v2 git bundle\n-"+strings.Repeat("1", 40)+" x\n"), b[bytes.IndexByte(b, '\n')+1:]...)
	})
	add("with a ref of an odd name", "left out", true, func(t *testing.T, at string, b []byte) []byte {
		id := git(t, at, "", "rev-parse", "HEAD")
		return append([]byte("# v2 git bundle\n"+id+" refs/heads/../../x\n"), b[bytes.IndexByte(b, '\n')+1:]...)
	})
	return out
}
