package plan

import (
	"fmt"
	"slices"
	"strings"

	"kirdu/core/measure"
)

// A Difference is one thing that two versions of a plan do not have in common.
type Difference struct {
	What     string // "whole milk", "step 3, flame"
	From, To string // "" where one of them does not have it
}

// Differences lists what is otherwise in b than in a: the frame, the materials
// by their whole amount, and the steps, paired in their order.
func Differences(a, b *Plan) []Difference {
	var d differ
	d.note("name", a.Name, b.Name)
	d.note("notes", a.Notes, b.Notes)
	d.note("bowls", fmt.Sprint(a.Serves), fmt.Sprint(b.Serves))
	d.note("served", string(a.Serve), string(b.Serve))
	d.note("thickness wanted", a.aimWords(), b.aimWords())
	for _, name := range b.PotNamesSorted() {
		d.note("pot "+name, a.potWords(name), b.potWords(name))
	}
	d.note("burner", burnerWords(a), burnerWords(b))
	d.materials(a, b)
	d.steps(a, b)
	return d.list
}

type differ struct{ list []Difference }

func (d *differ) note(what, from, to string) {
	if from != to {
		d.list = append(d.list, Difference{what, from, to})
	}
}

func (p *Plan) aimWords() string {
	if p.Aim == nil || p.Aim.Thickness == nil {
		return ""
	}
	return fmt.Sprintf("%.2g", *p.Aim.Thickness)
}

func (p *Plan) potWords(name string) string {
	pot, ok := p.Pots[name]
	if !ok {
		return ""
	}
	const perLitre = 1000
	return strings.TrimSpace(fmt.Sprintf("%s %.1f l", pot.Name, float64(pot.Capacity())/perLitre))
}

func burnerWords(p *Plan) string {
	return strings.TrimSpace(fmt.Sprintf("%s %.0f W", p.Burner.Name, float64(p.Burner.PowerW)))
}

// materials compares the whole amount of each material, in the order in which
// they are first used.
func (d *differ) materials(a, b *Plan) {
	one, order := a.amounts()
	other, more := b.amounts()
	for _, slug := range more {
		if !slices.Contains(order, slug) {
			order = append(order, slug)
		}
	}
	for _, slug := range order {
		const same = 0.005
		if x, y := one[slug], other[slug]; x != y && (x == 0 || y == 0 || max(x, y)/min(x, y)-1 > same) {
			d.note(a.materialName(b, slug), gramWords(x), gramWords(y))
		}
	}
}

func gramWords(g measure.Gram) string {
	if g == 0 {
		return ""
	}
	const digits = 3
	return fmt.Sprintf("%v g", measure.RoundSignificant(float64(g), digits))
}

func (p *Plan) materialName(other *Plan, slug string) string {
	for _, plan := range []*Plan{p, other} {
		if m, ok := plan.Pantry().Material(slug); ok {
			return strings.ToLower(m.ShortName())
		}
	}
	return slug
}

// amounts adds up what goes in of each material, and lists them in their order.
func (p *Plan) amounts() (map[string]measure.Gram, []string) {
	sum := map[string]measure.Gram{}
	var order []string
	count := func(item *Item) {
		if item == nil || item.Material == "" {
			return
		}
		if _, seen := sum[item.Material]; !seen {
			order = append(order, item.Material)
		}
		if _, mass, err := p.Weigh(*item); err == nil {
			sum[item.Material] += mass
		}
	}
	for i := range p.Steps {
		s := &p.Steps[i]
		for j := range s.Items {
			count(&s.Items[j])
		}
		count(s.Fat)
		count(s.In)
		if s.Coconuts > 0 {
			if _, seen := sum["coconut-meat"]; !seen {
				order = append(order, "coconut-meat")
			}
			sum["coconut-meat"] += measure.Gram(s.Coconuts) * p.Coconut()
		}
	}
	return sum, order
}

// steps pairs the steps by the longest common sequence of what they do, and
// compares the settings of each pair.
func (d *differ) steps(a, b *Plan) {
	pairs := commonSteps(a.Steps, b.Steps)
	i, j := 0, 0
	for _, pair := range append(pairs, [2]int{len(a.Steps), len(b.Steps)}) {
		for ; i < pair[0]; i++ {
			d.note(fmt.Sprintf("step %d", i+1), a.stepWords(i), "")
		}
		for ; j < pair[1]; j++ {
			d.note(fmt.Sprintf("step %d", j+1), "", b.stepWords(j))
		}
		if i < len(a.Steps) && j < len(b.Steps) {
			d.note(fmt.Sprintf("step %d, %s", j+1, b.Steps[j].Do), a.stepWords(i), b.stepWords(j))
			i, j = i+1, j+1
		}
	}
}

