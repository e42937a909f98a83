package placetest

import (
	"fmt"
	"io/fs"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"

	"juxtagram/core/place"
)

// Placed compares the texts, and tells where each line is placed.
func (w *World) Placed() func(file, line int) place.Image {
	set := place.NewSet()
	var all []*place.Mapping
	of := map[string]*place.Mapping{}
	for _, p := range w.Pairs() {
		old := p.Old
		if old == nil {
			old = &place.Text{Path: p.New.Path}
		}
		m := set.Compare(old, p.New)
		all = append(all, m)
		if p.Old != nil {
			of[p.Old.Path] = m
		}
	}
	for _, m := range all {
		m.Elsewhere(all)
	}
	return func(file, line int) place.Image { return of[w.Before[file].Path].Lines(line, line) }
}

// Scene makes a world of three files, with the lines of a fourth to insert.
func Scene(random *rand.Rand, files []File) *World {
	var picked []File
	for n, k := range random.Perm(len(files))[:3] {
		f := files[k]
		f.Path = fmt.Sprintf("%d/%s", n, f.Path)
		picked = append(picked, f)
	}
	return New(random, picked, files[random.IntN(len(files))].Lines)
}

// Load reads texts of 40 to 1,500 lines, at most 400.
func Load(root, ends string) []File {
	var out []File
	_ = filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(p, ends) || len(out) >= 400 {
			return nil
		}
		content, err := os.ReadFile(p)
		if err != nil {
			return nil
		}
		t := place.NewText(filepath.Base(p), string(content))
		if len(t.Lines) >= 40 && len(t.Lines) <= 1500 {
			out = append(out, File{Path: t.Path, Lines: t.Lines})
		}
		return nil
	})
	return out
}
