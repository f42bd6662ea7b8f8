package plan_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// Pieces may be called by their plain names.
func TestPiecesByTheirNames(t *testing.T) {
	p := &plan.Plan{}
	for amount, slug := range map[string]string{"1 bottle gourd": "bottle-gourd", "8 cashews": "cashew", "12 cashew nuts": "cashew",
		"2 large eggs": "egg-whole",
		"1 can":        "coconut-milk-tin", "3 ripe bananas": "banana-ripe", "2 pears": "pear", "20 raisins": "raisin", "3 carrots": "carrot",
		"1 gourd": "bottle-gourd",
		"5 pods":  "cardamom"} {
		material, known := pantry.Standard().Material(slug)
		require.True(t, known, slug)
		one, err := material.Piece, error(nil)
		require.Positive(t, one, slug)
		_, mass, err := p.Weigh(plan.Item{Material: slug, Amount: amount})
		require.NoError(t, err, "%s of %s", amount, slug)
		require.Positive(t, mass)
	}
	_, _, err := p.Weigh(plan.Item{Material: "cashew", Amount: "3 bananas"})
	require.Error(t, err)
	_, _, err = p.Weigh(plan.Item{Material: "milk-whole", Amount: "3 milks"})
	require.Error(t, err, "milk has no pieces")
}
