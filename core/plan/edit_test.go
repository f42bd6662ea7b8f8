package plan_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/plantest"
)

// withSteps reads a plan of the given steps in a 22 cm pot.
func TestPrepareAndBack(t *testing.T) {
	for name, c := range map[string]struct {
		item    int
		how     string
		verbs   string
		minutes measure.Minute
	}{
		"soak":              {1, "soak", "soak add heat heat add", 45},
		"roast":             {1, "roast", "roast add heat heat add", 4},
		"wash":              {1, "wash", "prep add heat heat add", 2},
		"stir in cold":      {1, "stir in cold", "mix add heat heat add", 10},
		"grind to a paste":  {1, "grind to a paste", "prep grind add heat heat add", 5},
		"grind to granules": {1, "grind to granules", "prep grind add heat heat add", 3},
		"cut the spice":     {3, "cut", "prep add heat heat add", 1},
	} {
		t.Run(name, func(t *testing.T) {
			p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft, plantest.SugarIn)
			require.NoError(t, p.Prepare(0, c.item, c.how, c.minutes))
			p = plantest.Reread(t, p)
			require.Equal(t, c.verbs, plantest.Verbs(p))
			last := strings.Count(strings.Split(c.verbs, " add")[0], " ")
			require.InDelta(t, float64(c.minutes), float64(p.Steps[last].FullMinutes()), 0)
		})
	}
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.Halved, plantest.SugarIn)
	before, err := p.JSON()
	require.NoError(t, err)
	require.NoError(t, p.Prepare(0, 1, "soak", 30))
	require.Equal(t, 1, *plantest.Reread(t, p).Steps[3].Until.OfStep, "the reference follows")
	require.NoError(t, p.Prepare(1, 1, "roast", 4), "a part is worked on further")
	require.Equal(t, "soak roast add heat heat add", plantest.Verbs(p))
	require.True(t, p.Unprepare(1))
	require.True(t, p.Unprepare(0))
	after, err := p.JSON()
	require.NoError(t, err)
	require.Equal(t, string(before), string(after))
	require.False(t, p.Unprepare(0), "an addition is no preparation")
	require.False(t, p.Unprepare(99))
}

// Nuts are soaked before they are fried, and are as long in the fat as they were.
func TestPrepareWhatIsFried(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, `{"do":"fry","name":"nuts","fat":{"material":"ghee","amount":"1 tbsp"},
		"items":[{"material":"almond","amount":"10 nut","minutes":4},{"material":"raisin","amount":"10 raisin"}]}`,
		`{"do":"add","items":[{"part":"nuts"}]}`)
	require.NoError(t, p.Prepare(2, 0, "soak", 60))
	p = plantest.Reread(t, p)
	require.Equal(t, "soak add heat fry add", plantest.Verbs(p))
	almonds := p.Steps[3].Items[0]
	require.NotEmpty(t, almonds.Part)
	require.Equal(t, "almond", p.Of(almonds))
	require.Equal(t, "raisin", p.Of(p.Steps[3].Items[1]))
	require.Empty(t, p.Of(plan.Item{Part: "nowhere"}))
	require.InDelta(t, 4, float64(p.Steps[3].FryMinutes(almonds)), 0)
	require.Nil(t, p.Steps[0].Items[0].Minutes, "those are of the fat")
	require.True(t, p.Unprepare(0))
	require.Equal(t, "add heat fry add", plantest.Verbs(p))
	require.InDelta(t, 4, float64(p.Steps[2].FryMinutes(p.Steps[2].Items[0])), 0)
}

// What is stirred into a mix beside the pot is prepared as what goes into the pot is.
func TestAMixIsPrepared(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, `{"do":"mix","name":"masala","items":[{"material":"almond","amount":"20 g"},
		{"material":"milk-whole","amount":"50 ml"}]}`, `{"do":"add","items":[{"part":"masala"}]}`, plantest.Boil)
	require.NoError(t, p.Prepare(1, 0, "grind to a paste", 5), "nuts make a paste")
	p = plantest.Reread(t, p)
	require.Equal(t, "prep grind add mix add heat", plantest.Verbs(p))
	require.Equal(t, p.Steps[0].Name, p.Steps[3].Items[0].Part)
	require.True(t, p.Unprepare(1))
	require.True(t, p.Unprepare(0))
	require.Equal(t, "almond", p.Steps[1].Items[0].Material)
}

