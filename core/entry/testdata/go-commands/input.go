package main

import "github.com/spf13/cobra"

var root = &cobra.Command{Use: "marsh [flags]", Short: "Reads gauges"}

func add() *cobra.Command {
	return &cobra.Command{
		Use:   "predict STATION",
		Short: "Says what the tide will be",
		RunE:  run,
	}
}
