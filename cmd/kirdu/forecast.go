package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"kirdu/app"
	"kirdu/core/measure"
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
			if faults, ok := errors.AsType[measure.Faults](err); ok {
				fmt.Fprintln(cmd.ErrOrStderr(), faults)
				return exitError{faultsCode}
			} else if err != nil {
				return fmt.Errorf("write forecast: %w", err)
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(out))
			return err
		},
	}
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
