package benches

import (
	"errors"
	"fmt"

	"kirdu/core/convert"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/web/picture"
	"kirdu/words"
)

var coconutStandard = map[string]string{
	"way": "press", "coconuts": "2", "meat_g": "", "presses": "2", "water1_ml": "0", "water2_ml": "600", "water3_ml": "600", "temp_c": "40",
	"thick_g": "280", "thin_g": "1280", "thin_fat_pct": "6.5", "pack": "coconut-milk-tin", "pack_g": "400", "pack_fat_pct": "7",
}

type coconutView struct {
	Way      string
	Packs    []option
	Heading  string
	Lines    []string
	Cautions []string
	Jars     picture.Jars
	Rows     []milkRow
}

type milkRow struct{ Name, Mass, Volume, Fat string }

// coconut works out presses from coconuts, coconuts from what is wanted, or
// what a tin, a cream or a powder stands for.
func coconut(say words.Printer, r *request) any {
	v := coconutView{Way: r.Text("way"), Packs: r.options("pack", func(m *pantry.Material) bool {
		return m.Kind == "coconut" && m.Behaviour != pantry.Piece
	})}
	switch v.Way {
	case "press":
		r.pressed(say, &v)
	case "wanted":
		r.wanted(say, &v)
	case "pack":
		r.packed(say, &v)
	default:
		r.Fault("way", measure.Code("benches.have"))
	}
	return v
}

// one is the meat of one coconut in this kitchen.
func (r *request) one() measure.Gram {
	if own, ok := r.home.Measures["coconut_g"]; ok {
		return measure.Gram(own)
	}
	return convert.CoconutMeat
}

func (r *request) pressed(say words.Printer, v *coconutView) {
	const mostCoconuts, mostMeat, mostWater = 200, 50_000, 50_000
	meat := measure.Gram(0)
	coconuts := 0.0
	if grams, given := r.Optional("meat_g", 1, mostMeat, "680"); given {
		meat = measure.Gram(grams)
	} else {
		coconuts = r.Number("coconuts", 0.1, mostCoconuts, "2")
		meat = measure.Gram(coconuts) * r.one()
	}
	presses := int(r.Number("presses", 1, 3, "2"))
	temperature := r.Number("temp_c", 0, 100, "40")
	var water []measure.Millilitre
	step := plan.Step{Do: plan.Press, Coconuts: coconuts}
	if coconuts == 0 {
		step.Items = []plan.Item{{Material: "coconut-meat", Amount: say.Sprintf("%.0f g", float64(meat))}}
	}
	for k := range presses {
		ml := measure.Millilitre(r.Number(fmt.Sprintf("water%d_ml", k+1), 0, mostWater, "600"))
		water = append(water, ml)
		warm := measure.Celsius(temperature)
		step.Presses = append(step.Presses, plan.PressOf{WaterML: ml, TempC: &warm})
	}
	if r.Err() != nil {
		return
	}
	milks, pulp, err := convert.Press(meat, water)
	if err != nil {
		r.Fault("coconuts", err)
		return
	}
	v.show(say, milks, pulp)
	v.Heading = fmt.Sprintf("%s of meat give %s", say.Grams(meat), pressWords(say, milks))
	r.writes = append(r.writes, write{label: "Write this pressing into", into: func(p *plan.Plan, _, _ int) error {
		p.WritePress(step)
		return nil
	}})
}

func pressWords(say words.Printer, milks []convert.Milk) string {
	var said []string
	for k, m := range milks {
		said = append(said, fmt.Sprintf("%s at %s fat in the %s press", say.Grams(m.Mass()), say.Percent(m.FatPercent(), 0), ordinals[k]))
	}
	return say.Join(said)
}

var ordinals = []string{"first", "second", "third", "fourth", "fifth"}

