package lang

import (
	"context"
	"fmt"
	"sort"
	"strings"

	"juxtagram/core/syntax"
)

// Read looks through one file's text. An error says why the text could not be
// read as this language; it never speaks of the program's own failure.
func (l *Language) Read(ctx context.Context, content []byte) (Reading, error) {
	c := newCollector(content)
	if !l.Parsed() {
		return l.readLexed(ctx, content, c)
	}
	c.Depth = Parsed
	if l.Syntax != nil {
		if err := l.parse(ctx, content, c); err != nil {
			return Reading{}, err
		}
	}
	if l.Parts != nil {
		c.parts = append(c.parts, l.Parts(content)...)
	}
	for _, p := range c.parts {
		if err := p.Language.parse(ctx, content, c, syntax.Range{Start: p.Start, End: p.End}); err != nil {
			return Reading{}, err
		}
	}
	if len(c.parts) > 0 {
		c.mergeParts()
	}
	return c.finish(content), nil
}

func (l *Language) parse(ctx context.Context, content []byte, c *collector, ranges ...syntax.Range) error {
	if l.Syntax == nil {
		return nil
	}
	shown := content
	if l.Syntax.Mask != nil {
		shown = l.Syntax.Mask(content)
	}
	tree, err := l.Syntax.ready().grammar.Parse(ctx, shown, ranges...)
	if err != nil {
		return fmt.Errorf("read as %s: %w", l.Name, err)
	}
	defer tree.Close()
	tree.Text = content
	return l.Syntax.walk(ctx, tree, c)
}

// Bare parses a text without looking at the tree: the floor of the benchmarks.
func (l *Language) Bare(content []byte) error {
	return l.Syntax.ready().grammar.Bare(content)
}

// mergeParts puts what several trees gave into text order.
func (c *collector) mergeParts() {
	order := make([]int, len(c.Outline))
	for i := range order {
		order[i] = i
	}
	sort.SliceStable(order, func(i, j int) bool { return c.Outline[order[i]].Start < c.Outline[order[j]].Start })
	to := make([]int, len(order))
	outline := make([]Symbol, len(order))
	for i, from := range order {
		to[from], outline[i] = i, c.Outline[from]
	}
	for i := range outline {
		if outline[i].Parent >= 0 {
			outline[i].Parent = to[outline[i].Parent]
		}
	}
	c.Outline = outline
}

// mayComment tells whether anything in a lexed text can open a comment.
func (l *Language) mayComment(content []byte) bool {
	if len(l.Openers) == 0 {
		return true
	}
	text := string(content)
	for _, o := range l.Openers {
		if strings.Contains(text, o) {
			return true
		}
	}
	return false
}
