package design_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/watch"
	"kirdu/plantest"
)

// A hundred aims that cooks set: a grade more or less, a little sweeter or less so, the same for more bowls with
// something locked. They are met in amounts that can be measured, with about as many changes as there are aims.
func TestAimsInAmountsThatCanBeMeasured(t *testing.T) {
	aims, met, changed, against := 0, 0, map[int]int{}, 0
	for _, name := range shipped {
		p := plantest.Sample(t, name)
		thickness, sweet := figures(p)
		for _, thicker := range []float64{-0.8, -0.3, 0, 0.4, 0.9} {
			for _, sweeter := range []float64{-2, 0, 1.5, 3} {
				if thicker == 0 && sweeter == 0 {
					continue
				}
				aims++
				grade, percent := thickness+thicker, sweet+sweeter
				result := design.Balance(p, design.Aims{Thickness: &grade, Sweet: &percent}, nil)
				if len(result.Missed) == 0 {
					met++
					got, gotSweet := figures(result.Plan)
					require.InDelta(t, grade, got, 0.1, "after rounding")
					require.InDelta(t, percent, gotSweet, 0.2, "after rounding")
				}
				for _, miss := range result.Missed {
					require.Equal(t, design.Against, miss.Because)
				}
				if len(result.Missed) > 0 {
					t.Logf("%s %+.1f %+.1f: %v", name, thicker, sweeter, result.Missed)
				}
				changed[len(result.Changes)]++
				against += len(result.Warned)
				canBeMeasured(t, p, result.Plan)
				_, err := plan.Reread(result.Plan)
				require.NoError(t, err)
			}
		}
	}
	t.Logf("%d of %d aims met, changes made: %v, %d warnings that came with them and are told", met, aims, changed, against)
	require.GreaterOrEqual(t, 100*met, 94*aims, "the rest would spoil it, and that is said")
	few := changed[1] + changed[2] + changed[3]
	require.GreaterOrEqual(t, 100*few, 90*aims, "as few changes as do it")
}

// canBeMeasured holds what was changed to what a kitchen can measure.
func canBeMeasured(t *testing.T, before, after *plan.Plan) {
	t.Helper()
	for i := range after.Steps {
		for j, item := range after.Steps[i].Items {
			m, known := after.Pantry().Material(item.Material)
			amount, err := measure.ParseAmount(item.Amount)
			if !known || err != nil || i < len(before.Steps) && j < len(before.Steps[i].Items) && before.Steps[i].Items[j].Amount == item.Amount {
				continue
			}
			rounded := after.Measures.Measurable(amount, m.Body(), m.Behaviour == pantry.Egg && after.Measures.IsPiece(amount.Unit, m.Body()))
			require.Equal(t, rounded, amount, item.Material)
		}
	}
}

// What is locked stays to the gram when there are more bowls.
func TestALockHoldsForMoreBowls(t *testing.T) {
	for _, name := range shipped {
		p := plantest.Sample(t, name)
		for _, bowls := range []int{p.Serves + 2, max(2, p.Serves-2)} {
			for _, lock := range design.Lockable(p) {
				if _, material := p.Pantry().Material(lock); !material {
					continue
				}
				result := design.Balance(p, design.Aims{Bowls: &bowls}, []string{lock})
				require.Equal(t, amountsOf(p, lock), amountsOf(result.Plan, lock), "%s, %s for %d", name, lock, bowls)
				require.Equal(t, bowls, result.Plan.Serves)
			}
		}
	}
}

func amountsOf(p *plan.Plan, slug string) (list []string) {
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if item.Material == slug && p.Steps[i].Do != plan.Fry && !p.Steps[i].Topping {
				list = append(list, item.Amount)
			}
		}
	}
	return list
}

// An aim that only a spoilt pudding meets is not met, and what stands in the way is named.
func TestAimsThatWouldSpoilAreSaid(t *testing.T) {
	thin := plantest.Sample(t, "rice-pear-bay")
	for _, aim := range []design.Aims{{Sweet: new(60.0)}, {Thickness: new(8.0)}, {Sweet: new(45.0), Thickness: new(7.5)}} {
		result := design.Balance(thin, aim, []string{"sugar-white"})
		require.NotEmpty(t, result.Missed)
		for _, miss := range result.Missed {
			require.NotEmpty(t, miss.Because)
		}
		f := forecast.Run(result.Plan, forecast.Options{NominalOnly: true})
		require.Positive(t, f.Yield.MassG.Value)
		require.False(t, slices.ContainsFunc(result.Warned, func(w watch.Finding) bool { return w.Severity == forecast.Stop }),
			"no stop comes with it")
	}
	less := design.Balance(thin, design.Aims{Sweet: new(3.2)}, nil)
	require.Empty(t, less.Missed)
	require.Len(t, less.Changes, 1, "the sugar alone")
	require.Contains(t, less.Changes[0].Lock, "sugar")
}

// Where several roads lead to an aim they are told side by side, and each gets there.
func TestRoadsToAnAim(t *testing.T) {
	p := plantest.Sample(t, "rice-pear-bay")
	thickness, sweet := figures(p)
	grade := thickness + 0.6
	roads := design.Roads(p, design.Aims{Thickness: &grade, Sweet: &sweet}, nil)
	require.GreaterOrEqual(t, len(roads), 2)
	for road, result := range roads {
		got, gotSweet := figures(result.Plan)
		require.InDelta(t, grade, got, 0.1, road)
		require.InDelta(t, sweet, gotSweet, 0.2, road)
		require.Empty(t, result.Missed)
	}
}
