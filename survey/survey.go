package survey

import (
	"context"
	"fmt"
	"runtime"
	"time"

	"juxtagram/core/ahead"
	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/links"
	"juxtagram/core/reader"
	"juxtagram/core/recipe"
	"juxtagram/core/repo"
	"juxtagram/core/tagged"
)

// Options steer a survey.
type Options struct {
	Commit    string  // full id of the pin
	Subfolder string  // limit to this folder; "": all
	HalfLife  float64 // days; 0: history.DefaultHalfLife
	// Corrections are what people said of paths, the newest last.
	Corrections []Correction
	// Joins are people of the history who are one.
	Joins []history.Joined
	// Words of tagged comments; nil: those agreed everywhere.
	Words  *tagged.Words
	Reader Reader // nil: blobs are read in this process
}

// Reader takes the facts of blobs, details packed. It may be called by several
// goroutines; what cannot be read is listed, with the reason.
type Reader interface {
	FactsOf(ctx context.Context, blobs []reader.Blob) []*facts.Facts
	// Warm tells that blobs will come: so many that this number of goroutines
	// will ask. It returns at once.
	Warm(n int)
	// Rest tells that no blob will come for a while.
	Rest()
}

// inProcess reads blobs in this process.
type inProcess struct{}

func (inProcess) FactsOf(ctx context.Context, blobs []reader.Blob) []*facts.Facts {
	out := make([]*facts.Facts, len(blobs))
	for i, b := range blobs {
		out[i] = reader.Read(ctx, b.Language, b.Content)
	}
	return out
}

func (inProcess) Warm(int) {}

func (inProcess) Rest() {}

// Sink takes what a survey finds. Calls come from one goroutine.
type Sink interface {
	// Begin tells that a stage starts, and how many units it has (0: unknown).
	Begin(ctx context.Context, stage string, total int)
	// Progress tells how many units of the running stage are done. It may be
	// called often and must return at once.
	Progress(stage string, done, total int)
	// Done takes the result as it stands after a stage. The result stays the
	// survey's own: it must not be changed nor kept. From StageLines on its files,
	// people and links stay as they are, and may be read until Run returns.
	Done(ctx context.Context, stage string, r *Result) error
}

// FactKey names the facts of one blob.
type FactKey struct {
	Blob, Language string // language "": none recognised
}

// Listed are the files of a survey, in git's path order, with what the tree tells of
// them and their sizes.
type Listed struct {
	Commit string // full id
	Files  []ListedFile
}

// ListedFile is one of them.
type ListedFile struct {
	repo.Entry
	Size int64 // bytes; -1: a submodule
}

// Memory keeps what never changes between surveys.
type Memory interface {
	// Facts returns the facts known for some of the keys, without details.
	Facts(ctx context.Context, keys []FactKey) (map[FactKey]*facts.Facts, error)
	// KeepFacts keeps facts computed anew, with their packed details.
	KeepFacts(ctx context.Context, found map[FactKey]*facts.Facts) error
	// Details returns the packed details kept under a key; nil: none.
	Details(ctx context.Context, key FactKey) ([]byte, error)
	// Heads returns the packed heads kept under some of the keys.
	Heads(ctx context.Context, keys []FactKey) (map[FactKey][]byte, error)
	// Linked returns what files offer and ask under some of the keys.
	Linked(ctx context.Context, keys []FactKey) (map[FactKey]facts.Linked, error)
	// Links returns what the last survey of this part of the repository
	// resolved; nil: none.
	Links(ctx context.Context, subfolder string) (*links.Snapshot, error)
	// Listed is what the last survey of this part of the repository listed; nil:
	// none.
	Listed(ctx context.Context, subfolder string) (*Listed, error)
	// Pins are the commits that earlier surveys of this repository read the
	// history of.
	Pins(ctx context.Context) ([]string, error)
	// History returns what they read.
	History(ctx context.Context) (history.Known, error)
	// KeepHistory keeps commits read anew, with their counts: all that pins
	// reach are then known.
	KeepHistory(ctx context.Context, pins []string, commits []*history.Commit) error
}

// Run makes a survey. It returns the whole result, or the first error, ctx's
// among them; sink has then seen every stage that was completed.
func Run(ctx context.Context, g *repo.Git, o Options, memory Memory, sink Sink) (*Result, error) {
	if o.HalfLife <= 0 {
		o.HalfLife = history.DefaultHalfLife
	}
	if o.Reader == nil {
		o.Reader = inProcess{}
	}
	if o.Words == nil {
		o.Words = tagged.Standard
	}
	s := &run{git: g, options: o, memory: memory, sink: sink, found: map[string]recipe.Found{}, heads: map[FactKey][]byte{}, manifestTexts: map[string][]byte{},
		result: &Result{Commit: o.Commit, Subfolder: o.Subfolder, HalfLife: o.HalfLife, Words: o.Words}}
	if err := s.begin(ctx); err != nil {
		return s.result, err
	}
	defer s.ended()
	for _, step := range []struct {
		stage string
		do    func(context.Context) error
	}{
		{StageTree, s.tree}, {StageSizes, s.sizes}, {StageChanges, s.changes}, {StageContents, s.contents}, {StageLinks, s.links}, {StageLines, s.lines}, {StageLeads, s.leads},
	} {
		if err := step.do(ctx); err != nil {
			return s.result, fmt.Errorf("%s: %w", step.stage, err)
		}
		if err := sink.Done(ctx, step.stage, s.result); err != nil {
			return s.result, fmt.Errorf("%s: %w", step.stage, err)
		}
	}
	return s.result, nil
}

