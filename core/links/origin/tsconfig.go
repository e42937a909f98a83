package origin

import (
	"bytes"
	"encoding/json"
	"path"
	"sort"
	"strings"
)

// tsConfig is what a tsconfig says of paths, with what it extends.
type tsConfig struct {
	base    string // folder that plain names are looked up in; only if hasBase
	hasBase bool
	paths   []tsPath
}

type tsPath struct {
	head, tail string // around the star; whole names have no star
	star       bool
	targets    []string // from the repository's root
}

type tsFile struct {
	Extends json.RawMessage `json:"extends"`
	Options struct {
		BaseURL *string             `json:"baseUrl"`
		Paths   map[string][]string `json:"paths"`
	} `json:"compilerOptions"`
	References []struct {
		Path string `json:"path"`
	} `json:"references"`
}

// readLoose decodes JSON in which comments and commas at the end stand.
func readLoose(text []byte, into any) error {
	if json.Unmarshal(bytes.TrimPrefix(text, []byte("\xef\xbb\xbf")), into) == nil {
		return nil
	}
	return json.Unmarshal(withoutComments(text), into)
}

// withoutComments blanks comments and commas before a closing bracket.
func withoutComments(text []byte) []byte {
	out := append([]byte{}, bytes.TrimPrefix(text, []byte("\xef\xbb\xbf"))...)
	comma := -1
	for i := 0; i < len(out); i++ {
		switch c := out[i]; {
		case c == '"':
			comma = -1
			for i++; i < len(out) && out[i] != '"'; i++ {
				if out[i] == '\\' {
					i++
				}
			}
		case c == '/' && i+1 < len(out) && (out[i+1] == '/' || out[i+1] == '*'):
			end := bytes.IndexByte(out[i:], '\n')
			if out[i+1] == '*' {
				if end = bytes.Index(out[i+2:], []byte("*/")); end >= 0 {
					end += 4
				}
			}
			if end < 0 {
				end = len(out) - i
			}
			for k := i; k < i+end; k++ {
				if out[k] != '\n' {
					out[k] = ' '
				}
			}
			i += end - 1
		case c == ',':
			comma = i
		case c == '}' || c == ']':
			if comma >= 0 {
				out[comma] = ' '
			}
			comma = -1
		case c != ' ' && c != '\t' && c != '\n' && c != '\r':
			comma = -1
		}
	}
	return out
}

// readConfigs reads every tsconfig; those of one folder are taken together,
// the plain one first.
func (n *nodePackages) readConfigs() {
	names := n.tree.manifestsNamed(func(base string) bool { return base != "package.json" && nodeManifest(base) })
	sort.SliceStable(names, func(i, j int) bool { return rankConfig(names[i]) < rankConfig(names[j]) })
	for _, p := range names {
		dir, _ := split(p)
		c := n.config(p, map[string]bool{})
		if c == nil || !c.hasBase && len(c.paths) == 0 {
			continue
		}
		if known := n.configs[dir]; known == nil {
			n.configs[dir] = c
		} else if len(known.paths) == 0 {
			known.paths = c.paths
		}
	}
}

func rankConfig(p string) int {
	switch path.Base(p) {
	case "tsconfig.json":
		return 0
	case "jsconfig.json":
		return 1
	}
	return 2
}

// config reads one tsconfig with what it extends; a circle ends where it closes.
func (n *nodePackages) config(p string, seen map[string]bool) *tsConfig {
	if seen[p] || n.tree.Manifests[p] == nil {
		return nil
	}
	seen[p] = true
	var f tsFile
	if readLoose(n.tree.Manifests[p], &f) != nil {
		return nil
	}
	dir, _ := split(p)
	out := &tsConfig{}
	var parents []string
	var one string
	if json.Unmarshal(f.Extends, &one) == nil {
		parents = []string{one}
	} else {
		_ = json.Unmarshal(f.Extends, &parents) // neither: it extends nothing
	}
	for _, parent := range parents {
		for _, at := range []string{parent, parent + ".json", parent + "/tsconfig.json"} {
			if q, ok := join(dir, at); ok && strings.HasPrefix(parent, ".") {
				if c := n.config(q, seen); c != nil {
					*out = *c
					break
				}
			}
		}
	}
	if f.Options.BaseURL != nil {
		if b, ok := join(dir, *f.Options.BaseURL); ok {
			out.base, out.hasBase = b, true
		}
	}
	if len(f.Options.Paths) > 0 {
		from := dir
		if out.hasBase {
			from = out.base
		}
		out.paths = tsPaths(from, f.Options.Paths)
	}
	return out
}

func tsPaths(from string, paths map[string][]string) []tsPath {
	var out []tsPath
	for k, targets := range paths {
		p := tsPath{head: k}
		if head, tail, ok := strings.Cut(k, "*"); ok {
			p.head, p.tail, p.star = head, tail, true
		}
		for _, t := range targets {
			if at, ok := join(from, t); ok {
				p.targets = append(p.targets, at)
			}
		}
		out = append(out, p)
	}
	sort.Slice(out, func(i, j int) bool {
		if out[i].star != out[j].star {
			return !out[i].star
		}
		if len(out[i].head) != len(out[j].head) {
			return len(out[i].head) > len(out[j].head)
		}
		return out[i].head < out[j].head
	})
	return out
}

// mapped resolves a name by the nearest tsconfig's paths and base.
func (n *nodePackages) mapped(dir, text string, typed bool) (Origin, bool) {
	for d := range upward(dir) {
		c := n.configs[d]
		if c == nil {
			continue
		}
		for _, p := range c.paths {
			if !p.star && text != p.head || p.star && (!strings.HasPrefix(text, p.head) || !strings.HasSuffix(text, p.tail) || len(text) < len(p.head)+len(p.tail)) {
				continue
			}
			star := ""
			if p.star {
				star = text[len(p.head) : len(text)-len(p.tail)]
			}
			for _, t := range p.targets {
				if f := n.atPath(path.Clean(strings.Replace(t, "*", star, 1)), typed); f >= 0 {
					return Origin{To: ToFile, Files: []int32{f}}, true
				}
			}
			break // the longest match decides
		}
		if c.hasBase {
			if at, ok := join(c.base, text); ok {
				if f := n.atPath(at, typed); f >= 0 {
					return Origin{To: ToFile, Files: []int32{f}}, true
				}
			}
		}
		return Origin{}, false
	}
	return Origin{}, false
}
