package main

import (
	"fmt"
	"io"
	"path"

	"github.com/spf13/cobra"

	"juxtagram/core/intake"
)

func skimCommand() *cobra.Command {
	var f surveyFlags
	lines := 40
	cmd := &cobra.Command{
		Use:   "skim [flags] SOURCE FILE",
		Short: "Print a file of a repository within so many lines",
		Long: `Print the most telling lines of a file. What is folded away shows one line, with
"+" before it and what it holds behind it. FILE is a path in the repository.`,
		Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withSurvey(cmd.Context(), args[0], f, func(s *surveyed) error {
				file := s.whole.Find(path.Clean(args[1]))
				if file < 0 {
					return &intake.Refused{Reason: fmt.Sprintf("%s is not in commit %.10s", args[1], s.result.Commit)}
				}
				blobs := s.git.Blobs()
				defer blobs.Close()
				skimmed, content, err := s.result.Skim(cmd.Context(), s.whole, s.memory, blobs, file)
				if err != nil {
					return err
				}
				return writeTo(f.out, func(w io.Writer) error { return skimmed.Print(w, content, lines) })
			})
		},
	}
	f.add(cmd)
	cmd.Flags().IntVarP(&lines, "lines", "n", lines, "how many lines to show")
	return cmd
}
