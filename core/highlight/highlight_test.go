package highlight_test

import (
	"context"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/highlight"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/demo"
)

func TestPiecesCoverEveryLine(t *testing.T) {
	files, err := demo.Files()
	require.NoError(t, err)
	files["odd.go"] = []byte("package a\r\n// \U0001F30A wave \xff\n\nvar s = `a\nb`\n")
	seen := 0
	for name, content := range files {
		lines, err := highlight.Lines(context.Background(), all.Of(name, content), content)
		if err != nil {
			continue
		}
		seen++
		for i, l := range strings.Split(lang.ValidText(content), "\n") {
			sum := 0
			for _, p := range lines[i] {
				assert.Positive(t, p.Length)
				sum += p.Length
			}
			assert.Equal(t, len(utf16.Encode([]rune(strings.TrimSuffix(l, "\r")))), sum, "%s:%d", name, i+1)
		}
	}
	assert.Greater(t, seen, 50)
}

func TestClasses(t *testing.T) {
	lines, err := highlight.Lines(context.Background(), all.ByName("Go"), []byte("func f() int { return 1 } // c\n"))
	require.NoError(t, err)
	var got []string
	at := 0
	text := "func f() int { return 1 } // c"
	for _, p := range lines[0] {
		got = append(got, highlight.Names[p.Class]+":"+strings.TrimSpace(text[at:at+p.Length]))
		at += p.Length
	}
	assert.Contains(t, got, "keyword:func")
	assert.Contains(t, got, "type:int")
	assert.Contains(t, got, "number:1")
	assert.Contains(t, got, "comment:// c")
}

func TestEveryParsedLanguageHasColours(t *testing.T) {
	for _, l := range all.Parsed {
		_, err := highlight.Lines(context.Background(), l, []byte("x\n"))
		assert.NoError(t, err, l.Name)
	}
	_, err := highlight.Lines(context.Background(), nil, []byte("x"))
	assert.ErrorIs(t, err, highlight.ErrNone)
	_, err = highlight.Lines(context.Background(), all.ByName("Go"), make([]byte, highlight.MaxSize+1))
	assert.ErrorContains(t, err, "over 1 MB")
}
