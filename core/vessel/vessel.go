// Package vessel computes with the pots and burners of the kitchen: volume,
// depth, surface and the power that reaches the food.
package vessel

import (
	"math"
	"slices"

	"kirdu/core/measure"
)

// Shape is the form of a pot.
type Shape string

// The shapes that a pot may have.
const (
	Straight Shape = "straight" // DiameterMM, HeightMM
	Taper    Shape = "taper"    // BottomMM, TopMM, HeightMM: a truncated cone
	Bowl     Shape = "bowl"     // TopMM, HeightMM: a spherical cap
	Tray     Shape = "tray"     // LengthMM, WidthMM, HeightMM
)

// A Pot is one vessel by its inner measures. Only those of its shape are set.
type Pot struct {
	Shape      Shape              `json:"shape"`
	DiameterMM measure.Millimetre `json:"diameter_mm,omitempty"`
	BottomMM   measure.Millimetre `json:"bottom_mm,omitempty"`
	TopMM      measure.Millimetre `json:"top_mm,omitempty"`
	LengthMM   measure.Millimetre `json:"length_mm,omitempty"`
	WidthMM    measure.Millimetre `json:"width_mm,omitempty"`
	HeightMM   measure.Millimetre `json:"height_mm"`
	Name       string             `json:"name,omitempty"`
	MassG      *measure.Gram      `json:"mass_g,omitempty"` // empty; nil: never weighed
	Uses       []Use              `json:"uses,omitempty"`   // nil: all
	Heavy      bool               `json:"heavy,omitempty"`  // a thick bottom, which spreads the heat
	Burner     string             `json:"burner,omitempty"` // "": the plan's own burner
}

// A Use is what a pot may be used for.
type Use string

// The uses.
const (
	OnStove      Use = "stove"
	UnderPress   Use = "pressure"
	InOven       Use = "oven"
	AsSlowCooker Use = "slow-cooker"
	InMicrowave  Use = "microwave"
	AtTable      Use = "table"
)

// Uses lists them.
func Uses() []Use { return []Use{OnStove, UnderPress, InOven, AsSlowCooker, InMicrowave, AtTable} }

// May reports whether a pot may be used so.
func (p Pot) May(use Use) bool { return len(p.Uses) == 0 || slices.Contains(p.Uses, use) }

// CoarseGauge is how many ml a millimetre of depth may hold before a scale reads
// better. Source: the model, section 2.
const CoarseGauge = 15

// bowlBaseShare is the width of the heated bottom of a bowl over that of its
// top. Source: the model, section 2.
const bowlBaseShare = 0.6

// A frustum is what straight, tapered and bowl pots have in common: circular
// sections. Lengths are in mm, volumes in ml (1 ml = 1000 mm³).
const cubicMillimetresPerMillilitre = 1000

// sphere returns the radius of the sphere that a bowl is cut from.
func (p Pot) sphere() float64 {
	r, h := float64(p.TopMM)/2, float64(p.HeightMM)
	return (r*r + h*h) / (2 * h)
}

// radius returns the radius of the surface at a depth, in mm; of a tray that
// of a circle of the same area.
func (p Pot) radius(depth float64) float64 {
	h := float64(p.HeightMM)
	depth = min(max(depth, 0), h)
	switch p.Shape {
	case Taper:
		bottom, top := float64(p.BottomMM)/2, float64(p.TopMM)/2
		return bottom + (top-bottom)*depth/h
	case Bowl:
		return math.Sqrt(max(0, depth*(2*p.sphere()-depth)))
	case Tray:
		return math.Sqrt(float64(p.LengthMM) * float64(p.WidthMM) / math.Pi)
	}
	return float64(p.DiameterMM) / 2
}

// Surface returns the area of the surface when the pot is filled to a depth.
// Above the rim it is that of the rim.
func (p Pot) Surface(depth measure.Millimetre) measure.SquareMetre {
	r := p.radius(float64(depth)) / 1000
	return measure.SquareMetre(math.Pi * r * r)
}

// Base returns the heated area: the bottom, for a bowl a disc of 0.6 of the top.
func (p Pot) Base() measure.SquareMetre {
	if p.Shape == Bowl {
		r := bowlBaseShare * float64(p.TopMM) / 2000
		return measure.SquareMetre(math.Pi * r * r)
	}
	return p.Surface(0)
}

// Side returns the wetted side area at a depth: without the bottom.
func (p Pot) Side(depth measure.Millimetre) measure.SquareMetre {
	d := min(max(float64(depth), 0), float64(p.HeightMM))
	const squareMillimetres = 1e6
	switch p.Shape {
	case Taper:
		r0, r1 := p.radius(0), p.radius(d)
		return measure.SquareMetre(math.Pi * (r0 + r1) * math.Hypot(d, r1-r0) / squareMillimetres)
	case Bowl:
		return measure.SquareMetre(2 * math.Pi * p.sphere() * d / squareMillimetres)
	case Tray:
		return measure.SquareMetre(2 * (float64(p.LengthMM) + float64(p.WidthMM)) * d / squareMillimetres)
	}
	return measure.SquareMetre(math.Pi * float64(p.DiameterMM) * d / squareMillimetres)
}

// Heat lost to the room over a kelvin, in W/(m² K). Source: the model, section 3.
const (
	topLoss  = 16.0
	sideLoss = 8.0
)

// Loss returns the heat that a pot filled to a depth gives off to the room, in
// W per kelvin that it is warmer.
func (p Pot) Loss(depth measure.Millimetre) float64 {
	return topLoss*float64(p.Surface(depth)) + sideLoss*float64(p.Side(depth))
}

