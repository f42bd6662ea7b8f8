package rescue_test

import (
	"flag"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/rescue"
	"kirdu/core/vessel"
)

var kitchens = flag.Int("kitchens", 12, "simulated kitchens for each symptom")

// sick returns a plan of steps in a 24 cm pot of the model's kitchen.
func sick(t testing.TB, serve, steps string) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(`{"format": "kirdu-plan/1", "name": "sick", "serves": 6, "portion_g": 150, "serve": "` + serve + `",
		"kitchen": {"ambient_c": 22, "humidity_pct": 50, "altitude_m": 0, "tap_c": 18, "scale_limit_g": 5000},
		"pots": {"main": {"shape": "straight", "diameter_mm": 240, "height_mm": 140}}, "burner": {"power_w": 2200, "efficiency": 0.55},
		"steps": [` + steps + `]}`))
	require.NoError(t, err)
	return p
}

const (
	ricePot = `{"do": "add", "items": [{"material": "milk-whole", "amount": "1400 g"}, {"material": "rice-short", "amount": "120 g"}]},
		{"do": "heat", "flame": "high", "until": {"boil": true}},
			{"do": "heat", "flame": "medium-low", "until": {"minutes": %d}, "stir": "often"},
				{"do": "add", "items": [{"material": "sugar-white", "amount": "%d g"}]},
					{"do": "heat", "flame": "medium-low", "until": {"minutes": 4}, "stir": "often"}`
	flourPot = `{"do": "add", "items": [{"material": "milk-whole", "amount": "900 g"}, {"material": "sugar-white", "amount": "90 g"},
		{"material": "rice-flour", "amount": "%d g"}]}, {"do": "heat", "flame": "high", "until": {"boil": true}, "stir": "constant"},
			{"do": "heat", "flame": "low", "until": {"minutes": 4}, "stir": "constant"}`
	acidPot = `{"do": "add", "items": [{"material": "milk-whole", "amount": "1000 g"}, {"material": "rice-short", "amount": "80 g"}]},
		{"do": "heat", "flame": "high", "until": {"boil": true}}, {"do": "heat", "flame": "medium-low", "until": {"minutes": 22}},
			{"do": "add", "items": [{"material": "jaggery", "amount": "110 g"}, {"material": "molasses", "amount": "30 g"}]},
				{"do": "heat", "flame": "medium-low", "until": {"minutes": 3}}`
	coconutPot = `{"do": "add", "items": [{"material": "coconut-milk-thin", "amount": "700 g"},
		{"material": "millet-barnyard", "amount": "80 g"}]}, {"do": "heat", "flame": "high", "until": {"boil": true}},
			{"do": "heat", "flame": "medium-low", "until": {"minutes": 14}},
				{"do": "add", "items": [{"material": "palm-sugar", "amount": "90 g"}, {"material": "coconut-milk-thick", "amount": "150 g"}]},
					{"do": "heat", "flame": "medium", "until": {"minutes": 4}}`
	pearlPot = `{"do": "soak", "name": "pearls", "items": [{"material": "sago-small", "amount": "160 g"}], "minutes": 30},
		{"do": "add", "items": [{"material": "milk-whole", "amount": "700 g"}]}, {"do": "heat", "flame": "high", "until": {"boil": true}},
			{"do": "add", "items": [{"part": "pearls"}]}, {"do": "heat", "flame": "low", "until": {"minutes": 14}, "stir": "often"},
				{"do": "add", "items": [{"material": "sugar-white", "amount": "80 g"}]}`
	eggPot = `{"do": "add", "items": [{"material": "milk-whole", "amount": "900 g"}, {"material": "sugar-white", "amount": "80 g"},
		{"material": "egg-whole", "amount": "200 g"}]}, {"do": "heat", "flame": "medium", "until": {"temp_c": 90}, "stir": "constant"}`
	yogurtPot = `{"do": "add", "items": [{"material": "milk-whole", "amount": "500 g"}, {"material": "rice-short", "amount": "70 g"}]},
		{"do": "heat", "flame": "high", "until": {"boil": true}}, {"do": "heat", "flame": "low", "lid": true, "until": {"minutes": 25}},
			{"do": "add", "items": [{"material": "sugar-white", "amount": "50 g"}]}, {"do": "cool", "to_c": 45, "where": "water-bath"},
				{"do": "add", "items": [{"material": "yogurt", "amount": "300 g"}], "temp_c": 8}`
	mealPot = `{"do": "add", "items": [{"material": "milk-whole", "amount": "800 g"}]},
		{"do": "heat", "flame": "high", "until": {"boil": true}},
			{"do": "add", "slowly": true, "items": [{"material": "cornmeal", "amount": "70 g"}, {"material": "sugar-white", "amount": "60 g"}]},
				{"do": "heat", "flame": "low", "until": {"minutes": 4}, "stir": "often"}`
	going = `, {"do": "heat", "flame": "medium", "until": {"remaining_pct": 70}, "stir": "now-and-then"}`
)

