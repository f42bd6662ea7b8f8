package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/store"
)

func TestGatherings(t *testing.T) {
	ctx := context.Background()
	s, id := fresh(t), "rice"
	require.NoError(t, s.CreatePudding(ctx, id, rice(t), time.Date(2026, 11, 20, 9, 0, 0, 0, time.UTC)))
	at := time.Date(2026, 11, 28, 18, 30, 0, 0, time.UTC)
	g := store.Gathering{ID: "g", Name: "Supper", ServeAt: at, Guests: 14, Hands: 2}
	require.NoError(t, s.SaveGathering(ctx, g, at))
	g.Hands = 3
	require.NoError(t, s.SaveGathering(ctx, g, at))
	stored, err := s.Gathering(ctx, "g")
	require.NoError(t, err)
	require.Equal(t, g, stored)
	require.NoError(t, s.SetShare(ctx, "g", store.Share{PuddingID: id, Bowls: 6}, at))
	require.NoError(t, s.SetShare(ctx, "g", store.Share{PuddingID: id, Bowls: 8}, at))
	require.ErrorIs(t, s.SetShare(ctx, "g", store.Share{PuddingID: "nobody", Bowls: 8}, at), store.ErrNotFound)
	shares, err := s.Shares(ctx, "g")
	require.NoError(t, err)
	require.Equal(t, []store.Share{{PuddingID: id, Bowls: 8}}, shares)
	require.NoError(t, s.RemovePudding(ctx, id, at))
	shares, err = s.Shares(ctx, "g")
	require.NoError(t, err)
	require.Empty(t, shares, "what is off the shelf is off the table")
	require.NoError(t, s.RestorePudding(ctx, id))
	require.NoError(t, s.DropShare(ctx, "g", id))
	require.ErrorIs(t, s.DropShare(ctx, "g", id), store.ErrNotFound)
	require.NoError(t, s.RemoveGathering(ctx, "g", at))
	_, err = s.Gathering(ctx, "g")
	require.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, s.RestoreGathering(ctx, "g"))
	all, err := s.Gatherings(ctx)
	require.NoError(t, err)
	require.Len(t, all, 1)
}
