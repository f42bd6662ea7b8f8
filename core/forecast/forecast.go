// Package forecast runs a plan through its pots and tells what will come of it.
package forecast

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/plan"
)

// Format is the name and version of the answer.
const Format = "kirdu-forecast/1"

// Edition is that of the model, docs/model.md: what was learnt with an older one is
// worked out anew.
const Edition = 2

// Severity says how much a finding matters.
type Severity string

// The severities, rising.
const (
	Note    Severity = "note"
	Warning Severity = "warning"
	Stop    Severity = "stop"
)

// A Forecast is what will come of a plan. Masses are in g, volumes in ml,
// levels in mm above the inner bottom, times in minutes from the first step of
// the served pot, temperatures in °C, shares in per cent.
type Forecast struct {
	Format      string                   `json:"format"`
	Steps       []StepResult             `json:"steps"`
	Curve       Curve                    `json:"curve"`
	Marks       []Mark                   `json:"marks"`
	Yield       Yield                    `json:"yield"`
	Sweetness   Sweetness                `json:"sweetness"`
	Thickness   Thickness                `json:"thickness"`
	Doneness    map[string]measure.Range `json:"doneness"`
	Time        Time                     `json:"time"`
	FatPct      float64                  `json:"fat_pct"`
	SolidsPct   float64                  `json:"solids_pct"`
	Nutrition   Nutrition                `json:"nutrition"`
	Allergens   []string                 `json:"allergens"`
	MassBalance MassBalance              `json:"mass_balance"`

	Trace []StepTrace          `json:"-"` // beside Steps, for the rules
	Work  int                  `json:"-"` // steps of time, each by what was in the pot: what a run costs
	Parts map[string]PartTrace `json:"-"` // beside Doneness

	Made map[string]measure.Gram `json:"-"` // each part that is prepared, as it is made
}

// A StepResult is the state at the end of a step. A preparation has no pot:
// there only its minutes, mass and doneness are set.
type StepResult struct {
	Index       int                `json:"index"`
	Do          plan.Verb          `json:"do"`
	Pot         *string            `json:"pot"`
	StartMin    float64            `json:"start_min"`
	EndMin      float64            `json:"end_min"`
	MassG       *float64           `json:"mass_g"`
	VolumeML    *float64           `json:"volume_ml"`
	LevelMM     *float64           `json:"level_mm"`
	TempC       *float64           `json:"temp_c"`
	EvaporatedG *float64           `json:"evaporated_g"`
	FreeWaterG  *float64           `json:"free_water_g"`
	SweetPct    *float64           `json:"sweet_pct"`
	Brix        *float64           `json:"brix"`
	PH          *float64           `json:"ph"`
	Thickness   *float64           `json:"thickness"`
	FillPct     *float64           `json:"fill_pct"`
	Scorch      *float64           `json:"scorch"` // the greatest in the step
	Watts       *float64           `json:"watts"`  // into the pot at its end
	Doneness    map[string]float64 `json:"doneness"`
}

// Curve is the course of the served pot: equal arrays, at most 600 points.
type Curve struct {
	Minute    []float64            `json:"minute"`
	MassG     []float64            `json:"mass_g"`
	LevelMM   []float64            `json:"level_mm"`
	TempC     []float64            `json:"temp_c"`
	Thickness []float64            `json:"thickness"`
	SweetPct  []float64            `json:"sweet_pct"`
	Doneness  map[string][]float64 `json:"doneness"`
}

// A Mark is a turning point: what the dip gauge and the scale show there.
type Mark struct {
	Step      int           `json:"step"`
	Label     string        `json:"label"`
	Minute    measure.Range `json:"minute"`
	MassG     float64       `json:"mass_g"`
	LevelMM   float64       `json:"level_mm"`
	MMPer100G float64       `json:"mm_per_100g"`
	ScaleG    *float64      `json:"scale_g"` // with the empty pot; null if that was never weighed
	BedShare  float64       `json:"-"`       // depth of the settled grain over the level, 0 to 1
}

// Yield is what comes out.
type Yield struct {
	MassG    measure.Range `json:"mass_g"`
	VolumeML measure.Range `json:"volume_ml"`
	Portions int           `json:"portions"`
	PortionG float64       `json:"portion_g"`
}

// Sweetness is in per cent of sucrose; Felt as it tastes at its temperature.
type Sweetness struct {
	Pct     measure.Range `json:"pct"`
	FeltPct float64       `json:"felt_pct"`
}

// Thickness is the grade from the pot to the chilled bowl; null where it does
// not apply.
type Thickness struct {
	OffHeat *measure.Range `json:"off_heat"`
	Hot     *measure.Range `json:"hot"`
	Warm    *measure.Range `json:"warm"`
	Room    *measure.Range `json:"room"`
	Chilled *measure.Range `json:"chilled"`
}

// As returns the grade as a pudding is served, nil where it does not apply.
func (t Thickness) As(serve plan.Serve) *measure.Range {
	switch serve {
	case plan.Warm:
		return t.Warm
	case plan.Room:
		return t.Room
	case plan.Chilled:
		return t.Chilled
	}
	return t.Hot
}

// Time is how long it all takes.
type Time struct {
	TotalMin   measure.Range `json:"total_min"`
	PrepMin    float64       `json:"prep_min"`
	HandsOnMin measure.Range `json:"hands_on_min"`
	FlameMin   measure.Range `json:"flame_min"`
}

// Nutrition is what one portion holds.
type Nutrition struct {
	EnergyKcal    float64 `json:"energy_kcal"`
	FatG          float64 `json:"fat_g"`
	ProteinG      float64 `json:"protein_g"`
	CarbohydrateG float64 `json:"carbohydrate_g"`
	SugarG        float64 `json:"sugar_g"`
	FibreG        float64 `json:"fibre_g"`
	SaltG         float64 `json:"salt_g"`
}