func TestWhatCannotBePrepared(t *testing.T) {
	for name, c := range map[string]struct {
		step, item int
		how        string
		want       error
	}{
		"no such way":        {0, 1, "polish", plan.ErrNoPreparation},
		"no such item":       {0, 9, "soak", plan.ErrNoItem},
		"not an addition":    {1, 0, "soak", plan.ErrNoItem},
		"a liquid is soaked": {0, 0, "soak", plan.ErrDoesNotFit},
		"salt is ground":     {0, 2, "grind to a paste", plan.ErrDoesNotFit},
	} {
		t.Run(name, func(t *testing.T) {
			p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.SugarIn)
			before := plantest.Verbs(p)
			require.ErrorIs(t, p.Prepare(c.step, c.item, c.how, 5), c.want)
			require.Equal(t, before, plantest.Verbs(p), "nothing was changed")
		})
	}
	dry := plantest.WithSteps(t, `{"do":"add","items":[{"material":"rice-flour","amount":"50 g"},
		{"material":"sugar-white","amount":"50 g"}]}`, plantest.Boil)
	require.ErrorIs(t, dry.Prepare(0, 0, "stir in cold", 2), plan.ErrNeedsLiquid)
	soaked := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil)
	require.NoError(t, soaked.Prepare(0, 1, "soak", 30))
	require.ErrorIs(t, soaked.Prepare(1, 1, "stir in cold", 30), plan.ErrNeedsPart)
}

// Each preparation that is offered makes a plan that can be read, for each
// material that it says it fits.
func TestEveryPreparationFits(t *testing.T) {
	for _, q := range plan.Preparations() {
		for _, m := range pantry.Standard().All() {
			p := plantest.WithSteps(t, fmt.Sprintf(`{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},
				{"material":%q,"amount":"50 g"}]}`, m.Slug), plantest.Boil)
			err := p.Prepare(0, 1, q.Name, q.Minutes)
			fits := false
			for _, b := range q.Fits {
				fits = fits || b == m.Behaviour
			}
			require.Equal(t, fits, err == nil, "%s %s: %v", q.Name, m.Slug, err)
			if fits {
				plantest.Reread(t, p)
			}
		}
	}
}

func TestPressingIsWrittenIn(t *testing.T) {
	warm := measure.Celsius(40)
	two := plan.Step{Do: plan.Press, Coconuts: 2, Presses: []plan.PressOf{{WaterML: 0}, {WaterML: 600, TempC: &warm}}}

	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.Halved, plantest.SugarIn, plantest.CoconutIn)
	p.WritePress(two)
	p = plantest.Reread(t, p)
	require.Equal(t, "press add heat heat add add", plantest.Verbs(p))
	require.Equal(t, "coconut.1", p.Steps[5].Items[0].Part, "in the place of the thick")
	require.Equal(t, 1, *p.Steps[3].Until.OfStep)
	require.Equal(t, map[int][]string{0: {"coconut.2"}}, p.Unused(), "nobody has said where the thin goes")

	// Thick milk that goes in twice is shared out by mass.
	p = plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.CoconutIn,
		`{"do":"add","items":[{"material":"coconut-milk-thick","amount":"100 ml"}]}`)
	p.WritePress(plan.Step{Do: plan.Press, Coconuts: 3, Presses: []plan.PressOf{{WaterML: 0}}})
	p = plantest.Reread(t, p)
	require.InDelta(t, 2./3, p.Steps[3].Items[0].Portion(), 0.001)
	require.InDelta(t, 1, p.Steps[4].Items[0].Portion(), 0)

	// Another pressing takes its place, with more presses and with fewer.
	p.WritePress(two)
	require.Len(t, plantest.Reread(t, p).Steps[0].Presses, 2)
	p.Steps[1].Items = append(p.Steps[1].Items, plan.Item{Part: "coconut.2"})
	p.WritePress(plan.Step{Do: plan.Press, Coconuts: 4, Presses: []plan.PressOf{{WaterML: 100}}})
	p = plantest.Reread(t, p)
	require.Equal(t, "press add heat add add", plantest.Verbs(p), "never a second one")
	require.InDelta(t, 1./3, p.Steps[1].Items[len(p.Steps[1].Items)-1].Portion(), 1e-9)
}

