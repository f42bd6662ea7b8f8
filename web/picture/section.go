package picture

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
	"kirdu/words"
)

// A Section is the cut through a pot, true to scale, and beside it the dip
// gauge, enlarged so that millimetres can be read.
type Section struct {
	Width, Height       Px
	Wall                string // path of the pot's inner wall
	Contents            string // path of what is in it
	Bed                 string // path of the settled grain
	Grains              string // path of short strokes, one for each grain
	Foam                string // path of the room that foam needs, "" if none does
	FoamX, FoamY        Px
	RimLeft             Px
	RimY                Px
	Ruler               []Tick // true to scale, at the left wall
	RulerX              Px
	GaugeX              Px
	GaugeTop            Px
	GaugeBottom         Px
	GaugeTicks          []Tick // those with a number
	GaugeMarks          string // path of the short ones
	Levels              []Level
	Caption             string
	CropTop, CropHeight Px     // of the pot alone, without gauge and caption
	LabelX              Px     // where the names of the levels stand
	Text                string // the same in words
	HasGauge            bool
}

// GaugeHeight is how long the gauge is.
func (s Section) GaugeHeight() Px { return s.GaugeBottom - s.GaugeTop }

// GaugeRight is where its marks end.
func (s Section) GaugeRight() Px { return s.GaugeX + gaugeWidth }

// GaugeMid is where the short marks begin.
func (s Section) GaugeMid() Px { return s.GaugeX + gaugeWidth/2 }

// A Level is one turning point, led from the pot to the gauge.
type Level struct {
	Kind    string // start, boils, sugar, done, now, mark: the colour
	PotX    Px     // where it meets the left wall
	PotEnd  Px
	PotY    Px
	GaugeY  Px
	LabelY  Px
	Leader  string
	Pointer string
	Name    string // "34 mm, sugar"
	Scale   string // "scale 2 122 g", "" if the empty pot was never weighed
}

// A SectionLevel is what a section is to show.
type SectionLevel struct {
	Kind  string
	Label string
	Level measure.Millimetre
	Scale *float64
	Mass  float64
	Step  int // at whose end it stands; the start has the step that it begins
}

// LevelsOf returns the turning points of a forecast for a section. Neighbours
// that a skewer could not tell apart are one.
func LevelsOf(say words.Printer, f *forecast.Forecast) []SectionLevel { return levelsOf(say, f.Marks) }

func levelsOf(say words.Printer, marks []forecast.Mark) []SectionLevel {
	var levels []SectionLevel
	for _, m := range marks {
		label := levelName(say, strings.TrimPrefix(m.Label, "add "))
		if n := len(levels); n > 0 && math.Abs(float64(levels[n-1].Level)-m.LevelMM) < sameLevel {
			levels[n-1].Label += ", " + label
			continue
		}
		levels = append(levels, SectionLevel{Kind: kindOf(m.Label), Label: label, Level: measure.Millimetre(m.LevelMM),
			Scale: m.ScaleG, Mass: m.MassG, Step: m.Step})
	}
	return levels
}

// levelName shortens what goes in to what there is room for beside the gauge:
// "coconut.2" is "second press".
func levelName(say words.Printer, name string) string {
	if name == plan.MainPot {
		return "the pot's" // what is poured in from it
	}
	name = say.Pressed(name)
	if _, press, found := strings.Cut(name, " ("); found {
		name = strings.TrimSuffix(press, ")")
	}
	const most = 16
	return cut(name, most)
}

// shortened keeps the names of levels that are one on a skewer within the picture.
func shortened(names string) string {
	const most = 19
	return cut(strings.NewReplacer("first press", "press 1", "second press", "press 2", "third press", "press 3").Replace(names), most)
}

func cut(text string, most int) string {
	if runes := []rune(text); len(runes) > most {
		return string(runes[:most-1]) + "…"
	}
	return text
}

// sameLevel is how near two levels are one on a skewer, in mm.
const sameLevel = 1.0

func kindOf(label string) string {
	switch label {
	case "start", "boils", "done":
		return label
	case "add sugar":
		return "sugar"
	}
	return "mark"
}

// Geometry of the section, in px of its own coordinates.
const (
	sectionWidth, sectionHeight = 520.0, 268.0
	potLeft, potRight           = 40.0, 306.0
	potTop, potBottom           = 40.0, 238.0
	gaugeAt                     = 362.0
	gaugeTopAt, gaugeBottomAt   = 32.0, 238.0
	gaugeWidth                  = 12.0
	labelAt                     = 390.0
	labelGap                    = 36.0
)

// SectionOptions change what a section shows.
type SectionOptions struct {
	Foam  bool         // the contents will rise at the boil
	Grain float64      // share of the contents, 0 to 1, that settles as a bed
	Among []vessel.Pot // pots drawn beside it, to the same scale
}