// MassBalance accounts for every gram, each loss by its own process. ErrorG is
// what they leave unexplained.
type MassBalance struct {
	InG         float64 `json:"in_g"`
	EvaporatedG float64 `json:"evaporated_g"`
	DrainedG    float64 `json:"drained_g"`
	VentedG     float64 `json:"vented_g"`
	StrainedG   float64 `json:"strained_g"`
	OutG        float64 `json:"out_g"`
	ErrorG      float64 `json:"error_g"`
}

// A Least is the smallest of what was seen. Its zero value has seen nothing.
type Least struct {
	Value float64
	Seen  bool
}

// See takes a value in, and reports whether it is the least so far.
func (l *Least) See(x float64) bool {
	if l.Seen && x >= l.Value {
		return false
	}
	*l = Least{x, true}
	return true
}

// Below reports whether anything below a limit was seen.
func (l Least) Below(limit float64) bool { return l.Seen && l.Value < limit }

// StepTrace is what the rules look at and the document does not show.
type StepTrace struct {
	NeverReached bool
	PeakFill     float64        // highest level over the height of the pot
	PeakBoilFill float64        // the same while dairy boils; 0 if it never does
	MinFreeWater Least          // free water over the flame after a liquid, per cent of the mass
	DryFor       measure.Minute // longest without free water over the flame, in a pot that had some
	PasteShare   float64        // paste and mash, of the mass, at its end
	Scorch       float64        // the greatest index
	Scorching    measure.Minute // longest above 1
	Weak         WeakFlame
	NearBoil     NearBoil
	CoolsTo      Least // where a cooling ends that its surroundings let get no further, °C

	Boiled     bool           // it came to the boil
	SplitPH    Least          // pH with what protects it, while fresh dairy was near the boil
	RawTissue  Least          // doneness of a vegetable or fruit while dairy was so hot and pH below the limit
	RawPH      float64        // the pH then
	RawName    string         // the name of the part
	EggC       float64        // the hottest that egg got, °C; 0 without egg
	EggOver    float64        // K above what it stands, at the worst
	EggLimitC  float64        // what it stood then, °C
	EggOverFor measure.Minute // longest above it
	CaramelC   float64        // how hot a caramel came off the flame, °C
}

// NearBoil is how long a pot is within 4 K of its limit, how hot it gets then, and
// where that limit is.
type NearBoil struct {
	Minutes       measure.Minute
	MostC, LimitC measure.Celsius
}

// A WeakFlame is one that cannot bring the pot where it is wanted.
type WeakFlame struct {
	Seen     bool
	SettlesC measure.Celsius // what it comes to
	Needs    measure.Watt    // what would keep it where it is wanted
}

// PartTrace is what the rules want to know of a part that is served.
type PartTrace struct {
	WantedLow, WantedHigh float64 // doneness
	Aimed                 bool    // the cook asks for it
	AcidHardens           bool    // a pulse, which acid keeps hard
	VolumeShare           float64 // of the finished pudding, 0 to 1
}

// Seen is what was seen of a pot, at a minute of its own clock: the run goes on from it.
type Seen struct {
	Pot     string           // "" for the first served pot
	Minute  measure.Minute   // from the first step of that pot
	Mass    measure.Gram     // of the contents; 0 if it was not weighed
	Celsius *measure.Celsius // nil if it was not measured
	// Part is one that was felt, "" if none was; its doneness lies from Low to High.
	Part      string
	Low, High float64
	Boils     bool // it boils
	Opened    bool // a cooker under pressure was opened: that step ends just then
}

// Options change how a plan is run; the zero value runs it as written.
type Options struct {
	// Seen corrects the pots as time passes it. It is in order of time.
	Seen []Seen
	// NominalOnly leaves out the ranges: Low and High are the value itself.
	NominalOnly bool
	// CourseOnly leaves out the ranges and the thickness in the bowl, for
	// callers that ask for the course of many variants.
	CourseOnly bool
	// Coarse takes longer steps of time, 80 s: a few times faster, for callers
	// that look for the best of many variants.
	Coarse bool
}

// DoneAt returns the minute at which a part of the served pot reaches a doneness,
// +Inf if it never does.
func (f *Forecast) DoneAt(part string, doneness float64) float64 {
	for k, done := range f.Curve.Doneness[part] {
		if done >= doneness {
			return f.Curve.Minute[k]
		}
	}
	return math.Inf(1)
}

// MostScorch returns the highest scorch index and the step that has it, -1 where
// nothing can scorch.
func (f *Forecast) MostScorch() (step int, index float64) {
	step = -1
	for i := range f.Steps {
		if s := f.Steps[i].Scorch; s != nil && *s > index {
			step, index = i, *s
		}
	}
	return step, index
}

// LeastSplitPH returns how near fresh milk came to splitting, as the pH near the
// boil with what protects it counted in, and the step of it; ok is false where no
// fresh milk comes near the boil.
func (f *Forecast) LeastSplitPH() (step int, ph float64, ok bool) {
	for i := range f.Trace {
		if here := f.Trace[i].SplitPH; here.Seen && (!ok || here.Value < ph) {
			step, ph, ok = i, here.Value, true
		}
	}
	return step, ph, ok
}

// significantDigits is how exactly figures are printed: well beyond what they
// are worth, and few enough that every machine prints the same.
const significantDigits = 6

func rounded(x float64) float64 { return measure.RoundSignificant(x, significantDigits) }

func roundedPtr(x float64) *float64 {
	r := rounded(x)
	return &r
}
