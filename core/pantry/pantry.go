// Package pantry knows the materials of the kitchen: what they are made of and
// how they behave in the pot.
package pantry

import (
	"math"
	"slices"
	"strings"

	"kirdu/core/measure"
)

// Behaviour says where a material goes when it enters the pot.
type Behaviour string

// The behaviours of the materials table.
const (
	Liquid    Behaviour = "liquid"    // mixes into the liquid
	Dissolves Behaviour = "dissolves" // becomes part of the liquid
	Fat       Behaviour = "fat"       // into the liquid
	Egg       Behaviour = "egg"       // into the liquid, sets with heat
	Puree     Behaviour = "puree"     // into the liquid
	Aroma     Behaviour = "aroma"     // into the liquid; its starch does not thicken
	Flour     Behaviour = "flour"     // raw starch in the liquid
	Grain     Behaviour = "grain"     // a part that cooks and hydrates
	Tissue    Behaviour = "tissue"    // a part that softens and exudes water
	Piece     Behaviour = "piece"     // inert volume
)

var behaviours = []Behaviour{Liquid, Dissolves, Fat, Egg, Puree, Aroma, Flour, Grain, Tissue, Piece}

// allergenNames are the allergens that the tables and the plans may name.
var allergenNames = []string{"milk", "egg", "wheat", "gluten", "treenut", "peanut", "coconut", "soy", "sesame", "sulphite"}

// Composition is what 100 g of a material hold, in grams.
type Composition struct {
	Water, Fat, Protein                 measure.Gram
	Lactose, Sucrose, Glucose, Fructose measure.Gram
	Starch, Fibre, Ash, Other           measure.Gram
	EnergyKcal, SodiumMg                float64 // per 100 g
}

// Sum returns the mass of the parts of 100 g, close to 100 g.
func (c Composition) Sum() measure.Gram {
	return c.Water + c.Fat + c.Protein + c.Lactose + c.Sucrose + c.Glucose + c.Fructose +
		c.Starch + c.Fibre + c.Ash + c.Other
}

// Kinetics say how a grain or a vegetable cooks.
type Kinetics struct {
	CookMinutes  measure.Minute // at 98 °C in water until just cooked through
	SoakedFactor float64        // cooking time when fully soaked, over unsoaked
	SoakUptake   float64        // g water per g raw
	SoakHalf     measure.Minute // half time of soaking at 25 °C
	MaxUptake    float64        // g water held per g raw, own moisture counted
	UptakeRate   float64        // per unit of doneness
	ReleaseDone  float64        // share of the starch leached at doneness 1
	ReleaseMax   float64        // greatest share of the starch leached
	StarchWeight float64        // thickening power of its starch, rice = 1
	SetWeight    float64        // how strongly it firms when cold, rice = 1
	AcidHardens  bool           // stops softening in acid
	WantedLow    float64        // doneness wanted at serving
	WantedHigh   float64
	KeptRaw      float64 // tissue: g water per g raw before cooking
	KeptDone     float64 // tissue: the same at doneness 1
}

// A Texture is how a grain or a vegetable is between the fingers as it softens.
type Texture string

// The textures.
const (
	Grainy    Texture = "grain" // rice, millet, wheat, noodles
	Pearly    Texture = "pearl"
	Pulse     Texture = "pulse"
	Vegetable Texture = "vegetable"
	Fruit     Texture = "fruit"
)

// Texture returns that of a material.
func (m *Material) Texture() Texture {
	switch {
	case m.Behaviour == Tissue && m.Kind == "fruit":
		return Fruit
	case m.Behaviour == Tissue:
		return Vegetable
	case m.Kind == "pearl":
		return Pearly
	case m.Kind == "pulse":
		return Pulse
	}
	return Grainy
}

// A Material is one row of the pantry.
type Material struct {
	Slug, Name, Kind string
	Behaviour        Behaviour
	Traits           []string
	UsualState       State
	Composition
	Bulk       measure.GramPerMillilitre
	Piece      measure.Gram // 0: not counted in pieces
	PieceName  string
	PH         float64 // 0: has no acidity of its own
	Buffer     float64 // relative to milk
	AcidNote   string
	Allergens  []string
	Gluten     bool
	Vegan      bool
	SourceNote string
	Kinetics   *Kinetics // nil unless grain or tissue
	Frying     *Frying   // nil unless it is fried as a garnish
	Aliases    []string  // regional and other names, for search
	Near       []string  // names of things that the pantry has not, for which this can stand
}

