package design_test

import (
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/plantest"
)

func figures(p *plan.Plan) (thickness, sweet float64) {
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	if grade := f.Thickness.As(p.Serve); grade != nil {
		thickness = grade.Value
	}
	return thickness, f.Sweetness.Pct.Value
}

// perturbed multiplies the amounts of a plan by factors up to a spread, and
// returns the root mean square of their logarithms.
func perturbed(t *rapid.T, p *plan.Plan, spread float64) (*plan.Plan, float64) {
	q, sum, n := p.Clone(), 0.0, 0
	for i := range q.Steps {
		for j := range q.Steps[i].Items {
			item := &q.Steps[i].Items[j]
			m, ok := q.Pantry().Material(item.Material)
			if !ok || !slices.Contains([]string{"dairy", "rice", "millet", "wheat", "sweetener", "noodle"}, m.Kind) {
				continue
			}
			amount, err := measure.ParseAmount(item.Amount)
			require.NoError(t, err)
			log := rapid.Float64Range(-spread, spread).Draw(t, item.Material)
			item.Amount = amount.Scale(math.Exp(log)).String()
			sum += log * log
			n++
		}
	}
	return q, math.Sqrt(sum / float64(n))
}

var shipped = []string{"rice-pear-bay", "millet-palm-sugar", "basmati-rose", "broken-wheat-maple", "sticky-rice-pomegranate",
	"vermicelli-walnut-maple"}

// Aims that other amounts of the same plan reach are reached, with no larger a
// change than those amounts were.
func TestReachableAimsAreReached(t *testing.T) {
	met, all := 0, 0
	larger := 0.0
	rapid.Check(t, func(t *rapid.T) {
		p := plantest.Sample(t, rapid.SampledFrom(shipped).Draw(t, "pudding"))
		other, change := perturbed(t, p, 0.3)
		thickness, sweet := figures(other)
		result := design.Balance(p, design.Aims{Thickness: &thickness, Sweet: &sweet}, nil)
		all++
		gotThickness, gotSweet := figures(result.Plan)
		if math.Abs(gotThickness-thickness) <= 0.1 && math.Abs(gotSweet-sweet) <= 0.2 {
			met++
			require.Empty(t, result.Missed)
			larger = max(larger, changeOf(t, p, result.Plan)-change)
		} else {
			require.NotEmpty(t, result.Missed)
		}
		_, err := plan.Reread(result.Plan)
		require.NoError(t, err)
	})
	t.Logf("met %d of %d; at most %.3f larger (rms of logarithms) than the change that made the aim", met, all, larger)
	require.GreaterOrEqual(t, float64(met), 0.97*float64(all))
	require.Less(t, larger, 0.15, "fewer changes may be larger ones")
}

// changeOf is the root mean square of the logarithms of the ratios of amounts.
func changeOf(t *rapid.T, p, q *plan.Plan) float64 {
	sum, n := 0.0, 0
	for i := range p.Steps {
		for j := range p.Steps[i].Items {
			m, a, errA := p.Weigh(p.Steps[i].Items[j])
			_, b, errB := q.Weigh(q.Steps[i].Items[j])
			if errA == nil && errB == nil && slices.Contains([]string{"dairy", "rice", "millet", "wheat", "sweetener", "noodle"}, m.Kind) {
				log := math.Log(float64(b / a))
				sum += log * log
				n++
			}
		}
	}
	return math.Sqrt(sum / float64(max(1, n)))
}

func TestBalanceMovesTheLeastAndRespectsLocks(t *testing.T) {
	p := plantest.Sample(t, "rice-pear-bay")
	thickness, sweet := 4.2, 13.0
	result := design.Balance(p, design.Aims{Thickness: &thickness, Sweet: &sweet}, nil)
	require.Empty(t, result.Missed)
	require.InDelta(t, 4.2, result.Reached["thickness"], 0.1)
	require.InDelta(t, 13, result.Reached["sweet"], 0.2)
	require.NotEmpty(t, result.Changes)
	for _, c := range result.Changes {
		require.NotEmpty(t, c.Of, c.Path)
		require.NotEqual(t, c.From, c.To)
	}

	locked := design.Balance(p, design.Aims{Thickness: &thickness, Sweet: &sweet}, []string{"rice-short", "mark"})
	require.Equal(t, "105 g", locked.Plan.Steps[0].Items[1].Amount)
	require.InDelta(t, 66, *locked.Plan.Steps[2].Until.RemainingPct, 0)
	require.InDelta(t, 13, locked.Reached["sweet"], 0.2)

	// The sugar alone makes nothing thick: the lock is named.
	stuck := design.Balance(p, design.Aims{Thickness: &thickness}, []string{"milk-whole", "rice-short", "sugar-white"})
	only := design.Balance(p, design.Aims{Thickness: &thickness}, []string{"milk-whole", "rice-short", "sugar-white", "mark", "time", "flame"})
	require.Empty(t, stuck.Missed, "the mark is free")
	require.Len(t, only.Missed, 1)
	require.Equal(t, design.Locked, only.Missed[0].Because)
	require.InDelta(t, 4.2, only.Missed[0].Wanted, 0)
}

func TestAimsOutOfReach(t *testing.T) {
	p := plantest.Sample(t, "basmati-rose")
	eight, sixty := 8.0, 60.0
	result := design.Balance(p, design.Aims{Thickness: &eight, Sweet: &sixty}, nil)
	require.NotEmpty(t, result.Missed)
	for _, miss := range result.Missed {
		require.NotEmpty(t, miss.Because)
		require.False(t, math.IsNaN(miss.Reached))
	}
	same := design.Balance(p, design.Aims{}, nil)
	require.Empty(t, same.Changes, "nothing is asked, nothing is moved")
	require.Empty(t, same.Missed)
}

func TestBalanceForMoreBowls(t *testing.T) {
	p := plantest.Sample(t, "millet-palm-sugar")
	bowls := 10
	thickness, sweet := figures(p)
	result := design.Balance(p, design.Aims{Bowls: &bowls, Thickness: &thickness, Sweet: &sweet}, nil)
	require.Empty(t, result.Missed)
	require.Equal(t, 10, result.Plan.Serves)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	require.InEpsilon(t, f.Yield.MassG.Value*10/8, result.Reached["yield_g"], 0.02)
}

func BenchmarkBalance(b *testing.B) {
	var times []float64
	var plans []*plan.Plan
	for _, name := range shipped {
		plans = append(plans, plantest.Sample(b, name))
	}
	for b.Loop() {
		for _, p := range plans {
			thickness, sweet := figures(p)
			for _, off := range []float64{-0.6, 0.4, 0.8} {
				wantedThickness, wantedSweet := thickness+off, sweet-2*off
				begun := time.Now()
				design.Balance(p, design.Aims{Thickness: &wantedThickness, Sweet: &wantedSweet}, nil)
				times = append(times, float64(time.Since(begun).Microseconds())/1000)
			}
		}
	}
	slices.Sort(times)
	b.ReportMetric(times[len(times)/2], "ms-median")
}
