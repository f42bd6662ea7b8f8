package forecast

import (
	"encoding/json"
	"flag"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// TestMain lets each property see a thousand plans, unless told otherwise.
func TestMain(m *testing.M) {
	flag.Parse()
	chosen := false
	flag.Visit(func(f *flag.Flag) { chosen = chosen || f.Name == "rapid.checks" })
	if !chosen {
		if err := flag.Set("rapid.checks", "1000"); err != nil {
			panic(err)
		}
	}
	m.Run()
}

func read(t rapid.TB, document string) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(document))
	require.NoError(t, err)
	return p
}

// pudding is a plan of the given steps in a common pot.
func pudding(t rapid.TB, steps string) *plan.Plan {
	t.Helper()
	return read(t, `{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120},
	"side":{"shape":"straight","diameter_mm":180,"height_mm":100,"mass_g":800}},"steps":[`+steps+`]}`)
}

const (
	milk  = `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"90 g"}]}`
	boil  = `{"do":"heat","flame":"high","until":{"boil":true}}`
	sweet = `{"do":"add","items":[{"material":"sugar-white","amount":"90 g"}]}`
)

func TestTwoRunsPrintTheSameBytes(t *testing.T) {
	p := readCase(t, "milk-short-grain-reduced")
	one, err := json.Marshal(Run(p, Options{}))
	require.NoError(t, err)
	two, err := json.Marshal(Run(p.Clone(), Options{}))
	require.NoError(t, err)
	require.Equal(t, string(one), string(two))
}

func TestHalvedStepsConverge(t *testing.T) {
	for _, name := range []string{"milk-short-grain-reduced", "milk-basmati-thin", "simmer-milk-rice", "split-moong-six-whistles",
		"banana-paste-syrup-coconut", "gourd-in-ghee-then-milk", "staged-rice-coconut", "starch-set-cut"} {
		p := readCase(t, name)
		exact := newRun(p, spread{}, 1, Options{}, false).outcome()
		for _, seconds := range []float64{fineSeconds, fineSeconds / 2} {
			o := newRun(p, spread{}, seconds, Options{}, false).outcome()
			for k := range exact {
				require.InDelta(t, exact[k], o[k], 0.05+0.008*math.Abs(exact[k]), "figure %d with steps of %v s", k, seconds)
			}
		}
	}
}

