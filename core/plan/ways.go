package plan

import (
	"bytes"
	"embed"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// A Way is one way of cooking: a plan to start from, what may be chosen in it,
// and what it is loved for.
type Way struct {
	Name       string   `json:"way"`
	About      string   `json:"about"`
	BaseWord   string   `json:"base_word"`
	Bases      []string `json:"bases"` // slugs, the usual one first
	LiquidWord string   `json:"liquid_word"`
	Liquids    []string `json:"liquids"` // slugs of what it is cooked in or sweetened with
	Serve      []Serve  `json:"serve"`   // as it may be served, the usual one first
	Finishes   []Finish `json:"finishes"`
	Part       string   `json:"part"`          // the part that its doneness is meant of; empty: the base
	Thick      string   `json:"thick"`         // slug of what it is made thicker with; empty: the base
	Water      float64  `json:"water_follows"` // the power of that by which water grows with it
	WithBase   []string `json:"with_base"`     // slugs that grow with it: the coconut of a pulse
	Least      int      `json:"least_bowls"`   // fewer boil away before they are soft
	Cook       int      `json:"cook"`          // the step that decides how soft it gets, -1 for none

	Plan json.RawMessage `json:"plan"` // with the usual base and liquid
	Aim  WayAim          `json:"-"`
}

// A Finish is one of several endings of a way.
type Finish struct {
	Name       string                `json:"name"`
	Steps      []Step                `json:"steps"`
	Pots       map[string]vessel.Pot `json:"pots"`
	ServedFrom PotNames              `json:"served_from"`
}

// WayAim is what a way is loved for. Hot is NaN for one that is only eaten
// cold, Done for one without grain.
type WayAim struct {
	Hot, Chilled, Sweet, Done float64
}

//go:embed ways/*.json ways/aims.csv
var wayFiles embed.FS

// Ways returns the ways of cooking, in the order of their files. They are part
// of the program: a fault in them is a mistake of ours and panics.
var Ways = sync.OnceValue(func() []Way {
	ways, err := loadWays()
	if err != nil {
		panic(err)
	}
	return ways
})

func loadWays() ([]Way, error) {
	aims, err := loadAims()
	if err != nil {
		return nil, err
	}
	files, err := wayFiles.ReadDir("ways")
	if err != nil {
		return nil, fmt.Errorf("ways: %w", err)
	}
	var ways []Way
	for _, file := range files {
		if !strings.HasSuffix(file.Name(), ".json") {
			continue
		}
		data, err := wayFiles.ReadFile("ways/" + file.Name())
		if err != nil {
			return nil, fmt.Errorf("ways: %w", err)
		}
		var w Way
		if err := json.Unmarshal(data, &w); err != nil {
			return nil, fmt.Errorf("way %s: %w", file.Name(), err)
		}
		aim, ok := aims[w.Name]
		if !ok {
			return nil, fmt.Errorf("way %s: %q has no row in aims.csv", file.Name(), w.Name)
		}
		w.Aim = aim
		ways = append(ways, w)
	}
	return ways, nil
}

// loadAims reads the table of the ways: grades of thickness, per cent of
// sweetness, doneness.
func loadAims() (map[string]WayAim, error) {
	data, err := wayFiles.ReadFile("ways/aims.csv")
	if err != nil {
		return nil, fmt.Errorf("aims of the ways: %w", err)
	}
	rows, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
	if err != nil {
		return nil, fmt.Errorf("aims of the ways: %w", err)
	}
	aims := map[string]WayAim{}
	for _, row := range rows[1:] {
		var numbers [4]float64
		for k := range numbers {
			numbers[k] = math.NaN()
			if text := row[2+k]; text != "" {
				if numbers[k], err = strconv.ParseFloat(text, 64); err != nil {
					return nil, fmt.Errorf("aims of %s: %w", row[0], err)
				}
			}
		}
		aims[row[0]] = WayAim{Hot: numbers[0], Chilled: numbers[1], Sweet: numbers[2], Done: numbers[3]}
	}
	return aims, nil
}

// WayNamed finds a way by its name.
func WayNamed(name string) (Way, bool) {
	ways := Ways()
	at := slices.IndexFunc(ways, func(w Way) bool { return w.Name == name })
	if at < 0 {
		return Way{}, false
	}
	return ways[at], true
}

// A WayChoice is what a cook chooses when a new pudding starts from a way.
type WayChoice struct {
	Way    string
	Base   string // slug; empty: the usual one
	Liquid string // slug; empty: the usual one
	Finish string // name; empty: the usual one
	Bowls  int
	Serve  Serve
	Pot    vessel.Pot
	Burner vessel.Burner

	Kitchen *Kitchen // the air it is cooked in; nil: the usual

	// How this household likes it beside what the way is loved for: grades thicker, and the logarithm of how much
	// further cooked.
	Thicker, Softer float64
}

// SweetenMinutes is how long the pot simmers on when the sugar is in: until it
// is dissolved and tasted.
const SweetenMinutes measure.Minute = 5

// StandMinutes is how long a pudding stands before it is chilled: until the
// worst steam is gone.
const StandMinutes measure.Minute = 20

// ChillHours is how long it takes until it is cold through.
const ChillHours = 4.0

// Faults of a choice.
var (
	ErrNoWay     = measure.Code("plan.no-way")
	ErrWayBase   = measure.Code("plan.way-base")
	ErrWayLiquid = measure.Code("plan.way-liquid")
	ErrWayFinish = measure.Code("plan.way-finish")
	ErrWayBowls  = measure.Code("plan.way-bowls")
	ErrWayServe  = measure.Code("plan.way-serve")
)

// usual returns a choice, or the first of the list for "". Error: the given one
// when the list does not hold it.
func usual[T ~string](chosen T, list []T, fault error) (T, error) {
	switch {
	case slices.Contains(list, chosen):
		return chosen, nil
	case chosen == "" && len(list) > 0:
		return list[0], nil
	}
	return chosen, fault
}

// finishNames lists the endings of a way.
func (w Way) finishNames() []string {
	var names []string
	for _, f := range w.Finishes {
		names = append(names, f.Name)
	}
	return names
}

// Check fills in what was left open and returns what does not belong to the
// way, as measure.Faults by field.
func (w Way) Check(choice WayChoice) (WayChoice, error) {
	var faults measure.Faults
	note := func(field string, err error) {
		if err != nil {
			faults = append(faults, &measure.FieldError{Field: field, Err: err})
		}
	}
	var err error
	choice.Way = w.Name
	choice.Base, err = usual(choice.Base, w.Bases, ErrWayBase)
	note("base", err)
	choice.Liquid, err = usual(choice.Liquid, w.Liquids, ErrWayLiquid)
	note("liquid", err)
	choice.Serve, err = usual(choice.Serve, w.Serve, ErrWayServe)
	note("serve", err)
	if choice.Bowls > 0 && choice.Bowls < w.Least {
		note("bowls", ErrWayBowls.With(w.Least))
	}
	if len(w.Finishes) > 0 || choice.Finish != "" {
		choice.Finish, err = usual(choice.Finish, w.finishNames(), ErrWayFinish)
		note("finish", err)
	}
	return choice, faults.Err()
}

// Typical is a plan of the way as it is usual, six bowls in a pot with room, to be looked at. Errors: those of Check
// and Start.
func (w Way) Typical() (*Plan, error) {
	const bowls = 6
	choice, err := w.Check(WayChoice{})
	if err != nil {
		return nil, err
	}
	choice.Bowls, choice.Burner = bowls, vessel.DefaultBurner()
	choice.Pot = vessel.Pot{Shape: vessel.Straight, DiameterMM: 240, HeightMM: 160}
	return w.Start(choice)
}

// Start writes down the plan of a checked choice with the amounts of its
// template for so many bowls: they still have to be fitted to pot and flame.
func (w Way) Start(choice WayChoice) (*Plan, error) {
	p := &Plan{}
	if err := json.Unmarshal(w.Plan, p); err != nil {
		return nil, fmt.Errorf("way %s: %w", w.Name, err)
	}
	for _, f := range w.Finishes {
		if f.Name != choice.Finish {
			continue
		}
		p.Steps = append(p.Steps, f.Steps...)
		p.ServedFrom = f.ServedFrom
		for name, pot := range f.Pots {
			p.Pots[name] = pot
		}
	}
	if choice.Pot.Shape != "" {
		p.Pots[MainPot] = choice.Pot
	}
	p.Burner, p.Kitchen = choice.Burner, DefaultKitchen()
	if choice.Kitchen != nil {
		p.Kitchen = *choice.Kitchen
	}
	p.Replace(w.Bases[0], choice.Base, 1)
	p.Replace(w.Liquids[0], choice.Liquid, 1)
	p.Name = nameOf(p.Name, choice)
	p.forgetPulp(choice.Base)
	p.ServeAs(choice.Serve)
	p, err := Reread(p)
	if err != nil {
		return nil, fmt.Errorf("way %s: %w", w.Name, err)
	}
	p.Scale(choice.Bowls)
	return p, nil
}

// forgetPulp leaves out the wait until a base is soft where it is a pulp, which
// has nothing to soften.
func (p *Plan) forgetPulp(base string) {
	if m, ok := pantry.Standard().Material(base); !ok || m.Kinetics != nil {
		return
	}
	for i := range p.Steps {
		if u := p.Steps[i].Until; u != nil && u.Doneness != nil && u.Doneness.Of == base {
			u.Doneness = nil
		}
	}
}

// nameOf puts the chosen materials into the name of a template.
func nameOf(template string, choice WayChoice) string {
	short := func(slug string) string {
		m, ok := pantry.Standard().Material(slug)
		if !ok {
			return slug
		}
		return strings.ToLower(m.ShortName())
	}
	name := strings.NewReplacer("{base}", short(choice.Base), "{liquid}", short(choice.Liquid)).Replace(template)
	return strings.ToUpper(name[:1]) + name[1:]
}

// PartOf returns the name of the part that the doneness of a way is meant of,
// "" for a way without one.
func (w Way) PartOf(choice WayChoice) string {
	switch {
	case w.Cook < 0:
		return ""
	case w.Part != "":
		return w.Part
	}
	return choice.Base
}
