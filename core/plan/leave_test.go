package plan_test

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/plantest"
)

// Whatever is left out of a cook's pudding, nothing is prepared for nobody, and what is left
// can be read again, or the reader says what is missing in the pot.
func TestLeavingOutLeavesNoOrphan(t *testing.T) {
	tried := 0
	check := func(what string, before, after *plan.Plan, err error) {
		tried++
		if err != nil {
			require.ErrorIs(t, err, plan.ErrOnlyStep, what)
			return
		}
		for i, parts := range after.Unused() {
			fry := after.Steps[i].Do == plan.Fry // its fat may be wanted alone
			require.True(t, fry || len(parts) < len(after.Makes(i)) || len(before.Unused()) > 0, "%s: %s for nobody", what, parts)
		}
		if _, err := plan.Reread(after); err != nil {
			text := err.Error()
			empty := strings.Contains(text, "empty") || strings.Contains(text, "nothing is left in the pot")
			require.True(t, empty, "%s: %s", what, text)
		}
	}
	for name, p := range plantest.Trials(t) {
		for i := range p.Steps {
			for j := range p.Steps[i].Items {
				out := p.Clone()
				err := out.LeaveOut(i, j)
				check(name, p, out, err)
			}
			out := p.Clone()
			err := out.LeaveOutStep(i)
			check(name, p, out, err)
		}
	}
	require.Greater(t, tried, 400)
}

func TestWhatWasMadeForItGoesAlong(t *testing.T) {
	p := plantest.WithSteps(t, `{"do":"melt","name":"syrup","items":[{"material":"jaggery","amount":"100 g"},
		{"material":"water","amount":"50 ml"}]}`,
		plantest.MilkAndRice, plantest.Boil, `{"do":"add","items":[{"part":"syrup","share":0.5}]}`, plantest.Boil,
		`{"do":"add","items":[{"part":"syrup"}]}`)
	once := p.Clone()
	require.NoError(t, once.LeaveOut(3, 0))
	require.Equal(t, "melt add heat heat add", plantest.Verbs(plantest.Reread(t, once)), "the other half is still wanted")
	require.NoError(t, once.LeaveOut(4, 0))
	require.Equal(t, "add heat heat", plantest.Verbs(plantest.Reread(t, once)))

	// A preparation that is used twice can be left out altogether.
	require.False(t, p.Clone().Unprepare(0))
	require.NoError(t, p.LeaveOutStep(0))
	require.Equal(t, "add heat heat", plantest.Verbs(plantest.Reread(t, p)))

	// What waited for a grain that is gone cooks for the usual minutes.
	p = plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft)
	p.Aim = &plan.Aim{Doneness: map[string]float64{"rice-short": 2}}
	require.NoError(t, p.LeaveOut(0, 1))
	require.NotNil(t, plantest.Reread(t, p).Steps[2].Until.Minutes)
	require.Empty(t, p.Aim.Doneness)
	require.ErrorIs(t, p.LeaveOut(0, 9), plan.ErrNothingThere)
}

// Wherever a step of a pot is taken, its preparations stand before it.
func TestAStepIsCarriedWithItsPreparations(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil,
		`{"do":"prep","name":"nuts","what":"wash","items":[{"material":"cashew","amount":"40 g"}],"minutes":1}`,
		`{"do":"grind","of":"nuts","to":"paste"}`, `{"do":"add","items":[{"part":"nuts"}]}`)
	require.True(t, p.Carry(4, 0))
	require.Equal(t, "prep grind add add heat", plantest.Verbs(plantest.Reread(t, p)))
	for name, trial := range plantest.Trials(t) {
		for from := range trial.Steps {
			for to := range trial.Steps {
				moved := trial.Clone()
				require.True(t, moved.Carry(from, to))
				if _, err := plan.Reread(moved); err != nil {
					require.NotContains(t, err.Error(), "plan.no-part", "%s %d to %d", name, from, to)
				}
			}
		}
	}
}

func TestPotsComeAndGo(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil)
	pan := vessel.Pot{Name: "Small pan!", Shape: vessel.Straight, DiameterMM: 160, HeightMM: 80}
	require.Equal(t, "small-pan", p.NamePot(pan))
	require.Equal(t, "small-pan-2", p.NamePot(pan))
	require.NoError(t, p.RemovePot("small-pan-2"))
	p.InsertStep(2, plan.Step{Do: plan.Fry, Name: "nuts", Pan: "small-pan", Items: []plan.Item{{Material: "cashew", Amount: "20 g"}}})
	require.Equal(t, []int{2}, p.PotUsers("small-pan"))
	require.ErrorIs(t, p.RemovePot("small-pan"), plan.ErrPotUsed)
	require.ErrorIs(t, p.RemovePot(plan.MainPot), plan.ErrPotUsed)
	require.Equal(t, []string{"main", "small-pan"}, slices.Sorted(maps.Keys(plantest.Reread(t, p).Pots)))
}

// What is strewn over a chilled pudding asks for no second chilling.
func TestAGarnishAfterTheChilling(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, `{"do":"rest","minutes":20}`, `{"do":"chill","hours":4}`,
		`{"do":"add","items":[{"material":"cashew","amount":"10 g"}],"topping":true}`)
	p.ServeAs(plan.Chilled)
	require.Equal(t, "add heat rest chill add", plantest.Verbs(plantest.Reread(t, p)))
	p.ServeAs(plan.Hot)
	require.Equal(t, "add heat add", plantest.Verbs(plantest.Reread(t, p)))
}
