package picture

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
	"kirdu/words"
)

// A PotLine is the course of a pudding over one common time axis: what is in
// the pot and how warm, how soft the grain and how thick the rest, and under
// them the flame and the stirring.
type PotLine struct {
	Width, Height Px
	Left, Right   Px // ends of the time axis
	Top, Foot     Px
	Panels        []Panel
	Bands         []Band
	Flames        []Bar
	FlameY        Px
	StirY         Px
	Stirs         string // path of the turns of the spoon
	Times         []Tick
	TimeY         Px
	Dots          []Dot
	Tail          string // what comes after the end of the axis
	TailX         Px
	NowX          Px
	HasNow        bool
	Window        *Bar // where the sweetener goes in well
	SugarX        Px
	HasSugar      bool
	Readout       string // JSON for the module that reads moments off the line
	Rows          []Row  // the same in numbers
	Text          string
}

// bandTop is where the bands and the line of a moment begin, in px.
const bandTop Px = 4

// BandTop is where the bands begin.
func (l PotLine) BandTop() Px { return bandTop }

// BandHeight is how tall the bands are.
func (l PotLine) BandHeight() Px { return l.Foot - bandTop }

// RightTick is where the marks of the right axes end.
func (l PotLine) RightTick() Px { return l.Right + 5 }

// StirTop is where the marks of the stirring begin.
func (l PotLine) StirTop() Px { return l.StirY - 7 }

// A Panel is one field of lines with an axis on either side.
type Panel struct {
	Top, Bottom Px
	LeftTicks   []Tick
	RightTicks  []Tick
	LeftTitle   string
	RightTitle  string
	Lines       []Line
}

// TitleY is where the titles of the axes stand.
func (p Panel) TitleY() Px { return p.Top - 11 }

// A Line is one course in a panel.
type Line struct {
	Kind           string // mass, temperature, doneness, thickness: the colour
	Path, Area     string
	Label          string
	LabelX, LabelY Px
}

// A Band is a step of the plan.
type Band struct {
	X, Width Px
	Label    string
	Even     bool
}

// A Bar is a stretch of flame.
type Bar struct{ X, Y, Width, Height Px }

// A Dot is a weigh-in: what was seen beside what was thought.
type Dot struct {
	X, Y Px
	Text string
}

// A Row is one moment in numbers.
type Row struct {
	Minute, Mass, Level, Celsius, Thickness, Doneness, What string
}

// A Seen is a mass that was weighed at a minute.
type Seen struct{ Minute, MassG float64 }

// PotLineOptions change what a pot line shows.
type PotLineOptions struct {
	Narrow  bool
	Beneath bool // it stands beneath the pot, beside the ledger
	Seen    []Seen
	Now     *float64 // minute, nil for a plan
	Beside  *Beside  // another plan on the same axes, nil for none
	Sugar   *Window  // when the sweetener goes in well, nil for none
}

// Beside is a second pudding whose lines are drawn on the axes of the first,
// dashed.
type Beside struct {
	Plan     *plan.Plan
	Forecast *forecast.Forecast
}

// Window is a stretch of time, in minutes, with a moment in it or not.
type Window struct{ From, To, At float64 }

// besideClass is the style of its lines.
const besideClass = " course-beside"

// curves are the courses that share the axes.
func (o *PotLineOptions) curves(f *forecast.Forecast) []*forecast.Curve {
	all := []*forecast.Curve{&f.Curve}
	if o.Beside != nil {
		all = append(all, &o.Beside.Forecast.Curve)
	}
	return all
}

// PotLines is a pot line for a wide and one for a narrow screen; the style
// sheet shows the one that fits.
type PotLines struct{ Wide, Narrow PotLine }

// NewPotLines lays out both.
func NewPotLines(say words.Printer, p *plan.Plan, f *forecast.Forecast, o PotLineOptions) PotLines {
	o.Narrow = false
	lines := PotLines{Wide: NewPotLine(say, p, f, o)}
	o.Narrow = true
	lines.Narrow = NewPotLine(say, p, f, o)
	return lines
}

// frame is where the panels of a pot line stand.
type frame struct {
	width, height, left, right       float64
	massTop, massBottom              float64
	softTop, softBottom, flame, stir float64
	timeTicks                        float64
}

var (
	wideFrame = frame{width: 1208, height: 230, left: 62, right: 1104, massTop: 24, massBottom: 88,
		softTop: 110, softBottom: 176, flame: 198, stir: 208, timeTicks: 14}
	beneathFrame = frame{width: 776, height: 252, left: 52, right: 690, massTop: 24, massBottom: 96,
		softTop: 120, softBottom: 194, flame: 218, stir: 228, timeTicks: 10}
	narrowFrame = frame{width: 358, height: 330, left: 46, right: 276, massTop: 26, massBottom: 132,
		softTop: 160, softBottom: 272, flame: 290, stir: 300, timeTicks: 6}
)

