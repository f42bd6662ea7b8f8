package recipe

import (
	"strconv"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// A Correction is what a cook says of a sentence that was read wrongly.
type Correction struct {
	Aside bool   // nothing is done: it is a note
	As    string // is read in its place, "" for the sentence as it stands; its own words stay beside the step
}

// A Doing is what a sentence may be put right as.
type Doing string

// The doings.
const (
	Adds       Doing = "add"
	Boils      Doing = "boil"
	Simmers    Doing = "simmer" // minutes
	Softens    Doing = "soft"
	Thickens   Doing = "thick"
	Reduces    Doing = "reduce"   // per cent that are left
	Whistles   Doing = "whistles" // whistles
	SoaksFirst Doing = "soak"     // minutes
	RoastsDry  Doing = "roast"    // minutes
	Fries      Doing = "fry"
	Grinds     Doing = "grind"
	Mashes     Doing = "mash"
	Bakes      Doing = "bake"      // minutes
	SecondPan  Doing = "other-pan" // minutes
	Cools      Doing = "cool"
	Rests      Doing = "rest"  // minutes
	Chills     Doing = "chill" // hours
	Garnishes  Doing = "garnish"
)

// A phrasing writes a doing in words that the reader takes for that and for nothing else.
type phrasing struct {
	doing         Doing
	before, after string         // of what it is done to
	wants         bool           // things of the list; without any it is done to what is in the pot
	number        *measure.Bound // that it needs
	unit          string
}

var (
	minutesDone = &measure.Bound{High: 600, Above: true}
	hoursDone   = &measure.Bound{High: 72, Above: true}
	whistled    = &measure.Bound{Low: 1, High: 30}
	leftOfIt    = &measure.Bound{Low: 5, High: 99}
)

var phrasings = []phrasing{
	{doing: Adds, before: "Add", wants: true},
	{doing: Boils, before: "Bring", after: "to the boil"},
	{doing: Simmers, before: "Simmer", after: "for", number: minutesDone, unit: "minutes"},
	{doing: Softens, before: "Simmer", after: "until soft"},
	{doing: Thickens, before: "Simmer", after: "until thick"},
	{doing: Reduces, before: "Simmer", after: "until reduced to", number: leftOfIt, unit: "percent"},
	{doing: Whistles, before: "Pressure cook", after: "for", number: whistled, unit: "whistles"},
	{doing: SoaksFirst, before: "Soak", after: "for", wants: true, number: minutesDone, unit: "minutes"},
	{doing: RoastsDry, before: "Roast", after: "for", wants: true, number: minutesDone, unit: "minutes"},
	{doing: Fries, before: "Fry", wants: true},
	{doing: Grinds, before: "Grind", wants: true},
	{doing: Mashes, before: "Mash"},
	{doing: Bakes, before: "Bake", after: "for", number: minutesDone, unit: "minutes"},
	{doing: SecondPan, before: "In another pan, simmer", after: "for", wants: true, number: minutesDone, unit: "minutes"},
	{doing: Cools, before: "Let", after: "cool"},
	{doing: Rests, before: "Let", after: "stand for", number: minutesDone, unit: "minutes"},
	{doing: Chills, before: "Chill", after: "for", number: hoursDone, unit: "hours"},
	{doing: Garnishes, before: "Scatter", after: "on top", wants: true},
}

// Doings lists what a sentence may be put right as, as a cook goes through a pudding.
func Doings() []Doing {
	list := make([]Doing, len(phrasings))
	for k := range phrasings {
		list[k] = phrasings[k].doing
	}
	return list
}

// Faults of a phrase.
var (
	ErrDoing  = measure.Code("recipe.doing")
	ErrThings = measure.Code("recipe.things")
)

// Phrase writes what is done in the words of the reader: "Simmer the rice for 20 minutes". Without things it is
// done to what is in the pot. The number is in the unit of the doing, and not looked at where it needs none.
// Errors: ErrDoing, ErrThings, a number out of bounds.
func Phrase(doing Doing, things []string, number float64) (string, error) {
	for _, p := range phrasings {
		if p.doing != doing {
			continue
		}
		if p.wants && len(things) == 0 {
			return "", ErrThings
		}
		text := p.before + " it "
		if len(things) > 0 {
			text = p.before + " the " + strings.Join(things, " and the ") + " "
		}
		text += p.after
		if p.number != nil {
			if !p.number.Holds(number) {
				return "", p.number.Error()
			}
			text += " " + strconv.FormatFloat(number, 'f', -1, 64) + " " + p.unit
		}
		return strings.TrimSpace(text), nil
	}
	return "", ErrDoing
}

// NameOf is how a phrase names a material.
func NameOf(m *pantry.Material) string { return strings.ToLower(m.ShortName()) }
