package main

import (
	"fmt"
	"kirdu/app"

	"github.com/spf13/cobra"
)

func balanceCommand() *cobra.Command {
	var set, lock []string
	command := &cobra.Command{
		Use:   "balance FILE|- --set thickness=5 --set sweet=13 --set bowls=8 --lock rice-short",
		Short: "Print the plan with the smallest change that meets the aims",
		Long: "Finds the smallest change of amounts and reduction that brings a plan to its aims as it is served.\n" +
			"Aims: thickness (1 to 8), sweet (per cent), bowls, doneness.PART (0 to 10). --lock keeps a material,\n" +
			"or \"mark\" the reduction, \"time\" how long it cooks, \"flame\".\n" +
			"Without --set the aims that stand in the plan count.",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := readPlanFile(args[0], cmd.InOrStdin())
			if err != nil {
				return err
			}
			out, err := app.BalanceDocument(data, set, lock)
			if err != nil {
				return faulty(cmd, err)
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(out))
			return err
		},
	}
	command.Flags().StringArrayVar(&set, "set", nil, "an aim, such as thickness=5, sweet=13, bowls=8 or doneness.rice-short=1.6")
	command.Flags().StringArrayVar(&lock, "lock", nil, "what must stay: a material of the plan, mark, time or flame")
	return command
}
