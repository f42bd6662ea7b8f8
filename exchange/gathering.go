package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
)

// GatheringFormat is the name and version of the document.
const GatheringFormat = "kirdu-gathering/1"

// MaxGatheringBytes bounds a document.
const MaxGatheringBytes = timetable.MostPuddings*plan.MaxBytes + 1<<16

// A Gathering is what a document holds: the core counts minutes, people read
// clocks.
type Gathering struct {
	*timetable.Gathering
	ServeAt time.Time
}

// document is a gathering as it is written.
type document struct {
	Format   string                      `json:"format"`
	Name     string                      `json:"name"`
	ServeAt  string                      `json:"serve_at"`
	Hands    *float64                    `json:"hands"`
	Burners  map[string]timetable.Burner `json:"burners"`
	Pots     map[string]vessel.Pot       `json:"pots"`
	Ovens    *float64                    `json:"ovens"`
	FridgeL  *float64                    `json:"fridge_l"`
	Puddings []struct {
		Plan    json.RawMessage `json:"plan"`
		ServeAt string          `json:"serve_at"`
	} `json:"puddings"`
}

// mostApart bounds how far a pudding is served from the rest.
const mostApart = 48 * time.Hour

// Faults of a gathering.
var (
	errFormat     = measure.Code("exchange.format").With(GatheringFormat)
	errTime       = measure.Code("exchange.time")
	errHands      = measure.Code("exchange.hands").With(timetable.MostHands)
	errOvens      = measure.Code("exchange.ovens").With(timetable.MostOvens)
	errFridge     = measure.Code("exchange.fridge").With(timetable.MostFridgeL)
	errNone       = measure.Code("exchange.none")
	errMany       = measure.Code("exchange.many").With(timetable.MostPuddings)
	errBurners    = measure.Code("exchange.burners")
	errUnknownKey = measure.Code("exchange.unknown-key")
	errNotJSON    = measure.Code("exchange.not-json")
	errApart      = measure.Code("exchange.apart")
	errLarge      = measure.Code("exchange.large")
)

// ReadGathering reads a gathering. All faults come back at once as measure.Faults, those
// of a plan under its place.
func ReadGathering(data []byte) (*Gathering, error) {
	if len(data) > MaxGatheringBytes {
		return nil, measure.Faults{{Field: "gathering", Err: errLarge}}
	}
	var d document
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&d); err != nil {
		return nil, measure.Faults{jsonFault(err)}
	}
	var faults measure.Faults
	fault := func(path string, err error) {
		faults = append(faults, &measure.FieldError{Field: path, Err: err})
	}
	g := &Gathering{Gathering: &timetable.Gathering{Name: d.Name, Burners: d.Burners, Pots: d.Pots, Hands: 1,
		Ovens: timetable.DefaultOvens, FridgeL: timetable.DefaultFridgeL}}
	if d.Format != GatheringFormat {
		fault("format", errFormat)
	}
	var err error
	if g.ServeAt, err = time.Parse(time.RFC3339, d.ServeAt); err != nil {
		fault("serve_at", errTime)
	}
	whole := func(path string, value *float64, into *int, low, high int, err error) {
		switch {
		case value == nil:
		case *value != math.Trunc(*value) || *value < float64(low) || *value > float64(high):
			fault(path, err)
		default:
			*into = int(*value)
		}
	}
	whole("hands", d.Hands, &g.Hands, 1, timetable.MostHands, errHands)
	whole("ovens", d.Ovens, &g.Ovens, 0, timetable.MostOvens, errOvens)
	if d.FridgeL != nil {
		if g.FridgeL = *d.FridgeL; !(g.FridgeL >= 0 && g.FridgeL <= timetable.MostFridgeL) {
			fault("fridge_l", errFridge)
		}
	}
	if len(g.Burners) == 0 {
		fault("burners", errBurners)
	}
	for _, name := range slices.Sorted(maps.Keys(g.Burners)) {
		b := g.Burners[name]
		if b.PowerW == 0 {
			b.PowerW = vessel.DefaultBurner().PowerW
		}
		if b.Efficiency == 0 {
			b.Efficiency = vessel.DefaultBurner().Efficiency
		}
		if b.Kind == "" {
			b.Kind = vessel.DefaultBurner().Kind
		}
		faults = inside(faults, "burners."+name, b.Check())
		if b.MaxPotMM != 0 {
			faults = vessel.PotMM.Hold(faults, "burners."+name+".max_pot_mm", float64(b.MaxPotMM))
		}
		b.Name = name
		g.Burners[name] = b
	}
	for _, name := range slices.Sorted(maps.Keys(g.Pots)) {
		faults = inside(faults, "pots."+name, g.Pots[name].Check())
	}
	switch n := len(d.Puddings); {
	case n == 0:
		fault("puddings", errNone)
	case n > timetable.MostPuddings:
		fault("puddings", errMany)
		return nil, faults
	}
	for i, p := range d.Puddings {
		path := fmt.Sprintf("puddings[%d]", i)
		one := timetable.Pudding{}
		if p.ServeAt != "" {
			at, err := time.Parse(time.RFC3339, p.ServeAt)
			apart := at.Sub(g.ServeAt)
			switch {
			case err != nil:
				fault(path+".serve_at", errTime)
			case apart.Abs() > mostApart:
				fault(path+".serve_at", errApart)
			}
			one.Serve = measure.Minute(apart.Minutes())
		}
		one.Plan, err = plan.Read(p.Plan)
		if found, ok := errors.AsType[measure.Faults](err); ok {
			for _, f := range found {
				fault(path+".plan."+f.Field, f.Err)
			}
		} else if err != nil {
			return nil, err
		}
		g.Puddings = append(g.Puddings, one)
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	return g, nil
}

