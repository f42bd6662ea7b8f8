package picture_test

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/web/picture"
	"kirdu/words"
)

// TestRulerIsInMillimetres holds that a mark stands as many mm of paper above the
// foot as the pudding stands in the pot, whatever the pot.
func TestRulerIsInMillimetres(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		height := rapid.Float64Range(40, 400).Draw(t, "height")
		var marks []forecast.Mark
		for range rapid.IntRange(1, 6).Draw(t, "count") {
			marks = append(marks, forecast.Mark{Label: "done", LevelMM: rapid.Float64Range(1, min(height, 180)).Draw(t, "level"), MassG: 900})
		}
		r := picture.NewRuler(words.Printer{}, marks, measure.Millimetre(height))
		levels := map[string]bool{}
		for _, m := range marks {
			levels[picture.MM(m.LevelMM).String()] = true
			require.True(t, slices.ContainsFunc(r.Marks, func(one picture.RulerMark) bool {
				return math.Abs(float64(r.Foot-one.Y)-m.LevelMM) <= 1+1e-9
			}), "%v mm is drawn, at least with its neighbour", m.LevelMM)
		}
		for k, m := range r.Marks {
			above := r.Foot - m.Y
			require.True(t, levels[above.String()], "%v mm above the foot", above)
			require.LessOrEqual(t, float64(above), float64(r.Length())+1e-9, "on the strip")
			if k > 0 {
				require.GreaterOrEqual(t, float64(m.Y), float64(r.Marks[k-1].Y), "the highest first")
			}
		}
		for k, tick := range r.Ticks {
			require.InDelta(t, float64(k), float64(r.Foot-tick.Y), 1e-9, "a tick every mm")
			if k%10 == 0 {
				require.Equal(t, strconv.Itoa(k), tick.Label)
			} else {
				require.Empty(t, tick.Label)
			}
		}
	})
}

func TestRulerTellsWhatToWeigh(t *testing.T) {
	scale := 2065.0
	r := picture.NewRuler(words.Printer{}, []forecast.Mark{{Label: "add sugar", LevelMM: 32, MassG: 885, ScaleG: &scale},
		{Label: "boils", LevelMM: 33, MassG: 930}}, 110)
	require.Equal(t, "boils: 33 mm", r.Marks[0].Label)
	require.Contains(t, r.Marks[1].Weighing, "885")
	require.Contains(t, r.Marks[1].Weighing, "with the pot")
	require.NotContains(t, r.Marks[0].Weighing, "with the pot", "a pot that was never weighed")
	require.Greater(t, math.Abs(float64(r.Marks[0].LabelY-r.Marks[1].LabelY)), 6.0, "labels do not lie on each other")
	drawn := render(t, "ruler", r)
	require.Contains(t, drawn, `height="`+r.Height.String()+`mm"`)
	require.Contains(t, drawn, `viewBox="0 0 `+r.Width.String()+" "+r.Height.String()+`"`, "a unit of the drawing is a mm")
	require.Contains(t, render(t, "checkbar", nil), `width="102mm"`)
	tall := picture.NewRuler(words.Printer{}, []forecast.Mark{{Label: "start", LevelMM: 320, MassG: 9000}}, 400)
	require.LessOrEqual(t, float64(tall.Height), 200.0, "it fits on a page")
}

func TestTrendHoldsEveryBatch(t *testing.T) {
	day := time.Date(2026, 11, 1, 18, 0, 0, 0, time.UTC)
	percent := func(x float64) string { return strconv.FormatFloat(x, 'f', 0, 64) + " %" }
	rapid.Check(t, func(t *rapid.T) {
		var samples []picture.Sample
		for k := range rapid.IntRange(1, 40).Draw(t, "batches") {
			samples = append(samples, picture.Sample{At: day.AddDate(0, 0, k), Value: rapid.Float64Range(-500, 500).Draw(t, "value"),
				SD: rapid.Float64Range(0, 50).Draw(t, "sd"), Name: "rice"})
		}
		trend := picture.NewTrend(words.Printer{}, samples, 100, "as planned", percent)
		require.Len(t, trend.Dots, len(samples))
		for k, dot := range trend.Dots {
			for _, y := range []picture.Px{dot.Y, dot.Low, dot.High, trend.ZeroY} {
				require.GreaterOrEqual(t, float64(y), 0.0, "inside the picture")
				require.LessOrEqual(t, float64(y), float64(trend.Bottom)+1e-6)
			}
			require.LessOrEqual(t, float64(dot.High), float64(dot.Y)+1e-9)
			require.GreaterOrEqual(t, float64(dot.Low), float64(dot.Y)-1e-9)
			require.GreaterOrEqual(t, float64(dot.X), float64(trend.Left))
			require.LessOrEqual(t, float64(dot.X), float64(trend.Right))
			if k > 0 {
				require.Greater(t, float64(dot.X), float64(trend.Dots[k-1].X), "in the order of their time")
				higher := samples[k].Value > samples[k-1].Value
				require.Equal(t, higher, dot.Y < trend.Dots[k-1].Y || (higher && math.Abs(float64(dot.Y-trend.Dots[k-1].Y)) < 1e-6))
			}
		}
	})
	one := picture.NewTrend(words.Printer{}, []picture.Sample{{At: day, Value: 87, Name: "rice"}}, 100, "as planned", percent)
	require.Contains(t, one.Text, "1 batch, from 87 %")
	require.Len(t, one.Days, 1)
	require.Contains(t, render(t, "trend", one), "as planned")
	require.Empty(t, picture.NewTrend(words.Printer{}, nil, 100, "", percent).Dots)
	require.True(t, strings.Contains(render(t, "trend", one), `role="img"`))
}
