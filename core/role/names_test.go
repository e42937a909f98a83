package role

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestHintsLeaveNothingOut holds the quick look before each pattern to the pattern
// alone, on names of every alternative and on such as are none.
func TestHintsLeaveNothingOut(t *testing.T) {
	fits := map[*pattern]string{
		&generatedNames: "a.pb.go a.pb.cc a.pb.h a_pb2.py a_pb2.pyi a_pb2_grpc.py a.g.dart a.g.cs form.designer.cs form.designer.vb a.min.js a.min.css app.bundle.js app-bundle.js app_bundle.js a.js.map a.css.map a_generated.rs a.gen.ts",
		&testNames:      "a_test.go a_test.py a_test.c a_test.cc a_test.cpp a_test.rb a_test.exs a_test.dart test_a.py test_a.c test_a.cpp test_a.rb conftest.py a.test.js a.spec.ts a-test.mjs a_spec.jsx a.test.cts a_spec.rb a.bats",
		&classTests:     "LevelTest.java LevelTests.kt Test.cs LevelTest.scala LevelTests.swift",
		&documentNames:  "readme readme.md license licence.txt copying changelog.md changes history.rst news authors contributors contributing.md notice security.md code_of_conduct.md maintainers install.txt todo",
		&buildNames: "makefile gnumakefile a.mk cmakelists.txt a.cmake meson.build build build.bazel workspace dockerfile containerfile dockerfile.dev a.dockerfile a.containerfile compose.yml docker-compose.dev.yaml package.json go.mod go.sum go.work " +
			"go.work.sum cargo.toml cargo.lock pyproject.toml setup.py setup.cfg requirements.txt requirements-dev.txt pipfile pipfile.lock poetry.lock tox.ini noxfile.py pom.xml build.gradle build.gradle.kts gradlew gradlew.bat mvnw mvnw.cmd " +
			"gemfile gemfile.lock rakefile a.gemspec composer.json composer.lock package-lock.json yarn.lock pnpm-lock.yaml a.csproj a.sln a.vcxproj configure configure.ac a.am vite.config.ts webpack.config.js rollup.config.mjs justfile taskfile.yml jenkinsfile",
	}
	var all []string
	for p, list := range fits {
		for name := range strings.FieldsSeq(list) {
			assert.NotEmpty(t, p.exact.FindString(name), "%s is an example of the pattern", name)
			all = append(all, name)
		}
	}
	all = append(all, "", "a.go", "level.ts", "contest.py", "latest.java", "Latest.java", "builder.go", "filer.c", "spectrum.rb", "remake.c", "golang.txt", "historian.py", "newspaper.rb", "x.map", "mapping.js")
	for p := range fits {
		for _, name := range all {
			assert.Equal(t, p.exact.FindString(name), p.find(name), name)
		}
	}
}
