package origin

import (
	"context"
	"encoding/json"
	"path"
	"regexp"
	"sort"
	"strings"

	"juxtagram/core/lang"
)

// rubyPaths resolves require and require_relative.
type rubyPaths struct {
	tree     *Tree
	standard map[string]bool
	roots    []string // load paths: lib and app folders
	gems     map[string]Origin
}

var gemLine = regexp.MustCompile(`(?m)^\s*(?:gem|\w+\.add_(?:runtime_|development_)?dependency)[\s(]+["']([\w.-]+)["'](?:\s*,\s*["']([^"']*)["'])?`)

func openRuby(_ context.Context, t *Tree) Resolver {
	r := &rubyPaths{tree: t, standard: standard("ruby"), gems: map[string]Origin{}}
	for d := range t.folders {
		switch path.Base(d) {
		case "lib", "app", "test", "spec", "ext":
			r.roots = append(r.roots, d)
		}
	}
	r.roots = append(append(r.roots, t.Roots...), "")
	sort.Strings(r.roots)
	for _, p := range t.manifestsNamed(func(base string) bool { return base == "Gemfile" || hasSuffix(base, ".gemspec") }) {
		content := t.Manifests[p]
		for _, m := range gemLine.FindAllSubmatchIndex(content, -1) {
			o := Origin{To: ToDependency, Name: string(content[m[2]:m[3]]), In: p, Line: strings.Count(string(content[:m[2]]), "\n") + 1}
			if m[4] >= 0 {
				o.Version = string(content[m[4]:m[5]])
			}
			if _, ok := r.gems[o.Name]; !ok {
				r.gems[o.Name] = o
			}
		}
	}
	return r
}

func (r *rubyPaths) Resolve(from *File, i *lang.Import) Origin {
	dir, _ := split(from.Path)
	text := strings.TrimSuffix(i.Text, ".rb")
	if strings.HasPrefix(i.Text, ".") {
		if p, ok := join(dir, text); ok {
			if o, ok := r.tree.file(p + ".rb"); ok {
				return o
			}
			if o, ok := r.tree.file(path.Join(dir, i.Text)); ok {
				return o
			}
			return Origin{To: Unresolved, Reason: "there is no " + p + ".rb", Near: r.tree.Near(from.Path, text)}
		}
		return Origin{To: Unresolved, Reason: "it leads above the repository"}
	}
	best, nearest := int32(-1), 1<<30
	for _, root := range r.roots {
		for _, p := range []string{path.Join(root, text+".rb"), path.Join(root, i.Text)} {
			if f := r.tree.Find(p); f >= 0 {
				if far := distance(from.Path, p); far < nearest {
					best, nearest = f, far
				}
			}
		}
	}
	if best >= 0 {
		return Origin{To: ToFile, Files: []int32{best}}
	}
	if r.standard[text] {
		return Origin{To: ToStandard, Name: text}
	}
	first, _, _ := strings.Cut(text, "/")
	for _, name := range []string{text, first, strings.ReplaceAll(text, "/", "-"), strings.ReplaceAll(first, "_", "-")} {
		if o, ok := r.gems[name]; ok {
			return o
		}
	}
	if r.standard[first] {
		return Origin{To: ToStandard, Name: text}
	}
	if f := r.tree.Find(path.Join(dir, text+".rb")); f >= 0 {
		return Origin{To: ToFile, Files: []int32{f}, Guess: true, Reason: "if " + orRoot(dir) + " is on the load path"}
	}
	return Origin{To: Unresolved, Reason: "no load path holds it, and no Gemfile or gemspec names it", Near: r.tree.Near(from.Path, text)}
}

// phpNames resolves namespaces by composer's autoload and by what files
// declare, and included files.
type phpNames struct {
	tree    *Tree
	classes map[string][]int32 // namespace\Name in lower case → files
	prefix  []phpPrefix        // longest first
	depends map[string]Origin  // vendor in lower case → a package of it
}

type phpPrefix struct {
	namespace, folder string
	flat              bool // psr-4: the namespace itself is no folder
}

