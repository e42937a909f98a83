// Package python describes Python to the survey.
package python

import (
	"regexp"
	"strings"

	"github.com/smacker/go-tree-sitter/python"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is Python.
var Language = lang.Language{
	Name:       "Python",
	Extensions: []string{".py", ".pyi", ".pyw"},
	Filenames:  []string{"SConstruct", "SConscript", "wscript"},
	Shebangs:   []string{"python", "python2", "python3", "pypy", "pypy3"},
	Syntax:     &rules,
}

var rules = lang.Rules{
	Grammar:  python.GetLanguage,
	Comments: []string{"comment"},
	On: map[string]lang.Handler{
		"module":                  moduleDoc,
		"class_definition":        class,
		"function_definition":     function,
		"lambda":                  func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
		"assignment":              assignment,
		"type_alias_statement":    alias,
		"import_statement":        importNames,
		"import_from_statement":   importFrom,
		"future_import_statement": importFrom,
		"if_statement":            guarded,
	},
	Strings: map[string][]string{"string": {"interpolation"}},
	Joins:   map[string]string{"concatenated_string": "", "binary_operator": "+", "parenthesized_expression": ""},
	Names:   map[string]lang.Role{"identifier": lang.Read},
	Roles: map[string]lang.Role{
		"call.function":                     lang.Call,
		"decorator.":                        lang.Call,
		"attribute.attribute":               lang.OnOwner | lang.Up,
		"assignment.left":                   lang.Write,
		"augmented_assignment.left":         lang.Write,
		"named_expression.name":             lang.Write,
		"pattern_list.":                     lang.Up,
		"tuple_pattern.":                    lang.Up,
		"list_pattern.":                     lang.Up,
		"for_statement.left":                lang.Bind,
		"for_in_clause.left":                lang.Bind,
		"as_pattern_target.":                lang.Bind,
		"parameters.":                       lang.Bind,
		"lambda_parameters.":                lang.Bind,
		"default_parameter.name":            lang.Bind,
		"typed_default_parameter.name":      lang.Bind,
		"typed_parameter.":                  lang.Bind,
		"list_splat_pattern.":               lang.Up,
		"dictionary_splat_pattern.":         lang.Up,
		"type.":                             lang.AsType,
		"generic_type.":                     lang.AsType,
		"argument_list.":                    lang.Up,
		"class_definition.superclasses":     lang.AsType,
		"keyword_argument.name":             lang.Write | lang.OnOwner | lang.InLiteral,
		"dotted_name.":                      lang.Up,
		"aliased_import.":                   lang.Up,
		"aliased_import.name":               lang.Imports,
		"aliased_import.alias":              lang.Imports,
		"import_statement.name":             lang.Imports,
		"import_from_statement.name":        lang.Imports,
		"import_from_statement.module_name": lang.Imports,
		"relative_import.":                  lang.Up,
	},
	Calls:   map[string]lang.CallShape{"call": {Function: "function", Arguments: "arguments"}},
	Assigns: map[string][2]string{"assignment": {"left", "right"}, "default_parameter": {"name", "value"}, "typed_default_parameter": {"name", "value"}},
	Supers:  []string{"argument_list"},
	Effects: effects,
	Watch:   watch,
	Decisions: map[string]lang.Decision{
		"if_statement": lang.Branch, "elif_clause": lang.Chained, "for_statement": lang.Branch, "while_statement": lang.Branch,
		"except_clause": lang.Branch, "except_group_clause": lang.Branch, "conditional_expression": lang.Branch, "case_clause": lang.Arm, "match_statement": lang.Deeper,
		"for_in_clause": lang.Branch, "if_clause": lang.Arm, "and": lang.Arm, "or": lang.Arm,
	},
	Annotations: []string{"decorator"},
	Wrappers:    []string{"decorated_definition"},
}

// visibility follows the language's own convention: one leading underscore
// keeps a name to its module, or to the class and those derived from it, two
// to the class.
func visibility(w *lang.Walk, name string) lang.Visibility {
	member := w.Within() == lang.Class || w.Within() == lang.Enum
	switch {
	case !strings.HasPrefix(name, "_") || strings.HasPrefix(name, "__") && strings.HasSuffix(name, "__"):
		return lang.Public
	case member && !strings.HasPrefix(name, "__"):
		return lang.Protected
	}
	return lang.Private
}

var enumBase = regexp.MustCompile(`\b(?:Enum|IntEnum|StrEnum|Flag|IntFlag)\b`)

func class(w *lang.Walk, n uint32) {
	d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Class, Body: w.Child(n, "body")}
	d.Visibility = visibility(w, w.Word(d.Name))
	d.Doc = docstring(w, d.Body)
	if bases := w.Child(n, "superclasses"); bases != syntax.None && enumBase.Match(w.Source(bases)) {
		d.Kind = lang.Enum
	}
	w.Declare(d)
}