// NewSection draws a pot with levels, the last of which is what it holds in
// the picture.
func NewSection(say words.Printer, pot vessel.Pot, levels []SectionLevel, o SectionOptions) Section {
	s := Section{Width: sectionWidth, Height: sectionHeight, GaugeX: gaugeAt, GaugeTop: gaugeTopAt, GaugeBottom: gaugeBottomAt}
	height := float64(pot.HeightMM)
	k := math.Inf(1)
	for _, p := range append([]vessel.Pot{pot}, o.Among...) {
		k = min(k, (potRight-potLeft)/widest(p), (potBottom-potTop)/float64(p.HeightMM))
	}
	centre := (potLeft + potRight) / 2
	y := func(depth float64) Px { return Px(potBottom - depth*k) }
	half := func(depth float64) float64 { return float64(pot.Width(measure.Millimetre(depth))) / 2 * k }

	const crop = 14
	s.CropTop = y(height) - crop
	s.CropHeight = potBottom + crop - s.CropTop
	s.Wall = outline(height, half, y, centre, false)
	s.RimY, s.RimLeft = y(height), Px(centre-half(height))
	if o.Foam {
		s.Foam = slab(watch.FoamRoom.Value*height, height, half, y, centre)
		s.FoamX, s.FoamY = Px(centre), y(height*(1+watch.FoamRoom.Value)/2)+4
	}
	step := niceStep(height, 8)
	s.RulerX = s.RimLeft - 10
	const mostTicks = 100 // whatever pot somebody has
	for n := 0; n < mostTicks && float64(n)*step <= height*(1+1e-6); n++ {
		depth := float64(n) * step
		s.Ruler = append(s.Ruler, Tick{At: y(depth), Label: say.Sprintf("%.0f", depth), Major: true})
	}
	s.LabelX = labelAt
	s.Caption = fmt.Sprintf("%s; 1 mm is %s ml", Size(say, pot), say.Number(float64(perMM(pot, levels)), 0))
	if len(levels) == 0 {
		s.Text = s.Caption
		return s
	}
	held := min(float64(levels[len(levels)-1].Level), height)
	s.Contents = slab(0, held, half, y, centre)
	if bed := held * min(o.Grain, 1); bed > 0 {
		s.Bed = slab(0, bed, half, y, centre)
		s.Grains = scatter(bed, half, y, centre)
	}
	s.levels(say, pot, levels, half, y, centre)
	return s
}

// widest returns the greatest inner width of a pot, in mm; a bowl deeper than
// half a sphere has it below the rim.
func widest(p vessel.Pot) float64 {
	most := 0.0
	for i := range profilePoints + 1 {
		most = max(most, float64(p.Width(p.HeightMM*measure.Millimetre(i)/profilePoints)))
	}
	return most
}

func perMM(pot vessel.Pot, levels []SectionLevel) measure.Millilitre {
	if len(levels) == 0 {
		return pot.MillilitrePerMM(pot.HeightMM / 2)
	}
	return pot.MillilitrePerMM(levels[len(levels)-1].Level)
}

// levels puts the turning points on the pot and on the gauge.
func (s *Section) levels(say words.Printer, pot vessel.Pot, levels []SectionLevel, half func(float64) float64, y func(float64) Px,
	centre float64) {
	s.HasGauge = true
	highest := 0.0
	for _, l := range levels {
		highest = max(highest, float64(l.Level))
	}
	const headroom = 1.1
	scale := linear{from: 0, to: max(highest*headroom, 5), low: gaugeBottomAt - 6, high: gaugeTopAt + 12}
	perMillimetre := (scale.low - scale.high) / scale.to
	minor := niceStep(scale.to, int((scale.low-scale.high)/4))
	major := niceStep(scale.to, 10)
	if major < minor*2 {
		major = minor * 5
	}
	const mostMarks = 400
	for n := 0; n < mostMarks && float64(n)*minor <= scale.to; n++ {
		depth := float64(n) * minor
		isMajor := math.Abs(depth/major-math.Round(depth/major)) < 1e-6
		if isMajor {
			s.GaugeTicks = append(s.GaugeTicks, Tick{At: scale.at(depth), Label: say.Number(depth, 0)})
		} else {
			s.GaugeMarks += fmt.Sprintf("M%v %vh%v", s.GaugeMid(), scale.at(depth), Px(gaugeWidth/2))
		}
	}
	ordered := slices.Clone(levels)
	slices.SortStableFunc(ordered, func(a, b SectionLevel) int { return compare(float64(b.Level), float64(a.Level)) })
	var wanted []Px
	for _, l := range ordered {
		wanted = append(wanted, scale.at(float64(l.Level)))
	}
	labels := spreadOut(wanted, labelGap, gaugeTopAt+8, gaugeBottomAt)
	var said []string
	for i, l := range ordered {
		depth := min(float64(l.Level), float64(pot.HeightMM))
		one := Level{
			Kind: l.Kind, PotX: Px(centre - half(depth)), PotEnd: Px(centre + half(depth)), PotY: y(depth),
			GaugeY: wanted[i], LabelY: labels[i],
			Name: say.Sprintf("%.0f mm %s", float64(l.Level), shortened(l.Label)),
		}
		if l.Scale != nil {
			one.Scale = "scale " + say.Exact(measure.Gram(*l.Scale))
		} else {
			one.Scale = say.Exact(measure.Gram(l.Mass)) + " in the pot"
		}
		// Each leader bends in a lane of its own, so that near ones do not crowd.
		lane := Px(potRight+8) + Px(i)*Px(min(9, 34/float64(len(ordered))))
		one.Leader = fmt.Sprintf("M%v %vH%vC%v %v %v %v %v %v", one.PotEnd, one.PotY, lane,
			lane+12, one.PotY, lane-2, one.GaugeY, Px(gaugeAt), one.GaugeY)
		one.Pointer = fmt.Sprintf("M%v %vL%v %v", Px(gaugeAt+gaugeWidth), one.GaugeY, Px(labelAt-4), one.LabelY-4)
		s.Levels = append(s.Levels, one)
		said = append(said, say.Sprintf("%.0f mm %s", float64(l.Level), l.Label)+", "+one.Scale)
	}
	s.Text = "Levels from above: " + strings.Join(said, "; ") + ". " + s.Caption + "."
	if perMM(pot, levels) > vessel.CoarseGauge && perMillimetre > 0 {
		s.Caption += ", so the scale reads finer"
	}
}

