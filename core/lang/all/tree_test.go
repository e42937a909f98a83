package all_test

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	sitter "github.com/smacker/go-tree-sitter"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang/all"
	"juxtagram/core/syntax"
)

// TestTreesAreTheLibrarysOwn has every grammar read its own samples, and the
// beginnings of those of all other languages, and compares each node with what the grammar
// library's cursor tells of it: name, field, place and parent.
func TestTreesAreTheLibrarysOwn(t *testing.T) {
	samples := map[string]string{}
	paths, err := filepath.Glob("testdata/sample.*")
	require.NoError(t, err)
	for _, path := range append(paths, "../walk.go", "../../syntax/walk.c", "../../../web/src/read/pane/skim.ts", "../../../web/src/read/find.ts") {
		content, err := os.ReadFile(path)
		require.NoError(t, err)
		samples[path] = string(content)
	}
	for _, l := range all.Parsed {
		if l.Syntax == nil {
			continue
		}
		t.Run(l.Name, func(t *testing.T) {
			t.Parallel()
			library := l.Syntax.Grammar()
			grammar := syntax.NewGrammar(library)
			texts := append([]string{}, broken...)
			for path, text := range samples {
				if all.OfPath(path) == l {
					texts = append(texts, text, text[len(text)/3:])
				} else {
					texts = append(texts, text[:min(len(text), 600)])
				}
			}
			for _, text := range texts {
				tree, err := grammar.Parse(context.Background(), []byte(text))
				if errors.Is(err, syntax.ErrTime) {
					continue // the other language's text is too hard for it
				}
				require.NoError(t, err)
				want := byCursor(t, library, grammar, text)
				for i := range min(len(want), len(tree.Nodes)) {
					if want[i] != told(tree, uint32(i)) {
						require.Equal(t, want[i], told(tree, uint32(i)), "node %d of %.40q", i, text)
					}
				}
				require.Len(t, tree.Nodes, len(want), "%.40q %v", text, want)
				for i, n := range tree.Nodes {
					next := uint32(i) + 1
					for next < uint32(len(tree.Nodes)) && tree.Nodes[next].Parent != syntax.None && tree.Nodes[next].Parent >= uint32(i) {
						next++
					}
					if n.Next != next {
						require.Equal(t, next, n.Next, "the node behind %d", i)
					}
				}
				tree.Close()
			}
		})
	}
}

// The scanner of this grammar keeps the quote of a string that never ends in a
// variable of the whole program.
func TestWhatWasReadBeforeChangesNothing(t *testing.T) {
	lua := all.ByName("Lua")
	const text = "--[[ a block ]]\nlocal function level() return [[ two\nlines ]] end -- TODO: in metres\n"
	before, err := lua.Read(context.Background(), []byte(text))
	require.NoError(t, err)
	require.Len(t, before.Outline, 1)
	for _, other := range []string{"x = \"", "x = 'a", "x = [==[ ", "r#\""} {
		_, err := lua.Read(context.Background(), []byte(other))
		require.NoError(t, err)
		after, err := lua.Read(context.Background(), []byte(text))
		require.NoError(t, err)
		assert.Equal(t, before, after, other)
	}
}

func told(t *syntax.Tree, i uint32) string {
	n := t.Nodes[i]
	return fmt.Sprint(t.Type(i), n.Field, n.Start, n.End, n.Row, n.EndRow, n.Parent)
}

// byCursor walks a text's tree by the library's cursor, and tells of each node
// that is no bare token what told does.
func byCursor(t *testing.T, library *sitter.Language, grammar *syntax.Grammar, text string) (out []string) {
	empty, err := grammar.Parse(context.Background(), nil) // leaves no traces in scanners that parsers share
	require.NoError(t, err)
	empty.Close()
	root, err := sitter.ParseCtx(context.Background(), []byte(text), library)
	require.NoError(t, err)
	at := sitter.NewTreeCursor(root)
	defer at.Close()
	var down func(parent uint32)
	down = func(parent uint32) {
		n := at.CurrentNode()
		if !n.IsNamed() {
			return
		}
		i := uint32(len(out))
		field := uint16(0)
		if name := at.CurrentFieldName(); name != "" {
			field = grammar.Field(name)
		}
		out = append(out, fmt.Sprint(n.Type(), field, n.StartByte(), n.EndByte(), n.StartPoint().Row, n.EndPoint().Row, parent))
		if !at.GoToFirstChild() {
			return
		}
		for down(i); at.GoToNextSibling(); {
			down(i)
		}
		at.GoToParent()
	}
	down(syntax.None)
	return out
}
