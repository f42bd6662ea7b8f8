package forecast

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/pot"
)

// maxPoints bounds the curve. Source: the plan format.
const maxPoints = 600

// A recorder keeps the course of the served pot.
type recorder struct {
	minute, mass, level, temperature, thickness, sweet []float64
	corners                                            []bool // the ends of steps, kept when the curve is thinned
	done                                               []float64
	parts                                              []int // how many parts each point has, in done
}

func newRecorder() *recorder {
	const usual = 2 * maxPoints / 3
	block := make([]float64, 0, 6*usual)
	column := func(k int) []float64 { return block[k*usual : k*usual : (k+1)*usual] }
	return &recorder{
		minute: column(0), mass: column(1), level: column(2), temperature: column(3), thickness: column(4), sweet: column(5),
		corners: make([]bool, 0, usual), done: make([]float64, 0, usual), parts: make([]int, 0, usual),
	}
}

// sample records the present state of the served pot.
func (r *run) sample(p *pan) {
	if p.record == nil {
		return
	}
	mass, volume := p.state.Size()
	r.samplePoint(p, moment{mass: mass, level: p.vessel.Depth(volume), grade: r.grade(&p.state, p.state.Temperature)})
}

func (r *run) samplePoint(p *pan, m moment) {
	rec := p.record
	if rec == nil {
		return
	}
	rec.minute = append(rec.minute, float64(p.at(p.local)))
	rec.mass = append(rec.mass, float64(m.mass))
	rec.level = append(rec.level, float64(m.level))
	rec.temperature = append(rec.temperature, float64(p.state.Temperature))
	rec.thickness = append(rec.thickness, m.grade)
	rec.sweet = append(rec.sweet, p.state.SweetPercent())
	rec.corners = append(rec.corners, false)
	rec.parts = append(rec.parts, len(p.state.Parts))
	for i := range p.state.Parts {
		rec.done = append(rec.done, p.state.Parts[i].Done)
	}
}

// corner keeps the latest point as the beginning or the end of a step. A nil
// recorder keeps nothing.
func (rec *recorder) corner() {
	if rec == nil {
		return
	}
	if n := len(rec.corners); n > 0 {
		rec.corners[n-1] = true
	}
}

// curve returns the course, thinned evenly between the ends of the steps.
func (rec *recorder) curve(final *pot.State) Curve {
	keep := rec.thin()
	pick := func(values []float64) []float64 {
		picked := make([]float64, len(keep))
		for i, k := range keep {
			picked[i] = micro(values[k])
		}
		return picked
	}
	c := Curve{
		Minute: pick(rec.minute), MassG: pick(rec.mass), LevelMM: pick(rec.level), TempC: pick(rec.temperature),
		Thickness: pick(rec.thickness), SweetPct: pick(rec.sweet), Doneness: map[string][]float64{},
	}
	offsets := make([]int, len(rec.parts))
	for i := 1; i < len(rec.parts); i++ {
		offsets[i] = offsets[i-1] + rec.parts[i-1]
	}
	for part := range final.Parts {
		values := make([]float64, len(keep))
		for i, k := range keep {
			if part < rec.parts[k] {
				values[i] = micro(rec.done[offsets[k]+part])
			}
		}
		c.Doneness[final.Parts[part].Name] = values
	}
	return c
}

// thin chooses at most maxPoints points.
func (rec *recorder) thin() []int {
	n := len(rec.minute)
	corners := 0
	for _, is := range rec.corners {
		if is {
			corners++
		}
	}
	stride := 1.0
	if n > maxPoints {
		stride = measure.Ratio(float64(n), float64(max(1, maxPoints-corners-1)))
	}
	keep := make([]int, 0, min(n, maxPoints))
	next := 0.0
	for i := range n {
		if float64(i) >= next || rec.corners[i] || i == n-1 {
			keep = append(keep, i)
			if float64(i) >= next {
				next += stride
			}
		}
	}
	return keep
}

// micro rounds to six decimals: as sure to print the same everywhere as six
// digits, and cheaper for some thousand points.
func micro(x float64) float64 {
	const perUnit = 1e6
	return math.Round(measure.Finite(x)*perUnit) / perUnit
}