// begin starts what can go on while the tree is listed.
func (s *run) begin(ctx context.Context) error {
	pins, err := s.memory.Pins(ctx)
	if err != nil {
		return err
	}
	s.history = ahead.Begin(func() (history.Known, error) { return s.memory.History(ctx) })
	if len(pins) == 0 {
		s.options.Reader.Warm(runtime.GOMAXPROCS(0))
		return nil
	}
	s.options.Reader.Warm(1) // most is known
	s.listed = ahead.Begin(func() (*Listed, error) { return s.memory.Listed(ctx, s.options.Subfolder) })
	s.reached = ahead.Begin(func() ([]string, error) { return s.git.Reachable(ctx, s.options.Commit) })
	return nil
}

// ended waits until nothing goes on that was begun.
func (s *run) ended() {
	_, _ = s.history()
	if s.listed != nil {
		_, _ = s.listed()
		_, _ = s.reached()
	}
	if s.recalled != nil {
		_, _ = s.recalled()
	}
}

// run is one survey under way.
type run struct {
	damaged    []string // files whose objects cannot be read, with why
	git        *repo.Git
	options    Options
	memory     Memory
	sink       Sink
	result     *Result
	attributes map[string]map[string]string
	unkept     []*history.Commit // commits that memory does not hold
	uncounted  []*history.Commit // commits whose lines are still to be counted
	// countedEarly is how many commits were counted with the changes already.
	countedEarly int
	listed       func() (*Listed, error)       // waits for what an earlier survey listed; nil: there is none
	before       *Listed                       // what the tree was listed by; nil: it was listed anew
	history      func() (history.Known, error) // waits for the commits that memory knows
	reached      func() ([]string, error)      // waits for the commits that the pin reaches; nil: not asked for
	recalled     func() (*recalled, error)     // waits for what memory knows of the blobs
	manifests    map[string]string             // path → blob of build files
	found        map[string]recipe.Found       // path → what a build file tells
	heads        map[FactKey][]byte            // packed heads of the blobs read anew
	// manifestTexts are the build files that imports are resolved by.
	manifestTexts map[string][]byte
}

func (s *run) limit(what, format string, args ...any) {
	s.result.Limits = append(s.result.Limits, Limit{What: what, Why: fmt.Sprintf(format, args...)})
}

// Quiet is a sink that keeps nothing but how long each stage took.
type Quiet struct {
	Milliseconds map[string]int64
	began        time.Time
}

// Begin starts the stage's clock.
func (q *Quiet) Begin(context.Context, string, int) { q.began = time.Now() }

// Progress does nothing.
func (q *Quiet) Progress(string, int, int) {}

// Done stops the stage's clock.
func (q *Quiet) Done(_ context.Context, stage string, _ *Result) error {
	if q.Milliseconds == nil {
		q.Milliseconds = map[string]int64{}
	}
	q.Milliseconds[stage] = time.Since(q.began).Milliseconds()
	return nil
}

// Forget is a memory that remembers nothing.
type Forget struct{}

// Facts knows none.
func (Forget) Facts(context.Context, []FactKey) (map[FactKey]*facts.Facts, error) { return nil, nil }

// KeepFacts drops them.
func (Forget) KeepFacts(context.Context, map[FactKey]*facts.Facts) error { return nil }

// Details knows none.
func (Forget) Details(context.Context, FactKey) ([]byte, error) { return nil, nil }

// Heads knows none.
func (Forget) Heads(context.Context, []FactKey) (map[FactKey][]byte, error) { return nil, nil }

// Linked knows none.
func (Forget) Linked(context.Context, []FactKey) (map[FactKey]facts.Linked, error) { return nil, nil }

// Links knows none.
func (Forget) Links(context.Context, string) (*links.Snapshot, error) { return nil, nil }

// Listed knows none.
func (Forget) Listed(context.Context, string) (*Listed, error) { return nil, nil }

// Pins knows none.
func (Forget) Pins(context.Context) ([]string, error) { return nil, nil }

// History knows none.
func (Forget) History(context.Context) (history.Known, error) { return history.Known{}, nil }

// KeepHistory drops it.
func (Forget) KeepHistory(context.Context, []string, []*history.Commit) error { return nil }
