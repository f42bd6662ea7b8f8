package picture

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"kirdu/core/forecast"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// A WayMark is what a way of cooking looks like at a glance: how full the pot is as it goes, over what is done:
// flame, pressure, oven, rest and cold. It is drawn from a plan of the way and says nothing that its name does not.
type WayMark struct {
	Width, Height Px
	Mass          string // the points of an area
	Bars          []WayBar
	Drops         []Px // where it is sweetened
}

// A WayBar is one step: its height is the flame's.
type WayBar struct {
	Bar
	Kind string // "flame", "pressure", "oven", "rest", "cold"
}

// Geometry of a mark, in px.
const (
	wayWidth, wayHeight   = 132.0, 44.0
	wayTop, wayFloor      = 4.0, 30.0
	wayBars               = 41.0 // where they stand
	wayFlame              = 9.0  // the height of the highest flame
	wayShortest, wayLower = 1.0, 0.35
)

// NewWayMark draws a plan. A step takes room by the root of its minutes, so that the short ones are seen.
func NewWayMark(p *plan.Plan) WayMark {
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	m := WayMark{Width: wayWidth, Height: wayHeight}
	var room []float64
	total, most := 0.0, 1.0
	served := p.Served()[0]
	for i := range p.Steps {
		own := p.Steps[i].PotName() == served && !p.Steps[i].Do.IsPreparation()
		room = append(room, 0)
		if own {
			room[i] = math.Sqrt(max(wayShortest, f.Steps[i].EndMin-f.Steps[i].StartMin))
			if p.Steps[i].Do == plan.Add {
				room[i] = wayShortest
			}
			if f.Steps[i].MassG != nil {
				most = max(most, *f.Steps[i].MassG)
			}
		}
		total += room[i]
	}
	x, y := 0.0, wayFloor
	points := []string{fmt.Sprintf("0,%.1f", wayFloor)}
	for i := range p.Steps {
		if room[i] == 0 {
			continue
		}
		step, from := &p.Steps[i], x
		x += room[i] / total * wayWidth
		if mass := f.Steps[i].MassG; mass != nil {
			y = wayFloor - *mass/most*(wayFloor-wayTop)
		}
		if step.Do == plan.Add { // it is in at once
			points = append(points, fmt.Sprintf("%.1f,%.1f", from, y))
		}
		points = append(points, fmt.Sprintf("%.1f,%.1f", x, y))
		if kind, height := wayKind(step); kind != "" {
			m.Bars = append(m.Bars, WayBar{Bar{Px(from + 1), Px(wayBars - height), Px(max(1, x-from-2)), Px(height)}, kind})
		}
		if slices.ContainsFunc(step.Items, func(item plan.Item) bool {
			material, ok := p.Pantry().Material(item.Material)
			return ok && material.Behaviour == pantry.Dissolves && material.Kind == "sweetener"
		}) {
			m.Drops = append(m.Drops, Px((from+x)/2))
		}
	}
	points = append(points, fmt.Sprintf("%.1f,%.1f", wayWidth, y), fmt.Sprintf("%.1f,%.1f", wayWidth, wayFloor))
	m.Mass = strings.Join(points, " ")
	return m
}

// wayKind is how a step is drawn.
func wayKind(s *plan.Step) (kind string, height float64) {
	switch s.Do {
	case plan.Heat:
		if !s.Burns() {
			return "rest", wayLower * wayFlame
		}
		all := append(s.Flame.Lower(), s.Flame.Higher()...)
		share := float64(len(s.Flame.Lower())+1) / float64(len(all)+1)
		return "flame", wayFlame * (wayLower + (1-wayLower)*share)
	case plan.Pressure:
		return "pressure", wayFlame
	case plan.Bake:
		return "oven", wayFlame
	case plan.Chill:
		return "cold", wayLower * wayFlame
	case plan.Rest, plan.Cool, plan.Hold:
		return "rest", wayLower * wayFlame
	}
	return "", 0
}

// WayMarks are the marks of all ways by their names, drawn once.
var WayMarks = sync.OnceValue(func() map[string]WayMark {
	marks := map[string]WayMark{}
	for _, way := range plan.Ways() {
		if p, err := way.Typical(); err == nil {
			marks[way.Name] = NewWayMark(p)
		}
	}
	return marks
})
