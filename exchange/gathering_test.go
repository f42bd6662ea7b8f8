package exchange_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
	"kirdu/exchange"
)

func TestReadGatheringRefuses(t *testing.T) {
	way := plan.Ways()[0]
	choice, err := way.Check(plan.WayChoice{})
	require.NoError(t, err)
	choice.Bowls, choice.Burner = 4, vessel.DefaultBurner()
	choice.Pot = vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130}
	started, err := way.Start(choice)
	require.NoError(t, err)
	p, err := started.JSON()
	require.NoError(t, err)
	good := fmt.Sprintf(`{"format":"kirdu-gathering/1","name":"supper","serve_at":"2026-11-28T19:30:00+01:00","hands":2,
		"burners":{"front":{"power_w":2000,"max_pot_mm":260}},"pots":{},"ovens":1,"fridge_l":60,"puddings":[{"plan":%[1]s},{"plan":%[1]s,
			"serve_at":"2026-11-28T20:00:00+01:00"}]}`, p)
	g, err := exchange.ReadGathering([]byte(good))
	require.NoError(t, err)
	require.Equal(t, 2, g.Hands)
	require.Equal(t, measure.Minute(30), g.Puddings[1].Serve)
	require.Equal(t, "front", g.Burners["front"].Name)
	out, err := exchange.Timetable(timetable.Solve(g.Gathering, timetable.Options{}), g.ServeAt, nil, nil)
	require.NoError(t, err)
	var written struct {
		Tasks []struct {
			Pudding    int
			Start, End time.Time
		}
		StartsAt time.Time `json:"starts_at"`
	}
	require.NoError(t, json.Unmarshal(out, &written))
	require.Len(t, written.Tasks, 2*len(started.Steps))
	require.Equal(t, written.Tasks[0].Start, written.StartsAt)
	ready := map[int]time.Time{}
	for _, task := range written.Tasks {
		require.False(t, task.End.Before(task.Start))
		if task.End.After(ready[task.Pudding]) {
			ready[task.Pudding] = task.End
		}
	}
	require.WithinDuration(t, g.ServeAt.Add(30*time.Minute), ready[1], time.Second, "the second is ready half an hour later")
	for text, path := range map[string]string{
		`{}`: "format", `{"format":"kirdu-gathering/1","serve_at":"soon","puddings":[]}`: "serve_at",
		`{"format":"kirdu-gathering/1","serve_at":"2026-11-28T19:30:00Z","hands":0,"burners":{"a":{"power_w":-3}},
			"puddings":[{"plan":{"format":"kirdu-plan/1","name":"x","steps":[]}}]}`: "puddings[0].plan.steps",
		strings.Replace(good, "T20:00", "T20:99", 1): "puddings[1].serve_at", strings.Replace(good, "-28T20:00", "-21T20:00",
			1): "puddings[1].serve_at",
		`{"extra":1}`: "extra", `[`: "gathering", `{"hands":"two"}`: "hands", `{"burners":{"a":{"max_pot_mm":-5}}}`: "burners.a.max_pot_mm",
		`{"burners":{"a":{"efficiency":-3}}}`: "burners.a.efficiency", `{"burners":{"a":{"efficiency":50}}}`: "burners.a.efficiency",
		`{"burners":{"a":{"kind":"banana"}}}`: "burners.a.kind", `{"burners":{"a":{"power_w":49}}}`: "burners.a.power_w",
		`{"pots":{"p":{"shape":"straight","diameter_mm":-5,"height_mm":100}}}`: "pots.p.diameter_mm",
		`{"pots":{"p":{"shape":"sieve"}}}`:                                     "pots.p.shape",
	} {
		_, err := exchange.ReadGathering([]byte(text))
		var faults measure.Faults
		require.ErrorAs(t, err, &faults, text)
		require.NotContains(t, err.Error(), "json:", "no words of the language it is written in")
		require.True(t, slices.ContainsFunc(faults, func(f *measure.FieldError) bool { return f.Field == path }), "%s: %v", path, faults)
	}
}

func FuzzReadGathering(f *testing.F) {
	f.Add([]byte(`{"format":"kirdu-gathering/1","serve_at":"2026-11-28T19:30:00Z","burners":{"a":{}},
		"puddings":[{"plan":{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120}},
			"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"boil":true}}]}}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		g, err := exchange.ReadGathering(data)
		if err == nil {
			_, err := exchange.Timetable(timetable.Solve(g.Gathering, timetable.Options{}), g.ServeAt, nil, nil)
			require.NoError(t, err)
		}
	})
}
