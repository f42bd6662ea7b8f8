package forecast

import "kirdu/core/measure"

// Temperatures and times of food that stands or cools. Source: the model, section
// 13, general kitchen hygiene; local rules come first.
const (
	SafeHot    measure.Celsius = 60  // above it nothing grows
	Lukewarm   measure.Celsius = 21  // to which it is cooled first
	SafeCold   measure.Celsius = 5   // below it hardly anything does
	MostWarm   measure.Minute  = 120 // between the two in all, and the first stretch of cooling
	MostChills measure.Minute  = 240 // the second
)
