package convert_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/convert"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

func material(t rapid.TB, slug string) *pantry.Material {
	m, ok := pantry.Standard().Material(slug)
	require.True(t, ok, slug)
	return m
}

// The figures of the model: 145 g at 29 % first, then with 600 ml 640 g at 7 %.
func TestOneCoconut(t *testing.T) {
	milks, _, err := convert.Press(convert.CoconutMeat, []measure.Millilitre{0, 600})
	require.NoError(t, err)
	require.InDelta(t, 145, float64(milks[0].Mass()), 3)
	require.InDelta(t, 28.7, milks[0].FatPercent(), 0.3)
	require.InDelta(t, 640, float64(milks[1].Mass()), 4)
	require.InDelta(t, 7, milks[1].FatPercent(), 0.6)

	thick := milks[0].Material("mine.1", "First press")
	require.NoError(t, thick.Check())
	require.InDelta(t, 100, float64(thick.Sum()), 0.01)
	shop := material(t, "coconut-milk-thick")
	require.InDelta(t, shop.EnergyKcal, thick.EnergyKcal, 25)
}

func TestPressingConservesMassAndFat(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		meat := measure.Gram(rapid.Float64Range(1, 5000).Draw(t, "meat"))
		water := []measure.Millilitre{}
		in := meat
		for range rapid.IntRange(1, 5).Draw(t, "presses") {
			w := measure.Millilitre(rapid.Float64Range(0, 5000).Draw(t, "water"))
			water = append(water, w)
			in += measure.Gram(w)
		}
		milks, pulp, err := convert.Press(meat, water)
		require.NoError(t, err)
		all := pulp
		least := 100.0
		for _, m := range milks {
			if m.Mass() > 1e-6 {
				require.LessOrEqual(t, m.FatPercent(), least+1e-6, "none is fatter than the one before")
				least = m.FatPercent()
			}
			require.GreaterOrEqual(t, float64(m.Mass()), 0.0)
			all = all.Add(m)
		}
		require.InEpsilon(t, float64(in), float64(all.Mass()), 1e-9)
		require.InEpsilon(t, float64(meat)*0.335, float64(all.Fat), 1e-9)
	})
}

func TestPressingBackwardsReturnsTheInput(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		meat := measure.Gram(rapid.Float64Range(100, 4000).Draw(t, "meat"))
		water := measure.Millilitre(float64(meat) * rapid.Float64Range(0.5, 4).Draw(t, "water per gram"))
		milks, _, err := convert.Press(meat, []measure.Millilitre{0, water})
		require.NoError(t, err)
		back, err := convert.PressFor(milks[0].Mass(), milks[1].Mass(), milks[1].FatPercent())
		require.NoError(t, err)
		require.InEpsilon(t, float64(meat), float64(back.Meat), 0.001)
		require.InEpsilon(t, float64(water), float64(back.Water), 0.001)
		require.InEpsilon(t, float64(meat/convert.CoconutMeat), back.Coconuts(), 0.001)
	})
}

func TestPressFor(t *testing.T) {
	thickOnly, err := convert.PressFor(2*142.3, 0, 6.5)
	require.NoError(t, err)
	require.InDelta(t, 2, thickOnly.Coconuts(), 0.02)
	require.Zero(t, thickOnly.Thin.Mass())
	// So much thick that the thin comes out richer than asked.
	rich, err := convert.PressFor(1000, 500, 6.5)
	require.NoError(t, err)
	require.InDelta(t, 1000, float64(rich.Thick.Mass()), 0.01)
	require.InDelta(t, 500, float64(rich.Thin.Mass()), 0.01)
	require.Greater(t, rich.Thin.FatPercent(), 6.5)
	// A thin one that is nearly all that is wanted: the thick is left over.
	thin, err := convert.PressFor(10, 1300, 6.5)
	require.NoError(t, err)
	require.InDelta(t, 1300, float64(thin.Thin.Mass()), 0.01)
	require.InDelta(t, 6.5, thin.Thin.FatPercent(), 0.01)
	require.Greater(t, float64(thin.Thick.Mass()), 10.0)

	_, err = convert.PressFor(0, 0, 6.5)
	require.ErrorIs(t, err, convert.ErrNothing)
	_, err = convert.PressFor(0, 100, 60)
	require.ErrorIs(t, err, convert.ErrOutside)
	_, _, err = convert.Press(0, []measure.Millilitre{0})
	require.ErrorIs(t, err, convert.ErrNoMeat)
	_, _, err = convert.Press(100, nil)
	require.ErrorIs(t, err, convert.ErrNoPressing)
}

