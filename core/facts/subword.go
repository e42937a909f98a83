package facts

import (
	"encoding/binary"
	"slices"
	"unicode"
)

// leastSubword is how long a subword is at least, in characters.
const leastSubword = 2

// Subwords are the words that a name is made of, in lower case and in order:
// "readBlock2" and "READ_BLOCK" both give "read" and "block". Digits and single
// letters are none.
func Subwords(name string) []string {
	var out []string
	var word []rune
	flush := func() {
		if len(word) >= leastSubword {
			out = append(out, string(word))
		}
		word = word[:0]
	}
	runes := []rune(name)
	for i, r := range runes {
		switch {
		case !unicode.IsLetter(r):
			flush()
			continue
		case unicode.IsUpper(r) && len(word) > 0:
			// "readBlock" breaks before B, "HTTPServer" before S
			if !unicode.IsUpper(runes[i-1]) || i+1 < len(runes) && unicode.IsLower(runes[i+1]) {
				flush()
			}
		}
		word = append(word, unicode.ToLower(r))
	}
	flush()
	return out
}

// SubwordHash is the number by which subwords are known.
func SubwordHash(word string) uint32 {
	h := NameHash(word)
	return uint32(h>>32) ^ uint32(h)
}

// vocabulary packs the subwords of some names, each once: 32-bit hashes in
// order, little endian.
func vocabulary(words []string) []byte {
	hashes := make([]uint32, 0, 2*len(words))
	for _, w := range words {
		for _, s := range Subwords(w) {
			hashes = append(hashes, SubwordHash(s))
		}
	}
	slices.Sort(hashes)
	hashes = slices.Compact(hashes)
	out := make([]byte, 0, 4*len(hashes))
	for _, h := range hashes {
		out = binary.LittleEndian.AppendUint32(out, h)
	}
	return out
}

// EachSubword calls each with the hash of every word that the file's names are
// made of, each once.
func (m *Matter) EachSubword(each func(hash uint32)) {
	for at := 0; at+4 <= len(m.Vocabulary); at += 4 {
		each(binary.LittleEndian.Uint32(m.Vocabulary[at:]))
	}
}
