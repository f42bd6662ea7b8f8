package pot

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

var wide = vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 120}

func of(t rapid.TB, slug string, mass measure.Gram) State {
	t.Helper()
	m, ok := pantry.Standard().Material(slug)
	require.True(t, ok, slug)
	return New(m, mass, 24, slug)
}

// run steps a state for some minutes in steps of some seconds.
func run(s *State, c Conditions, minutes, seconds float64) (evaporated float64) {
	for range int(minutes * 60 / seconds) {
		evaporated += float64(s.Step(&c, seconds))
	}
	return evaporated
}

func TestBoilingPoint(t *testing.T) {
	cases := map[string]struct {
		altitude, brix, want float64
	}{
		"sea level": {0, 0, 100}, "1500 m": {1500, 0, 94.737}, "3000 m": {3000, 0, 89.474},
		"half sugar": {0, 50, 101.9}, "between two rows": {0, 45, 101.5}, "hard candy": {0, 95, 129.8}, "beyond the table": {0, 101, 140},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			require.InDelta(t, c.want, float64(BoilingPoint(c.altitude, c.brix)), 0.01)
		})
	}
}

func TestWaterAtTheBoilEvaporatesItsSurplus(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		power := rapid.Float64Range(600, 4000).Draw(t, "W")
		altitude := rapid.Float64Range(0, 3000).Draw(t, "m")
		s := of(t, "water", measure.Gram(rapid.Float64Range(800, 2500).Draw(t, "g")))
		boiling := float64(BoilingPoint(altitude, 0))
		s.Temperature = measure.Celsius(boiling)
		level := wide.Depth(s.Volume())
		loss := 16*float64(wide.Surface(level)) + 8*float64(wide.Side(level))
		c := Conditions{Pot: wide, Power: measure.Watt(power), Ambient: 24, Humidity: 0.5, Altitude: altitude}
		const seconds = 20
		got := float64(s.Step(&c, seconds))
		require.InEpsilon(t, (power-loss*(boiling-24))/2257*seconds, got, 0.01)
	})
}

func TestKilowattBoilsAwayTwentySevenGramsAMinute(t *testing.T) {
	s := of(t, "water", 2000)
	s.Temperature = 100
	// No loss to the room: the air is as hot as the pot.
	c := Conditions{Pot: wide, Power: 1000, Ambient: 100, Humidity: 1}
	require.InDelta(t, 26.6, run(&s, c, 1, 10), 0.05)
}

func TestLitreOfMilk(t *testing.T) {
	s := of(t, "milk-whole", 1030)
	s.Metal = wide.HeatCapacity()
	c := Conditions{Pot: wide, Power: 990, Ambient: 24, Humidity: 0.5}
	minutes := 0.0
	for ; s.Temperature < BoilingPoint(0, s.Brix())-BoilingMargin; minutes += 1. / 6 {
		s.Step(&c, 10)
	}
	require.InDelta(t, 7, minutes, 0.5, "to the boil")
	half, from := 0.0, s.Mass()
	for ; s.Mass() > from-515; half += 1. / 6 {
		s.Step(&c, 10)
	}
	require.InDelta(t, 21, half, 1.5, "half of it gone")
}

// A litre in that pot loses 5 g a minute at a simmer and 14 at a brisk boil, whatever the
// burner; a burner that has less gives what it has.
func TestFlamesByEye(t *testing.T) {
	at := func(flame vessel.Flame, power measure.Watt, lid bool) (grams, watts float64) {
		s := of(t, "milk-whole", 1030)
		s.Metal, s.Temperature = wide.HeatCapacity(), s.Limit(0)
		r, ok := flame.Regulation()
		require.True(t, ok)
		c := Conditions{Pot: wide, Power: power, Ambient: 24, Humidity: 0.5, Regulation: &r, Lid: lid}
		return run(&s, c, 10, 10) / 10, float64(c.Used)
	}
	for _, power := range []measure.Watt{990, 2000} {
		grams, _ := at(vessel.Simmer, power, false)
		require.InDelta(t, 5, grams, 0.5)
		grams, _ = at(vessel.Boil, power, false)
		require.InDelta(t, 14, grams, 0.7)
	}
	weak, _ := at(vessel.Boil, 400, false)
	require.Less(t, weak, 10.0)
	lidded, _ := at(vessel.Simmer, 990, true)
	require.Less(t, lidded, 1.0)
}

