package timetable

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// everyStart looks through all starts on a grid, in every order and on all burners: what no search can beat
// by more than the grid.
func everyStart(g *Gathering, grid, back float64) (Cost, bool) {
	s := &solver{g: g, notBefore: math.Inf(-1), left: math.MaxInt}
	s.prepare()
	s.fix(Options{})
	var best Cost
	found := false
	var walk func(d *day, cost Cost, done int)
	n := len(g.Puddings)
	walk = func(d *day, cost Cost, done int) {
		if found && cost.Compare(best) >= 0 {
			return
		}
		if done == 1<<n-1 {
			best, found = cost, true
			return
		}
		for i := range n {
			if done&(1<<i) != 0 {
				continue
			}
			for _, c := range s.choices[i] {
				latest := s.target(i) - c.block.total
				for at := latest; at >= latest-back; at -= grid {
					if one, free, _ := s.fit(d, i, c, at); free {
						walk(s.with(d, &one), s.add(d, cost, &one), done|1<<i)
					}
				}
			}
		}
	}
	walk(newDay(g), Cost{}, 0)
	return best, found
}

// TestSmallGatheringsAreNearTheBest holds the search against one through every start: two puddings to the
// minute, three to four minutes. One in twenty-eight within a twentieth, or within the grid.
func TestSmallGatheringsAreNearTheBest(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 3))
	all := plan.Ways()
	const count = 30
	near, tried := 0, 0
	for k := range count {
		puddings, grid, back := 2, 1.0, 200.0
		if k%3 == 2 {
			puddings, grid, back = 3, 5, 160
		}
		g := &Gathering{Hands: 1 + k%2, Burners: map[string]Burner{}, Pots: map[string]vessel.Pot{}, Ovens: 1, FridgeL: 60}
		for n := range 1 + random.IntN(2) {
			b := vessel.DefaultBurner()
			b.PowerW -= measure.Watt(500 * n)
			b.Name = fmt.Sprintf("burner %d", n)
			g.Burners[b.Name] = Burner{Burner: b}
		}
		for range puddings {
			w := all[random.IntN(len(all))]
			choice, err := w.Check(plan.WayChoice{})
			require.NoError(t, err)
			choice.Bowls, choice.Burner = 4, vessel.DefaultBurner()
			choice.Pot = vessel.Pot{Shape: vessel.Straight, DiameterMM: 230, HeightMM: 130}
			p, err := w.Start(choice)
			require.NoError(t, err)
			g.Puddings = append(g.Puddings, Pudding{Plan: p})
		}
		best, found := everyStart(g, grid, back)
		table := Solve(g, Options{})
		if !found {
			require.Positive(t, table.Cost.Late+table.Cost.Wait+float64(len(table.Late)), "what a search through all does not find")
			continue
		}
		tried++
		sum := func(c Cost) float64 { return c.Late + c.Wait + c.Off + c.Stand + warned*float64(c.Warned) }
		require.LessOrEqual(t, table.Cost.Spoilt, best.Spoilt)
		if sum(table.Cost) <= 1.05*sum(best)+2*grid {
			near++
		} else {
			t.Logf("gathering %d: %.1f, the best %.1f (%+v, %+v)", k, sum(table.Cost), sum(best), table.Cost, best)
		}
	}
	t.Logf("%d of %d within a twentieth of the best", near, tried)
	require.GreaterOrEqual(t, 30*near, 28*tried)
}
