// Package plan is the plan document: one pudding written down completely
// enough to be computed, from what goes in to how it is served.
package plan

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// Format is the name and version of the document.
const Format = formatName + "1"

const formatName = "kirdu-plan/"

// MainPot is the pot of every step that names none.
const MainPot = "main"

// Serve is how a pudding comes to the table.
type Serve string

// The ways of serving.
const (
	Hot     Serve = "hot"
	Warm    Serve = "warm"
	Room    Serve = "room"
	Chilled Serve = "chilled"
)

// A Plan is one pudding. Read fills in the defaults of the format.
type Plan struct {
	Format      string                   `json:"format"`
	Name        string                   `json:"name"`
	Notes       string                   `json:"notes,omitempty"`
	Way         string                   `json:"way,omitempty"`
	Serves      int                      `json:"serves"`
	PortionG    measure.Gram             `json:"portion_g"`
	Serve       Serve                    `json:"serve"`
	ServedFrom  PotNames                 `json:"served_from,omitempty"` // empty: main
	KeepDays    int                      `json:"keep_days,omitempty"`
	Aim         *Aim                     `json:"aim,omitempty"`
	Eaters      *Eaters                  `json:"eaters,omitempty"`
	Kitchen     Kitchen                  `json:"kitchen"`
	Pots        map[string]vessel.Pot    `json:"pots"`
	Burner      vessel.Burner            `json:"burner"`
	Burners     map[string]vessel.Burner `json:"burners,omitempty"`
	Measures    measure.Measures         `json:"measures,omitempty"`
	Materials   []OwnMaterial            `json:"materials,omitempty"`
	Calibration Calibration              `json:"calibration,omitzero"`
	Steps       []Step                   `json:"steps"`

	pantry *pantry.Pantry // the standard one with Materials; set by Read and Clone
	us     bool           // US units beside the metric ones; set by In
}

// Aim is what the cook wants of the pudding.
type Aim struct {
	Thickness *float64           `json:"thickness,omitempty"` // grade as served, 1 to 8
	SweetPct  *float64           `json:"sweet_pct,omitempty"`
	Doneness  map[string]float64 `json:"doneness,omitempty"` // by part
}

// Eaters says who must be minded.
type Eaters struct {
	UnderFive  bool     `json:"under_five,omitempty"`
	AllergicTo []string `json:"allergic_to,omitempty"`
}

// Kitchen is the room the pudding is cooked in.
type Kitchen struct {
	AmbientC    measure.Celsius `json:"ambient_c"`
	HumidityPct float64         `json:"humidity_pct"`
	AltitudeM   float64         `json:"altitude_m"` // above sea level
	TapC        measure.Celsius `json:"tap_c"`
	ScaleLimitG measure.Gram    `json:"scale_limit_g"`
}

// Calibration holds what was learnt in this kitchen; nil means nothing was.
type Calibration struct {
	Evaporation     *Learnt           `json:"evaporation,omitempty"` // factor on the power into the pot
	CookTime        map[string]Learnt `json:"cook_time,omitempty"`   // factor by grain
	ThicknessOffset *Learnt           `json:"thickness_offset,omitempty"`
	WhistleMin      *Learnt           `json:"whistle_min,omitempty"`
}

// Learnt is a value with its standard deviation, nil if none was given. It is
// written as a bare number in that case.
type Learnt struct {
	Value float64
	SD    *float64
}

// MarshalJSON writes a number, or value and sd.
func (l Learnt) MarshalJSON() ([]byte, error) {
	if l.SD == nil {
		return json.Marshal(l.Value)
	}
	return json.Marshal(map[string]float64{"value": l.Value, "sd": *l.SD})
}

// UnmarshalJSON reads either form.
func (l *Learnt) UnmarshalJSON(data []byte) error {
	if json.Unmarshal(data, &l.Value) == nil {
		return nil
	}
	var pair struct {
		Value float64  `json:"value"`
		SD    *float64 `json:"sd"`
	}
	if err := json.Unmarshal(data, &pair); err != nil {
		return err
	}
	l.Value, l.SD = pair.Value, pair.SD
	return nil
}

// PotNames is one pot or a list of them.
type PotNames []string

// MarshalJSON writes a single name as a string.
func (n PotNames) MarshalJSON() ([]byte, error) {
	if len(n) == 1 {
		return json.Marshal(n[0])
	}
	return json.Marshal([]string(n))
}

