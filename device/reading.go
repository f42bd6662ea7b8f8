// Package device takes the readings of a scale and a thermometer: it reads them,
// says which are believed, and has simulated stand-ins for both.
package device

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"time"

	"kirdu/core/measure"
)

// Kind is what a reading is of.
type Kind string

// The kinds of readings.
const (
	Scale Kind = "scale" // g
	Probe Kind = "probe" // °C
)

var units = map[Kind]string{Scale: "g", Probe: "deg C"}

// A Reading is what a gadget showed at a time, by its own clock.
type Sample struct {
	At    time.Time
	Kind  Kind
	Value float64 // NaN where the gadget had none
}

// Bounds of one message.
const (
	MaxBytes    = 256 << 10
	maxReadings = 2000
	maxFaults   = 20
)

// Faults of a message.
var (
	ErrLarge  = measure.Code("device.large").With(maxReadings, MaxBytes>>10)
	errLine   = measure.Code("device.line")
	errHeader = measure.Code("device.header")
	errTime   = measure.Code("device.time")
	errKind   = measure.Code("device.kind")
	errUnit   = measure.Code("device.unit")
	errValue  = measure.Code("device.value")
	errEmpty  = measure.Code("device.empty")
)

// line is a reading as it is written.
type line struct {
	Time  string `json:"time"`
	Kind  Kind   `json:"kind"`
	Value any    `json:"value"`
	Unit  string `json:"unit"`
}

// Read reads a message: CSV with a header where asCSV says so, else JSON lines.
// All faults come back at once as measure.Faults, each with its line; then nothing
// of it is taken. A value that is no number is none of them: it is a reading that
// nobody believes.
func Read(data []byte, asCSV bool) ([]Sample, error) {
	if len(data) > MaxBytes {
		return nil, measure.Faults{{Field: "readings", Err: ErrLarge}}
	}
	var lines []line
	var faults measure.Faults
	if asCSV {
		lines, faults = readCSV(data)
	} else {
		lines, faults = readJSON(data)
	}
	if len(lines) > maxReadings {
		return nil, measure.Faults{{Field: "readings", Err: ErrLarge}}
	}
	var list []Sample
	for k, l := range lines {
		r, field, err := l.reading()
		if err != nil {
			faults = append(faults, &measure.FieldError{Field: fmt.Sprintf("line %d.%s", k+1, field), Err: err})
		}
		list = append(list, r)
	}
	if len(lines) == 0 && len(faults) == 0 {
		faults = measure.Faults{{Field: "readings", Err: errEmpty}}
	}
	if len(faults) > maxFaults {
		faults = faults[:maxFaults]
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	return list, nil
}

func readJSON(data []byte) (lines []line, faults measure.Faults) {
	for number, text := range bytes.Split(data, []byte("\n")) {
		if len(bytes.TrimSpace(text)) == 0 {
			continue
		}
		var l line
		decoder := json.NewDecoder(bytes.NewReader(text))
		decoder.DisallowUnknownFields()
		if err := decoder.Decode(&l); err != nil || decoder.More() {
			return nil, measure.Faults{{Field: fmt.Sprintf("line %d", number+1), Err: errLine}}
		}
		lines = append(lines, l)
	}
	return lines, nil
}

func readCSV(data []byte) (lines []line, faults measure.Faults) {
	table := csv.NewReader(bytes.NewReader(data))
	table.TrimLeadingSpace = true
	header, err := table.Read()
	if err != nil || strings.Join(header, ",") != "time,kind,value,unit" {
		return nil, measure.Faults{{Field: "line 1", Err: errHeader}}
	}
	for {
		cells, err := table.Read()
		if errors.Is(err, io.EOF) {
			return lines, nil
		}
		if err != nil {
			return nil, measure.Faults{{Field: fmt.Sprintf("line %d", len(lines)+2), Err: errHeader}}
		}
		lines = append(lines, line{Time: cells[0], Kind: Kind(cells[1]), Value: cells[2], Unit: cells[3]})
	}
}

// reading returns what a line says, or the field that is at fault.
func (l line) reading() (r Sample, field string, err error) {
	if r.At, err = time.Parse(time.RFC3339, l.Time); err != nil {
		return r, "time", errTime
	}
	r.Kind = l.Kind
	unit, known := units[l.Kind]
	if !known {
		return r, "kind", errKind
	}
	if l.Unit != unit {
		return r, "unit", errUnit
	}
	switch value := l.Value.(type) {
	case float64:
		r.Value = value
	case nil:
		r.Value = math.NaN()
	case string:
		if r.Value, err = strconv.ParseFloat(strings.TrimSpace(value), 64); err != nil {
			return r, "value", errValue
		}
	default:
		return r, "value", errValue
	}
	return r, "", nil
}
