package main

import (
	"errors"
	"io"
	"log/slog"

	"github.com/spf13/cobra"
)

var (
	errLogLevel  = errors.New("--log-level is debug, info, warn or error")
	errLogFormat = errors.New("--log-format is text or json")
)

// logFlags are those of the log, which every command has.
func logFlags(root *cobra.Command) {
	root.PersistentFlags().String("log-level", "info", "how much is logged: debug, info (a line for each request), warn, error")
	root.PersistentFlags().String("log-format", "text", "how it is logged: text or json")
	root.PersistentPreRunE = func(cmd *cobra.Command, _ []string) error {
		_, err := newLogger(cmd, io.Discard)
		return err
	}
}

// newLogger returns the log that the flags ask for. Errors: errLogLevel, errLogFormat.
func newLogger(cmd *cobra.Command, out io.Writer) (*slog.Logger, error) {
	text, err := cmd.Flags().GetString("log-level")
	if err != nil {
		return nil, err
	}
	var level slog.Level
	if level.UnmarshalText([]byte(text)) != nil {
		return nil, errLogLevel
	}
	options := &slog.HandlerOptions{Level: level}
	switch format, err := cmd.Flags().GetString("log-format"); {
	case err != nil:
		return nil, err
	case format == "text":
		return slog.New(slog.NewTextHandler(out, options)), nil
	case format == "json":
		return slog.New(slog.NewJSONHandler(out, options)), nil
	}
	return nil, errLogFormat
}
