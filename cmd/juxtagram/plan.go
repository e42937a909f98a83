package main

import (
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"juxtagram/core/intake"
	"juxtagram/core/plan/document"
	"juxtagram/core/plan/draft"
	"juxtagram/core/plan/page"
)

func planCommand() *cobra.Command {
	cmd := &cobra.Command{Use: "plan", Short: "Draft reading plans, write them as documents, and tell what is stale in them"}
	cmd.AddCommand(planDraftCommand(), planExportCommand(), planCheckCommand())
	return cmd
}

func planDraftCommand() *cobra.Command {
	var f surveyFlags
	asked := draft.Asked{Goal: draft.Goal{Kind: draft.Whole}}
	direction := string(draft.OutsideIn)
	about, as := "", "json"
	cmd := &cobra.Command{
		Use:   "draft [flags] SOURCE",
		Short: "Propose what to read of a repository, and in which order",
		Long: `Propose a reading plan for so many minutes: chapters and passages, each with the
reason why it is there. It is written as a plan document (JSON), as Markdown for the
repository's root, or as the proposal with its figures. --goal is what the plan is for: whole, folder
(--about its path), symbol (--about path:line:name), question (--about its words) or
since (--about a commit, tag or branch: what changed since then).`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if asked.Minutes < draft.LeastMinutes || asked.Minutes > draft.MostMinutes {
				return fmt.Errorf("--minutes goes from %d to %d", draft.LeastMinutes, draft.MostMinutes)
			}
			asked.Direction = draft.Direction(direction)
			if asked.Direction != draft.OutsideIn && asked.Direction != draft.InsideOut {
				return fmt.Errorf("--order is %s or %s", draft.OutsideIn, draft.InsideOut)
			}
			if !slices.Contains([]string{"json", "markdown", "proposal"}, as) {
				return fmt.Errorf("--as is json, markdown or proposal, not %q", as)
			}
			if err := aboutOf(&asked.Goal, about); err != nil {
				return err
			}
			return withSurvey(cmd.Context(), args[0], f, func(s *surveyed) error {
				if err := asked.Goal.Look(cmd.Context(), s.git, s.result.Commit, about); err != nil {
					return &intake.Refused{Reason: err.Error()}
				}
				p, err := s.result.Ground(s.whole).Propose(asked)
				if err != nil {
					return &intake.Refused{Reason: err.Error()}
				}
				return writeTo(f.out, func(w io.Writer) error { return writeDraft(w, p, as) })
			})
		},
	}
	f.add(cmd)
	cmd.Flags().StringVar(&asked.Goal.Kind, "goal", asked.Goal.Kind, "whole, folder, symbol, question or since")
	cmd.Flags().StringVar(&about, "about", "", "the folder, the symbol as path:line:name, the words of a question, or a commit")
	cmd.Flags().IntVarP(&asked.Minutes, "minutes", "m", 60, "how long readers have")
	cmd.Flags().StringVar(&as, "as", as, "json, markdown or proposal")
	cmd.Flags().StringVar(&direction, "order", direction, "outside-in or inside-out")
	return cmd
}

func writeDraft(w io.Writer, p *draft.Proposal, as string) error {
	switch as {
	case "json":
		return document.Write(w, p.Taken())
	case "markdown":
		return document.WriteMarkdown(w, p.Taken(), "")
	}
	enc := json.NewEncoder(w)
	enc.SetIndent("", " ")
	enc.SetEscapeHTML(false)
	return enc.Encode(p)
}

// aboutOf reads what a goal is about.
func aboutOf(g *draft.Goal, about string) error {
	switch g.Kind {
	case draft.Whole:
		return nil
	case draft.Since:
		return nil // Look reads it
	case draft.Question:
		g.Words = strings.TrimSpace(about)
		return nil
	case draft.Folder:
		if g.Path = about; about == "" {
			return fmt.Errorf("--goal folder needs --about, its path")
		}
		return nil
	case draft.Symbol:
		path, rest, _ := strings.Cut(about, ":")
		line, name, ok := strings.Cut(rest, ":")
		n, err := strconv.Atoi(line)
		if !ok || err != nil || name == "" {
			return fmt.Errorf("--goal symbol needs --about path:line:name")
		}
		g.Path, g.Line, g.Name = path, n, name
		return nil
	}
	return fmt.Errorf("--goal is whole, folder, symbol, question or since, not %q", g.Kind)
}

func planExportCommand() *cobra.Command {
	var folder, out, as, repository string
	cmd := &cobra.Command{
		Use:   "export [flags] FILE",
		Short: "Write a plan file as Markdown, JSON or one HTML page",
		Long: `Read a plan file (JSON or Markdown) and write it as Markdown for people, which
leads to the code by path and lines from the folder of the repository that it will
stand in; as JSON; or as one HTML page that holds the code of the repository too.
What the file holds that cannot be taken is told on standard error.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(args[0])
			if err != nil {
				return err
			}
			switch as {
			case "markdown":
				return writeTo(out, func(w io.Writer) error { return document.WriteMarkdown(w, p.state, strings.Trim(folder, "/")) })
			case "json":
				return writeTo(out, func(w io.Writer) error { return document.Write(w, p.state) })
			case "html":
				return withMirror(cmd.Context(), repository, func(m *mirror) error {
					from := &page.Source{Git: m.git, Blobs: m.blobs, Skim: m.skim}
					return writeTo(out, func(w io.Writer) error { return page.Write(cmd.Context(), w, p.state, from, page.About{}) })
				})
			}
			return fmt.Errorf("--as is markdown, json or html, not %q", as)
		},
	}
	cmd.Flags().StringVar(&as, "as", "markdown", "markdown, json or html")
	cmd.Flags().StringVar(&folder, "folder", "", "of Markdown: the folder of the repository that it will stand in; empty: the root")
	cmd.Flags().StringVarP(&repository, "repository", "r", ".", "of HTML: folder, archive, bundle or address of the repository")
	cmd.Flags().StringVarP(&out, "out", "o", "", "write to a file instead of standard output")
	return cmd
}
