package balance_test

import (
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/balance"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

var kit = balance.Kit{
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

func sample(t testing.TB, name string) *plan.Plan {
	t.Helper()
	data, err := os.ReadFile("../../demo/plans/" + name + ".kirdu.json")
	require.NoError(t, err)
	p, err := plan.Read(data)
	require.NoError(t, err)
	return p
}

// From 6 bowls to 18, three puddings keep thickness, sweetness and doneness in
// every proposal, and plain multiplication does not.
func TestScalingKeepsThePudding(t *testing.T) {
	for _, name := range []string{"rice-pear-bay", "millet-palm-sugar", "basmati-rose"} {
		t.Run(name, func(t *testing.T) {
			p := sample(t, name)
			p.Scale(6)
			s, err := balance.Scale(p, 18, kit)
			require.NoError(t, err)
			b := s.Before
			t.Logf("before: %.2f grade, %.2f %%, done %.2f, %.0f min", b.Thickness, b.Sweet, b.Done, b.Minutes)
			for _, x := range append([]balance.Scaled{s.Clock, s.Mark}, s.Proposals...) {
				o := x.Outcome
				t.Logf("%s %s: %.2f grade, %.2f %%, done %.2f, %.0f min, hands %.0f, fill %.2f, yield %.0f", x.Kind, x.Detail, o.Thickness, o.Sweet, o.Done, o.Minutes, o.HandsOn, o.Fill, o.YieldG)
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