// NewPotLine lays out the course of a plan.
func NewPotLine(say words.Printer, p *plan.Plan, f *forecast.Forecast, o PotLineOptions) PotLine {
	g := wideFrame
	switch {
	case o.Narrow:
		g = narrowFrame
	case o.Beneath:
		g = beneathFrame
	}
	l := PotLine{Width: Px(g.width), Height: Px(g.height), Left: Px(g.left), Right: Px(g.right), Top: Px(g.massTop), Foot: Px(g.softBottom)}
	c := &f.Curve
	if len(c.Minute) == 0 {
		return l
	}
	end := axisEnd(p, f)
	if o.Now != nil {
		end = max(end, *o.Now)
	}
	if o.Beside != nil {
		end = max(end, axisEnd(o.Beside.Plan, o.Beside.Forecast))
	}
	x := linear{from: 0, to: end, low: g.left, high: g.right}
	l.times(say, x, g, end)
	l.bands(say, p, f, x, end)
	l.massPanel(say, f, x, g, end, o)
	l.softPanel(p, f, x, g, end, o)
	l.flames(p, f, x, g, end)
	if o.Now != nil {
		l.NowX, l.HasNow = x.at(*o.Now), true
	}
	if w := o.Sugar; w != nil {
		l.SugarX, l.HasSugar = x.at(min(w.At, end)), true
		if from, to := max(w.From, 0), min(w.To, end); from < to {
			l.Window = &Bar{X: x.at(from), Y: Px(g.massTop), Width: x.at(to) - x.at(from), Height: Px(g.softBottom - g.massTop)}
		}
	}
	if total := f.Time.TotalMin.Value; total > end+1 {
		l.Tail, l.TailX = "then "+say.Minutes(measure.Minute(total-end))+" cold", Px(g.right)
	}
	l.numbers(say, p, f, end)
	return l
}

// axisEnd cuts long cooling and chilling off the axis: the line is for what
// happens at the stove.
func axisEnd(p *plan.Plan, f *forecast.Forecast) float64 {
	const after = 20.0 // min off the heat that are still shown
	lastHeat := 0.0
	for i := range p.Steps {
		if do := p.Steps[i].Do; do == plan.Heat || do == plan.Pressure || do == plan.Bake {
			lastHeat = max(lastHeat, f.Steps[i].EndMin)
		}
	}
	return max(1, min(f.Time.TotalMin.Value, lastHeat+after))
}

func (l *PotLine) times(say words.Printer, x linear, g frame, end float64) {
	l.TimeY = Px(g.height - 4)
	step := math.Max(1, niceStep(end, int(g.timeTicks)))
	for minute := 0.0; minute <= end; minute += step {
		label := say.Number(minute, 0)
		if minute == 0 {
			label = "0 min"
		}
		l.Times = append(l.Times, Tick{At: x.at(minute), Label: label})
	}
}

// bands are the timed steps of the served pot, each with its name where there
// is room for it.
func (l *PotLine) bands(say words.Printer, p *plan.Plan, f *forecast.Forecast, x linear, end float64) {
	even := false
	const perLetter, margin = 6.2, 8
	for i := range p.Steps {
		r := &f.Steps[i]
		if p.Steps[i].Do.IsPreparation() || p.Steps[i].PotName() != p.Served()[0] || r.EndMin <= r.StartMin || r.StartMin >= end {
			continue
		}
		b := Band{X: x.at(r.StartMin), Width: x.at(min(r.EndMin, end)) - x.at(r.StartMin), Even: even}
		if label := say.Step(p, f, i).Short; float64(len(label))*perLetter+margin < float64(b.Width) {
			b.Label = label
		}
		even = !even
		l.Bands = append(l.Bands, b)
	}
}

// line draws ys over the minutes up to the end of the axis.
func line(minutes, ys []float64, x, y linear, end float64) (string, Px, Px) {
	var px, py []Px
	for i := range minutes {
		if minutes[i] > end {
			break
		}
		px, py = append(px, x.at(minutes[i])), append(py, y.at(ys[i]))
	}
	if len(px) == 0 {
		return "", 0, 0
	}
	return path(px, py), px[len(px)-1], py[len(py)-1]
}

