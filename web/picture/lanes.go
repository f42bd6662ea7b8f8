package picture

import (
	"fmt"
	"slices"
	"time"

	"kirdu/core/measure"
	"kirdu/core/timetable"
	"kirdu/exchange"
)

// Lanes are a timetable as a picture: a lane for each burner, oven and for the
// hands, over the time of day.
type Lanes struct {
	Width, Height Px
	Left, Right   Px
	Rows          []Lane
	Times         []Tick
	TimeY         Px
	ServeX        Px
	NowX          Px
	HasNow        bool
	Text          string
	PerMinute     Px // of the axis
}

// Foot is where the lines of the hours end.
func (l Lanes) Foot() Px { return l.TimeY - 14 }

// A Lane is one row.
type Lane struct {
	Y, Middle, Height Px
	Title             string
	Bars              []LaneBar
}

// End is the right edge of the bar.
func (b LaneBar) End() Px { return b.X + b.Width }

// HasSlack reports whether the work may slip by as much as can be seen.
func (b LaneBar) HasSlack() bool { return b.SlackX > b.End()+3 }

// Centre is the middle of the bar's height.
func (b LaneBar) Centre() Px { return b.Y + b.Height/2 }

// LaneBar is a stretch of work of one pudding.
type LaneBar struct {
	X, Y, Width, Height Px
	Number              string // of the pudding; "" where there is no room
	Pudding             int    // from 1
	Step                int
	Burner              string // of the lane; "" for hands
	SlackX              Px     // until where it may slip, X+Width where it may not
	Text                string
}

// Geometry of the lanes, in px.
const (
	lanesWidth, lanesLeft, lanesRight = 1208.0, 130.0, 1190.0
	laneHeight, laneGap, lanesTop     = 30.0, 8.0, 8.0

	roomForNumber Px = 14
)

// NewLanes lays out a timetable. names are those of the puddings. What is begun
// long before the first pot, such as a soak over night, is left to the list.
func NewLanes(t *timetable.Timetable, names []string, serve, now time.Time, zone *time.Location) Lanes {
	l := Lanes{Width: lanesWidth, Left: lanesLeft, Right: lanesRight}
	from, to := measure.Minute(0), measure.Minute(0)
	clock := func(m measure.Minute) time.Time { return exchange.Moment(serve, m).In(zone) }
	for _, task := range t.Tasks {
		if task.Pot != "" || task.Burner != "" {
			from = min(from, task.Start)
		}
	}
	const before = 20
	from, to = from-before, to+before/2
	x := func(at measure.Minute) Px {
		axis := linear{from: float64(from), to: float64(to), low: lanesLeft, high: lanesRight}
		return axis.at(min(max(float64(at), axis.from), axis.to))
	}
	lanes := map[string][]timetable.Task{}
	var burners []string
	var hands []timetable.Task
	for _, task := range t.Tasks {
		if task.Burner != "" {
			if !slices.Contains(burners, task.Burner) {
				burners = append(burners, task.Burner)
			}
			lanes[task.Burner] = append(lanes[task.Burner], task)
		}
		if task.Hands > 0 && task.HandsEnd > from {
			hands = append(hands, task)
		}
	}
	slices.Sort(burners)
	y := Px(lanesTop)
	bar := func(task timetable.Task, end measure.Minute, top, height Px) (LaneBar, bool) {
		one := LaneBar{X: x(task.Start), Y: top, Width: x(end) - x(task.Start), Height: height, Pudding: task.Pudding + 1, Step: task.Step,
			Text: fmt.Sprintf("%s, %s to %s", names[task.Pudding], clock(task.Start).Format("15:04"), clock(end).Format("15:04"))}
		one.SlackX = max(x(end+task.Slack), one.X+one.Width)
		if one.Width > roomForNumber && height >= roomForNumber {
			one.Number = fmt.Sprint(task.Pudding + 1)
		}
		return one, one.Width > 0
	}
	add := func(lane Lane) {
		lane.Y, lane.Middle = y, y+lane.Height/2+4
		l.Rows = append(l.Rows, lane)
		y += lane.Height + laneGap
	}
	for _, name := range burners {
		lane := Lane{Title: name, Height: laneHeight}
		for _, task := range lanes[name] {
			if one, ok := bar(task, task.End, y, laneHeight); ok {
				one.Burner = name
				lane.Bars = append(lane.Bars, one)
			}
		}
		add(lane)
	}
	add(handsLane(hands, y, bar))
	const ticks = 12
	step := time.Duration(max(10, niceStep(float64(to-from), ticks))) * time.Minute
	if step > 30*time.Minute {
		step = step.Round(time.Hour)
		step = max(step, time.Hour)
	}
	l.TimeY = y + 14
	after := func(at time.Time) measure.Minute { return measure.Minute(at.Sub(serve).Minutes()) }
	for at := clock(from).Truncate(step).Add(step); after(at) < to; at = at.Add(step) {
		l.Times = append(l.Times, Tick{At: x(after(at)), Label: at.Format("15:04")})
	}
	l.Height = l.TimeY + 8
	l.PerMinute = Px((lanesRight - lanesLeft) / float64(to-from))
	l.ServeX = x(0)
	if present := after(now); present > from && present < to {
		l.NowX, l.HasNow = x(present), true
	}
	l.Text = fmt.Sprintf("Timetable from %s to %s: %d tasks on %d burners; the list below says them one by one.",
		clock(from).Format("15:04"), clock(to).Format("15:04"), len(t.Tasks), len(burners))
	return l
}

// handsLane stacks what keeps hands busy: a person is as high as a lane, and who
// stirs half the time takes half of it.
func handsLane(tasks []timetable.Task, top Px, bar func(timetable.Task, measure.Minute, Px, Px) (LaneBar, bool)) Lane {
	type placed struct {
		task     timetable.Task
		from, to float64 // shares of a person, from the bottom
	}
	var all []placed
	most := 1.0
	for _, task := range tasks {
		one := placed{task: task, to: task.Hands}
		for moved := true; moved; {
			moved = false
			for _, other := range all {
				if other.task.Start < task.HandsEnd && task.Start < other.task.HandsEnd && one.from < other.to-1e-9 && other.from < one.to-1e-9 {
					one.from, one.to = other.to, other.to+task.Hands
					moved = true
				}
			}
		}
		most = max(most, one.to)
		all = append(all, one)
	}
	lane := Lane{Title: "hands", Height: Px(laneHeight * most)}
	for _, one := range all {
		height := Px(laneHeight * (one.to - one.from))
		if b, ok := bar(one.task, one.task.HandsEnd, top+lane.Height-Px(laneHeight*one.to), height); ok {
			lane.Bars = append(lane.Bars, b)
		}
	}
	return lane
}
