package facts

import (
	"encoding/binary"
	"slices"
	"unicode"
	"unicode/utf8"
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
	return fold(NameHash(word))
}

func fold(hash uint64) uint32 { return uint32(hash>>32) ^ uint32(hash) }

// subwordHashes appends the hashes of a name's subwords. Names of plain letters,
// which most are, cost no memory.
func subwordHashes(name string, hashes []uint32) []uint32 {
	plain := true
	for i := 0; i < len(name) && plain; i++ {
		plain = name[i] < utf8.RuneSelf
	}
	if !plain {
		for _, s := range Subwords(name) {
			hashes = append(hashes, SubwordHash(s))
		}
		return hashes
	}
	upper := func(i int) bool { return name[i] >= 'A' && name[i] <= 'Z' }
	lower := func(i int) bool { return name[i] >= 'a' && name[i] <= 'z' }
	length, hash := 0, uint64(firstHash)
	flush := func() {
		if length >= leastSubword {
			hashes = append(hashes, fold(hash))
		}
		length, hash = 0, firstHash
	}
	for i := range len(name) {
		c := name[i]
		switch {
		case upper(i):
			if length > 0 && (!upper(i-1) || i+1 < len(name) && lower(i+1)) {
				flush()
			}
			c |= 0x20
		case !lower(i):
			flush()
			continue
		}
		length, hash = length+1, nextHash(hash, c)
	}
	flush()
	return hashes
}

// vocabulary packs the subwords of some names, each once: 32-bit hashes in
// order, little endian.
func vocabulary(words []string) []byte {
	hashes := make([]uint32, 0, 2*len(words))
	for _, w := range words {
		hashes = subwordHashes(w, hashes)
	}
	slices.Sort(hashes)
	hashes = slices.Compact(hashes)
	return numbers(hashes)
}

// EachSubword calls each with the hash of every word that the file's names are
// made of, each once.
func (m *Matter) EachSubword(each func(hash uint32)) {
	for at := 0; at+4 <= len(m.Vocabulary); at += 4 {
		each(binary.LittleEndian.Uint32(m.Vocabulary[at:]))
	}
}
