package cook

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/cook"
	"kirdu/core/design"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

// otherwise is what can be said that went otherwise than planned.
type otherwise struct {
	Materials, Others []answer // of the pudding, of the pantry
	Flames            []answer
	Flame             string // the present one
	CanPause          bool
	Open              bool     // something can go in
	Early             []answer // what comes later and could be in already
	Forgot            []answer // what should be in
	Skip              []answer // what can be left out
	Swap              []answer // what can be another material
}

func newOtherwise(say words.Printer, s *cook.State, l *learn.Live) otherwise {
	var o otherwise
	p := s.Plan
	used := map[string]bool{}
	p.Uses(func(m *pantry.Material, _ measure.Gram, _ int) {
		if !used[m.Slug] {
			used[m.Slug] = true
			o.Materials = append(o.Materials, answer{m.Slug, m.ShortName()})
		}
	})
	for _, m := range p.Pantry().All() {
		if !used[m.Slug] {
			o.Others = append(o.Others, answer{m.Slug, m.Name})
		}
	}
	slices.SortFunc(o.Others, func(a, b answer) int { return strings.Compare(a.Label, b.Label) })
	_, lit := s.Zero()
	present := s.Present()
	over := present != nil && present.Do == plan.Heat && s.IsLit(present.PotName())
	o.Open = s.Open()
	if over {
		o.CanPause, o.Flame = true, say.Flame(present)
		for _, flame := range vessel.Flames() {
			value := string(flame)
			if percent, ok := flame.Percent(); ok {
				value = strconv.FormatFloat(percent, 'f', -1, 64)
			}
			o.Flames = append(o.Flames, answer{value, words.FlameName(flame)})
		}
	}
	for i := range p.Steps {
		step, id := &p.Steps[i], s.IDs[i]
		title := say.Step(p, l.Forecast, i).Title
		own := !step.Do.IsPreparation() && step.PotName() == p.Served()[0]
		ahead, behind := s.Spans[i].Begin.IsZero(), !s.Spans[i].End.IsZero()
		if ahead && i != s.Step {
			o.Skip = append(o.Skip, answer{strconv.Itoa(id), title})
		}
		if step.Do == plan.Add && len(step.Items) > 1 && !behind {
			for k, item := range step.Items {
				o.Skip = append(o.Skip, answer{fmt.Sprintf("%d.%d", id, k+1), "only " + say.ItemName(p, item) + ", of: " + words.Lower(title)})
			}
		}
		switch {
		case own && step.Do == plan.Add && ahead && lit:
			o.Early = append(o.Early, itemAnswers(say, p, step, id)...)
		case own && step.Do == plan.Add && behind && lit:
			o.Forgot = append(o.Forgot, itemAnswers(say, p, step, id)...)
		case own && (step.Do == plan.Mash || step.Do == plan.Drain) && behind:
			o.Forgot = append(o.Forgot, answer{fmt.Sprintf("%d.0", id), title})
		}
		for k, item := range step.Items {
			if _, mass, err := p.Weigh(item); err == nil && item.Material != "" {
				o.Swap = append(o.Swap, answer{fmt.Sprintf("%d.%d", id, k+1), say.ItemName(p, item) + ", " + say.Grams(mass)})
			}
		}
	}
	return o
}

func itemAnswers(say words.Printer, p *plan.Plan, step *plan.Step, id int) (list []answer) {
	for k, item := range step.Items {
		list = append(list, answer{fmt.Sprintf("%d.%d", id, k+1), say.ItemName(p, item)})
	}
	return list
}

// Faults of what is told of the plan.
var (
	errMore  = measure.Code("stove.more")
	errWhat  = measure.Code("stove.what")
	errOther = measure.Code("stove.other")
)

