package all

import (
	"bytes"
	"path"
	"strings"
	"sync"

	"juxtagram/core/lang"
)

type index struct {
	list                  []*lang.Language
	name, ext, file, bang map[string]*lang.Language
}

var build = sync.OnceValue(func() *index {
	x := &index{name: map[string]*lang.Language{}, ext: map[string]*lang.Language{}, file: map[string]*lang.Language{}, bang: map[string]*lang.Language{}}
	x.add(Parsed)
	x.add(withLines(Lexed))
	taken := map[string]bool{}
	for _, l := range x.list {
		taken[strings.ToLower(l.Name)] = true
		taken[strings.ToLower(l.Lexer)] = true
	}
	x.add(withLines(library(taken)))
	return x
})

// add enters languages; what an earlier one claims stays its own.
func (x *index) add(list []*lang.Language) {
	claim := func(m map[string]*lang.Language, keys []string, l *lang.Language) {
		for _, k := range keys {
			if k = strings.ToLower(k); m[k] == nil {
				m[k] = l
			}
		}
	}
	for _, l := range list {
		x.list = append(x.list, l)
		claim(x.name, []string{l.Name}, l)
		claim(x.ext, l.Extensions, l)
		claim(x.file, l.Filenames, l)
		claim(x.bang, l.Shebangs, l)
	}
}

// Languages lists every known language: parsed ones first.
func Languages() []*lang.Language { return build().list }

// ByName finds a language by its name in any letter case; nil: unknown.
func ByName(name string) *lang.Language { return build().name[strings.ToLower(name)] }

// OfPath tells a file's language by its name alone; nil: the name does not
// say. Whole names win over extensions, longer extensions over shorter ones.
func OfPath(p string) *lang.Language {
	x := build()
	base := strings.ToLower(path.Base(p))
	if l := x.file[base]; l != nil {
		return l
	}
	for i := 0; i < len(base); i++ {
		if base[i] == '.' {
			if l := x.ext[base[i:]]; l != nil {
				return l
			}
		}
	}
	if stem, _, ok := strings.Cut(base, "."); ok && (stem == "dockerfile" || stem == "makefile") {
		return x.file[stem]
	}
	return nil
}

// Of tells a file's language by its name, or else by the interpreter its first
// line names; nil: none recognised.
func Of(p string, content []byte) *lang.Language {
	if l := OfPath(p); l != nil {
		return l
	}
	if name := Shebang(content); name != "" {
		return build().bang[name]
	}
	return nil
}

// Shebang is the interpreter that a "#!" first line names, without folder and
// version ("python"); "" when there is none.
func Shebang(content []byte) string {
	if !bytes.HasPrefix(content, []byte("#!")) {
		return ""
	}
	line, _, _ := bytes.Cut(content[2:min(len(content), 300)], []byte("\n"))
	fields := strings.Fields(string(line))
	if len(fields) == 0 {
		return ""
	}
	name := path.Base(fields[0])
	if name == "env" {
		name = ""
		for _, f := range fields[1:] {
			if !strings.HasPrefix(f, "-") && !strings.Contains(f, "=") {
				name = path.Base(f)
				break
			}
		}
	}
	name = strings.ToLower(name)
	if trimmed := strings.TrimRight(name, "0123456789."); trimmed != "" && build().bang[name] == nil {
		name = trimmed
	}
	return name
}