func TestExchangeReplaceAndSweeten(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft, plantest.SugarIn)
	require.True(t, p.Exchange(0, 0, []plan.Item{{Material: "milk-whole", Amount: "700 g"}, {Material: "cream-single", Amount: "300 g"}}))
	p = plantest.Reread(t, p)
	require.Len(t, p.Steps[0].Items, 5)
	require.Equal(t, "rice-short", p.Steps[0].Items[2].Material)
	require.False(t, p.Exchange(7, 0, []plan.Item{{Material: "water", Amount: "1 g"}}))
	require.False(t, p.Exchange(0, 0, nil))

	p.Replace("rice-short", "rice-basmati", 0.5)
	p = plantest.Reread(t, p)
	require.Equal(t, plan.Item{Material: "rice-basmati", Amount: "45 g"}, p.Steps[0].Items[2])
	require.Equal(t, "rice-basmati", p.Steps[2].Until.Doneness.Of)

	p.ScaleSweeteners(1.25)
	require.Equal(t, "100 g", plantest.Reread(t, p).Steps[3].Items[0].Amount)
}

// Aromas and salt grow slower than the batch, by the exponents that are shown.
func TestTasteGrowsSlower(t *testing.T) {
	grams := func(p *plan.Plan, item int) float64 {
		_, mass, err := p.Weigh(p.Steps[0].Items[item])
		require.NoError(t, err)
		return float64(mass)
	}
	plain, tasted := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.SugarIn),
		plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.SugarIn)
	salt, cardamom := grams(plain, 2), grams(plain, 3)
	plain.Scale(18)
	tasted.ScaleWithTaste(18)
	require.InEpsilon(t, 3*cardamom, grams(plain, 3), 1e-3)
	require.InEpsilon(t, math.Pow(3, plan.TasteExponents["spice"])*cardamom, grams(tasted, 3), 1e-3)
	require.InEpsilon(t, math.Pow(3, plan.TasteExponents["salt"])*salt, grams(tasted, 2), 1e-3)
	require.InEpsilon(t, grams(plain, 0), grams(tasted, 0), 1e-9, "milk is milk")
	require.Equal(t, 18, tasted.Serves)
}

func TestKeys(t *testing.T) {
	for name, want := range map[string]string{"cup": "cup_ml", "Blue Mug": "blue-mug_ml", " 2nd  ladle! ": "nd-ladle_ml",
		"Grandmother's tin": "grandmother-s-tin_ml", "🍚": "_ml"} {
		require.Equal(t, want, plan.KeyOf(name, "ml"))
	}
}

func TestStepsComeAndGo(t *testing.T) {
	for _, kind := range plan.StepKinds() {
		p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft, plantest.Halved)
		p.InsertStep(0, plan.Step{Do: plan.Soak, Name: "more", Items: []plan.Item{{Material: "rice-long", Amount: "20 g"}},
			Minutes: new(measure.Minute(9))})
		item := plan.Item{Material: "cashew", Amount: "30 g"}
		if kind.Takes == plan.TakesPart {
			item = plan.Item{Part: "more"}
		}
		require.NoError(t, p.Put(kind, plan.NewStep{After: 4, Item: &item}), kind.Name)
		p = plantest.Reread(t, p)
		made := slices.IndexFunc(p.Steps, func(s plan.Step) bool {
			return s.Do == kind.Verb() && s.Name != "more" && (len(s.Items) > 0 || s.Do != plan.Add)
		})
		require.GreaterOrEqual(t, made, 0, kind.Name)
		at := len(p.Steps) - 1
		require.NoError(t, p.LeaveOutStep(at))
		p = plantest.Reread(t, p)
		halved := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Until != nil && s.Until.OfStep != nil })
		require.Equal(t, plan.Add, p.Steps[*p.Steps[halved].Until.OfStep].Do, kind.Name)
	}
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, `{"do":"rest","minutes":3}`,
		`{"do":"heat","flame":"medium","until":{"remaining_pct":80,"of_step":2}}`)
	require.True(t, p.RemoveStep(2))
	require.Nil(t, plantest.Reread(t, p).Steps[2].Until.OfStep, "what it counted from is gone")
	require.False(t, p.RemoveStep(9))
	_, known := plan.StepKindNamed("sing to it")
	require.False(t, known)
}

