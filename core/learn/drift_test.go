package learn_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/learn"
)

func TestDriftIsMoreThanScatter(t *testing.T) {
	by, told := learn.Drift([]float64{100, 101, 99, 100, 90, 91, 89, 90})
	require.True(t, told)
	require.InDelta(t, -10, by, 1e-9)
	by, told = learn.Drift([]float64{100, 80, 120, 100, 104, 85, 118, 99})
	require.False(t, told, "it scatters more than it drifts")
	require.InDelta(t, 1.5, by, 1e-9)
	_, told = learn.Drift([]float64{1, 50, 100})
	require.False(t, told, "too few")
	_, told = learn.Drift([]float64{5, 5, 5, 5, 5})
	require.False(t, told)
}
