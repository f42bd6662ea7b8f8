package main

import (
	"fmt"
	"runtime/debug"

	"github.com/spf13/cobra"

	"kirdu/docs"
)

func schemaCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "schema",
		Short: "Print the JSON Schema of the plan document",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			_, err := cmd.OutOrStdout().Write(docs.PlanSchema)
			return err
		},
	}
}

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print which Kirdu this is",
		Args:  cobra.NoArgs,
		Run: func(cmd *cobra.Command, _ []string) {
			fmt.Fprintln(cmd.OutOrStdout(), "kirdu", version())
		},
	}
}

// release is set by the linker for a release; version says what else is known of
// the build.
var release = "development"

func version() string {
	text := release
	info, known := debug.ReadBuildInfo()
	if !known {
		return text
	}
	for _, s := range info.Settings {
		switch {
		case s.Key == "vcs.revision" && len(s.Value) >= shortRevision:
			text += " " + s.Value[:shortRevision]
		case s.Key == "vcs.modified" && s.Value == "true":
			text += " with changes"
		}
	}
	return text + ", " + info.GoVersion
}

const shortRevision = 12
