package demo

import (
	"bytes"
	"embed"
	"fmt"
	"io/fs"
	"strings"

	"github.com/goccy/go-yaml"

	"juxtagram/core/plan"
)

//go:embed plans
var plans embed.FS

// Plan is one of the demo's plans, as it is published first.
type Plan struct {
	State  *plan.State
	Note   string // of its edition
	Commit string // that it is read at
}

// planFile is how a plan is written down: lines by their texts.
type planFile struct {
	Title   string `yaml:"title"`
	Purpose string `yaml:"purpose"`
	Budget  int    `yaml:"budget"`
	At      string `yaml:"at"` // a tag; "": the pin
	Note    string `yaml:"note"`
	Ideas   []struct {
		ID   string `yaml:"id"`
		Name string `yaml:"name"`
		Text string `yaml:"text"`
		By   string `yaml:"by"`
	} `yaml:"ideas"`
	Chapters []struct {
		Title    string    `yaml:"title"`
		Intent   string    `yaml:"intent"`
		Passages []passage `yaml:"passages"`
	} `yaml:"chapters"`
}

type passage struct {
	Own       stretch         `yaml:",inline"`
	ID        string          `yaml:"id"`
	Title     string          `yaml:"title"`
	Purpose   string          `yaml:"purpose"`
	Text      string          `yaml:"text"`
	Minutes   int             `yaml:"minutes"`
	Kind      string          `yaml:"kind"`
	Symbol    string          `yaml:"symbol"`
	Name      string          `yaml:"name"` // of an extract
	Beside    *stretch        `yaml:"beside"`
	Pattern   string          `yaml:"pattern"`
	Base      string          `yaml:"base"` // a tag
	Hops      []stretch       `yaml:"hops"`
	Try       *trial          `yaml:"try"`
	Needs     []string        `yaml:"needs"`
	Caution   string          `yaml:"caution"`
	Optional  bool            `yaml:"optional"`
	Questions []plan.Question `yaml:"questions"`
	Why       string          `yaml:"why"`
}

// stretch is some lines: from the first that holds a text to the next that holds
// another, and so many more; of an older text, by their numbers.
type stretch struct {
	Path  string `yaml:"path"`
	From  string `yaml:"from"`
	To    string `yaml:"to"`
	Plus  int    `yaml:"plus"`
	Lines string `yaml:"lines"` // as 9-17
	Says  string `yaml:"says"`
}

type trial struct {
	Folder   string    `yaml:"folder"`
	Platform string    `yaml:"platform"`
	SetUp    string    `yaml:"set_up"`
	Commands string    `yaml:"commands"`
	Inputs   string    `yaml:"inputs"`
	Outcome  string    `yaml:"outcome"`
	Pauses   []stretch `yaml:"pauses"`
}

// Plans are the demo's plans, most of them at a commit. Lines are looked up in the files' final
// texts; resolve turns a tag into a commit.
func Plans(commit string, resolve func(tag string) (string, error)) ([]Plan, error) {
	files, err := Files()
	if err != nil {
		return nil, err
	}
	names, err := fs.Glob(plans, "plans/*.yaml")
	if err != nil {
		return nil, err
	}
	var out []Plan
	for i, name := range names {
		raw, err := plans.ReadFile(name)
		if err != nil {
			return nil, err
		}
		var f planFile
		if err := yaml.NewDecoder(bytes.NewReader(raw), yaml.Strict()).Decode(&f); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		at := commit
		if f.At != "" {
			if at, err = resolve(f.At); err != nil {
				return nil, err
			}
		}
		b := planner{files, at, resolve, fmt.Sprintf("demo-%d-", i+1), plan.New(), map[string]bool{}}
		if err := b.build(&f); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		out = append(out, Plan{b.state, f.Note, at})
	}
	return out, nil
}

type planner struct {
	files   map[string][]byte
	commit  string
	resolve func(string) (string, error)
	prefix  string // of ids
	state   *plan.State
	ideas   map[string]bool
}

