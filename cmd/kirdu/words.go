package main

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/words"
)

func wordsCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "words",
		Short: "Print every text of the catalogue and the steps of every way, for a reviewer",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			texts := words.Catalogue()
			var w words.Printer
			for _, way := range plan.Ways() {
				choice, err := way.Check(plan.WayChoice{})
				if err != nil {
					return err
				}
				const bowls = 6
				choice.Bowls, choice.Burner = bowls, vessel.DefaultBurner()
				choice.Pot = vessel.Pot{Shape: vessel.Straight, DiameterMM: 240, HeightMM: 160}
				p, err := way.Start(choice)
				if err != nil {
					return err
				}
				texts = append(texts, w.StepTexts(p)...)
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
