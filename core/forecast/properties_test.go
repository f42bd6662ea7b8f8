package forecast_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// A brew is a plan that is drawn at random: what goes in, in what, over what.
type brew struct {
	Pot, Kitchen string
	Watts        int
	Steps        []string
}

func (b brew) plan(t rapid.TB) *plan.Plan {
	p, err := plan.Read([]byte(fmt.Sprintf(`{"format":"kirdu-plan/1","name":"x","kitchen":%s,"pots":{"main":%s},
		"burner":{"kind":"gas","power_w":%d,"efficiency":0.45},"steps":[%s]}`, b.Kitchen, b.Pot, b.Watts, strings.Join(b.Steps, ","))))
	require.NoError(t, err)
	return p
}

func (b brew) run(t rapid.TB) (*plan.Plan, *forecast.Forecast) {
	p := b.plan(t)
	return p, forecast.Run(p, forecast.Options{NominalOnly: true})
}

func drawOne(t *rapid.T, label string, choices ...string) string {
	return rapid.SampledFrom(choices).Draw(t, label)
}

func grams(t *rapid.T, label string, low, high float64) string {
	return fmt.Sprintf("%.1f g", rapid.Float64Range(low, high).Draw(t, label))
}

func add(items ...string) string { return `{"do":"add","items":[` + strings.Join(items, ",") + `]}` }

func item(material, amount string) string {
	return fmt.Sprintf(`{"material":%q,"amount":%q}`, material, amount)
}

// drawBrew draws a pot with something to cook in it.
func drawBrew(t *rapid.T) brew {
	b := brew{
		Kitchen: fmt.Sprintf(`{"altitude_m":%d,"ambient_c":%d}`, rapid.IntRange(0, 2500).Draw(t, "m"), rapid.IntRange(10, 35).Draw(t, "°C")),
		Pot: drawOne(t, "pot", `{"shape":"straight","diameter_mm":180,"height_mm":130}`,
			`{"shape":"straight","diameter_mm":260,"height_mm":150}`,
			`{"shape":"taper","bottom_mm":160,"top_mm":260,"height_mm":130}`, `{"shape":"bowl","top_mm":320,"height_mm":140,"mass_g":900}`,
			`{"shape":"tray","length_mm":320,"width_mm":240,"height_mm":60}`),
		Watts: rapid.IntRange(800, 4500).Draw(t, "W"),
	}
	wet := drawOne(t, "liquid", "milk-whole", "water", "coconut-milk-thin", "soy-milk")
	solid := drawOne(t, "solid", "rice-short", "millet-foxtail", "moong-split", "sago-small", "semolina",
		"bottle-gourd", "banana-ripe", "pear")
	b.Steps = []string{add(item(wet, grams(t, "wet", 50, 2500)), item(solid, grams(t, "dry", 20, 500)))}
	return b
}

func drawFlame(t *rapid.T) string {
	flame := drawOne(t, "flame", "low", "medium-low", "medium", "medium-high", "high", "simmer", "boil")
	return fmt.Sprintf(`{"do":"heat","flame":%q,"stir":%q,"lid":%v,"until":{"minutes":%.1f}}`, flame,
		drawOne(t, "stir", "none", "often", "constant"), rapid.Bool().Draw(t, "lid"), rapid.Float64Range(1, 60).Draw(t, "minutes"))
}

// cookOn draws what is done to it then.
func (b *brew) cookOn(t *rapid.T) {
	for range rapid.IntRange(1, 7).Draw(t, "steps") {
		switch rapid.IntRange(0, 6).Draw(t, "step") {
		case 0, 1, 2:
			b.Steps = append(b.Steps, drawFlame(t))
		case 3:
			what := drawOne(t, "what", "sugar-white", "jaggery", "ghee", "water", "milk-whole", "rice-flour", "cashew", "egg-whole")
			b.Steps = append(b.Steps, add(item(what, grams(t, "more", 5, 400))))
		case 4:
			b.Steps = append(b.Steps, fmt.Sprintf(`{"do":"rest","minutes":%d}`, rapid.IntRange(1, 90).Draw(t, "rest")))
		case 5:
			b.Steps = append(b.Steps, fmt.Sprintf(`{"do":"mash","pct":%d}`, rapid.IntRange(5, 100).Draw(t, "mash")))
		case 6:
			b.Steps = append(b.Steps, `{"do":"cool","to_c":40,"where":"water-bath"}`)
		}
	}
}

