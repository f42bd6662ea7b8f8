package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
)

// TestMeasuresKeepTheirHistory: the latest counts, and taking it back brings
// the one before into force again.
func TestMeasuresKeepTheirHistory(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	for i, size := range []float64{240, 231, 226} {
		require.NoError(t, s.AddMeasuring(ctx, store.Measuring{ID: fmt.Sprint("m", i), Name: "cup", Unit: "ml", Size: size, How: "weighed",
			TakenAt: now.Add(time.Duration(i) * time.Hour)}))
	}
	require.NoError(t, s.AddMeasuring(ctx, store.Measuring{ID: "tin", Name: "tin", Unit: "g", Size: 400, TakenAt: now}))
	home := func() plan.Home {
		h, err := s.Home(ctx)
		require.NoError(t, err)
		return h
	}
	require.InDelta(t, 226, home().Measures["cup_ml"], 0)
	require.InDelta(t, 400, home().Measures["tin_g"], 0)
	require.NoError(t, s.RemoveMeasuring(ctx, "m2", now))
	require.InDelta(t, 231, home().Measures["cup_ml"], 0)
	require.ErrorIs(t, s.RemoveMeasuring(ctx, "m2", now), store.ErrNotFound)
	require.NoError(t, s.RestoreMeasuring(ctx, "m2"))
	require.InDelta(t, 226, home().Measures["cup_ml"], 0)
	taken, err := s.Measurings(ctx)
	require.NoError(t, err)
	require.Len(t, taken, 4)
	require.InDelta(t, 226, taken[0].Size, 0)
	require.Error(t, s.AddMeasuring(ctx, store.Measuring{ID: "x", Name: "cup", Unit: "stone", Size: 1, TakenAt: now}),
		"the table refuses what it does not know")
}

func TestWaterTestsOfABurner(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	require.NoError(t, s.AddBurner(ctx, store.Burner{ID: "b", Burner: vessel.Burner{Name: "front", Kind: "gas", PowerW: 2000,
		Efficiency: 0.5}}, now))
	test := store.WaterTest{BurnerID: "b", Flame: vessel.High, SD: 40, Before: 1000, After: 800, Minutes: 10, Pot: "steel"}
	for i, power := range []measure.Watt{900, 850} {
		test.ID, test.Power, test.TestedAt = fmt.Sprint("t", i), power, now.Add(time.Duration(i)*time.Hour)
		require.NoError(t, s.AddWaterTest(ctx, test, nil))
	}
	test.ID, test.Flame, test.Power = "low", vessel.Low, 140
	require.NoError(t, s.AddWaterTest(ctx, test, nil))
	flames := func() map[vessel.Flame]measure.Watt {
		burners, err := s.Burners(ctx)
		require.NoError(t, err)
		return burners[0].FlameW
	}
	require.Equal(t, map[vessel.Flame]measure.Watt{vessel.High: 850, vessel.Low: 140}, flames())
	require.NoError(t, s.RemoveWaterTest(ctx, "t1", now))
	require.InDelta(t, 900, float64(flames()[vessel.High]), 0)
	tests, err := s.WaterTests(ctx)
	require.NoError(t, err)
	require.Len(t, tests, 2)
	test.ID, test.BurnerID = "other", "no burner"
	require.ErrorIs(t, s.AddWaterTest(ctx, test, nil), store.ErrNotFound)
}

func TestRoomAndUnits(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	room, err := s.Room(ctx)
	require.NoError(t, err)
	require.Nil(t, room, "never set")
	want := plan.Kitchen{AmbientC: 19.5, HumidityPct: 40, AltitudeM: -12, TapC: 9, ScaleLimitG: 3000}
	require.NoError(t, s.SetRoom(ctx, want))
	require.NoError(t, s.SetSetting(ctx, store.SettingUnits, store.UnitsUS))
	home, err := s.Home(ctx)
	require.NoError(t, err)
	require.Equal(t, &want, home.Kitchen)
	require.True(t, home.US)
}

