// Package twins finds files that do the same job for different cases: one for
// each platform, copies that went their own ways, the two ends of a
// conversation. Names say that they may be twins; what they hold must bear it.
package twins

import (
	"fmt"
	"path"
	"sort"
	"strings"

	"juxtagram/core/facts"
)

// Kind is how files are alike.
type Kind string

// The kinds, as in the survey document.
const (
	Platform    Kind = "platform"    // the same for another system
	Copy        Kind = "copy"        // much of the same text
	Counterpart Kind = "counterpart" // the other end: client and server
)

// File is what is known of one file.
type File struct {
	Path     string
	Language string
	Skip     bool     // not looked at: generated, vendored, a test
	Sketch   []uint32 // of facts.Matter
	Names    []string // of its callables, each once, in text order
}

// Twin is a pair of files. A is before B in path order.
type Twin struct {
	A, B     int
	Likeness float64 // 0..1, the share of runs of names they have in common
	Kind     Kind
	Evidence string
	Shared   []string // names of functions that both make
}

// Measures below which files are no twins.
const (
	leastCopy     = 0.5 // likeness of files whose names say nothing
	leastNamed    = 0.12
	leastShared   = 2 // functions of the same name in twins by name
	maxBucket     = 40
	maxTwins      = 5000
	probes        = 8 // hashes of a sketch by which others are met
	maxSharedTold = 40
)

// Find lists the twins among files: those of a kind that names tell first, the
// likest first.
func Find(files []File) []Twin {
	seen := map[[2]int]bool{}
	var out []Twin
	add := func(a, b int, kind Kind, why string, least float64) {
		if a > b {
			a, b = b, a
		}
		if a == b || seen[[2]int{a, b}] || files[a].Language != files[b].Language || len(out) >= maxTwins {
			return
		}
		t := Twin{A: a, B: b, Kind: kind, Evidence: why, Likeness: facts.Likeness(files[a].Sketch, files[b].Sketch), Shared: common(files[a].Names, files[b].Names)}
		if t.Likeness < least && (kind == Copy || len(t.Shared) < leastShared) {
			return
		}
		seen[[2]int{a, b}] = true
		if t.Likeness > 0 {
			t.Evidence += fmt.Sprintf("; %d %% of their runs of names are the same", int(100*t.Likeness+0.5))
		}
		if n := len(t.Shared); n > 0 {
			t.Evidence += fmt.Sprintf("; %d functions of the same name", n)
			if n == 1 {
				t.Evidence = strings.TrimSuffix(t.Evidence, "1 functions of the same name") + "1 function of the same name"
			}
		}
		out = append(out, t)
	}
	named := map[string][]int{}
	words := map[string][]string{}
	for i := range files {
		if files[i].Skip || files[i].Language == "" {
			continue
		}
		for _, k := range keys(files[i].Path) {
			named[k.text] = append(named[k.text], i)
			words[k.text] = append(words[k.text], k.word)
		}
	}
	for _, key := range sortedKeys(named) {
		list := named[key]
		if len(list) > maxBucket {
			continue
		}
		for x := range list {
			for y := x + 1; y < len(list); y++ {
				wx, wy := words[key][x], words[key][y]
				if wx == wy {
					continue
				}
				kind := Platform
				if key[0] == 'c' {
					kind = Counterpart
				}
				add(list[x], list[y], kind, "their names differ by "+orNone(wx)+" and "+orNone(wy), leastNamed)
			}
		}
	}
	byHash := map[uint32][]int{}
	for i := range files {
		if files[i].Skip || len(files[i].Sketch) < 24 {
			continue
		}
		for _, h := range files[i].Sketch[:min(probes, len(files[i].Sketch))] {
			byHash[h] = append(byHash[h], i)
		}
	}
	hashes := make([]uint32, 0, len(byHash))
	for h, list := range byHash {
		if len(list) > 1 && len(list) <= maxBucket {
			hashes = append(hashes, h)
		}
	}
	sort.Slice(hashes, func(i, j int) bool { return hashes[i] < hashes[j] })
	for _, h := range hashes {
		list := byHash[h]
		for x := range list {
			for y := x + 1; y < len(list); y++ {
				add(list[x], list[y], Copy, "their texts are alike", leastCopy)
			}
		}
	}
	sort.SliceStable(out, func(i, j int) bool {
		a, b := &out[i], &out[j]
		switch {
		case a.Likeness != b.Likeness:
			return a.Likeness > b.Likeness
		case a.A != b.A:
			return a.A < b.A
		}
		return a.B < b.B
	})
	return out
}

