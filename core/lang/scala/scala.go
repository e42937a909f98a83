// Package scala describes Scala to the survey.
package scala

import (
	"bytes"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/smacker/go-tree-sitter/scala"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is Scala.
var Language = lang.Language{Name: "Scala", Extensions: []string{".scala", ".sc"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  scala.GetLanguage,
	Comments: []string{"comment", "block_comment"},
	Tokens:   []string{"val", "var", "case"},
	Supers:   []string{"extends_clause"},
	Calls:    map[string]lang.CallShape{"call_expression": {Function: "function", Arguments: "arguments"}},
	On: map[string]lang.Handler{
		"package_clause":       pack,
		"package_object":       class(lang.Object),
		"extension_definition": extension,
		"infix_expression":     logical,
		"class_definition":     class(lang.Class),
		"trait_definition":     class(lang.Trait),
		"object_definition":    class(lang.Object),
		"enum_definition":      class(lang.Enum),
		"simple_enum_case":     enumCase,
		"full_enum_case":       enumCase,
		"function_definition":  function,
		"function_declaration": function,
		"val_definition":       value,
		"var_definition":       value,
		"val_declaration":      value,
		"var_declaration":      value,
		"given_definition":     given,
		"type_definition":      alias,
		"lambda_expression":    func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
		"import_declaration":   imports,
	},
	Strings: map[string][]string{"string": nil, "interpolated_string": {"interpolation"}},
	Joins:   map[string]string{"infix_expression": "+", "interpolated_string_expression": ""},
	Names:   map[string]lang.Role{"identifier": lang.Read, "type_identifier": lang.AsType},
	Roles: map[string]lang.Role{
		"call_expression.function":   lang.Call,
		"field_expression.field":     lang.OnOwner | lang.Up,
		"assignment_expression.left": lang.Write,
		"parameter.name":             lang.Bind,
		"class_parameter.name":       lang.Bind,
		"val_definition.pattern":     lang.Bind,
		"var_definition.pattern":     lang.Bind,
		"import_declaration.path":    lang.Imports,
		"namespace_selectors.":       lang.Imports,
	},
	Decisions: map[string]lang.Decision{
		"if_expression": lang.Branch, "for_expression": lang.Branch, "while_expression": lang.Branch, "do_while_expression": lang.Branch, "catch_clause": lang.Branch, "match_expression": lang.Deeper,
		"case_clause": lang.Arm,
	},
	Annotations: []string{"annotation"},
	MarkedDocs:  true,
	Mask:        mask,
}

// onConstructor is an annotation between a class's name and its parameters, which the
// grammar takes the parameters for arguments of.
var onConstructor = regexp.MustCompile(`\bclass\s+\w+(?:\[[^\]\n]*\])?\s+(@\w+(?:\s*\(\s*\))?)\s*(?:private|protected)?\s*\(`)

func mask(text []byte) []byte {
	if bytes.IndexByte(text, '@') < 0 {
		return text
	}
	found := onConstructor.FindAllSubmatchIndex(text, -1)
	if found == nil {
		return text
	}
	text = bytes.Clone(text)
	for _, f := range found {
		for i := f[2]; i < f[3]; i++ {
			if text[i] != '\n' {
				text[i] = ' '
			}
		}
	}
	return text
}

// asType tells a declaration that only says what a type has.
func asType(w *lang.Walk, n uint32) bool { return w.Is(w.Parent(n), "refinement", "structural_type") }

// pack is a package that holds the rest of the file, or what stands in its braces.
func pack(w *lang.Walk, n uint32) {
	if body := w.Child(n, "body"); body != syntax.None {
		name := w.Child(n, "name")
		if first := w.ChildOf(name, "identifier"); first != syntax.None && w.Word(first) == w.Word(name) {
			name = first
		}
		w.Declare(lang.Decl{Node: n, Name: name, Kind: lang.Package, Visibility: lang.Public, Body: body})
		return
	}
	var names []string // "package a", and below it "package b", are a.b
	for c := range w.Children(w.Parent(n)) {
		if w.Is(c, "package_clause") && w.Child(c, "body") == syntax.None {
			names = append(names, w.Word(w.Child(c, "name")))
		}
	}
	w.Package(strings.Join(names, "."))
}

// extension adds methods to a type of elsewhere, as if they were its own.
func extension(w *lang.Walk, n uint32) {
	for p := range w.Children(w.Child(n, "parameters")) {
		if t := w.Child(p, "type"); t != syntax.None {
			name, _, _ := strings.Cut(w.OneLine(t), "[")
			w.Enter(n, lang.Class, name)
			return
		}
	}
}

func logical(w *lang.Walk, n uint32) {
	if op := w.Word(w.Child(n, "operator")); op == "&&" || op == "||" {
		w.Decides(n, lang.Arm)
	}
}

func visibility(w *lang.Walk, n uint32) lang.Visibility {
	switch text := w.Word(w.ChildOf(w.ChildOf(n, "modifiers"), "access_modifier")); {
	case strings.HasPrefix(text, "private"):
		return lang.Private
	case strings.HasPrefix(text, "protected"):
		return lang.Protected
	}
	return lang.Public
}

func class(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: visibility(w, n), Body: w.Child(n, "body"), Static: kind == lang.Object}
		w.Declare(d)
		if kind == lang.Object && slices.Contains(strings.Fields(w.Word(w.Child(n, "extend"))), "App") {
			w.Start(lang.Start{Kind: "program", Name: w.Word(d.Name), Line: w.Line(d.Name), Evidence: "extends App"})
		}
		for i, list := range w.InField(n, "class_parameters") {
			for p := range w.Children(list) {
				if w.Is(p, "class_parameter") && (w.HasWord(p, "val", "var") || i == 0 && w.HasWord(n, "case")) {
					w.Declare(lang.Decl{Node: p, Name: w.Child(p, "name"), Kind: lang.Field, Visibility: visibility(w, p), Type: w.Child(p, "type"), Leaf: true})
				}
			}
		}
	}
}