// Held water boils: what has drunk everything stays near the boil while it is wet, and
// only what is dry gets hot.
func TestHeldWaterBoils(t *testing.T) {
	s := of(t, "rice-short", 200)
	water := of(t, "water", 450)
	s.Pour(&water)
	s.Metal, s.Temperature = wide.HeatCapacity(), 98
	c := Conditions{Pot: wide, Power: 500, Ambient: 24, Humidity: 0.5}
	hottest, wet := 0.0, true
	for range 600 {
		s.Step(&c, 20)
		total := s.Total()
		if wet = total[Water] > 0.25*float64(s.Mass()); !wet {
			break
		}
		hottest = max(hottest, float64(s.Temperature))
	}
	require.False(t, wet, "it does dry out")
	require.InDelta(t, 106, hottest, 1)
	run(&s, c, 30, 20)
	require.Greater(t, float64(s.Temperature), 150.0, "dry is dry")
}

// Bowls cool by their own surface: 200 g from 60 °C are at 21 after 70 min in the
// refrigerator and at 8 after 2.7 h.
func TestBowlsCoolByThemselves(t *testing.T) {
	s := of(t, "milk-whole", 6*200)
	s.Temperature = 60
	c := Conditions{Pot: wide, Ambient: 4, Wrapped: true, OffHeat: true, Bowls: 6}
	at := func(celsius measure.Celsius) (minutes float64) {
		for ; s.Temperature > celsius; minutes++ {
			s.Step(&c, 60)
		}
		return minutes
	}
	first := at(21)
	require.InDelta(t, 70, first, 12)
	require.InDelta(t, 2.7*60, first+at(8), 18)
}

func TestLidKeepsSteamIn(t *testing.T) {
	open, lidded := of(t, "water", 1000), of(t, "water", 1000)
	open.Temperature, lidded.Temperature = 100, 100
	c := Conditions{Pot: wide, Power: 1000, Ambient: 24, Humidity: 0.5}
	without := run(&open, c, 5, 10)
	c.Lid = true
	require.InEpsilon(t, 0.35, run(&lidded, c, 5, 10)/without, 0.01)
}

func TestGrainCooksAsItsTableSays(t *testing.T) {
	for _, slug := range []string{"rice-short", "millet-barnyard", "sago-small"} {
		s := of(t, slug, 20)
		water := of(t, "water", 3000)
		s.Pour(&water)
		s.Temperature = 98
		minutes := float64(s.Parts[0].Kinetics.CookMinutes)
		// Held at 98 °C by a room that is as warm.
		c := Conditions{Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 300, HeightMM: 200}, Ambient: 98, Wrapped: true}
		run(&s, c, minutes, 10)
		require.InDelta(t, 1, s.Parts[0].Done, 0.03, slug)
	}
}

func TestSugarAndMilkDelayTheGrain(t *testing.T) {
	done := func(others ...State) float64 {
		s := of(t, "rice-short", 50)
		for i := range others {
			s.Pour(&others[i])
		}
		s.Temperature = 98
		run(&s, Conditions{Pot: wide, Ambient: 98, Wrapped: true}, 20, 10)
		return s.Parts[0].Done
	}
	water, milk := done(of(t, "water", 1000)), done(of(t, "milk-whole", 1000))
	sweet := done(of(t, "water", 1000), of(t, "sugar-white", 250))
	require.Less(t, milk, water)
	// At 20 % sugar cooking takes 1.6 times as long.
	require.InDelta(t, 1.6, water/sweet, 0.05)
}

