package lang

import (
	"context"
	"fmt"
	"sync"

	sitter "github.com/smacker/go-tree-sitter"
)

// parseLimit is how long one file may be parsed, in microseconds.
const parseLimit = 5_000_000

// machine is a parser with its query, ready for one file at a time.
type machine struct {
	parser *sitter.Parser
	query  *sitter.Query
}

var machines sync.Map // *Language → *sync.Pool of *machine

func machineOf(l *Language) (*machine, *sync.Pool, error) {
	p, _ := machines.LoadOrStore(l, &sync.Pool{})
	pool := p.(*sync.Pool)
	if m, ok := pool.Get().(*machine); ok {
		return m, pool, nil
	}
	grammar := l.Grammar()
	query, err := sitter.NewQuery([]byte(l.Query), grammar)
	if err != nil {
		return nil, nil, fmt.Errorf("the query of %s: %w", l.Name, err)
	}
	parser := sitter.NewParser()
	parser.SetLanguage(grammar)
	parser.SetOperationLimit(parseLimit)
	return &machine{parser: parser, query: query}, pool, nil
}

// captureText is how much of a capture's text is kept.
const captureText = 200

// parse finds the comments of a file, in order, and the query's other captures.
func (l *Language) parse(ctx context.Context, content []byte) (comments []Span, rest []Capture, err error) {
	m, pool, err := machineOf(l)
	if err != nil {
		return nil, nil, err
	}
	tree, err := m.parser.ParseCtx(ctx, nil, content)
	if err != nil {
		m.parser.Reset()
		pool.Put(m)
		return nil, nil, fmt.Errorf("parsing as %s: %w", l.Name, err)
	}
	defer pool.Put(m)
	defer tree.Close()
	cursor := sitter.NewQueryCursor()
	defer cursor.Close()
	cursor.Exec(m.query, tree.RootNode())
	for {
		match, ok := cursor.NextMatch()
		if !ok {
			return comments, rest, nil
		}
		for _, c := range match.Captures {
			span := Span{int(c.Node.StartByte()), int(c.Node.EndByte())}
			name := m.query.CaptureNameForId(c.Index)
			if name == "comment" {
				comments = append(comments, span)
				continue
			}
			rest = append(rest, Capture{
				Name: name, Line: int(c.Node.StartPoint().Row) + 1, Start: span.Start, End: span.End,
				Text: string(content[span.Start:min(span.End, span.Start+captureText)]),
			})
		}
	}
}
