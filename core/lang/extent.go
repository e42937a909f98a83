package lang

import (
	"bytes"

	"juxtagram/core/syntax"
)

// Line is the line a node begins on, from 1; 0 for no node.
func (w *Walk) Line(n uint32) int {
	if n == syntax.None {
		return 0
	}
	node := &w.Nodes[n]
	return int(node.Row) + 1 + bytes.Count(w.Text[node.Start:w.first(node)], newline)
}

// first is a node's first byte that is no space: some grammars count the space
// before a token as its own.
func (w *Walk) first(n *syntax.Node) uint32 {
	at := n.Start
	for at < n.End && (w.Text[at] == '\n' || w.Text[at] == ' ' || w.Text[at] == '\t' || w.Text[at] == '\r') {
		at++
	}
	if at == n.End {
		return n.Start
	}
	return at
}

// lastLine is the line a node's last byte stands on, from 1. Comments behind it are
// left out, which a grammar of indented blocks may take into them.
func (w *Walk) lastLine(n uint32) int {
	node := &w.Nodes[n]
	text := w.Text[node.Start:node.End]
	trimmed := bytes.TrimRight(text, space)
	for k := node.Next - 1; k > n && w.isComment(k) && w.Nodes[k].End == node.Start+uint32(len(trimmed)); k-- {
		trimmed = bytes.TrimRight(trimmed[:w.Nodes[k].Start-node.Start], space)
	}
	if len(trimmed) == 0 {
		return int(node.Row) + 1
	}
	return int(node.EndRow) + 1 - bytes.Count(text[len(trimmed):], newline)
}

// isComment tells a comment's node.
func (w *Walk) isComment(n uint32) bool {
	symbol := w.Nodes[n].Symbol
	return int(symbol) < len(w.table.actions) && w.table.actions[symbol].comment
}

const space = " \t\r\n\f\v"

var newline = []byte{'\n'}
