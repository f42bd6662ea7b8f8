package benches

import (
	"errors"
	"fmt"
	"math"

	"kirdu/core/convert"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/web/picture"
	"kirdu/words"
)

var milkStandard = map[string]string{
	"way": "blend", "a": "milk-whole", "b": "cream-single", "total_g": "1000", "fat_pct": "6", "a_g": "800", "b_g": "200",
	"from": "condensed-milk", "from_g": "397", "fresh_g": "1000", "reduced_pct": "60", "reduced_g": "600",
}

type milkView struct {
	Way      string
	A, B     []option
	From     []option
	Heading  string
	Lines    []string
	Cautions []string
	Jars     picture.Jars
}

func dairyLiquid(m *pantry.Material) bool {
	return (m.Kind == "dairy" || m.Kind == "plantmilk") && m.Behaviour == pantry.Liquid && !m.Has("cultured") && m.Sucrose < 10
}

func concentrated(m *pantry.Material) bool {
	return m.Kind == "dairy" && !m.Has("cultured") && m.Protein+m.Lactose > 12
}

// milk blends two milks, counts concentrated milk back to fresh, and says what
// already reduced milk saves.
func milk(say words.Printer, r *request) any {
	v := milkView{Way: r.Text("way"), A: r.options("a", dairyLiquid), B: r.options("b", dairyLiquid), From: r.options("from", concentrated)}
	switch v.Way {
	case "blend":
		r.blendTo(say, &v)
	case "poured":
		r.blendOf(say, &v)
	case "fresh":
		r.backToFresh(say, &v)
	case "instead":
		r.insteadOfFresh(say, &v)
	case "reduced":
		r.reduced(say, &v)
	default:
		r.Fault("way", measure.Code("benches.question"))
	}
	return v
}

const mostMilk = 50_000

func (r *request) blendTo(say words.Printer, v *milkView) {
	a, b := r.material("a"), r.material("b")
	total := measure.Gram(r.Number("total_g", 1, mostMilk, "1000"))
	fat := r.Number("fat_pct", 0, 60, "6")
	if r.Err() != nil {
		return
	}
	blend, err := convert.BlendTo(a, b, total, fat)
	switch {
	case errors.Is(err, convert.ErrSame):
		r.Fault("b", measure.Code("benches.same-fat"))
	case errors.Is(err, convert.ErrOutside):
		r.Fault("fat_pct", measure.Code("benches.between").With(min(a.Fat, b.Fat), max(a.Fat, b.Fat)))
	case err != nil:
		r.Fault("total_g", err)
	default:
		r.blended(say, v, a, b, blend)
	}
}

func (r *request) blendOf(say words.Printer, v *milkView) {
	a, b := r.material("a"), r.material("b")
	blend, err := convert.Blend{}, error(nil)
	massA, massB := measure.Gram(r.Number("a_g", 0, mostMilk, "800")), measure.Gram(r.Number("b_g", 0, mostMilk, "200"))
	if r.Err() != nil {
		return
	}
	if blend, err = convert.BlendOf(a, b, massA, massB); err != nil {
		r.Fault("a_g", err)
		return
	}
	r.blended(say, v, a, b, blend)
}

func (r *request) blended(say words.Printer, v *milkView, a, b *pantry.Material, blend convert.Blend) {
	v.Heading = fmt.Sprintf("%s %s and %s %s: %s fat", say.Grams(blend.A), words.Lower(a.ShortName()), say.Grams(blend.B),
		words.Lower(b.ShortName()), say.Percent(blend.Fat, 1))
	v.Jars = picture.NewJars([]picture.Filled{
		{Name: a.ShortName(), Figure: say.Grams(blend.A), Note: say.Percent(float64(a.Fat), 1) + " fat", Volume: float64(blend.A),
			Fat: float64(a.Fat) / 100},
		{Name: b.ShortName(), Figure: say.Grams(blend.B), Note: say.Percent(float64(b.Fat), 1) + " fat", Volume: float64(blend.B),
			Fat: float64(b.Fat) / 100},
		{Name: "Together", Figure: say.Grams(blend.A + blend.B), Note: say.Percent(blend.Fat, 1) + " fat", Volume: float64(blend.A + blend.B),
			Fat: blend.Fat / 100},
	})
	if blend.Fat < convert.ThinBelow {
		v.Cautions = append(v.Cautions, "Below 2 % fat a pudding of reduced milk alone stays thin.")
	}
	if blend.Fat > convert.GreasyAbove {
		v.Cautions = append(v.Cautions, "Above 15 % fat a pudding turns greasy.")
	}
	share := float64(blend.A / (blend.A + blend.B))
	r.writes = append(r.writes, write{label: "Take the place of", fits: func(m *pantry.Material,
		_ measure.Gram) bool {
		return dairyLiquid(m)
	},
		into: func(p *plan.Plan, step, item int) error {
			_, whole, err := itemOf(p, step, item)
			if err != nil {
				return err
			}
			var with []plan.Item
			for _, part := range []struct {
				m    *pantry.Material
				mass float64
			}{{a, float64(whole) * share}, {b, float64(whole) * (1 - share)}} {
				if part.mass >= 1 {
					with = append(with, plan.Item{Material: part.m.Slug, Amount: say.Sprintf("%.0f g", part.mass)})
				}
			}
			p.Exchange(step, item, with)
			return nil
		}})
}

