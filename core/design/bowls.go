package design

import (
	"kirdu/core/forecast"
	"kirdu/core/plan"
)

// ForBowls makes a plan for another number of bowls as Scale does without other flames: by the amounts
// alone where that keeps it, else in another pot of the kitchen, else by the amounts, in the pot that has room.
func ForBowls(p *plan.Plan, bowls int, kit Kit) *plan.Plan {
	if bowls == p.Serves {
		return p.Clone()
	}
	if base := markedByMass(p); base != nil {
		before := forecast.Run(p, forecast.Options{NominalOnly: true})
		s := scaler{plan: p, before: before, goal: outcome(p, before, before)}
		grown := base.Clone()
		grown.ScaleWithTaste(bowls)
		for _, pot := range s.pots(grown, kit) {
			matched := s.match(inPot(grown, pot.Pot))
			if matched == nil {
				continue
			}
			if done := s.finish(JustAmounts, Means{}, matched); s.near(done.Outcome) {
				return done.Plan
			}
		}
	}
	grown := p.Clone()
	grown.ScaleWithTaste(bowls)
	grown.Measurable(p)
	return InRoom(grown, kit.Pots)
}
