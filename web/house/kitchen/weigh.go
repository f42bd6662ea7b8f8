package kitchen

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
)

type weighView struct {
	In     map[string]string
	Faults map[string]string
}

var weighStandard = map[string]string{"name": "", "walls": "straight", "height_mm": "", "mass_g": "", "low_mm": "", "low_g": "",
	"high_mm": "", "high_g": "", "with_pot": ""}

// Weigh shows the form for a pot that is measured by weighing water.
func (s *Screen) Weigh(c *gin.Context) error {
	return s.showWeigh(c, http.StatusOK, frame.NewFields(c.Request.URL.Query(), weighStandard))
}

func (s *Screen) showWeigh(c *gin.Context, status int, f *frame.Fields) error {
	return s.weigh.Show(c, status, frame.Frame{Title: "A pot by weighing", Section: "kitchen", Body: weighView{f.Values(),
		f.Faults(frame.Words(c))}})
}

var errWalls = measure.Code("kitchen.walls")

// AddWeighed stores a pot that was measured by weighing water.
func (s *Screen) AddWeighed(c *gin.Context) error {
	f, err := frame.ReadForm(c, weighStandard)
	if err != nil {
		return err
	}
	pot := weighedPot(f)
	if f.Err() != nil {
		return s.showWeigh(c, http.StatusUnprocessableEntity, f)
	}
	return s.then(c, s.records.AddPot(c.Request.Context(), store.Pot{ID: app.NewID(), Pot: pot}, s.app.Now()), "")
}

// widestPot is as wide as a pot may be.
var widestPot = measure.Millimetre(vessel.PotMM.High)

var errWide = measure.Code("kitchen.wide")

func weighedPot(f *frame.Fields) vessel.Pot {
	const mostWater = 500_000
	tallest, heaviest := vessel.PotMM.High, vessel.PotGrams.High
	p := vessel.Pot{Name: f.Name("name", 60), HeightMM: measure.Millimetre(f.Number("height_mm", 1, tallest, "120"))}
	empty, weighed := f.Optional("mass_g", 0, heaviest, "1200")
	if weighed {
		mass := measure.Gram(empty)
		p.MassG = &mass
	}
	if f.Text("with_pot") == "" {
		empty = 0
	} else if !weighed {
		f.Fault("mass_g", measure.Code("kitchen.pot-mass"))
	}
	filling := func(depth, mass string) vessel.Filling {
		return vessel.Filling{Depth: measure.Millimetre(f.Number(depth, 1, tallest, "100")),
			Water: measure.Gram(f.Number(mass, 1, mostWater, "2500") - empty)}
	}
	high := filling("high_mm", "high_g")
	switch f.Text("walls") {
	case "straight":
		p.Shape = vessel.Straight
		if f.Err() != nil {
			return p
		}
		diameter, err := vessel.StraightFrom(high)
		if err != nil {
			f.Fault("high_g", err)
		}
		p.DiameterMM = diameter
	case "taper":
		p.Shape = vessel.Taper
		low := filling("low_mm", "low_g")
		if f.Err() != nil {
			return p
		}
		bottom, top, err := vessel.TaperFrom(low, high, p.HeightMM)
		if err != nil {
			f.Fault("low_g", err)
		}
		p.BottomMM, p.TopMM = bottom, top
	default:
		f.Fault("walls", errWalls)
	}
	if f.Err() == nil && (high.Depth > p.HeightMM || max(p.DiameterMM, p.BottomMM, p.TopMM) > widestPot) {
		if high.Depth > p.HeightMM {
			f.Fault("high_mm", measure.Code("kitchen.too-deep"))
		} else {
			f.Fault("high_g", errWide)
		}
	}
	return p
}
