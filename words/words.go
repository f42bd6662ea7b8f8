package words

import (
	"kirdu/core/forecast"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// tenderWord says what a part is to become: "grain is tender", "pearls are clear and
// whole".
func (w Printer) tenderWord(p *plan.Plan, to *plan.DonenessTarget) string {
	texture := p.Texture(to.Of)
	names := map[pantry.Texture]string{pantry.Grainy: "grain is ", pantry.Pearly: "pearls are ", pantry.Pulse: "pulse is ",
		pantry.Vegetable: "vegetable is ", pantry.Fruit: "fruit is "}
	return names[texture] + pot.DonenessWord(texture, to.At)
}

func thicknessWord(grade float64) string { return pot.ThicknessWord(grade) }

// Sweetness says how sweet per cent of sucrose taste. Source of the bounds: the
// model, section 7.
func (w Printer) Sweetness(percent float64) string {
	switch {
	case percent < 8:
		return "barely sweet"
	case percent < 11:
		return "light"
	case percent < 14:
		return "moderate"
	case percent < 18:
		return "sweet"
	}
	return "festive"
}

// Thickness says the way from the pot to the cold bowl: "Ladle hot, Mound
// chilled".
func (w Printer) Thickness(f *forecast.Forecast, serve plan.Serve) string {
	served := f.Thickness.As(serve)
	if served == nil {
		served = f.Thickness.Room
	}
	text := pot.ThicknessWord(served.Value) + " " + string(serve)
	if serve != plan.Chilled && f.Thickness.Chilled != nil {
		text += ", " + pot.ThicknessWord(f.Thickness.Chilled.Value) + " chilled"
	}
	return text
}

// Serving says how a pudding comes to the table.
func (w Printer) Serving(s plan.Serve) string {
	if s == plan.Room {
		return "at room temperature"
	}
	return string(s)
}
