// Package tagged knows the agreed words of tagged comments (TODO, FIXME, a
// team's own) and finds them: in the text of a comment, and on a single line of
// code as far as that line alone can tell that the word stands in a comment.
//
// Words are matched in linear time, whatever a team writes as its pattern: by
// Go's regexp, which follows RE2 (Cox, "Regular Expression Matching in the
// Wild", 2010). Where words overlap, the longest wins.
package tagged
