package origin

import (
	"path"
	"strings"
)

// written are the sources and types that a module named with its built
// extension means.
var written = map[string][]string{
	".js": {".ts", ".tsx", ".d.ts"}, ".mjs": {".mts", ".d.mts"}, ".cjs": {".cts", ".d.cts"}, ".jsx": {".tsx", ".d.ts"},
	".ts": {".d.ts"}, ".mts": {".d.mts"}, ".cts": {".d.cts"},
}

// built tells paths that a build commonly makes.
func built(p string) bool {
	for _, part := range strings.Split(p, "/") {
		switch part {
		case "dist", "build", "out", "lib-cov", "generated", "__generated__", ".next", ".nuxt", "es", "esm", "cjs":
			return true
		}
	}
	return false
}

// atPath finds a module's file: as written, with an extension, as the source
// of a built name, as a folder's index or main file; -1: none.
func (n *nodePackages) atPath(p string, typed bool) int32 {
	if ext := path.Ext(p); written[ext] != nil {
		if f := n.tree.Find(p); f >= 0 && (!typed || strings.HasSuffix(ext, "ts")) {
			return f
		}
		for _, w := range written[ext] {
			if f := n.tree.Find(strings.TrimSuffix(p, ext) + w); f >= 0 {
				return f
			}
		}
	}
	extensions := plainExtensions
	if typed {
		extensions = typedExtensions
	}
	if f := n.tree.Find(p); f >= 0 {
		return f
	}
	for _, ext := range extensions {
		if f := n.tree.Find(p + ext); f >= 0 {
			return f
		}
	}
	if !n.tree.IsFolder(p) {
		return -1
	}
	if pkg := n.packages[p]; pkg != nil {
		for _, main := range pkg.mains(typed) {
			if at, ok := join(p, main); ok && main != "" && at != p {
				if f := n.atPath(at, typed); f >= 0 {
					return f
				}
			}
		}
	}
	for _, ext := range extensions {
		if f := n.tree.Find(path.Join(p, "index"+ext)); f >= 0 {
			return f
		}
	}
	return -1
}

// mains are a package's main files, the one that serves the asker best first.
func (p *nodePackage) mains(typed bool) []string {
	if typed {
		return []string{p.Types, p.Typings, p.Source, p.Module, p.Main}
	}
	return []string{p.Source, p.Module, p.Main, p.Types, p.Typings}
}

// typesFor is a path as typesVersions sends it, for the newest compiler.
func (p *nodePackage) typesFor(target string) string {
	for _, v := range sortedKeys(p.TypesVersions) {
		if !strings.HasPrefix(v, ">") && v != "*" {
			continue
		}
		for _, from := range sortedKeys(p.TypesVersions[v]) {
			to := p.TypesVersions[v][from]
			head, tail, star := strings.Cut(from, "*")
			plain := strings.TrimPrefix(target, "./")
			switch {
			case len(to) == 0:
			case !star && strings.TrimPrefix(from, "./") == plain:
				return to[0]
			case star && strings.HasPrefix(plain, head) && strings.HasSuffix(plain, tail) && len(plain) >= len(head)+len(tail):
				return strings.Replace(to[0], "*", plain[len(head):len(plain)-len(tail)], 1)
			}
		}
	}
	return target
}

// inside finds a file of a package that is in this repository: by its exports,
// else by its main file or the path as written; what is built is followed to
// its source where that stands where sources do.
func (n *nodePackages) inside(pkg *nodePackage, sub string, typed bool) (Origin, bool) {
	var targets []string
	if len(pkg.Exports) > 0 && string(pkg.Exports) != "null" {
		targets = exportTargets(pkg.Exports, "./"+sub, typed)
	} else if sub == "" {
		targets = append(pkg.mains(typed), "index")
	} else {
		targets = []string{sub}
	}
	if typed {
		for i, t := range targets {
			targets[i] = pkg.typesFor(t)
		}
	}
	for _, t := range targets {
		if t == "" {
			continue
		}
		if p, ok := join(pkg.folder, t); ok {
			if f := n.atPath(p, typed); f >= 0 {
				return Origin{To: ToFile, Files: []int32{f}}, true
			}
		}
	}
	if sub == "" {
		targets = append(targets, "src/index", "src/main", "lib/index")
	} else {
		targets = append(targets, "src/"+sub)
	}
	for _, t := range targets {
		if p, ok := join(pkg.folder, sourceOf(t)); ok && t != "" {
			if f := n.atPath(p, typed); f >= 0 {
				return Origin{To: ToFile, Files: []int32{f}, Guess: true, Reason: "the source of what " + pkg.manifest + " offers, which is built"}, true
			}
		}
	}
	return Origin{}, false
}

// sourceOf is where the source of a built file commonly stands.
func sourceOf(target string) string {
	t := strings.TrimPrefix(target, "./")
	for _, dir := range []string{"dist/", "build/", "lib/", "out/", "es/", "esm/", "cjs/", "types/"} {
		if rest, ok := strings.CutPrefix(t, dir); ok {
			t = "src/" + rest
			break
		}
	}
	for _, ext := range []string{".d.ts", ".d.mts", ".d.cts", ".mjs", ".cjs", ".js"} {
		if s, ok := strings.CutSuffix(t, ext); ok {
			return s
		}
	}
	return t
}
