package picture

import (
	"encoding/json"
	"regexp"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/words"
)

const document = `{"format":"kirdu-plan/1","name":"Rice","serves":6,"serve":"hot","aim":{"thickness":4},
"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":110,"mass_g":1000}},"steps":[
{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"},{"material":"rice-short","amount":"100 g"}]},
{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"heat","flame":"medium","until":{"remaining_pct":70}},
{"do":"add","items":[{"material":"sugar-white","amount":"95 g"}]},
{"do":"heat","flame":"low","stir":"constant","until":{"minutes":5}},
{"do":"rest","minutes":15},{"do":"chill","hours":4}]}`

func forecastOf(t testing.TB) (*plan.Plan, *forecast.Forecast) {
	t.Helper()
	p, err := plan.Read([]byte(document))
	require.NoError(t, err)
	return p, forecast.Run(p, forecast.Options{})
}

var numbers = regexp.MustCompile(`-?\d+\.\d`)

// extent returns the least and the greatest x and y of a path of straight
// lines.
func extent(t testing.TB, d string) (left, right, top, bottom float64) {
	t.Helper()
	found := numbers.FindAllString(d, -1)
	require.NotEmpty(t, found, d)
	left, top = 1e9, 1e9
	right, bottom = -1e9, -1e9
	for i, text := range found {
		x, err := strconv.ParseFloat(text, 64)
		require.NoError(t, err)
		if i%2 == 0 {
			left, right = min(left, x), max(right, x)
		} else {
			top, bottom = min(top, x), max(bottom, x)
		}
	}
	return left, right, top, bottom
}

func TestSectionIsTrueToScale(t *testing.T) {
	for name, pot := range map[string]vessel.Pot{
		"straight": {Shape: vessel.Straight, DiameterMM: 200, HeightMM: 100},
		"taper":    {Shape: vessel.Taper, BottomMM: 120, TopMM: 240, HeightMM: 90},
		"bowl":     {Shape: vessel.Bowl, TopMM: 300, HeightMM: 120},
		"tall":     {Shape: vessel.Straight, DiameterMM: 90, HeightMM: 250},
	} {
		t.Run(name, func(t *testing.T) {
			s := NewSection(words.Printer{}, pot, nil, SectionOptions{})
			left, right, top, bottom := extent(t, s.Wall)
			require.InDelta(t, widest(pot)/float64(pot.HeightMM), (right-left)/(bottom-top), 0.01)
		})
	}
}

func TestPotsSideBySideHaveOneScale(t *testing.T) {
	small := vessel.Pot{Shape: vessel.Straight, DiameterMM: 100, HeightMM: 60}
	large := vessel.Pot{Shape: vessel.Straight, DiameterMM: 300, HeightMM: 180}
	among := SectionOptions{Among: []vessel.Pot{small, large}}
	l1, r1, _, _ := extent(t, NewSection(words.Printer{}, small, nil, among).Wall)
	l2, r2, _, _ := extent(t, NewSection(words.Printer{}, large, nil, among).Wall)
	require.InDelta(t, 3, (r2-l2)/(r1-l1), 0.02)
}

func TestSectionShowsTheTurningPoints(t *testing.T) {
	p, f := forecastOf(t)
	levels := LevelsOf(words.Printer{}, f)
	require.Equal(t, []string{"start, boils", "sugar", "done"}, []string{levels[0].Label, levels[1].Label, levels[2].Label})
	s := NewSection(words.Printer{}, p.Pots["main"], levels, SectionOptions{Foam: true, Grain: 0.5})
	require.Len(t, s.Levels, 3)
	require.NotEmpty(t, s.Foam)
	require.NotEmpty(t, s.Grains)
	require.Contains(t, s.Text, "mm sugar, scale ")
	require.Contains(t, s.Caption, "200 mm across, 110 deep; 1 mm is 31 ml")
	// What the pot holds in the picture ends at its last level.
	_, _, top, _ := extent(t, s.Contents)
	_, _, _, floor := extent(t, s.Wall)
	scale := 110 / (floor - float64(s.RimY))
	require.InDelta(t, float64(levels[2].Level), (floor-top)*scale, 0.3)
}

func TestSectionOfAnOverfullPot(t *testing.T) {
	pot := vessel.Pot{Shape: vessel.Bowl, TopMM: 200, HeightMM: 80}
	s := NewSection(words.Printer{}, pot, []SectionLevel{{Kind: "start", Label: "start", Level: 4000, Mass: 9e4}}, SectionOptions{Grain: 2})
	_, _, top, _ := extent(t, s.Contents)
	require.GreaterOrEqual(t, top, float64(s.RimY)-0.2, "it is drawn to the rim")
}

func TestLabelsDoNotOverlap(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 8).Draw(t, "labels")
		ys := make([]Px, n)
		last := 0.0
		for i := range ys {
			last += rapid.Float64Range(0, 60).Draw(t, "step")
			ys[i] = Px(last)
		}
		out := spreadOut(ys, 20, 0, 400)
		for i := range out {
			require.LessOrEqual(t, float64(out[i]), 400.01)
			require.True(t, i == 0 || float64(out[i]-out[i-1]) >= 19.99)
		}
	})
}

