package stock_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/core/stock"
	"kirdu/plantest"
)

func TestBuyingCountsEverything(t *testing.T) {
	p := plantest.WithSteps(t, `{"do":"press","name":"coco","coconuts":2,"presses":[{"water_ml":0}]}`,
		`{"do":"fry","name":"nuts","items":[{"material":"cashew","amount":"20 g"}],"fat":{"material":"ghee","amount":"15 g"}}`,
		`{"do":"soak","name":"rice","items":[{"material":"rice-short","amount":"90 g"}],
			"minutes":30,"in":{"material":"buttermilk","amount":"200 g"}}`,
		`{"do":"add","items":[{"material":"coconut-milk-tin","amount":"500 g"},{"material":"water","amount":"300 ml"},{"part":"rice"},
			{"material":"egg-whole","amount":"3 eggs"}]}`,
		plantest.Boil, `{"do":"add","items":[{"part":"coco.1"},{"part":"nuts"}]}`)
	want := map[string]struct {
		grams  float64
		pieces float64
	}{"coconut-meat": {680, 2}, "cashew": {20, 0}, "ghee": {15, 0}, "rice-short": {90, 0}, "buttermilk": {200, 0},
		"coconut-milk-tin": {500, 2}, "egg-whole": {150, 3}}
	list := stock.Buy([]*plan.Plan{p})
	require.Len(t, list, len(want), "water comes from the tap")
	for _, line := range list {
		w, ok := want[line.Material.Slug]
		require.True(t, ok, line.Material.Slug)
		require.InDelta(t, w.grams, float64(line.Mass), 0.01, line.Material.Slug)
		require.InDelta(t, w.pieces, line.Pieces, 0, line.Material.Slug)
	}
}
