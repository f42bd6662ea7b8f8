package words

import (
	"math"
	"strings"

	"kirdu/core/design"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/timetable"
	"kirdu/core/watch"
)

// Change says what balancing moved: "12 % more".
func (w Printer) Change(c design.Change) string {
	switch c.Of {
	case design.TimeChanged:
		return w.text("change.time", c.To, c.From)
	case design.ReductionChanged:
		return w.text("change.reduction", c.To, c.From)
	case design.FlameChanged:
		return w.text("change.flame")
	}
	switch {
	case math.IsNaN(c.Percent):
		return ""
	case c.Percent < 0:
		return w.text("change.less", w.Percent(-c.Percent, 0))
	}
	return w.text("change.more", w.Percent(c.Percent, 0))
}

// RuleName names what a rule warns of in a few words.
func (w Printer) RuleName(rule watch.ID) string {
	if _, there := english["rule."+string(rule)]; there {
		return w.text("rule." + string(rule))
	}
	return w.text("rule.other")
}

// Road names one way to the aims.
func (w Printer) Road(r design.Road) string {
	switch r {
	case design.MoreStarch:
		return w.text("road.more-starch")
	case design.FurtherDown:
		return w.text("road.further-down")
	}
	return w.text("road.less-milk")
}

// KitchenCannot says why a kitchen cannot cook a new pudding, and for how many bowls it can.
func (w Printer) KitchenCannot(e *design.Cannot) string {
	key := "cannot.other"
	switch e.Rule {
	case "too-full", "boil-over", "cooker-too-full":
		key = "cannot.room"
	case "weak-flame", "never-reached":
		key = "cannot.flame"
	}
	if e.Bowls == 0 {
		return w.text(key) + " " + w.text("cannot.none")
	}
	return w.text(key) + " " + w.text("cannot.bowls", w.Number(float64(e.Bowls), 0))
}

// Obstacle says what stands between a plan and its aims.
func (w Printer) Obstacle(m design.Miss, aims design.Aims) string {
	switch m.Because {
	case design.Locked:
		return w.text("miss.locked", m.Lock)
	case design.Locks:
		return w.text("miss.locks")
	case design.Against:
		return w.text("miss.against", w.RuleName(m.Rule))
	case design.NoFlour:
		return w.text("miss.flour", pot.ThicknessWord(*aims.Thickness))
	}
	return w.text("miss.amount")
}

// Scaling says what a way of cooking for more or fewer does.
func (w Printer) Scaling(kind design.ScaleKind, with design.Means) string {
	in := func(key, means string) string {
		if means == "" {
			return w.text(key)
		}
		return w.text("scale.in", w.text(key), means)
	}
	list := func(means ...string) string {
		var said []string
		for _, one := range means {
			if one != "" {
				said = append(said, one)
			}
		}
		return strings.Join(said, ", ")
	}
	switch kind {
	case design.ReduceFirst:
		return in("scale.reduce-first", with.Pot)
	case design.LessMilk:
		return in("scale.less-milk", with.Pot)
	case design.OtherPot:
		return w.text("scale.pot", with.Pot)
	case design.OtherBurner:
		first := ""
		if with.ReducedFirst {
			first = w.text("scale.milk-first")
		}
		return w.text("scale.burner", list(with.Burner, first, with.Pot))
	case design.OtherFlame:
		return w.text("scale.flame", list(w.text("scale.flame.of", string(with.Flame)), with.Pot))
	case design.TwoPots:
		return w.text("scale.two")
	case design.JustAmounts:
		return w.text("scale.amounts")
	case design.ByTheClock:
		return w.text("scale.clock")
	}
	return w.text("scale.mark")
}

// Variant says a question that cooks argue about, and what is otherwise when it is
// answered the other way: "sugar late or early", "sugar from the start".
func (w Printer) Variant(v design.Variant) (question, otherwise string) {
	return w.text("variant." + v.Key), w.text(v.Label)
}

// NoFlame says when a pudding waits hot and all burners are taken.
func (w Printer) NoFlame(when string) string {
	return w.text("late.no-flame", when, w.Celsius(timetable.HotHold))
}

// Late says why a pudding is late, and what would help.
func (w Printer) Late(g *timetable.Gathering, l timetable.Late) (why, remedy string) {
	why = w.text("late." + string(l.Why))
	earlier := w.Number(math.Ceil(l.Minutes), 0)
	switch {
	case l.Why != timetable.Taken && l.Why != timetable.TooLate:
		return why, w.text("late." + string(l.Why) + ".remedy")
	case len(g.Puddings) > 1:
		return why, w.text("late.remedy", earlier, g.Puddings[l.Pudding].Plan.Name)
	}
	return why, w.text("late.remedy.alone", earlier)
}

// AimName says an aim: "the thickness".
func (w Printer) AimName(p *plan.Plan, aim string) string {
	if part, isDone := strings.CutPrefix(aim, "doneness."); isDone {
		return w.text("aim.doneness", Lower(p.PartName(part)))
	}
	return w.text("aim." + aim)
}
