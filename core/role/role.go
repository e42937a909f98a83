// Package role says what a file is for (source, test, sample, documentation,
// build, configuration, schema, asset, generated, vendored or other) and why.
//
// The rules are a list, tried from the top; the first that speaks decides.
// What the repository itself says in .gitattributes comes first, then what a
// file says in its own text, then folders, then names.
package role

import (
	"path"
	"regexp"
	"strings"

	"juxtagram/core/repo"
)

// The roles, as in the survey document.
const (
	Source        = "source"
	Test          = "test"
	Sample        = "sample"
	Documentation = "documentation"
	Build         = "build"
	Configuration = "configuration"
	Schema        = "schema"
	Asset         = "asset"
	Generated     = "generated"
	Vendored      = "vendored"
	Other         = "other"
)

// File is what the rules look at.
type File struct {
	Path       string
	Mode       string            // as repo.Entry
	Language   string            // "": none recognised
	Attributes map[string]string // from .gitattributes
	Generated  string            // the sentence by which the text calls itself generated
	Minified   bool              // the text was pressed for machines
	Binary     bool
}

// Role is a role with the reason for it, in one line.
type Role struct{ Name, Evidence string }

type rule func(f File, parts []string, base string) (name, evidence string)

var rules = []rule{links, attributes, vendoredFolder, generatedText, generatedName, tests, samples, assets, documents, builds, schemas, configurations, sources}

// Of decides a file's role.
func Of(f File) Role {
	parts := strings.Split(strings.ToLower(path.Dir(f.Path)), "/")
	base := strings.ToLower(path.Base(f.Path))
	for _, r := range rules {
		if name, why := r(f, parts, base); name != "" {
			return Role{name, why}
		}
	}
	return Role{Other, "no rule speaks of it"}
}

// pattern is a pattern of names, with texts of which each name that it fits holds one:
// to look for them costs a tenth.
type pattern struct {
	hints []string
	exact *regexp.Regexp
}

func names(hints []string, exact string) pattern { return pattern{hints, regexp.MustCompile(exact)} }

// find is the part of a name that fits; "": none does.
func (p *pattern) find(name string) string {
	for _, h := range p.hints {
		if strings.Contains(name, h) {
			return p.exact.FindString(name)
		}
	}
	return ""
}

func links(f File, _ []string, _ string) (string, string) {
	switch f.Mode {
	case "submodule":
		return Other, "a submodule: its files belong to another repository"
	case "symlink":
		return Other, "a symbolic link"
	}
	return "", ""
}

// attributes honours generated, vendored and documentation, alone or with a
// tool's prefix ("x-generated").
func attributes(f File, _ []string, _ string) (string, string) {
	for _, name := range []string{Vendored, Generated, Documentation} {
		for attr, value := range f.Attributes {
			if (attr == name || strings.HasSuffix(attr, "-"+name)) && value != "unset" && value != "false" {
				return name, ".gitattributes says " + attr
			}
		}
	}
	return "", ""
}

// denied tells that .gitattributes says a file is not of a role.
func denied(f File, name string) bool {
	for attr, value := range f.Attributes {
		if (attr == name || strings.HasSuffix(attr, "-"+name)) && (value == "unset" || value == "false") {
			return true
		}
	}
	return false
}

func inFolder(parts []string, names ...string) string {
	for _, p := range parts {
		for _, n := range names {
			if p == n {
				return p
			}
		}
	}
	return ""
}

func vendoredFolder(f File, parts []string, _ string) (string, string) {
	if d := inFolder(parts, "vendor", "third_party", "third-party", "thirdparty", "node_modules", "bower_components", "external", "extern", "pods", "_vendor"); d != "" && !denied(f, Vendored) {
		return Vendored, "in a folder called " + d
	}
	return "", ""
}

func generatedText(f File, _ []string, _ string) (string, string) {
	if f.Generated != "" && !denied(f, Generated) {
		return Generated, "says so: " + f.Generated
	}
	if code := f.Language == "JavaScript" || f.Language == "CSS" || f.Language == "HTML"; f.Minified && code && !denied(f, Generated) {
		return Generated, "minified: hardly any line feeds"
	}
	return "", ""
}

