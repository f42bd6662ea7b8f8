package store_test

import (
	"math"
	"path/filepath"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/vessel"
	"kirdu/store"
)

// The data file takes just what core/vessel takes: at each bound, and a hair
// beyond it.
func TestBoundsOfTheDataFile(t *testing.T) {
	s, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "k.sqlite"))
	require.NoError(t, err)
	defer s.Close()
	at := time.Date(2026, 11, 26, 12, 0, 0, 0, time.UTC)
	edges := func(b measure.Bound) []float64 {
		return []float64{b.Low, b.High, math.Nextafter(b.Low, math.Inf(-1)), math.Nextafter(b.High, math.Inf(1)), (b.Low + b.High) / 2,
			b.Low + 1e-9, -5}
	}
	pot := func(p vessel.Pot, what string, x float64) {
		_, err := s.DB().ExecContext(t.Context(), `INSERT INTO pot (id, name, shape, diameter_mm, bottom_mm, top_mm, length_mm, width_mm,
			height_mm, mass_g, added_at)
			VALUES (?, 'x', ?, ?, ?, ?, ?, ?, ?, ?, '')`, uuid.NewString(), p.Shape, p.DiameterMM, p.BottomMM, p.TopMM, p.LengthMM, p.WidthMM,
			p.HeightMM, p.MassG)
		require.Equal(t, p.Check() == nil, err == nil, "%s, %s %v: the core says %v, the data file %v", p.Shape, what, x, p.Check(), err)
	}
	for _, shape := range vessel.Shapes() {
		good := vessel.Pot{Shape: shape, DiameterMM: 200, BottomMM: 180, TopMM: 220, LengthMM: 300, WidthMM: 200, HeightMM: 15}
		require.NoError(t, good.Check())
		for _, side := range vessel.Sides(shape) {
			for _, x := range edges(side.Bound) {
				p := good
				*side.Of(&p) = measure.Millimetre(x)
				pot(p, side.Name, x)
			}
		}
		for _, x := range edges(vessel.PotGrams) {
			p, mass := good, measure.Gram(x)
			p.MassG = &mass
			pot(p, "mass", x)
		}
	}
	burner := func(b vessel.Burner) {
		_, err := s.DB().ExecContext(t.Context(), `INSERT INTO burner (id, name, kind, power_w, efficiency, added_at)
			VALUES (?, 'x', ?, ?, ?, '')`,
			uuid.NewString(), b.Kind, b.PowerW, b.Efficiency)
		require.Equal(t, b.Check() == nil, err == nil, "%+v: the core says %v, the data file %v", b, b.Check(), err)
	}
	for _, x := range edges(vessel.BurnerWatt) {
		burner(vessel.Burner{Kind: "gas", PowerW: measure.Watt(x), Efficiency: 0.45})
	}
	for _, x := range edges(vessel.Share) {
		burner(vessel.Burner{Kind: "gas", PowerW: 2200, Efficiency: x})
	}
	for _, kind := range append(vessel.Kinds(), "banana", "") {
		burner(vessel.Burner{Kind: kind, PowerW: 2200, Efficiency: 0.45})
	}
	// What cannot be is refused with its names before SQL is asked.
	var faults measure.Faults
	require.ErrorAs(t, s.AddPot(t.Context(), store.Pot{ID: "p", Pot: vessel.Pot{Name: "x", Shape: vessel.Tray, HeightMM: 600}}, at), &faults)
	require.Len(t, faults, 3)
	require.ErrorAs(t, s.AddBurner(t.Context(), store.Burner{ID: "b", Burner: vessel.Burner{Name: "x", Kind: "banana", PowerW: 1,
		Efficiency: 50}}, at), &faults)
	require.Len(t, faults, 3)
}
