// Package follow finds out what became of what people point at (lines, symbols,
// whole files, folders) at another commit of a repository: it is as it was, moved,
// changed or gone. Lines are followed along the history that leads there, as package
// place does it; a symbol first by its name; where no history leads there, what was
// quoted is looked for.
package follow
