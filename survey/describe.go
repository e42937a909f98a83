package survey

import (
	"math"
	"sort"
	"strings"
	"time"

	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/links/origin"
	"juxtagram/core/recipe"
	"juxtagram/core/repo"
	"juxtagram/core/summary"
)

// About is what the document says of the survey itself.
type About struct {
	Source  string
	Ref     string           // as asked for; "": none
	At      time.Time        // zero: left out
	Timings map[string]int64 // milliseconds; nil: left out
	People  bool
	Limits  []Limit // of the take-in
	// Details gives the packed details of a file; nil: outlines and imports
	// are left empty.
	Details func(key FactKey) ([]byte, error)
	// Whole tells effects, summaries and twins; nil: they are left out.
	Whole *summary.Whole
}

// Describe makes the document of a whole survey.
func Describe(r *Result, about About) *Document {
	d := &Document{Format: Format, Repository: describeRepository(r, about), Files: []DocFile{}, Hotspots: []DocHotspot{},
		EntryPoints: []DocEntryPoint{}, Recipes: []DocRecipe{}, Leads: []leads.Lead{}, Limits: []Limit{}}
	d.Languages = Languages(r)
	for i := range r.Files {
		f := describeFile(&r.Files[i], r.People, about.People)
		if r.Links != nil {
			in, out, weight := int(r.Figures.Dependents[i]), int(r.Figures.Dependencies[i]), math.Round(r.Figures.Centrality[i]*1e9)/1e9
			f.Dependents, f.Dependencies, f.Centrality = &in, &out, &weight
		}
		d.Files = append(d.Files, f)
	}
	for _, h := range r.Hotspots {
		d.Hotspots = append(d.Hotspots, DocHotspot{escape(h.Path), h.Score, h.Reason})
	}
	for _, e := range r.EntryPoints {
		x := DocEntryPoint{Kind: e.Kind, Name: text(e.Name), Path: escape(e.Path), How: orNull(text(e.How)), Evidence: text(e.Evidence), Weight: e.Weight}
		if e.Line > 0 {
			x.Line = &e.Line
		}
		d.EntryPoints = append(d.EntryPoints, x)
	}
	for _, x := range r.Recipes {
		d.Recipes = append(d.Recipes, describeRecipe(x))
	}
	if about.People && r.People != nil {
		for _, p := range r.People.List {
			d.People = append(d.People, DocPerson{p.Name, p.Email, p.Commits, p.Files, stamp(p.FirstAt), stamp(p.LastAt)})
		}
	}
	for _, l := range r.Leads {
		l.Path, l.Title, l.Why = escape(l.Path), text(l.Title), text(l.Why)
		d.Leads = append(d.Leads, l)
	}
	if about.Details != nil {
		d.details = func(i int) (*facts.Details, error) {
			raw, err := about.Details(r.Files[i].Key)
			if err != nil {
				return nil, err
			}
			return facts.Unpack(raw)
		}
	}
	d.whole = about.Whole
	if d.whole != nil {
		for _, t := range d.whole.Twins {
			d.Twins = append(d.Twins, DocTwin{[]string{escape(r.Files[t.A].Path), escape(r.Files[t.B].Path)}, math.Round(t.Likeness*1e4) / 1e4, string(t.Kind), text(t.Evidence)})
		}
	}
	d.origin = func(i, n int) *DocOrigin { return describeOrigin(r, r.Links.Origin(i, n)) }
	d.Limits = append(append(d.Limits, about.Limits...), r.Limits...)
	for i := range d.Limits {
		d.Limits[i].What, d.Limits[i].Why = text(d.Limits[i].What), text(d.Limits[i].Why)
	}
	if about.Timings != nil {
		d.Timings = map[string]float64{}
		for k, v := range about.Timings {
			d.Timings[k] = float64(v)
		}
	}
	return d
}

func describeRepository(r *Result, about About) DocRepository {
	d := DocRepository{Source: about.Source, Commit: r.Commit, Ref: orNull(about.Ref)}
	if !about.At.IsZero() {
		d.SurveyedAt = about.At.UTC().Format(time.RFC3339)
	}
	if r.Log != nil {
		d.Commits = len(r.Log.Commits)
		first, last := int64(math.MaxInt64), int64(math.MinInt64)
		for _, c := range r.Log.Commits {
			first, last = min(first, c.CommitTime), max(last, c.CommitTime)
		}
		if d.Commits > 0 {
			d.FirstCommitAt, d.LastCommitAt = stamp(first), stamp(last)
		}
	}
	return d
}

