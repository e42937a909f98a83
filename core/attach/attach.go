package attach

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"path"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/disintegration/imaging"
	"github.com/gabriel-vasile/mimetype"
	_ "golang.org/x/image/webp" // WebP can be read
)

const (
	// MaxBytes is how large an attachment may be.
	MaxBytes = 20 << 20
	// MaxPoints is how many points a picture may have; what has more is not
	// drawn, whatever its file's size.
	MaxPoints = 24_000_000
	// maxName is how many characters of a name are kept.
	maxName   = 120
	jpegGrade = 88
)

// Kept is a file as it is kept.
type Kept struct {
	Name          string // for people: without folders, control and turning characters
	Type          string // by its bytes, without parameters
	Bytes         []byte // of a picture: as it was drawn anew
	Picture       bool   // it may be shown in a page
	Width, Height int    // of a picture, in points
	Remark        string // what a person should know: it lies about its type, only its first frame is kept; "": nothing
}

// Refused tells why a file is not kept.
type Refused struct{ Reason string }

func (r *Refused) Error() string { return r.Reason }

// IsRefused tells whether an error says that a file is not kept.
func IsRefused(err error) bool {
	var r *Refused
	return errors.As(err, &r)
}

// pictures are the types that are drawn, with that they are kept as.
var pictures = map[string]string{"image/png": "image/png", "image/jpeg": "image/jpeg", "image/gif": "image/png", "image/webp": "image/png"}

// Read tells what a file is. What is no picture, or none that can be drawn, is
// kept byte by byte, to be downloaded. A picture of too many points is Refused.
func Read(name string, content []byte) (*Kept, error) {
	switch {
	case len(content) == 0:
		return nil, &Refused{"the file is empty"}
	case len(content) > MaxBytes:
		return nil, &Refused{fmt.Sprintf("the file has more than %d MB", MaxBytes>>20)}
	}
	k := &Kept{Name: Name(name), Bytes: content}
	found := mimetype.Detect(content)
	k.Type, _, _ = strings.Cut(found.String(), ";")
	k.Remark = lie(k.Name, found)
	as := pictures[k.Type]
	if as == "" {
		return k, nil
	}
	if err := k.draw(as); err != nil {
		if IsRefused(err) {
			return nil, err
		}
		k.Remark = "it cannot be drawn as a picture, and is kept as a file: " + err.Error()
	}
	return k, nil
}

// draw puts the points of a picture into a file of its own.
func (k *Kept) draw(as string) error {
	told, _, err := image.DecodeConfig(bytes.NewReader(k.Bytes))
	if err != nil {
		return err
	}
	if told.Width <= 0 || told.Height <= 0 || told.Width > MaxPoints/told.Height {
		return &Refused{fmt.Sprintf("the picture has %d × %d points; %d million in all are the most", told.Width, told.Height, MaxPoints/1_000_000)}
	}
	drawn, err := imaging.Decode(bytes.NewReader(k.Bytes), imaging.AutoOrientation(true))
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if as == "image/jpeg" {
		err = jpeg.Encode(&b, drawn, &jpeg.Options{Quality: jpegGrade})
	} else {
		err = png.Encode(&b, drawn)
	}
	if err != nil {
		return err
	}
	if b.Len() > MaxBytes {
		return &Refused{fmt.Sprintf("drawn anew, the picture has more than %d MB", MaxBytes>>20)}
	}
	if k.Type == "image/gif" && frames(k.Bytes) > 1 {
		k.Remark = "only its first frame is kept"
	}
	k.Picture, k.Type, k.Bytes = true, as, b.Bytes()
	k.Width, k.Height = drawn.Bounds().Dx(), drawn.Bounds().Dy()
	return nil
}

// frames counts up to two frames of a GIF by its blocks, without drawing any.
func frames(gif []byte) int {
	table := func(flags byte) int {
		if flags&0x80 == 0 {
			return 0
		}
		return 3 << (flags&7 + 1)
	}
	if len(gif) < 13 {
		return 0
	}
	at, n := 13+table(gif[10]), 0
	blocks := func() {
		for at < len(gif) && gif[at] != 0 {
			at += 1 + int(gif[at])
		}
		at++
	}
	for at < len(gif) && n < 2 {
		switch gif[at] {
		case 0x21: // an extension
			at += 2
			blocks()
		case 0x2C: // a frame
			if n++; at+9 >= len(gif) {
				return n
			}
			at += 11 + table(gif[at+9])
			blocks()
		default:
			return n
		}
	}
	return n
}

// lie tells that a name's ending promises another type than the bytes are.
func lie(name string, found *mimetype.MIME) string {
	end := strings.ToLower(path.Ext(name))
	promised := promises[end]
	if promised == nil || end == found.Extension() || slices.ContainsFunc(promised, found.Is) {
		return ""
	}
	is, _, _ := strings.Cut(found.String(), ";")
	return fmt.Sprintf("its name ends in %s, but by its bytes it is %s", end, is)
}

// promises are the types that endings stand for, of those that people trust.
var promises = map[string][]string{
	".png": {"image/png", "image/vnd.mozilla.apng"}, ".jpg": {"image/jpeg"}, ".jpeg": {"image/jpeg"}, ".gif": {"image/gif"}, ".webp": {"image/webp"}, ".svg": {"image/svg+xml"}, ".bmp": {"image/bmp"},
	".pdf": {"application/pdf"}, ".zip": {"application/zip"}, ".gz": {"application/gzip"}, ".txt": {"text/plain"}, ".md": {"text/plain"}, ".log": {"text/plain"}, ".csv": {"text/csv", "text/plain"}, ".json": {"application/json", "text/plain"},
	".mp4": {"video/mp4"}, ".docx": {"application/vnd.openxmlformats-officedocument.wordprocessingml.document"}, ".xlsx": {"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"},
}

// Name is a file's name as it is shown and offered for a download: its last
// part, without characters that control or turn a text, shortened in the middle.
func Name(name string) string {
	name = strings.ToValidUTF8(name, "")
	name = name[strings.LastIndexAny(name, `/\`)+1:]
	name = strings.Map(func(r rune) rune {
		if unicode.IsControl(r) || unicode.Is(unicode.Cf, r) || strings.ContainsRune(`"<>|:*?[]()`, r) {
			return -1
		}
		return r
	}, name)
	name = strings.TrimLeft(strings.TrimSpace(name), ".")
	if name == "" {
		return "file"
	}
	if n := utf8.RuneCountInString(name); n > maxName {
		runes := []rune(name)
		return string(runes[:maxName-20]) + "…" + string(runes[n-19:])
	}
	return name
}
