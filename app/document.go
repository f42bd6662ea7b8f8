package app

import (
	"encoding/json"

	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/words"
)

// MaxPlanBytes is how long a plan document may be.
const MaxPlanBytes = plan.MaxBytes

// ForecastDocument computes a plan document and returns what is printed of it.
// Error: measure.Faults, with the place of each.
func ForecastDocument(document []byte) ([]byte, error) {
	p, err := plan.Read(document)
	if err != nil {
		return nil, err
	}
	f, found := mend.Forecast(p, forecast.Options{})
	return json.MarshalIndent(words.Printer{}.Document(p, f, found), "", " ")
}