var generatedNames = names([]string{".pb.", "_pb2", ".g.", ".designer.", ".min.", "bundle.js", ".map", "_generated.", ".gen."}, `(\.pb\.(go|cc|h)|_pb2(_grpc)?\.pyi?|\.g\.(dart|cs)|\.designer\.(cs|vb)|\.min\.(js|css)|[._-]bundle\.js|\.(js|css)\.map|_generated\.\w+|\.gen\.\w+)$`)

func generatedName(f File, _ []string, base string) (string, string) {
	if m := generatedNames.find(base); m != "" && !denied(f, Generated) {
		return Generated, "named *" + m
	}
	return "", ""
}

var testNames = names([]string{"test", "spec", ".bats"}, `(_test\.(go|py|c|cc|cpp|rb|exs|dart)|^test_.+\.(py|c|cpp|rb)|^conftest\.py|[._-](test|spec)\.[cm]?[jt]sx?|_spec\.rb|\.bats)$`)

// classTests are named by a word in capitals: "Latest.java" is none.
var classTests = names([]string{"Test"}, `(?:^|[^A-Z])Tests?\.(java|kt|cs|scala|swift)$`)

func tests(f File, parts []string, base string) (string, string) {
	if testNames.find(base) != "" || classTests.find(path.Base(f.Path)) != "" {
		return Test, "named as a test"
	}
	if d := inFolder(parts, "test", "tests", "__tests__", "spec", "specs", "testdata", "fixtures", "testing", "e2e"); d != "" {
		return Test, "in a folder called " + d
	}
	return "", ""
}

func samples(_ File, parts []string, base string) (string, string) {
	if d := inFolder(parts, "example", "examples", "_examples", "sample", "samples", "demo", "demos"); d != "" {
		return Sample, "in a folder called " + d
	}
	return "", ""
}

var documentNames = names([]string{
	"readme", "licen", "copying", "change", "history", "news", "authors", "contribut", "notice", "security", "code_of_conduct", "maintainers", "install", "todo",
}, `^(readme|licen[cs]e|copying|changelog|changes|history|news|authors|contributors|contributing|notice|security|code_of_conduct|maintainers|install|todo)([._-].*)?$`)

func documents(f File, parts []string, base string) (string, string) {
	if documentNames.find(base) != "" && f.Language != "Go" {
		return Documentation, "named as a document"
	}
	switch f.Language {
	case "Markdown", "reStructuredText", "Asciidoc", "Org Mode", "TeX":
		return Documentation, "written in " + f.Language
	case "Text":
		if base == "requirements.txt" || base == "cmakelists.txt" {
			return "", ""
		}
		return Documentation, "plain text"
	}
	if d := inFolder(parts, "doc", "docs", "documentation", "man"); d != "" {
		return Documentation, "in a folder called " + d
	}
	return "", ""
}

var buildNames = names([]string{
	"make", ".mk", "meson", "build", "workspace", "file", "compose", "package", "go.", "cargo", "pyproject", "setup", "requirements", "poetry", "tox.ini", "pom.xml",
	".gradle", "gradlew", "mvnw", "gemspec", "yarn", "pnpm", ".csproj", ".sln", ".vcxproj", "configure", ".am", "config",
}, `^(makefile|gnumakefile|.*\.mk|cmakelists\.txt|.*\.cmake|meson\.build|build(\.bazel)?|workspace|(docker|container)file(\..*)?|.*\.(docker|container)file|(docker-)?compose.*\.ya?ml|package\.json|go\.(mod|sum|work)|go\.work\.sum|cargo\.(toml|lock)|pyproject\.toml|setup\.(py|cfg)|requirements.*\.txt|pipfile(\.lock)?|poetry\.lock|tox\.ini|noxfile\.py|pom\.xml|.*\.gradle(\.kts)?|gradlew(\.bat)?|mvnw(\.cmd)?|gemfile(\.lock)?|rakefile|.*\.gemspec|composer\.(json|lock)|package-lock\.json|yarn\.lock|pnpm-lock\.yaml|.*\.(csproj|sln|vcxproj)|configure(\.ac)?|.*\.am|vite\.config\..*|webpack\.config\..*|rollup\.config\..*|justfile|taskfile\.ya?ml|jenkinsfile)$`)