func TestServedChilledInItsBowls(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft, `{"do":"portion","bowls":6}`)
	p.ServeAs(plan.Chilled)
	require.Equal(t, plan.Portion, p.Steps[4].Do)
	require.Equal(t, plan.Chill, plantest.Reread(t, p).Steps[5].Do, "in its bowls, which cool sooner")
	p.ServeAs(plan.Hot)
	require.Len(t, p.Steps, 4)
	p.Scale(12)
	require.Equal(t, 12, p.Steps[3].Bowls, "as many as are served")
}

// What is sized by the bowls is shared out by them, and what is not stays.
func TestScaleLeavesWhatIsNotSized(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft, plantest.SugarIn, `{"do":"portion","slices":24}`)
	p.Scale(12)
	require.Equal(t, 24, p.Steps[4].Slices, "as many slices, each twice as large")
	require.Equal(t, "160 g", p.Steps[3].Items[0].Amount)
	require.InDelta(t, 1.3, p.Steps[2].Until.Doneness.At, 0)
	p.Scale(12)
	require.Equal(t, "160 g", p.Steps[3].Items[0].Amount, "twice is once")
	plantest.Reread(t, p)
}

// TestLosing takes a share of one kind out of what is in, and of nothing else or
// later.
func TestLosing(t *testing.T) {
	p := plantest.WithSteps(t, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-flour","amount":"60 g"},
		{"material":"egg-whole","amount":"2 pieces"}]}`, plantest.Boil,
		`{"do":"add","items":[{"material":"rice-flour","amount":"20 g"}]}`)
	flour, egg := float64(p.Holds(2, pantry.Flour)), float64(p.Holds(2, pantry.Egg))
	all := float64(p.Holds(2, ""))
	require.InDelta(t, 60, flour, 1e-9)
	lost := p.Clone()
	lost.Lose(2, plan.Loss{Share: 0.2, Of: pantry.Flour})
	require.InDelta(t, 0.8*flour, float64(lost.Holds(2, pantry.Flour)), 1e-3)
	require.InDelta(t, egg, float64(lost.Holds(2, pantry.Egg)), 1e-9)
	require.InDelta(t, all-0.2*flour, float64(lost.Holds(2, "")), 1e-3)
	require.InDelta(t, 20, float64(lost.Holds(3, pantry.Flour)-lost.Holds(2, pantry.Flour)), 1e-9, "what goes in later is whole")
	_, err := plan.Reread(lost)
	require.NoError(t, err)
	untouched := p.Clone()
	untouched.Lose(2, plan.Loss{})
	require.Equal(t, p, untouched)
}

// TestLessSweetFromAStepOn scales what is still to come, by the gram and by the
// share of a syrup.
func TestLessSweetFromAStepOn(t *testing.T) {
	p := plantest.WithSteps(t, `{"do":"melt","name":"syrup","items":[{"material":"jaggery","amount":"120 g"},
		{"material":"water","amount":"60 g"}]}`, plantest.MilkAndRice, plantest.SugarIn, plantest.Boil, plantest.SugarIn, `{"do":"add",
			"items":[{"part":"syrup","share":0.5}]}`, `{"do":"add","items":[{"part":"syrup"}]}`)
	p.ScaleSweetenersFrom(3, 0.25)
	require.Equal(t, "80 g", p.Steps[2].Items[0].Amount, "it is in already")
	require.Equal(t, "20 g", p.Steps[4].Items[0].Amount)
	require.InDelta(t, 0.125, p.Steps[5].Items[0].Portion(), 1e-9)
	require.InDelta(t, 0.25, p.Steps[6].Items[0].Portion(), 1e-9)
	require.Equal(t, "120 g", p.Steps[0].Items[0].Amount, "the syrup is made as it was")
	require.Equal(t, "1 l", p.Steps[1].Items[0].Amount)
	_, err := plan.Reread(p)
	require.NoError(t, err)
}

func TestASmallPanIsThereWhenItIsNeeded(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil)
	p.EnsurePot("main")
	require.Len(t, p.Pots, 1, "a pot that is there stays as it is")
	p.EnsurePot("small")
	require.Len(t, p.Pots, 2)
	p.Steps = append(p.Steps, plan.Step{Do: plan.Add, Pot: "small", Items: []plan.Item{{Material: "water", Amount: "200 g"}}})
	_, err := plan.Reread(p)
	require.NoError(t, err)
}