func TestPulseHardensInAcid(t *testing.T) {
	require.InDelta(t, 1, acidFactor(6.4), 1e-9)
	require.InDelta(t, 0.5, acidFactor(5.2), 1e-9)
	require.InDelta(t, 0.75, acidFactor(5.8), 1e-9)
}

func TestGrainHydratesAndLeaches(t *testing.T) {
	s := of(t, "rice-short", 100)
	water := of(t, "water", 1000)
	s.Pour(&water)
	s.Temperature = 98
	before := s.Mass()
	run(&s, Conditions{Pot: wide, Ambient: 98, Wrapped: true}, 60, 10)
	p := &s.Parts[0]
	require.Greater(t, p.Held, 250.0, "g water in 100 g of rice")
	require.LessOrEqual(t, p.Held, 370.0)
	require.Greater(t, s.Liquid[Gel], 10.0, "starch in the liquid")
	require.LessOrEqual(t, p.Leached, 0.45*p.Starch+1e-9)
	require.InDelta(t, float64(before), float64(s.Mass()), 1e-6, "nothing is lost when nothing evaporates")
}

func TestSoakTakesWaterAndTime(t *testing.T) {
	s := of(t, "sago-small", 100)
	raw := s.Parts[0].Cook
	taken := s.Soak(600, 25)
	require.InDelta(t, 90, float64(taken), 0.1)
	require.InDelta(t, 0.5*raw, s.Parts[0].Cook, 0.01)
	warm, cold := of(t, "sago-small", 100), of(t, "sago-small", 100)
	require.Greater(t, warm.Soak(20, 45), cold.Soak(20, 25))
}

func TestVegetableWeeps(t *testing.T) {
	s := of(t, "bottle-gourd", 500)
	milk := of(t, "milk-whole", 500)
	s.Pour(&milk)
	s.Temperature = 98
	free := s.FreeWater()
	run(&s, Conditions{Pot: wide, Ambient: 98, Wrapped: true}, 40, 10)
	require.InDelta(t, 500*(0.949-0.55), float64(s.FreeWater()-free), 12)
}

func TestFlourAndEggSet(t *testing.T) {
	s := of(t, "milk-whole", 500)
	flour, egg := of(t, "rice-flour", 30), of(t, "egg-whole", 50)
	s.Pour(&flour)
	s.Pour(&egg)
	cold := s.Thickness(60)
	s.Temperature = 82
	run(&s, Conditions{Pot: wide, Ambient: 82, Wrapped: true}, 10, 10)
	require.InDelta(t, 0, s.Liquid[RawStarch], 0.1)
	require.Greater(t, s.EggSet, 0.95)
	require.Greater(t, s.Thickness(60), cold+1)
}

// Egg in milk stands 84 °C, and five more for each per cent of starch that has gelatinised, but no more than 95.
func TestEggStandsSoMuch(t *testing.T) {
	at := func(starch float64) float64 {
		s := State{Temperature: 80}
		s.Liquid[Water], s.Liquid[Gel] = 100-starch, starch
		return float64(s.Temperature) - s.EggOver()
	}
	for starch, stands := range map[float64]float64{0: 84, 1: 89, 2: 94, 2.5: 95} {
		require.InDelta(t, stands, at(starch), 0.01, "%v %% starch", starch)
	}
	require.Greater(t, at(3), 150.0, "with so much it may boil")
}

func TestThicknessGrades(t *testing.T) {
	milk := of(t, "milk-whole", 500)
	require.InDelta(t, 1.3, milk.Thickness(65), 0.2, "milk is a sip")
	empty := State{}
	require.GreaterOrEqual(t, empty.Thickness(20), 1.0)
	require.Equal(t, "Sip", ThicknessWord(-3))
	require.Equal(t, "Slice", ThicknessWord(12))
	require.Equal(t, "Spoon", ThicknessWord(5.4))
}

