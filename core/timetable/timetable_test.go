package timetable_test

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

var thorough = flag.Bool("thorough", false, "200 gatherings, each against a search forty times as long")

// ways are puddings of every way in the pots of a kitchen.
func ways(t testing.TB) []*plan.Plan {
	t.Helper()
	var all []*plan.Plan
	for k, w := range plan.Ways() {
		choice, err := w.Check(plan.WayChoice{})
		require.NoError(t, err)
		choice.Bowls, choice.Burner = 4+k%3*2, vessel.DefaultBurner()
		choice.Pot = vessel.Pot{Name: fmt.Sprintf("pot %d", k%7), Shape: vessel.Straight, DiameterMM: measure.Millimetre(200 + 10*(k%6)),
			HeightMM: 130}
		p, err := w.Start(choice)
		require.NoError(t, err)
		all = append(all, p)
	}
	return all
}

func gathering(hands, burners int, plans ...*plan.Plan) *timetable.Gathering {
	g := &timetable.Gathering{Name: "supper", Hands: hands, Burners: map[string]timetable.Burner{}, Pots: map[string]vessel.Pot{},
		Ovens: 1, FridgeL: 60}
	for k := range burners {
		b := vessel.DefaultBurner()
		b.Name = fmt.Sprintf("burner %d", k+1)
		b.PowerW -= measure.Watt(300 * k)
		g.Burners[b.Name] = timetable.Burner{Burner: b}
	}
	for k, p := range plans {
		p = p.Clone()
		for name, pot := range p.Pots { // each its own: a hot pudding stands in its pot until it is served
			if pot.Name != "" {
				pot.Name = fmt.Sprintf("%s of %d", pot.Name, k)
				p.Pots[name] = pot
			}
		}
		g.Puddings = append(g.Puddings, timetable.Pudding{Plan: p})
		for _, pot := range p.Pots {
			if pot.Name != "" {
				g.Pots[pot.Name] = pot
			}
		}
	}
	return g
}

// mustHold checks a timetable against every constraint, from its tasks alone.
func mustHold(t testing.TB, g *timetable.Gathering, table *timetable.Timetable) {
	t.Helper()
	byBurner, byPot := map[string][]timetable.Task{}, map[string][]timetable.Task{}
	at := map[[2]int]timetable.Task{}
	for _, task := range table.Tasks {
		at[[2]int{task.Pudding, task.Step}] = task
		require.GreaterOrEqual(t, task.End, task.Start)
		if task.Burner != "" && task.End > task.Start {
			byBurner[task.Burner] = append(byBurner[task.Burner], task)
		}
		if task.Pot != "" && task.End > task.Start {
			byPot[task.Pot] = append(byPot[task.Pot], task)
		}
	}
	const second = measure.Minute(1) / 60
	// What each pudding takes on its burners is what its forecast says, and what speaks against it there is told.
	for _, place := range table.Places {
		p := g.PlacedOn(place)
		f := forecast.Run(p, forecast.Options{NominalOnly: true})
		var rules []watch.ID
		for _, one := range watch.Findings(p, f) {
			if one.Severity != forecast.Note {
				rules = append(rules, one.Rule)
			}
		}
		var told []watch.ID
		for _, one := range table.Findings[place.Pudding] {
			told = append(told, one.Rule)
		}
		require.Equal(t, rules, told, p.Name)
		for i := range p.Steps {
			task := at[[2]int{place.Pudding, i}]
			if len(place.Slips) == 0 {
				require.InDelta(t, f.Steps[i].EndMin-f.Steps[i].StartMin, float64(task.End-task.Start), 1e-6, "%s, step %d", p.Name, i)
			}
			switch p.Steps[i].Do {
			case plan.Roast, plan.Fry, plan.Melt, plan.Steam, plan.Pressure:
				require.NotEmpty(t, task.Burner, "%s, step %d: over a flame", p.Name, i)
			}
		}
		// A hot pudding stands in its pot until it is served.
		if main := p.Pots[p.Served()[0]].Name; main != "" && p.Serve == plan.Hot {
			for _, task := range byPot[main] {
				require.False(t, task.Pudding != place.Pudding && task.End > *table.Ready[place.Pudding] &&
					task.Start < g.Puddings[place.Pudding].Serve, "%s holds what is not served yet", main)
			}
		}
	}
	for _, free := range table.HandsFree {
		busy := 0.0
		for _, task := range table.Tasks {
			if task.Start+second < free.End && task.HandsEnd > free.Start+second {
				busy = max(busy, task.Hands)
			}
		}
		require.True(t, g.Hands > 1 || busy == 0, "hands are said to be free that are not")
	}
	for name, tasks := range byBurner {
		for i, a := range tasks {
			for _, b := range tasks[i+1:] {
				require.False(t, a.Start+second < b.End && b.Start+second < a.End, "%s is taken twice: %+v %+v", name, a, b)
			}
		}
	}
	for name, tasks := range byPot {
		for i, a := range tasks {
			for _, b := range tasks[i+1:] {
				if a.Pudding != b.Pudding {
					require.False(t, a.Start+second < b.End && b.Start+second < a.End, "%s holds two puddings", name)
				}
			}
		}
	}
	// Hands: a preparation keeps them for its own minutes, a pot by its stirring;
	// one pudding never needs more than one person.
	type load struct {
		pudding  int
		from, to measure.Minute
		amount   float64
	}
	var loads []load
	for _, task := range table.Tasks {
		step := &g.Puddings[task.Pudding].Plan.Steps[task.Step]
		end := task.End
		if step.Do.IsPreparation() {
			end = task.Start + step.HandsOn()
		}
		if task.Hands > 0 && end > task.Start {
			loads = append(loads, load{task.Pudding, task.Start, end, task.Hands})
		}
	}
	for _, one := range loads {
		busy := map[int]float64{}
		for _, other := range loads {
			if other.from <= one.from && other.to > one.from+2*second {
				busy[other.pudding] += other.amount
			}
		}
		total := 0.0
		for _, amount := range busy {
			total += min(amount, 1)
		}
		require.LessOrEqual(t, total, float64(g.Hands)+1e-6, "hands at %v", one.from)
	}
	// What a preparation makes is there before it is taken, and pots keep their order.
	for _, task := range table.Tasks {
		p := g.Puddings[task.Pudding].Plan
		for _, item := range p.Steps[task.Step].Items {
			if from := p.Maker(item.Part); from >= 0 {
				made := at[[2]int{task.Pudding, from}]
				require.LessOrEqual(t, made.End, task.Start+2*second, "%s: step %d takes what is not made yet", p.Name, task.Step)
			}
		}
	}
	for i, ready := range table.Ready {
		if ready == nil {
			require.True(t, slices.ContainsFunc(table.Late, func(l timetable.Late) bool { return l.Pudding == i }))
		}
	}
}

