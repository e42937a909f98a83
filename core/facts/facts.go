package facts

import (
	"bytes"
	"context"
	"regexp"
	"strings"

	"juxtagram/core/entry"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/tagged"
)

// Version is the analyser's version; it changes whenever the same bytes would
// give other facts.
const Version = 8

// Limits on what is read, in bytes. Larger files are listed, with the reason.
const (
	MaxRead  = 4 << 20   // nothing larger is fetched from git
	MaxLexed = 1 << 20   // the lexer library is slower than the grammars
	MaxLine  = 100 << 10 // a longer line makes the file machine-written: lines are counted, nothing more
)

// Lines counts the lines of a text by sort; Code, Comment and Blank add up to
// Total. A line with both code and comment is a line of code.
type Lines struct {
	Total   int `json:"total"`
	Code    int `json:"code"`
	Comment int `json:"comment"`
	Blank   int `json:"blank"`
}

// Facts are what one blob says: what a survey holds of every file. Lines is
// nil where the text was not read.
type Facts struct {
	Depth     lang.Depth      `json:"depth"`
	Reason    string          `json:"reason,omitempty"` // why listed
	Binary    bool            `json:"binary,omitempty"`
	Encoding  string          `json:"encoding,omitempty"` // "UTF-16", where it is not UTF-8
	Lines     *Lines          `json:"lines,omitempty"`
	Tagged    []TaggedComment `json:"tagged,omitempty"`
	Starts    []lang.Start    `json:"starts,omitempty"`
	Shebang   string          `json:"shebang,omitempty"` // the whole first line
	Generated string          `json:"generated,omitempty"`
	Minified  bool            `json:"minified,omitempty"`
	Vendored  string          `json:"vendored,omitempty"`  // the line by which it names the library it is
	Intricacy *int            `json:"intricacy,omitempty"` // nil where not parsed
	Symbols   int             `json:"symbols,omitempty"`
	// Details are the rest, and Packed is their kept form. A survey hands that
	// on and lets go of it. nil: none, or not asked for.
	Details *Details `json:"-"`
	Packed  []byte   `json:"-"`
	// Linked is what other files may ask of it; empty: nothing.
	Linked Linked `json:"-"`
	// Passing: they tell of this attempt, not of the blob, and are not kept.
	Passing bool `json:"-"`
	linkage linkage
}

// linkage is what of a reading Pack puts into Linked beside the details.
type linkage struct {
	pkg    string
	doc    lang.Doc
	calls  []lang.CallSite
	values []lang.Value
}

// TooLarge are the facts of a blob that was not fetched for its size.
func TooLarge() Facts {
	return Facts{Depth: lang.Listed, Reason: "larger than 4 MB"}
}

// Empty are the facts of a file without content.
func Empty(l *lang.Language) Facts {
	switch {
	case l == nil:
		return Facts{Depth: lang.Listed, Reason: "empty"}
	case l.Parsed():
		return Facts{Depth: lang.Parsed, Lines: &Lines{}}
	}
	return Facts{Depth: lang.Lexed, Lines: &Lines{}}
}

// Of reads one blob as a language (nil: none recognised). It never fails: what
// cannot be read is listed, with the reason.
func Of(ctx context.Context, l *lang.Language, content []byte) Facts {
	content, encoding := Text(content)
	if isBinary(content) {
		return Facts{Depth: lang.Listed, Reason: "binary", Binary: true}
	}
	if isPointer(content) {
		return Facts{Depth: lang.Listed, Reason: "a pointer to a large file that is kept elsewhere"}
	}
	f := Facts{Encoding: encoding, Shebang: shebangLine(content), Generated: generated(content), Vendored: vendored(content), Minified: minified(content)}
	var r lang.Reading
	switch {
	case l == nil:
		f.Depth, f.Reason = lang.Listed, "no language recognised"
	case len(content) > MaxLine && longestLine(content) > MaxLine:
		f.Depth, f.Reason = lang.Listed, "has a line of more than 100 kB"
	case !l.Parsed() && len(content) > MaxLexed:
		f.Depth, f.Reason = lang.Listed, "larger than 1 MB, and its language is only lexed"
	default:
		var err error
		if r, err = l.Read(ctx, content); err != nil {
			f.Depth, f.Reason = lang.Listed, err.Error()
		} else {
			f.take(r)
			f.Starts = append(f.Starts, entry.Find(&entry.Source{Language: l.Name, Reading: r})...)
		}
	}
	if f.Depth != lang.Listed {
		f.linkage.values = append(f.linkage.values, settings(l, content)...)
		if f.linkage.doc.Line == 0 {
			f.linkage.doc = proseDoc(l, content)
		}
		lines := countLines(content, r.Comments)
		f.Lines = &lines
		f.Tagged = Tagged(content, r.Comments, r.Docstrings, r.Outline, tagged.Standard)
	}
	if s := all.Shebang(content); s != "" && len(f.Starts) == 0 {
		f.Starts = []lang.Start{{Kind: "script", Line: 1, Evidence: "first line " + f.Shebang}}
	}
	return f
}

