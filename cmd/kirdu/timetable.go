package main

import (
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"kirdu/core/measure"
	"kirdu/core/timetable"
	"kirdu/exchange"
)

func timetableCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "timetable FILE|-",
		Short: "Print when to begin what, so that every pudding of a gathering is ready in time",
		Long: "Reads a gathering (kirdu-gathering/1): puddings, burners, pots, hands, and when they are served. Prints its\n" +
			"tasks with their times, burners, pots and hands, what will be late and why, and when the day starts.",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := readFile(args[0], cmd.InOrStdin(), exchange.MaxGatheringBytes)
			if err != nil {
				return err
			}
			g, err := exchange.ReadGathering(data)
			if faults, ok := errors.AsType[measure.Faults](err); ok {
				fmt.Fprintln(cmd.ErrOrStderr(), faults)
				return exitError{faultsCode}
			} else if err != nil {
				return err
			}
			out, err := exchange.Timetable(timetable.Solve(g.Gathering, timetable.Options{}), g.ServeAt)
			if err != nil {
				return err
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(out))
			return err
		},
	}
}
