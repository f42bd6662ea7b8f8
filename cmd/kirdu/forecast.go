package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/words"
)

// faultsCode is the exit code of a plan with faults.
const faultsCode = 2

func forecastCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "forecast FILE|-",
		Short: "Print the forecast of a plan file; - reads standard input",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := readPlanFile(args[0], cmd.InOrStdin())
			if err != nil {
				return err
			}
			out, err := app.ForecastDocument(data)
			if err != nil {
				return faulty(cmd, err)
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(out))
			return err
		},
	}
}

// faulty prints the faults of a document, one a line, and returns what ends the
// program; another error it returns as it is.
func faulty(cmd *cobra.Command, err error) error {
	faults, ok := errors.AsType[measure.Faults](err)
	if !ok {
		return err
	}
	fmt.Fprintln(cmd.ErrOrStderr(), words.Printer{}.Fault(faults))
	return exitError{faultsCode}
}

// readPlanFile reads a plan.
func readPlanFile(name string, stdin io.Reader) ([]byte, error) {
	return readFile(name, stdin, app.MaxPlanBytes)
}

// readFile reads at most one byte more than a document may have, so that one that
// is too long is refused and not cut.
func readFile(name string, stdin io.Reader, most int64) ([]byte, error) {
	if name == "-" {
		return io.ReadAll(io.LimitReader(stdin, most+1))
	}
	file, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	return io.ReadAll(io.LimitReader(file, most+1))
}
