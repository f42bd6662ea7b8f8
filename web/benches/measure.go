package benches

import (
	"fmt"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/web/picture"
	"kirdu/words"
)

var measureStandard = map[string]string{"material": "Short-grain white rice", "amount": "300 g", "into": "cup"}

type measureView struct {
	Units    []option
	Heading  string
	Lines    []string
	Cautions []string
	Jars     picture.Jars
	Rows     []unitRow
}

type unitRow struct{ Unit, Amount, Size string }

// measures turns any amount of a material into every other measure.
func measures(say words.Printer, r *request) any {
	v := measureView{}
	m := r.material("material")
	amount, err := measure.ParseAmount(r.Text("amount"))
	if err != nil {
		r.Fault("amount", err)
	}
	if r.Err() != nil {
		return v
	}
	mass, err := r.home.Measures.Grams(amount, m.Body())
	if err != nil {
		r.Fault("amount", err)
		return v
	}
	chosen := r.Text("into")
	var answer string
	for _, unit := range r.home.Measures.Units(m.Body()) {
		one, err := r.home.Measures.Grams(measure.Amount{Number: 1, Unit: unit}, m.Body())
		if err != nil || one <= 0 {
			continue
		}
		n := float64(mass / one)
		text, counted := say.Count(n, unit), true
		if !measure.IsExact(unit) {
			var quarters string
			if quarters, counted = measure.CountQuarters(n, unit); counted {
				text = quarters
			}
		}
		v.Units = append(v.Units, option{unit, unit, unit == chosen})
		if unit == chosen {
			answer = text
			v.Jars = cups(say, n, unit)
		}
		if counted || unit == chosen {
			v.Rows = append(v.Rows, unitRow{unit, text, say.Grams(one)})
		}
	}
	if !slices.ContainsFunc(v.Units, func(o option) bool { return o.Chosen }) {
		r.Fault("into", measure.Code("benches.measure"))
		return v
	}
	v.Heading = fmt.Sprintf("%s of %s are %s", r.Text("amount"), words.Lower(m.ShortName()), answer)
	v.Lines = append(v.Lines, fmt.Sprintf("It weighs %s g a millilitre, spooned in and levelled; packed or sifted it differs by up "+
		"to a fifth.", say.Number(float64(m.Bulk), 2)))
	r.writes = append(r.writes, write{label: "Write it in this measure instead", fits: func(other *pantry.Material,
		_ measure.Gram) bool {
		return other.Slug == m.Slug
	},
		into: func(p *plan.Plan, step, item int) error {
			_, whole, err := itemOf(p, step, item)
			if err != nil {
				return err
			}
			one, err := p.Measures.Grams(measure.Amount{Number: 1, Unit: chosen}, m.Body())
			if err != nil {
				return err
			}
			written := p.Steps[step].Items[item]
			written.Amount, written.Also = measure.Amount{Number: 1, Unit: chosen}.Scale(float64(whole/one)).String(), ""
			p.Exchange(step, item, []plan.Item{written})
			return nil
		}})
	return v
}

// cups draws whole measures and the last one filled in part.
func cups(say words.Printer, n float64, unit string) picture.Jars {
	const most = 6
	if n > most || strings.HasSuffix(unit, "g") || n <= 0 {
		return picture.Jars{}
	}
	var jars []picture.Filled
	for n > 0.001 {
		full := min(n, 1)
		jars = append(jars, picture.Filled{Name: unit, Figure: say.Percent(100*full, 0) + " full", Volume: full, Size: 1})
		n -= full
	}
	return picture.NewJars(jars)
}