// Held water boils, dry is dry, mass closes, and nothing evaporates without heat.
func TestThePotObeysPhysics(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawBrew(t)
		b.cookOn(t)
		p, f := b.run(t)
		require.InDelta(t, 0, f.MassBalance.ErrorG, 1e-4*f.MassBalance.InG)
		full, _ := p.Burner.Power(vessel.High, 0)
		for i, s := range f.Steps {
			for part, done := range s.Doneness {
				require.True(t, done >= 0 && done <= 8, "%s at %v", part, done)
			}
			require.LessOrEqual(t, *s.TempC, 180.001)
			if i == 0 || p.Steps[i].Do != plan.Heat {
				continue
			}
			was := f.Steps[i-1]
			evaporated := *s.EvaporatedG - *was.EvaporatedG
			// Heat of the burner, and what contents and pot give up as they cool from where
			// they were; 4.2 J/gK is as much as anything holds.
			heat := float64(full)*(s.EndMin-s.StartMin)*60 + (*was.MassG*4.2+p.Pots["main"].HeatCapacity())*max(0, *was.TempC-*s.TempC)
			if *was.TempC >= 40 || evaporated > 5 { // a cold surface dries into the air's own heat
				require.LessOrEqual(t, evaporated*2257, heat+2257*3, "step %d", i)
			}
		}
		for k, celsius := range f.Curve.TempC {
			if k == 0 {
				continue
			}
			minutes := f.Curve.Minute[k] - f.Curve.Minute[k-1]
			if minutes <= 0 {
				continue // something was added
			}
			require.LessOrEqual(t, celsius-f.Curve.TempC[k-1], 1+60*minutes*float64(full)/p.Pots["main"].HeatCapacity(), "no jump upwards")
		}
	})
}

// An open pot with a quarter of water stays near its boil, whatever is in it.
func TestWetPotsStayNearTheBoil(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawBrew(t)
		b.cookOn(t)
		p := b.plan(t)
		// The total of water is not in the document: what is solid is known of the whole.
		for n := 1; n <= len(p.Steps); n++ {
			part := p.Clone()
			part.Steps = part.Steps[:n]
			f := forecast.Run(part, forecast.Options{NominalOnly: true})
			last := f.Steps[n-1]
			if f.SolidsPct < 75 && p.Steps[n-1].Do == plan.Heat && !p.Steps[n-1].Lidded() {
				require.LessOrEqual(t, *last.TempC, 112.0, "step %d with %v %% of solids", n-1, f.SolidsPct)
			}
		}
	})
}

// Among plans that reach their targets a stronger flame is never slower. What has hardly a
// spoon of liquid left gets hot by that, and not by boiling: it is left out.
func TestAStrongerFlameIsNeverSlower(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawBrew(t)
		low := rapid.IntRange(30, 95).Draw(t, "low")
		high := rapid.IntRange(low, 100).Draw(t, "high")
		until := drawOne(t, "until", `{"boil":true}`, `{"temp_c":80}`, `{"remaining_pct":90,"max_minutes":200}`,
			`{"remaining_pct":70,"max_minutes":200}`)
		const spoon = 5 // g
		at := func(percent int) (minutes float64, reached, wet bool) {
			one := b
			one.Steps = append(b.Steps[:1:1], fmt.Sprintf(`{"do":"heat","flame_pct":%d,"stir":"often","until":%s}`, percent, until))
			_, f := one.run(t)
			on := &f.Trace[1]
			return f.Time.TotalMin.Value, !on.NeverReached && !on.Weak.Seen, on.MinFreeWater.Value > spoon
		}
		slow, reached, wet := at(low)
		fast, there, wetThere := at(high)
		if reached && wet && wetThere {
			require.True(t, there, "what a small flame reaches, a stronger one does")
			require.LessOrEqual(t, fast, 1.03*slow+0.1, "but for the steps of time")
		}
	})
}

// By fixed minutes more water is never thicker.
func TestMoreWaterIsNeverThicker(t *testing.T) {
	drawn, tried := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		drawn++
		b := drawBrew(t)
		steps := []string{drawFlame(t), drawFlame(t)}
		more := rapid.Float64Range(20, 800).Draw(t, "more")
		at := func(water float64) *forecast.Forecast {
			one := b
			one.Steps = append([]string{b.Steps[0], add(item("water", fmt.Sprintf("%.1f g", 50+water)))}, steps...)
			_, f := one.run(t)
			return f
		}
		little, much := at(0), at(more)
		const solid = 6.0
		if *little.Steps[3].FreeWaterG < 0.1**little.Steps[3].MassG || little.Thickness.Chilled.Value > solid {
			return // it goes dry before it is cooked: there more water cooks it, and thickens
		}
		tried++
		if math.Abs(*much.Steps[3].TempC-*little.Steps[3].TempC) < 1 { // the same at the same temperature
			require.LessOrEqual(t, *much.Steps[3].Thickness, *little.Steps[3].Thickness+0.05, "in the pot")
		}
		require.LessOrEqual(t, much.Thickness.Chilled.Value, little.Thickness.Chilled.Value+0.05, "in the bowl")
	})
	require.Greater(t, tried, drawn/4, "of the draws that are about it")
}
