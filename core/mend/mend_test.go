package mend_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/watch"
)

// applied carries out the edit of a finding as a reader of the document would.
func applied(t require.TestingT, p *plan.Plan, finding mend.Found) *plan.Plan {
	document, err := p.JSON()
	require.NoError(t, err)
	var tree map[string]any
	require.NoError(t, json.Unmarshal(document, &tree))
	for _, op := range finding.Edit {
		require.Equal(t, "replace", op.Op)
		if op.Path == "/steps" {
			tree["steps"] = op.Value
			continue
		}
		name, isPot := strings.CutPrefix(op.Path, "/pots/")
		require.True(t, isPot, op.Path)
		pots := tree["pots"].(map[string]any)
		require.Contains(t, pots, name)
		pots[name] = op.Value
	}
	changed, err := json.Marshal(tree)
	require.NoError(t, err)
	q, err := plan.Read(changed)
	require.NoError(t, err)
	return q
}

func of(f looked, rule watch.ID) (found []mend.Found) {
	for _, one := range f.Findings {
		if one.Rule == rule {
			found = append(found, one)
		}
	}
	return found
}

// Each rule: a plan that sets it off, one that nearly does, and where it can be
// mended, the finding is gone after its edit and nothing worse has come.
func TestRulesOfTheFlame(t *testing.T) {
	heat := func(flame string, minutes int, more string) string {
		return fmt.Sprintf(`{"do":"heat","flame":%q,"stir":"often","until":{"minutes":%d}%s}`, flame, minutes, more)
	}
	add := func(items string) string { return `{"do":"add","items":[` + items + `]}` }
	const milk, rice, sugar = `{"material":"milk-whole","amount":"1 l"}`, `{"material":"rice-short","amount":"80 g"}`,
		`{"material":"sugar-white","amount":"160 g"}`
	const thick = `{"material":"coconut-milk-thick","amount":"200 ml"}`
	boil := `{"do":"heat","flame":"high","stir":"often","until":{"boil":true}}`
	steps := func(all ...string) string { return strings.Join(all, ",") }
	for rule, c := range map[watch.ID]struct {
		triggers, nearly string
		mends            bool
		says             string
	}{
		"sweet-before-soft": {steps(add(milk+","+rice+","+sugar), boil, heat("medium-low", 40, ""), heat("low", 3, "")),
			steps(add(milk+","+rice), boil, heat("medium-low", 40, ""), add(sugar), heat("low", 3, "")), true, "ties up water"},
		"thick-coconut-boiled": {steps(add(milk+","+rice), boil, add(thick), heat("medium", 12, "")),
			steps(add(milk+","+rice), boil, heat("medium", 12, ""), heat("off", 3, ""), add(thick)), true, "parts from it"},
		"yogurt-hot": {steps(add(milk+","+rice), boil, heat("medium-low", 25, ""), add(`{"material":"yogurt","amount":"300 g"}`)),
			steps(add(milk+","+rice), boil, heat("medium-low", 25, ""), `{"do":"cool","to_c":34,"where":"water-bath"}`,
				add(`{"material":"yogurt","amount":"300 g"}`)), true, "curdles"},
		"lid-on-milk": {steps(add(milk+","+rice), boil, heat("medium-low", 4, `,"lid":true`)),
			steps(add(milk+","+rice), boil, heat("medium-low", 4, "")), true, "under a lid"},
		"scorch": {steps(add(milk+`,{"material":"semolina","amount":"120 g"}`), boil,
			`{"do":"heat","flame":"high","stir":"now-and-then","until":{"minutes":6}}`),
			steps(add(milk+","+rice), boil, heat("medium-low", 10, "")), true, "catches"},
		"measure-conflict": {steps(add(milk+`,{"material":"rice-short","amount":"1 cup","also":"300 g"}`), boil),
			steps(add(milk+`,{"material":"rice-short","amount":"1 cup","also":"200 g"}`), boil), false, "1 cup"},
		"heavy-pot": {steps(add(`{"material":"water","amount":"8 l"}`), heat("high", 5, "")),
			steps(add(`{"material":"water","amount":"4.5 l"}`), heat("high", 5, "")), false, "kg"},
		"scale-limit": {steps(add(`{"material":"water","amount":"4.6 l"}`), heat("high", 5, "")),
			steps(add(`{"material":"water","amount":"1.5 l"}`), heat("high", 5, "")), false, "scale"},
	} {
		t.Run(string(rule), func(t *testing.T) {
			p := pudding(t, 260, c.triggers)
			f := look(p, forecast.Options{})
			found := of(f, rule)
			require.Len(t, found, 1)
			require.Contains(t, said(p, found[0]).Message, c.says)
			require.NotEmpty(t, found[0].Evidence)
			require.NotEmpty(t, said(p, found[0]).Fix)
			require.Empty(t, of(look(pudding(t, 260, c.nearly), forecast.Options{}), rule))
			if !c.mends {
				require.Nil(t, found[0].Edit)
				return
			}
			mended := look(applied(t, p, found[0]), forecast.Options{})
			require.Empty(t, of(mended, rule))
			for _, one := range mended.Findings {
				require.True(t, one.Severity == forecast.Note || len(of(f, one.Rule)) > 0, "%s has come", one.Rule)
			}
			require.InDelta(t, f.Sweetness.Pct.Value, mended.Sweetness.Pct.Value, 0.3)
		})
	}
}

