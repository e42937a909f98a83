package lang

// Intricacy grows with branching and nesting. Each decision (if, loop, catch,
// conditional expression) costs 1 and one more for each decision it stands in;
// each case of a switch, and each "and" and "or", costs 1. A function inside a
// function counts as one level. A file's intricacy is the sum over its text; a
// callable's that of its own.
//
// Counting decisions is T. J. McCabe's measure ("A Complexity Measure", IEEE
// Transactions on Software Engineering SE-2(4), 1976, pp. 308-320); weighing
// them by their depth follows W. A. Harrison and K. I. Magel ("A Complexity
// Measure Based on Nesting Level", ACM SIGPLAN Notices 16(3), 1981, pp. 63-74).

// Decides counts a node as a decision, where its type alone does not tell.
func (w *Walk) Decides(n uint32, d Decision) { w.decide(n, d) }

func (w *Walk) decide(n uint32, d Decision) {
	level := 0
	if k := len(w.depths); k > 0 {
		level = w.depths[k-1].level
	}
	if d == Branch && w.isElse(n) {
		d = Chained
	}
	cost, inside := 0, level
	switch d {
	case Branch:
		cost, inside = 1+level, level+1
	case Chained:
		cost = max(level, 1)
	case Arm:
		cost = 1
	case Deeper:
		inside = level + 1
	}
	if inside > level {
		w.depths = append(w.depths, depth{w.Nodes[n].Next, inside})
	}
	w.out.Intricacy += cost
	for k := len(w.scopes) - 1; k >= 0; k-- {
		if s := w.scopes[k]; s.kind.callable() && s.symbol >= 0 {
			w.out.Outline[s.symbol].Intricacy += cost
			break
		}
	}
}

// isElse tells whether an "if" is the "else if" of the one around it.
func (w *Walk) isElse(n uint32) bool {
	p := w.Nodes[n].Parent
	if int(p) >= len(w.Nodes) {
		return false
	}
	if w.Type(p) == "else_clause" {
		return true
	}
	return w.Nodes[p].Symbol == w.Nodes[n].Symbol && w.Nodes[n].Field != 0 && w.Nodes[n].Field == w.Grammar.Field("alternative")
}