// deviation reads what went otherwise.
func deviation(f form, e *cook.Event, s *cook.State) error {
	var err error
	if f.What != "" {
		step, item, _ := strings.Cut(f.What, ".")
		if e.Step, err = strconv.Atoi(step); err != nil {
			return errWhat
		}
		if e.Item, err = strconv.Atoi("0" + item); err != nil {
			return errWhat
		}
	}
	e.Material = f.Material
	switch e.Kind {
	case cook.Added:
		x, ok := frame.Number(f.Mass)
		if !ok {
			return errMore
		}
		e.Mass = measure.Gram(x)
	case cook.Turned:
		if vessel.Flame(f.Value).Regulated() {
			e.Part = f.Value
			break
		}
		x, ok := frame.Number(f.Value)
		if !ok {
			return cook.ErrFlame
		}
		e.Value = x
	case cook.Swapped:
		other, known := s.Plan.Pantry().Material(f.Material)
		if !known {
			return errOther
		}
		if strings.TrimSpace(f.Mass) != "" {
			x, ok := frame.Number(f.Mass)
			if !ok {
				return errOther
			}
			e.Mass = measure.Gram(x)
			return nil
		}
		for i, id := range s.IDs {
			if items := s.Plan.Steps[i].Items; id == e.Step && e.Item > 0 && e.Item <= len(items) {
				if e.Mass, err = s.Plan.InsteadOf(items[e.Item-1], other); err != nil {
					return errOther
				}
				e.Mass = measure.Gram(math.Round(float64(e.Mass)))
				return nil
			}
		}
		return errWhat
	case cook.Early, cook.Forgot, cook.Skipped:
		if f.What == "" {
			return errWhat
		}
	}
	return nil
}

// otherwiseWords says what a deviation does to the pudding, and what it would
// take to have it as before.
func otherwiseWords(say words.Printer, p *plan.Plan, e cook.Event, was, is learn.Live, lead string) string {
	var parts []string
	before, now := was.Forecast, is.Forecast
	if diff := math.Round(now.Time.TotalMin.Value - before.Time.TotalMin.Value); math.Abs(diff) >= 1 {
		word := "later"
		if diff < 0 {
			word = "sooner"
		}
		parts = append(parts, fmt.Sprintf("%s %s", say.Minutes(measure.Minute(math.Abs(diff))), word))
	}
	if a, b := before.Thickness.As(p.Serve), now.Thickness.As(p.Serve); a != nil && b != nil && math.Abs(a.Value-b.Value) >= 0.1 {
		parts = append(parts, say.Sprintf("thickness %.1f (%.1f to %.1f), not %.1f", b.Value, b.Low, b.High, a.Value))
	}
	less := before.Sweetness.Pct.Value - now.Sweetness.Pct.Value
	if math.Abs(less) >= 0.2 {
		parts = append(parts, say.Sprintf("sweetness %.1f %%, not %.1f", now.Sweetness.Pct.Value, before.Sweetness.Pct.Value))
	}
	for _, part := range slices.Sorted(maps.Keys(now.Doneness)) {
		if a, there := before.Doneness[part]; there && math.Abs(a.Value-now.Doneness[part].Value) >= max(0.1, 0.08*a.Value) {
			parts = append(parts, say.Sprintf("%s at %.1f, not %.1f", words.Lower(say.ItemName(p, plan.Item{Part: part})),
				now.Doneness[part].Value, a.Value))
		}
	}
	if len(parts) == 0 {
		return lead + ": the pudding comes out as before."
	}
	text := lead + ": " + strings.Join(parts, "; ") + "."
	if slug, each := design.GramsPerPercent(p, now); slug != "" && less >= 0.3 && e.Kind != cook.Forgot {
		if m, ok := p.Pantry().Material(slug); ok {
			text += fmt.Sprintf(" %s more %s would keep it as sweet.", say.Grams(measure.Gram(float64(each)*less)), words.Lower(m.ShortName()))
		}
	}
	return text
}

// tastedWords says what sugar or milk does to the sweetness.
func tastedWords(say words.Printer, p *plan.Plan, value float64, l learn.Live) string {
	now := l.Forecast.Sweetness.Pct
	text := say.Sprintf("It will be served at %.1f %% (%.1f to %.1f). ", now.Value, now.Low, now.High)
	switch {
	case value < 0:
		slug, each := design.GramsPerPercent(p, l.Forecast)
		if m, ok := p.Pantry().Material(slug); ok {
			return text + fmt.Sprintf("Each %s of %s makes it 1 %% sweeter; cold it tastes less sweet. Stir it in, wait a minute, taste.",
				say.Grams(each), words.Lower(m.ShortName()))
		}
		return text + "Sugar to taste, a spoon at a time."
	case value > 0 && design.Dilution(l.Forecast) > 0:
		more := design.Dilution(l.Forecast)
		return text + fmt.Sprintf("%s of unsweetened milk or cooked grain makes it 1 %% less sweet.", say.Grams(more))
	}
	return text
}

// without returns the cook as it would stand had an event not been told.
func without(k store.Cook, event int) cook.State {
	k.Events = slices.Delete(slices.Clone(k.Events), event, event+1)
	return k.State()
}