func (v *coconutView) show(say words.Printer, milks []convert.Milk, pulp convert.Milk) {
	var jars []picture.Filled
	for k, m := range milks {
		name := words.Capital(ordinals[k]) + " press"
		jars = append(jars, picture.Filled{Name: name, Figure: say.Millilitres(m.Volume()), Note: say.Percent(m.FatPercent(), 1) + " fat",
			Volume: float64(m.Volume()), Fat: m.FatShare()})
		v.Rows = append(v.Rows, milkRow{name, say.Grams(m.Mass()), say.Millilitres(m.Volume()), say.Percent(m.FatPercent(), 1)})
	}
	v.Rows = append(v.Rows, milkRow{"Wrung pulp, left over", say.Grams(pulp.Mass()), say.Millilitres(pulp.Volume()),
		say.Percent(pulp.FatPercent(), 1)})
	v.Jars = picture.NewJars(jars)
	v.Lines = append(v.Lines, "How well fat comes out differs from nut to nut and with the hand that wrings: count on a fifth more or less.")
	v.Cautions = append(v.Cautions, "The first press splits when it boils: last, "+
		"slowly, below "+say.Celsius(85)+". Keep pressed milk at "+say.Celsius(5)+" and use it the same day.")
}

func (r *request) wanted(say words.Printer, v *coconutView) {
	const most = 20_000
	thick := measure.Gram(r.Number("thick_g", 0, most, "280"))
	thin := measure.Gram(r.Number("thin_g", 0, most, "1280"))
	fat := r.Number("thin_fat_pct", 1, 20, "6.5")
	if r.Err() != nil {
		return
	}
	p, err := convert.PressFor(thick, thin, fat)
	switch {
	case errors.Is(err, convert.ErrNothing):
		r.Fault("thick_g", measure.Code("benches.thick-or-thin"))
		return
	case err != nil:
		r.Fault("thin_fat_pct", measure.Code("benches.no-second-press").With(err))
		return
	}
	nuts := float64(p.Meat / r.one())
	milks := []convert.Milk{p.Thick}
	if thin > 0 {
		milks = append(milks, p.Thin)
	}
	v.show(say, milks, p.Pulp)
	v.Heading = fmt.Sprintf("%s of coconut meat, %s coconuts, and %s of water for the second press", say.Grams(p.Meat),
		say.Number(nuts, 1), say.Millilitres(p.Water))
	if thin <= 0 {
		v.Heading = fmt.Sprintf("%s of coconut meat, %s coconuts, pressed once without water", say.Grams(p.Meat), say.Number(nuts, 1))
	}
	const noticeable = 1.05
	if thin > 0 && float64(p.Thick.Mass()) > noticeable*float64(thick) {
		v.Lines = append(v.Lines, fmt.Sprintf("%s of thick milk are left over, for the bowl or the freezer.", say.Grams(p.Thick.Mass()-thick)))
	}
	if thin > 0 && p.Thin.FatPercent() > fat+0.2 {
		v.Lines = append(v.Lines, fmt.Sprintf("The thin milk comes out richer than asked, at %s fat: so much meat is needed for the thick.",
			say.Percent(p.Thin.FatPercent(), 1)))
	}
	for _, slug := range []string{"coconut-milk-tin", "coconut-cream", "coconut-powder"} {
		if said := r.fromPack(say, slug, thick, thin, fat); said != "" {
			v.Lines = append(v.Lines, said)
		}
	}
	warm := measure.Celsius(40)
	step := plan.Step{Do: plan.Press, Items: []plan.Item{{Material: "coconut-meat", Amount: say.Sprintf("%.0f g", float64(p.Meat))}},
		Presses: []plan.PressOf{{WaterML: 0}}}
	if thin > 0 {
		step.Presses = append(step.Presses, plan.PressOf{WaterML: p.Water, TempC: &warm})
	}
	r.writes = append(r.writes, write{label: "Write this pressing into", into: func(p *plan.Plan, _, _ int) error {
		p.WritePress(step)
		return nil
	}})
}

