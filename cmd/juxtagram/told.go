package main

import (
	"fmt"
	"io"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"
)

func summariesCommand() *cobra.Command {
	var f surveyFlags
	cmd := &cobra.Command{
		Use:   "summaries [flags] SOURCE",
		Short: "Print the summaries of all folders and files of a repository, as Markdown",
		Long: `Print one Markdown document with what can be said of every folder and file,
without database or server. Each sentence names the lines that bear it.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withSurvey(cmd.Context(), args[0], f, func(s *surveyed) error {
				return writeTo(f.out, func(w io.Writer) error { return s.whole.WriteMarkdown(w, filepath.Base(args[0]), s.result.Commit) })
			})
		},
	}
	f.add(cmd)
	return cmd
}

func tagsCommand() *cobra.Command {
	var f surveyFlags
	cmd := &cobra.Command{
		Use:   "tags [flags] SOURCE",
		Short: "Print an index of the names that a repository defines, in the tags format of POSIX",
		Long: `Print name, path and line of every definition, sorted by name, in the format
that POSIX gives for ctags. Names with spaces, tabs or line feeds have no place
in it; how many were left out is told on standard error.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withSurvey(cmd.Context(), args[0], f, func(s *surveyed) error {
				return writeTo(f.out, func(w io.Writer) error {
					left, err := s.whole.Names.WriteTags(w)
					if left > 0 && !f.mute {
						fmt.Fprintf(os.Stderr, "%d names left out: they do not fit the format\n", left)
					}
					return err
				})
			})
		},
	}
	f.add(cmd)
	return cmd
}
