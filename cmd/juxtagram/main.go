// Command juxtagram maps an unfamiliar Git repository and guides teammates
// through it by shared reading plans.
package main

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/url"
	"os"
	"os/signal"
	"strings"
	"syscall"

	"github.com/spf13/cobra"

	"juxtagram/core/intake"
	"juxtagram/core/reader"
	"juxtagram/core/sandbox"
	"juxtagram/jobs"
	"juxtagram/survey"
)

// version is set at build time.
var version = "dev"

func main() {
	sandbox.Main(reader.Kind, sandbox.Tasks, jobs.Kind)
	if os.Getenv("JUXTAGRAM_ASKPASS_TOKEN") != "" {
		answerPassword(os.Args[1:])
		return
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := rootCommand().ExecuteContext(ctx); err != nil {
		if !errors.Is(err, context.Canceled) {
			words, _ := intake.Words(err)
			fmt.Fprintln(os.Stderr, "juxtagram:", cmp.Or(words, err.Error()))
		}
		os.Exit(exitStatus(err))
	}
}

func rootCommand() *cobra.Command {
	root := &cobra.Command{
		Use:           "juxtagram",
		Short:         "Map an unfamiliar Git repository and share a reading plan through it",
		Version:       version,
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.AddCommand(serveCommand(), demoCommand(), workerCommand(), surveyCommand(), summariesCommand(), tagsCommand(), skimCommand(), planCommand(), openapiCommand())
	return root
}

// exitStatus is 2 for a source that cannot be read, 3 for stale passages, 1 for our
// own failures.
func exitStatus(err error) int {
	if old := (*stale)(nil); errors.As(err, &old) {
		return 3
	}
	if none := (*survey.NoFolderError)(nil); errors.As(err, &none) {
		return 2
	}
	if _, unreadable := intake.Words(err); unreadable {
		return 2
	}
	return 1
}

// asksFor tells whether git's question, as "Password for 'https://user@host': ", is about
// the host that the credential was entered for.
func asksFor(question, host string) bool {
	_, rest, _ := strings.Cut(question, "'")
	address, _, ok := strings.Cut(rest, "'")
	u, err := url.Parse(address)
	return ok && err == nil && host != "" && strings.EqualFold(u.Hostname(), host)
}

// answerPassword answers git, which runs this program to ask for a user or a
// password of a private address.
func answerPassword(args []string) {
	if !asksFor(strings.Join(args, " "), os.Getenv("JUXTAGRAM_ASKPASS_HOST")) {
		return
	}
	if len(args) > 0 && strings.HasPrefix(strings.ToLower(args[0]), "username") {
		fmt.Println(os.Getenv("JUXTAGRAM_ASKPASS_USER"))
		return
	}
	fmt.Println(os.Getenv("JUXTAGRAM_ASKPASS_TOKEN"))
}
