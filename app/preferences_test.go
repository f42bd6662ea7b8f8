package app_test

import (
	"log/slog"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/core/lead"
)

// Who chooses to be led through every pudding is told again what was known; another choice, and the same one again,
// forget nothing.
func TestToBeLedBringsTheHintsBack(t *testing.T) {
	k, err := app.Open(t.Context(), filepath.Join(t.TempDir(), "kitchen.sqlite"), slog.New(slog.DiscardHandler))
	require.NoError(t, err)
	t.Cleanup(func() { k.Store.Close() })
	known := func() int {
		_, list, err := k.Leads(t.Context(), "always")
		require.NoError(t, err)
		return len(list)
	}
	know := func() {
		ok, err := k.Know(t.Context(), lead.Light)
		require.NoError(t, err)
		require.True(t, ok)
	}
	know()
	require.NoError(t, k.SetPreferences(t.Context(), map[string]string{"lead": "first", "theme": "dark"}))
	require.Equal(t, 1, known())
	require.NoError(t, k.SetPreferences(t.Context(), map[string]string{"lead": "always"}))
	require.Zero(t, known())
	know()
	require.NoError(t, k.SetPreferences(t.Context(), map[string]string{"lead": "always", "theme": "light"}))
	require.Equal(t, 1, known(), "it was chosen before")
	p, err := k.Preferences(t.Context())
	require.NoError(t, err)
	require.Equal(t, "light", p.Theme)
}
