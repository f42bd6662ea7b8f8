package mend

import (
	"kirdu/core/measure"
)

// Ladders are what an edit tries, the smallest change first: the first rung that
// mends is taken. Factors are on what stands in the plan. Source: our own judgement
// of what a cook would try.
var (
	pulseLonger  = []float64{1.3, 1.6, 2, 2.5, 3.2} // of a pulse before its acid sweetener
	softenLonger = []float64{1.1, 1.2, 1.35, 1.5, 1.75, 2, 2.5}
	softenLess   = []float64{0.9, 0.8, 0.7, 0.6, 0.5, 0.4, 0.3}
	cutShort     = []float64{0.85, 0.7, 0.55, 0.4} // a step that goes dry, or the pearls in a pot
	moreLiquid   = []float64{1.15, 1.3, 1.5, 1.8}
	higherPots   = []float64{1.15, 1.3, 1.5, 1.75, 2, 2.5, 3}
	widerPots    = []float64{1.2, 1.4, 1.7, 2}
	lessWater    = []float64{1, 0.8, 0.6, 0.45} // of the liquid that goes in: some is gone when it is served
	lessFats     = []float64{0.8, 0.6, 0.4, 0.25}
	boilLess     = []measure.Minute{1, 0.9, 0.8, 0.7, 0.6, 0.5, 0.4}        // shares of the boil of soaked pearls
	laterSugar   = []measure.Minute{1, 0.95, 0.9, 0.85, 0.8, 0.7, 0.6, 0.5} // shares of a boil before the sugar goes in
	eggBelow     = []measure.Celsius{88, 84, 80, 76}                        // what the pot cools to before egg
	sodas        = []float64{0.15, 0.25, 0.35, 0.45, 0.55}                  // g per litre, up to what can be tasted
)

// Temperatures and times of the steps that edits put in.
const (
	offTheBoil  = measure.Celsius(84) // nothing splits that would at the boil
	EggThickens = measure.Celsius(78) // a little on the safe side of where it scrambles
	EggSafe     = measure.Celsius(76) // above the least of watch, below where egg scrambles
	yogurtFrom  = measure.Celsius(30)
	bathTo      = measure.Celsius(20)
	shortGuard  = measure.Minute(30)
	longGuard   = measure.Minute(40)
)

const fryTissue = 10.0 // min, until raw tissue has let go of its water