// UnmarshalJSON reads a string or a list.
func (n *PotNames) UnmarshalJSON(data []byte) error {
	var one string
	if json.Unmarshal(data, &one) == nil {
		*n = PotNames{one}
		return nil
	}
	return json.Unmarshal(data, (*[]string)(n))
}

// OwnMaterial is a material of the cook's own, in the columns of the pantry's
// table, per 100 g.
type OwnMaterial struct {
	Slug       string       `json:"slug"`
	Name       string       `json:"name"`
	Kind       string       `json:"kind,omitempty"`
	Behaviour  string       `json:"behaviour"`
	Traits     string       `json:"traits,omitempty"` // separated by ";"
	UsualState pantry.State `json:"usual_state,omitempty"`
	Water      float64      `json:"water"`
	Fat        float64      `json:"fat,omitempty"`
	Protein    float64      `json:"protein,omitempty"`
	Lactose    float64      `json:"lactose,omitempty"`
	Sucrose    float64      `json:"sucrose,omitempty"`
	Glucose    float64      `json:"glucose,omitempty"`
	Fructose   float64      `json:"fructose,omitempty"`
	Starch     float64      `json:"starch,omitempty"`
	Fibre      float64      `json:"fibre,omitempty"`
	Ash        float64      `json:"ash,omitempty"`
	Other      float64      `json:"other,omitempty"`
	EnergyKcal float64      `json:"energy_kcal,omitempty"`
	SodiumMg   float64      `json:"sodium_mg,omitempty"`
	Bulk       float64      `json:"bulk_g_per_ml"`
	PieceG     float64      `json:"piece_g,omitempty"`
	PieceName  string       `json:"piece_name,omitempty"`
	PH         float64      `json:"ph,omitempty"`
	Buffer     float64      `json:"buffer,omitempty"`
	Allergens  string       `json:"allergens,omitempty"` // separated by ";"
	Gluten     string       `json:"gluten,omitempty"`
	Vegan      string       `json:"vegan,omitempty"`
	AcidNote   string       `json:"acid_note,omitempty"`
	SourceNote string       `json:"source_note,omitempty"`
	Kinetics   *OwnKinetics `json:"kinetics,omitempty"`
	Aliases    []string     `json:"aliases,omitempty"` // other names, for search
}

// OwnKinetics are the cooking figures of an own grain, vegetable or fruit.
type OwnKinetics struct {
	CookMinutes  float64 `json:"cook_min_98c,omitempty"`
	SoakedFactor float64 `json:"soaked_cook_factor,omitempty"`
	SoakUptake   float64 `json:"soak_uptake_g_per_g,omitempty"`
	SoakHalf     float64 `json:"soak_half_min,omitempty"`
	MaxUptake    float64 `json:"max_uptake_g_per_g,omitempty"`
	UptakeRate   float64 `json:"uptake_rate,omitempty"`
	ReleaseDone  float64 `json:"release_at_done,omitempty"`
	ReleaseMax   float64 `json:"release_max,omitempty"`
	StarchWeight float64 `json:"starch_weight,omitempty"`
	SetWeight    float64 `json:"set_weight,omitempty"`
	AcidHardens  string  `json:"acid_hardens,omitempty"`
	WantedLow    float64 `json:"wanted_done_low,omitempty"`
	WantedHigh   float64 `json:"wanted_done_high,omitempty"`
	Note         string  `json:"note,omitempty"`

	KeptRaw  float64 `json:"water_kept_raw_g_per_g,omitempty"`  // of a vegetable or fruit; 0: all its water
	KeptDone float64 `json:"water_kept_done_g_per_g,omitempty"` // the same when done; 0: a usual share of that
}

// Pantry returns the materials that this plan may name.
func (p *Plan) Pantry() *pantry.Pantry {
	if p.pantry == nil {
		return pantry.Standard()
	}
	return p.pantry
}

// Served returns the names of the pots that come to the table.
func (p *Plan) Served() []string {
	if len(p.ServedFrom) == 0 {
		return []string{MainPot}
	}
	return p.ServedFrom
}

// BurnerOf returns the burner that a pot stands on.
func (p *Plan) BurnerOf(pot string) vessel.Burner {
	if own, ok := p.Burners[p.Pots[pot].Burner]; ok {
		return own
	}
	return p.Burner
}