func TestPacks(t *testing.T) {
	cream := material(t, "coconut-cream")
	pack, water, err := convert.FromPack(cream, 600, 6)
	require.NoError(t, err)
	require.InDelta(t, 150, float64(pack), 0.01) // 600 x 6/24
	require.InDelta(t, 450, float64(water), 0.01)
	mass, more, err := convert.PackMakes(cream, pack, 6)
	require.NoError(t, err)
	require.InDelta(t, 600, float64(mass), 1e-6)
	require.InDelta(t, float64(water), float64(more), 1e-6)
	_, _, err = convert.FromPack(material(t, "coconut-milk-light"), 600, 28)
	require.ErrorIs(t, err, convert.ErrTooThin)
}

// By hand: 3.5 % and 36 % to 10 %: shares 26 and 6.5 of 32.5.
func TestMilkBlends(t *testing.T) {
	whole, cream := material(t, "milk-whole"), material(t, "cream-whipping")
	b, err := convert.BlendTo(whole, cream, 650, 10)
	require.NoError(t, err)
	require.InDelta(t, 520, float64(b.A), 0.01)
	require.InDelta(t, 130, float64(b.B), 0.01)
	back, err := convert.BlendOf(whole, cream, b.A, b.B)
	require.NoError(t, err)
	require.InDelta(t, 10, back.Fat, 1e-9)
	_, err = convert.BlendTo(whole, cream, 650, 40)
	require.ErrorIs(t, err, convert.ErrOutside)
	_, err = convert.BlendTo(whole, whole, 650, 3.5)
	require.ErrorIs(t, err, convert.ErrSame)
	_, err = convert.BlendOf(whole, cream, 0, 0)
	require.ErrorIs(t, err, convert.ErrNothing)
}

// By hand: 397 g of condensed milk hold 20.6 % of milk solids without fat,
// fresh milk 8.8 %: 929 g of milk, with 172 g of sugar.
func TestCountedBackToFresh(t *testing.T) {
	tin, err := convert.FreshOf(material(t, "condensed-milk"), 397)
	require.NoError(t, err)
	require.InDelta(t, 929, float64(tin.Milk), 1)
	require.InDelta(t, 172.3, float64(tin.Sugar), 0.2)
	require.InDelta(t, 929+172.3-397, float64(tin.Water), 1)
	mass, back, err := convert.ForFresh(material(t, "milk-powder-whole"), 1000)
	require.NoError(t, err)
	require.InDelta(t, 125, float64(mass), 1) // 8.8/70.4 of it
	require.InDelta(t, 1000, float64(back.Milk), 1e-6)
	_, err = convert.FreshOf(material(t, "water"), 100)
	require.ErrorIs(t, err, convert.ErrNoSolids)
}

func TestReducedMilkSavesTime(t *testing.T) {
	half, err := convert.ReducedMilk(material(t, "milk-whole"), 0.5)
	require.NoError(t, err)
	require.NoError(t, half.Check())
	fresh, err := convert.FreshOf(half, 500)
	require.NoError(t, err)
	require.InDelta(t, 1000, float64(fresh.Milk), 1)
	_, err = convert.ReducedMilk(material(t, "milk-whole"), 0.1)
	require.ErrorIs(t, err, convert.ErrOutside)
	pot := vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 120}
	minutes, err := convert.BoilOff(500, 990, pot, 750, 100, 24)
	require.NoError(t, err)
	// 500 x 2257 J over 990 W less some 57 W to the room.
	require.InDelta(t, 20.2, float64(minutes), 0.5)
	_, err = convert.BoilOff(500, 20, pot, 750, 100, 24)
	require.ErrorIs(t, err, convert.ErrNothing)
}

