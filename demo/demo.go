// Package demo makes the made-up repository "Marshgauge" and the story around
// it: who is who, and a plan to begin with.
//
// The repository's final files lie under _marshgauge; story.txt tells the
// commits. Build grows each file towards its final text over the commits that
// name it, so that history is there to be read, and always makes the same ids.
package demo

import (
	"bytes"
	"context"
	"embed"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"io/fs"
	"math"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"sort"
	"strings"
	"time"

	"juxtagram/core/repo"
)

//go:embed all:_marshgauge
var final embed.FS

//go:embed story.txt
var story string

// start is the day of the first commit, in UTC.
var start = time.Date(2024, 9, 2, 0, 0, 0, 0, time.UTC)

// authors by the letter story.txt knows them by.
var authors = map[string]string{
	"O": "Oona Fell <oona@marshgauge.test>",
	"T": "Tam Reddick <tam@marshgauge.test>",
	"K": "Kip Marrow <kip@marshgauge.test>",
	"k": "Kip <k.marrow@home.test>",
	"I": "Ines Quill <ines@marshgauge.test>",
	"B": "Bram Oster <bram@marshgauge.test>",
	"S": "Sefa Lund <sefa@marshgauge.test>",
	"E": "Edda Sorrel <edda@marshgauge.test>",
	"W": "Wil Harrow <wil@marshgauge.test>",
}

// movingAverage is a file that the story removes again.
const movingAverage = `"""A moving average of the last readings, for want of something better."""


def average(readings, window=12):
    # TODO: it lags by half its window
    out = []
    for i in range(len(readings)):
        part = readings[max(0, i - window + 1) : i + 1]
        out.append(sum(part) / len(part))
    return out
`

// Files returns the final text of every file, by path.
func Files() (map[string][]byte, error) {
	files := map[string][]byte{}
	err := fs.WalkDir(final, "_marshgauge", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		b, err := final.ReadFile(p)
		name := strings.TrimPrefix(p, "_marshgauge/")
		files[strings.TrimSuffix(name, ".in")] = b
		return err
	})
	if err != nil {
		return nil, err
	}
	files["docs/img/gauge.png"], err = picture()
	return files, err
}

// Build writes the repository to dir, a bare one, which must not exist.
func Build(ctx context.Context, dir string) error {
	files, err := Files()
	if err != nil {
		return err
	}
	b, err := newBuilder(files)
	if err != nil {
		return err
	}
	stream, err := b.stream()
	if err != nil {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(dir), 0o755); err != nil {
		return err
	}
	init := exec.CommandContext(ctx, "git", "init", "--quiet", "--bare", "--template=", "--initial-branch=main", dir)
	init.Env = repo.Environ()
	if out, err := init.CombinedOutput(); err != nil {
		return fmt.Errorf("git init: %s", bytes.TrimSpace(out))
	}
	_, err = repo.At(dir).RunInput(ctx, bytes.NewReader(stream), "fast-import", "--quiet", "--done", "--date-format=raw")
	return err
}

// builder plays the story.
type builder struct {
	files   map[string][]byte // final text, by final path
	touches map[string]int    // how many commits touch a file, by final path
	touched map[string]int    // so far
	finalOf map[string]string // path in the story → final path
	trees   map[string]map[string]bool
	out     bytes.Buffer
	mark    int
	heads   map[string]int // branch → mark
	old     bool           // firmware still has tabs
	last    time.Time
}

type entry struct {
	line    int
	day     int
	author  string
	branch  string // "main" where none is named
	kind    string // "edit" | "mv" | "rm" | "merge" | "reformat" | "tag"
	files   []string
	message string
}