// TestRandomGatherings: two to six puddings, two or three burners, one or two
// people. No timetable breaks a constraint.
func TestRandomGatherings(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 3))
	all := ways(t)
	var waits, took, gaps []float64
	count := 30
	if *thorough {
		count = 200
	}
	for range count {
		var plans []*plan.Plan
		for range 2 + random.IntN(5) {
			plans = append(plans, all[random.IntN(len(all))])
		}
		g := gathering(1+random.IntN(2), 2+random.IntN(2), plans...)
		begun := time.Now()
		table := timetable.Solve(g, timetable.Options{})
		took = append(took, float64(time.Since(begun).Microseconds())/1000)
		mustHold(t, g, table)
		require.Zero(t, table.Cost.Late, "nothing bounds the start, so nothing is late")
		waits = append(waits, table.Cost.Wait)
		if *thorough {
			best := timetable.Solve(g, timetable.Options{Effort: 40})
			gap := table.Cost.Wait + table.Cost.Stand - best.Cost.Wait - best.Cost.Stand
			gaps = append(gaps, gap/max(best.Cost.Wait+best.Cost.Stand, 10))
		}
		require.Equal(t, table, timetable.Solve(g, timetable.Options{}), "the same gathering has the same timetable")
	}
	if *thorough {
		slices.Sort(gaps)
		within := 0
		for _, gap := range gaps {
			if gap <= 0.05 {
				within++
			}
		}
		t.Logf("%d of %d within 5 per cent of a search forty times as long; 95th percentile %.2f", within, len(gaps), gaps[len(gaps)*95/100])
	}
	slices.Sort(waits)
	slices.Sort(took)
	t.Logf("hot puddings wait: median %.0f min, 90th percentile %.0f, longest %.0f; computed in %.0f ms at the median, %.0f at most",
		waits[len(waits)/2], waits[len(waits)*9/10], waits[len(waits)-1], took[len(took)/2], took[len(took)-1])
}

// One pudding alone is ready to the minute, and begins as late as it can.
func TestOnePuddingIsJustInTime(t *testing.T) {
	for _, p := range ways(t) {
		g := gathering(1, 2, p)
		table := timetable.Solve(g, timetable.Options{})
		mustHold(t, g, table)
		wanted := 0.0
		if p.Serve == plan.Chilled {
			wanted = -30
		}
		require.InDelta(t, wanted, float64(*table.Ready[0]), 1e-6, p.Name)
		total := forecast.Run(p, forecast.Options{NominalOnly: true}).Time
		require.InDelta(t, total.TotalMin.Value+total.PrepMin, float64(*table.Ready[0]-table.Tasks[0].Start), 40, p.Name)
	}
}

func TestTwoHotOnOneBurner(t *testing.T) {
	all := ways(t)
	g := gathering(2, 1, all[0], all[1])
	table := timetable.Solve(g, timetable.Options{})
	mustHold(t, g, table)
	require.Positive(t, table.Cost.Wait, "one of them waits")
	first := 0
	if *table.Ready[1] < *table.Ready[0] {
		first = 1
	}
	require.Empty(t, table.NoFlame[1-first])
	require.Len(t, table.NoFlame[first], 1, "the other cooks on the only burner")
	spell := table.NoFlame[first][0]
	const itself = 15 // minutes that it stays hot under its lid
	require.InDelta(t, float64(*table.Ready[first])+itself, float64(spell.Start), 1)
	require.LessOrEqual(t, float64(spell.End), 0.0)
	require.InDelta(t, float64(spell.End-spell.Start), table.Cost.Off, 1)

	two := gathering(2, 2, all[0], all[1])
	table = timetable.Solve(two, timetable.Options{})
	require.Zero(t, table.Cost.Wait)
	require.Empty(t, slices.Concat(table.NoFlame...))
}

func TestLateAndImpossible(t *testing.T) {
	all := ways(t)
	g := gathering(1, 1, all[0], all[2])
	start := measure.Minute(-20)
	table := timetable.Solve(g, timetable.Options{NotBefore: &start})
	mustHold(t, g, table)
	require.NotEmpty(t, table.Late)
	require.Positive(t, table.Late[0].Minutes)
	require.GreaterOrEqual(t, table.Tasks[0].Start, start)
	require.Contains(t, []timetable.Reason{timetable.TooLate, timetable.Taken}, table.Late[0].Why)

	small := gathering(1, 1, all[0])
	for name, b := range small.Burners {
		b.MaxPotMM = 100
		small.Burners[name] = b
	}
	table = timetable.Solve(small, timetable.Options{})
	require.Len(t, table.Late, 1)
	require.Equal(t, timetable.NoBurner, table.Late[0].Why)
}
