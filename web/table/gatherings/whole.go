package gatherings

import (
	"strings"

	"kirdu/app"
	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/words"
)

// wholeTasks are the tasks of puddings as a cook thinks of them.
func wholeTasks(tasks []timetable.Task, puddings []app.Serving) []timetable.Whole {
	var plans []*plan.Plan
	for _, p := range puddings {
		plans = append(plans, p.Plan)
	}
	return timetable.Wholes(tasks, plans)
}

// wholeWords tells a whole task: its steps, one after the other.
func wholeWords(say words.Printer, w timetable.Whole, p app.Serving, f *forecast.Forecast) string {
	var said []string
	for k, step := range w.Steps {
		title := say.Step(p.Plan, f, step).Title
		if k > 0 {
			title = words.Lower(title)
		}
		said = append(said, title)
	}
	return strings.Join(said, ", then ")
}
