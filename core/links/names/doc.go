// Package names answers where a name is defined and where it is used, over the
// files of one survey. Nothing of an answer is kept: it is worked out when
// asked, from each file's own facts, the origins of its imports, and terms that
// tell which files hold a name at all.
//
// How sure an answer is, is part of it. What a language decides only when the
// program runs cannot be known here, and is told as a name alone.
package names
