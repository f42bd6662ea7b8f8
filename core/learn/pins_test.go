package learn_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/learn"
)

// One odd batch among ten that agree moves what is learnt by less than two per
// cent, and however many agree, the next may differ by seven.
func TestWhatOneBatchMayMove(t *testing.T) {
	at := func(mean float64) []learn.Observation {
		return []learn.Observation{{Quantity: learn.Power, Key: "front", Pot: "wide", Mean: mean, SD: 0.05}}
	}
	var agreeing [][]learn.Observation
	for range 10 {
		agreeing = append(agreeing, at(0))
	}
	without := learn.Combine(agreeing)
	with := learn.Combine(append(agreeing, at(0.9)))
	require.InDelta(t, 0, math.Log(with.Burners["front"].Value*with.Pots["wide"].Value/
		(without.Burners["front"].Value*without.Pots["wide"].Value)), 0.02)
	for range 90 {
		agreeing = append(agreeing, at(0))
	}
	require.InDelta(t, 0.07, learn.Combine(agreeing).Burners["front"].SD, 0.012)
}
