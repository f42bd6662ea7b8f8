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

	// One that is a third off counts a quarter among many: the tails are those of a t distribution of four degrees.
	odd := at(0.3)[0]
	all := []learn.Observation{odd}
	for _, batch := range agreeing {
		all = append(all, batch...)
	}
	require.InDelta(t, 0.25, learn.Weight(odd, all, learn.Figure{Value: 1}), 0.05)
}

// One odd batch moves what is learnt by less than five per cent: the first of all, which is
// believed when a second agrees, and one among a few.
func TestOneOddBatchMovesLittle(t *testing.T) {
	at := func(mean float64) []learn.Observation {
		return []learn.Observation{{Quantity: learn.Power, Key: "front", Pot: "wide", Mean: mean, SD: 0.05}}
	}
	power := func(batches ...[]learn.Observation) float64 {
		l := learn.Combine(batches)
		return l.Burners["front"].Value * l.Pots["wide"].Value
	}
	for _, odd := range []float64{-0.9, -0.6, 0.6, 0.9} {
		require.InDelta(t, 1, power(at(odd)), 0.05, "%v alone", odd)
		for _, usual := range []float64{-0.15, 0, 0.2} {
			before := power(at(usual), at(usual+0.05), at(usual-0.03))
			require.InDelta(t, 1, power(at(usual), at(usual+0.05), at(usual-0.03), at(odd))/before, 0.05, "%v among %v", odd, usual)
		}
	}
	require.Greater(t, power(at(0.6), at(0.65)), 1.3, "two agree")
	require.Greater(t, power(at(0.2)), 1.1, "what is not odd counts at once")
	o := at(0.9)[0]
	require.Zero(t, learn.Weight(o, []learn.Observation{o}, learn.Figure{Value: 1}))
	require.Greater(t, learn.Weight(at(0.02)[0], []learn.Observation{o, at(0.02)[0]}, learn.Figure{Value: 1}), 0.9)
}