func TestNiceSteps(t *testing.T) {
	for _, c := range []struct {
		span float64
		most int
		want float64
	}{{100, 10, 10}, {52, 10, 10}, {47, 14, 5}, {3, 10, 0.5}, {1341, 3, 500}, {0, 5, 1}, {10, 0, 1}} {
		require.InDelta(t, c.want, niceStep(c.span, c.most), 1e-9, "%v by %d", c.span, c.most)
	}
}

func TestPotLine(t *testing.T) {
	p, f := forecastOf(t)
	now := 12.0
	lines := NewPotLines(words.Printer{}, p, f, PotLineOptions{Seen: []Seen{{Minute: 20, MassG: 1100}}, Now: &now})
	for name, l := range map[string]PotLine{"wide": lines.Wide, "narrow": lines.Narrow} {
		t.Run(name, func(t *testing.T) {
			require.Len(t, l.Panels, 2)
			for _, panel := range l.Panels {
				for _, line := range panel.Lines {
					left, right, top, bottom := extent(t, line.Path)
					require.True(t, left >= float64(l.Left)-0.1 && right <= float64(l.Right)+0.1, "%s keeps to the axis", line.Kind)
					require.True(t, top >= float64(panel.Top)-0.1 && bottom <= float64(panel.Bottom)+0.1, "%s keeps to its panel", line.Kind)
				}
			}
			require.Contains(t, l.Tail, "cold", "chilling is not drawn to scale")
			require.Len(t, l.Dots, 1)
			require.True(t, l.HasNow && l.NowX > l.Left)
			require.Len(t, l.Flames, 3)
			require.NotEmpty(t, l.Stirs)
			require.Len(t, l.Rows, len(p.Steps), "every step of the pot is a row of the table")
			var moments []struct {
				X    float64
				Text string
			}
			require.NoError(t, json.Unmarshal([]byte(l.Readout), &moments))
			require.Len(t, moments, 121)
			require.Contains(t, moments[60].Text, "grain ")
			require.InDelta(t, float64(l.Right), moments[120].X, 0.1)
		})
	}
	require.Equal(t, []string{"to the boil", "simmer down", "simmer", "stand"},
		[]string{lines.Wide.Bands[0].Label, lines.Wide.Bands[1].Label, lines.Wide.Bands[2].Label, lines.Wide.Bands[3].Label})
}

func TestGaugeAlone(t *testing.T) {
	_, f := forecastOf(t)
	g := NewGauge(words.Printer{}, LevelsOf(words.Printer{}, f), 30)
	names := []string{}
	for _, l := range g.Levels {
		names = append(names, l.Label)
	}
	require.Contains(t, names, "now")
	require.Contains(t, g.Text, "now at 30 mm")
	require.Less(t, float64(g.Levels[0].Y), float64(g.Levels[len(g.Levels)-1].Y), "from above")
	require.True(t, g.FillY > g.Top && g.FillY < g.Bottom)
	empty := NewGauge(words.Printer{}, nil, 0)
	require.Len(t, empty.Levels, 1)
	require.NotContains(t, empty.FillY.String(), "NaN")
}

func TestStrips(t *testing.T) {
	p, f := forecastOf(t)
	s := NewThickness(p, f)
	require.Len(t, s.Ticks, 8)
	require.Contains(t, s.Text, "chilled ")
	require.Contains(t, s.Text, "Wanted Ladle.")
	aims := 0
	for _, point := range s.Points {
		if point.Aim {
			aims++
			require.InDelta(t, float64(s.Ticks[3].At), float64(point.X), 0.1)
		} else {
			require.True(t, point.Low <= point.X && point.X <= point.High)
		}
	}
	require.Equal(t, 1, aims)
	r := NewRange(measure.Range{Value: 40, Low: 20, High: 60}, 0, 25, "sweet", "words")
	require.InDelta(t, float64(r.To), float64(r.Points[0].X), 0.1, "what is beyond the strip ends at its end")
}

func TestSizesInWords(t *testing.T) {
	for want, pot := range map[string]vessel.Pot{
		"220 mm across, 120 deep":                       {Shape: vessel.Straight, DiameterMM: 220, HeightMM: 120},
		"160 mm at the bottom, 220 at the top, 90 deep": {Shape: vessel.Taper, BottomMM: 160, TopMM: 220, HeightMM: 90},
		"bowl, 300 mm across, 110 deep":                 {Shape: vessel.Bowl, TopMM: 300, HeightMM: 110},
		"tray, 300 by 200 mm, 50 deep":                  {Shape: vessel.Tray, LengthMM: 300, WidthMM: 200, HeightMM: 50},
	} {
		require.Equal(t, want, Size(words.Printer{}, pot))
	}
}
