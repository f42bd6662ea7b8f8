package timetable

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/core/vessel"
)

func TestOverlapSaysHowMuchEarlier(t *testing.T) {
	taken := []load{{0, 10, 0}, {20, 30, 0}}
	for name, c := range map[string]struct {
		mine load
		want float64
	}{
		"before all":      {load{-10, 0, 0}, 0},
		"between":         {load{10, 20, 0}, 0},
		"into the second": {load{15, 25, 0}, 5},
		"over both":       {load{5, 25, 0}, 5},
		"inside":          {load{2, 4, 0}, 4},
	} {
		require.InDelta(t, c.want, overlap(taken, c.mine), 1e-9, name)
	}
}

func TestHandsAddUp(t *testing.T) {
	half := []load{{0, 30, 0.5}}
	require.Zero(t, over(half, []load{{10, 20, 0.5}}, 1, 1), "two pots stirred half the time")
	require.InDelta(t, 20, over(half, []load{{10, 20, 1}}, 1, 1), 1e-9, "a constant one must end before the other begins")
	require.Zero(t, over(half, []load{{10, 20, 1}}, 2, 1), "but not for two people")
	require.Zero(t, over(nil, []load{{0, 10, 0.5}, {0, 10, 1}}, 1, 1), "one cook at one pudding is one cook")
	require.Positive(t, over(nil, []load{{0, 10, 70}}, 60, 1e9), "more than the refrigerator holds")
	require.InDelta(t, 3, nearest(3, 0), 0)
	require.InDelta(t, 2, nearest(3, 2), 0)
	require.InDelta(t, 2, nearest(0, 2), 0)
}

func TestCostsCompareInTheirOrder(t *testing.T) {
	require.Negative(t, Cost{Wait: 500}.Compare(Cost{Late: 1}), "late is worst")
	require.Negative(t, Cost{Stand: 500}.Compare(Cost{Wait: 1}))
	require.Negative(t, Cost{Begun: 500}.Compare(Cost{Stand: 1}))
	require.Zero(t, Cost{Wait: 10}.Compare(Cost{Wait: 10.2}), "less than half a minute is the same")
}

// A block knows what it needs: two burners where two pans boil at once, the hands
// of its stirring, and which preparation takes which.
func TestBlockOfAPudding(t *testing.T) {
	w, ok := plan.WayNamed("stirred in stages")
	require.True(t, ok)
	choice, err := w.Check(plan.WayChoice{Bowls: 6, Burner: vessel.DefaultBurner()})
	require.NoError(t, err)
	p, err := w.Start(choice)
	require.NoError(t, err)
	b := newBlock(p)
	pans := map[string]bool{}
	for _, u := range b.uses {
		if u.kind == useBurner {
			pans[u.pan] = true
		}
		require.LessOrEqual(t, u.from, u.to)
	}
	require.Len(t, pans, 2)

	ground, _ := plan.WayNamed("ground grain set cold")
	choice, err = ground.Check(plan.WayChoice{Bowls: 6, Burner: vessel.DefaultBurner()})
	require.NoError(t, err)
	p, err = ground.Start(choice)
	require.NoError(t, err)
	b = newBlock(p)
	require.Len(t, b.preps, 2)
	require.Equal(t, 1, b.preps[0].needed, "the soaked grain is ground")
	require.Equal(t, -1, b.preps[1].needed, "and then goes into the pot")
	require.InDelta(t, float64(plan.Soak.Descriptor().Earlier), b.preps[0].earlier, 0)
	fridge := 0.0
	for _, u := range b.uses {
		if u.kind == useFridge {
			fridge = u.amount
		}
	}
	require.InDelta(t, 1, fridge, 0.3, "about a litre stands in the refrigerator")
}

// A pot that two puddings want, and an oven that is there once.
func TestOnePotForTwo(t *testing.T) {
	w, _ := plan.WayNamed("whisked meal then baked")
	choice, err := w.Check(plan.WayChoice{Bowls: 4, Serve: plan.Hot, Burner: vessel.DefaultBurner(),
		Pot: vessel.Pot{Name: "the pot", Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130}})
	require.NoError(t, err)
	p, err := w.Start(choice)
	require.NoError(t, err)
	other := p.Clone()
	pot := other.Pots[plan.MainPot]
	pot.Name = "another"
	other.Pots[plan.MainPot] = pot
	b := vessel.DefaultBurner()
	g := &Gathering{Hands: 2, Burners: map[string]Burner{"a": {Burner: b}, "b": {Burner: b}},
		Pots: map[string]vessel.Pot{"the pot": {}, "another": {}}, Ovens: 1, FridgeL: 60, Puddings: []Pudding{{Plan: p}, {Plan: other}}}
	require.Positive(t, Solve(g, Options{}).Cost.Wait, "one waits for the oven")
	g.Ovens = 2
	require.Zero(t, Solve(g, Options{}).Cost.Wait)
	g.Puddings[1].Plan = p
	one := Solve(g, Options{})
	require.NotEqual(t, one.Places[0].Start, one.Places[1].Start, "one begins when the other has left the pot")
	g.Ovens = 0
	none := Solve(g, Options{})
	require.Len(t, none.Late, 2, "no oven, no baking")
	require.Equal(t, NoOven, none.Late[0].Why)
}
