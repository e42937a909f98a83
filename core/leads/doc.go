// Package leads turns what the survey found into a list of things worth
// reading, each with its evidence: entry points, hotspots, tagged comments.
//
// A detector is a value in Detectors. A lead's id is a hash of its kind, the
// oldest path its file is known under, the name and the words that make it, and
// its place among equals; no line number goes in, so the id survives edits
// above it and renames of its file.
package leads
