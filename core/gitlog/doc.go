// Package gitlog holds all commits of a repository in memory, newest first, and
// answers what people ask of them: a page of the log with its lanes, the commits
// that some terms narrow it to, the branches and tags that contain a commit, how
// far two commits have gone apart, and the story of one file.
//
// The order is that of `git log --date-order`: no commit stands before one of
// its children, and otherwise the later committer date comes first. A commit is
// known by its number in that order, from 0.
package gitlog
