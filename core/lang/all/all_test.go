package all_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
)

func TestLanguagesAreSound(t *testing.T) {
	names := map[string]bool{}
	for _, l := range all.Languages() {
		assert.NotEmpty(t, l.Name)
		assert.False(t, names[l.Name], "%s is listed twice", l.Name)
		names[l.Name] = true
		assert.Same(t, l, all.ByName(l.Name))
		assert.NotEmpty(t, append(append(l.Extensions, l.Filenames...), l.Shebangs...), l.Name)
	}
	assert.Greater(t, len(names), 200, "the lexer library's languages are there")
	for _, l := range all.Parsed {
		r, err := l.Read(context.Background(), []byte("x"))
		require.NoError(t, err, "the query of %s", l.Name)
		assert.Equal(t, lang.Parsed, r.Depth)
	}
	for _, l := range all.Lexed {
		_, err := l.Read(context.Background(), []byte("x # // /* -- ; <!-- '\n"))
		assert.NoError(t, err, l.Name)
	}
}

func TestOf(t *testing.T) {
	for _, c := range []struct{ path, text, want string }{
		{"a/b.go", "", "Go"}, {"go.mod", "", "Go module"}, {"Makefile", "", "Make"}, {"x.MK", "", "Make"}, {"Dockerfile.dev", "", "Container file"},
		{"CMakeLists.txt", "", "CMake"}, {"notes.txt", "", "Text"}, {"README", "", "Text"}, {"a.test.ts", "", "TypeScript"}, {"a.h", "", "C"},
		{"tool", "#!/usr/bin/env python3.11\n", "Python"}, {"tool", "#!/bin/sh -e\n", "Shell"}, {"tool", "#!/usr/bin/env -S FOO=1 node\n", "JavaScript"},
		{"tool", "#!\n", ""}, {"tool", "text", ""}, {"a.unknownext", "", ""}, {".gitignore", "", "Git list"}, {"a.erl", "", "Erlang"}, {"pom.xml", "", "XML"},
	} {
		got := ""
		if l := all.Of(c.path, []byte(c.text)); l != nil {
			got = l.Name
		}
		assert.Equal(t, c.want, got, "%s %q", c.path, c.text)
	}
}
