package stock_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/core/stock"
	"kirdu/plantest"
)

func TestWhatCanBeMade(t *testing.T) {
	p := plantest.Sample(t, "rice-pear-bay")
	have := stock.Stock{"milk-whole": 2000, "rice-short": 500, "sugar-white": 300, "bay-leaf": stock.Enough, "pear": 400}
	require.Equal(t, stock.Now, stock.Have(p, 6, have).Readiness)

	have = stock.Stock{"milk-buffalo": stock.Enough, "rice-basmati": 500, "jaggery": 300}
	made := stock.Have(p, 6, have)
	require.Equal(t, stock.WithSwap, made.Readiness)
	require.Len(t, made.Swaps, 3)
	require.InDelta(t, made.Before.Sweet, made.Outcome.Sweet, 0.3)
	require.InDelta(t, made.Before.Thickness, made.Outcome.Thickness, 0.2)
	for _, need := range made.Needs {
		require.True(t, need.Optional, need.Material.Slug) // the bay leaf and the pear on top
	}
	data, err := made.Plan.JSON()
	require.NoError(t, err)
	_, err = plan.Read(data)
	require.NoError(t, err)

	made = stock.Have(p, 60, stock.Stock{"milk-whole": 2000, "sugar-white": 5000})
	require.Equal(t, stock.Missing, made.Readiness)
	require.Len(t, made.Needs, 4)
}

func TestBuying(t *testing.T) {
	one, two := plantest.Sample(t, "rice-pear-bay"), plantest.Sample(t, "millet-palm-sugar")
	list := stock.Buy([]*plan.Plan{one, two})
	bySlug := map[string]stock.Purchase{}
	for i, line := range list {
		bySlug[line.Material.Slug] = line
		if i > 0 {
			require.LessOrEqual(t, list[i-1].Material.Kind, line.Material.Kind)
		}
	}
	milk := bySlug["milk-whole"]
	require.InDelta(t, (1200+1500)*1.03, float64(milk.Mass), 0.1)
	require.Equal(t, []string{one.Name, two.Name}, milk.Puddings)
	require.InDelta(t, 2, bySlug["pear"].Pieces, 0) // 180 g of pears of 150 g
	require.Zero(t, bySlug["bay-leaf"].Pieces)
}

func TestSwapsTakeTheNearest(t *testing.T) {
	p := plantest.Sample(t, "rice-pear-bay")
	all := stock.Stock{"milk-whole": stock.Enough, "sugar-white": stock.Enough}
	with := func(more stock.Stock) stock.Made {
		have := stock.Stock{}
		for _, s := range []stock.Stock{all, more} {
			for slug, mass := range s {
				have[slug] = mass
			}
		}
		return stock.Have(p, p.Serves, have)
	}
	made := with(stock.Stock{"rice-basmati": 500, "sorghum": 500, "rice-black": 500})
	require.Equal(t, "rice-basmati", made.Swaps[0].To.Slug, "of three grains the one most like it")
	require.Equal(t, stock.Missing, with(stock.Stock{"moong-split": 500}).Readiness, "a pulse is no rice")
	require.Equal(t, stock.Missing, with(stock.Stock{"rice-basmati": 20}).Readiness, "too little of it")
	require.Equal(t, "rice-basmati", made.Swaps[0].To.Slug)
	require.True(t, made.Needs[0].Optional)

	// What is used twice must be there for both.
	one := stock.Have(p, p.Serves, stock.Stock{"milk-whole": 1240, "rice-short": 105, "sugar-white": 99})
	require.Equal(t, stock.Missing, one.Readiness)
	short := map[string]float64{}
	for _, need := range one.Needs {
		short[need.Material.Slug] = float64(need.Has)
	}
	require.InDelta(t, 99, short["sugar-white"], 0)
	require.NotContains(t, short, "milk-whole")
}