func (r *request) backToFresh(say words.Printer, v *milkView) {
	from := r.material("from")
	mass := measure.Gram(r.Number("from_g", 1, mostMilk, "397"))
	if r.Err() != nil {
		return
	}
	fresh, err := convert.FreshOf(from, mass)
	if err != nil {
		r.Fault("from", err)
		return
	}
	v.counted(say, from, mass, fresh)
	r.instead(say, from)
}

func (r *request) insteadOfFresh(say words.Printer, v *milkView) {
	from := r.material("from")
	milk := measure.Gram(r.Number("fresh_g", 1, mostMilk, "1000"))
	if r.Err() != nil {
		return
	}
	mass, fresh, err := convert.ForFresh(from, milk)
	if err != nil {
		r.Fault("from", err)
		return
	}
	v.counted(say, from, mass, fresh)
	r.instead(say, from)
}

func (v *milkView) counted(say words.Printer, from *pantry.Material, mass measure.Gram, fresh convert.Fresh) {
	v.Heading = fmt.Sprintf("%s %s stand for %s of fresh milk, with %s of water", say.Grams(mass), words.Lower(from.ShortName()),
		say.Grams(fresh.Milk), say.Grams(max(0, fresh.Water)))
	if fresh.Sugar >= 1 {
		v.Lines = append(v.Lines, fmt.Sprintf("It brings %s of sugar along: take as much off what you would add.", say.Grams(fresh.Sugar)))
	}
	v.Lines = append(v.Lines, fmt.Sprintf("With the water in it has %s fat for the milk's 3.5 %%; counted by the milk solids "+
		"beside the fat.", say.Percent(fresh.Fat, 1)))
	v.Jars = picture.NewJars([]picture.Filled{
		{Name: from.ShortName(), Figure: say.Grams(mass), Note: say.Percent(float64(from.Fat), 1) + " fat", Volume: float64(mass),
			Fat: float64(from.Fat) / 100},
		{Name: "Water", Figure: say.Grams(max(0, fresh.Water)), Volume: float64(max(0, fresh.Water))},
		{Name: "As fresh milk", Figure: say.Grams(fresh.Milk), Note: say.Percent(fresh.Fat, 1) + " fat", Volume: float64(fresh.Milk),
			Fat: fresh.Fat / 100},
	})
}

// instead offers the concentrated milk and water in the place of fresh milk.
func (r *request) instead(say words.Printer, from *pantry.Material) {
	r.writes = append(r.writes, write{label: "Take the place of", fits: func(m *pantry.Material, _ measure.Gram) bool {
		return dairyLiquid(m) && m.Kind == "dairy" && !concentrated(m)
	}, into: func(p *plan.Plan, step, item int) error {
		_, whole, err := itemOf(p, step, item)
		if err != nil {
			return err
		}
		mass, fresh, err := convert.ForFresh(from, whole)
		if err != nil {
			return err
		}
		with := []plan.Item{{Material: from.Slug, Amount: say.Sprintf("%.0f g", max(1, float64(mass)))}}
		if fresh.Water >= 1 {
			with = append(with, plan.Item{Material: "water", Amount: say.Sprintf("%.0f g", float64(fresh.Water))})
		}
		p.Exchange(step, item, with)
		return nil
	}})
}

// reduced says what milk that was boiled down before saves at the stove, in a
// usual pot over the first burner of the kitchen.
func (r *request) reduced(say words.Printer, v *milkView) {
	mass := measure.Gram(r.Number("reduced_g", 1, mostMilk, "600"))
	percent := r.Number("reduced_pct", 15, 100, "60")
	if r.Err() != nil {
		return
	}
	whole, _ := r.pantry.Material("milk-whole")
	made, err := convert.ReducedMilk(whole, percent/100)
	if err != nil {
		r.Fault("reduced_pct", measure.Code("benches.reduced").With(math.Round(100-float64(whole.Water))))
		return
	}
	fresh := mass / measure.Gram(percent/100)
	gone := fresh - mass
	burner := vessel.DefaultBurner()
	if len(r.home.Burners) > 0 {
		burner = r.home.Burners[0]
	}
	power, _ := burner.Power(vessel.Medium, 0)
	usual := vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 140}
	minutes, err := convert.BoilOff(gone, power, usual, measure.Millilitre(fresh), 100, 24)
	v.Heading = fmt.Sprintf("%s of it are %s of fresh milk from which %s of water are gone", say.Grams(mass), say.Grams(fresh),
		say.Grams(gone))
	if err == nil {
		name := burner.Name
		if name == "" {
			name = "a usual burner"
		}
		v.Lines = append(v.Lines, fmt.Sprintf("That saves about %s of boiling over a medium flame of %s, in a pot 22 cm wide.",
			say.Span(measure.Range{Low: 0.75 * float64(minutes), Value: float64(minutes), High: 1.33 * float64(minutes)}), name))
	}
	v.Lines = append(v.Lines, fmt.Sprintf("It has %s fat and is sweeter by its own milk sugar. Added to a pudding it counts as %s of "+
		"milk that need not boil away.", say.Percent(float64(made.Fat), 1), say.Grams(fresh)))
	v.Jars = picture.NewJars([]picture.Filled{
		{Name: "Fresh milk", Figure: say.Grams(fresh), Note: "3.5 % fat", Volume: float64(fresh), Fat: 0.035},
		{Name: "Gone as steam", Figure: say.Grams(gone), Volume: float64(gone)},
		{Name: "Boiled down", Figure: say.Grams(mass), Note: say.Percent(float64(made.Fat), 1) + " fat", Volume: float64(mass),
			Fat: float64(made.Fat) / 100},
	})
}
