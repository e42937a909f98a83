package facts

import (
	"bytes"
	"regexp"
	"strings"

	"juxtagram/core/lang"
)

// settingsLanguages are those whose texts give names their values.
var settingsLanguages = map[string]bool{
	"YAML": true, "JSON": true, "TOML": true, "INI": true, "Container file": true, "Shell": true, "Make": true,
}

// setting is a line that gives a name its value, as configurations write it:
// key = value, "key": value, key: value; before it may stand what some formats
// put there.
var setting = regexp.MustCompile(`^\s*(?:-\s+|export\s+|ENV\s+|ARG\s+|Environment=|set\s+)?["']?([A-Za-z_][\w.-]*)["']?\s*(?::=|\?=|=|:)\s*["']?(.+?)["']?,?\s*$`)

// maxSettings bounds what one text contributes; maxSettingsSize is how large it
// may be, in bytes.
const (
	maxSettings     = 1000
	maxSettingsSize = 128 << 10
)

// settings are the values that a configuration gives to names.
func settings(l *lang.Language, content []byte) []lang.Value {
	if l == nil || !settingsLanguages[l.Name] || len(content) > maxSettingsSize {
		return nil
	}
	var out []lang.Value
	n := 0
	for line := range bytes.Lines(content) {
		n++
		if len(line) > 400 || bytes.IndexByte(line, '=') < 0 && bytes.IndexByte(line, ':') < 0 {
			continue
		}
		m := setting.FindSubmatch(bytes.TrimRight(line, "\r\n"))
		if m == nil || len(out) == maxSettings {
			continue
		}
		if value := string(m[2]); !strings.ContainsAny(value[:1], "{[|>&*") {
			out = append(out, lang.Value{Name: string(m[1]), Line: n, Symbol: -1, Text: lang.ValidText([]byte(value)), Call: -1})
		}
	}
	return out
}
