package recipe

import "strings"

// platforms are what recipes tell themselves to be for, by the words that say so.
var platforms = []struct {
	name  string
	words []string
}{
	{"Windows", []string{"windows", "win", "win32", "win64", "msvc", "mingw", "nmake", "powershell", "pwsh", "bat", "ps1", "choco"}},
	{"macOS", []string{"macos", "mac", "darwin", "osx", "brew", "xcodebuild"}},
	{"Linux", []string{"linux", "ubuntu", "debian", "fedora", "apt", "dnf", "yum", "systemctl"}},
	{"Android", []string{"android"}},
	{"iOS", []string{"ios"}},
}

// platformOf reads from the words of a command, its folder and file which
// platform it is for; "" where it names none, or several.
func platformOf(text string) string {
	found := ""
	words := strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9')
	})
	for _, p := range platforms {
		for _, w := range p.words {
			for _, have := range words {
				// "ubuntu-22" is told by its first word, "win32" by itself
				if have == w && found != p.name {
					if found != "" {
						return ""
					}
					found = p.name
				}
			}
		}
	}
	return found
}