// Volume returns what the pot holds up to a depth. Above the rim it goes on
// with straight walls, so that an overfull pot still has a level.
func (p Pot) Volume(depth measure.Millimetre) measure.Millilitre {
	d, h := max(0, float64(depth)), float64(p.HeightMM)
	above := max(0, d-h)
	d = min(d, h)
	var cubic float64
	switch p.Shape {
	case Taper:
		a, b := p.radius(0), p.radius(d)
		cubic = math.Pi * d / 3 * (a*a + a*b + b*b)
	case Bowl:
		cubic = math.Pi * d * d / 3 * (3*p.sphere() - d)
	case Tray:
		cubic = float64(p.LengthMM) * float64(p.WidthMM) * d
	default:
		r := p.radius(d)
		cubic = math.Pi * r * r * d
	}
	rim := p.radius(h)
	return measure.Millilitre((cubic + math.Pi*rim*rim*above) / cubicMillimetresPerMillilitre)
}

// Capacity returns the brimful volume.
func (p Pot) Capacity() measure.Millilitre { return p.Volume(p.HeightMM) }

// depthTolerance is how closely Depth is found, well below the 0.01 mm that a
// dip gauge could ever show.
const depthTolerance = 1e-4

// leastSlope is how much a wall must lean for the closed form of its depth: a
// straighter one would lose digits in the difference of two cubes.
const leastSlope = 1e-3

// depthIterations bounds the search: Newton gains digits fast, and when a step
// leaves the bracket it is halved, 60 halvings of a 1.5 m pot being 1e-15 mm.
const depthIterations = 60

// Depth returns how high a volume stands in the pot. It is 0 for no volume and
// more than HeightMM for more than the pot holds.
func (p Pot) Depth(volume measure.Millilitre) measure.Millimetre {
	if !(volume > 0) {
		return 0
	}
	cubic := float64(volume) * cubicMillimetresPerMillilitre
	if p.Shape == Straight || p.Shape == Tray {
		r := p.radius(0)
		return measure.Millimetre(cubic / (math.Pi * r * r))
	}
	h := float64(p.HeightMM)
	capacity := p.Capacity()
	if volume >= capacity {
		rim := p.radius(h)
		return measure.Millimetre(h + float64(volume-capacity)*cubicMillimetresPerMillilitre/(math.Pi*rim*rim))
	}
	if p.Shape == Taper {
		bottom, slope := p.radius(0), (p.radius(h)-p.radius(0))/h
		if math.Abs(slope) > leastSlope {
			// V = pi ((a + k z)³ - a³)/(3 k), solved for z.
			return measure.Millimetre((math.Cbrt(bottom*bottom*bottom+3*slope*cubic/math.Pi) - bottom) / slope)
		}
	}
	low, high := 0.0, h
	depth := h * float64(volume) / float64(capacity)
	for range depthIterations {
		miss := float64(p.Volume(measure.Millimetre(depth)))*cubicMillimetresPerMillilitre - cubic
		if miss > 0 {
			high = depth
		} else {
			low = depth
		}
		r := p.radius(depth)
		next := depth - miss/(math.Pi*r*r)
		if !(next > low && next < high) {
			next = (low + high) / 2
		}
		if math.Abs(next-depth) < depthTolerance {
			return measure.Millimetre(next)
		}
		depth = next
	}
	return measure.Millimetre(depth)
}

// MillilitrePerMM returns how much one millimetre of depth holds at a depth.
func (p Pot) MillilitrePerMM(depth measure.Millimetre) measure.Millilitre {
	return measure.Millilitre(float64(p.Surface(depth)) * 1000)
}

// Mass of a vessel that nobody has weighed over its metal area, bottom and side: an
// ordinary pot, and a tray of sheet metal. Source: the model, sections 3 and 15.
const (
	potGramPerSquareCM  = 1.5
	trayGramPerSquareCM = 0.6
)

// metal returns the area of bottom and side, in cm².
func (p Pot) metal() float64 {
	const squareCM = 1e4
	area := float64(p.Side(p.HeightMM))
	if p.Shape != Bowl { // its side goes on to the bottom
		area += float64(p.Surface(0))
	}
	return area * squareCM
}

// Mass returns the mass of the empty pot. It is estimated from its size, and
// weighed is false, when nobody has weighed it.
func (p Pot) Mass() (mass measure.Gram, weighed bool) {
	if p.MassG != nil {
		return *p.MassG, true
	}
	per := potGramPerSquareCM
	if p.Shape == Tray {
		per = trayGramPerSquareCM
	}
	return measure.Gram(p.metal() * per), false
}

// Heat of the vessel's own metal, J/(g K): steel, and the aluminium of a tray, of
// which only the bottom takes part. Source: the model, section 3.
const (
	potHeat  = 0.5
	trayHeat = 0.9
)

// HeatCapacity returns the heat that the empty vessel takes up for each kelvin, J/K.
func (p Pot) HeatCapacity() float64 {
	mass, _ := p.Mass()
	if p.Shape != Tray {
		return float64(mass) * potHeat
	}
	const squareCM = 1e4
	bottom := measure.Ratio(float64(p.Surface(0))*squareCM, p.metal())
	return float64(mass) * bottom * trayHeat
}

// SafeFill returns the volume up to a share of the height, such as the 0.60
// that dairy at the boil should stay below.
func (p Pot) SafeFill(share float64) measure.Millilitre {
	return p.Volume(measure.Millimetre(share) * p.HeightMM)
}

// Width returns the inner width at a depth, in mm: what a section of the pot
// shows. A tray is shown by its length.
func (p Pot) Width(depth measure.Millimetre) measure.Millimetre {
	if p.Shape == Tray {
		return p.LengthMM
	}
	return measure.Millimetre(2 * p.radius(float64(depth)))
}
