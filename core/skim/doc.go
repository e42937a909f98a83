// Package skim shows a file within a number of lines.
//
// The lines of a file are cut into a tree of regions: import block, headers,
// comment blocks, symbols with the comments above them, blocks in bodies, runs
// of statements between blank lines, runs of fields. A region that is folded
// away shows one telling line. Where the survey knows the file's outline, the
// tree follows it; inside of bodies, and in files that are only lexed, it
// follows indentation and blank lines.
//
// Every region has a worth, and the worth decides in which order regions open;
// a budget of lines opens the longest run of that order that fits. So a larger
// budget shows whatever a smaller one showed, and what is missing to the budget
// is less than what the next region would add.
//
// The worth of a symbol is a logistic function of the features in Features,
// each 0..1, by the weights told there:
//
//	worth = 1 / (1 + exp(-(bias + Σ weight·feature)))
//
// How surprising words are is their mean information against the repository:
// a word in n of N files carries log2(N/n) bits (K. Spärck Jones, "A statistical
// interpretation of term specificity and its application in retrieval",
// Journal of Documentation 28(1), 1972, pp. 11-21), told as a share of log2(N).
// What stands inside of a symbol is worth at most as much as the symbol, by
// what its own words, tags and age say.
package skim
