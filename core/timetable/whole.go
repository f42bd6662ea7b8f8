package timetable

import (
	"cmp"
	"slices"

	"kirdu/core/plan"
)

// A Whole is a task as a cook thinks of it: what goes in, and what is done with it then.
type Whole struct {
	Task        // of the step that lasts, begun when the first thing goes in
	Steps []int // of the plan, in their order
}

// instant is less than what a step lasts that takes time, min.
const instant = 1

// Wholes puts what takes no time together with the step of its pot that it is for, the first to begin first. plans are
// those of the puddings.
func Wholes(tasks []Task, plans []*plan.Plan) []Whole {
	type place struct {
		pudding int
		pot     string
	}
	waiting := map[place]*Whole{}
	var list []Whole
	for _, task := range tasks {
		step := &plans[task.Pudding].Steps[task.Step]
		at := place{task.Pudding, step.PotName()}
		if step.Do.IsPreparation() {
			list = append(list, Whole{task, []int{task.Step}})
			continue
		}
		before := waiting[at]
		switch {
		case task.End-task.Start < instant && before == nil:
			waiting[at] = &Whole{task, []int{task.Step}}
		case task.End-task.Start < instant:
			before.Steps = append(before.Steps, task.Step)
			before.End = task.End
		case before != nil:
			task.Start = before.Start
			list = append(list, Whole{task, append(before.Steps, task.Step)})
			delete(waiting, at)
		default:
			list = append(list, Whole{task, []int{task.Step}})
		}
	}
	for _, left := range waiting {
		list = append(list, *left)
	}
	slices.SortStableFunc(list, func(a, b Whole) int {
		return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.Pudding, b.Pudding), cmp.Compare(a.Step, b.Step))
	})
	return list
}
