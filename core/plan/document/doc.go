// Package document writes plans as documents, and reads them.
//
// The document (JSON, described by docs/formats/plan.schema.json) holds all of a
// plan: chapters and passages in reading order with their ids, ideas, what was set
// aside, the goal. The same plan gives the same bytes: what is read and written
// again is the same document. A passage is read at a commit, so a plan works
// wherever the repository has that commit.
//
// Markdown is for people: it is read on any Git host, and leads to the code by
// path and lines. It is taken in again, also where people wrote it by hand.
package document
