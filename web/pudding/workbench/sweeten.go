package workbench

import (
	"maps"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/web/frame"
	"kirdu/words"
)

// sugarRail is the moment of the sugar on the pot line.
type sugarRail struct {
	At, End int    // minutes
	Words   string // what the window is, and why
}

func newSugarRail(say words.Printer, s design.Sweetening) *sugarRail {
	rail := &sugarRail{At: int(math.Round(s.Minute)), End: int(math.Ceil(s.End))}
	why := "softer grain lets sugar in without harm; earlier, sugar ties up the water that the grain wants"
	if s.Acid {
		why = "the pulse must be soft first: in acid sweeteners it softens no more"
	}
	switch {
	case math.IsInf(s.From, 1):
		rail.Words = "It does not get soft on this flame, even without sugar: " + why + "."
	case s.From > s.To:
		rail.Words = say.Sprintf("All is soft from %.0f min on, when the flame is nearly off: put it in at the end. %s.", s.From,
			words.Capital(why))
	case s.From <= 0:
		rail.Words = say.Sprintf("Good until %.0f min, so that it can still dissolve: all is soft already.", s.To)
	default:
		rail.Words = say.Sprintf("Good from %.0f to %.0f min: %s.", s.From, s.To, why)
	}
	return rail
}

// Sweeten says what comes of it when the sugar goes in at another minute, for the
// slider while it is moved.
func (s *Screen) Sweeten(c *gin.Context) error {
	say := frame.Words(c)
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	minute, err := strconv.ParseFloat(c.Query("at"), 64)
	if err != nil || math.IsNaN(minute) || math.Abs(minute) > 1e5 {
		c.String(http.StatusUnprocessableEntity, "Give a minute, such as 25.")
		return nil
	}
	moved, ok := design.SweetenAt(pudding.Plan, minute)
	if !ok {
		c.String(http.StatusUnprocessableEntity, "There is no sugar to move.")
		return nil
	}
	c.String(http.StatusOK, effect(say, pudding.Plan, moved, minute))
	return nil
}

// effect says in words what another moment of the sugar does.
func effect(say words.Printer, before, after *plan.Plan, minute float64) string {
	options := forecast.Options{NominalOnly: true}
	was, is := forecast.Run(before, options), forecast.Run(after, options)
	var said []string
	for _, name := range slices.Sorted(maps.Keys(is.Doneness)) {
		part := words.Lower(after.PartName(name))
		from, to := was.Doneness[name].Value, is.Doneness[name].Value
		const noticed = 0.05
		if later := is.DoneAt(name, 1) - was.DoneAt(name, 1); math.Abs(later) >= 1 && !math.IsInf(later, 0) && !math.IsNaN(later) {
			said = append(said, say.Sprintf("%s is cooked through %.0f min %s", part, math.Abs(later), laterWord(later)))
		}
		if math.Abs(to-from) >= noticed {
			said = append(said, say.Sprintf("%s is served %s (%.1f) instead of %s (%.1f)", part, pot.DonenessWord(after.Texture(name), to), to,
				pot.DonenessWord(before.Texture(name), from), from))
		}
	}
	a, b := was.Thickness.As(before.Serve), is.Thickness.As(after.Serve)
	if a != nil && b != nil && math.Abs(a.Value-b.Value) >= 0.05 {
		word := "thicker"
		if b.Value < a.Value {
			word = "thinner"
		}
		said = append(said, say.Sprintf("%s: %.1f instead of %.1f", word, b.Value, a.Value))
	}
	if x, y := design.SugarHeat(before, was), design.SugarHeat(after, is); math.Abs(y-x) >= 1 {
		word := "browner"
		if y < x {
			word = "paler"
		}
		said = append(said, say.Sprintf("%s: the sugar is on the heat for %.0f min instead of %.0f", word, y, x))
	}
	_, x := was.MostScorch()
	if _, y := is.MostScorch(); math.Abs(y-x) >= 0.05 {
		said = append(said, say.Sprintf("scorching %.1f instead of %.1f, 1 is the limit", y, x))
	}
	if len(said) == 0 {
		return say.Sprintf("At %.0f min: nothing that one would notice.", minute)
	}
	return say.Sprintf("At %.0f min: %s.", minute, strings.Join(said, "; "))
}

func laterWord(minutes float64) string {
	if minutes > 0 {
		return "later"
	}
	return "sooner"
}
