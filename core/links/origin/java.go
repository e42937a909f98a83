package origin

import (
	"context"
	"path"
	"regexp"
	"strings"

	"juxtagram/core/lang"
)

// javaPackages resolves imports by the packages that files declare.
type javaPackages struct {
	tree     *Tree
	declared []javaDependency
}

type javaDependency struct {
	group, name, version, manifest string
	line                           int
}

var (
	mavenDependency  = regexp.MustCompile(`(?s)<dependency>(.*?)</dependency>`)
	mavenElement     = regexp.MustCompile(`<(groupId|artifactId|version)>\s*([^<]*?)\s*</`)
	gradleDependency = regexp.MustCompile(`["']([A-Za-z][\w.-]*\.[\w.-]+):([\w.-]+)(?::([^"'@]*))?["']`)
	catalogModule    = regexp.MustCompile(`module\s*=\s*"([\w.-]+):([\w.-]+)"`)
)

func openJava(_ context.Context, t *Tree) Resolver {
	j := &javaPackages{tree: t}
	for _, p := range t.manifestsNamed(oneOf("pom.xml")) {
		content := t.Manifests[p]
		for _, m := range mavenDependency.FindAllSubmatchIndex(content, -1) {
			d := javaDependency{manifest: p, line: strings.Count(string(content[:m[0]]), "\n") + 1}
			for _, e := range mavenElement.FindAllSubmatch(content[m[2]:m[3]], -1) {
				switch string(e[1]) {
				case "groupId":
					d.group = string(e[2])
				case "artifactId":
					d.name = string(e[2])
				case "version":
					d.version = string(e[2])
				}
			}
			if d.group != "" && !strings.HasPrefix(d.group, "$") {
				j.declared = append(j.declared, d)
			}
		}
	}
	for _, p := range t.manifestsNamed(oneOf("build.gradle", "build.gradle.kts", "libs.versions.toml")) {
		content := t.Manifests[p]
		for _, re := range []*regexp.Regexp{gradleDependency, catalogModule} {
			for _, m := range re.FindAllSubmatchIndex(content, -1) {
				d := javaDependency{group: string(content[m[2]:m[3]]), name: string(content[m[4]:m[5]]), manifest: p, line: strings.Count(string(content[:m[0]]), "\n") + 1}
				if len(m) > 6 && m[6] >= 0 {
					d.version = string(content[m[6]:m[7]])
				}
				j.declared = append(j.declared, d)
			}
		}
	}
	return j
}

// platform are packages that come with Java, Kotlin or Scala themselves.
var platform = []string{"java.", "javax.", "jdk.", "sun.", "com.sun.", "org.w3c.dom", "org.xml.sax", "org.ietf.jgss", "kotlin.", "scala.", "groovy.", "netscape."}

func (j *javaPackages) Resolve(from *File, i *lang.Import) Origin {
	text := strings.TrimPrefix(strings.TrimSuffix(i.Text, ";"), "static ")
	if o, ok := j.inTree(from, text); ok {
		return o
	}
	for _, p := range platform {
		if strings.HasPrefix(text, p) {
			return Origin{To: ToStandard, Name: text}
		}
	}
	if o, ok := j.dependency(text); ok {
		return o
	}
	parts := strings.Split(strings.TrimSuffix(text, ".*"), ".")
	wanted := parts[len(parts)-1]
	for k := len(parts) - 1; k >= 0 && wanted != "" && wanted[0] >= 'a' && wanted[0] <= 'z'; k-- {
		wanted = parts[k] // a member: its class is what is missing
	}
	return Origin{To: Unresolved, Reason: "no file declares it, and no manifest names a group that fits", Near: j.tree.Near(from.Path, wanted)}
}

// inTree finds the file of a class, or of the class that one is nested in, or
// all files of a package.
func (j *javaPackages) inTree(from *File, text string) (Origin, bool) {
	if pkg, ok := strings.CutSuffix(text, ".*"); ok {
		if files := j.tree.packages[pkg]; len(files) > 0 {
			return Origin{To: ToFile, Files: files}, true
		}
		text = pkg
	}
	for name := text; strings.Contains(name, "."); {
		cut := strings.LastIndexByte(name, '.')
		pkg, class := name[:cut], name[cut+1:]
		if f := j.class(from, pkg, class); f >= 0 {
			return Origin{To: ToFile, Files: []int32{f}}, true
		}
		name = pkg
	}
	// Kotlin and Scala put names where they like: any file of the package
	if cut := strings.LastIndexByte(text, '.'); cut > 0 && from.Language != "Java" {
		if files := j.tree.packages[text[:cut]]; len(files) > 0 {
			return Origin{To: ToFile, Files: files, Guess: true, Reason: "some file of the package declares it"}, true
		}
	}
	return Origin{}, false
}

// class is the file of a package that is named like a class; of several, as in
// one source root for each variant, the nearest.
func (j *javaPackages) class(from *File, pkg, class string) int32 {
	best, nearest := int32(-1), 1<<30
	for _, f := range j.tree.packages[pkg] {
		p := j.tree.Files[f].Path
		if stemOf(path.Base(p)) == class {
			if far := distance(from.Path, p); far < nearest {
				best, nearest = f, far
			}
		}
	}
	return best
}

// dependency finds a declared group that an import's package begins with, or
// shares most of its beginning with.
func (j *javaPackages) dependency(text string) (Origin, bool) {
	best, length := -1, 0
	for k := range j.declared {
		d := &j.declared[k]
		same := commonParts(text, d.group)
		fits := strings.HasPrefix(text+".", d.group+".") || same >= 2 && same >= strings.Count(d.group, ".")
		if !fits {
			continue
		}
		score := same*100 + nameFit(text, d.name)
		if score > length {
			best, length = k, score
		}
	}
	if best < 0 {
		return Origin{}, false
	}
	d := &j.declared[best]
	o := Origin{To: ToDependency, Name: d.group + ":" + d.name, Version: d.version, In: d.manifest, Line: d.line}
	if !strings.HasPrefix(text+".", d.group+".") {
		o.Guess, o.Reason = true, "its group begins like the package"
	}
	return o, true
}

// nameFit counts the words of an artifact's name that a package has, too.
func nameFit(text, name string) int {
	n := 0
	for _, word := range strings.FieldsFunc(name, func(r rune) bool { return r == '-' || r == '.' }) {
		if strings.Contains(text, word) {
			n++
		}
	}
	return n
}

func commonParts(a, b string) int {
	pa, pb := strings.Split(a, "."), strings.Split(b, ".")
	n := 0
	for n < len(pa) && n < len(pb) && pa[n] == pb[n] {
		n++
	}
	return n
}
