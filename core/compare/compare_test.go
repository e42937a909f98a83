package compare_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/compare"
	"juxtagram/core/lang"
)

func TestSymbolsThatCameWentOrChanged(t *testing.T) {
	s := func(kind lang.Kind, name, signature string) lang.Symbol {
		return lang.Symbol{Kind: kind, Name: name, Qualified: name, Signature: signature}
	}
	old := []lang.Symbol{s(lang.Function, "a", "a()"), s(lang.Function, "b", "b(int)"), s(lang.Function, "twice", "twice(int)"), s(lang.Function, "twice", "twice(text)"), s(lang.Class, "c", "class c")}
	new := []lang.Symbol{s(lang.Function, "b", "b(int, int)"), s(lang.Function, "twice", "twice(int)"), s(lang.Function, "d", "d()"), s(lang.Function, "c", "c()"), s(lang.Function, "a", "a()")}
	assert.Equal(t, []compare.Change{{Old: 1, New: 0}, {Old: -1, New: 2}, {Old: -1, New: 3}, {Old: 3, New: -1}, {Old: 4, New: -1}}, compare.Symbols(old, new))
	assert.Empty(t, compare.Symbols(old, old))
	assert.Empty(t, compare.Symbols(nil, nil))
	public := []lang.Symbol{{Kind: lang.Function, Name: "a", Qualified: "a", Signature: "a()", Visibility: lang.Public}}
	assert.Equal(t, []compare.Change{{Old: 0, New: 0}}, compare.Symbols(old[:1], public), "its visibility alone")
}

func TestStartsThatCameOrWent(t *testing.T) {
	came, went := compare.Starts([]lang.Start{{Kind: "program", Name: "main", Line: 3}, {Kind: "route", Name: "/old"}}, []lang.Start{{Kind: "program", Name: "main", Line: 9}, {Kind: "route", Name: "/new"}})
	assert.Equal(t, []lang.Start{{Kind: "route", Name: "/new"}}, came)
	assert.Equal(t, []lang.Start{{Kind: "route", Name: "/old"}}, went)
}