// An illness is a kind of sick pudding: what happened, how many steps of it are done,
// and what the cook says of it.
type illness struct {
	symptom rescue.Symptom
	serve   string
	steps   string
	now     int
	say     func(p *rescue.Trouble, grade, done float64)
	lost    [2]float64 // what the symptom takes, of what lost says
}

func wants(by float64) func(*rescue.Trouble, float64, float64) {
	return func(p *rescue.Trouble, grade, _ float64) { w := min(max(grade+by, 1.5), 7); p.Wanted = &w }
}

func tastes(by float64) func(*rescue.Trouble, float64, float64) {
	return func(p *rescue.Trouble, _, _ float64) { p.Sweet = by }
}

func feels(p *rescue.Trouble, _, done float64) { p.Done = &done }

func nothing(*rescue.Trouble, float64, float64) {}

var illnesses = []illness{
	{symptom: rescue.TooThick, serve: "warm", steps: strings.ReplaceAll(fmt.Sprintf(ricePot, 45, 90), "120 g", "190 g"), now: 5,
		say: wants(-1.1)},
	{symptom: rescue.TooThick, serve: "hot", steps: fmt.Sprintf(flourPot, 75), now: 3, say: wants(-0.6)},
	{symptom: rescue.TooThin, serve: "hot", steps: fmt.Sprintf(ricePot, 18, 90), now: 5, say: wants(0.9)},
	{symptom: rescue.TooThin, serve: "warm", steps: fmt.Sprintf(flourPot, 30), now: 3, say: wants(1)},
	{symptom: rescue.SplitDairy, serve: "warm", steps: acidPot, now: 5, say: nothing},
	{symptom: rescue.SplitCoconut, serve: "warm", steps: coconutPot, now: 5, say: nothing},
	{symptom: rescue.Lumps, serve: "warm", steps: fmt.Sprintf(flourPot, 50), now: 3, say: nothing, lost: [2]float64{0.05, 0.4}},
	{symptom: rescue.PearlsLumped, serve: "warm", steps: pearlPot, now: 6, say: nothing},
	{symptom: rescue.Scorched, serve: "warm", steps: fmt.Sprintf(ricePot, 24, 90) + going, now: 5, say: nothing,
		lost: [2]float64{0.03, 0.15}},
	{symptom: rescue.HardGrain, serve: "warm", steps: fmt.Sprintf(ricePot, 5, 160), now: 5, say: feels},
	{symptom: rescue.Mushy, serve: "warm", steps: fmt.Sprintf(ricePot, 70, 90), now: 5, say: nothing},
	{symptom: rescue.TooSweet, serve: "warm", steps: fmt.Sprintf(ricePot, 24, 150), now: 5, say: tastes(0.25)},
	{symptom: rescue.NotSweet, serve: "chilled", steps: fmt.Sprintf(ricePot, 24, 40), now: 5, say: tastes(-0.3)},
	{symptom: rescue.YogurtSyneresis, serve: "chilled", steps: yogurtPot, now: 6, say: nothing},
	{symptom: rescue.ScrambledEgg, serve: "warm", steps: eggPot, now: 2, say: nothing, lost: [2]float64{0.2, 0.8}},
	{symptom: rescue.GrittyMeal, serve: "warm", steps: mealPot, now: 4, say: feels},
	{symptom: rescue.Skin, serve: "warm", steps: fmt.Sprintf(ricePot, 24, 90), now: 5, say: nothing},
	{symptom: rescue.TooSoftToCut, serve: "chilled", steps: fmt.Sprintf(flourPot, 46) + `, {"do": "chill", "hours": 4}`, now: 4,
		say: nothing},
}

