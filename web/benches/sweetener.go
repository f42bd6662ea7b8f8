package benches

import (
	"fmt"

	"kirdu/core/convert"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/web/picture"
	"kirdu/words"
)

var sweetenerStandard = map[string]string{
	"way": "swap", "from": "sugar-white", "from_g": "100", "from2": "", "from2_g": "50", "to": "jaggery", "also": "", "to_pct": "100",
	"lumps": "jaggery", "lumps_g": "330", "water_g": "120", "brix_pct": "65", "syrup_g": "400",
}

type sweetenerView struct {
	Way      string
	From, To []option
	Also     []option
	From2    []option
	Lumps    []option
	Heading  string
	Lines    []string
	Cautions []string
	Stacks   []picture.Stack
	Rows     []swapRow
}

type swapRow struct{ Name, Before, After string }

func sweet(m *pantry.Material) bool { return m.Kind == "sweetener" || m.Slug == "date-pulp" }

func lumpy(m *pantry.Material) bool { return m.Kind == "sweetener" && m.Behaviour == pantry.Dissolves }

// sweetener swaps one sweetener for another, or makes syrup from lumps.
func sweetener(say words.Printer, r *request) any {
	v := sweetenerView{Way: r.Text("way"), From2: append([]option{{"", "nothing else", r.Text("from2") == ""}},
		r.options("from2", sweet)...), From: r.options("from", sweet), To: r.options("to", sweet),
		Also: append([]option{{"", "nothing else", r.Text("also") == ""}}, r.options("also", sweet)...), Lumps: r.options("lumps", lumpy)}
	switch v.Way {
	case "swap":
		r.swap(say, &v)
	case "syrup":
		r.syrup(say, &v)
	case "lumps":
		r.lumpsFor(say, &v)
	default:
		r.Fault("way", measure.Code("benches.question"))
	}
	return v
}

const mostSweet = 20_000

// mixture reads what takes the place of the sweetener.
func (r *request) mixture() (to []*pantry.Material, shares []float64) {
	first := r.material("to")
	if r.Text("also") == "" {
		return []*pantry.Material{first}, []float64{1}
	}
	percent := r.Number("to_pct", 1, 99, "50")
	return []*pantry.Material{first, r.material("also")}, []float64{percent, 100 - percent}
}

func (r *request) swap(say words.Printer, v *sweetenerView) {
	from := r.material("from")
	mass := measure.Gram(r.Number("from_g", 1, mostSweet, "100"))
	old := []convert.Portion{{Material: from, Mass: mass}}
	if r.Text("from2") != "" {
		old = append(old, convert.Portion{Material: r.material("from2"), Mass: measure.Gram(r.Number("from2_g", 1, mostSweet, "50"))})
	}
	to, shares := r.mixture()
	if r.Err() != nil {
		return
	}
	s, err := convert.SwapFor(old, to, shares)
	if err != nil {
		r.Fault("to", err)
		return
	}
	var said []string
	for _, p := range s.To {
		said = append(said, say.Grams(p.Mass)+" "+words.Lower(p.Material.ShortName()))
	}
	var before []string
	for _, p := range old {
		before = append(before, say.Grams(p.Mass)+" "+words.Lower(p.Material.ShortName()))
	}
	v.Heading = fmt.Sprintf("%s taste as sweet as %s", say.Join(said), say.Join(before))
	v.compare(say, s)
	const noticeable measure.Gram = 3
	switch {
	case s.Liquid > noticeable:
		v.Lines = append(v.Lines, fmt.Sprintf("It brings %s more water: leave as much out of the milk, or let it simmer a little longer.",
			say.Grams(s.Liquid)))
	case s.Liquid < -noticeable:
		v.Lines = append(v.Lines, fmt.Sprintf("It brings %s less water: the pudding comes out a little thicker, or add as much milk.",
			say.Grams(-s.Liquid)))
	}
	if s.Curdles {
		v.Cautions = append(v.Cautions, "It is sour enough to split hot milk: take the pot off the flame, let it "+
			"cool below "+say.Celsius(70)+", then stir it in; or melt and strain it first and add it cool. A small pinch of baking soda in "+
			"500 ml helps.")
	}
	const darker = 0.5
	if s.After.Colour > s.Before.Colour+darker {
		v.Lines = append(v.Lines, fmt.Sprintf("A white pudding turns %s.", convert.ColourWord(s.After.Colour)))
	}
	r.writes = append(r.writes, write{label: "Take the place of", fits: func(m *pantry.Material,
		_ measure.Gram) bool {
		return m.Kind == "sweetener"
	},
		into: func(p *plan.Plan, step, item int) error {
			old, mass, err := itemOf(p, step, item)
			if err != nil {
				return err
			}
			s, err := convert.SwapFor([]convert.Portion{{Material: old, Mass: mass}}, to, shares)
			if err != nil {
				return err
			}
			var with []plan.Item
			for _, part := range s.To {
				// To a tenth of a gram, so that it is just as sweet.
				with = append(with, plan.Item{Material: part.Material.Slug, Amount: say.Sprintf("%.1f g", max(0.1, float64(part.Mass)))})
			}
			p.Exchange(step, item, with)
			return nil
		}})
}