// fromPack says how much of a pack and of water stand for the milks wanted; a
// pack leaner than a first press is taken as it is for the thick.
func (r *request) fromPack(say words.Printer, slug string, thick, thin measure.Gram, fat float64) string {
	pack, ok := r.pantry.Material(slug)
	if !ok {
		return ""
	}
	var said []string
	if thick > 0 {
		packed, water, err := convert.FromPack(pack, thick, min(convert.ThickFat, float64(pack.Fat)))
		if err != nil {
			return ""
		}
		text := say.Grams(packed)
		if water >= 1 {
			text += " and " + say.Grams(water) + " of water"
		}
		if float64(pack.Fat) < convert.ThickFat {
			text += say.Sprintf(" as it is (%.0f %% fat)", float64(pack.Fat))
		}
		said = append(said, text+" for the thick")
	}
	if thin > 0 {
		packed, water, err := convert.FromPack(pack, thin, fat)
		if err != nil {
			return ""
		}
		said = append(said, say.Grams(packed)+" and "+say.Grams(water)+" of water for the thin")
	}
	return fmt.Sprintf("Or from %s: %s.", words.Lower(pack.Name), say.Join(said))
}

func (r *request) packed(say words.Printer, v *coconutView) {
	pack := r.material("pack")
	const most = 20_000
	mass := measure.Gram(r.Number("pack_g", 1, most, "400"))
	fat := r.Number("pack_fat_pct", 1, 60, "7")
	if r.Err() != nil {
		return
	}
	made, water, err := convert.PackMakes(pack, mass, fat)
	if errors.Is(err, convert.ErrTooThin) {
		r.Fault("pack_fat_pct", measure.Code("benches.pack").With(pack.ShortName(), pack.Fat))
		return
	}
	if err != nil {
		r.Fault("pack_g", err)
		return
	}
	v.Heading = fmt.Sprintf("%s %s and %s of water make %s of coconut milk at %s fat", say.Grams(mass), words.Lower(pack.Name),
		say.Grams(water), say.Grams(made), say.Percent(fat, 1))
	v.Jars = picture.NewJars([]picture.Filled{
		{Name: words.Capital(pack.ShortName()), Figure: say.Grams(mass), Note: say.Percent(float64(pack.Fat), 0) + " fat",
			Volume: float64(mass), Fat: float64(pack.Fat) / 100},
		{Name: "Water", Figure: say.Grams(water), Volume: float64(water)},
		{Name: "Together", Figure: say.Grams(made), Note: say.Percent(fat, 1) + " fat", Volume: float64(made), Fat: fat / 100},
	})
	nuts, err := convert.PressFor(0, made, min(max(fat, 2), 15))
	if err == nil {
		v.Lines = append(v.Lines, fmt.Sprintf("As a second press it would take about %s fresh coconuts.",
			say.Number(float64(nuts.Meat/r.one()), 1)))
	}
	v.Lines = append(v.Lines, "Tins and powders are heated when they are made: they stand boiling better than a fresh first press. "+
		"Read the label for sulphite and milk protein.")
	share := float64(mass / made)
	r.writes = append(r.writes, write{label: "Take the place of", fits: func(m *pantry.Material, _ measure.Gram) bool {
		return m.Slug == "coconut-milk-thin" || m.Slug == "coconut-milk-thick" || m.Slug == "coconut-milk-light" || m.Slug == "coconut-milk-tin"
	}, into: func(p *plan.Plan, step, item int) error {
		_, whole, err := itemOf(p, step, item)
		if err != nil {
			return err
		}
		packed := float64(whole) * share
		p.Exchange(step, item, []plan.Item{
			{Material: pack.Slug, Amount: say.Sprintf("%.0f g", max(1, packed))},
			{Material: "water", Amount: say.Sprintf("%.0f g", max(1, float64(whole)-packed))},
		})
		return nil
	}})
}

// itemOf returns the material and the mass of an item of a plan.
func itemOf(p *plan.Plan, step, item int) (*pantry.Material, measure.Gram, error) {
	if step < 0 || step >= len(p.Steps) || item < 0 || item >= len(p.Steps[step].Items) {
		return nil, 0, errTarget
	}
	return p.Weigh(p.Steps[step].Items[item])
}
