// Command ubiquant is the whole tool in one binary: the server, and the audit,
// delivery and workspace commands for scripts and builds.
package main

import (
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"
)

// Exit codes, the same for all commands.
const (
	exitFound  = 1 // the command worked and found what it was asked to fail on
	exitBroken = 2 // the input or the call cannot be used
)

// exitError carries an exit code.
type exitError struct {
	code int
	err  error
}

func (e *exitError) Error() string { return e.err.Error() }

func main() {
	root := &cobra.Command{
		Use:           "ubiquant",
		Short:         "Assemble screens from a shared UI component library, and keep them consistent.",
		Long:          "Ubiquant holds a team's component kit, the screens assembled from it, and the\ncensus of every use together.\n\nExit codes: 0 all well; 1 findings at or above the failing level; 2 the input or\nthe call cannot be used.",
		Version:       version,
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.CompletionOptions.HiddenDefaultCmd = true
	root.AddCommand(commands()...)
	if err := root.Execute(); err != nil {
		var coded *exitError
		if errors.As(err, &coded) {
			if coded.err != nil && coded.code != exitFound {
				fmt.Fprintln(os.Stderr, "ubiquant:", coded.err)
			}
			os.Exit(coded.code)
		}
		fmt.Fprintln(os.Stderr, "ubiquant:", err)
		os.Exit(exitBroken)
	}
}

func commands() []*cobra.Command {
	return []*cobra.Command{
		serveCommand(),
		auditCommand(), initCommand(), settleCommand(), watchCommand(), readCommand(),
		deliverCommand(), textsCommand(),
		exportCommand(),
		importCommand(),
		seedCommand(),
		userCommand(),
		kitCommand(),
		intakeCommand(),
		registryCommand(),
		measureCommand(),
		screenshotsCommand(),
		openapiCommand(),
	}
}
