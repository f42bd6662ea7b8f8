package words

import (
	"fmt"
	"math"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/message/catalog"

	"kirdu/core/measure"
)

// A Style is how a household has things written. Its zero value is points in
// numbers, days before months, and degrees Celsius.
type Style struct {
	Comma      bool   // a comma in numbers, for the point
	Dates      string // "" or words: 2 January 2006; month: January 2, 2006; iso: 2006-01-02
	Fahrenheit bool   // °F beside °C
}

// A Printer says things as a household has them written. It is made for each
// request; its zero value writes as Style's does.
type Printer struct {
	Style
}

// printer looks sentences up. English is the one language there is.
var printer = message.NewPrinter(language.English, message.Catalog(catalogue()))

func catalogue() catalog.Catalog {
	b := catalog.NewBuilder(catalog.Fallback(language.English))
	for key, text := range english {
		if err := b.SetString(language.English, key, text); err != nil {
			panic(err) // the catalogue is ours
		}
	}
	return b
}

// text says a sentence of the catalogue; things are texts already.
func (w Printer) text(key string, things ...any) string {
	return w.Degrees(printer.Sprintf(message.Key(key, key), things...))
}

// inDegrees is a temperature in a text of ours: {85C}.
var inDegrees = regexp.MustCompile(`\{(\d+)C\}`)

// Degrees writes the temperatures of a text, such as {85C}, as the household has
// them.
func (w Printer) Degrees(text string) string {
	if !strings.Contains(text, "C}") {
		return text
	}
	return inDegrees.ReplaceAllStringFunc(text, func(found string) string {
		degrees, _ := strconv.Atoi(found[1 : len(found)-2]) // digits alone
		return w.Celsius(measure.Celsius(degrees))
	})
}

// Number writes x with so many decimals: "0.85".
func (w Printer) Number(x float64, decimals int) string {
	return w.decimal(strconv.FormatFloat(x, 'f', decimals, 64))
}

// significant writes x to so many significant digits, no more than it has.
func (w Printer) significant(x float64, digits int) string {
	return w.decimal(strconv.FormatFloat(x, 'g', digits, 64))
}

func (w Printer) decimal(text string) string {
	if w.Comma {
		return strings.Replace(text, ".", ",", 1)
	}
	return text
}

// Percent writes a share in per cent: "60 %".
func (w Printer) Percent(x float64, decimals int) string { return w.Number(x, decimals) + " %" }

// Celsius writes a temperature: "85 °C", "85 °C (185 °F)".
func (w Printer) Celsius(t measure.Celsius) string {
	return w.CelsiusTo(t, 0)
}

// CelsiusTo is Celsius with so many decimals, for what a thermometer shows.
func (w Printer) CelsiusTo(t measure.Celsius, decimals int) string {
	text := w.Number(float64(t), decimals) + " °C"
	if w.Fahrenheit {
		scale := math.Pow10(decimals)
		text += " (" + w.Number(math.Round((float64(t)*fahrenheitPerKelvin+fahrenheitZero)*scale)/scale, decimals) + " °F)"
	}
	return text
}

// degrees writes a temperature without its unit, for the first of two.
func (w Printer) degrees(t measure.Celsius) string { return w.Number(float64(t), 0) }

// Difference writes a difference of temperatures, which is no temperature: "1 °C",
// "1 °C (2 °F)".
func (w Printer) Difference(d measure.Kelvin) string {
	text := w.Number(float64(d), 0) + " °C"
	if w.Fahrenheit {
		text += " (" + w.Number(math.Round(float64(d)*fahrenheitPerKelvin), 0) + " °F)"
	}
	return text
}

// The scale of Fahrenheit.
const (
	fahrenheitPerKelvin = 1.8
	fahrenheitZero      = 32
)

// Layouts of a day, for Time: as they are written with the day first.
const (
	Day = "2 January 2006"
)

// Time writes a moment by a layout of package time that has the day before the
// month, in the order that the household writes them: "25 November 2026",
// "November 25, 2026", "2026-11-25". A day without its year keeps the name of its
// month in ISO too, where it would be read wrongly.
func (w Printer) Time(t time.Time, layout string) string {
	for _, month := range []string{"January", "Jan"} {
		switch w.Dates {
		case "month":
			layout = strings.ReplaceAll(layout, "2 "+month+" 2006", month+" 2, 2006")
			layout = strings.ReplaceAll(layout, "2 "+month, month+" 2")
		case "iso":
			layout = strings.ReplaceAll(layout, "2 "+month+" 2006", "2006-01-02")
		}
	}
	return t.Format(layout)
}

// Sprintf is fmt.Sprintf with numbers as the household writes them. For sentences,
// never for what a program reads.
func (w Printer) Sprintf(format string, things ...any) string {
	if w.Comma {
		things = slices.Clone(things)
		for i, thing := range things {
			if reflect.ValueOf(thing).Kind() == reflect.Float64 {
				things[i] = commaNumber{thing}
			}
		}
	}
	return fmt.Sprintf(format, things...)
}

// A commaNumber is written with a comma for the point.
type commaNumber struct{ x any }

// Format writes it.
func (n commaNumber) Format(s fmt.State, verb rune) {
	fmt.Fprint(s, strings.Replace(fmt.Sprintf(fmt.FormatString(s, verb), n.x), ".", ",", 1))
}