// inside puts the faults of a part under its place.
func inside(faults measure.Faults, place string, err error) measure.Faults {
	found, _ := errors.AsType[measure.Faults](err)
	for _, f := range found {
		faults = append(faults, &measure.FieldError{Field: place + "." + f.Field, Value: f.Value, Err: f.Err})
	}
	return faults
}

// jsonFault says what is wrong with a text that is no document, and where.
func jsonFault(err error) *measure.FieldError {
	if wrong, ok := errors.AsType[*json.UnmarshalTypeError](err); ok {
		is := map[string]string{"string": "a text in quotes", "number": "a number", "bool": "true or false", "array": "a list",
			"object": "an object"}[strings.Fields(wrong.Value + " ")[0]]
		return &measure.FieldError{Field: wrong.Field, Err: measure.Code("exchange.cannot-stand").With(is)}
	}
	if broken, ok := errors.AsType[*json.SyntaxError](err); ok {
		return &measure.FieldError{Field: "gathering", Err: measure.Code("exchange.json-at").With(broken.Offset)}
	}
	if key, found := strings.CutPrefix(err.Error(), "json: unknown field "); found {
		return &measure.FieldError{Field: strings.Trim(key, `"`), Err: errUnknownKey}
	}
	return &measure.FieldError{Field: "gathering", Err: errNotJSON}
}

// Moment is a time of a timetable on the clock, to the second.
func Moment(serve time.Time, after measure.Minute) time.Time {
	return serve.Add(time.Duration(math.Round(float64(after)*measure.SecondsPerMinute)) * time.Second)
}

// writtenTask is a task as it is written.
type writtenTask struct {
	timetable.Task
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}

// A Late pudding is one that is not ready in time, as it is written.
type Late struct {
	Pudding int     `json:"pudding"`
	Minutes float64 `json:"minutes"` // 0 where it cannot be cooked at all
	Why     string  `json:"why"`
	Remedy  string  `json:"remedy"`
}

// A Found is a stop or a warning about a pudding on the burners that it has, as it is written.
type Found struct {
	Pudding  int    `json:"pudding"`
	Rule     string `json:"rule"`
	Severity string `json:"severity"`
	Step     int    `json:"step"`
	Message  string `json:"message"`
}

// unplaced is a pudding that has no place in a timetable.
type unplaced struct {
	Pudding int    `json:"pudding"`
	Why     string `json:"why"`
}

// spanned is a stretch of the clock, as it is written.
type spanned struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// Timetable writes a timetable as the plan format has it, with what is late and what was found in
// words.
func Timetable(t *timetable.Timetable, serve time.Time, late []Late, found []Found) ([]byte, error) {
	written := struct {
		Tasks    []writtenTask `json:"tasks"`
		Late     []Late        `json:"late"`
		StartsAt *time.Time    `json:"starts_at"` // null where nothing can be cooked

		Findings  []Found    `json:"findings"`
		Unplaced  []unplaced `json:"unplaced"`
		HandsFree []spanned  `json:"hands_free"`
	}{Tasks: []writtenTask{}, Late: append([]Late{}, late...), Findings: append([]Found{}, found...), Unplaced: []unplaced{},
		HandsFree: []spanned{}}
	for _, l := range late {
		if l.Pudding < len(t.Ready) && t.Ready[l.Pudding] == nil {
			written.Unplaced = append(written.Unplaced, unplaced{l.Pudding, l.Why})
		}
	}
	for _, free := range t.HandsFree {
		written.HandsFree = append(written.HandsFree, spanned{Moment(serve, free.Start), Moment(serve, free.End)})
	}
	for _, task := range t.Tasks {
		written.Tasks = append(written.Tasks, writtenTask{task, Moment(serve, task.Start), Moment(serve, task.End)})
	}
	if len(written.Tasks) > 0 {
		written.StartsAt = &written.Tasks[0].Start
	}
	data, err := json.MarshalIndent(written, "", " ")
	if err != nil {
		return nil, fmt.Errorf("write the timetable: %w", err)
	}
	return data, nil
}
