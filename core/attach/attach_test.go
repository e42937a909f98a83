package attach_test

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/attach"
)

// drawing is a picture with one point that is unlike the others.
func drawing(w, h int) *image.Paletted {
	p := image.NewPaletted(image.Rect(0, 0, w, h), color.Palette{color.White, color.Black})
	p.SetColorIndex(0, 0, 1)
	return p
}

func encoded(t *testing.T, encode func(*bytes.Buffer) error) []byte {
	var b bytes.Buffer
	require.NoError(t, encode(&b))
	return b.Bytes()
}

func pngOf(t *testing.T, w, h int) []byte {
	return encoded(t, func(b *bytes.Buffer) error { return png.Encode(b, drawing(w, h)) })
}

func TestPicturesAreDrawnAnew(t *testing.T) {
	hidden := []byte("<script>alert(1)</script>")
	jpg := encoded(t, func(b *bytes.Buffer) error { return jpeg.Encode(b, drawing(40, 30), nil) })
	moving := encoded(t, func(b *bytes.Buffer) error {
		return gif.EncodeAll(b, &gif.GIF{Image: []*image.Paletted{drawing(8, 8), drawing(8, 8)}, Delay: []int{1, 1}})
	})
	still := encoded(t, func(b *bytes.Buffer) error { return gif.Encode(b, drawing(8, 8), nil) })
	for _, c := range []struct {
		name, as, remark string
		content          []byte
		w, h             int
	}{
		{"plain.png", "image/png", "", pngOf(t, 30, 20), 30, 20},
		{"with-more.png", "image/png", "", append(pngOf(t, 3, 2), hidden...), 3, 2},
		{"photo.jpg", "image/jpeg", "", append(jpg, hidden...), 40, 30},
		{"still.gif", "image/png", "", still, 8, 8},
		{"moving.gif", "image/png", "only its first frame is kept", moving, 8, 8},
		{"liar.txt", "image/png", "its name ends in .txt, but by its bytes it is image/png", pngOf(t, 3, 2), 3, 2},
	} {
		k, err := attach.Read(c.name, c.content)
		require.NoError(t, err, c.name)
		assert.True(t, k.Picture, c.name)
		assert.Equal(t, c.as, k.Type, c.name)
		assert.Equal(t, [2]int{c.w, c.h}, [2]int{k.Width, k.Height}, c.name)
		assert.Equal(t, c.remark, k.Remark, c.name)
		assert.NotContains(t, string(k.Bytes), "script", c.name)
		drawn, _, err := image.Decode(bytes.NewReader(k.Bytes))
		require.NoError(t, err, c.name)
		r, _, _, _ := drawn.At(0, 0).RGBA()
		far, _, _, _ := drawn.At(c.w-1, c.h-1).RGBA()
		assert.Less(t, r, far, "%s: the dark point is where it was", c.name)
	}
}

// TestOrientation: a photo that says that it lies on its side is set upright.
func TestOrientation(t *testing.T) {
	jpg := encoded(t, func(b *bytes.Buffer) error { return jpeg.Encode(b, drawing(40, 30), nil) })
	exif := []byte{0xFF, 0xE1, 0, 34, 'E', 'x', 'i', 'f', 0, 0, 'M', 'M', 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, 6, 0, 0, 0, 0, 0, 0}
	k, err := attach.Read("phone.jpg", append(append(append([]byte{}, jpg[:2]...), exif...), jpg[2:]...))
	require.NoError(t, err)
	assert.Equal(t, [2]int{30, 40}, [2]int{k.Width, k.Height})
	assert.NotContains(t, string(k.Bytes), "Exif")
}

// bomb is a small PNG that says that it has a great many points.
func bomb(w, h uint32) []byte {
	b := []byte("\x89PNG\r\n\x1a\n")
	body := append([]byte("IHDR"), binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, w), h)...)
	body = append(body, 1, 0, 0, 0, 0)
	b = binary.BigEndian.AppendUint32(b, 13)
	b = append(b, body...)
	return binary.BigEndian.AppendUint32(b, crc32.ChecksumIEEE(body))
}

func TestRefused(t *testing.T) {
	for name, content := range map[string][]byte{
		"empty": nil, "large": make([]byte, attach.MaxBytes+1), "bomb": bomb(60_000, 60_000), "long bomb": bomb(1<<31-1, 1),
	} {
		_, err := attach.Read(name+".png", content)
		require.True(t, attach.IsRefused(err), "%s: %v", name, err)
		assert.NotEmpty(t, err.Error())
	}
}

func TestFilesAreKeptAsTheyCame(t *testing.T) {
	for _, c := range []struct{ name, content, as, remark string }{
		{"page.png", "<!DOCTYPE html><script>alert(1)</script>", "text/html", "its name ends in .png, but by its bytes it is text/html"},
		{"drawing.svg", `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" onload="alert(1)"/>`, "image/svg+xml", ""},
		{"trace.log", "10:00 gauge 3 silent\n", "text/plain", ""},
		{"broken.png", string(bomb(3, 2)), "image/png", "it cannot be drawn as a picture, and is kept as a file: "},
		{"report.pdf", "%PDF-1.7\n", "application/pdf", ""},
		{"report.pdf", "MZ\x90\x00\x03", "application/vnd.microsoft.portable-executable", "its name ends in .pdf, but by its bytes it is application/vnd.microsoft.portable-executable"},
	} {
		k, err := attach.Read(c.name, []byte(c.content))
		require.NoError(t, err, c.name)
		assert.False(t, k.Picture, c.name)
		assert.Equal(t, c.content, string(k.Bytes), c.name)
		assert.Equal(t, c.as, k.Type, c.name)
		assert.True(t, k.Remark == c.remark || c.remark != "" && strings.HasPrefix(k.Remark, c.remark), "%s: %s", c.name, k.Remark)
	}
}

func TestNames(t *testing.T) {
	for in, want := range map[string]string{
		"": "file", "../../etc/passwd": "passwd", `C:\temp\a b.txt`: "a b.txt", ".profile": "profile", "a\u202Egpj.exe": "agpj.exe", "line\nbreak\x00.txt": "linebreak.txt", "Pegelstände (März).csv": "Pegelstände März.csv",
	} {
		assert.Equal(t, want, attach.Name(in), "%q", in)
	}
	long := attach.Name(strings.Repeat("ä", 4000) + ".csv")
	assert.Len(t, []rune(long), 120)
	assert.True(t, strings.HasSuffix(long, ".csv"))
}

func FuzzRead(f *testing.F) {
	f.Add("a.png", bomb(3, 2))
	f.Add("a.gif", []byte("GIF89a\x01\x00\x01\x00\x80\x00\x00\xff\xff\xff\x00\x00\x00,\x00\x00\x00\x00\x01\x00\x01\x00\x00\x02\x02D\x01\x00;"))
	f.Fuzz(func(t *testing.T, name string, content []byte) {
		k, err := attach.Read(name, content)
		if err != nil {
			if !attach.IsRefused(err) {
				t.Fatal(err)
			}
			return
		}
		if k.Name == "" || strings.ContainsAny(k.Name, "/\\\x00\n") || k.Picture && (k.Width < 1 || k.Height < 1) {
			t.Fatalf("%+v", k)
		}
	})
}
