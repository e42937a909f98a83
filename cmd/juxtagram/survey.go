package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"runtime"
	"time"

	"github.com/spf13/cobra"

	"juxtagram/core/history"
	"juxtagram/core/intake"
	"juxtagram/core/reader"
	"juxtagram/core/repo"
	"juxtagram/core/summary"
	"juxtagram/survey"
)

type surveyFlags struct {
	pin, out, subfolder    string
	noTime, noPeople, mute bool
	halfLife               float64
}

func surveyCommand() *cobra.Command {
	var f surveyFlags
	cmd := &cobra.Command{
		Use:   "survey [flags] SOURCE",
		Short: "Print the survey document of a repository",
		Long: `Print one JSON document with all that a survey finds, without database or server.

SOURCE is a folder with a Git repository (bare or not), an archive (zip, tar,
tar.gz), a git bundle, or a Git address. The source is only read.

Exit status: 0 the document was written (what was left out stands in "limits"),
2 the source cannot be read, 1 the program failed.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error { return runSurvey(cmd.Context(), args[0], f) },
	}
	f.add(cmd)
	cmd.Flags().BoolVar(&f.noTime, "no-time", false, "leave out surveyed_at and timings")
	return cmd
}

// add adds the flags that every command on a source has.
func (f *surveyFlags) add(cmd *cobra.Command) {
	cmd.Flags().StringVar(&f.pin, "pin", "", "tag, branch or commit id to survey (default: where HEAD leads)")
	cmd.Flags().StringVarP(&f.out, "out", "o", "", "write to this file instead of standard output")
	cmd.Flags().StringVar(&f.subfolder, "subfolder", "", "limit the survey to this folder of the repository")
	cmd.Flags().Float64Var(&f.halfLife, "half-life", history.DefaultHalfLife, "days after which a change counts half")
	cmd.Flags().BoolVar(&f.noPeople, "no-people", false, "leave people out")
	cmd.Flags().BoolVarP(&f.mute, "quiet", "q", false, "no progress on standard error")
}

func runSurvey(ctx context.Context, source string, f surveyFlags) error {
	return withSurvey(ctx, source, f, func(s *surveyed) error {
		about := survey.About{Source: source, Ref: s.ref, People: !f.noPeople, Whole: s.whole}
		about.Details = func(key survey.FactKey) ([]byte, error) { return s.memory.Details(ctx, key) }
		if !f.noTime {
			about.At, about.Timings = time.Now(), s.timings
		}
		for _, n := range s.notes {
			about.Limits = append(about.Limits, survey.Limit{What: "take-in", Why: n})
		}
		return writeTo(f.out, survey.Describe(s.result, about).Write)
	})
}

// surveyed is a source that was surveyed without database.
type surveyed struct {
	git     *repo.Git
	result  *survey.Result
	whole   *summary.Whole
	memory  *survey.Scratch
	ref     string
	notes   []string // of the take-in
	timings map[string]int64
}

// withSurvey surveys a source and hands it on; what it keeps on disk meanwhile
// is gone afterwards.
func withSurvey(ctx context.Context, source string, f surveyFlags, do func(*surveyed) error) error {
	temp, err := os.MkdirTemp("", "juxtagram-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(temp)
	say := func(what string) {
		if !f.mute {
			fmt.Fprintln(os.Stderr, what)
		}
	}
	exe, _ := os.Executable()
	mirror := filepath.Join(temp, "mirror.git")
	began := time.Now()
	taken, err := intake.Source(ctx, mirror, source, intake.Options{
		Protocols: []string{"https", "http", "ssh", "git", "file"}, AskPass: exe, Progress: say,
	})
	if err != nil {
		return err
	}
	g := repo.At(mirror)
	commit, ref, err := choosePin(ctx, g, f.pin)
	if err != nil {
		return err
	}
	sink := &printingSink{Quiet: survey.Quiet{Milliseconds: map[string]int64{"take-in": time.Since(began).Milliseconds()}}, say: say}
	memory, err := survey.NewScratch(temp)
	if err != nil {
		return err
	}
	defer func() { _ = memory.Close() }() // its folder goes in any case
	readers := reader.New(runtime.GOMAXPROCS(0))
	defer readers.Close()
	r, err := survey.Run(ctx, g, survey.Options{Commit: commit, Subfolder: filepath.ToSlash(f.subfolder), HalfLife: f.halfLife, Reader: readers}, memory, sink)
	if err != nil {
		return err
	}
	whole, err := r.Whole(ctx, memory, !f.noPeople)
	if err != nil {
		return err
	}
	return do(&surveyed{g, r, whole, memory, ref, taken.Notes, sink.Milliseconds})
}

func choosePin(ctx context.Context, g *repo.Git, pin string) (commit, ref string, err error) {
	if pin == "" {
		commit, _, err = g.Head(ctx)
		return commit, "", err
	}
	commit, err = g.Resolve(ctx, pin)
	if unknown := (*repo.UnknownPinError)(nil); errors.As(err, &unknown) {
		return "", "", &intake.Refused{Reason: unknown.Error()}
	}
	return commit, pin, err
}

// writeTo writes to a file, "" for standard output.
func writeTo(out string, write func(io.Writer) error) (err error) {
	var w io.Writer = os.Stdout
	if out != "" {
		f, createErr := os.Create(out)
		if createErr != nil {
			return createErr
		}
		defer func() { err = errors.Join(err, f.Close()) }()
		w = f
	}
	b := bufio.NewWriter(w)
	if err := write(b); err != nil {
		return err
	}
	return b.Flush()
}

// printingSink tells each stage on standard error.
type printingSink struct {
	survey.Quiet
	say func(string)
}

func (p *printingSink) Begin(ctx context.Context, stage string, total int) {
	for _, s := range survey.Stages {
		if s.Name == stage {
			p.say(s.Title)
		}
	}
	p.Quiet.Begin(ctx, stage, total)
}
