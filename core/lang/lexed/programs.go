package lexed

import (
	"regexp"

	"juxtagram/core/lang"
)

// leafOf is a rule whose declaration is its line alone.
func leafOf(r lang.LineRule) lang.LineRule {
	r.Leaf = true
	return r
}

// headingOf is a rule whose declaration holds until the next of its level.
func headingOf(level int, kind lang.Kind, pattern string) lang.LineRule {
	return lang.LineRule{Pattern: regexp.MustCompile(pattern), Kind: kind, Level: level, Visibility: lang.Public}
}

func imports(patterns ...string) []*regexp.Regexp {
	var out []*regexp.Regexp
	for _, p := range patterns {
		out = append(out, regexp.MustCompile(p))
	}
	return out
}

// Programs are the token rules of programming languages, by language.
var Programs = map[string]*lang.LineRules{
	"Haskell": {
		Rules: []lang.LineRule{
			leafOf(lang.Line(lang.Module, lang.Public, `^module\s+(?P<name>[\w.]+)`)),
			lang.Line(lang.TypeName, lang.Public, `^(?:data|newtype)\s+(?:instance\s+)?(?:\([^)]*\)\s*=>\s*|\w+(?:\s+\w+)*\s*=>\s*)?(?P<name>[A-Z][\w\']*)`),
			lang.Line(lang.TypeName, lang.Public, `^type\s+(?:family\s+|instance\s+)?(?P<name>[A-Z][\w\']*)`),
			lang.Line(lang.Interface, lang.Public, `^class\s+(?:.*=>\s*)?(?P<name>[A-Z][\w\']*)`),
			lang.Line(lang.Object, lang.Public, `^instance\s+(?:.*=>\s*)?(?P<name>[A-Z].*?)\s*(?:where\s*)?$`),
			leaf(lang.Function, `^(?P<name>[a-z_][\w\']*)\s*(?:,\s*[a-z_][\w\']*\s*)*::\s*(?P<type>.*)`),
			{Pattern: regexp.MustCompile(`^\s+(?P<name>[a-z_][\w']*)\s*::\s*(?P<type>.*)`), Kind: lang.Method, Leaf: true, Inside: []lang.Kind{lang.Interface}},
			{Pattern: regexp.MustCompile(`^\s+[{,]\s*(?P<name>[a-z_][\w']*)\s*::\s*(?P<type>[^,}]*)`), Kind: lang.Field, Leaf: true, Inside: []lang.Kind{lang.TypeName}},
			{Pattern: regexp.MustCompile(`^\s+[=|]\s*(?P<name>[A-Z][\w']*)`), Kind: lang.EnumMember, Leaf: true, Inside: []lang.Kind{lang.TypeName}},
		},
		Imports: imports(`^import\s+(?:safe\s+)?(?:qualified\s+)?(?:"[^"]*"\s+)?([\w.]+)`),
	},
	"Visual Basic": {
		Rules: []lang.LineRule{
			lang.Line(lang.Namespace, lang.Public, `(?i)^\s*Namespace\s+(?P<name>[\w.]+)`),
			lang.Line(lang.Class, lang.Private, `(?i)^\s*(?:Private)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Class\s+(?P<name>\w+)`),
			lang.Line(lang.Class, lang.Protected, `(?i)^\s*(?:Protected(?:\s+Friend)?)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Class\s+(?P<name>\w+)`),
			lang.Line(lang.Class, lang.Internal, `(?i)^\s*(?:Friend)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Class\s+(?P<name>\w+)`),
			lang.Line(lang.Class, lang.Public, `(?i)^\s*(?:Public\s+)?(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Class\s+(?P<name>\w+)`),
			lang.Line(lang.Struct, lang.Private, `(?i)^\s*(?:Private)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Structure\s+(?P<name>\w+)`),
			lang.Line(lang.Struct, lang.Protected, `(?i)^\s*(?:Protected(?:\s+Friend)?)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Structure\s+(?P<name>\w+)`),
			lang.Line(lang.Struct, lang.Internal, `(?i)^\s*(?:Friend)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Structure\s+(?P<name>\w+)`),
			lang.Line(lang.Struct, lang.Public, `(?i)^\s*(?:Public\s+)?(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Structure\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, lang.Private, `(?i)^\s*(?:Private)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Interface\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, lang.Protected, `(?i)^\s*(?:Protected(?:\s+Friend)?)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Interface\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, lang.Internal, `(?i)^\s*(?:Friend)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Interface\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, lang.Public, `(?i)^\s*(?:Public\s+)?(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Interface\s+(?P<name>\w+)`),
			lang.Line(lang.Enum, lang.Private, `(?i)^\s*(?:Private)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Enum\s+(?P<name>\w+)`),
			lang.Line(lang.Enum, lang.Protected, `(?i)^\s*(?:Protected(?:\s+Friend)?)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Enum\s+(?P<name>\w+)`),
			lang.Line(lang.Enum, lang.Internal, `(?i)^\s*(?:Friend)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Enum\s+(?P<name>\w+)`),
			lang.Line(lang.Enum, lang.Public, `(?i)^\s*(?:Public\s+)?(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Enum\s+(?P<name>\w+)`),
			lang.Line(lang.Module, lang.Private, `(?i)^\s*(?:Private)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Module\s+(?P<name>\w+)`),
			lang.Line(lang.Module, lang.Protected, `(?i)^\s*(?:Protected(?:\s+Friend)?)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Module\s+(?P<name>\w+)`),
			lang.Line(lang.Module, lang.Internal, `(?i)^\s*(?:Friend)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Module\s+(?P<name>\w+)`),
			lang.Line(lang.Module, lang.Public, `(?i)^\s*(?:Public\s+)?(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Module\s+(?P<name>\w+)`),
			lang.Line(lang.Method, lang.Private, `(?i)^\s*(?:Private)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*(?:Sub|Function)\s+(?P<name>\w+)`),
			lang.Line(lang.Method, lang.Protected, `(?i)^\s*(?:Protected(?:\s+Friend)?)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*(?:Sub|Function)\s+(?P<name>\w+)`),
			lang.Line(lang.Method, lang.Internal, `(?i)^\s*(?:Friend)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*(?:Sub|Function)\s+(?P<name>\w+)`),
			lang.Line(lang.Method, lang.Public, `(?i)^\s*(?:Public\s+)?(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*(?:Sub|Function)\s+(?P<name>\w+)`),
			lang.Line(lang.Property, lang.Private, `(?i)^\s*(?:Private)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Property\s+(?P<name>\w+)`),
			lang.Line(lang.Property, lang.Protected, `(?i)^\s*(?:Protected(?:\s+Friend)?)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Property\s+(?P<name>\w+)`),
			lang.Line(lang.Property, lang.Internal, `(?i)^\s*(?:Friend)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Property\s+(?P<name>\w+)`),
			lang.Line(lang.Property, lang.Public, `(?i)^\s*(?:Public\s+)?(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Property\s+(?P<name>\w+)`),
			lang.Line(lang.Event, lang.Private, `(?i)^\s*(?:Private)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Event\s+(?P<name>\w+)`),
			lang.Line(lang.Event, lang.Protected, `(?i)^\s*(?:Protected(?:\s+Friend)?)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Event\s+(?P<name>\w+)`),
			lang.Line(lang.Event, lang.Internal, `(?i)^\s*(?:Friend)\s+(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Event\s+(?P<name>\w+)`),
			lang.Line(lang.Event, lang.Public, `(?i)^\s*(?:Public\s+)?(?:(?:Partial|MustInherit|NotInheritable|Shadows|Shared|Overrides|Overridable|NotOverridable|MustOverride|Overloads|Async|ReadOnly|WriteOnly|Default|Const|Dim|WithEvents|Iterator)\s+)*Event\s+(?P<name>\w+)`),
			leaf(lang.Field, `(?i)^\s*Public\s+(?:(?:Shared|ReadOnly|Const|Dim|WithEvents)\s+)*(?P<name>\w+)(?:\(\))?\s+As\s+(?:New\s+)?(?P<type>[\w.()]+)`),
			leaf(lang.Field, `(?i)^\s*Private\s+(?:(?:Shared|ReadOnly|Const|Dim|WithEvents)\s+)*(?P<name>\w+)(?:\(\))?\s+As\s+(?:New\s+)?(?P<type>[\w.()]+)`),
			leaf(lang.Field, `(?i)^\s*Protected\s+(?:(?:Shared|ReadOnly|Const|Dim|WithEvents)\s+)*(?P<name>\w+)(?:\(\))?\s+As\s+(?:New\s+)?(?P<type>[\w.()]+)`),
			leaf(lang.Field, `(?i)^\s*Friend\s+(?:(?:Shared|ReadOnly|Const|Dim|WithEvents)\s+)*(?P<name>\w+)(?:\(\))?\s+As\s+(?:New\s+)?(?P<type>[\w.()]+)`),
			leaf(lang.Field, `(?i)^\s*Dim\s+(?:(?:Shared|ReadOnly|Const|Dim|WithEvents)\s+)*(?P<name>\w+)(?:\(\))?\s+As\s+(?:New\s+)?(?P<type>[\w.()]+)`),
			{Pattern: regexp.MustCompile(`^\s+(?P<name>[A-Za-z]\w*)\s*(?:=.*)?$`), Kind: lang.EnumMember, Leaf: true, Inside: []lang.Kind{lang.Enum}},
		},
		Imports: imports(`(?i)^\s*Imports\s+(?:\w+\s*=\s*)?([\w.]+)`),
	},
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
	"Elixir": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, lang.Public, `^\s*defmodule\s+(?P<name>[\w.]+)`),
			lang.Line(lang.Interface, lang.Public, `^\s*defprotocol\s+(?P<name>[\w.]+)`),
			lang.Line(lang.Object, lang.Public, `^\s*defimpl\s+(?P<name>[\w.]+)`),
			lang.Line(lang.Function, lang.Private, `^\s*defp\s+(?P<name>[\w?!]+)`),
			lang.Line(lang.Macro, lang.Private, `^\s*defmacrop\s+(?P<name>[\w?!]+)`),
			lang.Line(lang.Macro, lang.Public, `^\s*(?:defmacro|defguard)\s+(?P<name>[\w?!]+)`),
			lang.Line(lang.Function, lang.Public, `^\s*(?:def|defdelegate)\s+(?P<name>[\w?!]+)`),
			leaf(lang.TypeName, `^\s*@(?:type|opaque|typep)\s+(?P<name>\w+)`),
			leaf(lang.Method, `^\s*@callback\s+(?P<name>\w+)`),
			leaf(lang.Struct, `^\s*(?P<name>defstruct)\b`),
			leaf(lang.Constant, `^\s*@(?P<name>(?:[a-z]\w*))\s+[^@\s]`),
		},
		Imports: imports(`^\s*(?:import|alias|require|use)\s+([A-Z][\w.]*)`),
	},
	"Swift": {
		Rules: []lang.LineRule{
			lang.Line(lang.Class, lang.Private, `^\s*(?:@\w+\s+)*(?:private|fileprivate)(?:\(set\))?\s+(?:final\s+|indirect\s+)*(?:class|actor)\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Class, lang.Internal, `^\s*(?:@\w+\s+)*internal\s+(?:final\s+|indirect\s+)*(?:class|actor)\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Class, lang.Public, `^\s*(?:@\w+\s+)*(?:public|open)\s+(?:final\s+|indirect\s+)*(?:class|actor)\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Class, lang.Internal, `^\s*(?:@\w+\s+)*(?:final\s+|indirect\s+)*(?:class|actor)\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Struct, lang.Private, `^\s*(?:@\w+\s+)*(?:private|fileprivate)(?:\(set\))?\s+(?:final\s+|indirect\s+)*struct\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Struct, lang.Internal, `^\s*(?:@\w+\s+)*internal\s+(?:final\s+|indirect\s+)*struct\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Struct, lang.Public, `^\s*(?:@\w+\s+)*(?:public|open)\s+(?:final\s+|indirect\s+)*struct\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Struct, lang.Internal, `^\s*(?:@\w+\s+)*(?:final\s+|indirect\s+)*struct\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Enum, lang.Private, `^\s*(?:@\w+\s+)*(?:private|fileprivate)(?:\(set\))?\s+(?:final\s+|indirect\s+)*enum\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Enum, lang.Internal, `^\s*(?:@\w+\s+)*internal\s+(?:final\s+|indirect\s+)*enum\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Enum, lang.Public, `^\s*(?:@\w+\s+)*(?:public|open)\s+(?:final\s+|indirect\s+)*enum\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Enum, lang.Internal, `^\s*(?:@\w+\s+)*(?:final\s+|indirect\s+)*enum\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Interface, lang.Private, `^\s*(?:@\w+\s+)*(?:private|fileprivate)(?:\(set\))?\s+(?:final\s+|indirect\s+)*protocol\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Interface, lang.Internal, `^\s*(?:@\w+\s+)*internal\s+(?:final\s+|indirect\s+)*protocol\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Interface, lang.Public, `^\s*(?:@\w+\s+)*(?:public|open)\s+(?:final\s+|indirect\s+)*protocol\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Interface, lang.Internal, `^\s*(?:@\w+\s+)*(?:final\s+|indirect\s+)*protocol\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Object, lang.Private, `^\s*(?:@\w+\s+)*(?:private|fileprivate)(?:\(set\))?\s+(?:final\s+|indirect\s+)*extension\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Object, lang.Internal, `^\s*(?:@\w+\s+)*internal\s+(?:final\s+|indirect\s+)*extension\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Object, lang.Public, `^\s*(?:@\w+\s+)*(?:public|open)\s+(?:final\s+|indirect\s+)*extension\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Object, lang.Internal, `^\s*(?:@\w+\s+)*(?:final\s+|indirect\s+)*extension\s+(?P<name>[A-Z][\w.]*)`),
			lang.Line(lang.Function, lang.Private, `^\s*(?:@\w+(?:\([^)]*\))?\s+)*(?:private|fileprivate)(?:\(set\))?\s+(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*func\s+(?P<name>[\w]+|[-+*/<>=!&|^~%]+)`),
			lang.Line(lang.Function, lang.Internal, `^\s*(?:@\w+(?:\([^)]*\))?\s+)*internal\s+(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*func\s+(?P<name>[\w]+|[-+*/<>=!&|^~%]+)`),
			lang.Line(lang.Function, lang.Public, `^\s*(?:@\w+(?:\([^)]*\))?\s+)*(?:public|open)\s+(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*func\s+(?P<name>[\w]+|[-+*/<>=!&|^~%]+)`),
			lang.Line(lang.Function, lang.Internal, `^\s*(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*func\s+(?P<name>[\w]+|[-+*/<>=!&|^~%]+)`),
			lang.Line(lang.Constructor, lang.Internal, `^\s*(?:(?:public|private|internal|required|convenience|override)\s+)*(?P<name>init)[?!]?\s*[(<]`),
			lang.Line(lang.TypeName, lang.Internal, `^\s*(?:public\s+)?typealias\s+(?P<name>\w+)`),
			lang.Line(lang.Property, lang.Private, `^\s*(?:@\w+(?:\([^)]*\))?\s+)*(?:private|fileprivate)(?:\(set\))?\s+(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*(?:let|var)\s+(?P<name>\w+)(?:\s*:\s*(?P<type>[^={]+))?`),
			lang.Line(lang.Property, lang.Internal, `^\s*(?:@\w+(?:\([^)]*\))?\s+)*internal\s+(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*(?:let|var)\s+(?P<name>\w+)(?:\s*:\s*(?P<type>[^={]+))?`),
			lang.Line(lang.Property, lang.Public, `^\s*(?:@\w+(?:\([^)]*\))?\s+)*(?:public|open)\s+(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*(?:let|var)\s+(?P<name>\w+)(?:\s*:\s*(?P<type>[^={]+))?`),
			lang.Line(lang.Property, lang.Internal, `^\s*(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*(?:(?:static|class|final|override|mutating|nonmutating|lazy|weak|unowned|indirect|required|convenience|dynamic|async|nonisolated|@\w+(?:\([^)]*\))?)\s+)*(?:let|var)\s+(?P<name>\w+)(?:\s*:\s*(?P<type>[^={]+))?`),
			{Pattern: regexp.MustCompile(`^\s*case\s+(?P<name>\w+)`), Kind: lang.EnumMember, Leaf: true, Inside: []lang.Kind{lang.Enum}},
		},
		Imports: imports(`^\s*(?:@\w+\s+)?import\s+(?:\w+\s+)?([\w.]+)`),
	},
	"R": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, lang.Public, `^\s*[\x60"]?(?P<name>[\w.]+)[\x60"]?\s*(?:<-|=)\s*function\b`),
			lang.Line(lang.Class, lang.Public, `^\s*(?P<name>\w+)\s*(?:<-|=)\s*(?:R6Class|setRefClass)\b`),
			leaf(lang.Variable, `^(?P<name>[\w.]+)\s*<-`),
		},
		Imports: imports(`^\s*(?:library|require|source)\s*\(\s*([^,)]+)`),
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
	"Objective-C": {
		Rules: []lang.LineRule{
			lang.Line(lang.Class, lang.Public, `^@(?:interface|implementation)\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, lang.Public, `^@protocol\s+(?P<name>\w+)[^;]*$`),
			lang.Line(lang.Method, lang.Public, `^\s*[-+]\s*\([^)]*\)\s*(?P<name>[\w]+(?::)?)`),
			leaf(lang.Property, `^@property\s*(?:\([^)]*\))?.*?(?P<name>\w+)\s*;`),
			leaf(lang.Macro, `^#define\s+(?P<name>\w+)`),
			lang.Line(lang.Function, lang.Public, `^(?:static\s+|extern\s+|inline\s+)*[A-Za-z_][\w \*]*?[ \*](?P<name>\w+)\s*\([^;]*$`),
		},
		Imports: imports(`^#(?:import|include)\s+([<"][^>"]+[>"])`, `^@import\s+([\w.]+)`),
	},
	"Assembly": {
		Rules: []lang.LineRule{
			leaf(lang.Constant, `^\s*(?:\.equ|\.set)\s+(?P<name>\w+)`),
			lang.Line(lang.Function, "", `^(?P<name>[A-Za-z_$][\w$.]*):`),
			leaf(lang.Macro, `^\s*\.?macro\s+(?P<name>\w+)`),
		},
		Imports: imports(`^\s*[.%#]include\s+(\S+)`),
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
	"Erlang": {
		Rules: []lang.LineRule{
			leaf(lang.Module, `^-module\(\s*(?P<name>\w+)`),
			leaf(lang.Struct, `^-record\(\s*(?P<name>\w+)`),
			leaf(lang.TypeName, `^-(?:type|opaque)\s+(?P<name>\w+)`),
			leaf(lang.Macro, `^-define\(\s*(?P<name>\w+)`),
			lang.Line(lang.Function, "", `^(?P<name>[a-z]\w*)\s*\(.*(?:->|,\s*$|\)\s*$|when)`),
		},
		Imports: imports(`^-(?:include|include_lib|import)\(\s*([^,)]+)`),
	},
	"Clojure": {
		Rules: []lang.LineRule{
			leaf(lang.Namespace, `^\(ns\s+(?P<name>[\w.-]+)`),
			lang.Line(lang.Function, lang.Private, `^\s*\(defn-\s+(?:\^\S+\s+)*(?P<name>[^\s()\[\]]+)`),
			lang.Line(lang.Function, lang.Public, `^\s*\((?:defn|defmulti|defmethod)\s+(?:\^\S+\s+)*(?P<name>[^\s()\[\]]+)`),
			lang.Line(lang.Macro, lang.Public, `^\s*\(defmacro\s+(?P<name>[^\s()\[\]]+)`),
			lang.Line(lang.Interface, lang.Public, `^\s*\((?:defprotocol|definterface)\s+(?P<name>[^\s()\[\]]+)`),
			lang.Line(lang.Struct, lang.Public, `^\s*\((?:defrecord|deftype)\s+(?P<name>[^\s()\[\]]+)`),
			lang.Line(lang.Variable, lang.Public, `^\s*\((?:def|defonce)\s+(?:\^\S+\s+)*(?P<name>[^\s()\[\]]+)`),
		},
		Imports: imports(`\(:?(?:require|use)\s+\[?\'?([\w.-]+)`),
	},
	"Common Lisp": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*\((?:defun|defmethod|defgeneric|define-?\w*\s+\()\s*(?P<name>[^\s()]+)`),
			lang.Line(lang.Macro, "", `^\s*\((?:defmacro|define-syntax)\s+\(?(?P<name>[^\s()]+)`),
			lang.Line(lang.Class, "", `^\s*\((?:defclass|defstruct|define-record-type|struct)\s+\(?(?P<name>[^\s()]+)`),
			lang.Line(lang.Variable, "", `^\s*\((?:defvar|defparameter|defconst|defcustom|defconstant|define)\s+(?P<name>[^\s()]+)`),
		},
		Imports: imports(`^\s*\((?:require|load|import)\s+[\'"(]?([^\s()"]+)`),
	},
	"EmacsLisp": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*\((?:defun|defmethod|defgeneric|define-?\w*\s+\()\s*(?P<name>[^\s()]+)`),
			lang.Line(lang.Macro, "", `^\s*\((?:defmacro|define-syntax)\s+\(?(?P<name>[^\s()]+)`),
			lang.Line(lang.Class, "", `^\s*\((?:defclass|defstruct|define-record-type|struct)\s+\(?(?P<name>[^\s()]+)`),
			lang.Line(lang.Variable, "", `^\s*\((?:defvar|defparameter|defconst|defcustom|defconstant|define)\s+(?P<name>[^\s()]+)`),
		},
		Imports: imports(`^\s*\((?:require|load|import)\s+[\'"(]?([^\s()"]+)`),
	},
	"Scheme": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*\((?:defun|defmethod|defgeneric|define-?\w*\s+\()\s*(?P<name>[^\s()]+)`),
			lang.Line(lang.Macro, "", `^\s*\((?:defmacro|define-syntax)\s+\(?(?P<name>[^\s()]+)`),
			lang.Line(lang.Class, "", `^\s*\((?:defclass|defstruct|define-record-type|struct)\s+\(?(?P<name>[^\s()]+)`),
			lang.Line(lang.Variable, "", `^\s*\((?:defvar|defparameter|defconst|defcustom|defconstant|define)\s+(?P<name>[^\s()]+)`),
		},
		Imports: imports(`^\s*\((?:require|load|import)\s+[\'"(]?([^\s()"]+)`),
	},
	"Racket": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*\((?:defun|defmethod|defgeneric|define-?\w*\s+\()\s*(?P<name>[^\s()]+)`),
			lang.Line(lang.Macro, "", `^\s*\((?:defmacro|define-syntax)\s+\(?(?P<name>[^\s()]+)`),
			lang.Line(lang.Class, "", `^\s*\((?:defclass|defstruct|define-record-type|struct)\s+\(?(?P<name>[^\s()]+)`),
			lang.Line(lang.Variable, "", `^\s*\((?:defvar|defparameter|defconst|defcustom|defconstant|define)\s+(?P<name>[^\s()]+)`),
		},
		Imports: imports(`^\s*\((?:require|load|import)\s+[\'"(]?([^\s()"]+)`),
	},
	"OCaml": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, lang.Public, `^\s*module\s+(?:type\s+)?(?P<name>[A-Z]\w*)`),
			lang.Line(lang.TypeName, lang.Public, `^\s*(?:type|and)\s+(?:[\'+\-\w(), ]+\s)?(?P<name>[a-z_]\w*)\s*=`),
			lang.Line(lang.Function, lang.Public, `^(?:let|and)\s+(?:rec\s+)?(?P<name>[a-z_][\w\']*)\s+[^=\s:]`),
			lang.Line(lang.Variable, lang.Public, `^let\s+(?P<name>[a-z_][\w\']*)\s*[:=]`),
			leaf(lang.Function, `^\s*(?:val|external)\s+(?P<name>[a-z_][\w\']*)\s*:\s*(?P<type>.*)`),
		},
		Imports: imports(`^\s*(?:open|include)\s+([A-Z][\w.]*)`),
	},
	"FSharp": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, lang.Public, `^\s*module\s+(?:rec\s+)?(?P<name>[\w.]+)`),
			lang.Line(lang.Namespace, lang.Public, `^\s*namespace\s+(?P<name>[\w.]+)`),
			lang.Line(lang.TypeName, lang.Public, `^\s*(?:type|and)\s+(?P<name>[A-Z]\w*)`),
			lang.Line(lang.Method, lang.Public, `^\s*(?:static\s+|abstract\s+|override\s+|default\s+)*(?:member|override)\s+(?:\w+\.)?(?P<name>\w+)`),
			lang.Line(lang.Function, lang.Public, `^let\s+(?:rec\s+|inline\s+|private\s+)*(?P<name>\w+)\s+[^=:\s]`),
			lang.Line(lang.Variable, lang.Public, `^let\s+(?:mutable\s+|private\s+)*(?P<name>\w+)\s*[:=]`),
		},
		Imports: imports(`^\s*open\s+([\w.]+)`),
	},
	"Julia": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, "", `^\s*module\s+(?P<name>\w+)`),
			lang.Line(lang.Struct, "", `^\s*(?:mutable\s+)?struct\s+(?P<name>\w+)`),
			lang.Line(lang.TypeName, "", `^\s*abstract\s+type\s+(?P<name>\w+)`),
			lang.Line(lang.Macro, "", `^\s*macro\s+(?P<name>\w+)`),
			lang.Line(lang.Function, "", `^\s*function\s+(?:(?P<owner>\w+)\.)?(?P<name>[\w!]+)`),
			leaf(lang.Function, `^(?P<name>[\w!]+)\([^)]*\)\s*(?:where\s+\S+\s*)?=[^=]`),
			leaf(lang.Constant, `^const\s+(?P<name>\w+)`),
		},
		Imports: imports(`^\s*(?:using|import)\s+([\w.]+)`, `^\s*include\(([^)]+)\)`),
	},
	"Dart": {
		Rules: []lang.LineRule{
			lang.Line(lang.Class, lang.Public, `^\s*(?:abstract\s+|sealed\s+|final\s+|base\s+)*class\s+(?P<name>\w+)`),
			lang.Line(lang.Enum, lang.Public, `^\s*enum\s+(?P<name>\w+)`),
			lang.Line(lang.Trait, lang.Public, `^\s*mixin\s+(?P<name>\w+)`),
			lang.Line(lang.Object, lang.Public, `^\s*extension\s+(?P<name>\w+)`),
			leaf(lang.TypeName, `^\s*typedef\s+(?P<name>\w+)`),
			lang.Line(lang.Function, lang.Public, `^(?:\s{2})?(?:static\s+|external\s+|@override\s+)*(?P<type>[A-Za-z_][\w<>?, ]*)\s+(?P<name>[a-z_]\w*)\s*\([^;]*(?:\{|=>)`),
			leaf(lang.Field, `^\s{2}(?:static\s+|late\s+|final\s+|const\s+)+(?P<type>[\w<>?, ]*?)\s*(?P<name>\w+)\s*[=;]`),
		},
		Imports: imports(`^\s*(?:import|export|part)\s+([\'"][^\'"]+[\'"])`),
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
	"ObjectPascal": {
		Rules: []lang.LineRule{
			leaf(lang.Module, `(?i)^\s*(?:unit|program|library)\s+(?P<name>[\w.]+)`),
			lang.Line(lang.Class, lang.Public, `(?i)^\s*(?P<name>\w+)\s*=\s*(?:packed\s+)?(?:class|object)\b[^;]*$`),
			lang.Line(lang.Struct, lang.Public, `(?i)^\s*(?P<name>\w+)\s*=\s*(?:packed\s+)?record\b`),
			lang.Line(lang.Interface, lang.Public, `(?i)^\s*(?P<name>\w+)\s*=\s*interface\b`),
			leaf(lang.Enum, `(?i)^\s*(?P<name>\w+)\s*=\s*\(`),
			lang.Line(lang.Function, lang.Public, `(?i)^\s*(?:class\s+)?(?:function|procedure|operator)\s+(?:(?P<owner>\w+)\.)?(?P<name>\w+)`),
			lang.Line(lang.Constructor, lang.Public, `(?i)^\s*(?:constructor|destructor)\s+(?:(?P<owner>\w+)\.)?(?P<name>\w+)`),
			leaf(lang.Property, `(?i)^\s*property\s+(?P<name>\w+)`),
		},
		Imports: imports(`(?i)^\s*uses\s+([\w.]+)`),
	},
	"Fortran": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, lang.Public, `(?i)^\s*(?:module|program|submodule\s*\([^)]*\))\s+(?P<name>(?:[a-z]\w*))\s*$`),
			lang.Line(lang.Struct, lang.Public, `(?i)^\s*type\s*(?:,[^:]*)?(?:::)?\s*(?P<name>[a-z]\w*)\s*$`),
			lang.Line(lang.Function, lang.Public, `(?i)^\s*(?:(?:pure|elemental|recursive|integer|real|logical|complex|character|double\s+precision|type)(?:\s*\([^)]*\))?\s+)*(?:function|subroutine)\s+(?P<name>[a-z]\w*)`),
			lang.Line(lang.Interface, lang.Public, `(?i)^\s*interface\s+(?P<name>[a-z]\w*)`),
		},
		Imports: imports(`(?i)^\s*use\s*(?:,\s*\w+\s*)?(?:::)?\s*([a-z]\w*)`),
	},
	"FortranFixed": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, lang.Public, `(?i)^\s*(?:module|program|submodule\s*\([^)]*\))\s+(?P<name>(?:[a-z]\w*))\s*$`),
			lang.Line(lang.Struct, lang.Public, `(?i)^\s*type\s*(?:,[^:]*)?(?:::)?\s*(?P<name>[a-z]\w*)\s*$`),
			lang.Line(lang.Function, lang.Public, `(?i)^\s*(?:(?:pure|elemental|recursive|integer|real|logical|complex|character|double\s+precision|type)(?:\s*\([^)]*\))?\s+)*(?:function|subroutine)\s+(?P<name>[a-z]\w*)`),
			lang.Line(lang.Interface, lang.Public, `(?i)^\s*interface\s+(?P<name>[a-z]\w*)`),
		},
		Imports: imports(`(?i)^\s*use\s*(?:,\s*\w+\s*)?(?:::)?\s*([a-z]\w*)`),
	},
	"Ada": {
		Rules: []lang.LineRule{
			lang.Line(lang.Package, lang.Public, `(?i)^\s*package\s+(?:body\s+)?(?P<name>[\w.]+)`),
			lang.Line(lang.Function, lang.Public, `(?i)^\s*(?:overriding\s+)?(?:procedure|function)\s+(?P<name>[\w."+\-*/=<>&]+)`),
			lang.Line(lang.Object, lang.Public, `(?i)^\s*(?:task|protected)\s+(?:type\s+|body\s+)*(?P<name>\w+)`),
			lang.Line(lang.TypeName, lang.Public, `(?i)^\s*(?:sub)?type\s+(?P<name>\w+)`),
			leaf(lang.Variable, `(?i)^\s{3}(?P<name>[a-z]\w*)\s*:\s*(?:constant\s+)?(?P<type>[\w.]+)`),
		},
		Imports: imports(`(?i)^\s*with\s+([\w.]+)`),
	},
	"Zig": {
		Rules: []lang.LineRule{
			lang.Line(lang.Struct, lang.Public, `^\s*(?:pub\s+)?const\s+(?P<name>\w+)\s*=\s*(?:packed\s+|extern\s+)?(?:struct|union|opaque)\b`),
			lang.Line(lang.Enum, lang.Public, `^\s*(?:pub\s+)?const\s+(?P<name>\w+)\s*=\s*enum\b`),
			lang.Line(lang.Function, lang.Public, `^\s*pub\s+(?:inline\s+|export\s+|extern\s+)*fn\s+(?P<name>\w+)`),
			lang.Line(lang.Function, lang.Private, `^\s*(?:inline\s+|export\s+|extern\s+(?:"[^"]*"\s+)?)*fn\s+(?P<name>\w+)`),
			leaf(lang.Constant, `^(?:pub\s+)?const\s+(?P<name>\w+)`),
			leaf(lang.Variable, `^(?:pub\s+)?var\s+(?P<name>\w+)`),
		},
		Imports: imports(`@import\(("[^"]+")\)`),
	},
	"Nim": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, lang.Public, `^\s*(?:proc|func|method|iterator|converter)\s+\x60?(?P<name>[\w]+)\x60?\*`),
			lang.Line(lang.Function, lang.Private, `^\s*(?:proc|func|method|iterator|converter)\s+\x60?(?P<name>\w+)`),
			lang.Line(lang.Macro, lang.Public, `^\s*(?:template|macro)\s+(?P<name>\w+)`),
			lang.Line(lang.TypeName, lang.Public, `^\s{2}(?P<name>[A-Z]\w*)\*?(?:\[[^\]]*\])?\s*(?:\{[^}]*\})?\s*=\s*(?:ref\s+|ptr\s+)?(?:object|enum|distinct|tuple|proc)\b`),
			leaf(lang.Constant, `^const\s+(?P<name>\w+)`),
		},
		Imports: imports(`^\s*(?:import|from|include)\s+([\w/.]+)`),
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
	"verilog": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, "", `^\s*(?:module|package|program)\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, "", `^\s*interface\s+(?P<name>\w+)`),
			lang.Line(lang.Class, "", `^\s*(?:virtual\s+)?class\s+(?P<name>\w+)`),
			lang.Line(lang.Function, "", `^\s*(?:virtual\s+|static\s+|automatic\s+)*(?:function|task)\s+(?:automatic\s+)?(?:[\w\[\]: ]+\s)?(?P<name>\w+)\s*[(;]`),
			leaf(lang.Macro, `^\s*\x60define\s+(?P<name>\w+)`),
		},
		Imports: imports(`^\s*\x60include\s+("[^"]+")`),
	},
	"systemverilog": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, "", `^\s*(?:module|package|program)\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, "", `^\s*interface\s+(?P<name>\w+)`),
			lang.Line(lang.Class, "", `^\s*(?:virtual\s+)?class\s+(?P<name>\w+)`),
			lang.Line(lang.Function, "", `^\s*(?:virtual\s+|static\s+|automatic\s+)*(?:function|task)\s+(?:automatic\s+)?(?:[\w\[\]: ]+\s)?(?P<name>\w+)\s*[(;]`),
			leaf(lang.Macro, `^\s*\x60define\s+(?P<name>\w+)`),
		},
		Imports: imports(`^\s*\x60include\s+("[^"]+")`),
	},
	"VHDL": {
		Rules: []lang.LineRule{
			lang.Line(lang.Module, "", `(?i)^\s*entity\s+(?P<name>\w+)\s+is`),
			lang.Line(lang.Object, "", `(?i)^\s*architecture\s+(?P<name>\w+)\s+of`),
			lang.Line(lang.Package, "", `(?i)^\s*package\s+(?:body\s+)?(?P<name>\w+)\s+is`),
			lang.Line(lang.Function, "", `(?i)^\s*(?:pure\s+|impure\s+)?(?:function|procedure)\s+(?P<name>\w+)`),
			leaf(lang.Variable, `(?i)^\s*(?:signal|constant)\s+(?P<name>\w+)`),
		},
		Imports: imports(`(?i)^\s*use\s+([\w.]+)`),
	},
	"VimL": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*fu(?:nc|nction)?!?\s+(?P<name>[\w:#.]+)`),
			leaf(lang.Function, `^\s*command!?\s+(?:-\S+\s+)*(?P<name>[A-Z]\w*)`),
			leaf(lang.Variable, `^let\s+(?P<name>[gsb]:\w+)`),
		},
		Imports: imports(`^\s*(?:source|runtime)\s+(\S+)`),
	},
	"D": {
		Rules: []lang.LineRule{
			leaf(lang.Module, `^module\s+(?P<name>[\w.]+)`),
			lang.Line(lang.Class, lang.Public, `^\s*(?:(?:public|private|abstract|final)\s+)*class\s+(?P<name>\w+)`),
			lang.Line(lang.Struct, lang.Public, `^\s*(?:(?:public|private)\s+)*(?:struct|union)\s+(?P<name>\w+)`),
			lang.Line(lang.Interface, lang.Public, `^\s*interface\s+(?P<name>\w+)`),
			lang.Line(lang.Enum, lang.Public, `^\s*enum\s+(?P<name>\w+)`),
			lang.Line(lang.Function, lang.Public, `^\s*(?:(?:public|private|static|final|override|pure|nothrow|@\w+|auto|const)\s+)*[A-Za-z_][\w!\[\]()*.]*\s+(?P<name>[a-z_]\w*)\s*\([^;]*$`),
		},
		Imports: imports(`^\s*(?:public\s+|static\s+)*import\s+([\w.]+)`),
	},
	"Matlab": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, "", `^\s*function\s+(?:\[?[\w, ]*\]?\s*=\s*)?(?P<name>[\w.]+)`),
			lang.Line(lang.Class, "", `^\s*classdef\s+(?:\([^)]*\)\s*)?(?P<name>\w+)`),
		},
	},
	"Nix": {
		Rules: []lang.LineRule{
			leaf(lang.Key, `^\s{0,4}(?P<name>[\w.-]+)\s*=`),
		},
		Imports: imports(`\bimport\s+([./\w-]+)`),
	},
}
