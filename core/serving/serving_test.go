package serving_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/serving"
	"kirdu/core/vessel"
)

func TestStandingThickensAndIsLoosened(t *testing.T) {
	w, _ := plan.WayNamed("reduced in milk")
	choice, err := w.Check(plan.WayChoice{Bowls: 6, Serve: plan.Hot, Burner: vessel.DefaultBurner(),
		Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130}})
	require.NoError(t, err)
	p, err := w.Start(choice)
	require.NoError(t, err)
	list := serving.Stand(p, []float64{0, 15, 45, 120}, true, "milk-whole", 3.5)
	require.Len(t, list, 4)
	for k := 1; k < len(list); k++ {
		require.Less(t, float64(list[k].Celsius), float64(list[k-1].Celsius), "it cools")
		require.Greater(t, list[k].Grade.Value, list[k-1].Grade.Value, "and thickens")
		require.GreaterOrEqual(t, float64(list[k].Loosen), float64(list[k-1].Loosen))
	}
	last := list[3]
	require.Positive(t, last.Loosen)
	require.InDelta(t, 3.5, last.Reached, 0.15, "with so much it is as wanted")
	require.Less(t, last.Grade.Low, last.Grade.Value)
	require.Zero(t, serving.Stand(p, []float64{0}, false, "milk-whole", 7)[0].Loosen, "what is thinner is not loosened")
	water := serving.Stand(p, []float64{120}, true, "water", 3.5)[0]
	require.Less(t, float64(water.Loosen), float64(last.Loosen), "water loosens more than milk")

	// Standing at the end of the plan itself does not count twice.
	chilled := p.Clone()
	chilled.ServeAs(plan.Chilled)
	require.InDelta(t, list[0].Grade.Value, serving.Stand(chilled, []float64{0}, true, "milk-whole", 3.5)[0].Grade.Value, 1e-9)
}

func TestCoolingWays(t *testing.T) {
	p := batchOf(t, 6)
	ways := serving.Cool(p)
	require.Len(t, ways, 4)
	by := map[plan.Where]serving.Cooled{}
	for _, way := range ways {
		if way.Bowls == 0 {
			by[way.Where] = way
		}
		require.Positive(t, way.To60)
		require.Positive(t, way.ToLow)
		require.Positive(t, way.To6)
	}
	require.Less(t, float64(by["water-bath"].ToLow), float64(by["counter"].ToLow), "cold water takes the heat faster")
	require.Equal(t, 6, ways[3].Bowls)
	require.Less(t, float64(ways[3].ToLow), float64(by["fridge"].ToLow), "bowls are smaller than the pot")
	many := serving.Cool(batchOf(t, 40))
	require.Less(t, float64(many[3].ToLow), 1.2*float64(ways[3].ToLow), "forty bowls cool as six do, each by itself")
	require.Greater(t, float64(many[2].ToLow), 1.5*float64(by["fridge"].ToLow), "a large pot does not")
	require.False(t, many[0].Safe, "a large pot on the counter is not safe")
}

// What is laid on top of a chilled pudding does not hide that it came off the heat hot.
func TestAToppingAfterTheChillingIsNotCooked(t *testing.T) {
	p := batchOf(t, 6)
	night := measure.Minute(600)
	p.Steps = append(p.Steps, plan.Step{Do: plan.Chill, Minutes: &night},
		plan.Step{Do: plan.Add, Topping: true, Items: []plan.Item{{Material: "walnut", Amount: "30 g"}}})
	require.Greater(t, float64(serving.Stand(p, []float64{0}, true, "milk-whole", 3.5)[0].Celsius), 85.0)
	for _, way := range serving.Cool(p) {
		require.Positive(t, way.To60)
	}
}

func batchOf(t *testing.T, bowls int) *plan.Plan {
	t.Helper()
	w, _ := plan.WayNamed("reduced in milk")
	choice, err := w.Check(plan.WayChoice{Bowls: bowls, Serve: plan.Hot, Burner: vessel.DefaultBurner(),
		Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 340, HeightMM: 260}})
	require.NoError(t, err)
	p, err := w.Start(choice)
	require.NoError(t, err)
	return p
}

func TestCuts(t *testing.T) {
	p := batchOf(t, 6)
	require.Empty(t, serving.Cuts(p, 24, 1200), "a pot is not cut")
	p.Pots[plan.MainPot] = vessel.Pot{Shape: vessel.Tray, LengthMM: 300, WidthMM: 200, HeightMM: 50}
	cuts := serving.Cuts(p, 24, 1200)
	require.Equal(t, 4, cuts[0].Rows)
	require.Equal(t, 6, cuts[0].Columns)
	require.InDelta(t, 50, float64(cuts[0].Long), 1e-9)
	require.InDelta(t, 50, float64(cuts[0].Each), 1e-9)
	require.Equal(t, measure.Millimetre(50), cuts[0].Wide)
	require.Empty(t, serving.Cuts(p, 0, 1200))
}

func TestSweeterAndDilution(t *testing.T) {
	p := batchOf(t, 6)
	pct := func(p *plan.Plan) float64 {
		return forecast.Run(p, forecast.Options{NominalOnly: true}).Sweetness.Pct.Value
	}
	more := p.Clone()
	design.Sweeter(more, 1)
	require.InDelta(t, pct(p)+1, pct(more), 0.2)
	same := p.Clone()
	design.Sweeter(same, -50)
	require.InDelta(t, pct(p), pct(same), 1e-9, "not into another pudding")
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	mass, grams := f.Yield.MassG.Value, float64(design.Dilution(f))
	require.InDelta(t, pct(p)-1, pct(p)*mass/(mass+grams), 0.01)
}

func TestReheatingNeedsLiquid(t *testing.T) {
	w, _ := plan.WayNamed("reduced in milk")
	choice, err := w.Check(plan.WayChoice{Bowls: 6, Serve: plan.Hot, Burner: vessel.DefaultBurner(),
		Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130}})
	require.NoError(t, err)
	p, err := w.Start(choice)
	require.NoError(t, err)
	wanted := forecast.Run(p, forecast.Options{}).Thickness.Hot.Value - 0.3
	r, ok := serving.Reheat(p, "milk-whole", wanted)
	require.True(t, ok)
	require.Positive(t, r.Loosen, "from the cold it is thicker than it was")
	require.InDelta(t, wanted, r.Grade.Value, 0.15)
	require.Positive(t, r.Minutes.Value)
	require.LessOrEqual(t, r.Minutes.Low, r.Minutes.Value)
	require.GreaterOrEqual(t, r.Minutes.High, r.Minutes.Value)
	stiff, ok := serving.Reheat(p, "milk-whole", 7.5)
	require.True(t, ok)
	require.Zero(t, stiff.Loosen, "what is thinner than wanted gets none")

	egg := p.Clone()
	egg.Steps[0].Items = append(egg.Steps[0].Items, plan.Item{Material: "egg-whole", Amount: "50 g"})
	_, ok = serving.Reheat(egg, "milk-whole", 3)
	require.False(t, ok, "egg would scramble")
}