// anyPlan draws a plan of the verbs that are computed, in any pot.
func anyPlan(t *rapid.T) *plan.Plan {
	var steps []string
	draw := func(label string, choices ...string) string { return rapid.SampledFrom(choices).Draw(t, label) }
	number := func(label string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, label) }
	grams := func(label string, most float64) string { return fmt.Sprintf("%.2f g", number(label, 1, most)) }
	grain := draw("grain", "rice-short", "rice-basmati", "millet-pearl", "moong-split", "sago-small", "semolina", "carrot", "rice-cooked")
	pot := draw("pot", `"shape":"straight","diameter_mm":220,"height_mm":120`,
		`"shape":"taper","bottom_mm":150,"top_mm":280,"height_mm":130`,
		`"shape":"bowl","top_mm":300,"height_mm":140`, `"shape":"tray","length_mm":300,"width_mm":200,"height_mm":60`)
	if rapid.Bool().Draw(t, "soaked") {
		in := draw("in", ``, `,"in":{"material":"water","amount":"400 g"}`,
			`,"in":{"material":"milk-whole","amount":"300 g"},"keep_liquid":true`)
		steps = append(steps, fmt.Sprintf(`{"do":"soak","name":"grain","items":[{"material":%q,"amount":%q}],"minutes":%.1f%s}`,
			grain, grams("grain", 400), number("soak", 0, 200), in),
			fmt.Sprintf(`{"do":"add","items":[{"part":"grain","share":%.3f},{"material":"milk-whole","amount":%q}]}`, number("share", 0.1, 1),
				grams("milk", 3000)))
	} else {
		steps = append(steps, fmt.Sprintf(`{"do":"add","items":[{"material":%q,"amount":%q},{"material":"milk-whole","amount":%q}]}`,
			grain, grams("grain", 400), grams("milk", 3000)))
	}
	for range rapid.IntRange(1, 6).Draw(t, "steps") {
		switch rapid.IntRange(0, 5).Draw(t, "verb") {
		case 0:
			what := draw("what", "sugar-white", "jaggery", "egg-whole", "rice-flour", "cashew", "coconut-milk-tin", "water", "butter", "honey",
				"saffron")
			steps = append(steps, fmt.Sprintf(`{"do":"add","topping":%v,"items":[{"material":%q,"amount":%q}]}`, rapid.Bool().Draw(t, "topping"),
				what, grams("what", 300)))
		case 1, 2:
			until := draw("until", `{"minutes":12}`, `{"boil":true,"max_minutes":40}`, `{"remaining_pct":70,"max_minutes":90}`,
				`{"temp_c":80,"max_minutes":60}`,
				`{"thickness":3,"max_minutes":80}`, `{"free_water_pct":20,"max_minutes":100}`, `{"mass_g":600,"max_minutes":120}`)
			steps = append(steps, fmt.Sprintf(`{"do":"heat","flame":%q,"lid":%v,"until":%s}`,
				draw("flame", "off", "low", "medium", "high"), rapid.Bool().Draw(t, "lid"), until))
		case 3:
			steps = append(steps, fmt.Sprintf(`{"do":"rest","minutes":%.1f}`, number("rest", 0, 60)))
		case 4:
			steps = append(steps, fmt.Sprintf(`{"do":"chill","hours":%.1f}`, number("chill", 0, 5)))
		case 5:
			steps = append(steps, fmt.Sprintf(`{"do":"add","pot":"side","items":[{"material":"water","amount":%q}]}`, grams("side", 800)),
				`{"do":"heat","pot":"side","flame":"high","until":{"boil":true}}`,
				fmt.Sprintf(`{"do":"add","items":[{"pot":"side","share":%.2f}]}`, number("poured", 0.1, 1)))
		}
	}
	return read(t, fmt.Sprintf(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{%s},
		"side":{"shape":"straight","diameter_mm":160,"height_mm":90}},
	"burner":{"power_w":%.0f},"kitchen":{"altitude_m":%.0f,"ambient_c":%.0f},"steps":[%s]}`,
		pot, number("W", 300, 5000), number("m", 0, 3500), number("°C", 5, 40), strings.Join(steps, ",")))
}

// TestMassCloses checks the account of matter: every loss is booked by its own
// process, so what is left over shows any leak.
func TestMassCloses(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := newRun(anyPlan(t), spread{}, fineSeconds, Options{}, true)
		f := &Forecast{Steps: r.results}
		r.whole(f)
		b := f.MassBalance
		require.InDelta(t, 0, b.ErrorG, 1e-4*b.InG, "%+v", b)
		// The evaporation of each pot is what its steps say.
		booked := 0.0
		for _, p := range r.pansSorted() {
			booked += float64(p.evaporated)
		}
		require.InDelta(t, b.EvaporatedG, booked, 1e-3+1e-5*b.EvaporatedG)
	})
}

func TestNoFigureIsOutOfThisWorld(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := Run(anyPlan(t), Options{})
		_, err := json.Marshal(f) // refuses NaN and the infinities
		require.NoError(t, err)
		require.LessOrEqual(t, len(f.Curve.Minute), 600)
		for i := range f.Curve.Minute {
			require.GreaterOrEqual(t, f.Curve.MassG[i], 0.0)
			require.True(t, f.Curve.TempC[i] > -10 && f.Curve.TempC[i] <= 180.001)
			require.True(t, f.Curve.Thickness[i] >= 1 && f.Curve.Thickness[i] <= 8)
			require.True(t, i == 0 || f.Curve.Minute[i] >= f.Curve.Minute[i-1])
		}
		for _, r := range []measure.Range{f.Time.TotalMin, f.Yield.MassG, f.Sweetness.Pct, f.Time.FlameMin} {
			require.True(t, r.Low <= r.Value && r.Value <= r.High, "%+v", r)
		}
	})
}

func TestMorePowerIsNeverSlower(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := pudding(t, milk+","+boil)
		p.Burner.PowerW = measure.Watt(rapid.Float64Range(1500, 6000).Draw(t, "W"))
		slow := Run(p, Options{NominalOnly: true}).Time.TotalMin.Value
		p.Burner.PowerW += measure.Watt(rapid.Float64Range(0, 3000).Draw(t, "more W"))
		require.LessOrEqual(t, Run(p, Options{NominalOnly: true}).Time.TotalMin.Value, slow+0.01)
	})
}

func TestTargetsEndWhereTheySay(t *testing.T) {
	cases := map[string]struct {
		until string
		check func(t *testing.T, s StepResult)
	}{
		"boil":      {`{"boil":true}`, func(t *testing.T, s StepResult) { require.InDelta(t, 99.7, *s.TempC, 0.1) }},
		"warm":      {`{"temp_c":70}`, func(t *testing.T, s StepResult) { require.InDelta(t, 70, *s.TempC, 0.1) }},
		"minutes":   {`{"minutes":7.5}`, func(t *testing.T, s StepResult) { require.InDelta(t, 7.5, s.EndMin, 1e-6) }},
		"remaining": {`{"remaining_pct":80}`, func(t *testing.T, s StepResult) { require.InDelta(t, 0.8*1120, *s.MassG, 0.5) }},
		"mass":      {`{"mass_g":900}`, func(t *testing.T, s StepResult) { require.InDelta(t, 900, *s.MassG, 0.5) }},
		"doneness": {`{"doneness":{"of":"rice-short","at":1.2}}`,
			func(t *testing.T, s StepResult) { require.InDelta(t, 1.2, s.Doneness["rice-short"], 0.005) }},
		"thickness": {`{"thickness":3}`, func(t *testing.T, s StepResult) { require.InDelta(t, 3, *s.Thickness, 0.02) }},
		"absorbed":  {`{"free_water_pct":40}`, func(t *testing.T, s StepResult) { require.InDelta(t, 40, 100**s.FreeWaterG / *s.MassG, 0.2) }},
		"the first": {`{"minutes":2,"boil":true}`, func(t *testing.T, s StepResult) { require.InDelta(t, 2, s.EndMin, 1e-6) }},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			f := Run(pudding(t, milk+`,{"do":"heat","flame":"high","until":`+c.until+`}`), Options{})
			require.False(t, f.Trace[1].NeverReached)
			c.check(t, f.Steps[1])
		})
	}
}

func TestTargetThatIsNeverMet(t *testing.T) {
	f := Run(pudding(t, milk+`,{"do":"heat","flame":"off","until":{"boil":true}}`), Options{})
	require.True(t, f.Trace[1].NeverReached)
	require.InDelta(t, 240, f.Steps[1].EndMin, 1e-6)
	f = Run(pudding(t, milk+`,{"do":"heat","flame":"low","until":{"boil":true,"max_minutes":10}}`), Options{})
	require.True(t, f.Trace[1].NeverReached)
	require.InDelta(t, 10, f.Steps[1].EndMin, 1e-6)
}

func TestRemainingCountsFromTheLatestLargeAddition(t *testing.T) {
	pinch := `{"do":"add","items":[{"material":"salt","amount":"2 g"}]}`
	down := `{"do":"heat","flame":"high","until":{"remaining_pct":80}}`
	f := Run(pudding(t, milk+","+boil+","+pinch+","+down), Options{})
	require.InDelta(t, 0.8*1120, *f.Steps[3].MassG, 0.5, "a pinch does not count")
	f = Run(pudding(t, milk+","+boil+","+sweet+","+down), Options{})
	require.InDelta(t, 0.8**f.Steps[2].MassG, *f.Steps[3].MassG, 0.5)
	f = Run(pudding(t, milk+","+boil+","+sweet+`,{"do":"heat","flame":"high","until":{"remaining_pct":80,"of_step":0}}`), Options{})
	require.InDelta(t, 0.8*1120, *f.Steps[3].MassG, 0.5)
}

func TestClocks(t *testing.T) {
	soak := `{"do":"soak","name":"grain","items":[{"material":"rice-short","amount":"90 g"}],"minutes":40}`
	side := `{"do":"add","pot":"side","items":[{"material":"milk-whole","amount":"500 ml"}]},
	{"do":"heat","pot":"side","flame":"high","until":{"minutes":6}}`
	f := Run(pudding(t, soak+`,{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"part":"grain"}]},`+boil+","+side+
		`,{"do":"heat","flame":"medium","until":{"minutes":10}},{"do":"add","items":[{"pot":"side","share":0.5}]},
		{"do":"heat","flame":"low","until":{"minutes":5}},{"do":"add","items":[{"pot":"side"}]}`), Options{})
	require.InDelta(t, -40, f.Steps[0].StartMin, 1e-6, "the soak ends where the grain goes in")
	require.InDelta(t, 0, f.Steps[0].EndMin, 1e-6)
	require.InDelta(t, 40, f.Time.PrepMin, 1e-6)
	require.Nil(t, f.Steps[0].TempC)
	require.NotNil(t, f.Steps[0].MassG)
	poured := f.Steps[6].StartMin
	require.InDelta(t, poured, f.Steps[4].EndMin, 1e-3, "the side pan is ready just when it is poured")
	require.InDelta(t, poured-6, f.Steps[4].StartMin, 1e-3)
	require.InDelta(t, f.Steps[7].EndMin, f.Time.TotalMin.Value, 1e-3)
	require.InDelta(t, 0, f.MassBalance.ErrorG, 0.01)
}

func TestThicknessProtocol(t *testing.T) {
	hot := Run(pudding(t, milk+","+boil+`,{"do":"heat","flame":"medium","until":{"remaining_pct":75}}`), Options{}).Thickness
	require.NotNil(t, hot.OffHeat)
	require.NotNil(t, hot.Hot)
	require.Less(t, hot.Hot.Value, hot.Warm.Value)
	require.Less(t, hot.Warm.Value, hot.Room.Value)
	require.Less(t, hot.Room.Value, hot.Chilled.Value)
	cold := Run(pudding(t, milk+","+boil+`,{"do":"rest","minutes":20},{"do":"chill","hours":6}`), Options{}).Thickness
	require.Nil(t, cold.Hot, "colder than 60 °C it has no hot grade")
	require.NotNil(t, cold.OffHeat)
	raw := Run(pudding(t, milk+`,{"do":"rest","minutes":5}`), Options{}).Thickness
	require.Nil(t, raw.OffHeat, "no flame was on")
}

func TestRangesNarrowWithAWaterTest(t *testing.T) {
	p := pudding(t, milk+","+boil)
	width := func() float64 {
		r := Run(p, Options{}).Time.TotalMin
		return r.High - r.Low
	}
	untested := width()
	p.Burner.FlameW = map[vessel.Flame]measure.Watt{vessel.High: 990}
	require.Less(t, width(), untested/2)
	thick := pudding(t, milk+","+boil)
	sd := 0.1
	wide := Run(thick, Options{}).Thickness.Hot
	thick.Calibration.ThicknessOffset = &plan.Learnt{Value: 0.5, SD: &sd}
	narrow := Run(thick, Options{}).Thickness.Hot
	require.InDelta(t, wide.Value+0.5, narrow.Value, 1e-3)
	require.Less(t, narrow.High-narrow.Low, wide.High-wide.Low)
}

func TestRangeHoldsTheTruthFourTimesInFive(t *testing.T) {
	// Truths drawn from the stated spreads; the range of the mark's minute must
	// hold about 80 % of them. A fixed grid of quantiles stands for chance.
	p := pudding(t, milk+","+boil+`,{"do":"heat","flame":"medium","until":{"remaining_pct":75}}`)
	r := Run(p, Options{}).Time.TotalMin
	inside, all := 0, 0
	for k := range 40 {
		z := math.Sqrt2 * math.Erfinv(2*(float64(k)+0.5)/40-1)
		truth := newRun(p, spread{power: z}, fineSeconds, Options{}, false).outcome()[figureTotal]
		all++
		if truth >= r.Low && truth <= r.High {
			inside++
		}
	}
	require.InDelta(t, 0.8, float64(inside)/float64(all), 0.08)
}

func TestWeighingsCorrectTheRest(t *testing.T) {
	p := pudding(t, milk+","+boil+`,{"do":"heat","flame":"medium","until":{"mass_g":800}}`)
	f := Run(p, Options{})
	at := f.Steps[1].EndMin + 5
	less := Run(p, Options{Seen: []Seen{{Minute: measure.Minute(at), Mass: 950}}})
	require.Less(t, less.Time.TotalMin.Value, f.Time.TotalMin.Value, "lighter than thought: sooner at the mark")
	require.InDelta(t, 0, less.MassBalance.ErrorG, 0.01)
	done := Run(p, Options{Seen: []Seen{{Minute: measure.Minute(at), Mass: 700}}})
	require.InDelta(t, at, done.Time.TotalMin.Value, 0.01, "past the mark when it was weighed")
}

func TestMarksAndScale(t *testing.T) {
	p := pudding(t, milk+","+boil+`,{"do":"heat","flame":"medium","until":{"remaining_pct":75}},`+sweet+`,{"do":"heat","flame":"low",
		"until":{"minutes":4}}`)
	labels := []string{}
	f := Run(p, Options{})
	for _, m := range f.Marks {
		labels = append(labels, m.Label)
		require.Nil(t, m.ScaleG, "this pot was never weighed")
	}
	require.Equal(t, []string{"start", "boils", "add sugar", "done"}, labels)
	side := p.Pots["side"]
	p.Pots["main"] = side
	m := Run(p, Options{}).Marks[2]
	require.InDelta(t, m.MassG+800, *m.ScaleG, 0.01)
	// 100 g of what is in there, as mm in a pot of 180 mm.
	require.InDelta(t, 100/(m.MassG/(m.LevelMM*math.Pi*90*90/1000))/(math.Pi*90*90/1000), m.MMPer100G, 1e-3)
}

func TestNutritionAndAllergens(t *testing.T) {
	p := read(t, `{"format":"kirdu-plan/1","name":"x","serves":2,"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120}},
	"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"200 g"},{"material":"salt","amount":"1 g"}]},
		{"do":"add","topping":true,"items":[{"material":"walnut","amount":"20 g"}]}]}`)
	f := Run(p, Options{})
	require.InDelta(t, (200*0.64+20*6.72)/2, f.Nutrition.EnergyKcal, 0.5)
	require.InDelta(t, (7+0.2*65.2)/2, f.Nutrition.FatG, 0.15)
	require.InDelta(t, (1+200*44e-5*2.5)/2, f.Nutrition.SaltG, 0.02)
	require.Equal(t, []string{"milk", "treenut"}, f.Allergens)
}

func TestServedFromTwoPots(t *testing.T) {
	p := read(t, `{"format":"kirdu-plan/1","name":"x","served_from":["main","side"],
		"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120},
	"side":{"shape":"straight","diameter_mm":180,"height_mm":100}},"steps":[`+milk+","+boil+`,{"do":"add","pot":"side",
		"items":[{"pot":"main","share":0.5}]},
	{"do":"rest","pot":"side","minutes":10}]}`)
	f := Run(p, Options{})
	require.InDelta(t, *f.Steps[1].MassG-f.MassBalance.EvaporatedG+*f.Steps[1].EvaporatedG, f.Yield.MassG.Value, 0.5)
	require.InDelta(t, f.Steps[1].EndMin+10, f.Time.TotalMin.Value, 1e-3)
}

func FuzzForecast(f *testing.F) {
	names, err := filepath.Glob("testdata/*.kirdu.json")
	require.NoError(f, err)
	for _, name := range names {
		data, err := os.ReadFile(name)
		require.NoError(f, err)
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := plan.Read(data)
		if err != nil {
			return
		}
		_, err = json.Marshal(Run(p, Options{NominalOnly: true}))
		require.NoError(t, err)
	})
}
