package store_test

import (
	"context"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/store"
)

func TestGadgetsAndReadings(t *testing.T) {
	ctx := context.Background()
	s := fresh(t)
	at := time.Date(2026, 11, 28, 18, 30, 0, 0, time.UTC)
	require.NoError(t, s.MakeGadget(ctx, store.Gadget{ID: "g", Name: "scale", WithPot: true, MadeAt: at}, []byte("hash")))
	require.Error(t, s.MakeGadget(ctx, store.Gadget{ID: "h", Name: "other", MadeAt: at}, []byte("hash")), "one token, one gadget")
	require.NoError(t, s.HeardOf(ctx, "g", at.Add(time.Minute)))
	g, err := s.GadgetByToken(ctx, []byte("hash"))
	require.NoError(t, err)
	require.Equal(t, store.Gadget{ID: "g", Name: "scale", WithPot: true, MadeAt: at, HeardAt: at.Add(time.Minute)}, g)
	_, err = s.GadgetByToken(ctx, []byte("another"))
	require.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, s.RemoveGadget(ctx, "g", at))
	require.ErrorIs(t, s.RemoveGadget(ctx, "g", at), store.ErrNotFound)
	_, err = s.GadgetByToken(ctx, []byte("hash"))
	require.ErrorIs(t, err, store.ErrNotFound)
	list, err := s.Gadgets(ctx)
	require.NoError(t, err)
	require.Empty(t, list)

	require.NoError(t, s.CreatePudding(ctx, "rice", rice(t), at))
	require.NoError(t, s.StartCook(ctx, store.Cook{ID: "c", PuddingID: "rice", Plan: rice(t), BegunAt: at, Zone: "UTC", Rehearsal: true,
		Speed: 10}))
	k, err := s.Cook(ctx, "c")
	require.NoError(t, err)
	require.Equal(t, at.Add(10*time.Minute), k.Now(at.Add(time.Minute)), "its clock runs faster")
	require.True(t, k.Rehearsal)
	readings := []store.Reading{{Kind: "scale", At: at, Value: 1500}, {Kind: "probe", At: at.Add(time.Second), Value: math.NaN(),
		Mark: "impossible"}}
	require.NoError(t, s.KeepReadings(ctx, map[string]store.Heard{"c": {Readings: readings}}, at))
	require.Error(t, s.KeepReadings(ctx, map[string]store.Heard{"nobody": {Readings: readings}}, at), "of a cook that there is")
	require.Error(t, s.KeepReadings(ctx, map[string]store.Heard{"c": {Readings: []store.Reading{readings[0], {Kind: "ruler", At: at}}}}, at))
	kept, err := s.Readings(ctx, "c", at)
	require.NoError(t, err)
	require.Len(t, kept, 2, "all or nothing")
	require.InDelta(t, 1500, kept[0].Value, 0)
	require.True(t, math.IsNaN(kept[1].Value))
	later, err := s.Readings(ctx, "c", at.Add(time.Second))
	require.NoError(t, err)
	require.Len(t, later, 1)

	rehearsals, err := s.Rehearsals(ctx)
	require.NoError(t, err)
	require.Len(t, rehearsals, 1)
	require.NoError(t, s.AppendEvent(ctx, "c", cook.Event{ID: "e", Kind: cook.Finished, At: at.Add(time.Hour)}, at))
	book, err := s.Book(ctx, 10)
	require.NoError(t, err)
	require.Empty(t, book, "a rehearsal is not in the book")
	untaught, err := s.Untaught(ctx, 1, 10)
	require.NoError(t, err)
	require.Empty(t, untaught, "and teaches nothing")
}

func TestDeviationsAreKept(t *testing.T) {
	ctx := context.Background()
	s := fresh(t)
	at := time.Date(2026, 11, 28, 18, 30, 0, 0, time.UTC)
	require.NoError(t, s.CreatePudding(ctx, "rice", rice(t), at))
	require.NoError(t, s.StartCook(ctx, store.Cook{ID: "c", PuddingID: "rice", Plan: rice(t), BegunAt: at, Zone: "UTC"}))
	swapped := cook.Event{ID: "s", Kind: cook.Swapped, At: at, Step: 3, Item: 1, Material: "jaggery", Mass: 110}
	require.NoError(t, s.AppendEvent(ctx, "c", swapped, at))
	k, err := s.Cook(ctx, "c")
	require.NoError(t, err)
	require.Equal(t, []cook.Event{swapped}, k.Events)
	require.InDelta(t, 1, k.Speed, 0)
}

