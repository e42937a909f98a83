package origin

import (
	"context"
	"juxtagram/core/lang"
)

// Kind is what an origin is, as in the survey document.
type Kind string

// The kinds of origins.
const (
	ToFile       Kind = "file"
	ToStandard   Kind = "standard-library"
	ToDependency Kind = "dependency"
	ToGenerated  Kind = "generated"
	ToBinary     Kind = "binary"
	Unresolved   Kind = "unresolved"
)

// Origin is where an import comes from.
type Origin struct {
	_       struct{} `cbor:",toarray"`
	To      Kind
	Files   []int32  // indices in the tree's files; of ToFile, and of a dependency that is kept here too
	Name    string   // of the dependency, or the module of a standard library
	Version string   // of the dependency as the manifest asks for it; "": not told
	In      string   // the manifest that declares it; "": none
	Line    int      // its line there
	Reason  string   // why it is not resolved; what a guess rests on
	Guess   bool     // found by likelihood, not by a rule of the language
	Near    []string // paths or names that may have been meant, best first
}

// Resolver resolves the imports of one ecosystem's files. It may be called by
// several goroutines.
type Resolver interface {
	Resolve(from *File, i *lang.Import) Origin
}

// Ecosystem is how a family of languages finds what it imports.
type Ecosystem struct {
	Name      string
	Doc       string
	Languages []string
	Manifest  func(base string) bool // is a file of this name read?
	Open      func(ctx context.Context, t *Tree) Resolver
}

// Ecosystems are all of them.
var Ecosystems = []Ecosystem{
	{"Go", "Modules, workspaces, replacements and vendored folders.", []string{"Go"}, oneOf("go.mod", "go.work"), openGo},
	{"Node", "Relative files, packages with exports, workspaces, and the paths of tsconfig.", []string{"JavaScript", "TypeScript", "TSX", "Vue"}, nodeManifest, openNode},
	{"Python", "Packages, relative imports, namespace packages and src layouts.", []string{"Python", "Cython"}, pythonManifest, openPython},
	{"Java", "Packages below source roots; groups of dependencies.", []string{"Java", "Kotlin", "Scala", "Groovy"}, oneOf("pom.xml", "build.gradle", "build.gradle.kts", "libs.versions.toml"), openJava},
	{"C", "Includes beside the file, then in include folders, told as guesses.", []string{"C", "C++", "Objective-C", "Arduino"}, cManifest, openC},
	{"Rust", "Modules and crates.", []string{"Rust"}, oneOf("Cargo.toml"), openRust},
	{"Ruby", "Load paths and gems.", []string{"Ruby"}, func(base string) bool { return base == "Gemfile" || hasSuffix(base, ".gemspec") }, openRuby},
	{"PHP", "Namespaces by composer's autoload, and included files.", []string{"PHP"}, oneOf("composer.json"), openPHP},
	{"C#", "Namespaces and package references.", []string{"C#"}, func(base string) bool { return hasSuffix(base, ".csproj") }, openCSharp},
	{"paths", "Files named by their path.", []string{"Shell", "CSS", "SCSS", "HTML", "Protocol Buffers", "Lua", "HCL"}, func(string) bool { return false }, openPaths},
}

// MaxManifest is how large a manifest may be to be read, in bytes.
const MaxManifest = 1 << 20

// IsManifest tells whether some ecosystem reads files of this name.
func IsManifest(base string) bool {
	for i := range Ecosystems {
		if Ecosystems[i].Manifest(base) {
			return true
		}
	}
	return false
}

// Resolvers resolve for all ecosystems over one tree.
type Resolvers struct {
	tree *Tree
	of   map[string]Resolver // by language
}

// Open readies the resolvers that the tree's languages need.
func Open(ctx context.Context, t *Tree) *Resolvers {
	r := &Resolvers{tree: t, of: map[string]Resolver{}}
	present := map[string]bool{}
	for i := range t.Files {
		present[t.Files[i].Language] = true
	}
	for i := range Ecosystems {
		e := &Ecosystems[i]
		var opened Resolver
		for _, language := range e.Languages {
			if present[language] {
				if opened == nil {
					opened = e.Open(ctx, t)
				}
				r.of[language] = opened
			}
		}
	}
	return r
}

// Resolve says where an import of a file comes from.
func (r *Resolvers) Resolve(from *File, i *lang.Import) Origin {
	resolver := r.of[from.Language]
	if resolver == nil {
		return Origin{To: Unresolved, Reason: "how " + orThis(from.Language) + " finds what it imports is not known to the survey"}
	}
	o := resolver.Resolve(from, i)
	if o.To == ToFile && len(o.Files) == 1 && r.tree.Files[o.Files[0]].Binary {
		o.To, o.Reason = ToBinary, r.tree.Files[o.Files[0]].Path+" is binary"
	}
	return o
}

func orThis(language string) string {
	if language == "" {
		return "this file"
	}
	return language
}

// Key appends bytes that are the same for equal origins alone.
func (o *Origin) Key(b []byte) []byte {
	b = append(append(b, o.To...), 0)
	for _, f := range o.Files {
		b = append(b, byte(f), byte(f>>8), byte(f>>16), byte(f>>24))
	}
	for _, s := range []string{o.Name, o.Version, o.In, o.Reason} {
		b = append(append(b, 0), s...)
	}
	b = append(b, byte(o.Line), byte(o.Line>>8), byte(o.Line>>16), 0)
	if o.Guess {
		b = append(b, 1)
	}
	for _, n := range o.Near {
		b = append(append(b, 0), n...)
	}
	return b
}