func TestSwapKeepsSweetness(t *testing.T) {
	var sweet []*pantry.Material
	for _, m := range pantry.Standard().All() {
		if m.Kind == "sweetener" {
			sweet = append(sweet, m)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		draw := rapid.SampledFrom(sweet)
		from := []convert.Portion{{Material: draw.Draw(t, "from"), Mass: measure.Gram(rapid.Float64Range(1, 2000).Draw(t, "grams"))}}
		to := []*pantry.Material{draw.Draw(t, "to"), draw.Draw(t, "also to")}
		s, err := convert.SwapFor(from, to, []float64{rapid.Float64Range(0.1, 10).Draw(t, "a"), rapid.Float64Range(0.1, 10).Draw(t, "b")})
		require.NoError(t, err)
		require.InEpsilon(t, float64(s.Before.Sweet), float64(s.After.Sweet), 1e-9)
		require.InDelta(t, float64(s.After.Water-s.Before.Water), float64(s.Liquid), 1e-9)
	})
}

func TestSwapSaysWhatComesAlong(t *testing.T) {
	white, molasses, maple := material(t, "sugar-white"), material(t, "molasses"), material(t, "maple-syrup")
	s, err := convert.SwapFor([]convert.Portion{{Material: white, Mass: 100}}, []*pantry.Material{molasses}, []float64{1})
	require.NoError(t, err)
	require.True(t, s.Curdles)
	require.InDelta(t, 4, s.After.Colour, 0.01)
	require.Equal(t, "dark brown", convert.ColourWord(s.After.Colour))
	require.Greater(t, float64(s.Liquid), 20.0)
	gentle, err := convert.SwapFor([]convert.Portion{{Material: white, Mass: 100}}, []*pantry.Material{maple}, []float64{1})
	require.NoError(t, err)
	require.False(t, gentle.Curdles)
	_, err = convert.SwapFor(nil, []*pantry.Material{maple}, []float64{1})
	require.ErrorIs(t, err, convert.ErrNothing)
	_, err = convert.SwapFor([]convert.Portion{{Material: white, Mass: 100}}, []*pantry.Material{material(t, "salt")}, []float64{1})
	require.ErrorIs(t, err, convert.ErrNotSweet)
	_, err = convert.SwapFor([]convert.Portion{{Material: white, Mass: 100}}, []*pantry.Material{maple}, []float64{-1})
	require.ErrorIs(t, err, convert.ErrShares)
}

func TestSyrup(t *testing.T) {
	jaggery := material(t, "jaggery")
	water, err := convert.WaterFor(jaggery, 330, 65)
	require.NoError(t, err)
	s, err := convert.SyrupOf(jaggery, 330, water, 700, true)
	require.NoError(t, err)
	require.InDelta(t, 65, s.Brix, 1e-9)
	require.InDelta(t, float64(330+water)*0.01, float64(s.Lost), 1e-9)
	require.Greater(t, float64(s.Minutes), 5.0)
	mass, again, err := convert.LumpsFor(jaggery, s.Mass, 65, true)
	require.NoError(t, err)
	require.InEpsilon(t, 330, float64(mass), 1e-9)
	require.InEpsilon(t, float64(water), float64(again), 1e-9)
	_, err = convert.WaterFor(jaggery, 330, 99)
	require.ErrorIs(t, err, convert.ErrTooDry)
}

// Two milks can be mixed to any fat between them, and mixed back to it.
func TestBlendsGoBothWays(t *testing.T) {
	var milks []*pantry.Material
	for _, m := range pantry.Standard().All() {
		if m.Kind == "dairy" && m.Behaviour == pantry.Liquid {
			milks = append(milks, m)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		a, b := rapid.SampledFrom(milks).Draw(t, "a"), rapid.SampledFrom(milks).Draw(t, "b")
		if a.Fat == b.Fat {
			return
		}
		share := rapid.Float64Range(0, 1).Draw(t, "share")
		fat := float64(a.Fat)*share + float64(b.Fat)*(1-share)
		mass := measure.Gram(rapid.Float64Range(1, 5000).Draw(t, "mass"))
		blend, err := convert.BlendTo(a, b, mass, fat)
		require.NoError(t, err)
		require.InDelta(t, float64(mass), float64(blend.A+blend.B), 1e-6)
		require.GreaterOrEqual(t, float64(blend.A), -1e-9*float64(mass))
		require.GreaterOrEqual(t, float64(blend.B), -1e-9*float64(mass))
		back, err := convert.BlendOf(a, b, max(0, blend.A), max(0, blend.B))
		require.NoError(t, err)
		require.InDelta(t, fat, back.Fat, 1e-6)
	})
}

