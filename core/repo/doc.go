// Package repo reads a Git repository through git's own plumbing commands.
//
// Every git process runs with a closed environment: no system or user
// configuration, no hooks, no replacement objects, no prompts, no transports.
// A repository that is read here is always a bare mirror made by package
// intake, never the foreign repository itself.
package repo
