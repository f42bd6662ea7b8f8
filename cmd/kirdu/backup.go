package main

import (
	"fmt"
	"os"
	"time"

	"github.com/spf13/cobra"

	"kirdu/app"
	"kirdu/store"
)

func backupCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "backup FILE",
		Short: "Copy all data into a new file, also while the application runs",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withExisting(cmd, data, "copy", func(k *app.Kitchen, path string) error {
				if err := k.Store.Backup(cmd.Context(), args[0]); err != nil {
					return err
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%s is copied to %s, and the copy is whole.\n", path, args[0])
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "data file (default: kirdu.sqlite in your data folder)")
	return cmd
}

// withExisting is withKitchen for what makes no kitchen where there is none.
func withExisting(cmd *cobra.Command, given, what string, do func(k *app.Kitchen, path string) error) error {
	path, err := app.DataFile(given)
	if err != nil {
		return err
	}
	if _, err := os.Stat(path); err != nil {
		return fmt.Errorf("there is no data to %s: %w", what, err)
	}
	return withKitchen(cmd, path, do)
}

func restoreCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "restore FILE",
		Short: "Put a backup in the place of your data, which is kept beside it",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			path, err := app.DataFile(data)
			if err != nil {
				return err
			}
			kept, err := store.Restore(cmd.Context(), args[0], path, time.Now())
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s is %s now.\n", args[0], path)
			if kept != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "What was there before is kept as %s.\n", kept)
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "data file (default: kirdu.sqlite in your data folder)")
	return cmd
}

func checkCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "check [FILE]",
		Short: "Check from end to end whether your data, or a backup, is whole",
		Args:  cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			path, err := app.DataFile(data)
			if err != nil {
				return err
			}
			if len(args) == 1 {
				path = args[0]
			}
			if _, err := os.Stat(path); err != nil {
				return fmt.Errorf("there is no data to check: %w", err)
			}
			if err := store.Verify(cmd.Context(), path); err != nil {
				return fmt.Errorf("%w; put a copy in its place with kirdu restore", err)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s is whole.\n", path)
			return nil
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "data file (default: kirdu.sqlite in your data folder)")
	return cmd
}
