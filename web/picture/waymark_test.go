package picture

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
)

// Each way has a drawing of its own, within its frame.
func TestWaysAreDrawn(t *testing.T) {
	marks := WayMarks()
	require.Len(t, marks, len(plan.Ways()))
	seen := map[string]string{}
	kinds := map[string]bool{}
	for name, m := range marks {
		require.Empty(t, seen[m.Mass], "%s looks as another", name)
		seen[m.Mass] = name
		require.NotEmpty(t, m.Bars, name)
		for _, b := range m.Bars {
			kinds[b.Kind] = true
			require.GreaterOrEqual(t, float64(b.X), 0.0, name)
			require.LessOrEqual(t, float64(b.X+b.Width), wayWidth+1, name)
			require.LessOrEqual(t, float64(b.Y+b.Height), wayHeight, name)
		}
	}
	for _, kind := range []string{"flame", "pressure", "oven", "cold", "rest"} {
		require.True(t, kinds[kind], kind)
	}
}
