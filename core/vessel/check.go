package vessel

import (
	"slices"

	"kirdu/core/measure"
)

// Bounds of pots and burners, the one home of each: the plan format, forms, the
// store, archives and gatherings hold to them. Source: the plan format; nothing
// that stands on a household stove is beyond them.
var (
	PotMM      = measure.Bound{Low: 0, Above: true, High: 1500} // each inner measure
	TrayHighMM = measure.Bound{Low: 0, Above: true, High: 500}  // the height of a tray
	PotGrams   = measure.Bound{Low: 0, High: 50_000}            // empty
	BurnerWatt = measure.Bound{Low: 50, High: 30_000}
	FlameWatt  = measure.Bound{Low: 0, High: 30_000} // into the pot, by a water test
	Share      = measure.Bound{Low: 0, Above: true, High: 1}
)

// A Side is an inner measure of a pot, by its name in the plan format.
type Side struct {
	Name  string
	Bound measure.Bound
	Of    func(*Pot) *measure.Millimetre
}

// Shapes lists the shapes.
func Shapes() []Shape { return []Shape{Straight, Taper, Bowl, Tray} }

var sides = map[Shape][]Side{
	Straight: {diameter, height},
	Taper:    {bottom, top, height},
	Bowl:     {top, height},
	Tray:     {length, width, {"height_mm", TrayHighMM, func(p *Pot) *measure.Millimetre { return &p.HeightMM }}},
}

var (
	diameter = Side{"diameter_mm", PotMM, func(p *Pot) *measure.Millimetre { return &p.DiameterMM }}
	bottom   = Side{"bottom_mm", PotMM, func(p *Pot) *measure.Millimetre { return &p.BottomMM }}
	top      = Side{"top_mm", PotMM, func(p *Pot) *measure.Millimetre { return &p.TopMM }}
	length   = Side{"length_mm", PotMM, func(p *Pot) *measure.Millimetre { return &p.LengthMM }}
	width    = Side{"width_mm", PotMM, func(p *Pot) *measure.Millimetre { return &p.WidthMM }}
	height   = Side{"height_mm", PotMM, func(p *Pot) *measure.Millimetre { return &p.HeightMM }}
)

// Sides lists the measures that a shape has, in the order in which they are asked;
// none for a shape there is not.
func Sides(shape Shape) []Side { return slices.Clone(sides[shape]) }

// Faults of pots and burners.
var (
	ErrShape = measure.Code("vessel.shape")
	ErrUse   = measure.Code("vessel.use")
	ErrKind  = measure.Code("vessel.kind")
)

// Check returns what is wrong with a pot, by the names of the plan format: a shape
// there is not, a measure that its shape needs and that is out of bounds, a mass.
// Error: measure.Faults.
func (p Pot) Check() error {
	var faults measure.Faults
	if !slices.Contains(Shapes(), p.Shape) {
		return measure.Faults{{Field: "shape", Value: string(p.Shape), Err: ErrShape}}
	}
	for _, side := range sides[p.Shape] {
		faults = side.Bound.Hold(faults, side.Name, float64(*side.Of(&p)))
	}
	if p.MassG != nil {
		faults = PotGrams.Hold(faults, "mass_g", float64(*p.MassG))
	}
	for i, use := range p.Uses {
		if !slices.Contains(Uses(), use) || slices.Contains(p.Uses[:i], use) {
			faults = append(faults, &measure.FieldError{Field: "uses", Value: string(use), Err: ErrUse})
		}
	}
	return faults.Err()
}

// Kinds lists the kinds of burners.
func Kinds() []string { return []string{"gas", "induction", "electric", "wood"} }

// Check returns what is wrong with a burner, by the names of the plan format.
// Error: measure.Faults.
func (b Burner) Check() error {
	var faults measure.Faults
	if !slices.Contains(Kinds(), b.Kind) {
		faults = append(faults, &measure.FieldError{Field: "kind", Value: b.Kind, Err: ErrKind})
	}
	faults = BurnerWatt.Hold(faults, "power_w", float64(b.PowerW))
	faults = Share.Hold(faults, "efficiency", b.Efficiency)
	for _, flame := range Marks() {
		if watts, tested := b.FlameW[flame]; tested {
			faults = FlameWatt.Hold(faults, "flame_w."+string(flame), float64(watts))
		}
	}
	return faults.Err()
}
