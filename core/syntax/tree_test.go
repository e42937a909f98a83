package syntax_test

import (
	"bytes"
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	sitter "github.com/smacker/go-tree-sitter"
	"github.com/smacker/go-tree-sitter/golang"
	"github.com/smacker/go-tree-sitter/javascript"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/syntax"
)

// tokens are the bare tokens that the trees of the test hold.
var tokens = []string{"+", "if", "func"}

var goGrammar = syntax.NewGrammar(golang.GetLanguage(), tokens...)

const program = `package tide

// Level is how high.
func Level(a, b int) string {
	return "x" + f(a)[1:]
}
`

// TestTreeIsTheLibrarysOwn compares the flat array with a walk by the library's
// own nodes.
func TestTreeIsTheLibrarysOwn(t *testing.T) {
	for _, text := range []string{program, "", "package", "func ((((", program + "\x00\xff", strings.Repeat("if x {\n", 50)} {
		tree, err := goGrammar.Parse(context.Background(), []byte(text))
		require.NoError(t, err)
		root, err := sitter.ParseCtx(context.Background(), []byte(text), golang.GetLanguage())
		require.NoError(t, err)
		at := uint32(0)
		compare(t, tree, root, syntax.None, &at)
		assert.Len(t, tree.Nodes, int(at))
		tree.Close()
	}
}

func compare(t *testing.T, tree *syntax.Tree, n *sitter.Node, parent uint32, at *uint32) {
	if !n.IsNamed() && !slices.Contains(tokens, n.Type()) {
		return
	}
	i := *at
	*at++
	got := tree.Nodes[i]
	assert.Equal(t, n.Type(), tree.Type(i))
	assert.Equal(t, [5]uint32{n.StartByte(), n.EndByte(), n.StartPoint().Row, n.EndPoint().Row, parent}, [5]uint32{got.Start, got.End, got.Row, got.EndRow, got.Parent})
	for c := range int(n.ChildCount()) {
		if name := n.FieldNameForChild(c); name != "" && *at < uint32(len(tree.Nodes)) && n.Child(c).IsNamed() {
			assert.Equal(t, tree.Grammar.Field(name), tree.Nodes[*at].Field)
		}
		compare(t, tree, n.Child(c), i, at)
	}
	assert.Equal(t, *at, got.Next)
}

func TestAParserThatWasStoppedParsesTheNextText(t *testing.T) {
	long := []byte("package a\n" + strings.Repeat("func f() { g(1, 2, 3) }\n", 20_000))
	for range 20 {
		ctx, cancel := context.WithCancel(context.Background())
		go cancel()
		tree, err := goGrammar.Parse(ctx, long)
		if err != nil {
			assert.ErrorIs(t, err, context.Canceled)
		} else {
			tree.Close()
		}
		tree, err = goGrammar.Parse(context.Background(), []byte(program))
		require.NoError(t, err)
		tree.Close()
	}
}

func TestRanges(t *testing.T) {
	js := syntax.NewGrammar(javascript.GetLanguage())
	text := []byte("<p>\n<script>\nlet a = 1\n</script>\n<i>")
	start := bytes.Index(text, []byte("let"))
	tree, err := js.Parse(context.Background(), text, syntax.Range{Start: start, End: start + 10})
	require.NoError(t, err)
	defer tree.Close()
	let := tree.ChildOf(0, "lexical_declaration")
	require.NotEqual(t, uint32(syntax.None), let)
	assert.Equal(t, "let a = 1", string(tree.Source(let)))
	assert.EqualValues(t, 2, tree.Nodes[let].Row)

	_, err = js.Parse(context.Background(), text, syntax.Range{Start: 9, End: 12}, syntax.Range{Start: 3, End: 5})
	assert.Error(t, err)
}

func TestCancel(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := goGrammar.Parse(ctx, bytes.Repeat([]byte("func f() { g(1, 2) }\n"), 50_000))
	assert.ErrorIs(t, err, context.Canceled)
	tree, err := goGrammar.Parse(context.Background(), []byte(program))
	require.NoError(t, err, "a later parse is not hurt")
	tree.Close()
}

func TestTimeLimit(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	words := []string{"(", "[", "{", "func", "if", "x", "<-", "chan", "switch", "case", "`", "1", "*", "interface"}
	var b strings.Builder
	for range 4 << 20 {
		b.WriteString(words[random.IntN(len(words)-4)])
		b.WriteByte(' ')
	}
	_, err := goGrammar.Parse(context.Background(), []byte(b.String()))
	assert.ErrorIs(t, err, syntax.ErrTime)
}

func TestDeepNesting(t *testing.T) {
	tree, err := goGrammar.Parse(context.Background(), []byte("package a\nvar x = "+strings.Repeat("(", 100_000)+"1"+strings.Repeat(")", 100_000)))
	if err != nil {
		assert.ErrorIs(t, err, syntax.ErrTime)
		return
	}
	assert.Greater(t, len(tree.Nodes), 100_000)
	tree.Close()
}

// writable is how much memory this process may write to, in bytes.
func writable(t *testing.T) int {
	t.Helper()
	status, err := os.ReadFile("/proc/self/status")
	require.NoError(t, err)
	var kilobytes int
	_, rest, _ := strings.Cut(string(status), "VmData:")
	_, err = fmt.Sscan(rest, &kilobytes)
	require.NoError(t, err)
	return kilobytes << 10
}

func TestMemoryOfALargeTextIsGivenBack(t *testing.T) {
	tree, err := goGrammar.Parse(context.Background(), []byte(program))
	require.NoError(t, err)
	tree.Close()
	before := writable(t)
	text := []byte("package a\n" + strings.Repeat("func f() { g(1, 2, 3) }\n", 60_000))
	tree, err = goGrammar.Parse(context.Background(), text)
	require.NoError(t, err)
	assert.Greater(t, writable(t)-before, 100<<20)
	tree.Close()
	assert.Less(t, writable(t)-before, 80<<20)
}

func BenchmarkParse(b *testing.B) {
	text := []byte(program)
	text = append(text, bytes.Repeat([]byte("func f(a int) (int, error) {\n\tif a > 3 {\n\t\treturn g(\"x\", a), nil\n\t}\n\treturn 0, nil\n}\n"), 2000)...)
	for name, walk := range map[string]bool{"bare": false, "walked": true} {
		b.Run(name, func(b *testing.B) {
			b.SetBytes(int64(len(text)))
			for b.Loop() {
				if !walk {
					_ = goGrammar.Bare(text)
					continue
				}
				tree, _ := goGrammar.Parse(context.Background(), text)
				tree.Close()
			}
		})
	}
}
