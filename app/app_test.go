package app_test

import (
	"log/slog"
	"path/filepath"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/plantest"
	"kirdu/store"
)

var now = time.Date(2026, 11, 26, 18, 0, 0, 0, time.UTC)

// kitchen is an empty one with one pudding.
func kitchen(t *testing.T) *app.Kitchen {
	t.Helper()
	k, err := app.Open(t.Context(), filepath.Join(t.TempDir(), "kitchen.sqlite"), slog.New(slog.DiscardHandler))
	require.NoError(t, err)
	t.Cleanup(func() { k.Store.Close() })
	k.Now, k.Zone = func() time.Time { return now }, time.UTC
	require.NoError(t, k.Store.CreatePudding(t.Context(), "rice", plantest.Sample(t, "rice-pear-bay"), now))
	return k
}

func begin(t *testing.T, k *app.Kitchen) store.Cook {
	t.Helper()
	require.NoError(t, k.Begin(t.Context(), store.Cook{ID: "c", PuddingID: "rice", Plan: plantest.Sample(t, "rice-pear-bay"),
		BegunAt: now.Add(-time.Hour), Zone: "UTC"}))
	return reload(t, k)
}

func reload(t *testing.T, k *app.Kitchen) store.Cook {
	t.Helper()
	c, err := k.Store.Cook(t.Context(), "c")
	require.NoError(t, err)
	return c
}

func event(kind cook.Kind, step int, minute int) cook.Event {
	return cook.Event{ID: uuid.NewString(), Kind: kind, Step: step, At: now.Add(time.Duration(minute-60) * time.Minute)}
}

// walked is a cook some minutes over the flame, with more milk put in.
func walked(t *testing.T, k *app.Kitchen) store.Cook {
	t.Helper()
	c := begin(t, k)
	require.True(t, cook.IsLine(c.Plan, c.Line), "the line is stored when the cook begins: %v", c.Line)
	for n := 0; ; n++ {
		state := c.State()
		if u := state.Present().Until; u != nil && u.RemainingPct != nil {
			break
		}
		require.NoError(t, k.Tell(t.Context(), c, event(cook.Next, state.ID(), 2+3*n)))
		c = reload(t, k)
	}
	added := event(cook.Added, 0, 40)
	added.Material, added.Mass = "milk-whole", 200
	require.NoError(t, k.Tell(t.Context(), c, added))
	return reload(t, k)
}

func TestATapIsStoredWithWhatItDoes(t *testing.T) {
	k := kitchen(t)
	c := walked(t, k)
	last := c.Events[len(c.Events)-1]
	require.NotEmpty(t, last.Marks, "the mark to come moves with what went in")
	state, again := c.State(), learn.LogOf(c.Plan, c.BegunAt, c.Events).Fold()
	require.Equal(t, again.Plan.Steps, state.Plan.Steps)
	require.ErrorIs(t, k.Tell(t.Context(), c, cook.Event{ID: "u", Kind: cook.Undone, Part: "never told", At: now}), cook.ErrUndone)
	require.NoError(t, k.Tell(t.Context(), c, cook.Event{ID: "u", Kind: cook.Undone, Part: last.ID, At: now}))
	require.Len(t, reload(t, k).State().Plan.Steps, len(c.Plan.Steps), "as if it had never been said")
}

// A data file of an older program has neither lines nor marks; a start works them
// out once, and the log stays as it was told.
func TestAnOlderLogIsWorkedOut(t *testing.T) {
	k := kitchen(t)
	c := walked(t, k)
	want := c.State()
	db := k.Store.DB()
	_, err := db.ExecContext(t.Context(), `DROP TRIGGER cook_event_keeps`)
	require.NoError(t, err)
	_, err = db.ExecContext(t.Context(), `UPDATE cook_event SET marks = NULL`)
	require.NoError(t, err)
	_, err = db.ExecContext(t.Context(), `UPDATE cook SET line = NULL`)
	require.NoError(t, err)
	require.Nil(t, reload(t, k).Line)

	require.NoError(t, k.CatchUp(t.Context()))
	c = reload(t, k)
	got := c.State()
	require.True(t, cook.IsLine(c.Plan, c.Line))
	require.Equal(t, want.Plan.Steps, got.Plan.Steps)
	require.NotNil(t, c.Events[len(c.Events)-1].Marks)
	left, err := k.Store.Unworked(t.Context(), 10)
	require.NoError(t, err)
	require.Empty(t, left)
}

func TestWhatWasToldIsNeverChanged(t *testing.T) {
	k := kitchen(t)
	walked(t, k)
	for _, change := range []string{`UPDATE cook_event SET mass_g = 1`, `UPDATE cook_event SET marks = '{}'`,
		`UPDATE cook_event SET marks = NULL`, `DELETE FROM cook_event`} {
		_, err := k.Store.DB().ExecContext(t.Context(), change+` WHERE kind = 'added'`)
		require.ErrorContains(t, err, "events are never", change)
	}
}

