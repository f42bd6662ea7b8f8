package full

import (
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/words"
)

// A kind is how a key of the format is asked for.
type kind int

const (
	aNumber kind = iota
	aText
	aLongText
	aFlag   // a tick
	asUsual // a tick that may be left to what is usual: yes, no, or neither
	aChoice
	aPart // a part made before
	aPot  // a pot of the plan
	aStep // one of those before
	aMaterial
	aBurner  // of the plan
	aMeasure // an amount in any unit
)

// A key is one number or choice of the plan format, by its path in a step, and how a cook
// is asked for it. What a key means is told on the page of the format.
type key struct {
	Path, Label, Unit string
	Kind              kind
	Options           []option
	Verbs             []plan.Verb // nil: each that has the first part of the path
}

type option struct {
	Value, Label string
	Chosen       bool
}

func list[T ~string](values []T, say func(T) string) []option {
	options := make([]option, len(values))
	for i, v := range values {
		options[i] = option{Value: string(v), Label: say(v)}
	}
	return options
}

func named[T ~string](names map[T]string) func(T) string {
	return func(v T) string {
		if name, ok := names[v]; ok {
			return name
		}
		return string(v)
	}
}

const inWhichPot = "In which pot"

// stepKeys are those of a step, in the order in which a cook thinks of them.
var stepKeys = []key{
	{Path: "name", Label: "Name of the part that is made", Kind: aText},
	{Path: "of", Label: "Of", Kind: aPart},
	{Path: "what", Label: "What is done", Kind: aText},
	{Path: "to", Label: "Ground to", Kind: aChoice, Options: list(plan.GrindsTo(), named(map[plan.GrindTo]string{plan.Paste: "a paste"}))},
	{Path: "pot", Label: inWhichPot, Kind: aPot},
	{Path: "pan", Label: "In which pan", Kind: aPot},
	{Path: "flame", Label: "Flame", Kind: aChoice, Options: list(vessel.Flames(), words.FlameName), Verbs: []plan.Verb{plan.Heat,
		plan.Pressure}},
	{Path: "flame", Label: "Flame", Kind: aChoice, Options: list(vessel.Marks(), words.FlameName), Verbs: []plan.Verb{plan.Caramel}},
	{Path: "flame_pct", Label: "or per cent of the burner", Unit: "%"},
	{Path: "flame_w", Label: "or watts into the pot", Unit: "W"},
	{Path: "stir", Label: "Stirring", Kind: aChoice, Options: list(plan.Stirs(), words.Printer{}.Stirring)},
	{Path: "lid", Label: "Lid", Kind: asUsual},
	{Path: "whistles", Label: "Whistles"},
	{Path: "minutes", Label: "Minutes", Unit: "min"},
	{Path: "hours", Label: "Hours", Unit: "h"},
	{Path: "release", Label: "The pressure", Kind: aChoice,
		Options: list(plan.Releases(), named(map[plan.Release]string{plan.Natural: "goes by itself", plan.Quick: "is let off"}))},
	{Path: "until", Label: "Until it is", Kind: aChoice, Options: list(plan.Brownings(), func(b plan.Browning) string { return string(b) }),
		Verbs: []plan.Verb{plan.Caramel}},
	{Path: "until.minutes", Label: "Until: minutes", Unit: "min"},
	{Path: "until.boil", Label: "until it boils", Kind: aFlag},
	{Path: "until.temp_c", Label: "Until a temperature", Unit: "°C"},
	{Path: "until.remaining_pct", Label: "Until so much is left", Unit: "%"},
	{Path: "until.of_step", Label: "of what there was after", Kind: aStep},
	{Path: "until.mass_g", Label: "Until it weighs", Unit: "g"},
	{Path: "until.doneness.of", Label: "Until this part", Kind: aPart},
	{Path: "until.doneness.at", Label: "is at doneness"},
	{Path: "until.thickness", Label: "Until a thickness", Unit: "1 to 8"},
	{Path: "until.free_water_pct", Label: "Until so much free liquid is left", Unit: "%"},
	{Path: "until.max_minutes", Label: "and give up after", Unit: "min"},
	{Path: "temp_c", Label: "Warmth", Unit: "°C"},
	{Path: "to_c", Label: "Down to", Unit: "°C"},
	{Path: "where", Label: "Where", Kind: aChoice, Options: list(plan.Wheres(), named(map[plan.Where]string{plan.Counter: "on the counter",
		plan.WaterBath: "in cold water", plan.Fridge: "in the refrigerator"}))},
	{Path: "in", Label: "In", Kind: aChoice, Verbs: []plan.Verb{plan.Bake}, Options: list(plan.Ovens(), named(map[plan.Oven]string{
		plan.InOven: "the oven", plan.SlowCooker: "a slow cooker", plan.Microwave: "a microwave oven"}))},
	{Path: "oven_c", Label: "Oven at", Unit: "°C"},
	{Path: "power_w", Label: "Power", Unit: "W"},
	{Path: "covered", Label: "covered", Kind: aFlag},
	{Path: "stir_every_min", Label: "Stirred every", Unit: "min"},
	{Path: "slowly", Label: "slowly", Kind: aFlag},
	{Path: "topping", Label: "lies on top, in the bowl", Kind: aFlag},
	{Path: "pct", Label: "Share", Unit: "%"},
	{Path: "bowls", Label: "Bowls"},
	{Path: "slices", Label: "Slices"},
	{Path: "strain", Label: "Strained", Kind: asUsual},
	{Path: "keep_liquid", Label: "what it soaked in is kept with it", Kind: aFlag},
	{Path: "coconuts", Label: "Coconuts"},
	{Path: "fat.material", Label: "In fat", Kind: aMaterial},
	{Path: "fat.amount", Label: "so much", Kind: aMeasure},
	{Path: "fat.part", Label: "or in the fat that is left of", Kind: aPart},
	{Path: "fat.share", Label: "a share of it (0.5 is half)"},
	{Path: "in.material", Label: "Soaked in", Kind: aMaterial, Verbs: []plan.Verb{plan.Soak}},
	{Path: "in.amount", Label: "so much", Kind: aMeasure, Verbs: []plan.Verb{plan.Soak}},
	{Path: "in.part", Label: "or in the part", Kind: aPart, Verbs: []plan.Verb{plan.Soak}},
	{Path: "in.share", Label: "a share of it (0.5 is half)", Verbs: []plan.Verb{plan.Soak}},
	{Path: "sign", Label: "Your own sign that it is done", Kind: aText},
	{Path: "note", Label: "Your note", Kind: aLongText},
}