// another returns the plan in a kitchen with other constants than the model's.
func another(p *plan.Plan, random *rand.Rand) *plan.Plan {
	truth := p.Clone()
	truth.Calibration.Evaporation = &plan.Learnt{Value: math.Exp(0.12 * random.NormFloat64())}
	truth.Calibration.ThicknessOffset = &plan.Learnt{Value: 0.35 * random.NormFloat64()}
	truth.Calibration.CookTime = map[string]plan.Learnt{}
	p.Uses(func(m *pantry.Material, _ measure.Gram, _ int) {
		if m.Kinetics != nil {
			truth.Calibration.CookTime[m.Slug] = plan.Learnt{Value: math.Exp(0.15 * random.NormFloat64())}
		}
	})
	truth.Kitchen.AmbientC += measure.Celsius(3 * random.NormFloat64())
	truth.Kitchen.HumidityPct = 30 + 50*random.Float64()
	pot := truth.Pots[plan.MainPot]
	pot.HeightMM *= measure.Millimetre(1 + 0.15*random.Float64())
	truth.Pots[plan.MainPot] = pot
	return truth
}

// followed is what a cook does who follows a repair, in the truth.
func followed(truth *plan.Plan, now int, r *rescue.Repair, lost float64) *plan.Plan {
	p := truth.Clone()
	if r.Lost.Share > 0 {
		p.Lose(now, plan.Loss{Share: lost, Of: r.Lost.Of})
	}
	later := r.Plan.Clone().Steps[now:]
	for i := range later {
		if later[i].Pot == rescue.LeftPot {
			later[i].Items[0].Share = &lost
		}
	}
	p.Steps = append(p.Steps[:now], later...)
	for i := range p.Steps {
		p.EnsurePot(p.Steps[i].PotName())
	}
	return p
}

