// Package decode reads TOML and YAML that nobody trusts. Nested brackets, anchors
// within anchors and long keys may make their decoders take hours, gigabytes or the
// whole stack: they work in the sandbox, within a budget.
package decode

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/BurntSushi/toml"

	"juxtagram/core/sandbox"
)

// MaxBytes is how large a text may be, and maxDecoded what is decoded from it, as JSON.
const (
	MaxBytes   = 1 << 20
	maxDecoded = 16 << 20
)

var budget = sandbox.Budget{Bytes: MaxBytes, Time: 2 * time.Second}

var (
	tomlTask = sandbox.New("toml", budget, func(in []byte) ([]byte, error) {
		var v map[string]any
		if _, err := toml.Decode(string(in), &v); err != nil {
			var at toml.ParseError
			if errors.As(err, &at) {
				return nil, fmt.Errorf("line %d", at.Position.Line)
			}
			return nil, errors.New("it does not hold together")
		}
		return asJSON(v)
	})
)

func asJSON(v any) ([]byte, error) {
	out, err := json.Marshal(v)
	if err != nil {
		return nil, errors.New("it holds a number that is none")
	}
	return out, tooLarge(out)
}

func tooLarge(out []byte) error {
	if len(out) > maxDecoded {
		return fmt.Errorf("it unfolds to more than %d MB", maxDecoded>>20)
	}
	return nil
}

// TOML decodes a document into v as encoding/json would the same data; times are
// strings. The error's text is for people and holds nothing of the document.
func TOML(ctx context.Context, content []byte, v any) error {
	return into(ctx, tomlTask, "TOML", content, v)
}

func into(ctx context.Context, t *sandbox.Task, format string, content []byte, v any) error {
	out, err := t.Run(ctx, content)
	if err == nil && json.Unmarshal(out, v) != nil {
		err = errors.New("it says something else than such a file does")
	}
	if err != nil && ctx.Err() == nil {
		return fmt.Errorf("not readable as %s: %w", format, err)
	}
	return err
}
