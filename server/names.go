package server

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/names"
	"juxtagram/core/summary"
	"juxtagram/store"
)

func (s *Server) nameRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/definition", Read, "What the name at a place means, surest first", s.definition, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/source", Read, "The whole source of a definition, with the comment above it", s.source, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/uses", Read, "Where a symbol is used, surest first", s.uses, surveyed),
		handle(s, "GET", "/api/repositories/{repository}/relatives", Read, "The types above and below a type, and what a forwarder hands its call to", s.relatives, surveyed),
	}
}

// DefinitionInfo is one place where a name may be made.
type DefinitionInfo struct {
	Path      string `json:"path"`
	Line      int    `json:"line"`
	Certainty string `json:"certainty" enum:"scope,imported,typed,name" doc:"How sure it is: the same scope; imported from the file; a member of the type that the text says; the same name only"`
	Why       string `json:"why"`
	Name      string `json:"name" doc:"With its owners; of a local name the name alone"`
	Kind      string `json:"kind" doc:"Empty: a parameter, a local name or a module"`
	Signature string `json:"signature"`
	Doc       string `json:"doc"`
	Start     int    `json:"start" doc:"0 where it is no symbol of the outline"`
	End       int    `json:"end"`
	ForwardTo string `json:"forwards_to" doc:"The one thing its body calls, where it does nothing else; empty: it does more"`
}

// DefinitionAnswer is what is known of a name at a place.
type DefinitionAnswer struct {
	Commit      string           `json:"commit"`
	Name        string           `json:"name"`
	Definitions []DefinitionInfo `json:"definitions" doc:"Best first, at most 50"`
	Origin      *OriginInfo      `json:"origin,omitempty" doc:"Where it comes from, if not from this repository"`
	Through     string           `json:"through" doc:"The module that origin speaks of, as written"`
	Shown       int              `json:"shown" doc:"Index of the definition to show first: of those as sure as the surest the longest, so that a body stands before its declaration"`
	Source      *SourceInfo      `json:"source,omitempty" doc:"Of that definition, where it was asked for"`
}

func (s *Server) definition(ctx context.Context, w *who, in *struct {
	FilePath
	Line   int  `query:"line" minimum:"1"`
	Column int  `query:"column" minimum:"0" doc:"In bytes, from 0"`
	Source bool `query:"source" doc:"With the source of the definition to show first"`
}) (*body[DefinitionAnswer], error) {
	whole, v, a, err := s.nameAt(ctx, w, in.Path, in.Line, in.Column)
	if err != nil {
		return nil, err
	}
	if a == nil {
		return nil, problem(http.StatusNotFound, "no-name", fmt.Sprintf("no name stands at %s:%d", in.Path, in.Line))
	}
	info := DefinitionAnswer{Commit: v.OID, Name: valid(a.Name), Definitions: []DefinitionInfo{}, Origin: originInfo(whole, a.Origin), Through: valid(a.Through)}
	for i := range a.Definitions {
		d, err := definitionInfo(whole, &a.Definitions[i], a.Name)
		if err != nil {
			return nil, err
		}
		info.Definitions = append(info.Definitions, *d)
		first, best := &info.Definitions[0], &info.Definitions[info.Shown]
		if d.Certainty == first.Certainty && a.Definitions[i].Certainty != names.ByName && d.End-d.Start > best.End-best.Start {
			info.Shown = i
		}
	}
	if in.Source && len(info.Definitions) > 0 {
		d := &info.Definitions[info.Shown]
		at := &AtPath{FilePath: FilePath{in.RepositoryPath, d.Path}}
		start, end := d.Start, d.End
		if start == 0 {
			start, end = d.Line, d.Line // a local name or a module
		}
		if info.Source, err = s.sourceOf(ctx, w, at, start, end); err != nil {
			return nil, err
		}
	}
	return answer(info), nil
}

