package mend_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/watch"
	"kirdu/plantest"
)

// An outcome is what cooks report of a pudding, none of which any figure was fitted to.
type outcome struct {
	minutes [2]float64 // from the first hand laid on to the end of its last flame or rest
	grade   [2]float64 // as served
	done    map[string][2]float64
	warns   []watch.ID // what must be warned of; nothing else may be
}

var outcomes = map[string]outcome{
	"mung-two-coconuts":     {[2]float64{50, 75}, [2]float64{2.3, 4.2}, map[string][2]float64{"gram": {1.5, 8}}, nil},
	"short-grain-in-stages": {[2]float64{40, 52}, [2]float64{4.5, 6.5}, map[string][2]float64{"rice-short": {1.1, 2.4}}, nil},
	"red-rice-in-milk":      {[2]float64{30, 60}, [2]float64{2, 4}, map[string][2]float64{"rice-red": {1, 2.6}}, nil},
	"gourd-with-pearls": {[2]float64{30, 50}, [2]float64{1.5, 3.4}, map[string][2]float64{"bottle-gourd": {1, 6},
		"pearls": {0.9, 2}}, nil},
	"broken-wheat-coconut":    {[2]float64{15, 40}, [2]float64{2.5, 4.5}, map[string][2]float64{"wheat": {1, 3.5}}, nil},
	"left-over-rice-egg":      {[2]float64{15, 40}, [2]float64{3.5, 5.5}, nil, nil},
	"plantain-paste-pearls":   {[2]float64{60, 95}, [2]float64{2.5, 4.5}, map[string][2]float64{"pearls": {0.9, 3}}, nil},
	"meal-molasses-dish":      {[2]float64{120, 170}, [2]float64{5, 7}, nil, nil},
	"chickpea-for-twenty-two": {[2]float64{55, 120}, [2]float64{2.4, 4}, map[string][2]float64{"pulse": {0.8, 4}}, []watch.ID{"scorch"}},
	"pearl-rice-plums":        {[2]float64{25, 42}, [2]float64{2.3, 4.5}, map[string][2]float64{"rice-short": {1, 2.4}}, nil},
	"rice-sheet-slivers":      {[2]float64{20, 45}, [2]float64{1.3, 3}, map[string][2]float64{"flakes": {0.9, 3}}, nil},
	"thick-sweet-millet":      {[2]float64{20, 45}, [2]float64{5, 7}, map[string][2]float64{"millet-foxtail": {1.2, 6}}, nil},
	"looser-sweet-millet":     {[2]float64{20, 45}, [2]float64{3.4, 5.2}, nil, nil},
	"flour-over-burnt-bottom": {[2]float64{25, 60}, [2]float64{6.3, 7.6}, nil, nil},
	"gourd-thickened-milk":    {[2]float64{18, 35}, [2]float64{1.5, 4}, map[string][2]float64{"gourd": {1, 6}}, nil},
	"pearls-strained":         {[2]float64{5, 30}, [2]float64{1.5, 3}, map[string][2]float64{"pearls": {1, 2.6}}, nil},
	"broken-wheat-tin":        {[2]float64{20, 38}, [2]float64{2.3, 4.5}, nil, nil},
	"rice-yogurt-cold":        {[2]float64{40, 130}, [2]float64{4.5, 7}, nil, []watch.ID{"cooling-slow"}},
	"long-rice-lowest-flame":  {[2]float64{75, 105}, [2]float64{3, 4.6}, map[string][2]float64{"rice-long": {2, 5}}, nil},
	"long-rice-never-boiled":  {[2]float64{60, 120}, [2]float64{1, 3.5}, nil, []watch.ID{"sweet-before-soft", "undercooked-grain"}},
	"little-rice-much-milk":   {[2]float64{30, 50}, [2]float64{1.5, 3.4}, nil, nil},
	"little-rice-full-flame": {[2]float64{20, 45}, [2]float64{1.2, 3.4}, nil,
		[]watch.ID{"scorch", "sweet-before-soft", "undercooked-grain"}},
	"quick-mung-heavy-pan": {[2]float64{30, 50}, [2]float64{2.3, 4}, map[string][2]float64{"gram": {1, 4}}, nil},
	"ground-rice-mango":    {[2]float64{30, 110}, [2]float64{5, 7.4}, map[string][2]float64{"rice": {0.9, 5}}, nil},
}

// Cooks' puddings come out as cooks report: in time, as thick, as soft, and with no alarm but
// where there is a danger.
func TestCooksPuddingsComeOutAsTheyReport(t *testing.T) {
	trials := plantest.Trials(t)
	require.Len(t, trials, len(outcomes))
	for name, want := range outcomes {
		p := trials[name]
		f, found := mend.Forecast(p, forecast.Options{})
		course := timetable.Alone(p, f)
		within := func(what string, x float64, band [2]float64) {
			require.GreaterOrEqual(t, x, band[0], "%s: %s", name, what)
			require.LessOrEqual(t, x, band[1], "%s: %s", name, what)
		}
		last, soak := 0.0, 0.0
		for i := range p.Steps {
			if d := p.Steps[i].Do; d == plan.Heat || d == plan.Pressure || d == plan.Bake || d == plan.Rest {
				last = max(last, float64(course.Steps[i].End))
			}
			if p.Steps[i].Do == plan.Soak { // a soak is told apart from the work
				soak = max(soak, float64(course.Steps[i].End-course.Steps[i].Start))
			}
		}
		minutes := last - float64(course.Begins)
		if soak > 0 {
			minutes = min(minutes, last+max(0, -float64(course.Begins)-soak))
		}
		within("minutes", minutes, want.minutes)
		if grade := f.Thickness.As(p.Serve); grade != nil {
			within("thickness", grade.Value, want.grade)
			require.LessOrEqual(t, grade.Low, grade.High)
		}
		for part, band := range want.done {
			require.Contains(t, f.Doneness, part, name)
			within("doneness of "+part, f.Doneness[part].Value, band)
		}
		warned := map[watch.ID]bool{}
		for _, one := range found {
			require.NotEqual(t, forecast.Stop, one.Severity, "%s: %s stops", name, one.Rule)
			if one.Severity == forecast.Warning {
				warned[one.Rule] = true
				require.Contains(t, want.warns, one.Rule, name)
			}
		}
		for _, rule := range want.warns {
			require.True(t, warned[rule], "%s: %s says nothing", name, rule)
		}
	}
}