// Weigh returns the material of an item and its mass in this plan's measures.
// The item must name a material and an amount. Errors: those of
// measure.ParseAmount and measure.Measures.Grams.
func (p *Plan) Weigh(item Item) (*pantry.Material, measure.Gram, error) {
	material, ok := p.Pantry().Material(item.Material)
	if !ok {
		return nil, 0, ErrUnknownMaterial
	}
	amount, err := measure.ParseAmount(item.Amount)
	if err != nil {
		return material, 0, err
	}
	mass, err := p.Measures.Grams(amount, material.Body())
	if errors.Is(err, measure.ErrUnknownUnit) && material.IsCalled(amount.Unit) {
		mass, err = p.Measures.Grams(measure.Amount{Number: amount.Number, Unit: "piece"}, material.Body())
	}
	return material, mass, err
}

// JSON returns the document, indented. Read returns an equal plan from it.
func (p *Plan) JSON() ([]byte, error) {
	data, err := json.MarshalIndent(p, "", " ")
	if err != nil {
		return nil, fmt.Errorf("write plan %q: %w", p.Name, err)
	}
	return append(data, '\n'), nil
}

// PotNamesSorted returns the names of the plan's pots, main first.
func (p *Plan) PotNamesSorted() []string {
	names := make([]string, 0, len(p.Pots))
	for name := range p.Pots {
		if name != MainPot {
			names = append(names, name)
		}
	}
	slices.Sort(names)
	return append([]string{MainPot}, names...)
}

// RoomBounds are those of a Kitchen, by their names in the plan format.
var RoomBounds = map[string]measure.Bound{
	"ambient_c":     {Low: -10, High: 50},
	"humidity_pct":  {Low: 0, High: 100},
	"altitude_m":    {Low: -400, High: 5000},
	"tap_c":         {Low: 0, High: 40},
	"scale_limit_g": {Low: 500, High: 100_000},
}

// DefaultKitchen is the room of a plan that says nothing of it. Source: the plan
// format.
func DefaultKitchen() Kitchen {
	return Kitchen{AmbientC: 24, HumidityPct: 50, TapC: 18, ScaleLimitG: 5000}
}

// Texture returns how a part is between the fingers: that of the grain or vegetable it
// was made of.
func (p *Plan) Texture(part string) pantry.Texture {
	if material, ok := p.Pantry().Material(part); ok {
		return material.Texture()
	}
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Name != part {
			continue
		}
		for _, item := range s.Items {
			if m, ok := p.Pantry().Material(item.Material); ok && m.Kinetics != nil {
				return m.Texture()
			}
		}
		if s.Of != "" && s.Of != part {
			return p.Texture(s.Of)
		}
	}
	return pantry.Grainy
}

// PartName returns a part as a cook would call it: by its material, if it is
// named after one.
func (p *Plan) PartName(part string) string {
	if material, ok := p.Pantry().Material(part); ok {
		return material.Name
	}
	if fried, is := strings.CutSuffix(part, fatSuffix); is && p.Maker(part) >= 0 {
		return "the fat left of " + p.PartName(fried)
	}
	return p.spoken(part)
}

// made is how a part is called by what was done with it, where it is one that the ways and the recipes name.
var made = map[Verb]string{Soak: "soaked", Roast: "roasted", Fry: "fried", Steam: "steamed", Prep: "grated"}

// spoken is the name of a part as somebody would say it: "soaked basmati rice" for the grain of a way. What a cook
// named stays as it is.
func (p *Plan) spoken(part string) string {
	at := p.Maker(part)
	if at < 0 {
		return part
	}
	material := ""
	for _, item := range p.Steps[at].Items {
		if item.Part != "" && part == "tempered" {
			material = p.PartName(item.Part)
		}
		if m, ok := p.Pantry().Material(item.Material); ok && m.Behaviour != pantry.Liquid && material == "" {
			material = strings.ToLower(m.ShortName())
		}
	}
	if material == "" {
		return part
	}
	switch part {
	case "grain", "pulse", "lentil", "noodle", "pearls":
		if how, known := made[p.Steps[at].Do]; known {
			return how + " " + material
		}
	case "grated", "swollen", "tempered":
		return part + " " + material
	}
	return part
}
