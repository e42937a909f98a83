package main

import (
	"encoding/json"
	"os"

	"github.com/spf13/cobra"

	"juxtagram/server"
)

// openapiCommand prints the API's description; it needs no database.
func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "openapi",
		Short: "Print the description of the API (OpenAPI 3.1)",
		Args:  cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			enc := json.NewEncoder(os.Stdout)
			enc.SetIndent("", "  ")
			return enc.Encode(server.Describe())
		},
	}
}