// nameAt is what the name at a place of the pin means, in the survey that tells
// it: line from 1, column in bytes from 0. No answer: no name stands there.
func (s *Server) nameAt(ctx context.Context, w *who, path string, line, column int) (*summary.Whole, *store.Survey, *names.Answer, error) {
	whole, v, err := s.whole(ctx, w)
	if err != nil {
		return nil, nil, nil, err
	}
	file, err := placed(whole, path)
	if err != nil {
		return nil, nil, nil, err
	}
	a, err := whole.Names.DefinitionAt(file, line, column)
	return whole, v, a, err
}

func definitionInfo(w *summary.Whole, d *names.Definition, name string) (*DefinitionInfo, error) {
	info := &DefinitionInfo{Path: w.Files[d.File].Path, Line: d.Line, Certainty: string(d.Certainty), Why: valid(d.Why), Name: valid(name)}
	if d.Symbol < 0 {
		return info, nil
	}
	sym, err := w.Names.Symbol(d.File, d.Symbol)
	if err != nil || sym == nil {
		return info, err
	}
	info.Name, info.Kind, info.Signature, info.Doc, info.Start, info.End, info.ForwardTo = sym.Qualified, string(sym.Kind), sym.Signature, sym.Doc, sym.Start, sym.End, valid(sym.Forwards)
	return info, nil
}

// SiteInfo is one place where a name is used.
type SiteInfo struct {
	Line      int    `json:"line"`
	Column    int    `json:"column" doc:"In bytes, from 0"`
	Role      string `json:"role" enum:"read,write,call,type,define,bind,import"`
	Certainty string `json:"certainty" enum:"scope,imported,typed,name"`
	In        string `json:"in" doc:"The innermost symbol around it; empty: none"`
	Text      string `json:"text" doc:"The line, clipped to 200 characters"`
}

// UsesInfo are the uses in one file.
type UsesInfo struct {
	Path      string     `json:"path"`
	Role      string     `json:"role"`
	Certainty string     `json:"certainty" enum:"scope,imported,typed,name"`
	Sites     []SiteInfo `json:"sites" doc:"At most 200"`
	More      int        `json:"more" doc:"Further places of the name in the file, not looked into"`
}

// UsesAnswer is a part of all uses of a symbol.
type UsesAnswer struct {
	Commit string     `json:"commit"`
	Name   string     `json:"name"`
	Files  []UsesInfo `json:"files" doc:"Surest first"`
	Total  int        `json:"total" doc:"Files that hold the name at all"`
	Named  int        `json:"named" doc:"Places where the name stands in those files"`
	Next   int        `json:"next" doc:"Offset of the next part; 0: this is the last"`
}

// SymbolPath names a symbol by the line that its name stands on.
type SymbolPath struct {
	FilePath
	Line int    `query:"line" minimum:"1"`
	Name string `query:"name" minLength:"1" maxLength:"300"`
}

// symbol finds the symbol that a request names.
func symbol(w *summary.Whole, in *SymbolPath) (file, at int, err error) {
	if file, err = placed(w, in.Path); err != nil {
		return 0, 0, err
	}
	if at, err = w.Names.SymbolOn(file, in.Line, in.Name); err == nil && at < 0 {
		err = store.ErrNotFound
	}
	return file, at, err
}

func (s *Server) uses(ctx context.Context, w *who, in *struct {
	SymbolPath
	Offset int `query:"offset" minimum:"0"`
	Limit  int `query:"limit" minimum:"1" maximum:"100" default:"30" doc:"Files"`
}) (*body[UsesAnswer], error) {
	whole, v, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	file, at, err := symbol(whole, &in.SymbolPath)
	if err != nil {
		return nil, err
	}
	page, err := whole.Names.Uses(file, at, in.Offset, in.Limit)
	if err != nil {
		return nil, err
	}
	info := UsesAnswer{Commit: v.OID, Name: in.Name, Files: []UsesInfo{}, Total: page.Total, Named: page.Named, Next: page.Next}
	for _, f := range page.Files {
		x := UsesInfo{whole.Files[f.File].Path, whole.Files[f.File].Role, string(f.Certainty), []SiteInfo{}, f.More}
		lines, err := s.siteLines(w, whole.Files[f.File].Blob)
		if err != nil {
			return nil, err
		}
		for _, site := range f.Sites {
			i := SiteInfo{Line: site.Line, Column: site.Column, Role: roleWords[site.Role.Plain()], Certainty: string(site.Certainty), Text: lineOf(lines, site.Line)}
			if sym, err := whole.Names.Symbol(f.File, site.Symbol); err == nil && sym != nil {
				i.In = sym.Qualified
			}
			x.Sites = append(x.Sites, i)
		}
		info.Files = append(info.Files, x)
	}
	return answer(info), nil
}