// compare shows both sides of a swap as bars and figures.
func (v *sweetenerView) compare(say words.Printer, s convert.Swap) {
	full := float64(max(s.Before.Mass, s.After.Mass))
	parts := func(b convert.Brought) []picture.Ingredient {
		sugars := b.Mass - b.Water - b.Solids
		return []picture.Ingredient{{Kind: "sugar", Name: "sugars", Amount: float64(sugars)},
			{Kind: "water", Name: "water", Amount: float64(b.Water)}, {Kind: "other", Name: "other", Amount: float64(b.Solids)}}
	}
	v.Stacks = []picture.Stack{picture.NewStack(say, "Before", parts(s.Before), full, "g"),
		picture.NewStack(say, "Instead", parts(s.After), full, "g")}
	row := func(name string, of func(convert.Brought) string) {
		v.Rows = append(v.Rows, swapRow{name, of(s.Before), of(s.After)})
	}
	row("Mass", func(b convert.Brought) string { return say.Grams(b.Mass) })
	row("As sweet as so much sucrose", func(b convert.Brought) string { return say.Number(float64(b.Sweet), 1) + " g" })
	row("Water", func(b convert.Brought) string { return say.Number(float64(b.Water), 1) + " g" })
	row("Acidity", func(b convert.Brought) string { return "pH " + say.Number(b.PH, 1) })
	row("Colour", func(b convert.Brought) string { return convert.ColourWord(b.Colour) })
}

// flame is the medium flame of the first burner.
func (r *request) flame() measure.Watt {
	burner := vessel.DefaultBurner()
	if len(r.home.Burners) > 0 {
		burner = r.home.Burners[0]
	}
	power, _ := burner.Power(vessel.Medium, 0)
	return power
}

func (r *request) syrup(say words.Printer, v *sweetenerView) {
	lumps := r.material("lumps")
	mass := measure.Gram(r.Number("lumps_g", 1, mostSweet, "330"))
	water := measure.Gram(r.Number("water_g", 0, mostSweet, "120"))
	if r.Err() != nil {
		return
	}
	r.melted(say, v, lumps, mass, water)
}

func (r *request) lumpsFor(say words.Printer, v *sweetenerView) {
	lumps := r.material("lumps")
	syrup := measure.Gram(r.Number("syrup_g", 1, mostSweet, "400"))
	brix := r.Number("brix_pct", 10, 90, "65")
	if r.Err() != nil {
		return
	}
	mass, water, err := convert.LumpsFor(lumps, syrup, brix, true)
	if err != nil {
		r.Fault("brix_pct", err)
		return
	}
	r.melted(say, v, lumps, mass, water)
}

func (r *request) melted(say words.Printer, v *sweetenerView, lumps *pantry.Material, mass, water measure.Gram) {
	s, err := convert.SyrupOf(lumps, mass, water, r.flame(), true)
	if err != nil {
		r.Fault("lumps_g", err)
		return
	}
	v.Heading = fmt.Sprintf("%s %s and %s of water give %s of strained syrup", say.Grams(mass), words.Lower(lumps.ShortName()),
		say.Grams(water), say.Grams(s.Mass))
	v.Stacks = []picture.Stack{picture.NewStack(say, "Syrup", []picture.Ingredient{
		{Kind: "sugar", Name: "sugars", Amount: float64(mass) * lumps.SugarShare()},
		{Kind: "water", Name: "water", Amount: float64(water + mass*lumps.Water/100)},
		{Kind: "other", Name: "other", Amount: float64(mass) * (1 - lumps.SugarShare() - float64(lumps.Water)/100)}}, float64(mass+water), "g")}
	v.Lines = append(v.Lines,
		fmt.Sprintf("%s sugar in the watery phase (Brix), %s as sweet as sucrose.", say.Percent(s.Brix, 0), say.Percent(s.Sweet, 0)),
		fmt.Sprintf("About %s over a medium flame until the lumps are gone; %s stay in the sieve.",
			say.Span(measure.Range{Low: 0.7 * float64(s.Minutes), Value: float64(s.Minutes), High: 1.5 * float64(s.Minutes)}), say.Grams(s.Lost)))
	const sticky = 70
	if s.Brix > sticky {
		v.Cautions = append(v.Cautions, "So little water melts slowly and sets hard again when it cools.")
	}
	v.Cautions = append(v.Cautions, "Hot syrup sticks and burns: children away from the stove, and no tasting from the pan.")
	step := plan.Step{Do: plan.Melt, Items: []plan.Item{{Material: lumps.Slug, Amount: say.Sprintf("%.0f g", float64(mass))}}}
	if water >= 1 {
		step.Items = append(step.Items, plan.Item{Material: "water", Amount: say.Sprintf("%.0f g", float64(water))})
	}
	share := float64(water / mass)
	r.writes = append(r.writes, write{label: "Melt and strain first", fits: func(m *pantry.Material,
		_ measure.Gram) bool {
		return m.Slug == lumps.Slug
	},
		into: func(p *plan.Plan, at, item int) error {
			_, whole, err := itemOf(p, at, item)
			if err != nil {
				return err
			}
			melt := step
			melt.Items = []plan.Item{p.Steps[at].Items[item]}
			if extra := float64(whole) * share; extra >= 1 {
				melt.Items = append(melt.Items, plan.Item{Material: "water", Amount: say.Sprintf("%.0f g", extra)})
			}
			melt.Name = p.FreePart("syrup")
			p.Steps[at].Items[item] = plan.Item{Part: melt.Name}
			p.InsertStep(0, melt)
			return nil
		}})
}
