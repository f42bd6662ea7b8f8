package store_test

import (
	"context"
	"log/slog"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/demo"
	"kirdu/store"
)

var archivedAt = time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC)

// filled is a kitchen with everything of the demonstration in it.
func filled(t *testing.T) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "kitchen.sqlite"))
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	require.NoError(t, demo.Fill(t.Context(), &app.Kitchen{Store: s, Now: func() time.Time { return archivedAt }, Zone: time.UTC,
		Log: slog.New(slog.DiscardHandler)}))
	book, err := s.AllBatches(t.Context())
	require.NoError(t, err)
	require.NoError(t, s.SaveLesson(t.Context(), book[0].ID, store.Lesson{}, archivedAt))
	require.NoError(t, s.Judge(t.Context(), book[0].ID, store.Verdict{Thickness: 4, NextThickness: 6, NextNote: "firmer"},
		[]string{"supper", "for children"}, store.Lesson{}, archivedAt))
	require.NoError(t, s.SavePhoto(t.Context(), book[0].ID, store.Photo{JPEG: []byte("\xff\xd8 picture"), Width: 3, Height: 2}, archivedAt))
	require.NoError(t, s.SetSetting(t.Context(), "passphrase_bcrypt", "$2a$secret"))
	return s
}

func rowsOf(sheets []store.Sheet, name string) *store.Sheet {
	for i := range sheets {
		if sheets[i].Name == name {
			return &sheets[i]
		}
	}
	return nil
}

func TestAbsorbIntoAnEmptyKitchenIsEverything(t *testing.T) {
	full := filled(t)
	sheets, err := full.Sheets(t.Context())
	require.NoError(t, err)
	empty, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "empty.sqlite"))
	require.NoError(t, err)
	defer empty.Close()

	report, err := empty.Absorb(t.Context(), sheets, store.KeepOurs, true)
	require.NoError(t, err)
	after, err := empty.Sheets(t.Context())
	require.NoError(t, err)
	for _, one := range after {
		require.Empty(t, one.Rows, "only looked at")
	}
	total := 0
	for _, one := range report {
		total += one.New
	}
	require.Greater(t, total, 100)
	for _, row := range rowsOf(sheets, "setting").Rows {
		require.NotContains(t, row[0], "passphrase", "secrets stay behind")
	}

	_, err = empty.Absorb(t.Context(), sheets, store.KeepOurs, false)
	require.NoError(t, err)
	after, err = empty.Sheets(t.Context())
	require.NoError(t, err)
	require.Equal(t, sheets, after)

	report, err = empty.Absorb(t.Context(), sheets, store.TakeTheirs, false)
	require.NoError(t, err)
	for _, one := range report {
		require.Zero(t, one.New+one.Other, "%s is here already", one.Name)
	}
}

func TestAbsorbMindsWhatIsHere(t *testing.T) {
	s := filled(t)
	ctx := context.Background()
	theirs, err := s.Sheets(ctx)
	require.NoError(t, err)
	shelf, err := s.Puddings(ctx, 1)
	require.NoError(t, err)
	p := shelf[0].Plan.Clone()
	p.Name = "Ours"
	require.NoError(t, s.SavePlan(ctx, shelf[0].ID, shelf[0].Version, p, archivedAt))

	report, err := s.Absorb(ctx, theirs, store.KeepOurs, false)
	require.NoError(t, err)
	clashes := 0
	for _, one := range report {
		clashes += one.Other
		require.Zero(t, one.New)
	}
	require.Equal(t, 1, clashes)
	now, err := s.Pudding(ctx, shelf[0].ID)
	require.NoError(t, err)
	require.Equal(t, "Ours", now.Plan.Name)

	_, err = s.Absorb(ctx, theirs, store.TakeTheirs, false)
	require.NoError(t, err)
	now, err = s.Pudding(ctx, shelf[0].ID)
	require.NoError(t, err)
	require.Equal(t, shelf[0].Plan.Name, now.Plan.Name)

	events := rowsOf(theirs, "cook_event")
	events.Rows[0][events.At("kind")] = "burnt"
	_, err = s.Absorb(ctx, theirs, store.TakeTheirs, false)
	require.ErrorIs(t, err, store.ErrRow, "what was told at the stove is never changed")
}

// TestAbsorbIsAllOrNothing spoils one row of each kind: it is refused, with the
// row, and nothing of the rest is stored.
func TestAbsorbIsAllOrNothing(t *testing.T) {
	full := filled(t)
	empty, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "empty.sqlite"))
	require.NoError(t, err)
	defer empty.Close()
	for _, spoilt := range []struct {
		sheet, column string
		with          any
	}{
		{"pot", "height_mm", -3.0}, {"pot", "shape", "cube"}, {"pot", "added_at", "yesterday"}, {"burner", "power_w", nil},
		{"plan_version", "document", `{"format": "kirdu-plan/1"}`}, {"plan_version", "pudding_id", "nobody"}, {"cook", "document", "{"},
		{"cook_event", "cook_id", "nobody"}, {"cook_event", "mend", "{"}, {"verdict", "thickness", int64(12)}, {"lesson", "observations", "7"},
		{"pot", "diameter_mm", 1501.0}, {"burner", "power_w", 49.0}, {"burner", "efficiency", 1.1}, {"cook", "line", "7"},
		{"cook_event", "marks", "[]"},
	} {
		sheets, err := full.Sheets(t.Context())
		require.NoError(t, err)
		sheet := rowsOf(sheets, spoilt.sheet)
		require.NotEmpty(t, sheet.Rows, spoilt.sheet)
		sheet.Rows[len(sheet.Rows)-1][sheet.At(spoilt.column)] = spoilt.with
		_, err = empty.Absorb(t.Context(), sheets, store.TakeTheirs, false)
		require.ErrorIs(t, err, store.ErrRow, "%s.%s", spoilt.sheet, spoilt.column)
		require.ErrorContains(t, err, spoilt.sheet+", row")
		after, err := empty.Sheets(t.Context())
		require.NoError(t, err)
		for _, one := range after {
			require.Empty(t, one.Rows, "%s.%s: nothing half taken over", spoilt.sheet, spoilt.column)
		}
	}
	sheets, err := full.Sheets(t.Context())
	require.NoError(t, err)
	settings := rowsOf(sheets, "setting")
	honest := settings.Rows
	for _, bad := range [][]any{{"passphrase_bcrypt", "$2a$theirs"}, {"tap_c", "warm"}, {"ambient_c", "NaN"}, {"fridge_l", "-3"},
		{"theme", strings.Repeat("x", 999)}} {
		settings.Rows = append(slices.Clone(honest), bad)
		_, err = empty.Absorb(t.Context(), sheets, store.TakeTheirs, false)
		require.ErrorIs(t, err, store.ErrRow, "%v: no archive opens the door, or spoils a page", bad)
	}
	_, err = empty.Absorb(t.Context(), []store.Sheet{{Name: "sessions"}}, store.TakeTheirs, false)
	require.ErrorIs(t, err, store.ErrSheet)
}
