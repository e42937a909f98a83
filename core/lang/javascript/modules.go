package javascript

import (
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// source is the module a statement names.
func source(w *lang.Walk, n uint32) string { return strings.Trim(w.Word(w.Child(n, "source")), "\"'`") }

func imports(w *lang.Walk, n uint32) {
	i := lang.Import{Text: source(w, n)}
	if r := w.ChildOf(n, "import_require_clause"); r != syntax.None {
		i.Text = source(w, r)
		i.Names = []lang.Imported{{Name: "*", As: w.Word(w.ChildOf(r, "identifier"))}}
	}
	for c := range w.Children(w.ChildOf(n, "import_clause")) {
		switch {
		case w.Is(c, "identifier"):
			i.Names = append(i.Names, lang.Imported{Name: "default", As: w.Word(c)})
		case w.Is(c, "namespace_import"):
			i.Names = append(i.Names, lang.Imported{Name: "*", As: w.Word(w.ChildOf(c, "identifier"))})
		case w.Is(c, "named_imports"):
			i.Names = append(i.Names, specifiers(w, c)...)
		}
	}
	w.Import(n, i)
}

// specifiers are the names between the braces of an import or export.
func specifiers(w *lang.Walk, n uint32) []lang.Imported {
	var out []lang.Imported
	for c := range w.Children(n) {
		if w.Is(c, "import_specifier", "export_specifier") {
			out = append(out, lang.Imported{Name: nameOf(w, w.Child(c, "name")), As: nameOf(w, w.Child(c, "alias"))})
		}
	}
	return out
}

func export(w *lang.Walk, n uint32) {
	list := w.ChildOf(n, "export_clause")
	if from := source(w, n); from != "" {
		i := lang.Import{Text: from, Reexport: true, Names: specifiers(w, list)}
		if list == syntax.None {
			i.Names = []lang.Imported{{Name: "*", As: w.Word(w.ChildOf(w.ChildOf(n, "namespace_export"), "identifier", "string"))}}
		}
		w.Import(n, i)
		return
	}
	for _, s := range specifiers(w, list) {
		w.Export(s.Name)
	}
	value := w.Child(n, "value")
	if value == syntax.None {
		value = w.ChildOf(n, "identifier") // export = name
	}
	if w.Is(value, "identifier") {
		w.Export(w.Word(value))
		return
	}
	d := lang.Decl{Node: n, Name: syntax.None, Text: "default", Visibility: lang.Public, Kind: lang.Variable}
	held(w, &d, value)
	if name := w.Child(value, "name"); w.Is(name, "identifier", "type_identifier") && !w.Is(value, "arrow_function") {
		d.Text, d.Name = "", name
	}
	if d.Kind == lang.Variable && d.Inside == lang.Object {
		d.Kind, d.Body = lang.Object, value
	}
	if d.Kind != lang.Variable {
		d.Leaf = false
		w.Declare(d)
	}
}

// call finds modules that are asked for while the program runs, by a constant.
func call(w *lang.Walk, n uint32) {
	f := w.Child(n, "function")
	if !w.Is(f, "import") && (!w.Is(f, "identifier") || w.Word(f) != "require") {
		return
	}
	args := w.Child(n, "arguments")
	if args == syntax.None {
		return
	}
	first := args + 1
	if first >= w.Nodes[args].Next || !w.Is(first, "string", "template_string") || w.Has(first, "template_substitution") {
		return
	}
	i := lang.Import{Text: strings.Trim(w.Word(first), "\"'`")}
	p := w.Parent(n)
	if w.Is(p, "member_expression") {
		i.Names = append(i.Names, lang.Imported{Name: w.Word(w.Child(p, "property"))})
		p = w.Parent(p)
	}
	if w.Is(p, "variable_declarator") && w.Is(f, "identifier") {
		pattern := w.Child(p, "name")
		switch {
		case w.Is(pattern, "identifier") && len(i.Names) > 0:
			i.Names[0].As = w.Word(pattern)
		case w.Is(pattern, "identifier"):
			i.Names = []lang.Imported{{Name: "*", As: w.Word(pattern)}}
		default:
			names(w, pattern, func(name uint32) { i.Names = append(i.Names, lang.Imported{Name: w.Word(name)}) })
		}
	}
	w.Import(n, i)
}

// assignment reads CommonJS exports and methods given to a prototype, at the
// top of a file.
func assignment(w *lang.Walk, n uint32) {
	if w.Within() != "" || !w.Is(w.Parent(n), "expression_statement") {
		return
	}
	left, right := w.Child(n, "left"), w.Child(n, "right")
	if !w.Is(left, "member_expression") {
		return
	}
	object, property := w.Word(w.Child(left, "object")), w.Child(left, "property")
	switch {
	case object == "module" && w.Word(property) == "exports":
		exportsWhole(w, n, property, right)
	case object == "exports" || object == "module.exports":
		if w.Is(right, "identifier") {
			w.Export(w.Word(right))
			if w.Word(right) == w.Word(property) {
				return
			}
		}
		d := lang.Decl{Node: n, Around: w.Parent(n), Name: property, Kind: lang.Variable, Visibility: lang.Public, Value: right, Leaf: true, Once: true}
		held(w, &d, right)
		w.Declare(d)
	case strings.HasSuffix(object, ".prototype") && isFunction(w, right):
		d := lang.Decl{Node: n, Around: w.Parent(n), Name: property, Kind: lang.Method, Visibility: lang.Public, Owner: strings.TrimSuffix(object, ".prototype")}
		held(w, &d, right)
		d.Kind = lang.Method
		w.Declare(d)
	}
}

// exportsWhole reads "module.exports = …".
func exportsWhole(w *lang.Walk, n, property, right uint32) {
	switch {
	case w.Is(right, "identifier"):
		w.Export(w.Word(right))
	case w.Is(right, "object"):
		for c := range w.Children(right) {
			switch {
			case w.Is(c, "shorthand_property_identifier"):
				w.Export(w.Word(c))
			case w.Is(c, "pair") && w.Is(w.Child(c, "value"), "identifier"):
				w.Export(w.Word(w.Child(c, "value")))
			}
		}
		w.Declare(lang.Decl{Node: n, Around: w.Parent(n), Name: property, Kind: lang.Object, Visibility: lang.Public, Body: right})
	case isFunction(w, right), w.Is(right, "class"):
		d := lang.Decl{Node: n, Around: w.Parent(n), Name: property, Visibility: lang.Public}
		held(w, &d, right)
		if name := w.Child(right, "name"); w.Is(name, "identifier", "type_identifier") {
			d.Name = name
		}
		w.Declare(d)
	}
}

// end mends the visibility of what an export list offers. A file that neither
// imports nor exports is a script: all that it declares is everyone's.
func end(w *lang.Walk) {
	outline := w.Outline()
	module := w.AnyExport() || len(w.Imported()) > 0
	for i := range outline {
		if outline[i].Visibility == lang.Public && outline[i].Parent < 0 {
			module = true
		}
	}
	for i := range outline {
		s := &outline[i]
		if s.Parent < 0 && s.Visibility == lang.Private && (!module || w.Exported(s.Name)) {
			s.Visibility = lang.Public
		}
	}
}
