// Package page writes a plan as one HTML page that holds all it shows: the plan, and
// the code that its passages have one read, as it is at their commits. The page runs no
// script and loads nothing, so it opens from a folder, on a phone and on paper; what a
// plan or a repository holds is shown and does nothing.
//
// What is cut short, and what could not be shown, is said where it is missing.
package page
