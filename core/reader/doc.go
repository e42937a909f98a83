// Package reader takes the facts of blobs in processes of their own. Grammars
// are C code that reads hostile text: what crashes there, hangs or eats memory
// then costs the one blob that did it, which is listed with the reason.
//
// The processes are this program itself, started again: a program that wants
// them calls Main first thing. Where it did not, blobs are read in-process.
package reader
