package watch_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/watch"
	"kirdu/plantest"
)

const (
	yogurtIn = `{"do":"add","items":[{"material":"yogurt","amount":"300 g"}]}`
	eggIn    = `{"do":"add","items":[{"material":"egg-whole","amount":"2 eggs"}]}`
	resting  = `{"do":"rest","minutes":300}`
	chilling = `{"do":"chill","hours":6}`
	closed   = `{"do":"pressure","whistles":2}`
	lentils  = `{"do":"add","items":[{"material":"moong-split","amount":"90 g"},{"material":"water","amount":"400 ml"}]}`
)

// flat lays a course of one temperature over the pot from a minute on, for so many
// minutes; before and after it is hot, and cold.
func flat(f *forecast.Forecast, from, minutes, celsius float64) {
	f.Curve.Minute = []float64{0, from, from, from + minutes, from + minutes, 1e4}
	f.Curve.TempC = []float64{95, 95, celsius, celsius, 4, 4}
}

// Each limit of safety, and of what the watchpoint table says, as it stands on that
// page: a value two per cent to the one side sets the rule off with its severity,
// the same to the other side does not.
func TestLimitsAreWhereThePageHasThem(t *testing.T) {
	last := func(p *plan.Plan) int { return len(p.Steps) - 1 }
	for k, c := range []struct {
		rule     watch.ID
		severity forecast.Severity
		limit    float64
		below    bool // it speaks below the limit
		steps    []string
		set      func(p *plan.Plan, f *forecast.Forecast, x float64)
	}{
		{"warm-too-long", forecast.Stop, 120, false, []string{plantest.MilkAndRice, plantest.Boil, resting},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { flat(f, f.Steps[2].StartMin, x, 40) }},
		{"warm-too-long", forecast.Stop, 5, false, []string{plantest.MilkAndRice, plantest.Boil, resting},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { flat(f, f.Steps[2].StartMin, 200, x) }},
		{"warm-too-long", forecast.Stop, 60, true, []string{plantest.MilkAndRice, plantest.Boil, resting},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { flat(f, f.Steps[2].StartMin, 200, x) }},
		{"cooling-slow", forecast.Note, 120, false, []string{plantest.MilkAndRice, plantest.Boil, chilling}, cooling(1, 0)},
		{"cooling-slow", forecast.Warning, 240, false, []string{plantest.MilkAndRice, plantest.Boil, chilling}, cooling(1, 0)},
		{"cooling-slow", forecast.Note, 240, false, []string{plantest.MilkAndRice, plantest.Boil, chilling}, cooling(0, 1)},
		{"cooling-slow", forecast.Warning, 480, false, []string{plantest.MilkAndRice, plantest.Boil, chilling}, cooling(0, 1)},
		{"egg-underdone", forecast.Stop, 71, true, []string{plantest.MilkAndRice, eggIn},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { f.Trace[last(p)].EggC = x }},
		{"egg-scrambled", forecast.Warning, 1, false, []string{plantest.MilkAndRice, eggIn},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { f.Trace[last(p)].EggOverFor = measure.Minute(x) }},
		{"egg-scrambled", forecast.Warning, 6, false, []string{plantest.MilkAndRice, eggIn},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { f.Trace[last(p)].EggOver = x }},
		{"yogurt-hot", forecast.Warning, 35, false, []string{plantest.MilkAndRice, plantest.Boil, yogurtIn},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { f.Steps[1].TempC = &x }},
		{"heavy-pot", forecast.Note, 8000, false, []string{plantest.MilkAndRice, plantest.Boil},
			func(p *plan.Plan, f *forecast.Forecast, x float64) {
				empty, _ := p.Pots[plan.MainPot].Mass()
				mass := x - float64(empty)
				f.Steps[1].MassG = &mass
			}},
		{"scorch", forecast.Warning, 1, false, []string{plantest.MilkAndRice, plantest.Boil},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { f.Trace[1].Scorch, f.Trace[1].Scorching = x, 2 }},
		{"scorch", forecast.Warning, 1, false, []string{plantest.MilkAndRice, plantest.Boil},
			func(p *plan.Plan, f *forecast.Forecast, x float64) {
				f.Trace[1].Scorch, f.Trace[1].Scorching = 1.5, measure.Minute(x)
			}},
		{"boil-over", forecast.Warning, 0.60, false, []string{plantest.MilkAndRice, plantest.Boil},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { clearFill(f); f.Trace[1].PeakBoilFill = x }},
		{"boil-over", forecast.Stop, 0.75, false, []string{plantest.MilkAndRice, plantest.Boil},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { clearFill(f); f.Trace[1].PeakBoilFill = x }},
		{"too-full", forecast.Stop, 0.90, false, []string{plantest.MilkAndRice, plantest.Boil},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { clearFill(f); f.Trace[1].PeakFill = x }},
		{"cooker-too-full", forecast.Stop, 2.0 / 3, false, []string{plantest.MilkAndRice, closed},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { clearFill(f); f.Trace[1].PeakFill = x }},
		{"cooker-too-full", forecast.Stop, 0.5, false, []string{lentils, closed},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { clearFill(f); f.Trace[1].PeakFill = x }},
		{"acid-split", forecast.Note, 6.4, true, []string{plantest.MilkAndRice, plantest.Boil}, splitting},
		{"acid-split", forecast.Warning, 6.2, true, []string{plantest.MilkAndRice, plantest.Boil}, splitting},
		{"acid-split", forecast.Stop, 5.9, true, []string{plantest.MilkAndRice, plantest.Boil}, splitting},
		{"greasy", forecast.Note, 15, false, []string{plantest.MilkAndRice, plantest.Boil},
			func(p *plan.Plan, f *forecast.Forecast, x float64) { f.FatPct = x }},
	} {
		t.Run(fmt.Sprintf("%02d %s %s", k, c.rule, c.severity), func(t *testing.T) {
			speaks := func(x float64) bool {
				p := plantest.WithSteps(t, c.steps...)
				f := forecast.Run(p, forecast.Options{NominalOnly: true})
				c.set(p, f, x)
				for _, one := range watch.Of(c.rule, p, f) {
					if one.Severity == c.severity {
						return true
					}
				}
				return false
			}
			near := 0.02
			if c.rule == "scorch" { // a figure without a range: less is rounding
				near += watch.RoundingMargin
			}
			require.Equal(t, !c.below, speaks(c.limit*(1+near)), "just above %v", c.limit)
			require.Equal(t, c.below, speaks(c.limit*(1-near)), "just below %v", c.limit)
		})
	}
}

