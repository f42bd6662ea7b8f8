package app

import (
	"kirdu/core/rehearse"
	"kirdu/device"
	"kirdu/store"
)

// FlameOf returns the factor on the power that the flame under a rehearsal really has.
func FlameOf(c store.Cook) float64 {
	return rehearse.Flame(rehearse.Task(c.Task), device.NewStandIn(c.ID, c.BegunAt).Power)
}

// Review looks back at a rehearsal that is over.
func Review(c store.Cook) rehearse.Review {
	state := c.State()
	return rehearse.ReviewOf(c.Plan, &state, c.Events, rehearse.Task(c.Task), FlameOf(c))
}
