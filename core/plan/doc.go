// Package plan is the reading plan as a value: chapters and passages in order,
// made by folding operations, one after another.
//
// An operation says what it changes and, for texts, what it expects to find
// (compare and set), so that two people writing at once never overwrite each
// other unseen. Order is kept by fractional keys: moving one passage changes
// that passage alone. Removed parts stay in the state, marked, so that undo can
// bring them back as they were.
package plan