func (l *PotLine) massPanel(say words.Printer, f *forecast.Forecast, x linear, g frame, end float64, o PotLineOptions) {
	c := &f.Curve
	most, hottest := 0.0, 100.0
	for _, one := range o.curves(f) {
		most, hottest = max(most, slices.Max(one.MassG)), max(hottest, slices.Max(one.TempC))
	}
	step := niceStep(most, 3)
	mass := linear{from: 0, to: math.Ceil(most/step+1e-9) * step, low: g.massBottom, high: g.massTop}
	panel := Panel{Top: Px(g.massTop), Bottom: Px(g.massBottom), LeftTitle: "g", RightTitle: "°C"}
	for m := 0.0; m <= mass.to+1e-6; m += step {
		panel.LeftTicks = append(panel.LeftTicks, Tick{At: mass.at(m), Label: say.Number(m, 0)})
	}
	d, lastX, _ := line(c.Minute, c.MassG, x, mass, end)
	middle := end * 0.45
	panel.Lines = append(panel.Lines, Line{Kind: "mass", Path: d,
		Area:  fmt.Sprintf("%sL%v %vL%v %vZ", d, lastX, Px(g.massBottom), x.at(c.Minute[0]), Px(g.massBottom)),
		Label: "in the pot", LabelX: x.at(middle), LabelY: mass.at(numeric.Interpolate(c.Minute, c.MassG, middle)) + 16})
	warm := linear{from: 0, to: hottest * 1.05, low: g.massBottom, high: g.massTop}
	for _, t := range []float64{25, 62, 100} {
		panel.RightTicks = append(panel.RightTicks, Tick{At: warm.at(t), Label: say.Number(t, 0)})
	}
	d, _, _ = line(c.Minute, c.TempC, x, warm, end)
	panel.Lines = append(panel.Lines, Line{Kind: "temperature", Path: d, Label: "temperature",
		LabelX: x.at(end * 0.78), LabelY: warm.at(numeric.Interpolate(c.Minute, c.TempC, end*0.78)) + 13})
	if o.Beside != nil {
		other := &o.Beside.Forecast.Curve
		d, _, _ := line(other.Minute, other.MassG, x, mass, end)
		panel.Lines = append(panel.Lines, Line{Kind: "mass" + besideClass, Path: d})
		d, _, _ = line(other.Minute, other.TempC, x, warm, end)
		panel.Lines = append(panel.Lines, Line{Kind: "temperature" + besideClass, Path: d})
	}
	for _, s := range o.Seen {
		if s.Minute <= end {
			l.Dots = append(l.Dots, Dot{X: x.at(s.Minute), Y: mass.at(s.MassG),
				Text: fmt.Sprintf("weighed %s at %s", say.Exact(measure.Gram(s.MassG)), say.Minutes(measure.Minute(s.Minute)))})
		}
	}
	l.Panels = append(l.Panels, panel)
}

// textureOf returns how the softest part of a pudding is between the fingers: the words
// beside the panel are of that one.
func textureOf(p *plan.Plan, f *forecast.Forecast) pantry.Texture {
	softest, texture := -1.0, pantry.Grainy
	for _, part := range sorted(f.Curve.Doneness) {
		if most := slices.Max(f.Curve.Doneness[part]); most > softest {
			softest, texture = most, p.Texture(part)
		}
	}
	return texture
}

func (l *PotLine) softPanel(p *plan.Plan, f *forecast.Forecast, x linear, g frame, end float64, o PotLineOptions) {
	c := &f.Curve
	panel := Panel{Top: Px(g.softTop), Bottom: Px(g.softBottom), LeftTitle: "thickness", RightTitle: "grain"}
	thick := linear{from: 1, to: 8, low: g.softBottom, high: g.softTop}
	for i, word := range pot.ThicknessWords() {
		if i%2 == 0 {
			panel.LeftTicks = append(panel.LeftTicks, Tick{At: thick.at(float64(i + 1)), Label: word})
		}
	}
	d, _, _ := line(c.Minute, c.Thickness, x, thick, end)
	panel.Lines = append(panel.Lines, Line{Kind: "thickness", Path: d, Label: "thickness", LabelX: x.at(end * 0.88),
		LabelY: thick.at(numeric.Interpolate(c.Minute, c.Thickness, end*0.88)) - 6})
	softest := 2.0
	for _, one := range o.curves(f) {
		for _, values := range one.Doneness {
			softest = max(softest, slices.Max(values))
		}
	}
	done := linear{from: 0, to: softest * 1.05, low: g.softBottom, high: g.softTop}
	var last Px = 1e9
	for from, word := range pot.DonenessMarks(textureOf(p, f)) {
		if at := done.at(from); from <= done.to && last-at >= 13 {
			panel.RightTicks = append(panel.RightTicks, Tick{At: at, Label: word})
			last = at
		}
	}
	for _, part := range sorted(c.Doneness) {
		values := c.Doneness[part]
		d, _, _ := line(c.Minute, values, x, done, end)
		panel.Lines = append(panel.Lines, Line{Kind: "doneness", Path: d, Label: "grain", LabelX: x.at(end * 0.4),
			LabelY: done.at(numeric.Interpolate(c.Minute, values, end*0.4)) - 8})
	}
	if o.Beside != nil {
		other := &o.Beside.Forecast.Curve
		d, _, _ := line(other.Minute, other.Thickness, x, thick, end)
		panel.Lines = append(panel.Lines, Line{Kind: "thickness" + besideClass, Path: d})
		for _, part := range sorted(other.Doneness) {
			d, _, _ := line(other.Minute, other.Doneness[part], x, done, end)
			panel.Lines = append(panel.Lines, Line{Kind: "doneness" + besideClass, Path: d})
		}
	}
	l.Panels = append(l.Panels, panel)
}

