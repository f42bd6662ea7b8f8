package main

import (
	"fmt"
	"kirdu/app"

	"github.com/spf13/cobra"
)

func timetableCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "timetable FILE|-",
		Short: "Print when to begin what, so that every pudding of a gathering is ready in time",
		Long: "Reads a gathering (kirdu-gathering/1): puddings, burners, pots, hands, and when they are served. Prints its\n" +
			"tasks with their times, burners, pots and hands, what will be late and why, and when the day starts.",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := readFile(args[0], cmd.InOrStdin(), app.MaxGatheringBytes)
			if err != nil {
				return err
			}
			out, err := app.TimetableDocument(data)
			if err != nil {
				return faulty(cmd, err)
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(out))
			return err
		},
	}
}