// TestRescuesLandWhereTheySay follows the advised repair in kitchens whose power,
// air, cooking times and thickness are not the model's, with noisy looks at the
// pot: what comes of it lies within the range that was promised.
func TestRescuesLandWhereTheySay(t *testing.T) {
	total, landed := 0, 0
	for k, ill := range illnesses {
		random := rand.New(rand.NewPCG(uint64(k), 77))
		p := sick(t, ill.serve, ill.steps)
		inside, of, misses := map[string]int{}, 0, 0.0
		for n := range *kitchens {
			truth := another(p, random)
			is := forecast.Run(truth, forecast.Options{NominalOnly: true}).Steps[ill.now-1]
			trouble := rescue.Trouble{Plan: p, Now: ill.now}
			mass := measure.Gram(*is.MassG + 8*random.NormFloat64())
			grade := min(max(*is.Thickness+0.25*random.NormFloat64(), 1), 8)
			if n%2 == 0 {
				trouble.Mass = &mass
			}
			if ill.symptom == rescue.TooThick || ill.symptom == rescue.TooThin || n%3 != 0 {
				trouble.Grade = &grade
			}
			done := 0.0
			for _, d := range is.Doneness {
				done = d * math.Exp(0.05*random.NormFloat64())
			}
			served := forecast.Run(truth, forecast.Options{NominalOnly: true}).Thickness.As(p.Serve)
			ill.say(&trouble, served.Value, done)
			r, err := rescue.Rescue(trouble, ill.symptom)
			require.NoError(t, err, ill.symptom)
			if len(r.Repairs) == 0 {
				t.Logf("%s: %v %v", ill.symptom, r.Says, r.Cannot)
				continue
			}
			best := r.Repairs[0]
			lost := 0.0
			if ill.lost[1] > 0 {
				lost = ill.lost[0] + random.Float64()*(ill.lost[1]-ill.lost[0])
			}
			after := followed(truth, ill.now, &best, lost)
			f := forecast.Run(after, forecast.Options{NominalOnly: true})
			got := rescue.Served(ill.symptom, after, f)
			minutes := 0.0
			for i := ill.now; i < ill.now+len(best.Steps); i++ {
				minutes += f.Steps[i].EndMin - f.Steps[i].StartMin
			}
			of++
			misses += math.Abs(got - r.Wanted)
			for name, pair := range map[string]struct {
				is       float64
				promised measure.Range
				exact    float64
			}{"grade": {got, best.After.Grade, 0.05}, "sweet": {f.Sweetness.Pct.Value, best.After.Sweet, 0.1},
				"mass": {f.Yield.MassG.Value, best.After.Mass, 2}, "minutes": {minutes, best.Minutes, 0.2},
				"done": {f.Doneness[best.Part].Value, best.After.Done, 0.03}} {
				total++
				if pair.is >= pair.promised.Low-pair.exact && pair.is <= pair.promised.High+pair.exact {
					inside[name]++
					landed++
				}
			}
		}
		require.Greater(t, of, *kitchens*2/3, "%s finds a repair in most kitchens", ill.symptom)
		require.GreaterOrEqual(t, 4*inside["grade"], 3*of, "%s: thickness within its range", ill.symptom)
		require.GreaterOrEqual(t, 4*inside["sweet"], 3*of, "%s: sweetness within its range", ill.symptom)
		names := []string{}
		for name := range inside {
			names = append(names, name)
		}
		slices.Sort(names)
		text := ""
		for _, name := range names {
			text += fmt.Sprintf(" %s %d", name, inside[name])
		}
		t.Logf("%-16s %s: of %d inside:%s; from the wanted grade %.2f", ill.symptom, ill.serve, of, text, misses/float64(of))
	}
	t.Logf("%d of %d figures inside their range (%.0f %%)", landed, total, 100*float64(landed)/float64(total))
	require.Greater(t, float64(landed)/float64(total), 0.8)
}

// TestRescueOfAnything asks for every symptom at every point of the sample
// puddings: there is a repair, or a reason, and what is written into the plan can be
// read.
func TestRescueOfAnything(t *testing.T) {
	names, err := filepath.Glob("../../demo/plans/*.kirdu.json")
	require.NoError(t, err)
	for _, name := range names {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		p, err := plan.Read(data)
		require.NoError(t, err)
		for _, now := range []int{1, len(p.Steps) / 2, len(p.Steps)} {
			for _, symptom := range rescue.Symptoms() {
				r, err := rescue.Rescue(rescue.Trouble{Plan: p, Now: now}, symptom)
				if err != nil {
					require.ErrorIs(t, err, rescue.ErrTrouble)
					require.Equal(t, 1, now, "only a pudding that is not in its pot yet cannot be rescued")
					continue
				}
				require.True(t, len(r.Repairs) > 0 || r.Cannot != nil || r.Fine, "%s, %s at %d", name, symptom, now)
				for _, one := range r.Repairs {
					require.NotEmpty(t, one.Key)
					require.LessOrEqual(t, one.After.Grade.Low, one.After.Grade.Value)
					require.GreaterOrEqual(t, one.After.Grade.High, one.After.Grade.Value)
					require.GreaterOrEqual(t, one.Minutes.Low, 0.0)
					_, err := plan.Reread(one.Plan)
					require.NoError(t, err)
				}
			}
		}
	}
}

