package facts

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestSubwords(t *testing.T) {
	for name, want := range map[string][]string{
		"readBlock": {"read", "block"}, "READ_BLOCK_2": {"read", "block"}, "HTTPServer": {"http", "server"}, "x": nil, "": nil, "größeMessen": {"größe", "messen"},
		"parseXML": {"parse", "xml"}, "a1b2": nil, "__init__": {"init"}, "kebab-case": {"kebab", "case"}, "utf8Text": {"utf", "text"},
	} {
		assert.Equal(t, want, Subwords(name), name)
	}
	m := Matter{Vocabulary: vocabulary([]string{"readBlock", "ReadLevel", "block"})}
	var seen []uint32
	m.EachSubword(func(h uint32) { seen = append(seen, h) })
	assert.ElementsMatch(t, []uint32{SubwordHash("read"), SubwordHash("block"), SubwordHash("level")}, seen, "each once")
}
