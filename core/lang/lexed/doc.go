// Package lexed holds the token rules that make an outline of languages that
// have no grammar here. A language is a value in one of its files: programs in
// programs.go, documents and settings in documents.go.
package lexed