func newBuilder(files map[string][]byte) (*builder, error) {
	files["predict/moving_average.py"] = []byte(movingAverage)
	b := &builder{files: files, touches: map[string]int{}, touched: map[string]int{}, finalOf: map[string]string{},
		trees: map[string]map[string]bool{"main": {}}, heads: map[string]int{}, old: true}
	entries, err := parse(story)
	if err != nil {
		return nil, err
	}
	for i := len(entries) - 1; i >= 0; i-- { // backwards, to know what old names become
		e := entries[i]
		if e.kind == "mv" {
			b.finalOf[e.files[0]] = b.finalName(e.files[1])
		}
	}
	for _, e := range entries {
		if e.kind == "edit" {
			for _, f := range e.files {
				name := b.finalName(f)
				if files[name] == nil {
					return nil, fmt.Errorf("story.txt:%d: there is no file %s", e.line, name)
				}
				b.touches[name]++
			}
		}
	}
	return b, nil
}

// finalName is what a file of the story is called in the end.
func (b *builder) finalName(p string) string {
	p = strings.TrimSuffix(p, ".in")
	if f, ok := b.finalOf[p]; ok {
		return f
	}
	return p
}

func parse(text string) ([]entry, error) {
	var out []entry
	for i, l := range strings.Split(text, "\n") {
		l = strings.TrimSpace(l)
		if l == "" || strings.HasPrefix(l, "#") {
			continue
		}
		if name, ok := strings.CutPrefix(l, "tag "); ok {
			out = append(out, entry{line: i + 1, kind: "tag", message: name})
			continue
		}
		head, message, ok := strings.Cut(l, " | ")
		f := strings.Fields(head)
		e := entry{line: i + 1, branch: "main", kind: "edit", message: message}
		if !ok || len(f) < 3 || authors[f[1]] == "" {
			return nil, fmt.Errorf("story.txt:%d: cannot be read", i+1)
		}
		if _, err := fmt.Sscan(f[0], &e.day); err != nil {
			return nil, fmt.Errorf("story.txt:%d: no day", i+1)
		}
		e.author, f = f[1], f[2:]
		if strings.HasPrefix(f[0], "@") {
			e.branch, f = f[0][1:], f[1:]
		}
		switch f[0] {
		case "mv", "rm", "merge", "reformat":
			e.kind, f = f[0], f[1:]
		}
		e.files = f
		out = append(out, e)
	}
	return out, nil
}

func (b *builder) stream() ([]byte, error) {
	entries, err := parse(story)
	if err != nil {
		return nil, err
	}
	for _, e := range entries {
		if e.kind == "tag" {
			b.tag(e.message)
			continue
		}
		if err := b.commit(e); err != nil {
			return nil, fmt.Errorf("story.txt:%d: %w", e.line, err)
		}
	}
	fmt.Fprint(&b.out, "done\n")
	return b.out.Bytes(), nil
}

// tag is an annotated tag on main, by the one who releases.
func (b *builder) tag(name string) {
	message := "Marshgauge " + name + "\n"
	fmt.Fprintf(&b.out, "tag %s\nfrom :%d\ntagger %s %d +0000\ndata %d\n%s\n", name, b.heads["main"], authors["O"], b.last.Add(time.Hour).Unix(), len(message), message)
}

func (b *builder) commit(e entry) error {
	if b.trees[e.branch] == nil { // a new branch begins where main stands
		b.trees[e.branch] = map[string]bool{}
		for p := range b.trees["main"] {
			b.trees[e.branch][p] = true
		}
		b.heads[e.branch] = b.heads["main"]
	}
	at := start.AddDate(0, 0, e.day).Add(time.Duration(8*60+(e.line*37)%600) * time.Minute)
	if !at.After(b.last) {
		at = b.last.Add(11 * time.Minute)
	}
	b.last = at
	b.mark++
	who := fmt.Sprintf("%s %d +0000", authors[e.author], at.Unix())
	message := e.message + "\n"
	fmt.Fprintf(&b.out, "commit refs/heads/%s\nmark :%d\nauthor %s\ncommitter %s\ndata %d\n%s", e.branch, b.mark, who, who, len(message), message)
	if from := b.heads[e.branch]; from != 0 {
		fmt.Fprintf(&b.out, "from :%d\n", from)
	}
	if err := b.changes(e); err != nil {
		return err
	}
	b.heads[e.branch] = b.mark
	return nil
}

