package origin

import (
	"context"
	"path"
	"regexp"
	"strings"

	"juxtagram/core/lang"
)

// sharpNames resolves the namespaces of C#.
type sharpNames struct {
	tree    *Tree
	depends []Origin
}

var packageReference = regexp.MustCompile(`<PackageReference\s+[^>]*Include="([^"]+)"(?:[^>]*Version="([^"]*)")?`)

func openCSharp(_ context.Context, t *Tree) Resolver {
	s := &sharpNames{tree: t}
	for _, p := range t.manifestsNamed(func(base string) bool { return hasSuffix(base, ".csproj") }) {
		content := t.Manifests[p]
		for _, m := range packageReference.FindAllSubmatchIndex(content, -1) {
			o := Origin{To: ToDependency, Name: string(content[m[2]:m[3]]), In: p, Line: strings.Count(string(content[:m[0]]), "\n") + 1}
			if m[4] >= 0 {
				o.Version = string(content[m[4]:m[5]])
			}
			s.depends = append(s.depends, o)
		}
	}
	return s
}

func (s *sharpNames) Resolve(from *File, i *lang.Import) Origin {
	if files := s.tree.packages[i.Text]; len(files) > 0 {
		return Origin{To: ToFile, Files: files}
	}
	for _, o := range s.depends {
		if strings.HasPrefix(i.Text+".", o.Name+".") {
			return o
		}
	}
	if first, _, _ := strings.Cut(i.Text, "."); first == "System" || first == "Microsoft" {
		return Origin{To: ToStandard, Name: i.Text}
	}
	for _, o := range s.depends {
		if commonParts(i.Text, o.Name) > 0 {
			o.Guess, o.Reason = true, "its name begins like the package"
			return o
		}
	}
	return Origin{To: Unresolved, Reason: "no file declares the namespace, and no project refers to a package of that name", Near: s.tree.Near(from.Path, i.Text[strings.LastIndexByte(i.Text, '.')+1:])}
}

// plainPaths resolves what names files by path: scripts, pages, style sheets,
// schemas.
type plainPaths struct{ tree *Tree }

func openPaths(_ context.Context, t *Tree) Resolver { return &plainPaths{t} }

func (p *plainPaths) Resolve(from *File, i *lang.Import) Origin {
	dir, _ := split(from.Path)
	text, _, _ := strings.Cut(i.Text, "?")
	text, _, _ = strings.Cut(text, "#")
	if strings.Contains(text, "://") || strings.HasPrefix(text, "//") {
		return Origin{To: Unresolved, Reason: "an address on a network; nothing is fetched"}
	}
	tries := []string{text}
	switch from.Language {
	case "Lua":
		tries = []string{strings.ReplaceAll(text, ".", "/") + ".lua", strings.ReplaceAll(text, ".", "/") + "/init.lua"}
	case "SCSS", "CSS":
		d, base := split(text)
		tries = append(tries, text+".scss", path.Join(d, "_"+base+".scss"), text+".css", text+".less")
	case "Protocol Buffers":
		if strings.HasPrefix(text, "google/protobuf/") {
			return Origin{To: ToStandard, Name: text}
		}
	}
	for _, t := range tries {
		t = strings.TrimPrefix(strings.ReplaceAll(t, string(lang.Gap), ""), "/")
		for d := range upward(dir) {
			if at, ok := join(d, t); ok && at != from.Path {
				if o, ok := p.tree.file(at); ok {
					if d != dir {
						o.Guess, o.Reason = true, "from "+orRoot(d)
					}
					return o
				}
			}
		}
		best, nearest := int32(-1), 1<<30
		for _, f := range p.tree.bases[path.Base(t)] {
			at := p.tree.Files[f].Path
			if strings.HasSuffix("/"+at, "/"+strings.TrimLeft(path.Clean(t), "./")) && at != from.Path {
				if far := distance(from.Path, at); far < nearest {
					best, nearest = f, far
				}
			}
		}
		if best >= 0 && len(t) > 3 {
			return Origin{To: ToFile, Files: []int32{best}, Guess: true, Reason: "a path that ends like it"}
		}
	}
	return Origin{To: Unresolved, Reason: "no file of this repository has that path", Near: p.tree.Near(from.Path, text)}
}