// Frying is how a garnish does in hot fat.
type Frying struct {
	Done, Burnt measure.Minute
	Sign        string // that it is done
	Note        string
}

// ShortName returns the name without what the table adds in brackets.
func (m *Material) ShortName() string {
	name, rest := "", m.Name
	for {
		before, behind, opens := strings.Cut(rest, "(")
		_, after, closes := strings.Cut(behind, ")")
		if !opens || !closes {
			return name + rest
		}
		name, rest = name+strings.TrimRight(before, " "), after
	}
}

// OtherNames returns the names beside its own.
func (m *Material) OtherNames() []string {
	return slices.DeleteFunc(slices.Clone(m.Aliases), func(alias string) bool { return strings.EqualFold(alias, m.ShortName()) })
}

// Has reports whether the material has a trait, such as "heat-stabilised".
func (m *Material) Has(trait string) bool { return slices.Contains(m.Traits, trait) }

// FirstPressFat is the fat, in g per 100 g, above which a coconut liquid is a first
// press. Source: the watchpoint table.
const FirstPressFat measure.Gram = 25

// IsFirstPress reports whether it is a coconut liquid that breaks when it boils.
func (m *Material) IsFirstPress() bool {
	return m.Kind == "coconut" && m.Behaviour == Liquid && m.Fat > FirstPressFat
}

// MustNotBoil reports whether what it is in must not boil: egg scrambles, yogurt
// curdles, a first press breaks.
func (m *Material) MustNotBoil() bool {
	return m.Behaviour == Egg || m.Has("cultured") || m.IsFirstPress()
}

// IsCalled reports whether pieces of the material may be called so in an amount: by its
// name, its last word, an alias, in the plural, with a word for size or freshness before it.
func (m *Material) IsCalled(name string) bool {
	words := strings.Fields(strings.ToLower(name))
	for len(words) > 1 && slices.Contains(sizeWords, words[0]) {
		words = words[1:]
	}
	said := strings.Join(words, " ")
	if said == "" {
		return false
	}
	called := func(known string) bool {
		known = strings.ToLower(known)
		for _, ending := range []string{"", "s", "es"} {
			if said == known || said == known+ending || known == said+ending {
				return true
			}
		}
		return strings.TrimSuffix(known, "ies")+"y" == said || strings.TrimSuffix(said, "ies")+"y" == known
	}
	names := append([]string{m.Name, m.ShortName(), m.Slug, m.PieceName}, m.Aliases...)
	for _, known := range names {
		fields := strings.Fields(known)
		if called(known) || len(fields) > 1 && (called(fields[len(fields)-1]) || called(fields[0])) {
			return true
		}
	}
	return false
}

// sizeWords are said before the name of a piece and change nothing here.
var sizeWords = []string{"large", "medium", "small", "big", "ripe", "fresh", "whole"}

// Body returns what is needed to weigh an amount of the material.
func (m *Material) Body() measure.Body {
	return measure.Body{Density: m.Bulk, Piece: m.Piece, PieceName: m.PieceName}
}

// SugarShare returns the sugars without lactose, in grams per gram.
func (m *Material) SugarShare() float64 {
	return float64(m.Sucrose+m.Glucose+m.Fructose) / 100
}

// Sweetness of the sugars relative to sucrose. Source: the model, section 7.
const (
	GlucoseSweetness  = 0.70
	FructoseSweetness = 1.2
	LactoseSweetness  = 0.2
)

// Sweetness returns the grams of sucrose that taste as sweet as one gram.
func (m *Material) Sweetness() float64 {
	sweet := m.Sucrose + GlucoseSweetness*m.Glucose + FructoseSweetness*m.Fructose + LactoseSweetness*m.Lactose
	return measure.Ratio(float64(sweet), float64(m.Sum()))
}