// take takes over what a language found.
func (f *Facts) take(r lang.Reading) {
	f.Depth, f.Starts, f.Symbols = r.Depth, r.Starts, len(r.Outline)
	if r.Depth == lang.Parsed {
		f.Intricacy = &r.Intricacy
	}
	f.linkage = linkage{r.Package, r.Doc, r.Calls, r.Values}
	f.Details = &Details{Outline: r.Outline, Imports: r.Imports, Words: r.Words, Uses: r.Uses, Literals: r.Literals, Regions: r.Regions, Blocks: r.Blocks,
		Comments: r.Comments, Docstrings: r.Docstrings}
}

// isBinary applies git's own rule, a NUL among the first 8,000 bytes.
func isBinary(content []byte) bool {
	return bytes.IndexByte(content[:min(len(content), 8000)], 0) >= 0
}

func isPointer(content []byte) bool {
	return len(content) < 1024 && bytes.HasPrefix(content, []byte("version https://")) && bytes.Contains(content, []byte("\noid sha256:"))
}

func shebangLine(content []byte) string {
	if !bytes.HasPrefix(content, []byte("#!")) {
		return ""
	}
	line, _, _ := bytes.Cut(content[:min(len(content), 200)], []byte("\n"))
	return strings.ToValidUTF8(strings.TrimRight(string(line), "\r"), "?")
}

// generated finds the sentence in the first lines by which a file says that it
// is generated; "" when there is none.
func generated(content []byte) string {
	head := content[:min(len(content), 2000)]
	for n := 0; n < 20 && len(head) > 0; n++ {
		line, rest, _ := bytes.Cut(head, []byte("\n"))
		head = rest
		if !opensComment(bytes.TrimSpace(line)) {
			continue
		}
		low := strings.ToLower(string(line))
		if strings.Contains(low, "@generated") || strings.Contains(low, "do not edit") && (strings.Contains(low, "generated") || strings.Contains(low, "automatically")) ||
			strings.Contains(low, "auto-generated") || strings.Contains(low, "autogenerated") {
			text := strings.Trim(strings.ToValidUTF8(string(line), "?"), " \t\r/*#-<!>;\"")
			return text[:min(len(text), 160)]
		}
	}
	return ""
}

// opensComment tells whether a line begins as comments do: a sentence about
// generated code inside a string says nothing of the file itself.
func opensComment(line []byte) bool {
	if len(line) == 0 || bytes.IndexByte([]byte("/*#-<;%({\"@"), line[0]) < 0 {
		return false
	}
	for _, opener := range []string{"//", "/*", "*", "#", "--", "<!--", ";", "%", "(*", "{-", "\"\"\""} {
		if bytes.HasPrefix(line, []byte(opener)) {
			return true
		}
	}
	const annotation = "@generated"
	return len(line) >= len(annotation) && bytes.EqualFold(line[:len(annotation)], []byte(annotation))
}

// minified tells a text that was pressed for machines: hardly any line feeds in
// a good deal of text.
func minified(content []byte) bool {
	return len(content) > 2000 && len(content)/(bytes.Count(content, []byte{'\n'})+1) > 500
}

// banner is the first line of a library's own banner, name and version.
var banner = regexp.MustCompile(`^/[*/][!*]*\s*@?(?:preserve|license)?\s*((?:[A-Z@][\w.@/-]*\s+){1,4}v?\d+\.\d+[\w.-]*)`)

// vendored finds the banner by which a text names the library that it is, among
// its first lines; "" when there is none.
func vendored(content []byte) string {
	head := content[:min(len(content), 400)]
	for n := 0; n < 3 && len(head) > 0; n++ {
		line, rest, _ := bytes.Cut(head, []byte("\n"))
		head = rest
		if n > 0 {
			line = append([]byte("/*"), bytes.TrimLeft(line, " \t/*")...)
		}
		if bytes.IndexByte(line, '.') < 0 {
			continue // no version
		}
		if m := banner.FindSubmatch(line); m != nil {
			return strings.ToValidUTF8(string(m[1]), "?")
		}
	}
	return ""
}

func longestLine(content []byte) int {
	longest := 0
	for len(content) > 0 {
		i := bytes.IndexByte(content, '\n')
		if i < 0 {
			return max(longest, len(content))
		}
		longest = max(longest, i)
		content = content[i+1:]
	}
	return longest
}

// CountLines is the number of lines of a text: a last line without an end
// counts.
func CountLines(content []byte) int {
	n := bytes.Count(content, []byte{'\n'})
	if len(content) > 0 && content[len(content)-1] != '\n' {
		n++
	}
	return n
}

// countLines sorts each line by what stands on it outside and inside comments.
func countLines(content []byte, comments []lang.Span) Lines {
	lines := Lines{Total: CountLines(content)}
	k := 0
	for start := 0; start < len(content); {
		end := len(content)
		if i := bytes.IndexByte(content[start:], '\n'); i >= 0 {
			end = start + i
		}
		code, comment := false, false
		for i := start; i < end && !code; {
			for k < len(comments) && comments[k].End <= i {
				k++
			}
			if k < len(comments) && comments[k].Start <= i {
				stop := min(end, comments[k].End)
				comment = comment || len(bytes.TrimSpace(content[i:stop])) > 0
				i = stop
				continue
			}
			if c := content[i]; c != ' ' && c != '\t' && c != '\r' && c != '\f' && c != '\v' {
				code = true
			}
			i++
		}
		switch {
		case code:
			lines.Code++
		case comment:
			lines.Comment++
		default:
			lines.Blank++
		}
		start = end + 1
	}
	return lines
}