func TestPlacesAndLessons(t *testing.T) {
	ctx := context.Background()
	s := fresh(t)
	at := time.Date(2026, 11, 28, 18, 30, 0, 0, time.UTC)
	require.NoError(t, s.SaveGathering(ctx, store.Gathering{ID: "g", Name: "Supper", ServeAt: at, Guests: 4, Hands: 1}, at))
	require.NoError(t, s.SavePlaces(ctx, "g", []byte(`[{"pudding_id":"rice"}]`), "this"))
	g, err := s.Gathering(ctx, "g")
	require.NoError(t, err)
	require.Equal(t, "this", g.PlacesFor)
	g.Hands = 2
	require.NoError(t, s.SaveGathering(ctx, g, at))
	g, err = s.Gathering(ctx, "g")
	require.NoError(t, err)
	require.JSONEq(t, `[{"pudding_id":"rice"}]`, string(g.Places), "a change of hands leaves them to whoever works out anew")
	require.Error(t, s.SavePlaces(ctx, "g", []byte(`{`), ""))
	require.ErrorIs(t, s.SavePlaces(ctx, "nobody", []byte(`[]`), ""), store.ErrNotFound)

	require.NoError(t, s.CreatePudding(ctx, "rice", rice(t), at))
	require.NoError(t, s.StartCook(ctx, store.Cook{ID: "c", PuddingID: "rice", Plan: rice(t), BegunAt: at, Zone: "UTC", GatheringID: "g"}))
	cooks, err := s.CooksOf(ctx, "g")
	require.NoError(t, err)
	require.Len(t, cooks, 1)
	require.NoError(t, s.AppendEvent(ctx, "c", cook.Event{ID: "e", Kind: cook.Finished, At: at.Add(time.Hour)}, at))
	untaught, err := s.Untaught(ctx, 1, 10)
	require.NoError(t, err)
	require.Len(t, untaught, 1)
	said := []learn.Observation{{Quantity: learn.Power, Key: "front", Pot: "wide", Mean: -0.1, SD: 0.1}}
	require.NoError(t, s.SaveLesson(ctx, "c", store.Lesson{Observations: said}, at))
	lessons, err := s.Lessons(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Lesson{{CookID: "c", Name: "Rice", FinishedAt: at.Add(time.Hour), Observations: said}}, lessons)
	untaught, err = s.Untaught(ctx, 1, 10)
	require.NoError(t, err)
	require.Len(t, untaught, 1, "learnt with an older edition of the model")
	require.NoError(t, s.SaveLesson(ctx, "c", store.Lesson{Edition: 1, Observations: said}, at))
	untaught, err = s.Untaught(ctx, 1, 10)
	require.NoError(t, err)
	require.Empty(t, untaught)
	require.NoError(t, s.SaveLesson(ctx, "c", store.Lesson{}, at))
	require.NoError(t, s.Forget(ctx, store.Forgotten{Quantity: learn.Power, Name: "front", At: at}))
	require.NoError(t, s.Forget(ctx, store.Forgotten{Quantity: learn.Power, Name: "front", At: at.Add(time.Hour)}))
	gone, err := s.ForgottenThings(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Forgotten{{Quantity: learn.Power, Name: "front", At: at.Add(time.Hour)}}, gone)
	require.NoError(t, s.Remember(ctx, learn.Power, "front"))
	gone, err = s.ForgottenThings(ctx)
	require.NoError(t, err)
	require.Empty(t, gone)
	taste := (&store.Verdict{Sweetness: store.SweetnessVerdicts()[3], Thickness: 5, Eaten: "hot"}).Learn()
	require.InDelta(t, cook.TooSweet, *taste.Taste, 0)
	require.Equal(t, 5, taste.Grade)
	require.Equal(t, learn.Verdict{}, (*store.Verdict)(nil).Learn())
}
