package plan

import (
	"fmt"
	"strings"
)

// digits of order keys, in byte order.
const digits = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz"

// Between returns a key that sorts after a and before b; "" stands for the
// very beginning and the very end. Keys are fractions written with 62 digits
// and never end in the digit 0, so there is always room.
func Between(a, b string) (string, error) {
	if !validKey(a) || !validKey(b) || (b != "" && a >= b) {
		return "", fmt.Errorf("no order key between %q and %q", a, b)
	}
	var out []byte
	for i := 0; ; i++ {
		low, high := 0, len(digits)
		if i < len(a) {
			low = strings.IndexByte(digits, a[i])
		}
		if b != "" && i < len(b) {
			high = strings.IndexByte(digits, b[i])
		}
		switch {
		case low == high:
			out = append(out, digits[low])
		case high-low > 1:
			return string(append(out, digits[(low+high)/2])), nil
		default: // neighbours: take the lower, and any room behind it
			out = append(out, digits[low])
			b = ""
		}
	}
}

// Keys are order keys for so many things, one after another; all of the same length.
func Keys(n int) []string {
	width := 1
	for room := len(digits); room <= n; room *= len(digits) {
		width++
	}
	out := make([]string, n)
	for i := range out {
		key := make([]byte, width+1)
		key[width] = 'V' // never the digit 0 at the end, and room on both sides
		for k, rest := width-1, i+1; k >= 0; k-- {
			key[k] = digits[rest%len(digits)]
			rest /= len(digits)
		}
		out[i] = string(key)
	}
	return out
}

func validKey(k string) bool {
	if len(k) > 200 || strings.HasSuffix(k, "0") {
		return false
	}
	for i := 0; i < len(k); i++ {
		if strings.IndexByte(digits, k[i]) < 0 {
			return false
		}
	}
	return true
}
