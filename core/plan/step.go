package plan

import (
	"encoding/json"
	"slices"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// Verb is what a step does.
type Verb string

// The verbs of the format.
const (
	Prep     Verb = "prep"
	Soak     Verb = "soak"
	Roast    Verb = "roast"
	Fry      Verb = "fry"
	Mix      Verb = "mix"
	Grind    Verb = "grind"
	Squeeze  Verb = "squeeze"
	Steam    Verb = "steam"
	Press    Verb = "press"
	Melt     Verb = "melt"
	Caramel  Verb = "caramel"
	Add      Verb = "add"
	Heat     Verb = "heat"
	Pressure Verb = "pressure"
	Mash     Verb = "mash"
	Drain    Verb = "drain"
	Rest     Verb = "rest"
	Cool     Verb = "cool"
	Chill    Verb = "chill"
	Hold     Verb = "hold"
	Bake     Verb = "bake"
	Portion  Verb = "portion"
)

// Stir is how often the pot is stirred.
type Stir string

// The stirring rhythms.
const (
	StirNone     Stir = "none"
	StirNow      Stir = "now-and-then"
	StirOften    Stir = "often"
	StirConstant Stir = "constant"
)

// stirEvery is how long one may wait between two turns of the spoon.
var stirEvery = map[Stir]measure.Minute{StirNow: 5, StirOften: 2, StirConstant: 0.5}

// Every returns how long one may wait between two turns of the spoon, 0 if the
// pot is not stirred.
func (s Stir) Every() measure.Minute { return stirEvery[s] }

// EveryAt is Every for a pudding of a thickness: from grade 3.5 on the rhythm
// shortens, to half at 5.5, though not below 20 s. Source: our own judgement; a
// thick pudding catches sooner.
func (s Stir) EveryAt(grade float64) measure.Minute {
	const from, to, least = 3.5, 5.5, 1.0 / 3
	every := s.Every()
	if every == 0 {
		return 0
	}
	thick := min(max((grade-from)/(to-from), 0), 1)
	return max(every*measure.Minute(1-thick/2), least)
}

// Stirs lists the rhythms from never to always.
func Stirs() []Stir { return []Stir{StirNone, StirNow, StirOften, StirConstant} }

// Where is what a pot cools in; "" is the counter.
type Where string

// Where a pot cools.
const (
	Counter   Where = "counter"
	WaterBath Where = "water-bath"
	Fridge    Where = "fridge"
)

// Wheres lists them.
func Wheres() []Where { return []Where{Counter, WaterBath, Fridge} }

// Release is how a cooker is let down; "" is by itself.
type Release string

// How a cooker is let down.
const (
	Natural Release = "natural"
	Quick   Release = "quick"
)

// Releases lists them.
func Releases() []Release { return []Release{Natural, Quick} }

// Oven is what bakes; "" is an oven.
type Oven string

// What bakes.
const (
	InOven     Oven = "oven"
	SlowCooker Oven = "slow-cooker"
	Microwave  Oven = "microwave"
)

// Ovens lists them.
func Ovens() []Oven { return []Oven{InOven, SlowCooker, Microwave} }

// GrindTo is how fine a part is ground.
type GrindTo string

// How fine.
const (
	Granules GrindTo = "granules"
	Paste    GrindTo = "paste"
	Flour    GrindTo = "flour"
)

// GrindsTo lists them.
func GrindsTo() []GrindTo { return []GrindTo{Granules, Paste, Flour} }

// Browning is how far sugar is browned.
type Browning string

// How far.
const (
	LightAmber Browning = "light"
	Amber      Browning = "amber"
	DarkAmber  Browning = "dark"
)

// Brownings lists them.
func Brownings() []Browning { return []Browning{LightAmber, Amber, DarkAmber} }

// An Item is something that a step takes: a material by amount or by the
// finger's height, a part, or the contents of another pan.
type Item struct {
	Material string             `json:"material,omitempty"`
	Amount   string             `json:"amount,omitempty"`
	Also     string             `json:"also,omitempty"` // the second amount that a recipe gives
	State    pantry.State       `json:"state,omitempty"`
	Minutes  *measure.Minute    `json:"minutes,omitempty"`
	AboveMM  measure.Millimetre `json:"above_mm,omitempty"` // liquid, above the solids
	Part     string             `json:"part,omitempty"`
	Pot      string             `json:"pot,omitempty"`
	Share    *float64           `json:"share,omitempty"`    // of what is left; nil: all
	Optional bool               `json:"optional,omitempty"` // said as such, computed as given
	ToTaste  bool               `json:"to_taste,omitempty"`
}

// Manner is how something goes in.
type Manner string

// The manners.
const (
	Slowly   Manner = "slowly"
	Whisking Manner = "whisking"
	InGoes   Manner = "in-goes" // in two goes, tasting between
)

// Manners lists them.
func Manners() []Manner { return []Manner{Slowly, Whisking, InGoes} }

// Portion returns the share that the item takes of a part or a pan.
func (i Item) Portion() float64 {
	if i.Share == nil {
		return 1
	}
	return *i.Share
}

// Until says when a heat step ends: at the first target met. For caramel it is
// the Browning alone.
type Until struct {
	Minutes      *measure.Minute  `json:"minutes,omitempty"`
	TempC        *measure.Celsius `json:"temp_c,omitempty"`
	Boil         bool             `json:"boil,omitempty"`
	RemainingPct *float64         `json:"remaining_pct,omitempty"`
	OfStep       *int             `json:"of_step,omitempty"`
	MassG        *measure.Gram    `json:"mass_g,omitempty"`
	Doneness     *DonenessTarget  `json:"doneness,omitempty"`
	Thickness    *float64         `json:"thickness,omitempty"`
	FreeWaterPct *float64         `json:"free_water_pct,omitempty"`
	MaxMinutes   *measure.Minute  `json:"max_minutes,omitempty"`

	Browning Browning `json:"-"`
}

// DonenessTarget is the doneness of one part.
type DonenessTarget struct {
	Of string  `json:"of"`
	At float64 `json:"at"`
}

type untilObject Until

// MarshalJSON writes the browning of a caramel as a string.
func (u Until) MarshalJSON() ([]byte, error) {
	if u.Browning != "" {
		return json.Marshal(u.Browning)
	}
	return json.Marshal(untilObject(u))
}

// UnmarshalJSON reads either form.
func (u *Until) UnmarshalJSON(data []byte) error {
	if json.Unmarshal(data, &u.Browning) == nil {
		return nil
	}
	return json.Unmarshal(data, (*untilObject)(u))
}

// defaultMaxMinutes guards every target. Source: the plan format.
const defaultMaxMinutes measure.Minute = 240

// Guard returns the longest the step may take to meet its target.
func (u Until) Guard() measure.Minute {
	if u.MaxMinutes != nil {
		return *u.MaxMinutes
	}
	return defaultMaxMinutes
}

// PressOf is one pressing of coconut.
type PressOf struct {
	WaterML measure.Millilitre `json:"water_ml"`
	TempC   *measure.Celsius   `json:"temp_c,omitempty"`
}

// A Step is one step of a plan. Only the fields of its verb are set.
type Step struct {
	Do    Verb   `json:"do"`
	Note  string `json:"note,omitempty"`
	Sign  string `json:"sign,omitempty"` // by which the cook knows that it is done
	Name  string `json:"name,omitempty"`
	Of    string `json:"of,omitempty"`
	Pot   string `json:"pot,omitempty"` // empty: main
	Items []Item `json:"items,omitempty"`

	What    string           `json:"what,omitempty"`
	Minutes *measure.Minute  `json:"minutes,omitempty"`
	TempC   *measure.Celsius `json:"temp_c,omitempty"`

	In         *Item     `json:"in,omitempty"` // what a soak stands in
	KeepLiquid bool      `json:"keep_liquid,omitempty"`
	Pan        string    `json:"pan,omitempty"` // a pot in which a preparation is done; empty: any
	Fat        *Item     `json:"fat,omitempty"`
	To         GrindTo   `json:"to,omitempty"` // of a grind
	Pct        *float64  `json:"pct,omitempty"`
	Coconuts   float64   `json:"coconuts,omitempty"`
	Presses    []PressOf `json:"presses,omitempty"`
	Strain     *bool     `json:"strain,omitempty"` // nil: yes

	Flame    vessel.Flame  `json:"flame,omitempty"`
	FlamePct *float64      `json:"flame_pct,omitempty"`
	FlameW   *measure.Watt `json:"flame_w,omitempty"` // into the pot
	Until    *Until        `json:"until,omitempty"`
	Lid      *bool         `json:"lid,omitempty"` // nil: the verb's own default
	Stir     Stir          `json:"stir,omitempty"`
	Slowly   bool          `json:"slowly,omitempty"`
	Topping  bool          `json:"topping,omitempty"`
	Manner   []Manner      `json:"manner,omitempty"`

	Whistles int     `json:"whistles,omitempty"`
	Release  Release `json:"release,omitempty"`

	ToC          *measure.Celsius `json:"to_c,omitempty"`
	Where        Where            `json:"where,omitempty"`
	Hours        *float64         `json:"hours,omitempty"`
	BakeIn       Oven             `json:"-"` // "in" of a bake: oven, slow-cooker, microwave
	OvenC        *measure.Celsius `json:"oven_c,omitempty"`
	PowerW       *measure.Watt    `json:"power_w,omitempty"`
	Covered      bool             `json:"covered,omitempty"`
	StirEveryMin *measure.Minute  `json:"stir_every_min,omitempty"`

	Bowls  int `json:"bowls,omitempty"`
	Slices int `json:"slices,omitempty"`
}

type stepObject Step

// bakeObject carries the one key that means a word in bake and an item in soak.
type bakeObject struct {
	stepObject
	In Oven `json:"in,omitempty"`
}

// MarshalJSON writes the "in" of a bake as a word.
func (s Step) MarshalJSON() ([]byte, error) {
	if s.Do == Bake {
		return json.Marshal(bakeObject{stepObject(s), s.BakeIn})
	}
	return json.Marshal(stepObject(s))
}

// UnmarshalJSON reads either form of "in".
func (s *Step) UnmarshalJSON(data []byte) error {
	var verb struct {
		Do Verb `json:"do"`
	}
	if err := json.Unmarshal(data, &verb); err != nil {
		return err
	}
	if verb.Do != Bake {
		return json.Unmarshal(data, (*stepObject)(s))
	}
	var b bakeObject
	if err := json.Unmarshal(data, &b); err != nil {
		return err
	}
	*s = Step(b.stepObject)
	s.BakeIn = b.In
	return nil
}

// PotName returns the pot of the step.
func (s *Step) PotName() string {
	if s.Pot == "" {
		return MainPot
	}
	return s.Pot
}

// Stirring returns the rhythm of a heat step.
func (s *Step) Stirring() Stir {
	if s.Stir == "" {
		return StirOften
	}
	return s.Stir
}

// TakesFromPot reports whether a step takes from a pot that cooks: a preparation
// that does cannot be made at another time.
func (s *Step) TakesFromPot() bool {
	return slices.ContainsFunc(s.Items, func(item Item) bool { return item.Pot != "" })
}

// Lidded reports whether the pot is covered: by default only while cooling.
func (s *Step) Lidded() bool {
	if s.Lid == nil {
		return s.Do == Cool
	}
	return *s.Lid
}

// FullMinutes returns the minutes of the step: its own, or else those that its
// work usually takes; 0 for a verb that takes none.
func (s *Step) FullMinutes() measure.Minute {
	switch {
	case s.Minutes != nil:
		return *s.Minutes
	case s.Do == Press:
		return Press.Descriptor().Usual * measure.Minute(len(s.Presses)) // each is counted
	case s.Do == Fry:
		var sum measure.Minute
		for _, item := range s.Items {
			sum += s.FryMinutes(item)
		}
		return sum
	}
	return s.Do.Descriptor().Usual
}

// FatOf names the fat that is left when a garnish was fried, where it is used by itself.
func FatOf(fried string) string { return fried + fatSuffix }

const fatSuffix = ".fat"

// LeavesFat reports whether the fat of a fry is used by itself; where it is not, it goes
// with what was fried in it.
func (p *Plan) LeavesFat(s *Step) bool {
	if s.Do != Fry || s.Fat == nil {
		return false
	}
	is := func(item Item) bool { return item.Part == FatOf(s.Name) }
	return slices.ContainsFunc(p.Steps, func(other Step) bool {
		return slices.ContainsFunc(other.Items, is) || (other.Fat != nil && is(*other.Fat)) || (other.In != nil && is(*other.In))
	})
}

// FryMinutes returns how long one item of a fry is in the fat.
func (s *Step) FryMinutes(item Item) measure.Minute {
	if item.Minutes != nil {
		return *item.Minutes
	}
	return Fry.Descriptor().Usual // each by itself
}

// HandsOn returns the minutes that a preparation keeps the hands busy.
func (s *Step) HandsOn() measure.Minute {
	if most := s.Do.Descriptor().MostHands; most > 0 {
		return min(most, s.FullMinutes())
	}
	return s.FullMinutes()
}

// Strained reports whether a syrup goes through a sieve.
func (s *Step) Strained() bool { return s.Strain == nil || *s.Strain }

// Burns reports whether the flame of a heat step is on.
func (s *Step) Burns() bool {
	return s.FlameW != nil || s.ByEye() || s.FlamePercent() > 0
}

// ByEye reports whether the flame is what a cook turns to by eye.
func (s *Step) ByEye() bool { return s.FlamePct == nil && s.FlameW == nil && s.Flame.Regulated() }

// TurnTo sets the flame of a step to a mark of the knob, or to what is kept by eye.
func (s *Step) TurnTo(flame vessel.Flame) { s.Flame, s.FlamePct, s.FlameW = flame, nil, nil }

// GoesSlowly reports whether what goes in is poured slowly.
func (s *Step) GoesSlowly() bool { return s.Slowly || slices.Contains(s.Manner, Slowly) }

// Regulated reports whether a pot of the plan is kept at its boil by eye.
func (p *Plan) Regulated() bool {
	return slices.ContainsFunc(p.Steps, func(s Step) bool { return s.Do == Heat && s.ByEye() })
}

// FlameShare returns the flame of a step as a share of its burner, 0 to 1; 0 for one
// that is turned to by eye.
func (p *Plan) FlameShare(s *Step) float64 {
	if s.FlameW != nil {
		full, _ := p.BurnerOf(s.PotName()).Power(vessel.High, 0)
		return min(1, measure.Ratio(float64(*s.FlameW), float64(full)))
	}
	return s.FlamePercent() / 100
}

// FlamePercent returns the flame of a heat step in per cent of full power; 0 for one
// that is turned to by eye, or given in watts.
func (s *Step) FlamePercent() float64 {
	if s.FlamePct != nil {
		return *s.FlamePct
	}
	percent, _ := s.Flame.Percent()
	return percent
}
