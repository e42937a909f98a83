package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"html"
	"net/url"
	"path"
	"regexp"
	"strings"
	"time"

	"github.com/microcosm-cc/bluemonday"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
	"github.com/yuin/goldmark/parser"
	"github.com/yuin/goldmark/renderer"
	render "github.com/yuin/goldmark/renderer/html"

	"juxtagram/core/lang"
	"juxtagram/core/sandbox"
)

// clean lets through what a document needs and nothing that acts: no scripts,
// styles, forms or frames. Links get rel="nofollow noopener".
var cleanHTML = func() *bluemonday.Policy {
	p := bluemonday.UGCPolicy()
	p.AllowAttrs("align").Matching(regexp.MustCompile(`^(left|right|center)$`)).OnElements("p", "div", "h1", "h2", "h3", "td", "th", "img")
	p.AllowAttrs("class").Matching(regexp.MustCompile(`^language-[\w+-]+$`)).OnElements("code")
	p.RequireNoFollowOnLinks(true)
	return p
}()

// rawHTML passes HTML in Markdown through; cleanHTML looks at all of it after.
var rawHTML renderer.Option = render.WithUnsafe()

// readmeTask makes clean HTML of Markdown, within a budget: marks within marks may
// take hours to lay out.
var readmeTask = sandbox.New("readme", sandbox.Budget{Bytes: maxReadme, Time: 3 * time.Second}, func(in []byte) ([]byte, error) {
	md := goldmark.New(goldmark.WithExtensions(extension.GFM), goldmark.WithParserOptions(parser.WithAutoHeadingID()), goldmark.WithRendererOptions(rawHTML))
	var out bytes.Buffer
	if err := md.Convert(in, &out); err != nil {
		return nil, err
	}
	return cleanHTML.SanitizeBytes(out.Bytes()), nil
})

func isMarkdown(p string) bool {
	switch strings.ToLower(path.Ext(p)) {
	case ".md", ".markdown", ".mdown", ".mkd", "":
		return true
	}
	return false
}

// renderReadme makes safe HTML of a readme. Relative links lead to the file's
// page, relative pictures to the picture as it is at the pin. What is not
// Markdown is shown as it stands. folders says which of some paths are folders,
// isPicture whether a path is a picture that is there.
func renderReadme(ctx context.Context, repository int64, at string, content []byte, folders func([]string) map[string]bool, isPicture func(path string) bool) string {
	source := []byte(lang.ValidText(content))
	if !isMarkdown(at) {
		return "<pre>" + html.EscapeString(string(source)) + "</pre>"
	}
	out, err := readmeTask.Run(ctx, source)
	if given := (*sandbox.GivenUp)(nil); errors.As(err, &given) {
		return "<p><em>Shown as it is written: " + html.EscapeString(given.Reason) + ".</em></p><pre>" + html.EscapeString(string(source)) + "</pre>"
	}
	if err != nil {
		return "<pre>" + html.EscapeString(string(source)) + "</pre>"
	}
	clean := img.ReplaceAllStringFunc(string(out), func(tag string) string {
		return ownPicture(repository, at, tag, isPicture)
	})
	return ownLinks(repository, at, clean, folders)
}

// anchor finds links in sanitised HTML, whose attributes are all quoted.
var anchor = regexp.MustCompile(`(<a\b[^>]*?\bhref=")([^"]*)(")`)

// ownLinks leads relative links, however they were written, to the pages of the
// files and folders they mean.
func ownLinks(repository int64, at, clean string, folders func([]string) map[string]bool) string {
	var targets []string
	for _, m := range anchor.FindAllStringSubmatch(clean, -1) {
		if p, _, ok := relative(html.UnescapeString(m[2])); ok {
			targets = append(targets, inRepository(at, p))
		}
	}
	if len(targets) == 0 {
		return clean
	}
	isFolder := folders(targets)
	return anchor.ReplaceAllStringFunc(clean, func(tag string) string {
		m := anchor.FindStringSubmatch(tag)
		return m[1] + html.EscapeString(linkAddress(repository, at, html.UnescapeString(m[2]), isFolder)) + m[3]
	})
}

// img finds pictures in sanitised HTML, whose attributes are all quoted.
var (
	img       = regexp.MustCompile(`<img\b[^>]*>`)
	imgSource = regexp.MustCompile(`\bsrc="([^"]*)"`)
	imgAlt    = regexp.MustCompile(`\balt="([^"]*)"`)
)

// ownPicture leads a picture, however it was written, to the repository's own
// file. Of one that lies elsewhere, or is not there, its words stand in its place.
func ownPicture(repository int64, at, tag string, isPicture func(path string) bool) string {
	source := imgSource.FindStringSubmatch(tag)
	if source == nil {
		return ""
	}
	p, _, ok := relative(html.UnescapeString(source[1]))
	if p = inRepository(at, p); !ok || !isPicture(p) {
		alt := imgAlt.FindStringSubmatch(tag)
		if alt == nil || alt[1] == "" {
			return ""
		}
		return "<em>" + alt[1] + "</em>"
	}
	address := fmt.Sprintf("/api/repositories/%d/picture?path=%s", repository, url.QueryEscape(p))
	return strings.Replace(tag, source[0], `src="`+html.EscapeString(address)+`"`, 1)
}

func relative(dest string) (clean string, fragment string, ok bool) {
	u, err := url.Parse(dest)
	if err != nil || u.Scheme != "" || u.Host != "" || u.Path == "" {
		return "", "", false
	}
	return u.Path, u.Fragment, true
}

func inRepository(at, dest string) string {
	if strings.HasPrefix(dest, "/") {
		return strings.TrimPrefix(path.Clean(dest), "/")
	}
	return strings.TrimPrefix(path.Join("/", path.Dir(at), dest), "/")
}

func linkAddress(repository int64, at, dest string, isFolder map[string]bool) string {
	p, fragment, ok := relative(dest)
	if !ok {
		return dest
	}
	target, kind := inRepository(at, p), "path"
	if isFolder[target] {
		kind = "folder"
	}
	to := fmt.Sprintf("/r/%d/read?%s=%s", repository, kind, url.QueryEscape(target))
	if fragment != "" {
		to += "#" + url.PathEscape(fragment)
	}
	return to
}