func function(w *lang.Walk, n uint32) {
	d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Function, Body: w.Child(n, "body"), Type: w.Child(n, "return_type"), Inside: lang.Function}
	name := w.Word(d.Name)
	d.Visibility = visibility(w, name)
	d.Doc = docstring(w, d.Body)
	if within := w.Within(); within == lang.Class || within == lang.Enum {
		d.Kind = lang.Method
		if name == "__init__" {
			d.Kind = lang.Constructor
		}
		if p := w.Parent(n); w.Is(p, "decorated_definition") {
			for c := range w.Children(p) {
				if !w.Is(c, "decorator") {
					continue
				}
				switch by := strings.TrimSpace(strings.TrimPrefix(w.Word(c), "@")); {
				case by == "staticmethod" || by == "classmethod":
					d.Static = true
				case by == "property" || strings.HasSuffix(by, "cached_property") || strings.HasSuffix(by, ".setter") || strings.HasSuffix(by, ".getter") || strings.HasSuffix(by, ".deleter"):
					d.Kind = lang.Property
				}
			}
		}
	}
	w.Declare(d)
}

// moduleDoc is what a module's docstring says.
func moduleDoc(w *lang.Walk, n uint32) {
	if text := docstring(w, n); text != "" {
		w.SetDoc(text, w.Line(w.ChildOf(n, "expression_statement")))
	}
}

// docstring is the string that a body begins with.
func docstring(w *lang.Walk, body uint32) string {
	if body == syntax.None {
		return ""
	}
	for c := range w.Children(body) {
		if w.Is(c, "comment") {
			continue
		}
		if w.Is(c, "expression_statement") {
			if s := w.ChildOf(c, "string", "concatenated_string"); s != syntax.None {
				return lang.CommentText([]byte(strings.TrimLeft(w.Word(s), "rRuUbB")))
			}
		}
		return ""
	}
	return ""
}

func assignment(w *lang.Walk, n uint32) {
	if w.Local() {
		return
	}
	of := w.Child(n, "type")
	statement := n
	for w.Is(w.Parent(statement), "assignment") {
		statement = w.Parent(statement) // a = b = 1
	}
	if !w.Is(w.Parent(statement), "expression_statement") {
		return
	}
	targets(w, w.Child(n, "left"), func(name uint32) {
		text := w.Word(name)
		d := lang.Decl{
			Node: statement, Name: name, Kind: lang.Variable, Visibility: visibility(w, text), Type: of, Value: w.Child(statement, "right"), Leaf: true, Once: true,
		}
		switch w.Within() {
		case lang.Enum:
			d.Kind = lang.EnumMember
		case lang.Class:
			d.Kind, d.Static = lang.Field, of == syntax.None
		default:
			if text == strings.ToUpper(text) && strings.ToLower(text) != text {
				d.Kind = lang.Constant
			}
		}
		w.Declare(d)
	})
}

// targets are the plain names on the left of an assignment.
func targets(w *lang.Walk, left uint32, each func(name uint32)) {
	switch {
	case w.Is(left, "identifier"):
		each(left)
	case w.Is(left, "pattern_list", "tuple_pattern", "list_pattern", "list_splat_pattern"):
		for c := range w.Children(left) {
			targets(w, c, each)
		}
	}
}

func alias(w *lang.Walk, n uint32) {
	for i := n; i < w.Nodes[n].Next; i++ {
		if w.Is(i, "identifier") {
			w.Declare(lang.Decl{Node: n, Name: i, Kind: lang.TypeName, Visibility: visibility(w, w.Word(i)), Leaf: true})
			return
		}
	}
}

// importNames reads "import a.b as c, d": one import for each module.
func importNames(w *lang.Walk, n uint32) {
	for _, name := range w.InField(n, "name") {
		one := imported(w, name)
		i := lang.Import{Text: one.Name}
		if one.As != "" {
			i.Names = []lang.Imported{one}
		}
		w.Import(n, i)
	}
}

func imported(w *lang.Walk, n uint32) lang.Imported {
	if w.Is(n, "aliased_import") {
		return lang.Imported{Name: tight(w.Word(w.Child(n, "name"))), As: w.Word(w.Child(n, "alias"))}
	}
	return lang.Imported{Name: tight(w.Word(n))}
}

// tight takes out the space that may stand around dots.
func tight(name string) string { return strings.Join(strings.Fields(name), "") }

func importFrom(w *lang.Walk, n uint32) {
	i := lang.Import{Text: tight(w.Word(w.Child(n, "module_name")))}
	if w.Is(n, "future_import_statement") {
		i.Text = "__future__"
	}
	for _, name := range w.InField(n, "name") {
		i.Names = append(i.Names, imported(w, name))
	}
	if w.Has(n, "wildcard_import") {
		i.Names = []lang.Imported{{Name: "*"}}
	}
	w.Import(n, i)
}

var guard = regexp.MustCompile(`^\(?\s*(__name__\s*==\s*["']__main__["']|["']__main__["']\s*==\s*__name__)\s*\)?$`)

// guarded: a module that may be run guards its start by its own name.
func guarded(w *lang.Walk, n uint32) {
	if w.Parent(n) == 0 && guard.MatchString(w.Word(w.Child(n, "condition"))) {
		w.Start(lang.Start{Kind: "script", Line: w.Line(n), Evidence: `if __name__ == "__main__"`})
	}
}
