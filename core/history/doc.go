// Package history says what happened to the files of a commit: how often each
// changed, how recently, by whom, and which are hotspots.
//
// Everything is drawn from one newest-first pass over the commits that the
// pin reaches. Merges are left out: what they bring was already changed by the
// commits they join. Files are followed across renames: going back in time, a
// change that renames old to new makes every earlier change of old a change of
// the same file. A file that was deleted and added again under the same path
// keeps what happened to the path before.
//
// Recency is measured at the pin's own committer date, never at the present:
// a change that is h days old weighs 1/2^(h/half-life).
package history
