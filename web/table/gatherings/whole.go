package gatherings

import (
	"cmp"
	"slices"
	"strings"

	"kirdu/app"
	"kirdu/core/forecast"
	"kirdu/core/timetable"
	"kirdu/words"
)

// A whole is a task as a cook thinks of it: what goes in, and what is done with it then.
type whole struct {
	timetable.Task       // of the step that lasts, begun when the first thing goes in
	steps          []int // of the plan
}

// wholeTasks puts what takes no time together with the step of its pot that it is for.
func wholeTasks(tasks []timetable.Task, puddings []app.Serving) []whole {
	type place struct {
		pudding int
		pot     string
	}
	waiting := map[place]*whole{}
	var list []whole
	for _, task := range tasks {
		step := &puddings[task.Pudding].Plan.Steps[task.Step]
		at := place{task.Pudding, step.PotName()}
		if step.Do.IsPreparation() {
			list = append(list, whole{task, []int{task.Step}})
			continue
		}
		const instant = 1
		before := waiting[at]
		switch {
		case task.End-task.Start < instant && before == nil:
			waiting[at] = &whole{task, []int{task.Step}}
		case task.End-task.Start < instant:
			before.steps = append(before.steps, task.Step)
			before.End = task.End
		case before != nil:
			task.Start = before.Start
			list = append(list, whole{task, append(before.steps, task.Step)})
			delete(waiting, at)
		default:
			list = append(list, whole{task, []int{task.Step}})
		}
	}
	for _, left := range waiting {
		list = append(list, *left)
	}
	slices.SortStableFunc(list, func(a, b whole) int {
		return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.Pudding, b.Pudding), cmp.Compare(a.Step, b.Step))
	})
	return list
}

// says tells a whole task: its steps, one after the other.
func (w *whole) says(say words.Printer, p app.Serving, f *forecast.Forecast) string {
	var said []string
	for k, step := range w.steps {
		title := say.Step(p.Plan, f, step).Title
		if k > 0 {
			title = words.Lower(title)
		}
		said = append(said, title)
	}
	return strings.Join(said, ", then ")
}
