package server

import (
	"bytes"
	"context"
	"fmt"

	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
	"juxtagram/core/summary"
)

func (s *Server) toldRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/summary", Read, "What can be said of a file or folder, each sentence with the lines that bear it", s.summaryOf),
		handle(s, "GET", "/api/repositories/{repository}/links", Read, "What a file leans on, who leans on it, what it does to the outside", s.linksOf),
		handle(s, "GET", "/api/repositories/{repository}/summaries", Read, "All summaries of the pin as one Markdown document, by folder", s.summaries),
		handle(s, "GET", "/api/repositories/{repository}/tags", Read, "An index of all names that are defined, in the tags format of POSIX", s.tags, surveyed),
	}
}

// CiteInfo is a line that bears a sentence.
type CiteInfo struct {
	Path string `json:"path"`
	Line int    `json:"line" doc:"0: the file or folder as a whole"`
}

// SentenceInfo is one sentence of a summary.
type SentenceInfo struct {
	Kind  string     `json:"kind" enum:"purpose,start,effect,offer,used,twin,alive,test,loose,lean,shape"`
	Text  string     `json:"text" doc:"Code stands between backticks"`
	Depth string     `json:"depth" enum:"names,read,history" doc:"How deep it looked"`
	Cites []CiteInfo `json:"cites"`
}

// SummaryInfo is the summary of a file or folder.
type SummaryInfo struct {
	Commit    string         `json:"commit" doc:"What it is true for"`
	Sentences []SentenceInfo `json:"sentences" doc:"At most six, the most telling first"`
	Children  []ChildSummary `json:"children" doc:"Of a folder, if asked for: the folders right below it, at most 60"`
}

// ChildSummary is the most telling sentence about a folder.
type ChildSummary struct {
	Path     string       `json:"path"`
	Sentence SentenceInfo `json:"sentence"`
}

// maxChildSummaries is how many folders are told of at once.
const maxChildSummaries = 60

func (s *Server) summaryOf(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Path     string `query:"path" maxLength:"5000" doc:"A file or folder; empty: the root"`
	Children bool   `query:"children" doc:"Tell of the folders right below it too"`
}) (*body[SummaryInfo], error) {
	whole, v, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	var sentences []summary.Sentence
	if i := whole.Find(in.Path); i >= 0 {
		sentences, err = whole.OfFile(i)
	} else {
		sentences, err = whole.OfFolder(in.Path)
	}
	if err != nil {
		return nil, err
	}
	info := SummaryInfo{v.OID, sentenceInfos(sentences), []ChildSummary{}}
	if !in.Children {
		return answer(info), nil
	}
	for _, dir := range whole.FoldersIn(in.Path, maxChildSummaries) {
		told, err := whole.OfFolder(dir)
		if err != nil {
			return nil, err
		}
		if len(told) > 0 {
			info.Children = append(info.Children, ChildSummary{dir, sentenceInfos(told[:1])[0]})
		}
	}
	return answer(info), nil
}

func sentenceInfos(sentences []summary.Sentence) []SentenceInfo {
	out := []SentenceInfo{}
	for _, x := range sentences {
		info := SentenceInfo{x.Kind, lang.ValidText([]byte(x.Text)), string(x.Depth), []CiteInfo{}}
		for _, c := range x.Cites {
			info.Cites = append(info.Cites, CiteInfo(c))
		}
		out = append(out, info)
	}
	return out
}

// OriginInfo is where an import, or a name, comes from.
type OriginInfo struct {
	To       string   `json:"to" enum:"file,standard-library,dependency,generated,binary,unresolved"`
	Paths    []string `json:"paths" doc:"Files of this repository, at most 20"`
	More     int      `json:"more" doc:"How many further paths there are"`
	Name     string   `json:"name" doc:"Of a dependency or a module of the standard library"`
	Version  string   `json:"version" doc:"As the manifest asks for it; empty: not told"`
	Declared string   `json:"declared" doc:"The manifest that asks for it; empty: none"`
	Line     int      `json:"line" doc:"Its line in the manifest; 0: none"`
	Reason   string   `json:"reason" doc:"Why it is not resolved, or what a guess rests on"`
	Guess    bool     `json:"guess"`
	Near     []string `json:"near" doc:"What may have been meant"`
}

// maxOriginPaths is how many paths of one origin are sent.
const maxOriginPaths = 20

func originInfo(w *summary.Whole, o *origin.Origin) *OriginInfo {
	if o == nil {
		return nil
	}
	i := &OriginInfo{To: string(o.To), Paths: []string{}, Name: valid(o.Name), Version: valid(o.Version), Declared: o.In, Line: o.Line, Reason: valid(o.Reason), Guess: o.Guess, Near: []string{}}
	for _, f := range o.Files[:min(len(o.Files), maxOriginPaths)] {
		i.Paths = append(i.Paths, w.Files[f].Path)
	}
	i.More = len(o.Files) - len(i.Paths)
	for _, n := range o.Near {
		i.Near = append(i.Near, valid(n))
	}
	return i
}

func valid(s string) string { return lang.ValidText([]byte(s)) }

// LeaningInfo is a file at the other end of an import.
type LeaningInfo struct {
	Path string `json:"path"`
	Role string `json:"role"`
	Line int    `json:"line" doc:"Of the import; 0: not told"`
}

// TwinInfo is a twin of a file.
type TwinInfo struct {
	Path     string   `json:"path"`
	Kind     string   `json:"kind" enum:"platform,copy,counterpart"`
	Likeness float64  `json:"likeness" doc:"0 to 1: the share of runs of names they have in common"`
	Evidence string   `json:"evidence"`
	Shared   []string `json:"shared" doc:"Functions of the same name"`
}