func TestSplitMilkIsMadeSafeToHeat(t *testing.T) {
	p := sick(t, "warm", strings.ReplaceAll(acidPot, `"molasses", "amount": "30 g"`, `"plum", "amount": "130 g"`))
	r, err := rescue.Rescue(rescue.Trouble{Plan: p, Now: 5}, rescue.SplitDairy)
	require.NoError(t, err)
	require.Len(t, r.Repairs, 1)
	best := r.Repairs[0]
	require.False(t, best.After.Split.Below(6.4), "it does not split again")
	soda, liquid := 0.0, *forecast.Run(p, forecast.Options{NominalOnly: true}).Steps[4].VolumeML/1000
	best.Plan.Uses(func(m *pantry.Material, mass measure.Gram, _ int) {
		if m.Slug == "baking-soda" {
			soda += float64(mass)
		}
	})
	require.Positive(t, soda, "so much fruit needs it")
	require.LessOrEqual(t, soda, 0.6*liquid+0.01, "it would taste of soap")
	require.NotEmpty(t, best.Beyond, "how smooth it gets is not computed")
}

func TestWhatIsNotMended(t *testing.T) {
	left := sick(t, "warm", fmt.Sprintf(ricePot, 24, 90)+`, {"do": "rest", "minutes": 300}`)
	r, err := rescue.Rescue(rescue.Trouble{Plan: left, Now: 6}, rescue.TooThick)
	require.NoError(t, err)
	require.Empty(t, r.Repairs)
	require.NotNil(t, r.Spoilt, "left warm for hours")

	p := sick(t, "warm", fmt.Sprintf(ricePot, 24, 90))
	for symptom, key := range map[rescue.Symptom]string{rescue.SplitCoconut: "split-coconut", rescue.ScrambledEgg: "scrambled-egg",
		rescue.YogurtSyneresis: "weeping-yogurt", rescue.Lumps: "lumps", rescue.PearlsLumped: "pearls-lumped"} {
		r, err := rescue.Rescue(rescue.Trouble{Plan: p, Now: 5}, symptom)
		require.NoError(t, err)
		require.Equal(t, "rescue."+key+".cannot", r.Cannot.Key)
	}
	r, err = rescue.Rescue(rescue.Trouble{Plan: p, Now: 5}, rescue.TooThick)
	require.NoError(t, err)
	require.True(t, r.Fine, "what comes out as it should needs nothing")

	_, err = rescue.Rescue(rescue.Trouble{Plan: p, Now: 5}, "sad")
	require.ErrorIs(t, err, rescue.ErrSymptom)
	nan, negative := math.NaN(), measure.Gram(-5)
	for _, bad := range []rescue.Trouble{{Plan: p, Now: 0}, {Plan: p, Now: 9}, {Plan: p, Now: 5, Grade: &nan},
		{Plan: p, Now: 5, Mass: &negative}, {Plan: p, Now: 5, Sweet: 3}, {Plan: p, Now: 5, Sweet: nan}} {
		_, err := rescue.Rescue(bad, rescue.TooThick)
		require.ErrorIs(t, err, rescue.ErrTrouble)
	}
}

// TestSweetAgainIsExact weighs the sugar of a repair against plain arithmetic.
func TestSweetAgainIsExact(t *testing.T) {
	p := sick(t, "warm", fmt.Sprintf(ricePot, 24, 40))
	r, err := rescue.Rescue(rescue.Trouble{Plan: p, Now: 5, Sweet: -0.4}, rescue.NotSweet)
	require.NoError(t, err)
	require.Len(t, r.Repairs, 1)
	require.InDelta(t, r.Without.Sweet.Value/0.6, r.Repairs[0].After.Sweet.Value, 0.25, "to what can be weighed")
}

func BenchmarkRescue(b *testing.B) {
	p := sick(b, "warm", fmt.Sprintf(ricePot, 24, 150))
	for b.Loop() {
		if _, err := rescue.Rescue(rescue.Trouble{Plan: p, Now: 5, Sweet: 0.25}, rescue.TooSweet); err != nil {
			b.Fatal(err)
		}
	}
}

