// Package sandbox does work on hostile text in child processes with limits on
// memory and time. A child that hangs, crashes or takes too much is ended, and
// costs the one piece of work that did it.
//
// The children are this program itself, started again: a program that wants
// them calls Main first thing in main, with all kinds of children it has. In a
// program that did not, as in most tests, the work is done in-process and the
// time is not limited.
package sandbox