// flameShare returns how much of its burner a step takes, 0 to 1.
func flameShare(p *plan.Plan, r *forecast.StepResult, s *plan.Step) float64 {
	if !s.ByEye() || r.Watts == nil {
		return p.FlameShare(s)
	}
	most, _ := p.BurnerOf(s.PotName()).Power(vessel.High, 0)
	return min(1, *r.Watts/float64(most))
}

func (l *PotLine) flames(p *plan.Plan, f *forecast.Forecast, x linear, g frame, end float64) {
	const tallest = 12.0
	l.FlameY, l.StirY = Px(g.flame), Px(g.stir)
	for i := range p.Steps {
		s, r := &p.Steps[i], &f.Steps[i]
		if s.Do != plan.Heat || s.PotName() != p.Served()[0] || r.EndMin <= r.StartMin {
			continue
		}
		height := Px(tallest * flameShare(p, r, s))
		from, to := x.at(r.StartMin), x.at(min(r.EndMin, end))
		l.Flames = append(l.Flames, Bar{X: from, Y: Px(g.flame) - height, Width: to - from, Height: height})
		every := float64(s.Stirring().Every())
		const closest = 5.0 // px
		for every > 0 && float64(x.at(every)-x.at(0)) < closest {
			every *= 2
		}
		for n := 1; every > 0 && r.StartMin+float64(n)*every < r.EndMin; n++ {
			l.Stirs += fmt.Sprintf("M%v %vv7", x.at(r.StartMin+float64(n)*every), l.StirTop())
		}
	}
}

// numbers gives the line as a table and as data for reading off moments.
func (l *PotLine) numbers(say words.Printer, p *plan.Plan, f *forecast.Forecast, end float64) {
	c := &f.Curve
	parts := sorted(c.Doneness)
	at := func(values []float64, minute float64) float64 { return numeric.Interpolate(c.Minute, values, minute) }
	doneWord := func(minute float64) string {
		if len(parts) == 0 {
			return ""
		}
		return pot.DonenessWord(p.Texture(parts[0]), at(c.Doneness[parts[0]], minute))
	}
	for i := range p.Steps {
		r := &f.Steps[i]
		if r.Pot == nil || *r.Pot != p.Served()[0] {
			continue
		}
		l.Rows = append(l.Rows, Row{
			Minute: say.Number(r.EndMin, 0), Mass: say.Exact(measure.Gram(*r.MassG)), Level: say.Number(*r.LevelMM, 0) + " mm",
			Celsius: say.Celsius(measure.Celsius(*r.TempC)), Thickness: pot.ThicknessWord(*r.Thickness),
			Doneness: doneWord(r.EndMin), What: say.Step(p, f, i).Title,
		})
	}
	type moment struct {
		X    float64 `json:"x"`
		Text string  `json:"text"`
	}
	const moments = 120
	x := linear{from: 0, to: end, low: float64(l.Left), high: float64(l.Right)}
	list := make([]moment, 0, moments+1)
	for k := range moments + 1 {
		minute := end * float64(k) / moments
		text := say.Sprintf("At %.0f min: %s, %.0f mm, %s, %s", minute, say.Exact(measure.Gram(at(c.MassG, minute))),
			at(c.LevelMM, minute), say.Celsius(measure.Celsius(at(c.TempC, minute))), pot.ThicknessWord(at(c.Thickness, minute)))
		if word := doneWord(minute); word != "" {
			text += ", grain " + word
		}
		list = append(list, moment{X: math.Round(float64(x.at(minute))*10) / 10, Text: text})
	}
	data, err := json.Marshal(list)
	if err != nil {
		panic(err) // numbers and words only
	}
	l.Readout = string(data)
	l.Text = fmt.Sprintf("Course of %s over %s: the mass falls from %s to %s.", p.Name, say.Minutes(measure.Minute(end)),
		say.Exact(measure.Gram(c.MassG[0])), say.Exact(measure.Gram(at(c.MassG, end))))
}

func sorted(m map[string][]float64) []string { return slices.Sorted(maps.Keys(m)) }
