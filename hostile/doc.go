// Package hostile holds the program to a set of odd and hostile repositories, archives
// and bundles: each has one answer, which is a refusal in known words or a survey with
// its limits shown, within bounded time and memory. docs/security.md says what is
// promised.
package hostile
