package plan_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/plantest"
)

const (
	syrup     = `{"do":"melt","name":"syrup","items":[{"material":"jaggery","amount":"120 g"},{"material":"water","amount":"60 ml"}]}`
	syrupIn   = `{"do":"add","items":[{"part":"syrup"},{"material":"date-pulp","amount":"30 g"}]}`
	withSpice = `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"},{"material":"cardamom","amount":"1 g"}]}`
)

// A syrup is a sweetener as sugar is.
func TestSyrupSweetens(t *testing.T) {
	p := plantest.WithSteps(t, syrup, plantest.MilkAndRice, plantest.Boil, syrupIn)
	require.Equal(t, 3, p.SugarStep())
	at := p.SplitSweet(3)
	require.Equal(t, 4, at)
	require.Equal(t, "syrup", p.Steps[4].Items[0].Part)
	require.Equal(t, "date-pulp", p.Steps[3].Items[0].Material)
	plantest.Reread(t, p)
	without := p.Unsweetened(4)
	require.Equal(t, "0.01 g", without.Steps[0].Items[0].Amount)
	require.Equal(t, "60 ml", without.Steps[0].Items[1].Amount, "the water stays")
	require.Equal(t, "120 g", p.Steps[0].Items[0].Amount, "and the plan itself")
	p.ScaleSweeteners(1.5)
	require.Equal(t, "180 g", p.Steps[0].Items[0].Amount)
}

func TestSplitSweetLeavesTheSpice(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, withSpice)
	require.Equal(t, 3, p.SplitSweet(2))
	require.Equal(t, "cardamom", p.Steps[2].Items[0].Material)
	require.Equal(t, "sugar-white", p.Steps[3].Items[0].Material)
	alone := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.SugarIn)
	require.Equal(t, 2, alone.SplitSweet(2), "alone it stays where it is")
	require.Equal(t, -1, alone.SplitSweet(0))
	require.Equal(t, -1, alone.SplitSweet(99))
	require.Equal(t, -1, plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil).SugarStep())
}

func TestMakerFindsPresses(t *testing.T) {
	p := plantest.WithSteps(t, `{"do":"press","name":"coconut","coconuts":1,"presses":[{"water_ml":0},{"water_ml":200}]}`,
		`{"do":"add","items":[{"part":"coconut.2"}]}`)
	require.Equal(t, 0, p.Maker("coconut.1"))
	require.Equal(t, 0, p.Maker("coconut.2"))
	require.Equal(t, -1, p.Maker("coco.2"))
	require.Equal(t, -1, p.Maker(""))
}

// A choice that is left open is the usual one; what does not belong is named.
func TestWayChecksItsChoice(t *testing.T) {
	w, ok := plan.WayNamed("whisked meal then baked")
	require.True(t, ok)
	choice, err := w.Check(plan.WayChoice{Base: "semolina"})
	require.NoError(t, err)
	require.Equal(t, "semolina", choice.Base)
	require.Equal(t, "milk-whole", choice.Liquid)
	require.Equal(t, "in the oven", choice.Finish)
	require.Equal(t, plan.Warm, choice.Serve)
	_, err = w.Check(plan.WayChoice{Base: "gravel", Serve: "frozen"})
	require.ErrorIs(t, err, plan.ErrWayBase)
	require.ErrorIs(t, err, plan.ErrWayServe)
	few, _ := plan.WayNamed("stirred in stages")
	_, err = few.Check(plan.WayChoice{Bowls: 2})
	require.ErrorIs(t, err, plan.ErrWayBowls)
	_, known := plan.WayNamed("by magic")
	require.False(t, known)
}

// Each ending of a way makes its own plan, named after what is in it.
func TestWaysStartWithEveryEnding(t *testing.T) {
	for _, w := range plan.Ways() {
		for _, finish := range append([]plan.Finish{{}}, w.Finishes...) {
			choice, err := w.Check(plan.WayChoice{Finish: finish.Name, Bowls: max(5, w.Least), Burner: vessel.DefaultBurner()})
			require.NoError(t, err, w.Name)
			p, err := w.Start(choice)
			require.NoError(t, err, "%s, %s", w.Name, finish.Name)
			require.Equal(t, max(5, w.Least), p.Serves)
			require.NotContains(t, p.Name, "{")
			require.Equal(t, w.Name, p.Way)
			for _, base := range w.Bases[1:] {
				other := choice
				other.Base = base
				q, err := w.Start(other)
				require.NoError(t, err, "%s of %s", w.Name, base)
				require.NotEmpty(t, plan.Differences(p, q), base)
			}
		}
	}
}

func TestStirringShortensAsItThickens(t *testing.T) {
	require.InDelta(t, 2, float64(plan.StirOften.EveryAt(2)), 1e-9)
	require.InDelta(t, 1.5, float64(plan.StirOften.EveryAt(4.5)), 1e-9)
	require.InDelta(t, 1, float64(plan.StirOften.EveryAt(8)), 1e-9)
	require.InDelta(t, 1.0/3, float64(plan.StirConstant.EveryAt(8)), 1e-9, "oftener is all the time")
	require.Zero(t, plan.StirNone.EveryAt(8))
}
