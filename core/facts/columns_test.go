package facts

import (
	"math/rand"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
)

func TestColumnsComeBack(t *testing.T) {
	outline := []lang.Symbol{
		{Name: "caf\xe9", Qualified: "a.caf\xe9", Kind: lang.Method, Visibility: lang.Private, Static: true, Signature: "f(…)", Type: "int", Doc: "Says.", Start: 3, End: 900, NameLine: 4, Parent: -1, Intricacy: 7, Supers: []string{"", "B"}, Forwards: "g"},
		{},
		{Name: "x", Start: 1, End: 1, NameLine: 1, Parent: 0},
	}
	symbols, err := unpackSymbols(packSymbols(outline))
	require.NoError(t, err)
	assert.Equal(t, outline, symbols)

	imports := []lang.Import{{Text: "./units", Line: 5, EndLine: 8, Reexport: true, Names: []lang.Imported{{Name: "a", As: "b"}, {Name: "*"}}}, {Text: "fmt", Line: 1, EndLine: 1}}
	gotImports, err := unpackImports(packImports(imports))
	require.NoError(t, err)
	assert.Equal(t, imports, gotImports)

	calls := []lang.CallSite{{Callee: "os.Open", Kind: "file-read", Line: 2, Symbol: -1, Target: 0, Args: []lang.Argument{{Text: "a"}, {Name: "b"}, {}}}, {Target: -1}}
	gotCalls, err := unpackCalls(packCalls(calls))
	require.NoError(t, err)
	assert.Equal(t, calls, gotCalls)

	values := []lang.Value{{Name: "a", Line: 9, Symbol: 2, Text: "1", Call: -1}, {Name: "b", Symbol: -1, From: "a", Call: 4}}
	gotValues, err := unpackValues(packValues(values))
	require.NoError(t, err)
	assert.Equal(t, values, gotValues)

	regions := []lang.Region{{Kind: lang.FieldGroup, Start: 8, End: 9}, {Kind: lang.ImportBlock, Start: 2, End: 40}}
	gotRegions, err := unpackRegions(packRegions(regions))
	require.NoError(t, err)
	assert.Equal(t, regions, gotRegions)
}

// What is kept may have come to harm: that is told, or read as something else, and
// ends neither in a crash nor in more entries than there are numbers.
func TestBrokenColumns(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	broken := 0
	for range 20_000 {
		c := columns{Numbers: make([]byte, r.Intn(60)), Texts: make([]byte, r.Intn(30))}
		_, _ = r.Read(c.Numbers)
		if r.Intn(2) == 0 { // small numbers, as most are
			for i := range c.Numbers {
				c.Numbers[i] %= 8
			}
		}
		symbols, err := unpackSymbols(c)
		if err != nil {
			broken++
		}
		assert.LessOrEqual(t, len(symbols), len(c.Numbers))
		for _, unpack := range []func() error{
			func() error { _, err := unpackImports(c); return err },
			func() error { _, err := unpackCalls(c); return err },
			func() error { _, err := unpackValues(c); return err },
			func() error { _, err := unpackRegions(c); return err },
			func() error { _, err := unpackSpans(c.Numbers); return err },
		} {
			_ = unpack()
		}
	}
	assert.Greater(t, broken, 10_000)
}

// The quick way of hashing subwords gives what Subwords gives.
func TestSubwordHashesAreThoseOfSubwords(t *testing.T) {
	r := rand.New(rand.NewSource(2))
	letters := []rune("abzABZ09_-$.éÉß世Ⅳ")
	for range 50_000 {
		name := make([]rune, r.Intn(12))
		plain := r.Intn(2) == 0
		for i := range name {
			for name[i] = letters[r.Intn(len(letters))]; plain && name[i] > unicode.MaxASCII; {
				name[i] = letters[r.Intn(len(letters))]
			}
		}
		var want []uint32
		for _, w := range Subwords(string(name)) {
			want = append(want, SubwordHash(w))
		}
		require.Equal(t, want, subwordHashes(string(name), nil), string(name))
	}
}
