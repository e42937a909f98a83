// Package lang tells in which language a file is written, and finds in its
// text what only the language can tell: which bytes are comments, and which
// places the language itself marks as a start.
//
// A language is a value (Language) in a folder of its own below this one;
// package all lists them. A language with a grammar is parsed; one without is
// lexed by a lexer library, which tells comments and strings apart. The
// parser's runtime is used in parse.go alone, so that it can be exchanged.
package lang
