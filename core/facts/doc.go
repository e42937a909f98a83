// Package facts says what one blob says by itself: how many lines of which
// sort it has, the tagged comments in it, the places its language marks as a
// start, and whether it calls itself generated.
//
// Facts depend on nothing but the bytes, the language and Version. They are
// kept under these three and computed once, however many commits and
// repositories share the blob.
package facts