func enumCase(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.EnumMember, Visibility: lang.Public, Leaf: true})
}

func function(w *lang.Walk, n uint32) {
	if asType(w, n) {
		return
	}
	d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Function, Visibility: visibility(w, n), Body: w.Child(n, "body"), Type: w.Child(n, "return_type")}
	if w.Within() != "" && w.Within() != lang.Package && !w.Local() {
		d.Kind = lang.Method
	}
	switch w.Word(d.Name) {
	case "this":
		d.Kind = lang.Constructor
	case "main":
		if w.Within() == lang.Object && strings.Contains(w.Word(w.Child(n, "parameters")), "Array[String]") {
			w.Start(lang.Start{Kind: "program", Name: w.Owner(), Line: w.Line(d.Name), Evidence: "def main of an object"})
		}
	}
	if w.Is(d.Name, "operator_identifier") {
		w.Defines(d.Name, w.Word(d.Name))
	}
	for c := range w.Children(n) {
		if w.Is(c, "annotation") && w.Word(c) == "@main" {
			w.Start(lang.Start{Kind: "program", Name: w.Word(d.Name), Line: w.Line(d.Name), Evidence: "@main"})
		}
	}
	w.Declare(d)
}

func value(w *lang.Walk, n uint32) {
	if asType(w, n) {
		return
	}
	kind := lang.Field
	if w.Within() == "" || w.Within() == lang.Package {
		kind = lang.Variable
	}
	d := lang.Decl{Node: n, Kind: kind, Visibility: visibility(w, n), Type: w.Child(n, "type"), Value: w.Child(n, "value"), Inside: lang.Function}
	pattern := w.Child(n, "pattern")
	if pattern == syntax.None {
		pattern = w.Child(n, "name")
	}
	if w.Is(pattern, "identifier") {
		d.Name = pattern
		w.Declare(d)
		return
	}
	d.Leaf = true
	for _, d.Name = range bound(w, pattern, nil) {
		w.Declare(d)
	}
}

// bound are the names that a pattern makes: those of a list, and inside other patterns
// those that do not begin with a capital, which name something that is there.
func bound(w *lang.Walk, pattern uint32, names []uint32) []uint32 {
	for c := range w.Children(pattern) {
		first, _ := utf8.DecodeRuneInString(w.Word(c))
		switch {
		case w.Is(c, "identifier"):
			if w.Is(pattern, "identifiers") || !unicode.IsUpper(first) {
				names = append(names, c)
			}
		case w.Is(c, "tuple_pattern", "case_class_pattern", "infix_pattern", "capture_pattern", "typed_pattern", "alternative_pattern", "identifiers"):
			names = bound(w, c, names)
		}
	}
	return names
}

// given is a value that the compiler finds by its type; without a name it is known by that.
func given(w *lang.Walk, n uint32) {
	d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Object, Visibility: visibility(w, n), Type: w.Child(n, "return_type"), Body: w.ChildOf(n, "with_template_body")}
	if d.Body == syntax.None {
		d.Value = w.Child(n, "body")
	}
	if d.Name == syntax.None {
		d.Text = w.OneLine(d.Type)
	}
	w.Declare(d)
}

func alias(w *lang.Walk, n uint32) {
	if asType(w, n) {
		return
	}
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.TypeName, Visibility: visibility(w, n), Type: w.Child(n, "type"), Leaf: true})
}

// imports reads one import for each name that a selector brings.
func imports(w *lang.Walk, n uint32) {
	var path []string
	for _, p := range w.InField(n, "path") {
		if w.Is(p, "identifier") {
			path = append(path, w.Word(p))
		}
	}
	text := strings.Join(path, ".")
	i := lang.Import{Text: text}
	for c := range w.Children(w.ChildOf(n, "namespace_selectors")) {
		switch {
		case w.Is(c, "identifier"):
			i.Names = append(i.Names, lang.Imported{Name: w.Word(c)})
		case w.Is(w.Child(c, "alias"), "wildcard"): // "Name => _" leaves it out
		case w.Is(c, "arrow_renamed_identifier", "as_renamed_identifier"):
			i.Names = append(i.Names, lang.Imported{Name: w.Word(w.Child(c, "name")), As: w.Word(w.Child(c, "alias"))})
		}
	}
	if w.Has(n, "namespace_wildcard") {
		i.Names = []lang.Imported{{Name: "*"}}
	}
	w.Import(n, i)
}
