package picture

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"kirdu/core/measure"
	"kirdu/core/timetable"
	"kirdu/exchange"
	"kirdu/words"
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
	Axis          DayAxis
	Folds         []Fold
}

// A Fold is a stretch in which nothing is to be done, drawn narrower than its time.
type Fold struct {
	X     Px // its middle
	Label string
}

// Foot is where the lines of the hours end.
func (l Lanes) Foot() Px { return l.TimeY - 14 }

// A Lane is one row.
type Lane struct {
	Y, Middle, Height Px
	Title             string
	Burner            string // "" for hands, and for what goes on by itself
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

	aloneHeight, aloneGap Px             = 16, 2
	aloneFrom             measure.Minute = 5 // what goes on by itself for longer has a bar
)

// NewLanes lays out a timetable. names are those of the puddings. Where nothing is to be done for long the axis is
// folded, so that the evening has its room.
func NewLanes(say words.Printer, t *timetable.Timetable, names []string, serve, now time.Time, zone *time.Location) Lanes {
	l := Lanes{Width: lanesWidth, Left: lanesLeft, Right: lanesRight}
	clock := func(m measure.Minute) time.Time { return exchange.Moment(serve, m).In(zone) }
	busy := []stretch{{0, 0}}
	lanes := map[string][]timetable.Task{}
	var burners []string
	var hands, alone []timetable.Task
	for _, task := range t.Tasks {
		if task.Burner != "" {
			if !slices.Contains(burners, task.Burner) {
				burners = append(burners, task.Burner)
			}
			lanes[task.Burner] = append(lanes[task.Burner], task)
			busy = append(busy, stretch{task.Start, task.End})
		}
		if task.Hands > 0 {
			hands = append(hands, task)
			busy = append(busy, stretch{task.Start, task.HandsEnd})
		}
		goesOn := task.End - task.HandsEnd
		if task.Hands == 0 {
			goesOn = task.End - task.Start
		}
		if task.Burner == "" && goesOn > aloneFrom {
			alone = append(alone, task)
			busy = append(busy, stretch{task.Start, task.Start}, stretch{task.End, task.End})
		}
	}
	axis := newDayAxis(busy, lanesLeft, lanesRight)
	l.Axis = axis
	for _, f := range axis.folds {
		l.Folds = append(l.Folds, Fold{X: f.x, Label: say.Minutes(f.minutes)})
	}
	x := axis.at
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
		lane := Lane{Title: name, Burner: name, Height: laneHeight}
		for _, task := range lanes[name] {
			if one, ok := bar(task, task.End, y, laneHeight); ok {
				one.Burner = name
				lane.Bars = append(lane.Bars, one)
			}
		}
		add(lane)
	}
	add(handsLane(hands, y, bar))
	if len(alone) > 0 {
		add(aloneLane(alone, y, bar))
	}
	l.TimeY = y + 14
	after := func(at time.Time) measure.Minute { return measure.Minute(at.Sub(serve).Minutes()) }
	l.Times = hours(axis, clock, after)
	l.Height = l.TimeY + 8
	l.ServeX = x(0)
	if present := after(now); present > axis.from() && present < axis.to() {
		l.NowX, l.HasNow = x(present), true
	}
	l.Text = fmt.Sprintf("Timetable from %s to %s: %d tasks on %d burners; the list below says them one by one.",
		clock(axis.from()).Format("15:04"), clock(axis.to()).Format("15:04"), len(t.Tasks), len(burners))
	return l
}

// hours are the times along an axis, as many as there is room for.
func hours(axis DayAxis, clock func(measure.Minute) time.Time, after func(time.Time) measure.Minute) (list []Tick) {
	const ticks, room, fromFold = 14, 40.0, 16.0
	step := time.Duration(max(10, niceStep(axis.shown(), ticks))) * time.Minute
	if step > 30*time.Minute {
		step = max(step.Round(time.Hour), time.Hour)
	}
	at := clock(axis.from()).Truncate(step).Add(step)
	for ; after(at) < axis.to(); at = at.Add(step) {
		x := axis.at(after(at))
		near := slices.ContainsFunc(axis.folds, func(f fold) bool { return math.Abs(float64(f.x-x)) < foldWidth/2+fromFold })
		if axis.isFolded(after(at)) || near || len(list) > 0 && x-list[len(list)-1].At < room {
			continue
		}
		list = append(list, Tick{At: x, Label: at.Format("15:04")})
	}
	return list
}

// aloneLane shows what goes on by itself, in as many rows as go on at once.
func aloneLane(tasks []timetable.Task, top Px, bar func(timetable.Task, measure.Minute, Px, Px) (LaneBar, bool)) Lane {
	lane := Lane{Title: "by itself"}
	tasks = slices.SortedFunc(slices.Values(tasks), func(a, b timetable.Task) int { return cmp.Compare(a.Start, b.Start) })
	var free []measure.Minute // when each row is
	for _, task := range tasks {
		row := slices.IndexFunc(free, func(at measure.Minute) bool { return at <= task.Start })
		if row < 0 {
			row, free = len(free), append(free, 0)
		}
		free[row] = task.End
		if b, ok := bar(task, task.End, top+Px(row)*(aloneHeight+aloneGap), aloneHeight); ok {
			lane.Bars = append(lane.Bars, b)
		}
	}
	lane.Height = max(1, Px(len(free)))*(aloneHeight+aloneGap) - aloneGap
	return lane
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
