package plan

import (
	"maps"
	"slices"
	"strings"

	"kirdu/core/measure"
)

// A Descriptor says what there is to know of a verb before a step of it is looked
// at: the one place that validation, forecast, forms, the stove and the timetable
// read. Its zero fields are false of the verb.
type Descriptor struct {
	Verb        Verb
	Preparation bool // it makes or changes a part beside the pots
	AtOnce      bool // it takes no time of its own: the pot goes on as before
	Closed      bool // nothing goes in or comes out meanwhile
	Burner      bool // it may take a burner: while there is a flame
	Fridge      bool
	Parts       bool // it can be parted in two of the same kind while it lasts

	Usual     measure.Minute // of a step that gives none: how long a practised cook takes at home
	MostHands measure.Minute // the most that a preparation keeps the hands busy, the rest of it stands; 0: all of it
	Earlier   measure.Minute // how much earlier than needed a preparation may be done

	keys       fields // of the document, beside do, note and sign; a required one ends in !
	conditions []rule
	rule       rule // of the two, made when the program starts
}

// How much earlier than needed a preparation may be done: a soak over night, the
// rest in an afternoon. Source: our own judgement.
const (
	overNight measure.Minute = 12 * 60
	afternoon measure.Minute = 4 * 60
)

// descriptors are those of every verb, in the order of the format's page.
var descriptors = []Descriptor{
	{Verb: Prep, Preparation: true, Earlier: afternoon,
		keys: fields{"name": name60, "of": name60, "items": items,
			"what": text(1, 40), "minutes!": minutes}, conditions: []rule{makesOrChanges}},
	{Verb: Soak, Preparation: true, MostHands: 2, Earlier: overNight,
		keys: fields{"name": name60, "of": name60, "items": items, "minutes!": minutes,
			"temp_c": number(0, 100), "in": itemRule, "keep_liquid": flag()}, conditions: []rule{makesOrChanges}},
	{Verb: Roast, Preparation: true, Earlier: afternoon,
		keys: fields{"name": name60, "of": name60, "items": items,
			"minutes!": minutes, "fat": itemRule, "pan": name60}, conditions: []rule{makesOrChanges}},
	{Verb: Fry, Preparation: true, Usual: 3, Earlier: afternoon,
		keys: fields{"name!": name60, "items!": items, "fat": itemRule, "minutes": minutes, "pan": name60}},
	{Verb: Mix, Preparation: true, Usual: 2, MostHands: 3, Earlier: afternoon,
		keys: fields{"name!": name60, "items!": items, "minutes": minutes}},
	{Verb: Grind, Preparation: true, Usual: 3, Earlier: afternoon,
		keys: fields{"of!": name60, "to!": word(GrindsTo()...), "minutes": minutes}},
	{Verb: Squeeze, Preparation: true, Usual: 3, Earlier: afternoon,
		keys: fields{"of!": name60, "pct!": number(0, 60), "minutes": minutes}},
	{Verb: Steam, Preparation: true, MostHands: 2, Earlier: afternoon,
		keys: fields{"name": name60, "of": name60, "items": items, "minutes!": minutes, "pan": name60}, conditions: []rule{makesOrChanges}},
	{Verb: Press, Preparation: true, Usual: 6, Earlier: afternoon,
		keys: fields{"name!": name60, "coconuts": above(0, 200), "items": items,
			"minutes": minutes, "presses!": list(1, 5, object(fields{"water_ml!": number(0, 50000), "temp_c": number(0, 100)}))},
		conditions: []rule{exactlyOne("coconuts", "items")}},
	{Verb: Melt, Preparation: true, Usual: 8, Earlier: afternoon,
		keys: fields{"name!": name60, "items!": items, "strain": flag(), "minutes": minutes, "pan": name60}},
	{Verb: Caramel, Closed: true, Burner: true,
		keys: fields{"pot": name60, "items!": items, "minutes": minutes,
			"until": word(Brownings()...), "flame": markRule, "flame_pct": flamePctRule, "flame_w": wattsRule},
		conditions: []rule{exactlyOne("minutes", "until")}},
	{Verb: Add, AtOnce: true,
		keys: fields{"pot": name60, "items!": items, "temp_c": number(-20, 180), "slowly": flag(), "topping": flag(),
			"manner": list(1, 3, word(Manners()...))}},
	{Verb: Heat, Burner: true, Parts: true,
		keys: fields{"pot": name60, "flame": flameRule, "flame_pct": flamePctRule, "flame_w": wattsRule,
			"until!": untilRule, "lid": flag(), "stir": word(Stirs()...)}, conditions: []rule{exactlyOne("flame", "flame_pct", "flame_w")}},
	{Verb: Pressure, Closed: true, Burner: true,
		keys: fields{"pot": name60, "whistles": whole(1, 30), "flame": flameRule, "flame_w": wattsRule,
			"minutes": above(0, 180), "release": word(Releases()...)}, conditions: []rule{atLeastOne("whistles", "minutes")}},
	{Verb: Mash, AtOnce: true,
		keys: fields{"pot": name60, "of": name60, "minutes": minutes, "pct!": above(0, 100)}},
	{Verb: Drain, AtOnce: true,
		keys: fields{"pot": name60, "minutes": minutes}},
	{Verb: Rest, Parts: true,
		keys: fields{"pot": name60, "minutes!": minutes, "lid": flag()}},
	{Verb: Cool, Closed: true,
		keys: fields{"pot": name60, "to_c!": number(0, 95), "where": word(Wheres()...), "lid": flag()}},
	{Verb: Chill, Closed: true, Fridge: true,
		keys: fields{"pot": name60, "hours!": number(0, 96)}},
	{Verb: Hold, Burner: true, Parts: true,
		keys: fields{"pot": name60, "minutes!": minutes, "temp_c": number(40, 95)}},
	{Verb: Bake, Closed: true,
		keys: fields{"pot": name60, "in": word(Ovens()...), "oven_c": number(60, 260), "power_w": number(100, 2000),
			"minutes!": above(0, 1440), "covered": flag(), "stir_every_min": above(0, 240)}, conditions: []rule{bakeHeat}},
	{Verb: Portion, AtOnce: true,
		keys: fields{"pot": name60, "bowls": whole(1, 500),
			"slices": whole(1, 500)}, conditions: []rule{exactlyOne("bowls", "slices")}},
}