func (b *builder) changes(e entry) error {
	tree := b.trees[e.branch]
	switch e.kind {
	case "edit":
		for _, f := range e.files {
			b.touched[b.finalName(f)]++
			b.write(tree, strings.TrimSuffix(f, ".in"))
		}
		if e.files[0] == "README.md" && !tree["docs/img/gauge.png"] && e.day > 100 {
			b.write(tree, "docs/img/gauge.png")
		}
	case "mv":
		fmt.Fprintf(&b.out, "R %s %s\n", e.files[0], e.files[1])
		delete(tree, e.files[0])
		tree[e.files[1]] = true
	case "rm":
		fmt.Fprintf(&b.out, "D %s\n", e.files[0])
		delete(tree, e.files[0])
	case "reformat":
		b.old = false
		for _, p := range sorted(tree) {
			if isFirmware(p) {
				b.write(tree, p)
			}
		}
	case "merge":
		name := e.files[0]
		fmt.Fprintf(&b.out, "merge :%d\n", b.heads[name])
		return b.join(tree, name)
	default:
		return fmt.Errorf("no kind %q", e.kind)
	}
	return nil
}

// join brings a branch's files to main: names as the branch has them, texts as
// the story has grown them so far.
func (b *builder) join(tree map[string]bool, name string) error {
	branch := b.trees[name]
	byFinal := map[string]string{}
	for p := range branch {
		byFinal[b.finalName(p)] = p
	}
	for _, p := range sorted(tree) {
		if other := byFinal[b.finalName(p)]; other != "" && other != p && !tree[other] && b.files[b.finalName(p)] != nil {
			fmt.Fprintf(&b.out, "R %s %s\n", p, other)
			delete(tree, p)
			tree[other] = true
		}
	}
	for _, p := range sorted(branch) {
		b.write(tree, p)
	}
	return nil
}

func sorted(tree map[string]bool) []string {
	out := make([]string, 0, len(tree))
	for p := range tree {
		out = append(out, p)
	}
	sort.Strings(out)
	return out
}

func isFirmware(p string) bool {
	ext := path.Ext(p)
	return strings.HasPrefix(p, "firmware/") && (ext == ".c" || ext == ".h") && !strings.HasSuffix(p, "_table.h")
}

// write puts a file's text, as far as it has grown, into the tree.
func (b *builder) write(tree map[string]bool, p string) {
	name := b.finalName(p)
	text := b.files[name]
	if !bytes.Contains(text, []byte{0}) {
		text = grown(name, text, b.touched[name], b.touches[name])
		if b.old && isFirmware(p) {
			text = tabs(text)
		}
	}
	mode := "100644"
	if strings.HasPrefix(name, "tools/") || name == "levelling/level_run.py" || name == ".ci/run.sh" {
		mode = "100755"
	}
	tree[p] = true
	fmt.Fprintf(&b.out, "M %s inline %s\ndata %d\n%s\n", mode, p, len(text), text)
}

// picture draws a gauge on its pole.
func picture() ([]byte, error) {
	const w, h = 320, 200
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.RGBA{0xf4, 0xf1, 0xe8, 0xff}
			water := 140 + int(6*math.Sin(float64(x)/18))
			switch {
			case x > 152 && x < 162 && y > 40:
				c = color.RGBA{0x5a, 0x4a, 0x3a, 0xff}
			case x > 138 && x < 176 && y > 26 && y < 58:
				c = color.RGBA{0x22, 0x25, 0x2b, 0xff}
			case y > water:
				c = color.RGBA{0x14, 0x50, 0x6b, 0xff}
			}
			img.SetRGBA(x, y, c)
		}
	}
	var out bytes.Buffer
	err := png.Encode(&out, img)
	return out.Bytes(), err
}
