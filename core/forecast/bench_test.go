package forecast

import (
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
)

// readCase reads a plan of the reference cases.
func readCase(t testing.TB, name string) *plan.Plan {
	t.Helper()
	data, err := os.ReadFile("testdata/" + name + ".kirdu.json")
	require.NoError(t, err)
	p, err := plan.Read(data)
	require.NoError(t, err)
	return p
}

// BenchmarkNinetyMinutes guards the budget of 1 ms for a forecast with its
// ranges of a pudding that takes an hour and a half.
func BenchmarkNinetyMinutes(b *testing.B) {
	p := readCase(b, "milk-short-grain-reduced")
	p.Steps[0].Items[0].Amount, p.Steps[0].Items[1].Amount = "2.6 l", "240 g"
	require.InDelta(b, 90, Run(p, Options{}).Time.TotalMin.Value, 3)
	b.ReportAllocs()
	for b.Loop() {
		Run(p, Options{})
	}
}
