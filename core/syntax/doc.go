// Package syntax parses text by a grammar and hands out the tree as one flat
// array of nodes in preorder. It is the only package that knows the grammar
// library's runtime; everything above works on the array.
//
// One parse is one call into C: parse, then a single walk of the tree that
// writes the nodes down. A limit on time is the parser's own. What the runtime
// needs meanwhile is memory of that text alone, given up as a whole (memory.c).
package syntax
