package words

import (
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"regexp"
	"strings"
)

var useNames = map[vessel.Use]string{vessel.OnStove: "over a flame", vessel.UnderPress: "under pressure", vessel.InOven: "in the oven",
	vessel.AsSlowCooker: "as a slow cooker", vessel.InMicrowave: "in the microwave oven", vessel.AtTable: "at the table"}

// UseName says what a pot may be used for.
func UseName(use vessel.Use) string { return useNames[use] }

// PotName says a pot of a plan by its own name, or by the one that it has in the plan.
func (w Printer) PotName(p *plan.Plan, key string) string {
	if name := p.Pots[key].Name; name != "" {
		return name
	}
	if key == plan.MainPot {
		return "the pot"
	}
	if vesselSaid.MatchString(key) {
		return key
	}
	return key + " pan"
}

// vesselSaid is a key that says itself what it is of: "wide pan", "dish".
var vesselSaid = regexp.MustCompile(`(?i)\b(?:pot|pan|pans|dish|tray|tin|bowl|bowls|cooker|saucepan|mould|kadai|wok)\d*\b|pan\d`)

// inPot is PotName with its article.
func (w Printer) inPot(p *plan.Plan, key string) string {
	name := w.PotName(p, key)
	if strings.HasPrefix(name, "the ") {
		return name
	}
	return "the " + Lower(name)
}

// Uses says what a pot is for, "" where it is for everything.
func (w Printer) Uses(p vessel.Pot) string {
	var said []string
	for _, use := range p.Uses {
		said = append(said, UseName(use))
	}
	text := ""
	if len(said) > 0 {
		text = "For use " + w.Join(said) + "."
	}
	if p.Heavy {
		text += " Its bottom is heavy."
	}
	return text
}
