// Package links holds what files say to each other: where each import comes
// from, the graph of files that follows, and what that graph tells.
package links