// kindOf tells steps apart by what they do and what they take, not by how much
// or how long.
func kindOf(s *Step) string {
	kind := string(s.Do) + " " + s.PotName() + " " + s.Name + s.Of
	for _, item := range s.Items {
		kind += " " + item.Material + item.Part + item.Pot
	}
	return kind
}

// commonSteps returns the pairs of places of the longest common subsequence of
// two lists of steps (Wagner and Fischer's table).
func commonSteps(a, b []Step) [][2]int {
	length := make([][]int, len(a)+1)
	for i := range length {
		length[i] = make([]int, len(b)+1)
	}
	for i := len(a) - 1; i >= 0; i-- {
		for j := len(b) - 1; j >= 0; j-- {
			if kindOf(&a[i]) == kindOf(&b[j]) {
				length[i][j] = length[i+1][j+1] + 1
			} else {
				length[i][j] = max(length[i+1][j], length[i][j+1])
			}
		}
	}
	var pairs [][2]int
	for i, j := 0, 0; i < len(a) && j < len(b); {
		switch {
		case kindOf(&a[i]) == kindOf(&b[j]):
			pairs = append(pairs, [2]int{i, j})
			i, j = i+1, j+1
		case length[i+1][j] >= length[i][j+1]:
			i++
		default:
			j++
		}
	}
	return pairs
}

// stepWords says the settings of a step, without the amounts.
func (p *Plan) stepWords(i int) string {
	s := &p.Steps[i]
	words := []string{string(s.Do)}
	say := func(format string, values ...any) { words = append(words, fmt.Sprintf(format, values...)) }
	if s.What != "" {
		say("%s", s.What)
	}
	for _, item := range s.Items {
		switch {
		case item.Material != "":
			say("%s", p.materialName(p, item.Material)+stateWords(item.State))
		case item.Part != "":
			say("%s", item.Part)
		default:
			say("from %s", item.Pot)
		}
	}
	if s.Of != "" {
		say("%s", s.Of)
	}
	if s.Pot != "" {
		say("in %s", s.Pot)
	}
	p.flameWords(s, say)
	if s.Minutes != nil {
		say("%v min", *s.Minutes)
	}
	if s.Whistles > 0 {
		say("%d whistles", s.Whistles)
	}
	if s.Hours != nil {
		say("%v h", *s.Hours)
	}
	if s.Pct != nil {
		say("%v %%", *s.Pct)
	}
	if s.ToC != nil {
		say("to %v °C", *s.ToC)
	}
	if s.TempC != nil {
		say("at %v °C", *s.TempC)
	}
	for _, word := range []string{s.Where, s.Release, s.To, s.BakeIn} {
		if word != "" {
			say("%s", word)
		}
	}
	if s.OvenC != nil {
		say("%v °C", *s.OvenC)
	}
	if s.PowerW != nil {
		say("%v W", *s.PowerW)
	}
	if s.Bowls > 0 {
		say("%d bowls", s.Bowls)
	}
	if s.Slices > 0 {
		say("%d slices", s.Slices)
	}
	for _, flag := range []struct {
		on   bool
		word string
	}{{s.Slowly, "slowly"}, {s.Topping, "on top"}, {s.Covered, "covered"}, {s.Lid != nil && *s.Lid, "lid on"}} {
		if flag.on {
			say("%s", flag.word)
		}
	}
	return strings.Join(words, ", ")
}

func stateWords(state string) string {
	if state == "" {
		return ""
	}
	return " (" + state + ")"
}

func (p *Plan) flameWords(s *Step, say func(string, ...any)) {
	if s.Flame != "" {
		say("%s flame", s.Flame)
	}
	if s.FlamePct != nil {
		say("flame %v %%", *s.FlamePct)
	}
	if s.Stir != "" {
		say("stir %s", s.Stir)
	}
	u := s.Until
	if u == nil {
		return
	}
	switch {
	case u.Browning != "":
		say("until %s", u.Browning)
	case u.Boil:
		say("until it boils")
	}
	if u.Minutes != nil {
		say("%v min", *u.Minutes)
	}
	if u.TempC != nil {
		say("until %v °C", *u.TempC)
	}
	if u.RemainingPct != nil {
		say("to %.4g %%", *u.RemainingPct)
	}
	if u.MassG != nil {
		say("to %v g", *u.MassG)
	}
	if u.Doneness != nil {
		say("until %s is %.3g", u.Doneness.Of, u.Doneness.At)
	}
	if u.Thickness != nil {
		say("until thickness %.3g", *u.Thickness)
	}
	if u.FreeWaterPct != nil {
		say("until %.3g %% is free", *u.FreeWaterPct)
	}
}
