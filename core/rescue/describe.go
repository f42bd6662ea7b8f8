package rescue

import (
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/serving"
	"kirdu/core/vessel"
)

// Standing is how long ago a pudding came off the heat.
type Standing string

// The ways a finished pudding may stand there.
const (
	JustOff Standing = "hot"
	Warm    Standing = "warm"
	Cold    Standing = "cold"
)

// A Described is a pot that no plan tells of, by what is in it.
type Described struct {
	Pot       vessel.Pot
	Burner    vessel.Burner
	Kitchen   plan.Kitchen
	Materials []plan.OwnMaterial
	Serve     plan.Serve
	Items     []plan.Item // liquids, fat, egg
	Grain     *plan.Item  // nil: none
	Sweet     *plan.Item  // nil: none
	Done      float64     // how soft the grain is, where there is one
}

// ErrDescribed reports a pot with nothing to cook in.
var ErrDescribed = measure.Code("rescue.described")

// Describe returns the plan of a pot that is described: one that leads to what is
// in it now. Errors: ErrDescribed, measure.Faults for amounts that cannot be read.
func Describe(d Described) (*plan.Plan, error) {
	if len(d.Items) == 0 {
		return nil, ErrDescribed
	}
	p := &plan.Plan{Format: plan.Format, Name: "A pot", Serves: 6, PortionG: 150, Serve: d.Serve, Kitchen: d.Kitchen,
		Pots: map[string]vessel.Pot{plan.MainPot: d.Pot}, Burner: d.Burner, Materials: d.Materials}
	items := d.Items
	if d.Grain != nil {
		items = append(items[:len(items):len(items)], *d.Grain)
	}
	lid, simmer := true, measure.Minute(3)
	p.Steps = []plan.Step{
		{Do: plan.Add, Items: items},
		{Do: plan.Heat, Flame: vessel.High, Until: &plan.Until{Boil: true}, Stir: plan.StirOften},
		{Do: plan.Heat, Flame: vessel.Simmer, Lid: &lid, Until: &plan.Until{Minutes: &simmer}, Stir: plan.StirOften},
	}
	if d.Grain != nil && d.Done > 0 {
		p.Steps[2].Until = &plan.Until{Doneness: &plan.DonenessTarget{Of: d.Grain.Material, At: d.Done}}
	}
	if d.Sweet != nil {
		p.Steps = append(p.Steps, plan.Step{Do: plan.Add, Items: []plan.Item{*d.Sweet}})
	}
	return plan.Reread(p)
}

// Finished returns a pudding for a rescue after its last step: as it came off the
// heat, or after it has stood there, or chilled.
func Finished(p *plan.Plan, standing Standing) Trouble {
	done := serving.OffHeat(p)
	switch standing {
	case Warm:
		// In time: what cools on the counter for longer is not to be mended.
		const warm measure.Celsius = 48
		to := warm
		done.Steps = append(done.Steps, p.IntoServed(plan.Step{Do: plan.Cool, ToC: &to, Where: plan.Counter}))
	case Cold:
		hours := 4.0
		done.Steps = append(done.Steps, p.IntoServed(plan.Step{Do: plan.Chill, Hours: &hours}))
	}
	return Trouble{Plan: done, Now: len(done.Steps)}
}
