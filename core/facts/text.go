package facts

import (
	"bytes"

	"golang.org/x/text/encoding/unicode"
)

// Text is a blob's content as UTF-8, with the name of the encoding that it had
// ("" where it was taken as it is). UTF-16 is known by its byte order mark;
// half a character at the end, and surrogates without their other half, become
// U+FFFD.
func Text(content []byte) ([]byte, string) {
	if !bytes.HasPrefix(content, []byte{0xff, 0xfe}) && !bytes.HasPrefix(content, []byte{0xfe, 0xff}) {
		return content, ""
	}
	out, err := unicode.UTF16(unicode.BigEndian, unicode.ExpectBOM).NewDecoder().Bytes(content)
	if err != nil {
		return content, ""
	}
	return out, "UTF-16"
}
