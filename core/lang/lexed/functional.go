package lexed

import (
	"regexp"

	"juxtagram/core/lang"
)

// Functional languages, Lisps and those for statistics.
var functional = map[string]*lang.LineRules{
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
	"R": {
		Rules: []lang.LineRule{
			lang.Line(lang.Function, lang.Public, `^\s*[\x60"]?(?P<name>[\w.]+)[\x60"]?\s*(?:<-|=)\s*function\b`),
			lang.Line(lang.Class, lang.Public, `^\s*(?P<name>\w+)\s*(?:<-|=)\s*(?:R6Class|setRefClass)\b`),
			leaf(lang.Variable, `^(?P<name>[\w.]+)\s*<-`),
		},
		Imports: imports(`^\s*(?:library|require|source)\s*\(\s*([^,)]+)`),
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
	"Nix": {
		Rules: []lang.LineRule{
			leaf(lang.Key, `^\s{0,4}(?P<name>[\w.-]+)\s*=`),
		},
		Imports: imports(`\bimport\s+([./\w-]+)`),
	},
}
