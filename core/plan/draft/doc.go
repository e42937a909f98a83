// Package draft proposes reading plans from what a survey found: which files to
// read, how much of each, in which order, and why.
//
// Reading minutes. A passage takes a minute to find one's bearings, and its
// lines at a speed that depends on what they are; see Minutes. The speeds are
// assumptions, not measurements: the 25 lines a minute of plain code are what
// somebody reads who wants to know what it does, and are many times what is told
// of inspections for faults (some 130 lines an hour; M. E. Fagan, "Design and code
// inspections to reduce errors in program development", IBM Systems Journal 15(3),
// 1976).
//
// Credit. The lines of a file that a skim shows are its most telling ones, so
// the first tell more than the last. Of n lines shown out of N,
//
//	credit(n, N) = 0.35 · min(1, n/min(40, N)) + 0.65 · (n/N) ^ 0.65
//
// is the share of what the file has to tell that counts as read. The second term
// is fitted to how many of a file's symbols are seen, by how many files name them,
// and how much of the worth of its lines, in skims of four packages; see
// docs/benchmarks.md. The first is a decision: that a reader knows of a file, what
// it is for and what stands in it counts for a third, however long it is.
//
// Choosing. What a reader is to cover has a value: a file's share of the weight
// of all hotspots and of the centrality of the whole, times how much it is of
// interest to the goal; the entry points in it; its folder, where nothing of
// that was chosen yet; less where a twin of it is read already. The value of a
// set is submodular, and it is chosen greedily by gain for a minute, each file
// deepened step by step (S. Khuller, A. Moss, J. Naor, "The budgeted maximum
// coverage problem", Information Processing Letters 70(1), 1999), with gains
// reckoned anew only where they come to the top (M. Minoux, 1978). From outside
// in, a file is taken together with those that lead to it from an entry point.
//
// Order. From inside out, what is leaned on comes before what leans on it; from
// outside in, every file comes after one that leads to it. Among all orders that
// keep to that, one is sought in which as few files as possible follow one that
// is neither in the same folder nor linked with them.
package draft