func splitting(_ *plan.Plan, f *forecast.Forecast, x float64) {
	f.Trace[1].SplitPH = forecast.Least{Value: x, Seen: true}
}

// cooling makes the first stretch, to 21 °C, or the second, to 5, last so long.
func cooling(first, second float64) func(*plan.Plan, *forecast.Forecast, float64) {
	return func(_ *plan.Plan, f *forecast.Forecast, x float64) {
		a, b := 10.0, 10.0
		if first > 0 {
			a = x
		} else if second > 0 {
			b = x
		}
		f.Curve.Minute = []float64{0, 100, 100 + a, 100 + a + b, 1000 + a + b}
		f.Curve.TempC = []float64{95, 59, 20, 4, 4}
	}
}

func clearFill(f *forecast.Forecast) {
	for i := range f.Trace {
		f.Trace[i].PeakFill, f.Trace[i].PeakBoilFill = 0, 0
	}
}

func TestTheTableIsWhole(t *testing.T) {
	seen := map[watch.ID]bool{}
	for _, rule := range watch.Rules() {
		require.False(t, seen[rule.ID], "%s stands twice", rule.ID)
		seen[rule.ID] = true
		require.NotNil(t, rule.Check, rule.ID)
		for _, limit := range rule.Limits {
			require.NotEmpty(t, limit.Source, "%s: a limit says where it is from", rule.ID)
			require.NotEmpty(t, limit.Severity, rule.ID)
		}
	}
	require.Empty(t, watch.Of("no such rule", plantest.WithSteps(t, plantest.MilkAndRice), nil))
}
