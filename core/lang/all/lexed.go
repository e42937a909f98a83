package all

import (
	"path"
	"sort"
	"strings"

	"github.com/alecthomas/chroma/v2/lexers"

	"juxtagram/core/lang"
	"juxtagram/core/lang/lexed"
)

// Lexed are the languages described by hand that have no grammar here. All
// others come from the lexer library's own list (see library).
var Lexed = []*lang.Language{
	{Name: "Markdown", Extensions: []string{".md", ".markdown", ".mdown", ".mkd"}, Lexer: "markdown", Openers: []string{"<!--"}},
	{Name: "Text", Extensions: []string{".txt", ".text"}, Filenames: []string{"license", "licence", "copying", "authors", "notice", "changes", "news", "todo", "readme", "install", "version", "codeowners"}},
	{Name: "reStructuredText", Extensions: []string{".rst", ".rest"}},
	{Name: "AsciiDoc", Extensions: []string{".adoc", ".asciidoc", ".asc"}},
	{Name: "JSON", Extensions: []string{".json", ".jsonc", ".json5", ".webmanifest", ".geojson", ".map", ".jsonl", ".ndjson"}, Filenames: []string{".eslintrc", ".babelrc", ".prettierrc", "composer.lock", "pipfile.lock"}, Lexer: "JSON", Openers: []string{"//", "/*"}},
	{Name: "YAML", Extensions: []string{".yaml", ".yml"}, Filenames: []string{"pnpm-lock.yaml"}, Lexer: "YAML", Openers: []string{"#"}},
	{Name: "SQL", Extensions: []string{".sql", ".ddl", ".dml"}, Lexer: "SQL", Openers: []string{"--", "/*", "#"}},
	{Name: "Make", Extensions: []string{".mk", ".mak"}, Filenames: []string{"makefile", "gnumakefile"}, Shebangs: []string{"make"}, Lexer: "Makefile", Openers: []string{"#"}},
	{Name: "Container file", Extensions: []string{".dockerfile", ".containerfile"}, Filenames: []string{"dockerfile", "containerfile"}, Lexer: "Docker", Openers: []string{"#"}},
	{Name: "CMake", Extensions: []string{".cmake"}, Filenames: []string{"cmakelists.txt"}, Lexer: "CMake", Openers: []string{"#"}},
	{Name: "XML", Extensions: []string{".xml", ".xsd", ".xsl", ".xslt", ".svg", ".plist", ".csproj", ".vcxproj", ".props", ".wsdl"}, Filenames: []string{"pom.xml"}, Lexer: "XML", Openers: []string{"<!--"}},
	{Name: "CSV", Extensions: []string{".csv", ".tsv"}},
	{Name: "INI", Extensions: []string{".ini", ".cfg", ".conf", ".editorconfig", ".properties", ".env", ".service", ".socket", ".timer", ".desktop"}, Filenames: []string{".editorconfig", ".gitconfig", ".gitmodules", ".npmrc"}, Lexer: "INI", Openers: []string{"#", ";"}},
	{Name: "Git list", Filenames: []string{".gitignore", ".gitattributes", ".dockerignore", ".mailmap", ".npmignore", ".prettierignore", ".eslintignore"}, Lexer: "Bash", Openers: []string{"#"}},
	{Name: "Go module", Filenames: []string{"go.mod", "go.work"}, Lexer: "Go", Openers: []string{"//"}},
	{Name: "Go checksums", Filenames: []string{"go.sum", "go.work.sum"}},
	{Name: "Swift", Extensions: []string{".swift"}, Lexer: "Swift"},
	{Name: "Perl", Extensions: []string{".pl", ".pm", ".t"}, Shebangs: []string{"perl"}, Lexer: "Perl"},
	{Name: "Haskell", Extensions: []string{".hs"}, Shebangs: []string{"runhaskell"}, Lexer: "Haskell"},
	{Name: "Elixir", Extensions: []string{".ex", ".exs"}, Shebangs: []string{"elixir"}, Lexer: "Elixir"},
	{Name: "Visual Basic", Extensions: []string{".vb", ".vbs", ".bas"}, Lexer: "VB.net"},
	{Name: "R", Extensions: []string{".r"}, Shebangs: []string{"rscript"}, Lexer: "R"},
	{Name: "Awk", Extensions: []string{".awk"}, Shebangs: []string{"awk", "gawk", "mawk"}, Lexer: "Awk"},
	{Name: "Objective-C", Extensions: []string{".m", ".mm"}, Lexer: "Objective-C"},
	{Name: "Assembly", Extensions: []string{".s", ".asm"}, Lexer: "GAS"},
	{Name: "PowerShell", Extensions: []string{".ps1", ".psm1"}, Shebangs: []string{"pwsh"}, Lexer: "PowerShell"},
	{Name: "Fish", Extensions: []string{".fish"}, Shebangs: []string{"fish"}, Lexer: "Fish"},
	{Name: "Z shell", Extensions: []string{".zsh"}, Filenames: []string{".zshrc"}, Shebangs: []string{"zsh"}, Lexer: "Bash"},
	{Name: "Tcl", Extensions: []string{".tcl"}, Shebangs: []string{"tclsh", "wish"}, Lexer: "Tcl"},
	{Name: "Patch", Extensions: []string{".patch", ".diff"}},
}

// withLines gives lexed languages the token rules of their outlines.
func withLines(list []*lang.Language) []*lang.Language {
	for _, l := range list {
		if l.Lines == nil {
			l.Lines = lexed.Programs[l.Name]
		}
		if l.Lines == nil {
			l.Lines = lexed.Documents[l.Name]
		}
	}
	return list
}

// library lists the lexer library's languages that are not described above,
// by name. Among two that claim a file name, the library's own priority and
// then the name decides.
func library(taken map[string]bool) []*lang.Language {
	var out []*lang.Language
	all := append([]string(nil), lexers.Names(false)...)
	sort.Strings(all)
	for _, name := range all {
		lexer := lexers.Get(name)
		if lexer == nil || taken[strings.ToLower(name)] {
			continue
		}
		l := &lang.Language{Name: name, Lexer: name}
		for _, pattern := range lexer.Config().Filenames {
			pattern = strings.ToLower(pattern)
			ext, isExt := strings.CutPrefix(pattern, "*")
			switch {
			case isExt && strings.HasPrefix(ext, ".") && !strings.ContainsAny(ext, "*?["):
				l.Extensions = append(l.Extensions, ext)
			case !strings.ContainsAny(pattern, "*?["):
				l.Filenames = append(l.Filenames, path.Base(pattern))
			}
		}
		if len(l.Extensions)+len(l.Filenames) > 0 {
			out = append(out, l)
		}
	}
	return out
}

// Outlined is how many lexed languages have token rules.
func Outlined() int { return len(lexed.Programs) + len(lexed.Documents) }
