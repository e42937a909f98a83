package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"

	"github.com/spf13/cobra"

	"juxtagram/core/follow"
	"juxtagram/core/gitlog"
	"juxtagram/core/intake"
	"juxtagram/core/lang"
	"juxtagram/core/plan/health"
	"juxtagram/core/repo"
)

// stale tells that passages are not as they were.
type stale struct{ passages int }

func (s *stale) Error() string {
	if s.passages == 1 {
		return "1 passage is stale"
	}
	return fmt.Sprintf("%d passages are stale", s.passages)
}

func planCheckCommand() *cobra.Command {
	var repository, at, as, out string
	var bring bool
	var alike int
	var measure health.Measure
	cmd := &cobra.Command{
		Use:   "check [flags] FILE...",
		Short: "Tell which passages of plans are stale",
		Long: `Follow each passage of plan files (JSON or Markdown) from the commit it is read at
to another, and tell whether it is as it was, moved, changed or gone there. The
repository is only read; it must have the commits the plans are read at, so a
shallow one may have to be deepened.

Exit status: 0 nothing is stale; 3 a passage changed or is gone (with --strict:
or moved); 2 a plan or the repository cannot be read, or not wholly; 1 the program
failed.`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if !slices.Contains([]string{"text", "json", "sarif"}, as) {
				return fmt.Errorf("--as is text, json or sarif, not %q", as)
			}
			if alike < 1 || alike > 100 {
				return fmt.Errorf("--alike goes from 1 to 100")
			}
			if alike < 100 {
				measure.Alike = float64(alike) / 100
			}
			var plans []*planFile
			partly := false
			for _, name := range args {
				p, err := readPlan(name)
				if err != nil {
					return err
				}
				partly = partly || p.problems > 0
				plans = append(plans, p)
			}
			var checks []*health.Check
			err := withFollower(cmd.Context(), repository, at, plans, func(f *follow.Follower) error {
				for _, p := range plans {
					c, err := health.Look(cmd.Context(), f, p.state)
					if err != nil {
						return err
					}
					checks = append(checks, c)
				}
				return nil
			})
			if err != nil {
				return err
			}
			err = writeTo(out, func(w io.Writer) error { return tellChecks(w, as, args, checks, &measure) })
			if err == nil && bring && !partly {
				err = bringPlans(plans, checks)
			}
			n := 0
			for _, c := range checks {
				n += c.Stale(&measure)
			}
			switch {
			case err != nil:
				return err
			case partly:
				return &intake.Refused{Reason: "a plan could not be read wholly"}
			case n > 0:
				return &stale{n}
			}
			return nil
		},
	}
	cmd.Flags().StringVarP(&repository, "repository", "r", ".", "folder, archive, bundle or address of the repository")
	cmd.Flags().StringVar(&at, "at", "", "tag, branch or commit to check at (default: where HEAD leads)")
	cmd.Flags().StringVar(&as, "as", "text", "text, json or sarif")
	cmd.Flags().StringVarP(&out, "out", "o", "", "write to this file instead of standard output")
	cmd.Flags().BoolVar(&measure.Moved, "strict", false, "a passage that only moved is stale too")
	cmd.Flags().IntVar(&alike, "alike", 100, "percent of a changed passage that must read as they did for it not to be stale; 100: any change counts")
	cmd.Flags().BoolVar(&bring, "bring", false, "write the plan files anew, with what is not gone brought along to the commit")
	return cmd
}

// withFollower hands on what follows the passages of plans to a commit of a repository.
func withFollower(ctx context.Context, source, at string, plans []*planFile, do func(*follow.Follower) error) error {
	return withMirror(ctx, source, func(m *mirror) error {
		commit, _, err := choosePin(ctx, m.git, at)
		if err != nil {
			return err
		}
		commits := []string{commit}
		for _, p := range plans {
			for _, id := range p.state.Commits() {
				if there, err := m.git.Resolve(ctx, id); err == nil && !slices.Contains(commits, there) {
					commits = append(commits, there)
				} else if unknown := (*repo.UnknownPinError)(nil); err != nil && !errors.As(err, &unknown) {
					return err
				}
			}
		}
		log, err := gitlog.ReadBetween(ctx, m.git, commits)
		if err != nil {
			return err
		}
		return do(follow.New(m.git, m.blobs, log, commit, func(ctx context.Context, commit, path string) ([]lang.Symbol, error) {
			d, _, err := m.read(ctx, commit, path)
			if d == nil {
				return nil, err
			}
			return d.Outline, nil
		}))
	})
}

func tellChecks(w io.Writer, as string, files []string, checks []*health.Check, m *health.Measure) error {
	switch as {
	case "sarif":
		return health.WriteSARIF(w, files, checks, m)
	case "json":
		enc := json.NewEncoder(w)
		enc.SetIndent("", " ")
		enc.SetEscapeHTML(false)
		return enc.Encode(checks)
	}
	for _, c := range checks {
		if err := c.Print(w); err != nil {
			return err
		}
	}
	return nil
}

// bringPlans writes plan files anew, with their passages at the commit of the checks.
func bringPlans(plans []*planFile, checks []*health.Check) error {
	for i, p := range plans {
		checks[i].Bring(p.state)
		if err := p.rewrite(); err != nil {
			return err
		}
	}
	return nil
}