func compare(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

// profilePoints is how many straight pieces a wall is drawn with.
const profilePoints = 24

// profile returns the depths of the pieces as shares, denser at the bottom,
// where a bowl bends most.
func profile(i int) float64 { return float64(i*i) / (profilePoints * profilePoints) }

// outline is the wall of the pot from rim to rim.
func outline(height float64, half func(float64) float64, y func(float64) Px, centre float64, closed bool) string {
	var xs, ys []Px
	for i := profilePoints; i >= 0; i-- {
		depth := height * profile(i)
		xs, ys = append(xs, Px(centre-half(depth))), append(ys, y(depth))
	}
	for i := range profilePoints + 1 {
		depth := height * profile(i)
		xs, ys = append(xs, Px(centre+half(depth))), append(ys, y(depth))
	}
	if closed {
		return path(xs, ys) + "Z"
	}
	return path(xs, ys)
}

// slab is what the pot holds between two depths.
func slab(low, high float64, half func(float64) float64, y func(float64) Px, centre float64) string {
	from := func(d float64) float64 { return half(low + d) }
	at := func(d float64) Px { return y(low + d) }
	return outline(max(0, high-low), from, at, centre, true)
}

// scatter lays grains in a bed, on a grid shifted row by row: the same bed
// always looks the same. Each is a short stroke.
func scatter(bed float64, half func(float64) float64, y func(float64) Px, centre float64) string {
	const across, down, margin, long = 13.0, 8.0, 5.0, 4.4
	var b strings.Builder
	top, bottom := float64(y(bed))+margin, float64(y(0))-margin
	row := 0
	for py := bottom; py >= top; py -= down {
		depth := (float64(y(0)) - py) / (float64(y(0)) - float64(y(bed))) * bed
		reach := half(depth) - margin - 2
		for n := 0; ; n++ {
			dx := -reach + float64(n)*across + float64(row%3)*4
			if dx > reach {
				break
			}
			turn := math.Mod(float64(row*53+n*97), 180) * math.Pi / 180
			x, lift := Px(centre+dx), math.Mod(float64(n*37+row*11), 5)-2
			fmt.Fprintf(&b, "M%v %vl%v %v", x, Px(py+lift), Px(long*math.Cos(turn)), Px(-long*math.Sin(turn)))
		}
		row++
	}
	return b.String()
}

// Size says the measures of a pot: "220 mm across, 120 deep".
func Size(say words.Printer, p vessel.Pot) string {
	switch p.Shape {
	case vessel.Taper:
		return say.Sprintf("%.0f mm at the bottom, %.0f at the top, %.0f deep", float64(p.BottomMM), float64(p.TopMM), float64(p.HeightMM))
	case vessel.Bowl:
		return say.Sprintf("bowl, %.0f mm across, %.0f deep", float64(p.TopMM), float64(p.HeightMM))
	case vessel.Tray:
		return say.Sprintf("tray, %.0f by %.0f mm, %.0f deep", float64(p.LengthMM), float64(p.WidthMM), float64(p.HeightMM))
	}
	return say.Sprintf("%.0f mm across, %.0f deep", float64(p.DiameterMM), float64(p.HeightMM))
}