// Whatever the steps, the rules answer, and an edit that is offered mends what
// it is offered for.
func TestAnyEditMends(t *testing.T) {
	parts := []string{
		`{"do":"add","items":[{"material":"sugar-white","amount":"%d0 g"}]}`,
		`{"do":"add","items":[{"material":"coconut-milk-thick","amount":"%d0 ml"}]}`,
		`{"do":"add","items":[{"material":"yogurt","amount":"%d0 g"}]}`,
		`{"do":"add","items":[{"material":"moong-split","amount":"%d g"},{"material":"jaggery","amount":"90 g"}]}`,
		`{"do":"heat","flame":"high","until":{"boil":true}}`, `{"do":"heat","flame":"medium","lid":true,"until":{"minutes":%d}}`,
		`{"do":"heat","flame":"high","stir":"none","until":{"minutes":%d}}`,
		`{"do":"pressure","whistles":%d}`, `{"do":"cool","to_c":8}`, `{"do":"cool","to_c":30,"where":"water-bath"}`,
		`{"do":"bake","oven_c":160,"minutes":%d}`, `{"do":"hold","minutes":%d}`, `{"do":"rest","minutes":%d}`,
		`{"do":"add","items":[{"material":"cornstarch","amount":"%d g"},{"material":"semolina","amount":"30 g"}]}`,
		`{"do":"add","items":[{"material":"egg-whole","amount":"%d g"}]}`,
		`{"do":"add","items":[{"material":"sago-small","amount":"%d g"},{"material":"cardamom","amount":"1 g"}]}`,
		`{"do":"add","items":[{"material":"bottle-gourd","amount":"%d0 g"},{"material":"baking-soda","amount":"1 g"}]}`,
		`{"do":"add","items":[{"material":"mango-pulp","amount":"%d0 g"},{"material":"milk-whole","amount":"100 ml","state":"raw"}]}`,
		`{"do":"heat","flame":"medium","until":{"remaining_pct":%d}}`, `{"do":"chill","hours":%d}`,
		`{"do":"caramel","items":[{"material":"sugar-white","amount":"50 g"}],"until":"dark","flame_pct":1}`, `{"do":"portion","bowls":%d}`,
	}
	mended := 0
	rapid.Check(t, func(t *rapid.T) {
		all := []string{`{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"90 g"}]}`}
		for range rapid.IntRange(1, 7).Draw(t, "steps") {
			step := rapid.SampledFrom(parts).Draw(t, "step")
			if strings.Contains(step, "%d") {
				step = fmt.Sprintf(step, rapid.IntRange(1, 29).Draw(t, "number"))
			}
			all = append(all, step)
		}
		p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"any","eaters":{"under_five":true},"aim":{"thickness":4},
			"pots":{"main":{"shape":"straight","diameter_mm":240,"height_mm":120}},"steps":[` + strings.Join(all, ",") + `]}`))
		require.NoError(t, err)
		f := look(p, forecast.Options{NominalOnly: true})
		for _, one := range f.Findings {
			require.NotEmpty(t, said(p, one).Message)
			if one.Edit == nil {
				continue
			}
			after := look(applied(t, p, one), forecast.Options{NominalOnly: true})
			require.Less(t, len(of(after, one.Rule)), len(of(f, one.Rule)), one.Rule)
			require.InDelta(t, f.Sweetness.Pct.Value, after.Sweetness.Pct.Value, 0.3)
			mended++
		}
	})
	require.Positive(t, mended)
}
