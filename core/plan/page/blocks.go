package page

import (
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"html/template"
	"path"
	"slices"
	"strings"

	"juxtagram/core/plan"
	"juxtagram/core/repo"
)

// block is something that a passage has one read.
type block struct {
	Name    string // path and lines
	Commit  string
	Says    string
	Code    template.HTML
	Patch   bool
	Picture template.URL
	Entries []string
	Note    string // what is left out, or why there is nothing
}

// maxPicture is how large a picture is that the page holds, in bytes; maxEntries how
// many entries of a folder it lists.
const (
	maxPicture = 1 << 20
	maxEntries = 300
)

// pictures are the kinds that browsers show without running anything.
var pictures = map[string]string{".png": "image/png", ".jpg": "image/jpeg", ".jpeg": "image/jpeg", ".gif": "image/gif", ".webp": "image/webp", ".svg": "image/svg+xml"}

// blocks are what a target has one read, in order.
func (p *printer) blocks(ctx context.Context, t *plan.Target) ([]block, error) {
	switch t.Kind {
	case plan.Folder:
		return p.one(p.folder(ctx, t))
	case plan.Commit:
		return p.one(p.difference(ctx, "", t.Commit, ""))
	case plan.Comparison:
		return p.one(p.difference(ctx, t.Base, t.Commit, t.Path))
	case plan.Planned:
		if t.Pattern == "" {
			return nil, nil
		}
		return p.one(p.lines(ctx, plan.Stretch{Path: t.Pattern, Commit: t.Commit, Says: "to go by"}, 0))
	case plan.Asset:
		return p.one(p.picture(ctx, t))
	}
	var out []block
	for _, s := range t.Stretches() {
		b, err := p.lines(ctx, s, t.Skim)
		if err != nil {
			return nil, err
		}
		out = append(out, *b)
	}
	return out, nil
}

func (p *printer) one(b *block, err error) ([]block, error) {
	if err != nil {
		return nil, err
	}
	return []block{*b}, nil
}

// gone makes a block of what cannot be shown.
func (p *printer) gone(b *block, err error) (*block, error) {
	m := (*missing)(nil)
	if !errors.As(err, &m) {
		return nil, err
	}
	b.Note = m.why
	return b, nil
}

// lines shows lines of a file, the whole of it, or its most telling lines.
func (p *printer) lines(ctx context.Context, s plan.Stretch, budget int) (*block, error) {
	b := &block{Name: s.Name(), Commit: s.Commit, Says: s.Says}
	if p.full(b) {
		return b, nil
	}
	t, err := p.source.text(ctx, s.Commit, s.Path)
	if err != nil {
		return p.gone(b, err)
	}
	switch {
	case s.Start > len(t.lines):
		b.Note = fmt.Sprintf("the file has %d lines", len(t.lines))
		return b, nil
	case s.Start == 0 && budget > 0:
		cut, err := p.source.Skim(ctx, s.Commit, s.Path)
		if err != nil {
			return nil, err
		}
		if cut != nil {
			shown := 0
			if b.Code, shown = t.skimmed(cut, budget); shown < len(t.lines) {
				b.Note = fmt.Sprintf("%d of %d lines; the others are folded", shown, len(t.lines))
			}
			p.code += len(b.Code)
			return b, nil
		}
	case s.Start == 0 && len(t.lines) == 0:
		b.Note = "the file is empty"
		return b, nil
	}
	from, to := max(1, s.Start), s.End
	if s.Start == 0 {
		to = len(t.lines)
	}
	left := 0
	if b.Code, left = t.stretch(from, to); left > 0 {
		b.Note = fmt.Sprintf("%d more lines are not on this page", left)
	}
	p.code += len(b.Code)
	return b, nil
}

// full tells whether the page holds as much code as it may.
func (p *printer) full(b *block) bool {
	if p.code >= maxCode {
		b.Note = fmt.Sprintf("not on this page, which holds %d MB of code already", maxCode>>20)
		p.left++
	}
	return p.code >= maxCode
}

func (p *printer) folder(ctx context.Context, t *plan.Target) (*block, error) {
	b := &block{Name: t.Path + "/", Commit: t.Commit}
	if t.Path == "" {
		b.Name = "the whole repository"
	}
	raw, err := repo.UnescapePath(t.Path, strings.Contains(t.Path, "%"))
	if err != nil {
		return p.gone(b, &missing{"its path cannot be used"})
	}
	list, err := p.source.Git.Folder(ctx, t.Commit, raw)
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if err != nil || len(list) == 0 {
		return p.gone(b, &missing{"there is no such folder at this commit"})
	}
	for _, e := range list {
		name, _ := repo.EscapePath(path.Base(e.Path))
		if e.Mode == "folder" {
			name += "/"
		}
		b.Entries = append(b.Entries, name)
	}
	slices.SortStableFunc(b.Entries, func(a, c string) int { // folders first
		return strings.Count(c, "/") - strings.Count(a, "/")
	})
	if n := len(b.Entries); n > maxEntries {
		b.Entries, b.Note = b.Entries[:maxEntries], fmt.Sprintf("and %d more", n-maxEntries)
	}
	return b, nil
}

func (p *printer) difference(ctx context.Context, old, new, at string) (*block, error) {
	b := &block{Name: fmt.Sprintf("commit %.10s", new), Commit: new, Patch: true}
	if old != "" {
		b.Name = fmt.Sprintf("%.10s to %.10s", old, new)
	} else if c, _, err := p.source.Git.ReadCommit(ctx, new, 2000); err == nil {
		b.Says = c.Subject
	}
	if at != "" {
		b.Name += ", " + at
	}
	if p.full(b) {
		return b, nil
	}
	raw, err := repo.UnescapePath(at, strings.Contains(at, "%"))
	if err != nil {
		return p.gone(b, &missing{"its path cannot be used"})
	}
	text, cut, err := p.source.Git.Patch(ctx, old, new, raw, maxPatch)
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if err != nil {
		return p.gone(b, &missing{"the repository does not have this commit"})
	}
	if b.Code = patch(string(text)); cut {
		b.Note = fmt.Sprintf("the first %d KB of the difference", maxPatch/1000)
	} else if len(text) == 0 {
		b.Note = "there is no difference"
	}
	p.code += len(b.Code)
	return b, nil
}

func (p *printer) picture(ctx context.Context, t *plan.Target) (*block, error) {
	b := &block{Name: t.Path, Commit: t.Commit}
	kind := pictures[strings.ToLower(path.Ext(t.Path))]
	if kind == "" {
		return p.lines(ctx, plan.Stretch{Path: t.Path, Commit: t.Commit}, 0)
	}
	if p.full(b) {
		return b, nil
	}
	content, err := p.source.raw(t.Commit, t.Path, maxPicture)
	if err != nil {
		return p.gone(b, err)
	}
	b.Picture = template.URL("data:" + kind + ";base64," + base64.StdEncoding.EncodeToString(content)) //nolint:gosec // a picture runs nothing
	p.code += len(b.Picture)
	return b, nil
}
