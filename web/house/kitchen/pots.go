package kitchen

import (
	"net/http"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

// A potForm is a pot as it is typed in.
type potForm struct {
	ID     string // of a pot that is changed
	In     map[string]string
	Faults map[string]string
	Shapes []shapeChoice
	Sizes  []sizeField
	Uses   []useChoice
}

type shapeChoice struct {
	Shape  vessel.Shape
	Label  string
	Chosen bool
}

type useChoice struct {
	Use   vessel.Use
	Label string
	On    bool
}

// A sizeField is one length that some shapes have.
type sizeField struct{ Name, Label, Value, Fault, Shapes string }

var (
	shapes = []shapeChoice{{vessel.Straight, "straight walls", false}, {vessel.Taper, "wider at the top", false},
		{vessel.Bowl, "bowl, round bottom", false}, {vessel.Tray, "tray or dish with corners", false}}
	sizes = []sizeField{
		{Name: "diameter_mm", Label: "Inner diameter, mm", Shapes: "straight"},
		{Name: "bottom_mm", Label: "Inner diameter at the bottom, mm", Shapes: "taper"},
		{Name: "top_mm", Label: "Inner diameter at the top, mm", Shapes: "taper bowl"},
		{Name: "length_mm", Label: "Inner length, mm", Shapes: "tray"},
		{Name: "width_mm", Label: "Inner width, mm", Shapes: "tray"},
		{Name: "height_mm", Label: "Inner depth, mm", Shapes: "straight taper bowl tray"},
	}
)

// formOf is the form with some values in it, and with faults beside them.
func formOf(values map[string]string, uses []string, faults map[string]string) potForm {
	f := potForm{In: values, Faults: faults, Shapes: slices.Clone(shapes), Sizes: slices.Clone(sizes)}
	for i := range f.Shapes {
		f.Shapes[i].Chosen = string(f.Shapes[i].Shape) == values["shape"]
	}
	for i, size := range f.Sizes {
		f.Sizes[i].Value, f.Sizes[i].Fault = values[size.Name], faults[size.Name]
	}
	for _, use := range vessel.Uses() {
		f.Uses = append(f.Uses, useChoice{use, words.UseName(use), len(uses) == 0 || slices.Contains(uses, string(use))})
	}
	return f
}

// newPot is the form before anything was typed.
func newPot() potForm { return formOf(map[string]string{"shape": string(vessel.Straight)}, nil, nil) }

// changing is the form of a pot that there is.
func changing(p store.Pot) potForm {
	values := map[string]string{"name": p.Name, "shape": string(p.Shape)}
	plain := func(x float64) string { return strconv.FormatFloat(x, 'f', -1, 64) }
	for _, side := range vessel.Sides(p.Shape) {
		values[side.Name] = plain(float64(*side.Of(&p.Pot)))
	}
	if p.MassG != nil {
		values["mass_g"] = plain(float64(*p.MassG))
	}
	if p.Heavy {
		values["heavy"] = "1"
	}
	uses := make([]string, len(p.Uses))
	for i, use := range p.Uses {
		uses[i] = string(use)
	}
	f := formOf(values, uses, nil)
	f.ID = p.ID
	return f
}

// readPot reads the form. What is wrong is noted in f.
func readPot(f *frame.Fields) vessel.Pot {
	const longest = 60
	p := vessel.Pot{Name: f.Name("name", longest), Shape: vessel.Shape(f.Text("shape")), Heavy: f.Text("heavy") != ""}
	if !slices.Contains(vessel.Shapes(), p.Shape) {
		f.Fault("shape", vessel.ErrShape)
		return p
	}
	for _, side := range vessel.Sides(p.Shape) {
		*side.Of(&p) = measure.Millimetre(f.Within(side.Name, side.Bound, "220"))
	}
	if f.Text("mass_g") != "" {
		mass := measure.Gram(f.Within("mass_g", vessel.PotGrams, "1350"))
		p.MassG = &mass
	}
	for _, use := range vessel.Uses() {
		if slices.Contains(f.Typed["uses"], string(use)) {
			p.Uses = append(p.Uses, use)
		}
	}
	if len(p.Uses) == len(vessel.Uses()) {
		p.Uses = nil // for everything, also what is thought of later
	}
	if len(f.Typed["uses"]) == 0 && f.Text("uses_shown") != "" {
		f.Fault("uses", errNoUse)
	}
	return p
}

// AddPot stores a new pot.
func (s *Screen) AddPot(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	pot := readPot(f)
	if f.Err() != nil {
		return s.render(c, http.StatusUnprocessableEntity, formOf(f.Values(), f.Typed["uses"], f.Faults(frame.Words(c))), newBurner(), nil, nil)
	}
	return s.then(c, s.records.AddPot(c.Request.Context(), store.Pot{ID: app.NewID(), Pot: pot}, s.app.Now()), "")
}

// Pot shows a pot to be changed.
func (s *Screen) Pot(c *gin.Context) error {
	pot, err := s.records.Pot(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	return s.showPot(c, http.StatusOK, changing(pot))
}

func (s *Screen) showPot(c *gin.Context, status int, f potForm) error {
	return s.pot.Show(c, status, frame.Frame{Title: words.Capital(f.In["name"]), Section: "kitchen", Module: "kitchen.js", Body: f})
}

// ChangePot stores what a pot is now.
func (s *Screen) ChangePot(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	pot := readPot(f)
	if f.Err() != nil {
		form := formOf(f.Values(), f.Typed["uses"], f.Faults(frame.Words(c)))
		form.ID = c.Param("id")
		return s.showPot(c, http.StatusUnprocessableEntity, form)
	}
	return s.then(c, s.records.ChangePot(c.Request.Context(), store.Pot{ID: c.Param("id"), Pot: pot}), "")
}

// RemovePot takes a pot out.
func (s *Screen) RemovePot(c *gin.Context) error {
	id := c.Param("id")
	return s.then(c, s.records.RemovePot(c.Request.Context(), id, s.app.Now()), "?removed_pot="+id)
}

// RestorePot puts it back.
func (s *Screen) RestorePot(c *gin.Context) error {
	return s.then(c, s.records.RestorePot(c.Request.Context(), c.Param("id")), "")
}
