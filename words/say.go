// Package words says everything: quantities, steps, findings, repairs, as a
// household has them written.
package words

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode"

	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

// thinSpace parts thousands, so that they are not mistaken for a decimal mark.
// No line breaks at it.
const thinSpace = "\u202f"

// Grams writes a mass: "1 026 g".
func (w Printer) Grams(mass measure.Gram) string {
	const tenth = 0.05 // what is less would be "0.0 g"
	switch {
	case mass > 0 && mass < tenth:
		return w.Number(float64(mass), 2) + " g"
	case mass < 1:
		return w.Number(float64(mass), 1) + " g"
	}
	return thousands(float64(measure.Weighable(measure.Gram(mass)))) + " g"
}

// Exact writes a mass to the gram, for a scale to be read against.
func (w Printer) Exact(mass measure.Gram) string { return thousands(math.Round(float64(mass))) + " g" }

func thousands(x float64) string {
	digits := strconv.FormatFloat(x, 'f', -1, 64)
	whole, fraction, hasFraction := strings.Cut(digits, ".")
	sign := ""
	if strings.HasPrefix(whole, "-") {
		sign, whole = "-", whole[1:]
	}
	for i := len(whole) - 3; i > 0; i -= 3 {
		whole = whole[:i] + thinSpace + whole[i:]
	}
	if hasFraction {
		whole += "." + fraction
	}
	return sign + whole
}

// Minutes writes a span of time: "43 min", "1 h 05 min".
func (w Printer) Minutes(minutes measure.Minute) string {
	m := int(math.Round(float64(minutes)))
	const perHour = 60
	if m < 2*perHour {
		return fmt.Sprintf("%d min", m)
	}
	if m%perHour == 0 {
		return fmt.Sprintf("%d h", m/perHour)
	}
	return fmt.Sprintf("%d h %02d min", m/perHour, m%perHour)
}

// Span writes the likely range of a time: "28 to 41 min", "4¾ to 5¼ h".
func (w Printer) Span(r measure.Range) string {
	low, high := math.Round(r.Low), math.Round(r.High)
	const perHour = 60
	if low >= 2*perHour {
		from, to := quarterHours(low), quarterHours(high)
		if from == to {
			return "about " + to + " h"
		}
		return from + " to " + to + " h"
	}
	if low == high {
		return w.Minutes(measure.Minute(high))
	}
	return w.Sprintf("%.0f to %.0f min", low, high)
}

// quarterHours writes minutes as hours to the quarter: "4¾".
func quarterHours(minutes float64) string {
	const perQuarter, perHour = 15, 4
	n := int(math.Round(minutes / perQuarter))
	return strconv.Itoa(n/perHour) + [perHour]string{"", "¼", "½", "¾"}[n%perHour]
}

// Join writes a list: "milk, rice and bay".
func (w Printer) Join(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// Capital writes the first letter large.
func Capital(text string) string {
	if text == "" {
		return ""
	}
	runes := []rune(text)
	return strings.ToUpper(string(runes[:1])) + string(runes[1:])
}

// Lower writes the first letter small, unless the word is an abbreviation.
func Lower(text string) string {
	runes := []rune(text)
	if len(runes) == 0 || (len(runes) > 1 && unicode.IsUpper(runes[1])) {
		return text
	}
	return strings.ToLower(string(runes[:1])) + string(runes[1:])
}

// Millilitres writes a volume: "640 ml", "1.28 l".
func (w Printer) Millilitres(v measure.Millilitre) string {
	const litre, digits = 1000, 3
	if v >= litre {
		return strconv.FormatFloat(measure.RoundSignificant(float64(v/litre), digits), 'f', -1, 64) + " l"
	}
	return w.Number(math.Round(float64(v)), 0) + " ml"
}

// Count writes so many of a unit to three digits: "1.25 cup", "212 g".
func (w Printer) Count(n float64, unit string) string {
	const digits = 3
	if n >= wholeFrom {
		return thousands(math.Round(n)) + " " + unit
	}
	return strconv.FormatFloat(measure.RoundSignificant(n, digits), 'f', -1, 64) + " " + unit
}

// wholeFrom is from where a count needs no decimals.
const wholeFrom = 1000

// Doubted says that what was told cannot be, and what to do.
func (w Printer) Doubted(p *plan.Plan, d learn.Doubt) string {
	switch {
	case d.Part != "":
		return w.text("doubted.soft", p.PartName(d.Part))
	case d.Celsius != nil && d.More:
		return w.text("doubted.more.heat", w.Celsius(*d.Celsius))
	case d.Celsius != nil:
		return w.text("doubted.less.heat", w.Celsius(*d.Celsius))
	case d.More:
		return w.text("doubted.more", w.Grams(d.Mass))
	}
	return w.text("doubted.less", w.Grams(d.Mass))
}