func (b *planner) build(f *planFile) error {
	ops := []plan.Op{{Kind: plan.SetPlan, Field: "title", To: f.Title}, {Kind: plan.SetPlan, Field: "purpose", To: f.Purpose}, {Kind: plan.SetPlan, Field: "budget", From: "0", To: fmt.Sprint(f.Budget)}}
	for _, i := range f.Ideas {
		b.ideas[i.ID] = true
		ops = append(ops, plan.Op{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: b.idea(i.ID), Name: i.Name, Text: i.Text, By: b.prefix + i.By}})
	}
	chapterKey, passageKey := "", ""
	var err error
	for i, c := range f.Chapters {
		if chapterKey, err = plan.Between(chapterKey, ""); err != nil {
			return err
		}
		id := fmt.Sprintf("%schapter-%d", b.prefix, i+1)
		ops = append(ops, plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: id, Order: chapterKey, Title: c.Title, Intent: c.Intent}})
		for _, p := range c.Passages {
			if passageKey, err = plan.Between(passageKey, ""); err != nil {
				return err
			}
			x := &plan.Passage{ID: b.prefix + p.ID, Chapter: id, Order: passageKey, Title: p.Title, Purpose: p.Purpose, Text: strings.TrimSpace(p.Text), Minutes: p.Minutes, Caution: p.Caution, Optional: p.Optional, Questions: p.Questions, Why: p.Why}
			for _, need := range p.Needs {
				if b.ideas[need] {
					x.Needs = append(x.Needs, b.idea(need))
				} else {
					x.Needs = append(x.Needs, b.prefix+need)
				}
			}
			if x.Target, err = b.target(&p); err != nil {
				return fmt.Errorf("%s: %w", p.ID, err)
			}
			ops = append(ops, plan.Op{Kind: plan.AddPassage, NewPs: x})
		}
	}
	for _, op := range ops {
		if err := b.state.Apply(op); err != nil {
			return err
		}
	}
	return nil
}

func (b *planner) idea(id string) string { return b.prefix + "idea-" + id }

func (b *planner) target(p *passage) (plan.Target, error) {
	t := plan.Target{Kind: p.Kind, Path: p.Own.Path, Symbol: p.Symbol, Pattern: p.Pattern, Commit: b.commit}
	own, err := b.lines(p.Own)
	if err != nil {
		return t, err
	}
	t.Start, t.End = own.Start, own.End
	if p.Name != "" {
		line := strings.Split(string(b.files[p.Own.Path]), "\n")[own.Start-1]
		t.Column = max(0, strings.Index(line, p.Name))
	}
	if p.Beside != nil {
		beside, err := b.lines(*p.Beside)
		if err != nil {
			return t, err
		}
		t.Beside = &beside
	}
	if p.Base != "" {
		if t.Base, err = b.resolve(p.Base); err != nil {
			return t, err
		}
	}
	if t.Hops, err = b.all(p.Hops); err != nil {
		return t, err
	}
	if p.Try != nil {
		t.Try = &plan.Trial{Folder: p.Try.Folder, Platform: p.Try.Platform, SetUp: p.Try.SetUp, Commands: p.Try.Commands, Inputs: p.Try.Inputs, Outcome: p.Try.Outcome}
		if t.Try.Pauses, err = b.all(p.Try.Pauses); err != nil {
			return t, err
		}
	}
	return t, nil
}

func (b *planner) all(list []stretch) ([]plan.Stretch, error) {
	var out []plan.Stretch
	for _, s := range list {
		x, err := b.lines(s)
		if err != nil {
			return nil, err
		}
		out = append(out, x)
	}
	return out, nil
}

// lines finds a stretch in a file's text.
func (b *planner) lines(s stretch) (plan.Stretch, error) {
	out := plan.Stretch{Path: s.Path, Says: s.Says}
	if s.Lines != "" {
		_, err := fmt.Sscanf(s.Lines, "%d-%d", &out.Start, &out.End)
		return out, err
	}
	if s.From == "" {
		return out, nil
	}
	list := strings.Split(strings.TrimSuffix(string(b.files[s.Path]), "\n"), "\n")
	for i, l := range list {
		if out.Start == 0 && strings.Contains(l, s.From) {
			out.Start = i + 1
			if s.To == "" {
				out.End = len(list)
				break
			}
		}
		if out.Start != 0 && strings.Contains(l, s.To) {
			out.End = min(i+1+s.Plus, len(list))
			break
		}
	}
	if out.End == 0 {
		return out, fmt.Errorf("%s: no lines from %q to %q", s.Path, s.From, s.To)
	}
	return out, nil
}