// TestADescribedPotIsWhatWasSaid builds the plan of a pot that is described, and finds
// in it what was said of it.
func TestADescribedPotIsWhatWasSaid(t *testing.T) {
	d := rescue.Described{Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130}, Burner: vessel.DefaultBurner(),
		Kitchen: plan.Kitchen{AmbientC: 22, HumidityPct: 50, TapC: 18, ScaleLimitG: 5000}, Serve: plan.Warm,
		Items: []plan.Item{{Material: "milk-whole", Amount: "1000 g"}}, Grain: &plan.Item{Material: "rice-short", Amount: "90 g"},
		Sweet: &plan.Item{Material: "sugar-white", Amount: "80 g"}, Done: 1.4}
	p, err := rescue.Describe(d)
	require.NoError(t, err)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	require.InDelta(t, 1.4, f.Doneness["rice-short"].Value, 0.15)
	require.Less(t, f.Yield.MassG.Value, 1171.0)

	mass, grade := measure.Gram(900), 2.5
	trouble := rescue.Finished(p, rescue.JustOff)
	trouble.Mass, trouble.Grade = &mass, &grade
	wanted := 4.0
	trouble.Wanted = &wanted
	r, err := rescue.Rescue(trouble, rescue.TooThin)
	require.NoError(t, err)
	require.NotEmpty(t, r.Repairs)
	require.InDelta(t, 900, r.Without.Mass.Value, 15, "it weighs what the scale says")
	for _, one := range r.Repairs {
		require.InDelta(t, 4, one.After.Grade.Value, 0.2, one.Key)
		require.Less(t, one.After.Grade.High-one.After.Grade.Low, 2.0, "a pot that is seen is known to a grade")
	}

	d.Items = nil
	_, err = rescue.Describe(d)
	require.ErrorIs(t, err, rescue.ErrDescribed)
	d.Items = []plan.Item{{Material: "milk-whole", Amount: "much"}}
	_, err = rescue.Describe(d)
	require.Error(t, err)
	d.Items, d.Grain, d.Sweet = []plan.Item{{Material: "water", Amount: "500 g"}}, nil, nil
	_, err = rescue.Describe(d)
	require.NoError(t, err, "water alone is a pot, too")
}

func TestHowLongItHasStood(t *testing.T) {
	p := sick(t, "warm", fmt.Sprintf(ricePot, 24, 90)+`, {"do": "rest", "minutes": 20}, {"do": "portion", "bowls": 6}`)
	celsius := func(standing rescue.Standing) float64 {
		trouble := rescue.Finished(p, standing)
		require.Equal(t, len(trouble.Plan.Steps), trouble.Now)
		f := forecast.Run(trouble.Plan, forecast.Options{CourseOnly: true})
		return *f.Steps[trouble.Now-1].TempC
	}
	require.Greater(t, celsius(rescue.JustOff), 80.0, "what stood in the plan is not counted")
	require.InDelta(t, 48, celsius(rescue.Warm), 1)
	require.Less(t, celsius(rescue.Cold), 20.0)
	r, err := rescue.Rescue(rescue.Finished(p, rescue.Warm), rescue.Skin)
	require.NoError(t, err)
	require.NotEmpty(t, r.Repairs, "lukewarm within two hours is still good")
}

// Sugar slows grain by e to the 2.4 times its share: what is said of it is that.
func TestHowMuchSugarSlowsIsSaid(t *testing.T) {
	p := sick(t, "warm", fmt.Sprintf(ricePot, 6, 300))
	r, err := rescue.Rescue(rescue.Trouble{Plan: p, Now: 5}, rescue.HardGrain)
	require.NoError(t, err)
	require.Len(t, r.Says, 2)
	sugar, times := r.Says[1].Figures[0].Value, r.Says[1].Figures[1].Value
	require.Greater(t, sugar, 10.0)
	require.InDelta(t, math.Exp(2.4*sugar/100), times, 0.001)
}
