package ruby

import (
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// steps: a block is code, unless a struct's or class's definition opened it.
func steps(w *lang.Walk, n uint32) {
	if w.Within() != lang.Struct {
		w.Enter(n, lang.Function, "")
	}
}

func inBody(kind lang.Kind) bool {
	return kind == lang.Class || kind == lang.Module || kind == lang.Struct
}

func module(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		name := w.Child(n, "name")
		if name == syntax.None {
			return
		}
		w.Declare(lang.Decl{Node: n, Name: name, Kind: kind, Visibility: lang.Public, Body: w.Child(n, "body")})
		w.SetAccess(lang.Public)
	}
}

// singleton is "class << self": its methods are the class's own.
func singleton(w *lang.Walk, n uint32) {
	w.Enter(n, lang.Interface, "")
	w.SetAccess(lang.Public)
}

func method(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	d := lang.Decl{Node: n, Name: name, Text: strings.Join(strings.Fields(w.Word(name)), ""), Kind: lang.Function, Visibility: lang.Public, Body: w.Child(n, "body")}
	if within := w.Within(); inBody(within) || within == lang.Interface {
		d.Kind, d.Static = lang.Method, within == lang.Interface || w.Is(n, "singleton_method")
		if a := w.Access(); a != "" && !w.Is(n, "singleton_method") {
			d.Visibility = a
		}
		if d.Text == "initialize" {
			d.Kind, d.Visibility = lang.Constructor, lang.Public
		}
		if args := w.Parent(n); w.Is(args, "argument_list") {
			if v, ok := access[w.Word(w.Child(w.Parent(args), "method"))]; ok {
				d.Visibility = v
			}
		}
	} else if w.Is(n, "singleton_method") && !w.Local() {
		d.Kind, d.Static, d.Owner = lang.Method, true, w.Word(w.Child(n, "object"))
	}
	if c := w.ChildOf(name, "operator"); w.Is(name, "operator") || c != syntax.None {
		d.Kind = lang.Operator
	}
	w.Declare(d)
	define(w, name)
}

var access = map[string]lang.Visibility{
	"public": lang.Public, "protected": lang.Protected, "private": lang.Private, "private_class_method": lang.Private, "private_constant": lang.Private, "module_function": lang.Public,
}

// bareWord: "private" by itself holds for what follows.
func bareWord(w *lang.Walk, n uint32) {
	if within := w.Within(); !inBody(within) && within != lang.Interface || !w.Is(w.Parent(n), "body_statement") {
		return
	}
	if v, ok := access[w.Word(n)]; ok {
		w.SetAccess(v)
	}
}

func assignment(w *lang.Walk, n uint32) {
	left, right := w.Child(n, "left"), w.Child(n, "right")
	if w.Local() {
		return
	}
	d := lang.Decl{Node: n, Name: left, Kind: lang.Constant, Visibility: lang.Public, Value: right, Leaf: true, Once: true}
	switch {
	case w.Is(left, "constant"):
		if w.Is(right, "call") && w.Word(w.Child(right, "method")) == "new" && (w.Word(w.Child(right, "receiver")) == "Struct" || w.Word(w.Child(right, "receiver")) == "Class") {
			d.Kind, d.Leaf = lang.Struct, false
		}
	case w.Is(left, "class_variable", "instance_variable") && inBody(w.Within()):
		d.Kind, d.Static, d.Visibility = lang.Field, true, lang.Private
	case w.Is(left, "global_variable"):
		d.Kind = lang.Variable
	default:
		return
	}
	w.Declare(d)
	if d.Kind == lang.Struct {
		members(w, w.Child(right, "arguments"), lang.Property)
		w.SetAccess(lang.Public)
	}
}

// members declares the names that symbols or strings in a list give.
func members(w *lang.Walk, list uint32, kind lang.Kind) {
	for c := range w.Children(list) {
		if text := symbol(w, c); text != "" {
			around := w.Parent(list)
			if w.Word(w.Child(around, "method")) == "new" {
				around = c
			}
			v := lang.Public
			if a := w.Access(); a != "" {
				v = a
			}
			w.Declare(lang.Decl{Node: c, Around: around, Name: c, Text: text, Kind: kind, Visibility: v, Leaf: true})
			w.Defines(c, text)
		}
	}
}

func symbol(w *lang.Walk, n uint32) string {
	switch {
	case w.Is(n, "simple_symbol"):
		return strings.TrimPrefix(w.Word(n), ":")
	case w.Is(n, "string"):
		return strings.Trim(w.Word(n), "\"'")
	}
	return ""
}

func alias(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	if inBody(w.Within()) || w.Within() == "" {
		kind := lang.Method
		if w.Within() == "" {
			kind = lang.Function
		}
		w.Declare(lang.Decl{Node: n, Name: name, Text: strings.TrimPrefix(w.Word(name), ":"), Kind: kind, Visibility: lang.Public, Leaf: true})
		define(w, name)
	}
}

// define notes a method's name that is no name of the grammar's.
func define(w *lang.Walk, name uint32) {
	if w.Is(name, "simple_symbol", "setter", "operator") {
		w.Defines(name, strings.TrimPrefix(w.Word(name), ":"))
	}
}

func call(w *lang.Walk, n uint32) {
	name, args := w.Word(w.Child(n, "method")), w.Child(n, "arguments")
	if args == syntax.None || w.Child(n, "receiver") != syntax.None {
		return
	}
	switch name {
	case "require", "require_relative", "load", "autoload":
		imports(w, n, name, args)
	}
	if !inBody(w.Within()) && w.Within() != lang.Interface {
		return
	}
	switch name {
	case "attr_reader", "attr_writer", "attr_accessor":
		members(w, args, lang.Property)
	case "define_method", "alias_method":
		for c := range w.Children(args) {
			if text := symbol(w, c); text != "" {
				w.Declare(lang.Decl{Node: n, Name: c, Text: text, Kind: lang.Method, Visibility: lang.Public, Leaf: name == "alias_method"})
				w.Defines(c, text)
			}
			return
		}
	}
	if v, ok := access[name]; ok {
		for c := range w.Children(args) {
			w.SetVisibility(symbol(w, c), v)
		}
	}
}

func imports(w *lang.Walk, n uint32, how string, args uint32) {
	var last uint32 = syntax.None
	for c := range w.Children(args) {
		last = c
	}
	if last == syntax.None || !w.Is(last, "string") || w.Has(last, "interpolation") {
		return
	}
	text := strings.Trim(w.Word(last), "\"'")
	if how == "require_relative" && !strings.HasPrefix(text, ".") {
		text = "./" + text
	}
	w.Import(n, lang.Import{Text: text})
}
