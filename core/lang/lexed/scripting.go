package lexed

import "juxtagram/core/lang"

// Scripting languages.
var scripting = map[string]*lang.LineRules{
	"Perl": {
		Rules: []lang.LineRule{
			lang.Line(lang.Package, lang.Public, `^\s*package\s+(?P<name>[\w:]+)\s*\{`),
			headingOf(1, lang.Package, `^package\s+(?P<name>[\w:]+)\s*(?:v?[\d.]+\s*)?;`),
			lang.Line(lang.Function, lang.Private, `^\s*sub\s+(?P<name>_\w+)`),
			lang.Line(lang.Function, lang.Public, `^\s*sub\s+(?:(?P<owner>[\w:]+)::)?(?P<name>\w+)`),
			leaf(lang.Constant, `^\s*use\s+constant\s+(?P<name>[A-Z_]\w*)`),
			leaf(lang.Variable, `^our\s+[$@%](?P<name>\w+)`),
		},
		Imports:   imports(`^\s*(?:use|require)\s+([A-Z][\w:]*|"[^"]+"|\'[^\']+\')`),
		Separator: "::",
	},
	"PowerShell": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, lang.Public, `(?i)^\s*(?:function|filter|workflow)\s+(?:\w+:)?(?P<name>[\w-]+)`),
			lang.Line(lang.Class, lang.Public, `(?i)^\s*class\s+(?P<name>\w+)`),
			lang.Line(lang.Enum, lang.Public, `(?i)^\s*enum\s+(?P<name>\w+)`),
			leaf(lang.Variable, `^\$(?:script:|global:)?(?P<name>\w+)\s*=`),
		},
		Imports: imports(`(?i)^\s*(?:Import-Module|using\s+module)\s+(\S+)`, `^\s*\.\s+(\S+\.ps1)`),
	},
	"Awk": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*func(?:tion)?\s+(?P<name>\w+)`),
		},
	},
	"Fish": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*function\s+(?P<name>[\w.-]+)`),
			leaf(lang.Variable, `^set\s+(?:-\w+\s+)*(?P<name>\w+)`),
		},
		Imports: imports(`^\s*source\s+(\S+)`),
	},
	"Z shell": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*(?:function\s+)?(?P<name>[\w.:-]+)\s*\(\)`),
			lang.Line(lang.Function, "", `^\s*function\s+(?P<name>[\w.:-]+)`),
			leaf(lang.Variable, `^(?:export\s+|typeset\s+(?:-\w+\s+)*)?(?P<name>\w+)=`),
		},
		Imports: imports(`^\s*(?:source|\.)\s+(\S+)`),
	},
	"Tcl": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*proc\s+(?:(?P<owner>[\w:]+)::)?(?P<name>[\w-]+)`),
			lang.Line(lang.Namespace, "", `^\s*namespace\s+eval\s+(?P<name>[\w:]+)`),
			leaf(lang.Variable, `^set\s+(?P<name>\w+)`),
		},
		Imports:   imports(`^\s*(?:source|package\s+require)\s+(\S+)`),
		Separator: "::",
	},
	"Groovy": {
		Rules: []lang.LineRule{
			lang.Line(lang.Class, lang.Public, `^\s*(?:(?:public|private|abstract|final|static)\s+)*class\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, lang.Public, `^\s*(?:interface|trait)\s+(?P<name>\w+)`),
			lang.Line(lang.Function, lang.Public, `^\s*(?:(?:public|private|protected|static|final)\s+)*(?:def|void|[A-Z]\w*)\s+(?P<name>\w+)\s*\([^;]*\{`),
			leaf(lang.Function, `^\s*task\s+(?P<name>\w+)`),
		},
		Imports: imports(`^\s*import\s+(?:static\s+)?([\w.*]+)`),
	},
	"Crystal": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, lang.Public, `^\s*module\s+(?P<name>[\w:]+)`),
			lang.Line(lang.Class, lang.Public, `^\s*(?:abstract\s+)?class\s+(?P<name>[\w:]+)`),
			lang.Line(lang.Struct, lang.Public, `^\s*struct\s+(?P<name>[\w:]+)`),
			lang.Line(lang.Enum, lang.Public, `^\s*enum\s+(?P<name>\w+)`),
			lang.Line(lang.Method, lang.Private, `^\s*(?:private|protected)\s+def\s+(?:self\.)?(?P<name>[\w?!=]+)`),
			lang.Line(lang.Method, lang.Public, `^\s*(?:abstract\s+)?def\s+(?:self\.)?(?P<name>[\w?!=]+)`),
			lang.Line(lang.Macro, lang.Public, `^\s*macro\s+(?P<name>\w+)`),
			leaf(lang.Constant, `^\s*(?P<name>[A-Z][A-Z_0-9]*)\s*=`),
		},
		Imports: imports(`^\s*require\s+("[^"]+")`),
	},
	"Thrift": {
		Rules: []lang.LineRule{
			lang.Line(lang.Struct, "", `^(?:struct|exception|union)\s+(?P<name>\w+)`),
			lang.Line(lang.Enum, "", `^enum\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, "", `^service\s+(?P<name>\w+)`),
			leaf(lang.TypeName, `^typedef\s+\S+\s+(?P<name>\w+)`),
			leaf(lang.Constant, `^const\s+\S+\s+(?P<name>\w+)`),
		},
		Imports: imports(`^include\s+("[^"]+")`),
	},
	"VimL": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*fu(?:nc|nction)?!?\s+(?P<name>[\w:#.]+)`),
			leaf(lang.Function, `^\s*command!?\s+(?:-\S+\s+)*(?P<name>[A-Z]\w*)`),
			leaf(lang.Variable, `^let\s+(?P<name>[gsb]:\w+)`),
		},
		Imports: imports(`^\s*(?:source|runtime)\s+(\S+)`),
	},
	"Matlab": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*function\s+(?:\[?[\w, ]*\]?\s*=\s*)?(?P<name>[\w.]+)`),
			lang.Line(lang.Class, "", `^\s*classdef\s+(?:\([^)]*\)\s*)?(?P<name>\w+)`),
		},
	},
}
