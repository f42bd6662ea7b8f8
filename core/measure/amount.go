package measure

import (
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// An Amount is a number and a unit as a cook writes them: "2 1/2 cup".
type Amount struct {
	Number float64 // more than 0
	Unit   string  // singular, lower case: "g", "cup", "ladle"
}

// Faults of amounts, wrapped by ParseAmount, Measures.Grams and
// Measures.Check with the words of the cook.
var (
	ErrNoNumber    = Code("measure.no-number")
	ErrNotPositive = Code("measure.not-positive")
	ErrTooLarge    = Code("measure.too-large")
	ErrUnknownUnit = Code("measure.unknown-unit")
	ErrNoPiece     = Code("measure.no-piece")
)

// MaxGrams is the largest mass that one amount may stand for.
const MaxGrams Gram = 100_000

// Volume and mass units with a fixed size. US fluid ounce, ounce and pound:
// NIST Handbook 44, appendix C.
var (
	fixedVolume = map[string]Millilitre{"ml": 1, "dl": 100, "l": 1000, "floz": 29.5735}
	fixedMass   = map[string]Gram{"g": 1, "kg": 1000, "oz": 28.3495, "lb": 453.592}
)

// householdDefault are the measures of a kitchen that has not measured its
// own. Source: the plan format.
var householdDefault = map[string]float64{
	"cup_ml": 240, "glass_ml": 200, "bowl_ml": 180, "tablespoon_ml": 15,
	"teaspoon_ml": 5, "pinch_g": 0.3, "handful_ml": 60,
}

// pieceUnits count things; their weight is the material's own.
var pieceUnits = map[string]bool{
	"piece": true, "tin": true, "stick": true, "coconut": true, "pod": true,
}

var unitAlias = map[string]string{
	"gram": "g", "gramme": "g", "kilogram": "kg", "kilo": "kg", "millilitre": "ml", "milliliter": "ml",
	"litre": "l", "liter": "l", "decilitre": "dl", "ounce": "oz", "pound": "lb",
	"fl oz": "floz", "tbsp": "tablespoon", "tsp": "teaspoon", "can": "tin", "fluid ounce": "floz",
}

var fractionRune = map[rune]float64{
	'¼': 1. / 4, '½': 1. / 2, '¾': 3. / 4, '⅓': 1. / 3, '⅔': 2. / 3,
	'⅕': 1. / 5, '⅖': 2. / 5, '⅗': 3. / 5, '⅘': 4. / 5, '⅙': 1. / 6, '⅚': 5. / 6,
	'⅛': 1. / 8, '⅜': 3. / 8, '⅝': 5. / 8, '⅞': 7. / 8,
}

// Measures are the sizes of a kitchen's own cups, tins and handfuls, by key:
// the unit's singular name and "_ml" or "_g". A nil map means the defaults.
type Measures map[string]float64

// A Body is what is needed to weigh an amount of a material. Piece is 0 for a
// material that is not counted.
type Body struct {
	Density   GramPerMillilitre
	Piece     Gram
	PieceName string
}

// ParseAmount reads a number and a unit: decimals, fractions ("1/2",
// "2 1/2", "½"), plurals. The unit is not looked up yet. Errors: ErrNoNumber,
// ErrNotPositive.
func ParseAmount(text string) (Amount, error) {
	fields, err := splitAmount(text)
	if err != nil {
		return Amount{}, err
	}
	var number float64
	var used int
	for used < len(fields) {
		value, ok := parseNumber(fields[used])
		if !ok {
			break
		}
		// "2 1/2" adds up; "2 3 cups" is a slip of the pen.
		if used > 0 && (used > 1 || value >= 1) {
			return Amount{}, ErrNoNumber
		}
		number += value
		used++
	}
	if used == 0 || used == len(fields) {
		return Amount{}, ErrNoNumber
	}
	if !(number > 0) || math.IsInf(number, 0) {
		return Amount{}, ErrNotPositive
	}
	return Amount{Number: number, Unit: strings.Join(fields[used:], " ")}, nil
}

// splitAmount parts text into words, with a break between a digit and what
// follows it: "250ml", "2½ cups".
func splitAmount(text string) ([]string, error) {
	var spaced strings.Builder
	var last rune
	for _, r := range strings.ToLower(strings.TrimSpace(text)) {
		_, isFraction := fractionRune[r]
		wasNumber := unicode.IsDigit(last) || fractionRune[last] != 0
		if isFraction || (wasNumber && unicode.IsLetter(r)) {
			spaced.WriteByte(' ')
		}
		spaced.WriteRune(r)
		last = r
	}
	fields := strings.Fields(spaced.String())
	if len(fields) == 0 || len(fields) > 5 {
		return nil, ErrNoNumber
	}
	return fields, nil
}

func parseNumber(text string) (float64, bool) {
	if first, size := utf8.DecodeRuneInString(text); size == len(text) {
		if value, ok := fractionRune[first]; ok {
			return value, true
		}
	}
	if above, below, isFraction := strings.Cut(text, "/"); isFraction {
		a, okA := parseDecimal(above)
		b, okB := parseDecimal(below)
		if !okA || !okB || b == 0 {
			return 0, false
		}
		return a / b, true
	}
	return parseDecimal(text)
}

// parseDecimal reads plain decimals only: no exponents, hexadecimals,
// infinities or underscores, which strconv would take.
func parseDecimal(text string) (float64, bool) {
	digits := strings.TrimPrefix(text, "-")
	if digits == "" || len(text) > 20 || strings.Trim(digits, "0123456789.") != "" {
		return 0, false
	}
	value, err := strconv.ParseFloat(text, 64)
	return value, err == nil
}

// singular returns the names under which a unit may be known, nearest first.
func singular(unit string) []string {
	names := []string{unit}
	if trimmed, ok := strings.CutSuffix(unit, "es"); ok {
		names = append(names, trimmed)
	}
	if trimmed, ok := strings.CutSuffix(unit, "s"); ok {
		names = append(names, trimmed)
	}
	if trimmed, ok := strings.CutSuffix(unit, "."); ok {
		names = append(names, trimmed)
	}
	for i, name := range names {
		if alias, ok := unitAlias[name]; ok {
			names[i] = alias
		} else {
			names[i] = strings.ReplaceAll(name, " ", "-") // as a kitchen's own measures are kept
		}
	}
	return names
}

// Grams returns the mass of an amount of a material in this kitchen. The
// kitchen's own measures rule over the material's piece weight. Errors:
// ErrUnknownUnit, ErrNoPiece, ErrTooLarge.
func (m Measures) Grams(a Amount, body Body) (Gram, error) {
	one, err := m.unitGrams(a.Unit, body)
	if err != nil {
		return 0, err
	}
	mass := Gram(a.Number) * one
	if !(mass <= MaxGrams) {
		return 0, ErrTooLarge
	}
	return mass, nil
}

func (m Measures) unitGrams(unit string, body Body) (Gram, error) {
	for _, name := range singular(unit) {
		if one, ok := fixedMass[name]; ok {
			return one, nil
		}
		if one, ok := fixedVolume[name]; ok {
			return body.Density.Times(one), nil
		}
		if one, ok := m[name+"_g"]; ok {
			return pinched(name, Gram(one), body), nil
		}
		if one, ok := m.volume(name); ok {
			return body.Density.Times(one), nil
		}
		if one, ok := householdDefault[name+"_g"]; ok {
			return pinched(name, Gram(one), body), nil
		}
		if pieceUnits[name] || (name != "" && name == strings.ReplaceAll(strings.ToLower(body.PieceName), " ", "-")) {
			if body.Piece <= 0 {
				return 0, ErrNoPiece.With(name)
			}
			return body.Piece, nil
		}
	}
	return 0, ErrUnknownUnit.With(unit)
}

// Fingers take a pinch by its size: of threads and petals it is far lighter than of salt, for which the
// pinch is known. Source: our own judgement; a pinch of saffron comes to some twenty threads.
const (
	saltDensity  GramPerMillilitre = 1.2
	lightDensity GramPerMillilitre = 0.3
)

func pinched(unit string, mass Gram, body Body) Gram {
	if unit == "pinch" && body.Density > 0 && body.Density < lightDensity {
		return mass * Gram(body.Density/saltDensity)
	}
	return mass
}

// Units lists the units in which a material can be given in this kitchen: the
// common ones, the kitchen's own, and its pieces.
func (m Measures) Units(body Body) []string {
	units := []string{"g", "kg", "oz", "lb", "ml", "l", "floz", "cup", "glass", "bowl", "tbsp", "tsp", "handful", "pinch"}
	own := make([]string, 0, len(m))
	for key := range m {
		name, _, _ := strings.Cut(key, "_")
		if !slices.Contains(units, name) && name != "tablespoon" && name != "teaspoon" && !pieceUnits[name] {
			own = append(own, name)
		}
	}
	slices.Sort(own)
	units = append(units, slices.Compact(own)...)
	if body.Piece > 0 && body.PieceName != "" {
		units = append(units, strings.ToLower(body.PieceName))
	}
	return units
}

// Volume returns the household measure that a unit names and its size in this
// kitchen; false for a unit of fixed size, a mass or a piece.
func (m Measures) Volume(unit string) (name string, size Millilitre, ok bool) {
	for _, name := range singular(unit) {
		if size, ok := m.volume(name); ok {
			return name, size, true
		}
	}
	return "", 0, false
}

func (m Measures) volume(name string) (Millilitre, bool) {
	if one, ok := m[name+"_ml"]; ok {
		return Millilitre(one), true
	}
	one, ok := householdDefault[name+"_ml"]
	return Millilitre(one), ok
}

// Scale returns the amount times a factor above 0, in the same unit, rounded
// to four significant digits so that it can still be read.
func (a Amount) Scale(factor float64) Amount {
	return Amount{Number: RoundSignificant(a.Number*factor, 4), Unit: a.Unit}
}

// String writes an amount so that ParseAmount reads it back.
func (a Amount) String() string {
	const near = 1e-4 // of a third: "0.3333 cup" is one
	whole, part := math.Modf(a.Number)
	if unit := singular(a.Unit); slices.ContainsFunc(unit, func(u string) bool { return fixedVolume[u] > 0 || fixedMass[u] > 0 }) {
		part = 0 // a scale has no thirds
	}
	for _, third := range []struct {
		part float64
		text string
	}{{1. / 3, "1/3"}, {2. / 3, "2/3"}} {
		if math.Abs(part-third.part) > near {
			continue
		}
		if whole == 0 {
			return third.text + " " + a.Unit
		}
		return strconv.FormatFloat(whole, 'f', -1, 64) + " " + third.text + " " + a.Unit
	}
	return strconv.FormatFloat(a.Number, 'f', -1, 64) + " " + a.Unit
}

// quarters are the steps in which a cup can be filled by eye.
var quarters = []string{"", "¼", "½", "¾"}

// Household says a mass in the cook's own spoons and cups, rounded to what can
// be measured: a quarter of a cup, half a teaspoon. It is "" when the mass is
// too small to measure so or the density is unknown.
func (m Measures) Household(mass Gram, body Body) string {
	if !(mass > 0) || !(body.Density > 0) {
		return ""
	}
	if body.Piece > 0 && body.PieceName != "" {
		if pieces := float64(mass / body.Piece); pieces >= 0.45 && math.Abs(pieces-math.Round(pieces)) < 0.12 {
			return count(math.Round(pieces), 1, body.PieceName)
		}
	}
	volume := float64(mass) / float64(body.Density)
	cup := m.cup(volume)
	for _, spoon := range []struct {
		key, name   string
		least, part float64
	}{{cup, strings.ReplaceAll(cup, "-", " "), leastCup, 4}, {"tablespoon", "tbsp", 0.9, 1}, {"teaspoon", "tsp", 0.4, 2}} {
		size, _ := m.volume(spoon.key)
		n := volume / float64(size)
		if spoon.key == cup && n > mostCups {
			return ""
		}
		if n >= spoon.least && size > 0 {
			return count(math.Max(1, math.Round(n*spoon.part)), spoon.part, spoon.name)
		}
	}
	return ""
}

// leastCup is the least of a cup that can be filled by eye.
const leastCup = 0.22

// mostCups is how many cups anybody counts; more is measured in litres.
const mostCups = 12.0

// cup returns the measure for a volume: the cup where it is filled to a quarter
// well enough, else of the cups, glasses and bowls that this kitchen has
// measured the one that is filled most exactly. It is the usual cup where the
// kitchen has measured none.
func (m Measures) cup(volume float64) string {
	const smallest, largest, parts, wellEnough = 60.0, 1200.0, 4.0, 0.03
	miss := func(size float64) float64 {
		n := volume / size
		if n < leastCup || n > mostCups {
			return math.Inf(1)
		}
		return math.Abs(math.Round(n*parts)/parts-n) / n
	}
	best, least := "cup", math.Inf(1)
	if own, measured := m["cup_ml"]; measured {
		if least = miss(own); least <= wellEnough {
			return best
		}
	}
	for _, key := range slices.Sorted(maps.Keys(m)) {
		name, isVolume := strings.CutSuffix(key, "_ml")
		if !isVolume || m[key] < smallest || m[key] > largest {
			continue
		}
		if off := miss(m[key]); off < least {
			best, least = name, off
		}
	}
	return best
}

// count writes n parts of a thing: count(5, 4, "cup") is "1¼ cups".
func count(n, parts float64, name string) string {
	whole := math.Floor(n / parts)
	quarter := int(math.Mod(n, parts) * 4 / parts)
	text := quarters[quarter]
	if whole > 0 {
		text = strconv.FormatFloat(whole, 'f', 0, 64) + text
	}
	if n > parts && name != "tbsp" && name != "tsp" && name != "oz" {
		name = plural(name)
	}
	return text + " " + name
}

// CountPieces writes so many whole pieces: "3 tins", "1 coconut".
func CountPieces(n float64, name string) string { return count(n, 1, name) }

// CountQuarters writes how many of a measure there are, to the quarter that can be filled by eye: "1½ cups". ok is false
// for less than can be filled, and for more than anybody counts.
func CountQuarters(n float64, name string) (text string, ok bool) {
	const parts, most = 4, 40
	if !(n >= leastCup) || n > most {
		return "", false
	}
	return count(math.Max(1, math.Round(n*parts)), parts, strings.ReplaceAll(name, "-", " ")), true
}

// IsExact reports whether a unit is of the scale or the jug, and not a measure that is filled.
func IsExact(unit string) bool {
	_, mass := fixedMass[unit]
	return mass || slices.Contains([]string{"ml", "cl", "dl", "l", "floz"}, unit)
}

// plural returns the plural of the name of a measure or of a piece.
func plural(name string) string {
	for _, ending := range []struct{ one, many string }{{"leaf", "leaves"}, {"ry", "ries"}, {"to", "toes"}, {"go", "goes"}, {"ss", "sses"},
		{"ch", "ches"}} {
		if stem, ok := strings.CutSuffix(name, ending.one); ok {
			return stem + ending.many
		}
	}
	return name + "s"
}

// Ounces says a mass in pounds and ounces, to the quarter of an ounce below a
// pound; "" below a quarter of an ounce.
func Ounces(mass Gram) string {
	const perPound, parts = 16, 4
	ounces := float64(mass / fixedMass["oz"])
	if ounces < 1./parts {
		return ""
	}
	if ounces < perPound {
		return count(math.Max(1, math.Round(ounces*parts)), parts, "oz")
	}
	whole := math.Round(ounces)
	text := strconv.FormatFloat(math.Floor(whole/perPound), 'f', 0, 64) + " lb"
	if rest := math.Mod(whole, perPound); rest > 0 {
		text += " " + strconv.FormatFloat(rest, 'f', 0, 64) + " oz"
	}
	return text
}

// Weighable rounds a mass to what a kitchen scale is read to: 5 g above 50 g,
// 1 g below, and half a gram below 5 g.
func Weighable(mass Gram) Gram {
	step := 1.0
	switch {
	case mass > 50:
		step = 5
	case mass < 5:
		step = 0.5
	}
	return Gram(math.Round(float64(mass)/step) * step)
}

// ErrFixedUnit reports that a unit has one size everywhere.
var ErrFixedUnit = Code("measure.fixed-unit")

// OwnName returns the name under which a kitchen keeps a measure: singular, in
// small letters, "tbsp" as "tablespoon". Error: ErrFixedUnit for a unit such as
// ml or ounce.
func OwnName(name string) (string, error) {
	name = strings.ToLower(strings.Join(strings.Fields(name), " "))
	for _, one := range singular(name) {
		if _, ok := fixedVolume[one]; ok {
			return "", ErrFixedUnit
		}
		if _, ok := fixedMass[one]; ok {
			return "", ErrFixedUnit
		}
	}
	for _, one := range singular(name) {
		if _, ok := householdDefault[one+"_ml"]; ok {
			return one, nil
		}
		if _, ok := householdDefault[one+"_g"]; ok || pieceUnits[one] {
			return one, nil
		}
	}
	return name, nil
}