var roleWords = map[lang.Role]string{lang.Read: "read", lang.Write: "write", lang.Call: "call", lang.AsType: "type", lang.Define: "define", lang.Bind: "bind", lang.Imports: "import"}

// RelativeInfo is a type above or below another; an empty path: it is not of
// this repository.
type RelativeInfo struct {
	Name      string `json:"name"`
	Path      string `json:"path"`
	Line      int    `json:"line"`
	Certainty string `json:"certainty" enum:"scope,imported,typed,name"`
	Why       string `json:"why"`
}

// RelativesInfo is what stands above and below a symbol.
type RelativesInfo struct {
	Supertypes []RelativeInfo   `json:"supertypes"`
	Subtypes   []RelativeInfo   `json:"subtypes" doc:"At most 200"`
	More       bool             `json:"more" doc:"There are further subtypes"`
	ForwardsTo string           `json:"forwards_to" doc:"What its body hands its call to, as written; empty: it does more than that"`
	Chain      []DefinitionInfo `json:"chain" doc:"What its call goes through, as far as it is found; the last is no forwarder itself"`
}

func (s *Server) relatives(ctx context.Context, w *who, in *SymbolPath) (*body[RelativesInfo], error) {
	whole, _, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	file, at, err := symbol(whole, in)
	if err != nil {
		return nil, err
	}
	up, err := whole.Names.Supertypes(file, at)
	if err != nil {
		return nil, err
	}
	down, more, err := whole.Names.Subtypes(file, at)
	if err != nil {
		return nil, err
	}
	target, chain, err := whole.Names.Chain(file, at)
	if err != nil {
		return nil, err
	}
	info := RelativesInfo{Supertypes: relativeInfos(whole, up), Subtypes: relativeInfos(whole, down), More: more, ForwardsTo: valid(target), Chain: []DefinitionInfo{}}
	for i := range chain {
		d, err := definitionInfo(whole, &chain[i], target)
		if err != nil {
			return nil, err
		}
		info.Chain = append(info.Chain, *d)
	}
	return answer(info), nil
}

func relativeInfos(w *summary.Whole, list []names.Relative) []RelativeInfo {
	out := []RelativeInfo{}
	for _, r := range list {
		x := RelativeInfo{Name: valid(r.Name), Line: r.Line, Certainty: string(r.Certainty), Why: r.Why}
		if r.File >= 0 {
			x.Path = w.Files[r.File].Path
		}
		out = append(out, x)
	}
	return out
}

// maxSiteLine is how much of a line is sent with a use, in runes.
const maxSiteLine = 200

// siteLines are the lines of a blob.
func (s *Server) siteLines(w *who, blob string) ([][]byte, error) {
	content, err := s.readers.read(w.repository.ID, blob, facts.MaxRead)
	if err != nil {
		return nil, err
	}
	content, _ = facts.Text(content)
	return bytes.Split(content, []byte{'\n'}), nil
}

func lineOf(lines [][]byte, n int) string {
	if n < 1 || n > len(lines) {
		return ""
	}
	text := []rune(strings.TrimSpace(valid(string(lines[n-1][:min(len(lines[n-1]), 4*maxSiteLine)]))))
	if len(text) > maxSiteLine {
		return string(text[:maxSiteLine-1]) + "…"
	}
	return string(text)
}
