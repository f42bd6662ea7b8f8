package pot

import (
	"math"
	"slices"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// A Part is a grain or a vegetable in the pot: it cooks, takes up water or lets it go.
type Part struct {
	Name     string
	Kinetics *pantry.Kinetics
	Tissue   bool
	Raw      float64 // g, as it was weighed raw
	Dry      Mix     // its matter without the water it holds
	dryMass  float64 // mass of Dry, kept at hand
	Held     float64 // g water inside
	Starch   float64 // g enclosed when raw
	Leached  float64 // g given to the liquid so far
	Done     float64 // doneness D: 0 raw, 1 cooked through
	Cook     float64 // minutes at 98 °C to doneness 1, preparation counted
	Release  float64 // factor on the starch leached, 1 unless roasted
	Texture  pantry.Texture
	Mashed   float64 // share that was broken, 0 to 1
	Paste    float64 // share of tissue that is paste, 0 to 1: part of the liquid
	toasted  float64 // minutes dry over the flame; below 0 once it has told
}

func (p *Part) mass() float64 { return p.dryMass + p.Held }

// Volume returns the room that a part takes up, in ml.
func (p *Part) Volume() float64 { return p.volume() }

func (p *Part) volume() float64 { return p.dryMass/grainDensity + p.Held/waterDensity }

// A State is the contents of one pot. The zero value is an empty pot at 0 °C.
type State struct {
	Temperature measure.Celsius
	Liquid      Mix
	Pieces      Mix // inert volume: nuts, fruit pieces
	Topping     Mix // lies on top: neither thickness nor sweetness nor level
	Parts       []Part
	Metal       float64 // J/K that the pot around it takes up; 0 beside the pots and in bowls
	Dairy       float64 // g of dairy that went in
	Casein      float64 // g of protein of that dairy
	Stable      float64 // g of it that was stabilised against heat when it was made
	Egg         float64 // g of whole egg
	EggSet      float64 // share of it that has set, 0 to 1
}

// New returns a mass of one material at a temperature, ready to be added to a
// pot. A grain or vegetable becomes a part of the given name.
func New(material *pantry.Material, mass measure.Gram, temperature measure.Celsius, name string) State {
	s := State{Temperature: temperature}
	m := mixOf(material, mass)
	switch material.Behaviour {
	case pantry.Grain, pantry.Tissue:
		s.Parts = []Part{newPart(material, m, float64(mass), name)}
		// Acidity reaches the liquid at once, whatever holds the matter.
		s.Liquid[Buffer], s.Liquid[BufferPH] = m[Buffer], m[BufferPH]
		s.Parts[0].Dry[Buffer], s.Parts[0].Dry[BufferPH] = 0, 0
	case pantry.Piece:
		s.Pieces = m
	case pantry.Aroma:
		m[AromaStarch], m[RawStarch] = m[RawStarch], 0
		s.Liquid = m
	case pantry.Flour:
		s.Liquid = m
	default:
		// Starch of drinks and powders was cooked when they were made.
		m[Gel], m[RawStarch] = m[RawStarch], 0
		m[Thickening] = m[Gel]
		s.Liquid = m
	}
	if material.Kind == "dairy" {
		s.Dairy, s.Casein = float64(mass), m[Protein]
		if material.Has("heat-stabilised") {
			s.Stable = s.Dairy
		}
	}
	if material.Behaviour == pantry.Egg {
		s.Egg = float64(mass)
	}
	return s
}

// Left-over cooked grain counts by its raw equivalent and starts cooked.
// Source: the model, section 5.
const (
	leftoverSlug   = "rice-cooked"
	leftoverDryRaw = 0.88 // g dry matter per g raw equivalent
	leftoverDone   = 1.1
)

func newPart(material *pantry.Material, m Mix, mass float64, name string) Part {
	p := Part{
		Name: name, Kinetics: material.Kinetics, Tissue: material.Behaviour == pantry.Tissue,
		Raw: mass, Held: m[Water], Starch: m[RawStarch], Cook: float64(material.Kinetics.CookMinutes), Release: 1,
		Texture: material.Texture(),
	}
	m[Water] = 0
	p.Dry, p.dryMass = m, m.Mass()
	if material.Slug == leftoverSlug {
		p.Raw = p.dryMass / leftoverDryRaw
		p.Done = leftoverDone
		// What it leached was poured off with its cooking water.
		p.Leached = p.leachedAt(leftoverDone)
		p.Starch += p.Leached
	}
	return p
}

// Mass returns the mass of all that is in the pot.
func (s *State) Mass() measure.Gram { return measure.Gram(s.totals().mass) }

// Size returns the mass of the contents and the volume they take up, topping
// left out of the volume.
func (s *State) Size() (measure.Gram, measure.Millilitre) {
	t := s.totals()
	return measure.Gram(t.mass), measure.Millilitre(t.volume)
}

// FreeWater returns the water that is not held by parts or pieces.
func (s *State) FreeWater() measure.Gram { return measure.Gram(s.Liquid[Water]) }

// solidVolume returns the volume of parts and pieces in ml.
func (s *State) solidVolume() float64 {
	sum := s.Pieces.Mass() / pieceDensity
	for i := range s.Parts {
		sum += s.Parts[i].volume()
	}
	return sum
}

// Volume returns the volume that the contents take up, topping left out.
func (s *State) Volume() measure.Millilitre {
	return measure.Millilitre(s.totals().volume)
}

// bedPacking is the share of its volume that a settled bed of grain fills:
// random loose packing of spheres. Source: Onoda and Liniger (1990), 0.555,
// to dense 0.64; the mean of the two.
const bedPacking = 0.60

// Bed returns how deep the solids lie in a pot when they have settled.
func (s *State) Bed(p vessel.Pot) measure.Millimetre {
	return p.Depth(measure.Millilitre(s.solidVolume() / bedPacking))
}

// LiquidAbove returns how much liquid makes it stand so far above the settled
// solids in the pot, 0 if it stands higher already.
func (s *State) LiquidAbove(p vessel.Pot, above measure.Millimetre) measure.Millilitre {
	return max(0, p.Volume(s.Bed(p)+above)-s.Volume())
}

// SweetPercent returns the sweetness of the contents without topping, as per
// cent of sucrose.
func (s *State) SweetPercent() float64 {
	sweet := s.Liquid.sweetness() + s.Pieces.sweetness()
	for i := range s.Parts {
		sweet += s.Parts[i].Dry.sweetness()
	}
	return 100 * measure.Ratio(sweet, float64(s.Mass())-s.Topping.Mass())
}

// Source of the two shares: the model, section 3.
const heldWaterShare = 0.6 // how much of the held water dilutes the sugar

// Brix returns the sugar without lactose in the watery phase, per cent.
func (s *State) Brix() float64 {
	var held float64
	for i := range s.Parts {
		held += s.Parts[i].Held
	}
	return s.brix(held)
}

func (s *State) brix(held float64) float64 {
	sugar := s.Liquid.sugar()
	return 100 * measure.Ratio(sugar, sugar+s.Liquid[Water]+heldWaterShare*held)
}

// neutralPH stands where nothing has acidity. Source: the model, section 15.
const neutralPH = 7

// PH returns the buffer-weighted mean acidity.
func (s *State) PH() float64 {
	if s.Liquid[Buffer] <= 0 {
		return neutralPH
	}
	return s.Liquid[BufferPH] / s.Liquid[Buffer]
}

// Protection of milk against splitting, in pH. Source: the model, section 8.
const (
	starchProtects = 0.3 // 1 % of cooked starch in the liquid
	stableProtects = 0.3 // milk that is stabilised against heat
)

// SplitPH returns the pH by which fresh dairy near the boil is judged: that of
// the liquid and what protects it.
func (s *State) SplitPH() float64 {
	starch := min(1, 100*measure.Ratio(s.Liquid[Gel], s.Liquid.Mass()))
	return s.PH() + starchProtects*starch + stableProtects*measure.Ratio(s.Stable, s.Dairy)
}

// What egg stands. Source: the model, section 8.
const (
	eggStands    = 84.0 // °C, without starch
	eggPerStarch = 5.0  // K for each per cent of gelatinised starch in the liquid
	eggStarchy   = 95.0 // °C at most,
	eggMayBoil   = 3.0  // until there is so much starch that it may boil
)

// EggOver returns by how many kelvins the contents are hotter than their egg stands; it
// is below 0 where it is well.
func (s *State) EggOver() float64 {
	starch := 100 * measure.Ratio(s.Liquid[Gel], s.Liquid.Mass())
	if starch >= eggMayBoil {
		return -eggStands
	}
	return float64(s.Temperature) - min(eggStands+eggPerStarch*starch, eggStarchy)
}

// PasteShare returns the share of the mass that is paste or mash, 0 to 1.
func (s *State) PasteShare() float64 {
	paste := 0.0
	for i := range s.Parts {
		paste += max(s.Parts[i].Paste, s.Parts[i].Mashed) * s.Parts[i].mass()
	}
	return measure.Ratio(paste, float64(s.Mass()))
}

// Unsettled reports whether parts that are not cooked through lie on the bottom, and
// whether they are pearls.
func (s *State) Unsettled() (raw, pearls bool) {
	for i := range s.Parts {
		if p := &s.Parts[i]; p.Done < 1 {
			raw, pearls = true, pearls || p.Texture == pantry.Pearly
		}
	}
	return raw, pearls
}

// Part returns the part of a name, nil if there is none.
func (s *State) Part(name string) *Part {
	for i := range s.Parts {
		if s.Parts[i].Name == name {
			return &s.Parts[i]
		}
	}
	return nil
}

// Total returns all matter in the pot, the held water with the rest.
func (s *State) Total() Mix {
	sum := s.Liquid
	sum.add(&s.Pieces, 1)
	sum.add(&s.Topping, 1)
	for i := range s.Parts {
		sum.add(&s.Parts[i].Dry, 1)
		sum[Water] += s.Parts[i].Held
	}
	return sum
}

// totals are the sums over the contents that a step needs. Only the mass counts the
// topping: it lies in the bowl.
type totals struct {
	mass     float64 // g
	water    float64 // g, held and free
	held     float64 // g, held by parts
	fat      float64 // g
	capacity float64 // J/K, without the pot
	volume   float64 // ml
	inPot    float64 // g
}

// totals returns the sums of the contents. The heat capacity is m·cp with
// cp = 4180 w + 1900 (1 - w) J/(kg K) by the water fraction w. Source: the
// model, section 3 (Siebel's form).
func (s *State) totals() totals {
	const waterHeat, solidHeat = 4.18, 1.9 // J/(g K)
	l := &s.Liquid
	solids := l.solids()
	t := totals{
		inPot: l[Water] + l[Fat] + solids, water: l[Water], fat: l[Fat],
		volume: l[Water]/waterDensity + l[Fat]/fatDensity + solids/solidDensity,
	}
	if pieces := s.Pieces.Mass(); pieces > 0 {
		t.inPot += pieces
		t.water += s.Pieces[Water]
		t.fat += s.Pieces[Fat]
		t.volume += pieces / pieceDensity
	}
	for i := range s.Parts {
		p := &s.Parts[i]
		t.inPot += p.mass()
		t.held += p.Held
		t.fat += p.Dry[Fat]
		t.volume += p.volume()
	}
	t.water += t.held
	t.capacity = waterHeat*t.water + solidHeat*(t.inPot-t.water)
	t.mass = t.inPot + s.Topping.Mass()
	return t
}

// Pour adds other to the pot: mass and heat mix. Parts of the same name become
// one, their doneness the mean by raw mass. The pot around s mixes its heat in.
func (s *State) Pour(other *State) {
	here, there := s.totals().capacity+s.Metal, other.totals().capacity
	if here+there > 0 {
		s.Temperature = measure.Celsius((here*float64(s.Temperature) + there*float64(other.Temperature)) / (here + there))
	}
	s.Liquid.add(&other.Liquid, 1)
	s.Pieces.add(&other.Pieces, 1)
	s.Topping.add(&other.Topping, 1)
	if egg := s.Egg + other.Egg; egg > 0 {
		s.EggSet = (s.Egg*s.EggSet + other.Egg*other.EggSet) / egg
		s.Egg = egg
	}
	s.Dairy += other.Dairy
	s.Casein += other.Casein
	s.Stable += other.Stable
	for i := range other.Parts {
		p := &other.Parts[i]
		same := s.Part(p.Name)
		if same == nil {
			s.Parts = append(s.Parts, *p)
			continue
		}
		share := measure.Ratio(p.Raw, p.Raw+same.Raw)
		same.Done += (p.Done - same.Done) * share
		same.Cook += (p.Cook - same.Cook) * share
		same.Release += (p.Release - same.Release) * share
		same.Mashed += (p.Mashed - same.Mashed) * share
		same.Paste += (p.Paste - same.Paste) * share
		same.Dry.add(&p.Dry, 1)
		same.dryMass += p.dryMass
		same.Raw, same.Held, same.Starch, same.Leached = same.Raw+p.Raw, same.Held+p.Held, same.Starch+p.Starch, same.Leached+p.Leached
	}
}

// Take removes a share, 0 to 1, and returns it.
func (s *State) Take(share float64) State {
	taken := s.Clone()
	taken.Metal = 0
	taken.scale(share)
	s.scale(1 - share)
	return taken
}

func (s *State) scale(factor float64) {
	for _, m := range []*Mix{&s.Liquid, &s.Pieces, &s.Topping} {
		for i := range m {
			m[i] *= factor
		}
	}
	s.Dairy *= factor
	s.Casein *= factor
	s.Stable *= factor
	s.Egg *= factor
	for i := range s.Parts {
		p := &s.Parts[i]
		for j := range p.Dry {
			p.Dry[j] *= factor
		}
		p.dryMass *= factor
		p.Raw, p.Held, p.Starch, p.Leached = p.Raw*factor, p.Held*factor, p.Starch*factor, p.Leached*factor
	}
}

// Clone returns a copy that shares nothing.
func (s *State) Clone() State {
	copied := *s
	copied.Parts = slices.Clone(s.Parts)
	return copied
}

// CopyTo makes into the same as s and reuses its memory.
func (s *State) CopyTo(into *State) {
	parts := append(into.Parts[:0], s.Parts...)
	*into = *s
	into.Parts = parts
}

// LayOnTop moves all of the contents onto the top, where they count for yield
// and nutrition only.
func (s *State) LayOnTop() {
	total := s.Total()
	*s = State{Temperature: s.Temperature, Topping: total}
}

// Correct makes the mass of the contents what a scale has shown, by adding or
// taking water, the free first: what a weigh-in tells is how much has evaporated.
func (s *State) Correct(mass measure.Gram) {
	if more := float64(mass - s.Mass()); more > 0 {
		s.Liquid[Water] += more
	} else {
		t := s.totals()
		s.steam(min(-more, s.Liquid[Water]+t.held), 0, t.held)
	}
}

// boilingElevation is the rise of the boiling point over that of water, in K,
// by the per cent of sugar in the watery phase. Source: the model, section 3;
// sucrose solutions, sugar-technology tables.
var boilingElevation = []struct{ brix, kelvin float64 }{
	{0, 0}, {10, 0.1}, {20, 0.3}, {30, 0.6}, {40, 1.1}, {50, 1.9}, {60, 3.1},
	{70, 5.2}, {75, 7.0}, {80, 9.6}, {85, 13.2}, {90, 19.6}, {100, 40},
}

// elevation returns that rise, in K.
func elevation(brix float64) float64 {
	for i := 1; i < len(boilingElevation); i++ {
		a, b := boilingElevation[i-1], boilingElevation[i]
		if brix < b.brix {
			return a.kelvin + (b.kelvin-a.kelvin)*(max(brix, 0)-a.brix)/(b.brix-a.brix)
		}
	}
	return boilingElevation[len(boilingElevation)-1].kelvin
}

// metresPerKelvin is how much higher a kitchen must lie for water to boil a kelvin
// lower. Source: the model, section 3.
const metresPerKelvin = 285

// BoilingPoint returns the boiling point at an altitude in metres and a sugar
// content in per cent of the watery phase.
func BoilingPoint(altitude, brix float64) measure.Celsius {
	return measure.Celsius(100 - altitude/metresPerKelvin + elevation(brix))
}

// Limit returns how hot the contents get: while they have water, they boil. Where the
// free water runs out, the rest is held and boils up to some kelvins hotter; only what
// is nearly dry, as raw grain, nuts, fat and caramel, goes on towards 180 °C. Source:
// the model, section 3.
func (s *State) Limit(altitude float64) measure.Celsius {
	t := s.totals()
	return measure.Celsius(s.limit(altitude, s.brix(t.held), &t))
}

func (s *State) limit(altitude, brix float64, t *totals) float64 {
	const most, falling, dryWater, damp, span, wetMass = 6.0, 11.0, 180.0, wetFrom, 0.2, 0.03
	rise := elevation(brix)
	limit := 100 - altitude/metresPerKelvin + rise
	if short := 1 - measure.Ratio(s.Liquid[Water], freeShare*t.inPot); short > 0 {
		limit += short * min(most, max(0, falling-rise))
	}
	dry := max(min(1, (damp-t.perDry())/span), min(1, 1-measure.Ratio(t.water, wetMass*t.inPot)), 0)
	return limit + dry*max(0, dryWater-limit)
}

// perDry returns the grams of water, free and held, to a gram of dry matter without
// fat; infinite where there is none.
func (t *totals) perDry() float64 {
	switch dry := t.inPot - t.water - t.fat; {
	case dry > 0:
		return t.water / dry
	case t.water > 0:
		return math.Inf(1)
	}
	return 0
}

// mediumFactor is how much slower a grain cooks in what is in the pot than in water,
// of which there are so many grams in all. Source: the model, section 5.
func (s *State) mediumFactor(water float64) float64 {
	const strength, fatShare, limit = 1.2, 0.4, 0.5
	load := measure.Ratio(s.Liquid[Protein]+fatShare*s.Liquid[Fat], water)
	if water <= 0 {
		load = limit
	}
	return 1 / (1 + strength*min(limit, load))
}

// How strongly sugar slows a grain, likely 1.6 to 3.2, and tissue. Source: the model,
// section 5.
const (
	sugarStrength  = 2.4
	tissueStrength = 0.9
)

// SugarSlows returns how many times as long a grain takes to cook with sugar in the
// watery phase, b from 0 to 1.
func SugarSlows(b float64) float64 { return math.Exp(sugarStrength * b) }

// acidFactor is how much slower a pulse softens in acid. Source: the model,
// section 5.
func acidFactor(ph float64) float64 {
	const fullAbove, leastBelow, least = 6.0, 5.6, 0.5
	share := (ph - leastBelow) / (fullAbove - leastBelow)
	return least + (1-least)*min(max(share, 0), 1)
}
