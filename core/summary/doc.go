// Package summary says in a few sentences what a colleague would say of a file
// or folder. Every sentence rests on facts and names the lines they stand on;
// where there is no fact, there is no sentence.
package summary
