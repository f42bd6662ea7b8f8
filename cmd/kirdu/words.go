package main

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"kirdu/app"
)

func wordsCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "words",
		Short: "Print every text of the catalogue and the steps of every way, for a reviewer",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			texts, err := app.Texts()
			if err != nil {
				return err
			}
			doubtful := 0
			for _, one := range texts {
				fmt.Fprintf(cmd.OutOrStdout(), "%s\t%s\t%s\n", one.Key, one.Text, strings.Join(one.Doubts, "; "))
				doubtful += min(len(one.Doubts), 1)
			}
			fmt.Fprintf(cmd.ErrOrStderr(), "%d texts, %d to be looked at\n", len(texts), doubtful)
			return nil
		},
	}
}
