package plan

import (
	"regexp"

	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// The document's rules, the same as plan.schema.json has them; a test holds
// the two against each other.

var (
	name60  = text(1, 60)
	note500 = text(1, 500)
	minutes = number(0, 10080)
)

var documentRule = object(fields{
	"format!":     word(Format),
	"name!":       text(1, 80),
	"notes":       text(0, 4000),
	"way":         text(0, 60),
	"serves":      whole(1, 500),
	"portion_g":   number(20, 1000),
	"serve":       word(Hot, Warm, Room, Chilled),
	"served_from": either(isText, name60, list(1, 6, name60)),
	"keep_days":   whole(0, 7),
	"aim": object(fields{
		"thickness": number(1, 8),
		"sweet_pct": number(0, 60),
		"doneness":  mapping(nil, "", maxNames, above(0, MostDoneness)),
	}),
	"eaters": object(fields{
		"under_five":  flag(),
		"allergic_to": list(0, 20, word(pantry.AllergenNames()...)),
	}),
	"kitchen": roomRule(),
	"pots!":   potsRule,
	"burner":  burnerRule,
	"burners": mapping(nil, "", 12, burnerRule),
	"measures": mapping(regexp.MustCompile(`^[a-z][a-z0-9-]{0,30}_(ml|g)$`),
		"plan.measure-name", 40, above(0, 20000)),
	"materials": list(0, 60, ownMaterialRule),
	"calibration": object(fields{
		"evaporation":      learntRule(0.05, 20, 5),
		"cook_time":        mapping(nil, "", maxNames, learntRule(0.05, 20, 5)),
		"thickness_offset": learntRule(-3, 3, 3),
		"whistle_min":      learntRule(0.05, 20, 5),
	}),
	"steps!": list(1, 200, stepRule),
})

func roomRule() rule {
	keys := fields{}
	for name, bound := range RoomBounds {
		keys[name] = within(bound)
	}
	return object(keys)
}

// maxNames bounds the open maps for which the format gives no bound of its
// own; the 64 KiB of a document hold fewer.
const maxNames = 10000

func learntRule(low, high, mostSD float64) rule {
	return either(isNumber, number(low, high), object(fields{"value!": number(low, high), "sd": number(0, mostSD)}))
}

var burnerRule = object(fields{
	"kind":       word(vessel.Kinds()...),
	"name":       name60,
	"power_w":    within(vessel.BurnerWatt),
	"efficiency": within(vessel.Share),
	"flame_w":    flameWattsRule,
})

func flameWattsRule(c *checker, path string, value any) bool {
	known := fields{}
	for _, flame := range vessel.Marks() {
		known[string(flame)] = within(vessel.FlameWatt)
	}
	return object(known)(c, path, value)
}

func potsRule(c *checker, path string, value any) bool {
	if !mapping(nil, "", 12, potRule)(c, path, value) {
		return false
	}
	if _, ok := value.(map[string]any)[MainPot]; !ok {
		c.wrong(join(path, MainPot), nil, "plan.main-pot")
	}
	return true
}

// potRule asks for the measures that the shape needs.
func potRule(c *checker, path string, value any) bool {
	o, ok := value.(map[string]any)
	if !ok {
		return c.wrong(path, value, "plan.object")
	}
	shapes := word(vessel.Shapes()...)
	shape, there := o["shape"]
	if !there {
		return c.fault(join(path, "shape"), nil, ErrMissing)
	}
	if !shapes(c, join(path, "shape"), shape) {
		return false
	}
	keys := fields{"shape!": shapes, "name": name60, "mass_g": within(vessel.PotGrams), "heavy": flag(), "burner": name60,
		"uses": list(1, len(vessel.Uses()), word(vessel.Uses()...))}
	for _, side := range vessel.Sides(vessel.Shape(shape.(string))) {
		keys[side.Name+"!"] = within(side.Bound)
	}
	before := len(c.faults)
	object(keys)(c, path, value)
	return len(c.faults) == before
}

var kineticsNumber = number(0, 600)

var ownMaterialRule = object(fields{
	"slug!": pattern(`^[a-z][a-z0-9-]{1,59}$`, "plan.slug"),
	"name!": text(1, 80),
	"kind":  text(1, 30),
	"behaviour!": word(pantry.Liquid, pantry.Dissolves, pantry.Fat, pantry.Egg, pantry.Puree, pantry.Aroma, pantry.Flour, pantry.Grain,
		pantry.Tissue, pantry.Piece),
	"traits": text(1, 80), "usual_state": text(1, 20),
	"water!": number(0, 100), "fat": number(0, 100), "protein": number(0, 100), "lactose": number(0, 100),
	"sucrose": number(0, 100), "glucose": number(0, 100), "fructose": number(0, 100), "starch": number(0, 100),
	"fibre": number(0, 100), "ash": number(0, 100), "other": number(0, 100),
	"energy_kcal": number(0, 950), "sodium_mg": number(0, 40000),
	"bulk_g_per_ml!": above(0, 3), "piece_g": above(0, 5000), "piece_name": text(1, 30),
	"ph": number(1, 11), "buffer": number(0, 400), "allergens": text(1, 120),
	"gluten": word("yes", "no"), "vegan": word("yes", "no"), "acid_note": text(1, 120), "source_note": text(1, 200),
	"kinetics": object(fields{
		"cook_min_98c": kineticsNumber, "soaked_cook_factor": kineticsNumber, "soak_uptake_g_per_g": kineticsNumber,
		"soak_half_min": kineticsNumber, "max_uptake_g_per_g": kineticsNumber, "uptake_rate": kineticsNumber,
		"release_at_done": kineticsNumber, "release_max": kineticsNumber, "starch_weight": kineticsNumber,
		"set_weight": kineticsNumber, "acid_hardens": text(1, 120), "wanted_done_low": kineticsNumber,
		"wanted_done_high": kineticsNumber, "note": text(1, 120),
		"water_kept_raw_g_per_g": number(0, 1), "water_kept_done_g_per_g": number(0, 1),
	}),
	"aliases": list(0, 20, name60),
})

// itemRule picks the form of an item by the key that names it.
func itemRule(c *checker, path string, value any) bool {
	o, ok := value.(map[string]any)
	if !ok {
		return c.wrong(path, value, "plan.object")
	}
	before := len(c.faults)
	share := above(0, 1)
	switch {
	case o["part"] != nil:
		object(fields{"part!": name60, "share": share, "minutes": number(0, 600)})(c, path, value)
	case o["pot"] != nil:
		object(fields{"pot!": name60, "share": share})(c, path, value)
	case o["above_mm"] != nil:
		object(fields{"material!": name60, "above_mm!": above(0, 500)})(c, path, value)
	default:
		object(fields{
			"material!": name60, "amount!": text(1, 40), "also": text(1, 40),
			"state": word(pantry.States()...), "minutes": number(0, 600), "optional": flag(), "to_taste": flag(),
		})(c, path, value)
	}
	return len(c.faults) == before
}

var items = list(1, 60, itemRule)

// makesOrChanges is a condition: a preparation takes items and names the part
// it makes, or it works on a part made before.
func makesOrChanges(c *checker, path string, value any) bool {
	o := value.(map[string]any)
	_, hasItems := o["items"]
	_, hasName := o["name"]
	_, hasOf := o["of"]
	if (hasOf && !hasItems) || (!hasOf && hasItems && hasName) {
		return true
	}
	return c.wrong(path, nil, "plan.items-or-of")
}

// bakeHeat is a condition: each oven has its own setting.
func bakeHeat(c *checker, path string, value any) bool {
	o := value.(map[string]any)
	_, hasOven := o["oven_c"]
	_, hasPower := o["power_w"]
	switch o["in"] {
	case nil, "oven":
		if !hasOven || hasPower {
			return c.wrong(path, nil, "plan.oven")
		}
	case "microwave":
		if !hasPower || hasOven {
			return c.wrong(path, nil, "plan.microwave")
		}
	case "slow-cooker":
		if hasPower || hasOven {
			return c.wrong(path, nil, "plan.slow-cooker")
		}
	}
	return true
}

// anyTarget is a condition: an until must name what ends it; a guard, or the step that is
// counted from, is none.
func anyTarget(c *checker, path string, value any) bool {
	for key := range value.(map[string]any) {
		if key != "max_minutes" && key != "of_step" {
			return true
		}
	}
	return c.wrong(path, nil, "plan.no-target")
}

// MostDoneness is the softest that may be asked for. Source: the plan format.
const MostDoneness = 8.0

var untilRule = object(fields{
	"minutes":        minutes,
	"temp_c":         number(-5, 200),
	"boil":           onlyTrue(),
	"remaining_pct":  between(0, 100),
	"of_step":        whole(0, 199),
	"mass_g":         above(0, 100000),
	"doneness":       object(fields{"of!": name60, "at!": above(0, MostDoneness)}),
	"thickness":      number(1, 8),
	"free_water_pct": number(0, 100),
	"max_minutes":    above(0, 1440),
}, anyTarget)

var (
	flameRule    = word(vessel.Flames()...)
	markRule     = word(vessel.Marks()...) // what browns sugar: a fraction of the burner
	flamePctRule = number(0, 100)
	wattsRule    = above(0, vessel.FlameWatt.High)
)

func stepRule(c *checker, path string, value any) bool {
	o, ok := value.(map[string]any)
	if !ok {
		return c.wrong(path, value, "plan.object")
	}
	do, there := o["do"]
	if !there {
		return c.fault(join(path, "do"), nil, ErrMissing)
	}
	if !word(Verbs()...)(c, join(path, "do"), do) {
		return false
	}
	return descriptorOf[Verb(do.(string))].rule(c, path, value)
}