// itemKeys are those of what a step takes.
var itemKeys = []key{
	{Path: "material", Label: "Material", Kind: aMaterial},
	{Path: "amount", Label: "Amount", Kind: aMeasure},
	{Path: "part", Label: "or a part", Kind: aPart},
	{Path: "pot", Label: "or what is in", Kind: aPot},
	{Path: "share", Label: "a share of it (0.5 is half)"},
	{Path: "above_mm", Label: "or liquid above the rest", Unit: "mm"},
	{Path: "minutes", Label: "Minutes in the fat", Unit: "min", Verbs: []plan.Verb{plan.Fry}},
	{Path: "state", Label: "State", Kind: aChoice, Options: list(pantry.States(), func(s pantry.State) string { return string(s) })},
	{Path: "also", Label: "Also given as", Kind: aMeasure},
	{Path: "optional", Label: "if you like", Kind: aFlag},
	{Path: "to_taste", Label: "to taste", Kind: aFlag},
}

// pressKeys are those of one pressing of coconut.
var pressKeys = []key{{Path: "water_ml", Label: "Water", Unit: "ml"}, {Path: "temp_c", Label: "at", Unit: "°C"}}

// mannerKey is the list of how something goes in; each is a tick.
var manners = list(plan.Manners(), named(map[plan.Manner]string{plan.Whisking: "whisking", plan.InGoes: "in two goes, tasting between"}))
