package main

import (
	"log/slog"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/demo"
	"kirdu/exchange"
	"kirdu/store"
)

// TestExportWipeImport exports the sample kitchen, takes it over into an empty
// one and exports that: the same bytes.
func TestExportWipeImport(t *testing.T) {
	folder := t.TempDir()
	data, first, fresh, second := filepath.Join(folder, "a.sqlite"), filepath.Join(folder, "a.kirdu.zip"),
		filepath.Join(folder, "b.sqlite"), filepath.Join(folder, "b.kirdu.zip")
	s, err := store.Open(t.Context(), data)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(t.Context(), &app.Kitchen{Store: s, Now: time.Now, Zone: time.UTC, Log: slog.New(slog.DiscardHandler)}))
	require.NoError(t, s.Close())

	out, _, err := command(t, t.Context(), "", "export", first, "--data", data)
	require.NoError(t, err)
	require.Contains(t, out, "Everything is in")
	_, _, err = command(t, t.Context(), "", "export", first, "--data", data)
	require.ErrorIs(t, err, store.ErrThere, "it does not write over a file")

	out, _, err = command(t, t.Context(), "", "import", first, "--data", fresh, "--dry-run")
	require.NoError(t, err)
	require.Contains(t, out, "nothing was changed")
	out, _, err = command(t, t.Context(), "", "import", first, "--data", fresh)
	require.NoError(t, err)
	require.Contains(t, out, "puddings")
	_, _, err = command(t, t.Context(), "", "export", second, "--data", fresh)
	require.NoError(t, err)
	before, err := os.ReadFile(first)
	require.NoError(t, err)
	after, err := os.ReadFile(second)
	require.NoError(t, err)
	require.True(t, string(before) == string(after), "%d and %d bytes", len(before), len(after))

	_, _, err = command(t, t.Context(), "", "import", data, "--data", fresh)
	require.ErrorIs(t, err, exchange.ErrNoArchive)
	require.ErrorContains(t, err, "nothing was changed")
	_, _, err = command(t, t.Context(), "", "import", first, "--data", fresh, "--clashes", "both")
	require.ErrorContains(t, err, "choose ours or theirs")
	_, _, err = command(t, t.Context(), "", "export", filepath.Join(folder, "c.zip"), "--data", filepath.Join(folder, "nowhere.sqlite"))
	require.ErrorContains(t, err, "no data to export")
}
