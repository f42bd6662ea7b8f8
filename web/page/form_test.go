package page_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/web/page"
)

func TestNumber(t *testing.T) {
	for text, want := range map[string]float64{"12": 12, " 1 250.5 ": 1250.5, "1\u202f250": 1250, "-3": -3, "0": 0} {
		x, ok := page.Number(text)
		require.True(t, ok, text)
		require.InDelta(t, want, x, 1e-9)
	}
	for _, text := range []string{"", "-", "1e3", "0x10", "Inf", "NaN", "1,5", "12 g", "1.2.3", "∞", "١"} {
		_, ok := page.Number(text)
		require.False(t, ok, text)
	}
}

func TestFieldFaults(t *testing.T) {
	faults := measure.Faults{
		{Field: "bowls", Err: measure.ErrNotPositive},
		{Field: "amount", Value: `"2 cupz"`, Err: measure.ErrUnknownUnit},
		{Field: "amount", Err: measure.ErrNoNumber},
	}
	byField := page.FieldFaults(faults)
	require.Len(t, byField, 2)
	require.Contains(t, byField["amount"], `"2 cupz": unknown unit`)
	require.Contains(t, byField["amount"], "give a number and a unit", "two faults of one field stand together")
	require.Nil(t, page.FieldFaults(measure.ErrNoPiece))
}
