package plan

import (
	"math"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// OwnOf returns a material in the columns of a plan, to be corrected.
func OwnOf(m *pantry.Material) OwnMaterial {
	yesNo := func(yes bool) string {
		if yes {
			return "yes"
		}
		return "no"
	}
	o := OwnMaterial{
		Slug: m.Slug, Name: m.Name, Kind: m.Kind, Behaviour: string(m.Behaviour), Traits: strings.Join(m.Traits, ";"), UsualState: m.UsualState,
		Water: float64(m.Water), Fat: float64(m.Fat), Protein: float64(m.Protein), Lactose: float64(m.Lactose),
		Sucrose: float64(m.Sucrose), Glucose: float64(m.Glucose), Fructose: float64(m.Fructose), Starch: float64(m.Starch),
		Fibre: float64(m.Fibre), Ash: float64(m.Ash), Other: float64(m.Other), EnergyKcal: m.EnergyKcal, SodiumMg: m.SodiumMg,
		Bulk: float64(m.Bulk), PieceG: float64(m.Piece), PieceName: m.PieceName, PH: m.PH, Buffer: m.Buffer,
		Allergens: strings.Join(m.Allergens, ";"), Gluten: yesNo(m.Gluten), Vegan: yesNo(m.Vegan), AcidNote: m.AcidNote,
		SourceNote: m.SourceNote,
	}
	if k := m.Kinetics; k != nil && m.Behaviour == pantry.Grain {
		o.Kinetics = &OwnKinetics{
			CookMinutes: float64(k.CookMinutes), SoakedFactor: k.SoakedFactor, SoakUptake: k.SoakUptake, SoakHalf: float64(k.SoakHalf),
			MaxUptake: k.MaxUptake, UptakeRate: k.UptakeRate, ReleaseDone: k.ReleaseDone, ReleaseMax: k.ReleaseMax,
			StarchWeight: k.StarchWeight, SetWeight: k.SetWeight, AcidHardens: yesNo(k.AcidHardens), WantedLow: k.WantedLow,
			WantedHigh: k.WantedHigh,
		}
	} else if k != nil {
		o.Kinetics = &OwnKinetics{CookMinutes: float64(k.CookMinutes), SetWeight: k.SetWeight, WantedLow: k.WantedLow, WantedHigh: k.WantedHigh,
			KeptRaw: k.KeptRaw, KeptDone: k.KeptDone}
	}
	return o
}

// Check returns what is wrong with an own material, nil if nothing is: the same
// that a plan with it would be refused for.
func (o OwnMaterial) Check() error { return o.Material().Check() }

// A Label is what a pack says of 100 g, in grams.
type Label struct {
	EnergyKcal, Fat, Carbohydrate, Sugars, Fibre, Protein, Salt float64
}

// Faults of a label.
var (
	ErrLabelSum    = measure.Code("plan.label-sum")
	ErrLabelSugars = measure.Code("plan.label-sugars")
	ErrLabelEnergy = measure.Code("plan.label-energy")
)

// labelEnergyMiss is how far the energy of a label may be from what its parts
// give, as a share and in kcal. Labels are rounded, and alcohol or polyols have
// energy of their own.
const (
	labelEnergyShare = 0.25
	labelEnergyKcal  = 25
)

// FromLabel returns an own material from what a pack says of 100 g and from a
// material that it is like: that one gives what no label tells, the kinds of
// its sugars, its density, its acidity and how it behaves in the pot. What is
// left of 100 g is water. Energy follows Regulation (EU) No 1169/2011, annex
// XIV; 0 kcal means that the label gives none. Errors: ErrLabelSum,
// ErrLabelSugars, ErrLabelEnergy.
func FromLabel(slug, name string, l Label, like *pantry.Material) (OwnMaterial, error) {
	const kcalFat, kcalCarbohydrate, kcalFibre = 9, 4, 2
	sum := l.Fat + l.Carbohydrate + l.Fibre + l.Protein + l.Salt
	energy := kcalFat*l.Fat + kcalCarbohydrate*(l.Carbohydrate+l.Protein) + kcalFibre*l.Fibre
	miss := max(energy-l.EnergyKcal, l.EnergyKcal-energy)
	const rounding = 0.5
	switch {
	case sum > 100+rounding:
		return OwnMaterial{}, ErrLabelSum.With(math.Round(10*sum) / 10)
	case l.Sugars > l.Carbohydrate:
		return OwnMaterial{}, ErrLabelSugars
	case l.EnergyKcal > 0 && miss > labelEnergyKcal && miss > labelEnergyShare*energy:
		return OwnMaterial{}, ErrLabelEnergy.With(math.Round(l.EnergyKcal), math.Round(energy))
	}
	if l.EnergyKcal == 0 {
		l.EnergyKcal = energy
	}
	o := OwnOf(like)
	o.Slug, o.Name, o.SourceNote = slug, name, "pack label, per 100 g; the rest as "+like.ShortName()
	sugars := float64(like.Lactose + like.Sucrose + like.Glucose + like.Fructose)
	share := measure.Ratio(l.Sugars, sugars)
	o.Lactose, o.Sucrose, o.Glucose, o.Fructose = o.Lactose*share, o.Sucrose*share, o.Glucose*share, o.Fructose*share
	if sugars == 0 {
		o.Sucrose = l.Sugars
	}
	o.Fat, o.Protein, o.Fibre, o.Ash = l.Fat, l.Protein, l.Fibre, l.Salt
	o.Starch, o.Other = l.Carbohydrate-l.Sugars, 0
	if like.Starch == 0 { // carbohydrates that do not thicken
		o.Starch, o.Other = 0, o.Starch
	}
	o.Water = max(0, 100-sum)
	o.EnergyKcal = l.EnergyKcal
	const saltToSodiumMg = 1000 / 2.5
	o.SodiumMg = l.Salt * saltToSodiumMg
	return o, o.Check()
}

// A Figure is one number of an own material that can be corrected and reset.
type Figure struct {
	Name, Label, Unit string
	Low, High         float64
	Value             *float64 // in the material it was asked of
}

// Figures lists the numbers of an own material; they can be set through their
// Value.
func (o *OwnMaterial) Figures() []Figure {
	figures := []Figure{
		{"water", "Water", "g", 0, 100, &o.Water}, {"fat", "Fat", "g", 0, 100, &o.Fat}, {"protein", "Protein", "g", 0, 100, &o.Protein},
		{"lactose", "Lactose", "g", 0, 100, &o.Lactose}, {"sucrose", "Sucrose", "g", 0, 100, &o.Sucrose},
		{"glucose", "Glucose", "g", 0, 100, &o.Glucose},
		{"fructose", "Fructose", "g", 0, 100, &o.Fructose}, {"starch", "Starch", "g", 0, 100, &o.Starch},
		{"fibre", "Fibre", "g", 0, 100, &o.Fibre},
		{"ash", "Ash", "g", 0, 100, &o.Ash}, {"other", "Other", "g", 0, 100, &o.Other},
		{"energy_kcal", "Energy", "kcal", 0, 950, &o.EnergyKcal}, {"sodium_mg", "Sodium", "mg", 0, 40000, &o.SodiumMg},
		{"bulk_g_per_ml", "Density, spooned in", "g/ml", 0.01, 3, &o.Bulk}, {"piece_g", "One piece", "g", 0, 5000, &o.PieceG},
		{"ph", "Acidity, pH", "", 0, 11, &o.PH}, {"buffer", "Buffering, milk = 1", "", 0, 400, &o.Buffer},
	}
	if k := o.Kinetics; k != nil {
		figures = append(figures, Figure{"cook_min_98c", "Cooked through at 98 °C in", "min", 0.1, 600, &k.CookMinutes},
			Figure{"wanted_done_low", "Liked from doneness", "", 0.1, 10, &k.WantedLow}, Figure{"wanted_done_high", "to", "", 0.1, 10,
				&k.WantedHigh},
			Figure{"set_weight", "Firms when cold, rice = 1", "", 0, 3, &k.SetWeight})
		if o.Behaviour == string(pantry.Tissue) {
			figures = append(figures, Figure{"water_kept_raw_g_per_g", "Water it holds raw", "g/g", 0, 1, &k.KeptRaw},
				Figure{"water_kept_done_g_per_g", "Water it keeps when done", "g/g", 0, 1, &k.KeptDone})
		}
		if o.Behaviour == string(pantry.Grain) {
			figures = append(figures, Figure{"soaked_cook_factor", "Cooking time when soaked, over unsoaked", "", 0.05, 1, &k.SoakedFactor},
				Figure{"soak_uptake_g_per_g", "Drinks in a soak", "g/g", 0, 5, &k.SoakUptake},
				Figure{"soak_half_min", "Half of it in", "min", 0.1, 600, &k.SoakHalf},
				Figure{"max_uptake_g_per_g", "Holds at most", "g/g", 0.1, 20, &k.MaxUptake},
				Figure{"uptake_rate", "Drinks per doneness", "", 0.1, 10, &k.UptakeRate},
				Figure{"release_at_done", "Starch shed when done", "share", 0, 1, &k.ReleaseDone},
				Figure{"release_max", "Starch shed at most", "share", 0, 1, &k.ReleaseMax},
				Figure{"starch_weight", "Its starch thickens, rice = 1", "", 0, 3, &k.StarchWeight})
		}
	}
	return figures
}
