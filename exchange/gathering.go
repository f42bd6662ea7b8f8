package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"math"
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
	errFormat  = fmt.Errorf("write %q", GatheringFormat)
	errTime    = errors.New("give a time such as 2026-11-28T19:30:00+01:00")
	errHands   = fmt.Errorf("give 1 to %d people", timetable.MostHands)
	errOvens   = errors.New("give a whole number from 0 to 6")
	errFridge  = errors.New("give litres from 0 to 1000")
	errNone    = errors.New("give at least one pudding")
	errMany    = fmt.Errorf("give at most %d puddings", timetable.MostPuddings)
	errBurners = errors.New("give at least one burner")
	errPower   = errors.New("give watts from 50 to 30000")
	errApart   = errors.New("give a time within two days of the gathering's")
	errLarge   = errors.New("is too large for a gathering")
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
		return nil, measure.Faults{{Field: "gathering", Err: fmt.Errorf("is not read: %w", err)}}
	}
	var faults measure.Faults
	fault := func(path string, err error) {
		faults = append(faults, &measure.FieldError{Field: path, Err: err})
	}
	g := &Gathering{Gathering: &timetable.Gathering{Name: d.Name, Burners: d.Burners, Pots: d.Pots, Hands: 1, Ovens: timetable.DefaultOvens, FridgeL: timetable.DefaultFridgeL}}
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
	whole("ovens", d.Ovens, &g.Ovens, 0, 6, errOvens)
	if d.FridgeL != nil {
		if g.FridgeL = *d.FridgeL; !(g.FridgeL >= 0 && g.FridgeL <= 1000) {
			fault("fridge_l", errFridge)
		}
	}
	if len(g.Burners) == 0 {
		fault("burners", errBurners)
	}
	for name, b := range g.Burners {
		if b.PowerW == 0 {
			b.PowerW = vessel.DefaultBurner().PowerW
		}
		if b.Efficiency == 0 {
			b.Efficiency = vessel.DefaultBurner().Efficiency
		}
		if b.Kind == "" {
			b.Kind = vessel.DefaultBurner().Kind
		}
		if !(b.PowerW >= 50 && b.PowerW <= 30000) {
			fault("burners."+name+".power_w", errPower)
		}
		b.Name = name
		g.Burners[name] = b
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

// Timetable writes a timetable as the plan format has it, with what is late in
// words.
func Timetable(t *timetable.Timetable, serve time.Time, late []Late) ([]byte, error) {
	written := struct {
		Tasks    []writtenTask    `json:"tasks"`
		Late     []Late        `json:"late"`
		StartsAt *time.Time       `json:"starts_at"` // null where nothing can be cooked
	}{Tasks: []writtenTask{}, Late: append([]Late{}, late...)}
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
