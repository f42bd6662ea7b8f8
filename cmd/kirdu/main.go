// Command kirdu plans, computes, guides and records puddings.
package main

import (
	"context"
	"errors"
	"fmt"
	"kirdu/words"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"
)

// An exitError ends the program with a code of its own, its message written
// already.
type exitError struct{ code int }

func (e exitError) Error() string { return fmt.Sprintf("exit %d", e.code) }

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	err := rootCommand().ExecuteContext(ctx)
	if code, ok := errors.AsType[exitError](err); ok {
		stop()
		os.Exit(code.code)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "kirdu:", words.Printer{}.Fault(err))
		stop()
		os.Exit(1)
	}
}

func rootCommand() *cobra.Command {
	root := &cobra.Command{
		Use:           "kirdu",
		Short:         "Puddings at home: planned, computed, cooked with guidance, remembered",
		SilenceUsage:  true,
		SilenceErrors: true,
		Version:       version(),
	}
	root.AddCommand(serveCommand(), demoCommand(), forecastCommand(), balanceCommand(), timetableCommand(), passphraseCommand(),
		backupCommand(), restoreCommand(), checkCommand(), exportCommand(), importCommand(), schemaCommand(), wordsCommand(), versionCommand())
	logFlags(root)
	root.SetVersionTemplate("kirdu {{.Version}}\n")
	return root
}
