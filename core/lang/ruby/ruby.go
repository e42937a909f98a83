// Package ruby describes Ruby to the survey.
package ruby

import (
	"github.com/smacker/go-tree-sitter/ruby"

	"juxtagram/core/lang"
)

// Language is Ruby.
var Language = lang.Language{
	Name:       "Ruby",
	Extensions: []string{".rb", ".rake", ".gemspec"},
	Filenames:  []string{"Rakefile", "Gemfile", "Guardfile", "Vagrantfile"},
	Shebangs:   []string{"ruby"},
	Grammar:    ruby.GetLanguage,
	Query:      `(comment) @comment`,
}