func openPHP(_ context.Context, t *Tree) Resolver {
	p := &phpNames{tree: t, classes: map[string][]int32{}, depends: map[string]Origin{}}
	for i := range t.Files {
		f := &t.Files[i]
		if f.Language == "PHP" {
			name := strings.ToLower(strings.TrimPrefix(f.Package+`\`+stemOf(path.Base(f.Path)), `\`))
			p.classes[name] = append(p.classes[name], int32(i))
		}
	}
	for _, m := range t.manifestsNamed(oneOf("composer.json")) {
		p.composer(m, t.Manifests[m])
	}
	sort.SliceStable(p.prefix, func(i, j int) bool { return len(p.prefix[i].namespace) > len(p.prefix[j].namespace) })
	return p
}

func (p *phpNames) composer(manifest string, content []byte) {
	type autoload struct {
		PSR4 map[string]json.RawMessage `json:"psr-4"`
		PSR0 map[string]json.RawMessage `json:"psr-0"`
	}
	var f struct {
		Autoload autoload          `json:"autoload"`
		Dev      autoload          `json:"autoload-dev"`
		Require  map[string]string `json:"require"`
		Other    map[string]string `json:"require-dev"`
	}
	if readLoose(content, &f) != nil {
		return
	}
	dir, _ := split(manifest)
	for _, a := range []autoload{f.Autoload, f.Dev} {
		for _, table := range []struct {
			flat  bool
			names map[string]json.RawMessage
		}{{true, a.PSR4}, {false, a.PSR0}} {
			for _, ns := range sortedKeys(table.names) {
				var folders []string
				var one string
				if json.Unmarshal(table.names[ns], &one) == nil {
					folders = []string{one}
				} else if json.Unmarshal(table.names[ns], &folders) != nil {
					continue
				}
				for _, folder := range folders {
					if at, ok := join(dir, folder); ok {
						p.prefix = append(p.prefix, phpPrefix{strings.Trim(ns, `\`), at, table.flat})
					}
				}
			}
		}
	}
	for _, table := range []map[string]string{f.Require, f.Other} {
		for _, name := range sortedKeys(table) {
			vendor, _, ok := strings.Cut(name, "/")
			if key := fold(vendor); ok && p.depends[key].Name == "" {
				p.depends[key] = Origin{To: ToDependency, Name: name, Version: table[name], In: manifest, Line: lineWith(content, `"`+name+`"`)}
			}
		}
	}
}

func (p *phpNames) Resolve(from *File, i *lang.Import) Origin {
	text := strings.TrimPrefix(i.Text, `\`)
	if strings.ContainsAny(text, "/.") || strings.HasSuffix(text, ".php") {
		return p.include(from, text)
	}
	for _, pre := range p.prefix {
		rest, ok := strings.CutPrefix(text, pre.namespace+`\`)
		if pre.namespace == "" {
			rest, ok = text, true
		}
		if !ok {
			continue
		}
		if !pre.flat {
			rest = text
		}
		if o, ok := p.tree.file(path.Join(pre.folder, strings.ReplaceAll(rest, `\`, "/")+".php")); ok {
			return o
		}
	}
	if files := p.classes[strings.ToLower(text)]; len(files) > 0 {
		return Origin{To: ToFile, Files: files[:1]}
	}
	if files := p.tree.packages[text]; len(files) > 0 {
		return Origin{To: ToFile, Files: files}
	}
	if cut := strings.LastIndexByte(text, '\\'); cut > 0 {
		// a function or constant of a namespace; a class has a file of its name
		if files := p.tree.packages[text[:cut]]; len(files) > 0 && (text[cut+1:] == strings.ToUpper(text[cut+1:]) || text[cut+1] >= 'a') {
			return Origin{To: ToFile, Files: files, Guess: true, Reason: "some file of the namespace declares it"}
		}
	} else {
		return Origin{To: ToStandard, Name: text}
	}
	first, _, _ := strings.Cut(text, `\`)
	if o, ok := p.depends[fold(first)]; ok {
		o.Guess, o.Reason = true, "a package of that vendor"
		return o
	}
	return Origin{To: Unresolved, Reason: "no autoload rule leads to a file, and no file declares it", Near: p.tree.Near(from.Path, text[strings.LastIndexByte(text, '\\')+1:])}
}

func (p *phpNames) include(from *File, text string) Origin {
	dir, _ := split(from.Path)
	rel := strings.TrimLeft(strings.ReplaceAll(text, string(lang.Gap), ""), "/")
	for d := range upward(dir) {
		if at, ok := join(d, rel); ok {
			if o, ok := p.tree.file(at); ok {
				if d != dir {
					o.Guess, o.Reason = true, "from "+orRoot(d)
				}
				return o
			}
		}
	}
	best, nearest := int32(-1), 1<<30
	for _, f := range p.tree.bases[path.Base(rel)] {
		at := p.tree.Files[f].Path
		if strings.HasSuffix("/"+at, "/"+rel) {
			if far := distance(from.Path, at); far < nearest {
				best, nearest = f, far
			}
		}
	}
	if best >= 0 {
		return Origin{To: ToFile, Files: []int32{best}, Guess: true, Reason: "a path that ends like it"}
	}
	return Origin{To: Unresolved, Reason: "no folder above holds it", Near: p.tree.Near(from.Path, rel)}
}