// EffectInfo is one call that does something to the outside.
type EffectInfo struct {
	Kind   string    `json:"kind" enum:"writes,reads,logs,opens,listens,connects,environment,process"`
	Line   int       `json:"line"`
	Call   string    `json:"call"`
	Target string    `json:"target" doc:"The value, or the name it comes from; empty: it names nothing"`
	Known  bool      `json:"known" doc:"Target is the value itself"`
	Via    []HopInfo `json:"via" doc:"From the call's argument to the value"`
}

// HopInfo is one step from a call to a value.
type HopInfo struct {
	Path string `json:"path"`
	Line int    `json:"line"`
	Text string `json:"text"`
}

// LinksInfo is what a file says to others, and they to it.
type LinksInfo struct {
	Commit       string        `json:"commit"`
	Path         string        `json:"path"`
	Imports      []*OriginInfo `json:"imports" doc:"One for each import of the outline, in its order"`
	Dependents   []LeaningInfo `json:"dependents" doc:"Files that lean on it, the weightiest first, at most 200"`
	DependentsN  int           `json:"dependents_total"`
	Dependencies []LeaningInfo `json:"dependencies" doc:"Files it leans on, at most 200"`
	Tests        []string      `json:"tests" doc:"Tests that show it, at most 50"`
	Shows        []string      `json:"shows" doc:"What it shows, if it is a test, at most 50"`
	Twins        []TwinInfo    `json:"twins"`
	Layer        int           `json:"layer" doc:"How far it stands above files that lean on nothing here"`
	Cycle        []string      `json:"cycle" doc:"Files that lean on each other in a circle with it, at most 50; empty: none"`
	CycleTotal   int           `json:"cycle_total"`
	Effects      []EffectInfo  `json:"effects" doc:"At most 500"`
}

// Limits of one answer.
const (
	maxLeanings = 200
	maxTests    = 50
	maxEffects  = 500
)

func (s *Server) linksOf(ctx context.Context, w *who, in *FilePath) (*body[LinksInfo], error) {
	whole, v, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	file, err := placed(whole, in.Path)
	if err != nil {
		return nil, err
	}
	info := LinksInfo{Commit: v.OID, Path: in.Path, Imports: []*OriginInfo{}, Tests: []string{}, Shows: []string{}, Layer: whole.Layers[file], Cycle: []string{}, Twins: []TwinInfo{}, Effects: []EffectInfo{}}
	for _, o := range whole.Origins(file) {
		info.Imports = append(info.Imports, originInfo(whole, o))
	}
	on, err := whole.Dependents(file)
	if err != nil {
		return nil, err
	}
	from, err := whole.Dependencies(file)
	if err != nil {
		return nil, err
	}
	info.DependentsN = len(on)
	info.Dependents, info.Dependencies = leaningInfos(whole, on), leaningInfos(whole, from)
	tests, err := whole.Tests(file)
	if err != nil {
		return nil, err
	}
	for _, t := range tests[:min(len(tests), maxTests)] {
		info.Tests = append(info.Tests, whole.Files[t].Path)
	}
	shows := whole.Shows(file)
	for _, t := range shows[:min(len(shows), maxTests)] {
		info.Shows = append(info.Shows, whole.Files[t].Path)
	}
	for _, f := range whole.Cycle(file) {
		if int(f) != file {
			info.CycleTotal++
			if len(info.Cycle) < maxTests {
				info.Cycle = append(info.Cycle, whole.Files[f].Path)
			}
		}
	}
	for _, t := range whole.TwinsOf(file) {
		other := t.A
		if other == file {
			other = t.B
		}
		x := TwinInfo{whole.Files[other].Path, string(t.Kind), t.Likeness, t.Evidence, []string{}}
		for _, n := range t.Shared {
			x.Shared = append(x.Shared, valid(n))
		}
		info.Twins = append(info.Twins, x)
	}
	effects, err := whole.EffectsOf(file)
	if err != nil {
		return nil, err
	}
	for _, e := range effects[:min(len(effects), maxEffects)] {
		x := EffectInfo{string(e.Kind), e.Line, valid(e.Call), valid(e.Target), e.Known, []HopInfo{}}
		for _, h := range e.Via {
			x.Via = append(x.Via, HopInfo{whole.Files[h.File].Path, h.Line, valid(h.Text)})
		}
		info.Effects = append(info.Effects, x)
	}
	return answer(info), nil
}

func leaningInfos(w *summary.Whole, list []summary.Leaning) []LeaningInfo {
	out := []LeaningInfo{}
	for _, l := range list[:min(len(list), maxLeanings)] {
		out = append(out, LeaningInfo{w.Files[l.File].Path, w.Files[l.File].Role, l.Line})
	}
	return out
}

// sentText is a text that is sent as it is.
type sentText struct {
	ContentType string `header:"Content-Type"`
	Body        []byte
}

func (s *Server) summaries(ctx context.Context, w *who, _ *RepositoryPath) (*sentText, error) {
	whole, v, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = whole.WriteMarkdown(&b, w.repository.Name, v.OID)
	return &sentText{"text/markdown; charset=utf-8", b.Bytes()}, err
}

func (s *Server) tags(ctx context.Context, w *who, _ *RepositoryPath) (*sentText, error) {
	whole, _, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	if _, err := whole.Names.WriteTags(&b); err != nil {
		return nil, fmt.Errorf("tags: %w", err)
	}
	return &sentText{"text/plain; charset=utf-8", b.Bytes()}, nil
}
