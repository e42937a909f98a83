package server

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/repo"
	"juxtagram/store"
)

func TestAddressesOfOnePlaceAreTheSame(t *testing.T) {
	for _, list := range [][]string{
		{"https://Forge.test/a/b.git", "https://forge.test/a/b", "https://me@forge.test/a/b/", "ssh://git@forge.test/a/b.git", "git@forge.test:a/b.git"},
		{"/srv/git/x.git", "/srv/git/x", "/srv/git/y/../x/"},
	} {
		for _, a := range list {
			assert.Equal(t, sameAddress(list[0]), sameAddress(a), a)
		}
	}
	assert.NotEqual(t, sameAddress("https://forge.test/a/b"), sameAddress("https://forge.test/A/b"), "paths keep their case")
}

func TestRelativeAddressesOfSubmodules(t *testing.T) {
	for _, c := range [][3]string{
		{"https://forge.test/a/b.git", "../c.git", "https://forge.test/a/c.git"},
		{"git@forge.test:a/b.git", "../c.git", "git@forge.test:a/c.git"},
		{"/srv/a/b", "../c", "/srv/a/c"},
		{"https://forge.test/a/b", "https://other.test/x", "https://other.test/x"},
	} {
		assert.Equal(t, c[2], resolveAddress(c[0], c[1]))
	}
}

func TestVersionsAreFoundAmongTags(t *testing.T) {
	refs := []repo.Ref{{Name: "v1.2.0", Kind: "branch", Commit: "0"}, {Name: "v1.2.0", Kind: "tag", Commit: "1"}, {Name: "tools/v1.2.0", Kind: "tag", Commit: "2"}, {Name: "board@3.0.0", Kind: "tag", Commit: "3"}, {Name: "4.1.0", Kind: "tag", Commit: "4"}}
	for _, c := range []struct{ folder, name, version, want string }{
		{"", "example.test/ring", "v1.2.0", "1"},
		{"tools", "example.test/ring/tools", "v1.2.0", "2"},
		{"packages/board", "@tide/board", "^3.0.0", "3"},
		{"", "tide", "==4.1.0", "4"},
		{"", "tide", ">=9", ""},
		{"", "tide", "", ""},
	} {
		got := ""
		if r := versionTag(refs, c.folder, store.Dependency{Name: c.name, Version: c.version}); r != nil {
			got = r.Commit
		}
		assert.Equal(t, c.want, got, c.name+" "+c.version)
	}
}
