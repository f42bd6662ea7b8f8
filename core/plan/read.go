package plan

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/vessel"
)

// MaxBytes bounds a document.
const MaxBytes = 64 << 10

// Faults of a whole document.
var (
	ErrTooLong = measure.Code("plan.too-long")
	ErrNotJSON = measure.Code("plan.not-json")
)

// Read reads a document, checks its form and its meaning, and fills in the
// defaults of the format. All faults come back at once as measure.Faults, each
// with its JSON path.
func Read(data []byte) (*Plan, error) {
	if len(data) > MaxBytes {
		return nil, measure.Faults{{Field: "plan", Err: ErrTooLong}}
	}
	var tree any
	decoder := json.NewDecoder(bytes.NewReader(data))
	if err := decoder.Decode(&tree); err != nil {
		return nil, measure.Faults{{Field: "plan", Err: ErrNotJSON.With(err)}}
	}
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		return nil, measure.Faults{{Field: "plan", Err: measure.Code("plan.text-follows")}}
	}
	c := &checker{}
	if _, isObject := tree.(map[string]any); !isObject {
		c.wrong("plan", tree, "plan.object")
		return nil, c.faults
	}
	if err := upgrade(tree.(map[string]any)); err != nil {
		return nil, measure.Faults{{Field: "format", Value: fmt.Sprint(tree.(map[string]any)["format"]), Err: err}}
	}
	documentRule(c, "", tree)
	fillDefaults(tree.(map[string]any))
	cleaned, err := json.Marshal(tree)
	if err != nil {
		return nil, fmt.Errorf("read plan: %w", err)
	}
	p := &Plan{}
	if err := json.Unmarshal(cleaned, p); err != nil {
		// Only left-overs of faults that are reported already end here.
		if len(c.faults) > 0 {
			return nil, c.faults
		}
		return nil, measure.Faults{{Field: "plan", Err: ErrNotJSON.With(err)}}
	}
	c.meaning(p)
	if err := c.faults.Err(); err != nil {
		return nil, err
	}
	return p, nil
}

// ErrLater: only a later program reads the document.
var ErrLater = measure.Code("plan.later").With(Format)

// upgrades turn a document of one edition of the format into the next, that of
// edition 1 first. They know the forms of their time and no others.
var upgrades = []func(document map[string]any){}

// upgrade brings a document of an earlier edition to the present one. What is no
// edition at all is left to the rules of the format.
func upgrade(document map[string]any) error {
	text, _ := document["format"].(string)
	number, isPlan := strings.CutPrefix(text, formatName)
	edition, err := strconv.Atoi(number)
	if !isPlan || err != nil || edition < 1 {
		return nil
	}
	present := len(upgrades) + 1
	if edition > present {
		return ErrLater
	}
	for _, up := range upgrades[edition-1:] {
		up(document)
	}
	document["format"] = formatName + strconv.Itoa(present)
	return nil
}

// fillDefaults sets the document's defaults where a key is absent.
func fillDefaults(o map[string]any) {
	setDefaults(o, map[string]any{"serves": 4, "portion_g": 150, "serve": string(Hot)})
	kitchen := child(o, "kitchen")
	setDefaults(kitchen, map[string]any{"ambient_c": 24, "humidity_pct": 50, "altitude_m": 0, "tap_c": 18, "scale_limit_g": 5000})
	standard := vessel.DefaultBurner()
	burner := map[string]any{"kind": standard.Kind, "power_w": float64(standard.PowerW), "efficiency": standard.Efficiency}
	setDefaults(child(o, "burner"), burner)
	if burners, ok := o["burners"].(map[string]any); ok {
		for name := range burners {
			setDefaults(child(burners, name), burner)
		}
	}
}

func child(o map[string]any, name string) map[string]any {
	inner, ok := o[name].(map[string]any)
	if !ok {
		inner = map[string]any{}
		o[name] = inner
	}
	return inner
}

func setDefaults(o map[string]any, defaults map[string]any) {
	for name, value := range defaults {
		if _, there := o[name]; !there {
			o[name] = value
		}
	}
}
