package words

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/rehearse"
)

// taskNames name what a rehearsal is about; taskTroubles say it when it comes.
var taskNames = map[rehearse.Task]string{rehearse.BoilsOver: "It boils over", rehearse.Splits: "The milk begins to split",
	rehearse.GuestsLate: "The guests are 30 minutes late"}
var taskTroubles = map[rehearse.Task]string{
	rehearse.BoilsOver:  "It rises: the milk is coming up to the rim!",
	rehearse.Splits:     "Small curds show at the rim.",
	rehearse.GuestsLate: "They call: they will be 30 minutes late.",
}

// TaskName names what a rehearsal is about.
func TaskName(task rehearse.Task) string { return taskNames[task] }

// TaskTrouble says the trouble of a task when it comes, at the stove.
func TaskTrouble(task rehearse.Task) string { return taskTroubles[task] }

// Happened says what went on in a pot that was rehearsed.
func (w Printer) Happened(r *rehearse.Review) []string {
	const same = 0.03
	said := []string{}
	switch {
	case r.Flame > 1+same:
		said = append(said, w.Sprintf("The flame gave %.0f %% more than you planned with.", 100*(r.Flame-1)))
	case r.Flame < 1-same:
		said = append(said, w.Sprintf("The flame gave %.0f %% less than you planned with.", 100*(1-r.Flame)))
	default:
		said = append(said, "The flame gave what you planned with.")
	}
	if r.Boiled > 0 {
		said = append(said, w.Sprintf("It boiled for %s before you told that it does.", w.Minutes(r.Boiled)))
	}
	switch r.Readings {
	case 0:
		said = append(said, "You weighed, dipped and felt nothing: a reading shows early how strong the flame is.")
	case 1:
		said = append(said, "One reading was taken.")
	default:
		said = append(said, w.Sprintf("%.0f readings were taken.", float64(r.Readings)))
	}
	return said
}

// Changed says by how much a rehearsed pudding is another than it was planned.
func (w Printer) Changed(p *plan.Plan, c rehearse.Change) string {
	switch c.Figure {
	case "minutes":
		if c.Is > c.Planned {
			return w.Sprintf("It took %s longer: %s.", w.Minutes(measure.Minute(c.Is-c.Planned)), w.Minutes(measure.Minute(c.Is)))
		}
		return w.Sprintf("It was done %s sooner: %s.", w.Minutes(measure.Minute(c.Planned-c.Is)), w.Minutes(measure.Minute(c.Is)))
	case "thickness":
		return w.Sprintf("Thickness as served %.1f (%s), not %.1f (%s).", c.Is, pot.ThicknessWord(c.Is), c.Planned, pot.ThicknessWord(c.Planned))
	case "sweetness":
		return w.Sprintf("Sweetness %.1f %%, not %.1f.", c.Is, c.Planned)
	}
	return w.Sprintf("%s %s (%.1f), not %s (%.1f).", p.PartName(c.Figure), pot.DonenessWord(p.Texture(c.Figure), c.Is), c.Is,
		pot.DonenessWord(p.Texture(c.Figure), c.Planned), c.Planned)
}

// Judged says how a task was met.
func (w Printer) Judged(v *rehearse.Verdict) string {
	after := w.Minutes(measure.Minute(math.Round(float64(v.After)*10) / 10))
	switch {
	case !v.Came:
		return "The trouble never came: the pudding was done before."
	case v.Task == rehearse.GuestsLate && v.Done:
		return w.Sprintf("It came to the table when they did, at %.1f of %.1f wanted.", v.Grade, v.Want)
	case v.Task == rehearse.GuestsLate && math.Abs(v.Grade-v.Want) > rehearse.GradesOff:
		return w.Sprintf("They ate it at %.1f, not %.1f as wanted. Take it off the flame before the mark, covered; at the table loosen "+
			"it with hot milk, a little at a time. Milk that stands warm stands no longer than two hours.", v.Grade, v.Want)
	case v.Task == rehearse.GuestsLate:
		return "It was done before they came. Take it off the flame for a while, before the mark, and go on when they are near."
	case v.Done && v.Task == rehearse.BoilsOver:
		return w.Sprintf("You acted after %s: the pot was off the boil before it came over the rim.", after)
	case v.Done:
		return w.Sprintf("You acted after %s: the curds stayed small.", after)
	case v.After >= 0:
		return w.Sprintf("You acted after %s; by then it was too late.", after) + better[v.Task]
	}
	return "Nothing was done about it." + better[v.Task]
}

// better says what would have helped.
var better = map[rehearse.Task]string{
	rehearse.BoilsOver: " The flame goes down, or the pot off it, within a minute; stir, and lift no lid with milk at the rim. A wider " +
		"pot, or less in it, leaves room for the foam.",
	rehearse.Splits: " Off the flame at once, a spoon of cold milk or some starch stirred in; Rescue says how much. What is sour goes in " +
		"below the boil, at the end, or a pinch of soda with it.",
}
