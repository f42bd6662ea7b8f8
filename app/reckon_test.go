package app

import (
	"context"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/store"
)

// What several ask for at once is computed once; what is known is not computed again.
func TestReckonedOnce(t *testing.T) {
	var r reckoner
	var worked atomic.Int32
	hold := make(chan struct{})
	work := func() int { worked.Add(1); <-hold; return 7 }
	var group sync.WaitGroup
	for range 20 {
		group.Go(func() {
			got, err := reckon(t.Context(), &r, "k", false, work)
			require.NoError(t, err)
			require.Equal(t, 7, got)
		})
	}
	require.Eventually(t, func() bool { return worked.Load() == 1 && r.waits("k", 0) == 20 }, 5*time.Second, time.Millisecond)
	close(hold)
	group.Wait()
	got, err := reckon(t.Context(), &r, "k", false, func() int { return 8 })
	require.NoError(t, err)
	require.Equal(t, 7, got)
	require.EqualValues(t, 1, worked.Load())
	require.Empty(t, r.waiting)
}

// A request that is given up comes back at once; what nobody waits for is not begun. What is slow keeps nothing
// quick waiting.
func TestWhatNobodyWaitsFor(t *testing.T) {
	var r reckoner
	hold := make(chan struct{})
	begun := make(chan struct{})
	first := make(chan error, 1)
	go func() {
		_, err := reckon(context.Background(), &r, "slow", true, func() int { close(begun); <-hold; return 1 })
		first <- err
	}()
	<-begun

	var worked atomic.Bool
	ctx, giveUp := context.WithCancel(t.Context())
	second := make(chan error, 1)
	go func() {
		_, err := reckon(ctx, &r, "queued", true, func() int { worked.Store(true); return 2 })
		second <- err
	}()
	require.Eventually(t, func() bool { return r.waits("queued", 0) == 1 }, 5*time.Second, time.Millisecond)
	giveUp()
	require.ErrorIs(t, <-second, context.Canceled)

	got, err := reckon(t.Context(), &r, "quick", false, func() int { return 3 })
	require.NoError(t, err, "the other lane is free")
	require.Equal(t, 3, got)

	close(hold)
	require.NoError(t, <-first)
	got, err = reckon(t.Context(), &r, "last", true, func() int { return 4 })
	require.NoError(t, err)
	require.Equal(t, 4, got)
	require.False(t, worked.Load(), "nobody waited for it")
	got, err = reckon(t.Context(), &r, "queued", true, func() int { return 5 })
	require.NoError(t, err)
	require.Equal(t, 5, got, "asked for again it is computed")
}

// What panics is the fault of that request alone, and is tried again for the next.
func TestReckoningThatPanics(t *testing.T) {
	var r reckoner
	_, err := reckon(t.Context(), &r, "k", false, func() int { panic("no such step") })
	require.ErrorContains(t, err, "no such step")
	got, err := reckon(t.Context(), &r, "k", false, func() int { return 1 })
	require.NoError(t, err)
	require.Equal(t, 1, got)
	require.Empty(t, r.quick, "the lane is free again")
}

// A moment is at most half a minute old, not before the last word, the same for half a minute, and never to come.
func TestMoments(t *testing.T) {
	begun := time.Date(2026, 3, 1, 18, 0, 0, 0, time.UTC)
	c := store.Cook{ID: "a", BegunAt: begun, Events: []cook.Event{{ID: "1", At: begun.Add(90 * time.Second)}}}
	different := map[time.Time]bool{}
	for s := range 1200 {
		now := begun.Add(2*time.Minute + time.Duration(s)*time.Second)
		at := Moment(c, now)
		require.False(t, at.After(now))
		require.Less(t, now.Sub(at), halfMinute)
		different[at] = true
	}
	require.InDelta(t, 40, len(different), 1)
	require.Equal(t, begun.Add(90*time.Second), Moment(c, begun.Add(91*time.Second)))
	require.Equal(t, begun.Add(time.Second), Moment(c, begun.Add(time.Second)), "its device is ahead of this clock")
	other := c
	other.ID = "b"
	require.NotEqual(t, Moment(c, begun.Add(time.Hour)), Moment(other, begun.Add(time.Hour)))
}