// Every concentrated milk counts back to fresh and from there to itself.
func TestFreshGoesBothWays(t *testing.T) {
	for _, slug := range []string{"evaporated-milk", "condensed-milk", "milk-powder-whole", "milk-powder-skim", "milk-solids",
		"milk-whole", "milk-skim"} {
		m := material(t, slug)
		fresh, err := convert.FreshOf(m, 250)
		require.NoError(t, err)
		mass, back, err := convert.ForFresh(m, fresh.Milk)
		require.NoError(t, err)
		require.InDelta(t, 250, float64(mass), 1e-6, slug)
		require.InDelta(t, float64(fresh.Water), float64(back.Water), 1e-6, slug)
		require.InDelta(t, float64(fresh.Milk+fresh.Sugar), 250+float64(fresh.Water), 1e-6, "%s and its water are the milk and its sugar", slug)
	}
	_, _, err := convert.ForFresh(material(t, "milk-powder-whole"), 0)
	require.ErrorIs(t, err, convert.ErrNothing)
	_, err = convert.FreshOf(material(t, "condensed-milk"), -1)
	require.ErrorIs(t, err, convert.ErrNothing)
}

// Lumps and water make a syrup, and the syrup wanted gives the lumps back.
func TestSyrupGoesBothWays(t *testing.T) {
	lumps := []*pantry.Material{material(t, "jaggery"), material(t, "palm-sugar"), material(t, "sugar-white"), material(t, "sugar-brown")}
	rapid.Check(t, func(t *rapid.T) {
		m := rapid.SampledFrom(lumps).Draw(t, "lumps")
		mass := measure.Gram(rapid.Float64Range(10, 3000).Draw(t, "mass"))
		brix := rapid.Float64Range(20, 85).Draw(t, "brix")
		strain := rapid.Bool().Draw(t, "strain")
		water, err := convert.WaterFor(m, mass, brix)
		require.NoError(t, err)
		s, err := convert.SyrupOf(m, mass, water, 600, strain)
		require.NoError(t, err)
		require.InDelta(t, brix, s.Brix, 1e-6)
		require.InDelta(t, float64(mass+water), float64(s.Mass+s.Lost), 1e-6)
		lumpsAgain, waterAgain, err := convert.LumpsFor(m, s.Mass, brix, strain)
		require.NoError(t, err)
		require.InEpsilon(t, float64(mass), float64(lumpsAgain), 1e-6)
		require.InEpsilon(t, float64(water), float64(waterAgain), 1e-6)
	})
	for _, wrong := range []float64{0, 100, -5} {
		_, err := convert.WaterFor(lumps[0], 100, wrong)
		require.ErrorIs(t, err, convert.ErrOutside)
	}
	_, err := convert.SyrupOf(lumps[0], 100, 50, 0, true)
	require.ErrorIs(t, err, convert.ErrNothing)
	_, _, err = convert.LumpsFor(lumps[0], 0, 65, true)
	require.ErrorIs(t, err, convert.ErrNothing)
}

// A pack can be stretched just as far as it takes to be made from it.
func TestPacksGoBothWays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pack := material(t, rapid.SampledFrom([]string{"coconut-milk-tin", "coconut-cream", "coconut-powder"}).Draw(t, "pack"))
		fat := rapid.Float64Range(0.5, float64(pack.Fat)).Draw(t, "fat")
		mass := measure.Gram(rapid.Float64Range(1, 4000).Draw(t, "mass"))
		packed, water, err := convert.FromPack(pack, mass, fat)
		require.NoError(t, err)
		require.InEpsilon(t, float64(mass), float64(packed+water), 1e-9)
		made, again, err := convert.PackMakes(pack, packed, fat)
		require.NoError(t, err)
		require.InEpsilon(t, float64(mass), float64(made), 1e-9)
		require.InDelta(t, float64(water), float64(again), 1e-6)
	})
	for _, wrong := range []measure.Gram{0, -3} {
		_, _, err := convert.FromPack(material(t, "coconut-cream"), wrong, 6)
		require.ErrorIs(t, err, convert.ErrNothing)
	}
}

func TestColoursHaveWords(t *testing.T) {
	for colour, want := range map[float64]string{-1: "white", 0: "white", 1.4: "cream", 2: "gold", 4: "dark brown", 9: "dark brown"} {
		require.Equal(t, want, convert.ColourWord(colour))
	}
}