func TestOwnMaterialsComeAndGo(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	mine := plan.OwnMaterial{Slug: "rice-hill", Name: "Hill rice", Behaviour: "piece", Water: 12, Starch: 88, Bulk: 0.8}
	require.NoError(t, s.SaveOwnMaterial(ctx, mine, now))
	mine.Bulk = 0.82
	require.NoError(t, s.SaveOwnMaterial(ctx, mine, now))
	all, err := s.OwnMaterials(ctx)
	require.NoError(t, err)
	require.Equal(t, []plan.OwnMaterial{mine}, all)
	require.NoError(t, s.RemoveOwnMaterial(ctx, "rice-hill", now))
	require.ErrorIs(t, s.RemoveOwnMaterial(ctx, "rice-hill", now), store.ErrNotFound)
	all, err = s.OwnMaterials(ctx)
	require.NoError(t, err)
	require.Empty(t, all)
	require.NoError(t, s.RestoreOwnMaterial(ctx, "rice-hill"))
	all, err = s.OwnMaterials(ctx)
	require.NoError(t, err)
	require.Len(t, all, 1)
}

func TestHouseAndBasket(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	require.NoError(t, s.NoteAtHand(ctx, "milk-whole", sql.Null[measure.Gram]{V: 2000, Valid: true}, now))
	require.NoError(t, s.NoteAtHand(ctx, "salt", sql.Null[measure.Gram]{}, now))
	require.NoError(t, s.NoteAtHand(ctx, "milk-whole", sql.Null[measure.Gram]{V: 1500, Valid: true}, now))
	at, err := s.AtHand(ctx)
	require.NoError(t, err)
	require.Len(t, at, 2)
	require.InDelta(t, 1500, float64(at["milk-whole"].V), 0)
	require.False(t, at["salt"].Valid)
	require.NoError(t, s.UsedUp(ctx, "salt"))
	require.ErrorIs(t, s.UsedUp(ctx, "salt"), store.ErrNotFound)

	require.NoError(t, s.CreatePudding(ctx, "p", rice(t), now))
	require.ErrorIs(t, s.BuyFor(ctx, store.Buy{PuddingID: "nobody", Bowls: 4}, now), store.ErrNotFound)
	require.ErrorIs(t, s.BuyForAll(ctx, []store.Buy{{PuddingID: "p", Bowls: 4}, {PuddingID: "nobody", Bowls: 4}}, now), store.ErrNotFound)
	list, _, err := s.Buying(ctx)
	require.NoError(t, err)
	require.Empty(t, list, "all or none")
	require.NoError(t, s.BuyFor(ctx, store.Buy{PuddingID: "p", Bowls: 4}, now))
	require.NoError(t, s.BuyFor(ctx, store.Buy{PuddingID: "p", Bowls: 9}, now))
	require.NoError(t, s.Tick(ctx, "rice-short", 200, now))
	buys, bought, err := s.Buying(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Buy{{PuddingID: "p", Bowls: 9}}, buys)
	require.InDelta(t, 200, float64(bought["rice-short"]), 0)
	require.NoError(t, s.Tick(ctx, "rice-short", 0, now))
	require.NoError(t, s.RemovePudding(ctx, "p", now))
	buys, bought, err = s.Buying(ctx)
	require.NoError(t, err)
	require.Empty(t, buys, "a pudding off the shelf is not bought for")
	require.Empty(t, bought)
	require.NoError(t, s.NotBuyFor(ctx, "p"))
}

func TestTimeOnTheTable(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	require.NoError(t, s.CreatePudding(ctx, "late", rice(t), now))
	require.NoError(t, s.CreatePudding(ctx, "soon", rice(t), now))
	require.NoError(t, s.ServeAt(ctx, "late", now.Add(9*time.Hour)))
	require.NoError(t, s.ServeAt(ctx, "soon", now.Add(2*time.Hour)))
	planned, err := s.Planned(ctx)
	require.NoError(t, err)
	require.Equal(t, []string{"soon", "late"}, []string{planned[0].ID, planned[1].ID})
	require.True(t, planned[0].ServeAt.Equal(now.Add(2*time.Hour)))
	require.NoError(t, s.ServeAt(ctx, "soon", time.Time{}))
	planned, err = s.Planned(ctx)
	require.NoError(t, err)
	require.Len(t, planned, 1)
	require.ErrorIs(t, s.ServeAt(ctx, "nobody", now), store.ErrNotFound)
}