func TestThicknessRisesWithStarchAndCold(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := of(t, "milk-whole", 500)
		s.Liquid[Gel] = rapid.Float64Range(0, 40).Draw(t, "g starch")
		s.Liquid[Thickening] = s.Liquid[Gel]
		grade := s.Thickness(60)
		require.LessOrEqual(t, grade, s.Thickness(20)+1e-9)
		s.Liquid[Gel] += 3
		s.Liquid[Thickening] += 3
		require.LessOrEqual(t, grade, s.Thickness(60)+1e-9)
		require.LessOrEqual(t, s.Thickness(5), 8.0+1e-9)
	})
}

func TestDonenessWords(t *testing.T) {
	for texture, words := range map[pantry.Texture]map[float64]string{
		pantry.Grainy: {0: "hard", 0.6: "firm core", 0.9: "nearly through", 1.05: "cooked through", 1.4: "tender", 2.1: "creamy",
			3: "breaking up", 5: "mush"},
		pantry.Pearly:    {0.2: "white", 0.6: "white core", 0.9: "nearly clear", 2: "clear and whole", 4: "very soft", 6: "melting away"},
		pantry.Pulse:     {0.2: "hard", 1.2: "soft", 2: "crushes easily", 5: "cooked to a mash"},
		pantry.Vegetable: {0.05: "raw", 0.3: "glassy and limp", 0.7: "nearly soft", 1: "soft", 2: "fully soft", 4: "falling apart"},
		pantry.Fruit:     {0.05: "raw", 1: "soft, in pieces"},
		"":               {0.6: "firm core"},
	} {
		for done, word := range words {
			require.Equal(t, word, DonenessWord(texture, done), "%s at %v", texture, done)
		}
	}
}

func TestPHOfSoda(t *testing.T) {
	s := of(t, "milk-whole", 1030)
	require.InDelta(t, 6.7, s.PH(), 1e-9)
	soda := of(t, "baking-soda", 1)
	s.Pour(&soda)
	require.InDelta(t, 0.25, s.PH()-6.7, 0.03, "1 g in a litre of milk")
	rice := of(t, "rice-short", 200)
	before := s.PH()
	s.Pour(&rice)
	require.InDelta(t, before, s.PH(), 1e-9, "grain does not count")
	empty := State{}
	require.InDelta(t, 7, empty.PH(), 0)
}

func TestPourAndTakeKeepMatter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := of(t, "milk-whole", measure.Gram(rapid.Float64Range(1, 2000).Draw(t, "milk")))
		rice := of(t, "rice-short", measure.Gram(rapid.Float64Range(1, 300).Draw(t, "rice")))
		s.Pour(&rice)
		total := s.Mass()
		taken := s.Take(rapid.Float64Range(0, 1).Draw(t, "share"))
		require.InDelta(t, float64(total), float64(s.Mass()+taken.Mass()), 1e-6)
		s.Pour(&taken)
		require.InDelta(t, float64(total), float64(s.Mass()), 1e-6)
		require.Len(t, s.Parts, 1, "the same grain is one part again")
	})
}

func TestToppingLiesOnTop(t *testing.T) {
	s := of(t, "milk-whole", 500)
	level, sweet := s.Volume(), s.SweetPercent()
	raisins := of(t, "raisin", 50)
	raisins.LayOnTop()
	s.Pour(&raisins)
	require.InDelta(t, 550, float64(s.Mass()), 1e-6)
	require.InDelta(t, float64(level), float64(s.Volume()), 1e-9)
	require.InDelta(t, sweet, s.SweetPercent(), 1e-9)
}

func TestFingerOfWater(t *testing.T) {
	s := of(t, "rice-short", 200)
	above := s.LiquidAbove(wide, 25)
	bed := s.Bed(wide)
	water := of(t, "water", measure.Gram(above))
	s.Pour(&water)
	require.InDelta(t, float64(bed)+25, float64(wide.Depth(s.Volume())), 0.1)
	require.Zero(t, s.LiquidAbove(wide, 5), "it stands higher already")
}
