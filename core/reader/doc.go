// Package reader takes the facts of blobs in processes of their own. Grammars
// are C code that reads hostile text: what crashes there, hangs or eats memory
// then costs the one blob that did it, which is listed with the reason.
package reader
