package plan

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/vessel"
)

// A Difference is one thing that two versions of a plan do not have in common.
type Difference struct {
	Of   DifferenceOf
	Name string // the pot; the slug of the material
	From int    // index of the step in the earlier version, -1 if it is new
	To   int    // and in the later, -1 if it is gone

	// Masses of a material, 0 where it is not in.
	Before, After measure.Gram
	Was, Is       string // of what is named by its key
}

// DifferenceOf is what differs.
type DifferenceOf string

// What may differ.
const (
	OfName      DifferenceOf = "name"
	OfNotes     DifferenceOf = "notes"
	OfBowls     DifferenceOf = "bowls"
	OfServing   DifferenceOf = "serving"
	OfThickness DifferenceOf = "thickness"
	OfPot       DifferenceOf = "pot"
	OfBurner    DifferenceOf = "burner"
	OfMaterial  DifferenceOf = "material"
	OfStep      DifferenceOf = "step"
	OfOther     DifferenceOf = "other" // of what is named by its key in the format
)

// Differences lists what is otherwise in b than in a: the frame, the materials
// by their whole amount, and the steps, paired in their order.
func Differences(a, b *Plan) []Difference {
	var d differ
	d.note(OfName, "", a.Name != b.Name)
	d.note(OfNotes, "", a.Notes != b.Notes)
	d.note(OfBowls, "", a.Serves != b.Serves)
	d.note(OfServing, "", a.Serve != b.Serve)
	d.note(OfThickness, "", !reflect.DeepEqual(a.aimedThickness(), b.aimedThickness()))
	for _, name := range b.PotNamesSorted() {
		one, there := a.Pots[name]
		other := b.Pots[name]
		d.note(OfPot, name, !there || !reflect.DeepEqual(one, other))
	}
	for _, name := range a.PotNamesSorted() {
		_, there := b.Pots[name]
		d.note(OfPot, name, !there)
	}
	d.note(OfBurner, "", a.Burner.Name != b.Burner.Name || a.Burner.PowerW != b.Burner.PowerW || a.Burner.Efficiency != b.Burner.Efficiency)
	d.others(a, b)
	d.materials(a, b)
	d.steps(a, b)
	return d.list
}

// others compares what has no words of its own, by its key and as it is written.
func (d *differ) others(a, b *Plan) {
	one, other := a.frame(), b.frame()
	for _, key := range slices.Sorted(maps.Keys(other)) {
		if one[key] != other[key] {
			d.list = append(d.list, Difference{Of: OfOther, Name: key, From: -1, To: -1, Was: one[key], Is: other[key]})
		}
	}
}

// frame is what stands around the steps, by the keys of the format.
func (p *Plan) frame() map[string]string {
	f := map[string]string{"portion_g": fmt.Sprintf("%g g", float64(p.PortionG)), "keep_days": fmt.Sprint(p.KeepDays), "way": p.Way,
		"served_from": strings.Join(p.Served(), ", "), "aim.sweet_pct": "", "aim.doneness": "", "eaters": "", "burners": ""}
	if p.Aim != nil {
		if p.Aim.SweetPct != nil {
			f["aim.sweet_pct"] = fmt.Sprintf("%g %%", *p.Aim.SweetPct)
		}
		f["aim.doneness"] = sorted(p.Aim.Doneness, func(d float64) string { return fmt.Sprintf("%g", d) })
	}
	if p.Eaters != nil {
		if f["eaters"] = strings.Join(p.Eaters.AllergicTo, ", "); p.Eaters.UnderFive {
			f["eaters"] = strings.TrimPrefix(f["eaters"]+", children under five", ", ")
		}
	}
	f["burners"] = sorted(p.Burners, func(b vessel.Burner) string { return fmt.Sprintf("%s %g W", b.Kind, float64(b.PowerW)) })
	return f
}

func sorted[T any](values map[string]T, say func(T) string) string {
	var said []string
	for _, name := range slices.Sorted(maps.Keys(values)) {
		said = append(said, name+" "+say(values[name]))
	}
	return strings.Join(said, ", ")
}

type differ struct{ list []Difference }

func (d *differ) note(of DifferenceOf, name string, differs bool) {
	if differs {
		d.list = append(d.list, Difference{Of: of, Name: name, From: -1, To: -1})
	}
}

func (p *Plan) aimedThickness() *float64 {
	if p.Aim == nil {
		return nil
	}
	return p.Aim.Thickness
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
			d.list = append(d.list, Difference{Of: OfMaterial, Name: slug, From: -1, To: -1, Before: x, After: y})
		}
	}
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
			d.list = append(d.list, Difference{Of: OfStep, From: i, To: -1})
		}
		for ; j < pair[1]; j++ {
			d.list = append(d.list, Difference{Of: OfStep, From: -1, To: j})
		}
		if i < len(a.Steps) && j < len(b.Steps) {
			if !reflect.DeepEqual(settings(a.Steps[i]), settings(b.Steps[j])) {
				d.list = append(d.list, Difference{Of: OfStep, From: i, To: j})
			}
			i, j = i+1, j+1
		}
	}
}

// settings is a step without its amounts, which are told by material.
func settings(s Step) Step {
	s = s.clone()
	s.Name, s.Coconuts = "", 0
	for i := range s.Items {
		s.Items[i].Amount, s.Items[i].Also = "", ""
	}
	for _, item := range []*Item{s.Fat, s.In} {
		if item != nil {
			item.Amount, item.Also = "", ""
		}
	}
	return s
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
