package lexed

import (
	"regexp"

	"juxtagram/core/lang"
)

func heading(level int, pattern string) lang.LineRule {
	return lang.LineRule{Pattern: regexp.MustCompile(pattern), Kind: lang.Section, Level: level, Raw: true}
}

func underlined(level int, under string) lang.LineRule {
	return lang.LineRule{
		Pattern: regexp.MustCompile(`^(?P<name>\S.*?)\s*$`), Under: regexp.MustCompile(under), Kind: lang.Section, Level: level, Raw: true,
	}
}

func leaf(kind lang.Kind, pattern string) lang.LineRule {
	return lang.LineRule{Pattern: regexp.MustCompile(pattern), Kind: kind, Leaf: true}
}

// Documents are the token rules of documents and settings, by language.
var Documents = map[string]*lang.LineRules{
	"Markdown": {Prose: true, Rules: []lang.LineRule{
		heading(1, `^#\s+(?P<name>.+?)\s*#*\s*$`),
		heading(2, `^##\s+(?P<name>.+?)\s*#*\s*$`),
		heading(3, `^###\s+(?P<name>.+?)\s*#*\s*$`),
		heading(4, `^####\s+(?P<name>.+?)\s*#*\s*$`),
		heading(5, `^#####\s+(?P<name>.+?)\s*#*\s*$`),
		heading(6, `^######\s+(?P<name>.+?)\s*#*\s*$`),
		underlined(1, `^={3,}\s*$`),
	}},
	"reStructuredText": {Prose: true, Rules: []lang.LineRule{
		underlined(1, `^={3,}\s*$`),
		underlined(2, `^-{3,}\s*$`),
		underlined(3, `^~{3,}\s*$`),
		underlined(4, `^\^{3,}\s*$`),
	}},
	"AsciiDoc": {Prose: true, Rules: []lang.LineRule{
		heading(1, `^=\s+(?P<name>.+?)\s*$`),
		heading(2, `^==\s+(?P<name>.+?)\s*$`),
		heading(3, `^===\s+(?P<name>.+?)\s*$`),
		heading(4, `^====\s+(?P<name>.+?)\s*$`),
	}},
	"INI":  {Prose: true, Rules: []lang.LineRule{{Pattern: regexp.MustCompile(`^\[(?P<name>[^\]]+)\]`), Kind: lang.Section, Level: 1}, leaf(lang.Key, `^(?P<name>[\w.-]+)\s*[=:]`)}},
	"YAML": {Prose: true, Rules: []lang.LineRule{lang.Line(lang.Key, "", `^(?P<name>[\w./"'-]+):(?:\s|$)`), {Pattern: regexp.MustCompile(`^  (?P<name>[\w./"'-]+):(?:\s|$)`), Kind: lang.Key, Inside: []lang.Kind{lang.Key}, Leaf: true}}},
	"JSON": {Prose: true, Rules: []lang.LineRule{{Pattern: regexp.MustCompile(`^(?:  |    |\t)"(?P<name>[^"]+)"\s*:`), Kind: lang.Key, Raw: true}}},
	"Make": {
		Rules: []lang.LineRule{
			leaf(lang.Variable, `^(?:export\s+|override\s+)*(?P<name>[\w.-]+)\s*(?:[:?+!]|::)?=`),
			lang.Line(lang.Function, "", `^(?P<name>[^\s:#=.][^:#=]*?)\s*::?(?:[^=]|$)`),
			lang.Line(lang.Macro, "", `^define\s+(?P<name>[\w.-]+)`),
		},
		Imports: []*regexp.Regexp{regexp.MustCompile(`^-?s?include\s+(\S+)`)},
	},
	"Container file": {
		Rules:   []lang.LineRule{{Pattern: regexp.MustCompile(`(?i)^FROM\s+\S+\s+AS\s+(?P<name>\S+)`), Kind: lang.Section, Level: 1}, leaf(lang.Variable, `(?i)^(?:ARG|ENV)\s+(?P<name>\w+)`)},
		Imports: []*regexp.Regexp{regexp.MustCompile(`(?i)^FROM\s+(?:--\S+\s+)*(\S+)`)},
	},
	"CMake": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `(?i)^\s*function\s*\(\s*(?P<name>[\w.-]+)`),
			lang.Line(lang.Macro, "", `(?i)^\s*macro\s*\(\s*(?P<name>[\w.-]+)`),
			leaf(lang.Module, `(?i)^\s*(?:add_executable|add_library|add_custom_target|project)\s*\(\s*(?P<name>[\w.:+-]+)`),
			leaf(lang.Variable, `(?i)^\s*(?:set|option)\s*\(\s*(?P<name>\w+)`),
		},
		Imports: []*regexp.Regexp{regexp.MustCompile(`(?i)^\s*(?:include|add_subdirectory|find_package)\s*\(\s*([^\s)]+)`)},
	},
	"GraphQL": {Rules: []lang.LineRule{
		lang.Line(lang.Class, "", `^(?:extend\s+)?(?:type|input)\s+(?P<name>\w+)`), lang.Line(lang.Interface, "", `^interface\s+(?P<name>\w+)`),
		lang.Line(lang.Enum, "", `^enum\s+(?P<name>\w+)`), leaf(lang.TypeName, `^(?:scalar|union)\s+(?P<name>\w+)`),
		lang.Line(lang.Function, "", `^(?:query|mutation|subscription|fragment)\s+(?P<name>\w+)`),
		{Pattern: regexp.MustCompile(`^\s+(?P<name>\w+)\s*(?:\([^)]*\))?\s*:\s*(?P<type>[\w\[\]!]+)`), Kind: lang.Field, Leaf: true, Inside: []lang.Kind{lang.Class, lang.Interface}},
		{Pattern: regexp.MustCompile(`^\s+(?P<name>[A-Z_0-9]+)\s*$`), Kind: lang.EnumMember, Leaf: true, Inside: []lang.Kind{lang.Enum}},
	}},
	"SQL": {Until: ";", QuotedNames: true, Rules: []lang.LineRule{
		lang.Line(lang.Class, "", `(?i)^\s*create\s+(?:or\s+replace\s+)?(?:global\s+|local\s+)?(?:temporary\s+|temp\s+|unlogged\s+|external\s+|foreign\s+)?table\s+(?:if\s+not\s+exists\s+)?(?P<name>[\w."\x60\[\]]+)`),
		lang.Line(lang.Interface, "", `(?i)^\s*create\s+(?:or\s+replace\s+)?(?:temporary\s+|temp\s+|recursive\s+|materialized\s+)*view\s+(?:if\s+not\s+exists\s+)?(?P<name>[\w."\x60\[\]]+)`),
		lang.Line(lang.Function, "", `(?i)^\s*create\s+(?:or\s+replace\s+|or\s+alter\s+)?(?:definer\s*=\s*\S+\s+)?(?:aggregate\s+)?(?:function|procedure|proc)\s+(?:if\s+not\s+exists\s+)?(?P<name>[\w."\x60\[\]]+)`),
		lang.Line(lang.Event, "", `(?i)^\s*create\s+(?:or\s+replace\s+)?(?:constraint\s+)?(?:trigger|rule|event)\s+(?P<name>[\w."\x60\[\]]+)`),
		lang.Line(lang.Key, "", `(?i)^\s*create\s+(?:unique\s+|fulltext\s+|clustered\s+|nonclustered\s+)*index\s+(?:concurrently\s+)?(?:if\s+not\s+exists\s+)?(?P<name>[\w."\x60\[\]]+)`),
		lang.Line(lang.TypeName, "", `(?i)^\s*create\s+(?:type|domain)\s+(?P<name>[\w."\x60\[\]]+)`),
		lang.Line(lang.Namespace, "", `(?i)^\s*create\s+(?:schema|database)\s+(?:if\s+not\s+exists\s+)?(?P<name>[\w."\x60\[\]]+)`),
		lang.Line(lang.Variable, "", `(?i)^\s*create\s+(?:temporary\s+)?(?:sequence|extension|role|user|policy)\s+(?:if\s+not\s+exists\s+)?(?P<name>[\w."\x60\[\]-]+)`),
		{
			Pattern: regexp.MustCompile(`(?i)^\s+(?P<name>[a-z_"\x60\[][\w"\x60\]]*)\s+(?P<type>(?:big|small|tiny|medium)?(?:int|serial)(?:eger|[248])?|text|(?:n?var)?char(?:acter)?(?:\s+varying)?|bool(?:ean)?|date(?:time)?2?|time(?:stamp)?(?:tz)?|numeric|decimal|real|double(?:\s+precision)?|float[48]?|json[b]?|uuid|bytea|blob|money|inet|bit|xml|interval)\b`),
			Kind:    lang.Field, Leaf: true, Inside: []lang.Kind{lang.Class},
		},
	}},
}