// Faults of materials, as Check gives them.
var (
	ErrSum       = measure.Code("pantry.sum")
	ErrRange     = measure.Code("pantry.range")
	ErrKinetics  = measure.Code("pantry.kinetics")
	ErrBehaviour = measure.Code("pantry.behaviour")
	ErrAllergen  = measure.Code("pantry.allergen")
	ErrKept      = measure.Code("pantry.kept")
	ErrRelease   = measure.Code("pantry.release")
	ErrWanted    = measure.Code("pantry.wanted")
)

// sumTolerance is how far the parts may miss 100 g: tables round each part and
// measure them separately.
const sumTolerance measure.Gram = 5

// Check returns what is wrong with a material as measure.Faults, nil if nothing is.
func (m *Material) Check() error {
	var faults measure.Faults
	fault := func(field string, err error) { faults = append(faults, &measure.FieldError{Field: field, Err: err}) }
	if !slices.Contains(behaviours, m.Behaviour) {
		fault("behaviour", ErrBehaviour.With(string(m.Behaviour)))
	}
	if sum := m.Sum(); !(sum >= 100-sumTolerance && sum <= 100+sumTolerance) {
		fault("", ErrSum.With(100-sumTolerance, 100+sumTolerance, measure.Gram(math.Round(float64(sum)*10)/10)))
	}
	if !(m.Bulk > 0 && m.Bulk <= 3) {
		fault("bulk_g_per_ml", ErrRange.With(0, 3))
	}
	if m.PH != 0 && !(m.PH >= 1 && m.PH <= 11) {
		fault("ph", ErrRange.With(1, 11))
	}
	for _, allergen := range m.Allergens {
		if !slices.Contains(allergenNames, allergen) {
			fault("allergens", ErrAllergen.With(allergen))
		}
	}
	if m.Behaviour == Grain || m.Behaviour == Tissue {
		if m.Kinetics == nil {
			fault("", ErrKinetics)
		} else if one := m.Kinetics.check(m.Behaviour); one != nil {
			faults = append(faults, one)
		}
	}
	return faults.Err()
}

func (k *Kinetics) check(behaviour Behaviour) *measure.FieldError {
	outside := func(field string, low, high float64) *measure.FieldError {
		return &measure.FieldError{Field: field, Err: ErrRange.With(low, high)}
	}
	if !(k.CookMinutes > 0 && k.CookMinutes <= 600) {
		return outside("cook_min_98c", 0, 600)
	}
	if behaviour == Tissue {
		if !(k.KeptDone > 0 && k.KeptDone <= k.KeptRaw && k.KeptRaw <= 1) {
			return &measure.FieldError{Field: "water_kept_done", Err: ErrKept}
		}
		return nil
	}
	if !(k.SoakedFactor > 0 && k.SoakedFactor <= 1) {
		return outside("soaked_cook_factor", 0, 1)
	}
	if !(k.MaxUptake > 0 && k.MaxUptake <= 20 && k.UptakeRate > 0) {
		return outside("max_uptake", 0, 20)
	}
	if !(k.ReleaseDone >= 0 && k.ReleaseMax <= 1 && k.ReleaseDone <= k.ReleaseMax) {
		return &measure.FieldError{Field: "release_at_done", Err: ErrRelease}
	}
	if !(k.WantedLow > 0 && k.WantedLow < k.WantedHigh) {
		return &measure.FieldError{Field: "wanted_low", Err: ErrWanted}
	}
	return nil
}

// A Pantry is a set of materials by slug. Its zero value is empty.
type Pantry struct {
	bySlug map[string]*Material
	slugs  []string
}

// Material returns a material by its slug.
func (p *Pantry) Material(slug string) (*Material, bool) {
	m, ok := p.bySlug[slug]
	return m, ok
}

// All returns every material in the order of the table.
func (p *Pantry) All() []*Material {
	all := make([]*Material, len(p.slugs))
	for i, slug := range p.slugs {
		all[i] = p.bySlug[slug]
	}
	return all
}

// Find returns the material of a slug, a name or another name, whatever the
// case of its letters.
func (p *Pantry) Find(text string) (*Material, bool) {
	text = strings.TrimSpace(text)
	if m, ok := p.bySlug[text]; ok {
		return m, true
	}
	var found *Material
	for _, m := range p.All() {
		if strings.EqualFold(m.Name, text) || strings.EqualFold(m.ShortName(), text) {
			return m, true
		}
		if found == nil && slices.ContainsFunc(m.Aliases, func(alias string) bool { return strings.EqualFold(alias, text) }) {
			found = m
		}
	}
	return found, found != nil
}