// Languages sums up the languages of a result, most lines first.
func Languages(r *Result) []DocLanguage {
	sum := map[string]*DocLanguage{}
	for i := range r.Files {
		f := &r.Files[i]
		if f.Language == nil {
			continue
		}
		l := sum[f.Language.Name]
		if l == nil {
			l = &DocLanguage{Name: f.Language.Name}
			sum[l.Name] = l
		}
		l.Files++
		switch {
		case f.Facts == nil:
		case f.Facts.Depth == lang.Parsed:
			l.Parsed++
		case f.Facts.Depth == lang.Lexed:
			l.Lexed++
		default:
			l.Listed++
		}
		if f.Facts != nil && f.Facts.Lines != nil {
			l.Lines += f.Facts.Lines.Total
		}
	}
	out := make([]DocLanguage, 0, len(sum))
	for _, l := range sum {
		out = append(out, *l)
	}
	sort.Slice(out, func(i, j int) bool {
		if out[i].Lines != out[j].Lines {
			return out[i].Lines > out[j].Lines
		}
		return out[i].Name < out[j].Name
	})
	return out
}

func describeFile(f *File, people *history.People, named bool) DocFile {
	p, escaped := repo.EscapePath(f.Path)
	d := DocFile{Path: p, PathEscaped: escaped, Blob: f.Blob, Language: orNull(f.LanguageName()), Mode: f.Mode,
		Role: f.Role.Name, RoleEvidence: f.Role.Evidence, Depth: lang.Listed, Outline: []DocSymbol{}, Imports: []DocImport{}, Tagged: []DocTagged{}}
	if f.Size >= 0 {
		d.Size = &f.Size
	}
	if f.Facts != nil {
		d.Binary, d.Depth, d.DepthReason, d.Lines = f.Facts.Binary, f.Facts.Depth, f.Facts.Reason, f.Facts.Lines
		d.Intricacy = f.Facts.Intricacy
		for _, t := range f.Facts.Tagged {
			d.Tagged = append(d.Tagged, DocTagged{t.Word, t.Text, t.Line, t.EndLine, orNull(t.Who), orNull(t.Issue)})
		}
	}
	if h := f.History; h != nil {
		d.Changes = &DocChanges{Commits: h.Commits, LinesAdded: h.LinesAdded, LinesDeleted: h.LinesDeleted,
			Recent: math.Round(h.Recent*1e4) / 1e4, FirstAt: stamp(h.FirstAt), LastAt: stamp(h.LastAt)}
		if named {
			for _, s := range h.People {
				p := people.List[s.Person]
				d.Changes.People = append(d.Changes.People, DocShare{p.Name, p.Email, s.Commits})
			}
		}
	}
	return d
}

// maxPaths is how many paths of one origin the document names.
const maxPaths = 50

func describeOrigin(r *Result, o *origin.Origin) *DocOrigin {
	if o == nil {
		return nil
	}
	d := &DocOrigin{To: string(o.To), Name: text(o.Name), Guess: o.Guess, Reason: text(o.Reason)}
	for _, f := range o.Files[:min(len(o.Files), maxPaths)] {
		d.Paths = append(d.Paths, escape(r.Files[f].Path))
	}
	if n := len(o.Files) - len(d.Paths); n > 0 {
		d.Reason = strings.TrimPrefix(d.Reason+"; and "+count(n, "more path"), "; ")
	}
	for _, n := range o.Near {
		d.Near = append(d.Near, escape(n))
	}
	if o.To == origin.ToDependency {
		d.DocDeclared = &DocDeclared{Version: orNull(text(o.Version))}
		if o.In != "" {
			in := escape(o.In)
			d.DeclaredIn = &in
		}
		if o.Line > 0 {
			d.DeclaredLine = &o.Line
		}
	}
	return d
}

func describeRecipe(r recipe.Recipe) DocRecipe {
	return DocRecipe{r.Kind, text(r.Command), escape(r.Folder), orNull(r.Platform), escape(r.Path), r.Line}
}

func escape(p string) string { s, _ := repo.EscapePath(p); return s }

// text makes words that may come from a hostile repository valid UTF-8.
func text(s string) string { return lang.ValidText([]byte(s)) }

func orNull(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

func stamp(unix int64) *string {
	if unix == 0 {
		return nil
	}
	s := time.Unix(unix, 0).UTC().Format(time.RFC3339)
	return &s
}
