// Package all lists every language the survey knows.
package all

import (
	"juxtagram/core/lang"
	"juxtagram/core/lang/bash"
	"juxtagram/core/lang/c"
	"juxtagram/core/lang/cpp"
	"juxtagram/core/lang/csharp"
	"juxtagram/core/lang/css"
	"juxtagram/core/lang/golang"
	"juxtagram/core/lang/hcl"
	"juxtagram/core/lang/html"
	"juxtagram/core/lang/java"
	"juxtagram/core/lang/javascript"
	"juxtagram/core/lang/kotlin"
	"juxtagram/core/lang/lua"
	"juxtagram/core/lang/php"
	"juxtagram/core/lang/protobuf"
	"juxtagram/core/lang/python"
	"juxtagram/core/lang/ruby"
	"juxtagram/core/lang/rust"
	"juxtagram/core/lang/scala"
	"juxtagram/core/lang/toml"
	"juxtagram/core/lang/tsx"
	"juxtagram/core/lang/typescript"
	"juxtagram/core/lang/vue"
)

// Parsed are the languages with a grammar of their own.
var Parsed = []*lang.Language{
	&bash.Language,
	&c.Language,
	&cpp.Language,
	&csharp.Language,
	&css.Language,
	&golang.Language,
	&hcl.Language,
	&html.Language,
	&java.Language,
	&javascript.Language,
	&kotlin.Language,
	&lua.Language,
	&php.Language,
	&protobuf.Language,
	&python.Language,
	&ruby.Language,
	&rust.Language,
	&scala.Language,
	&toml.Language,
	&tsx.Language,
	&typescript.Language,
	&vue.Language,
}
