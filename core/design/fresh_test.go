package design_test

import (
	"flag"
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

var pots = []vessel.Pot{
	{Shape: vessel.Straight, DiameterMM: 180, HeightMM: 110},
	{Shape: vessel.Taper, BottomMM: 210, TopMM: 270, HeightMM: 125},
	{Shape: vessel.Straight, DiameterMM: 300, HeightMM: 190},
}

var everything = flag.Bool("everything", false, "hold every base with every liquid, three sizes each: 1300 puddings, two minutes")

// TestFreshPuddingsAreRight holds every new pudding against the aims of its
// way: no stop and no warning, every grain as it is liked, thickness within
// half a grade and sweetness within 1 %. Five of each way, over its bases, liquids,
// endings and servings; all of them with -everything.
func TestFreshPuddingsAreRight(t *testing.T) {
	for _, w := range plan.Ways() {
		finishes := []string{""}
		for _, f := range w.Finishes {
			finishes = append(finishes, f.Name)
		}
		choose := func(k, base, liquid int) plan.WayChoice {
			return plan.WayChoice{Way: w.Name, Base: w.Bases[base%len(w.Bases)], Liquid: w.Liquids[liquid%len(w.Liquids)],
				Bowls: max([]int{6, 2, 14}[k%3], w.Least),
				Serve: w.Serve[k/3%len(w.Serve)], Finish: finishes[k/2%len(finishes)], Burner: vessel.DefaultBurner()}
		}
		var all []plan.WayChoice
		if *everything {
			for k := range len(w.Bases) * len(w.Liquids) * 3 {
				all = append(all, choose(k, k/3, k/3/len(w.Bases)))
			}
		} else {
			const each = 5
			for k := range each {
				all = append(all, choose(k, k*len(w.Bases)/each, k*len(w.Liquids)/each))
			}
		}
		for _, choice := range all {
			t.Run(fmt.Sprintf("%s/%s/%s/%d/%s/%s", w.Name, choice.Base, choice.Liquid, choice.Bowls, choice.Serve, choice.Finish),
				func(t *testing.T) {
					t.Parallel()
					isRight(t, w, choice)
				})
		}
	}
}

func isRight(t *testing.T, w plan.Way, choice plan.WayChoice) {
	t.Helper()
	p, err := design.Fresh(choice, pots)
	require.NoError(t, err)
	p, err = plan.Reread(p)
	require.NoError(t, err)
	f, found := mend.Forecast(p, forecast.Options{NominalOnly: true})
	for _, one := range found {
		require.Equal(t, forecast.Note, one.Severity, one.Rule) // a heavy pot, a scale that is too small
	}
	grade, aim := f.Thickness.Hot, w.Aim.Hot
	if choice.Serve == plan.Chilled {
		grade, aim = f.Thickness.Chilled, w.Aim.Chilled
	}
	require.NotNil(t, grade)
	require.InDelta(t, aim, grade.Value, 0.5, "thickness")
	require.InDelta(t, w.Aim.Sweet, f.Sweetness.Pct.Value, 1, "sweetness")
	require.InDelta(t, 1, f.Yield.MassG.Value/float64(p.PortionG*measure.Gram(choice.Bowls)), 0.1, "yield")
	for name, liked := range f.Parts {
		require.GreaterOrEqual(t, f.Doneness[name].Value, liked.WantedLow, name)
		require.LessOrEqual(t, f.Doneness[name].Value, liked.WantedHigh, name)
	}
}

func TestFreshRefuses(t *testing.T) {
	_, err := design.Fresh(plan.WayChoice{Way: "reduced in milk", Base: "milk-whole", Liquid: "water", Serve: "frozen", Finish: "burnt",
		Bowls: 4}, pots)
	var faults measure.Faults
	require.ErrorAs(t, err, &faults)
	require.Len(t, faults, 4)
	_, err = design.Fresh(plan.WayChoice{Way: "by magic", Bowls: 4}, pots)
	require.ErrorIs(t, err, plan.ErrNoWay)
	_, err = design.Fresh(plan.WayChoice{Way: "reduced in milk", Bowls: 4}, nil)
	require.ErrorIs(t, err, design.ErrNoPot)
}

// Each way says what it is in words and numbers that hold together.
func TestWaysAreWhole(t *testing.T) {
	require.Len(t, plan.Ways(), 16)
	for _, w := range plan.Ways() {
		require.NotEmpty(t, w.About, w.Name)
		require.False(t, math.IsNaN(w.Aim.Chilled) || math.IsNaN(w.Aim.Sweet), w.Name)
		choice, err := w.Check(plan.WayChoice{})
		require.NoError(t, err, w.Name)
		choice.Bowls, choice.Burner = 6, vessel.DefaultBurner()
		p, err := w.Start(choice)
		require.NoError(t, err, w.Name)
		require.Equal(t, w.Name, p.Way)
		if w.Cook >= 0 {
			require.Contains(t, forecast.Run(p, forecast.Options{NominalOnly: true}).Parts, w.PartOf(choice), w.Name)
		}
	}
}

func BenchmarkFresh(b *testing.B) {
	choice := plan.WayChoice{Way: "reduced in milk", Bowls: 6, Serve: plan.Hot, Burner: vessel.DefaultBurner()}
	for b.Loop() {
		if _, err := design.Fresh(choice, pots); err != nil {
			b.Fatal(err)
		}
	}
}

// A way takes a pot that may do what it asks, and says so where none may.
func TestFreshTakesAPotThatMay(t *testing.T) {
	small := vessel.Pot{Name: "cooker", Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130, Uses: []vessel.Use{vessel.OnStove,
		vessel.UnderPress, vessel.InOven}}
	wide := vessel.Pot{Name: "wide pan", Shape: vessel.Straight, DiameterMM: 260, HeightMM: 120, Uses: []vessel.Use{vessel.OnStove}}
	pressed := 0
	for _, w := range plan.Ways() {
		p, err := design.Fresh(plan.WayChoice{Way: w.Name, Bowls: 6, Burner: vessel.DefaultBurner()}, []vessel.Pot{wide, small})
		require.NoError(t, err, w.Name)
		if slices.ContainsFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Pressure && s.PotName() == plan.MainPot }) {
			pressed++
			require.Equal(t, "cooker", p.Pots[plan.MainPot].Name, w.Name)
			_, err = design.Fresh(plan.WayChoice{Way: w.Name, Bowls: 6, Burner: vessel.DefaultBurner()}, []vessel.Pot{wide})
			require.ErrorIs(t, err, design.ErrNoUse, w.Name)
		}
	}
	require.Positive(t, pressed)
}