var descriptorOf = func() map[Verb]*Descriptor {
	of := map[Verb]*Descriptor{}
	for i := range descriptors {
		d := &descriptors[i]
		keys := maps.Clone(d.keys)
		keys["do!"], keys["note"], keys["sign"] = text(1, 20), note500, text(1, 120)
		d.rule, of[d.Verb] = object(keys, d.conditions...), d
	}
	return of
}()

// Verbs lists every verb of the format in the order of its page.
func Verbs() []Verb {
	verbs := make([]Verb, len(descriptors))
	for i, d := range descriptors {
		verbs[i] = d.Verb
	}
	return verbs
}

// Descriptor returns that of a verb; that of a verb there is not is empty.
func (v Verb) Descriptor() Descriptor {
	if d := descriptorOf[v]; d != nil {
		return *d
	}
	return Descriptor{Verb: v}
}

// IsPreparation reports whether the verb works on a part beside the pots.
func (v Verb) IsPreparation() bool {
	d := descriptorOf[v]
	return d != nil && d.Preparation
}

// Keys lists what a step of the verb may say, beside do, note and sign, in the order of
// the alphabet.
func (d Descriptor) Keys() []string {
	keys := slices.Sorted(maps.Keys(d.keys))
	for i, key := range keys {
		keys[i] = strings.TrimSuffix(key, "!")
	}
	return keys
}

// Has reports whether a step of the verb may say something of that key.
func (d Descriptor) Has(key string) bool {
	_, may := d.keys[key]
	_, must := d.keys[key+"!"]
	return may || must
}