// What a batch teaches is stored with its end, and anew with its verdict; reading
// works nothing out.
func TestABatchTeachesWhenItEnds(t *testing.T) {
	k := kitchen(t)
	c := walked(t, k)
	require.NoError(t, k.Tell(t.Context(), c, event(cook.Finished, 0, 50)))
	lessons, err := k.Store.Lessons(t.Context())
	require.NoError(t, err)
	require.Len(t, lessons, 1)
	require.Equal(t, forecast.Edition, lessons[0].Edition)
	require.NoError(t, k.Judge(t.Context(), reload(t, k), store.Verdict{Eaten: "hot", Thickness: 6}, nil))
	judged, err := k.Store.Lessons(t.Context())
	require.NoError(t, err)
	require.Greater(t, len(judged[0].Observations), len(lessons[0].Observations), "the thickness was told, too")

	// One of an older edition is worked out anew at start.
	require.NoError(t, k.Store.SaveLesson(t.Context(), "c", store.Lesson{Edition: 0}, now))
	require.NoError(t, k.CatchUp(t.Context()))
	anew, err := k.Store.Lessons(t.Context())
	require.NoError(t, err)
	require.Equal(t, judged[0].Observations, anew[0].Observations)
}

func TestAWitnessSaysWhetherSomethingWasStored(t *testing.T) {
	k := kitchen(t)
	ctx := store.WithWitness(t.Context())
	require.False(t, store.WitnessOf(t.Context()).Stored(), "without a witness nobody knows")
	_, err := k.Store.Sheets(ctx)
	require.NoError(t, err)
	require.ErrorIs(t, k.Store.RemovePudding(ctx, "nobody", now), store.ErrNotFound)
	require.Error(t, k.Begin(ctx, store.Cook{ID: "c", PuddingID: "nobody", Plan: plantest.Sample(t, "rice-pear-bay"), BegunAt: now}))
	require.False(t, store.WitnessOf(ctx).Stored())
	require.NoError(t, k.Begin(ctx, store.Cook{ID: "c", PuddingID: "rice", Plan: plantest.Sample(t, "rice-pear-bay"), BegunAt: now}))
	require.True(t, store.WitnessOf(ctx).Stored())
}

func TestPassphrase(t *testing.T) {
	k := kitchen(t)
	there, err := k.HasPassphrase(t.Context())
	require.NoError(t, err)
	require.False(t, there)
	require.ErrorIs(t, k.SetPassphrase(t.Context(), "short"), app.ErrPassphraseLength)
	require.NoError(t, k.SetPassphrase(t.Context(), "lantern supper"))
	for text, is := range map[string]bool{"lantern supper": true, "lantern dinner": false, "": false} {
		known, err := k.IsPassphrase(t.Context(), text)
		require.NoError(t, err)
		require.Equal(t, is, known, text)
	}
}

// A pudding whose forecast changed with the model says so until it was read, with old and
// new; one whose plan alone has changed since does not.
func TestACorrectedModelIsTold(t *testing.T) {
	k := kitchen(t)
	ctx := t.Context()
	for _, id := range []string{"two", "three"} {
		require.NoError(t, k.Store.CreatePudding(ctx, id, plantest.Sample(t, "millet-palm-sugar"), now))
	}
	puddings, err := k.Store.Puddings(ctx, 3)
	require.NoError(t, err)
	require.Len(t, puddings, 3)
	require.NoError(t, k.CatchUp(ctx))
	at := func(n int) store.Foreseen {
		f, known, err := k.Store.Foreseen(ctx, puddings[n].ID)
		require.NoError(t, err)
		require.True(t, known)
		require.Equal(t, forecast.Edition, f.Edition)
		return f
	}
	require.True(t, at(0).Told, "nothing is new in a pudding of this edition")

	old := store.Figures{Minutes: 12, Thickness: 7.5, SweetPct: 3, YieldG: 400}
	same := *at(1).Figures
	for n, figures := range []*store.Figures{&old, &same} {
		require.NoError(t, k.Store.Foresee(ctx, store.Foreseen{PuddingID: puddings[n].ID, Version: puddings[n].Version, Edition: 1,
			Figures: figures, Told: true}))
	}
	_, err = k.Store.DB().ExecContext(ctx, `UPDATE foreseen SET edition = 1, figures = NULL WHERE pudding_id = ?`, puddings[2].ID)
	require.NoError(t, err)
	require.NoError(t, k.CatchUp(ctx))
	require.False(t, at(0).Told)
	require.Equal(t, old, *at(0).Was)
	require.Greater(t, at(0).Figures.Minutes, 12.0)
	require.True(t, at(1).Told, "what comes to the same is no news")
	require.False(t, at(2).Told)
	require.Nil(t, at(2).Was, "it was saved before figures were kept")
	require.NoError(t, k.CatchUp(ctx))
	require.False(t, at(0).Told, "until it was read")
	require.NoError(t, k.Store.TellForeseen(ctx, puddings[0].ID))
	require.NoError(t, k.CatchUp(ctx))
	require.True(t, at(0).Told)
	require.Nil(t, at(0).Was)
}