func builds(_ File, parts []string, base string) (string, string) {
	if buildNames.find(base) != "" {
		return Build, "named as a build file"
	}
	if d := inFolder(parts, ".github", ".gitlab", ".circleci", ".ci", "ci", "build-aux"); d != "" {
		return Build, "in a folder called " + d
	}
	if base == ".gitlab-ci.yml" || base == ".travis.yml" || base == "azure-pipelines.yml" {
		return Build, "named as a CI file"
	}
	return "", ""
}

func schemas(f File, parts []string, base string) (string, string) {
	switch f.Language {
	case "SQL", "Protocol Buffers", "GraphQL", "Thrift", "Cap'n Proto":
		return Schema, "written in " + f.Language
	}
	if schemaNames.MatchString(base) {
		return Schema, "named as a schema"
	}
	if d := inFolder(parts, "migrations", "schemas", "schema"); d != "" {
		return Schema, "in a folder called " + d
	}
	return "", ""
}

var schemaNames = regexp.MustCompile(`(\.schema\.json|\.xsd|\.avsc|^(openapi|swagger)\.(json|ya?ml))$`)

var assetNames = map[string]bool{ // by extension
	"png": true, "jpg": true, "jpeg": true, "gif": true, "ico": true, "icns": true, "webp": true, "avif": true, "bmp": true, "tif": true, "tiff": true,
	"svg": true, "eps": true, "ai": true, "psd": true, "xcf": true, "woff": true, "woff2": true, "ttf": true, "otf": true, "eot": true, "mp3": true,
	"mp4": true, "wav": true, "ogg": true, "flac": true, "avi": true, "mov": true, "webm": true, "zip": true, "gz": true, "tgz": true, "bz2": true,
	"xz": true, "7z": true, "jar": true, "so": true, "dll": true, "exe": true, "o": true, "a": true, "bin": true, "dat": true, "db": true,
	"sqlite": true, "sqlite3": true, "csv": true, "tsv": true, "geojson": true, "parquet": true, "wasm": true,
}

func assets(f File, parts []string, base string) (string, string) {
	if ext := path.Ext(base); ext != "" && assetNames[ext[1:]] {
		return Asset, "named *" + ext
	}
	if f.Binary {
		return Asset, "binary"
	}
	if d := inFolder(parts, "assets", "images", "img", "icons", "fonts", "media"); d != "" && f.Language != "" && !isCode(f.Language) {
		return Asset, "in a folder called " + d
	}
	return "", ""
}

var configNames = regexp.MustCompile(`\.config\.[cm]?[jt]s$`)

func configurations(f File, _ []string, base string) (string, string) {
	switch f.Language {
	case "YAML", "TOML", "INI", "JSON", "XML", "Git list", "HCL":
		return Configuration, "written in " + f.Language
	}
	if strings.HasPrefix(base, ".") && !isCode(f.Language) {
		return Configuration, "a name that begins with a dot"
	}
	if configNames.MatchString(base) {
		return Configuration, "named as a configuration"
	}
	return "", ""
}

func isCode(language string) bool {
	switch language {
	case "", "JSON", "YAML", "TOML", "INI", "XML", "CSV", "Text", "Markdown", "reStructuredText", "Git list", "Go checksums", "plaintext":
		return false
	}
	return true
}

func sources(f File, _ []string, _ string) (string, string) {
	if isCode(f.Language) {
		return Source, "written in " + f.Language
	}
	return "", ""
}

// IsReadme tells a readme wherever and however it is named.
func IsReadme(p string) bool { return readme.MatchString(path.Base(p)) }

var readme = regexp.MustCompile(`(?i)^(readme|lies[_-]?mich|lisez[_-]?moi|leeme|leia[_-]?me)([._-].*)?$`)

// WantsAttributes tells whether a tree holds files that give attributes.
func WantsAttributes(entries []repo.Entry) bool {
	for _, e := range entries {
		if path.Base(e.Path) == ".gitattributes" {
			return true
		}
	}
	return false
}