func orNone(word string) string {
	if word == "" {
		return "nothing"
	}
	return `"` + word + `"`
}

// key is what twins' paths have in common, and the word by which they differ.
type key struct{ text, word string }

// platforms are words for a system, a processor or a back end.
var platforms = words(`unix windows win win32 win64 linux darwin macos mac osx freebsd netbsd openbsd solaris aix android ios wasm js posix nt bsd
	amd64 x86 x64 i386 386 arm arm64 aarch64 armv7 riscv riscv64 mips ppc64 ppc64le s390x sse sse2 avx avx2 neon generic native stub fake mock noop other
	mysql postgres postgresql sqlite mssql oracle redis memory file http grpc tcp udp usb serial i2c spi esp32 stm32 avr rp2040 nrf52 sim host board
	esm cjs node browser deno web desktop mobile v1 v2 v3`)

// ends are words for the two sides of something.
var ends = words(`client server sender receiver encode decode encoder decoder reader writer read write producer consumer publisher subscriber pub sub
	request response source sink tx rx transmit receive host guest parent child import export serialize deserialize compress decompress encrypt decrypt push pull up down`)

func words(list string) map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(list) {
		out[w] = true
	}
	return out
}

// keys are a path without the words that tell a case. A file without any such
// word stands for the case that needs none, under keys of platforms only.
func keys(p string) []key {
	dir, base := path.Split(p)
	ext := path.Ext(base)
	stem := strings.TrimSuffix(base, ext)
	parts := split(stem)
	var out []key
	for i, w := range parts {
		low := strings.ToLower(w)
		rest := strings.ToLower(strings.Join(append(append([]string{}, parts[:i]...), parts[i+1:]...), "_"))
		if platforms[low] && rest != "" {
			out = append(out, key{"p" + dir + rest + ext, low})
		}
		if ends[low] {
			out = append(out, key{"c" + dir + rest + ext, low})
		}
	}
	if len(out) == 0 {
		out = append(out, key{"p" + dir + strings.ToLower(strings.Join(parts, "_")) + ext, ""})
	}
	folders := strings.Split(strings.TrimSuffix(dir, "/"), "/")
	for i, f := range folders {
		if low := strings.ToLower(f); platforms[low] || ends[low] {
			kind := "p"
			if ends[low] {
				kind = "c"
			}
			rest := append(append([]string{}, folders[:i]...), append([]string{"*"}, folders[i+1:]...)...)
			out = append(out, key{kind + strings.Join(rest, "/") + "/" + base, low})
		}
	}
	return out
}

// split parts a file's stem into its words.
func split(stem string) []string {
	var out []string
	start := 0
	cut := func(at int) {
		if at > start {
			out = append(out, stem[start:at])
		}
	}
	for i := 0; i < len(stem); i++ {
		switch c := stem[i]; {
		case c == '_' || c == '-' || c == '.':
			cut(i)
			start = i + 1
		case c >= 'A' && c <= 'Z' && i > start && stem[i-1] >= 'a' && stem[i-1] <= 'z':
			cut(i)
			start = i
		}
	}
	cut(len(stem))
	return out
}

// common are the names that both lists hold, in the order of the first.
func common(a, b []string) []string {
	has := make(map[string]bool, len(b))
	for _, n := range b {
		has[n] = true
	}
	var out []string
	for _, n := range a {
		if has[n] && n != "main" && n != "init" && len(out) < maxSharedTold {
			out = append(out, n)
		}
	}
	return out
}

func sortedKeys(m map[string][]int) []string {
	out := make([]string, 0, len(m))
	for k, v := range m {
		if len(v) > 1 {
			out = append(out, k)
		}
	}
	sort.Strings(out)
	return out
}
