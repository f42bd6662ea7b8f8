package demo_test

import (
	"context"
	"log/slog"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/mend"
	"kirdu/core/vessel"
	"kirdu/demo"
	"kirdu/store"
)

// TestSampleKitchen holds the sample against what it is to show: puddings
// without stops and warnings, pots of different shapes, and batches whose weigh-ins
// teach that the gas is weaker than its label.
func TestSampleKitchen(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "demo.sqlite"))
	require.NoError(t, err)
	defer s.Close()
	now := time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)
	require.NoError(t, demo.Fill(ctx, &app.Kitchen{Store: s, Now: func() time.Time { return now }, Zone: time.UTC,
		Log: slog.New(slog.DiscardHandler)}))

	shelf, err := s.Puddings(ctx, 100)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(shelf), 4)
	for _, p := range shelf {
		_, found := mend.Forecast(p.Plan, forecast.Options{})
		for _, one := range found {
			require.Equal(t, forecast.Note, one.Severity, "%s: %s", p.Plan.Name, one.Rule)
		}
	}
	pots, err := s.Pots(ctx)
	require.NoError(t, err)
	shapes := map[vessel.Shape]bool{}
	for _, p := range pots {
		shapes[p.Shape] = true
	}
	require.GreaterOrEqual(t, len(shapes), 3)
	burners, err := s.Burners(ctx)
	require.NoError(t, err)
	require.Len(t, burners, 2)

	book, err := s.Book(ctx, 100)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(book), 12)
	rescued := slices.IndexFunc(book, func(k store.Cook) bool {
		return slices.ContainsFunc(k.Events, func(e cook.Event) bool { return e.Kind == cook.Mended })
	})
	require.GreaterOrEqual(t, rescued, 0, "one was saved")
	for _, k := range book {
		state := k.State()
		require.NotEmpty(t, state.Readings, "every batch was weighed")
		require.NotNil(t, k.Verdict)
		require.True(t, state.Finished.Before(now))
		live := learn.Follow(&state, state.Finished)
		require.InDelta(t, 0.85, live.Power.Factor, 0.06, k.Plan.Name)
	}
	onStove, err := s.OnStove(ctx)
	require.NoError(t, err)
	require.Len(t, onStove, 1)
}
