package device_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/plan"
	"kirdu/device"
)

var begun = time.Date(2026, 11, 28, 18, 0, 0, 0, time.UTC)

func simmer(t testing.TB) *plan.Plan {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"Rice","pots":{"main":{"shape":"straight","diameter_mm":220,
	"height_mm":130,"mass_g":900}},
"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1.4 l"},{"material":"rice-short","amount":"90 g"}]},
	{"do":"heat","flame":"high","until":{"boil":true}},{"do":"heat","flame":"medium","until":{"minutes":40}}]}`))
	require.NoError(t, err)
	return p
}

func TestReadBothForms(t *testing.T) {
	list, err := device.Read([]byte(`{"time":"2026-11-28T18:31:04+01:00","kind":"scale","value":1620,"unit":"g"}`+"\n\n"+
		`{"time":"2026-11-28T18:31:09Z","kind":"probe","value":null,"unit":"deg C"}`), false)
	require.NoError(t, err)
	require.Len(t, list, 2)
	require.True(t, list[0].At.Equal(begun.Add(-29*time.Minute+4*time.Second)))
	require.True(t, math.IsNaN(list[1].Value))
	list, err = device.Read([]byte("time,kind,value,unit\n2026-11-28T18:31:04Z,probe, 96.5,deg C\n"), true)
	require.NoError(t, err)
	require.InDelta(t, 96.5, list[0].Value, 0)

	line := `{"time":"2026-11-28T18:31:04Z","kind":"scale","value":1620,"unit":"g"}` + "\n"
	for text, field := range map[string]string{
		"": "readings", "[]": "line 1", line + "{": "line 2", `{"extra":1}`: "line 1", line + line[:len(line)-1] + "{}": "line 2",
		strings.Replace(line, "scale", "ruler", 1): "line 1.kind", strings.Replace(line, `"g"`, `"kg"`, 1): "line 1.unit",
		strings.Replace(line, "1620", `"heavy"`, 1): "line 1.value", strings.Replace(line, "1620", `[]`, 1): "line 1.value",
		strings.Repeat(line, 2001): "readings", strings.Repeat(" ", device.MaxBytes+1): "readings",
	} {
		_, err := device.Read([]byte(text), false)
		var faults measure.Faults
		require.ErrorAs(t, err, &faults, field)
		require.Equal(t, field, faults[0].Field)
	}
	for _, text := range []string{"a,b\n", "time,kind,value,unit\n1,2\n", "\"", "time,kind,value,unit\n2026-11-28T18:31:04Z,scale,heavy,g\n"} {
		_, err := device.Read([]byte(text), true)
		require.Error(t, err, text)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(`{"time":"2026-11-28T18:31:04Z","kind":"scale","value":1620,"unit":"g"}`), false)
	f.Add([]byte("time,kind,value,unit\n2026-11-28T18:31:04Z,probe,NaN,deg C\n"), true)
	f.Fuzz(func(t *testing.T, data []byte, asCSV bool) {
		list, err := device.Read(data, asCSV)
		if err != nil {
			require.Empty(t, list, "nothing is half taken")
			return
		}
		j := device.Judge{Begun: begun}
		require.Len(t, j.Judge(list, begun.Add(time.Minute)), len(list))
	})
}

// marks judges weights five seconds apart.
func marks(j *device.Judge, from time.Time, values ...float64) []device.Mark {
	var list []device.Sample
	for k, value := range values {
		list = append(list, device.Sample{At: from.Add(time.Duration(5*k) * time.Second), Kind: device.Scale, Value: value})
	}
	var found []device.Mark
	for _, r := range j.Judge(list, from.Add(time.Duration(5*len(values))*time.Second)) {
		found = append(found, r.Mark)
	}
	return found
}

func TestWhatIsBelieved(t *testing.T) {
	j := &device.Judge{Begun: begun, Pot: 900, Expected: func(device.Kind, time.Time) (float64, bool) { return 1480, true }}
	at := begun.Add(10 * time.Minute)
	require.Equal(t, []device.Mark{device.Jumped, "", "", ""}, marks(j, at, 910, 2380, 2378, 2381), "the pot was not on it yet")
	require.Equal(t, []device.Mark{"", device.Jumped, device.Jumped, ""}, marks(j, at.Add(20*time.Second), 2379, 3100, 2900, 2377),
		"somebody leans")
	// Half a litre more milk: believed once enough readings agree.
	found := marks(j, at.Add(40*time.Second), 2880, 2879, 2881, 2880, 2878, 2879, 2880)
	require.Equal(t, []device.Mark{device.Jumped, device.Jumped, device.Jumped, device.Jumped, "", "", ""}, found)
	r, ok := j.Settled(device.Scale, at.Add(70*time.Second))
	require.True(t, ok)
	require.InDelta(t, 1980, r.Value, 3, "the new level, without the pot")
	_, ok = j.Settled(device.Probe, at)
	require.False(t, ok)
	far := device.Judge{Begun: begun, Expected: j.Expected}
	require.Equal(t, []device.Mark{device.Jumped}, marks(&far, at, 4000))
	for value, mark := range map[float64]device.Mark{-3000: device.Impossible, math.NaN(): device.Impossible,
		math.Inf(1): device.Impossible, 2e6: device.Impossible} {
		require.Equal(t, []device.Mark{mark}, marks(&device.Judge{Begun: begun}, at, value))
	}
	late := device.Judge{Begun: begun}
	judged := late.Judge([]device.Sample{{At: at.Add(-time.Hour), Kind: device.Scale, Value: 1000},
		{At: at.Add(time.Hour), Kind: device.Scale, Value: 1000}, {At: at, Kind: device.Scale, Value: 1000},
		{At: at, Kind: device.Scale, Value: 1000}}, at)
	require.Equal(t, []device.Mark{device.Late, "", device.Doubled, device.Ahead}, []device.Mark{judged[0].Mark, judged[1].Mark,
		judged[2].Mark, judged[3].Mark})
}

// The stand-in is noisy, leaned on and drops out; what the judge believes of it is
// the pot all the same.
func TestTheJudgeSeesThroughTheStandIn(t *testing.T) {
	p := simmer(t)
	const pot = 900
	for k := range 8 {
		id := fmt.Sprint("cook ", k)
		s := device.NewStandIn(id, begun)
		really := p.Clone()
		really.Calibration.Evaporation = &plan.Learnt{Value: s.Power}
		truth := forecast.Run(really, forecast.Options{CourseOnly: true}).Curve
		thought := forecast.Run(p, forecast.Options{CourseOnly: true}).Curve
		j := &device.Judge{Begun: begun, Pot: pot, Expected: func(kind device.Kind, at time.Time) (float64, bool) {
			values := thought.MassG
			if kind == device.Probe {
				values = thought.TempC
			}
			return numeric.Interpolate(thought.Minute, values, at.Sub(begun).Minutes()), true
		}}
		wrong, seen, leaned := 0, 0, 0
		var off []float64
		for second := 10; second <= 2000; second += 10 {
			now := begun.Add(time.Duration(second) * time.Second)
			for _, r := range j.Judge(s.Readings(p, begun, pot, now), now) {
				if r.Kind != device.Scale {
					continue
				}
				mass := numeric.Interpolate(truth.Minute, truth.MassG, r.At.Sub(begun).Minutes())
				seen++
				switch apart := math.Abs(r.Value - pot - mass); {
				case apart > 120 && r.Mark == "":
					wrong++
				case apart > 120:
					leaned++
				}
			}
			if r, ok := j.Settled(device.Scale, now); ok && second%60 == 0 {
				off = append(off, math.Abs(r.Value-numeric.Interpolate(truth.Minute, truth.MassG, now.Sub(begun).Minutes())))
			}
		}
		require.Greater(t, seen, 300, "it drops out now and then")
		require.Less(t, seen, 400)
		require.Positive(t, leaned)
		require.LessOrEqual(t, wrong, leaned/10, "%s: %d of %d leans were believed", id, wrong, leaned)
		slices.Sort(off)
		require.Less(t, off[len(off)*9/10], 35.0, "%s: settled within what steams away in a minute", id)
	}
	a, b := device.NewStandIn("x", begun), device.NewStandIn("x", begun)
	require.Equal(t, a.Readings(p, begun, pot, begun.Add(time.Minute)), b.Readings(p, begun, pot, begun.Add(time.Minute)),
		"the same cook, the same gadget")
}

// A first reading that is farther off what is expected than 45 K, or 30 % of the
// mass, is not of this pot.
func TestAFirstReadingFarOff(t *testing.T) {
	at := time.Date(2026, 11, 26, 18, 0, 0, 0, time.UTC)
	first := func(kind device.Kind, value, expected float64) device.Mark {
		j := device.Judge{Begun: at.Add(-time.Hour), Expected: func(device.Kind, time.Time) (float64, bool) { return expected, true }}
		return j.Judge([]device.Sample{{At: at, Kind: kind, Value: value}}, at)[0].Mark
	}
	require.Empty(t, first(device.Probe, 44.1, 89))
	require.NotEmpty(t, first(device.Probe, 43.1, 89))
	require.Empty(t, first(device.Scale, 1294, 1000))
	require.NotEmpty(t, first(device.Scale, 1306, 1000))
}