// Search returns the materials in whose names, other names, kind or allergens
// every word of a text is found, in the order of the table; all for no words. What is only near to it
// comes last.
func (p *Pantry) Search(text string) []*Material {
	words := strings.Fields(strings.ToLower(text))
	var found, near []*Material
	for _, m := range p.All() {
		all := strings.ToLower(strings.Join(slices.Concat([]string{m.Name, m.Slug, m.Kind}, m.Aliases, m.Allergens), " | "))
		if !slices.ContainsFunc(words, func(w string) bool { return !strings.Contains(all, w) }) {
			found = append(found, m)
		} else if m.IsNear(text) {
			near = append(near, m)
		}
	}
	return append(found, near...)
}

// IsNear reports whether a material can stand for something of another name that the pantry has not.
func (m *Material) IsNear(name string) bool {
	name = strings.TrimSpace(name)
	return slices.ContainsFunc(m.Near, func(near string) bool { return strings.EqualFold(near, name) })
}

// likeKinds are the kinds that can stand for each other in a pudding; every
// other kind stands for itself.
var likeKinds = map[string]string{
	"dairy": "liquid", "plantmilk": "liquid", "water": "liquid",
	"rice": "grain", "millet": "grain", "wheat": "grain",
}

// Alike returns the materials that can take the place of one: of like kind and
// with the same behaviour in the pot. It is among them itself.
func (p *Pantry) Alike(m *Material) []*Material {
	kindOf := func(m *Material) string {
		if like, ok := likeKinds[m.Kind]; ok {
			return like
		}
		return m.Kind
	}
	var alike []*Material
	for _, slug := range p.slugs {
		if other := p.bySlug[slug]; other.Behaviour == m.Behaviour && kindOf(other) == kindOf(m) {
			alike = append(alike, other)
		}
	}
	return alike
}

// With returns a pantry that also has the given materials; they rule over
// those of the same slug.
func (p *Pantry) With(own []*Material) *Pantry {
	if len(own) == 0 {
		return p
	}
	joined := &Pantry{bySlug: make(map[string]*Material, len(p.bySlug)+len(own)), slugs: slices.Clone(p.slugs)}
	for slug, m := range p.bySlug {
		joined.bySlug[slug] = m
	}
	for _, m := range own {
		if _, known := joined.bySlug[m.Slug]; !known {
			joined.slugs = append(joined.slugs, m.Slug)
		}
		joined.bySlug[m.Slug] = m
	}
	return joined
}

// Nearest returns the slug most like a mistyped one, or "" if none is near.
func (p *Pantry) Nearest(slug string) string {
	best, bestScore := "", 0.5
	for _, candidate := range p.slugs {
		if score := Likeness(slug, candidate); score > bestScore {
			best, bestScore = candidate, score
		}
	}
	return best
}

// Likeness is the Dice coefficient of the letter pairs of two words, 0 to 1.
func Likeness(a, b string) float64 {
	pairs := map[string]int{}
	for i := 0; i+2 <= len(a); i++ {
		pairs[a[i:i+2]]++
	}
	shared := 0
	for i := 0; i+2 <= len(b); i++ {
		if pairs[b[i:i+2]] > 0 {
			pairs[b[i:i+2]]--
			shared++
		}
	}
	return measure.Ratio(float64(2*shared), float64(max(len(a)-1, 0)+max(len(b)-1, 0)))
}

// AllergenNames returns the allergens that may be named, in a fixed order.
func AllergenNames() []string { return slices.Clone(allergenNames) }

// list splits a cell such as "coconut;sulphite".
func list(cell string) []string {
	var values []string
	for value := range strings.SplitSeq(cell, ";") {
		if value = strings.TrimSpace(value); value != "" {
			values = append(values, value)
		}
	}
	return values
}

// State is how a material comes: "" for its usual one.
type State string

// The states.
const (
	Raw     State = "raw"
	Ground  State = "ground"
	Whole   State = "whole"
	Grated  State = "grated"
	Chopped State = "chopped"
)

// States lists them.
func States() []State { return []State{Raw, Ground, Whole, Grated, Chopped} }
