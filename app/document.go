package app

import (
	"encoding/json"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/exchange"
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

// A balanced plan, as it is printed.
type balanced struct {
	Plan    *plan.Plan         `json:"plan"`
	Changes []balancedChange   `json:"changes"`
	Reached map[string]float64 `json:"reached"`
	Missed  []balancedMiss     `json:"missed"`
	Warned  []balancedWarning  `json:"warned"` // what speaks against it that did not before
}

type balancedWarning struct {
	Rule     string `json:"rule"`
	Severity string `json:"severity"`
	Message  string `json:"message"`
}

type balancedChange struct {
	Path string `json:"path"`
	From string `json:"from"`
	To   string `json:"to"`
	Why  string `json:"why"`
}

type balancedMiss struct {
	Aim     string  `json:"aim"`
	Wanted  float64 `json:"wanted"`
	Reached float64 `json:"reached"`
	Because string  `json:"because"`
}

// BalanceDocument brings a plan document to aims, as --set and --lock name them,
// and returns what is printed. Without any the aims in the plan count. Error:
// measure.Faults.
func BalanceDocument(document []byte, set, lock []string) ([]byte, error) {
	p, err := plan.Read(document)
	if err == nil {
		err = knownLocks(p, lock)
	}
	if err != nil {
		return nil, err
	}
	aims, err := readAims(p, set)
	if err != nil {
		return nil, err
	}
	result, say := design.Balance(p, aims, lock), words.Printer{}
	out := balanced{Plan: result.Plan, Changes: []balancedChange{}, Reached: result.Reached, Missed: []balancedMiss{},
		Warned: []balancedWarning{}}
	for _, c := range result.Changes {
		out.Changes = append(out.Changes, balancedChange{c.Path, c.From, c.To, say.Change(c)})
	}
	for _, one := range result.Warned {
		out.Warned = append(out.Warned, balancedWarning{string(one.Rule), string(one.Severity), say.Finding(result.Plan, one).Message})
	}
	for _, m := range result.Missed {
		out.Missed = append(out.Missed, balancedMiss{m.Aim, m.Wanted, m.Reached, say.Obstacle(m, aims)})
	}
	return json.MarshalIndent(out, "", " ")
}

// MaxGatheringBytes is how long a gathering document may be.
const MaxGatheringBytes = exchange.MaxGatheringBytes

// TimetableDocument works the timetable of a gathering document out and returns
// what is printed. Error: measure.Faults.
func TimetableDocument(document []byte) ([]byte, error) {
	g, err := exchange.ReadGathering(document)
	if err != nil {
		return nil, err
	}
	t := timetable.Solve(g.Gathering, timetable.Options{})
	var late []exchange.Late
	for _, l := range t.Late {
		why, remedy := words.Printer{}.Late(g.Gathering, l)
		late = append(late, exchange.Late{Pudding: l.Pudding, Minutes: l.Minutes, Why: why, Remedy: remedy})
	}
	var found []exchange.Found
	for i, list := range t.Findings {
		for _, one := range list {
			found = append(found, exchange.Found{Pudding: i, Rule: string(one.Rule), Severity: string(one.Severity), Step: one.Step,
				Message: words.Printer{}.Finding(g.Puddings[i].Plan, one).Message})
		}
	}
	return exchange.Timetable(t, g.ServeAt, late, found)
}
