package design_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/plantest"
)

var kit = design.Kit{
	Pots: []vessel.Pot{
		{Name: "the tall steel pot", Shape: vessel.Straight, DiameterMM: 180, HeightMM: 110},
		{Name: "the wide pan", Shape: vessel.Taper, BottomMM: 210, TopMM: 270, HeightMM: 125},
		{Name: "the round-bottomed pot", Shape: vessel.Bowl, TopMM: 300, HeightMM: 130},
		{Name: "the boathouse pot", Shape: vessel.Straight, DiameterMM: 300, HeightMM: 190},
	},
	Burners: []vessel.Burner{
		{Name: "front burner", Kind: "gas", PowerW: 2200, Efficiency: 0.45},
		{Name: "back burner", Kind: "gas", PowerW: 1500, Efficiency: 0.45},
	},
}

// From 6 bowls to 18, three puddings keep thickness, sweetness and doneness in
// every proposal, and plain multiplication does not.
func TestScalingKeepsThePudding(t *testing.T) {
	for _, name := range []string{"rice-pear-bay", "millet-palm-sugar", "basmati-rose"} {
		t.Run(name, func(t *testing.T) {
			p := plantest.Sample(t, name)
			p.Scale(6)
			s, err := design.Scale(p, 18, kit)
			require.NoError(t, err)
			b := s.Before
			t.Logf("before: %.2f grade, %.2f %%, done %.2f, %.0f min", b.Thickness, b.Sweet, b.Done, b.Minutes)
			for _, x := range append([]design.Scaled{s.Clock, s.Mark}, s.Proposals...) {
				o := x.Outcome
				t.Logf("%s %v: %.2f grade, %.2f %%, done %.2f, %.0f min, hands %.0f, fill %.2f, yield %.0f", x.Kind, x.With, o.Thickness, o.Sweet,
					o.Done, o.Minutes, o.HandsOn, o.Fill, o.YieldG)
			}
			require.Less(t, s.Clock.Outcome.Thickness, b.Thickness-0.2, "thin by the clock")
			require.Greater(t, s.Mark.Outcome.Done, b.Done+0.3, "overcooked at the mark")
			require.NotEmpty(t, s.Proposals)
			for _, x := range s.Proposals {
				o := x.Outcome
				require.InDelta(t, b.Thickness, o.Thickness, 0.2, x.Kind)
				require.InDelta(t, b.Sweet, o.Sweet, 0.3, x.Kind)
				require.InDelta(t, b.Done, o.Done, 0.3, x.Kind)
				require.False(t, o.Overfull || o.Missed, x.Kind)
				require.Equal(t, 18, x.Plan.Serves)
				data, err := x.Plan.JSON()
				require.NoError(t, err)
				_, err = plan.Read(data)
				require.NoError(t, err, "%s is a plan that can be read", x.Kind)
			}
		})
	}
}

// Fewer bowls: less time at the stove, and the grain would stay hard. What is
// proposed keeps it.
func TestScalingDown(t *testing.T) {
	p := plantest.Sample(t, "millet-palm-sugar")
	s, err := design.Scale(p, 3, kit)
	require.NoError(t, err)
	require.Less(t, s.Mark.Outcome.Done, s.Before.Done-0.3, "hard at the mark")
	require.Greater(t, s.Clock.Outcome.Thickness, s.Before.Thickness+0.3, "thick by the clock")
	for _, x := range s.Proposals {
		require.InDelta(t, s.Before.Done, x.Outcome.Done, 0.3, x.Kind)
		require.Equal(t, 3, x.Outcome.Bowls)
	}
}

func TestScalingToTheSameBowls(t *testing.T) {
	p := plantest.Sample(t, "rice-pear-bay")
	s, err := design.Scale(p, p.Serves, kit)
	require.NoError(t, err)
	require.InDelta(t, s.Before.Thickness, s.Mark.Outcome.Thickness, 1e-9)
	kinds := map[design.ScaleKind]float64{}
	for _, x := range s.Proposals {
		kinds[x.Kind] = x.Outcome.Minutes
	}
	require.InDelta(t, s.Before.Minutes, kinds[design.JustAmounts], 1)
}

// No pot of the kitchen holds it: nothing is proposed rather than a pot above
// its safe headspace.
func TestNoPotIsLargeEnough(t *testing.T) {
	p := plantest.Sample(t, "rice-pear-bay")
	small := design.Kit{Pots: kit.Pots[:1], Burners: kit.Burners}
	s, err := design.Scale(p, 60, small)
	require.NoError(t, err)
	require.Empty(t, s.Proposals)
	require.True(t, s.Mark.Outcome.Overfull)
	// A kitchen of one pot and one burner has no second pot to offer.
	s, err = design.Scale(p, 8, design.Kit{Pots: kit.Pots[:1], Burners: kit.Burners[:1]})
	require.NoError(t, err)
	for _, x := range s.Proposals {
		require.NotEqual(t, design.TwoPots, x.Kind)
		require.False(t, x.Outcome.Overfull)
	}
}

func TestTwoPotsAreOnePlan(t *testing.T) {
	p := plantest.Sample(t, "millet-palm-sugar")
	p.Scale(6)
	s, err := design.Scale(p, 18, kit)
	require.NoError(t, err)
	var two *plan.Plan
	for _, x := range s.Proposals {
		if x.Kind == design.TwoPots {
			two = x.Plan
		}
	}
	require.NotNil(t, two)
	require.Equal(t, []string{plan.MainPot, "second"}, two.Served())
	require.NotEqual(t, two.BurnerOf(plan.MainPot).Name, two.BurnerOf("second").Name)
	require.Equal(t, 18, two.Serves)
	sugar := 0.0
	for i := range two.Steps {
		for _, item := range two.Steps[i].Items {
			if material, mass, err := two.Weigh(item); err == nil && material.Kind == "sweetener" {
				sugar += float64(mass)
			}
		}
	}
	require.InDelta(t, 3*124, sugar, 25, "about three times the palm sugar of six bowls, in both pots together")
}

// A pudding that soaks first and says how soft its grain should be can be
// scaled too, and its references still hold.
func TestScalingOfAPreparedPudding(t *testing.T) {
	p := plantest.Sample(t, "basmati-rose")
	s, err := design.Scale(p, 10, kit)
	require.NoError(t, err)
	for _, x := range s.Proposals {
		again, err := plan.Reread(x.Plan)
		require.NoError(t, err, x.Kind)
		require.Equal(t, plan.Soak, again.Steps[0].Do)
	}
}

func TestNothingToReduce(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"cold","pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":120}},
		"steps":[{"do":"add","items":[{"material":"yogurt","amount":"500 g"}]},{"do":"chill","hours":2}]}`))
	require.NoError(t, err)
	_, err = design.Scale(p, 8, kit)
	require.ErrorIs(t, err, design.ErrNoMark)
}

func BenchmarkScaling(b *testing.B) {
	p := plantest.Sample(b, "rice-pear-bay")
	for b.Loop() {
		if _, err := design.Scale(p, 18, kit); err != nil {
			b.Fatal(err)
		}
	}
}
