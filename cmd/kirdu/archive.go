package main

import (
	"errors"
	"fmt"
	"os"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"kirdu/app"
	"kirdu/store"
)

func exportCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "export FILE",
		Short: "Write everything into one archive of open formats (JSON and CSV in a zip file)",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withExisting(cmd, data, "export", func(k *app.Kitchen, _ string) error {
				const ownerOnly = 0o600
				file, err := os.OpenFile(args[0], os.O_WRONLY|os.O_CREATE|os.O_EXCL, ownerOnly)
				if errors.Is(err, os.ErrExist) {
					return fmt.Errorf("%s: %w", args[0], store.ErrThere)
				} else if err != nil {
					return err
				}
				err = k.Export(cmd.Context(), file)
				if err == nil {
					err = file.Sync()
				}
				if err := errors.Join(err, file.Close()); err != nil {
					return errors.Join(err, os.Remove(args[0]))
				}
				fmt.Fprintf(cmd.OutOrStdout(), "Everything is in %s.\n", args[0])
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "data file (default: kirdu.sqlite in your data folder)")
	return cmd
}

func importCommand() *cobra.Command {
	var data, clashes string
	var dry bool
	cmd := &cobra.Command{
		Use:   "import FILE",
		Short: "Take an archive over: all of it, or nothing",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			choice := store.Choice(clashes)
			if choice != store.KeepOurs && choice != store.TakeTheirs {
				return fmt.Errorf("--clashes %q: choose %s or %s", clashes, store.KeepOurs, store.TakeTheirs)
			}
			path, err := app.DataFile(data)
			if err != nil {
				return err
			}
			file, err := os.Open(args[0])
			if err != nil {
				return err
			}
			defer file.Close()
			info, err := file.Stat()
			if err != nil {
				return err
			}
			return withKitchen(cmd, path, func(k *app.Kitchen, _ string) error {
				report, err := k.Import(cmd.Context(), file, info.Size(), choice, dry)
				if err != nil {
					return fmt.Errorf("%s: %w; nothing was changed", args[0], err)
				}
				out := cmd.OutOrStdout()
				if dry {
					fmt.Fprintln(out, "This is what it would do; nothing was changed.")
				}
				const gap = 2
				table := tabwriter.NewWriter(out, 0, 0, gap, ' ', 0)
				fmt.Fprintln(table, "kind\tnew\there already\there, and different")
				for _, one := range report {
					if one.New+one.Same+one.Other > 0 {
						fmt.Fprintf(table, "%s\t%d\t%d\t%d\n", app.Kept(one.Name), one.New, one.Same, one.Other)
					}
				}
				return table.Flush()
			})
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "data file (default: kirdu.sqlite in your data folder)")
	cmd.Flags().StringVar(&clashes, "clashes", string(store.KeepOurs), "what is here and different: ours stays, or theirs is taken")
	cmd.Flags().BoolVar(&dry, "dry-run", false, "only say what it would do")
	return cmd
}
