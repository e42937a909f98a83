// Package attach tells what a file is that somebody hands in, by its bytes and
// never by its name, and draws pictures anew, so that nothing of the file that
// came is shown in a page but its points.
package attach
